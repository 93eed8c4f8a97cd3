//! Sessions: an instructor's desk and a group's bench, each behind its own cookie.

use crate::access::{Token, is_secure};
use crate::app::{App, blocking};
use crate::problem::ApiError;
use actix_web::cookie::{Cookie, SameSite, time::Duration};
use actix_web::dev::Payload;
use actix_web::http::Method;
use actix_web::{FromRequest, HttpRequest, web};
use lab::bench::Actor;
use lab::roll::AccountRole;
use std::collections::BTreeSet;
use std::future::Future;
use std::pin::Pin;
use store::{Group, Holder, Person, Run, Session};

/// What a cookie opens.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Role {
    /// An instructor's desk.
    Desk,
    /// A group's bench.
    Bench,
}

impl Role {
    /// The name of its cookie. Over TLS it has another one, which a plain connection can neither read nor set.
    fn cookie(self, secure: bool) -> &'static str {
        match (self, secure) {
            (Role::Desk, false) => "kb_desk",
            (Role::Desk, true) => "__Host-kb_desk",
            (Role::Bench, false) => "kb_bench",
            (Role::Bench, true) => "__Host-kb_bench",
        }
    }

    /// What somebody is told who has no session for it.
    pub fn unknown(self) -> ApiError {
        ApiError::NotSignedIn(match self {
            Role::Desk => "sign in with your passphrase",
            Role::Bench => "this device belongs to no group: join with the code on the board",
        })
    }
}

/// Somebody signed in with an account, instructor or technician.
pub struct Staff {
    /// Who.
    pub person: Person,
    /// What at.
    pub role: AccountRole,
}

/// The same with a run that is theirs to prepare: of an instructor's own or shared classes, of all classes for a technician.
pub struct StaffRun {
    /// Who.
    pub person: Person,
    /// The run.
    pub run: Run,
}

/// A signed-in instructor.
pub struct Desk {
    /// Who.
    pub person: Person,
}

/// A signed-in instructor with a run of a class that is the instructor's own, or shared: the `{run}` of the address.
pub struct DeskRun {
    /// Who.
    pub person: Person,
    /// The run.
    pub run: Run,
}

/// Whoever may practise.
pub enum Practising {
    /// Somebody with an account.
    Staff,
    /// A device of a group of this run.
    Group(Box<Run>),
}

/// A device of one group.
pub struct Bench {
    /// The device's session.
    pub session: Session,
    /// The group that it was claimed for.
    pub own: Group,
    /// The group at whose bench it is: its own, or the one that its own goes on at.
    pub group: Group,
    /// Its run.
    pub run: Run,
}

impl Staff {
    /// Which runs are theirs to prepare.
    pub fn prepares(&self, app: &App) -> Result<impl Fn(&Run) -> bool + use<>, ApiError> {
        let own: BTreeSet<i64> = app.store.classes(self.person.id)?.iter().map(|k| k.id).collect();
        let all = self.role == AccountRole::Technician;
        Ok(move |run: &Run| all || own.contains(&run.class_id))
    }
}

impl Desk {
    /// How events name this person.
    pub fn actor(&self) -> Actor {
        Actor::Person(self.person.id)
    }
}

impl DeskRun {
    /// How events name this person.
    pub fn actor(&self) -> Actor {
        Actor::Person(self.person.id)
    }

    /// A group of this run.
    pub fn group(&self, app: &App, id: i64) -> Result<Group, ApiError> {
        let group = app.store.group(id)?;
        if group.run == self.run.id { Ok(group) } else { Err(ApiError::NotFound("group")) }
    }
}

impl Bench {
    /// How events name this device.
    pub fn actor(&self) -> Actor {
        Actor::Device(self.session.id)
    }
}

type Extracted<T> = Pin<Box<dyn Future<Output = Result<T, ApiError>>>>;

impl FromRequest for Staff {
    type Error = ApiError;
    type Future = Extracted<Staff>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let (app, asks) = (app_of(request), Asks::of(request));
        Box::pin(async move { blocking(&app?, move |app| signed_in(app, asks)).await })
    }
}

impl FromRequest for StaffRun {
    type Error = ApiError;
    type Future = Extracted<StaffRun>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let (app, asks) = (app_of(request), Asks::of(request));
        let run = run_of(request);
        Box::pin(async move {
            blocking(&app?, move |app| {
                let Staff { person, role } = signed_in(app, asks)?;
                let run = run.ok_or(ApiError::NotFound("run"))?;
                if role != AccountRole::Technician && !app.store.may_see(person.id, run)? {
                    return Err(ApiError::NotFound("run"));
                }
                Ok(StaffRun { person, run: app.store.run(run)? })
            })
            .await
        })
    }
}

impl FromRequest for Desk {
    type Error = ApiError;
    type Future = Extracted<Desk>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let (app, asks) = (app_of(request), Asks::of(request));
        Box::pin(async move { blocking(&app?, move |app| Ok(Desk { person: instructor(app, asks)? })).await })
    }
}

