//! A run at one look, and its lessons.

use crate::api::views::{Row, rows};
use crate::app::App;
use crate::problem::ApiError;
use crate::rehearsing::RehearsalStands;
use crate::summary::Summary;
use lab::evaluated::ResultState;
use lab::roll::{RunWait, Visit, gathered};
use practical::file::ClassResult;
use practical::{Practical, ResultSpec, School};
use prepare::calendar::NoSchool;
use serde::Serialize;
use std::sync::Arc;
use store::Run;
use utoipa::ToSchema;

/// One lesson of a run.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct VisitView {
    /// From 1.
    pub nr: i64,
    /// When it begins, ms.
    pub begins_at: i64,
    /// How long it lasts.
    pub minutes: i64,
    /// Why there is no school then.
    pub closed: Option<NoSchool>,
}

/// The visits of a run, in order.
pub fn visits(app: &App, run: i64) -> Result<Vec<VisitView>, ApiError> {
    let calendar = app.calendar()?;
    let view = |Visit { nr, begins_at, minutes }| {
        let closed = calendar.closed(begins_at);
        VisitView { nr, begins_at, minutes, closed }
    };
    Ok(app.store.visits(run)?.into_iter().map(view).collect())
}

/// A run at one look.
#[derive(Debug, Serialize, ToSchema)]
pub struct RunHead {
    /// Id.
    pub id: i64,
    /// Id of the practical.
    pub practical: String,
    /// What it is called.
    pub title: String,
    /// Title of the practical.
    pub practical_title: String,
    /// When it was put away, ms.
    pub archived_at: Option<i64>,
    /// It was read from a file of another school.
    pub from_elsewhere: bool,
    /// Its class was never there: it is no part of the record.
    pub rehearsal: bool,
    /// How far a rehearsal is; none before it goes on after a start of the server.
    pub rehearsing: Option<RehearsalStands>,
    /// Id of the class.
    pub class_id: i64,
    /// The class.
    pub class: String,
    /// What groups join with.
    pub code: String,
    /// In ms.
    pub opened_at: i64,
    /// In ms.
    pub closed_at: Option<i64>,
    /// Since when the class listens, ms.
    pub paused_at: Option<i64>,
    /// Whether photos are taken at the benches.
    pub photos: bool,
    /// The edition of the relative atomic masses that it is computed with.
    pub masses: String,
    /// By whose choices it is worked: the school's when it was opened, with what the practical does otherwise.
    pub school: School,
    /// Version of the practical that it keeps.
    pub version: i64,
    /// When it is worked on.
    pub visits: Vec<VisitView>,
    /// What waits at its benches, by step.
    pub waits: Vec<RunWait>,
    /// Groups of the run.
    pub groups: u32,
    /// Groups that have begun.
    pub begun: u32,
    /// Readings entered, of all groups.
    pub entered: u32,
    /// Readings there will be, of all groups.
    pub readings: u32,
    /// The stretch that a strip of them shows, in the unit of the result.
    pub strip: [f64; 2],
    /// The last result of each group that has it.
    pub values: Vec<f64>,
    /// Their unit; empty where they have none.
    pub unit: String,
    /// What those values are, with unit.
    pub finds: String,
}

/// What a run comes to, by its rows.
fn summed(practical: &Practical, rows: &[&Row]) -> Summary {
    let last = last_result(practical);
    let value = |row: &&Row| {
        row.outcome.results.iter().find(|r| last.is_some_and(|l| l.name == r.name)).and_then(|r| match &r.state {
            ResultState::Value(v) => Some(v.value),
            ResultState::NotYet { .. } | ResultState::Failed { .. } => None,
        })
    };
    let wanted = practical.places_wanted();
    Summary {
        waits: gathered(rows.iter().map(|r| (r.name.as_str(), r.outcome.waiting.as_slice()))),
        groups: rows.len(),
        begun: rows.iter().filter(|r| !r.readings.is_empty()).count(),
        entered: rows.iter().map(|r| r.readings.len().min(wanted)).sum(),
        values: rows.iter().filter_map(value).collect(),
    }
}

