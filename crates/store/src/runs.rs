//! Runs and their groups.

use crate::classes::{class_of, insert_class};
use crate::db::Store;
use crate::error::StoreError;
use crate::event::insert;
use crate::said::{NewEvent, RunStatement};
use crate::visits::{seat, set_visits};
use lab::bench::{Actor, Room, RoomItem};
use lab::roll::Visit;
use practical::{Allotted, School};
use rusqlite::types::Type;
use rusqlite::{Connection, OptionalExtension, Row, named_params};
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;

/// One run of a practical with a class.
#[derive(Debug, Clone, PartialEq)]
pub struct Run {
    /// Id.
    pub id: i64,
    /// The practical.
    pub practical: String,
    /// The version it started with.
    pub version: i64,
    /// Id of the class.
    pub class_id: i64,
    /// Name of the class.
    pub class: String,
    /// What groups join with.
    pub code: String,
    /// In ms.
    pub opened_at: i64,
    /// In ms, if it is closed.
    pub closed_at: Option<i64>,
    /// In ms, while the class listens.
    pub paused_at: Option<i64>,
    /// Whether photos are taken at the benches.
    pub photos: bool,
    /// The edition of the relative atomic masses that it is computed with.
    pub masses: String,
    /// What the school had chosen when it was opened.
    pub school: School,
    /// What its instructors call it; empty where it goes by its practical.
    pub title: String,
    /// When it was put away, in ms.
    pub archived_at: Option<i64>,
    /// Where it was read from a file of another school: what that says of itself; empty for our own.
    pub origin: String,
    /// How a class that was never there works in it; none for a run of the record.
    pub rehearsal: Option<Rehearsal>,
}

/// How a class that was never there works: the same numbers, the same class.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub struct Rehearsal {
    /// Which of the classes.
    pub seed: u32,
    /// Of a hundred groups, how many slip once at the bench.
    pub slips_at_bench: u8,
    /// Of a hundred sums, how many go wrong.
    pub slips_in_sums: u8,
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
    /// What it was given that others were not.
    pub allotted: Allotted,
    /// The bench that it stands at, where that is known: `B`.
    pub bench: Option<String>,
    /// The group at whose bench it goes on.
    pub merged_into: Option<i64>,
}

/// A group to be made.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct NewGroup {
    /// Name, unique in its run.
    pub name: String,
    /// What its second device must know.
    pub pin: String,
    /// What it is given that others are not.
    pub allotted: Allotted,
    /// The bench that it stands at.
    pub bench: Option<String>,
    /// Who is in it, of the class.
    pub people: Vec<i64>,
}

/// The class of a run to be opened.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum OfClass {
    /// One that is there.
    Known(i64),
    /// The opener's own of this name; made if there is none.
    Named(String),
}

/// A run to be opened.
#[derive(Debug, Clone, PartialEq)]
pub struct NewRun {
    /// The practical.
    pub practical: String,
    /// Its version.
    pub version: i64,
    /// The class.
    pub class: OfClass,
    /// Who opens it.
    pub owner: i64,
    /// What groups join with; unique.
    pub code: String,
    /// In bench order.
    pub groups: Vec<NewGroup>,
    /// When it is worked on.
    pub visits: Vec<Visit>,
    /// Whether photos are taken at the benches.
    pub photos: bool,
    /// The edition of the relative atomic masses.
    pub masses: String,
    /// What the school has chosen.
    pub school: School,
    /// How a class that was never there works in it.
    pub rehearsal: Option<Rehearsal>,
    /// In ms.
    pub now: i64,
}

const RUN: &str = "SELECT r.id, r.practical_id, r.practical_version, r.class_id, k.name, r.code, r.opened_at,
                          r.closed_at, r.paused_at, r.photos, r.masses, r.school, r.title, r.archived_at, r.origin, r.rehearsal
                   FROM run r JOIN class k ON k.id = r.class_id";
const GROUP: &str =
    "SELECT id, run_id, name, pin, claimed_at, assignment, unknown, bench, merged_into FROM bench_group";

