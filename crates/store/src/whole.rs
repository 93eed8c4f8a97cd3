//! A whole run, to take along: as a file holds it, and put into a record as a closed run from elsewhere.
//!
//! Everything said is there with the time of its receipt, in order; each event has a link over the one before it, so that a
//! file that was changed in between says so. What was erased is not in it. Numbers of people are those of the file: put into
//! another record they become people of the class that came with it.

use crate::classes::insert_class;
use crate::db::Store;
use crate::error::StoreError;
use crate::event::insert;
use crate::practicals::as_it_came;
use crate::runs::{Run, run_by};
use crate::said::{NewEvent, RunStatement, Said, Statement};
use crate::visits::{seat, set_visits};
use lab::bench::{Actor, Entry, Place, PlaceKind, RoomItem, answer_place};
use lab::roll::Visit;
use practical::School;
use rusqlite::{Connection, named_params};
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use std::collections::BTreeMap;
use uuid::Uuid;

/// The format that is written.
pub const WHOLE_FORMAT: u32 = 1;

/// A run as a file holds it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct WholeRun {
    /// [`WHOLE_FORMAT`].
    pub format: u32,
    /// Version of the program that wrote it.
    pub program: String,
    /// The practical's id; its text stands beside.
    pub practical: String,
    /// What the run is called; empty where by its practical.
    pub title: String,
    /// The class.
    pub class: String,
    /// In ms since 1970, like all times in here.
    pub opened_at: i64,
    /// None where it was under way.
    pub closed_at: Option<i64>,
    /// The edition of the relative atomic masses.
    pub masses: String,
    /// What the school had chosen.
    pub school: School,
    /// The room as it was computed with.
    pub room: Vec<RoomItem>,
    /// When it was worked on.
    pub lessons: Vec<Lesson>,
    /// In bench order.
    pub groups: Vec<WholeGroup>,
    /// Everybody who is spoken of, by number; names only where they were wanted.
    pub people: BTreeMap<i64, Option<String>>,
    /// Who sat where.
    pub seats: Vec<WholeSeat>,
    /// In the order of the record.
    pub events: Vec<WholeEvent>,
    /// What was computed when it was written: digits with unit, by group and result.
    pub figures: Vec<BTreeMap<String, String>>,
}

/// A lesson.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Lesson {
    /// When it begins.
    pub begins_at: i64,
    /// How long it lasts.
    pub minutes: i64,
}

/// A group.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct WholeGroup {
    /// Its name.
    pub name: String,
    /// The recipe that it was given.
    #[serde(default)]
    pub assignment: Option<String>,
    /// The code of its unknown.
    #[serde(default)]
    pub unknown: Option<String>,
    /// The bench that it stood at.
    #[serde(default)]
    pub bench: Option<String>,
    /// The group at whose bench it went on, counted from 0.
    #[serde(default)]
    pub went_on_at: Option<usize>,
}

/// Who sat where from a lesson on.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct WholeSeat {
    /// From 1.
    pub lesson: i64,
    /// The person.
    pub person: i64,
    /// The group, counted from 0; none: absent.
    pub group: Option<usize>,
}

/// One thing that was said.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct WholeEvent {
    /// Its own.
    pub id: Uuid,
    /// The group, counted from 0.
    pub group: Option<usize>,
    /// `device 7`, `person 1`, `console`.
    pub by: String,
    /// The entry that it corrects.
    pub corrects: Option<Uuid>,
    /// Receipt.
    pub received_at: i64,
    /// What was said.
    pub said: Said,
    /// SHA-256 over the link before and everything above.
    pub link: String,
}

impl WholeEvent {
    fn linked(&self, before: &str) -> Result<String, StoreError> {
        let plain = WholeEvent { link: String::new(), ..self.clone() };
        let hash = Sha256::new().chain_update(before).chain_update(serde_json::to_string(&plain)?).finalize();
        Ok(hash.iter().map(|b| format!("{b:02x}")).collect())
    }
}

impl WholeRun {
    /// Sets the links of all events.
    ///
    /// # Errors
    /// [`StoreError::Payload`] for what cannot be written.
    pub fn link(&mut self) -> Result<(), StoreError> {
        let mut before = String::new();
        for event in &mut self.events {
            event.link = event.linked(&before)?;
            before.clone_from(&event.link);
        }
        Ok(())
    }

