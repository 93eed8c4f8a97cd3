//! Decimal numbers as typed.
//!
//! `25.00` is 25.00, not 25: a trailing zero is a claim about how well something was read. A [`Decimal`] therefore
//! keeps the digits and the place of the last one, and is exact: no binary fraction stands between the text and the
//! comparison of two readings (24.30 − 24.20 is 0.10, not 0.1000000000000014).
//!
//! How a number is written is the grammar of [`numeral`](crate::numeral). A decimal comma is a decimal comma here, always;
//! what a person typed into a field is read by [`Written`](crate::Written), which asks back where it may mean two things.

use crate::numeral;
use std::cmp::Ordering;
use std::fmt;

/// Longest text that is looked at. Nobody types more digits than this on purpose.
pub const MAX_TYPED_CHARACTERS: usize = 40;

/// An exact decimal number with the place of its last digit: `digits` × 10^`exponent`.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Decimal {
    digits: i128,
    exponent: i32,
    /// `100.` claims three figures, `100` does not say.
    point_typed: bool,
}

/// Why a text is no number, and where.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{problem} (character {at} of '{shown}')")]
pub struct DecimalError {
    /// The text as typed, shortened for showing.
    pub shown: String,
    /// Counted in characters from 1.
    pub at: usize,
    /// What is wrong there.
    pub problem: DecimalProblem,
}

/// What can be wrong with a typed number.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum DecimalProblem {
    /// Nothing but blanks.
    #[error("no number was typed")]
    Empty,
    /// More than [`MAX_TYPED_CHARACTERS`].
    #[error("a number has at most {MAX_TYPED_CHARACTERS} characters; this has {0}")]
    TooLong(usize),
    /// A second point, or commas that part no thousands.
    #[error("a number has one decimal point or comma")]
    SecondPoint,
    /// As in `6,240`.
    #[error("is this {thousands}, or {decimal}? type it without the comma, or with a point")]
    CommaOfThousands {
        /// With the comma between thousands.
        thousands: String,
        /// With a decimal comma.
        decimal: String,
    },
    /// As in `2.5×103`.
    #[error("a power of ten is written ×10^3 or e3")]
    PowerOfTen,
    /// A character that belongs to no number.
    #[error("'{0}' does not belong to a number")]
    Unexpected(char),
    /// As in `1e`.
    #[error("digits are missing here")]
    MissingDigits,
    /// As in `1e400`.
    #[error("this number is beyond any measurement")]
    OutOfRange,
}

impl Decimal {
    /// Zero, exactly, with no decimals.
    pub const ZERO: Decimal = Decimal { digits: 0, exponent: 0, point_typed: false };

    /// `digits` × 10^`exponent`, written to that last digit.
    #[must_use]
    pub fn new(digits: i128, exponent: i32) -> Self {
        Decimal { digits, exponent, point_typed: false }
    }

    /// The number that a text means. Blanks around it do not count.
    ///
    /// # Errors
    /// [`DecimalError`] with the place, if the text is no plain number.
    ///
    /// ```
    /// use measure::Decimal;
    /// assert_eq!(Decimal::parse(" 25,00 ").unwrap().to_string(), "25.00");
    /// assert_eq!(
    ///     Decimal::parse("12 g").unwrap_err().to_string(),
    ///     "' ' does not belong to a number (character 3 of '12 g')",
    /// );
    /// ```
    pub fn parse(text: &str) -> Result<Self, DecimalError> {
        let length = text.chars().take(MAX_TYPED_CHARACTERS + 1).count();
        if length > MAX_TYPED_CHARACTERS {
            return Err(fail(text, 1, DecimalProblem::TooLong(text.chars().count())));
        }
        let typed = numeral::plain(text);
        let (value, end) = numeral::scan(&typed).map_err(|(at, problem)| fail(text, at + 1, problem))?;
        match typed.get(end) {
            Some(_) => Err(fail(text, end + 1, DecimalProblem::Unexpected(text.chars().nth(end).unwrap_or_default()))),
            None => Ok(value),
        }
    }

