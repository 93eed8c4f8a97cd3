//! What handlers do alike: change a run and tell everybody who looks, say something at the desk, append to the record.

use crate::access::DeskRun;
use crate::app::{App, blocking};
use crate::live::Change;
use crate::problem::ApiError;
use actix_web::{HttpResponse, web};
use serde::Serialize;
use store::{NewEvent, Said};
use utoipa::ToSchema;
use uuid::Uuid;

/// Does something to a run as a whole, and tells everybody who looks.
pub async fn changing(
    app: web::Data<App>,
    desk: DeskRun,
    work: impl FnOnce(&App, &DeskRun) -> Result<(), ApiError> + Send + 'static,
) -> Result<HttpResponse, ApiError> {
    blocking(&app, move |app| {
        work(app, &desk)?;
        app.forget_summaries();
        app.live.tell(desk.run.id, Change { group: None });
        Ok(())
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// An entry is on disk.
#[derive(Debug, Serialize, ToSchema)]
pub struct Kept {
    /// The record's sequence number.
    seq: i64,
    /// Whether it was there already.
    again: bool,
    /// Whether somebody else had corrected the same entry first: both are kept, and this one stands.
    overtook: bool,
}

/// What an instructor says for a group, at a time in ms.
pub fn at_the_desk(desk: &DeskRun, id: Uuid, group: i64, said: Said, now: i64) -> NewEvent {
    NewEvent { id, run: desk.run.id, group: Some(group), actor: desk.actor(), supersedes: None, said, received_at: now }
}

/// Appends, and tells everybody who looks.
pub fn append(app: &App, event: NewEvent) -> Result<Kept, ApiError> {
    let (run, group) = (event.run, event.group);
    let appended = app.store.append(event)?;
    app.live.tell(run, Change { group });
    Ok(Kept { seq: appended.seq, again: appended.again, overtook: appended.overtook })
}
