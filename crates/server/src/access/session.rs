//! Sessions: an instructor's desk and a group's bench, each behind its own cookie.

use crate::access::Token;
use crate::app::{App, blocking};
use crate::problem::ApiError;
use actix_web::cookie::{Cookie, SameSite, time::Duration};
use actix_web::dev::{Payload, ServiceRequest};
use actix_web::http::header::HOST;
use actix_web::{FromRequest, HttpRequest, web};
use std::future::Future;
use std::pin::Pin;
use store::{Group, Holder, Person, Run, Session};

/// The instructor's cookie.
pub const DESK_COOKIE: &str = "kb_desk";
/// The group device's cookie.
pub const BENCH_COOKIE: &str = "kb_bench";

/// A signed-in instructor.
pub struct Desk {
    /// Who.
    pub person: Person,
}

/// A device of one group.
pub struct Bench {
    /// The device's session.
    pub session: Session,
    /// Its group.
    pub group: Group,
    /// Its run.
    pub run: Run,
}

impl Desk {
    /// How events name this person.
    pub fn actor(&self) -> String {
        format!("person {}", self.person.id)
    }
}

impl Bench {
    /// How events name this device.
    pub fn actor(&self) -> String {
        format!("device {}", self.session.id)
    }
}

type Extracted<T> = Pin<Box<dyn Future<Output = Result<T, ApiError>>>>;

impl FromRequest for Desk {
    type Error = ApiError;
    type Future = Extracted<Desk>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let (app, token) = (app_of(request), request.cookie(DESK_COOKIE));
        Box::pin(async move {
            blocking(&app?, move |app| {
                let refused = ApiError::NotSignedIn("sign in with the instructor's passphrase");
                let token = token.ok_or(ApiError::NotSignedIn("sign in with the instructor's passphrase"))?;
                match app.store.session(Token::hash(token.value()), app.clock.now())?.map(|s| s.holder) {
                    Some(Holder::Person(id)) => Ok(Desk { person: app.store.person(id)? }),
                    Some(Holder::Group(_)) | None => Err(refused),
                }
            })
            .await
        })
    }
}

impl FromRequest for Bench {
    type Error = ApiError;
    type Future = Extracted<Bench>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let (app, token) = (app_of(request), request.cookie(BENCH_COOKIE));
        Box::pin(async move {
            blocking(&app?, move |app| {
                let refused =
                    || ApiError::NotSignedIn("this device belongs to no group: join with the code on the board");
                let token = token.ok_or_else(refused)?;
                let session = app.store.session(Token::hash(token.value()), app.clock.now())?.ok_or_else(refused)?;
                let Holder::Group(group) = session.holder else { return Err(refused()) };
                let group = app.store.group(group)?;
                let run = app.store.run(group.run)?;
                Ok(Bench { session, group, run })
            })
            .await
        })
    }
}

fn app_of(request: &HttpRequest) -> Result<web::Data<App>, ApiError> {
    let app = request.app_data::<web::Data<App>>().cloned();
    app.ok_or_else(|| ApiError::Internal(anyhow::anyhow!("the application is not there")))
}

/// A cookie that scripts cannot read and other sites cannot send.
pub fn cookie(name: &'static str, token: Token, seconds: i64) -> Cookie<'static> {
    Cookie::build(name, token.0)
        .path("/")
        .http_only(true)
        .same_site(SameSite::Strict)
        .max_age(Duration::seconds(seconds))
        .finish()
}

/// The cookie that takes another one away.
pub fn ended(name: &'static str) -> Cookie<'static> {
    Cookie::build(name, "").path("/").http_only(true).same_site(SameSite::Strict).max_age(Duration::ZERO).finish()
}

/// Who is asking, for counting: the device's cookie where there is one, else its address.
pub fn device_of(request: &ServiceRequest) -> String {
    let token = request.cookie(BENCH_COOKIE).or_else(|| request.cookie(DESK_COOKIE));
    match token {
        // Only the beginning, and only in memory: enough to tell devices apart.
        Some(token) => token.value().chars().take(12).collect(),
        None => request.peer_addr().map_or_else(String::new, |a| a.ip().to_string()),
    }
}

/// Whether the request comes from this very machine, addressed as such (a page that only resolves to it does not).
pub fn from_this_machine(request: &HttpRequest) -> bool {
    let host = request.headers().get(HOST).and_then(|h| h.to_str().ok()).unwrap_or_default();
    let name = host.rsplit_once(':').map_or(host, |(name, _)| name);
    let addressed = matches!(name, "localhost" | "127.0.0.1" | "[::1]");
    addressed && request.peer_addr().is_some_and(|a| a.ip().is_loopback())
}
