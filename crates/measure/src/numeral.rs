//! How a number is written: one grammar for files, answers and readings.
//!
//! ```text
//! number   = [sign] ( mantissa [power] | ten raised )
//! mantissa = digits [point digits] | point digits       digits may stand in groups of three
//! power    = e [sign] digits | times ten raised          e may follow a blank
//! raised   = ^ integer | ^(integer) | ^{integer} | raised digits
//! ```
//!
//! Groups of three are parted by a blank (ordinary, no-break, thin, narrow) or an apostrophe; by commas where there are
//! several of them or a point follows, by points where a comma follows. A multiplication sign is ×, x, * or a dot at half
//! height. Full-width and Arabic-Indic digits are digits. What has lost its raised digits (`2.5×103`) is told, not guessed.

use crate::decimal::{Decimal, DecimalProblem};

/// Most digits kept, so that every operation on decimals stays exact in 128 bits.
const MAX_DIGITS: usize = 30;

/// Largest power of ten, either way, of the last digit.
const MAX_EXPONENT: i32 = 60;

/// Blanks that may stand inside a number.
const BLANKS: [char; 4] = [' ', '\u{a0}', '\u{2009}', '\u{202f}'];

/// Multiplication signs before a power of ten.
const TIMES: [char; 9] = ['×', 'x', 'X', '*', '·', '∙', '⋅', '•', '✕'];

type Problem = (usize, DecimalProblem);

/// The characters with digits, signs and points of other scripts made plain, one for one.
pub(crate) fn plain(text: &str) -> Vec<char> {
    let digit = |c: char, zero: char| char::from_digit(c as u32 - zero as u32, 10).unwrap_or(c);
    let one = |c: char| match c {
        '０'..='９' => digit(c, '０'),
        '٠'..='٩' => digit(c, '٠'),
        '۰'..='۹' => digit(c, '۰'),
        '．' | '٫' => '.',
        '，' => ',',
        '\u{2212}' | '–' | '－' => '-',
        '＋' => '+',
        other => other,
    };
    let typed: Vec<char> = text.chars().map(one).collect();
    let end = typed.len() - typed.iter().rev().take_while(|c| c.is_whitespace()).count();
    typed[..end].to_vec()
}

/// The number that the characters begin with, and where it ends.
pub(crate) fn scan(typed: &[char]) -> Result<(Decimal, usize), Problem> {
    let start = typed.iter().take_while(|c| c.is_whitespace()).count();
    if start == typed.len() {
        return Err((start, DecimalProblem::Empty));
    }
    let (negative, at) = sign(typed, start);
    let mantissa = mantissa(typed, at)?;
    let (power, end) = match mantissa {
        // A bare power of ten is one of them.
        None if raised_ten(typed, at).is_some() => power(typed, at)?,
        None => {
            let problem = typed.get(at).map_or(DecimalProblem::MissingDigits, |c| match c {
                '.' | ',' => DecimalProblem::MissingDigits,
                other => DecimalProblem::Unexpected(*other),
            });
            let past_point = usize::from(matches!(typed.get(at), Some('.' | ',')));
            return Err((at + past_point, problem));
        }
        Some(Mantissa { end, .. }) => power(typed, end)?,
    };
    let Mantissa { digits, exponent, point, .. } = mantissa.unwrap_or(Mantissa::ONE);
    let exponent = exponent + power;
    if exponent.abs() > MAX_EXPONENT {
        return Err((start, DecimalProblem::OutOfRange));
    }
    let digits = if negative { -digits } else { digits };
    Ok((Decimal::typed(digits, exponent, point), end))
}

/// Digits with their point.
#[derive(Clone, Copy)]
struct Mantissa {
    digits: i128,
    exponent: i32,
    point: bool,
    end: usize,
}

impl Mantissa {
    const ONE: Mantissa = Mantissa { digits: 1, exponent: 0, point: false, end: 0 };
}

/// The digits at a place; none where a number does not begin so.
fn mantissa(typed: &[char], start: usize) -> Result<Option<Mantissa>, Problem> {
    // A ten that is raised is a power of ten and no mantissa.
    if raised_ten(typed, start).is_some() {
        return Ok(None);
    }
    let separator = groups(typed, start);
    let (mut digits, mut exponent, mut count, mut point, mut i) = (0i128, 0i32, 0usize, false, start);
    while let Some(&c) = typed.get(i) {
        match c.to_digit(10) {
            Some(d) => {
                count += 1;
                digits = digits * 10 + i128::from(d);
                if digits >= 10i128.pow(u32::try_from(MAX_DIGITS).expect("a small constant")) {
                    return Err((i, DecimalProblem::OutOfRange));
                }
                exponent -= i32::from(point);
            }
            None if separator == Some(c) && !point => {}
            None if !matches!(c, '.' | ',') => break,
            None if point => return Err((i, DecimalProblem::SecondPoint)),
            None => point = true,
        }
        i += 1;
    }
    Ok((count > 0).then_some(Mantissa { digits, exponent, point, end: i }))
}

