//! Statistics of a class: what its values say together.
//!
//! Plain numbers in, plain numbers out, in whatever unit the values have; what cannot be said of so few or such equal
//! values is an [`Undefined`], never a NaN.

mod compare;
mod lines;
mod outliers;
mod regression;
mod robust;
mod summary;

pub use compare::{Anova, KruskalWallis, Welch, anova, kruskal_wallis, welch};
pub use lines::{
    ClassUnknown, CommonSlope, Fitted, GroupPoints, Inverse, LineScatter, Parabola, PooledLines, ReadOff,
    StandardErrors, StraightLine, Weighting, class_unknown, least_squares, line, meets_zero, parabola, pooled_lines,
    read_off,
};
pub use measure::Grubbs;
pub use outliers::{Dixon, dixon, grubbs};
pub use regression::{FittedLine, LineErrors, inverse, regression};
pub use robust::{Robust, algorithm_a};
pub use summary::{Spread, Summary, against_accepted, summary};

/// Why a statistic has no value here.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum Undefined {
    /// Fewer values than it needs.
    #[error("{what} needs at least {needed} values; there are {given}")]
    TooFew {
        /// The statistic.
        what: &'static str,
        /// How many it needs.
        needed: usize,
        /// How many there are.
        given: usize,
    },
    /// More values than its table reaches.
    #[error("{what} is tabled for at most {most} values; there are {given}")]
    TooMany {
        /// The statistic.
        what: &'static str,
        /// Largest number in the table.
        most: usize,
        /// How many there are.
        given: usize,
    },
    /// Values that do not differ at all.
    #[error("{what} says nothing where values do not differ")]
    NoSpread {
        /// The statistic.
        what: &'static str,
    },
    /// Values so large or so small that nothing can be computed with them.
    #[error("{what} is beyond any number with values like these")]
    TooLarge {
        /// The statistic.
        what: &'static str,
    },
    /// Two lists that belong together and do not.
    #[error("{what} needs as many values in one list as in the other: {left} and {right}")]
    Unequal {
        /// The statistic.
        what: &'static str,
        /// In the one.
        left: usize,
        /// In the other.
        right: usize,
    },
}

fn need(what: &'static str, values: &[f64], needed: usize) -> Result<(), Undefined> {
    let given = values.len();
    if given < needed { Err(Undefined::TooFew { what, needed, given }) } else { Ok(()) }
}

fn mean(values: &[f64]) -> f64 {
    values.iter().sum::<f64>() / values.len() as f64
}

/// Sum of squared distances from the mean, computed about the mean so that nothing is lost to cancellation.
fn squares(values: &[f64]) -> f64 {
    let mean = mean(values);
    let rough: f64 = values.iter().map(|x| (x - mean).powi(2)).sum();
    // The second term corrects for the rounding of the mean itself.
    rough - values.iter().map(|x| x - mean).sum::<f64>().powi(2) / values.len() as f64
}

fn standard_deviation(values: &[f64]) -> f64 {
    (squares(values) / (values.len() as f64 - 1.0)).max(0.0).sqrt()
}

fn median(values: &[f64]) -> f64 {
    let mut sorted = values.to_vec();
    sorted.sort_by(f64::total_cmp);
    let n = sorted.len();
    f64::midpoint(sorted[(n - 1) / 2], sorted[n / 2])
}

/// Values that differ by nothing but the rounding of binary fractions.
fn all_equal(values: &[f64]) -> bool {
    let (low, high) = values.iter().fold((f64::MAX, f64::MIN), |(l, h), x| (l.min(*x), h.max(*x)));
    high - low <= 1e-12 * high.abs().max(low.abs())
}
