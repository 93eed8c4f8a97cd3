//! A class's readings and answers from a spreadsheet: its cells are shown, matched to places by a person, and taken all or not
//! at all. Everything refused is told by its cell.

use crate::access::DeskRun;
use crate::api::acts::at_the_desk;
use crate::api::entries::taken_in;
use crate::api::views::{GroupAtWork, groups_at_work};
use crate::app::{App, blocking};
use crate::grid::{Grid, GridCell, MOST_ROWS, grids};
use crate::invalid::Invalid;
use crate::line::one_line;
use crate::live::Change;
use crate::problem::{ApiError, Problem};
use actix_web::{post, web};
use lab::bench::{Entered, Entry, Taken};
use measure::Decimal;
use practical::Practical;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use store::{NewEvent, Said, Statement};
use utoipa::ToSchema;
use uuid::Uuid;

/// Longest reason for a value in the place of another.
const LONGEST_REASON: usize = 200;

/// The sheets of a file.
#[derive(Debug, Serialize, ToSchema)]
pub struct GridsView {
    /// Those that have something in them.
    sheets: Vec<Grid>,
}

/// What a column is.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum ColumnOf {
    /// A reading, in its own unit.
    Reading {
        /// Its place: `m_dish`, `V_end[2]`.
        symbol: String,
    },
    /// An answer; a cell may say its unit behind the number.
    Answer {
        /// The result.
        result: String,
        /// The unit of the column.
        unit: String,
    },
}

/// A column of the sheet, and what it is.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ImportColumn {
    /// Counted from 0.
    column: usize,
    /// What it is.
    of: ColumnOf,
}

/// Whose name stands in the column of names.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum NamesOf {
    /// A group's.
    Groups,
    /// A student's: answers are theirs, readings those of the group that they sit in.
    Students,
}

/// Cells to be taken in.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToImport {
    /// The rows below the head.
    rows: Vec<Vec<GridCell>>,
    /// The column of names, counted from 0.
    names: usize,
    /// Whose they are.
    names_of: NamesOf,
    /// What the other columns are; those that are not named are left out.
    columns: Vec<ImportColumn>,
    /// Why what stands there already is replaced; where there is none, it is not.
    #[serde(default)]
    reason: Option<String>,
    /// Only look what would be refused.
    #[serde(default)]
    only_look: bool,
}

/// A cell that is not taken.
#[derive(Debug, Serialize, ToSchema)]
pub struct RefusedCell {
    /// Among the rows that were sent, counted from 0.
    row: usize,
    /// Counted from 0.
    column: usize,
    /// Why.
    why: String,
    /// Another value stands there: with a reason it is replaced.
    wants_reason: bool,
}

/// What became of the cells.
#[derive(Debug, Serialize, ToSchema)]
pub struct Imported {
    /// Values that are new, or would be.
    fresh: usize,
    /// Values in the place of others.
    replaced: usize,
    /// Values that stood there already, alike.
    alike: usize,
    /// Numbers of the workbook that got the zeros back that their instrument shows.
    filled_up: usize,
    /// What is not taken: then nothing is.
    refused: Vec<RefusedCell>,
    /// It is in the record.
    taken: bool,
}

/// `POST /runs/{run}/spreadsheet`, for instructors: the cells of an XLSX, ODS, CSV or TSV file of at most 4 MB. The body is the
/// file; nothing of it is kept.
#[utoipa::path(post, path = "/api/v1/runs/{run}/spreadsheet", params(("run" = i64, Path)),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = GridsView), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/runs/{run}/spreadsheet")]
pub async fn read_spreadsheet(
    app: web::Data<App>,
    _desk: DeskRun,
    body: web::Payload,
) -> Result<web::Json<GridsView>, ApiError> {
    let bytes = match body.to_bytes_limited(crate::grid::MOST_BYTES).await {
        Ok(Ok(bytes)) => bytes,
        Ok(Err(_)) => return Err(Invalid::FileCutOff.into()),
        Err(_) => return Err(crate::grid::BadGrid::TooLarge.into()),
    };
    let sheets = blocking(&app, move |_| Ok(grids(&bytes)?)).await?;
    Ok(web::Json(GridsView { sheets }))
}

