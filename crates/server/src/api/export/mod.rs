//! A run for spreadsheets: every table in one workbook (Office Open XML or OpenDocument), or one table as text.
//!
//! Digits stay as typed, in a column beside the number; a moment is written as ISO 8601; what was typed never becomes a formula.
//! The wide table of text has a row for each group or student.

mod dialect;
mod tables;
mod wide;
mod workbook;

use crate::access::DeskRun;
use crate::api::check::sheets_of;
use crate::api::views::groups_at_work;
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::http::header::{CONTENT_DISPOSITION, ContentDisposition, DispositionParam, DispositionType};
use actix_web::{HttpResponse, get, web};
use anyhow::anyhow;
use dialect::Dialect;
use lab::record::Table;
use serde::Deserialize;

pub use dialect::safe;

const CSV: &str = "text/csv; charset=utf-8";
const XLSX: &str = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";
const ODS: &str = "application/vnd.oasis.opendocument.spreadsheet";

/// What is wanted of a workbook.
#[derive(Debug, Deserialize)]
pub struct Wanted {
    /// With the names of people.
    #[serde(default)]
    names: bool,
    /// How numbers are written where they are text.
    #[serde(default)]
    decimal: Dialect,
}

/// `GET /runs/{run}/export.csv`, for instructors: a row for each group or student.
#[utoipa::path(get, path = "/api/v1/runs/{run}/export.csv", params(("run" = i64, Path)),
    responses((status = 200, description = "a table", content_type = "text/csv", body = String), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/export.csv")]
pub async fn export_table(app: web::Data<App>, desk: DeskRun) -> Result<HttpResponse, ApiError> {
    let (name, text) = blocking(&app, move |app| {
        let run = desk.run.clone();
        let practical = app.practical_of(&run)?;
        let benches = groups_at_work(app, &run)?;
        let sheets = sheets_of(app, &desk, &benches)?;
        let text = wide::table(&practical, &benches, &sheets).map_err(|e| ApiError::Internal(anyhow!("csv: {e}")))?;
        Ok((format!("{}-run-{}.csv", run.practical, run.id), text))
    })
    .await?;
    Ok(attached(CSV, name, text))
}

/// `GET /runs/{run}/export.xlsx`, for instructors: a workbook with a sheet for each table.
#[utoipa::path(get, path = "/api/v1/runs/{run}/export.xlsx", params(("run" = i64, Path)),
    responses((status = 200, description = "a workbook", content_type = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", body = Vec<u8>), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/export.xlsx")]
pub async fn export_xlsx(
    app: web::Data<App>,
    desk: DeskRun,
    wanted: web::Query<Wanted>,
) -> Result<HttpResponse, ApiError> {
    book(app, desk, wanted.names, "xlsx", XLSX, workbook::xlsx).await
}

/// `GET /runs/{run}/export.ods`, for instructors: the same as OpenDocument.
#[utoipa::path(get, path = "/api/v1/runs/{run}/export.ods", params(("run" = i64, Path)),
    responses((status = 200, description = "a workbook", content_type = "application/vnd.oasis.opendocument.spreadsheet", body = Vec<u8>), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/export.ods")]
pub async fn export_ods(
    app: web::Data<App>,
    desk: DeskRun,
    wanted: web::Query<Wanted>,
) -> Result<HttpResponse, ApiError> {
    book(app, desk, wanted.names, "ods", ODS, workbook::ods).await
}

async fn book(
    app: web::Data<App>,
    desk: DeskRun,
    names: bool,
    ending: &'static str,
    kind: &'static str,
    written: fn(&[Table]) -> anyhow::Result<Vec<u8>>,
) -> Result<HttpResponse, ApiError> {
    let (name, bytes) = blocking(&app, move |app| {
        let bytes = written(&tables::tables(app, &desk, names)?).map_err(ApiError::Internal)?;
        Ok((format!("{}-run-{}.{ending}", desk.run.practical, desk.run.id), bytes))
    })
    .await?;
    Ok(attached(kind, name, bytes))
}

/// `GET /runs/{run}/tables/{table}.csv`, for instructors: one table, in the spreadsheet's own dialect.
#[utoipa::path(get, path = "/api/v1/runs/{run}/tables/{table}.csv", params(("run" = i64, Path), ("table" = String, Path)),
    responses((status = 200, description = "a table", content_type = "text/csv", body = String), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/tables/{table}.csv")]
pub async fn export_one(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, String)>,
    wanted: web::Query<Wanted>,
) -> Result<HttpResponse, ApiError> {
    let (_, wanted_table) = path.into_inner();
    let (name, text) = blocking(&app, move |app| {
        let all = tables::tables(app, &desk, wanted.names)?;
        let table = all.into_iter().find(|t| t.name.replace(' ', "-") == wanted_table);
        let table = table.ok_or(ApiError::NotFound("table"))?;
        let text = dialect::written(&table, wanted.decimal).map_err(|e| ApiError::Internal(anyhow!("csv: {e}")))?;
        Ok((format!("{}-run-{}-{wanted_table}.csv", desk.run.practical, desk.run.id), text))
    })
    .await?;
    Ok(attached(CSV, name, text))
}

/// A file to be downloaded.
pub fn attached(kind: &'static str, name: String, bytes: Vec<u8>) -> HttpResponse {
    let disposition = ContentDisposition {
        disposition: DispositionType::Attachment,
        parameters: vec![DispositionParam::Filename(name)],
    };
    HttpResponse::Ok().content_type(kind).insert_header((CONTENT_DISPOSITION, disposition)).body(bytes)
}
