//! The demo school: everything invented, everything deterministic.

use crate::access::hash_passphrase;
use crate::clock::moment;
use anyhow::{Context, anyhow};
use lab::bench::{RoomItem, accepted};
use lab::practical::Practical;
use serde::Deserialize;
use std::collections::HashMap;
use store::{BenchEntry, NewEvent, NewRun, Said, Statement, Store};
use uuid::Uuid;

const SCHOOL: &str = include_str!("../../../demo/school.toml");
const RUNS: [&str; 2] = [include_str!("../../../demo/epsom-salt.toml"), include_str!("../../../demo/titration.toml")];

/// The demo school.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct School {
    /// When its today is.
    pub now: String,
    /// The instructor.
    pub instructor: String,
    /// How the instructor signs in.
    pub passphrase: String,
    room: Vec<RoomItem>,
    /// What its classes are at.
    #[serde(skip)]
    pub runs: Vec<DemoRun>,
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
    groups: Vec<DemoGroup>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoGroup {
    name: String,
    pin: String,
    log: Vec<Logged>,
}

#[derive(Debug, Deserialize)]
struct Logged {
    at: String,
    #[serde(default)]
    corrected_because: Option<String>,
    #[serde(flatten)]
    entry: BenchEntry,
}

/// The demo's files, read.
pub fn school() -> anyhow::Result<School> {
    let mut school: School = toml::from_str(SCHOOL).context("demo/school.toml")?;
    school.runs = RUNS.into_iter().map(toml::from_str).collect::<Result<_, _>>().context("a class of the demo")?;
    Ok(school)
}

/// Fills an empty record with the demo school.
pub fn furnish(store: &Store, school: &School) -> anyhow::Result<()> {
    let first = school.runs.first().context("a class in the demo")?;
    let founded = moment(&first.opened)?;
    let hash = hash_passphrase(&school.passphrase).map_err(|e| anyhow!("{e}"))?;
    let owner = store.create_first_account(school.instructor.clone(), hash, founded)?.id;
    for item in &school.room {
        item.sound().map_err(|e| anyhow!("{}: {e}", item.name()))?;
        store.put_into_room(item.clone(), format!("person {owner}"), founded)?;
    }
    let mut events = 0;
    for run in &school.runs {
        events += furnish_run(store, run, owner, events)?;
    }
    Ok(())
}

/// One class and all that it entered; how many entries that were.
fn furnish_run(store: &Store, demo: &DemoRun, owner: i64, before: usize) -> anyhow::Result<usize> {
    let practicals = store.practicals()?;
    let practical = practicals.into_iter().find(|p| p.id == demo.practical).context("the demo's practical")?;
    let run = store.open_run(NewRun {
        practical: practical.id,
        version: practical.version,
        class: demo.class.clone(),
        owner,
        code: demo.code.clone(),
        groups: demo.groups.iter().map(|g| (g.name.clone(), g.pin.clone())).collect(),
        now: moment(&demo.opened)?,
    })?;
    // By time, as a class works: the groups' entries interleave.
    let mut log: Vec<(i64, usize, &Logged)> = Vec::new();
    for (i, group) in demo.groups.iter().enumerate() {
        for logged in &group.log {
            log.push((moment(&logged.at)?, i, logged));
        }
    }
    log.sort_by_key(|(at, group, _)| (*at, *group));
    let groups = store.groups(run.id)?;
    let mut last: HashMap<(usize, &str, String), Uuid> = HashMap::new();
    let (count, room) = (log.len(), store.room()?);
    let rules = Practical::parse(&store.practical(&run.practical, run.version)?.text)?;
    for (n, (at, i, logged)) in log.into_iter().enumerate() {
        let group = groups.get(i).context("a group of the demo")?;
        store.claim(group.id, at)?;
        let place = (i, logged.entry.kind(), logged.entry.slot());
        // Through the same door as everything that is typed.
        let entry =
            accepted(&rules, &room, logged.entry.clone()).with_context(|| format!("{} {}", demo.class, logged.at))?;
        let id = id_of(at, before + n);
        let supersedes = logged.corrected_because.as_ref().and_then(|_| last.get(&place).copied());
        store.append(NewEvent {
            id,
            run: run.id,
            group: Some(group.id),
            actor: format!("device {}", i + 1),
            supersedes,
            said: Said {
                statement: Statement::Bench(entry),
                reason: logged.corrected_because.clone(),
                taken_at: at,
                about: false,
            },
            received_at: at,
        })?;
        last.insert(place, id);
    }
    Ok(count)
}

/// The same id at every start of the demo.
fn id_of(at: i64, n: usize) -> Uuid {
    let mut bytes = [0u8; 10];
    bytes[2..].copy_from_slice(&(n as u64).to_be_bytes());
    uuid::Builder::from_unix_timestamp_millis(at.unsigned_abs(), &bytes).into_uuid()
}
