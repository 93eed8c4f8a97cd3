//! Repeats that need not be taken any more: those that are there agree, or they are points and portions, of which there are
//! as many as the work needs.

use super::{Advice, Matter};
use crate::evaluated::Evaluated;
use practical::Reading;
use practical::file::Step;
use std::collections::{BTreeMap, BTreeSet};

impl Evaluated<'_> {
    /// Slots of repeats that a group need not fill, by what was advised. What repeats together is spared together: once the
    /// titres agree, nobody weighs for one more.
    #[must_use]
    pub fn spared(&self, advice: &[Advice]) -> BTreeSet<String> {
        let practical = self.practical;
        let axis = |r: &Reading| r.repeats.as_ref().map(|n| n.axis.clone());
        let mut agreed: BTreeMap<String, bool> = BTreeMap::new();
        for a in advice {
            let Some(settled) = settles_repeats(&a.matter) else { continue };
            let recorded = practical.steps.get(a.step as usize).into_iter().flat_map(|s| &s.records);
            for along in recorded.filter_map(|r| axis(practical.reading(r)?)) {
                *agreed.entry(along).or_insert(true) &= settled;
            }
        }
        let mut out = BTreeSet::new();
        for reading in practical.readings.iter().filter(|r| r.repeats.is_some()) {
            let slots = reading.slots();
            let taken = slots.iter().filter(|s| self.readings.contains_key(&s.symbol)).count();
            let enough = reading.enough().is_some_and(|enough| taken >= enough);
            if enough || axis(reading).and_then(|along| agreed.get(&along).copied()).unwrap_or(false) {
                out.extend(slots.into_iter().map(|s| s.symbol));
            }
        }
        let not_taken = practical.readings.iter().filter(|r| practical.is_not_taken(r, &self.entries.observations));
        out.extend(not_taken.flat_map(Reading::slots).map(|s| s.symbol));
        out.retain(|slot| !self.readings.contains_key(slot));
        out
    }

    /// Steps of which all that they ask for stands or is spared, counted from 0.
    pub(crate) fn complete(&self, spared: &BTreeSet<String>) -> BTreeSet<u32> {
        let Evaluated { practical, entries, .. } = self;
        let complete = |step: &Step| {
            if practical.is_left_out(step, &entries.observations) {
                return true;
            }
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

/// Whether no further repeat is needed once this is said; none of what says nothing about repeats.
fn settles_repeats(matter: &Matter) -> Option<bool> {
    let settled = matches!(
        matter,
        Matter::TitresAgree { .. }
            | Matter::TrialsAgree { .. }
            | Matter::TrialsCount { .. }
            | Matter::ConstantMass { .. }
            | Matter::DriedForItsTime
    );
    let open = matches!(
        matter,
        Matter::OneMore { .. }
            | Matter::AnotherTrial { .. }
            | Matter::OutlierTestWaits { .. }
            | Matter::OnceAgain { .. }
    );
    (settled || open).then_some(settled)
}
