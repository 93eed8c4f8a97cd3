//! Events of a run: what was said, by whom, in which order.
//!
//! An event's id is made by the device that sends it (UUIDv7), so that a retry is stored once. The same id with other
//! content is refused. Order is the record's sequence, never a device's clock.

use crate::bench;
use crate::chain;
use crate::error::StoreError;
use crate::writer::Store;
use lab::bench::{Actor, Entry, EntryKind, Place};
use lab::sheets::{Given, Ruling};
use rusqlite::{Connection, OptionalExtension, Row, named_params};
use serde::{Deserialize, Deserializer, Serialize, de};
use std::str::FromStr;
use uuid::Uuid;

/// Version of the payloads written today. A payload that means something else gets the next one, and [`Said::read`] a way
/// to read the earlier ones.
///
/// 1: what a slip happened to was given back as names, `m_dish ← m_full` where one was used for the other. 2: in words, and
/// never what was used instead.
const PAYLOAD_VERSION: i64 = 2;

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
    /// The payloads of a group were deleted on request.
    Erased,
    /// The name of a person, and what that person had said, were deleted on request.
    PersonErased {
        /// The number that is left.
        person: i64,
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
    /// What holds.
    pub ruling: Ruling,
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

/// Where an event stands in the record.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Appended {
    /// The record's sequence number.
    pub seq: i64,
    /// Whether it was there already, sent again.
    pub again: bool,
    /// Whether somebody else had corrected the same entry first; both are kept, and this one stands.
    pub overtook: bool,
}

impl Store {
    /// Appends an event, once, and folds it into the current state.
    ///
    /// # Errors
    /// [`StoreError::IdTaken`] for a known id with other content, [`StoreError::RunClosed`] for a group's entry into a
    /// closed run, [`StoreError::NothingToCorrect`] for a correction of what is not there.
    pub fn append(&self, event: NewEvent) -> Result<Appended, StoreError> {
        self.write(move |c| append(c, &event))
    }

    /// Deletes what a group entered, for good, and says so in the record. The chain still verifies.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the run has no such group.
    pub fn erase_group(&self, run: i64, group: i64, actor: Actor, now: i64) -> Result<Appended, StoreError> {
        let erased = self.write(move |c| {
            let of_run = c
                .query_row(
                    "SELECT 1 FROM bench_group WHERE id = :group AND run_id = :run",
                    named_params! {":group": group, ":run": run},
                    |_| Ok(()),
                )
                .optional()?;
            of_run.ok_or(StoreError::NotFound("group"))?;
            c.execute(
                "DELETE FROM payload WHERE seq IN (SELECT seq FROM event WHERE run_id = :run AND group_id = :group)",
                named_params! {":run": run, ":group": group},
            )?;
            insert(c, &NewEvent::of_record(run, Some(group), actor, RunStatement::Erased, now)?)
        })?;
        self.forget_erased()?;
        Ok(erased)
    }

