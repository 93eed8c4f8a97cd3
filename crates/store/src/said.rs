//! What is said: statements about a bench or a run, with their circumstances, as the record keeps them.

use crate::error::StoreError;
use lab::bench::{Actor, Entry, EntryKind, Place};
use lab::sheets::{Given, Ruling};
use rusqlite::Row;
use serde::{Deserialize, Deserializer, Serialize, de};
use std::str::FromStr;
use uuid::Uuid;

/// Version of the payloads written today. A payload that means something else gets the next one, and [`Said::read`] a way
/// to read the earlier ones.
///
/// 1: what a slip happened to was given back as names, `m_dish ← m_full` where one was used for the other. 2: in words, and
/// never what was used instead.
pub(crate) const PAYLOAD_VERSION: i64 = 2;

/// What an event says: something of a group's bench, or of the run as a whole.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[serde(untagged)]
pub enum Statement {
    /// Said at a bench.
    Bench(Entry),
    /// Said of the run.
    Run(RunStatement),
}

impl<'de> Deserialize<'de> for Statement {
    /// The kind decides which of the two it is, so that what is wrong in it is told of that one.
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Statement, D::Error> {
        let value = serde_json::Value::deserialize(from)?;
        let kind = value.get("kind").and_then(|k| k.as_str()).ok_or_else(|| de::Error::missing_field("kind"))?;
        if EntryKind::from_str(kind).is_ok() {
            serde_json::from_value(value).map(Statement::Bench).map_err(de::Error::custom)
        } else {
            serde_json::from_value(value).map(Statement::Run).map_err(de::Error::custom)
        }
    }
}

/// What is said of a run as a whole, or of all that a group entered.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, strum::EnumDiscriminants)]
#[serde(tag = "kind", rename_all = "kebab-case")]
#[strum_discriminants(
    name(RunKind),
    derive(strum::IntoStaticStr, strum::EnumIter),
    strum(serialize_all = "kebab-case"),
    doc = "Which sort of thing is said of a run, as the record names it.",
    allow(missing_docs)
)]
pub enum RunStatement {
    /// The instructor closed the run.
    RunClosed,
    /// The instructor opened it again.
    RunReopened,
    /// The class listens for a while; entries wait on the devices.
    RunPaused,
    /// It goes on.
    RunResumed,
    /// A message of an instructor, to a group or to all.
    Message {
        /// The words.
        text: String,
    },
    /// An instructor has looked at an answer.
    Reviewed(Review),
    /// What a group, or a student of it, was told of its answers: kept as it was told.
    Released(Release),
    /// A group goes on at another one's bench.
    Merged {
        /// The other group.
        into: i64,
    },
    /// An instructor signs what stands at a bench, or in the run, up to here.
    SignedOff,
    /// What the next class is to know; the newest holds.
    NextTime {
        /// The words.
        text: String,
    },
    /// What became of a group's product; the newest holds.
    Product {
        /// Symbol of the material.
        symbol: String,
        /// It is still there.
        kept: bool,
        /// Where it is kept, or how it was thrown away.
        place: String,
    },
    /// The payloads of a group were deleted on request.
    Erased,
    /// The name of a person, and what that person had said, were deleted on request.
    PersonErased {
        /// The number that is left.
        person: i64,
        /// The events of this run whose words went with the name; none in records that did not list them.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        events: Option<Vec<i64>>,
    },
}

/// What an instructor says of an answer.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Review {
    /// The result.
    pub result: String,
    /// The student, where each has a sheet of their own.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub person: Option<i64>,
    /// The answer that was looked at; a later one has not been.
    pub answer: Uuid,
    /// What holds; none where what was said before is taken back, and nobody has looked at the answer.
    pub ruling: Option<Ruling>,
    /// Marks, where they are not those that were worked out, as a decimal number.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub marks: Option<String>,
    /// For the group to read.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub comment: String,
}

