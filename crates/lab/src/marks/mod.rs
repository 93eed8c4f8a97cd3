//! Marks: for sums, by what checking an answer showed; for the work at the bench, by what a group's outcome shows.

mod bench;
mod sums;

pub use bench::{BenchFound, BenchMark, bench_marks};
pub use sums::{Awarded, MarkKind, awarded};
