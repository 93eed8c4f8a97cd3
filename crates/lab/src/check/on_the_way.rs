//! What is known on the way through a sheet of answers: the group's numbers, its answers so far, the slips named so far.

use super::reach::At;
use measure::Decimal;
use practical::Practical;
use practical::slip::Slip;
use sheet::{Change, Evaluation, Otherwise, Substitute};
use std::collections::BTreeMap;

/// One sheet of answers on the way through.
pub(super) struct Sums<'a> {
    pub practical: &'a Practical,
    pub readings: &'a BTreeMap<String, Decimal>,
    pub evaluation: &'a Evaluation<'a>,
    pub plain: Otherwise<'a>,
    /// Answers before this one that can be put in, and whether they are right.
    pub earlier: Vec<Earlier>,
    /// Slips named so far.
    pub established: Vec<Established>,
}

/// An earlier answer, ready to be put in.
pub(super) struct Earlier {
    pub result: String,
    pub own: Substitute,
    pub right: bool,
}

/// A slip that was named at a result, to be tried again on what follows.
#[derive(Debug, Clone)]
pub(super) struct Established {
    pub slip: Slip,
    pub at: At,
    pub changes: Vec<Change>,
    pub result: String,
}