/// By what groups of three are parted, where they are: one to three digits, then threes, the same sign between all.
fn groups(typed: &[char], start: usize) -> Option<char> {
    let digits = |from: usize| typed[from.min(typed.len())..].iter().take_while(|c| c.is_ascii_digit()).count();
    let first = digits(start);
    let separator = *typed.get(start + first).filter(|_| (1..=3).contains(&first))?;
    let (mut at, mut groups) = (start + first, 0usize);
    while typed.get(at) == Some(&separator) && digits(at + 1) == 3 {
        at += 4;
        groups += 1;
    }
    let more = |c: char| typed.get(at) == Some(&c);
    let fits = match separator {
        ',' => groups > 1 && !more(',') || groups == 1 && more('.'),
        '.' => groups >= 1 && more(','),
        '\'' | '’' => groups >= 1,
        c => BLANKS.contains(&c) && groups >= 1 && !(more(c) && digits(at + 1) > 0),
    };
    fits.then_some(separator)
}

/// The power of ten at a place and where it ends; ten to the nothing where there is none.
fn power(typed: &[char], at: usize) -> Result<(i32, usize), Problem> {
    let blanks = |from: usize| from + typed[from.min(typed.len())..].iter().take_while(|c| BLANKS.contains(c)).count();
    let here = blanks(at);
    if matches!(typed.get(here), Some('e' | 'E')) {
        let (down, start) = sign(typed, here + 1);
        let (value, end) = integer(typed, start);
        // After a blank it may be the beginning of a unit.
        return match typed.get(start) {
            _ if end > start => Ok((if down { -value } else { value }, end)),
            Some(c) if here == at => Err((start, DecimalProblem::Unexpected(*c))),
            None if here == at => Err((start, DecimalProblem::MissingDigits)),
            Some(_) | None => Ok((0, at)),
        };
    }
    if raised_ten(typed, at).is_none() && !typed.get(here).is_some_and(|c| TIMES.contains(c)) {
        return Ok((0, at));
    }
    let ten = if raised_ten(typed, at).is_some() { at } else { blanks(here + 1) };
    if typed.get(ten..ten + 2) != Some(&['1', '0']) {
        return Ok((0, at));
    }
    let Some(raised) = raised_ten(typed, ten) else { return Err((here, DecimalProblem::PowerOfTen)) };
    let bracket = match typed.get(raised) {
        Some('(') => Some(')'),
        Some('{') => Some('}'),
        _ => None,
    };
    let (down, start) = sign(typed, raised + usize::from(bracket.is_some()));
    let (value, end) = integer(typed, start);
    let closed = bracket.is_none_or(|b| typed.get(end) == Some(&b));
    if end == start || !closed {
        return Err((start, DecimalProblem::PowerOfTen));
    }
    Ok((if down { -value } else { value }, end + usize::from(bracket.is_some())))
}

/// Where the exponent of a raised ten begins.
fn raised_ten(typed: &[char], ten: usize) -> Option<usize> {
    (typed.get(ten..ten + 2)? == ['1', '0']).then_some(())?;
    match typed.get(ten + 2)? {
        '^' => Some(ten + 3),
        c if raised(*c).is_some() || matches!(c, '⁻' | '⁺') => Some(ten + 2),
        _ => None,
    }
}

/// The digit that is written raised.
fn raised(c: char) -> Option<u32> {
    "⁰¹²³⁴⁵⁶⁷⁸⁹".chars().position(|r| r == c).and_then(|n| u32::try_from(n).ok())
}

fn sign(typed: &[char], at: usize) -> (bool, usize) {
    match typed.get(at) {
        Some('-' | '⁻') => (true, at + 1),
        Some('+' | '⁺') => (false, at + 1),
        _ => (false, at),
    }
}

/// The integer at `start` and where it ends; anything above a thousand is out of range anyway.
fn integer(typed: &[char], start: usize) -> (i32, usize) {
    let mut value = 0i32;
    let mut i = start;
    while let Some(d) = typed.get(i).and_then(|c| c.to_digit(10).or_else(|| raised(*c))) {
        value = (value * 10 + i32::try_from(d).expect("one digit")).min(1000);
        i += 1;
    }
    (value, i)
}
