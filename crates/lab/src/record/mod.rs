//! What happened at the benches of a run, as tables: readings, what follows from them, what was seen.
//!
//! Tidy: one fact a row, units in columns of their own, the digits as typed beside the number. No figure is worked out here
//! that is not worked out elsewhere.

mod times;

use crate::bench::{Entered, Entries, Struck};
use crate::evaluated::{Evaluated, ResultState};
use crate::group::GroupOutcome;
use measure::Unit;
use measure::rounding::decimal_of;
use practical::{Part, Practical, SheetRole};
use sheet::{Outcome, Value};
use std::collections::{BTreeMap, BTreeSet};

pub use times::{StepTime, step_times};

/// A table with a head.
#[derive(Debug, Clone, PartialEq)]
pub struct Table {
    /// In a word or two, as a sheet of a workbook is called.
    pub name: &'static str,
    /// One for each column.
    pub head: Vec<String>,
    /// Each as long as the head.
    pub rows: Vec<Vec<Cell>>,
}

/// What stands in a cell.
#[derive(Debug, Clone, PartialEq)]
pub enum Cell {
    /// Nothing.
    Empty,
    /// Words, or digits that are to stay as they are.
    Text(String),
    /// A number with the digits that it is written with.
    Number {
        /// As written, point for a comma.
        text: String,
        /// What it is.
        value: f64,
    },
    /// A moment, ms since 1970.
    Moment(i64),
}

impl Cell {
    /// Words; nothing where there are none.
    #[must_use]
    pub fn text(text: &str) -> Cell {
        if text.is_empty() { Cell::Empty } else { Cell::Text(text.to_owned()) }
    }

    /// A number with its digits; words where it is none.
    #[must_use]
    pub fn number(text: &str) -> Cell {
        match measure::Decimal::parse(text) {
            Ok(read) => Cell::Number { text: read.to_string(), value: read.to_f64() },
            Err(_) => Cell::text(text),
        }
    }
}

/// One group as it is written down.
#[derive(Debug, Clone, Copy)]
pub struct Recorded<'a> {
    /// Its name.
    pub name: &'a str,
    /// As the group works it.
    pub practical: &'a Practical,
    /// As they stand.
    pub entries: &'a Entries,
    /// Readings by slot, with what was said of each.
    pub readings: &'a BTreeMap<String, Entered>,
    /// What was taken out and not put in again, by slot.
    pub taken_out: &'a BTreeMap<String, Vec<Struck>>,
    /// What was seen, by observation.
    pub observations: &'a BTreeMap<String, Entered>,
    /// Everything recomputed.
    pub outcome: &'a GroupOutcome,
}

fn heads(names: &[&str]) -> Vec<String> {
    names.iter().map(|n| (*n).to_owned()).collect()
}

fn trial(part: Part) -> Cell {
    match part {
        Part::Trial(n) => {
            Cell::Number { text: (n + 1).to_string(), value: f64::from(u32::try_from(n + 1).unwrap_or(0)) }
        }
        Part::Whole => Cell::Empty,
        Part::From => Cell::text("from"),
        Part::To => Cell::text("to"),
    }
}