    /// What instructors told the groups of a run, oldest first: to all, and to single ones.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn messages(&self, run: i64) -> Result<Vec<Message>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(
                "SELECT e.id, e.group_id, e.actor, e.received_at, e.payload_version, p.body
                 FROM event e JOIN payload p ON p.seq = e.seq
                 WHERE e.run_id = :run AND e.kind = 'message' ORDER BY e.seq",
            )?;
            let mut rows = statement.query(named_params! {":run": run})?;
            let mut out = Vec::new();
            while let Some(r) = rows.next()? {
                let Statement::Run(RunStatement::Message { text }) = said_in(r)?.statement else { continue };
                let id = Uuid::from_bytes(r.get("id")?);
                out.push(Message {
                    id,
                    group: r.get("group_id")?,
                    actor: actor_of(r)?,
                    text,
                    at: r.get("received_at")?,
                });
            }
            Ok(out)
        })
    }

    /// Reviews and releases of a run, in order.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn reviews(&self, run: i64) -> Result<Vec<Reviewed>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(
                "SELECT e.seq, e.group_id, e.actor, e.received_at, e.payload_version, p.body
                 FROM event e JOIN payload p ON p.seq = e.seq
                 WHERE e.run_id = :run AND e.kind IN ('reviewed', 'released') ORDER BY e.seq",
            )?;
            let mut rows = statement.query(named_params! {":run": run})?;
            let mut out = Vec::new();
            while let Some(r) = rows.next()? {
                let (Statement::Run(what), Some(group)) = (said_in(r)?.statement, r.get("group_id")?) else { continue };
                out.push(Reviewed { seq: r.get("seq")?, group, actor: actor_of(r)?, at: r.get("received_at")?, what });
            }
            Ok(out)
        })
    }

    /// Remarks that an instructor has made on answers, the newest first, each once.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn remarks(&self, actor: Actor, most: usize) -> Result<Vec<String>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(
                "SELECT e.payload_version, p.body FROM event e JOIN payload p ON p.seq = e.seq
                 WHERE e.kind = 'reviewed' AND e.actor = :actor ORDER BY e.seq DESC LIMIT 2000",
            )?;
            let mut rows = statement.query(named_params! {":actor": actor.to_string()})?;
            let mut out: Vec<String> = Vec::new();
            while let Some(r) = rows.next()? {
                let Statement::Run(RunStatement::Reviewed(review)) = said_in(r)?.statement else { continue };
                if !review.comment.is_empty() && !out.contains(&review.comment) {
                    out.push(review.comment);
                }
                if out.len() >= most {
                    break;
                }
            }
            Ok(out)
        })
    }

    /// When the record was last written to, in ms by the clock of that day.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn last_receipt(&self) -> Result<Option<i64>, StoreError> {
        self.read(|c| {
            let sql = "SELECT received_at FROM event ORDER BY seq DESC LIMIT 1";
            Ok(c.query_row(sql, [], |r| r.get(0)).optional()?)
        })
    }
}

/// What an instructor told a group, or all.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Message {
    /// The event.
    pub id: Uuid,
    /// To whom; none for all.
    pub group: Option<i64>,
    /// From whom.
    pub actor: Actor,
    /// The words.
    pub text: String,
    /// When, in ms.
    pub at: i64,
}

impl NewEvent {
    /// A statement about a run that the record or an instructor makes now.
    pub(crate) fn of_record(
        run: i64,
        group: Option<i64>,
        actor: Actor,
        statement: RunStatement,
        now: i64,
    ) -> Result<NewEvent, StoreError> {
        let said = Said::at(now, Statement::Run(statement));
        Ok(NewEvent { id: id_at(now)?, run, group, actor, supersedes: None, said, received_at: now })
    }
}

pub(crate) fn append(c: &Connection, event: &NewEvent) -> Result<Appended, StoreError> {
    if let Some(seq) = same_id(c, event)? {
        return Ok(Appended { seq, again: true, overtook: false });
    }
    let (closed, paused): (Option<i64>, Option<i64>) = c
        .prepare_cached("SELECT closed_at, paused_at FROM run WHERE id = :run")?
        .query_row(named_params! {":run": event.run}, |r| Ok((r.get(0)?, r.get(1)?)))
        .optional()?
        .ok_or(StoreError::NotFound("run"))?;
    // An instructor can still mend what a class has left, and sums are done at home.
    let sum = matches!(event.said.statement, Statement::Bench(Entry::Answer { .. }));
    if matches!((event.actor, &event.said.statement), (Actor::Device(_), Statement::Bench(_))) {
        if closed.is_some() && !sum {
            return Err(StoreError::RunClosed);
        }
        if paused.is_some() {
            return Err(StoreError::RunPaused);
        }
    }
    let overtook = match event.supersedes {
        Some(corrected) => bench::is_superseded(c, event, corrected)?.ok_or(StoreError::NothingToCorrect)?,
        None => false,
    };
    Ok(Appended { overtook, ..insert(c, event)? })
}

