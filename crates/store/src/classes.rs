//! Classes: who is in them, who may see them, how long the names are kept.
//!
//! Names stand in the `person` table alone. Erasing a person deletes the name, the seats and whatever that person had
//! said as a person; the record keeps that it was done, and its chain still verifies.

use crate::db::{Erasure, Store};
use crate::error::StoreError;
use crate::event::insert;
use crate::people::Person;
use crate::said::{NewEvent, RunStatement};
use lab::bench::Actor;
use rusqlite::{Connection, OptionalExtension, Row, named_params};
use std::collections::{BTreeMap, BTreeSet};

/// A class.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Class {
    /// Id.
    pub id: i64,
    /// Name.
    pub name: String,
    /// The instructor whose class it is.
    pub owner: Person,
    /// Until when the names are kept, in ms; nobody has said if none.
    pub keep_until: Option<i64>,
    /// When it was made, in ms.
    pub created_at: i64,
}

/// Names that were put on a roster.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Enrolled {
    /// How many were new.
    pub added: usize,
    /// Those that were on it already.
    pub known: Vec<String>,
}

const CLASS: &str = "SELECT k.id, k.name, k.owner_id, p.name, k.keep_until, k.created_at
                     FROM class k JOIN person p ON p.id = k.owner_id";
/// The owner, and whom the owner lets in.
const MAY: &str = "(k.owner_id = :person OR EXISTS
                   (SELECT 1 FROM class_share s WHERE s.class_id = k.id AND s.person_id = :person))";

