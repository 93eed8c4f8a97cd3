//! Backups, and whether the record is whole.

use crate::access::Desk;
use crate::api::accounts::is_keeper;
use crate::app::{App, blocking};
use crate::health::{Doing, doing};
use crate::keeping::{self, Backup};
use crate::problem::{ApiError, Problem};
use actix_web::{HttpResponse, get, post, web};
use serde::{Deserialize, Serialize};
use store::Erasure;
use utoipa::ToSchema;

/// A finished backup: it was restored for trial, and was whole.
#[derive(Debug, Serialize, ToSchema)]
pub struct BackupView {
    /// The folder that it is.
    name: String,
    /// The folder that it lies in.
    lies_in: String,
    /// When it was made, and restored for trial, ms.
    made_at: i64,
    /// Events of the record in it.
    events: i64,
    /// The end of its chain.
    head: String,
    /// Photos in it.
    photos: usize,
    /// Size of it all.
    bytes: u64,
    /// It is what was there before another one was put back.
    before_restore: bool,
    /// Names or groups that were erased since: it still holds them.
    erased_since: u32,
}

/// How the record is kept.
#[derive(Debug, Serialize, ToSchema)]
pub struct KeepingView {
    /// The newest first.
    backups: Vec<BackupView>,
    /// Folders that backups are written to.
    folders: Vec<String>,
    /// Why the last one that was tried is none.
    failed: Option<FailedBackup>,
    /// How the server is doing, for the keeper.
    doing: Option<Doing>,
    /// Something that was erased is still in the log of changes, since somebody reads the record.
    erasing: bool,
    /// Whether who is looking can put one back.
    may_restore: bool,
    /// The server's time, ms.
    now: i64,
}

/// A backup that was none.
#[derive(Debug, Serialize, ToSchema)]
pub struct FailedBackup {
    /// In ms.
    at: i64,
    /// What the disk said.
    why: String,
}

/// What was found in the record.
#[derive(Debug, Serialize, ToSchema)]
pub struct ExaminedView {
    /// Events in it.
    events: i64,
    /// The end of the chain.
    head: String,
    /// Words that were erased, rightly.
    erased: u64,
    /// Everything that is wrong, in words; none where it is whole.
    faults: Vec<String>,
    /// When it was looked at, ms.
    at: i64,
}

/// Which backup is put back.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PutBack {
    /// The folder that it is.
    name: String,
    /// The folder that it lies in.
    lies_in: String,
}

/// `GET /keeping`, for instructors.
#[utoipa::path(get, path = "/api/v1/keeping", responses((status = 200, body = KeepingView), (status = 401, body = Problem)))]
#[get("/keeping")]
pub async fn show_keeping(app: web::Data<App>, desk: Desk) -> Result<web::Json<KeepingView>, ApiError> {
    Ok(web::Json(blocking(&app, move |app| view(app, &desk)).await?))
}

/// `POST /keeping/backups`, for instructors: makes one now, in every folder.
#[utoipa::path(post, path = "/api/v1/keeping/backups", responses((status = 200, body = KeepingView), (status = 401, body = Problem)))]
#[post("/keeping/backups")]
pub async fn back_up_now(app: web::Data<App>, desk: Desk) -> Result<web::Json<KeepingView>, ApiError> {
    let view = blocking(&app, move |app| {
        // Where it failed, that stands in what is shown.
        app.keeping.back_up(&app.store, app.clock);
        view(app, &desk)
    });
    Ok(web::Json(view.await?))
}

/// `POST /keeping/examined`, for instructors: looks at the whole record now.
#[utoipa::path(post, path = "/api/v1/keeping/examined", responses((status = 200, body = ExaminedView), (status = 401, body = Problem)))]
#[post("/keeping/examined")]
pub async fn examine_now(app: web::Data<App>, _desk: Desk) -> Result<web::Json<ExaminedView>, ApiError> {
    let found = blocking(&app, |app| {
        let found = app.store.examine();
        let photos = app.photos.damaged().map_err(|e| ApiError::Internal(e.into()))?;
        Ok(ExaminedView {
            events: found.head.seq,
            head: found.head.short(),
            erased: found.erased,
            faults: found.faults.iter().map(ToString::to_string).chain(photos).collect(),
            at: app.clock.now(),
        })
    });
    Ok(web::Json(found.await?))
}

/// `POST /keeping/restored`, for the keeper: puts a backup in the place of the record. What is there is backed up first, and
/// everybody is signed out.
#[utoipa::path(post, path = "/api/v1/keeping/restored", request_body = PutBack,
    responses((status = 204), (status = 401, body = Problem), (status = 403, body = Problem), (status = 404, body = Problem)))]
#[post("/keeping/restored")]
pub async fn put_back(app: web::Data<App>, desk: Desk, body: web::Json<PutBack>) -> Result<HttpResponse, ApiError> {
    blocking(&app, move |app| {
        is_keeper(app, &desk)?;
        // Only what the list shows: an address is no way to a folder.
        let wanted = app.keeping.backups().into_iter().find(|b| name(b) == body.name && lies_in(b) == body.lies_in);
        let backup = wanted.ok_or(ApiError::NotFound("backup"))?;
        let restored = keeping::into_running(&app.store, &app.keeping, &backup.folder, app.clock.now());
        restored.map_err(ApiError::Internal)?;
        app.forget_all();
        Ok(())
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

fn view(app: &App, desk: &Desk) -> Result<KeepingView, ApiError> {
    let erasures = app.store.erasures()?;
    let backups = app.keeping.backups().into_iter().map(|b| BackupView {
        name: name(&b),
        lies_in: lies_in(&b),
        made_at: b.manifest.made_ms,
        events: b.manifest.events,
        head: b.manifest.head.clone(),
        photos: b.manifest.files.len().saturating_sub(1),
        bytes: b.bytes,
        before_restore: b.manifest.before_restore,
        erased_since: u32::try_from(erasures.iter().filter(|seq| **seq > b.manifest.events).count())
            .unwrap_or(u32::MAX),
    });
    let is_keeper = is_keeper(app, desk).is_ok();
    Ok(KeepingView {
        doing: is_keeper.then(|| doing(app)),
        backups: backups.collect(),
        folders: app.keeping.folders.iter().map(|f| f.display().to_string()).collect(),
        failed: app.keeping.failed().map(|(at, why)| FailedBackup { at, why }),
        erasing: app.store.erasure() == Erasure::Pending,
        may_restore: is_keeper,
        now: app.clock.now(),
    })
}

fn name(backup: &Backup) -> String {
    backup.folder.file_name().unwrap_or_default().to_string_lossy().into_owned()
}

fn lies_in(backup: &Backup) -> String {
    backup.folder.parent().map(|f| f.display().to_string()).unwrap_or_default()
}
