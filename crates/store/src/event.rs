//! Events of a run: what was said, by whom, in which order.
//!
//! An event's id is made by the device that sends it (UUIDv7), so that a retry is stored once. The same id with other
//! content is refused. Order is the record's sequence, never a device's clock.

use crate::chain;
use crate::error::StoreError;
use crate::fold;
use crate::writer::Store;
pub use lab::bench::Entry as BenchEntry;
use rusqlite::{Connection, OptionalExtension, named_params};
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// Version of the payloads written today.
const PAYLOAD_VERSION: i64 = 1;

/// What an event says: something of a group's bench, or of the run as a whole.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(untagged)]
pub enum Statement {
    /// Said at a bench.
    Bench(BenchEntry),
    /// Said of the run.
    Run(RunStatement),
}

/// What is said of a run as a whole, or of all that a group entered.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum RunStatement {
    /// The instructor closed the run.
    RunClosed,
    /// The instructor opened it again.
    RunReopened,
    /// The payloads of a group were deleted on request.
    Erased,
}

impl Statement {
    /// The kind as stored beside the payload.
    #[must_use]
    pub fn kind(&self) -> &'static str {
        match self {
            Statement::Bench(entry) => entry.kind(),
            Statement::Run(RunStatement::RunClosed) => "run-closed",
            Statement::Run(RunStatement::RunReopened) => "run-reopened",
            Statement::Run(RunStatement::Erased) => "erased",
        }
    }

    /// The place that it fills at the bench, if it fills one: a later one for the same place supersedes it.
    #[must_use]
    pub fn slot(&self) -> Option<String> {
        match self {
            Statement::Bench(entry) => Some(entry.slot()),
            Statement::Run(_) => None,
        }
    }
}

/// A statement with its circumstances: all of it is payload, hashed with a salt.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
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
}

/// An event to be appended.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NewEvent {
    /// Made by the sender.
    pub id: Uuid,
    /// The run.
    pub run: i64,
    /// The group, if it is about one.
    pub group: Option<i64>,
    /// Pseudonymous: `device 12` or `person 1`.
    pub actor: String,
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
    pub fn erase_group(&self, run: i64, group: i64, actor: String, now: i64) -> Result<Appended, StoreError> {
        self.write(move |c| {
            let of_run = c
                .query_row(
                    "SELECT 1 FROM bench_group WHERE id = :group AND run_id = :run",
                    named_params! {":group": group, ":run": run},
                    |_| Ok(()),
                )
                .optional()?;
            of_run.ok_or(StoreError::NotFound("group"))?;
            c.execute(
                "DELETE FROM entry WHERE run_id = :run AND group_id = :group",
                named_params! {":run": run, ":group": group},
            )?;
            c.execute(
                "DELETE FROM payload WHERE seq IN (SELECT seq FROM event WHERE run_id = :run AND group_id = :group)",
                named_params! {":run": run, ":group": group},
            )?;
            let said =
                Said { statement: Statement::Run(RunStatement::Erased), reason: None, taken_at: now, about: false };
            let event =
                NewEvent { id: id_at(now)?, run, group: Some(group), actor, supersedes: None, said, received_at: now };
            insert(c, &event)
        })
    }
}

pub(crate) fn append(c: &Connection, event: &NewEvent) -> Result<Appended, StoreError> {
    if let Some(seq) = same_id(c, event)? {
        return Ok(Appended { seq, again: true, overtook: false });
    }
    let closed: Option<i64> = c
        .query_row("SELECT closed_at FROM run WHERE id = :run", named_params! {":run": event.run}, |r| r.get(0))
        .optional()?
        .ok_or(StoreError::NotFound("run"))?;
    if closed.is_some() && event.said.statement.slot().is_some() {
        return Err(StoreError::RunClosed);
    }
    let overtook = match event.supersedes {
        Some(corrected) => fold::is_superseded(c, event, corrected)?.ok_or(StoreError::NothingToCorrect)?,
        None => false,
    };
    Ok(Appended { overtook, ..insert(c, event)? })
}

/// A fresh id for an event that the record itself writes at `now`.
pub(crate) fn id_at(now: i64) -> Result<Uuid, StoreError> {
    let mut random = [0u8; 10];
    getrandom::fill(&mut random).map_err(|e| StoreError::Randomness(e.to_string()))?;
    Ok(uuid::Builder::from_unix_timestamp_millis(now.unsigned_abs(), &random).into_uuid())
}

/// The sequence number of an event with this id and content; an error when the content differs.
fn same_id(c: &Connection, event: &NewEvent) -> Result<Option<i64>, StoreError> {
    let sql =
        "SELECT e.seq, e.run_id, e.group_id, e.supersedes, p.body FROM event e LEFT JOIN payload p ON p.seq = e.seq
               WHERE e.id = :id";
    let mut statement = c.prepare_cached(sql)?;
    let mut rows = statement.query(named_params! {":id": event.id.as_bytes()})?;
    let Some(row) = rows.next()? else { return Ok(None) };
    let seq = row.get(0)?;
    let supersedes = row.get::<_, Option<[u8; 16]>>(3)?.map(Uuid::from_bytes);
    let body: Option<String> = row.get(4)?;
    let said: Option<Said> = body.map(|b| serde_json::from_str(&b)).transpose()?;
    // The time may be held differently at the second receipt; it is not what the group said.
    let same_words = said.is_some_and(|s| s.statement == event.said.statement && s.reason == event.said.reason);
    if same_words && (row.get(1)?, row.get(2)?, supersedes) == (event.run, event.group, event.supersedes) {
        return Ok(Some(seq));
    }
    Err(StoreError::IdTaken)
}

fn insert(c: &Connection, event: &NewEvent) -> Result<Appended, StoreError> {
    let body = serde_json::to_string(&event.said)?;
    let mut salt = [0u8; 16];
    getrandom::fill(&mut salt).map_err(|e| StoreError::Randomness(e.to_string()))?;
    let payload_hash = chain::payload_hash(&salt, &body);
    let head = chain::head(c)?;
    let seq = head.seq + 1;
    let link = chain::link(&head.chain, seq, event, PAYLOAD_VERSION, &payload_hash);
    c.execute(
        "INSERT INTO event (seq, id, run_id, group_id, actor, kind, payload_version, supersedes, received_at, payload_hash, chain)
         VALUES (:seq, :id, :run, :group, :actor, :kind, :version, :supersedes, :received_at, :payload_hash, :chain)",
        named_params! {
            ":seq": seq,
            ":id": event.id.as_bytes(),
            ":run": event.run,
            ":group": event.group,
            ":actor": event.actor,
            ":kind": event.said.statement.kind(),
            ":version": PAYLOAD_VERSION,
            ":supersedes": event.supersedes.as_ref().map(Uuid::as_bytes),
            ":received_at": event.received_at,
            ":payload_hash": payload_hash,
            ":chain": link,
        },
    )?;
    c.execute(
        "INSERT INTO payload (seq, salt, body) VALUES (:seq, :salt, :body)",
        named_params! {":seq": seq, ":salt": salt, ":body": body},
    )?;
    if let Some(group) = event.group {
        fold::apply(c, seq, event.run, group, &event.said, &body)?;
    }
    Ok(Appended { seq, again: false, overtook: false })
}
