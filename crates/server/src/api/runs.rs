//! Opening and closing a run, and the code that groups join with.

use crate::access::{Desk, DeskRun, fresh_pin, host_of, pick};
use crate::api::acts::changing;
use crate::api::people::{Dealing, MOST_GROUPS, deal_out};

use crate::api::texts::{named, short};
use crate::api::views::{RunHead, join_address, rows, run_head};
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::problem::{ApiError, Problem};
use crate::qr;
use actix_web::{HttpRequest, HttpResponse, delete, get, post, put, web};
use lab::roll::Visit;
use practical::Allotted;
use serde::Deserialize;
use std::collections::BTreeSet;
use store::{NewGroup, NewRun, OfClass, StoreError};
use utoipa::ToSchema;

/// Short words that are easily told apart over the noise of a laboratory.
const WORDS: &[&str] = &[
    "TARN", "MOSS", "FERN", "SLATE", "CLIFF", "DUNE", "REEF", "GROVE", "HEATH", "BROOK", "CAIRN", "DELTA", "FJORD",
    "GLEN", "INLET", "KNOLL", "LAGOON", "MARSH", "OASIS", "PLAIN", "QUARRY", "RIDGE", "SHORE", "TUNDRA", "VALE",
    "WOLD", "BEACON", "CANYON", "EMBER", "HARBOUR", "MEADOW", "SUMMIT",
];

/// Most visits of a run.
const MOST_VISITS: usize = 20;

/// A run to be opened.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct OpenRun {
    /// Id of the practical.
    practical: String,
    /// Name of the class; made if the opener has none of this name.
    class: String,
    /// Id of the class, where it is there already: a colleague's that is shared.
    #[serde(default)]
    class_id: Option<i64>,
    /// In bench order.
    groups: Vec<OpenGroup>,
    /// When it is worked on, in order.
    #[serde(default)]
    visits: Vec<PlannedVisit>,
    /// Whether photos are taken at the benches.
    #[serde(default)]
    photos: bool,
    /// How assignments or unknowns are given out; not at all if none.
    #[serde(default)]
    deal: Option<Dealing>,
}

/// A group of a run to be opened.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct OpenGroup {
    /// Its name.
    name: String,
    /// Who is in it, of the class.
    #[serde(default)]
    people: Vec<i64>,
}

/// A lesson as it is planned; they are numbered as they stand.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PlannedVisit {
    /// When it begins, ms.
    begins_at: i64,
    /// How long it lasts.
    minutes: i64,
}

/// When a run is worked on.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Visits {
    /// In order.
    visits: Vec<PlannedVisit>,
}

/// Whether the class listens.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Paused {
    /// Entries wait on the devices.
    paused: bool,
}

/// Whether photos are taken.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TakingPhotos {
    /// They can be taken at the benches.
    photos: bool,
}

/// Whether a run is closed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Closed {
    /// Closed to new entries.
    closed: bool,
}

