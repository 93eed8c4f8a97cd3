//! A whole run as a file, out and in: `run.json`, the practical's text, the photos.

use crate::access::{Desk, DeskRun};
use crate::api::export::attached;
use crate::api::people::MOST_GROUPS;
use crate::api::runs::free_code;
use crate::api::texts::{named, short};
use crate::api::views::rows;
use crate::app::{App, blocking};
use crate::archive::{unzipped, zipped};
use crate::invalid::Invalid;
use crate::line::one_line;
use crate::problem::{ApiError, Problem};
use crate::roster;
use actix_web::{HttpResponse, get, post, web};
use lab::bench::{Entry, Room, accepted};
use lab::evaluated::ResultState;
use practical::Practical;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet};
use store::{
    Lesson, NewEvent, Run, RunStatement, Statement, WHOLE_FORMAT, WholeEvent, WholeGroup, WholeRun, WholeSeat,
};
use utoipa::ToSchema;

const RUN: &str = "run.json";
const PRACTICAL: &str = "practical.toml";
const PHOTOS: &str = "photos/";
/// Largest file that is taken in.
pub const MOST_BYTES: usize = 32 * 1024 * 1024;

/// What is wanted of a file.
#[derive(Debug, Deserialize)]
pub struct WantedOf {
    /// With the names of people.
    #[serde(default)]
    names: bool,
}

/// The one field that every format of a run file has.
#[derive(Deserialize)]
struct Formatted {
    format: u32,
}

/// A run that was taken in.
#[derive(Debug, Serialize, ToSchema)]
pub struct TakenIn {
    /// Its number here.
    run: i64,
    /// Results that come out otherwise here than where it was written.
    otherwise: Vec<FigureOtherwise>,
}

/// A result that comes out otherwise.
#[derive(Debug, Serialize, ToSchema)]
pub struct FigureOtherwise {
    /// The group.
    group: String,
    /// The result.
    label: String,
    /// As the file has it.
    then: String,
    /// As it is computed here.
    now: String,
}

