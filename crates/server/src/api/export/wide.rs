//! Everything of a run as comma-separated values (RFC 4180), for a spreadsheet.
//!
//! One row a group: readings as typed, results recomputed with their uncertainty, answers with their verdicts. A text
//! that a spreadsheet would take for a formula is quoted with a leading apostrophe; numbers stay numbers.

use super::safe;
use super::tables::{named, words};
use crate::api::views::{GroupAtWork, Row, SheetView, marks_shown};
use crate::clock;
use lab::evaluated::ResultState;
use lab::marks::BenchFound;
use lab::record::earlier;
use practical::Practical;

/// One row a group, or a student.
pub fn table(practical: &Practical, benches: &[GroupAtWork], sheets: &[SheetView]) -> Result<Vec<u8>, csv::Error> {
    let mut out = csv::WriterBuilder::new().terminator(csv::Terminator::CRLF).from_writer(Vec::new());
    out.write_record(head(practical).iter().map(|cell| safe(cell)))?;
    for GroupAtWork { row, .. } in benches {
        let own: Vec<&SheetView> = sheets.iter().filter(|s| s.group == row.group).collect();
        if own.is_empty() {
            out.write_record(cells(practical, row, None).iter().map(|cell| safe(cell)))?;
        }
        for sheet in own {
            out.write_record(cells(practical, row, Some(sheet)).iter().map(|cell| safe(cell)))?;
        }
    }
    out.into_inner().map_err(|e| e.into_error().into())
}

fn head(practical: &Practical) -> Vec<String> {
    let mut head = vec!["group".to_owned()];
    for r in &practical.slots() {
        head.push(format!("{} / {}", r.label, r.reading.unit));
        head.push(format!("{}, entered at", r.label));
        head.push(format!("{}, earlier values and why", r.label));
    }
    head.extend(practical.observations.iter().map(|o| o.question.clone()));
    for r in practical.results.iter().filter(|r| !r.is_worked_out()) {
        head.extend([", answer", ", marks", ", remark"].map(|of| format!("{}{of}", r.label)));
    }
    head.extend(BENCH.map(|of| format!("at the bench, {of}, marks")));
    for r in practical.results.iter().filter(|r| r.is_worked_out()) {
        head.push(format!("{} recomputed / {}", r.label, r.unit));
        head.push(format!("{}, U (k = 2) / {}", r.label, r.unit));
        if r.asked {
            head.extend(
                [", answer", ", unit of the answer", ", value", ", unit", ", digits", ", slip", ", marks", ", remark"]
                    .map(|of| format!("{}{of}", r.label)),
            );
        }
    }
    head
}

fn cells(practical: &Practical, row: &Row, sheet: Option<&SheetView>) -> Vec<String> {
    let mut cells = vec![sheet.map_or_else(|| row.name.clone(), |s| s.name.clone())];
    for r in &practical.slots() {
        let entered = row.readings.get(&r.symbol);
        cells.push(entered.map_or_else(String::new, |e| e.text.clone()));
        cells.push(entered.map_or_else(String::new, |e| clock::written(e.at)));
        let gone = row.taken_out.get(&r.symbol).map_or(&[][..], Vec::as_slice);
        let lent = entered.and_then(|e| e.borrowed.as_ref()).map(|from| format!("borrowed from {from}"));
        let story = Some(earlier(entered, gone)).filter(|told| !told.is_empty());
        cells.push(story.into_iter().chain(lent).collect::<Vec<_>>().join("; "));
    }
    let seen = |symbol: &str| row.observations.get(symbol).map_or_else(String::new, |e| e.text.clone());
    cells.extend(practical.observations.iter().map(|o| seen(&o.symbol)));
    let answer = |name: &str| sheet.and_then(|s| s.answers.get(name));
    let marks = |name: &str| {
        let given = sheet.and_then(|s| s.given.get(name));
        given.map_or_else(String::new, |m| marks_shown(*m))
    };
    let remark = |name: &str| {
        let review = sheet.and_then(|s| s.reviews.get(name)).filter(|v| v.current);
        review.map_or_else(String::new, |v| v.comment.clone())
    };
    for r in practical.results.iter().filter(|r| !r.is_worked_out()) {
        cells.push(answer(&r.name).map_or_else(String::new, |a| a.text.clone()));
        cells.extend([marks(&r.name), remark(&r.name)]);
    }
    cells.extend(at_the_bench(sheet));
    for r in practical.results.iter().filter(|r| r.is_worked_out()) {
        let state = row.outcome.results.iter().find(|o| o.name == r.name).map(|o| &o.state);
        let (value, expanded) = match state {
            Some(ResultState::Value(v)) => (v.text.clone(), v.expanded.clone().unwrap_or_default()),
            Some(ResultState::NotYet { .. } | ResultState::Failed { .. }) | None => (String::new(), String::new()),
        };
        cells.extend([value, expanded]);
        if r.asked {
            let answer = answer(&r.name);
            cells.push(answer.map_or_else(String::new, |a| a.text.clone()));
            cells.push(answer.map_or_else(String::new, |a| a.unit.clone()));
            let verdict = sheet.and_then(|s| s.verdicts.get(&r.name));
            cells.extend(verdict.map_or_else(Default::default, words));
            cells.push(verdict.map_or_else(String::new, named));
            cells.extend([marks(&r.name), remark(&r.name)]);
        }
    }
    cells
}

/// What marks for the work at the bench are given for.
const BENCH: [&str; 3] = ["recording", "agreement", "closeness"];

/// Marks for the work at the bench, in that order; nothing where the practical gives none.
fn at_the_bench(sheet: Option<&SheetView>) -> [String; 3] {
    let mut cells = [const { String::new() }; 3];
    for mark in sheet.into_iter().flat_map(|s| &s.bench_marks) {
        let column = match mark.found {
            BenchFound::Recording { .. } => 0,
            BenchFound::Agreement { .. } => 1,
            BenchFound::Closeness { .. } => 2,
        };
        cells[column] = marks_shown(mark.marks);
    }
    cells
}
