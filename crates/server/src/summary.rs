//! What a run comes to at one look: remembered for those that nothing changes any more.

use lab::roll::RunWait;

/// A closed run, and what would make it another: its number, its last event, when it was closed.
pub type AsOf = (i64, i64, i64);

/// What a run comes to, from the rows of its groups.
#[derive(Debug)]
pub struct Summary {
    /// What waits at its benches.
    pub waits: Vec<RunWait>,
    /// Groups of the run.
    pub groups: usize,
    /// Groups that have begun.
    pub begun: usize,
    /// Readings entered, of all groups.
    pub entered: usize,
    /// The last result of each group that has it.
    pub values: Vec<f64>,
}
