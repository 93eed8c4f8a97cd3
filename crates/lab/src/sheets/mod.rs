//! Sheets of answers once they were looked at: what holds, what is given back, what has changed since, what may be said at
//! once, and whether an answer may still be given.
//!
//! A sheet is a group's, or one student's. What is given back is kept as it was told ([`Given`]); a later judgement never
//! changes it, it only shows that it would be told differently now. Nothing here knows who looks: a caller says it.

mod answering;
mod given;
mod hint;
mod ruling;
mod stale;

pub use answering::{NoMoreAnswers, may_answer};
pub use given::{Given, GivenAnswer, GivenSlip, Sheet, Sure};
pub use hint::Hint;
pub use ruling::{Review, Ruling};
pub use stale::stale;