impl Store {
    /// The classes that a person may see, by name.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn classes(&self, person: i64) -> Result<Vec<Class>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(&format!("{CLASS} WHERE {MAY} ORDER BY k.name, k.id"))?;
            let rows = statement.query_map(named_params! {":person": person}, to_class)?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// A class that a person may see.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none, or it is not for this person.
    pub fn class(&self, id: i64, person: i64) -> Result<Class, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(&format!("{CLASS} WHERE k.id = :id AND {MAY}"))?;
            let found = statement.query_row(named_params! {":id": id, ":person": person}, to_class).optional()?;
            found.ok_or(StoreError::NotFound("class"))
        })
    }

    /// Whether a person may see a run: the class is that person's own, or shared.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn may_see(&self, person: i64, run: i64) -> Result<bool, StoreError> {
        self.read(|c| {
            let sql = format!(
                "SELECT EXISTS (SELECT 1 FROM run r JOIN class k ON k.id = r.class_id WHERE r.id = :run AND {MAY})"
            );
            Ok(c.prepare_cached(&sql)?.query_row(named_params! {":run": run, ":person": person}, |r| r.get(0))?)
        })
    }

    /// Makes a class.
    ///
    /// # Errors
    /// [`StoreError::NameTaken`] when its owner has one of this name.
    pub fn make_class(&self, name: String, owner: i64, now: i64) -> Result<i64, StoreError> {
        self.write(move |c| match class_of(c, &name, owner)? {
            Some(_) => Err(StoreError::NameTaken("class")),
            None => insert_class(c, &name, owner, now),
        })
    }

    /// Calls a class something else.
    ///
    /// # Errors
    /// [`StoreError::NameTaken`] when its owner has another one of this name.
    pub fn rename_class(&self, class: i64, name: String) -> Result<(), StoreError> {
        self.write(move |c| {
            let sql = "SELECT EXISTS (SELECT 1 FROM class k WHERE k.name = :name AND k.id <> :class
                       AND k.owner_id = (SELECT owner_id FROM class WHERE id = :class))";
            let named = named_params! {":name": name, ":class": class};
            if c.query_row(sql, named, |r| r.get(0))? {
                return Err(StoreError::NameTaken("class"));
            }
            let changed = c.execute("UPDATE class SET name = :name WHERE id = :class", named)?;
            if changed == 0 { Err(StoreError::NotFound("class")) } else { Ok(()) }
        })
    }

    /// Deletes a class that was made by mistake: nobody is in it, and it has no run.
    ///
    /// # Errors
    /// [`StoreError::InUse`] when something hangs on it; [`StoreError::NotFound`] when there is none.
    pub fn delete_class(&self, class: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            let one = named_params! {":class": class};
            if c.query_row("SELECT EXISTS (SELECT 1 FROM run WHERE class_id = :class)", one, |r| r.get(0))? {
                return Err(StoreError::InUse("this class has runs"));
            }
            if c.query_row("SELECT EXISTS (SELECT 1 FROM member WHERE class_id = :class)", one, |r| r.get(0))? {
                return Err(StoreError::InUse("there are people in this class: erase them first"));
            }
            c.execute("DELETE FROM class_share WHERE class_id = :class", one)?;
            let gone = c.execute("DELETE FROM class WHERE id = :class", one)?;
            if gone == 0 { Err(StoreError::NotFound("class")) } else { Ok(()) }
        })
    }

    /// Corrects the name of a person of a class.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the class has no such person; [`StoreError::HasAccount`] for an instructor.
    pub fn rename_person(&self, class: i64, person: i64, name: String) -> Result<(), StoreError> {
        self.write(move |c| {
            let sql = "UPDATE person SET name = :name WHERE id = :person
                       AND EXISTS (SELECT 1 FROM member WHERE class_id = :class AND person_id = :person)";
            if has_account(c, person)? {
                return Err(StoreError::HasAccount);
            }
            let changed = c.execute(sql, named_params! {":name": name, ":person": person, ":class": class})?;
            if changed == 0 { Err(StoreError::NotFound("person in this class")) } else { Ok(()) }
        })
    }

    /// Whom a class is shared with, by name.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn shared_with(&self, class: i64) -> Result<Vec<Person>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(
                "SELECT p.id, p.name FROM class_share s JOIN person p ON p.id = s.person_id
                 WHERE s.class_id = :class ORDER BY p.name",
            )?;
            let rows = statement.query_map(named_params! {":class": class}, to_person)?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// Shares a class with a colleague, or no longer.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when nobody with an account has this id.
    pub fn share_class(&self, class: i64, with: i64, shared: bool, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            if !shared {
                let sql = "DELETE FROM class_share WHERE class_id = :class AND person_id = :with";
                c.execute(sql, named_params! {":class": class, ":with": with})?;
                return Ok(());
            }
            if !has_account(c, with)? {
                return Err(StoreError::NotFound("colleague"));
            }
            c.execute(
                "INSERT INTO class_share (class_id, person_id, shared_at) VALUES (:class, :with, :now)
                 ON CONFLICT DO NOTHING",
                named_params! {":class": class, ":with": with, ":now": now},
            )?;
            Ok(())
        })
    }

    /// Says until when the names of a class are kept.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such class.
    pub fn keep_names_until(&self, class: i64, until: Option<i64>) -> Result<(), StoreError> {
        self.write(move |c| {
            let sql = "UPDATE class SET keep_until = :until WHERE id = :class";
            let changed = c.execute(sql, named_params! {":until": until, ":class": class})?;
            if changed == 0 { Err(StoreError::NotFound("class")) } else { Ok(()) }
        })
    }

    /// The people of a class, by name.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn members(&self, class: i64) -> Result<Vec<Person>, StoreError> {
        self.read(|c| members(c, class))
    }

    /// Puts names on a roster, all or none; a name that is on it is not put there twice.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn enrol(&self, class: i64, names: Vec<String>, now: i64) -> Result<Enrolled, StoreError> {
        self.write(move |c| {
            let mut there: BTreeSet<String> = members(c, class)?.into_iter().map(|p| p.name).collect();
            let (new, known): (Vec<_>, Vec<_>) = names.into_iter().partition(|n| there.insert(n.clone()));
            for name in &new {
                c.execute(
                    "INSERT INTO person (name, created_at) VALUES (:name, :now)",
                    named_params! {":name": name, ":now": now},
                )?;
                c.execute(
                    "INSERT INTO member (class_id, person_id, added_at) VALUES (:class, :person, :now)",
                    named_params! {":class": class, ":person": c.last_insert_rowid(), ":now": now},
                )?;
            }
            Ok(Enrolled { added: new.len(), known })
        })
    }

    /// Erases a person of a class: name, seats, and what that person had said. The record says that it was done in
    /// every run that the person took part in.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the class has no such person; [`StoreError::HasAccount`] for an instructor.
    pub fn erase_person(&self, class: i64, person: i64, actor: Actor, now: i64) -> Result<Erasure, StoreError> {
        self.write(move |c| {
            let one = named_params! {":person": person};
            let sql = "SELECT 1 FROM member WHERE class_id = :class AND person_id = :person";
            let there = c.query_row(sql, named_params! {":class": class, ":person": person}, |_| Ok(())).optional()?;
            there.ok_or(StoreError::NotFound("person in this class"))?;
            if has_account(c, person)? {
                return Err(StoreError::HasAccount);
            }
            let mut runs: BTreeMap<i64, Vec<i64>> = BTreeMap::new();
            let mut sat = c.prepare("SELECT DISTINCT run_id FROM seat WHERE person_id = :person")?;
            for run in sat.query_map(one, |r| r.get(0))? {
                runs.entry(run?).or_default();
            }
            let sql = "SELECT e.run_id, e.seq FROM event e JOIN payload p ON p.seq = e.seq
                       WHERE p.person_id = :person ORDER BY e.seq";
            for said in c.prepare(sql)?.query_map(one, |r| Ok((r.get(0)?, r.get(1)?)))? {
                let (run, seq) = said?;
                runs.entry(run).or_default().push(seq);
            }
            c.execute("DELETE FROM payload WHERE person_id = :person", one)?;
            c.execute("DELETE FROM seat WHERE person_id = :person", one)?;
            c.execute("DELETE FROM member WHERE person_id = :person", one)?;
            c.execute(
                "UPDATE person SET name = '', erased_at = :now WHERE id = :person",
                named_params! {":now": now, ":person": person},
            )?;
            for (run, events) in runs {
                let erased = RunStatement::PersonErased { person, events: Some(events) };
                insert(c, &NewEvent::of_record(run, None, actor, erased, now)?)?;
            }
            Ok(())
        })?;
        self.finish_erasing()
    }
}

