//! What stands at a bench when all has been said.

use super::{Deviation, Entry, Flag, Room};
use crate::check::Answer;
use measure::Instrument;
use std::collections::{BTreeMap, BTreeSet};

/// What a group has entered, as it stands now.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Entries {
    /// Text of each reading, by symbol.
    pub readings: BTreeMap<String, String>,
    /// How a reading was taken, by symbol; no entry where there is nothing to say.
    pub circumstances: BTreeMap<String, Circumstances>,
    /// What was seen, by observation.
    pub observations: BTreeMap<String, String>,
    /// The group's own results, by name.
    pub answers: BTreeMap<String, Answer>,
    /// Departures from the plan, in the order in which they were told.
    pub deviations: Vec<Deviation>,
    /// The step begun last.
    pub at: Option<u32>,
    /// Steps done.
    pub done: BTreeSet<u32>,
    /// Clocks, by step.
    pub clocks: BTreeMap<u32, Clock>,
    /// Which vessel is the group's own, by name of the vessel.
    pub tags: BTreeMap<String, String>,
    /// Which bottle a material was taken from, by symbol.
    pub bottles: BTreeMap<String, String>,
    /// The group asks for somebody to come, about this.
    pub help: Option<String>,
}

/// How one reading was taken.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Circumstances {
    /// The named instrument of the room, as the room describes it.
    pub on: Option<Instrument>,
    /// What the display showed before, as typed.
    pub steps: Vec<String>,
    /// What was the matter with what was weighed.
    pub flags: Vec<Flag>,
    /// Looked at again after it was entered, and left as it is.
    pub confirmed: bool,
}

/// The clock of a step.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Clock {
    /// Since when, in ms.
    pub since: i64,
    /// How long it runs down, in s; none if it counts up.
    pub seconds: Option<u32>,
    /// When it was stopped, in ms.
    pub stopped: Option<i64>,
}

impl Entries {
    /// Puts one more entry, said at `at` (ms), in its place; entries come in the order of the record. `room` is all that the room has or had.
    pub fn put(&mut self, entry: &Entry, at: i64, room: &Room) {
        match entry {
            Entry::Reading(taken) => {
                self.readings.insert(taken.symbol.clone(), taken.text.clone());
                let on = taken.on.as_ref().and_then(|name| room.instruments.iter().find(|i| i.name == *name)).cloned();
                let (steps, flags) = (taken.steps.clone(), taken.flags.clone());
                let how = Circumstances { on, steps, flags, confirmed: false };
                if how == Circumstances::default() {
                    self.circumstances.remove(&taken.symbol);
                } else {
                    self.circumstances.insert(taken.symbol.clone(), how);
                }
            }
            Entry::Confirmed { symbol } => self.circumstances.entry(symbol.clone()).or_default().confirmed = true,
            Entry::Observation { symbol, choice } => {
                self.observations.insert(symbol.clone(), choice.clone());
            }
            Entry::Answer { result, text, unit } => {
                self.answers.insert(result.clone(), Answer { text: text.clone(), unit: unit.clone() });
            }
            Entry::Begun { step } => self.at = Some(*step),
            Entry::Step { step, done: true } => {
                self.done.insert(*step);
            }
            Entry::Step { step, done: false } => {
                self.done.remove(step);
            }
            Entry::Clock { step, running: true, seconds } => {
                self.clocks.insert(*step, Clock { since: at, seconds: *seconds, stopped: None });
            }
            Entry::Clock { step, running: false, .. } => {
                if let Some(clock) = self.clocks.get_mut(step) {
                    clock.stopped = Some(at);
                }
            }
            Entry::Deviation(d) => {
                self.deviations.retain(|known| known.nr != d.nr);
                if !d.withdrawn {
                    self.deviations.push(d.clone());
                }
            }
            Entry::Tag { vessel, tag } => {
                self.tags.insert(vessel.clone(), tag.clone());
            }
            Entry::Bottle { material, name } => {
                self.bottles.insert(material.clone(), name.clone());
            }
            Entry::Help { wanted, about } => self.help = wanted.then(|| about.clone()),
        }
    }

    /// Whether this mass was declared final after one weighing, with a reason.
    #[must_use]
    pub fn weighed_once(&self, reading: &str) -> bool {
        let waived = |d: &Deviation| matches!(&d.what, super::Departure::WeighedOnce { reading: r } if r == reading);
        self.deviations.iter().any(waived)
    }
}
