//! The demo school: everything invented, everything deterministic.

use crate::access::hash_passphrase;
use crate::clock::moment;
use anyhow::{Context, anyhow};
use serde::Deserialize;
use std::collections::HashMap;
use store::{BenchEntry, NewEvent, NewRun, Said, Statement, Store};
use uuid::Uuid;

const SCHOOL: &str = include_str!("../../../demo/school.toml");

/// The demo's file.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct School {
    /// When its today is.
    pub now: String,
    /// The instructor.
    pub instructor: String,
    /// How the instructor signs in.
    pub passphrase: String,
    /// What groups join with.
    pub code: String,
    class: String,
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

/// The demo's file, read.
pub fn school() -> anyhow::Result<School> {
    toml::from_str(SCHOOL).context("demo/school.toml")
}

/// Fills an empty record with the demo school.
pub fn furnish(store: &Store, school: &School) -> anyhow::Result<()> {
    let opened = moment(&school.opened)?;
    let hash = hash_passphrase(&school.passphrase).map_err(|e| anyhow!("{e}"))?;
    let owner = store.create_first_account(school.instructor.clone(), hash, opened)?.id;
    let practicals = store.practicals()?;
    let practical = practicals.into_iter().find(|p| p.id == school.practical).context("the demo's practical")?;
    let run = store.open_run(NewRun {
        practical: practical.id,
        version: practical.version,
        class: school.class.clone(),
        owner,
        code: school.code.clone(),
        groups: school.groups.iter().map(|g| (g.name.clone(), g.pin.clone())).collect(),
        now: opened,
    })?;
    // By time, as a class works: the groups' entries interleave.
    let mut log: Vec<(i64, usize, &Logged)> = Vec::new();
    for (i, group) in school.groups.iter().enumerate() {
        for logged in &group.log {
            log.push((moment(&logged.at)?, i, logged));
        }
    }
    log.sort_by_key(|(at, group, _)| (*at, *group));
    let groups = store.groups(run.id)?;
    let mut last: HashMap<(usize, &str, String), Uuid> = HashMap::new();
    for (n, (at, i, logged)) in log.into_iter().enumerate() {
        let group = groups.get(i).context("a group of the demo")?;
        store.claim(group.id, at)?;
        let place = (i, logged.entry.kind(), logged.entry.slot());
        let id = id_of(at, n);
        let supersedes = logged.corrected_because.as_ref().and_then(|_| last.get(&place).copied());
        store.append(NewEvent {
            id,
            run: run.id,
            group: Some(group.id),
            actor: format!("device {}", i + 1),
            supersedes,
            said: Said {
                statement: Statement::Bench(logged.entry.clone()),
                reason: logged.corrected_because.clone(),
                taken_at: at,
                about: false,
            },
            received_at: at,
        })?;
        last.insert(place, id);
    }
    Ok(())
}

/// The same id at every start of the demo.
fn id_of(at: i64, n: usize) -> Uuid {
    let mut bytes = [0u8; 10];
    bytes[2..].copy_from_slice(&(n as u64).to_be_bytes());
    uuid::Builder::from_unix_timestamp_millis(at.unsigned_abs(), &bytes).into_uuid()
}
