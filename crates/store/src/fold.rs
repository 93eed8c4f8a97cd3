//! What stands now, folded from the events in their own transaction.
//!
//! Each entry of a group is a row; a later entry for the same place supersedes it. Nothing is lost: the superseded rows
//! are what the interface shows struck through.

use crate::error::StoreError;
use crate::event::{Actor, NewEvent, Said, Statement};
use crate::writer::Store;
use lab::bench::{Entries, Room};
use rusqlite::{Connection, OptionalExtension, named_params};
use std::sync::Arc;
use uuid::Uuid;

/// Raised when folding changes; an older record is folded again at start.
const FOLD_VERSION: &str = "1";

/// One entry of a group, current or superseded.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Entry {
    /// The record's order.
    pub seq: i64,
    /// The event.
    pub id: Uuid,
    /// Who.
    pub actor: Actor,
    /// What was said, why and when.
    pub said: Said,
    /// Receipt, in ms.
    pub received_at: i64,
    /// The entry that took its place.
    pub superseded_by: Option<i64>,
}

/// A group's bench as it stands.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct BenchState {
    /// All entries, in order.
    pub entries: Vec<Entry>,
}

impl BenchState {
    /// What the core computes from: everything said, in order, each in the place of what it supersedes.
    #[must_use]
    pub fn current(&self, room: &Room) -> Entries {
        self.as_of(i64::MAX, room)
    }

    /// What stood when the record had come to `seq`.
    #[must_use]
    pub fn as_of(&self, seq: i64, room: &Room) -> Entries {
        let mut out = Entries::default();
        for entry in self.entries.iter().take_while(|e| e.seq <= seq) {
            match &entry.said.statement {
                Statement::Bench(said) => out.put(said, entry.said.taken_at, room),
                Statement::Run(_) => {}
            }
        }
        out
    }
}

impl BenchState {
    /// One more entry, which takes the place of what stood there.
    fn add(&mut self, entry: Entry) {
        let place = |e: &Entry| (e.said.statement.fills(), e.said.statement.slot());
        let here = place(&entry);
        let before = self.entries.iter_mut().rev().find(|e| e.superseded_by.is_none() && place(e) == here);
        if let Some(before) = before {
            before.superseded_by = Some(entry.seq);
        }
        self.entries.push(entry);
    }
}

/// What a group has entered after `last`, in order.
fn entries_after(c: &Connection, run: i64, group: i64, last: i64) -> Result<Vec<Entry>, StoreError> {
    let mut statement = c.prepare_cached(
        "SELECT n.seq, e.id, e.actor, n.body, e.received_at FROM entry n JOIN event e ON e.seq = n.seq
         WHERE n.run_id = :run AND n.group_id = :group AND n.seq > :last ORDER BY n.seq",
    )?;
    let mut rows = statement.query(named_params! {":run": run, ":group": group, ":last": last})?;
    let mut out = Vec::new();
    while let Some(r) = rows.next()? {
        out.push(Entry {
            seq: r.get(0)?,
            id: Uuid::from_bytes(r.get(1)?),
            actor: Actor::read(&r.get::<_, String>(2)?),
            said: serde_json::from_str(&r.get::<_, String>(3)?)?,
            received_at: r.get(4)?,
            // Whatever took its place comes after it, and says so when it is added.
            superseded_by: None,
        });
    }
    Ok(out)
}

impl Store {
    /// Everything that a group of a run has entered.
    ///
    /// What was read before is kept; only what has come since is read from the record, unless something is missing there
    /// by now (it was erased, perhaps by another process).
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn bench(&self, run: i64, group: i64) -> Result<Arc<BenchState>, StoreError> {
        let known = self.known_bench(group).unwrap_or_default();
        let last = known.entries.last().map_or(0, |e| e.seq);
        let (there, new) = self.read(|c| {
            let mut count = c.prepare_cached(
                "SELECT count(*) FROM entry WHERE run_id = :run AND group_id = :group AND seq <= :last",
            )?;
            let there: i64 =
                count.query_row(named_params! {":run": run, ":group": group, ":last": last}, |r| r.get(0))?;
            let whole = usize::try_from(there).is_ok_and(|n| n == known.entries.len());
            Ok((whole, entries_after(c, run, group, if whole { last } else { 0 })?))
        })?;
        if there && new.is_empty() {
            return Ok(known);
        }
        let mut state = if there { Arc::unwrap_or_clone(known) } else { BenchState::default() };
        for entry in new {
            state.add(entry);
        }
        let state = Arc::new(state);
        self.keep_bench(group, Arc::clone(&state));
        Ok(state)
    }

