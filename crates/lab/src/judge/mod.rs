//! Judgement while there is still time: is a reading possible, is it done, is a result believable?
//!
//! Two kinds of thing are told. A [`Finding`] is about one reading, and stands beside it. [`Advice`] is about a step:
//! whether titres agree, whether it is dry, how much is still needed, what it is. Neither blocks: the group confirms or
//! corrects, the instructor sees both.

mod above;
mod advice;
mod agreement;
mod competing;
mod departed;
mod doubts;
mod effects;
mod limiting;
mod needed;
mod next;
mod plausibility;
mod ranges;
mod reference;
mod second_crop;
mod seen;
mod spared;
mod stop;
mod waits;
mod waste;
mod yields;

pub use above::Needed;
pub use advice::{Advice, Changed, ComparedTrials, Matter, Standing, Titre, may_be_told};
pub use agreement::delivered;
pub(crate) use agreement::own_part;
pub use competing::{Hypothesis, PredictedMass};
pub use doubts::{Doubt, Doubted};
pub use effects::Effect;
pub use limiting::{Evidence, LimitingFinding};
pub use next::Next;
pub use plausibility::{Finding, Fit};
pub use reference::{AcceptedFrom, reference, stated, trial_run};
pub use waits::{Waiting, waiting};
pub use waste::LeftOver;
pub use yields::YieldFinding;

pub(crate) use limiting::limiting;
pub(crate) use yields::yield_above_theory;

use crate::evaluated::Evaluated;
use measure::rounding::figures;

impl Evaluated<'_> {
    /// Everything there is to tell, in the order of the steps.
    pub(crate) fn advice(&self) -> Vec<Advice> {
        let mut all: Vec<Advice> = Vec::new();
        self.agreements(&mut all);
        self.stops(&mut all);
        self.cut_short(&mut all);
        self.needs(&mut all);
        self.limits(&mut all);
        self.results_that_cannot_be(&mut all);
        self.second_crops(&mut all);
        self.ranges(&mut all);
        self.observed(&mut all);
        self.departures(&mut all);
        all.retain(|a| !self.leaves_out(a.step));
        all.sort_by_key(|a| a.step);
        all
    }

    /// Whether the group leaves a step out, by what it saw.
    pub(crate) fn leaves_out(&self, step: u32) -> bool {
        let step = self.practical.steps.get(step as usize);
        step.is_some_and(|s| self.practical.is_left_out(s, &self.entries.observations))
    }

    /// The first step that records one of these readings.
    fn step_recording(&self, reading: &str) -> Option<u32> {
        self.practical.steps.iter().position(|s| s.records.iter().any(|r| r == reading)).map(number)
    }

    /// The last step that adds a material.
    fn step_adding(&self, material: &str) -> Option<u32> {
        self.practical.steps.iter().rposition(|s| s.adds.iter().any(|a| a.material == material)).map(number)
    }
}

fn number(n: usize) -> u32 {
    u32::try_from(n).unwrap_or(u32::MAX)
}

/// To so many decimals.
fn fixed(value: f64, decimals: u32) -> String {
    format!("{value:.*}", decimals as usize)
}
