//! Repeats that need not be taken any more: those that are there agree, or they are points and portions, of which there are
//! as many as the work needs.

use super::{Advice, Matter};
use crate::evaluated::Evaluated;
use practical::Reading;
use practical::file::Step;
use std::collections::BTreeSet;

impl Evaluated<'_> {
    /// Slots of repeats that a group need not fill, by what was advised.
    #[must_use]
    pub fn spared(&self, advice: &[Advice]) -> BTreeSet<String> {
        let mut out = BTreeSet::new();
        for (i, step) in self.practical.steps.iter().enumerate() {
            let agreed = advice.iter().any(|a| a.step as usize == i && settles_repeats(&a.matter));
            let readings = step.records.iter().filter_map(|r| self.practical.reading(r));
            for reading in readings.filter(|r| r.repeats.is_some()) {
                let slots = reading.slots();
                let begun = slots.first().is_some_and(|s| self.readings.contains_key(&s.symbol));
                if agreed || (reading.is_open_ended() && begun) {
                    out.extend(slots.into_iter().map(|s| s.symbol));
                }
            }
        }
        out.retain(|slot| !self.readings.contains_key(slot));
        out
    }

    /// Steps of which all that they ask for stands or is spared, counted from 0.
    pub(crate) fn complete(&self, spared: &BTreeSet<String>) -> BTreeSet<u32> {
        let Evaluated { practical, entries, .. } = self;
        let complete = |step: &Step| {
            let places = step.records.iter().filter_map(|r| practical.reading(r)).flat_map(Reading::slots);
            let mut open = places.filter(|s| !self.readings.contains_key(&s.symbol) && !spared.contains(&s.symbol));
            open.next().is_none()
                && step.observes.iter().all(|o| entries.observations.contains_key(o))
                && step.answers.iter().all(|a| entries.is_answered(a))
        };
        let steps = practical.steps.iter().enumerate();
        steps.filter(|(_, step)| complete(step)).map(|(i, _)| super::number(i)).collect()
    }
}

/// Whether no further repeat is needed once this is said.
fn settles_repeats(matter: &Matter) -> bool {
    matches!(matter, Matter::TitresAgree { .. } | Matter::TrialsAgree { .. } | Matter::ConstantMass { .. })
}
