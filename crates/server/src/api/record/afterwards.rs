//! What is said of a run afterwards: signatures, what became of the products, how long the steps took, what the next class is
//! to know.

use super::{NoteView, notes};
use crate::access::DeskRun;
use crate::api::acts::changing;
use crate::api::views::{Named, name_of, named_materials};
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::line::one_line;
use crate::problem::{ApiError, Problem};
use actix_web::{HttpResponse, get, post, put, web};
use lab::record::{StepTime, step_times};
use practical::file::Role;
use serde::{Deserialize, Serialize};
use store::ProductKept;
use utoipa::ToSchema;

/// Longest note for the next class.
const LONGEST_NOTE: usize = 2000;
/// Longest place of a product.
const LONGEST_PLACE: usize = 60;

/// A signature under what stood at that time.
#[derive(Debug, Serialize, ToSchema)]
pub struct SignOffView {
    /// The group whose page is signed; none for the run as a whole.
    group: Option<i64>,
    /// Who.
    by: String,
    /// When, ms.
    at: i64,
    /// The end of the chain with it, its first eight digits.
    head: String,
    /// Entries that came later.
    later: i64,
}

/// What became of a product.
#[derive(Debug, Serialize, ToSchema)]
pub struct ProductView {
    /// The group that made it.
    group: i64,
    /// Symbol of the material.
    symbol: String,
    /// It is still there.
    kept: bool,
    /// Where it is kept, or how it was thrown away.
    place: String,
    /// Who said so.
    by: String,
    /// When, ms.
    at: i64,
}

/// How long a step took, and where it stands in the practical as it is now.
#[derive(Debug, Serialize, ToSchema)]
pub struct TimeTaken {
    /// As the class took it.
    #[serde(flatten)]
    took: StepTime,
    /// The step of the newest version with this title, counted from 0, and its minutes; none where there is none, or several.
    now: Option<StepNow>,
}

/// A step of the newest version.
#[derive(Debug, Serialize, ToSchema)]
pub struct StepNow {
    /// Counted from 0.
    step: u32,
    /// Shortest and longest.
    minutes: Option<[u32; 2]>,
}

/// What is said of a run afterwards.
#[derive(Debug, Serialize, ToSchema)]
pub struct Afterwards {
    /// Oldest first.
    signed_off: Vec<SignOffView>,
    /// The note of this run.
    next_time: Option<NoteView>,
    /// Notes of other classes on this practical, the newest first.
    earlier: Vec<NoteView>,
    /// What can be left behind.
    products: Vec<Named>,
    /// What became of it, as it was said last.
    kept: Vec<ProductView>,
    /// How long the steps took.
    times: Vec<TimeTaken>,
}

/// Whose page is signed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Signing {
    /// The group; left out, the run as a whole.
    #[serde(default)]
    group: Option<i64>,
}

/// A note for the next class.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NextTimeNote {
    /// Empty takes it back.
    text: String,
}

/// What became of a product.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ProductFate {
    /// The group that made it.
    group: i64,
    /// Symbol of the material.
    symbol: String,
    /// It is still there.
    kept: bool,
    /// Where it is kept, or how it was thrown away.
    place: String,
}