/// `POST /runs/{run}/import`, for instructors: takes the cells in, all or none.
#[utoipa::path(post, path = "/api/v1/runs/{run}/import", params(("run" = i64, Path)), request_body = ToImport,
    responses((status = 200, body = Imported), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("")]
pub async fn import_cells(
    app: web::Data<App>,
    desk: DeskRun,
    body: web::Json<ToImport>,
) -> Result<web::Json<Imported>, ApiError> {
    let imported = blocking(&app, move |app| {
        let imported = import(app, &desk, &body)?;
        if imported.taken {
            app.live.tell(desk.run.id, Change { group: None });
        }
        Ok(imported)
    });
    Ok(web::Json(imported.await?))
}

fn import(app: &App, desk: &DeskRun, wanted: &ToImport) -> Result<Imported, ApiError> {
    if wanted.rows.len() > MOST_ROWS {
        return Err(Invalid::TooManyRows(MOST_ROWS).into());
    }
    let reason = wanted.reason.as_deref().filter(|r| !r.trim().is_empty());
    let long = || Invalid::TooLong { what: "a reason", most: LONGEST_REASON };
    let reason = reason.map(|r| one_line(r, LONGEST_REASON).ok_or_else(long)).transpose()?;
    let sheet = Sheet {
        app,
        desk,
        practical: &*app.practical_of(&desk.run)?,
        benches: &groups_at_work(app, &desk.run)?,
        who: who(app, desk, wanted.names_of)?,
        reason,
    };
    let mut imported = Imported { fresh: 0, replaced: 0, alike: 0, filled_up: 0, refused: Vec::new(), taken: false };
    let mut events = Vec::new();
    let mut filled = BTreeMap::new();
    for (row, cells) in wanted.rows.iter().enumerate() {
        if cells.iter().all(|c| *c == GridCell::Nothing) {
            continue;
        }
        let mut refuse = |column: usize, why: &Refused| {
            let wants_reason = matches!(why, Refused::Stands(_));
            imported.refused.push(RefusedCell { row, column, why: why.to_string(), wants_reason });
        };
        let whose = match sheet.whose(cells.get(wanted.names)) {
            Ok(whose) => whose,
            Err(why) => {
                refuse(wanted.names, &why);
                continue;
            }
        };
        for ImportColumn { column, of } in &wanted.columns {
            let cell = cells.get(*column).unwrap_or(&GridCell::Nothing);
            let taken = match sheet.taken(whose, of, cell) {
                Ok(taken) => taken,
                Err(why) => {
                    refuse(*column, &why);
                    continue;
                }
            };
            let Some(Value { event, replaces, filled_up, place }) = taken else { continue };
            if let Some((before, at)) = filled.insert((whose.group, place), (event.clone(), row)) {
                if before.as_ref().map(words) != event.as_ref().map(words) {
                    refuse(*column, &Refused::Twice(at + 1));
                }
                continue;
            }
            imported.filled_up += usize::from(filled_up);
            match event {
                None => imported.alike += 1,
                Some(event) => {
                    imported.replaced += usize::from(replaces);
                    imported.fresh += usize::from(!replaces);
                    events.push(event);
                }
            }
        }
    }
    if imported.refused.is_empty() && !wanted.only_look && !events.is_empty() {
        app.store.append_all(events)?;
        imported.taken = true;
    }
    Ok(imported)
}

fn words(event: &NewEvent) -> &Statement {
    &event.said.statement
}

/// Whose values a row has.
#[derive(Debug, Clone, Copy)]
struct Whose {
    group: i64,
    person: Option<i64>,
}

/// A value that would be taken in.
struct Value {
    /// None where it stands there already.
    event: Option<NewEvent>,
    replaces: bool,
    filled_up: bool,
    place: String,
}

