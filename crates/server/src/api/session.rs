//! Signing in and out, and the first account.

use crate::access::{
    Bench, Desk, Limit, Role, Staff, Token, cookie, ended, from_this_machine, token_of, written_address,
};
use crate::app::{App, blocking};
use crate::clock::is_behind;
use crate::health;
use crate::invalid::Invalid;
use crate::line::one_line;
use crate::problem::{ApiError, Problem};
use actix_web::http::header::USER_AGENT;
use actix_web::{HttpRequest, HttpResponse, delete, get, post, put, web};
use lab::roll::AccountRole;
use serde::{Deserialize, Serialize};
use store::{Holder, Person};
use utoipa::ToSchema;

/// A desk stays signed in for a working day.
const DESK_SECONDS: i64 = 12 * 3600;

/// Who is looking.
#[derive(Debug, Serialize, ToSchema)]
pub struct SessionView {
    /// Name of whoever is signed in with an account.
    staff: Option<String>,
    /// What they work at.
    role: Option<AccountRole>,
    /// Name of the group that this device belongs to.
    group: Option<String>,
    /// Nobody has an account yet.
    new: bool,
    /// The first account can be made from here without the console's token.
    this_machine: bool,
    /// The server's time, ms.
    now: i64,
    /// What is wrong with the server, in words, for whoever is signed in with an account.
    troubles: Vec<String>,
    /// When the record was last written to, ms, if the machine's clock says that this is yet to come: it was set back.
    clock_behind: Option<i64>,
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

/// An account for a colleague.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewColleague {
    /// How the colleague is called.
    name: String,
    /// At least ten characters.
    passphrase: String,
    /// What they work at; an instructor if left out.
    #[serde(default)]
    role: AccountRole,
}

/// Another passphrase.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct OtherPassphrase {
    /// The one that holds.
    now: String,
    /// At least ten characters.
    new: String,
}

/// A sign-in.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SignIn {
    /// Whose, as the account is called; case does not count.
    name: String,
    /// Theirs.
    passphrase: String,
}