/// `GET /runs/{run}/afterwards`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/afterwards", params(("run" = i64, Path)),
    responses((status = 200, body = Afterwards), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/afterwards")]
pub async fn show_afterwards(app: web::Data<App>, desk: DeskRun) -> Result<web::Json<Afterwards>, ApiError> {
    Ok(web::Json(blocking(&app, move |app| afterwards(app, &desk)).await?))
}

fn afterwards(app: &App, desk: &DeskRun) -> Result<Afterwards, ApiError> {
    let run = &desk.run;
    let practical = app.practical_of(run)?;
    let signed = |s: store::SignOff| {
        Ok(SignOffView { group: s.group, by: name_of(app, s.actor)?, at: s.at, head: s.head.short(), later: s.later })
    };
    let (mut own, mut earlier) = (None, Vec::new());
    for note in notes(app, desk.person.id)? {
        if note.run == run.id {
            own = Some(note);
        } else if app.store.run(note.run)?.practical == run.practical {
            earlier.push(note);
        }
    }
    let product = |p: ProductKept| {
        let by = name_of(app, p.actor)?;
        Ok(ProductView { group: p.group, symbol: p.symbol, kept: p.kept, place: p.place, by, at: p.at })
    };
    let made = practical.materials.iter().filter(|m| m.role == Role::Product);
    Ok(Afterwards {
        signed_off: app.store.signed_off(run.id)?.into_iter().map(signed).collect::<Result<_, ApiError>>()?,
        next_time: own,
        earlier,
        products: named_materials(made),
        kept: app.store.products_kept(run.id)?.into_iter().map(product).collect::<Result<_, ApiError>>()?,
        times: times(app, run)?,
    })
}

/// How long the steps took, each with its place in the newest version.
fn times(app: &App, run: &store::Run) -> Result<Vec<TimeTaken>, ApiError> {
    let practical = app.practical_of(run)?;
    let room = app.store.room_of(run.id)?;
    let groups = app.store.groups(run.id)?.into_iter().filter(|g| g.merged_into.is_none());
    let entries = groups.map(|g| Ok(app.store.bench(run.id, g.id)?.current(&room)));
    let entries = entries.collect::<Result<Vec<_>, ApiError>>()?;
    let newest = app.store.versions(&run.practical)?.first().map_or(run.version, |v| v.version);
    let newest = app.practical(&run.practical, newest, &run.school)?;
    let now = |title: &str| {
        let mut steps = (0u32..).zip(&newest.steps).filter(|(_, s)| s.title == title);
        let (step, spec) = steps.next()?;
        steps.next().is_none().then_some(StepNow { step, minutes: spec.minutes })
    };
    let took = step_times(&practical, &entries.iter().collect::<Vec<_>>(), &app.store.visits(run.id)?);
    Ok(took.into_iter().map(|took| TimeTaken { now: now(&took.title), took }).collect())
}

/// `POST /runs/{run}/signed-off`, for instructors: signs what stands at a bench, or in the run.
#[utoipa::path(post, path = "/api/v1/runs/{run}/signed-off", params(("run" = i64, Path)), request_body = Signing,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[post("/runs/{run}/signed-off")]
pub async fn sign_off(app: web::Data<App>, desk: DeskRun, body: web::Json<Signing>) -> Result<HttpResponse, ApiError> {
    changing(app, desk, move |app, desk| {
        if let Some(group) = body.group {
            desk.group(app, group)?;
        }
        app.store.sign_off(desk.run.id, body.group, desk.actor(), app.clock.now())?;
        Ok(())
    })
    .await
}

/// `PUT /runs/{run}/next-time`, for instructors: what the next class is to know.
#[utoipa::path(put, path = "/api/v1/runs/{run}/next-time", params(("run" = i64, Path)), request_body = NextTimeNote,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[put("/runs/{run}/next-time")]
pub async fn note_next_time(
    app: web::Data<App>,
    desk: DeskRun,
    body: web::Json<NextTimeNote>,
) -> Result<HttpResponse, ApiError> {
    let text = body.into_inner().text.trim().to_owned();
    if text.chars().count() > LONGEST_NOTE || text.chars().any(|c| c.is_control() && c != '\n') {
        return Err(Invalid::TooLong { what: "a note", most: LONGEST_NOTE }.into());
    }
    changing(app, desk, move |app, desk| {
        app.store.note_for_next_time(desk.run.id, text, desk.actor(), app.clock.now())?;
        Ok(())
    })
    .await
}

/// `PUT /runs/{run}/product`, for instructors: what became of a group's product.
#[utoipa::path(put, path = "/api/v1/runs/{run}/product", params(("run" = i64, Path)), request_body = ProductFate,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[put("/runs/{run}/product")]
pub async fn keep_product(
    app: web::Data<App>,
    desk: DeskRun,
    body: web::Json<ProductFate>,
) -> Result<HttpResponse, ApiError> {
    changing(app, desk, move |app, desk| {
        let ProductFate { group, symbol, kept, place } = body.into_inner();
        let group = desk.group(app, group)?.id;
        let practical = app.practical_of(&desk.run)?;
        if !practical.material(&symbol).is_some_and(|m| m.role == Role::Product) {
            return Err(ApiError::NotFound("product"));
        }
        let long = Invalid::TooLong { what: "the place of a product", most: LONGEST_PLACE };
        let place =
            if place.trim().is_empty() { String::new() } else { one_line(&place, LONGEST_PLACE).ok_or(long)? };
        let of = ProductKept { group, symbol, kept, place, actor: desk.actor(), at: app.clock.now() };
        app.store.keep_product(desk.run.id, of)?;
        Ok(())
    })
    .await
}
