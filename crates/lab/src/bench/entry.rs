//! One thing said at a bench.

use super::{Deviation, Place};
use serde::{Deserialize, Serialize};

/// What a group can enter.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, strum::EnumDiscriminants)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = BenchEntry))]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
#[strum_discriminants(
    name(EntryKind),
    derive(Hash, PartialOrd, Ord, strum::IntoStaticStr, strum::EnumString, strum::EnumIter),
    strum(serialize_all = "kebab-case"),
    doc = "Which sort of thing is said, as the record names it.",
    allow(missing_docs)
)]
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
    /// The instrument sent it: nobody typed these digits.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub sent: bool,
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
    pub fn kind(&self) -> EntryKind {
        EntryKind::from(self)
    }

    /// Whether only an instructor says so: what is taken out, and what is borrowed.
    #[must_use]
    pub fn is_for_the_desk(&self) -> bool {
        matches!(self, Entry::Struck { .. } | Entry::Reading(Taken { borrowed: Some(_), .. }))
    }

    /// The place that it fills at the bench: a later entry for the same place supersedes it. What is taken out is taken
    /// out of where it stood.
    #[must_use]
    pub fn place(&self) -> Place {
        match self {
            Entry::Reading(Taken { symbol, .. }) => Place::Reading(symbol.clone()),
            Entry::Confirmed { symbol } => Place::Confirmation(symbol.clone()),
            Entry::Observation { symbol, .. } => Place::Observation(symbol.clone()),
            Entry::Answer { result, by, .. } => Place::Answer { result: result.clone(), by: *by },
            Entry::Begun { step } => Place::Begun(*step),
            Entry::Step { step, .. } => Place::Step(*step),
            Entry::Clock { step, .. } => Place::Clock(*step),
            Entry::Deviation(d) => Place::Deviation(d.nr.clone()),
            Entry::Tag { vessel, .. } => Place::Tag(vessel.clone()),
            Entry::Bottle { material, .. } => Place::Bottle(material.clone()),
            Entry::Struck { place: PlaceKind::Reading, name } => Place::Reading(name.clone()),
            Entry::Struck { place: PlaceKind::Observation, name } => Place::Observation(name.clone()),
            Entry::Struck { place: PlaceKind::Answer, name } => Place::answer(name),
            Entry::Heard { message } => Place::Message(message.clone()),
            Entry::Photo { name, .. } => Place::Photo(name.clone()),
            Entry::Help { .. } => Place::Help,
        }
    }

    /// The text and the unit that stand in its place; none of what takes something out, or says something else.
    #[must_use]
    pub fn written(&self) -> Option<(&str, &str)> {
        match self {
            Entry::Reading(Taken { text, unit, .. }) | Entry::Answer { text, unit, .. } => Some((text, unit)),
            Entry::Observation { choice, .. } => Some((choice, "")),
            Entry::Tag { tag, .. } => Some((tag, "")),
            Entry::Bottle { name, .. } => Some((name, "")),
            Entry::Struck { .. }
            | Entry::Confirmed { .. }
            | Entry::Begun { .. }
            | Entry::Step { .. }
            | Entry::Clock { .. }
            | Entry::Deviation(_)
            | Entry::Heard { .. }
            | Entry::Photo { .. }
            | Entry::Help { .. } => None,
        }
    }
}
