//! A group's own bench: what to do, what stands there, and the door for new entries.
//!
//! A group sees its own readings and what is odd about them; never another group's, never a recomputed result or a
//! verdict that was not released.

use crate::access::Bench;
use crate::api::board::{Entered, entered};
use crate::api::plan::ReadingSpec;
use crate::app::{App, blocking};
use crate::live::Change;
use crate::problem::{ApiError, Problem};
use actix_web::{get, post, web};
use lab::group::{Entries, recompute};
use lab::judge::{Doneness, Finding, possible};
use lab::practical::Practical;
use lab::practical::file::{Disclosed, Judgement, Step};
use measure::Decimal;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use store::{NewEvent, Said, Statement};
use utoipa::ToSchema;
use uuid::Uuid;

/// How far a device's clock may stand off before a time is marked as doubtful.
const DOUBT_MS: i64 = 2_000;
const LONGEST_REASON: usize = 200;

/// The bench of one group.
#[derive(Debug, Serialize, ToSchema)]
pub struct BenchView {
    /// Title of the practical.
    title: String,
    /// The class.
    class: String,
    /// Id of the group; an entry says for which one it was made.
    group_id: i64,
    /// Name of the group.
    group: String,
    /// What the run is joined with.
    code: String,
    /// For a second device of the group.
    pin: String,
    /// Closed to new entries.
    closed: bool,
    /// In order.
    steps: Vec<Step>,
    /// In bench order.
    readings: Vec<ReadingSpec>,
    /// In bench order.
    observations: Vec<ToObserve>,
    /// What is asked for.
    asked: Vec<Asked>,
    /// Readings entered, by symbol.
    entered: BTreeMap<String, Entered>,
    /// Observations made, by symbol.
    observed: BTreeMap<String, Entered>,
    /// Answers sent, by result.
    answered: BTreeMap<String, Entered>,
    /// What is odd about a reading, by symbol.
    findings: BTreeMap<String, Vec<Finding>>,
    /// Whether repeats agree, by step, as far as the practical lets it be told at the bench.
    doneness: Vec<Doneness>,
    /// Steps done, counted from 0.
    steps_done: Vec<u32>,
    /// The last event that is in here.
    seq: i64,
    /// The server's time, ms.
    now: i64,
}

/// Something to look at; what is expected is not told.
#[derive(Debug, Serialize, ToSchema)]
pub struct ToObserve {
    /// Its name.
    symbol: String,
    /// As the group is asked.
    question: String,
    /// What can be seen.
    choices: Vec<String>,
}

/// Something to work out; what comes out is not told.
#[derive(Debug, Serialize, ToSchema)]
pub struct Asked {
    /// Its name.
    name: String,
    /// In words.
    label: String,
    /// Units to choose from.
    units: Vec<String>,
}

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
    entry: EntryBody,
    /// The entry that this corrects.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    supersedes: Option<Uuid>,
    /// Why it is corrected; needed with `supersedes`.
    #[serde(default)]
    reason: Option<String>,
    /// When it was entered, ms, by the device's clock set by its last contact.
    taken_at: i64,
    /// The device's last contact before that, ms of the server.
    #[serde(default)]
    last_contact: i64,
}

/// What a group can enter.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum EntryBody {
    /// A reading, as typed.
    Reading {
        /// Which one.
        symbol: String,
        /// As typed.
        text: String,
        /// Its unit.
        unit: String,
    },
    /// Something seen.
    Observation {
        /// Which one.
        symbol: String,
        /// One of the choices.
        choice: String,
    },
    /// A result worked out.
    Answer {
        /// Which one.
        result: String,
        /// As typed.
        text: String,
        /// The unit chosen; empty if none.
        unit: String,
    },
    /// A step done, or taken back.
    Step {
        /// Counted from 0.
        step: u32,
        /// Done or not.
        done: bool,
    },
}

/// An entry is on disk.
#[derive(Debug, Serialize, ToSchema)]
pub struct Kept {
    /// The record's sequence number.
    seq: i64,
    /// Whether it was there already.
    again: bool,
}

/// `GET /bench`, for a device of a group: its own bench.
#[utoipa::path(get, path = "/api/v1/bench", responses((status = 200, body = BenchView), (status = 401, body = Problem)))]
#[get("/bench")]
pub async fn show_bench(app: web::Data<App>, bench: Bench) -> Result<web::Json<BenchView>, ApiError> {
    Ok(web::Json(blocking(&app, move |app| view(app, bench)).await?))
}

