//! A straight line through points, and reading an unknown off it.
//!
//! Source: Miller & Miller, Statistics and Chemometrics for Analytical Chemistry, 6th ed., 5.4 to 5.6.

use super::{Undefined, mean, need};
use serde::Serialize;

/// y = intercept + slope · x by least squares.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FittedLine {
    /// How many points.
    pub n: usize,
    /// Slope.
    pub slope: f64,
    /// Intercept.
    pub intercept: f64,
    /// Part of the variance of y that the line explains.
    pub r_squared: f64,
    /// Sum of squared residuals.
    pub rss: f64,
    /// What needs three points; none for two.
    pub errors: Option<LineErrors>,
}

/// How sure the line is.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LineErrors {
    /// Standard deviation of the residuals, n − 2 degrees of freedom.
    pub residual_sd: f64,
    /// Standard error of the slope.
    pub slope: f64,
    /// Standard error of the intercept.
    pub intercept: f64,
}

/// An x read off the line for a measured y.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Inverse {
    /// The x.
    pub x: f64,
    /// Its standard error.
    pub standard_error: f64,
}

/// The line through the points (`x`, `y`).
///
/// # Errors
/// [`Undefined`] for lists of different length, fewer than two points, or an x that does not vary.
pub fn regression(x: &[f64], y: &[f64]) -> Result<FittedLine, Undefined> {
    let what = "a line";
    if x.len() != y.len() {
        return Err(Undefined::Unequal { what, left: x.len(), right: y.len() });
    }
    need(what, x, 2)?;
    let (mx, my, n) = (mean(x), mean(y), x.len() as f64);
    let sxx: f64 = x.iter().map(|v| (v - mx).powi(2)).sum();
    if sxx == 0.0 {
        return Err(Undefined::NoSpread { what });
    }
    let sxy: f64 = x.iter().zip(y).map(|(a, b)| (a - mx) * (b - my)).sum();
    let syy: f64 = y.iter().map(|v| (v - my).powi(2)).sum();
    let slope = sxy / sxx;
    let intercept = my - slope * mx;
    let rss: f64 = x.iter().zip(y).map(|(a, b)| (b - my - slope * (a - mx)).powi(2)).sum();
    let errors = (x.len() > 2).then(|| {
        let residual_sd = (rss / (n - 2.0)).sqrt();
        let square: f64 = x.iter().map(|v| v * v).sum();
        LineErrors {
            residual_sd,
            slope: residual_sd / sxx.sqrt(),
            intercept: residual_sd * (square / (n * sxx)).sqrt(),
        }
    });
    let r_squared = if syy == 0.0 { 1.0 } else { 1.0 - rss / syy };
    Ok(FittedLine { n: x.len(), slope, intercept, r_squared, rss, errors })
}

/// The x for the mean `y0` of so many `replicates`, off the line through the points.
///
/// # Errors
/// [`Undefined`] as for [`regression`], for fewer than three points, or for a line without slope.
pub fn inverse(x: &[f64], y: &[f64], y0: f64, replicates: u32) -> Result<Inverse, Undefined> {
    let what = "reading off a line";
    let line = regression(x, y)?;
    need(what, x, 3)?;
    let errors = line.errors.filter(|_| line.slope != 0.0).ok_or(Undefined::NoSpread { what })?;
    let (mx, my, n) = (mean(x), mean(y), x.len() as f64);
    let sxx: f64 = x.iter().map(|v| (v - mx).powi(2)).sum();
    let away = (y0 - my).powi(2) / (line.slope.powi(2) * sxx);
    let standard_error =
        errors.residual_sd / line.slope.abs() * (1.0 / f64::from(replicates.max(1)) + 1.0 / n + away).sqrt();
    Ok(Inverse { x: (y0 - line.intercept) / line.slope, standard_error })
}
