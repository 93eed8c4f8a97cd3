//! The demo school: everything invented, everything deterministic.

use crate::access::hash_passphrase;
use crate::clock::{moment, zone_name};
use anyhow::{Context, anyhow};
use lab::bench::{Actor, Entry, Place, RoomItem, accepted};
use lab::roll::{AccountRole, Visit};
use practical::{Allotted, Practical};
use prepare::calendar::{DaysOff, Period, SchoolCalendar};
use serde::Deserialize;
use std::collections::HashMap;
use store::{NewEvent, NewGroup, NewRun, OfClass, Run, Said, Statement, Store};
use uuid::Uuid;

const SCHOOL: &str = include_str!("../../../demo/school.toml");
const RUNS: [&str; 4] = [
    include_str!("../../../demo/epsom-salt.toml"),
    include_str!("../../../demo/titration.toml"),
    include_str!("../../../demo/strontium-sulfate.toml"),
    include_str!("../../../demo/sulfate.toml"),
];

/// The demo school.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct DemoSchool {
    /// When its today is.
    pub now: String,
    /// The instructor.
    pub instructor: String,
    /// How the instructor signs in.
    pub passphrase: String,
    /// A colleague, who sees what is shared.
    colleague: Colleague,
    /// Who prepares.
    technician: Technician,
    room: Vec<RoomItem>,
    periods: Vec<Period>,
    days_off: Vec<DaysOff>,
    /// What its classes are at.
    #[serde(skip)]
    pub runs: Vec<DemoRun>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct Colleague {
    name: String,
    passphrase: String,
    /// Names of the classes that are shared with the colleague.
    sees: Vec<String>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct Technician {
    name: String,
    passphrase: String,
}

/// A class at work.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct DemoRun {
    /// What groups join with.
    pub code: String,
    /// The class.
    pub class: String,
    practical: String,
    opened: String,
    /// When it was closed, if it is.
    #[serde(default)]
    pub closed: Option<String>,
    #[serde(default)]
    photos: bool,
    visits: Vec<DemoVisit>,
    #[serde(default)]
    absent: Vec<String>,
    #[serde(default)]
    messages: Vec<DemoMessage>,
    groups: Vec<DemoGroup>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoVisit {
    begins: String,
    minutes: i64,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoMessage {
    at: String,
    #[serde(default)]
    group: Option<String>,
    text: String,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoGroup {
    name: String,
    pin: String,
    people: Vec<String>,
    #[serde(default)]
    assignment: Option<String>,
    /// The bench that it stands at.
    #[serde(default)]
    bench: Option<String>,
    log: Vec<Logged>,
}

#[derive(Debug, Deserialize)]
struct Logged {
    at: String,
    #[serde(default)]
    corrected_because: Option<String>,
    #[serde(default)]
    by_instructor: bool,
    #[serde(flatten)]
    entry: Entry,
}

/// The demo's files, read.
pub fn school() -> anyhow::Result<DemoSchool> {
    let mut school: DemoSchool = toml::from_str(SCHOOL).context("demo/school.toml")?;
    let read = |text: &str| -> anyhow::Result<DemoRun> {
        let code = text.lines().find(|l| l.starts_with("code")).unwrap_or_default();
        toml::from_str(text).with_context(|| format!("the class of the demo with {code}"))
    };
    school.runs = RUNS.into_iter().map(read).collect::<Result<_, _>>()?;
    Ok(school)
}

/// Fills an empty record with the demo school.
pub fn furnish(store: &Store, school: &DemoSchool) -> anyhow::Result<()> {
    let opened: Vec<i64> = school.runs.iter().map(|r| moment(&r.opened)).collect::<Result<_, _>>()?;
    let founded = opened.into_iter().min().context("a class in the demo")?;
    let hash = |passphrase: &str| hash_passphrase(passphrase).map_err(|e| anyhow!("{e}"));
    let owner = store.create_first_account(school.instructor.clone(), hash(&school.passphrase)?, founded)?.id;
    let colleague = &school.colleague;
    let colleague_id = store
        .create_account(colleague.name.clone(), AccountRole::Instructor, hash(&colleague.passphrase)?, founded)?
        .id;
    let technician = &school.technician;
    store.create_account(technician.name.clone(), AccountRole::Technician, hash(&technician.passphrase)?, founded)?;
    for item in &school.room {
        item.sound().map_err(|e| anyhow!("{}: {e}", item.name()))?;
        store.put_into_room(item.clone(), format!("person {owner}"), founded)?;
    }
    let calendar = SchoolCalendar {
        periods: school.periods.clone(),
        days_off: school.days_off.clone(),
        ..SchoolCalendar::unsaid(zone_name())
    };
    calendar.sound().context("the demo's calendar")?;
    store.keep_calendar(calendar, format!("person {owner}"), founded)?;
    let mut events = 0;
    for run in &school.runs {
        events += furnish_run(store, run, owner, events)?;
    }
    for class in store.classes(owner)?.iter().filter(|k| colleague.sees.contains(&k.name)) {
        store.share_class(class.id, colleague_id, true, founded)?;
    }
    Ok(())
}

/// Opens the run of a class with its people at their benches.
fn open(store: &Store, demo: &DemoRun, owner: i64) -> anyhow::Result<Run> {
    let now = moment(&demo.opened)?;
    let practicals = store.practicals()?;
    let practical = practicals.into_iter().find(|p| p.id == demo.practical).context("the demo's practical")?;
    let rules = Practical::parse(&practical.text)?;
    let class = store.make_class(demo.class.clone(), owner, now)?;
    let names = demo.groups.iter().flat_map(|g| &g.people).chain(&demo.absent);
    store.enrol(class, names.cloned().collect(), now)?;
    let members = store.members(class)?;
    let number = |name: &String| {
        let found = members.iter().find(|m| m.name == *name).map(|m| m.id);
        found.with_context(|| format!("{name} is in no class"))
    };
    let groups = demo.groups.iter().map(|g| {
        Ok(NewGroup {
            name: g.name.clone(),
            pin: g.pin.clone(),
            allotted: Allotted { assignment: g.assignment.clone(), unknown: None },
            bench: g.bench.clone(),
            people: g.people.iter().map(number).collect::<anyhow::Result<_>>()?,
        })
    });
    let visits = (1i64..).zip(&demo.visits);
    let visits = visits.map(|(nr, v)| Ok(Visit { nr, begins_at: moment(&v.begins)?, minutes: v.minutes }));
    let run = store.open_run(NewRun {
        practical: practical.id,
        version: practical.version,
        class: OfClass::Known(class),
        owner,
        code: demo.code.clone(),
        groups: groups.collect::<anyhow::Result<_>>()?,
        visits: visits.collect::<anyhow::Result<_>>()?,
        photos: demo.photos,
        masses: rules.school.atomic_masses.edition().into(),
        school: practical::School::default(),
        rehearsal: None,
        now,
    })?;
    for name in &demo.absent {
        store.seat(run.id, 1, number(name)?, None, now)?;
    }
    Ok(run)
}

/// One class and all that it entered; how many entries that were.
fn furnish_run(store: &Store, demo: &DemoRun, owner: i64, before: usize) -> anyhow::Result<usize> {
    let run = open(store, demo, owner)?;
    // By time, as a class works: the groups' entries interleave.
    let mut log: Vec<(i64, usize, &Logged)> = Vec::new();
    for (i, group) in demo.groups.iter().enumerate() {
        for logged in &group.log {
            log.push((moment(&logged.at)?, i, logged));
        }
    }
    log.sort_by_key(|(at, group, _)| (*at, *group));
    let groups = store.groups(run.id)?;
    let mut last: HashMap<(usize, Place), Uuid> = HashMap::new();
    let (count, room) = (log.len(), store.room()?);
    let rules = Practical::parse(&store.practical(&run.practical, run.version)?.text)?;
    for (n, (at, i, logged)) in log.into_iter().enumerate() {
        let group = groups.get(i).context("a group of the demo")?;
        store.claim(group.id, at)?;
        let place = (i, logged.entry.place());
        // Through the same door as everything that is typed.
        let entry =
            accepted(&rules, &room, logged.entry.clone()).with_context(|| format!("{} {}", demo.class, logged.at))?;
        let id = id_of(at, before + n);
        let supersedes = logged.corrected_because.as_ref().and_then(|_| last.get(&place).copied());
        store.append(NewEvent {
            id,
            run: run.id,
            group: Some(group.id),
            actor: if logged.by_instructor { Actor::Person(owner) } else { Actor::Device(run.id * 100 + group.id) },
            supersedes,
            said: Said { reason: logged.corrected_because.clone(), ..Said::at(at, Statement::Bench(entry)) },
            received_at: at,
        })?;
        last.insert(place, id);
    }
    for message in &demo.messages {
        let to = message.group.as_ref().and_then(|name| groups.iter().find(|g| g.name == *name)).map(|g| g.id);
        store.tell(run.id, to, message.text.clone(), Actor::Person(owner), moment(&message.at)?)?;
    }
    if let Some(closed) = &demo.closed {
        store.set_closed(run.id, true, Actor::Person(owner), moment(closed)?)?;
    }
    Ok(count)
}

/// The same id at every start of the demo.
fn id_of(at: i64, n: usize) -> Uuid {
    let mut bytes = [0u8; 10];
    bytes[2..].copy_from_slice(&(n as u64).to_be_bytes());
    uuid::Builder::from_unix_timestamp_millis(at.unsigned_abs(), &bytes).into_uuid()
}
