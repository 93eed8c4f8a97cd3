//! What every request passes: counting, defence against forged requests, the cookie before the body, a body that comes in
//! time; and the headers of every answer.
//!
//! A request that changes something must carry a header that another site's form cannot send, and where the browser
//! says where it comes from, that must be here. Cookies are same-site as well.

use crate::access::connections::Connection;
use crate::access::session::app_of;
use crate::access::{Role, Token, address_of, asker_of, token_of};
use crate::app::{App, blocking};
use crate::problem::ApiError;
use actix_web::body::{EitherBody, MessageBody};
use actix_web::dev::{Payload, ServiceRequest, ServiceResponse};
use actix_web::error::PayloadError;
use actix_web::http::Method;
use actix_web::http::header::{HOST, ORIGIN};
use actix_web::middleware::{DefaultHeaders, Next};
use actix_web::{HttpMessage, web};
use futures_util::StreamExt;
use futures_util::stream::unfold;
use std::io::ErrorKind;
use std::time::Duration;
use tokio::time::{Instant, timeout_at};

/// The header that a request which changes something must carry.
const OURS: &str = "x-keen-beaker";

/// What may be sent without a session.
const OPEN: &[(&Method, &str)] = &[
    (&Method::POST, "/api/v1/accounts"),
    (&Method::POST, "/api/v1/session"),
    (&Method::DELETE, "/api/v1/session"),
    (&Method::POST, "/api/v1/join"),
    (&Method::POST, "/api/v1/join/claim"),
    (&Method::DELETE, "/api/v1/bench/session"),
];

/// How long a head may take.
pub const HEAD_TAKES: Duration = Duration::from_secs(10);
/// How long a body may take, and a photo or a file over a bad network.
const BODY_TAKES: Duration = Duration::from_secs(10);
const FILE_TAKES: Duration = Duration::from_secs(30);
/// A body that says that it is larger is a file.
const LARGEST_FORM: u64 = 64 * 1024;

/// Counts, checks, and passes on. A refusal is an answer like any other, with all headers.
pub async fn guard<B: MessageBody>(
    mut request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<EitherBody<B>>, actix_web::Error> {
    if let Some(connection) = request.conn_data::<Connection>() {
        connection.spoke();
    }
    let app = app_of(request.request())?;
    let answer = match let_in(&app, &mut request).await {
        Ok(()) => next.call(request).await?.map_into_left_body(),
        Err(refused) => request.error_response(refused).map_into_right_body(),
    };
    app.metrics.answered(answer.status());
    Ok(answer)
}

async fn let_in(app: &web::Data<App>, request: &mut ServiceRequest) -> Result<(), ApiError> {
    if request.path().starts_with("/api/") {
        app.limits.count_request(&asker_of(app, request.request()))?;
    } else {
        app.limits.count_page(address_of(request.request()))?;
    }
    if matches!(*request.method(), Method::GET | Method::HEAD) {
        return Ok(());
    }
    came_from_here(request)?;
    if !OPEN.contains(&(request.method(), request.path())) {
        has_a_session(app, request).await?;
    }
    let payload = in_time(request.take_payload(), time_of(request));
    request.set_payload(payload);
    Ok(())
}

fn came_from_here(request: &ServiceRequest) -> Result<(), ApiError> {
    let header = |name: &str| request.headers().get(name).and_then(|v| v.to_str().ok());
    if header(OURS).is_none() {
        return Err(ApiError::NotAllowed("the request does not come from this application's own pages"));
    }
    let Some(origin) = header(ORIGIN.as_str()) else { return Ok(()) };
    let host = header(HOST.as_str()).unwrap_or_default();
    let from = origin.split_once("://").map_or(origin, |(_, rest)| rest);
    if from == host { Ok(()) } else { Err(ApiError::NotAllowed("the request comes from another site")) }
}

/// Whoever has no session at all is told so before the body is read. What the session opens, each address asks itself.
async fn has_a_session(app: &web::Data<App>, request: &ServiceRequest) -> Result<(), ApiError> {
    let path = request.path().strip_prefix("/api/v1").unwrap_or_default();
    let roles: &[Role] = if path.starts_with("/bench") {
        &[Role::Bench]
    } else if path.starts_with("/practice") {
        &[Role::Desk, Role::Bench]
    } else {
        &[Role::Desk]
    };
    let tokens = roles.iter().filter_map(|role| token_of(request.request(), *role));
    let hashes: Vec<[u8; 32]> = tokens.map(|token| Token::hash(&token)).collect();
    if hashes.iter().any(|hash| app.limits.knows(hash)) {
        return Ok(());
    }
    let held = blocking(app, move |app| {
        let now = app.clock.now();
        let held = hashes.into_iter().map(|hash| app.store.session(hash, now));
        Ok(held.collect::<Result<Vec<_>, _>>()?.into_iter().flatten().next().is_some())
    });
    if held.await? { Ok(()) } else { Err(roles[0].unknown()) }
}

fn time_of(request: &ServiceRequest) -> Duration {
    let length = request.headers().get("content-length").and_then(|v| v.to_str().ok()?.parse::<u64>().ok());
    if length.is_some_and(|bytes| bytes <= LARGEST_FORM) { BODY_TAKES } else { FILE_TAKES }
}

/// The same body, as long as it comes within `takes`.
fn in_time(payload: Payload, takes: Duration) -> Payload {
    let until = Instant::now() + takes;
    let stream = unfold(payload, move |mut payload| async move {
        let late = || Some(Err(PayloadError::Io(ErrorKind::TimedOut.into())));
        let next = timeout_at(until, payload.next()).await.unwrap_or_else(|_| late());
        next.map(|part| (part, payload))
    });
    Payload::Stream { payload: Box::pin(stream) }
}

/// Headers of every answer.
pub fn security_headers() -> DefaultHeaders {
    DefaultHeaders::new()
        .add((
            "Content-Security-Policy",
            "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
        ))
        .add(("X-Content-Type-Options", "nosniff"))
        .add(("Referrer-Policy", "same-origin"))
        .add(("Permissions-Policy", "camera=(), microphone=(), geolocation=()"))
        // What holds names and marks stays on no shared machine; the program's own files say otherwise themselves.
        .add(("Cache-Control", "no-store"))
}
