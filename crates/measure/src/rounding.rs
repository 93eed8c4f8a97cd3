//! Writing a computed value: to a number of significant figures, to a place, or as its uncertainty allows.
//!
//! Rounding is done on the decimal digits, half up (away from zero) or half to even, as the school chooses; it is the
//! last thing that happens to a number and never feeds a calculation.

use crate::Decimal;
use serde::{Deserialize, Serialize};

/// What happens to a digit 5 followed by nothing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Ties {
    /// Away from zero: 24.125 to two decimals is 24.13.
    #[default]
    HalfUp,
    /// To the even neighbour: 24.125 to two decimals is 24.12.
    HalfEven,
}

/// What the zeros at the end of a whole number say: `100`.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum WholeNumbers {
    /// Nobody can tell: as many figures as it has digits where it is a reading, and no judgement on the digits of an answer
    /// that hangs on it.
    #[default]
    Ambiguous,
    /// They hold the place: one figure.
    PlaceHolders,
    /// They count: three figures.
    Counted,
}

/// `value` with its last digit at 10^`place`; zeros are added when it had fewer digits.
///
/// ```
/// use measure::{Decimal, rounding::{Ties, to_place}};
/// let v = Decimal::parse("24.125").unwrap();
/// assert_eq!(to_place(v, -2, Ties::HalfUp).to_string(), "24.13");
/// assert_eq!(to_place(v, -2, Ties::HalfEven).to_string(), "24.12");
/// ```
#[must_use]
pub fn to_place(value: Decimal, place: i32, ties: Ties) -> Decimal {
    let (digits, exponent) = value.parts();
    if place <= exponent {
        let power = (exponent - place).unsigned_abs();
        return match 10i128.checked_pow(power).and_then(|p| digits.checked_mul(p)) {
            Some(padded) => Decimal::new(padded, place),
            None => value,
        };
    }
    let Some(step) = 10i128.checked_pow((place - exponent).unsigned_abs()) else {
        return Decimal::new(0, place);
    };
    let (quotient, rest) = (digits / step, digits % step);
    let up = match (rest.abs() * 2).cmp(&step) {
        std::cmp::Ordering::Greater => true,
        std::cmp::Ordering::Equal => ties == Ties::HalfUp || quotient % 2 != 0,
        std::cmp::Ordering::Less => false,
    };
    Decimal::new(quotient + if up { digits.signum() } else { 0 }, place)
}

/// `value` written to `n` significant figures, half up; empty for what is no number.
#[must_use]
pub fn figures(value: f64, n: u32) -> String {
    decimal_of(value).map_or_else(String::new, |d| to_figures(d, n, Ties::HalfUp).to_string())
}

/// `value` to `figures` significant figures (at least one). Zero stays as it is.
#[must_use]
pub fn to_figures(value: Decimal, figures: u32, ties: Ties) -> Decimal {
    let (digits, exponent) = value.parts();
    if digits == 0 {
        return value;
    }
    let kept = i32::try_from(figures.clamp(1, 30)).expect("at most 30");
    let place = |d: Decimal| {
        let (digits, exponent) = d.parts();
        exponent + i32::try_from(digits.unsigned_abs().ilog10()).expect("few digits") + 1 - kept
    };
    let rounded = to_place(value, place(Decimal::new(digits, exponent)), ties);
    // 9.995 to three figures is 10.0, not 10.00: rounding may have made a digit more.
    to_place(rounded, place(rounded), ties)
}

/// The shortest decimal that means the binary number `value`; `None` when it is not finite or beyond measurement.
#[must_use]
pub fn decimal_of(value: f64) -> Option<Decimal> {
    let text = format!("{value:e}");
    let (digits, exponent) = text.split_once('e')?;
    let exponent: i32 = exponent.parse().ok()?;
    let fraction = digits.split_once('.').map_or(0, |(_, part)| part.len());
    let digits: i128 = digits.replace('.', "").parse().ok()?;
    let exponent = exponent - i32::try_from(fraction).ok()?;
    (exponent.abs() <= 100).then(|| Decimal::new(digits, exponent))
}

/// An expanded uncertainty to two figures and the place of its last digit: 0.0123 is (0.012, −3).
///
/// Source: JCGM 100:2008 (GUM), 7.2.6: at most two significant digits.
#[must_use]
pub fn uncertainty_figures(expanded: f64) -> Option<Decimal> {
    let d = decimal_of(expanded.abs()).filter(|d| !d.is_negative() && d.to_f64() > 0.0)?;
    Some(to_figures(d, 2, Ties::HalfUp))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn read(text: &str) -> Decimal {
        Decimal::parse(text).unwrap()
    }

    /// (typed, figures, half to even, half up); worked by hand on the decimal digits.
    #[test]
    fn ties_follow_the_school() {
        for (typed, figures, even, up) in [
            ("1.005", 3, "1.00", "1.01"),
            ("0.125", 2, "0.12", "0.13"),
            ("9.995", 3, "10.0", "10.0"),
            ("99.95", 3, "100", "100"),
            ("0.00012345", 4, "0.0001234", "0.0001235"),
            ("2.5000000000000000001", 1, "3", "3"),
            ("-1.45", 2, "-1.4", "-1.5"),
            ("204.2212", 6, "204.221", "204.221"),
            ("1250", 2, "1200", "1300"),
        ] {
            assert_eq!(to_figures(read(typed), figures, Ties::HalfEven).to_string(), even, "{typed} to even");
            assert_eq!(to_figures(read(typed), figures, Ties::HalfUp).to_string(), up, "{typed} up");
        }
    }

    #[test]
    fn a_place_adds_zeros_and_drops_the_sign_of_nothing() {
        assert_eq!(to_place(read("3.1"), -3, Ties::HalfUp).to_string(), "3.100");
        assert_eq!(to_place(read("-0.004"), -2, Ties::HalfUp).to_string(), "0.00");
        assert_eq!(to_place(read("1e-40"), 10, Ties::HalfUp).to_string(), "0");
    }

    #[test]
    fn a_binary_number_becomes_its_shortest_decimal() {
        assert_eq!(decimal_of(0.1).unwrap().to_string(), "0.1");
        assert_eq!(decimal_of(-2.5e-5).unwrap().to_string(), "-0.000025");
        assert_eq!(decimal_of(f64::NAN), None);
        assert_eq!(decimal_of(f64::INFINITY), None);
        assert_eq!(uncertainty_figures(0.012_34).unwrap().to_string(), "0.012");
        assert_eq!(uncertainty_figures(0.0), None);
    }
}