/// Why a cell is not taken.
#[derive(Debug, thiserror::Error)]
enum Refused {
    #[error("there is no name in this row")]
    NoName,
    #[error("nobody in this run is called “{0}”")]
    Nobody(String),
    #[error("more than one is called “{0}”")]
    Several(String),
    #[error("{0} goes on at another group's bench")]
    MovedOn(String),
    #[error("a date, “{0}”: type it as text in the spreadsheet")]
    Date(String),
    #[error("“{0}” is no value")]
    NoValue(String),
    #[error("the place has {0} already; say why it is replaced")]
    Stands(String),
    #[error("row {0} below the headings has another value for the same place")]
    Twice(usize),
    #[error("{0}")]
    Not(ApiError),
}

impl<E: Into<ApiError>> From<E> for Refused {
    fn from(why: E) -> Refused {
        Refused::Not(why.into())
    }
}

/// The names that rows can have, each with whose values they are: more than one where several have the name.
fn who(app: &App, desk: &DeskRun, names_of: NamesOf) -> Result<BTreeMap<String, Vec<Whose>>, ApiError> {
    let mut out: BTreeMap<String, Vec<Whose>> = BTreeMap::new();
    match names_of {
        NamesOf::Groups => {
            for group in app.store.groups(desk.run.id)? {
                out.entry(plain(&group.name)).or_default().push(Whose { group: group.id, person: None });
            }
        }
        NamesOf::Students => {
            let mut last = BTreeMap::new();
            for seat in app.store.seats(desk.run.id)? {
                last.insert(seat.person, seat);
            }
            for (person, seat) in last {
                if let Some(group) = seat.group {
                    out.entry(plain(&seat.name)).or_default().push(Whose { group, person: Some(person) });
                }
            }
        }
    }
    Ok(out)
}

fn plain(name: &str) -> String {
    name.split_whitespace().collect::<Vec<_>>().join(" ").to_lowercase()
}

struct Sheet<'a> {
    app: &'a App,
    desk: &'a DeskRun,
    practical: &'a Practical,
    benches: &'a [GroupAtWork],
    who: BTreeMap<String, Vec<Whose>>,
    reason: Option<String>,
}

