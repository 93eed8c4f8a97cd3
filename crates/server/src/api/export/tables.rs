//! The tables of a run: what was measured and follows comes from the core, answers and marks from the sheets.

use crate::access::DeskRun;
use crate::api::check::{Answerer, answerers, sheets_of};
use crate::api::views::{GroupAtWork, SheetView, groups_at_work};
use crate::app::App;
use crate::problem::ApiError;
use lab::check::{DigitsVerdict, UnitVerdict, ValueVerdict, Verdict};
use lab::marks::BenchFound;
use lab::record::{Cell, Recorded, Table, observations, readings, worked_out};
use practical::{Practical, ResultSpec};

/// Every table of a run. Who a student is stands there only where names are wanted.
pub fn tables(app: &App, desk: &DeskRun, names: bool) -> Result<Vec<Table>, ApiError> {
    let practical = app.practical_of(&desk.run)?;
    let benches = groups_at_work(app, &desk.run)?;
    let mut sheets = sheets_of(app, desk, &benches)?;
    let mut who = answerers(app, desk, &practical, &benches)?;
    if !names {
        let of = |id: i64| benches.iter().find(|b| b.row.group == id).map_or("", |b| b.row.name.as_str());
        let called = |group: i64, person: Option<i64>| person.map(|p| format!("{}, {p}", of(group)));
        let sheets = sheets.iter_mut().map(|s| (called(s.group, s.person), &mut s.name));
        for (called, name) in sheets.chain(who.iter_mut().map(|a| (called(a.group, a.person), &mut a.name))) {
            *name = called.unwrap_or_else(|| std::mem::take(name));
        }
    }
    let at_work: Vec<&GroupAtWork> = benches.iter().filter(|b| b.row.merged_into.is_none()).collect();
    let recorded: Vec<Recorded<'_>> = at_work.iter().map(|b| recorded(b)).collect();
    let mut all = vec![
        marks(&practical, &who, &sheets),
        readings(&recorded),
        worked_out(&recorded),
        answers(&practical, &sheets),
        observations(&recorded),
    ];
    if names {
        all.push(people(app, desk, &benches)?);
    }
    Ok(all)
}

fn recorded(bench: &GroupAtWork) -> Recorded<'_> {
    Recorded {
        name: &bench.row.name,
        practical: &bench.practical,
        entries: &bench.entries,
        readings: &bench.row.readings,
        taken_out: &bench.row.taken_out,
        observations: &bench.row.observations,
        outcome: &bench.row.outcome,
    }
}

/// Marks as they stand, a row for each sheet, with their sum.
fn marks(practical: &Practical, who: &[Answerer], sheets: &[SheetView]) -> Table {
    let asked: Vec<&ResultSpec> = practical.results.iter().filter(|r| r.asked).collect();
    let bench = who.first().map_or(&[][..], |a| a.bench_marks.as_slice());
    let of = |label: &str, most: f64| format!("{label}, of {most}");
    let worth = asked.iter().map(|r| r.marks.most()).chain(bench.iter().map(|m| m.most)).sum::<f64>();
    let mut head = vec!["sheet".to_owned()];
    head.extend(asked.iter().map(|r| of(&r.label, r.marks.most())));
    head.extend(bench.iter().map(|m| of(at_the_bench(&m.found), m.most)));
    head.push(of("total", worth));
    let row = |a: &Answerer| {
        let sheet = sheets.iter().find(|s| s.key == a.key);
        let given = asked.iter().map(|r| sheet.and_then(|s| s.given.get(&r.name)).copied());
        let all: Vec<Option<f64>> = given.chain(a.bench_marks.iter().map(|m| Some(m.marks))).collect();
        let sum: f64 = all.iter().flatten().sum();
        let shown = |marks: f64| {
            let marks = (100.0 * marks).round() / 100.0;
            Cell::Number { text: marks.to_string(), value: marks }
        };
        let cells = all.into_iter().map(|m| m.map_or(Cell::Empty, shown));
        std::iter::once(Cell::text(&a.name)).chain(cells).chain([shown(sum)]).collect()
    };
    Table { name: "marks", head, rows: who.iter().map(row).collect() }
}

fn at_the_bench(found: &BenchFound) -> &'static str {
    match found {
        BenchFound::Recording { .. } => "recording",
        BenchFound::Agreement { .. } => "agreement",
        BenchFound::Closeness { .. } => "closeness",
    }
}