fn view(app: &App, bench: Bench) -> Result<BenchView, ApiError> {
    let practical = app.practical_of(&bench.run)?;
    let seq = app.store.last_seq(bench.run.id)?;
    let state = app.store.bench(bench.run.id, bench.group.id)?;
    let observe = |o: &lab::practical::file::Observation| ToObserve {
        symbol: o.symbol.clone(),
        question: o.question.clone(),
        choices: o.choices.clone(),
    };
    let asked = practical.results.iter().filter(|r| r.asked).map(|r| Asked {
        name: r.name.clone(),
        label: r.label.clone(),
        units: r.units.iter().map(|u| u.written().to_owned()).collect(),
    });
    let current = state.current();
    let outcome = recompute(&practical, &current);
    Ok(BenchView {
        title: practical.file.title.clone(),
        class: bench.run.class,
        code: bench.run.code,
        group_id: bench.group.id,
        group: bench.group.name,
        pin: bench.group.pin,
        closed: bench.run.closed_at.is_some(),
        steps: practical.bench_steps(),
        readings: practical.slots().iter().map(ReadingSpec::of).collect(),
        observations: practical.observations.iter().map(observe).collect(),
        asked: asked.collect(),
        entered: entered(&state.entries, "reading"),
        observed: entered(&state.entries, "observation"),
        answered: entered(&state.entries, "answer"),
        doneness: told(&practical, outcome.doneness, &current),
        findings: outcome.findings,
        steps_done: state.steps_done(),
        seq,
        now: app.clock.now(),
    })
}

/// `POST /bench/entries`, for a device of a group: keeps one entry. Acknowledged means on disk.
#[utoipa::path(post, path = "/api/v1/bench/entries", request_body = NewEntry,
    responses((status = 200, body = Kept), (status = 401, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("/bench/entries")]
pub async fn enter(app: web::Data<App>, bench: Bench, body: web::Json<NewEntry>) -> Result<web::Json<Kept>, ApiError> {
    let kept = blocking(&app, move |app| {
        let new = body.into_inner();
        if new.group != bench.group.id {
            return Err(ApiError::NotAllowed("this entry was made for another group; it was not taken"));
        }
        let statement = statement(&*app.practical_of(&bench.run)?, new.entry)?;
        let reason = reason(new.reason, new.supersedes.is_some())?;
        let now = app.clock.now();
        // Entered after the last contact and before it arrived here: that much is certain whatever the clock says.
        let earliest = new.last_contact.clamp(bench.session.created_at, now);
        let taken_at = new.taken_at.clamp(earliest, now);
        let about = (taken_at - new.taken_at).abs() > DOUBT_MS;
        let appended = app.store.append(NewEvent {
            id: new.id,
            run: bench.run.id,
            group: Some(bench.group.id),
            actor: bench.actor(),
            supersedes: new.supersedes,
            said: Said { statement, reason, taken_at, about },
            received_at: now,
        })?;
        app.live.tell(bench.run.id, Change { group: Some(bench.group.id) });
        Ok(Kept { seq: appended.seq, again: appended.again })
    })
    .await?;
    Ok(web::Json(kept))
}

/// What may be told now: at once unless the practical says otherwise.
fn told(practical: &Practical, found: Vec<Doneness>, entries: &Entries) -> Vec<Doneness> {
    let answered = practical.results.iter().filter(|r| r.asked).all(|r| entries.answers.contains_key(&r.name));
    let may = |d: &Doneness| {
        let judgement = match d {
            Doneness::TitresAgree { .. } | Doneness::OneMore { .. } => Judgement::Concordance,
            Doneness::ConstantMass { .. } | Doneness::OnceAgain { .. } => Judgement::Dryness,
        };
        match practical.file.disclosure.get(&judgement).unwrap_or(&Disclosed::Before) {
            Disclosed::Before => true,
            Disclosed::AfterAnswer => answered,
            Disclosed::Instructor => false,
        }
    };
    found.into_iter().filter(may).collect()
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

/// The entry checked against the practical: it names something that is there and could be so.
fn statement(practical: &Practical, entry: EntryBody) -> Result<Statement, ApiError> {
    match entry {
        EntryBody::Reading { symbol, text, unit } => {
            let reading = practical.reading(&symbol).ok_or(ApiError::NotFound("reading"))?;
            if unit.trim() != reading.unit.written() {
                let wanted = reading.unit.written();
                return Err(ApiError::Invalid(format!(
                    "{} is read in {wanted}, not in '{}'",
                    reading.label,
                    short(&unit)
                )));
            }
            possible(reading, &text).map_err(ApiError::Invalid)?;
            Ok(Statement::Reading { symbol, text: text.trim().to_owned(), unit: reading.unit.written().to_owned() })
        }
        EntryBody::Observation { symbol, choice } => {
            let observation = practical.observation(&symbol).ok_or(ApiError::NotFound("observation"))?;
            if !observation.choices.contains(&choice) {
                return Err(ApiError::Invalid(format!("'{}' is none of the choices", short(&choice))));
            }
            Ok(Statement::Observation { symbol, choice })
        }
        EntryBody::Answer { result, text, unit } => {
            let asked = practical.result(&result).filter(|r| r.asked).ok_or(ApiError::NotFound("result"))?;
            Decimal::parse(&text).map_err(|e| ApiError::Invalid(format!("{}: {e}", asked.label)))?;
            let unit = unit.trim();
            if !unit.is_empty() && !asked.units.iter().any(|u| u.written() == unit) {
                return Err(ApiError::Invalid(format!("'{}' is none of the units offered", short(unit))));
            }
            Ok(Statement::Answer { result, text: text.trim().to_owned(), unit: unit.to_owned() })
        }
        EntryBody::Step { step, done } => {
            if step as usize >= practical.steps.len() {
                return Err(ApiError::NotFound("step"));
            }
            Ok(Statement::Step { step, done })
        }
    }
}

fn short(text: &str) -> String {
    text.chars().take(30).collect()
}
