//! The room's own things: named instruments, bottles, vessels weighed beforehand.

use crate::access::Staff;
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{delete, get, put, web};
use lab::bench::{Bottle, RoomItem, TaggedVessel};
use measure::Instrument;
use serde::Serialize;
use utoipa::ToSchema;

/// What the room has.
#[derive(Debug, Serialize, ToSchema)]
pub struct RoomView {
    /// Named instruments.
    instruments: Vec<Instrument>,
    /// Bottles.
    bottles: Vec<Bottle>,
    /// Vessels weighed beforehand.
    vessels: Vec<TaggedVessel>,
}

fn view(app: &App) -> Result<RoomView, ApiError> {
    let room = app.store.room()?;
    Ok(RoomView { instruments: room.instruments, bottles: room.bottles, vessels: room.vessels })
}

/// `GET /room`, for instructors and technicians.
#[utoipa::path(get, path = "/api/v1/room", responses((status = 200, body = RoomView), (status = 401, body = Problem)))]
#[get("/room")]
pub async fn show_room(app: web::Data<App>, _staff: Staff) -> Result<web::Json<RoomView>, ApiError> {
    Ok(web::Json(blocking(&app, view).await?))
}

/// `PUT /room`, for instructors and technicians: puts a thing into the room, or describes it anew.
#[utoipa::path(put, path = "/api/v1/room", request_body = RoomItem,
    responses((status = 200, body = RoomView), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[put("/room")]
pub async fn put_into_room(
    app: web::Data<App>,
    staff: Staff,
    item: web::Json<RoomItem>,
) -> Result<web::Json<RoomView>, ApiError> {
    let room = blocking(&app, move |app| {
        item.sound()?;
        app.store.put_into_room(item.into_inner(), format!("person {}", staff.person.id), app.clock.now())?;
        view(app)
    });
    Ok(web::Json(room.await?))
}

/// `DELETE /room/{kind}/{name}`, for instructors and technicians: takes it out; readings taken on it keep it.
#[utoipa::path(delete, path = "/api/v1/room/{kind}/{name}", params(("kind" = String, Path), ("name" = String, Path)),
    responses((status = 200, body = RoomView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[delete("/room/{kind}/{name}")]
pub async fn take_out_of_room(
    app: web::Data<App>,
    _staff: Staff,
    of: web::Path<(String, String)>,
) -> Result<web::Json<RoomView>, ApiError> {
    let room = blocking(&app, move |app| {
        let (kind, name) = of.into_inner();
        app.store.take_out_of_room(kind, name, app.clock.now())?;
        view(app)
    });
    Ok(web::Json(room.await?))
}
