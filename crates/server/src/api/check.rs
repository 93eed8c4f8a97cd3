//! Checking the groups' sums.

use crate::access::DeskRun;
use crate::api::acts::at_the_desk;
use crate::api::views::{
    GroupAtWork, ReadingSpec, ResultSpec, Reviews, Row, RunHead, SheetView, at_work, groups_at_work, result_specs,
    run_head, sheet_key, sheet_name, sheets,
};
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::line::one_line;
use crate::live::Change;
use crate::problem::{ApiError, Problem};
use actix_web::{HttpResponse, get, post, web};
use lab::bench::{Place, answer_place};
use lab::cohort::{Cohort, Member, OutlierTest, cohort};
use lab::evaluated::{Evaluated, FormulasAllowed};
use lab::judge::{Doubt, Effect, Needed};
use lab::marks::{BenchMark, bench_marks};
use lab::roll::{current_visit, seated};
use lab::sheets::Ruling;
use measure::Decimal;
use practical::file::{AnswerKind, AnswersOf};
use practical::slip::Slip;
use practical::{Practical, School};
use serde::{Deserialize, Serialize};
use sheet::Line;
use std::collections::BTreeMap;
use store::{NewEvent, Release, Review, RunStatement, Said, Statement};
use utoipa::ToSchema;
use uuid::Uuid;

/// Most reviews in one request: a class of thirty with ten results each.
const MOST_REVIEWS: usize = 600;
const LONGEST_COMMENT: usize = 300;
/// Remarks that are offered again.
const REMARKS: usize = 12;

/// All answers of a run beside the recomputed values.
#[derive(Debug, Serialize, ToSchema)]
pub struct CheckView {
    /// The run.
    run: RunHead,
    /// Results that groups were asked for.
    results: Vec<ResultSpec>,
    /// Sheets of answers, in bench order.
    sheets: Vec<SheetView>,
    /// One for each group, in bench order: readings, and where each comes from.
    rows: Vec<Row>,
    /// What symbols and names stand for, in words.
    labels: BTreeMap<String, String>,
    /// The practical's own hints, by slip.
    #[schema(value_type = BTreeMap<String, String>)]
    hints: BTreeMap<Slip, String>,
    /// Where common slips would put each result, as parts of the right value.
    ticks: BTreeMap<String, Vec<SlipTick>>,
    /// What the class says together.
    class: Cohort,
    /// Where left-overs go, in the practical's own words.
    disposal: String,
    /// Everybody who has a sheet or could have one, in bench order.
    answerers: Vec<Answerer>,
    /// Remarks that were made before, the newest first.
    remarks: Vec<String>,
    /// The server's time, ms.
    now: i64,
}

/// A group, or a student of one, from whom answers are asked.
#[derive(Debug, Serialize, ToSchema)]
pub struct Answerer {
    /// As the sheet is called, there or to come.
    pub key: String,
    /// The group.
    pub group: i64,
    /// The student, where each has a sheet.
    pub person: Option<i64>,
    /// Name of the group, and of the student.
    pub name: String,
    /// Marks for the group's work at the bench, answered or not.
    pub bench_marks: Vec<BenchMark>,
}

/// Where a slip would put a result.
#[derive(Debug, Serialize, ToSchema)]
pub struct SlipTick {
    /// Which.
    slip: Slip,
    /// That value over the right one.
    ratio: f64,
}

/// The worked solution of one result from one group's own readings.
#[derive(Debug, Serialize, ToSchema)]
pub struct WorkedView {
    /// By whose choices it was worked: the school's, with what the practical does otherwise.
    school: School,
    /// The definitions that it hangs on, in order, itself last.
    lines: Vec<Line>,
    /// What each definition is called in words.
    labels: BTreeMap<String, String>,
    /// The readings it comes from.
    readings: Vec<ReadingSpec>,
    /// What slips at the bench would do to it.
    effects: Vec<Effect>,
    /// Of a yield: what would follow, had strengths been ten times out or reagents exchanged.
    doubts: Vec<Doubt>,
    /// Of a yield above theory: what each reason for it would need.
    needs: Vec<Needed>,
    /// Formulas that the masses allow, where it is one.
    formulas: Option<FormulasAllowed>,
}

/// Which test says that a value does not belong.
#[derive(Debug, Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub struct CheckQuery {
    /// Grubbs' if none.
    #[serde(default)]
    test: OutlierTest,
}

/// What an instructor says of some answers.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewReviews {
    /// Each with the answer that it is about.
    reviews: Vec<NewReview>,
}

