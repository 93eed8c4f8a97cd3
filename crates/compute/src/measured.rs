//! A quantity in a question: typed with its unit, and how sure it is.

use super::ComputeError;
use measure::{Component, Contribution, Decimal, Dimension, Distribution, Source, combined, rectangular};
use practical::Amount;
use serde::Deserialize;
use sheet::{Given, Precision};

/// A quantity as typed, such as `25.00 mL`.
///
/// Typed alone it is taken to lie within half a unit of its last digit, either way, nowhere more likely; typed as
/// `25.00 ± 0.03 mL` within that. With components it is as sure as they say; with an empty list it is exact.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(untagged)]
pub enum Measured {
    /// `25.00 mL`
    Typed(String),
    /// With what makes it unsure.
    Known {
        /// `25.00 mL`
        value: String,
        /// In the unit of the value.
        components: Vec<Component>,
    },
}

impl Measured {
    /// As typed.
    #[must_use]
    pub fn text(&self) -> &str {
        match self {
            Measured::Typed(text) | Measured::Known { value: text, .. } => text,
        }
    }

    /// The text without a tolerance behind ±, and that tolerance.
    fn parts(&self) -> (String, Option<&str>) {
        let Some((value, rest)) = self.text().split_once('±') else { return (self.text().to_owned(), None) };
        let (tolerance, unit) = rest.trim().split_once(char::is_whitespace).unwrap_or((rest.trim(), ""));
        (format!("{} {unit}", value.trim()), Some(tolerance))
    }

    /// The tolerance behind ±, in the unit of the value.
    fn tolerance(&self, field: &str) -> Result<Option<f64>, ComputeError> {
        let (_, Some(tolerance)) = self.parts() else { return Ok(None) };
        let typed = Decimal::parse(tolerance).map_err(|e| ComputeError::quantity(field, format!("{field}, ±: {e}")))?;
        if typed.is_negative() {
            return Err(ComputeError::quantity(field, format!("{field}: a tolerance is not negative")));
        }
        Ok(Some(typed.to_f64()))
    }

    /// The amount that the text means, whatever it measures.
    pub(super) fn read(&self, field: &str) -> Result<Amount, ComputeError> {
        self.tolerance(field)?;
        Amount::parse(&self.parts().0).map_err(|e| ComputeError::quantity(field, format!("{field}: {e}")))
    }

    /// The amount that the text means.
    pub(super) fn amount(&self, field: &str, dimension: Dimension) -> Result<Amount, ComputeError> {
        let amount = self.read(field)?;
        let found = amount.unit.dimension();
        if found != dimension {
            return Err(ComputeError::quantity(
                field,
                format!("{field} is {dimension}, and '{}' is {found}", self.text()),
            ));
        }
        Ok(amount)
    }

    /// An amount that cannot be below zero.
    pub(super) fn not_negative(&self, field: &str, dimension: Dimension) -> Result<Amount, ComputeError> {
        let amount = self.amount(field, dimension)?;
        if amount.value.is_negative() {
            return Err(ComputeError::impossible(format!("{field} cannot be negative: {}", self.text())));
        }
        Ok(amount)
    }

    /// An amount above zero: something is divided by it.
    pub(super) fn positive(&self, field: &str, dimension: Dimension) -> Result<Amount, ComputeError> {
        let amount = self.not_negative(field, dimension)?;
        if amount.value.to_f64() == 0.0 {
            return Err(ComputeError::impossible(format!("{field} cannot be zero")));
        }
        Ok(amount)
    }

    /// The amount ready to calculate with, under the name that its uncertainty goes by.
    pub(super) fn given(&self, symbol: &str, amount: &Amount) -> Given {
        let unit = &amount.unit;
        let mut given = Given::exact_digits(amount.value, unit);
        given.precision = Precision::of(amount.value, unit, measure::rounding::WholeNumbers::default());
        let half = 0.5 * 10f64.powi(amount.value.last_place());
        given.half_division = unit.difference_to_base(half);
        let (u, distribution) = match self {
            Measured::Typed(_) => {
                let stated = self.tolerance(symbol).ok().flatten();
                (rectangular(stated.unwrap_or(half)), Distribution::Rectangular)
            }
            Measured::Known { components, .. } => (combined(components, amount.value.to_f64()), shape(components)),
        };
        if u > 0.0 {
            given.contributions = vec![Contribution {
                source: Source::Reading(symbol.to_owned()),
                standard_uncertainty: unit.difference_to_base(u),
                distribution,
            }];
        }
        given
    }
}

/// One component alone lies as it does; several together lie normally.
fn shape(components: &[Component]) -> Distribution {
    match components {
        [Component::Rectangular { times: 1, .. }] => Distribution::Rectangular,
        [Component::Triangular { times: 1, .. }] => Distribution::Triangular,
        _ => Distribution::Normal,
    }
}
