//! Problems: what is given, answers judged as in class, a slip to be found.

use super::{WhichProblem, gives_away};
use crate::access::Practising;
use crate::api::bench::Asked;
use crate::api::views::ReadingSpec;
use crate::app::{App, blocking};
use crate::invalid::Invalid;
use crate::problem::{ApiError, Problem};
use actix_web::{get, post, web};
use chem::Indicator;
use lab::bench::{Answer, Entries, Entry, Room, Taken, accepted};
use lab::check::Explanation;
use lab::evaluated::{Evaluated, ResultState};
use lab::judge::{Advice, Finding};
use lab::sheets::Hint;
use practical::SheetRole;
use practical::file::{MaterialItem, Role};
use practical::slip::Slip;
use serde::{Deserialize, Serialize};
use sheet::Line;
use simulate::WrongSum;
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// Readings and answers of one request: a series of many points with all its answers.
const MOST_SAID: usize = 200;

/// What there is to practise on.
#[derive(Debug, Serialize, ToSchema)]
pub struct PracticeView {
    /// Practicals, by title.
    practicals: Vec<PracticalToPractise>,
    /// This device belongs to a group, and goes back to its bench.
    at_bench: bool,
}

/// A practical that problems are made from.
#[derive(Debug, Serialize, ToSchema)]
pub struct PracticalToPractise {
    /// Id.
    id: String,
    /// Title.
    title: String,
    /// What is found by it.
    finds: String,
    /// Its titrations can be done by hand here.
    titrates: bool,
}

/// A problem.
#[derive(Debug, Serialize, ToSchema)]
pub struct ProblemView {
    /// Title of the practical.
    title: String,
    /// What is found by it.
    finds: String,
    /// Equations.
    equations: Vec<String>,
    /// What is used, with what is known of it.
    materials: Vec<MaterialItem>,
    /// Symbols of those whose strength is to be found, and not known from a label.
    to_find: Vec<String>,
    /// Readings, in bench order.
    readings: Vec<ProblemReading>,
    /// What was seen: the question, and what was answered; nothing for a group, which is still to see it.
    seen: Vec<[String; 2]>,
    /// What is asked.
    asked: Vec<Asked>,
    /// The titration that is done by hand; none where its readings are given.
    titration: Option<ByHand>,
}

/// A reading that is given.
#[derive(Debug, Serialize, ToSchema)]
pub struct ProblemReading {
    /// What it is of.
    spec: ReadingSpec,
    /// As it was written down.
    text: String,
}

/// A titration that is done by hand.
#[derive(Debug, Serialize, ToSchema)]
pub struct ByHand {
    /// Initial readings, trial by trial.
    starts: Vec<ReadingSpec>,
    /// Final readings.
    ends: Vec<ReadingSpec>,
    /// The first so many are rough.
    rough: usize,
    /// What shows the end.
    indicator: Indicator,
    /// It begins in its acid form.
    begins_acid: bool,
}

/// What somebody works out.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WorkedProblem {
    /// Which problem.
    problem: WhichProblem,
    /// Readings that were taken by hand, by symbol.
    #[serde(default)]
    readings: BTreeMap<String, String>,
    /// Answers, by result.
    #[serde(default)]
    answers: BTreeMap<String, Answer>,
}

/// How it stands.
#[derive(Debug, Serialize, ToSchema)]
pub struct PracticeJudged {
    /// How each answer is, by result.
    hints: BTreeMap<String, Hint>,
    /// What is odd about a reading that was taken.
    findings: BTreeMap<String, Vec<Finding>>,
    /// What there is to tell beside the titrations.
    advice: Vec<Advice>,
    /// Volumes delivered, by the place of their final reading.
    delivered: BTreeMap<String, String>,
}

