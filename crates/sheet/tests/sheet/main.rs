//! The calculation sheet through its public items: one practical worked by hand, trials and folds, uncertainty, laws.

mod bench;
mod epsom;
mod formulas;
mod laws;
mod lines;
mod trials;
mod uncertainty;
