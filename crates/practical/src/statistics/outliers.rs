//! Is one value too far from the others to be of them? Grubbs' test and Dixon's Q, both two-sided at 5 %.
//!
//! A test marks a value, it does not remove it: a reason has to be found at the bench. At n = 3 neither says much.
//!
//! Source: Rorabacher, Anal. Chem. 63, 139 (1991) for Dixon's r₁₀, two-sided 95 %.

use super::{Undefined, all_equal, need};
use measure::Grubbs;
use serde::Serialize;

/// The test on `values`.
///
/// # Errors
/// [`Undefined`] for fewer than three values, or none that differ.
pub fn grubbs(values: &[f64]) -> Result<Grubbs, Undefined> {
    need("Grubbs' test", values, 3)?;
    measure::grubbs(values).ok_or(Undefined::NoSpread { what: "Grubbs' test" })
}

/// Dixon's Q for the value at either end.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Dixon {
    /// The larger of the two.
    pub q: f64,
    /// Gap below the rest, over the range.
    pub q_low: f64,
    /// Gap above the rest, over the range.
    pub q_high: f64,
    /// The value with the larger gap; none when both ends stand off equally.
    pub suspect: Option<f64>,
    /// Two-sided 95 %.
    pub critical: f64,
    /// Beyond it.
    pub outlier: bool,
}

/// r₁₀ for n = 3 to 10, two-sided 95 %. Beyond ten values other ratios are in use.
const CRITICAL: [f64; 8] = [0.970, 0.829, 0.710, 0.625, 0.568, 0.526, 0.493, 0.466];

/// The test on `values`.
///
/// # Errors
/// [`Undefined`] outside three to ten values, or where none differ.
pub fn dixon(values: &[f64]) -> Result<Dixon, Undefined> {
    let what = "Dixon's Q";
    need(what, values, 3)?;
    let critical = *CRITICAL.get(values.len() - 3).ok_or(Undefined::TooMany { what, most: 10, given: values.len() })?;
    if all_equal(values) {
        return Err(Undefined::NoSpread { what });
    }
    let mut sorted = values.to_vec();
    sorted.sort_by(f64::total_cmp);
    let n = sorted.len();
    let range = sorted[n - 1] - sorted[0];
    let (q_low, q_high) = ((sorted[1] - sorted[0]) / range, (sorted[n - 1] - sorted[n - 2]) / range);
    let even = (q_low - q_high).abs() < 1e-9;
    let suspect = (!even).then(|| if q_low > q_high { sorted[0] } else { sorted[n - 1] });
    let q = q_low.max(q_high);
    Ok(Dixon { q, q_low, q_high, suspect, critical, outlier: q > critical })
}
