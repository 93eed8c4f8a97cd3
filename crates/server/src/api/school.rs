//! The choices of the school where teaching practice differs.

use crate::access::Desk;
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::problem::{ApiError, Problem};
use actix_web::{get, put, web};
use practical::School;
use serde::Serialize;
use utoipa::ToSchema;

/// What the school chose.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchoolView {
    /// The choices.
    school: School,
    /// Since when, in ms; none while nobody has chosen.
    changed_at: Option<i64>,
}

fn view(app: &App) -> Result<SchoolView, ApiError> {
    let chosen = app.store.school()?;
    Ok(SchoolView { school: chosen.school, changed_at: chosen.changed_at })
}

/// `GET /school`, for instructors.
#[utoipa::path(get, path = "/api/v1/school", responses((status = 200, body = SchoolView), (status = 401, body = Problem)))]
#[get("/school")]
pub async fn show_school(app: web::Data<App>, _desk: Desk) -> Result<web::Json<SchoolView>, ApiError> {
    Ok(web::Json(blocking(&app, view).await?))
}

/// `PUT /school`, for instructors: chooses for runs to come; those that are open keep what they were opened with.
#[utoipa::path(put, path = "/api/v1/school", request_body = School,
    responses((status = 200, body = SchoolView), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[put("/school")]
pub async fn choose_school(
    app: web::Data<App>,
    desk: Desk,
    school: web::Json<School>,
) -> Result<web::Json<SchoolView>, ApiError> {
    let chosen = blocking(&app, move |app| {
        school.sound().map_err(Invalid::School)?;
        app.store.choose_school(school.into_inner(), desk.actor().to_string(), app.clock.now())?;
        view(app)
    });
    Ok(web::Json(chosen.await?))
}
