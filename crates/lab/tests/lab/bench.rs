//! A bench to put readings on: entries come in through the door for everything that is typed, in order.

use lab::bench::{Departure, Deviation, Entries, Entry, Flag, Refusal, Room, Taken, accepted};
use lab::evaluated::Evaluated;
use lab::group::GroupOutcome;
use lab::judge::{Advice, Matter, may_be_told};
use practical::{Practical, School};
use std::path::Path;
use std::sync::Arc;

/// One group at work on a practical of the library.
#[derive(Clone)]
pub struct Bench {
    pub practical: Arc<Practical>,
    pub room: Room,
    pub entries: Entries,
}

impl Bench {
    pub fn of(id: &str) -> Bench {
        let file = Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("../../practicals/{id}.practical.toml"));
        Bench::on(&std::fs::read_to_string(file).unwrap())
    }

    pub fn on(text: &str) -> Bench {
        Bench::in_school(text, &School::default())
    }

    pub fn in_school(text: &str, school: &School) -> Bench {
        let practical = Practical::parse_in(text, school).unwrap_or_else(|e| panic!("{e}"));
        Bench { practical: Arc::new(practical), room: Room::default(), entries: Entries::default() }
    }

    pub fn offer(&self, entry: Entry) -> Result<Entry, Refusal> {
        accepted(&self.practical, &self.room, entry)
    }

    pub fn say(mut self, entry: Entry) -> Bench {
        let entry = self.offer(entry).unwrap_or_else(|e| panic!("{e}"));
        self.entries.put(&entry, 0, &self.room);
        self
    }

    pub fn reading(&self, symbol: &str, text: &str) -> Taken {
        let unit = self.practical.reading(symbol).unwrap_or_else(|| panic!("no reading {symbol}")).unit.written();
        Taken { symbol: symbol.into(), text: text.into(), unit: unit.to_owned(), ..Taken::default() }
    }

    pub fn read(self, symbol: &str, text: &str) -> Bench {
        let taken = self.reading(symbol, text);
        self.say(Entry::Reading(taken))
    }

    pub fn read_on_the_way(self, symbol: &str, steps: &[&str], text: &str) -> Bench {
        let steps = steps.iter().map(|s| (*s).to_owned()).collect();
        let taken = Taken { steps, ..self.reading(symbol, text) };
        self.say(Entry::Reading(taken))
    }

    pub fn flagged(self, symbol: &str, text: &str, flag: Flag) -> Bench {
        let taken = Taken { flags: vec![flag], ..self.reading(symbol, text) };
        self.say(Entry::Reading(taken))
    }

    pub fn saw(self, symbol: &str, choice: &str) -> Bench {
        self.say(Entry::Observation { symbol: symbol.into(), choice: choice.into() })
    }

    pub fn departed(self, what: Departure, note: &str) -> Bench {
        let nr = format!("d{}", self.entries.deviations.len() + 1);
        self.say(Entry::Deviation(Deviation { nr, step: 0, what, note: note.into(), withdrawn: false }))
    }

    pub fn answer(self, result: &str, text: &str, unit: &str) -> Bench {
        self.say(Entry::Answer { result: result.into(), text: text.into(), unit: unit.into(), by: None })
    }

    pub fn outcome(&self) -> GroupOutcome {
        Evaluated::of(&self.practical, &self.entries).outcome()
    }

    /// Everything that there is to tell, whoever may hear it.
    pub fn advice(&self) -> Vec<Advice> {
        self.outcome().advice
    }

    /// What the group itself is told.
    pub fn told(&self) -> Vec<Advice> {
        may_be_told(&self.practical, &self.entries, self.advice())
    }
}

/// The matters told of some kinds, in order.
pub fn matters(bench: &Bench, of: fn(&Matter) -> bool) -> Vec<Matter> {
    bench.advice().into_iter().map(|a| a.matter).filter(of).collect()
}
