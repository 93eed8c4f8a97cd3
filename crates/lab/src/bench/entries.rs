//! What stands at a bench when all has been said.

use super::{Deviation, Entry, Flag, Place, PlaceKind, Room};
use crate::bench::Answer;
use measure::Instrument;
use std::collections::{BTreeMap, BTreeSet};

/// What a group has entered, as it stands now.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Entries {
    /// Text of each reading, by symbol.
    pub readings: BTreeMap<String, String>,
    /// How a reading was taken, by symbol; no entry where there is nothing to say.
    pub circumstances: BTreeMap<String, Circumstances>,
    /// When each reading was taken, in ms, by symbol.
    pub taken_at: BTreeMap<String, i64>,
    /// What was seen, by observation.
    pub observations: BTreeMap<String, String>,
    /// The group's own results, by name.
    pub answers: BTreeMap<String, Answer>,
    /// Answers of single students, by their number, where each has a sheet.
    pub own_answers: BTreeMap<i64, BTreeMap<String, Answer>>,
    /// Departures from the plan, in the order in which they were told.
    pub deviations: Vec<Deviation>,
    /// The step begun last.
    pub at: Option<u32>,
    /// When each step that is done was done, in ms.
    pub done: BTreeMap<u32, i64>,
    /// When each step was begun last, in ms.
    pub begun: BTreeMap<u32, i64>,
    /// Clocks, by step.
    pub clocks: BTreeMap<u32, Clock>,
    /// Which vessel is the group's own, by name of the vessel.
    pub tags: BTreeMap<String, String>,
    /// Which bottle a material was taken from, by symbol.
    pub bottles: BTreeMap<String, String>,
    /// Photos that are there, by name, with the step that each belongs to.
    pub photos: BTreeMap<String, u32>,
    /// Messages that were read.
    pub heard: BTreeSet<String>,
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
    /// Whose reading it is, where it is not the group's own.
    pub borrowed: Option<String>,
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
                self.taken_at.insert(taken.symbol.clone(), at);
                let on = taken.on.as_ref().and_then(|name| room.instruments.iter().find(|i| i.name == *name)).cloned();
                let (steps, flags) = (taken.steps.clone(), taken.flags.clone());
                let how = Circumstances { on, steps, flags, confirmed: false, borrowed: taken.borrowed.clone() };
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
            Entry::Answer { result, text, unit, by } => {
                let answer = Answer { text: text.clone(), unit: unit.clone() };
                match by {
                    None => self.answers.insert(result.clone(), answer),
                    Some(person) => self.own_answers.entry(*person).or_default().insert(result.clone(), answer),
                };
            }
            Entry::Begun { step } => {
                self.at = Some(*step);
                self.begun.insert(*step, at);
            }
            Entry::Step { step, done: true } => {
                self.done.insert(*step, at);
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
            Entry::Struck { place: PlaceKind::Reading, name } => {
                self.readings.remove(name);
                self.taken_at.remove(name);
                self.circumstances.remove(name);
            }
            Entry::Struck { place: PlaceKind::Observation, name } => {
                self.observations.remove(name);
            }
            Entry::Struck { place: PlaceKind::Answer, .. } => {
                if let Place::Answer { result, by } = entry.place() {
                    let sheet = by.map_or(Some(&mut self.answers), |person| self.own_answers.get_mut(&person));
                    sheet.and_then(|answers| answers.remove(&result));
                }
            }
            Entry::Heard { message } => {
                self.heard.insert(message.clone());
            }
            Entry::Photo { name, step, deleted: false } => {
                self.photos.insert(name.clone(), *step);
            }
            Entry::Photo { name, deleted: true, .. } => {
                self.photos.remove(name);
            }
            Entry::Help { wanted, about } => self.help = wanted.then(|| about.clone()),
        }
    }

    /// Whether a result was answered, by the group or by any of its students.
    #[must_use]
    pub fn is_answered(&self, result: &str) -> bool {
        self.answers.contains_key(result) || self.own_answers.values().any(|own| own.contains_key(result))
    }

    /// Whether this mass was declared final after one weighing, with a reason.
    #[must_use]
    pub fn weighed_once(&self, reading: &str) -> bool {
        let waived = |d: &Deviation| matches!(&d.what, super::Departure::WeighedOnce { reading: r } if r == reading);
        self.deviations.iter().any(waived)
    }
}
