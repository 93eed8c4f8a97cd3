//! Beginning a practical from what it is to find: what is asked, what is proposed with our room's instruments, what follows.

use crate::access::Desk;
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{post, web};
use begin::{Aim, Begun, Field};
use lab::plan::Plan;
use practical::file::File;
use practical::{Told, check};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// What is to be found, and what was answered so far.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ToBegin {
    /// What is to be found.
    aim: Aim,
    /// By what is asked; what is left out is proposed.
    #[serde(default)]
    answers: BTreeMap<Field, String>,
}

/// What is asked, and what would come of it.
#[derive(Debug, Serialize, ToSchema)]
pub struct BegunView {
    /// What is asked, with proposals; the whole file once everything needed is answered.
    #[serde(flatten)]
    begun: Begun,
    /// Its shape, to be read before it is begun.
    file: Option<File>,
    /// What follows from it, as it would stand on Plan.
    plan: Option<Plan>,
    /// What is wrong with the file.
    problems: Vec<Told>,
}

/// What comes of these answers with the instruments of our room.
pub fn begun(app: &App, aim: Aim, answers: &BTreeMap<Field, String>) -> Result<Begun, ApiError> {
    let room = app.store.room()?;
    Ok(begin::begin(aim, answers, &room.instruments))
}

/// `POST /practicals/begun`, for instructors: what is asked for a practical that finds something, and what would come of it.
/// Nothing is kept.
#[utoipa::path(post, path = "/api/v1/practicals/begun", request_body = ToBegin,
    responses((status = 200, body = BegunView), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[post("/begun")]
pub async fn ask_to_begin(
    app: web::Data<App>,
    _desk: Desk,
    body: web::Json<ToBegin>,
) -> Result<web::Json<BegunView>, ApiError> {
    let view = blocking(&app, move |app| {
        let begun = begun(app, body.aim, &body.answers)?;
        let school = app.store.school()?.school;
        let checked = begun.text.as_deref().map(|text| check(text, &school));
        Ok(BegunView {
            plan: checked.as_ref().and_then(|c| c.practical.as_ref()).map(lab::plan::plan),
            file: checked.as_ref().and_then(|c| c.file.clone()),
            problems: checked.iter().flat_map(|c| &c.errors).map(Told::from).collect(),
            begun,
        })
    })
    .await?;
    Ok(web::Json(view))
}