/// A result worked out.
#[derive(Debug, Serialize, ToSchema)]
pub struct WorkedResult {
    /// Its name.
    result: String,
    /// In words.
    label: String,
    /// Line by line; of a formula that was found, or a reagent, as far as a sheet shows it.
    lines: Vec<Line>,
    /// What comes out, with its unit; none of readings that are not there yet.
    comes_to: Option<String>,
}

/// A finished sum with a slip in it.
#[derive(Debug, Serialize, ToSchema)]
pub struct SlipToFind {
    /// What is given.
    problem: ProblemView,
    /// The result, in words.
    label: String,
    /// The answer.
    text: String,
    /// Its unit.
    unit: String,
    /// Slips to choose from.
    choices: Vec<Slip>,
}

/// Which slip somebody says it was.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SlipNamed {
    /// Which problem.
    problem: WhichProblem,
    /// The slip.
    slip: Slip,
}

/// Whether it was.
#[derive(Debug, Serialize, ToSchema)]
pub struct SlipFound {
    /// It was.
    right: bool,
    /// What it was, by each name that fits.
    named: Vec<Explanation>,
    /// As it is right.
    worked: WorkedResult,
}

/// `GET /practice`, for everybody who is signed in and for devices of groups.
#[utoipa::path(get, path = "/api/v1/practice", responses((status = 200, body = PracticeView), (status = 401, body = Problem)))]
#[get("/practice")]
pub async fn show_practice(app: web::Data<App>, who: Practising) -> Result<web::Json<PracticeView>, ApiError> {
    let view = blocking(&app, move |app| {
        let to_practise = |practical: &practical::Practical| PracticalToPractise {
            id: practical.file.id.clone(),
            title: practical.file.title.clone(),
            finds: practical.file.finds.clone(),
            titrates: simulate::titrated(practical).is_some(),
        };
        let mut practicals = Vec::new();
        match &who {
            Practising::Staff => {
                let (school, away) = (app.store.school()?.school, app.store.archived_practicals()?);
                for version in app.store.practicals()?.iter().filter(|p| !away.contains(&p.id)) {
                    practicals.push(to_practise(&*app.practical(&version.id, version.version, &school)?));
                }
            }
            Practising::Group(run) => {
                let own = app.practical_of(run)?;
                practicals.extend((!gives_away(&own)).then(|| to_practise(&own)));
            }
        }
        practicals.sort_by(|a, b| a.title.cmp(&b.title));
        Ok(PracticeView { practicals, at_bench: matches!(who, Practising::Group(_)) })
    })
    .await?;
    Ok(web::Json(view))
}

