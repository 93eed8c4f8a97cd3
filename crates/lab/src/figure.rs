//! Figures stay figures: a quantity with the way in which it is written, so that nobody has to read it back.

use measure::{Decimal, Unit};
use practical::Amount;
use serde::Serialize;

/// A quantity as it is told.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Figure {
    /// In its unit.
    pub value: f64,
    /// As the unit is written.
    pub unit: String,
    /// To the digits that it is told with, and its unit.
    pub text: String,
    /// In base units.
    #[serde(skip)]
    base: f64,
}

impl Figure {
    /// A number with all its digits.
    #[must_use]
    pub fn of(value: Decimal, unit: &Unit) -> Figure {
        Figure::shown(value.to_f64(), &value.to_string(), unit)
    }

    /// A number with the digits that it is told with.
    #[must_use]
    pub fn shown(value: f64, digits: &str, unit: &Unit) -> Figure {
        let text = format!("{digits} {}", unit.written());
        Figure { value, unit: unit.written().to_owned(), text, base: unit.to_base(value) }
    }

    /// A quantity as a practical states it, `0.10 mL`.
    #[must_use]
    pub fn stated(text: &str, amount: &Amount) -> Figure {
        let (value, unit) = (amount.value.to_f64(), &amount.unit);
        Figure { value, unit: unit.written().to_owned(), text: text.to_owned(), base: unit.to_base(value) }
    }

    /// Whether it is so many times another one at most, whatever the units; what rounding leaves counts as equal.
    #[must_use]
    pub fn is_within(&self, times: f64, of: &Figure) -> bool {
        self.base <= times * of.base * (1.0 + 1e-9)
    }
}
