//! Groups at work: faultless ones, with the scatter that their instruments and their chemistry have, and the same with
//! one slip.
//!
//! [`Group::at`] draws what is really there ([`truth`]); [`Group::work`] takes the readings one by one, looks, answers with
//! what the program itself shows, and repeats until the practical's own rule is content. What a faultless group hears is what
//! judgement is measured by ([`innocence`]).
//!
//! People learn with the same models: a [`Problem`] asks them for what a group would have to work out, [`glass`] puts
//! instruments into their hands, and [`class`](class()) fills a room.
//!
//! Pure: a seed is an input, and the same seed gives the same group.

#![deny(missing_docs)]

mod class;
pub mod glass;
pub mod guilt;
pub mod innocence;
mod instruments;
mod problem;
mod slip;
mod truth;
mod work;

pub use class::{ClassAtWork, allotted, class};
pub use problem::{Problem, WrongSum, titrated, titrating};
pub use slip::{Planted, Slip, Told};
pub use work::{Group, Heard, Said};