impl Sheet<'_> {
    fn whose(&self, cell: Option<&GridCell>) -> Result<Whose, Refused> {
        let name = match cell {
            None | Some(GridCell::Nothing) => return Err(Refused::NoName),
            Some(GridCell::Text(name) | GridCell::Number(name) | GridCell::Date(name) | GridCell::Other(name)) => name,
        };
        match self.who.get(&plain(name)).map(Vec::as_slice) {
            None | Some([]) => Err(Refused::Nobody(name.clone())),
            Some([whose]) => {
                let bench = self.benches.iter().find(|b| b.row.group == whose.group);
                let moved_on = bench.is_some_and(|b| b.row.merged_into.is_some());
                if moved_on { Err(Refused::MovedOn(name.clone())) } else { Ok(*whose) }
            }
            Some(_) => Err(Refused::Several(name.clone())),
        }
    }

    /// What a cell would put into its place; nothing where it is empty.
    fn taken(&self, whose: Whose, of: &ColumnOf, cell: &GridCell) -> Result<Option<Value>, Refused> {
        let (typed, number) = match cell {
            GridCell::Nothing => return Ok(None),
            GridCell::Text(text) => (text.clone(), false),
            GridCell::Number(text) => (text.clone(), true),
            GridCell::Date(text) => return Err(Refused::Date(text.clone())),
            GridCell::Other(text) => return Err(Refused::NoValue(text.clone())),
        };
        let row = self.benches.iter().find(|b| b.row.group == whose.group).map(|b| &b.row);
        let (entry, place, before, filled_up) = match of {
            ColumnOf::Reading { symbol } => {
                let slots = self.practical.slots();
                let slot = slots.iter().find(|s| s.symbol == *symbol).ok_or(ApiError::NotFound("reading"))?;
                let full = if number { with_zeros(&typed, slot.reading.decimals) } else { None };
                let filled_up = full.is_some();
                let reading = Taken {
                    symbol: symbol.clone(),
                    text: full.unwrap_or(typed),
                    unit: slot.reading.unit.written().to_owned(),
                    ..Taken::default()
                };
                let before = row.and_then(|r| r.readings.get(symbol));
                (Entry::Reading(reading), symbol.clone(), before, filled_up)
            }
            ColumnOf::Answer { result, unit } => {
                let (text, own) = parted(&typed);
                let unit = own.unwrap_or(unit).to_owned();
                let by = whose.person;
                let place = lab::bench::Place::Answer { result: result.clone(), by }.slot();
                let before = row.and_then(|r| r.answers.get(&place));
                (Entry::Answer { result: result.clone(), text: text.to_owned(), unit, by }, place, before, false)
            }
        };
        let entry = taken_in(self.app, self.practical, entry)?;
        Ok(Some(self.value(whose, entry, place, before, filled_up)?))
    }

    fn value(
        &self,
        whose: Whose,
        entry: Entry,
        place: String,
        before: Option<&Entered>,
        filled_up: bool,
    ) -> Result<Value, Refused> {
        let written = entry.written().map(|(text, unit)| (text.to_owned(), unit.to_owned()));
        let alike = before.zip(written).is_some_and(|(b, (text, unit))| b.text == text && b.unit == unit);
        if alike {
            return Ok(Value { event: None, replaces: false, filled_up, place });
        }
        let reason = match (before, &self.reason) {
            (Some(before), None) => return Err(Refused::Stands(before.text.clone())),
            (Some(_), Some(why)) => Some(why.clone()),
            (None, _) => None,
        };
        let now = self.app.clock.now();
        let person = match &entry {
            Entry::Answer { by, .. } => *by,
            _ => None,
        };
        let said = Said { reason, person, ..Said::at(now, Statement::Bench(entry)) };
        let supersedes = before.and_then(|b| b.id.parse().ok());
        let event = at_the_desk(self.desk, Uuid::now_v7(), whose.group, said, now);
        Ok(Value { event: Some(NewEvent { supersedes, ..event }), replaces: before.is_some(), filled_up, place })
    }
}

/// A number of a workbook with the zeros that an instrument with so many decimals shows; none where nothing is missing.
fn with_zeros(number: &str, decimals: u32) -> Option<String> {
    let has = number.split_once('.').map_or(0, |(_, after)| after.len());
    let missing = (decimals as usize).checked_sub(has).filter(|m| *m > 0)?;
    // Not one with an exponent, and no words.
    number.bytes().all(|b| b.is_ascii_digit() || b == b'.' || b == b'-').then_some(())?;
    let point = if has == 0 { "." } else { "" };
    Some(format!("{number}{point}{}", "0".repeat(missing)))
}

/// A number and the unit behind it, `6160 mg`; `6.16 -` has none and says so.
fn parted(typed: &str) -> (&str, Option<&str>) {
    match typed.split_once(' ') {
        Some((number, unit)) if Decimal::parse(number).is_ok() => {
            (number, Some(if unit.trim() == "-" { "" } else { unit.trim() }))
        }
        _ => (typed, None),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_number_gets_the_zeros_that_its_instrument_shows() {
        let full = |n: &str| with_zeros(n, 2);
        assert_eq!(full("47.9").as_deref(), Some("47.90"));
        assert_eq!(full("48").as_deref(), Some("48.00"));
        assert_eq!((full("47.91"), full("47.912"), full("1e-5"), with_zeros("3", 0)), (None, None, None, None));
    }

    #[test]
    fn a_unit_behind_a_number_is_its_own() {
        assert_eq!(parted("6160 mg"), ("6160", Some("mg")));
        assert_eq!(parted("6.16 -"), ("6.16", Some("")));
        assert_eq!(parted("copper sulfate"), ("copper sulfate", None));
        assert_eq!(parted("0.1012"), ("0.1012", None));
    }
}
