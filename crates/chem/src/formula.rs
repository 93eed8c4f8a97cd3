//! Chemical formulas as people type them.
//!
//! Read are element symbols with counts (`C6H12O6`, `Fe0.95O`), nested brackets of three kinds, adducts with `·`, `.`
//! or `*` and a count of their own (`CaSO4·0.5H2O`, `CaSO4·½H2O`), charges (`SO4^2-`, `Fe3+`, `[Fe(CN)6]4-`, `²⁻`),
//! subscript digits, isotopes (`D`, `[2H]`) and state labels. A leading count belongs to the first part of an adduct
//! alone: `4MgCO3·Mg(OH)2·5H2O` holds five magnesium.
//!
//! The reader keeps its own stack, so that no input is nested too deeply for it, and bounds length, nesting and
//! counts. What could honestly mean two things (`SO42-`: a charge of 2− on SO4, or 42 oxygens?) is told back.

use crate::composition::{Atom, Composition};
use crate::elements::{ISOTOPES, element};
use crate::notation::{Run, Script};
use num_rational::Ratio;

/// Longest formula that is looked at.
pub const MAX_FORMULA_CHARACTERS: usize = 200;
const MAX_DEPTH: usize = 20;
const MAX_COUNT: i64 = 100_000;

/// Dots that part an adduct, and what is typed for one; a full stop does so too where it is no decimal point.
pub const DOTS: [char; 8] = ['·', '•', '⋅', '∙', '*', '‧', '・', '˙'];

/// A formula that was read and understood.
#[derive(Debug, Clone)]
pub struct Formula {
    typed: String,
    composition: Composition,
    charge: i32,
    runs: Vec<Run>,
}

/// Two formulas are equal when they hold the same atoms and charge, however they were typed.
impl PartialEq for Formula {
    fn eq(&self, other: &Formula) -> bool {
        self.composition == other.composition && self.charge == other.charge
    }
}

/// Why a formula could not be read, and where.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{problem} (character {at} of '{shown}')")]
pub struct FormulaError {
    /// The formula as typed, shortened for showing.
    pub shown: String,
    /// Counted in characters from 1, as a student would.
    pub at: usize,
    /// What is wrong there.
    pub problem: FormulaProblem,
}

/// What can be wrong with a formula.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum FormulaProblem {
    /// Nothing but blanks.
    #[error("a formula is missing")]
    Empty,
    /// More than [`MAX_FORMULA_CHARACTERS`].
    #[error("a formula has at most {MAX_FORMULA_CHARACTERS} characters")]
    TooLong,
    /// A letter that starts no element symbol, as in `FeCL3`.
    #[error("no element has the symbol '{0}'")]
    UnknownElement(String),
    /// A mass number that is not in the table.
    #[error("the isotope '{0}' is not known here")]
    UnknownIsotope(String),
    /// As in `Ca(OH2`.
    #[error("this bracket is never closed")]
    UnclosedBracket,
    /// As in `Ca(OH))2`.
    #[error("this bracket was never opened")]
    UnopenedBracket,
    /// As in `Ca(OH]2`.
    #[error("this bracket does not fit the one that it closes")]
    MismatchedBracket,
    /// As in `Na[]Cl`.
    #[error("these brackets are empty")]
    EmptyBracket,
    /// More open brackets than any substance has.
    #[error("brackets nest at most {MAX_DEPTH} deep")]
    TooDeep,
    /// As in `H0`.
    #[error("a count of zero says nothing")]
    ZeroCount,
    /// A count beyond any substance.
    #[error("a count is at most {MAX_COUNT}")]
    CountTooLarge,
    /// A dot with nothing before or after it.
    #[error("a part of the formula is missing at this dot")]
    EmptyPart,
    /// As in `Fe^^3+`.
    #[error("a charge is written as in SO4^2- or Fe3+")]
    BadCharge,
    /// As in `SO42-`.
    #[error("is '{digits}{sign}' a charge or a count with a charge? write it as in SO4^2-")]
    AmbiguousCharge {
        /// The digits before the sign.
        digits: String,
        /// The sign.
        sign: char,
    },
    /// Anything else.
    #[error("{0:?} does not belong into a formula here")]
    Unexpected(char),
}

