//! Groups at work: faultless ones, with the scatter that their instruments and their chemistry have, and the same with
//! one slip.
//!
//! [`Group::at`] draws what is really there ([`truth`]); [`Group::work`] takes the readings one by one, looks, answers with
//! what the program itself shows, and repeats until the practical's own rule is content. What a faultless group hears is what
//! judgement is measured by ([`innocence`]).
//!
//! Pure: a seed is an input, and the same seed gives the same group.

#![deny(missing_docs)]

pub mod guilt;
pub mod innocence;
mod instruments;
mod slip;
mod truth;
mod work;

pub use slip::{Planted, Slip, Told};
pub use work::{Group, Heard, Said};
