//! Classes, runs and their groups.

use crate::error::StoreError;
use crate::event::{self, NewEvent, RunStatement, Said, Statement};
use crate::writer::Store;
use rusqlite::{Connection, OptionalExtension, Row, named_params};

/// One run of a practical with a class.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Run {
    /// Id.
    pub id: i64,
    /// The practical.
    pub practical: String,
    /// The version it started with.
    pub version: i64,
    /// Name of the class.
    pub class: String,
    /// What groups join with.
    pub code: String,
    /// In ms.
    pub opened_at: i64,
    /// In ms, if it is closed.
    pub closed_at: Option<i64>,
}

/// One group of a run.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Group {
    /// Id.
    pub id: i64,
    /// The run it belongs to.
    pub run: i64,
    /// Name.
    pub name: String,
    /// What a second device of the group must know.
    pub pin: String,
    /// When its first device came, in ms.
    pub claimed_at: Option<i64>,
}

/// A run to be opened.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NewRun {
    /// The practical.
    pub practical: String,
    /// Its version.
    pub version: i64,
    /// Name of the class.
    pub class: String,
    /// Who opens it.
    pub owner: i64,
    /// What groups join with; unique.
    pub code: String,
    /// Names and PINs, in bench order.
    pub groups: Vec<(String, String)>,
    /// In ms.
    pub now: i64,
}

const RUN: &str = "SELECT r.id, r.practical_id, r.practical_version, k.name, r.code, r.opened_at, r.closed_at
                   FROM run r JOIN class k ON k.id = r.class_id";
const GROUP: &str = "SELECT id, run_id, name, pin, claimed_at FROM bench_group";

impl Store {
    /// Opens a run with its groups.
    ///
    /// # Errors
    /// [`StoreError::Database`], among others when the code is taken or two groups share a name.
    pub fn open_run(&self, new: NewRun) -> Result<Run, StoreError> {
        self.write(move |c| {
            let class = class(c, &new)?;
            c.execute(
                "INSERT INTO run (practical_id, practical_version, class_id, code, opened_at)
                 VALUES (:practical, :version, :class, :code, :now)",
                named_params! {
                    ":practical": new.practical, ":version": new.version, ":class": class, ":code": new.code, ":now": new.now,
                },
            )?;
            let run = c.last_insert_rowid();
            for (position, (name, pin)) in (0i64..).zip(&new.groups) {
                c.execute(
                    "INSERT INTO bench_group (run_id, position, name, pin) VALUES (:run, :position, :name, :pin)",
                    named_params! {":run": run, ":position": position, ":name": name, ":pin": pin},
                )?;
            }
            run_by(c, "r.id = :key", &run)
        })
    }

    /// All runs, newest first.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn runs(&self) -> Result<Vec<Run>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(&format!("{RUN} ORDER BY r.opened_at DESC, r.id DESC"))?;
            let rows = statement.query_map([], to_run)?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// The run with this id.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none.
    pub fn run(&self, id: i64) -> Result<Run, StoreError> {
        self.read(|c| run_by(c, "r.id = :key", &id))
    }

    /// The run with this code.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none.
    pub fn run_with_code(&self, code: &str) -> Result<Run, StoreError> {
        self.read(|c| run_by(c, "r.code = :key", &code))
    }

    /// Groups of a run, in bench order.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn groups(&self, run: i64) -> Result<Vec<Group>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(&format!("{GROUP} WHERE run_id = :run ORDER BY position"))?;
            let rows = statement.query_map(named_params! {":run": run}, to_group)?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// The group with this id.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none.
    pub fn group(&self, id: i64) -> Result<Group, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(&format!("{GROUP} WHERE id = :id"))?;
            statement.query_row(named_params! {":id": id}, to_group).optional()?.ok_or(StoreError::NotFound("group"))
        })
    }

    /// Claims a group for its first device; says whether this call was the one that did.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn claim(&self, group: i64, now: i64) -> Result<bool, StoreError> {
        self.write(move |c| {
            let sql = "UPDATE bench_group SET claimed_at = :now WHERE id = :group AND claimed_at IS NULL";
            Ok(c.execute(sql, named_params! {":now": now, ":group": group})? == 1)
        })
    }

    /// Closes a run to new entries, or opens it again, and says so in the record.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such run.
    pub fn set_closed(&self, run: i64, closed: bool, actor: String, now: i64) -> Result<(), StoreError> {
        let statement = Statement::Run(if closed { RunStatement::RunClosed } else { RunStatement::RunReopened });
        let at = closed.then_some(now);
        let said = Said { statement, reason: None, taken_at: now, about: false };
        self.write(move |c| {
            let sql = "UPDATE run SET closed_at = :at WHERE id = :run";
            if c.execute(sql, named_params! {":at": at, ":run": run})? == 0 {
                return Err(StoreError::NotFound("run"));
            }
            let id = event::id_at(now)?;
            event::append(c, &NewEvent { id, run, group: None, actor, supersedes: None, said, received_at: now })?;
            Ok(())
        })
    }
}

fn class(c: &Connection, new: &NewRun) -> Result<i64, StoreError> {
    let sql = "SELECT id FROM class WHERE name = :name AND owner_id = :owner";
    let known = c.query_row(sql, named_params! {":name": new.class, ":owner": new.owner}, |r| r.get(0)).optional()?;
    if let Some(id) = known {
        return Ok(id);
    }
    c.execute(
        "INSERT INTO class (name, owner_id, created_at) VALUES (:name, :owner, :now)",
        named_params! {":name": new.class, ":owner": new.owner, ":now": new.now},
    )?;
    Ok(c.last_insert_rowid())
}

fn run_by(c: &Connection, which: &str, key: &dyn rusqlite::ToSql) -> Result<Run, StoreError> {
    let mut statement = c.prepare_cached(&format!("{RUN} WHERE {which}"))?;
    statement.query_row(&[(":key", key)], to_run).optional()?.ok_or(StoreError::NotFound("run"))
}

fn to_run(r: &Row<'_>) -> rusqlite::Result<Run> {
    Ok(Run {
        id: r.get(0)?,
        practical: r.get(1)?,
        version: r.get(2)?,
        class: r.get(3)?,
        code: r.get(4)?,
        opened_at: r.get(5)?,
        closed_at: r.get(6)?,
    })
}

fn to_group(r: &Row<'_>) -> rusqlite::Result<Group> {
    Ok(Group { id: r.get(0)?, run: r.get(1)?, name: r.get(2)?, pin: r.get(3)?, claimed_at: r.get(4)? })
}
