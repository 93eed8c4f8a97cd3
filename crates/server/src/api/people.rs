//! Who is at which bench of a run, what each group was given, and groups that come late or go on together.

use crate::access::{DeskRun, fresh_pin, pick};
use crate::api::acts::changing;
use crate::api::texts::named;
use crate::api::views::{PersonView, VisitView, visits};
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::line::one_line;
use crate::problem::{ApiError, Problem};
use actix_web::{HttpResponse, delete, get, post, put, web};
use lab::roll::{current_visit, dealt, seated};
use practical::{Allotted, Practical};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use store::{Group, NewGroup};
use utoipa::ToSchema;

/// Most characters of a bench's name.
const LONGEST_BENCH: usize = 20;

/// Most groups of a run.
pub const MOST_GROUPS: usize = 40;

/// The people of a run.
#[derive(Debug, Serialize, ToSchema)]
pub struct PeopleView {
    /// Its groups, in bench order.
    groups: Vec<GroupView>,
    /// Everybody of the class, by name.
    people: Vec<PersonView>,
    /// Where everybody is at the visit that is on: the group by person; absent if none. Nobody said where a person has
    /// no entry.
    seats: BTreeMap<i64, Option<i64>>,
    /// The visit that is on, or comes next.
    visit: i64,
    /// All visits.
    visits: Vec<VisitView>,
    /// Assignments of the practical, with what is in the unknown.
    assignments: Vec<AssignmentView>,
    /// Codes of its unknowns, with what is in them: the key.
    unknowns: Vec<KeyView>,
}

/// A group as the instructor sees it.
#[derive(Debug, Serialize, ToSchema)]
pub struct GroupView {
    /// Id.
    id: i64,
    /// Name.
    name: String,
    /// What its second device must know.
    pin: String,
    /// Whether a device has come.
    claimed: bool,
    /// What it was given; its unknown is that of its assignment where it has no other.
    allotted: Allotted,
    /// The bench that it stands at.
    bench: Option<String>,
    /// The group at whose bench it goes on.
    merged_into: Option<i64>,
}

/// An assignment to give.
#[derive(Debug, Serialize, ToSchema)]
pub struct AssignmentView {
    /// Name.
    name: String,
    /// Code of its unknown.
    unknown: Option<String>,
}

/// A line of the hidden key.
#[derive(Debug, Serialize, ToSchema)]
pub struct KeyView {
    /// What is written on it.
    code: String,
    /// What is in it.
    is: String,
}

/// Where a person is.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Seating {
    /// From this visit on.
    visit: i64,
    /// Who.
    person: i64,
    /// At which bench; absent if none.
    group: Option<i64>,
}

/// A group that comes late.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LateGroup {
    /// Name.
    name: String,
}

/// What a group is given.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Giving {
    /// Name of an assignment of the practical; none takes it away.
    assignment: Option<String>,
    /// Code of an unknown of the practical; none leaves that of the assignment.
    #[serde(default)]
    unknown: Option<String>,
}

/// Where a group stands.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct StandsAt {
    /// The bench, as the room calls it; none or nothing where nobody needs to know.
    bench: Option<String>,
}

/// How all groups are given something at once.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Dealing {
    /// A, B, A, B along the benches.
    InTurn,
    /// As often each, by lot.
    ByLot,
}

/// What is dealt.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Deal {
    /// How.
    how: Dealing,
}

/// Which group goes on where.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Merging {
    /// The other group.
    into: i64,
}

