//! What comes this week, what is to be made for it, and what two classes want at once.

use crate::access::Staff;
use crate::api::preparing::{MINUTE_MS, Prepared, items, meetings, of_run};
use crate::api::views::VisitView;
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{get, web};
use prepare::calendar::{Clash, clashes, uses_of};
use prepare::needs::is_taken_from;
use serde::Serialize;
use store::Run;
use utoipa::ToSchema;

/// What comes, the next first.
#[derive(Debug, Serialize, ToSchema)]
pub struct PrepareWeek {
    /// Runs with a lesson to come, or none planned.
    runs: Vec<PrepareLine>,
    /// What two classes want at once, as far as one of them is seen here.
    clashes: Vec<Clash>,
    /// Practicals that something can be prepared of without a run, by title.
    practicals: Vec<PracticalName>,
    /// The server's time, ms.
    now: i64,
}

/// A practical by its name.
#[derive(Debug, Serialize, ToSchema)]
pub struct PracticalName {
    /// Id.
    id: String,
    /// Title.
    title: String,
}

/// What is put out for one run.
#[derive(Debug, Serialize, ToSchema)]
pub struct PrepareLine {
    /// Id of the run.
    run: i64,
    /// Title of the practical.
    title: String,
    /// The class.
    class: String,
    /// How many groups.
    groups: u32,
    /// The lesson that comes; none where none is planned or all are over.
    next: Option<VisitView>,
    /// Solutions to be made, with what is not yet ready first.
    solutions: Vec<SolutionLine>,
    /// Things that are ready.
    ready: u32,
    /// Things in all.
    all: u32,
    /// Lessons into which it does not fit.
    too_long: u32,
}

/// A solution to be made.
#[derive(Debug, Serialize, ToSchema)]
pub struct SolutionLine {
    /// As the sheet calls it.
    symbol: String,
    /// What is in it.
    name: String,
    /// How strong.
    form: String,
    /// How much, mL.
    provide: f64,
    /// Whether it is ready.
    ready: bool,
}

/// `GET /prepare`, for instructors and technicians: what comes.
#[utoipa::path(get, path = "/api/v1/prepare", responses((status = 200, body = PrepareWeek), (status = 401, body = Problem)))]
#[get("/prepare")]
pub async fn show_week(app: web::Data<App>, staff: Staff) -> Result<web::Json<PrepareWeek>, ApiError> {
    let week = blocking(&app, move |app| {
        let now = app.clock.now();
        let seen = staff.prepares(app)?;
        let open: Vec<Run> = app.store.runs()?.into_iter().filter(|r| r.closed_at.is_none()).collect();
        let clashes = clashing(app, &open, now)?;
        let own = open.iter().filter(|r| seen(r));
        let mut runs = own.map(|r| line(app, r, now)).collect::<Result<Vec<_>, _>>()?;
        let told = |c: &Clash| runs.iter().any(|r| c.runs.contains(&r.run));
        let clashes = clashes.into_iter().filter(told).collect();
        // What has no lesson to come stands last.
        runs.sort_by_key(|r| r.next.as_ref().map_or(i64::MAX, |v| v.begins_at));
        let school = app.store.school()?.school;
        let mut practicals = Vec::new();
        for version in app.store.practicals()? {
            let title = app.practical(&version.id, version.version, &school)?.file.title.clone();
            practicals.push(PracticalName { id: version.id, title });
        }
        practicals.sort_by(|a, b| a.title.cmp(&b.title));
        Ok(PrepareWeek { runs, clashes, practicals, now })
    });
    Ok(web::Json(week.await?))
}

fn line(app: &App, run: &Run, now: i64) -> Result<PrepareLine, ApiError> {
    let view = of_run(app, run)?;
    let ready = |item: &str| view.ticks.iter().any(|t| t.item == item);
    let next = view.visits.iter().position(|v| v.begins_at + v.minutes * MINUTE_MS > now);
    // What only earlier lessons took is not made for the next one.
    let part = next.and_then(|nr| view.preparation.time.lessons.get(nr));
    let from = part.and_then(|l| l.pieces.first()).map_or(0, |p| p.step as usize);
    let practical = app.practical_of(run)?;
    let materials = &view.preparation.materials;
    let mut solutions: Vec<SolutionLine> = materials
        .iter()
        .filter(|m| m.solution.is_some() && is_taken_from(&practical, &m.symbol, from))
        .map(|m| SolutionLine {
            symbol: m.symbol.clone(),
            name: m.name.clone(),
            form: m.form.clone(),
            provide: m.total.map_or(0.0, |t| t.provide),
            ready: ready(&format!("material:{}", m.symbol)),
        })
        .collect();
    solutions.sort_by_key(|s| s.ready);
    let count = |n: usize| u32::try_from(n).unwrap_or(u32::MAX);
    let items = items(&view.preparation);
    let lessons = &view.preparation.time.lessons;
    let too_long = lessons.iter().filter(|l| l.timetable.as_ref().is_none_or(|t| t.makespan > l.minutes)).count();
    Ok(PrepareLine {
        run: run.id,
        title: view.title,
        class: run.class.clone(),
        groups: count(view.groups.len()),
        next: next.and_then(|nr| view.visits.into_iter().nth(nr)),
        solutions,
        ready: count(items.iter().filter(|i| ready(i)).count()),
        all: count(items.len()),
        too_long: count(too_long),
    })
}

/// What the lessons to come want at once, more than there is.
fn clashing(app: &App, open: &[Run], now: i64) -> Result<Vec<Clash>, ApiError> {
    let mut uses = Vec::new();
    for run in open {
        let prepared = Prepared::of(app, run)?;
        let preparation = app.preparation(&run.practical, run.version, &run.school, &prepared.class)?;
        let lessons = &preparation.time.lessons;
        // Where it falls into other parts than there are lessons, nobody knows which part a lesson is.
        if lessons.len() == prepared.visits.len() {
            let meetings = meetings(&prepared.visits);
            let to_come = lessons.iter().zip(meetings).filter(|(_, m)| m.begins_at > now);
            uses.extend(to_come.flat_map(|(lesson, meeting)| uses_of(run.id, lesson, meeting)));
        }
    }
    Ok(clashes(&uses))
}
