//! Accounts of colleagues: where they are signed in, another passphrase for who forgot it, an end.

use crate::access::{Desk, Limit, Role, Staff, Token, token_of, written_address};
use crate::api::session::is_long_enough;
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{HttpRequest, HttpResponse, delete, get, put, web};
use lab::roll::AccountRole;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A desk that somebody is signed in at.
#[derive(Debug, Serialize, ToSchema)]
pub struct SignedInView {
    /// Browser, system, address.
    place: String,
    /// In ms.
    since: i64,
    /// The one that asks.
    here: bool,
}

/// An account at one look.
#[derive(Debug, Serialize, ToSchema)]
pub struct AccountView {
    /// Id of the person.
    id: i64,
    /// Name.
    name: String,
    /// What they work at.
    role: AccountRole,
    /// Looks after the school's record: the first account.
    keeper: bool,
    /// Desks that it is signed in at; one's own, or all for the keeper.
    signed_in: Vec<SignedInView>,
}

/// All accounts.
#[derive(Debug, Serialize, ToSchema)]
pub struct AccountsView {
    /// In the order in which they were made.
    accounts: Vec<AccountView>,
    /// Who is looking.
    me: i64,
}

/// A passphrase for somebody else.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewPassphrase {
    /// At least ten characters.
    passphrase: String,
}

/// `GET /accounts`, for whoever has one.
#[utoipa::path(get, path = "/api/v1/accounts", responses((status = 200, body = AccountsView), (status = 401, body = Problem)))]
#[get("/accounts")]
pub async fn show_accounts(
    app: web::Data<App>,
    request: HttpRequest,
    staff: Staff,
) -> Result<web::Json<AccountsView>, ApiError> {
    let token = token_of(&request, Role::Desk);
    let view = blocking(&app, move |app| {
        let (me, now, keeper) = (staff.person.id, app.clock.now(), app.store.keeper()?);
        let here = token.map(|t| app.store.session(Token::hash(&t), now)).transpose()?.flatten().map(|s| s.id);
        let account = |(person, _): (store::Person, String)| {
            let mine = person.id == me || keeper == Some(me);
            let signed_in = if mine { app.store.signed_in(person.id, now)? } else { Vec::new() };
            Ok(AccountView {
                role: app.store.role(person.id)?,
                keeper: keeper == Some(person.id),
                signed_in: signed_in
                    .into_iter()
                    .map(|s| SignedInView { here: Some(s.session) == here, place: s.place, since: s.since })
                    .collect(),
                id: person.id,
                name: person.name,
            })
        };
        let accounts = app.store.accounts()?.into_iter().map(account).collect::<Result<_, ApiError>>()?;
        Ok(AccountsView { accounts, me })
    });
    Ok(web::Json(view.await?))
}

/// `DELETE /accounts/mine/elsewhere`, for whoever has one: signs all other devices out.
#[utoipa::path(delete, path = "/api/v1/accounts/mine/elsewhere", responses((status = 204), (status = 401, body = Problem)))]
#[delete("/accounts/mine/elsewhere")]
pub async fn sign_out_elsewhere(
    app: web::Data<App>,
    request: HttpRequest,
    staff: Staff,
) -> Result<HttpResponse, ApiError> {
    let token = token_of(&request, Role::Desk);
    blocking(&app, move |app| {
        let here = token.map(|t| app.store.session(Token::hash(&t), app.clock.now())).transpose()?.flatten();
        app.store.sign_out_others(staff.person.id, here.map_or(0, |s| s.id))?;
        Ok(())
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// `PUT /accounts/{person}/passphrase`, for the keeper: another one for who forgot theirs. All their devices are signed out.
#[utoipa::path(put, path = "/api/v1/accounts/{person}/passphrase", params(("person" = i64, Path)), request_body = NewPassphrase,
    responses((status = 204), (status = 401, body = Problem), (status = 403, body = Problem), (status = 404, body = Problem),
        (status = 422, body = Problem)))]
#[put("/accounts/{person}/passphrase")]
pub async fn reset_passphrase(
    app: web::Data<App>,
    request: HttpRequest,
    desk: Desk,
    person: web::Path<i64>,
    body: web::Json<NewPassphrase>,
) -> Result<HttpResponse, ApiError> {
    app.limits.count(Limit::Secret, &written_address(&request))?;
    blocking(&app, move |app| is_keeper(app, &desk)).await?;
    is_long_enough(&body.passphrase)?;
    let hash = app.passphrases.hash(body.into_inner().passphrase).await?;
    blocking(&app, move |app| Ok(app.store.set_passphrase(*person, hash)?)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// `DELETE /accounts/{person}`, for the keeper: closes it. Its classes go to the keeper.
#[utoipa::path(delete, path = "/api/v1/accounts/{person}", params(("person" = i64, Path)),
    responses((status = 204), (status = 401, body = Problem), (status = 403, body = Problem), (status = 404, body = Problem),
        (status = 409, body = Problem)))]
#[delete("/accounts/{person}")]
pub async fn close_account(app: web::Data<App>, desk: Desk, person: web::Path<i64>) -> Result<HttpResponse, ApiError> {
    blocking(&app, move |app| {
        is_keeper(app, &desk)?;
        if *person == desk.person.id {
            return Err(ApiError::NotAllowed("the first account is not closed: somebody looks after the record"));
        }
        Ok(app.store.close_account(*person, desk.person.id)?)
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Refuses whoever does not look after the record.
pub fn is_keeper(app: &App, desk: &Desk) -> Result<(), ApiError> {
    if app.store.keeper()? == Some(desk.person.id) {
        return Ok(());
    }
    Err(ApiError::NotAllowed("this is for the first account, which looks after the record"))
}
