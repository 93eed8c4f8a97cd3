//! Turns of a rehearsal: one thing is said after the other, so many times as fast as in a laboratory.
//!
//! All of it is known from the start (`simulate::class`). Its times lie before the moment of opening, so that no clock is ever
//! ahead.

use crate::api::acts::append;
use crate::app::{App, blocking};
use crate::problem::ApiError;
use crate::rehearsing::Next;
use actix_web::web;
use lab::bench::Actor;
use practical::Practical;
use simulate::{ClassAtWork, class};
use std::sync::Arc;
use store::{NewEvent, Rehearsal, Run, Said, Statement, StoreError};
use uuid::Uuid;

/// More than play at once.
pub const TOO_MANY: ApiError = ApiError::NotAllowed("eight rehearsals are running already: pause one of them first");

/// Who writes for a class that was never there: no device has this number.
const NOBODY: Actor = Actor::Device(0);

/// What the class of a rehearsal says, with the number of the group from 0.
pub fn told(practical: &Practical, how: Rehearsal, groups: usize) -> Vec<(usize, simulate::Said)> {
    let part = |of_a_hundred: u8| f64::from(of_a_hundred) / 100.0;
    let (slips_at_bench, slips_in_sums) = (part(how.slips_at_bench), part(how.slips_in_sums));
    class(practical, ClassAtWork { groups, seed: how.seed.into(), slips_at_bench, slips_in_sums })
}

/// Keeps what the class of a rehearsal says, and how much of it has been said.
pub fn learn(app: &App, run: &Run, told: Vec<(usize, simulate::Said)>) -> Result<(), ApiError> {
    let groups = app.store.groups(run.id)?;
    let script = told.into_iter().filter_map(|(number, said)| Some((groups.get(number)?.id, said))).collect();
    let said = usize::try_from(app.store.written_by(run.id, NOBODY)?).unwrap_or(usize::MAX);
    app.rehearsing.learn(run.id, Arc::new(script), said);
    Ok(())
}

/// Goes on at this pace, or stands still.
pub fn play(app: &web::Data<App>, run: &Run, pace: Option<u32>) -> Result<(), ApiError> {
    let turn = app.rehearsing.set(run.id, pace);
    let turn = turn.ok_or(TOO_MANY)?;
    if pace.is_some() {
        actix_web::rt::spawn(turn_of(app.clone(), run.clone(), turn));
    }
    Ok(())
}

async fn turn_of(app: web::Data<App>, run: Run, turn: u64) {
    while let Some(next) = app.rehearsing.next(run.id, turn) {
        actix_web::rt::time::sleep(next.after).await;
        // Somebody may have let it stand still meanwhile.
        if app.rehearsing.next(run.id, turn).is_none() {
            return;
        }
        let (id, opened) = (run.id, run.opened_at);
        if let Err(error) = blocking(&app, move |app| say(app, id, opened, next)).await {
            // The class listens, or the run was closed: it waits until somebody lets it go on.
            if !matches!(error, ApiError::Conflict(StoreError::RunClosed | StoreError::RunPaused)) {
                tracing::warn!(%error, run = run.id, "a rehearsal stands still");
            }
            app.rehearsing.set(run.id, None);
            return;
        }
        app.rehearsing.said(run.id, turn);
    }
}

fn say(app: &App, run: i64, opened: i64, next: Next) -> Result<(), ApiError> {
    let at = opened + 1000 * next.said.at;
    app.store.claim(next.group, at)?;
    append(
        app,
        NewEvent {
            id: id_of(run, next.number),
            run,
            group: Some(next.group),
            actor: NOBODY,
            supersedes: None,
            said: Said::at(at, Statement::Bench(next.said.entry)),
            received_at: at,
        },
    )
    .map(drop)
}

/// The same at every time that it is said: said again, it is kept once.
fn id_of(run: i64, number: usize) -> Uuid {
    let mut bytes = [0u8; 10];
    bytes[2..6].copy_from_slice(&u32::try_from(number).unwrap_or(u32::MAX).to_be_bytes());
    bytes[6..].copy_from_slice(b"play");
    uuid::Builder::from_unix_timestamp_millis(run.unsigned_abs(), &bytes).into_uuid()
}