/// `GET /session`, for anybody: who is looking.
#[utoipa::path(get, path = "/api/v1/session", responses((status = 200, body = SessionView)))]
#[get("/session")]
pub async fn who(
    app: web::Data<App>,
    request: HttpRequest,
    staff: Result<Staff, ApiError>,
    bench: Result<Bench, ApiError>,
) -> Result<web::Json<SessionView>, ApiError> {
    let this_machine = from_this_machine(&request);
    let now = app.clock.now();
    let at_a_desk = staff.is_ok();
    let (new, last, troubles) = blocking(&app, move |app| {
        let troubles = if at_a_desk { health::troubles(app) } else { Vec::new() };
        Ok((app.store.is_new()?, app.store.last_receipt()?, troubles))
    })
    .await?;
    Ok(web::Json(SessionView {
        role: staff.as_ref().ok().map(|s| s.role),
        staff: staff.ok().map(|s| s.person.name),
        group: bench.ok().map(|b| b.group.name),
        new,
        troubles: troubles.iter().map(ToString::to_string).collect(),
        this_machine,
        now,
        clock_behind: last.filter(|last| is_behind(now, *last)),
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
    app.limits.count(Limit::Secret, &written_address(&request))?;
    let known = token.is_some() && token == app.console_token;
    if !known && !from_this_machine(&request) {
        return Err(ApiError::NotAllowed(
            "the first account is made on the server's own machine, or with the token printed on its console",
        ));
    }
    let name = sound(&name, &passphrase)?;
    let hash = app.passphrases.hash(passphrase).await?;
    blocking(&app, move |app| {
        app.store.create_first_account(name, hash, app.clock.now())?;
        Ok(())
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// `POST /colleagues`, for instructors: an account for a colleague, who sees what is shared.
#[utoipa::path(post, path = "/api/v1/colleagues", request_body = NewColleague,
    responses((status = 204), (status = 401, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("/colleagues")]
pub async fn add_colleague(
    app: web::Data<App>,
    request: HttpRequest,
    _desk: Desk,
    body: web::Json<NewColleague>,
) -> Result<HttpResponse, ApiError> {
    app.limits.count(Limit::Secret, &written_address(&request))?;
    let NewColleague { name, passphrase, role } = body.into_inner();
    let name = sound(&name, &passphrase)?;
    let hash = app.passphrases.hash(passphrase).await?;
    blocking(&app, move |app| {
        app.store.create_account(name, role, hash, app.clock.now())?;
        Ok(())
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Longest name of an instructor.
const LONGEST_NAME: usize = 80;

/// The name as it is kept.
fn sound(name: &str, passphrase: &str) -> Result<String, Invalid> {
    is_long_enough(passphrase)?;
    one_line(name, LONGEST_NAME).ok_or(Invalid::Length { what: "a name", most: LONGEST_NAME })
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
    app.limits.count(Limit::Secret, &written_address(&request))?;
    let (SignIn { name, passphrase }, place) = (body.into_inner(), place_of(&request));
    let account = blocking(&app, move |app| Ok(app.store.account_called(&name)?)).await?;
    let (person, kept) = account.unzip();
    let right = app.passphrases.is_right(passphrase, kept).await?;
    // The same words whether the name or the passphrase is wrong.
    let person = person.filter(|_| right).ok_or(ApiError::NotAllowed(
        "the name or the passphrase is wrong; the administrator can set a new passphrase for you",
    ))?;
    let token = blocking(&app, move |app| session_of(app, person.id, place)).await?;
    Ok(HttpResponse::NoContent().cookie(cookie(&request, Role::Desk, token, DESK_SECONDS)).finish())
}

/// Opens a session at the desk.
fn session_of(app: &App, person: i64, place: String) -> Result<Token, ApiError> {
    let token = Token::fresh()?;
    let now = app.clock.now();
    app.store.open_session(Token::hash(&token.0), Holder::Person(person), place, now, now + DESK_SECONDS * 1000)?;
    Ok(token)
}

/// `PUT /passphrase`, for instructors and technicians: another passphrase of one's own. Every other device is signed out.
#[utoipa::path(put, path = "/api/v1/passphrase", request_body = OtherPassphrase,
    responses((status = 204), (status = 401, body = Problem), (status = 403, body = Problem), (status = 422, body = Problem),
        (status = 429, body = Problem)))]
#[put("/passphrase")]
pub async fn change_passphrase(
    app: web::Data<App>,
    request: HttpRequest,
    staff: Staff,
    body: web::Json<OtherPassphrase>,
) -> Result<HttpResponse, ApiError> {
    app.limits.count(Limit::Secret, &written_address(&request))?;
    let OtherPassphrase { now, new } = body.into_inner();
    let place = place_of(&request);
    is_long_enough(&new)?;
    let Person { id, name } = staff.person;
    let own = blocking(&app, move |app| Ok(app.store.account_called(&name)?)).await?;
    if !app.passphrases.is_right(now, own.map(|(_, kept)| kept)).await? {
        return Err(ApiError::NotAllowed("this is not your passphrase; it is as it was"));
    }
    let hash = app.passphrases.hash(new).await?;
    let token = blocking(&app, move |app| {
        app.store.set_passphrase(id, hash)?;
        session_of(app, id, place)
    })
    .await?;
    Ok(HttpResponse::NoContent().cookie(cookie(&request, Role::Desk, token, DESK_SECONDS)).finish())
}

/// Whether a passphrase is one that may be kept.
///
/// # Errors
/// [`Invalid::Passphrase`] when it is too short, or endless.
pub fn is_long_enough(passphrase: &str) -> Result<(), Invalid> {
    if (10..=200).contains(&passphrase.chars().count()) { Ok(()) } else { Err(Invalid::Passphrase) }
}

/// `DELETE /session`: signs out, desk and bench.
#[utoipa::path(delete, path = "/api/v1/session", responses((status = 204)))]
#[delete("/session")]
pub async fn sign_out(app: web::Data<App>, request: HttpRequest) -> Result<HttpResponse, ApiError> {
    let tokens: Vec<String> =
        [Role::Desk, Role::Bench].into_iter().filter_map(|role| token_of(&request, role)).collect();
    blocking(&app, move |app| {
        tokens.iter().try_for_each(|t| app.store.end_session(Token::hash(t)))?;
        Ok(())
    })
    .await?;
    Ok(HttpResponse::NoContent().cookie(ended(&request, Role::Desk)).cookie(ended(&request, Role::Bench)).finish())
}

/// Where a request comes from, for somebody who wants to know it again: browser, system, address.
pub fn place_of(request: &HttpRequest) -> String {
    const BROWSERS: &[(&str, &str)] =
        &[("Edg/", "Edge"), ("Firefox/", "Firefox"), ("Chrome/", "Chrome"), ("Safari/", "Safari")];
    const SYSTEMS: &[(&str, &str)] = &[
        ("Windows", "Windows"),
        ("Android", "Android"),
        ("iPhone", "iPhone"),
        ("iPad", "iPad"),
        ("Mac OS", "macOS"),
        ("CrOS", "ChromeOS"),
        ("Linux", "Linux"),
    ];
    let agent = request.headers().get(USER_AGENT).and_then(|v| v.to_str().ok()).unwrap_or_default();
    let named = |of: &[(&str, &'static str)]| of.iter().find(|(sign, _)| agent.contains(sign)).map(|(_, name)| *name);
    let parts = [named(BROWSERS).map(str::to_owned), named(SYSTEMS).map(str::to_owned), Some(written_address(request))];
    parts.into_iter().flatten().filter(|p| !p.is_empty()).collect::<Vec<_>>().join(", ")
}
