//! Finding something again, among what somebody may see.

use super::{NoteView, notes};
use crate::access::Desk;
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{get, web};
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet};
use utoipa::{IntoParams, ToSchema};

/// Most that is shown of one kind.
const MOST_FOUND: usize = 20;

/// What is looked for.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Sought {
    /// Words that all have to be there, in any order.
    q: String,
}

/// A run that was found.
#[derive(Debug, Serialize, ToSchema)]
pub struct FoundRun {
    /// Its number.
    run: i64,
    /// What it is called.
    title: String,
    /// Its class.
    class: String,
    /// In ms.
    opened_at: i64,
    /// It was put away.
    archived: bool,
}

/// A group that was found.
#[derive(Debug, Serialize, ToSchema)]
pub struct FoundGroup {
    /// The run.
    run: i64,
    /// The group.
    group: i64,
    /// Its name.
    name: String,
    /// What its run is called.
    title: String,
    /// Its class.
    class: String,
}

/// A person that was found.
#[derive(Debug, Serialize, ToSchema)]
pub struct FoundPerson {
    /// The number.
    person: i64,
    /// The name.
    name: String,
    /// Their class.
    class: String,
}

/// A practical that was found.
#[derive(Debug, Serialize, ToSchema)]
pub struct FoundPractical {
    /// Its id.
    id: String,
    /// Its title.
    title: String,
}

/// Everything that holds the words looked for, the newest first.
#[derive(Debug, Default, Serialize, ToSchema)]
pub struct Found {
    /// Practicals.
    practicals: Vec<FoundPractical>,
    /// Runs.
    runs: Vec<FoundRun>,
    /// Groups.
    groups: Vec<FoundGroup>,
    /// People of classes that the searcher may see.
    people: Vec<FoundPerson>,
    /// Notes for the next class.
    notes: Vec<NoteView>,
}

/// `GET /search?q=`, for instructors: among what they may see.
#[utoipa::path(get, path = "/api/v1/search", params(Sought),
    responses((status = 200, body = Found), (status = 401, body = Problem)))]
#[get("/search")]
pub async fn search(app: web::Data<App>, desk: Desk, wanted: web::Query<Sought>) -> Result<web::Json<Found>, ApiError> {
    let words: Vec<String> =
        wanted.q.chars().take(80).collect::<String>().to_lowercase().split_whitespace().map(str::to_owned).collect();
    let found = blocking(
        &app,
        move |app| if words.is_empty() { Ok(Found::default()) } else { find(app, desk.person.id, &words) },
    );
    Ok(web::Json(found.await?))
}

fn find(app: &App, me: i64, words: &[String]) -> Result<Found, ApiError> {
    let holds = |texts: &[&str]| {
        let all = texts.join(" ").to_lowercase();
        words.iter().all(|w| all.contains(w))
    };
    let classes = app.store.classes(me)?;
    let mine: BTreeSet<i64> = classes.iter().map(|k| k.id).collect();
    let runs: Vec<_> = app.store.runs()?.into_iter().filter(|r| mine.contains(&r.class_id)).collect();
    let mut titles = BTreeMap::new();
    for run in &runs {
        titles.insert(run.id, app.title_of(run)?);
    }
    let mut found = Found::default();
    for run in &runs {
        let title = &titles[&run.id];
        if holds(&[title, &run.class, &run.code]) {
            let (class, opened_at) = (run.class.clone(), run.opened_at);
            found.runs.push(FoundRun {
                run: run.id,
                title: title.clone(),
                class,
                opened_at,
                archived: run.archived_at.is_some(),
            });
        }
    }
    for (run, group, name) in app.store.group_names()?.into_iter().rev() {
        let Some(of) = runs.iter().find(|r| r.id == run) else { continue };
        if holds(&[&name]) {
            found.groups.push(FoundGroup { run, group, name, title: titles[&run].clone(), class: of.class.clone() });
        }
    }
    for class in &classes {
        for person in app.store.members(class.id)? {
            if holds(&[&person.name]) {
                found.people.push(FoundPerson { person: person.id, name: person.name, class: class.name.clone() });
            }
        }
    }
    for kept in app.store.practicals()? {
        let title = app.practical(&kept.id, kept.version, &practical::School::default())?.file.title.clone();
        if holds(&[&title, &kept.id]) {
            found.practicals.push(FoundPractical { id: kept.id, title });
        }
    }
    found.notes = notes(app, me)?.into_iter().filter(|n| holds(&[&n.text])).collect();
    found.practicals.truncate(MOST_FOUND);
    found.runs.truncate(MOST_FOUND);
    found.groups.truncate(MOST_FOUND);
    found.people.truncate(MOST_FOUND);
    found.notes.truncate(MOST_FOUND);
    Ok(found)
}
