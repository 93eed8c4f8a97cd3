//! The door through its public items: question by question, hostile, and against independent reference cases.

// A question is written where it is asked.
#![allow(clippy::needless_pass_by_value)]

mod bench;
mod bounds;
mod door;
mod experiments;
mod recipes;
mod reference_cases;
