//! Events of a run: what was said, by whom, in which order.
//!
//! An event's id is made by the device that sends it (UUIDv7), so that a retry is stored once. The same id with other
//! content is refused. Order is the record's sequence, never a device's clock.

use crate::bench;
use crate::chain;
use crate::db::{Erasure, Store};
use crate::error::StoreError;
use crate::said::{NewEvent, PAYLOAD_VERSION, Reviewed, RunStatement, Said, Statement, actor_of, said_in};
use lab::bench::{Actor, Entry};
use rusqlite::{Connection, OptionalExtension, named_params};
use uuid::Uuid;

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

    /// Appends several, all or none.
    ///
    /// # Errors
    /// As [`Store::append`], for the first that cannot be.
    pub fn append_all(&self, events: Vec<NewEvent>) -> Result<(), StoreError> {
        self.write(move |c| events.iter().try_for_each(|event| append(c, event).map(drop)))
    }

    /// Deletes what a group entered, for good, signs its devices out, and says so in the record. The chain still verifies.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the run has no such group.
    pub fn erase_group(&self, run: i64, group: i64, actor: Actor, now: i64) -> Result<Erasure, StoreError> {
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
                "DELETE FROM payload WHERE seq IN (SELECT seq FROM event WHERE run_id = :run AND group_id = :group)",
                named_params! {":run": run, ":group": group},
            )?;
            c.execute("DELETE FROM session WHERE group_id = :group", named_params! {":group": group})?;
            insert(c, &NewEvent::of_record(run, Some(group), actor, RunStatement::Erased, now)?)
        })?;
        self.finish_erasing()
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

    /// Where in the record something was erased, by sequence number: a copy made before still has it.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn erasures(&self) -> Result<Vec<i64>, StoreError> {
        self.read(|c| {
            let sql = "SELECT seq FROM event WHERE kind IN ('erased', 'person-erased') ORDER BY seq";
            let mut statement = c.prepare_cached(sql)?;
            Ok(statement.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?)
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
        Some(corrected) => is_superseded(c, event, corrected)?.ok_or(StoreError::NothingToCorrect)?,
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

/// Whether the entry that a correction names was corrected before; none if this group made no such one in that place.
fn is_superseded(c: &Connection, event: &NewEvent, corrected: Uuid) -> Result<Option<bool>, StoreError> {
    let Some(place) = event.said.statement.place() else { return Ok(None) };
    let mut statement = c.prepare_cached(
        "SELECT e.seq, e.id, e.actor, e.kind, e.received_at, e.payload_version, p.body
         FROM event e JOIN payload p ON p.seq = e.seq
         WHERE e.run_id = :run AND e.group_id IS :group AND e.seq >= (SELECT seq FROM event WHERE id = :id)
         ORDER BY e.seq",
    )?;
    let id = corrected.as_bytes();
    let mut rows = statement.query(named_params! {":run": event.run, ":group": event.group, ":id": id})?;
    let (mut found, mut overtaken) = (false, false);
    while let Some(row) = rows.next()? {
        let Some(filed) = bench::filed(row)?.filter(|f| f.entry.place() == place) else { continue };
        match found {
            false if filed.id == corrected => found = true,
            false => return Ok(None),
            true => overtaken = true,
        }
    }
    Ok(found.then_some(overtaken))
}
