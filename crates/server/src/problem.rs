//! How a refusal reads: RFC 9457 problem details, in words for the person who gets them.

use crate::invalid::Invalid;
use actix_web::http::StatusCode;
use actix_web::http::header::{CONTENT_TYPE, RETRY_AFTER};
use actix_web::{HttpResponse, ResponseError};
use lab::bench::{Refusal, StandsAlready};
use lab::sheets::NoMoreAnswers;
use serde::Serialize;
use store::{CannotKeep, StoreError};
use utoipa::ToSchema;

/// Problem details (RFC 9457).
#[derive(Debug, Serialize, ToSchema)]
pub struct Problem {
    /// Kind of problem, as a relative address: `/problems/run-closed`.
    #[serde(rename = "type")]
    kind: String,
    /// The kind in words.
    title: &'static str,
    /// HTTP status.
    status: u16,
    /// What was wrong with this request, what was kept, what to do.
    detail: String,
}

/// Every way in which a request can fail.
#[derive(Debug, thiserror::Error)]
pub enum ApiError {
    /// The request makes no sense; says what and where.
    #[error(transparent)]
    Invalid(Box<Invalid>),
    /// An answer that may not be given.
    #[error(transparent)]
    Answered(#[from] NoMoreAnswers),
    /// An entry that would write over another one.
    #[error(transparent)]
    Stands(#[from] StandsAlready),
    /// Nobody is signed in, or the cookie is no longer good.
    #[error("{0}")]
    NotSignedIn(&'static str),
    /// Signed in, but not for this.
    #[error("{0}")]
    NotAllowed(&'static str),
    /// There is no such thing.
    #[error("there is no such {0}")]
    NotFound(&'static str),
    /// The request contradicts what is there.
    #[error("{0}")]
    Conflict(StoreError),
    /// Too many requests from this device.
    #[error("too many tries from this device; try again in {0} s")]
    TooMany(u64),
    /// More entries of a group than hands make.
    #[error("this group has sent very many entries; this one was not taken yet: send it again in {0} s")]
    TooManyEntries(u64),
    /// A body that did not come in time.
    #[error("the request took too long to arrive; nothing of it was taken")]
    TooSlow,
    /// Nothing can be written to the disk.
    #[error("{0}; nothing of this was kept: what was entered at a bench stays on its device and is sent again")]
    NotKept(CannotKeep),
    /// Our own failure; the cause is logged, not shown.
    #[error("something failed on the server; what was acknowledged before is kept")]
    Internal(#[source] anyhow::Error),
}

impl ApiError {
    fn kind(&self) -> (StatusCode, &'static str, &'static str) {
        match self {
            ApiError::Invalid(_) | ApiError::Answered(NoMoreAnswers::Attempts(_) | NoMoreAnswers::GivenBack) => {
                (StatusCode::UNPROCESSABLE_ENTITY, "invalid", "This cannot be taken as it is")
            }
            ApiError::NotSignedIn(_) => (StatusCode::UNAUTHORIZED, "not-signed-in", "Not signed in"),
            ApiError::NotAllowed(_) | ApiError::Answered(NoMoreAnswers::Anothers) => {
                (StatusCode::FORBIDDEN, "not-allowed", "Not allowed")
            }
            ApiError::NotFound(_) => (StatusCode::NOT_FOUND, "not-found", "Not found"),
            ApiError::Stands(_) => (StatusCode::CONFLICT, "stands-already", "Something stands there already"),
            ApiError::Conflict(StoreError::RunClosed) => (StatusCode::CONFLICT, "run-closed", "The run is closed"),
            ApiError::Conflict(StoreError::RunPaused) => (StatusCode::CONFLICT, "run-paused", "The class is paused"),
            ApiError::Conflict(StoreError::IdTaken) => {
                (StatusCode::CONFLICT, "id-taken", "This id means something else")
            }
            ApiError::Conflict(StoreError::Overtaken) => {
                (StatusCode::CONFLICT, "overtaken", "Somebody else was quicker")
            }
            ApiError::Conflict(_) => (StatusCode::CONFLICT, "conflict", "This contradicts what is there"),
            ApiError::TooSlow => (StatusCode::REQUEST_TIMEOUT, "too-slow", "It did not arrive in time"),
            ApiError::TooMany(_) | ApiError::TooManyEntries(_) => {
                (StatusCode::TOO_MANY_REQUESTS, "too-many", "Too many tries")
            }
            ApiError::NotKept(_) => (StatusCode::SERVICE_UNAVAILABLE, "not-kept", "Nothing can be kept"),
            ApiError::Internal(_) => (StatusCode::INTERNAL_SERVER_ERROR, "internal", "The server failed"),
        }
    }
}

impl ResponseError for ApiError {
    fn status_code(&self) -> StatusCode {
        self.kind().0
    }

    fn error_response(&self) -> HttpResponse {
        let (status, kind, title) = self.kind();
        if let ApiError::NotKept(why) = self {
            tracing::error!(%why, "nothing can be kept");
        }
        if let ApiError::Internal(cause) = self {
            tracing::error!(cause = format!("{cause:#}"), "request failed");
        }
        let mut response = HttpResponse::build(status);
        if let ApiError::TooMany(seconds) | ApiError::TooManyEntries(seconds) = self {
            response.insert_header((RETRY_AFTER, seconds.to_string()));
        }
        let problem =
            Problem { kind: format!("/problems/{kind}"), title, status: status.as_u16(), detail: self.to_string() };
        response.insert_header((CONTENT_TYPE, "application/problem+json")).json(problem)
    }
}

/// Whatever makes a request invalid makes it fail.
impl<T: Into<Invalid>> From<T> for ApiError {
    fn from(why: T) -> ApiError {
        ApiError::Invalid(Box::new(why.into()))
    }
}

impl From<Refusal> for ApiError {
    fn from(refusal: Refusal) -> ApiError {
        match refusal {
            Refusal::NoSuch(what) => ApiError::NotFound(what),
            Refusal::Impossible(why) => why.into(),
        }
    }
}

impl From<StoreError> for ApiError {
    fn from(error: StoreError) -> ApiError {
        if let Some(why) = CannotKeep::of(&error) {
            return ApiError::NotKept(why);
        }
        match error {
            StoreError::NotFound(what) => ApiError::NotFound(what),
            StoreError::IdTaken
            | StoreError::RunClosed
            | StoreError::RunPaused
            | StoreError::HasAccount
            | StoreError::NoMerging
            | StoreError::NameTaken(_)
            | StoreError::NothingToCorrect
            | StoreError::Overtaken
            | StoreError::InUse(_)
            | StoreError::Here
            | StoreError::Misfit(_)
            | StoreError::AccountExists => ApiError::Conflict(error),
            StoreError::Database(_)
            | StoreError::Disk(_)
            | StoreError::Migration(_)
            | StoreError::Payload(_)
            | StoreError::NewerPayload(_)
            | StoreError::NewerRecord(_)
            | StoreError::Actor(_)
            | StoreError::Randomness(_)
            | StoreError::NotKept(_)
            | StoreError::Closed => ApiError::Internal(error.into()),
        }
    }
}
