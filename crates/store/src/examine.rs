//! Whether a record is whole: read as it lies there, changed in nothing.

use crate::chain::{self, Head};
use crate::db::{LATEST, Store};
use crate::error::StoreError;
use crate::said::Said;
use crate::seal;
use rusqlite::{Connection, OpenFlags};
use std::collections::BTreeMap;
use std::fmt;
use std::path::Path;

/// What is wrong with a record.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Fault {
    /// There is no such file.
    Missing,
    /// The file has nothing in it.
    Empty,
    /// The file is something else, or its beginning is gone.
    NoRecord,
    /// A later version of the program wrote it.
    Newer {
        /// Its format.
        format: i64,
    },
    /// What SQLite finds wrong with the file.
    Damaged(String),
    /// A row that speaks of one that is not there.
    Dangling {
        /// The table that it stands in.
        table: String,
    },
    /// An event that does not follow from the one before it.
    Link(i64),
    /// An event whose words are not those that were written.
    Words(i64),
    /// An event whose words cannot be read, though they are those that were written.
    Unreadable(i64),
    /// An event whose words are gone, and nobody erased them.
    Gone(i64),
    /// A table that holds something other than what was written.
    Changed {
        /// Which.
        table: String,
    },
}

impl fmt::Display for Fault {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Fault::Missing => write!(f, "there is no record"),
            Fault::Empty => write!(f, "the file is empty"),
            Fault::NoRecord => write!(f, "the file is not a record, or its beginning is damaged"),
            Fault::Newer { format } => write!(f, "a newer version of the program wrote it (format {format})"),
            Fault::Damaged(what) => write!(f, "the file is damaged: {what}"),
            Fault::Dangling { table } => write!(f, "a row in '{table}' belongs to something that is not there"),
            Fault::Link(seq) => write!(f, "event {seq} does not follow from the one before it"),
            Fault::Words(seq) => write!(f, "event {seq} does not say what was written"),
            Fault::Unreadable(seq) => write!(f, "event {seq} cannot be read"),
            Fault::Gone(seq) => write!(f, "the words of event {seq} are gone, and nobody erased them"),
            Fault::Changed { table } => write!(f, "the table '{table}' does not hold what was written"),
        }
    }
}

/// What was found in a record.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Examined {
    /// The end of the chain.
    pub head: Head,
    /// When the record was last written to, ms by the clock of that day; none while nothing was.
    pub written_at: Option<i64>,
    /// Words that were erased, rightly.
    pub erased: u64,
    /// Everything that is wrong, at most [`MOST_FAULTS`] of it.
    pub faults: Vec<Fault>,
}

/// More is of no use to anybody.
pub const MOST_FAULTS: usize = 100;

impl Examined {
    fn only(fault: Fault) -> Examined {
        Examined { head: Head { seq: 0, chain: [0; 32] }, written_at: None, erased: 0, faults: vec![fault] }
    }

    /// Whether nothing is wrong.
    #[must_use]
    pub fn is_whole(&self) -> bool {
        self.faults.is_empty()
    }

    fn add(&mut self, fault: Fault) {
        if self.faults.len() < MOST_FAULTS {
            self.faults.push(fault);
        }
    }
}

/// How closely a record is looked at.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Look {
    /// Every page of the file, every link of the chain, every row.
    Whole,
    /// What a start can wait for: that it is a record, its tables, and the last events.
    Quick,
}

/// Events that a quick look goes back.
const QUICK_EVENTS: i64 = 1000;

impl Store {
    /// Looks at the whole record.
    #[must_use]
    pub fn examine(&self) -> Examined {
        examine(self.path(), Look::Whole)
    }
}

/// Looks at the record in a file, read-only; a server may be working on it meanwhile.
#[must_use]
pub fn examine(path: &Path, look: Look) -> Examined {
    match std::fs::metadata(path) {
        Err(_) => return Examined::only(Fault::Missing),
        Ok(file) if file.len() == 0 => return Examined::only(Fault::Empty),
        Ok(_) => {}
    }
    match opened(path).and_then(|c| looked_at(&c, look)) {
        Ok(examined) => examined,
        Err(StoreError::Database(error)) if is_no_database(&error) => Examined::only(Fault::NoRecord),
        Err(error) => Examined::only(Fault::Damaged(error.to_string())),
    }
}

fn is_no_database(error: &rusqlite::Error) -> bool {
    error.sqlite_error_code() == Some(rusqlite::ErrorCode::NotADatabase)
}

fn opened(path: &Path) -> Result<Connection, StoreError> {
    let connection = Connection::open_with_flags(path, OpenFlags::SQLITE_OPEN_READ_ONLY)?;
    connection.execute_batch("PRAGMA trusted_schema = OFF; PRAGMA busy_timeout = 5000; BEGIN")?;
    seal::teach(&connection)?;
    Ok(connection)
}

