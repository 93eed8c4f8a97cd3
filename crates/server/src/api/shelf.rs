//! The shelf: what runs, and the library.

use crate::access::Desk;
use crate::api::board::{self, Row, VisitView, visits};
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{get, web};
use lab::evaluated::ResultState;
use practical::file::ClassResult;
use practical::{Practical, check};
use serde::Serialize;
use std::collections::{BTreeMap, BTreeSet};
use store::{PracticalVersion, Run};
use utoipa::ToSchema;

/// Everything on the shelf.
#[derive(Debug, Serialize, ToSchema)]
pub struct Shelf {
    /// Newest first.
    runs: Vec<RunHead>,
    /// By title.
    practicals: Vec<PracticalHead>,
    /// Drafts, published before or not.
    drafts: Vec<DraftLine>,
    /// The server's time, ms.
    now: i64,
}

/// A draft at one look.
#[derive(Debug, Serialize, ToSchema)]
pub struct DraftLine {
    /// Id of the practical.
    id: String,
    /// Its title, as far as it can be read.
    title: String,
    /// Whether it was ever published.
    published: bool,
    /// What keeps it from being published.
    problems: u32,
    /// In ms.
    saved_at: i64,
}

/// A run at one look.
#[derive(Debug, Serialize, ToSchema)]
pub struct RunHead {
    /// Id.
    pub id: i64,
    /// Id of the practical.
    pub practical: String,
    /// Title of the practical.
    pub title: String,
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
    /// What those values are, with unit.
    pub finds: String,
}

/// What waits at the benches of a run after one step.
#[derive(Debug, Serialize, ToSchema)]
pub struct RunWait {
    /// Title of the step.
    step: String,
    /// Title of the step that comes then.
    then: Option<String>,
    /// Names of the groups.
    groups: Vec<String>,
    /// Since when the first of them waits, ms.
    since: i64,
    /// From when on all of them can go on, ms.
    ready_at: i64,
    /// Until when the first of them should, ms.
    latest_at: Option<i64>,
}

/// A practical of the library at one look.
#[derive(Debug, Serialize, ToSchema)]
pub struct PracticalHead {
    /// Id.
    pub id: String,
    /// Version.
    pub version: i64,
    /// Title.
    pub title: String,
    /// What sort of work it is.
    pub kind: String,
    /// What it finds.
    pub finds: String,
    /// For whom.
    pub level: String,
    /// Lessons it takes.
    pub visits: u32,
    /// Shortest and longest time at the bench, in minutes.
    pub minutes: [u32; 2],
    /// How many cautions its steps carry.
    pub cautions: u32,
    /// What groups share for it.
    pub shares: Vec<String>,
    /// How a class usually comes out: `62 %, s 8`.
    pub usually: Option<String>,
}

/// `GET /shelf`, for instructors.
#[utoipa::path(get, path = "/api/v1/shelf", responses((status = 200, body = Shelf), (status = 401, body = Problem)))]
#[get("/shelf")]
pub async fn show_shelf(app: web::Data<App>, desk: Desk) -> Result<web::Json<Shelf>, ApiError> {
    let shelf = blocking(&app, move |app| {
        let me = desk.person.id;
        let mine: BTreeSet<i64> = app.store.classes(me)?.iter().map(|k| k.id).collect();
        let runs = app.store.runs()?.into_iter().filter(|r| mine.contains(&r.class_id));
        let runs = runs.map(|r| run_head(app, &r)).collect::<Result<_, _>>()?;
        let mut practicals = app
            .store
            .practicals()?
            .iter()
            .map(|v| Ok(practical_head(v, &*app.practical(&v.id, v.version)?)))
            .collect::<Result<Vec<_>, ApiError>>()?;
        practicals.sort_by(|a, b| a.title.cmp(&b.title));
        let drafts = app.store.drafts()?.into_iter().map(|d| {
            let checked = check(&d.text);
            DraftLine {
                published: practicals.iter().any(|p| p.id == d.id),
                title: checked.file.map_or_else(|| d.id.clone(), |f| f.title),
                problems: u32::try_from(checked.errors.len()).unwrap_or(u32::MAX),
                id: d.id,
                saved_at: d.saved_at,
            }
        });
        let drafts = drafts.collect();
        Ok(Shelf { runs, practicals, drafts, now: app.clock.now() })
    })
    .await?;
    Ok(web::Json(shelf))
}

