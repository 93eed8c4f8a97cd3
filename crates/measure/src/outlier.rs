//! Is one of some repeats too far from the others to be of them? Grubbs' test, two-sided at 5 %.
//!
//! A test marks a value, it does not remove it: a reason has to be found at the bench. At n = 3 it does not say much.
//!
//! Source: ISO 5725-2:2019, 8.3.4, critical value from Student's t.

use serde::Serialize;
use statrs::distribution::{ContinuousCDF, StudentsT};

/// Grubbs' test on the value farthest from the mean.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Grubbs {
    /// Its distance from the mean in units of s.
    pub g: f64,
    /// Which value, from 0.
    pub suspect: usize,
    /// The distance that 5 % of samples of normal values reach on either side.
    pub critical: f64,
    /// Beyond it.
    pub outlier: bool,
}

/// The test on `values`; none for fewer than three, or where none differ.
#[must_use]
pub fn grubbs(values: &[f64]) -> Option<Grubbs> {
    let n = values.len() as f64;
    if values.len() < 3 || values.iter().all(|v| *v == values[0]) {
        return None;
    }
    let mean = values.iter().sum::<f64>() / n;
    let s = (values.iter().map(|v| (v - mean).powi(2)).sum::<f64>() / (n - 1.0)).sqrt();
    let distance = |i: &usize| (values[*i] - mean).abs();
    let suspect = (0..values.len()).max_by(|a, b| distance(a).total_cmp(&distance(b)).then(b.cmp(a)))?;
    let g = distance(&suspect) / s;
    let t = StudentsT::new(0.0, 1.0, n - 2.0).ok()?.inverse_cdf(1.0 - 0.05 / (2.0 * n));
    let critical = (n - 1.0) / n.sqrt() * (t * t / (n - 2.0 + t * t)).sqrt();
    Some(Grubbs { g, suspect, critical, outlier: g > critical })
}
