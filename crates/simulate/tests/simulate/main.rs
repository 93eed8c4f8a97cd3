//! Groups that were never there, and instruments that are not.

mod law;
mod practice;

use practical::{Practical, School};

/// The whole library, as a school works it.
fn library_in(school: &School) -> Vec<Practical> {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../practicals");
    let mut files: Vec<_> = std::fs::read_dir(folder).unwrap().map(|f| f.unwrap().path()).collect();
    files.sort();
    files.iter().map(|f| Practical::parse_in(&std::fs::read_to_string(f).unwrap(), school).unwrap()).collect()
}

fn library() -> Vec<Practical> {
    library_in(&School::default())
}

fn of_the_library(id: &str) -> Practical {
    library().into_iter().find(|p| p.file.id == id).unwrap()
}
