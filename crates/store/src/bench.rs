//! What a group has entered, read from the record: the events themselves, folded by `lab::bench::Record` and nowhere else.

use crate::db::{Known, Store};
use crate::error::StoreError;
use crate::said::{Statement, actor_of, said_in};
use lab::bench::{Actor, Entry, EntryKind, Filed, Record};
use rusqlite::{Row, named_params};
use std::collections::BTreeSet;
use std::str::FromStr;
use std::sync::Arc;
use uuid::Uuid;

/// An event as it is filed at a bench; none of what is said of the run.
pub(crate) fn filed(row: &Row<'_>) -> Result<Option<Filed>, StoreError> {
    if EntryKind::from_str(&row.get::<_, String>("kind")?).is_err() {
        return Ok(None);
    }
    let said = said_in(row)?;
    let Statement::Bench(entry) = said.statement else { return Ok(None) };
    Ok(Some(Filed {
        seq: row.get("seq")?,
        id: Uuid::from_bytes(row.get("id")?),
        actor: actor_of(row)?,
        entry,
        reason: said.reason,
        at: said.taken_at,
        about: said.about,
        person: said.person,
        received_at: row.get("received_at")?,
    }))
}

const EVENTS: &str = "SELECT e.seq, e.id, e.actor, e.kind, e.received_at, e.payload_version, p.body
     FROM event e JOIN payload p ON p.seq = e.seq
     WHERE e.run_id = :run AND e.group_id = :group AND e.seq > :last ORDER BY e.seq";
const HOW_MANY: &str = "SELECT count(*) FROM event e JOIN payload p ON p.seq = e.seq
     WHERE e.run_id = :run AND e.group_id = :group AND e.seq <= :last";

impl Store {
    /// Everything that a group of a run has entered.
    ///
    /// What was read before is kept; only what has come since is read from the record, unless something is missing there
    /// by now (it was erased, perhaps by another process).
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read, [`StoreError::Payload`] or [`StoreError::Actor`] when
    /// something in it cannot.
    pub fn bench(&self, run: i64, group: i64) -> Result<Arc<Record>, StoreError> {
        let mut known = self.known_bench(group).unwrap_or_default();
        let fresh = self.read(|c| {
            let mut count = c.prepare_cached(HOW_MANY)?;
            let there: i64 =
                count.query_row(named_params! {":run": run, ":group": group, ":last": known.last}, |r| r.get(0))?;
            if there != known.events {
                known = Known::default();
            }
            let before = known.events;
            let mut statement = c.prepare_cached(EVENTS)?;
            let mut rows = statement.query(named_params! {":run": run, ":group": group, ":last": known.last})?;
            while let Some(row) = rows.next()? {
                known.last = row.get("seq")?;
                known.events += 1;
                if let Some(filed) = filed(row)? {
                    Arc::make_mut(&mut known.record).file(filed);
                }
            }
            Ok(known.events != before)
        })?;
        let record = Arc::clone(&known.record);
        if fresh {
            self.keep_bench(group, known);
        }
        Ok(record)
    }

    /// Names of the photos that some group keeps.
    ///
    /// # Errors
    /// As [`Store::bench`].
    pub fn photos_kept(&self) -> Result<BTreeSet<String>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(
                "SELECT e.group_id, e.payload_version, p.body FROM event e JOIN payload p ON p.seq = e.seq
                 WHERE e.kind = 'photo' ORDER BY e.seq",
            )?;
            let mut rows = statement.query([])?;
            let mut kept = BTreeSet::new();
            while let Some(r) = rows.next()? {
                let group: Option<i64> = r.get("group_id")?;
                match said_in(r)?.statement {
                    Statement::Bench(Entry::Photo { name, deleted: true, .. }) => kept.remove(&(group, name)),
                    Statement::Bench(Entry::Photo { name, deleted: false, .. }) => kept.insert((group, name)),
                    Statement::Bench(_) | Statement::Run(_) => false,
                };
            }
            Ok(kept.into_iter().map(|(_, name)| name).collect())
        })
    }

    /// How many events of a run an actor has written.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn written_by(&self, run: i64, actor: Actor) -> Result<u32, StoreError> {
        self.read(|c| {
            let sql = "SELECT count(*) FROM event WHERE run_id = :run AND actor = :actor";
            Ok(c.query_row(sql, named_params! {":run": run, ":actor": actor.to_string()}, |r| r.get(0))?)
        })
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
}
