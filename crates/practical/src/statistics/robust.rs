//! A mean and a standard deviation that a few wild values do not move: Algorithm A.
//!
//! Values farther than 1.5 s* from x* are drawn in to that distance, mean and s are taken again, until nothing changes.
//!
//! Source: ISO 13528:2022, C.3.1.

use super::{Undefined, all_equal, mean, median, need, standard_deviation};
use serde::Serialize;

/// What Algorithm A comes to.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Robust {
    /// Where it started: the median.
    pub initial_mean: f64,
    /// Where it started: 1.483 times the median distance from it.
    pub initial_sd: f64,
    /// x*.
    pub mean: f64,
    /// s*.
    pub sd: f64,
    /// 1.25 s*/√n.
    pub standard_uncertainty: f64,
}

/// Algorithm A on `values`, run to its fixed point.
///
/// # Errors
/// [`Undefined`] for fewer than two values, or where more than half are equal, so that there is no scale to start from.
pub fn algorithm_a(values: &[f64]) -> Result<Robust, Undefined> {
    let what = "a robust mean";
    need(what, values, 2)?;
    let initial_mean = median(values);
    let initial_sd = 1.483 * median(&values.iter().map(|x| (x - initial_mean).abs()).collect::<Vec<_>>());
    if all_equal(values) || initial_sd == 0.0 {
        return Err(Undefined::NoSpread { what });
    }
    let (mut x, mut s) = (initial_mean, initial_sd);
    // It converges in tens of rounds; the bound is for values no class has.
    for _ in 0..10_000 {
        let reach = 1.5 * s;
        let drawn: Vec<f64> = values.iter().map(|v| v.clamp(x - reach, x + reach)).collect();
        let (next_x, next_s) = (mean(&drawn), 1.134 * standard_deviation(&drawn));
        let settled = (next_x - x).abs() <= 1e-13 * s && (next_s - s).abs() <= 1e-13 * s;
        (x, s) = (next_x, next_s);
        if settled {
            break;
        }
    }
    let standard_uncertainty = 1.25 * s / (values.len() as f64).sqrt();
    Ok(Robust { initial_mean, initial_sd, mean: x, sd: s, standard_uncertainty })
}