fn members(c: &Connection, class: i64) -> Result<Vec<Person>, StoreError> {
    let mut statement = c.prepare_cached(
        "SELECT p.id, p.name FROM member m JOIN person p ON p.id = m.person_id WHERE m.class_id = :class
         ORDER BY p.name, p.id",
    )?;
    let rows = statement.query_map(named_params! {":class": class}, to_person)?;
    Ok(rows.collect::<Result<_, _>>()?)
}

fn has_account(c: &Connection, person: i64) -> Result<bool, StoreError> {
    let sql = "SELECT EXISTS (SELECT 1 FROM account WHERE person_id = :person)";
    Ok(c.query_row(sql, named_params! {":person": person}, |r| r.get(0))?)
}

/// The class of this name that an instructor owns.
pub(crate) fn class_of(c: &Connection, name: &str, owner: i64) -> Result<Option<i64>, StoreError> {
    let sql = "SELECT id FROM class WHERE name = :name AND owner_id = :owner";
    Ok(c.query_row(sql, named_params! {":name": name, ":owner": owner}, |r| r.get(0)).optional()?)
}

pub(crate) fn insert_class(c: &Connection, name: &str, owner: i64, now: i64) -> Result<i64, StoreError> {
    c.execute(
        "INSERT INTO class (name, owner_id, created_at) VALUES (:name, :owner, :now)",
        named_params! {":name": name, ":owner": owner, ":now": now},
    )?;
    Ok(c.last_insert_rowid())
}

fn to_class(r: &Row<'_>) -> rusqlite::Result<Class> {
    let owner = Person { id: r.get(2)?, name: r.get(3)? };
    Ok(Class { id: r.get(0)?, name: r.get(1)?, owner, keep_until: r.get(4)?, created_at: r.get(5)? })
}

fn to_person(r: &Row<'_>) -> rusqlite::Result<Person> {
    Ok(Person { id: r.get(0)?, name: r.get(1)? })
}
