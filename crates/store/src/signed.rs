//! What instructors sign, and what they note for the next class.

use crate::chain::Head;
use crate::db::Store;
use crate::error::StoreError;
use crate::event::{Appended, insert};
use crate::said::{NewEvent, RunStatement, Statement, actor_of, said_in};
use lab::bench::Actor;
use rusqlite::{Row, named_params};
use std::collections::BTreeMap;

/// A signature under what stood at that time.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SignOff {
    /// The group whose page is signed; none for the run as a whole.
    pub group: Option<i64>,
    /// Who.
    pub actor: Actor,
    /// When, in ms.
    pub at: i64,
    /// The end of the chain with it: what is signed is everything up to there.
    pub head: Head,
    /// What was said of the group, or of any group of the run, since then.
    pub later: i64,
}

/// What the next class is to know.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NextTime {
    /// The run that it was learnt in.
    pub run: i64,
    /// The words.
    pub text: String,
    /// Who.
    pub actor: Actor,
    /// When, in ms.
    pub at: i64,
}

/// What became of a group's product.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ProductKept {
    /// The group.
    pub group: i64,
    /// Symbol of the material.
    pub symbol: String,
    /// It is still there.
    pub kept: bool,
    /// Where it is kept, or how it was thrown away.
    pub place: String,
    /// Who said so.
    pub actor: Actor,
    /// When, in ms.
    pub at: i64,
}

impl Store {
    /// Signs what stands at a bench, or in the run, up to now.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the run has no such group.
    pub fn sign_off(&self, run: i64, group: Option<i64>, actor: Actor, now: i64) -> Result<Appended, StoreError> {
        self.write(move |c| {
            let sql = "SELECT EXISTS (SELECT 1 FROM run r LEFT JOIN bench_group g ON g.run_id = r.id
                       WHERE r.id = :run AND (:group IS NULL OR g.id = :group))";
            if !c.query_row(sql, named_params! {":run": run, ":group": group}, |r| r.get(0))? {
                return Err(StoreError::NotFound("group"));
            }
            insert(c, &NewEvent::of_record(run, group, actor, RunStatement::SignedOff, now)?)
        })
    }

    /// The signatures of a run, oldest first.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn signed_off(&self, run: i64) -> Result<Vec<SignOff>, StoreError> {
        self.read(|c| {
            // Reviews, releases and signatures are about what was said; they change nothing of it.
            let mut statement = c.prepare_cached(
                "SELECT s.seq, s.group_id, s.actor, s.received_at, s.chain,
                        (SELECT count(*) FROM event e WHERE e.run_id = s.run_id AND e.seq > s.seq
                         AND e.group_id IS NOT NULL AND (s.group_id IS NULL OR e.group_id = s.group_id)
                         AND e.kind NOT IN ('signed-off', 'reviewed', 'released', 'message', 'product')) AS later
                 FROM event s WHERE s.run_id = :run AND s.kind = 'signed-off' ORDER BY s.seq",
            )?;
            let mut rows = statement.query(named_params! {":run": run})?;
            let mut out = Vec::new();
            while let Some(r) = rows.next()? {
                out.push(SignOff {
                    group: r.get("group_id")?,
                    actor: actor_of(r)?,
                    at: r.get("received_at")?,
                    head: Head { seq: r.get("seq")?, chain: r.get("chain")? },
                    later: r.get("later")?,
                });
            }
            Ok(out)
        })
    }

    /// Notes what the next class is to know; an empty text takes the note back.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn note_for_next_time(&self, run: i64, text: String, actor: Actor, now: i64) -> Result<Appended, StoreError> {
        self.write(move |c| insert(c, &NewEvent::of_record(run, None, actor, RunStatement::NextTime { text }, now)?))
    }

    /// Says what became of a group's product.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn keep_product(&self, run: i64, of: ProductKept) -> Result<Appended, StoreError> {
        self.write(move |c| {
            let said = RunStatement::Product { symbol: of.symbol, kept: of.kept, place: of.place };
            insert(c, &NewEvent::of_record(run, Some(of.group), of.actor, said, of.at)?)
        })
    }

    /// What became of the products of a run, as it was said last.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn products_kept(&self, run: i64) -> Result<Vec<ProductKept>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(
                "SELECT e.group_id, e.actor, e.received_at, e.payload_version, p.body
                 FROM event e JOIN payload p ON p.seq = e.seq WHERE e.run_id = :run AND e.kind = 'product' ORDER BY e.seq",
            )?;
            let mut rows = statement.query(named_params! {":run": run})?;
            let mut out: BTreeMap<(i64, String), ProductKept> = BTreeMap::new();
            while let Some(r) = rows.next()? {
                let Statement::Run(RunStatement::Product { symbol, kept, place }) = said_in(r)?.statement else { continue };
                let Some(group) = r.get("group_id")? else { continue };
                let (actor, at) = (actor_of(r)?, r.get("received_at")?);
                out.insert((group, symbol.clone()), ProductKept { group, symbol, kept, place, actor, at });
            }
            Ok(out.into_values().collect())
        })
    }

    /// What holds of the notes of all runs, the newest first.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn notes_for_next_time(&self) -> Result<Vec<NextTime>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(
                "SELECT e.run_id, e.actor, e.received_at, e.payload_version, p.body
                 FROM event e JOIN payload p ON p.seq = e.seq
                 WHERE e.seq IN (SELECT max(seq) FROM event WHERE kind = 'next-time' GROUP BY run_id) ORDER BY e.seq DESC",
            )?;
            let mut rows = statement.query([])?;
            let mut out = Vec::new();
            while let Some(r) = rows.next()? {
                out.extend(noted(r)?);
            }
            Ok(out)
        })
    }
}

fn noted(r: &Row<'_>) -> Result<Option<NextTime>, StoreError> {
    let Statement::Run(RunStatement::NextTime { text }) = said_in(r)?.statement else { return Ok(None) };
    if text.is_empty() {
        return Ok(None);
    }
    Ok(Some(NextTime { run: r.get("run_id")?, text, actor: actor_of(r)?, at: r.get("received_at")? }))
}
