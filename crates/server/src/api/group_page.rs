//! One group of a run as its instructor sees it: everything that it entered in the order of the record, who is in it,
//! its photos, what it was told.

use crate::access::DeskRun;
use crate::api::acts::changing;
use crate::api::views::{Row, at_work, name_of};
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::line::one_line;
use crate::live::Change;
use crate::problem::{ApiError, Problem};
use actix_web::{HttpResponse, get, post, web};
use lab::bench::{Actor, Entry};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// Longest message.
const LONGEST_MESSAGE: usize = 300;

/// One group's page.
#[derive(Debug, Serialize, ToSchema)]
pub struct GroupPage {
    /// As on the board, recomputed.
    row: Row,
    /// Everything that was entered, in the order of the record.
    timeline: Vec<Happened>,
    /// Who was in it at which visits.
    people: Vec<Sat>,
    /// What is in its unknown, for the instructor alone.
    key: Option<String>,
    /// Accepted values of its own results, as its assignment states them.
    accepted: BTreeMap<String, String>,
    /// The practical has a trial run to borrow from.
    trial_run: bool,
    /// Photos, with the step that each belongs to.
    photos: BTreeMap<String, u32>,
    /// What it was told, oldest first.
    messages: Vec<MessageView>,
    /// The server's time, ms.
    now: i64,
}

/// One thing that happened at a bench.
#[derive(Debug, Serialize, ToSchema)]
pub struct Happened {
    /// The record's sequence number.
    seq: i64,
    /// Id of the entry, to be named by a correction.
    id: String,
    /// When, ms.
    at: i64,
    /// Whether that time is doubtful.
    about: bool,
    /// Who: a student of the group, a device by its number, or an instructor.
    by: String,
    /// An instructor said so.
    by_instructor: bool,
    /// What.
    entry: Entry,
    /// Why it was corrected or taken out.
    reason: Option<String>,
    /// Something else stands in its place now.
    superseded: bool,
}

/// Somebody at a visit.
#[derive(Debug, Serialize, ToSchema)]
pub struct Sat {
    /// The number that events carry.
    person: i64,
    /// As the roster has it.
    name: String,
    /// From this visit on.
    visit: i64,
}

/// A message as its sender sees it.
#[derive(Debug, Serialize, ToSchema)]
pub struct MessageView {
    /// The words.
    text: String,
    /// Who said so.
    from: String,
    /// When, ms.
    at: i64,
    /// To all groups.
    to_all: bool,
    /// The group has read it.
    heard: bool,
}

/// A message to send.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Telling {
    /// To whom; to all if none.
    group: Option<i64>,
    /// The words.
    text: String,
}

/// `GET /runs/{run}/groups/{group}`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/groups/{group}", params(("run" = i64, Path), ("group" = i64, Path)),
    responses((status = 200, body = GroupPage), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/groups/{group}")]
pub async fn show_group(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, i64)>,
) -> Result<web::Json<GroupPage>, ApiError> {
    let page = blocking(&app, move |app| {
        let group = desk.group(app, path.1)?;
        let run = desk.run;
        let room = app.store.room_of(run.id)?;
        let record = app.store.bench(run.id, group.id)?;
        let current = record.current(&room);
        let practical = app.practical_of(&run)?.allotted(&group.allotted);
        let seats = app.store.seats(run.id)?;
        let sat = seats.iter().filter(|s| s.group == Some(group.id));
        let names: BTreeMap<i64, &str> = seats.iter().map(|s| (s.person, s.name.as_str())).collect();
        let timeline = record.filed().iter().map(|filed| {
            let student = filed.person.and_then(|p| names.get(&p)).map(|n| Ok((*n).to_owned()));
            Ok(Happened {
                seq: filed.seq,
                id: filed.id.to_string(),
                at: filed.at,
                about: filed.about,
                by: student.unwrap_or_else(|| name_of(app, filed.actor))?,
                by_instructor: matches!(filed.actor, Actor::Person(_)),
                entry: filed.entry.clone(),
                reason: filed.reason.clone(),
                superseded: !record.is_last(filed),
            })
        });
        let messages = app.store.messages(run.id)?.into_iter().filter(|m| m.group.is_none_or(|g| g == group.id));
        let messages = messages.map(|m| {
            let heard = current.heard.contains(&m.id.to_string());
            Ok(MessageView { from: name_of(app, m.actor)?, text: m.text, at: m.at, to_all: m.group.is_none(), heard })
        });
        Ok(GroupPage {
            row: at_work(app, &run, &group, &room)?.row,
            timeline: timeline.collect::<Result<_, ApiError>>()?,
            people: sat.map(|s| Sat { person: s.person, name: s.name.clone(), visit: s.visit }).collect(),
            key: practical.allotted.unknown.as_deref().and_then(|code| practical.key_of(code)).map(Into::into),
            accepted: practical.accepted_values(),
            trial_run: practical.file.trial_run.is_some(),
            photos: current.photos.clone(),
            messages: messages.collect::<Result<_, ApiError>>()?,
            now: app.now_in(&run),
        })
    })
    .await?;
    Ok(web::Json(page))
}

/// `POST /runs/{run}/messages`, for instructors: tells a group something, or all of them.
#[utoipa::path(post, path = "/api/v1/runs/{run}/messages", params(("run" = i64, Path)), request_body = Telling,
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/runs/{run}/messages")]
pub async fn tell(app: web::Data<App>, desk: DeskRun, body: web::Json<Telling>) -> Result<HttpResponse, ApiError> {
    let Telling { group, text } = body.into_inner();
    let text = one_line(&text, LONGEST_MESSAGE).ok_or(Invalid::Length { what: "a message", most: LONGEST_MESSAGE })?;
    match group {
        None => {
            changing(app, desk, move |app, desk| {
                Ok(app.store.tell(desk.run.id, None, text, desk.actor(), app.clock.now())?)
            })
            .await
        }
        Some(group) => {
            blocking(&app, move |app| {
                let group = desk.group(app, group)?;
                app.store.tell(desk.run.id, Some(group.id), text, desk.actor(), app.clock.now())?;
                app.live.tell(desk.run.id, Change { group: Some(group.id) });
                Ok(())
            })
            .await?;
            Ok(HttpResponse::NoContent().finish())
        }
    }
}