impl Formula {
    /// The formula that a text means.
    ///
    /// # Errors
    /// [`FormulaError`] with the place and what was wrong there.
    ///
    /// ```
    /// use chem::Formula;
    /// assert_eq!(Formula::parse("CuSO4·5H2O").unwrap().composition().count("O"), 9.0);
    /// assert_eq!(
    ///     Formula::parse("FeCL3").unwrap_err().to_string(),
    ///     "no element has the symbol 'L' (character 4 of 'FeCL3')",
    /// );
    /// ```
    pub fn parse(typed: &str) -> Result<Formula, FormulaError> {
        let shown = || typed.chars().take(MAX_FORMULA_CHARACTERS).collect();
        if typed.chars().take(MAX_FORMULA_CHARACTERS + 1).count() > MAX_FORMULA_CHARACTERS {
            // What is wrong at the beginning is told rather than that it goes on for long.
            let beginning: String = shown();
            let early = Reader::new(&beginning).read().err().filter(|(_, p)| *p == FormulaProblem::UnopenedBracket);
            let (at, problem) = early.unwrap_or((MAX_FORMULA_CHARACTERS - 1, FormulaProblem::TooLong));
            return Err(FormulaError { shown: beginning, at: at + 1, problem });
        }
        Reader::new(typed).read().map_err(|(at, problem)| FormulaError { shown: shown(), at: at + 1, problem })
    }

    /// The electron, which half-equations treat as a substance: no atoms, charge −1.
    #[must_use]
    pub fn electron() -> Formula {
        let runs = vec![Run::new(Script::Plain, "e"), Run::new(Script::Super, "\u{2212}")];
        Formula { typed: "e^-".into(), composition: Composition::default(), charge: -1, runs }
    }

    /// What it is made of.
    #[must_use]
    pub fn composition(&self) -> &Composition {
        &self.composition
    }

    /// Charge number, 0 for a neutral substance.
    #[must_use]
    pub fn charge(&self) -> i32 {
        self.charge
    }

    /// As typed, without outer blanks.
    #[must_use]
    pub fn typed(&self) -> &str {
        &self.typed
    }

    /// For setting with real subscripts and charges.
    #[must_use]
    pub fn runs(&self) -> &[Run] {
        &self.runs
    }
}

type Problem = (usize, FormulaProblem);

/// One bracket still open, or the part of the adduct that is being read.
struct Level {
    opened_at: usize,
    closer: char,
    inside: Composition,
}

struct Reader {
    /// The formula with subscript digits made plain; `typed[i]` and `plain[i]` are the same character.
    plain: Vec<char>,
    typed: String,
    at: usize,
    end: usize,
    levels: Vec<Level>,
    /// How often the part of the adduct that is being read occurs.
    part: Ratio<i64>,
    total: Composition,
    runs: Vec<Run>,
}

impl Reader {
    fn new(typed: &str) -> Reader {
        let plain: Vec<char> = typed
            .chars()
            .map(|c| match c {
                '₀'..='₉' => char::from(b'0' + u8::try_from(c as u32 - '₀' as u32).expect("ten digits")),
                '\u{2212}' => '-',
                other => other,
            })
            .collect();
        let end = plain.len() - plain.iter().rev().take_while(|c| **c == ' ').count();
        let at = plain.iter().take_while(|c| **c == ' ').count().min(end);
        Reader {
            plain,
            typed: typed.trim_matches(' ').to_owned(),
            at,
            end,
            levels: Vec::new(),
            part: Ratio::from_integer(1),
            total: Composition::default(),
            runs: Vec::new(),
        }
    }

    fn read(mut self) -> Result<Formula, Problem> {
        if self.at == self.end {
            return Err((0, FormulaProblem::Empty));
        }
        let state = self.cut_state();
        let charge = self.cut_charge()?;
        self.part_begins()?;
        while let Some(c) = self.peek() {
            match c {
                '(' | '[' | '{' if !self.isotope_ahead() => self.open(c)?,
                ')' | ']' | '}' => self.close(c)?,
                c if c == ' ' || c == '.' || DOTS.contains(&c) => self.separator()?,
                _ => self.atom()?,
            }
        }
        self.part_ends()?;
        if let Some((text, _)) = &charge {
            Run::push(&mut self.runs, Script::Super, text);
        }
        if let Some(state) = state {
            Run::push(&mut self.runs, Script::Plain, &state);
        }
        let charge = charge.map_or(0, |(_, z)| z);
        Ok(Formula { typed: self.typed, composition: self.total, charge, runs: self.runs })
    }

