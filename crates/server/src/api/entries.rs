//! The doors for everything that is entered: by a group's device, and by an instructor for a group. Acknowledged means
//! on disk.

use crate::access::{Bench, DeskRun};
use crate::api::acts::{Kept, append, at_the_desk};
use crate::api::views::{Reviews, seated_at};
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::line::one_line;
use crate::problem::{ApiError, Problem};
use actix_web::{post, web};
use lab::bench::{Actor, Entry, Taken, accepted, may_replace};
use lab::sheets::may_answer;
use practical::Practical;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use store::{Group, NewEvent, Run, Said, Statement};
use utoipa::ToSchema;
use uuid::Uuid;

/// How far a device's clock may stand off before a time is marked as doubtful.
const DOUBT_MS: i64 = 2_000;
/// Within this time of an entry, its correction is a slip of the finger and needs no reason.
const AT_ONCE_MS: i64 = 60_000;
const LONGEST_REASON: usize = 200;
/// Entries of one group that are kept: a hundred times those of the longest practical.
const MOST_ENTRIES: usize = 10_000;

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
    entry: Entry,
    /// The entry that this corrects.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    supersedes: Option<Uuid>,
    /// Why it is corrected; needed with `supersedes` unless it follows within a minute.
    #[serde(default)]
    reason: Option<String>,
    /// Which student of the group says so.
    #[serde(default)]
    person: Option<i64>,
    /// When it was entered, ms, by the device's clock set by its last contact.
    taken_at: i64,
    /// The device's last contact before that, ms of the server.
    #[serde(default)]
    last_contact: i64,
}

/// What an instructor enters for a group.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DeskEntry {
    /// UUIDv7, made by the page: sent again, it is stored once.
    #[schema(value_type = String)]
    id: Uuid,
    /// What is entered, corrected or taken out.
    entry: Entry,
    /// The entry that this corrects or takes out.
    #[serde(default)]
    #[schema(value_type = Option<String>)]
    supersedes: Option<Uuid>,
    /// Why; needed for what is corrected or taken out.
    #[serde(default)]
    reason: Option<String>,
}

/// Readings that a group goes on with, though they are not its own.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Borrowing {
    /// The group that lends them; the practical's trial run if none.
    #[serde(default)]
    from: Option<i64>,
    /// Symbols of the readings; all that the group lacks if empty.
    #[serde(default)]
    symbols: Vec<String>,
}

/// How many readings were borrowed.
#[derive(Debug, Serialize, ToSchema)]
pub struct Borrowed {
    /// Their symbols, in bench order.
    symbols: Vec<String>,
}

/// `POST /bench/entries`, for a device of a group: keeps one entry. Acknowledged means on disk.
#[utoipa::path(post, path = "/api/v1/bench/entries", request_body = NewEntry,
    responses((status = 200, body = Kept), (status = 401, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem),
        (status = 429, body = Problem)))]
#[post("/bench/entries")]
pub async fn enter(app: web::Data<App>, bench: Bench, body: web::Json<NewEntry>) -> Result<web::Json<Kept>, ApiError> {
    app.limits.count_entry(bench.own.id)?;
    let kept = blocking(&app, move |app| {
        let new = body.into_inner();
        // A group that goes on at another one's bench may still hold entries of its own.
        let group = [&bench.group, &bench.own].into_iter().find(|g| g.id == new.group);
        let group = group.ok_or(ApiError::NotAllowed("this entry was made for another group; it was not taken"))?;
        if new.entry.is_for_the_desk() {
            return Err(ApiError::NotAllowed("only an instructor takes readings out, or lends them"));
        }
        keep(app, &bench, group, new)
    })
    .await?;
    Ok(web::Json(kept))
}