/// Every reading that was entered, a row each.
#[must_use]
pub fn readings(groups: &[Recorded<'_>]) -> Table {
    let head = ["group", "reading", "trial", "value", "as typed", "unit", "read on", "at", "remarks", "earlier values"];
    let mut rows = Vec::new();
    for group in groups {
        for slot in group.practical.slots() {
            let entered = group.readings.get(&slot.symbol);
            let gone = group.taken_out.get(&slot.symbol).map_or(&[][..], Vec::as_slice);
            if entered.is_none() && gone.is_empty() {
                continue;
            }
            let reading = slot.reading;
            let on = entered.and_then(|e| e.on.as_deref()).unwrap_or(&reading.instrument.name);
            rows.push(vec![
                Cell::text(group.name),
                Cell::text(&reading.label),
                trial(slot.part),
                entered.map_or(Cell::Empty, |e| Cell::number(&e.text)),
                entered.map_or(Cell::Empty, |e| Cell::text(&e.text)),
                Cell::text(reading.unit.written()),
                Cell::text(on),
                entered.map_or(Cell::Empty, |e| Cell::Moment(e.at)),
                Cell::text(&entered.map_or_else(String::new, remarks)),
                Cell::text(&earlier(entered, gone)),
            ]);
        }
    }
    Table { name: "readings", head: heads(&head), rows }
}

fn remarks(entered: &Entered) -> String {
    let lent = entered.borrowed.as_ref().map(|from| format!("borrowed from {from}"));
    let said = [
        (!entered.steps.is_empty()).then(|| format!("display before: {}", entered.steps.join(", "))),
        entered.confirmed.then(|| "looked at again".to_owned()),
        entered.by_instructor.then(|| "entered by the instructor".to_owned()),
        entered.about.then(|| "time of the device is doubtful".to_owned()),
        lent,
    ];
    said.into_iter().flatten().collect::<Vec<_>>().join("; ")
}

/// Values that were corrected or taken out, oldest first, each with why.
#[must_use]
pub fn earlier(entered: Option<&Entered>, gone: &[Struck]) -> String {
    let struck = entered.into_iter().flat_map(|e| &e.struck);
    let said = struck.map(|s| format!("{} ({})", s.text, s.reason.as_deref().unwrap_or("entered again")));
    let out =
        gone.iter().map(|s| format!("{} (taken out: {})", s.text, s.reason.as_deref().unwrap_or("no reason given")));
    said.chain(out).collect::<Vec<_>>().join("; ")
}

/// What follows from the readings: net masses and titres, what is worked out for each trial, results with their U.
#[must_use]
pub fn worked_out(groups: &[Recorded<'_>]) -> Table {
    let head = ["group", "quantity", "trial", "value", "as written", "U (k = 2)", "unit", "why there is none"];
    let mut rows = Vec::new();
    for group in groups {
        let practical = group.practical;
        let bench = Evaluated::of(practical, group.entries);
        let results: BTreeSet<&str> = practical.results.iter().map(|r| r.name.as_str()).collect();
        for name in on_the_way(practical).into_iter().filter(|n| !results.contains(n.as_str())) {
            let Some(definition) = practical.program.definition(&name) else { continue };
            let label = practical.label_of(&name);
            let row = |part: Part, value: &Value| {
                let shown = written(practical, value, &definition.unit);
                let number = definition.unit.from_base(value.value);
                let unit = Cell::text(definition.unit.written());
                let trial = trial(part);
                vec![
                    Cell::text(group.name),
                    Cell::text(&label),
                    trial,
                    numbered(&shown, number),
                    Cell::text(&shown),
                    Cell::Empty,
                    unit,
                    Cell::Empty,
                ]
            };
            match bench.evaluation.outcome(&name) {
                Some(Outcome::Value(value)) => rows.push(row(Part::Whole, &value)),
                Some(Outcome::Series(each)) => {
                    for (i, outcome) in each.iter().enumerate() {
                        if let Outcome::Value(value) = outcome {
                            rows.push(row(Part::Trial(i), value));
                        }
                    }
                }
                Some(Outcome::NotYet { .. } | Outcome::Failed(_)) | None => {}
            }
        }
        for spec in practical.results.iter().filter(|r| r.is_worked_out()) {
            let Some(result) = group.outcome.results.iter().find(|r| r.name == spec.name) else { continue };
            let (value, text, expanded, unit, why) = match &result.state {
                ResultState::Value(v) => {
                    let expanded = v.expanded.as_deref().map_or(Cell::Empty, Cell::number);
                    (numbered(&v.text, v.value), v.text.clone(), expanded, v.unit.clone(), String::new())
                }
                ResultState::NotYet { .. } => (
                    Cell::Empty,
                    String::new(),
                    Cell::Empty,
                    spec.unit.written().to_owned(),
                    "readings are missing".into(),
                ),
                ResultState::Failed { reason } => {
                    (Cell::Empty, String::new(), Cell::Empty, spec.unit.written().to_owned(), reason.clone())
                }
            };
            let (label, text, unit, why) =
                (Cell::text(&spec.label), Cell::text(&text), Cell::text(&unit), Cell::text(&why));
            rows.push(vec![Cell::text(group.name), label, Cell::Empty, value, text, expanded, unit, why]);
        }
    }
    Table { name: "worked out", head: heads(&head), rows }
}

/// Net masses, titres and what has a value for each trial.
fn on_the_way(practical: &Practical) -> Vec<String> {
    let weighed = practical.file.weighings.iter().map(|w| w.name().to_owned());
    let titres = practical.file.titres.iter().map(|t| t.name.clone());
    let each = [SheetRole::ConcentrationEach, SheetRole::MassFractionEach].map(|role| practical.roles.all(role));
    let each = each.into_iter().flatten().map(|r| r.definition.clone());
    weighed.chain(titres).chain(each).collect()
}

fn written(practical: &Practical, value: &Value, unit: &Unit) -> String {
    let decimal = decimal_of(unit.from_base(value.value));
    decimal.map_or_else(String::new, |d| value.precision.rounded(d, unit, practical.school.fives).to_string())
}

/// A number with the digits that it has earned; a formula and the like stay words.
fn numbered(text: &str, value: f64) -> Cell {
    match measure::Decimal::parse(text) {
        Ok(read) => Cell::Number { text: read.to_string(), value },
        Err(_) => Cell::text(text),
    }
}

/// What was seen, a row each.
#[must_use]
pub fn observations(groups: &[Recorded<'_>]) -> Table {
    let mut rows = Vec::new();
    for group in groups {
        for asked in &group.practical.observations {
            let Some(seen) = group.observations.get(&asked.symbol) else { continue };
            rows.push(vec![
                Cell::text(group.name),
                Cell::text(&asked.question),
                Cell::text(&seen.text),
                Cell::Moment(seen.at),
            ]);
        }
    }
    Table { name: "observations", head: heads(&["group", "question", "seen", "at"]), rows }
}
