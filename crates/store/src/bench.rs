//! What a group has entered, read from the record: the events themselves, folded by `lab::bench::Record` and nowhere else.

use crate::error::StoreError;
use crate::event::{NewEvent, Statement, actor_of, said_in};
use crate::writer::Store;
use lab::bench::{EntryKind, Filed, Record};
use rusqlite::{Connection, Row, named_params};
use std::str::FromStr;
use std::sync::Arc;
use uuid::Uuid;

/// What was read of a bench before.
#[derive(Debug, Clone, Default)]
pub(crate) struct Known {
    record: Arc<Record>,
    /// The last event of the group that was looked at, an entry or not.
    last: i64,
    /// How many of them there were.
    events: i64,
}

/// An event as it is filed at a bench; none of what is said of the run.
fn filed(row: &Row<'_>) -> Result<Option<Filed>, StoreError> {
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

/// Whether the entry that a correction names was corrected before; none if this group made no such one in that place.
pub(crate) fn is_superseded(c: &Connection, event: &NewEvent, corrected: Uuid) -> Result<Option<bool>, StoreError> {
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
        let Some(filed) = filed(row)?.filter(|f| f.entry.place() == place) else { continue };
        match found {
            false if filed.id == corrected => found = true,
            false => return Ok(None),
            true => overtaken = true,
        }
    }
    Ok(found.then_some(overtaken))
}