/// `POST /runs`, for instructors: opens a run of the newest version.
#[utoipa::path(post, path = "/api/v1/runs", request_body = OpenRun,
    responses((status = 201, body = RunHead), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/runs")]
pub async fn open(app: web::Data<App>, desk: Desk, body: web::Json<OpenRun>) -> Result<HttpResponse, ApiError> {
    let OpenRun { practical, class, class_id, groups, visits, photos, deal } = body.into_inner();
    let class = named(&class, "the name of a class")?;
    let names: Vec<String> = groups.iter().map(|g| named(&g.name, "the name of a group")).collect::<Result<_, _>>()?;
    if names.is_empty() || names.len() > MOST_GROUPS {
        return Err(Invalid::Groups(MOST_GROUPS).into());
    }
    if let Some(twice) = names.iter().enumerate().find(|(i, n)| names[..*i].contains(n)) {
        return Err(Invalid::SameName(twice.1.clone()).into());
    }
    let visits = in_order(visits)?;
    let head = blocking(&app, move |app| {
        let all = app.store.practicals()?;
        let version = all.iter().find(|v| v.id == practical).ok_or(ApiError::NotFound("practical"))?;
        let school = app.store.school()?.school;
        let rules = app.practical(&version.id, version.version, &school)?;
        let taken = app.store.codes()?;
        let class = match class_id {
            Some(id) => OfClass::Known(app.store.class(id, desk.person.id)?.id),
            None => OfClass::Named(class),
        };
        let allotted = match deal {
            Some(how) => deal_out(&rules, names.len(), how)?,
            None => vec![Allotted::default(); names.len()],
        };
        let groups = groups.into_iter().zip(names).zip(allotted).map(|((group, name), allotted)| {
            let people = in_class(app, &class, group.people)?;
            Ok(NewGroup { name, pin: fresh_pin()?, allotted, people, ..NewGroup::default() })
        });
        let groups = groups.collect::<Result<_, ApiError>>()?;
        let run = app.store.open_run(NewRun {
            practical: version.id.clone(),
            version: version.version,
            class,
            owner: desk.person.id,
            code: free_code(&taken)?,
            groups,
            visits,
            photos,
            masses: rules.school.atomic_masses.edition().into(),
            school,
            rehearsal: None,
            now: app.clock.now(),
        })?;
        run_head(app, &run, &rows(app, &run)?.iter().collect::<Vec<_>>())
    })
    .await?;
    Ok(HttpResponse::Created().json(head))
}

/// The people who are on the roster of the class.
fn in_class(app: &App, class: &OfClass, people: Vec<i64>) -> Result<Vec<i64>, ApiError> {
    if people.is_empty() {
        return Ok(people);
    }
    let OfClass::Known(class) = class else { return Err(ApiError::NotFound("person in this class")) };
    let there = app.store.members(*class)?;
    let known = people.iter().all(|p| there.iter().any(|m| m.id == *p));
    if known { Ok(people) } else { Err(ApiError::NotFound("person in this class")) }
}

/// Visits as they are kept: numbered from 1, one after the other.
fn in_order(visits: Vec<PlannedVisit>) -> Result<Vec<Visit>, ApiError> {
    if visits.len() > MOST_VISITS {
        return Err(Invalid::TooManyVisits(MOST_VISITS).into());
    }
    let numbered: Vec<Visit> =
        (1i64..).zip(visits).map(|(nr, v)| Visit { nr, begins_at: v.begins_at, minutes: v.minutes }).collect();
    if numbered.iter().any(|v| !(1..=600).contains(&v.minutes)) {
        return Err(Invalid::VisitLength.into());
    }
    if let Some(pair) = numbered.windows(2).find(|p| p[1].begins_at < p[0].begins_at + p[0].minutes * 60_000) {
        return Err(Invalid::VisitsOverlap { earlier: pair[0].nr, later: pair[1].nr }.into());
    }
    Ok(numbered)
}

/// `PUT /runs/{run}/visits`, for instructors: says anew when a run is worked on.
#[utoipa::path(put, path = "/api/v1/runs/{run}/visits", params(("run" = i64, Path)), request_body = Visits,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[put("/runs/{run}/visits")]
pub async fn set_visits(app: web::Data<App>, desk: DeskRun, body: web::Json<Visits>) -> Result<HttpResponse, ApiError> {
    let visits = in_order(body.into_inner().visits)?;
    changing(app, desk, move |app, desk| Ok(app.store.set_visits(desk.run.id, visits)?)).await
}

/// `PUT /runs/{run}/paused`, for instructors.
#[utoipa::path(put, path = "/api/v1/runs/{run}/paused", params(("run" = i64, Path)), request_body = Paused,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[put("/runs/{run}/paused")]
pub async fn set_paused(app: web::Data<App>, desk: DeskRun, body: web::Json<Paused>) -> Result<HttpResponse, ApiError> {
    let paused = body.paused;
    changing(app, desk, move |app, desk| {
        Ok(app.store.set_paused(desk.run.id, paused, desk.actor(), app.clock.now())?)
    })
    .await
}

/// `PUT /runs/{run}/photos`, for instructors: whether photos are taken at the benches.
#[utoipa::path(put, path = "/api/v1/runs/{run}/photos", params(("run" = i64, Path)), request_body = TakingPhotos,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[put("/runs/{run}/photos")]
pub async fn set_photos(
    app: web::Data<App>,
    desk: DeskRun,
    body: web::Json<TakingPhotos>,
) -> Result<HttpResponse, ApiError> {
    let photos = body.photos;
    changing(app, desk, move |app, desk| Ok(app.store.set_photos(desk.run.id, photos)?)).await
}

/// `PUT /runs/{run}/closed`, for instructors.
#[utoipa::path(put, path = "/api/v1/runs/{run}/closed", params(("run" = i64, Path)), request_body = Closed,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[put("/runs/{run}/closed")]
pub async fn set_closed(app: web::Data<App>, desk: DeskRun, body: web::Json<Closed>) -> Result<HttpResponse, ApiError> {
    let closed = body.closed;
    if !closed && !desk.run.origin.is_empty() {
        return Err(ApiError::NotAllowed("this run came from another school: it stays as it was read"));
    }
    changing(app, desk, move |app, desk| {
        Ok(app.store.set_closed(desk.run.id, closed, desk.actor(), app.clock.now())?)
    })
    .await
}

/// What a run is called.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RunTitle {
    /// Empty: by its practical.
    title: String,
}

