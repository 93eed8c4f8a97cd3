//! One thing said at a bench, and the place that it fills there.

use super::Deviation;
use serde::{Deserialize, Serialize};

/// What a group can enter.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = BenchEntry))]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum Entry {
    /// A reading, as typed.
    Reading(Taken),
    /// A doubtful reading was looked at again and stands.
    Confirmed {
        /// Which one.
        symbol: String,
    },
    /// Something seen.
    Observation {
        /// Which one.
        symbol: String,
        /// One of the choices; of a note, the words.
        choice: String,
    },
    /// A result worked out.
    Answer {
        /// Which one.
        result: String,
        /// As typed.
        text: String,
        /// The unit chosen; empty if none.
        unit: String,
        /// The student whose answer it is, where each has a sheet of their own.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        by: Option<i64>,
    },
    /// A step begun.
    Begun {
        /// Counted from 0.
        step: u32,
    },
    /// A step done, or taken back.
    Step {
        /// Counted from 0.
        step: u32,
        /// Done or not.
        done: bool,
    },
    /// The clock of a step, started on its condition, or stopped.
    Clock {
        /// Counted from 0.
        step: u32,
        /// It runs from now on, or it has been heard and is stopped.
        running: bool,
        /// How long it runs down, in s; it counts up if left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        seconds: Option<u32>,
    },
    /// What was done otherwise than planned.
    Deviation(Deviation),
    /// Which of several like vessels is the group's own: crucible 7.
    Tag {
        /// Name of the vessel in the practical.
        vessel: String,
        /// What stands on it.
        tag: String,
    },
    /// Which bottle a material was taken from.
    Bottle {
        /// Symbol of the material.
        material: String,
        /// Name of the bottle in the room.
        name: String,
    },
    /// What stood in a place counts no longer; only an instructor takes it out.
    Struck {
        /// Where it stood.
        place: PlaceKind,
        /// Symbol of the reading or the observation, or name of the result.
        name: String,
    },
    /// A message of an instructor was read.
    Heard {
        /// Id of the message.
        message: String,
    },
    /// A photo was taken, or deleted again.
    Photo {
        /// Its name, made from its content.
        name: String,
        /// The step that it belongs to, counted from 0.
        step: u32,
        /// It is there no longer.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        deleted: bool,
    },
    /// The group asks for somebody to come, or needs nobody any more.
    Help {
        /// Asks, or no longer.
        wanted: bool,
        /// What it is about; may be empty.
        #[serde(default)]
        about: String,
    },
}

/// Where something stands that can be taken out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum PlaceKind {
    /// Among the readings.
    Reading,
    /// Among what was seen.
    Observation,
    /// Among the answers.
    Answer,
}

/// A reading as it was taken.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Taken {
    /// Which one.
    pub symbol: String,
    /// Digits as typed.
    pub text: String,
    /// Its unit.
    pub unit: String,
    /// The instrument of the room that it was read on, where there are several of a kind: Balance 2.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub on: Option<String>,
    /// What the display showed on the way, as typed: 2.40, 5.86. The last counts, and is the text.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub steps: Vec<String>,
    /// What was the matter with what was weighed.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub flags: Vec<Flag>,
    /// Not the group's own: where it comes from, `Beryl` or `the trial run`. Sums go on with it; it proves nothing.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub borrowed: Option<String>,
}

/// What can be the matter with something on a balance.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Flag {
    /// A piece of the paper is missing.
    Torn,
    /// The paper was cut to fit.
    Trimmed,
    /// The paper is burnt.
    Scorched,
    /// Weighed hot.
    Hot,
    /// Still damp.
    Damp,
}

impl Entry {
    /// The kind, as it stands beside the payload.
    #[must_use]
    pub fn kind(&self) -> &'static str {
        match self {
            Entry::Reading(_) => "reading",
            Entry::Confirmed { .. } => "confirmed",
            Entry::Observation { .. } => "observation",
            Entry::Answer { .. } => "answer",
            Entry::Begun { .. } => "begun",
            Entry::Step { .. } => "step",
            Entry::Clock { .. } => "clock",
            Entry::Deviation(_) => "deviation",
            Entry::Tag { .. } => "tag",
            Entry::Bottle { .. } => "bottle",
            Entry::Struck { .. } => "struck",
            Entry::Heard { .. } => "heard",
            Entry::Photo { .. } => "photo",
            Entry::Help { .. } => "help",
        }
    }

    /// The kind of place that it fills: its own kind, but what is taken out is taken out of where it stood.
    #[must_use]
    pub fn fills(&self) -> &'static str {
        match self {
            Entry::Struck { place: PlaceKind::Reading, .. } => "reading",
            Entry::Struck { place: PlaceKind::Observation, .. } => "observation",
            Entry::Struck { place: PlaceKind::Answer, .. } => "answer",
            other => other.kind(),
        }
    }

    /// Whether only an instructor says so: what is taken out, and what is borrowed.
    #[must_use]
    pub fn is_for_the_desk(&self) -> bool {
        matches!(self, Entry::Struck { .. } | Entry::Reading(Taken { borrowed: Some(_), .. }))
    }

    /// The place that it fills at the bench: a later entry of its kind for the same place supersedes it.
    #[must_use]
    pub fn slot(&self) -> String {
        match self {
            Entry::Reading(Taken { symbol, .. }) | Entry::Confirmed { symbol } | Entry::Observation { symbol, .. } => {
                symbol.clone()
            }
            Entry::Answer { result, by, .. } => answer_slot(result, *by),
            Entry::Begun { step } | Entry::Step { step, .. } | Entry::Clock { step, .. } => step.to_string(),
            Entry::Deviation(d) => d.nr.clone(),
            Entry::Tag { vessel, .. } => vessel.clone(),
            Entry::Bottle { material, .. } => material.clone(),
            Entry::Struck { name, .. } | Entry::Photo { name, .. } => name.clone(),
            Entry::Heard { message } => message.clone(),
            Entry::Help { .. } => "help".to_owned(),
        }
    }
}

/// The place of an answer: the result; of a student's own sheet with the student's number.
#[must_use]
pub fn answer_slot(result: &str, by: Option<i64>) -> String {
    by.map_or_else(|| result.to_owned(), |person| format!("{result} by {person}"))
}

/// The result and the student of an answer's place.
#[must_use]
pub fn answer_place(slot: &str) -> (&str, Option<i64>) {
    match slot.split_once(" by ") {
        Some((result, person)) => (result, person.parse().ok()),
        None => (slot, None),
    }
}
