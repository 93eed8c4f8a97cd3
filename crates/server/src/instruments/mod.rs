//! Instruments of the room that speak: each sends lines over TCP, and what it shows is kept while it is fresh.
//!
//! The protocol is described in `docs/instruments.md`. Whatever comes over the wire is hostile: a line is bounded, a flood is
//! slowed down, what is no reading is refused with a reason, and an instrument that goes away is asked again later.

mod line;
mod listen;
pub mod stand_in;

use anyhow::{Context, bail};
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, VecDeque};
use std::path::Path;
use std::sync::{Arc, Mutex, MutexGuard};
use std::time::{Duration, Instant};
use utoipa::ToSchema;

/// What an instrument has not said for so long, it does not show any more.
const FRESH: Duration = Duration::from_secs(5);
/// Values at rest that are remembered of each, to know a reading that was taken from it.
const REMEMBERED: usize = 200;

/// An instrument that speaks, as the file names it.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Speaking {
    /// As the room calls it: `Balance 2`.
    name: String,
    /// Where it listens: `192.168.1.40:4001`.
    address: String,
    /// What its numbers are in: `g`.
    unit: String,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Listed {
    instrument: Vec<Speaking>,
}

/// What an instrument shows.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct InstrumentShows {
    /// The digits as sent; none while it is silent.
    pub digits: Option<String>,
    /// Their unit.
    pub unit: String,
    /// They have come to rest.
    pub stable: bool,
    /// Why there are none, in words.
    pub silent: Option<String>,
}

/// What one instrument has said.
struct Heard {
    last: Option<(line::Sent, Instant)>,
    silent: String,
    at_rest: VecDeque<String>,
}

/// One instrument, shared with the task that listens to it.
struct Instrument {
    speaking: Speaking,
    heard: Mutex<Heard>,
}

/// All that speak.
#[derive(Default)]
pub struct Instruments {
    by_name: BTreeMap<String, Arc<Instrument>>,
}

impl Instrument {
    fn heard(&self) -> MutexGuard<'_, Heard> {
        self.heard.lock().expect("no holder of this lock can panic")
    }

    fn hears(&self, sent: line::Sent) {
        let mut heard = self.heard();
        if sent.stable && heard.at_rest.back() != Some(&sent.digits) {
            heard.at_rest.push_back(sent.digits.clone());
            if heard.at_rest.len() > REMEMBERED {
                heard.at_rest.pop_front();
            }
        }
        heard.last = Some((sent, Instant::now()));
    }

    fn is_silent(&self, why: String) {
        let mut heard = self.heard();
        heard.last = None;
        heard.silent = why;
    }
}

impl Instruments {
    /// Those that a file names.
    pub fn read(file: &Path) -> anyhow::Result<Instruments> {
        let text = std::fs::read_to_string(file).with_context(|| format!("reading {}", file.display()))?;
        let listed: Listed = toml::from_str(&text).with_context(|| format!("{}", file.display()))?;
        let mut by_name = BTreeMap::new();
        for speaking in listed.instrument {
            let heard = Heard { last: None, silent: "it has not said anything yet".into(), at_rest: VecDeque::new() };
            let name = speaking.name.clone();
            let instrument = Arc::new(Instrument { speaking, heard: Mutex::new(heard) });
            if by_name.insert(name.clone(), instrument).is_some() {
                bail!("{}: '{name}' is there twice", file.display());
            }
        }
        Ok(Instruments { by_name })
    }

    /// Listens to all of them, until the server ends.
    pub fn listen(&self) {
        for instrument in self.by_name.values() {
            actix_web::rt::spawn(listen::listen(Arc::clone(instrument)));
        }
    }

    /// Names of those that speak.
    pub fn names(&self) -> Vec<String> {
        self.by_name.keys().cloned().collect()
    }

    /// What an instrument shows; none where there is none of this name.
    pub fn shows(&self, name: &str) -> Option<InstrumentShows> {
        let instrument = self.by_name.get(name)?;
        let heard = instrument.heard();
        let fresh = heard.last.as_ref().filter(|(_, at)| at.elapsed() < FRESH);
        let unit = instrument.speaking.unit.clone();
        if let Some((sent, _)) = fresh {
            let digits = Some(sent.digits.clone());
            return Some(InstrumentShows { digits, unit, stable: sent.stable, silent: None });
        }
        let why = if heard.last.is_some() { "it has gone quiet".into() } else { heard.silent.clone() };
        Some(InstrumentShows { digits: None, unit, stable: false, silent: Some(why) })
    }

    /// Whether an instrument has sent these digits at rest, not long ago.
    pub fn has_sent(&self, name: &str, digits: &str) -> bool {
        self.by_name.get(name).is_some_and(|i| i.heard().at_rest.iter().any(|d| d == digits))
    }
}
