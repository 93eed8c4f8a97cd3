//! One student over all practicals. It is read from the record when it is asked for, and kept nowhere: erased with the person.

use crate::access::Desk;
use crate::api::views::{Reviews, at_work, sheets};
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{get, web};
use lab::check::Stands;
use practical::slip::Slip;
use serde::Serialize;
use std::collections::{BTreeMap, BTreeSet};
use store::Run;
use utoipa::ToSchema;

/// One answer of a student, or of the group that the student worked in.
#[derive(Debug, Serialize, ToSchema)]
pub struct StudentAnswer {
    /// What was asked.
    label: String,
    /// The number or words.
    text: String,
    /// With its unit.
    unit: String,
    /// What it is worth, in one word.
    stands: Option<Stands>,
    /// Slips that were named.
    slips: Vec<Slip>,
    /// Marks that hold.
    marks: Option<f64>,
    /// Of so many.
    most: f64,
}

/// One run in a student's record.
#[derive(Debug, Serialize, ToSchema)]
pub struct StudentRun {
    /// Its number.
    run: i64,
    /// What it is called.
    title: String,
    /// In ms.
    opened_at: i64,
    /// The group that the student worked in last.
    group: i64,
    /// Its name.
    group_name: String,
    /// The answers are the student's own, not the group's.
    own: bool,
    /// In the order in which they are asked.
    answers: Vec<StudentAnswer>,
}

/// One student over all practicals.
#[derive(Debug, Serialize, ToSchema)]
pub struct StudentView {
    /// The number.
    person: i64,
    /// The name.
    name: String,
    /// The classes.
    classes: Vec<String>,
    /// The newest first.
    runs: Vec<StudentRun>,
    /// Slips that came more than once, the commonest first.
    again: Vec<SlipAgain>,
}

/// A slip that comes back.
#[derive(Debug, Serialize, ToSchema)]
pub struct SlipAgain {
    /// Which.
    slip: Slip,
    /// In how many answers.
    times: usize,
}

/// `GET /people/{person}`, for instructors who see a class of theirs.
#[utoipa::path(get, path = "/api/v1/people/{person}", params(("person" = i64, Path)),
    responses((status = 200, body = StudentView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/people/{person}")]
pub async fn show_student(
    app: web::Data<App>,
    desk: Desk,
    person: web::Path<i64>,
) -> Result<web::Json<StudentView>, ApiError> {
    Ok(web::Json(blocking(&app, move |app| student(app, &desk, *person)).await?))
}

fn student(app: &App, desk: &Desk, person: i64) -> Result<StudentView, ApiError> {
    let classes = app.store.classes(desk.person.id)?;
    let mut of = Vec::new();
    let mut name = None;
    for class in &classes {
        if let Some(found) = app.store.members(class.id)?.into_iter().find(|p| p.id == person) {
            name = Some(found.name);
            of.push(class.name.clone());
        }
    }
    let name = name.ok_or(ApiError::NotFound("student"))?;
    let mine: BTreeSet<i64> = classes.iter().map(|k| k.id).collect();
    let mut runs = Vec::new();
    for run in app.store.runs()?.into_iter().filter(|r| mine.contains(&r.class_id)) {
        let seats = app.store.seats(run.id)?;
        let Some(group) = seats.iter().filter(|s| s.person == person).max_by_key(|s| s.visit).and_then(|s| s.group)
        else {
            continue;
        };
        runs.push(student_run(app, &run, person, group)?);
    }
    let mut counted: BTreeMap<Slip, usize> = BTreeMap::new();
    for slip in runs.iter().flat_map(|r| &r.answers).flat_map(|a| a.slips.iter().collect::<BTreeSet<_>>()) {
        *counted.entry(*slip).or_default() += 1;
    }
    let mut again: Vec<SlipAgain> =
        counted.into_iter().filter(|(_, n)| *n > 1).map(|(slip, times)| SlipAgain { slip, times }).collect();
    again.sort_by_key(|s| std::cmp::Reverse(s.times));
    Ok(StudentView { person, name, classes: of, runs, again })
}

fn student_run(app: &App, run: &Run, person: i64, group: i64) -> Result<StudentRun, ApiError> {
    let practical = app.practical_of(run)?;
    let room = app.store.room_of(run.id)?;
    let sat_at = app.store.group(group)?;
    // What a group did after it went on at another bench stands there.
    let group = sat_at.merged_into.map_or(Ok(sat_at), |other| app.store.group(other))?;
    let bench = at_work(app, run, &group, &room)?;
    let sheets = sheets(app, run, &bench, &room, &Reviews::of(app, run.id)?)?;
    let own = sheets.iter().find(|s| s.person == Some(person));
    let sheet = own.or_else(|| sheets.iter().find(|s| s.person.is_none()));
    let answers = practical.results.iter().filter(|r| r.asked).filter_map(|asked| {
        let (sheet, answer) = (sheet?, sheet?.answers.get(&asked.name)?);
        let verdict = sheet.verdicts.get(&asked.name);
        Some(StudentAnswer {
            label: asked.label.clone(),
            text: answer.text.clone(),
            unit: answer.unit.clone(),
            stands: verdict.map(|v| v.stands),
            slips: verdict.map_or_else(Vec::new, lab::check::Verdict::slips),
            marks: sheet.given.get(&asked.name).copied(),
            most: asked.marks.most(),
        })
    });
    Ok(StudentRun {
        title: app.title_of(run)?,
        run: run.id,
        opened_at: run.opened_at,
        group: group.id,
        group_name: group.name,
        own: own.is_some(),
        answers: answers.collect(),
    })
}