    fn peek(&self) -> Option<char> {
        (self.at < self.end).then(|| self.plain[self.at])
    }

    fn slice(&self, from: usize, to: usize) -> String {
        self.plain[from..to].iter().collect()
    }

    /// Takes `(aq)` and its like off the end.
    fn cut_state(&mut self) -> Option<String> {
        let text = self.slice(self.at, self.end);
        let state = ["(s)", "(l)", "(g)", "(aq)"].into_iter().find(|s| text.ends_with(s) && text.len() > s.len())?;
        self.end -= state.chars().count();
        while self.end > self.at && self.plain[self.end - 1] == ' ' {
            self.end -= 1;
        }
        Some(state.to_owned())
    }

    /// Takes the charge off the end: its text for setting (`2−`), and its number.
    fn cut_charge(&mut self) -> Result<Option<(String, i32)>, Problem> {
        let body: Vec<char> = self.plain[self.at..self.end].to_vec();
        let raised = body.iter().rev().take_while(|c| superscript(**c).is_some()).count();
        if raised > 0 {
            let start = self.end - raised;
            let flat: String = self.plain[start..self.end].iter().filter_map(|c| superscript(*c)).collect();
            return self.charge_from(start, start, &flat).map(Some);
        }
        if let Some(caret) = body.iter().position(|c| *c == '^') {
            let start = self.at + caret;
            let inner = self.slice(start + 1, self.end);
            let bare = [('{', '}'), ('(', ')')]
                .iter()
                .find_map(|(o, c)| inner.strip_prefix(*o).and_then(|i| i.strip_suffix(*c)))
                .unwrap_or(&inner)
                .to_owned();
            return self.charge_from(start, start, &bare).map(Some);
        }
        let signs = body.iter().rev().take_while(|c| matches!(c, '+' | '-')).count();
        if signs == 0 {
            return self.cut_trailing_number(&body);
        }
        let sign_at = self.end - signs;
        if signs > 1 {
            let text = self.slice(sign_at, self.end);
            return self.charge_from(sign_at, sign_at, &text).map(Some);
        }
        let digits = body[..body.len() - 1].iter().rev().take_while(|c| c.is_ascii_digit()).count();
        let number_at = sign_at - digits;
        let before = number_at.checked_sub(1).filter(|i| *i >= self.at).map(|i| self.plain[i]);
        let sign = self.plain[sign_at];
        let digits_text = self.slice(number_at, sign_at);
        // `[Fe(CN)6]4-`, `(SO4)2-` and `PO4 3-`: the number belongs to the charge. `Fe3+`: so it does on one metal atom.
        let one_atom = self.plain[self.at..number_at].iter().filter(|c| c.is_ascii_uppercase()).count() == 1;
        let belongs = match before {
            Some(']' | ')' | '}' | ' ') => true,
            _ => one_atom && sign == '+' && digits > 0,
        };
        if belongs || digits == 0 {
            let cut = if before == Some(' ') { number_at - 1 } else { number_at };
            let text = format!("{digits_text}{sign}");
            return self.charge_from(number_at, cut, &text).map(Some);
        }
        let symbol = self.slice(self.at, number_at);
        // Halogens carry no more than one charge, so that the 3 of I3- can only be a count.
        let count_only = !one_atom || matches!(symbol.as_str(), "F" | "Cl" | "Br" | "I");
        if digits > 1 || !count_only {
            return Err((number_at, FormulaProblem::AmbiguousCharge { digits: digits_text, sign }));
        }
        self.charge_from(sign_at, sign_at, &sign.to_string()).map(Some)
    }

    /// `[Fe(CN)6]-3`: sign first, after a bracket.
    fn cut_trailing_number(&mut self, body: &[char]) -> Result<Option<(String, i32)>, Problem> {
        let digits = body.iter().rev().take_while(|c| c.is_ascii_digit()).count();
        let sign = body.len().checked_sub(digits + 1).map(|i| body[i]);
        let after_bracket = body.len().checked_sub(digits + 2).is_some_and(|i| matches!(body[i], ']' | ')'));
        if digits == 0 || !after_bracket || !matches!(sign, Some('+' | '-')) {
            return Ok(None);
        }
        let start = self.end - digits - 1;
        let text = self.slice(start, self.end);
        self.charge_from(start, start, &text).map(Some)
    }

