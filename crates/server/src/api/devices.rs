//! Devices at the benches of a run: who has come, who guessed, and one press for whoever should not be there.

use crate::access::{DeskRun, fresh_pin};
use crate::app::{App, blocking};
use crate::live::Change;
use crate::problem::{ApiError, Problem};
use actix_web::{HttpResponse, delete, get, web};
use serde::Serialize;
use utoipa::ToSchema;

/// A device that is at a group's bench.
#[derive(Debug, Serialize, ToSchema)]
pub struct DeviceView {
    /// Its id.
    id: i64,
    /// The group that it joined.
    group: i64,
    /// The browser and the address, as far as they are known.
    place: String,
    /// When it joined, ms.
    since: i64,
}

/// Devices of a run.
#[derive(Debug, Serialize, ToSchema)]
pub struct DevicesView {
    /// The newest first.
    devices: Vec<DeviceView>,
}

/// `GET /runs/{run}/devices`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/devices", params(("run" = i64, Path)),
    responses((status = 200, body = DevicesView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/devices")]
pub async fn show_devices(app: web::Data<App>, desk: DeskRun) -> Result<web::Json<DevicesView>, ApiError> {
    let view = blocking(&app, move |app| {
        let devices = app.store.devices(desk.run.id, app.clock.now())?;
        Ok(DevicesView {
            devices: devices
                .into_iter()
                .map(|d| DeviceView { id: d.session, group: d.group, place: d.place, since: d.since })
                .collect(),
        })
    });
    Ok(web::Json(view.await?))
}

/// `DELETE /runs/{run}/devices/{device}`, for instructors: takes a device from its group, which gets another PIN. Nothing
/// that was entered is lost.
#[utoipa::path(delete, path = "/api/v1/runs/{run}/devices/{device}", params(("run" = i64, Path), ("device" = i64, Path)),
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[delete("/runs/{run}/devices/{device}")]
pub async fn take_device_out(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, i64)>,
) -> Result<HttpResponse, ApiError> {
    blocking(&app, move |app| {
        let group = app.store.undo_claim(desk.run.id, path.1, fresh_pin()?)?;
        app.live.tell(desk.run.id, Change { group: Some(group) });
        Ok(())
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}
