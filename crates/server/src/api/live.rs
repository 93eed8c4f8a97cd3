//! Event streams (server-sent events): what has changed, pushed as it happens.
//!
//! An instructor gets recomputed rows of the run; a group's device only gets told that its own bench has changed.
//! Changes are gathered for a twentieth of a second. An event's id is the record's sequence number: a browser that comes
//! back says which it saw last, and gets the rows that have changed since.

use crate::access::{Bench, DeskRun};
use crate::api::views::{Row, at_work};
use crate::app::{App, blocking};
use crate::live::Change;
use crate::problem::ApiError;
use actix_web::{HttpRequest, Responder, get, web};
use actix_web_lab::sse::{Data, Event, Sse};
use serde::Serialize;
use std::collections::BTreeSet;
use std::time::Duration;
use tokio::sync::broadcast::Receiver;
use tokio::sync::broadcast::error::RecvError;
use tokio::sync::mpsc::Sender;
use utoipa::ToSchema;

const GATHER: Duration = Duration::from_millis(50);
const KEEP_ALIVE: Duration = Duration::from_secs(15);

/// What an instructor's stream carries.
#[derive(Debug, Serialize, ToSchema)]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum RunEvent {
    /// Rows that have changed, recomputed.
    Rows {
        /// In no order.
        rows: Vec<Row>,
    },
    /// Fetch the board again: the run as a whole has changed, or too much was missed.
    Reset,
}

/// `GET /runs/{run}/events`, for instructors.
#[get("/runs/{run}/events")]
pub async fn run_events(app: web::Data<App>, request: HttpRequest, desk: DeskRun) -> Result<impl Responder, ApiError> {
    let run = desk.run.id;
    // Followed before anything is read, so that nothing falls between.
    let changes = app.live.follow(run);
    let seen = request.headers().get("last-event-id").and_then(|v| v.to_str().ok()).and_then(|v| v.parse::<i64>().ok());
    let now = blocking(&app, move |app| Ok(app.store.last_seq(run)?)).await?;
    let (sender, receiver) = tokio::sync::mpsc::channel(16);
    actix_web::rt::spawn(async move {
        // Whoever missed something starts anew: a board is small, and a gap is rare.
        if seen.is_some_and(|seen| seen < now) && send(&sender, &RunEvent::Reset, now).await.is_err() {
            return;
        }
        pass_on(app, run, changes, sender).await;
    });
    Ok(Sse::from_infallible_receiver(receiver).with_keep_alive(KEEP_ALIVE))
}

async fn pass_on(app: web::Data<App>, run: i64, mut changes: Receiver<Change>, sender: Sender<Event>) {
    loop {
        let gathered = tokio::select! {
            gathered = gather(&mut changes) => gathered,
            () = sender.closed() => return,
        };
        let told = match gathered {
            Gathered::Over => return,
            Gathered::Everything => send_reset(&app, run, &sender).await,
            Gathered::Groups(groups) => send_rows(&app, run, groups, &sender).await,
        };
        if told.is_err() {
            return;
        }
    }
}

/// What came together within a twentieth of a second of the first change.
enum Gathered {
    Groups(BTreeSet<i64>),
    Everything,
    Over,
}

async fn gather(changes: &mut Receiver<Change>) -> Gathered {
    let mut groups = BTreeSet::new();
    let mut next = changes.recv().await;
    let deadline = tokio::time::Instant::now() + GATHER;
    loop {
        match next {
            Ok(Change { group: Some(group) }) => groups.insert(group),
            Ok(Change { group: None }) | Err(RecvError::Lagged(_)) => return Gathered::Everything,
            Err(RecvError::Closed) => return Gathered::Over,
        };
        match tokio::time::timeout_at(deadline, changes.recv()).await {
            Ok(change) => next = change,
            Err(_) => return Gathered::Groups(groups),
        }
    }
}

async fn send_rows(app: &web::Data<App>, run: i64, groups: BTreeSet<i64>, sender: &Sender<Event>) -> Result<(), Gone> {
    let read = blocking(app, move |app| {
        let seq = app.store.last_seq(run)?;
        let run = app.store.run(run)?;
        let room = app.store.room_of(run.id)?;
        let rows = groups
            .iter()
            .map(|g| Ok(at_work(app, &run, &app.store.group(*g)?, &room)?.row))
            .collect::<Result<_, ApiError>>()?;
        Ok((seq, rows))
    })
    .await;
    match read {
        Ok((seq, rows)) => send(sender, &RunEvent::Rows { rows }, seq).await,
        // The page fetches again and gets to hear what is wrong.
        Err(_) => send_reset(app, run, sender).await,
    }
}

async fn send_reset(app: &web::Data<App>, run: i64, sender: &Sender<Event>) -> Result<(), Gone> {
    let seq = blocking(app, move |app| Ok(app.store.last_seq(run)?)).await.unwrap_or(0);
    send(sender, &RunEvent::Reset, seq).await
}

/// `GET /bench/events`, for a device of a group: its own bench has changed.
#[get("/bench/events")]
pub async fn bench_events(app: web::Data<App>, bench: Bench) -> Result<impl Responder, ApiError> {
    let mut changes = app.live.follow(bench.run.id);
    let group = bench.group.id;
    let (sender, receiver) = tokio::sync::mpsc::channel::<Event>(16);
    actix_web::rt::spawn(async move {
        loop {
            let gathered = tokio::select! {
                gathered = gather(&mut changes) => gathered,
                () = sender.closed() => return,
            };
            let concerns = match gathered {
                Gathered::Over => return,
                Gathered::Everything => true,
                Gathered::Groups(groups) => groups.contains(&group),
            };
            if concerns && sender.send(Data::new("changed").into()).await.is_err() {
                return;
            }
        }
    });
    Ok(Sse::from_infallible_receiver(receiver).with_keep_alive(KEEP_ALIVE))
}

/// Nobody listens any more.
struct Gone;

async fn send(sender: &Sender<Event>, event: &RunEvent, seq: i64) -> Result<(), Gone> {
    let data = Data::new_json(event).map_err(|_| Gone)?.id(seq.to_string());
    sender.send(data.into()).await.map_err(|_| Gone)
}