    /// Reads `2-`, `-2`, `--` or `+` and shortens the formula to end at `cut`.
    fn charge_from(&mut self, at: usize, cut: usize, text: &str) -> Result<(String, i32), Problem> {
        let bad = || (at, FormulaProblem::BadCharge);
        let (signs, digits): (Vec<char>, Vec<char>) = text.chars().partition(|c| matches!(c, '+' | '-'));
        let sign = *signs.first().ok_or_else(bad)?;
        let in_one_piece = text.starts_with(['+', '-']) || text.ends_with(['+', '-']);
        if !in_one_piece || signs.iter().any(|s| *s != sign) || (signs.len() > 1 && !digits.is_empty()) {
            return Err(bad());
        }
        let size = if digits.is_empty() {
            i32::try_from(signs.len()).map_err(|_| bad())?
        } else {
            digits.iter().collect::<String>().parse().map_err(|_| bad())?
        };
        if !(1..=9).contains(&size) || cut <= self.at {
            return Err(bad());
        }
        self.end = cut;
        let number = if size == 1 { String::new() } else { size.to_string() };
        let (shown, z) = if sign == '+' { ("+", size) } else { ("\u{2212}", -size) };
        Ok((format!("{number}{shown}"), z))
    }

    fn open(&mut self, bracket: char) -> Result<(), Problem> {
        // The adduct's part is the first level.
        if self.levels.len() > MAX_DEPTH {
            return Err((self.at, FormulaProblem::TooDeep));
        }
        let closer = match bracket {
            '(' => ')',
            '[' => ']',
            _ => '}',
        };
        self.levels.push(Level { opened_at: self.at, closer, inside: Composition::default() });
        Run::push(&mut self.runs, Script::Plain, &bracket.to_string());
        self.at += 1;
        Ok(())
    }

    fn close(&mut self, bracket: char) -> Result<(), Problem> {
        let closed_at = self.at;
        if self.levels.len() < 2 {
            return Err((closed_at, FormulaProblem::UnopenedBracket));
        }
        let level = self.levels.pop().expect("two levels were counted");
        if level.closer != bracket {
            return Err((closed_at, FormulaProblem::MismatchedBracket));
        }
        if level.inside.is_empty() {
            return Err((level.opened_at, FormulaProblem::EmptyBracket));
        }
        Run::push(&mut self.runs, Script::Plain, &bracket.to_string());
        self.at += 1;
        let count = self.count_below()?;
        self.here().add_all(&level.inside, count).ok_or((closed_at, FormulaProblem::CountTooLarge))
    }

    fn here(&mut self) -> &mut Composition {
        &mut self.levels.last_mut().expect("the part being read is always there").inside
    }

    /// A dot between the parts of an adduct, with the blanks around it.
    fn separator(&mut self) -> Result<(), Problem> {
        let start = self.at;
        let mut dots = 0;
        while let Some(c) = self.peek().filter(|c| matches!(c, ' ' | '.') || DOTS.contains(c)) {
            if c != ' ' {
                dots += 1;
                if dots > 1 {
                    // `.5H2O` after a dot is a count, not another dot.
                    if c == '.' && self.plain.get(self.at + 1).is_some_and(char::is_ascii_digit) {
                        break;
                    }
                    return Err((self.at, FormulaProblem::EmptyPart));
                }
            }
            self.at += 1;
        }
        if dots == 0 {
            // A blank before the next atom or bracket means nothing; before a number it may be a lost dot.
            let goes_on = self.peek().is_some_and(|c| c.is_ascii_uppercase() || matches!(c, '(' | '['));
            return if goes_on { Ok(()) } else { Err((start, FormulaProblem::Unexpected(' '))) };
        }
        if self.at == self.end {
            return Err((start, FormulaProblem::EmptyPart));
        }
        self.part_ends().map_err(|(at, problem)| match problem {
            FormulaProblem::EmptyPart => (start, problem),
            _ => (at, problem),
        })?;
        Run::push(&mut self.runs, Script::Plain, "·");
        self.part_begins()
    }