/// What was told of a sheet of answers.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Release {
    /// The student, where each has a sheet of their own.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub person: Option<i64>,
    /// Version of the program that judged.
    pub engine: String,
    /// Edition of the atomic masses.
    pub masses: String,
    /// Verdicts, marks and comments as they were shown, by result.
    pub told: Given,
}

/// A review or a release in the record.
#[derive(Debug, Clone, PartialEq)]
pub struct Reviewed {
    /// The record's order.
    pub seq: i64,
    /// The group.
    pub group: i64,
    /// Who.
    pub actor: Actor,
    /// When, in ms.
    pub at: i64,
    /// What.
    pub what: RunStatement,
}

impl Statement {
    /// The kind as stored beside the payload.
    #[must_use]
    pub fn kind(&self) -> &'static str {
        match self {
            Statement::Bench(entry) => entry.kind().into(),
            Statement::Run(statement) => RunKind::from(statement).into(),
        }
    }

    /// The events whose words went with a person, where this is such an erasure and lists them.
    pub(crate) fn erased_events(self) -> Option<Vec<i64>> {
        match self {
            Statement::Run(RunStatement::PersonErased { events, .. }) => events,
            Statement::Run(_) | Statement::Bench(_) => None,
        }
    }

    /// The place that it fills at the bench, if it fills one.
    #[must_use]
    pub fn place(&self) -> Option<Place> {
        match self {
            Statement::Bench(entry) => Some(entry.place()),
            Statement::Run(_) => None,
        }
    }
}

/// A statement with its circumstances: all of it is payload, hashed with a salt.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Said {
    /// What.
    pub statement: Statement,
    /// Why an earlier entry is corrected.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub reason: Option<String>,
    /// When it was entered, in ms, by the device's clock held between its last contact and receipt.
    pub taken_at: i64,
    /// Whether that time had to be held.
    pub about: bool,
    /// Which student of the group said it, if it was told.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub person: Option<i64>,
}

impl Said {
    /// A payload, as a version of this program wrote it.
    ///
    /// # Errors
    /// [`StoreError::NewerPayload`] for one that a later version wrote; [`StoreError::Payload`] for one that is damaged.
    pub fn read(version: i64, body: &str) -> Result<Said, StoreError> {
        match version {
            1 => Ok(from_names(serde_json::from_str(body)?)),
            PAYLOAD_VERSION => Ok(serde_json::from_str(body)?),
            newer => Err(StoreError::NewerPayload(newer)),
        }
    }

    /// A statement of the desk or the record itself, at a time that is certain.
    #[must_use]
    pub fn at(now: i64, statement: Statement) -> Said {
        Said { statement, reason: None, taken_at: now, about: false, person: None }
    }
}

/// A payload of version 1 as today's: of what a slip happened to, only what a group may read.
fn from_names(mut said: Said) -> Said {
    if let Statement::Run(RunStatement::Released(release)) = &mut said.statement {
        for slip in release.told.answers.values_mut().flat_map(|answer| &mut answer.slips) {
            if let Some((what, _)) = slip.at.split_once(" ← ") {
                slip.at = what.to_owned();
            }
        }
    }
    said
}

/// An event to be appended.
#[derive(Debug, Clone, PartialEq)]
pub struct NewEvent {
    /// Made by the sender.
    pub id: Uuid,
    /// The run.
    pub run: i64,
    /// The group, if it is about one.
    pub group: Option<i64>,
    /// Who says it.
    pub actor: Actor,
    /// The entry that it corrects.
    pub supersedes: Option<Uuid>,
    /// What is said.
    pub said: Said,
    /// Receipt, in ms.
    pub received_at: i64,
}

/// The payload of a row that has `payload_version` and `body`.
pub(crate) fn said_in(row: &Row<'_>) -> Result<Said, StoreError> {
    Said::read(row.get("payload_version")?, &row.get::<_, String>("body")?)
}

/// Who is named in a row's `actor`.
pub(crate) fn actor_of(row: &Row<'_>) -> Result<Actor, StoreError> {
    Ok(row.get::<_, String>("actor")?.parse()?)
}
