//! Event streams (server-sent events): what has changed, pushed as it happens.
//!
//! An instructor gets recomputed rows of the run; a group's device only gets told that its own bench has changed.
//! Changes are gathered for a twentieth of a second. An event's id is the record's sequence number: a browser that comes
//! back says which it saw last, and gets the rows that have changed since. Once a second a stream asks whether it still
//! may: who is signed out, or no longer shares the class, hears nothing more.

use crate::access::{Bench, DeskRun, Role, Token, token_of};
use crate::api::views::{Row, at_work};
use crate::app::{App, blocking};
use crate::live::Change;
use crate::problem::{ApiError, Problem};
use actix_web::{HttpRequest, Responder, get, web};
use actix_web_lab::sse::{Data, Event, Sse};
use serde::Serialize;
use std::collections::BTreeSet;
use std::time::Duration;
use store::Holder;
use tokio::sync::broadcast::Receiver;
use tokio::sync::broadcast::error::RecvError;
use tokio::sync::mpsc::Sender;
use utoipa::ToSchema;

const GATHER: Duration = Duration::from_millis(50);
const KEEP_ALIVE: Duration = Duration::from_secs(15);
const ASKS_AGAIN: Duration = Duration::from_secs(1);

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
#[utoipa::path(get, path = "/api/v1/runs/{run}/events", params(("run" = i64, Path)),
    responses((status = 200, description = "a stream", content_type = "text/event-stream", body = String), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/events")]
pub async fn run_events(app: web::Data<App>, request: HttpRequest, desk: DeskRun) -> Result<impl Responder, ApiError> {
    let run = desk.run.id;
    // Followed before anything is read, so that nothing falls between.
    let changes = app.live.follow(run);
    let seen = request.headers().get("last-event-id").and_then(|v| v.to_str().ok()).and_then(|v| v.parse::<i64>().ok());
    let now = blocking(&app, move |app| Ok(app.store.last_seq(run)?)).await?;
    let listener = Listener::of(&request, Role::Desk, run);
    let (sender, receiver) = tokio::sync::mpsc::channel(16);
    actix_web::rt::spawn(async move {
        // Whoever missed something starts anew: a board is small, and a gap is rare.
        if seen.is_some_and(|seen| seen < now) && send(&sender, &RunEvent::Reset, now).await.is_err() {
            return;
        }
        tokio::select! {
            () = pass_on(&app, run, changes, &sender) => {}
            () = listener.may_no_longer(&app) => {}
        }
    });
    Ok(Sse::from_infallible_receiver(receiver).with_keep_alive(KEEP_ALIVE))
}

/// Whoever listens to a stream.
struct Listener {
    role: Role,
    token: Option<[u8; 32]>,
    run: i64,
}

impl Listener {
    fn of(request: &HttpRequest, role: Role, run: i64) -> Listener {
        Listener { role, token: token_of(request, role).map(|token| Token::hash(&token)), run }
    }

    /// Comes back when the stream is no longer this listener's to hear.
    async fn may_no_longer(&self, app: &web::Data<App>) {
        let mut seconds = tokio::time::interval(ASKS_AGAIN);
        loop {
            seconds.tick().await;
            let (role, token, run) = (self.role, self.token, self.run);
            // A record that cannot be read for a moment sends nobody away.
            if !blocking(app, move |app| may_listen(app, role, token, run)).await.unwrap_or(true) {
                return;
            }
        }
    }
}

fn may_listen(app: &App, role: Role, token: Option<[u8; 32]>, run: i64) -> Result<bool, ApiError> {
    let session = token.map(|hash| app.store.session(hash, app.clock.now())).transpose()?.flatten();
    Ok(match (role, session.map(|s| s.holder)) {
        (Role::Desk, Some(Holder::Person(person))) => app.store.may_see(person, run)?,
        (Role::Bench, Some(Holder::Group(group))) => app.store.group(group)?.run == run,
        (Role::Desk | Role::Bench, _) => false,
    })
}

async fn pass_on(app: &web::Data<App>, run: i64, mut changes: Receiver<Change>, sender: &Sender<Event>) {
    loop {
        let gathered = tokio::select! {
            gathered = gather(&mut changes) => gathered,
            () = sender.closed() => return,
        };
        let told = match gathered {
            Gathered::Over => return,
            Gathered::Everything => send_reset(app, run, sender).await,
            Gathered::Groups(groups) => send_rows(app, run, groups, sender).await,
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
#[utoipa::path(get, path = "/api/v1/bench/events",
    responses((status = 200, description = "a stream", content_type = "text/event-stream", body = String), (status = 401, body = Problem)))]
#[get("/bench/events")]
pub async fn bench_events(app: web::Data<App>, request: HttpRequest, bench: Bench) -> Result<impl Responder, ApiError> {
    let changes = app.live.follow(bench.run.id);
    let listener = Listener::of(&request, Role::Bench, bench.run.id);
    let (sender, receiver) = tokio::sync::mpsc::channel::<Event>(16);
    actix_web::rt::spawn(async move {
        tokio::select! {
            () = tell_of(bench.group.id, changes, &sender) => {}
            () = listener.may_no_longer(&app) => {}
        }
    });
    Ok(Sse::from_infallible_receiver(receiver).with_keep_alive(KEEP_ALIVE))
}

async fn tell_of(group: i64, mut changes: Receiver<Change>, sender: &Sender<Event>) {
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
}

/// Nobody listens any more.
struct Gone;

async fn send(sender: &Sender<Event>, event: &RunEvent, seq: i64) -> Result<(), Gone> {
    let data = Data::new_json(event).map_err(|_| Gone)?.id(seq.to_string());
    sender.send(data.into()).await.map_err(|_| Gone)
}