    /// Starts a part of the adduct: its own count, then its atoms.
    fn part_begins(&mut self) -> Result<(), Problem> {
        let start = self.at;
        let count = self.number(true)?;
        if let Some((_, text)) = &count {
            Run::push(&mut self.runs, Script::Plain, text);
            // `7 H2O` after a dot.
            while !self.total.is_empty() && self.peek() == Some(' ') {
                self.at += 1;
            }
        }
        self.part = count.map_or(Ratio::from_integer(1), |(n, _)| n);
        self.levels.push(Level { opened_at: start, closer: ' ', inside: Composition::default() });
        Ok(())
    }

    fn part_ends(&mut self) -> Result<(), Problem> {
        let level = self.levels.pop().expect("a part was begun");
        if !self.levels.is_empty() {
            return Err((level.opened_at, FormulaProblem::UnclosedBracket));
        }
        if level.inside.is_empty() {
            return Err((level.opened_at.min(self.end.saturating_sub(1)), FormulaProblem::EmptyPart));
        }
        let problem = (level.opened_at, FormulaProblem::CountTooLarge);
        self.total.add_all(&level.inside, self.part).ok_or(problem)
    }

    /// `[2H` begins an isotope, `[2` anything else does not.
    fn isotope_ahead(&self) -> bool {
        self.plain[self.at] == '[' && self.plain.get(self.at + 1).is_some_and(char::is_ascii_digit)
    }

    fn atom(&mut self) -> Result<(), Problem> {
        let start = self.at;
        let atom = if self.isotope_ahead() { self.isotope()? } else { self.plain_atom()? };
        let count = self.count_below()?;
        self.here().add(atom, count).ok_or((start, FormulaProblem::CountTooLarge))
    }

    fn plain_atom(&mut self) -> Result<Atom, Problem> {
        let start = self.at;
        let first = self.plain[start];
        if !first.is_ascii_alphabetic() {
            return Err((start, FormulaProblem::Unexpected(first)));
        }
        let second = self.plain.get(start + 1).filter(|c| start + 1 < self.end && c.is_ascii_lowercase());
        let longest: String = std::iter::once(first).chain(second.copied()).collect();
        let heavy_hydrogen = match first {
            'D' => Some(2),
            'T' => Some(3),
            _ => None,
        };
        let found = element(&longest).map(|e| (e, longest.len(), None)).or_else(|| {
            let mass_number = heavy_hydrogen.filter(|_| second.is_none());
            mass_number.and_then(|n| element("H").map(|e| (e, 1, Some(n))))
        });
        let Some((element, length, mass_number)) = found else {
            return Err((start, FormulaProblem::UnknownElement(longest)));
        };
        Run::push(&mut self.runs, Script::Plain, &longest);
        self.at += length;
        Ok(Atom { element, mass_number })
    }

    fn isotope(&mut self) -> Result<Atom, Problem> {
        let start = self.at;
        let rest = self.slice(start + 1, self.end);
        let Some((inside, _)) = rest.split_once(']') else {
            return Err((start, FormulaProblem::UnclosedBracket));
        };
        let symbol = inside.trim_start_matches(|c: char| c.is_ascii_digit());
        let number: Option<u16> = inside[..inside.len() - symbol.len()].parse().ok();
        let known = number.filter(|n| ISOTOPES.iter().any(|(s, m, _)| *s == symbol && m == n));
        let (Some(element), Some(number)) = (element(symbol), known) else {
            return Err((start, FormulaProblem::UnknownIsotope(inside.to_owned())));
        };
        Run::push(&mut self.runs, Script::Super, &number.to_string());
        Run::push(&mut self.runs, Script::Plain, symbol);
        self.at += inside.chars().count() + 2;
        Ok(Atom { element, mass_number: Some(number) })
    }

    /// The count after an atom or a bracket, 1 if there is none.
    fn count_below(&mut self) -> Result<Ratio<i64>, Problem> {
        // `Fe_2O_3` and `Fe_{2}O_{3}`.
        let start = self.at;
        let lowered = self.peek() == Some('_');
        self.at += usize::from(lowered);
        let braced = lowered && self.peek() == Some('{');
        self.at += usize::from(braced);
        if !self.peek().is_some_and(|c| c.is_ascii_digit()) {
            let one = Ratio::from_integer(1);
            return if lowered { Err((start, FormulaProblem::Unexpected('_'))) } else { Ok(one) };
        }
        let count = self.number(false)?;
        if braced {
            if self.peek() != Some('}') {
                return Err((start, FormulaProblem::UnclosedBracket));
            }
            self.at += 1;
        }
        let Some((count, text)) = count else { return Ok(Ratio::from_integer(1)) };
        Run::push(&mut self.runs, Script::Sub, &text);
        Ok(count)
    }