    /// Sequence number of the last event of a run, 0 when there is none.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn last_seq(&self, run: i64) -> Result<i64, StoreError> {
        self.read(|c| {
            let sql = "SELECT coalesce(max(seq), 0) FROM event WHERE run_id = :run";
            Ok(c.query_row(sql, named_params! {":run": run}, |r| r.get(0))?)
        })
    }

    /// Folds the whole record again, as a start after a change of folding does.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn rebuild(&self) -> Result<(), StoreError> {
        self.write(rebuild)?;
        self.forget_benches();
        Ok(())
    }
}

/// Whether the entry that a correction names was corrected before; none if this group made no such one in that place.
pub(crate) fn is_superseded(c: &Connection, event: &NewEvent, corrected: Uuid) -> Result<Option<bool>, StoreError> {
    let found = c
        .query_row(
            "SELECT n.superseded_by IS NOT NULL FROM entry n JOIN event e ON e.seq = n.seq
             WHERE e.id = :id AND n.run_id = :run AND n.group_id IS :group AND n.kind = :kind AND n.slot IS :slot",
            named_params! {
                ":id": corrected.as_bytes(),
                ":run": event.run,
                ":group": event.group,
                ":kind": event.said.statement.fills(),
                ":slot": event.said.statement.slot(),
            },
            |r| r.get(0),
        )
        .optional()?;
    Ok(found)
}

pub(crate) fn apply(c: &Connection, seq: i64, run: i64, group: i64, said: &Said, body: &str) -> Result<(), StoreError> {
    let Some(slot) = said.statement.slot() else { return Ok(()) };
    let kind = said.statement.fills();
    c.prepare_cached(
        "UPDATE entry SET superseded_by = :seq
         WHERE run_id = :run AND group_id = :group AND kind = :kind AND slot = :slot AND superseded_by IS NULL",
    )?
    .execute(named_params! {":seq": seq, ":run": run, ":group": group, ":kind": kind, ":slot": slot})?;
    c.prepare_cached(
        "INSERT INTO entry (seq, run_id, group_id, kind, slot, body) VALUES (:seq, :run, :group, :kind, :slot, :body)",
    )?
    .execute(named_params! {":seq": seq, ":run": run, ":group": group, ":kind": kind, ":slot": slot, ":body": body})?;
    Ok(())
}

pub(crate) fn rebuild_if_outdated(c: &mut Connection) -> Result<(), StoreError> {
    let known: Option<String> =
        c.query_row("SELECT value FROM meta WHERE key = 'fold_version'", [], |r| r.get(0)).optional()?;
    if known.as_deref() == Some(FOLD_VERSION) {
        return Ok(());
    }
    let transaction = c.transaction()?;
    rebuild(&transaction)?;
    transaction.execute(
        "INSERT INTO meta (key, value) VALUES ('fold_version', :version)
         ON CONFLICT (key) DO UPDATE SET value = excluded.value",
        named_params! {":version": FOLD_VERSION},
    )?;
    Ok(transaction.commit()?)
}

fn rebuild(c: &Connection) -> Result<(), StoreError> {
    c.execute("DELETE FROM entry", [])?;
    let mut statement = c.prepare(
        "SELECT e.seq, e.run_id, e.group_id, p.body FROM event e JOIN payload p ON p.seq = e.seq
         WHERE e.group_id IS NOT NULL ORDER BY e.seq",
    )?;
    let mut rows = statement.query([])?;
    while let Some(r) = rows.next()? {
        let body: String = r.get(3)?;
        let said: Said = serde_json::from_str(&body)?;
        apply(c, r.get(0)?, r.get(1)?, r.get(2)?, &said, &body)?;
    }
    Ok(())
}