    /// The nearest binary number.
    #[must_use]
    pub fn to_f64(self) -> f64 {
        // Through text, so that the result is the correctly rounded one at any exponent.
        format!("{}e{}", self.digits, self.exponent).parse().expect("digits and an exponent are a number")
    }

    /// Power of ten of the last digit typed: −2 for `25.00`, 0 for `25`.
    #[must_use]
    pub fn last_place(self) -> i32 {
        self.exponent
    }

    /// Digits after the decimal point: 2 for `25.00`, 0 for `1.2e3`.
    #[must_use]
    pub fn decimals(self) -> u32 {
        self.exponent.min(0).unsigned_abs()
    }

    /// Significant figures; none for a zero, however written.
    ///
    /// Zeros at the end of a number without a point do not count: `100` and `10e1` have one figure, `100.` and `1.00e2`
    /// have three.
    #[must_use]
    pub fn significant_figures(self) -> Option<u32> {
        if self.digits == 0 {
            return None;
        }
        let mut digits = self.digits.unsigned_abs();
        if !self.point_typed && self.exponent >= 0 {
            while digits.is_multiple_of(10) {
                digits /= 10;
            }
        }
        Some(digits.ilog10() + 1)
    }

    /// Whether it stands below zero.
    #[must_use]
    pub fn is_negative(self) -> bool {
        self.digits < 0
    }

    /// The unsigned digits, most significant first, without point: `2500` for `−25.00`.
    #[must_use]
    pub fn digits(self) -> String {
        self.digits.unsigned_abs().to_string()
    }

    /// The same digits with the point moved by `places` powers of ten: 3.04 by 1 is 30.4.
    #[must_use]
    pub fn shifted(self, places: i32) -> Decimal {
        Decimal { exponent: self.exponent + places, ..self }
    }

    /// The exact value compared; 2.0 equals 2.00.
    #[must_use]
    pub fn compare(self, other: Decimal) -> Ordering {
        let low = self.exponent.min(other.exponent);
        match (self.scaled_to(low), other.scaled_to(low)) {
            (Some(a), Some(b)) => a.cmp(&b),
            // Only numbers that differ by tens of powers of ten come here.
            _ => self.to_f64().total_cmp(&other.to_f64()),
        }
    }

    /// The exact sum, to the finer last place; `None` beyond 38 digits.
    #[must_use]
    pub fn plus(self, other: Decimal) -> Option<Decimal> {
        let place = self.exponent.min(other.exponent);
        let sum = self.scaled_to(place)?.checked_add(other.scaled_to(place)?)?;
        Some(Decimal::new(sum, place))
    }

    /// The exact difference: 24.30 − 24.20 is 0.10.
    #[must_use]
    pub fn minus(self, other: Decimal) -> Option<Decimal> {
        self.plus(Decimal { digits: -other.digits, ..other })
    }

    /// The exact product; `None` beyond 38 digits.
    #[must_use]
    pub fn times(self, other: Decimal) -> Option<Decimal> {
        Some(Decimal::new(self.digits.checked_mul(other.digits)?, self.exponent + other.exponent))
    }

    /// As typed: digits, the power of ten of the last one, and whether a point was typed.
    pub(crate) fn typed(digits: i128, exponent: i32, point_typed: bool) -> Decimal {
        Decimal { digits, exponent, point_typed }
    }

    pub(crate) fn parts(self) -> (i128, i32) {
        (self.digits, self.exponent)
    }

    fn scaled_to(self, exponent: i32) -> Option<i128> {
        let power = u32::try_from(self.exponent - exponent).ok()?;
        self.digits.checked_mul(10i128.checked_pow(power)?)
    }
}

/// Plain positional notation, with a decimal point and every digit: `25.00`, `1200` for `1.2e3`.
impl fmt::Display for Decimal {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let sign = if self.digits < 0 { "-" } else { "" };
        let digits = self.digits();
        if self.exponent >= 0 {
            let zeros = if self.digits == 0 { 0 } else { self.exponent.unsigned_abs() as usize };
            return write!(f, "{sign}{digits}{}", "0".repeat(zeros));
        }
        let decimals = self.decimals() as usize;
        let padded = format!("{digits:0>width$}", width = decimals + 1);
        let (whole, part) = padded.split_at(padded.len() - decimals);
        write!(f, "{sign}{whole}.{part}")
    }
}