/// Answers with what was found of them, a row each.
fn answers(practical: &Practical, sheets: &[SheetView]) -> Table {
    let head = [
        "sheet",
        "asked",
        "answer",
        "as typed",
        "unit",
        "value is",
        "unit is",
        "digits are",
        "slips",
        "marks",
        "of",
        "remark",
        "at",
    ];
    let mut rows = Vec::new();
    for sheet in sheets {
        for asked in practical.results.iter().filter(|r| r.asked) {
            let Some(answer) = sheet.answers.get(&asked.name) else { continue };
            let verdict = sheet.verdicts.get(&asked.name);
            let [value, unit, digits] = verdict.map_or_else(Default::default, words);
            let review = sheet.reviews.get(&asked.name).filter(|v| v.current);
            let number = |marks: f64| Cell::Number { text: marks.to_string(), value: marks };
            rows.push(vec![
                Cell::text(&sheet.name),
                Cell::text(&asked.label),
                Cell::number(&answer.text),
                Cell::text(&answer.text),
                Cell::text(&answer.unit),
                Cell::text(&value),
                Cell::text(&unit),
                Cell::text(&digits),
                Cell::text(&verdict.map_or_else(String::new, named)),
                sheet.given.get(&asked.name).map_or(Cell::Empty, |m| number((100.0 * m).round() / 100.0)),
                number(asked.marks.most()),
                Cell::text(review.map_or("", |v| v.comment.as_str())),
                Cell::Moment(answer.at),
            ]);
        }
    }
    Table { name: "answers", head: head.map(str::to_owned).to_vec(), rows }
}

/// Who sat where, lesson by lesson.
fn people(app: &App, desk: &DeskRun, benches: &[GroupAtWork]) -> Result<Table, ApiError> {
    let mut rows = Vec::new();
    for seat in app.store.seats(desk.run.id)? {
        let group = benches.iter().find(|b| Some(b.row.group) == seat.group).map_or("absent", |b| b.row.name.as_str());
        let lesson =
            Cell::Number { text: seat.visit.to_string(), value: f64::from(i32::try_from(seat.visit).unwrap_or(0)) };
        rows.push(vec![Cell::text(&seat.name), lesson, Cell::text(group)]);
    }
    Ok(Table { name: "people", head: ["name", "from lesson", "group"].map(str::to_owned).to_vec(), rows })
}

/// What was found of value, unit and digits.
pub fn words(verdict: &Verdict) -> [String; 3] {
    let value = match &verdict.value {
        ValueVerdict::NotYet { .. } => "readings missing".into(),
        ValueVerdict::NoValue { reason } => reason.clone(),
        ValueVerdict::Right => "right".into(),
        ValueVerdict::CarriedForward { origins } => format!("right with own {}", origins.join(", ")),
        ValueVerdict::TooFewDigits => "too few digits to judge".into(),
        ValueVerdict::NotReduced { by } => format!("not reduced: {by} times too large"),
        ValueVerdict::ToRead => "to be read".into(),
        ValueVerdict::Wrong => "wrong".into(),
    };
    let value = if verdict.absurd { format!("{value}; no result can be so") } else { value };
    let unit = match &verdict.unit {
        UnitVerdict::Right => "right".into(),
        UnitVerdict::Missing => "missing".into(),
        UnitVerdict::Unknown { typed } => format!("no unit known here: {typed}"),
        UnitVerdict::Wrong { fits } => format!("wrong; the number is in {fits}"),
    };
    let digits = match &verdict.digits {
        DigitsVerdict::Right => "right".into(),
        DigitsVerdict::TooMany { typed, wanted } => format!("too many: {typed} for {wanted}"),
        DigitsVerdict::TooFew { typed, wanted } => format!("too few: {typed} for {wanted}"),
        DigitsVerdict::ByAnotherSchool { here, .. } => format!("right by another school: {here} here"),
        DigitsVerdict::Ambiguous { least, most } => format!("ambiguous: {least} to {most}"),
        DigitsVerdict::NotJudged => String::new(),
    };
    [value, unit, digits]
}

/// Codes of the slips that were named.
pub fn named(verdict: &Verdict) -> String {
    let code = |slip| serde_json::to_value(slip).ok().and_then(|v| v.as_str().map(str::to_owned));
    verdict.slips().into_iter().filter_map(code).collect::<Vec<_>>().join(", ")
}