impl Store {
    /// Opens a run with its groups.
    ///
    /// # Errors
    /// [`StoreError::Database`], among others when the code is taken or two groups share a name.
    pub fn open_run(&self, new: NewRun) -> Result<Run, StoreError> {
        self.write(move |c| {
            let class = match &new.class {
                OfClass::Known(id) => *id,
                OfClass::Named(name) => match class_of(c, name, new.owner)? {
                    Some(known) => known,
                    None => insert_class(c, name, new.owner, new.now)?,
                },
            };
            c.execute(
                "INSERT INTO run (practical_id, practical_version, class_id, code, opened_at, photos, masses, school,
                                  rehearsal)
                 VALUES (:practical, :version, :class, :code, :now, :photos, :masses, :school, :rehearsal)",
                named_params! {
                    ":practical": new.practical, ":version": new.version, ":class": class, ":code": new.code,
                    ":now": new.now, ":photos": new.photos, ":masses": new.masses,
                    ":school": serde_json::to_string(&new.school)?,
                    ":rehearsal": new.rehearsal.map(|r| serde_json::to_string(&r)).transpose()?,
                },
            )?;
            let run = c.last_insert_rowid();
            set_visits(c, run, &new.visits)?;
            for (position, group) in (0i64..).zip(&new.groups) {
                insert_group(c, run, position, group, new.now)?;
            }
            run_by(c, "r.id = :key", &run)
        })
    }

    /// All runs of the record, newest first; no rehearsal.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn runs(&self) -> Result<Vec<Run>, StoreError> {
        self.runs_that("r.rehearsal IS NULL")
    }

    /// All rehearsals, newest first.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn rehearsals(&self) -> Result<Vec<Run>, StoreError> {
        self.runs_that("r.rehearsal IS NOT NULL")
    }

    fn runs_that(&self, are: &str) -> Result<Vec<Run>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(&format!("{RUN} WHERE {are} ORDER BY r.opened_at DESC, r.id DESC"))?;
            let rows = statement.query_map([], to_run)?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// What runs and rehearsals are joined with.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn codes(&self) -> Result<BTreeSet<String>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached("SELECT code FROM run")?;
            Ok(statement.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?)
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

    /// The names of all groups of all runs, each with its run.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn group_names(&self) -> Result<Vec<(i64, i64, String)>, StoreError> {
        self.read(|c| {
            let mut statement =
                c.prepare_cached("SELECT run_id, id, name FROM bench_group ORDER BY run_id, position")?;
            let rows = statement.query_map([], |r| Ok((r.get(0)?, r.get(1)?, r.get(2)?)))?;
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

    /// Puts one more group at the end of the benches: one that comes late.
    ///
    /// # Errors
    /// [`StoreError::NameTaken`] when the run has a group of this name.
    pub fn add_group(&self, run: i64, group: NewGroup, now: i64) -> Result<Group, StoreError> {
        self.write(move |c| {
            let sql = "SELECT EXISTS (SELECT 1 FROM bench_group WHERE run_id = :run AND name = :name)";
            if c.query_row(sql, named_params! {":run": run, ":name": group.name}, |r| r.get(0))? {
                return Err(StoreError::NameTaken("group"));
            }
            let sql = "SELECT 1 + coalesce(max(position), -1) FROM bench_group WHERE run_id = :run";
            let position = c.query_row(sql, named_params! {":run": run}, |r| r.get(0))?;
            let id = insert_group(c, run, position, &group, now)?;
            Ok(c.query_row(&format!("{GROUP} WHERE id = :id"), named_params! {":id": id}, to_group)?)
        })
    }

    /// Says what a group is given that others are not.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such group.
    pub fn allot(&self, group: i64, to: Allotted) -> Result<(), StoreError> {
        self.write(move |c| {
            let sql = "UPDATE bench_group SET assignment = :assignment, unknown = :unknown WHERE id = :group";
            let given = named_params! {":assignment": to.assignment, ":unknown": to.unknown, ":group": group};
            if c.execute(sql, given)? == 0 { Err(StoreError::NotFound("group")) } else { Ok(()) }
        })
    }

    /// Says at which bench a group stands; nobody knows if none.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such group.
    pub fn place_at(&self, group: i64, bench: Option<String>) -> Result<(), StoreError> {
        self.write(move |c| {
            let sql = "UPDATE bench_group SET bench = :bench WHERE id = :group";
            let changed = c.execute(sql, named_params! {":bench": bench, ":group": group})?;
            if changed == 0 { Err(StoreError::NotFound("group")) } else { Ok(()) }
        })
    }

    /// Lets a group go on at another one's bench. What it has entered stays its own.
    ///
    /// # Errors
    /// [`StoreError::NoMerging`] when either has moved on already, or they belong to different runs.
    pub fn merge_group(&self, run: i64, group: i64, into: i64, actor: Actor, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            let free = "SELECT count(*) FROM bench_group WHERE run_id = :run AND id IN (:group, :into)
                        AND merged_into IS NULL
                        AND NOT EXISTS (SELECT 1 FROM bench_group WHERE merged_into = :group)";
            let names = named_params! {":run": run, ":group": group, ":into": into};
            if group == into || c.query_row(free, names, |r| r.get::<_, i64>(0))? != 2 {
                return Err(StoreError::NoMerging);
            }
            c.execute("UPDATE bench_group SET merged_into = :into WHERE id = :group AND run_id = :run", names)?;
            let statement = RunStatement::Merged { into };
            insert(c, &NewEvent::of_record(run, Some(group), actor, statement, now)?)?;
            Ok(())
        })
    }

    /// Closes a run to new entries, or opens it again, and says so in the record. A closed run keeps the room as it is
    /// now; opened again, it goes on with the room of the day.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such run.
    pub fn set_closed(&self, run: i64, closed: bool, actor: Actor, now: i64) -> Result<(), StoreError> {
        let room = if closed { Some(self.room_ever()?) } else { None };
        self.write(move |c| {
            let room = room.map(|room| serde_json::to_string(&room.items())).transpose()?;
            let sql = "UPDATE run SET closed_at = :at, room = :room WHERE id = :run";
            let at = closed.then_some(now);
            if c.execute(sql, named_params! {":at": at, ":room": room, ":run": run})? == 0 {
                return Err(StoreError::NotFound("run"));
            }
            let statement = if closed { RunStatement::RunClosed } else { RunStatement::RunReopened };
            insert(c, &NewEvent::of_record(run, None, actor, statement, now)?)?;
            Ok(())
        })
    }

    /// The room that a run is computed with: as it was when the run was closed, or all that the room has or had.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such run.
    pub fn room_of(&self, run: i64) -> Result<Room, StoreError> {
        let kept: Option<String> = self.read(|c| {
            let mut statement = c.prepare_cached("SELECT room FROM run WHERE id = :run")?;
            let found = statement.query_row(named_params! {":run": run}, |r| r.get(0)).optional()?;
            found.ok_or(StoreError::NotFound("run"))
        })?;
        match kept {
            Some(text) => Ok(Room::of(serde_json::from_str::<Vec<RoomItem>>(&text)?)),
            None => self.room_ever(),
        }
    }

    /// Lets the class listen: entries wait on the devices until it goes on. Says so in the record.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such run.
    pub fn set_paused(&self, run: i64, paused: bool, actor: Actor, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            let sql = "UPDATE run SET paused_at = :at WHERE id = :run";
            if c.execute(sql, named_params! {":at": paused.then_some(now), ":run": run})? == 0 {
                return Err(StoreError::NotFound("run"));
            }
            let statement = if paused { RunStatement::RunPaused } else { RunStatement::RunResumed };
            insert(c, &NewEvent::of_record(run, None, actor, statement, now)?)?;
            Ok(())
        })
    }

    /// Lets photos be taken at the benches of a run, or no longer.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such run.
    pub fn set_photos(&self, run: i64, photos: bool) -> Result<(), StoreError> {
        self.write(move |c| {
            let sql = "UPDATE run SET photos = :photos WHERE id = :run";
            let changed = c.execute(sql, named_params! {":photos": photos, ":run": run})?;
            if changed == 0 { Err(StoreError::NotFound("run")) } else { Ok(()) }
        })
    }

    /// Calls a run something; by its practical where it is empty.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such run.
    pub fn name_run(&self, run: i64, title: String) -> Result<(), StoreError> {
        self.write(move |c| {
            let sql = "UPDATE run SET title = :title WHERE id = :run";
            let changed = c.execute(sql, named_params! {":title": title, ":run": run})?;
            if changed == 0 { Err(StoreError::NotFound("run")) } else { Ok(()) }
        })
    }

    /// Puts a run away, or takes it out again. Nothing of it changes.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such run.
    pub fn archive_run(&self, run: i64, archived: bool, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            let sql = "UPDATE run SET archived_at = :at WHERE id = :run";
            let changed = c.execute(sql, named_params! {":at": archived.then_some(now), ":run": run})?;
            if changed == 0 { Err(StoreError::NotFound("run")) } else { Ok(()) }
        })
    }

    /// Deletes a run that was opened by mistake: nobody has joined it, and nothing was said in it.
    ///
    /// # Errors
    /// [`StoreError::InUse`] when something hangs on it; [`StoreError::NotFound`] when there is no such run.
    pub fn delete_run(&self, run: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            let one = named_params! {":run": run};
            let sql = "SELECT EXISTS (SELECT 1 FROM event WHERE run_id = :run)
                           OR EXISTS (SELECT 1 FROM bench_group WHERE run_id = :run AND claimed_at IS NOT NULL)";
            if c.query_row(sql, one, |r| r.get(0))? {
                return Err(StoreError::InUse("somebody has worked in this run: archive it instead"));
            }
            for table in ["preparation_tick", "preparation", "seat", "visit", "bench_group"] {
                c.execute(&format!("DELETE FROM {table} WHERE run_id = :run"), one)?;
            }
            if c.execute("DELETE FROM run WHERE id = :run", one)? == 0 {
                Err(StoreError::NotFound("run"))
            } else {
                Ok(())
            }
        })
    }

    /// Tells a group something, or all of them.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such run.
    pub fn tell(&self, run: i64, group: Option<i64>, text: String, actor: Actor, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            run_by(c, "r.id = :key", &run)?;
            insert(c, &NewEvent::of_record(run, group, actor, RunStatement::Message { text }, now)?)?;
            Ok(())
        })
    }
}

