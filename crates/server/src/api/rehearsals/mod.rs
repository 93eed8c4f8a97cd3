//! Rehearsals of a practical: begun, listed, set to a pace. Each is a run like any other, marked, and in none of the lists of
//! the record.

mod turns;

use self::turns::{TOO_MANY, learn, play, told};
use crate::access::{Desk, DeskRun, fresh_pin};
use crate::api::people::MOST_GROUPS;
use crate::api::runs::free_code;
use crate::api::views::{RunHead, rows, run_head, run_line};
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::live::Change;
use crate::problem::{ApiError, Problem};
use crate::rehearsing::RehearsalStands;
use actix_web::{HttpResponse, get, post, put, web};
use serde::{Deserialize, Serialize};
use store::{NewGroup, NewRun, OfClass, Rehearsal, Run};
use utoipa::ToSchema;

/// The class that rehearsals belong to.
const CLASS: &str = "made-up class";
/// Quickest pace.
const QUICKEST: u32 = 60;

/// A rehearsal to be begun.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewRehearsal {
    /// Id of the practical.
    practical: String,
    /// How many groups.
    groups: usize,
    /// So many times as fast as in a laboratory, 1 to 60.
    pace: u32,
    /// Of a hundred groups, how many slip once at the bench.
    slips_at_bench: u8,
    /// Of a hundred sums, how many go wrong.
    slips_in_sums: u8,
    /// The same number, the same class.
    seed: u32,
}

/// How a rehearsal goes on.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RehearsalPace {
    /// So many times as fast as in a laboratory, 1 to 60; it stands still if none.
    pace: Option<u32>,
}

/// `GET /rehearsals`, for instructors: their own, newest first.
#[utoipa::path(get, path = "/api/v1/rehearsals", responses((status = 200, body = [RunHead]), (status = 401, body = Problem)))]
#[get("/rehearsals")]
pub async fn show_rehearsals(app: web::Data<App>, desk: Desk) -> Result<web::Json<Vec<RunHead>>, ApiError> {
    let view = blocking(&app, move |app| {
        let mut own = Vec::new();
        for run in app.store.rehearsals()?.iter().filter(|r| r.archived_at.is_none()) {
            if app.store.may_see(desk.person.id, run.id)? {
                own.push(run_line(app, run)?);
            }
        }
        Ok(own)
    });
    Ok(web::Json(view.await?))
}

/// `POST /rehearsals`, for instructors: a class that was never there begins to work.
#[utoipa::path(post, path = "/api/v1/rehearsals", request_body = NewRehearsal,
    responses((status = 201, body = RunHead), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/rehearsals")]
pub async fn rehearse(
    app: web::Data<App>,
    desk: Desk,
    body: web::Json<NewRehearsal>,
) -> Result<HttpResponse, ApiError> {
    let new = body.into_inner();
    let pace = sound(Some(new.pace))?;
    if new.groups == 0 || new.groups > MOST_GROUPS {
        return Err(Invalid::Groups(MOST_GROUPS).into());
    }
    if new.slips_at_bench > 100 || new.slips_in_sums > 100 {
        return Err(Invalid::PartOfHundred.into());
    }
    if app.rehearsing.is_full() {
        return Err(TOO_MANY);
    }
    let how = Rehearsal { seed: new.seed, slips_at_bench: new.slips_at_bench, slips_in_sums: new.slips_in_sums };
    let run = blocking(&app, move |app| begun(app, &desk, &new, how)).await?;
    play(&app, &run, pace)?;
    let head = blocking(&app, move |app| run_head(app, &run, &rows(app, &run)?.iter().collect::<Vec<_>>()));
    Ok(HttpResponse::Created().json(head.await?))
}

/// How far a rehearsal is, by its own time.
#[derive(Debug, Serialize, ToSchema)]
pub struct RehearsalView {
    /// How far; none before it goes on after a start of the server.
    stands: Option<RehearsalStands>,
    /// What time it is in there, ms.
    now: i64,
}

/// `GET /runs/{run}/rehearsal`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/rehearsal", params(("run" = i64, Path)),
    responses((status = 200, body = RehearsalView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/rehearsal")]
pub async fn show_rehearsal(app: web::Data<App>, desk: DeskRun) -> Result<web::Json<RehearsalView>, ApiError> {
    desk.run.rehearsal.ok_or(ApiError::NotFound("rehearsal"))?;
    Ok(web::Json(RehearsalView { stands: app.rehearsing.stands(desk.run.id), now: app.now_in(&desk.run) }))
}

/// `PUT /runs/{run}/rehearsal`, for instructors: goes on at this pace, or stands still.
#[utoipa::path(put, path = "/api/v1/runs/{run}/rehearsal", params(("run" = i64, Path)), request_body = RehearsalPace,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[put("/runs/{run}/rehearsal")]
pub async fn set_pace(
    app: web::Data<App>,
    desk: DeskRun,
    body: web::Json<RehearsalPace>,
) -> Result<HttpResponse, ApiError> {
    let how = desk.run.rehearsal.ok_or(ApiError::NotFound("rehearsal"))?;
    let (pace, run) = (sound(body.pace)?, desk.run.clone());
    blocking(&app, move |app| match app.rehearsing.stands(run.id) {
        Some(_) => Ok(()),
        None => learn(app, &run, told(&*app.practical_of(&run)?, how, app.store.groups(run.id)?.len())),
    })
    .await?;
    play(&app, &desk.run, pace)?;
    app.live.tell(desk.run.id, Change { group: None });
    Ok(HttpResponse::NoContent().finish())
}

fn sound(pace: Option<u32>) -> Result<Option<u32>, ApiError> {
    if pace.is_some_and(|p| !(1..=QUICKEST).contains(&p)) { Err(Invalid::Pace(QUICKEST).into()) } else { Ok(pace) }
}

fn begun(app: &App, desk: &Desk, new: &NewRehearsal, how: Rehearsal) -> Result<Run, ApiError> {
    let all = app.store.practicals()?;
    let version = all.iter().find(|v| v.id == new.practical).ok_or(ApiError::NotFound("practical"))?;
    let school = app.store.school()?.school;
    let practical = app.practical(&version.id, version.version, &school)?;
    let groups = simulate::allotted(&practical, new.groups).into_iter().zip(1..).map(|(allotted, number)| {
        Ok(NewGroup { name: format!("Group {number}"), pin: fresh_pin()?, allotted, ..NewGroup::default() })
    });
    let told = told(&practical, how, new.groups);
    let lasts = told.last().map_or(0, |(_, said)| said.at);
    let run = app.store.open_run(NewRun {
        practical: version.id.clone(),
        version: version.version,
        class: OfClass::Named(CLASS.into()),
        owner: desk.person.id,
        code: free_code(&app.store.codes()?)?,
        groups: groups.collect::<Result<_, ApiError>>()?,
        visits: Vec::new(),
        photos: false,
        masses: practical.school.atomic_masses.edition().into(),
        school,
        rehearsal: Some(how),
        // All of it lies before this moment, so that no clock is ever ahead.
        now: app.clock.now() - 1000 * lasts,
    })?;
    learn(app, &run, told)?;
    Ok(run)
}
