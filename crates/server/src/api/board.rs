//! The board: groups by readings and results, recomputed from what was entered.

use crate::access::Desk;
use crate::api::plan::{ReadingSpec, ResultSpec, result_specs};
use crate::api::runs::join_address;
use crate::api::shelf::{RunHead, run_head};
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::http::header::HOST;
use actix_web::{HttpRequest, get, web};
use lab::bench::{Clock, Deviation, Entries, Flag, Room, Taken};
use lab::group::{GroupOutcome, recompute};
use lab::practical::file::Observation;
use serde::Serialize;
use std::collections::BTreeMap;
use store::{BenchEntry, Entry, Group, Run, Statement};
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
    /// Titles of the steps, in order.
    pub steps: Vec<String>,
    /// One for each group, in bench order.
    pub rows: Vec<Row>,
    /// The address that groups open to join.
    pub join_address: String,
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
    /// Departures from the plan.
    pub deviations: Vec<Deviation>,
    /// The group asks for somebody to come, about this.
    pub help: Option<String>,
    /// Tags of its vessels and bottles that it took from, in words.
    pub uses: Vec<String>,
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
    /// The named instrument that it was read on.
    pub on: Option<String>,
    /// What the display showed before, as typed.
    pub steps: Vec<String>,
    /// What was the matter with what was weighed.
    pub flags: Vec<Flag>,
    /// Looked at again and left as it is.
    pub confirmed: bool,
    /// Earlier values, oldest first, struck through.
    pub struck: Vec<Struck>,
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
            readings: practical.slots().iter().map(|s| ReadingSpec::of(&practical, s)).collect(),
            results: result_specs(&practical),
            observations: practical.observations.clone(),
            materials: practical
                .materials
                .iter()
                .map(|m| Named { symbol: m.symbol.clone(), name: m.name.clone() })
                .collect(),
            steps: practical.steps.iter().map(|s| s.title.clone()).collect(),
            rows: rows(app, &run)?,
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
pub fn rows(app: &App, run: &Run) -> Result<Vec<Row>, ApiError> {
    let room = app.store.room_ever()?;
    app.store.groups(run.id)?.iter().map(|g| row(app, run, g, &room)).collect()
}

/// The row of one group, recomputed; `room` is all that the room has or had.
pub fn row(app: &App, run: &Run, group: &Group, room: &Room) -> Result<Row, ApiError> {
    let state = app.store.bench(group.run, group.id)?;
    let current = state.current(room);
    let practical = app.practical_for(run, &current, room)?;
    let own = |of: &BTreeMap<String, String>| of.iter().map(|(k, v)| format!("{k} {v}")).collect::<Vec<_>>();
    let from = current.bottles.iter().filter_map(|(m, b)| Some(format!("{} from {b}", practical.material(m)?.name)));
    Ok(Row {
        group: group.id,
        name: group.name.clone(),
        pin: group.pin.clone(),
        claimed: group.claimed_at.is_some(),
        readings: entered(&state.entries, "reading"),
        observations: entered(&state.entries, "observation"),
        answers: entered(&state.entries, "answer"),
        steps_done: u32::try_from(current.done.len()).unwrap_or(u32::MAX),
        at: current.at.filter(|step| !current.done.contains(step)),
        clocks: clocks(&current),
        uses: own(&current.tags).into_iter().chain(from).collect(),
        outcome: recompute(&practical, &current),
        deviations: current.deviations,
        help: current.help,
        last_at: state.entries.last().map(|e| e.received_at),
    })
}

/// Whether a reading was looked at again after it was entered.
fn confirmed(entries: &[Entry], reading: &Entry) -> bool {
    let slot = reading.said.statement.slot();
    entries
        .iter()
        .any(|e| e.seq > reading.seq && e.said.statement.kind() == "confirmed" && e.said.statement.slot() == slot)
}

/// What stands in each place of one kind, with its history.
pub fn entered(entries: &[Entry], kind: &str) -> BTreeMap<String, Entered> {
    let mut out: BTreeMap<String, Entered> = BTreeMap::new();
    for entry in entries.iter().filter(|e| e.said.statement.kind() == kind) {
        let Statement::Bench(said) = &entry.said.statement else { continue };
        let (text, unit) = match said {
            BenchEntry::Reading(Taken { text, unit, .. }) | BenchEntry::Answer { text, unit, .. } => {
                (text, unit.as_str())
            }
            BenchEntry::Observation { choice, .. } => (choice, ""),
            BenchEntry::Tag { tag, .. } => (tag, ""),
            BenchEntry::Bottle { name, .. } => (name, ""),
            BenchEntry::Confirmed { .. }
            | BenchEntry::Begun { .. }
            | BenchEntry::Step { .. }
            | BenchEntry::Clock { .. }
            | BenchEntry::Deviation(_)
            | BenchEntry::Help { .. } => continue,
        };
        let taken = match said {
            BenchEntry::Reading(taken) => taken.clone(),
            _ => Taken::default(),
        };
        let Some(slot) = entry.said.statement.slot() else { continue };
        let before = out.remove(&slot);
        let struck = before.map_or_else(Vec::new, |b| {
            let reason = entry.said.reason.clone();
            b.struck.into_iter().chain([Struck { text: b.text, at: b.at, reason }]).collect()
        });
        let now = Entered {
            id: entry.id.to_string(),
            text: text.clone(),
            unit: unit.to_owned(),
            at: entry.said.taken_at,
            about: entry.said.about,
            on: taken.on,
            steps: taken.steps,
            flags: taken.flags,
            confirmed: confirmed(entries, entry),
            struck,
        };
        out.insert(slot, now);
    }
    out
}
