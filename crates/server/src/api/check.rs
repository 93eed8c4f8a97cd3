//! Checking the groups' sums.

use crate::access::Desk;
use crate::api::board::{self, Row};
use crate::api::plan::{ReadingSpec, ResultSpec, result_specs};
use crate::api::shelf::{RunHead, run_head};
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{get, web};
use serde::Serialize;
use sheet::Line;
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// All answers of a run beside the recomputed values.
#[derive(Debug, Serialize, ToSchema)]
pub struct CheckView {
    /// The run.
    run: RunHead,
    /// Results that groups were asked for.
    results: Vec<ResultSpec>,
    /// One for each group, in bench order: answers, verdicts, recomputed values.
    rows: Vec<Row>,
    /// The server's time, ms.
    now: i64,
}

/// The worked solution of one result from one group's own readings.
#[derive(Debug, Serialize, ToSchema)]
pub struct WorkedView {
    /// The definitions that it hangs on, in order, itself last.
    lines: Vec<Line>,
    /// What each definition is called in words.
    labels: BTreeMap<String, String>,
    /// The readings it comes from.
    readings: Vec<ReadingSpec>,
}

/// `GET /runs/{run}/check`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/check", params(("run" = i64, Path)),
    responses((status = 200, body = CheckView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/check")]
pub async fn show_check(
    app: web::Data<App>,
    _desk: Desk,
    run: web::Path<i64>,
) -> Result<web::Json<CheckView>, ApiError> {
    let view = blocking(&app, move |app| {
        let run = app.store.run(*run)?;
        let practical = app.practical_of(&run)?;
        Ok(CheckView {
            results: result_specs(&practical).into_iter().filter(|r| r.asked).collect(),
            rows: board::rows(app, &run)?,
            run: run_head(app, &run)?,
            now: app.clock.now(),
        })
    })
    .await?;
    Ok(web::Json(view))
}

/// `GET /runs/{run}/groups/{group}/worked/{result}`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/groups/{group}/worked/{result}",
    params(("run" = i64, Path), ("group" = i64, Path), ("result" = String, Path)),
    responses((status = 200, body = WorkedView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/groups/{group}/worked/{result}")]
pub async fn show_worked(
    app: web::Data<App>,
    _desk: Desk,
    path: web::Path<(i64, i64, String)>,
) -> Result<web::Json<WorkedView>, ApiError> {
    let view = blocking(&app, move |app| {
        let (run, group, result) = path.into_inner();
        let run = app.store.run(run)?;
        let group = app.store.group(group)?;
        if group.run != run.id {
            return Err(ApiError::NotFound("group"));
        }
        let room = app.store.room_ever()?;
        let entries = app.store.bench(run.id, group.id)?.current(&room);
        let practical = app.practical_for(&run, &entries, &room)?;
        practical.result(&result).ok_or(ApiError::NotFound("result"))?;
        Ok(WorkedView {
            lines: lab::group::worked(&practical, &entries, &result),
            labels: practical.labels.clone(),
            readings: practical.slots().iter().map(|s| ReadingSpec::of(&practical, s)).collect(),
        })
    })
    .await?;
    Ok(web::Json(view))
}
