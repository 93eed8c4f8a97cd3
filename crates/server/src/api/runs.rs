//! Opening and closing a run, and the code that groups join with.

use crate::access::{Desk, digits, pick};
use crate::api::shelf::{RunHead, run_head};
use crate::app::{App, blocking};
use crate::live::Change;
use crate::problem::{ApiError, Problem};
use actix_web::http::header::HOST;
use actix_web::{HttpRequest, HttpResponse, get, post, put, web};
use fast_qr::convert::{Builder, Shape, svg::SvgBuilder};
use fast_qr::qr::QRBuilder;
use serde::Deserialize;
use std::collections::BTreeSet;
use store::{NewRun, StoreError};
use utoipa::ToSchema;

/// Short words that are easily told apart over the noise of a laboratory.
const WORDS: &[&str] = &[
    "TARN", "MOSS", "FERN", "SLATE", "CLIFF", "DUNE", "REEF", "GROVE", "HEATH", "BROOK", "CAIRN", "DELTA", "FJORD",
    "GLEN", "INLET", "KNOLL", "LAGOON", "MARSH", "OASIS", "PLAIN", "QUARRY", "RIDGE", "SHORE", "TUNDRA", "VALE",
    "WOLD", "BEACON", "CANYON", "EMBER", "HARBOUR", "MEADOW", "SUMMIT",
];

const MOST_GROUPS: usize = 40;

/// A run to be opened.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct OpenRun {
    /// Id of the practical.
    practical: String,
    /// Name of the class.
    class: String,
    /// Names of the groups, in bench order.
    groups: Vec<String>,
}

/// Whether a run is closed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Closed {
    /// Closed to new entries.
    closed: bool,
}

/// `POST /runs`, for instructors: opens a run of the newest version.
#[utoipa::path(post, path = "/api/v1/runs", request_body = OpenRun,
    responses((status = 201, body = RunHead), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/runs")]
pub async fn open(app: web::Data<App>, desk: Desk, body: web::Json<OpenRun>) -> Result<HttpResponse, ApiError> {
    let OpenRun { practical, class, groups } = body.into_inner();
    let class = named(&class, "a class")?;
    let names: Vec<String> = groups.iter().map(|g| named(g, "a group")).collect::<Result<_, _>>()?;
    if names.is_empty() || names.len() > MOST_GROUPS {
        return Err(ApiError::Invalid(format!("a run has 1 to {MOST_GROUPS} groups")));
    }
    if let Some(twice) = names.iter().enumerate().find(|(i, n)| names[..*i].contains(n)) {
        return Err(ApiError::Invalid(format!("two groups are called '{}'", twice.1)));
    }
    let head = blocking(&app, move |app| {
        let all = app.store.practicals()?;
        let version = all.iter().find(|v| v.id == practical).ok_or(ApiError::NotFound("practical"))?;
        let taken: BTreeSet<String> = app.store.runs()?.into_iter().map(|r| r.code).collect();
        let groups = names.into_iter().map(|n| Ok((n, digits(4)?))).collect::<Result<_, ApiError>>()?;
        let run = app.store.open_run(NewRun {
            practical: version.id.clone(),
            version: version.version,
            class,
            owner: desk.person.id,
            code: free_code(&taken)?,
            groups,
            now: app.clock.now(),
        })?;
        run_head(app, &run)
    })
    .await?;
    Ok(HttpResponse::Created().json(head))
}

/// `PUT /runs/{run}/closed`, for instructors.
#[utoipa::path(put, path = "/api/v1/runs/{run}/closed", params(("run" = i64, Path)), request_body = Closed,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[put("/runs/{run}/closed")]
pub async fn set_closed(
    app: web::Data<App>,
    desk: Desk,
    run: web::Path<i64>,
    body: web::Json<Closed>,
) -> Result<HttpResponse, ApiError> {
    let closed = body.closed;
    blocking(&app, move |app| {
        app.store.set_closed(*run, closed, desk.actor(), app.clock.now())?;
        app.live.tell(*run, Change { group: None });
        Ok(())
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// `GET /runs/{run}/join.svg`, for instructors: the address that groups open, as a QR code.
#[get("/runs/{run}/join.svg")]
pub async fn join_code(
    app: web::Data<App>,
    request: HttpRequest,
    _desk: Desk,
    run: web::Path<i64>,
) -> Result<HttpResponse, ApiError> {
    let host = request.headers().get(HOST).and_then(|h| h.to_str().ok()).unwrap_or_default().to_owned();
    let svg = blocking(&app, move |app| {
        let address = join_address(app, &host, &app.store.run(*run)?.code);
        let code =
            QRBuilder::new(address).build().map_err(|e| ApiError::Internal(anyhow::anyhow!("qr code: {e:?}")))?;
        Ok(SvgBuilder::default().shape(Shape::Square).background_color([255, 255, 255, 0]).to_str(&code))
    })
    .await?;
    Ok(HttpResponse::Ok().content_type("image/svg+xml").body(svg))
}

/// The address that a group opens to join.
pub fn join_address(app: &App, host: &str, code: &str) -> String {
    let base = app.public_url.clone().unwrap_or_else(|| format!("http://{host}"));
    format!("{base}/join/{}", code.replace(' ', "-"))
}

fn named(text: &str, what: &str) -> Result<String, ApiError> {
    let name = text.split_whitespace().collect::<Vec<_>>().join(" ");
    let plain = name.chars().all(|c| !c.is_control());
    if name.is_empty() || name.chars().count() > 40 || !plain {
        return Err(ApiError::Invalid(format!("the name of {what} has 1 to 40 characters")));
    }
    Ok(name)
}

/// A word and two digits that no run has.
fn free_code(taken: &BTreeSet<String>) -> Result<String, ApiError> {
    for _ in 0..200 {
        let code = format!("{} {}", WORDS[pick(WORDS.len())?], 10 + pick(90)?);
        if !taken.contains(&code) {
            return Ok(code);
        }
    }
    Err(ApiError::Conflict(StoreError::NotFound("free join code")))
}