pub(crate) fn fail(text: &str, at: usize, problem: DecimalProblem) -> DecimalError {
    let shown = text.chars().take(MAX_TYPED_CHARACTERS).collect();
    DecimalError { shown, at, problem }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn read(text: &str) -> Decimal {
        Decimal::parse(text).unwrap()
    }

    /// (typed, printed, significant figures, power of ten of the last digit), counted by hand.
    #[test]
    fn digits_survive_as_typed() {
        for (typed, printed, figures, last) in [
            ("25.00", "25.00", Some(4), -2),
            (" 24,85 ", "24.85", Some(4), -2),
            ("100", "100", Some(1), 0),
            ("100.", "100", Some(3), 0),
            ("101", "101", Some(3), 0),
            ("1.20E+03", "1200", Some(3), 1),
            ("1.2×10⁻³", "0.0012", Some(2), -4),
            ("1,20 x 10^2", "120", Some(3), 0),
            ("0.00", "0.00", None, -2),
            ("007.50", "7.50", Some(3), -2),
            ("\u{2212}0.25", "-0.25", Some(2), -2),
            (".5", "0.5", Some(1), -1),
            ("123456789.123456789", "123456789.123456789", Some(18), -9),
        ] {
            let d = read(typed);
            assert_eq!(
                (d.to_string().as_str(), d.significant_figures(), d.last_place()),
                (printed, figures, last),
                "{typed}"
            );
        }
    }

    #[test]
    fn what_is_no_number_is_told_with_its_place() {
        for (typed, told) in [
            ("", "no number was typed (character 1 of '')"),
            ("1,23.5", "a number has one decimal point or comma (character 5 of '1,23.5')"),
            ("12 34.5", "' ' does not belong to a number (character 3 of '12 34.5')"),
            ("2.5×103", "a power of ten is written ×10^3 or e3 (character 4 of '2.5×103')"),
            ("1e400", "this number is beyond any measurement (character 1 of '1e400')"),
            ("1e", "digits are missing here (character 3 of '1e')"),
            ("1e1.5", "'.' does not belong to a number (character 4 of '1e1.5')"),
            ("+-1", "'-' does not belong to a number (character 2 of '+-1')"),
            (".", "digits are missing here (character 2 of '.')"),
            ("inf", "'i' does not belong to a number (character 1 of 'inf')"),
            ("🧪", "'🧪' does not belong to a number (character 1 of '🧪')"),
        ] {
            assert_eq!(Decimal::parse(typed).unwrap_err().to_string(), told);
        }
        let long = Decimal::parse(&"9".repeat(10_000)).unwrap_err();
        assert_eq!(long.problem, DecimalProblem::TooLong(10_000));
    }

    #[test]
    fn titres_compare_as_exact_decimals() {
        assert_eq!(read("2.0").compare(read("2.00")), Ordering::Equal);
        assert_eq!(read("-1").compare(read("0.5")), Ordering::Less);
        assert_eq!(read("24.30").minus(read("24.2")).unwrap().to_string(), "0.10");
        assert_eq!(read("0.1").times(read("0.2")).unwrap().to_string(), "0.02");
        assert_eq!(read("1e60").plus(read("1e-60")), None);
        assert_eq!(read("1e50").compare(read("1e-50")), Ordering::Greater);
    }

    proptest! {
        #[test]
        fn a_plain_decimal_prints_as_it_was_typed(whole in 0u64..1_000_000, part in "[0-9]{1,8}") {
            let typed = format!("{whole}.{part}");
            prop_assert_eq!(read(&typed).to_string(), typed);
        }

        #[test]
        fn arbitrary_text_never_panics(text in ".{0,60}") {
            let _ = Decimal::parse(&text);
        }
    }
}