/// What an instructor says of one answer.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewReview {
    /// UUIDv7, made by the page: sent again, it is stored once.
    #[schema(value_type = String)]
    id: Uuid,
    /// The group.
    group: i64,
    /// The student, where each has a sheet.
    #[serde(default)]
    person: Option<i64>,
    /// The result.
    result: String,
    /// The answer.
    #[schema(value_type = String)]
    answer: Uuid,
    /// What holds; none takes back what was said before: then nobody has looked at the answer.
    ruling: Option<Ruling>,
    /// Marks, where they are not those worked out.
    #[serde(default)]
    marks: Option<String>,
    /// For the group to read; needed where another ruling holds than the one worked out.
    #[serde(default)]
    comment: String,
}

/// What is given back.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewRelease {
    /// To which groups; to all that have answered if empty.
    #[serde(default)]
    groups: Vec<i64>,
    /// With the recomputed values.
    with_values: bool,
}

/// How many sheets were given back.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReleasedSheets {
    /// So many.
    sheets: usize,
}

/// `GET /runs/{run}/check`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/check", params(("run" = i64, Path), CheckQuery),
    responses((status = 200, body = CheckView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/check")]
pub async fn show_check(
    app: web::Data<App>,
    desk: DeskRun,
    query: web::Query<CheckQuery>,
) -> Result<web::Json<CheckView>, ApiError> {
    let view = blocking(&app, move |app| {
        let run = &desk.run;
        let practical = app.practical_of(run)?;
        let benches = groups_at_work(app, run)?;
        let head = run_head(app, run, &benches.iter().map(|b| &b.row).collect::<Vec<_>>())?;
        Ok(CheckView {
            results: result_specs(&practical).into_iter().filter(|r| r.asked).collect(),
            sheets: sheets_of(app, &desk, &benches)?,
            answerers: answerers(app, &desk, &practical, &benches)?,
            labels: labels(&practical),
            hints: practical.file.feedback.hints.clone(),
            ticks: ticks(&practical, &benches),
            class: class(app, &desk, &practical, &benches, query.test)?,
            disposal: practical.file.disposal.clone(),
            remarks: app.store.remarks(desk.actor(), REMARKS)?,
            rows: benches.into_iter().map(|b| b.row).collect(),
            run: head,
            now: app.now_in(run),
        })
    })
    .await?;
    Ok(web::Json(view))
}

/// Every sheet of a run, in bench order.
pub fn sheets_of(app: &App, desk: &DeskRun, benches: &[GroupAtWork]) -> Result<Vec<SheetView>, ApiError> {
    let reviews = Reviews::of(app, desk.run.id)?;
    let room = app.store.room_of(desk.run.id)?;
    let mut out = Vec::new();
    for bench in benches.iter().filter(|b| b.row.merged_into.is_none()) {
        out.extend(sheets(app, &desk.run, bench, &room, &reviews)?);
    }
    Ok(out)
}

/// Groups, or everybody who sits at a bench now or has answered there.
pub fn answerers(
    app: &App,
    desk: &DeskRun,
    practical: &Practical,
    benches: &[GroupAtWork],
) -> Result<Vec<Answerer>, ApiError> {
    let each = practical.file.feedback.answers_of == AnswersOf::Student;
    let visit = current_visit(&app.store.visits(desk.run.id)?, app.clock.now());
    let seats = if each { seated(&app.store.seats(desk.run.id)?, visit) } else { Vec::new() };
    let mut out = Vec::new();
    for bench in benches.iter().filter(|b| b.row.merged_into.is_none()) {
        let row = &bench.row;
        let marks = bench_marks(&bench.practical, &bench.entries, &row.outcome);
        let mut people: Vec<Option<i64>> = if each {
            let here = seats.iter().filter(|s| s.group == Some(row.group)).map(|s| Some(s.person));
            here.chain(row.answers.keys().filter_map(|slot| answer_place(slot).1).map(Some)).collect()
        } else {
            vec![None]
        };
        people.sort_unstable();
        people.dedup();
        for person in people {
            let name = sheet_name(app, &row.name, person)?;
            let key = sheet_key(row.group, person);
            out.push(Answerer { key, group: row.group, person, name, bench_marks: marks.clone() });
        }
    }
    Ok(out)
}

/// The bench of one group as it is now.
fn bench_of(app: &App, desk: &DeskRun, group: i64) -> Result<GroupAtWork, ApiError> {
    at_work(app, &desk.run, &desk.group(app, group)?, &app.store.room_of(desk.run.id)?)
}

/// What symbols of readings and materials and names of definitions stand for.
fn labels(practical: &Practical) -> BTreeMap<String, String> {
    let materials = practical.materials.iter().map(|m| (m.symbol.clone(), m.name.clone()));
    let readings = practical.readings.iter().map(|r| (r.symbol.clone(), r.label.clone()));
    let slots = practical.slots();
    let slots = slots.iter().map(|s| (s.symbol.clone(), s.label.clone()));
    materials.chain(practical.labels.clone()).chain(readings).chain(slots).collect()
}

/// Ticks by the first group that has what a result needs: where slips lie differs little between groups.
fn ticks(practical: &Practical, benches: &[GroupAtWork]) -> BTreeMap<String, Vec<SlipTick>> {
    let of = |result: &practical::ResultSpec| {
        let mut found = benches.iter().map(|b| Evaluated::of(&b.practical, &b.entries).ticks(&result.name));
        let found = found.find(|f| !f.is_empty())?;
        Some((result.name.clone(), found.into_iter().map(|(slip, ratio)| SlipTick { slip, ratio }).collect()))
    };
    practical.results.iter().filter(|r| r.asked).filter_map(of).collect()
}

fn class(
    app: &App,
    desk: &DeskRun,
    practical: &Practical,
    benches: &[GroupAtWork],
    test: OutlierTest,
) -> Result<Cohort, ApiError> {
    let visits = app.store.visits(desk.run.id)?;
    let lesson = |bench: &GroupAtWork| {
        let last = bench.row.readings.values().map(|r| r.at).max()?;
        let begun = visits.iter().rev().find(|v| v.begins_at <= last)?;
        (visits.len() > 1).then(|| format!("lesson {}", begun.nr))
    };
    let lessons: Vec<Option<String>> = benches.iter().map(lesson).collect();
    let places: Vec<Option<String>> =
        benches.iter().map(|b| b.row.bench.as_ref().map(|place| format!("bench {place}"))).collect();
    let members: Vec<Member<'_>> = benches
        .iter()
        .zip(lessons.iter().zip(&places))
        .map(|(bench, (visit, place))| bench.member(visit.as_deref(), place.as_deref()))
        .collect();
    Ok(cohort(practical, &members, test))
}

/// `GET /runs/{run}/groups/{group}/worked/{result}`, for instructors.
#[utoipa::path(get, path = "/api/v1/runs/{run}/groups/{group}/worked/{result}",
    params(("run" = i64, Path), ("group" = i64, Path), ("result" = String, Path)),
    responses((status = 200, body = WorkedView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/runs/{run}/groups/{group}/worked/{result}")]
pub async fn show_worked(
    app: web::Data<App>,
    desk: DeskRun,
    path: web::Path<(i64, i64, String)>,
) -> Result<web::Json<WorkedView>, ApiError> {
    let view = blocking(&app, move |app| {
        let (_, group, result) = path.into_inner();
        let GroupAtWork { practical, entries, .. } = bench_of(app, &desk, group)?;
        practical.result(&result).ok_or(ApiError::NotFound("result"))?;
        let evaluated = Evaluated::of(&practical, &entries);
        Ok(WorkedView {
            lines: evaluated.worked(&result),
            effects: evaluated.effects(&result),
            doubts: evaluated.doubts_of(&result),
            needs: evaluated.needed_for(&result),
            formulas: evaluated.formulas(&result),
            school: practical.school.clone(),
            labels: practical.labels.clone(),
            readings: practical.slots().iter().map(|s| ReadingSpec::of(&practical, s)).collect(),
        })
    })
    .await?;
    Ok(web::Json(view))
}

/// `POST /runs/{run}/reviews`, for instructors: rules on answers, with a remark. The last word on an answer holds.
#[utoipa::path(post, path = "/api/v1/runs/{run}/reviews", request_body = NewReviews, params(("run" = i64, Path)),
    responses((status = 204), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/runs/{run}/reviews")]
pub async fn rule(app: web::Data<App>, desk: DeskRun, body: web::Json<NewReviews>) -> Result<HttpResponse, ApiError> {
    blocking(&app, move |app| {
        let NewReviews { reviews } = body.into_inner();
        if reviews.is_empty() || reviews.len() > MOST_REVIEWS {
            return Err(Invalid::Rulings(MOST_REVIEWS).into());
        }
        // All of them are sound before the first is written.
        let events: Vec<NewEvent> = reviews.into_iter().map(|r| sound(app, &desk, r)).collect::<Result<_, _>>()?;
        app.store.append_all(events)?;
        app.live.tell(desk.run.id, Change { group: None });
        Ok(())
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

fn sound(app: &App, desk: &DeskRun, new: NewReview) -> Result<NewEvent, ApiError> {
    let group = desk.group(app, new.group)?;
    let practical = app.practical_of(&desk.run)?;
    let spec = practical.result(&new.result).ok_or(ApiError::NotFound("result"))?;
    let place = Place::Answer { result: new.result.clone(), by: new.person };
    let record = app.store.bench(desk.run.id, group.id)?;
    if !record.history(&place).any(|filed| filed.id == new.answer) {
        return Err(ApiError::NotFound("answer"));
    }
    let Some(ruling) = new.ruling else {
        let (result, person, answer) = (new.result, new.person, new.answer);
        let back = Review { result, person, answer, ruling: None, marks: None, comment: String::new() };
        return Ok(about_sheet(app, desk, new.id, group.id, person, RunStatement::Reviewed(back)));
    };
    let comment = if new.comment.trim().is_empty() {
        String::new()
    } else {
        one_line(&new.comment, LONGEST_COMMENT).ok_or(Invalid::TooLong { what: "a remark", most: LONGEST_COMMENT })?
    };
    // A reason in words has no other judge.
    let only_read = spec.answer == AnswerKind::Words && ruling == Ruling::Right;
    if ruling != Ruling::AsJudged && comment.is_empty() && !only_read {
        return Err(Invalid::RulingWithoutReason.into());
    }
    let marks = new.marks.map(|m| m.trim().to_owned()).filter(|m| !m.is_empty());
    if let Some(text) = &marks {
        let most = spec.marks.most();
        let given = Decimal::parse(text).map_err(Invalid::MarksNumber)?.to_f64();
        if !(0.0..=most).contains(&given) {
            return Err(Invalid::Marks(most).into());
        }
    }
    let said =
        Review { result: new.result, person: new.person, answer: new.answer, ruling: Some(ruling), marks, comment };
    Ok(about_sheet(app, desk, new.id, group.id, new.person, RunStatement::Reviewed(said)))
}

/// `POST /runs/{run}/releases`, for instructors: gives sheets back to their groups as they stand now.
#[utoipa::path(post, path = "/api/v1/runs/{run}/releases", request_body = NewRelease, params(("run" = i64, Path)),
    responses((status = 200, body = ReleasedSheets), (status = 401, body = Problem), (status = 422, body = Problem)))]
#[post("/runs/{run}/releases")]
pub async fn give_back(
    app: web::Data<App>,
    desk: DeskRun,
    body: web::Json<NewRelease>,
) -> Result<web::Json<ReleasedSheets>, ApiError> {
    let released = blocking(&app, move |app| {
        let NewRelease { groups, with_values } = body.into_inner();
        for group in &groups {
            desk.group(app, *group)?;
        }
        let benches = groups_at_work(app, &desk.run)?;
        let wanted = |sheet: &SheetView| groups.is_empty() || groups.contains(&sheet.group);
        let all: Vec<SheetView> = sheets_of(app, &desk, &benches)?.into_iter().filter(wanted).collect();
        if all.is_empty() {
            return Err(Invalid::NothingToGiveBack.into());
        }
        for sheet in &all {
            let practical =
                &benches.iter().find(|b| b.row.group == sheet.group).ok_or(ApiError::NotFound("group"))?.practical;
            let release = Release {
                person: sheet.person,
                engine: env!("CARGO_PKG_VERSION").to_owned(),
                masses: practical.school.atomic_masses.edition().to_owned(),
                told: sheet.given(practical, with_values),
            };
            let statement = RunStatement::Released(release);
            app.store.append(about_sheet(app, &desk, Uuid::now_v7(), sheet.group, sheet.person, statement))?;
            app.live.tell(desk.run.id, Change { group: Some(sheet.group) });
        }
        Ok(ReleasedSheets { sheets: all.len() })
    })
    .await?;
    Ok(web::Json(released))
}

/// A statement about a sheet; of a student it goes when the student's name goes.
fn about_sheet(
    app: &App,
    desk: &DeskRun,
    id: Uuid,
    group: i64,
    person: Option<i64>,
    statement: RunStatement,
) -> NewEvent {
    let now = app.clock.now();
    let said = Said { person, ..Said::at(now, Statement::Run(statement)) };
    at_the_desk(desk, id, group, said, now)
}
