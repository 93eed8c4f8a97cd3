//! Judgement while there is still time: is a reading possible, is a result believable?
//!
//! A finding is told and kept, never a block: the group confirms or corrects, the instructor sees both.

mod doneness;
mod limiting;
mod plausibility;
mod yields;

pub use doneness::{Doneness, doneness};
pub use limiting::{Evidence, LimitingFinding, limiting};
pub use plausibility::{Finding, Fit, plausibility, possible};
pub use yields::{YieldFinding, yield_above_theory};
