//! What is put out for a class, and whether it fits: by hand, on the library and on practicals of no library.

mod amounts;
mod calendar;
mod lessons;
mod schedule;

use practical::{Allotted, Practical};
use prepare::ForClass;

/// A practical of the library.
fn library(id: &str) -> Practical {
    let file = format!("{}/../../practicals/{id}.practical.toml", env!("CARGO_MANIFEST_DIR"));
    Practical::parse(&std::fs::read_to_string(&file).unwrap_or_else(|e| panic!("{file}: {e}"))).unwrap()
}

/// So many groups and one to spare, in lessons of 90 min; recipes dealt in turn.
fn class(practical: &Practical, groups: usize) -> ForClass {
    ForClass {
        groups: lab::roll::dealt(practical, groups).unwrap_or_else(|| vec![Allotted::default(); groups]),
        spare_groups: 1,
        lessons: vec![90],
        ..ForClass::default()
    }
}
