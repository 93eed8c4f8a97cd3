//! The lesson that is on, beside its plan: a group's next turn at what is shared, and when each will be through.

use crate::access::DeskRun;
use crate::api::preparing::{MINUTE_MS, Prepared};
use crate::api::views::{GroupAtWork, VisitView, groups_at_work};
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{get, web};
use lab::judge::Waiting;
use prepare::lessons::{Turn, USUAL_LESSON};
use prepare::replan::{BeginBy, GroupNow, Waits, replan};
use serde::Serialize;
use std::collections::BTreeSet;
use store::Run;
use utoipa::ToSchema;

/// A lesson is set up before it begins: from so long before, ms.
const SET_UP_MS: i64 = 15 * MINUTE_MS;
/// A turn that was not taken is told for so long, ms.
const TURN_KEPT_MS: i64 = 3 * MINUTE_MS;

/// A group's turn at something that is shared.
#[derive(Debug, Serialize, ToSchema)]
pub struct TurnOnBench {
    /// The step, counted from 0.
    step: u32,
    /// What of.
    resource: String,
    /// Which of them; none where there is but one.
    unit: Option<u32>,
    /// From when, ms.
    at: i64,
}

/// The next turn of a group at something that not all can have at once, as the lesson was planned; none where nobody has
/// looked at the plan, where no lesson is on, or where it is past.
pub fn turn_at_bench(app: &App, run: &Run, group: i64, done: &[u32]) -> Result<Option<TurnOnBench>, ApiError> {
    let now = app.clock.now();
    let prepared = Prepared::of(app, run)?;
    let Some((nr, visit)) = lesson_on(&prepared, now) else { return Ok(None) };
    let Some(preparation) = app.known_preparation(run, &prepared.class)? else { return Ok(None) };
    // Where the practical falls into other parts than there are lessons, nobody knows which part is on.
    let lessons = &preparation.time.lessons;
    let Some(lesson) = lessons.get(nr).filter(|_| lessons.len() == prepared.visits.len()) else { return Ok(None) };
    let own = prepared.groups.iter().position(|g| g.id == group);
    let Some(own) = own.and_then(|n| u32::try_from(n).ok()) else { return Ok(None) };
    let begins = |t: &Turn| visit.begins_at + i64::from(t.from) * MINUTE_MS;
    let scarce = |t: &Turn| {
        let shared = lesson.shared.iter().find(|s| s.name == t.resource);
        shared.is_some_and(|s| (s.count.saturating_mul(s.serves) as usize) < prepared.groups.len())
    };
    let coming = lesson.turns.iter().filter(|t| t.group == own && !done.contains(&t.step));
    let next = coming.filter(|t| begins(t) + TURN_KEPT_MS > now && scarce(t)).min_by_key(|t| t.from);
    Ok(next.map(|t| TurnOnBench {
        step: t.step,
        resource: t.resource.clone(),
        unit: lesson.shared.iter().any(|s| s.name == t.resource && s.count > 1).then_some(t.unit),
        at: begins(t),
    }))
}

/// When each group will be through with the lesson that is on.
#[derive(Debug, Serialize, ToSchema)]
pub struct ExpectedView {
    /// When the lesson ends, ms; none while none is on.
    ends_at: Option<i64>,
    /// In bench order; empty where there is no plan.
    groups: Vec<ExpectedGroup>,
    /// Groups that will wait for what is shared, each for the first thing that it waits for.
    queue: Vec<ExpectedWait>,
    /// What has to be begun by when, to come to a place where it can stop before the lesson ends.
    begin_by: Vec<ExpectedBegin>,
}

/// A group that will wait.
#[derive(Debug, Serialize, ToSchema)]
pub struct ExpectedWait {
    /// Its name.
    name: String,
    /// For what.
    resource: String,
    /// Until when, ms.
    until: i64,
}

/// The last moment to begin something.
#[derive(Debug, Serialize, ToSchema)]
pub struct ExpectedBegin {
    /// The step that it begins with.
    title: String,
    /// In ms.
    at: i64,
    /// Names of the groups that have not begun it.
    groups: Vec<String>,
}