    /// The first event whose link does not hold, counted from 1.
    ///
    /// # Errors
    /// [`StoreError::Payload`] for what cannot be written.
    pub fn broken_at(&self) -> Result<Option<usize>, StoreError> {
        let mut before = "";
        for (event, nr) in self.events.iter().zip(1..) {
            if event.linked(before)? != event.link {
                return Ok(Some(nr));
            }
            before = &event.link;
        }
        Ok(None)
    }
}

impl Store {
    /// What was said in a run and was not erased, in order; links and groups are the caller's.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn said_in_run(&self, run: i64) -> Result<Vec<NewEvent>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached(
                "SELECT e.id, e.group_id, e.actor, e.supersedes, e.received_at, e.payload_version, p.body
                 FROM event e JOIN payload p ON p.seq = e.seq WHERE e.run_id = :run ORDER BY e.seq",
            )?;
            let mut rows = statement.query(named_params! {":run": run})?;
            let mut out = Vec::new();
            while let Some(r) = rows.next()? {
                out.push(NewEvent {
                    id: Uuid::from_bytes(r.get(0)?),
                    run,
                    group: r.get(1)?,
                    actor: r.get::<_, String>(2)?.parse()?,
                    supersedes: r.get::<_, Option<[u8; 16]>>(3)?.map(Uuid::from_bytes),
                    received_at: r.get(4)?,
                    said: Said::read(r.get(5)?, &r.get::<_, String>(6)?)?,
                });
            }
            Ok(out)
        })
    }

    /// Puts a run of a file into the record: closed, in a class of its own, with the practical as it came. All or nothing.
    ///
    /// # Errors
    /// [`StoreError::Here`] when it was read before, or is our own; [`StoreError::Misfit`] for what does not fit together.
    pub fn take_in(
        &self,
        whole: WholeRun,
        text: String,
        code: String,
        owner: i64,
        now: i64,
    ) -> Result<Run, StoreError> {
        self.write(move |c| TakingIn::new(c, &whole, owner, now)?.all(&text, &code))
    }
}

/// A run on its way into a record.
struct TakingIn<'a> {
    c: &'a Connection,
    whole: &'a WholeRun,
    owner: i64,
    now: i64,
    /// Our numbers of the file's people.
    people: BTreeMap<i64, i64>,
}