fn insert_group(c: &Connection, run: i64, position: i64, group: &NewGroup, now: i64) -> Result<i64, StoreError> {
    c.execute(
        "INSERT INTO bench_group (run_id, position, name, pin, assignment, unknown, bench)
         VALUES (:run, :position, :name, :pin, :assignment, :unknown, :bench)",
        named_params! {
            ":run": run, ":position": position, ":name": group.name, ":pin": group.pin,
            ":assignment": group.allotted.assignment, ":unknown": group.allotted.unknown,
            ":bench": group.bench,
        },
    )?;
    let id = c.last_insert_rowid();
    for person in &group.people {
        seat(c, run, 1, *person, Some(id), now)?;
    }
    Ok(id)
}

pub(crate) fn run_by(c: &Connection, which: &str, key: &dyn rusqlite::ToSql) -> Result<Run, StoreError> {
    let mut statement = c.prepare_cached(&format!("{RUN} WHERE {which}"))?;
    statement.query_row(&[(":key", key)], to_run).optional()?.ok_or(StoreError::NotFound("run"))
}

fn to_run(r: &Row<'_>) -> rusqlite::Result<Run> {
    Ok(Run {
        id: r.get(0)?,
        practical: r.get(1)?,
        version: r.get(2)?,
        class_id: r.get(3)?,
        class: r.get(4)?,
        code: r.get(5)?,
        opened_at: r.get(6)?,
        closed_at: r.get(7)?,
        paused_at: r.get(8)?,
        photos: r.get(9)?,
        masses: r.get(10)?,
        school: read(11, &r.get::<_, String>(11)?)?,
        title: r.get(12)?,
        archived_at: r.get(13)?,
        origin: r.get(14)?,
        rehearsal: r.get::<_, Option<String>>(15)?.map(|body| read(15, &body)).transpose()?,
    })
}

/// What stands as JSON in a column.
fn read<T: DeserializeOwned>(column: usize, body: &str) -> rusqlite::Result<T> {
    serde_json::from_str(body).map_err(|e| rusqlite::Error::FromSqlConversionFailure(column, Type::Text, e.into()))
}

fn to_group(r: &Row<'_>) -> rusqlite::Result<Group> {
    Ok(Group {
        id: r.get(0)?,
        run: r.get(1)?,
        name: r.get(2)?,
        pin: r.get(3)?,
        claimed_at: r.get(4)?,
        allotted: Allotted { assignment: r.get(5)?, unknown: r.get(6)? },
        bench: r.get(7)?,
        merged_into: r.get(8)?,
    })
}
