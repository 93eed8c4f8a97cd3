//! What is prepared for a run: what was chosen for it, and what is done already.

use crate::db::Store;
use crate::error::StoreError;
use rusqlite::{OptionalExtension, named_params};

/// Something that is ready.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Tick {
    /// What, as the page names it: `material:base`.
    pub item: String,
    /// Name of whoever did it.
    pub by: String,
    /// In ms.
    pub at: i64,
}

impl Store {
    /// What was chosen for the preparation of a run, as it was written; none before anything was.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn preparation_choices(&self, run: i64) -> Result<Option<String>, StoreError> {
        self.read(|c| {
            let sql = "SELECT choices FROM preparation WHERE run_id = :run";
            Ok(c.query_row(sql, named_params! {":run": run}, |r| r.get(0)).optional()?)
        })
    }

    /// Keeps what is chosen for the preparation of a run.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn choose_preparation(&self, run: i64, choices: String, author: String, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            c.execute(
                "INSERT INTO preparation (run_id, choices, author, changed_at) VALUES (:run, :choices, :author, :now)
                 ON CONFLICT (run_id) DO UPDATE SET choices = excluded.choices, author = excluded.author,
                     changed_at = excluded.changed_at",
                named_params! {":run": run, ":choices": choices, ":author": author, ":now": now},
            )?;
            Ok(())
        })
    }

    /// What is ready for a run, in the order in which it was done.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn ticks(&self, run: i64) -> Result<Vec<Tick>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(
                "SELECT t.item, p.name, t.done_at FROM preparation_tick t JOIN person p ON p.id = t.person_id
                 WHERE t.run_id = :run ORDER BY t.done_at, t.item",
            )?;
            let rows = statement.query_map(named_params! {":run": run}, |r| {
                Ok(Tick { item: r.get(0)?, by: r.get(1)?, at: r.get(2)? })
            })?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// Says that something is ready, or that it is not. Who said it first stands.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn tick(&self, run: i64, item: String, done: bool, person: i64, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            if done {
                c.execute(
                    "INSERT INTO preparation_tick (run_id, item, person_id, done_at) VALUES (:run, :item, :person, :now)
                     ON CONFLICT (run_id, item) DO NOTHING",
                    named_params! {":run": run, ":item": item, ":person": person, ":now": now},
                )?;
            } else {
                c.execute(
                    "DELETE FROM preparation_tick WHERE run_id = :run AND item = :item",
                    named_params! {":run": run, ":item": item},
                )?;
            }
            Ok(())
        })
    }
}