/// `GET /runs/{run}/whole.zip`, for instructors: everything of a run, to be read by another school's server.
#[utoipa::path(get, path = "/api/v1/runs/{run}/whole.zip", params(("run" = i64, Path)),
    responses((status = 200, description = "the run", content_type = "application/zip", body = Vec<u8>), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/whole.zip")]
pub async fn export_whole(
    app: web::Data<App>,
    desk: DeskRun,
    wanted: web::Query<WantedOf>,
) -> Result<HttpResponse, ApiError> {
    let (name, bytes) = blocking(&app, move |app| {
        let run = &desk.run;
        if run.rehearsal.is_some() {
            return Err(ApiError::NotAllowed("a rehearsal cannot be exported: its class is made up"));
        }
        let whole = whole(app, run, wanted.names)?;
        let text = app.store.practical(&run.practical, run.version)?.text;
        let json = serde_json::to_vec_pretty(&whole).map_err(|e| ApiError::Internal(e.into()))?;
        let mut parts = vec![(RUN.to_owned(), json), (PRACTICAL.to_owned(), text.into_bytes())];
        for name in photos(&whole) {
            parts.push((format!("{PHOTOS}{name}.jpg"), app.photos.read(&name)?));
        }
        let bytes = zipped(&parts).map_err(ApiError::Internal)?;
        Ok((format!("{}-run-{}.run.zip", run.practical, run.id), bytes))
    })
    .await?;
    Ok(attached("application/zip", name, bytes))
}

/// Photos that some group of a run keeps.
fn photos(whole: &WholeRun) -> BTreeSet<String> {
    let mut kept = BTreeSet::new();
    for event in &whole.events {
        if let Statement::Bench(Entry::Photo { name, deleted, .. }) = &event.said.statement {
            let _ = if *deleted { kept.remove(&(event.group, name)) } else { kept.insert((event.group, name)) };
        }
    }
    kept.into_iter().map(|(_, name)| name.clone()).collect()
}

fn whole(app: &App, run: &Run, names: bool) -> Result<WholeRun, ApiError> {
    let groups = app.store.groups(run.id)?;
    let at = |id: i64| groups.iter().position(|g| g.id == id);
    let seats = app.store.seats(run.id)?;
    let seats = seats.iter().map(|s| WholeSeat { lesson: s.visit, person: s.person, group: s.group.and_then(at) });
    let seats: Vec<WholeSeat> = seats.collect();
    let said = app.store.said_in_run(run.id)?;
    let mut spoken_of: BTreeSet<i64> = seats.iter().map(|s| s.person).collect();
    spoken_of.extend(said.iter().flat_map(people_of));
    let mut people = BTreeMap::new();
    for person in spoken_of {
        let name = app.store.person(person)?.name;
        people.insert(person, Some(name).filter(|n| names && !n.is_empty()));
    }
    let mut whole = WholeRun {
        format: WHOLE_FORMAT,
        program: env!("CARGO_PKG_VERSION").into(),
        practical: run.practical.clone(),
        title: run.title.clone(),
        class: run.class.clone(),
        opened_at: run.opened_at,
        closed_at: run.closed_at,
        masses: run.masses.clone(),
        school: run.school.clone(),
        room: app.store.room_of(run.id)?.items(),
        lessons: app
            .store
            .visits(run.id)?
            .iter()
            .map(|v| Lesson { begins_at: v.begins_at, minutes: v.minutes })
            .collect(),
        groups: groups
            .iter()
            .map(|g| WholeGroup {
                name: g.name.clone(),
                assignment: g.allotted.assignment.clone(),
                unknown: g.allotted.unknown.clone(),
                bench: g.bench.clone(),
                went_on_at: g.merged_into.and_then(at),
            })
            .collect(),
        people,
        seats,
        events: said.into_iter().filter_map(|event| told(event, &at)).collect(),
        figures: figures(app, run)?,
    };
    whole.link()?;
    Ok(whole)
}

/// Numbers of the people that an event speaks of.
fn people_of(event: &NewEvent) -> Vec<i64> {
    let by = match event.actor {
        lab::bench::Actor::Person(number) => Some(number),
        lab::bench::Actor::Device(_) | lab::bench::Actor::Console => None,
    };
    let of = match &event.said.statement {
        Statement::Bench(Entry::Answer { by, .. }) => *by,
        Statement::Bench(Entry::Struck { name, .. }) => lab::bench::answer_place(name).1,
        Statement::Run(RunStatement::Reviewed(review)) => review.person,
        Statement::Run(RunStatement::Released(release)) => release.person,
        Statement::Bench(_) | Statement::Run(_) => None,
    };
    [by, of, event.said.person].into_iter().flatten().collect()
}

/// An event as a file has it; nothing of erasures, of which a file has nothing left.
fn told(event: NewEvent, at: &impl Fn(i64) -> Option<usize>) -> Option<WholeEvent> {
    let mut said = event.said;
    match &mut said.statement {
        Statement::Run(RunStatement::Erased | RunStatement::PersonErased { .. }) => return None,
        Statement::Run(RunStatement::Merged { into }) => *into = i64::try_from(at(*into)?).ok()?,
        Statement::Bench(_) | Statement::Run(_) => {}
    }
    Some(WholeEvent {
        id: event.id,
        group: event.group.and_then(at),
        by: event.actor.to_string(),
        corrects: event.supersedes,
        received_at: event.received_at,
        said,
        link: String::new(),
    })
}

/// Results as they are computed now, with unit, by group and result.
fn figures(app: &App, run: &Run) -> Result<Vec<BTreeMap<String, String>>, ApiError> {
    let of = |row: crate::api::views::Row| {
        let worked = row.outcome.results.into_iter().filter_map(|r| match r.state {
            ResultState::Value(v) => Some((r.name, format!("{} {}", v.text, v.unit))),
            ResultState::NotYet { .. } | ResultState::Failed { .. } => None,
        });
        worked.collect()
    };
    Ok(rows(app, run)?.into_iter().map(of).collect())
}

/// `POST /runs/whole`, for instructors: puts a run of a file into the record, closed, in a class of its own. The body is the
/// file, of at most 32 MB.
#[utoipa::path(post, path = "/api/v1/runs/whole", request_body(content = Vec<u8>, content_type = "application/zip"),
    responses((status = 200, body = TakenIn), (status = 401, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("/runs/whole")]
pub async fn import_whole(app: web::Data<App>, desk: Desk, body: web::Payload) -> Result<web::Json<TakenIn>, ApiError> {
    let bytes = match body.to_bytes_limited(MOST_BYTES).await {
        Ok(Ok(bytes)) => bytes,
        Ok(Err(_)) => return Err(Invalid::FileCutOff.into()),
        Err(_) => return Err(Invalid::RunFileTooLarge(MOST_BYTES / 1024 / 1024).into()),
    };
    Ok(web::Json(blocking(&app, move |app| take_in(app, &desk, &bytes)).await?))
}

/// Whether what it says could have been said here: names that a screen can show, entries that the bench would take.
fn is_sound(whole: &WholeRun, practical: &Practical) -> Result<(), Invalid> {
    let told = |what: &str, why: &dyn std::fmt::Display| Invalid::RunFile(format!("{what}: {why}"));
    short(&whole.title, "the name of a run").map_err(|e| told("its title", &e))?;
    named(&whole.class, "the name of a class").map_err(|e| told("its class", &e))?;
    if whole.groups.len() > MOST_GROUPS {
        return Err(Invalid::TooManyGroups(MOST_GROUPS));
    }
    for group in &whole.groups {
        named(&group.name, "the name of a group").map_err(|e| told("a group", &e))?;
    }
    for name in whole.people.values().flatten() {
        one_line(name, roster::LONGEST_NAME).ok_or_else(|| told("a person", &"a name that no screen can show"))?;
    }
    let room = Room::of(whole.room.clone());
    for (event, nr) in whole.events.iter().zip(1..) {
        if let Statement::Bench(entry) = &event.said.statement {
            accepted(practical, &room, entry.clone())
                .map_err(|e| told(&format!("its event {nr}"), &ApiError::from(e)))?;
        }
    }
    Ok(())
}

fn take_in(app: &App, desk: &Desk, bytes: &[u8]) -> Result<TakenIn, ApiError> {
    let mut parts = unzipped(bytes)?;
    let mut part = |name: &'static str| parts.remove(name).ok_or(Invalid::RunFileLacks(name));
    let (json, text) = (part(RUN)?, part(PRACTICAL)?);
    // What a later version wrote is told as such, before its shape is looked at.
    let format: Formatted = serde_json::from_slice(&json).map_err(|e| Invalid::RunFile(e.to_string()))?;
    if format.format != WHOLE_FORMAT {
        return Err(Invalid::RunFileFormat { found: format.format, known: WHOLE_FORMAT }.into());
    }
    let whole: WholeRun = serde_json::from_slice(&json).map_err(|e| Invalid::RunFile(e.to_string()))?;
    if let Some(event) = whole.broken_at()? {
        return Err(Invalid::RunFileBroken(event).into());
    }
    let text = String::from_utf8(text).map_err(|_| Invalid::RunFile("its practical is not text in UTF-8".into()))?;
    let practical = Practical::parse_in(&text, &whole.school);
    let practical = practical.map_err(|e| Invalid::RunFile(format!("its practical has errors: {e}")))?;
    if practical.file.id != whole.practical {
        return Err(Invalid::RunFile("its practical is another one than it says".into()).into());
    }
    is_sound(&whole, &practical)?;
    let wanted = photos(&whole);
    let mut pictures = Vec::new();
    for name in &wanted {
        let jpeg = parts
            .remove(&format!("{PHOTOS}{name}.jpg"))
            .ok_or(Invalid::RunFile(format!("the photo {name} is missing")))?;
        pictures.push(jpeg);
    }
    let (figures, labels) = (whole.figures.clone(), practical);
    let taken = app.store.codes()?;
    let _turn = app.photos.turn();
    for (name, jpeg) in wanted.iter().zip(&pictures) {
        app.photos.keep_as_it_came(name, jpeg)?;
    }
    let run = app.store.take_in(whole, text, free_code(&taken)?, desk.person.id, app.clock.now());
    if run.is_err() {
        for name in &wanted {
            super::pictures::drop_unless_kept(app, name)?;
        }
    }
    let run = run?;
    let mut otherwise = Vec::new();
    let groups = app.store.groups(run.id)?;
    for ((then, now), group) in figures.iter().zip(self::figures(app, &run)?).zip(&groups) {
        let names: BTreeSet<&String> = then.keys().chain(now.keys()).collect();
        for name in names {
            let of = |m: &BTreeMap<String, String>| m.get(name).cloned().unwrap_or_default();
            if of(then) != of(&now) {
                let label = labels.result(name).map_or_else(|| name.clone(), |r| r.label.clone());
                let (then, now) = (of(then), of(&now));
                otherwise.push(FigureOtherwise { group: group.name.clone(), label, then, now });
            }
        }
    }
    Ok(TakenIn { run: run.id, otherwise })
}
