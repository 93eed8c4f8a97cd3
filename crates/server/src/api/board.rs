//! The board: groups by readings and results, recomputed from what was entered.

use crate::access::{DeskRun, host_of};
use crate::api::views::{
    Named, ReadingSpec, ResultSpec, Row, RunHead, join_address, named_materials, result_specs, rows, run_head,
};
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{HttpRequest, get, web};
use practical::file::{AnswersOf, Observation, Role};
use serde::Serialize;
use utoipa::ToSchema;

/// A class at work.
#[derive(Debug, Serialize, ToSchema)]
pub struct Board {
    /// The run.
    pub run: RunHead,
    /// In bench order.
    pub readings: Vec<ReadingSpec>,
    /// In order.
    pub results: Vec<ResultSpec>,
    /// In bench order.
    pub observations: Vec<Observation>,
    /// Symbols and names of the materials.
    pub materials: Vec<Named>,
    /// What is made.
    pub products: Vec<Named>,
    /// Titles of the steps, in order.
    pub steps: Vec<String>,
    /// One for each group, in bench order.
    pub rows: Vec<Row>,
    /// The address that groups open to join.
    pub join_address: String,
    /// Whose answers are asked for.
    pub answers_of: AnswersOf,
    /// The last event that is in here.
    pub seq: i64,
    /// The server's time, ms.
    pub now: i64,
}

/// `GET /runs/{run}/board`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/board", params(("run" = i64, Path)),
    responses((status = 200, body = Board), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/board")]
pub async fn show_board(
    app: web::Data<App>,
    request: HttpRequest,
    desk: DeskRun,
) -> Result<web::Json<Board>, ApiError> {
    let host = host_of(&request).to_owned();
    let board = blocking(&app, move |app| {
        let run = desk.run;
        let practical = app.practical_of(&run)?;
        // The number first: a row may then be newer than it says, never older.
        let seq = app.store.last_seq(run.id)?;
        let rows = rows(app, &run)?;
        Ok(Board {
            readings: practical.slots().iter().map(|s| ReadingSpec::of(&practical, s)).collect(),
            results: result_specs(&practical),
            observations: practical.observations.clone(),
            products: named_materials(practical.materials.iter().filter(|m| m.role == Role::Product)),
            materials: named_materials(practical.materials.iter()),
            steps: practical.steps.iter().map(|s| s.title.clone()).collect(),
            join_address: join_address(app, &host, &run.code),
            answers_of: practical.file.feedback.answers_of,
            now: app.now_in(&run),
            run: run_head(app, &run, &rows.iter().collect::<Vec<_>>())?,
            rows,
            seq,
        })
    })
    .await?;
    Ok(web::Json(board))
}
