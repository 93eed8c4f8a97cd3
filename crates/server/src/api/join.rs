//! How a device comes to its group: the code on the board, then the group; a second device needs the group's PIN.

use crate::access::{Limit, Role, Token, cookie, ended, token_of, written_address};
use crate::api::session::place_of;
use crate::app::{App, blocking};
use crate::live::Change;
use crate::problem::{ApiError, Problem};
use actix_web::{HttpRequest, HttpResponse, delete, post, web};
use serde::{Deserialize, Serialize};
use store::{Group, Holder, Run};
use utoipa::ToSchema;

/// A device stays with its group for a month: some practicals take weeks.
const BENCH_SECONDS: i64 = 30 * 24 * 3600;

/// A code as typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Code {
    /// `TARN 47`, in any spelling.
    code: String,
}

/// A run that can be joined.
#[derive(Debug, Serialize, ToSchema)]
pub struct JoinView {
    /// The code as written on the board.
    code: String,
    /// Title of the practical.
    title: String,
    /// The class.
    class: String,
    /// Closed to new entries.
    closed: bool,
    /// In bench order.
    groups: Vec<JoinGroup>,
}

/// A group that can be joined.
#[derive(Debug, Serialize, ToSchema)]
pub struct JoinGroup {
    /// Id.
    id: i64,
    /// Name.
    name: String,
    /// A device has come already: the next one needs the PIN.
    claimed: bool,
}

/// A claim.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Claim {
    /// The code on the board.
    code: String,
    /// The group.
    group: i64,
    /// The group's PIN, for a second device.
    #[serde(default)]
    pin: Option<String>,
}

/// `POST /join`, for anybody with the code: what can be joined.
#[utoipa::path(post, path = "/api/v1/join", request_body = Code,
    responses((status = 200, body = JoinView), (status = 404, body = Problem), (status = 429, body = Problem)))]
#[post("/join")]
pub async fn look_up(
    app: web::Data<App>,
    request: HttpRequest,
    body: web::Json<Code>,
) -> Result<web::Json<JoinView>, ApiError> {
    app.limits.count(Limit::Join, &written_address(&request))?;
    let view = blocking(&app, move |app| {
        let run = run_of(app, &body.code)?;
        let groups = app.store.groups(run.id)?;
        Ok(JoinView {
            title: app.practical_of(&run)?.file.title.clone(),
            closed: run.closed_at.is_some(),
            groups: groups
                .into_iter()
                .map(|g| JoinGroup { id: g.id, name: g.name, claimed: g.claimed_at.is_some() })
                .collect(),
            class: run.class,
            code: run.code,
        })
    })
    .await?;
    Ok(web::Json(view))
}

/// `POST /join/claim`, for anybody with the code: makes this device one of a group.
#[utoipa::path(post, path = "/api/v1/join/claim", request_body = Claim,
    responses((status = 204), (status = 403, body = Problem), (status = 404, body = Problem), (status = 429, body = Problem)))]
#[post("/join/claim")]
pub async fn claim(
    app: web::Data<App>,
    request: HttpRequest,
    body: web::Json<Claim>,
) -> Result<HttpResponse, ApiError> {
    let (here, place) = (written_address(&request), place_of(&request));
    app.limits.count(Limit::Join, &here)?;
    let before = token_of(&request, Role::Bench);
    let token = blocking(&app, move |app| {
        let Claim { code, group, pin } = body.into_inner();
        let run = run_of(app, &code)?;
        let group = app.store.group(group)?;
        if group.run != run.id {
            return Err(ApiError::NotFound("group"));
        }
        let now = app.clock.now();
        is_free(app, before, &group, now)?;
        // What is over is joined with a PIN alone: to send the sums from home.
        let first = run.closed_at.is_none() && group.claimed_at.is_none() && app.store.claim(group.id, now)?;
        if !first {
            knows_pin(app, &group, pin.as_deref(), &here, &place)?;
        }
        let token = Token::fresh()?;
        app.store.open_session(
            Token::hash(&token.0),
            Holder::Group(group.id),
            place,
            now,
            now + BENCH_SECONDS * 1000,
        )?;
        app.live.tell(run.id, Change { group: Some(group.id) });
        Ok(token)
    })
    .await?;
    Ok(HttpResponse::NoContent().cookie(cookie(&request, Role::Bench, token, BENCH_SECONDS)).finish())
}

/// One device, one group of a run: it leaves the one before it joins another.
fn is_free(app: &App, token: Option<String>, wanted: &Group, now: i64) -> Result<(), ApiError> {
    let session = token.map(|token| app.store.session(Token::hash(&token), now)).transpose()?.flatten();
    let Some(Holder::Group(own)) = session.map(|s| s.holder) else { return Ok(()) };
    if own != wanted.id && app.store.group(own)?.run == wanted.run {
        return Err(ApiError::NotAllowed(
            "this device belongs to another group of the class: hand it on at its bench first, under 'Hand this device on'",
        ));
    }
    Ok(())
}

/// Guesses are counted by group and place, and by group alone, so that many phones together guess no faster; the board
/// tells of them.
fn knows_pin(app: &App, group: &Group, pin: Option<&str>, here: &str, place: &str) -> Result<(), ApiError> {
    app.limits.count(Limit::Secret, &format!("{here} {}", group.id))?;
    app.limits.count(Limit::Pin, &group.id.to_string())?;
    if pin.map(str::trim) == Some(group.pin.as_str()) {
        return Ok(());
    }
    if pin.is_some() {
        app.guesses.add(group.id, place, app.clock.now());
        app.live.tell(group.run, Change { group: Some(group.id) });
    }
    if group.claimed_at.is_none() {
        return Err(ApiError::NotAllowed(
            "this run is closed: joining it needs the group's PIN, which the board shows",
        ));
    }
    Err(ApiError::NotAllowed(
        "this group has a device already; a second one needs the group's PIN, shown on the first and on the board",
    ))
}

/// `DELETE /bench/session`, for a device of a group: it belongs to no group any more. What it holds stays on it.
#[utoipa::path(delete, path = "/api/v1/bench/session", responses((status = 204)))]
#[delete("/bench/session")]
pub async fn leave(app: web::Data<App>, request: HttpRequest) -> Result<HttpResponse, ApiError> {
    let token = token_of(&request, Role::Bench);
    blocking(&app, move |app| {
        let left = token.map(|t| app.store.leave(Token::hash(&t))).transpose()?.flatten();
        if let Some(group) = left {
            app.live.tell(app.store.group(group)?.run, Change { group: Some(group) });
        }
        Ok(())
    })
    .await?;
    Ok(HttpResponse::NoContent().cookie(ended(&request, Role::Bench)).finish())
}

/// The run that a code means; case, blanks and dashes do not count.
fn run_of(app: &App, typed: &str) -> Result<Run, ApiError> {
    let plain: String = typed.chars().take(40).filter(char::is_ascii_alphanumeric).collect::<String>().to_uppercase();
    let digits = plain.find(|c: char| c.is_ascii_digit()).unwrap_or(plain.len());
    let (word, number) = plain.split_at(digits);
    let run = app.store.run_with_code(&format!("{word} {number}"));
    // Nobody sits in a class that never was.
    run.ok().filter(|r| r.rehearsal.is_none()).ok_or(ApiError::NotFound("join code"))
}