/// A run at one look, its results recomputed.
pub fn run_head(app: &App, run: &Run) -> Result<RunHead, ApiError> {
    let practical = app.practical_of(run)?;
    let rows = board::rows(app, run)?;
    // What its class is usually judged by; the last result where nothing is usual.
    let usual = practical.file.class.first();
    let last =
        usual.and_then(|c| practical.result(&c.result)).or(practical.results.iter().rfind(|r| r.is_worked_out()));
    let value = |row: &Row| {
        row.outcome.results.iter().find(|r| last.is_some_and(|l| l.name == r.name)).and_then(|r| match &r.state {
            ResultState::Value(v) => Some(v.value),
            ResultState::NotYet { .. } | ResultState::Failed { .. } => None,
        })
    };
    let count = |n: usize| u32::try_from(n).unwrap_or(u32::MAX);
    let wanted = practical.places_wanted();
    let entered = rows.iter().map(|r| r.readings.len().min(wanted)).sum::<usize>();
    let values: Vec<f64> = rows.iter().filter_map(value).collect();
    Ok(RunHead {
        id: run.id,
        practical: run.practical.clone(),
        title: practical.file.title.clone(),
        class_id: run.class_id,
        class: run.class.clone(),
        code: run.code.clone(),
        opened_at: run.opened_at,
        closed_at: run.closed_at,
        paused_at: run.paused_at,
        photos: run.photos,
        masses: run.masses.clone(),
        version: run.version,
        visits: visits(app, run.id)?,
        waits: waits(&rows),
        groups: count(rows.len()),
        begun: count(rows.iter().filter(|r| !r.readings.is_empty()).count()),
        entered: count(entered),
        readings: count(rows.len() * wanted),
        strip: strip(usual, &values),
        values,
        finds: last.map_or_else(String::new, |l| format!("{} in {}", l.label, l.unit.written())),
    })
}

/// What waits, gathered by step.
fn waits(rows: &[Row]) -> Vec<RunWait> {
    let mut by_step: BTreeMap<u32, RunWait> = BTreeMap::new();
    for row in rows {
        for w in &row.outcome.waiting {
            let one = by_step.entry(w.step).or_insert_with(|| RunWait {
                step: w.title.clone(),
                then: w.then_title.clone(),
                groups: Vec::new(),
                since: w.since,
                ready_at: w.ready_at,
                latest_at: w.latest_at,
            });
            one.groups.push(row.name.clone());
            one.since = one.since.min(w.since);
            one.ready_at = one.ready_at.max(w.ready_at);
            one.latest_at = [one.latest_at, w.latest_at].into_iter().flatten().min();
        }
    }
    by_step.into_values().collect()
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

/// A practical at one look.
pub fn practical_head(version: &PracticalVersion, practical: &Practical) -> PracticalHead {
    let minutes = practical.steps.iter().filter_map(|s| s.minutes).fold([0, 0], |a, m| [a[0] + m[0], a[1] + m[1]]);
    PracticalHead {
        id: practical.file.id.clone(),
        version: version.version,
        title: practical.file.title.clone(),
        kind: practical.file.kind.clone(),
        finds: practical.file.finds.clone(),
        level: practical.file.level.clone(),
        visits: practical.file.visits,
        minutes,
        cautions: u32::try_from(practical.steps.iter().map(|s| s.cautions.len()).sum::<usize>()).unwrap_or(u32::MAX),
        shares: practical.file.resources.iter().map(|r| r.name.clone()).collect(),
        usually: practical.file.class.first().and_then(|c| {
            let result = practical.result(&c.result)?;
            let unit = if result.unit.written() == "1" { "" } else { result.unit.written() };
            Some(format!("{} {unit}, s {}", c.mean, c.sd).replace(" ,", ","))
        }),
    }
}