impl FromRequest for DeskRun {
    type Error = ApiError;
    type Future = Extracted<DeskRun>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let (app, asks) = (app_of(request), Asks::of(request));
        let run = run_of(request);
        Box::pin(async move {
            blocking(&app?, move |app| {
                let person = instructor(app, asks)?;
                let run = run.ok_or(ApiError::NotFound("run"))?;
                // A run of somebody else's class is not there at all.
                if !app.store.may_see(person.id, run)? {
                    return Err(ApiError::NotFound("run"));
                }
                Ok(DeskRun { person, run: app.store.run(run)? })
            })
            .await
        })
    }
}

/// The session of a token, while it holds.
fn session_of(app: &App, token: Option<String>) -> Result<Option<Session>, ApiError> {
    let Some(hash) = token.map(|token| Token::hash(&token)) else { return Ok(None) };
    let session = app.store.session(hash, app.clock.now())?;
    if session.is_some() {
        app.limits.learn(hash);
    }
    Ok(session)
}

/// What somebody with an account asks.
struct Asks {
    token: Option<String>,
    /// It may change something that is not the asker's own.
    changes: bool,
}

/// What a reader sends as well: questions, and what is the reader's own.
const READERS_SEND: [&str; 4] = ["/compute", "/passphrase", "/accounts/mine/elsewhere", "/practice"];

impl Asks {
    fn of(request: &HttpRequest) -> Asks {
        let path = request.path().strip_prefix("/api/v1").unwrap_or_default();
        let looks = matches!(*request.method(), Method::GET | Method::HEAD);
        let changes = !looks && !READERS_SEND.iter().any(|own| path.starts_with(own));
        Asks { token: token_of(request, Role::Desk), changes }
    }
}

fn signed_in(app: &App, asks: Asks) -> Result<Staff, ApiError> {
    let refused = || Role::Desk.unknown();
    match session_of(app, asks.token)?.map(|s| s.holder) {
        Some(Holder::Person(id)) => {
            let role = app.store.role(id)?;
            if role == AccountRole::Reader && asks.changes {
                return Err(ApiError::NotAllowed("your account can read what is shared with it, and change nothing"));
            }
            Ok(Staff { person: app.store.person(id)?, role })
        }
        Some(Holder::Group(_)) | None => Err(refused()),
    }
}

fn instructor(app: &App, asks: Asks) -> Result<Person, ApiError> {
    let Staff { person, role } = signed_in(app, asks)?;
    match role {
        AccountRole::Instructor | AccountRole::Reader => Ok(person),
        AccountRole::Technician => Err(ApiError::NotAllowed("this is for instructors: technicians prepare")),
    }
}

fn run_of(request: &HttpRequest) -> Option<i64> {
    request.match_info().get("run")?.parse().ok()
}

impl FromRequest for Practising {
    type Error = ApiError;
    type Future = Extracted<Practising>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let (staff, bench) = (Staff::from_request(request, payload), Bench::from_request(request, payload));
        Box::pin(async move {
            if staff.await.is_ok() {
                return Ok(Practising::Staff);
            }
            match bench.await {
                Ok(bench) => Ok(Practising::Group(Box::new(bench.run))),
                Err(ApiError::NotSignedIn(_)) => {
                    Err(ApiError::NotSignedIn("sign in, or join with the code on the board, to practise"))
                }
                Err(other) => Err(other),
            }
        })
    }
}

impl FromRequest for Bench {
    type Error = ApiError;
    type Future = Extracted<Bench>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let (app, token) = (app_of(request), token_of(request, Role::Bench));
        Box::pin(async move {
            blocking(&app?, move |app| {
                let refused = || Role::Bench.unknown();
                let session = session_of(app, token)?.ok_or_else(refused)?;
                let Holder::Group(group) = session.holder else { return Err(refused()) };
                let own = app.store.group(group)?;
                let group = match own.merged_into {
                    Some(other) => app.store.group(other)?,
                    None => own.clone(),
                };
                let run = app.store.run(own.run)?;
                Ok(Bench { session, own, group, run })
            })
            .await
        })
    }
}

/// The school that a request is for.
pub fn app_of(request: &HttpRequest) -> Result<web::Data<App>, ApiError> {
    let app = request.app_data::<web::Data<App>>().cloned();
    app.ok_or_else(|| ApiError::Internal(anyhow::anyhow!("the application is not there")))
}

/// The token that a request carries for this role.
pub fn token_of(request: &HttpRequest, role: Role) -> Option<String> {
    Some(request.cookie(role.cookie(is_secure(request)))?.value().to_owned())
}

/// A cookie that scripts cannot read and other sites cannot send.
pub fn cookie(request: &HttpRequest, role: Role, token: Token, seconds: i64) -> Cookie<'static> {
    let secure = is_secure(request);
    Cookie::build(role.cookie(secure), token.0)
        .path("/")
        .http_only(true)
        .secure(secure)
        .same_site(SameSite::Strict)
        .max_age(Duration::seconds(seconds))
        .finish()
}

/// The cookie that takes another one away.
pub fn ended(request: &HttpRequest, role: Role) -> Cookie<'static> {
    cookie(request, role, Token(String::new()), 0)
}