fn looked_at(c: &Connection, look: Look) -> Result<Examined, StoreError> {
    let format: i64 = c.query_row("PRAGMA user_version", [], |r| r.get(0))?;
    if format > LATEST {
        return Ok(Examined::only(Fault::Newer { format }));
    }
    let events = "SELECT EXISTS (SELECT 1 FROM sqlite_schema WHERE type = 'table' AND name = 'event')";
    if !c.query_row(events, [], |r| r.get(0))? {
        return Ok(Examined::only(Fault::NoRecord));
    }
    let mut found = Examined { head: Head { seq: 0, chain: [0; 32] }, written_at: None, erased: 0, faults: Vec::new() };
    if look == Look::Whole {
        pages(c, &mut found)?;
        if !found.is_whole() {
            // A file that SQLite itself cannot follow says nothing reliable about events.
            return Ok(found);
        }
    }
    let last = "SELECT max(received_at) FROM (SELECT received_at FROM event ORDER BY seq DESC LIMIT 1)";
    found.written_at = c.query_row(last, [], |r| r.get(0))?;
    let from = match look {
        Look::Whole => 0,
        Look::Quick => (chain::head(c)?.seq - QUICK_EVENTS).max(0),
    };
    events_from(c, from, &mut found)?;
    if seal::is_sealed(c)? {
        seal::broken(c)?.into_iter().for_each(|table| found.add(Fault::Changed { table }));
    }
    Ok(found)
}

fn pages(c: &Connection, found: &mut Examined) -> Result<(), StoreError> {
    let mut check = c.prepare("PRAGMA integrity_check(20)")?;
    for line in check.query_map([], |r| r.get::<_, String>(0))? {
        match line {
            Ok(line) if line == "ok" => {}
            Ok(line) => found.add(Fault::Damaged(line)),
            Err(error) => found.add(Fault::Damaged(error.to_string())),
        }
    }
    if found.is_whole() {
        let mut check = c.prepare("PRAGMA foreign_key_check")?;
        for table in check.query_map([], |r| r.get::<_, String>(0))? {
            found.add(Fault::Dangling { table: table? });
        }
    }
    Ok(())
}

/// Who erased what, to be held against what is gone.
#[derive(Default)]
struct Erasures {
    /// The last erasure of a group: everything of it before is gone.
    groups: BTreeMap<(i64, Option<i64>), i64>,
    /// Single events that went with a person.
    events: std::collections::BTreeSet<i64>,
    /// Runs of which persons were erased before it was written which events went: what is gone there before is believed.
    unlisted: BTreeMap<i64, i64>,
}

impl Erasures {
    fn read(c: &Connection) -> Result<Erasures, StoreError> {
        let mut out = Erasures::default();
        let mut statement = c.prepare(
            "SELECT e.seq, e.run_id, e.group_id, e.kind, e.payload_version, p.body
             FROM event e LEFT JOIN payload p ON p.seq = e.seq WHERE e.kind IN ('erased', 'person-erased')",
        )?;
        let mut rows = statement.query([])?;
        while let Some(r) = rows.next()? {
            let (seq, run): (i64, i64) = (r.get(0)?, r.get(1)?);
            if r.get::<_, String>(3)? == "erased" {
                out.groups.insert((run, r.get(2)?), seq);
                continue;
            }
            let body: Option<String> = r.get(5)?;
            let version = r.get(4)?;
            let said = body.and_then(|b| Said::read(version, &b).ok());
            match said.and_then(|s| s.statement.erased_events()) {
                Some(events) => out.events.extend(events),
                None => {
                    out.unlisted.insert(run, seq);
                }
            }
        }
        Ok(out)
    }

    fn account_for(&self, seq: i64, run: i64, group: Option<i64>) -> bool {
        self.groups.get(&(run, group)).is_some_and(|last| *last > seq)
            || self.events.contains(&seq)
            || self.unlisted.get(&run).is_some_and(|last| *last > seq)
    }
}

fn events_from(c: &Connection, from: i64, found: &mut Examined) -> Result<(), StoreError> {
    let erasures = Erasures::read(c)?;
    found.head = chain::head_at(c, from)?;
    let mut statement = c.prepare(&format!("{} WHERE e.seq > :from ORDER BY e.seq", chain::LINKED))?;
    let mut rows = statement.query(&[(":from", &from)])?;
    while let Some(row) = rows.next()? {
        let seq = found.head.seq + 1;
        let Ok(link) = chain::Linked::read(row) else {
            found.add(Fault::Unreadable(seq));
            found.head.seq = seq;
            continue;
        };
        if !link.follows(&found.head) {
            found.add(Fault::Link(link.seq));
        }
        match &link.payload {
            None if erasures.account_for(link.seq, link.run, link.group) => found.erased += 1,
            None => found.add(Fault::Gone(link.seq)),
            Some(payload) if !link.says(payload) => found.add(Fault::Words(link.seq)),
            Some(payload) => match Said::read(link.version, &payload.body) {
                Ok(said) if said.person == payload.person && said.statement.kind() == link.kind => {}
                Ok(_) => found.add(Fault::Words(link.seq)),
                Err(_) => found.add(Fault::Unreadable(link.seq)),
            },
        }
        found.head = Head { seq: link.seq, chain: link.chain };
    }
    Ok(())
}