/// What a class of a practical is usually judged by; the last result where nothing is usual.
fn last_result(practical: &Practical) -> Option<&ResultSpec> {
    let usual = practical.file.class.first();
    usual.and_then(|c| practical.result(&c.result)).or(practical.results.iter().rfind(|r| r.is_worked_out()))
}

/// A run at one look, for lists: a closed one is summed up once and remembered, since its room is kept and only events change it.
pub fn run_line(app: &App, run: &Run) -> Result<RunHead, ApiError> {
    let practical = app.practical_of(run)?;
    let fresh = || Ok::<_, ApiError>(summed(&practical, &rows(app, run)?.iter().collect::<Vec<_>>()));
    let summary = match run.closed_at {
        Some(closed_at) => app.summary((run.id, app.store.last_seq(run.id)?, closed_at), fresh)?,
        None => Arc::new(fresh()?),
    };
    head(app, run, &practical, &summary)
}

/// A run at one look, by the rows of its groups.
pub fn run_head(app: &App, run: &Run, rows: &[&Row]) -> Result<RunHead, ApiError> {
    let practical = app.practical_of(run)?;
    head(app, run, &practical, &summed(&practical, rows))
}

fn head(app: &App, run: &Run, practical: &Practical, summary: &Summary) -> Result<RunHead, ApiError> {
    let last = last_result(practical);
    let count = |n: usize| u32::try_from(n).unwrap_or(u32::MAX);
    Ok(RunHead {
        id: run.id,
        practical: run.practical.clone(),
        title: app.title_of(run)?,
        practical_title: practical.file.title.clone(),
        archived_at: run.archived_at,
        from_elsewhere: !run.origin.is_empty(),
        rehearsal: run.rehearsal.is_some(),
        rehearsing: app.rehearsing.stands(run.id),
        class_id: run.class_id,
        class: run.class.clone(),
        code: run.code.clone(),
        opened_at: run.opened_at,
        closed_at: run.closed_at,
        paused_at: run.paused_at,
        photos: run.photos,
        masses: run.masses.clone(),
        school: practical.school.clone(),
        version: run.version,
        visits: visits(app, run.id)?,
        waits: summary.waits.clone(),
        groups: count(summary.groups),
        begun: count(summary.begun),
        entered: count(summary.entered),
        readings: count(summary.groups * practical.places_wanted()),
        strip: strip(practical.file.class.first(), &summary.values),
        values: summary.values.clone(),
        unit: last.map(|l| l.unit.written()).filter(|unit| *unit != "1").unwrap_or_default().to_owned(),
        finds: last.map_or_else(String::new, |l| format!("{} in {}", l.label, l.unit.written())),
    })
}

/// The stretch that a strip of results shows: four usual standard deviations either way, or what there is.
fn strip(usual: Option<&ClassResult>, values: &[f64]) -> [f64; 2] {
    if let Some(c) = usual.filter(|c| c.sd > 0.0) {
        return [c.mean - 4.0 * c.sd, c.mean + 4.0 * c.sd];
    }
    let low = values.iter().copied().fold(f64::INFINITY, f64::min);
    let high = values.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    let margin = 0.1 * (high - low).max(0.1 * high.abs());
    if values.is_empty() { [0.0, 1.0] } else { [low - margin, high + margin] }
}

/// The address that a group opens to join.
pub fn join_address(app: &App, host: &str, code: &str) -> String {
    address(app, host, &format!("/join/{}", code.replace(' ', "-")))
}

/// The address of a page, as whoever asked for it reaches this server.
pub fn address(app: &App, host: &str, path: &str) -> String {
    let base = app.public_url.clone().unwrap_or_else(|| format!("http://{host}"));
    format!("{base}{path}")
}