/// When a group will be through.
#[derive(Debug, Serialize, ToSchema)]
pub struct ExpectedGroup {
    /// Id.
    group: i64,
    /// Its name.
    name: String,
    /// In ms, by typical times from where it is now.
    through_at: i64,
}

/// `GET /runs/{run}/expected`, for instructors: replanned from where each group really is.
#[utoipa::path(get, path = "/api/v1/runs/{run}/expected", params(("run" = i64, Path)),
    responses((status = 200, body = ExpectedView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/expected")]
pub async fn show_expected(app: web::Data<App>, desk: DeskRun) -> Result<web::Json<ExpectedView>, ApiError> {
    let view = blocking(&app, move |app| {
        let run = desk.run;
        let now = app.clock.now();
        let prepared = Prepared::of(app, &run)?;
        let nothing = ExpectedView { ends_at: None, groups: Vec::new(), queue: Vec::new(), begin_by: Vec::new() };
        let Some((_, visit)) = lesson_on(&prepared, now).filter(|_| run.closed_at.is_none()) else {
            return Ok(nothing);
        };
        let ends_at = Some(visit.begins_at + visit.minutes * MINUTE_MS);
        let benches = groups_at_work(app, &run)?;
        let working: Vec<&GroupAtWork> = benches.iter().filter(|b| b.row.merged_into.is_none()).collect();
        let now_at: Vec<GroupNow> = working.iter().map(|b| where_it_is(b, now.max(visit.begins_at))).collect();
        let minutes = u32::try_from(visit.minutes).unwrap_or(USUAL_LESSON);
        let from = now.max(visit.begins_at);
        let ends = visit.begins_at + visit.minutes * MINUTE_MS;
        let remaining = u32::try_from((ends - from) / MINUTE_MS).unwrap_or(0);
        let Some(plan) = replan(&*app.practical_of(&run)?, &prepared.class, minutes, remaining, &now_at) else {
            return Ok(ExpectedView { ends_at, ..nothing });
        };
        let at = |minute: i64| from + minute * MINUTE_MS;
        let name = |group: u32| working.get(group as usize).map_or_else(String::new, |b| b.row.name.clone());
        let groups = working.iter().zip(plan.through).map(|(bench, minutes)| ExpectedGroup {
            group: bench.row.group,
            name: bench.row.name.clone(),
            through_at: at(i64::from(minutes)),
        });
        let mut told = BTreeSet::new();
        let first = plan.queue.into_iter().filter(|w| told.insert(w.group));
        let wait = |w: Waits| ExpectedWait { name: name(w.group), resource: w.resource, until: at(i64::from(w.until)) };
        let begin = |b: BeginBy| ExpectedBegin {
            title: b.title,
            at: at(b.at),
            groups: b.groups.into_iter().map(name).collect(),
        };
        Ok(ExpectedView {
            ends_at,
            groups: groups.collect(),
            queue: first.map(wait).collect(),
            begin_by: plan.begin_by.into_iter().map(begin).collect(),
        })
    });
    Ok(web::Json(view.await?))
}

/// What a group has left to do, and what waits at its bench.
fn where_it_is(bench: &GroupAtWork, now: i64) -> GroupNow {
    let waiting = bench.row.outcome.waiting.iter().filter(|w| w.ready_at > now);
    // Minutes begun are waited out.
    let minutes = |w: &Waiting| u32::try_from((w.ready_at - now + MINUTE_MS - 1) / MINUTE_MS).unwrap_or(u32::MAX);
    GroupNow {
        left: lab::progress::left_to_do(&bench.practical, &bench.entries),
        waits: waiting.map(|w| (w.then.unwrap_or(w.step), minutes(w))).collect(),
    }
}

/// The lesson that is on, or is set up just now, with its place among the lessons.
fn lesson_on(prepared: &Prepared, now: i64) -> Option<(usize, &VisitView)> {
    let on = |v: &VisitView| (v.begins_at - SET_UP_MS..v.begins_at + v.minutes * MINUTE_MS).contains(&now);
    prepared.visits.iter().enumerate().find(|(_, v)| on(v))
}
