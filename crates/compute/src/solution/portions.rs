//! Portions that an instrument can measure and that still add up.

use super::SolutionAnswer;
use crate::ComputeError;
use measure::Decimal;
use practical::Amount;
use serde::Deserialize;

/// Portions rounded to what an instrument measures, so that they still add up.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Portions {
    /// Shares of the total, as plain numbers.
    pub shares: Vec<f64>,
    /// What is shared out.
    pub total: String,
    /// Step of the instrument, in the same unit.
    pub step: String,
}

impl Portions {
    /// Largest remainders first: no other rounding to the step is nearer to the shares and still adds up.
    pub(super) fn answer(&self) -> Result<SolutionAnswer, ComputeError> {
        let Portions { shares, total, step } = self;
        let read = |field: &str, text: &str| -> Result<Amount, ComputeError> {
            Amount::parse(text).map_err(|e| ComputeError::quantity(field, e.to_string()))
        };
        let (total, step) = (read("total", total)?, read("step", step)?);
        let whole: f64 = shares.iter().sum();
        if total.unit.dimension() != step.unit.dimension() || step.base() <= 0.0 || total.base() < 0.0 {
            return Err(ComputeError::quantity(
                "step",
                "total and step are quantities of one kind, the step above zero",
            ));
        }
        if shares.is_empty() || shares.len() > 1000 || shares.iter().any(|s| !s.is_finite() || *s < 0.0) || whole <= 0.0
        {
            return Err(ComputeError::quantity("shares", "shares are numbers of zero or more, not all zero"));
        }
        let steps = (total.base() / step.base()).round();
        if steps > 1e9 || (steps * step.base() - total.base()).abs() > 1e-9 * total.base().max(step.base()) {
            return Err(ComputeError::impossible("the total itself is no whole number of steps"));
        }
        let exact: Vec<f64> = shares.iter().map(|s| s / whole * steps).collect();
        let mut counts: Vec<f64> = exact.iter().map(|e| e.floor()).collect();
        let mut order: Vec<usize> = (0..exact.len()).collect();
        order.sort_by(|a, b| (exact[*b] - counts[*b]).total_cmp(&(exact[*a] - counts[*a])));
        let missing = steps - counts.iter().sum::<f64>();
        for i in order.into_iter().cycle() {
            if counts.iter().sum::<f64>() >= steps || missing <= 0.0 {
                break;
            }
            counts[i] += 1.0;
        }
        #[allow(clippy::cast_possible_truncation)] // bounded by the number of steps above
        let portion = |n: f64| Decimal::new(n as i128, 0).times(step.value);
        let written = counts.iter().map(|n| portion(*n).map_or_else(String::new, |d| format!("{d} {}", step.unit)));
        Ok(SolutionAnswer { portions: written.collect(), ..SolutionAnswer::default() })
    }
}
