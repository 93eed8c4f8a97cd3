//! Mean, median and spread of some values, and how they compare with an accepted one.
//!
//! Source: ISO 3534-1:2006; Miller & Miller, Statistics and Chemometrics for Analytical Chemistry, 6th ed., 2.7, 3.2.

use super::{Undefined, mean, median, need, squares, standard_deviation};
use serde::Serialize;
use statrs::distribution::{ContinuousCDF, StudentsT};

/// What some values say together.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Summary {
    /// How many.
    pub n: usize,
    /// Arithmetic mean.
    pub mean: f64,
    /// Middle value, or the mean of the two middle ones.
    pub median: f64,
    /// Smallest.
    pub min: f64,
    /// Largest.
    pub max: f64,
    /// Largest less smallest.
    pub range: f64,
    /// Median of the distances from the median.
    pub mad: f64,
    /// The same as an estimate of s for normal values: MAD / 0.6745.
    pub mad_scaled: f64,
    /// What needs two values; none for one.
    pub spread: Option<Spread>,
}

/// What needs at least two values.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Spread {
    /// Sample standard deviation s, n − 1 degrees of freedom.
    pub sd: f64,
    /// 100 s / mean; none for a mean of zero.
    pub rsd_percent: Option<f64>,
    /// s/√n.
    pub standard_error: f64,
    /// Student's t for a two-sided 95 % interval.
    pub t_975: f64,
    /// Lower end of the 95 % interval of the mean.
    pub ci95_low: f64,
    /// Upper end.
    pub ci95_high: f64,
}

/// The summary of `values`.
///
/// # Errors
/// [`Undefined::TooFew`] for an empty list.
pub fn summary(values: &[f64]) -> Result<Summary, Undefined> {
    need("a summary", values, 1)?;
    let (min, max) = values.iter().fold((f64::MAX, f64::MIN), |(l, h), x| (l.min(*x), h.max(*x)));
    let (mean, middle) = (mean(values), median(values));
    let mad = median(&values.iter().map(|x| (x - middle).abs()).collect::<Vec<_>>());
    let spread = (values.len() > 1).then(|| {
        let n = values.len() as f64;
        let sd = standard_deviation(values);
        let standard_error = sd / n.sqrt();
        let t_975 = student(0.975, n - 1.0);
        Spread {
            sd,
            rsd_percent: (mean != 0.0).then(|| 100.0 * sd / mean.abs()),
            standard_error,
            t_975,
            ci95_low: mean - t_975 * standard_error,
            ci95_high: mean + t_975 * standard_error,
        }
    });
    let normal_quartile = 0.674_489_750_196_081_7;
    Ok(Summary {
        n: values.len(),
        mean,
        median: middle,
        min,
        max,
        range: max - min,
        mad,
        mad_scaled: mad / normal_quartile,
        spread,
    })
}

/// Bias of a class against an accepted value: percent error (of the accepted value), and the two-sided p of Student's t.
///
/// # Errors
/// [`Undefined`] for fewer than two values, or none that differ.
pub fn against_accepted(values: &[f64], accepted: f64) -> Result<(f64, f64), Undefined> {
    need("a comparison", values, 2)?;
    if squares(values) == 0.0 {
        return Err(Undefined::NoSpread { what: "a comparison" });
    }
    let n = values.len() as f64;
    let bias = mean(values) - accepted;
    let t = bias / (standard_deviation(values) / n.sqrt());
    Ok((100.0 * bias / accepted, two_sided(t, n - 1.0)))
}

pub(super) fn student(part: f64, freedom: f64) -> f64 {
    StudentsT::new(0.0, 1.0, freedom).map_or(f64::INFINITY, |t| t.inverse_cdf(part))
}

pub(super) fn two_sided(t: f64, freedom: f64) -> f64 {
    StudentsT::new(0.0, 1.0, freedom).map_or(1.0, |d| 2.0 * d.sf(t.abs()))
}