/// `GET /runs/{run}/people`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/people", params(("run" = i64, Path)),
    responses((status = 200, body = PeopleView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/people")]
pub async fn show_people(app: web::Data<App>, desk: DeskRun) -> Result<web::Json<PeopleView>, ApiError> {
    let view = blocking(&app, move |app| {
        let run = desk.run;
        let practical = app.practical_of(&run)?;
        let visit = current_visit(&app.store.visits(run.id)?, app.clock.now());
        let seats = seated(&app.store.seats(run.id)?, visit);
        let group = |g: Group| GroupView {
            allotted: practical.allotted(&g.allotted).allotted,
            id: g.id,
            name: g.name,
            pin: g.pin,
            claimed: g.claimed_at.is_some(),
            bench: g.bench,
            merged_into: g.merged_into,
        };
        let assignments = practical.file.assignments.iter();
        let unknowns = practical.file.unknowns.iter();
        Ok(PeopleView {
            groups: app.store.groups(run.id)?.into_iter().map(group).collect(),
            people: app.store.members(run.class_id)?.into_iter().map(Into::into).collect(),
            seats: seats.into_iter().map(|s| (s.person, s.group)).collect(),
            visit,
            visits: visits(app, run.id)?,
            assignments: assignments
                .map(|a| AssignmentView { name: a.name.clone(), unknown: a.unknown.clone() })
                .collect(),
            unknowns: unknowns.map(|u| KeyView { code: u.code.clone(), is: u.is.clone() }).collect(),
        })
    })
    .await?;
    Ok(web::Json(view))
}

/// `PUT /runs/{run}/seats`, for instructors: seats a person, or notes that the person is absent.
#[utoipa::path(put, path = "/api/v1/runs/{run}/seats", params(("run" = i64, Path)), request_body = Seating,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[put("/runs/{run}/seats")]
pub async fn seat(app: web::Data<App>, desk: DeskRun, body: web::Json<Seating>) -> Result<HttpResponse, ApiError> {
    changing(app, desk, move |app, desk| {
        let Seating { visit, person, group } = body.into_inner();
        Ok(app.store.seat(desk.run.id, visit, person, group, app.clock.now())?)
    })
    .await
}

/// `POST /runs/{run}/groups`, for instructors: a group that comes late.
#[utoipa::path(post, path = "/api/v1/runs/{run}/groups", params(("run" = i64, Path)), request_body = LateGroup,
    responses((status = 204), (status = 401, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("/runs/{run}/groups")]
pub async fn add_group(
    app: web::Data<App>,
    desk: DeskRun,
    body: web::Json<LateGroup>,
) -> Result<HttpResponse, ApiError> {
    let name = named(&body.name, "the name of a group")?;
    changing(app, desk, move |app, desk| {
        if app.store.groups(desk.run.id)?.len() >= MOST_GROUPS {
            return Err(Invalid::TooManyGroups(MOST_GROUPS).into());
        }
        let group = NewGroup { name, pin: fresh_pin()?, ..NewGroup::default() };
        app.store.add_group(desk.run.id, group, app.clock.now())?;
        Ok(())
    })
    .await
}

/// `PUT /runs/{run}/groups/{group}/allotted`, for instructors: what a group is given that others are not.
#[utoipa::path(put, path = "/api/v1/runs/{run}/groups/{group}/allotted", params(("run" = i64, Path), ("group" = i64, Path)),
    request_body = Giving,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[put("/runs/{run}/groups/{group}/allotted")]
pub async fn allot(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, i64)>,
    body: web::Json<Giving>,
) -> Result<HttpResponse, ApiError> {
    changing(app, desk, move |app, desk| {
        let Giving { assignment, unknown } = body.into_inner();
        let group = desk.group(app, path.1)?;
        let practical = app.practical_of(&desk.run)?;
        let to = Allotted { assignment, unknown };
        if to.assignment.as_deref().is_some_and(|name| practical.assignment(name).is_none()) {
            return Err(ApiError::NotFound("assignment in this practical"));
        }
        if to.unknown.as_deref().is_some_and(|code| practical.key_of(code).is_none()) {
            return Err(ApiError::NotFound("unknown in this practical"));
        }
        Ok(app.store.allot(group.id, to)?)
    })
    .await
}

/// `PUT /runs/{run}/groups/{group}/bench`, for instructors: at which bench a group stands.
#[utoipa::path(put, path = "/api/v1/runs/{run}/groups/{group}/bench", params(("run" = i64, Path), ("group" = i64, Path)),
    request_body = StandsAt,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[put("/runs/{run}/groups/{group}/bench")]
pub async fn place_at(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, i64)>,
    body: web::Json<StandsAt>,
) -> Result<HttpResponse, ApiError> {
    changing(app, desk, move |app, desk| {
        let group = desk.group(app, path.1)?;
        let bench = body.into_inner().bench.filter(|b| !b.trim().is_empty());
        let too_long = Invalid::TooLong { what: "the name of a bench", most: LONGEST_BENCH };
        let bench = bench.map(|b| one_line(&b, LONGEST_BENCH).ok_or(too_long)).transpose()?;
        Ok(app.store.place_at(group.id, bench)?)
    })
    .await
}

/// `POST /runs/{run}/deal`, for instructors: gives every group an assignment, or the code of an unknown where the
/// practical has no assignments.
#[utoipa::path(post, path = "/api/v1/runs/{run}/deal", params(("run" = i64, Path)), request_body = Deal,
    responses((status = 204), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[post("/runs/{run}/deal")]
pub async fn deal(app: web::Data<App>, desk: DeskRun, body: web::Json<Deal>) -> Result<HttpResponse, ApiError> {
    changing(app, desk, move |app, desk| {
        let practical = app.practical_of(&desk.run)?;
        let groups: Vec<Group> =
            app.store.groups(desk.run.id)?.into_iter().filter(|g| g.merged_into.is_none()).collect();
        for (group, to) in groups.iter().zip(deal_out(&practical, groups.len(), body.how)?) {
            app.store.allot(group.id, to)?;
        }
        Ok(())
    })
    .await
}

/// What so many groups are given, in turn or by lot.
pub fn deal_out(practical: &Practical, count: usize, how: Dealing) -> Result<Vec<Allotted>, ApiError> {
    let mut given = dealt(practical, count).ok_or(Invalid::NothingToDeal)?;
    if how == Dealing::ByLot {
        for i in (1..given.len()).rev() {
            given.swap(i, pick(i + 1)?);
        }
    }
    Ok(given)
}

/// `POST /runs/{run}/groups/{group}/merge`, for instructors: lets a group go on at another one's bench.
#[utoipa::path(post, path = "/api/v1/runs/{run}/groups/{group}/merge", params(("run" = i64, Path), ("group" = i64, Path)),
    request_body = Merging,
    responses((status = 204), (status = 401, body = Problem), (status = 409, body = Problem)))]
#[post("/runs/{run}/groups/{group}/merge")]
pub async fn merge(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, i64)>,
    body: web::Json<Merging>,
) -> Result<HttpResponse, ApiError> {
    changing(app, desk, move |app, desk| {
        Ok(app.store.merge_group(desk.run.id, path.1, body.into, desk.actor(), app.clock.now())?)
    })
    .await
}

/// `DELETE /runs/{run}/groups/{group}/devices`, for instructors: a device that is lost, or in other hands. All devices of
/// the group are signed out, and it has another PIN.
#[utoipa::path(delete, path = "/api/v1/runs/{run}/groups/{group}/devices", params(("run" = i64, Path), ("group" = i64, Path)),
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[delete("/runs/{run}/groups/{group}/devices")]
pub async fn sign_out_devices(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, i64)>,
) -> Result<HttpResponse, ApiError> {
    changing(app, desk, move |app, desk| {
        let group = desk.group(app, path.1)?;
        app.store.sign_out_group(group.id, fresh_pin()?)?;
        Ok(())
    })
    .await
}
