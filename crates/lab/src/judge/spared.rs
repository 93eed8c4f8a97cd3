//! Repeats that need not be taken any more: those that are there agree, or they are points and portions, of which there are
//! as many as the work needs.

use super::{Advice, Matter};
use crate::evaluated::Evaluated;
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
}

/// Whether no further repeat is needed once this is said.
fn settles_repeats(matter: &Matter) -> bool {
    matches!(matter, Matter::TitresAgree { .. } | Matter::TrialsAgree { .. } | Matter::ConstantMass { .. })
}
