//! What every request passes: counting by device, defence against forged requests, and the headers of every answer.
//!
//! A request that changes something must carry a header that another site's form cannot send, and where the browser
//! says where it comes from, that must be here. Cookies are same-site as well.

use crate::access::{Limit, device_of};
use crate::app::App;
use crate::problem::ApiError;
use actix_web::body::MessageBody;
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::Method;
use actix_web::http::header::{HOST, ORIGIN};
use actix_web::middleware::{DefaultHeaders, Next};
use actix_web::web;

/// The header that a request which changes something must carry.
const OURS: &str = "x-keen-beaker";

/// Counts, checks, and passes on.
pub async fn guard(
    request: ServiceRequest,
    next: Next<impl MessageBody>,
) -> Result<ServiceResponse<impl MessageBody>, actix_web::Error> {
    if let Some(app) = request.app_data::<web::Data<App>>() {
        app.limits.count(Limit::Request, &device_of(&request))?;
    }
    if !matches!(*request.method(), Method::GET | Method::HEAD) {
        came_from_here(&request)?;
    }
    next.call(request).await
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
}