/// The payload of a row that has `payload_version` and `body`.
pub(crate) fn said_in(row: &Row<'_>) -> Result<Said, StoreError> {
    Said::read(row.get("payload_version")?, &row.get::<_, String>("body")?)
}

/// Who is named in a row's `actor`.
pub(crate) fn actor_of(row: &Row<'_>) -> Result<Actor, StoreError> {
    Ok(row.get::<_, String>("actor")?.parse()?)
}

/// A fresh id for an event that the record itself writes at `now`.
pub(crate) fn id_at(now: i64) -> Result<Uuid, StoreError> {
    let mut random = [0u8; 10];
    getrandom::fill(&mut random).map_err(|e| StoreError::Randomness(e.to_string()))?;
    Ok(uuid::Builder::from_unix_timestamp_millis(now.unsigned_abs(), &random).into_uuid())
}

/// The sequence number of an event with this id and content; an error when the content differs.
fn same_id(c: &Connection, event: &NewEvent) -> Result<Option<i64>, StoreError> {
    let sql = "SELECT e.seq, e.run_id, e.group_id, e.supersedes, e.payload_version, p.body
         FROM event e LEFT JOIN payload p ON p.seq = e.seq WHERE e.id = :id";
    let mut statement = c.prepare_cached(sql)?;
    let mut rows = statement.query(named_params! {":id": event.id.as_bytes()})?;
    let Some(row) = rows.next()? else { return Ok(None) };
    let seq = row.get("seq")?;
    let supersedes = row.get::<_, Option<[u8; 16]>>("supersedes")?.map(Uuid::from_bytes);
    let body: Option<String> = row.get("body")?;
    let version = row.get("payload_version")?;
    let said = body.map(|b| Said::read(version, &b)).transpose()?;
    // The time may be held differently at the second receipt; it is not what the group said.
    let same_words = said.is_some_and(|s| {
        s.statement == event.said.statement && s.reason == event.said.reason && s.person == event.said.person
    });
    if same_words
        && (row.get("run_id")?, row.get("group_id")?, supersedes) == (event.run, event.group, event.supersedes)
    {
        return Ok(Some(seq));
    }
    Err(StoreError::IdTaken)
}

pub(crate) fn insert(c: &Connection, event: &NewEvent) -> Result<Appended, StoreError> {
    let body = serde_json::to_string(&event.said)?;
    let mut salt = [0u8; 16];
    getrandom::fill(&mut salt).map_err(|e| StoreError::Randomness(e.to_string()))?;
    let payload_hash = chain::payload_hash(&salt, &body);
    let head = chain::head(c)?;
    let seq = head.seq + 1;
    let link = chain::link(&head.chain, seq, event, PAYLOAD_VERSION, &payload_hash);
    c.prepare_cached("INSERT INTO event (seq, id, run_id, group_id, actor, kind, payload_version, supersedes, received_at, payload_hash, chain)
         VALUES (:seq, :id, :run, :group, :actor, :kind, :version, :supersedes, :received_at, :payload_hash, :chain)")?.execute(named_params! {
            ":seq": seq,
            ":id": event.id.as_bytes(),
            ":run": event.run,
            ":group": event.group,
            ":actor": event.actor.to_string(),
            ":kind": event.said.statement.kind(),
            ":version": PAYLOAD_VERSION,
            ":supersedes": event.supersedes.as_ref().map(Uuid::as_bytes),
            ":received_at": event.received_at,
            ":payload_hash": payload_hash,
            ":chain": link,
        })?;
    c.prepare_cached("INSERT INTO payload (seq, salt, body, person_id) VALUES (:seq, :salt, :body, :person)")?
        .execute(named_params! {":seq": seq, ":salt": salt, ":body": body, ":person": event.said.person})?;
    Ok(Appended { seq, again: false, overtook: false })
}
