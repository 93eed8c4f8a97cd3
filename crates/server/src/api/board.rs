//! The board: groups by readings and results, recomputed from what was entered.

use crate::access::Desk;
use crate::api::plan::{ReadingSpec, ResultSpec, result_specs};
use crate::api::runs::join_address;
use crate::api::shelf::{RunHead, run_head};
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::http::header::HOST;
use actix_web::{HttpRequest, get, web};
use lab::group::{GroupOutcome, recompute};
use lab::practical::Practical;
use lab::practical::file::Observation;
use serde::Serialize;
use std::collections::BTreeMap;
use store::{Entry, Group, Run, Statement};
use utoipa::ToSchema;

/// A class at work.
#[derive(Debug, Serialize, ToSchema)]
pub struct Board {
    /// The run.
    pub run: RunHead,
    /// In bench order.
    pub readings: Vec<ReadingSpec>,
    /// In order.
    pub results: Vec<ResultSpec>,
    /// In bench order.
    pub observations: Vec<Observation>,
    /// How many steps there are.
    pub steps: u32,
    /// One for each group, in bench order.
    pub rows: Vec<Row>,
    /// The address that groups open to join.
    pub join_address: String,
    /// The last event that is in here.
    pub seq: i64,
    /// The server's time, ms.
    pub now: i64,
}

/// One group at work.
#[derive(Debug, Serialize, ToSchema)]
pub struct Row {
    /// Id of the group.
    pub group: i64,
    /// Its name.
    pub name: String,
    /// What its second device must know.
    pub pin: String,
    /// Whether a device has come.
    pub claimed: bool,
    /// Readings by symbol.
    pub readings: BTreeMap<String, Entered>,
    /// Observations by symbol.
    pub observations: BTreeMap<String, Entered>,
    /// Answers by result.
    pub answers: BTreeMap<String, Entered>,
    /// Steps done.
    pub steps_done: u32,
    /// Everything recomputed.
    pub outcome: GroupOutcome,
    /// When something last arrived, ms.
    pub last_at: Option<i64>,
}

/// What stands in one place now, and what stood there before.
#[derive(Debug, Serialize, ToSchema)]
pub struct Entered {
    /// Id of the entry, to be named by a correction.
    pub id: String,
    /// As typed or chosen.
    pub text: String,
    /// The unit, where it has one.
    pub unit: String,
    /// When, ms.
    pub at: i64,
    /// Whether that time is doubtful.
    pub about: bool,
    /// Earlier values, oldest first, struck through.
    pub struck: Vec<Struck>,
}

/// A value that was corrected.
#[derive(Debug, Serialize, ToSchema)]
pub struct Struck {
    /// As typed.
    pub text: String,
    /// When it was entered, ms.
    pub at: i64,
    /// Why it was corrected, in the group's words.
    pub reason: Option<String>,
}

/// `GET /runs/{run}/board`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/board", params(("run" = i64, Path)),
    responses((status = 200, body = Board), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/board")]
pub async fn show_board(
    app: web::Data<App>,
    request: HttpRequest,
    _desk: Desk,
    run: web::Path<i64>,
) -> Result<web::Json<Board>, ApiError> {
    let host = request.headers().get(HOST).and_then(|h| h.to_str().ok()).unwrap_or_default().to_owned();
    let board = blocking(&app, move |app| {
        let run = app.store.run(*run)?;
        let practical = app.practical_of(&run)?;
        // The number first: a row may then be newer than it says, never older.
        let seq = app.store.last_seq(run.id)?;
        Ok(Board {
            readings: practical.slots().iter().map(ReadingSpec::of).collect(),
            results: result_specs(&practical),
            observations: practical.observations.clone(),
            steps: u32::try_from(practical.steps.len()).unwrap_or(u32::MAX),
            rows: rows(app, &run, &practical)?,
            join_address: join_address(app, &host, &run.code),
            run: run_head(app, &run)?,
            seq,
            now: app.clock.now(),
        })
    })
    .await?;
    Ok(web::Json(board))
}

/// All rows of a run.
pub fn rows(app: &App, run: &Run, practical: &Practical) -> Result<Vec<Row>, ApiError> {
    app.store.groups(run.id)?.iter().map(|g| row(app, g, practical)).collect()
}

/// The row of one group, recomputed.
pub fn row(app: &App, group: &Group, practical: &Practical) -> Result<Row, ApiError> {
    let state = app.store.bench(group.run, group.id)?;
    Ok(Row {
        group: group.id,
        name: group.name.clone(),
        pin: group.pin.clone(),
        claimed: group.claimed_at.is_some(),
        readings: entered(&state.entries, "reading"),
        observations: entered(&state.entries, "observation"),
        answers: entered(&state.entries, "answer"),
        steps_done: u32::try_from(state.steps_done().len()).unwrap_or(u32::MAX),
        outcome: recompute(practical, &state.current()),
        last_at: state.entries.last().map(|e| e.received_at),
    })
}

/// What stands in each place of one kind, with its history.
pub fn entered(entries: &[Entry], kind: &str) -> BTreeMap<String, Entered> {
    let mut out: BTreeMap<String, Entered> = BTreeMap::new();
    for entry in entries.iter().filter(|e| e.said.statement.kind() == kind) {
        let (text, unit) = match &entry.said.statement {
            Statement::Reading { text, unit, .. } | Statement::Answer { text, unit, .. } => {
                (text.clone(), unit.clone())
            }
            Statement::Observation { choice, .. } => (choice.clone(), String::new()),
            Statement::Step { .. } | Statement::RunClosed | Statement::RunReopened | Statement::Erased => continue,
        };
        let Some(slot) = entry.said.statement.slot() else { continue };
        let before = out.remove(&slot);
        let struck = before.map_or_else(Vec::new, |b| {
            let reason = entry.said.reason.clone();
            b.struck.into_iter().chain([Struck { text: b.text, at: b.at, reason }]).collect()
        });
        let now =
            Entered { id: entry.id.to_string(), text, unit, at: entry.said.taken_at, about: entry.said.about, struck };
        out.insert(slot, now);
    }
    out
}
