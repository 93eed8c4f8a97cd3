//! The door of the core, for instructors and technicians: one question, one answer.

use crate::access::Staff;
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{post, web};
use compute::{Request, Response};

/// `POST /compute`, for instructors and technicians: any question to the core.
#[utoipa::path(post, path = "/api/v1/compute", request_body = Request,
    responses((status = 200, body = Response), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[post("")]
pub async fn ask(
    app: web::Data<App>,
    _staff: Staff,
    body: web::Json<Request>,
) -> Result<web::Json<Response>, ApiError> {
    let request = body.into_inner().resolved(&crate::library::text);
    // A Monte Carlo may take a while: off the async threads, as what waits for the disk.
    let answer = blocking(&app, move |_| Ok(compute::compute(&request)?));
    Ok(web::Json(answer.await?))
}