    /// A whole number, a decimal, `1/2` or `½` at this place, with its text. Before a part (`leading`) a dot is a point.
    fn number(&mut self, leading: bool) -> Result<Option<(Ratio<i64>, String)>, Problem> {
        let start = self.at;
        if let Some(half) = self.peek().and_then(vulgar_fraction) {
            self.at += 1;
            return Ok(Some((half, self.slice(start, self.at))));
        }
        let whole = self.digits();
        let mut value = Ratio::from_integer(whole_number(&whole).ok_or((start, FormulaProblem::CountTooLarge))?);
        if self.peek() == Some('.') && (leading || !self.dot_parts()) {
            self.at += 1;
            let part = self.digits();
            if part.is_empty() {
                return Err((self.at - 1, FormulaProblem::Unexpected('.')));
            }
            let power = u32::try_from(part.len()).ok().filter(|p| *p <= 6);
            let scale = power.map(|p| 10i64.pow(p)).ok_or((start, FormulaProblem::CountTooLarge))?;
            value += Ratio::new(whole_number(&part).ok_or((start, FormulaProblem::CountTooLarge))?, scale);
        } else if self.peek() == Some('/') && !whole.is_empty() {
            self.at += 1;
            match whole_number(&self.digits()) {
                Some(below) if below > 0 => value /= below,
                _ => return Err((self.at - 1, FormulaProblem::ZeroCount)),
            }
        }
        if self.at == start {
            return Ok(None);
        }
        if value == Ratio::from_integer(0) {
            return Err((start, FormulaProblem::ZeroCount));
        }
        Ok(Some((value, self.slice(start, self.at))))
    }

    fn digits(&mut self) -> String {
        let start = self.at;
        while self.peek().is_some_and(|c| c.is_ascii_digit()) {
            self.at += 1;
        }
        self.slice(start, self.at)
    }

    /// Whether the dot here separates parts (`Na2CO3.10H2O`) or is a decimal point (`Fe0.95O`, `YBa2Cu3O6.9`).
    ///
    /// It separates when a letter or a bracket follows at once, or a number and then water.
    fn dot_parts(&self) -> bool {
        let rest = self.slice(self.at + 1, self.end);
        let after = rest.trim_start_matches(|c: char| c.is_ascii_digit() || c == '.');
        let number = &rest[..rest.len() - after.len()];
        if number.is_empty() {
            return !after.is_empty();
        }
        let after = after.trim_start();
        after.starts_with("H2O") || after.starts_with("D2O")
    }
}

fn whole_number(digits: &str) -> Option<i64> {
    if digits.is_empty() {
        return Some(0);
    }
    digits.parse().ok().filter(|n| *n <= MAX_COUNT)
}

pub(crate) fn vulgar_fraction(c: char) -> Option<Ratio<i64>> {
    match c {
        '½' => Some(Ratio::new(1, 2)),
        '⅓' => Some(Ratio::new(1, 3)),
        '⅔' => Some(Ratio::new(2, 3)),
        '¼' => Some(Ratio::new(1, 4)),
        '¾' => Some(Ratio::new(3, 4)),
        _ => None,
    }
}