/// `POST /practice/problem`: what is given and asked.
#[utoipa::path(post, path = "/api/v1/practice/problem", request_body = WhichProblem,
    responses((status = 200, body = ProblemView), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[post("/practice/problem")]
pub async fn show_problem(
    app: web::Data<App>,
    who: Practising,
    body: web::Json<WhichProblem>,
) -> Result<web::Json<ProblemView>, ApiError> {
    let view = blocking(&app, move |app| Ok(problem_view(&body.problem(app, &who)?, &who)));
    Ok(web::Json(view.await?))
}

/// `POST /practice/judged`: readings taken by hand and answers, judged as in class.
#[utoipa::path(post, path = "/api/v1/practice/judged", request_body = WorkedProblem,
    responses((status = 200, body = PracticeJudged), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/practice/judged")]
pub async fn judge_problem(
    app: web::Data<App>,
    who: Practising,
    body: web::Json<WorkedProblem>,
) -> Result<web::Json<PracticeJudged>, ApiError> {
    let view = blocking(&app, move |app| {
        let (problem, entries) = body.stands(app, &who)?;
        let outcome = Evaluated::of(&problem.practical, &entries).outcome();
        let policy = &problem.practical.file.feedback;
        let at = problem.titre().and_then(|t| step_recording(&problem.practical, &t.end));
        let taken = |slot: &String| body.readings.contains_key(slot);
        Ok(PracticeJudged {
            hints: outcome.verdicts.iter().map(|(r, v)| (r.clone(), Hint::of(policy, v))).collect(),
            findings: outcome.findings.into_iter().filter(|(slot, _)| taken(slot)).collect(),
            advice: outcome.advice.into_iter().filter(|a| Some(a.step) == at).collect(),
            delivered: outcome.delivered,
        })
    })
    .await?;
    Ok(web::Json(view))
}

/// `POST /practice/worked`: all of it, worked out.
#[utoipa::path(post, path = "/api/v1/practice/worked", request_body = WorkedProblem,
    responses((status = 200, body = [WorkedResult]), (status = 401, body = Problem), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[post("/practice/worked")]
pub async fn work_problem(
    app: web::Data<App>,
    who: Practising,
    body: web::Json<WorkedProblem>,
) -> Result<web::Json<Vec<WorkedResult>>, ApiError> {
    let view = blocking(&app, move |app| {
        let (problem, entries) = body.stands(app, &who)?;
        let bench = Evaluated::of(&problem.practical, &entries);
        let results = problem.practical.results.iter().filter(|r| r.asked && r.is_worked_out());
        Ok(results.map(|r| worked(&bench, r)).collect())
    })
    .await?;
    Ok(web::Json(view))
}

/// `POST /practice/slip`: a finished sum in which a slip is to be found.
#[utoipa::path(post, path = "/api/v1/practice/slip", request_body = WhichProblem,
    responses((status = 200, body = SlipToFind), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[post("/practice/slip")]
pub async fn show_slip(
    app: web::Data<App>,
    who: Practising,
    body: web::Json<WhichProblem>,
) -> Result<web::Json<SlipToFind>, ApiError> {
    let view = blocking(&app, move |app| {
        let (problem, sum) = wrong_sum(&body, app, &who)?;
        Ok(SlipToFind {
            label: problem.practical.label_of(&sum.result),
            problem: problem_view(&problem, &who),
            text: sum.answer.text,
            unit: sum.answer.unit,
            choices: sum.choices,
        })
    })
    .await?;
    Ok(web::Json(view))
}

/// `POST /practice/slip/named`: whether it was this one.
#[utoipa::path(post, path = "/api/v1/practice/slip/named", request_body = SlipNamed,
    responses((status = 200, body = SlipFound), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[post("/practice/slip/named")]
pub async fn name_slip(
    app: web::Data<App>,
    who: Practising,
    body: web::Json<SlipNamed>,
) -> Result<web::Json<SlipFound>, ApiError> {
    let view = blocking(&app, move |app| {
        let (problem, sum) = wrong_sum(&body.problem, app, &who)?;
        let spec = problem.practical.result(&sum.result).ok_or(ApiError::NotFound("result"))?;
        let named = sum.verdict.diagnosis.named;
        Ok(SlipFound {
            right: named.iter().any(|e| e.slip == body.slip),
            worked: worked(&Evaluated::of(&problem.practical, &problem.entries), spec),
            named,
        })
    })
    .await?;
    Ok(web::Json(view))
}

fn wrong_sum(which: &WhichProblem, app: &App, who: &Practising) -> Result<(simulate::Problem, WrongSum), ApiError> {
    let problem = which.problem(app, who)?;
    let sum = problem.wrong_sum().ok_or(ApiError::NotFound("slip that the numbers of this problem could tell"))?;
    Ok((problem, sum))
}

impl WorkedProblem {
    /// The problem, and what stands with what was said: each thing through the same door as at a bench.
    fn stands(&self, app: &App, who: &Practising) -> Result<(simulate::Problem, Entries), ApiError> {
        if self.readings.len() + self.answers.len() > MOST_SAID {
            return Err(Invalid::TooMuchPractised(MOST_SAID).into());
        }
        let problem = self.problem.problem(app, who)?;
        let (room, practical) = (Room::default(), &problem.practical);
        let mut entries = problem.entries.clone();
        let readings = self.readings.iter().map(|(symbol, text)| {
            let unit = practical.slot(symbol).map(|s| s.reading.unit.written().to_owned()).unwrap_or_default();
            Entry::Reading(Taken { symbol: symbol.clone(), text: text.clone(), unit, ..Taken::default() })
        });
        let answers = self.answers.iter().map(|(result, Answer { text, unit })| Entry::Answer {
            result: result.clone(),
            text: text.clone(),
            unit: unit.clone(),
            by: None,
        });
        for said in readings.chain(answers) {
            entries.put(&accepted(practical, &room, said)?, 0, &room);
        }
        Ok((problem, entries))
    }
}

fn worked(bench: &Evaluated<'_>, spec: &practical::ResultSpec) -> WorkedResult {
    let outcome = bench.outcome();
    let comes_to = outcome.results.into_iter().find(|r| r.name == spec.name).and_then(|r| match r.state {
        ResultState::Value(v) if v.unit == "1" => Some(v.text),
        ResultState::Value(v) => Some(format!("{} {}", v.text, v.unit)),
        ResultState::NotYet { .. } | ResultState::Failed { .. } => None,
    });
    WorkedResult { result: spec.name.clone(), label: spec.label.clone(), lines: bench.worked(&spec.name), comes_to }
}

fn step_recording(practical: &practical::Practical, symbol: &str) -> Option<u32> {
    let step = practical.steps.iter().position(|s| s.records.iter().any(|r| r == symbol))?;
    u32::try_from(step).ok()
}

fn problem_view(problem: &simulate::Problem, who: &Practising) -> ProblemView {
    let (practical, entries) = (&problem.practical, &problem.entries);
    let slots = practical.slots();
    let given = |s: &practical::Slot<'_>| {
        let text = entries.readings.get(&s.symbol)?.clone();
        Some(ProblemReading { spec: ReadingSpec::of(practical, s), text })
    };
    let of = |symbol: &str| -> Vec<ReadingSpec> {
        slots.iter().filter(|s| s.reading.symbol == symbol).map(|s| ReadingSpec::of(practical, s)).collect()
    };
    // What is taken by hand is not there.
    let by_hand = problem.titre().filter(|t| !of(&t.end).iter().any(|s| entries.readings.contains_key(&s.symbol)));
    let titration = by_hand.and_then(|t| {
        let curve = t.curve()?;
        let rough = practical.reading(&t.end)?.repeats.as_ref().map_or(0, |r| r.rough);
        let (starts, ends) = (of(&t.start), of(&t.end));
        Some(ByHand { starts, ends, rough, indicator: curve.indicator, begins_acid: curve.begins_acid() })
    });
    let asked: Vec<Asked> = match &titration {
        Some(_) => {
            practical.results.iter().filter(|r| r.asked && r.is_worked_out()).map(|r| Asked::of(practical, r)).collect()
        }
        None => problem.asked().map(|r| Asked::of(practical, r)).collect(),
    };
    // Whose strength is worked out: it stands on no label.
    let worked_out = practical.roles.all(SheetRole::Concentration).filter_map(|r| r.of.clone());
    let samples = practical.materials.iter().filter(|m| m.role == Role::Sample).map(|m| m.symbol.clone());
    let saw =
        |o: &practical::file::Observation| Some([o.question.clone(), entries.observations.get(&o.symbol)?.clone()]);
    ProblemView {
        title: practical.file.title.clone(),
        finds: practical.file.finds.clone(),
        equations: practical.file.reactions.iter().map(|r| r.equation.clone()).collect(),
        materials: practical.file.materials.iter().filter(|m| m.formula.is_some()).cloned().collect(),
        to_find: worked_out.chain(samples).collect(),
        readings: slots.iter().filter_map(given).collect(),
        seen: match who {
            Practising::Staff => practical.file.observations.iter().filter_map(saw).collect(),
            Practising::Group(_) => Vec::new(),
        },
        asked,
        titration,
    }
}
