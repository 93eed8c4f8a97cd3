//! The door for everything that a group enters. Acknowledged means on disk.

use crate::access::Bench;
use crate::app::{App, blocking};
use crate::live::Change;
use crate::problem::{ApiError, Problem};
use actix_web::{post, web};
use lab::bench::{Refusal, accepted};
use serde::{Deserialize, Serialize};
use store::{BenchEntry, NewEvent, Said, Statement};
use utoipa::ToSchema;
use uuid::Uuid;

/// How far a device's clock may stand off before a time is marked as doubtful.
const DOUBT_MS: i64 = 2_000;
/// Within this time of an entry, its correction is a slip of the finger and needs no reason.
const AT_ONCE_MS: i64 = 60_000;
const LONGEST_REASON: usize = 200;

/// An entry of a group.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewEntry {
    /// UUIDv7, made by the device: sent again, it is stored once.
    #[schema(value_type = String)]
    id: Uuid,
    /// The group that it was made for. A device that has since joined another one must not enter it there.
    group: i64,
    /// What is entered.
    entry: BenchEntry,
    /// The entry that this corrects.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    supersedes: Option<Uuid>,
    /// Why it is corrected; needed with `supersedes` unless it follows within a minute.
    #[serde(default)]
    reason: Option<String>,
    /// When it was entered, ms, by the device's clock set by its last contact.
    taken_at: i64,
    /// The device's last contact before that, ms of the server.
    #[serde(default)]
    last_contact: i64,
}

/// An entry is on disk.
#[derive(Debug, Serialize, ToSchema)]
pub struct Kept {
    /// The record's sequence number.
    seq: i64,
    /// Whether it was there already.
    again: bool,
    /// Whether another device had corrected the same entry first: both are kept, and this one stands.
    overtook: bool,
}

/// `POST /bench/entries`, for a device of a group: keeps one entry. Acknowledged means on disk.
#[utoipa::path(post, path = "/api/v1/bench/entries", request_body = NewEntry,
    responses((status = 200, body = Kept), (status = 401, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("/bench/entries")]
pub async fn enter(app: web::Data<App>, bench: Bench, body: web::Json<NewEntry>) -> Result<web::Json<Kept>, ApiError> {
    let kept = blocking(&app, move |app| keep(app, &bench, body.into_inner())).await?;
    Ok(web::Json(kept))
}

fn keep(app: &App, bench: &Bench, new: NewEntry) -> Result<Kept, ApiError> {
    if new.group != bench.group.id {
        return Err(ApiError::NotAllowed("this entry was made for another group; it was not taken"));
    }
    let entry = accepted(&*app.practical_of(&bench.run)?, &app.store.room()?, new.entry).map_err(|e| match e {
        Refusal::NoSuch(what) => ApiError::NotFound(what),
        Refusal::Impossible(why) => ApiError::Invalid(why),
    })?;
    let now = app.clock.now();
    // Entered after the last contact and before it arrived here: that much is certain whatever the clock says.
    let earliest = new.last_contact.clamp(bench.session.created_at, now);
    let taken_at = new.taken_at.clamp(earliest, now);
    let at_once = match new.supersedes {
        Some(corrected) => {
            let state = app.store.bench(bench.run.id, bench.group.id)?;
            let before = state.entries.iter().find(|e| e.id == corrected);
            before.is_some_and(|e| (0..AT_ONCE_MS).contains(&(taken_at - e.said.taken_at)))
        }
        None => true,
    };
    let reason = reason(new.reason, !at_once)?;
    let appended = app.store.append(NewEvent {
        id: new.id,
        run: bench.run.id,
        group: Some(bench.group.id),
        actor: bench.actor(),
        supersedes: new.supersedes,
        said: Said {
            statement: Statement::Bench(entry),
            reason,
            taken_at,
            about: (taken_at - new.taken_at).abs() > DOUBT_MS,
        },
        received_at: now,
    })?;
    app.live.tell(bench.run.id, Change { group: Some(bench.group.id) });
    Ok(Kept { seq: appended.seq, again: appended.again, overtook: appended.overtook })
}

fn reason(given: Option<String>, needed: bool) -> Result<Option<String>, ApiError> {
    let reason = given.map(|r| r.trim().to_owned()).filter(|r| !r.is_empty());
    if needed && reason.is_none() {
        return Err(ApiError::Invalid("a correction says why; the earlier value stays".into()));
    }
    if reason.as_ref().is_some_and(|r| r.chars().count() > LONGEST_REASON) {
        return Err(ApiError::Invalid(format!("a reason has at most {LONGEST_REASON} characters")));
    }
    Ok(reason)
}
