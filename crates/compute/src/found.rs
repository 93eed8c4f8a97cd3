//! What an experiment came to, and what is to be said of it beside the figures.

use super::{ComputeError, Worked};
use chem::Coefficient;
use serde::Serialize;

/// Results with the solution worked out, and remarks.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = ExperimentFound))]
pub struct Found {
    /// Figures and how they came about.
    pub worked: Worked,
    /// What somebody should know before using them.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub remarks: Vec<Remark>,
}

/// No equation has larger numbers.
const MOST_OF_A_RATIO: i64 = 1_000_000;

/// A remark on one result.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = ExperimentRemark))]
#[serde(rename_all = "kebab-case")]
pub enum Remark {
    /// Below zero, and cannot be: a calorimeter that takes up less heat than nothing.
    BelowNothing,
    /// Not distinguishable from zero: within 2 u.
    ConsistentWithZero,
    /// More heat, or more product, than there can be.
    MoreThanPossible,
    /// Two reagents run out together: which of them limits, and so the uncertainty, is not to be said.
    RunsOutTogether,
}

impl From<Worked> for Found {
    fn from(worked: Worked) -> Found {
        Found { worked, remarks: Vec::new() }
    }
}

impl Found {
    /// Adds what is to be said of the result called `name`, if `says` finds anything.
    #[must_use]
    pub(super) fn remarked(mut self, name: &str, says: impl Fn(&super::Computed) -> Option<Remark>) -> Found {
        self.remarks.extend(self.worked.result(name).and_then(says));
        self
    }
}

/// A ratio above zero, such as `2` or `3/2`.
pub(super) fn ratio(field: &str, text: &str) -> Result<Coefficient, ComputeError> {
    let wrong = || ComputeError::quantity(field, format!("{field} is a ratio such as 2 or 3/2, not '{text}'"));
    let read: Coefficient = text.trim().parse().map_err(|_| wrong())?;
    let sensible = |n: i64| (1..=MOST_OF_A_RATIO).contains(&n);
    if sensible(*read.numer()) && sensible(*read.denom()) { Ok(read) } else { Err(wrong()) }
}

/// The same as an expression of the sheet.
pub(super) fn ratio_term(field: &str, text: &str) -> Result<String, ComputeError> {
    ratio(field, text).map(|r| format!("({} / {})", r.numer(), r.denom()))
}