fn superscript(c: char) -> Option<char> {
    let raised = "⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻";
    raised.chars().zip("0123456789+-".chars()).find(|(r, _)| *r == c).map(|(_, plain)| plain)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn counted(text: &str) -> String {
        let f = Formula::parse(text).unwrap_or_else(|e| panic!("{text}: {e}"));
        let atoms: Vec<String> = f
            .composition()
            .iter()
            .map(|(a, n)| format!("{}{}{n}", a.mass_number.map_or(String::new(), |m| m.to_string()), a.element.symbol))
            .collect();
        format!("{} z{}", atoms.join(" "), f.charge())
    }

    /// Counted by hand, by atomic number.
    #[test]
    fn notations_people_type() {
        for (typed, expected) in [
            ("4MgCO3·Mg(OH)2·5H2O", "H12 C4 O19 Mg5 z0"),
            (" CuSO4 · 5H2O ", "H10 O9 S1 Cu1 z0"),
            ("Na2CO3.10H2O", "H20 C1 O13 Na2 z0"),
            ("KAl(SO4)2.12H2O", "H24 O20 Al1 S2 K1 z0"),
            ("CaSO4.0.5H2O", "H1 O4.5 S1 Ca1 z0"),
            ("CaSO₄·½H₂O", "H1 O4.5 S1 Ca1 z0"),
            ("Cu(NO3)2.2.5H2O", "H5 N2 O8.5 Cu1 z0"),
            ("K2SO4*Al2(SO4)3*24H2O", "H48 O40 Al2 S4 K2 z0"),
            ("Fe0.95O", "O1 Fe0.95 z0"),
            ("YBa2Cu3O6.9", "O6.9 Cu3 Y1 Ba2 z0"),
            ("{[(H2)2]3}O", "H12 O1 z0"),
            ("CO2(g)", "C1 O2 z0"),
            ("[2H]2O", "2H2 O1 z0"),
            ("(CD3)2SO", "2H6 C2 O1 S1 z0"),
            ("[Fe(CN)6]4-", "C6 N6 Fe1 z-4"),
            ("[Fe(CN)6]-3", "C6 N6 Fe1 z-3"),
            ("SO4^2-", "O4 S1 z-2"),
            ("S₂O₃²⁻", "O3 S2 z-2"),
            ("Fe^{3+}", "Fe1 z3"),
            ("PO4 3-", "O4 P1 z-3"),
            ("I3-", "I3 z-1"),
            ("NO3-", "N1 O3 z-1"),
            ("Hg2++", "Hg2 z2"),
            ("Fe3+", "Fe1 z3"),
        ] {
            assert_eq!(counted(typed), expected, "{typed}");
        }
    }

    #[test]
    fn errors_say_what_and_where() {
        for (typed, told) in [
            ("", "a formula is missing (character 1 of '')"),
            ("H2Q", "no element has the symbol 'Q' (character 3 of 'H2Q')"),
            ("nacl", "no element has the symbol 'na' (character 1 of 'nacl')"),
            ("Ca(OH2", "this bracket is never closed (character 3 of 'Ca(OH2')"),
            ("Ca(OH))2", "this bracket was never opened (character 7 of 'Ca(OH))2')"),
            ("K4[Fe(CN]6)", "this bracket does not fit the one that it closes (character 9 of 'K4[Fe(CN]6)')"),
            ("Na[]Cl", "these brackets are empty (character 3 of 'Na[]Cl')"),
            ("CuSO4··5H2O", "a part of the formula is missing at this dot (character 7 of 'CuSO4··5H2O')"),
            ("CuSO4·", "a part of the formula is missing at this dot (character 6 of 'CuSO4·')"),
            ("H0", "a count of zero says nothing (character 2 of 'H0')"),
            ("C99999999999", "a count is at most 100000 (character 2 of 'C99999999999')"),
            ("СО2", "'С' does not belong into a formula here (character 1 of 'СО2')"),
            ("Fe^^3+", "a charge is written as in SO4^2- or Fe3+ (character 3 of 'Fe^^3+')"),
            ("SO42-", "is '42-' a charge or a count with a charge? write it as in SO4^2- (character 3 of 'SO42-')"),
            ("<b>H2O</b>", "'<' does not belong into a formula here (character 1 of '<b>H2O</b>')"),
        ] {
            assert_eq!(Formula::parse(typed).unwrap_err().to_string(), told, "{typed}");
        }
    }

    #[test]
    fn hostile_lengths_and_depths_are_refused() {
        let problem = |text: &str| Formula::parse(text).unwrap_err().problem;
        assert_eq!(problem(&"H2O".repeat(333_334)), FormulaProblem::TooLong);
        assert_eq!(problem(&"(".repeat(60)), FormulaProblem::TooDeep);
        assert_eq!(problem(&")".repeat(100_000)), FormulaProblem::UnopenedBracket);
        let tower = format!("{}H{}", "(".repeat(20), ")9".repeat(20));
        assert_eq!(problem(&tower), FormulaProblem::CountTooLarge);
    }

    proptest! {
        #[test]
        fn arbitrary_text_never_panics(text in "[\\PC]{0,40}", close in "[()\\[\\]{}0-9.·^+\\-HOCaNl ]{0,40}") {
            let _ = Formula::parse(&text);
            let _ = Formula::parse(&close);
        }
    }
}