/// Whether something is put away.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Archived {
    /// It is.
    pub archived: bool,
}

/// `PUT /runs/{run}/title`, for instructors.
#[utoipa::path(put, path = "/api/v1/runs/{run}/title", params(("run" = i64, Path)), request_body = RunTitle,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[put("/runs/{run}/title")]
pub async fn name_run(app: web::Data<App>, desk: DeskRun, body: web::Json<RunTitle>) -> Result<HttpResponse, ApiError> {
    let title = short(&body.title, "the name of a run")?;
    changing(app, desk, move |app, desk| Ok(app.store.name_run(desk.run.id, title)?)).await
}

/// `PUT /runs/{run}/archived`, for instructors: puts it away, or takes it out again. Nothing of it changes.
#[utoipa::path(put, path = "/api/v1/runs/{run}/archived", params(("run" = i64, Path)), request_body = Archived,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[put("/runs/{run}/archived")]
pub async fn archive_run(
    app: web::Data<App>,
    desk: DeskRun,
    body: web::Json<Archived>,
) -> Result<HttpResponse, ApiError> {
    let archived = body.archived;
    changing(app, desk, move |app, desk| Ok(app.store.archive_run(desk.run.id, archived, app.clock.now())?)).await
}

/// `DELETE /runs/{run}`, for instructors: one that was opened by mistake, and that nobody has worked in.
#[utoipa::path(delete, path = "/api/v1/runs/{run}", params(("run" = i64, Path)),
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 409, body = Problem)))]
#[delete("/runs/{run}")]
pub async fn delete_run(app: web::Data<App>, desk: DeskRun) -> Result<HttpResponse, ApiError> {
    changing(app, desk, |app, desk| Ok(app.store.delete_run(desk.run.id)?)).await
}

/// `GET /runs/{run}/join.svg`, for instructors: the address that groups open, as a QR code.
#[utoipa::path(get, path = "/api/v1/runs/{run}/join.svg", params(("run" = i64, Path)),
    responses((status = 200, description = "a picture", content_type = "image/svg+xml", body = String), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/join.svg")]
pub async fn join_code(app: web::Data<App>, request: HttpRequest, desk: DeskRun) -> Result<HttpResponse, ApiError> {
    let host = host_of(&request).to_owned();
    let svg = blocking(&app, move |app| qr::svg(join_address(app, &host, &desk.run.code)));
    Ok(qr::reply(svg.await?))
}

/// A word and two digits that no run has.
pub fn free_code(taken: &BTreeSet<String>) -> Result<String, ApiError> {
    for _ in 0..200 {
        let code = format!("{} {}", WORDS[pick(WORDS.len())?], 10 + pick(90)?);
        if !taken.contains(&code) {
            return Ok(code);
        }
    }
    Err(ApiError::Conflict(StoreError::NotFound("free join code")))
}
