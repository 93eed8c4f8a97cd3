//! Visits of a run, and who sits at which bench.
//!
//! A practical may take several lessons. A *visit* is one of them: when it begins, and for how long. A *seat* says that
//! a person is at a bench from a visit on, or absent; it holds until a later visit says otherwise.

use crate::db::Store;
use crate::error::StoreError;
use lab::roll::{Seat, Visit};
use rusqlite::{Connection, named_params};

impl Store {
    /// The visits of a run, in order.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn visits(&self, run: i64) -> Result<Vec<Visit>, StoreError> {
        self.read(|c| {
            let mut statement =
                c.prepare_cached("SELECT nr, begins_at, minutes FROM visit WHERE run_id = :run ORDER BY nr")?;
            let rows = statement.query_map(named_params! {":run": run}, |r| {
                Ok(Visit { nr: r.get(0)?, begins_at: r.get(1)?, minutes: r.get(2)? })
            })?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// Says when a run is worked on, all visits at once.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn set_visits(&self, run: i64, visits: Vec<Visit>) -> Result<(), StoreError> {
        self.write(move |c| set_visits(c, run, &visits))
    }

    /// Who is where from which visit on, in the order of visits and names.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn seats(&self, run: i64) -> Result<Vec<Seat>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(
                "SELECT s.visit, s.person_id, p.name, s.group_id FROM seat s JOIN person p ON p.id = s.person_id
                 WHERE s.run_id = :run ORDER BY s.visit, p.name, p.id",
            )?;
            let rows = statement.query_map(named_params! {":run": run}, |r| {
                Ok(Seat { visit: r.get(0)?, person: r.get(1)?, name: r.get(2)?, group: r.get(3)? })
            })?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// Seats a person of the run's class at a bench from a visit on, or notes that the person is absent.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the class has no such person, or the run no such group.
    pub fn seat(&self, run: i64, visit: i64, person: i64, group: Option<i64>, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            let there = |sql: &str, one: i64, of: &'static str| {
                let found: bool = c.query_row(sql, named_params! {":run": run, ":one": one}, |r| r.get(0))?;
                if found { Ok(()) } else { Err(StoreError::NotFound(of)) }
            };
            there(
                "SELECT EXISTS (SELECT 1 FROM run r JOIN member m ON m.class_id = r.class_id
                 WHERE r.id = :run AND m.person_id = :one)",
                person,
                "person in this class",
            )?;
            if let Some(group) = group {
                there("SELECT EXISTS (SELECT 1 FROM bench_group WHERE run_id = :run AND id = :one)", group, "group")?;
            }
            seat(c, run, visit, person, group, now)
        })
    }
}

pub(crate) fn set_visits(c: &Connection, run: i64, visits: &[Visit]) -> Result<(), StoreError> {
    c.execute("DELETE FROM visit WHERE run_id = :run", named_params! {":run": run})?;
    for v in visits {
        c.execute(
            "INSERT INTO visit (run_id, nr, begins_at, minutes) VALUES (:run, :nr, :begins, :minutes)",
            named_params! {":run": run, ":nr": v.nr, ":begins": v.begins_at, ":minutes": v.minutes},
        )?;
    }
    Ok(())
}

pub(crate) fn seat(
    c: &Connection,
    run: i64,
    visit: i64,
    person: i64,
    group: Option<i64>,
    now: i64,
) -> Result<(), StoreError> {
    c.execute(
        "INSERT INTO seat (run_id, visit, person_id, group_id, changed_at) VALUES (:run, :visit, :person, :group, :now)
         ON CONFLICT (run_id, visit, person_id) DO UPDATE SET group_id = excluded.group_id,
             changed_at = excluded.changed_at",
        named_params! {":run": run, ":visit": visit, ":person": person, ":group": group, ":now": now},
    )?;
    Ok(())
}
