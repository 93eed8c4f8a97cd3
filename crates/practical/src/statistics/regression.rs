//! A straight line through points, and reading an unknown off it.
//!
//! Source: Miller & Miller, Statistics and Chemometrics for Analytical Chemistry, 6th ed., 5.4 to 5.6.

use super::lines::{Inverse, Weighting, line, read_off_mean};
use super::{Undefined, need};
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

/// The line through the points (`x`, `y`).
///
/// # Errors
/// [`Undefined`] for lists of different length, fewer than two points, or an x that does not vary.
pub fn regression(x: &[f64], y: &[f64]) -> Result<FittedLine, Undefined> {
    let line = line(x, y, &Weighting::Alike)?;
    let errors = line.scatter.map(|e| LineErrors {
        residual_sd: e.residual_sd,
        slope: e.standard.slope,
        intercept: e.standard.intercept.unwrap_or_default(),
    });
    // Values that do not vary lie on their line.
    let r_squared = line.r_squared.unwrap_or(1.0);
    let intercept = line.intercept.unwrap_or_default();
    Ok(FittedLine { n: line.n, slope: line.slope, intercept, r_squared, rss: line.rss, errors })
}

/// The x for the mean `y0` of so many `replicates`, off the line through the points.
///
/// # Errors
/// [`Undefined`] as for [`regression`], for fewer than three points, or for a line without slope.
pub fn inverse(x: &[f64], y: &[f64], y0: f64, replicates: u32) -> Result<Inverse, Undefined> {
    need("reading off a line", x, 3)?;
    let times = usize::try_from(replicates.max(1)).unwrap_or(usize::MAX);
    let read = read_off_mean(x, y, &Weighting::Alike, y0, 1.0 / times as f64)?;
    Ok(Inverse { x: read.x, standard_error: read.standard_error.unwrap_or_default() })
}
