//! A quantity in a question: typed with its unit, and how sure it is.

use super::ComputeError;
use crate::practical::Amount;
use measure::{Component, Contribution, Dimension, Distribution, Source, combined, rectangular};
use serde::Deserialize;
use sheet::{Given, Precision};

/// A quantity as typed, such as `25.00 mL`.
///
/// Typed alone it is taken to lie within half a unit of its last digit, either way, nowhere more likely. With
/// components it is as sure as they say; with an empty list it is exact.
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

    /// The amount that the text means.
    pub(super) fn amount(&self, field: &str, dimension: Dimension) -> Result<Amount, ComputeError> {
        let amount = Amount::parse(self.text()).map_err(|e| ComputeError::quantity(field, format!("{field}: {e}")))?;
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
        given.precision = Precision::of(amount.value, unit);
        let half = 0.5 * 10f64.powi(amount.value.last_place());
        given.half_division = unit.difference_to_base(half);
        let (u, distribution) = match self {
            Measured::Typed(_) => (rectangular(half), Distribution::Rectangular),
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
