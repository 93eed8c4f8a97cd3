//! Signing in and out, and the first account.

use crate::access::{
    BENCH_COOKIE, Bench, DESK_COOKIE, Desk, Limit, Token, cookie, ended, from_this_machine, hash_passphrase,
    passphrase_is_right,
};
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{HttpRequest, HttpResponse, delete, get, post, web};
use serde::{Deserialize, Serialize};
use store::Holder;
use utoipa::ToSchema;

/// A desk stays signed in for a working day.
const DESK_SECONDS: i64 = 12 * 3600;

/// Who is looking.
#[derive(Debug, Serialize, ToSchema)]
pub struct SessionView {
    /// Name of the signed-in instructor.
    instructor: Option<String>,
    /// Name of the group that this device belongs to.
    group: Option<String>,
    /// Nobody has an account yet.
    new: bool,
    /// The first account can be made from here without the console's token.
    this_machine: bool,
    /// The server's time, ms.
    now: i64,
}

/// The first account.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewAccount {
    /// How the instructor is called.
    name: String,
    /// At least ten characters.
    passphrase: String,
    /// The token printed on the server's console; needed from another machine.
    #[serde(default)]
    token: Option<String>,
}

/// A sign-in.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SignIn {
    /// The instructor's.
    passphrase: String,
}

/// `GET /session`, for anybody: who is looking.
#[utoipa::path(get, path = "/api/v1/session", responses((status = 200, body = SessionView)))]
#[get("/session")]
pub async fn who(
    app: web::Data<App>,
    request: HttpRequest,
    desk: Result<Desk, ApiError>,
    bench: Result<Bench, ApiError>,
) -> Result<web::Json<SessionView>, ApiError> {
    let this_machine = from_this_machine(&request);
    let (new, now) = blocking(&app, |app| Ok((app.store.is_new()?, app.clock.now()))).await?;
    Ok(web::Json(SessionView {
        instructor: desk.ok().map(|d| d.person.name),
        group: bench.ok().map(|b| b.group.name),
        new,
        this_machine,
        now,
    }))
}

/// `POST /accounts`: the first account, from the machine itself or with the console's token.
#[utoipa::path(post, path = "/api/v1/accounts", request_body = NewAccount,
    responses((status = 204), (status = 403, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("/accounts")]
pub async fn create_first_account(
    app: web::Data<App>,
    request: HttpRequest,
    body: web::Json<NewAccount>,
) -> Result<HttpResponse, ApiError> {
    let NewAccount { name, passphrase, token } = body.into_inner();
    app.limits.count(Limit::Secret, &address(&request))?;
    let known = token.is_some() && token == app.console_token;
    if !known && !from_this_machine(&request) {
        return Err(ApiError::NotAllowed(
            "the first account is made on the server's own machine, or with the token printed on its console",
        ));
    }
    let name = name.trim().to_owned();
    if name.is_empty() || name.chars().count() > 80 {
        return Err(ApiError::Invalid("a name has 1 to 80 characters".into()));
    }
    if !(10..=200).contains(&passphrase.chars().count()) {
        return Err(ApiError::Invalid("a passphrase has 10 to 200 characters; four words do well".into()));
    }
    blocking(&app, move |app| {
        let hash = hash_passphrase(&passphrase)?;
        app.store.create_first_account(name, hash, app.clock.now())?;
        Ok(())
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// `POST /session`: signs an instructor in.
#[utoipa::path(post, path = "/api/v1/session", request_body = SignIn,
    responses((status = 204), (status = 403, body = Problem), (status = 429, body = Problem)))]
#[post("/session")]
pub async fn sign_in(
    app: web::Data<App>,
    request: HttpRequest,
    body: web::Json<SignIn>,
) -> Result<HttpResponse, ApiError> {
    app.limits.count(Limit::Secret, &address(&request))?;
    let passphrase = body.into_inner().passphrase;
    let token = blocking(&app, move |app| {
        let accounts = app.store.accounts()?;
        let found = accounts.into_iter().find(|(_, kept)| passphrase_is_right(&passphrase, kept));
        let (person, _) = found.ok_or(ApiError::NotAllowed("this is not the passphrase of any instructor here"))?;
        let token = Token::fresh()?;
        let now = app.clock.now();
        let expires = now + DESK_SECONDS * 1000;
        app.store.open_session(Token::hash(&token.0), Holder::Person(person.id), now, expires)?;
        Ok(token)
    })
    .await?;
    Ok(HttpResponse::NoContent().cookie(cookie(DESK_COOKIE, token, DESK_SECONDS)).finish())
}

/// `DELETE /session`: signs out, desk and bench.
#[utoipa::path(delete, path = "/api/v1/session", responses((status = 204)))]
#[delete("/session")]
pub async fn sign_out(app: web::Data<App>, request: HttpRequest) -> Result<HttpResponse, ApiError> {
    let tokens: Vec<String> =
        [DESK_COOKIE, BENCH_COOKIE].iter().filter_map(|c| request.cookie(c)).map(|c| c.value().to_owned()).collect();
    blocking(&app, move |app| {
        tokens.iter().try_for_each(|t| app.store.end_session(Token::hash(t)))?;
        Ok(())
    })
    .await?;
    Ok(HttpResponse::NoContent().cookie(ended(DESK_COOKIE)).cookie(ended(BENCH_COOKIE)).finish())
}

/// Whose tries are counted together: one address.
pub fn address(request: &HttpRequest) -> String {
    request.peer_addr().map_or_else(String::new, |a| a.ip().to_string())
}
