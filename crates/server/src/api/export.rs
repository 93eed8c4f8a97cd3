//! Everything of a run as comma-separated values (RFC 4180), for a spreadsheet.
//!
//! One row a group: readings as typed, results recomputed with their uncertainty, answers with their verdicts. A text
//! that a spreadsheet would take for a formula is quoted with a leading apostrophe; numbers stay numbers.

use crate::access::DeskRun;
use crate::api::check::sheets_of;
use crate::api::views::{GroupAtWork, Row, SheetView, groups_at_work, marks_shown};
use crate::app::{App, blocking};
use crate::clock;
use crate::problem::ApiError;
use actix_web::http::header::{CONTENT_DISPOSITION, ContentDisposition, DispositionParam, DispositionType};
use actix_web::{HttpResponse, get, web};
use anyhow::anyhow;
use lab::check::{DigitsVerdict, UnitVerdict, ValueVerdict, Verdict};
use lab::evaluated::ResultState;
use lab::marks::BenchFound;
use practical::Practical;

/// `GET /runs/{run}/export.csv`, for instructors.
#[get("/runs/{run}/export.csv")]
pub async fn export_table(app: web::Data<App>, desk: DeskRun) -> Result<HttpResponse, ApiError> {
    let (name, text) = blocking(&app, move |app| {
        let run = desk.run.clone();
        let practical = app.practical_of(&run)?;
        let benches = groups_at_work(app, &run)?;
        let sheets = sheets_of(app, &desk, &benches)?;
        let text = table(&practical, &benches, &sheets).map_err(|e| ApiError::Internal(anyhow!("csv: {e}")))?;
        Ok((format!("{}-run-{}.csv", run.practical, run.id), text))
    })
    .await?;
    let disposition = ContentDisposition {
        disposition: DispositionType::Attachment,
        parameters: vec![DispositionParam::Filename(name)],
    };
    Ok(HttpResponse::Ok()
        .content_type("text/csv; charset=utf-8")
        .insert_header((CONTENT_DISPOSITION, disposition))
        .body(text))
}

fn table(practical: &Practical, benches: &[GroupAtWork], sheets: &[SheetView]) -> Result<Vec<u8>, csv::Error> {
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
        let struck = entered.into_iter().flat_map(|e| &e.struck);
        let story: Vec<String> =
            struck.map(|s| format!("{} ({})", s.text, s.reason.as_deref().unwrap_or("entered again"))).collect();
        let gone = row.taken_out.get(&r.symbol).into_iter().flatten();
        let out = gone.map(|s| format!("{} (taken out: {})", s.text, s.reason.as_deref().unwrap_or("no reason given")));
        let lent = entered.and_then(|e| e.borrowed.as_ref()).map(|from| format!("borrowed from {from}"));
        cells.push(story.into_iter().chain(out).chain(lent).collect::<Vec<_>>().join("; "));
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

fn words(verdict: &Verdict) -> [String; 3] {
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
fn named(verdict: &Verdict) -> String {
    let code = |slip| serde_json::to_value(slip).ok().and_then(|v| v.as_str().map(str::to_owned));
    verdict.slips().into_iter().filter_map(code).collect::<Vec<_>>().join(", ")
}

/// What a spreadsheet would run as a formula gets a leading apostrophe; a plain number does not.
pub fn safe(cell: &str) -> String {
    let suspicious = cell.starts_with(['=', '+', '-', '@', '\t', '\r']);
    if suspicious && cell.parse::<f64>().is_err() { format!("'{cell}") } else { cell.to_owned() }
}

#[cfg(test)]
mod tests {
    use super::safe;

    #[test]
    fn formulas_are_quoted_and_numbers_are_not() {
        assert_eq!(safe("=HYPERLINK(\"x\")"), "'=HYPERLINK(\"x\")");
        assert_eq!(safe("@SUM(A1)"), "'@SUM(A1)");
        assert_eq!(safe("-cmd|' /C calc'!A0"), "'-cmd|' /C calc'!A0");
        assert_eq!(safe("-0.25"), "-0.25");
        assert_eq!(safe("Beryl"), "Beryl");
    }
}
