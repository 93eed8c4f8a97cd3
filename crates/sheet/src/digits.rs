//! How many digits of a result mean something, by the school rule of significant figures.
//!
//! Sums and differences keep the coarsest last place of their terms; products and quotients keep the fewest figures;
//! a logarithm has as many decimals as its argument has figures. Molar masses, coefficients and plain numbers in the
//! sheet count as exact. This is the rule students are taught; the uncertainty is computed apart and honestly.

use measure::rounding::{Ties, WholeNumbers, to_figures, to_place, uncertainty_figures};
use measure::{Decimal, Unit};

/// What the digits of a value claim.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Precision {
    /// A count, a coefficient, a defined factor.
    Exact,
    /// A measured or stated value.
    Known {
        /// Significant figures.
        figures: u32,
        /// One unit in the last place, in base units.
        last_place: f64,
        /// Whether the last place is what counts: after a sum or a difference, and for a number as typed.
        by_place: bool,
    },
}

impl Precision {
    /// What a typed number claims, by what zeros at the end of a whole one say. A zero claims its last place and one figure.
    #[must_use]
    pub fn of(typed: Decimal, unit: &Unit, zeros: WholeNumbers) -> Precision {
        let digits = u32::try_from(typed.digits().len()).unwrap_or(u32::MAX);
        let figures = typed.significant_figures().map(|least| match zeros {
            WholeNumbers::PlaceHolders => least,
            WholeNumbers::Ambiguous | WholeNumbers::Counted => digits,
        });
        let place = typed.last_place() + figures.and_then(|f| i32::try_from(digits - f).ok()).unwrap_or(0);
        let last_place = unit.difference_to_base(10f64.powi(place));
        // 9.5 °C is 282.7 K: what counts in a product is how many figures it has from absolute zero on.
        if unit.to_base(0.0) != 0.0 {
            return Precision::from_place(last_place, unit.to_base(typed.to_f64()));
        }
        Precision::Known { figures: figures.unwrap_or(1), last_place, by_place: true }
    }

    /// For a sum or difference with this `value`.
    pub(crate) fn sum(self, other: Precision, value: f64) -> Precision {
        match (self.last_place(), other.last_place()) {
            (Some(a), Some(b)) => Precision::from_place(a.max(b), value),
            (Some(place), None) | (None, Some(place)) => Precision::from_place(place, value),
            (None, None) => Precision::Exact,
        }
    }

    /// For a product or quotient with this `value`.
    pub(crate) fn product(self, other: Precision, value: f64) -> Precision {
        match (self.figures(), other.figures()) {
            (Some(a), Some(b)) => Precision::from_figures(a.min(b), value),
            (Some(figures), None) | (None, Some(figures)) => Precision::from_figures(figures, value),
            (None, None) => Precision::Exact,
        }
    }

    /// A value with so many figures.
    pub(crate) fn from_figures(figures: u32, value: f64) -> Precision {
        let places = i32::try_from(figures).unwrap_or(i32::MAX);
        Precision::Known { figures, last_place: 10f64.powi(magnitude(value) - places + 1), by_place: false }
    }

    /// A value whose last digit stands at `last_place`; a difference that vanishes keeps one figure.
    pub(crate) fn from_place(last_place: f64, value: f64) -> Precision {
        #[allow(clippy::cast_possible_truncation)] // log10 of a double is a few hundred
        let place = last_place.log10().round() as i32;
        let figures = if value == 0.0 { 1 } else { u32::try_from(magnitude(value) - place + 1).unwrap_or(0).max(1) };
        Precision::Known { figures, last_place, by_place: true }
    }

    /// A `value` written to the first figure of its expanded uncertainty U = 2u, to the second where the first is 1, in
    /// `unit`; none where it is exact.
    ///
    /// Source: JCGM 100:2008 (GUM), 7.2.6: no more digits than the uncertainty supports.
    #[must_use]
    pub fn by_uncertainty(value: f64, standard_uncertainty: f64, unit: &Unit) -> Option<Precision> {
        let expanded = uncertainty_figures(unit.difference_from_base(2.0 * standard_uncertainty))?;
        let two = expanded.digits();
        let place = expanded.last_place() + i32::from(two.len() > 1 && !two.starts_with('1'));
        Some(Precision::from_place(unit.difference_to_base(10f64.powi(place)), value))
    }

