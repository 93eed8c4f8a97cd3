//! What comes next, and what can be done in the meantime.
//!
//! Next is the first step that is not done. While it waits, work that hangs on nothing open can be done: weighing an
//! empty vessel that the readings call a container, and sums whose readings are all there.

use crate::evaluated::Evaluated;
use practical::Reading;
use serde::Serialize;

/// Where a group goes on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Next {
    /// The first step that is not done, counted from 0; none when all are.
    pub step: Option<u32>,
    /// Later steps that can be done now, while something waits.
    pub meanwhile: Vec<u32>,
}

impl Evaluated<'_> {
    /// Where a group goes on from what stands.
    #[must_use]
    pub(crate) fn next(&self) -> Next {
        let Evaluated { practical, entries, evaluation, .. } = self;
        let open = |i: &u32| !entries.done.contains_key(i) && !self.leaves_out(*i);
        let step = (0..super::number(practical.steps.len())).find(open);
        let after = step.map_or(0, |s| s + 1);
        let containers: Vec<&String> = practical.containers.values().flatten().collect();
        let can_be_done = |i: &u32| {
            let Some(step) = practical.steps.get(*i as usize) else { return false };
            let places = step.records.iter().filter_map(|r| practical.reading(r)).flat_map(Reading::slots);
            let is_open = places.map(|s| s.symbol).any(|s| !entries.readings.contains_key(&s));
            let empty_vessels = is_open && step.records.iter().all(|r| containers.contains(&r));
            let open_answers = step.answers.iter().filter(|a| !entries.answers.contains_key(*a));
            let ready = |name: &String| evaluation.value(name).is_some();
            let sums = step.records.is_empty() && step.observes.is_empty() && open_answers.clone().count() > 0;
            empty_vessels || (sums && open_answers.clone().any(ready))
        };
        let later = (after..super::number(practical.steps.len())).filter(open);
        Next { step, meanwhile: later.filter(can_be_done).collect() }
    }
}
