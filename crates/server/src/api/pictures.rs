//! Photos at the benches: off unless the instructor lets them be taken, deletable by the group and by the instructor.

use crate::access::{Bench, DeskRun};
use crate::api::acts::{Kept, append};
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::photos::MOST_BYTES;
use crate::problem::{ApiError, Problem};
use actix_web::{HttpResponse, delete, get, post, web};
use lab::bench::{Actor, Entry, Room, accepted};
use serde::Deserialize;
use store::{NewEvent, Said, Statement};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// Most photos of one group.
const MOST_PHOTOS: usize = 60;

/// Where a photo belongs.
#[derive(Debug, Deserialize, IntoParams, ToSchema)]
#[into_params(parameter_in = Query)]
pub struct OfStep {
    /// The step, counted from 0.
    step: u32,
}

/// `POST /bench/photos?step=`, for a device of a group: keeps a JPEG or PNG of at most 8 MB. The body is the file.
#[utoipa::path(post, path = "/api/v1/bench/photos", params(OfStep),
    request_body(content = Vec<u8>, content_type = "image/jpeg"),
    responses((status = 200, body = Kept), (status = 403, body = Problem), (status = 422, body = Problem)))]
#[post("/bench/photos")]
pub async fn take_photo(
    app: web::Data<App>,
    bench: Bench,
    at: web::Query<OfStep>,
    body: web::Payload,
) -> Result<web::Json<Kept>, ApiError> {
    if !bench.run.photos {
        return Err(ApiError::NotAllowed("photos are not taken in this run"));
    }
    let bytes = whole(body).await?;
    let kept = blocking(&app, move |app| {
        let there = app.store.bench(bench.run.id, bench.group.id)?.current(&Room::default()).photos.len();
        if there >= MOST_PHOTOS {
            return Err(Invalid::TooManyPhotos(MOST_PHOTOS).into());
        }
        let practical = app.practical_of(&bench.run)?;
        if at.step as usize >= practical.steps.len() {
            return Err(ApiError::NotFound("step"));
        }
        let _turn = app.photos.turn();
        // The file is on disk before anything speaks of it; what is not taken leaves none.
        let name = app.photos.keep(&bytes)?;
        let entry = Entry::Photo { name: name.clone(), step: at.step, deleted: false };
        let said = say(app, bench.run.id, bench.group.id, bench.actor(), entry);
        if said.is_err() {
            drop_unless_kept(app, &name)?;
        }
        said
    })
    .await?;
    Ok(web::Json(kept))
}

/// `GET /bench/photos/{name}`, for a device of the group whose photo it is.
#[utoipa::path(get, path = "/api/v1/bench/photos/{name}", params(("name" = String, Path)),
    responses((status = 200, description = "the photo", content_type = "image/jpeg", body = Vec<u8>), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/bench/photos/{name}")]
pub async fn own_photo(app: web::Data<App>, bench: Bench, name: web::Path<String>) -> Result<HttpResponse, ApiError> {
    picture(app, bench.run.id, bench.group.id, name.into_inner()).await
}

/// `DELETE /bench/photos/{name}`, for a device of the group whose photo it is.
#[utoipa::path(delete, path = "/api/v1/bench/photos/{name}", params(("name" = String, Path)),
    responses((status = 200, body = Kept), (status = 404, body = Problem)))]
#[delete("/bench/photos/{name}")]
pub async fn drop_own_photo(
    app: web::Data<App>,
    bench: Bench,
    name: web::Path<String>,
) -> Result<web::Json<Kept>, ApiError> {
    let actor = bench.actor();
    drop_photo(app, bench.run.id, bench.group.id, actor, name.into_inner()).await
}

/// `GET /runs/{run}/groups/{group}/photos/{name}`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/groups/{group}/photos/{name}", params(("run" = i64, Path), ("group" = i64, Path), ("name" = String, Path)),
    responses((status = 200, description = "the photo", content_type = "image/jpeg", body = Vec<u8>), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/groups/{group}/photos/{name}")]
pub async fn group_photo(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, i64, String)>,
) -> Result<HttpResponse, ApiError> {
    let (_, group, name) = path.into_inner();
    picture(app, desk.run.id, group, name).await
}

/// `DELETE /runs/{run}/groups/{group}/photos/{name}`, for instructors.
#[utoipa::path(delete, path = "/api/v1/runs/{run}/groups/{group}/photos/{name}",
    params(("run" = i64, Path), ("group" = i64, Path), ("name" = String, Path)),
    responses((status = 200, body = Kept), (status = 404, body = Problem)))]
#[delete("/runs/{run}/groups/{group}/photos/{name}")]
pub async fn drop_group_photo(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, i64, String)>,
) -> Result<web::Json<Kept>, ApiError> {
    let (_, group, name) = path.into_inner();
    let actor = desk.actor();
    drop_photo(app, desk.run.id, group, actor, name).await
}

/// The body as a whole; what is too large is told so, and not read to its end.
async fn whole(body: web::Payload) -> Result<web::Bytes, ApiError> {
    match body.to_bytes_limited(MOST_BYTES).await {
        Ok(Ok(bytes)) => Ok(bytes),
        Ok(Err(_)) => Err(Invalid::PhotoCutOff.into()),
        Err(_) => Err(Invalid::PhotoTooLarge(MOST_BYTES / 1024 / 1024).into()),
    }
}

async fn picture(app: web::Data<App>, run: i64, group: i64, name: String) -> Result<HttpResponse, ApiError> {
    let bytes = blocking(&app, move |app| {
        there(app, run, group, &name)?;
        app.photos.read(&name)
    })
    .await?;
    Ok(HttpResponse::Ok()
        .content_type("image/jpeg")
        .insert_header(("Cache-Control", "private, max-age=86400, immutable"))
        .body(bytes))
}

async fn drop_photo(
    app: web::Data<App>,
    run: i64,
    group: i64,
    actor: Actor,
    name: String,
) -> Result<web::Json<Kept>, ApiError> {
    let kept = blocking(&app, move |app| {
        let _turn = app.photos.turn();
        let step = there(app, run, group, &name)?;
        let kept = say(app, run, group, actor, Entry::Photo { name: name.clone(), step, deleted: true })?;
        drop_unless_kept(app, &name)?;
        Ok(kept)
    })
    .await?;
    Ok(web::Json(kept))
}

/// Takes a picture away that no group of any run keeps: two may have the very same.
pub fn drop_unless_kept(app: &App, name: &str) -> Result<(), ApiError> {
    if app.store.photos_kept()?.contains(name) { Ok(()) } else { app.photos.delete(name) }
}

/// The step that a photo of this group belongs to.
fn there(app: &App, run: i64, group: i64, name: &str) -> Result<u32, ApiError> {
    let photos = app.store.bench(run, group)?.current(&Room::default()).photos;
    photos.get(name).copied().ok_or(ApiError::NotFound("photo"))
}

fn say(app: &App, run: i64, group: i64, actor: Actor, entry: Entry) -> Result<Kept, ApiError> {
    let run = app.store.run(run)?;
    let entry = accepted(&*app.practical_of(&run)?, &Room::default(), entry)?;
    let now = app.clock.now();
    let said = Said::at(now, Statement::Bench(entry));
    append(
        app,
        NewEvent {
            id: Uuid::now_v7(),
            run: run.id,
            group: Some(group),
            actor,
            supersedes: None,
            said,
            received_at: now,
        },
    )
}
