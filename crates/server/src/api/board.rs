//! The board: groups by readings and results, recomputed from what was entered.

use crate::access::DeskRun;
use crate::api::plan::{ReadingSpec, ResultSpec, result_specs};
use crate::api::runs::join_address;
use crate::api::shelf::{RunHead, run_head};
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::http::header::HOST;
use actix_web::{HttpRequest, get, web};
use lab::bench::{Clock, Deviation, Entered, Entries, Room, Struck};
use lab::evaluated::Evaluated;
use lab::group::GroupOutcome;
use practical::file::{AnswersOf, Observation, Role};
use practical::{Allotted, Material, Practical};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::sync::Arc;
use store::{Group, Run, Visit};
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
    /// Symbols and names of the materials.
    pub materials: Vec<Named>,
    /// What is made.
    pub products: Vec<Named>,
    /// Titles of the steps, in order.
    pub steps: Vec<String>,
    /// One for each group, in bench order.
    pub rows: Vec<Row>,
    /// The address that groups open to join.
    pub join_address: String,
    /// Whose answers are asked for.
    pub answers_of: AnswersOf,
    /// The last event that is in here.
    pub seq: i64,
    /// The server's time, ms.
    pub now: i64,
}

/// A symbol and what it stands for.
#[derive(Debug, Serialize, ToSchema)]
pub struct Named {
    /// As the sheet calls it.
    pub symbol: String,
    /// In words.
    pub name: String,
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
    /// The step begun last, counted from 0, while it is not done.
    pub at: Option<u32>,
    /// Clocks that were started, by step.
    pub clocks: Vec<ClockView>,
    /// What was taken out, and nothing put in its place, by symbol of the reading.
    pub taken_out: BTreeMap<String, Vec<Struck>>,
    /// Departures from the plan.
    pub deviations: Vec<Deviation>,
    /// The group asks for somebody to come, about this.
    pub help: Option<String>,
    /// What it was given that others were not.
    pub allotted: Allotted,
    /// The bench that it stands at.
    pub bench: Option<String>,
    /// The group at whose bench it goes on.
    pub merged_into: Option<i64>,
    /// Its own vessels: `crucible 7`.
    pub tags: Vec<String>,
    /// Tags of its vessels and bottles that it took from, in words.
    pub uses: Vec<String>,
    /// Everything recomputed.
    pub outcome: GroupOutcome,
    /// When something last arrived, ms.
    pub last_at: Option<i64>,
}

/// A clock at a bench.
#[derive(Debug, Serialize, ToSchema)]
pub struct ClockView {
    /// The step, counted from 0.
    pub step: u32,
    /// Since when, ms.
    pub since: i64,
    /// How long it runs down, s; none if it counts up.
    pub seconds: Option<u32>,
    /// When it was stopped, ms.
    pub stopped: Option<i64>,
}

/// The clocks of a group, by step.
pub fn clocks(entries: &Entries) -> Vec<ClockView> {
    let view =
        |(step, c): (&u32, &Clock)| ClockView { step: *step, since: c.since, seconds: c.seconds, stopped: c.stopped };
    entries.clocks.iter().map(view).collect()
}

/// One lesson of a run.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct VisitView {
    /// From 1.
    pub nr: i64,
    /// When it begins, ms.
    pub begins_at: i64,
    /// How long it lasts.
    pub minutes: i64,
}

impl From<Visit> for VisitView {
    fn from(v: Visit) -> VisitView {
        VisitView { nr: v.nr, begins_at: v.begins_at, minutes: v.minutes }
    }
}

/// The visits of a run, in order.
pub fn visits(app: &App, run: i64) -> Result<Vec<VisitView>, ApiError> {
    Ok(app.store.visits(run)?.into_iter().map(Into::into).collect())
}

/// `GET /runs/{run}/board`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/board", params(("run" = i64, Path)),
    responses((status = 200, body = Board), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/board")]
pub async fn show_board(
    app: web::Data<App>,
    request: HttpRequest,
    desk: DeskRun,
) -> Result<web::Json<Board>, ApiError> {
    let host = request.headers().get(HOST).and_then(|h| h.to_str().ok()).unwrap_or_default().to_owned();
    let board = blocking(&app, move |app| {
        let run = desk.run;
        let practical = app.practical_of(&run)?;
        // The number first: a row may then be newer than it says, never older.
        let seq = app.store.last_seq(run.id)?;
        Ok(Board {
            readings: practical.slots().iter().map(|s| ReadingSpec::of(&practical, s)).collect(),
            results: result_specs(&practical),
            observations: practical.observations.clone(),
            products: named(practical.materials.iter().filter(|m| m.role == Role::Product)),
            materials: named(practical.materials.iter()),
            steps: practical.steps.iter().map(|s| s.title.clone()).collect(),
            rows: rows(app, &run)?,
            join_address: join_address(app, &host, &run.code),
            answers_of: practical.file.feedback.answers_of,
            run: run_head(app, &run)?,
            seq,
            now: app.clock.now(),
        })
    })
    .await?;
    Ok(web::Json(board))
}

fn named<'m>(materials: impl Iterator<Item = &'m Material>) -> Vec<Named> {
    materials.map(|m| Named { symbol: m.symbol.clone(), name: m.name.clone() }).collect()
}

/// One group's bench as it is now: its row, the practical as the group works it, and what it has entered.
pub struct BenchNow {
    /// What the board shows.
    pub row: Row,
    /// With what the group was given, and took from bottles.
    pub practical: Arc<Practical>,
    /// As they stand.
    pub entries: Entries,
}

/// All benches of a run, in bench order.
pub fn benches(app: &App, run: &Run) -> Result<Vec<BenchNow>, ApiError> {
    let room = app.store.room_of(run.id)?;
    app.store.groups(run.id)?.iter().map(|g| bench_now(app, run, g, &room)).collect()
}

/// All rows of a run.
pub fn rows(app: &App, run: &Run) -> Result<Vec<Row>, ApiError> {
    Ok(benches(app, run)?.into_iter().map(|b| b.row).collect())
}

/// The bench of one group, recomputed; `room` is the one that the run is computed with.
pub fn bench_now(app: &App, run: &Run, group: &Group, room: &Room) -> Result<BenchNow, ApiError> {
    let record = app.store.bench(group.run, group.id)?;
    let current = record.current(room);
    let practical = app.practical_for(run, &group.allotted, &current, room)?;
    let own = |of: &BTreeMap<String, String>| of.iter().map(|(k, v)| format!("{k} {v}")).collect::<Vec<_>>();
    let from = current.bottles.iter().filter_map(|(m, b)| Some(format!("{} from {b}", practical.material(m)?.name)));
    let readings = record.readings();
    let row = Row {
        group: group.id,
        name: group.name.clone(),
        pin: group.pin.clone(),
        claimed: group.claimed_at.is_some(),
        readings: readings.now,
        taken_out: readings.taken_out,
        observations: record.observations().now,
        answers: record.answers().now,
        steps_done: u32::try_from(current.done.len()).unwrap_or(u32::MAX),
        at: current.at.filter(|step| !current.done.contains_key(step)),
        clocks: clocks(&current),
        allotted: practical.allotted.clone(),
        bench: group.bench.clone(),
        merged_into: group.merged_into,
        tags: own(&current.tags),
        uses: own(&current.tags).into_iter().chain(from).collect(),
        outcome: Evaluated::of(&practical, &current).outcome(),
        deviations: current.deviations.clone(),
        help: current.help.clone(),
        last_at: record.filed().last().map(|f| f.received_at),
    };
    Ok(BenchNow { row, practical, entries: current })
}