/// `POST /runs/{run}/groups/{group}/entries`, for instructors: enters, corrects or takes out for a group, with a reason.
#[utoipa::path(post, path = "/api/v1/runs/{run}/groups/{group}/entries", request_body = DeskEntry,
    params(("run" = i64, Path), ("group" = i64, Path)),
    responses((status = 200, body = Kept), (status = 401, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
#[post("/runs/{run}/groups/{group}/entries")]
pub async fn enter_for(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, i64)>,
    body: web::Json<DeskEntry>,
) -> Result<web::Json<Kept>, ApiError> {
    let kept = blocking(&app, move |app| {
        let group = desk.group(app, path.1)?;
        let DeskEntry { id, entry, supersedes, reason: why } = body.into_inner();
        let entry = taken_in(app, &*app.practical_of(&desk.run)?, entry)?;
        // What a student wrote on paper is that student's own, and goes when the name goes.
        let person = match &entry {
            Entry::Answer { by, .. } => *by,
            _ => None,
        };
        if let Some(person) = person
            && !seated_at(app, desk.run.id, person, &[group.id])?
        {
            return Err(ApiError::NotFound("person in this group"));
        }
        let changes = supersedes.is_some() || matches!(entry, Entry::Struck { .. });
        let now = app.clock.now();
        let said = Said { reason: reason(why, changes)?, person, ..Said::at(now, Statement::Bench(entry)) };
        append(app, NewEvent { supersedes, ..at_the_desk(&desk, id, group.id, said, now) })
    })
    .await?;
    Ok(web::Json(kept))
}

/// `POST /runs/{run}/groups/{group}/borrow`, for instructors: lets a group whose work is spoiled go on with readings of
/// another group, or of the trial run. They are labelled as such wherever they stand.
#[utoipa::path(post, path = "/api/v1/runs/{run}/groups/{group}/borrow", request_body = Borrowing,
    params(("run" = i64, Path), ("group" = i64, Path)),
    responses((status = 200, body = Borrowed), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[post("/runs/{run}/groups/{group}/borrow")]
pub async fn borrow(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, i64)>,
    body: web::Json<Borrowing>,
) -> Result<web::Json<Borrowed>, ApiError> {
    let borrowed = blocking(&app, move |app| {
        let group = desk.group(app, path.1)?;
        let practical = app.practical_of(&desk.run)?;
        let Borrowing { from, symbols } = body.into_inner();
        let (lender, lent) = lent(app, &desk, &practical, &group, from)?;
        let own = readings_of(app, &desk.run, &group)?;
        let wanted = |symbol: &String| {
            if symbols.is_empty() { !own.contains_key(symbol) } else { symbols.contains(symbol) }
        };
        let mut taken = Vec::new();
        for slot in practical.slots() {
            let Some(text) = lent.get(&slot.symbol).filter(|_| wanted(&slot.symbol)) else { continue };
            let reading = Taken {
                symbol: slot.symbol.clone(),
                text: text.clone(),
                unit: slot.reading.unit.written().to_owned(),
                borrowed: Some(lender.clone()),
                ..Taken::default()
            };
            let now = app.clock.now();
            let entry = taken_in(app, &practical, Entry::Reading(reading))?;
            let said = Said::at(now, Statement::Bench(entry));
            append(app, at_the_desk(&desk, Uuid::now_v7(), group.id, said, now))?;
            taken.push(slot.symbol);
        }
        if taken.is_empty() {
            return Err(Invalid::NothingToLend { lender, borrower: group.name }.into());
        }
        Ok(Borrowed { symbols: taken })
    })
    .await?;
    Ok(web::Json(borrowed))
}

/// Who lends, and the readings there.
fn lent(
    app: &App,
    desk: &DeskRun,
    practical: &Practical,
    to: &Group,
    from: Option<i64>,
) -> Result<(String, BTreeMap<String, String>), ApiError> {
    let Some(id) = from else {
        let trial = practical.file.trial_run.as_ref();
        let trial = trial.ok_or(ApiError::NotFound("trial run in this practical"))?;
        return Ok(("the trial run".into(), trial.readings.clone()));
    };
    let lender = desk.group(app, id)?;
    if lender.id == to.id {
        return Err(Invalid::LendsToItself.into());
    }
    let readings = readings_of(app, &desk.run, &lender)?;
    Ok((lender.name, readings))
}

fn readings_of(app: &App, run: &Run, group: &Group) -> Result<BTreeMap<String, String>, ApiError> {
    Ok(app.store.bench(run.id, group.id)?.current(&app.store.room_of(run.id)?).readings)
}

/// Through the one door for everything that is typed. A photo is no typing: it comes with its file, so that nobody can
/// name a picture of another group and then look at it.
pub fn taken_in(app: &App, practical: &Practical, entry: Entry) -> Result<Entry, ApiError> {
    if matches!(entry, Entry::Photo { .. }) {
        return Err(ApiError::NotAllowed("a photo is sent as a file, to its own address"));
    }
    Ok(accepted(practical, &app.store.room()?, entry)?)
}

fn keep(app: &App, bench: &Bench, group: &Group, new: NewEntry) -> Result<Kept, ApiError> {
    let mut entry = taken_in(app, &*app.practical_of(&bench.run)?, new.entry)?;
    // What stands is read, and the entry appended, before the next one of this group is looked at.
    let _turn = app.turns.of(group.id);
    let record = app.store.bench(bench.run.id, group.id)?;
    if record.filed().len() >= MOST_ENTRIES && record.entry(new.id).is_none() {
        return Err(Invalid::TooManyEntries(MOST_ENTRIES).into());
    }
    if let Entry::Reading(taken) = &mut entry {
        // What an instrument did not send was typed. An entry that comes once more is the one that was kept.
        if let Some(Entry::Reading(kept)) = record.entry(new.id).map(|kept| &kept.entry) {
            taken.sent = kept.sent;
        } else {
            taken.sent &= taken.on.as_deref().is_some_and(|on| app.instruments.has_sent(on, &taken.text));
        }
    }
    if let Some(person) = new.person
        && !seated_at(app, bench.run.id, person, &[bench.own.id, bench.group.id])?
    {
        return Err(ApiError::NotFound("person in this group"));
    }
    if let Entry::Answer { by, .. } = &entry {
        let reviews = Reviews::of(app, bench.run.id)?;
        let given = reviews.given(group.id, *by).map(|(_, given)| given);
        may_answer(&*app.practical_of(&bench.run)?, &record, &entry, new.person, given)?;
    }
    let now = app.clock.now();
    // Entered after the last contact and before it arrived here: that much is certain whatever the clock says.
    let earliest = new.last_contact.clamp(bench.session.created_at.min(now), now);
    let taken_at = new.taken_at.clamp(earliest, now);
    may_replace(&record, new.id, &entry, new.supersedes, earliest)?;
    let at_once = match new.supersedes {
        Some(corrected) => {
            // What an instructor entered is not a slip of this group's finger.
            record.entry(corrected).is_some_and(|before| {
                matches!(before.actor, Actor::Device(_)) && (0..AT_ONCE_MS).contains(&(taken_at - before.at))
            })
        }
        None => true,
    };
    append(
        app,
        NewEvent {
            id: new.id,
            run: bench.run.id,
            group: Some(group.id),
            actor: bench.actor(),
            supersedes: new.supersedes,
            said: Said {
                statement: Statement::Bench(entry),
                reason: reason(new.reason, !at_once)?,
                taken_at,
                about: (taken_at - new.taken_at).abs() > DOUBT_MS,
                person: new.person,
            },
            received_at: now,
        },
    )
}

fn reason(given: Option<String>, needed: bool) -> Result<Option<String>, Invalid> {
    let given = given.filter(|r| !r.trim().is_empty());
    match given {
        None if needed => Err(Invalid::NoReason),
        None => Ok(None),
        Some(text) => {
            let line = one_line(&text, LONGEST_REASON);
            line.map(Some).ok_or(Invalid::TooLong { what: "a reason", most: LONGEST_REASON })
        }
    }
}