    /// The same claim of another value that was come to in the same way: as many figures, or down to the same place.
    #[must_use]
    pub fn of_another(self, value: f64) -> Precision {
        match self {
            Precision::Exact => Precision::Exact,
            Precision::Known { last_place, by_place: true, .. } => Precision::from_place(last_place, value),
            Precision::Known { figures, by_place: false, .. } => Precision::from_figures(figures, value),
        }
    }

    /// Significant figures, none for an exact value.
    #[must_use]
    pub fn figures(self) -> Option<u32> {
        match self {
            Precision::Exact => None,
            Precision::Known { figures, .. } => Some(figures),
        }
    }

    /// `value`, in `unit`, with the digits that this precision allows it; six figures where it is exact, and no more
    /// than that where the figures are what counts.
    #[must_use]
    pub fn rounded(self, value: Decimal, unit: &Unit, ties: Ties) -> Decimal {
        // Fifteen figures are what a double holds; its last bits must not decide a tie.
        let value = to_figures(value, 15, Ties::HalfEven);
        match self {
            Precision::Exact => to_figures(value, 6, ties),
            Precision::Known { figures, last_place, by_place } => {
                let place = unit.difference_from_base(last_place).log10();
                if by_place && (place - place.round()).abs() < 1e-9 {
                    #[allow(clippy::cast_possible_truncation)] // log10 of a double is a few hundred
                    return to_place(value, place.round() as i32, ties);
                }
                to_figures(value, figures.min(6), ties)
            }
        }
    }

    /// One unit in the last place, in base units; none for an exact value.
    #[must_use]
    pub fn last_place(self) -> Option<f64> {
        match self {
            Precision::Exact => None,
            Precision::Known { last_place, .. } => Some(last_place),
        }
    }
}

/// Power of ten of the first digit; 0 for zero.
#[allow(clippy::cast_possible_truncation)] // log10 of a double is a few hundred
fn magnitude(value: f64) -> i32 {
    if value == 0.0 {
        return 0;
    }
    let guess = value.abs().log10().floor() as i32;
    // A value a rounding error below a power of ten (0.99999999999 for 1) has the digits of that power.
    if (value.abs() / 10f64.powi(guess + 1) - 1.0).abs() < 1e-12 { guess + 1 } else { guess }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn typed(text: &str) -> Precision {
        Precision::of(Decimal::parse(text).unwrap(), &Unit::one(), WholeNumbers::default())
    }

    /// 12.11 + 18.0 + 1.013 = 31.1; 52.31 − 47.91 = 4.40; 25.00 × 1.00 has three figures. Counted by hand.
    #[test]
    fn the_school_rules() {
        let sum = typed("12.11").sum(typed("18.0"), 30.11).sum(typed("1.013"), 31.123);
        assert_eq!(sum.figures(), Some(3));
        assert_eq!(typed("52.31").sum(typed("47.91"), 4.40).figures(), Some(3));
        assert_eq!(typed("25.00").product(typed("1.00"), 25.0).figures(), Some(3));
        assert_eq!(typed("24.30").sum(typed("24.30"), 0.0).figures(), Some(1));
        assert_eq!(typed("3.10").product(Precision::Exact, 15.5).figures(), Some(3));
        assert_eq!(typed("100").figures(), Some(3));
        let held = Precision::of(Decimal::parse("100").unwrap(), &Unit::one(), WholeNumbers::PlaceHolders);
        assert_eq!((held.figures(), held.last_place()), (Some(1), Some(100.0)));
        let cold = Precision::of(Decimal::parse("9.5").unwrap(), &Unit::parse("°C").unwrap(), WholeNumbers::default());
        assert_eq!((cold.figures(), cold.last_place()), (Some(4), Some(0.1)));
    }
}
