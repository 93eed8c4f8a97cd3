//! More product than theory allows: by how much, and what would explain it.
//!
//! A yield is "above theory" only when it stays above after its expanded uncertainty (k = 2) is taken off. The reasons
//! are told with the figure each would need; which one it was decides the next weighing, not a formula.

use crate::practical::YieldNames;
use serde::Serialize;
use sheet::{Evaluation, Outcome, Value};

/// A yield that cannot be.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum YieldFinding {
    /// Up to half above theory: water or wash liquid would do it.
    Damp {
        /// Product above theory, in g, to the hundredth.
        excess: String,
    },
    /// Far above theory: something was weighed with it, or a digit is wrong.
    TooMuch {
        /// How many times theory.
        times: String,
    },
    /// Less than nothing.
    Negative,
}

/// What is wrong with a yield, if anything is.
#[must_use]
pub fn yield_above_theory(names: &YieldNames, evaluation: &Evaluation<'_>) -> Option<YieldFinding> {
    let value = |name: &str| match evaluation.outcome(name) {
        Some(Outcome::Value(v)) => Some(v),
        _ => None,
    };
    let percent: Value = value(&names.percent)?;
    let (actual, theory) = (value(&names.actual)?, value(&names.theoretical)?);
    if actual.value < 0.0 {
        return Some(YieldFinding::Negative);
    }
    if percent.value - 2.0 * percent.standard_uncertainty <= 1.0 {
        return None;
    }
    if percent.value < 1.5 {
        return Some(YieldFinding::Damp { excess: format!("{:.2}", actual.value - theory.value) });
    }
    Some(YieldFinding::TooMuch { times: format!("{:.1}", percent.value) })
}