impl<'a> TakingIn<'a> {
    fn new(c: &'a Connection, whole: &'a WholeRun, owner: i64, now: i64) -> Result<TakingIn<'a>, StoreError> {
        let mut known = c.prepare("SELECT EXISTS (SELECT 1 FROM event WHERE id = :id)")?;
        for event in &whole.events {
            if known.query_row(named_params! {":id": event.id.as_bytes()}, |r| r.get(0))? {
                return Err(StoreError::Here);
            }
        }
        let mut people = BTreeMap::new();
        for (number, name) in &whole.people {
            let name = name.clone().unwrap_or_else(|| format!("person {number}"));
            let sql = "INSERT INTO person (name, created_at) VALUES (:name, :now)";
            c.execute(sql, named_params! {":name": name, ":now": now})?;
            people.insert(*number, c.last_insert_rowid());
        }
        Ok(TakingIn { c, whole, owner, now, people })
    }

    fn all(&self, text: &str, code: &str) -> Result<Run, StoreError> {
        let (c, whole) = (self.c, self.whole);
        let author = format!("person {}", self.owner);
        let version = as_it_came(c, &whole.practical, text, &author, self.now)?;
        let class = insert_class(c, &whole.class, self.owner, self.now)?;
        c.execute(
            "INSERT INTO run (practical_id, practical_version, class_id, code, opened_at, closed_at, photos, masses, school,
                              room, title, origin)
             VALUES (:practical, :version, :class, :code, :opened, :closed, 0, :masses, :school, :room, :title, :origin)",
            named_params! {
                ":practical": whole.practical, ":version": version, ":class": class, ":code": code,
                ":opened": whole.opened_at, ":closed": whole.closed_at.unwrap_or(self.now), ":masses": whole.masses,
                ":school": serde_json::to_string(&whole.school)?, ":room": serde_json::to_string(&whole.room)?,
                ":title": whole.title, ":origin": format!("program {}", whole.program),
            },
        )?;
        let run = c.last_insert_rowid();
        let lessons = (1i64..).zip(&whole.lessons);
        let lessons: Vec<Visit> =
            lessons.map(|(nr, l)| Visit { nr, begins_at: l.begins_at, minutes: l.minutes }).collect();
        set_visits(c, run, &lessons)?;
        let groups = self.groups(run)?;
        for s in &whole.seats {
            let person = self.person(s.person)?;
            let sql = "INSERT INTO member (class_id, person_id, added_at) VALUES (:class, :person, :now) ON CONFLICT DO NOTHING";
            c.execute(sql, named_params! {":class": class, ":person": person, ":now": self.now})?;
            seat(c, run, s.lesson, person, s.group.map(|g| of(&groups, g)).transpose()?, self.now)?;
        }
        for event in &whole.events {
            let group = event.group.map(|g| of(&groups, g)).transpose()?;
            if let Some(said) = self.said(event, &groups)? {
                let actor = match event.by.parse()? {
                    Actor::Person(number) => Actor::Person(self.person(number)?),
                    other @ (Actor::Device(_) | Actor::Console) => other,
                };
                let (id, supersedes, received_at) = (event.id, event.corrects, event.received_at);
                insert(c, &NewEvent { id, run, group, actor, supersedes, said, received_at })?;
            }
        }
        run_by(c, "r.id = :key", &run)
    }

    fn groups(&self, run: i64) -> Result<Vec<i64>, StoreError> {
        let mut ids = Vec::new();
        for (position, group) in (0i64..).zip(&self.whole.groups) {
            self.c.execute(
                "INSERT INTO bench_group (run_id, position, name, pin, claimed_at, assignment, unknown, bench)
                 VALUES (:run, :position, :name, '', :now, :assignment, :unknown, :bench)",
                named_params! {
                    ":run": run, ":position": position, ":name": group.name, ":now": self.now,
                    ":assignment": group.assignment, ":unknown": group.unknown, ":bench": group.bench,
                },
            )?;
            ids.push(self.c.last_insert_rowid());
        }
        for (id, group) in ids.iter().zip(&self.whole.groups) {
            if let Some(at) = group.went_on_at {
                let sql = "UPDATE bench_group SET merged_into = :into WHERE id = :id";
                self.c.execute(sql, named_params! {":into": of(&ids, at)?, ":id": id})?;
            }
        }
        Ok(ids)
    }

    fn person(&self, number: i64) -> Result<i64, StoreError> {
        self.people.get(&number).copied().ok_or(StoreError::Misfit("somebody in it is not in its list of people"))
    }

    /// What an event says, with our numbers; nothing of erasures, which were done elsewhere.
    fn said(&self, event: &WholeEvent, groups: &[i64]) -> Result<Option<Said>, StoreError> {
        let person = |number: &mut Option<i64>| {
            *number = number.map(|n| self.person(n)).transpose()?;
            Ok::<(), StoreError>(())
        };
        let mut said = event.said.clone();
        person(&mut said.person)?;
        match &mut said.statement {
            Statement::Bench(Entry::Answer { by, .. }) => person(by)?,
            Statement::Bench(Entry::Struck { place: PlaceKind::Answer, name }) => {
                let (result, mut by) = answer_place(name);
                person(&mut by)?;
                *name = Place::Answer { result: result.to_owned(), by }.slot();
            }
            Statement::Run(RunStatement::Reviewed(review)) => person(&mut review.person)?,
            Statement::Run(RunStatement::Released(release)) => person(&mut release.person)?,
            Statement::Run(RunStatement::Merged { into }) => {
                let at = usize::try_from(*into).map_err(|_| StoreError::Misfit("a group in it is not in its list"))?;
                *into = of(groups, at)?;
            }
            Statement::Run(RunStatement::Erased | RunStatement::PersonErased { .. }) => return Ok(None),
            Statement::Bench(_) | Statement::Run(_) => {}
        }
        Ok(Some(said))
    }
}

fn of(groups: &[i64], at: usize) -> Result<i64, StoreError> {
    groups.get(at).copied().ok_or(StoreError::Misfit("a group in it is not in its list"))
}
