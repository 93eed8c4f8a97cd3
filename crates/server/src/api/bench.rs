//! A group's own bench: what to do, and what stands there.
//!
//! A group sees its own readings and what is odd about them; never another group's, never a recomputed result or a
//! verdict that was not released.

use crate::access::Bench;
use crate::api::on_time::{TurnOnBench, turn_at_bench};
use crate::api::views::{
    ClockView, Named, PersonView, ReadingSpec, Reviews, VisitView, clocks, name_of, reagents, visits,
};
use crate::app::{App, blocking};
use crate::instruments::InstrumentShows;
use crate::problem::{ApiError, Problem};
use actix_web::{get, web};
use lab::bench::{Choosable, Deviation, Entered, Entries, Place, Room, StepClock, Struck, choosable};
use lab::check::ValueVerdict;
use lab::evaluated::Evaluated;
use lab::group::GroupOutcome;
use lab::judge::{Advice, Finding, Next, Waiting, may_be_told};
use lab::marks::BenchMark;
use lab::roll::{current_visit, seated};
use lab::sheets::{Given, GivenAnswer, Hint};
use practical::file::{AnswerKind, AnswersOf, FeedbackWhen, ObservationKind, Role, Step};
use practical::technique::{Reasoned, technique};
use practical::{Practical, ResultSpec};
use serde::Serialize;
use std::collections::{BTreeMap, BTreeSet};
use utoipa::ToSchema;

/// The bench of one group.
#[derive(Debug, Serialize, ToSchema)]
pub struct BenchView {
    /// Title of the practical.
    title: String,
    /// The class.
    class: String,
    /// Id of the group; an entry says for which one it was made.
    group_id: i64,
    /// Id of the group that the device was claimed for: another one where it goes on at this bench. What the device
    /// still holds of it is sent from here.
    own_group_id: i64,
    /// Name of the group.
    group: String,
    /// What the run is joined with.
    code: String,
    /// For a second device of the group.
    pin: String,
    /// Closed to new entries.
    closed: bool,
    /// The class listens; entries wait on the devices.
    paused: bool,
    /// In order.
    steps: Vec<BenchStep>,
    /// In bench order.
    readings: Vec<ReadingSpec>,
    /// Instruments of the room to choose from, by reading; none where there is no choice.
    instruments: BTreeMap<String, Vec<Choosable>>,
    /// Instruments of the room that speak, by name.
    speaking: Vec<String>,
    /// In bench order.
    observations: Vec<ToObserve>,
    /// What is asked for.
    asked: Vec<Asked>,
    /// What a departure from the plan can be about.
    materials: Vec<OnBench>,
    /// Readings entered, by symbol.
    entered: BTreeMap<String, Entered>,
    /// Observations made, by symbol.
    observed: BTreeMap<String, Entered>,
    /// Answers sent, by result; of a student's sheet by `result by number`.
    answered: BTreeMap<String, Entered>,
    /// How answers are taken here.
    feedback: FeedbackOnBench,
    /// Tags of the group's own vessels, by name of the vessel.
    tags: BTreeMap<String, Entered>,
    /// Bottles taken from, by symbol of the material.
    bottles: BTreeMap<String, Entered>,
    /// Volumes delivered, by the place of their final reading.
    delivered: BTreeMap<String, String>,
    /// What was taken out, and nothing put in its place, by symbol of the reading.
    taken_out: BTreeMap<String, Vec<Struck>>,
    /// What this group was given that others were not.
    allotted: AllottedOnBench,
    /// Who is in the group at this visit; empty where nobody said.
    people: Vec<PersonView>,
    /// When it is worked on.
    visits: Vec<VisitView>,
    /// Its next turn at something that groups share, as the lesson was planned.
    turn: Option<TurnOnBench>,
    /// What waits and needs nobody.
    waiting: Vec<Waiting>,
    /// What instructors told this group, oldest first.
    messages: Vec<MessageOnBench>,
    /// Photos can be taken here.
    takes_photos: bool,
    /// Photos that were taken, with the step that each belongs to.
    photos: BTreeMap<String, u32>,
    /// What is odd about a reading, by symbol.
    findings: BTreeMap<String, Vec<Finding>>,
    /// Slots of repeats that need not be filled any more.
    spared: BTreeSet<String>,
    /// What there is to tell beside the steps, as far as it may be told at the bench now.
    advice: Vec<Advice>,
    /// Departures from the plan.
    deviations: Vec<Deviation>,
    /// Clocks that were started, by step.
    clocks: Vec<ClockView>,
    /// The group has asked for somebody to come, about this.
    help: Option<String>,
    /// Where the group goes on.
    next: Next,
    /// Steps done, counted from 0.
    steps_done: Vec<u32>,
    /// The last event that is in here.
    seq: i64,
    /// The server's time, ms.
    now: i64,
}

/// What a group was given that others were not.
#[derive(Debug, Serialize, ToSchema)]
pub struct AllottedOnBench {
    /// Name of its assignment: `recipe A`.
    assignment: Option<String>,
    /// Code of its unknown.
    unknown: Option<String>,
    /// Amounts that are its own, with the name of the material.
    amounts: Vec<[String; 2]>,
}

/// What an instructor told a group.
#[derive(Debug, Serialize, ToSchema)]
pub struct MessageOnBench {
    /// Id.
    id: String,
    /// The words.
    text: String,
    /// Who said so.
    from: String,
    /// When, ms.
    at: i64,
    /// It was told to all groups.
    to_all: bool,
    /// The group has read it.
    heard: bool,
}

/// A step with what belongs to it at the bench.
#[derive(Debug, Serialize, ToSchema)]
pub struct BenchStep {
    /// As the practical has it.
    #[serde(flatten)]
    step: Step,
    /// What must come before what, with its reason.
    guards: Vec<Reasoned>,
    /// What to look for.
    look_for: Vec<String>,
    /// Its clock, where the step runs for a time.
    clock: Option<StepClock>,
    /// The reading that is weighed until it is constant.
    weighed_until_constant: Option<String>,
    /// A vessel with a tag, to be named once, with what it weighs if the room knows.
    vessels: Vec<TaggedOnBench>,
    /// Materials that there are several bottles of.
    bottles: Vec<BottlesOnBench>,
}

/// A vessel that carries a tag.
#[derive(Debug, Serialize, ToSchema)]
pub struct TaggedOnBench {
    /// Its name.
    vessel: String,
    /// The reading that weighs it empty.
    weighed_as: Option<String>,
    /// What the vessels of the room weigh, in g, by tag.
    masses: BTreeMap<String, String>,
}

/// A material and the bottles that it can be taken from.
#[derive(Debug, Serialize, ToSchema)]
pub struct BottlesOnBench {
    /// Symbol of the material.
    material: String,
    /// Its name.
    name: String,
    /// Names of the bottles.
    choices: Vec<String>,
}

/// Something to look at; what is expected is not told.
#[derive(Debug, Serialize, ToSchema)]
pub struct ToObserve {
    /// Its name.
    symbol: String,
    /// As the group is asked.
    question: String,
    /// What sort it is.
    kind: ObservationKind,
    /// When to look; empty for any time in its step.
    when: String,
    /// What can be seen.
    choices: Vec<String>,
    /// Of a spot test, what it is held beside: positive, then negative.
    controls: Option<[String; 2]>,
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
    /// What is answered.
    answer: AnswerKind,
    /// Reagents to choose from, where one is chosen.
    reagents: Vec<Named>,
}

impl Asked {
    /// A result that is asked for.
    pub fn of(practical: &Practical, result: &ResultSpec) -> Asked {
        Asked {
            name: result.name.clone(),
            label: result.label.clone(),
            units: result.units.iter().map(|u| u.written().to_owned()).collect(),
            answer: result.answer,
            reagents: reagents(practical, result.answer),
        }
    }
}

/// How answers are taken, and what may be said of them.
#[derive(Debug, Serialize, ToSchema)]
pub struct FeedbackOnBench {
    /// Whose answers.
    answers_of: AnswersOf,
    /// How often one may be given.
    attempts: Option<u32>,
    /// Where the practical says so, how each answer is, at once.
    at_once: BTreeMap<String, Hint>,
    /// What an instructor has given back.
    given_back: BTreeMap<String, GivenAnswer>,
    /// Marks for the work at the bench, once a sheet was given back.
    bench_marks: Vec<BenchMark>,
}

/// A material that a departure can be about.
#[derive(Debug, Serialize, ToSchema)]
pub struct OnBench {
    /// Symbol.
    symbol: String,
    /// Name.
    name: String,
    /// What amounts of it are told in.
    unit: String,
    /// It is made here: a sample can be taken from it, a seed put into it.
    product: bool,
}

/// `GET /bench/instruments/{name}`, for a device of a group: what an instrument shows that speaks.
#[utoipa::path(get, path = "/api/v1/bench/instruments/{name}", params(("name" = String, Path)),
    responses((status = 200, body = InstrumentShows), (status = 401, body = Problem), (status = 404, body = Problem)))]
#[get("/bench/instruments/{name}")]
pub async fn show_instrument(
    app: web::Data<App>,
    _bench: Bench,
    name: web::Path<String>,
) -> Result<web::Json<InstrumentShows>, ApiError> {
    Ok(web::Json(app.instruments.shows(&name).ok_or(ApiError::NotFound("instrument that speaks"))?))
}

/// `GET /bench`, for a device of a group: its own bench.
#[utoipa::path(get, path = "/api/v1/bench", responses((status = 200, body = BenchView), (status = 401, body = Problem)))]
#[get("/bench")]
pub async fn show_bench(app: web::Data<App>, bench: Bench) -> Result<web::Json<BenchView>, ApiError> {
    Ok(web::Json(blocking(&app, move |app| view(app, bench)).await?))
}

fn view(app: &App, bench: Bench) -> Result<BenchView, ApiError> {
    let room = app.store.room()?;
    let seq = app.store.last_seq(bench.run.id)?;
    let record = app.store.bench(bench.run.id, bench.group.id)?;
    let ever = app.store.room_of(bench.run.id)?;
    let current = record.current(&ever);
    let practical = app.practical_for(&bench.run, &bench.group.allotted, &current, &ever)?;
    let people = people_of(app, bench.run.id, bench.group.id)?;
    let messages = messages_for(app, &bench, &current)?;
    let readings = record.readings();
    let asked = practical.results.iter().filter(|r| r.asked).map(|r| Asked::of(&practical, r));
    let outcome = Evaluated::of(&practical, &current).outcome();
    let steps = practical.bench_steps().into_iter().zip(&practical.steps);
    let done: Vec<u32> = current.done.keys().copied().collect();
    let turn = turn_at_bench(app, &bench.run, bench.group.id, &done)?;
    Ok(BenchView {
        turn,
        title: practical.file.title.clone(),
        class: bench.run.class,
        code: bench.run.code,
        group_id: bench.group.id,
        own_group_id: bench.own.id,
        group: bench.group.name,
        pin: bench.group.pin,
        closed: bench.run.closed_at.is_some(),
        paused: bench.run.paused_at.is_some(),
        allotted: allotted(&practical),
        people,
        visits: visits(app, bench.run.id)?,
        messages,
        takes_photos: bench.run.photos,
        photos: current.photos.clone(),
        taken_out: readings.taken_out,
        waiting: outcome.waiting.clone(),
        steps: steps.map(|(with_slots, step)| bench_step(&practical, &room, with_slots, step)).collect(),
        readings: practical.slots().iter().map(|s| ReadingSpec::of(&practical, s)).collect(),
        instruments: choosable(&practical, &room),
        speaking: app.instruments.names(),
        observations: practical.observations.iter().map(to_observe).collect(),
        asked: asked.collect(),
        materials: practical.materials.iter().map(on_bench).collect(),
        entered: readings.now,
        observed: record.observations().now,
        answered: record.answers().now,
        feedback: feedback(app, bench.run.id, bench.group.id, &practical, &current, &outcome)?,
        tags: record.tags().now,
        bottles: record.bottles().now,
        advice: may_be_told(&practical, &current, outcome.advice),
        findings: for_the_group(outcome.findings),
        spared: outcome.spared,
        delivered: outcome.delivered,
        clocks: clocks(&current),
        next: outcome.next,
        steps_done: done,
        deviations: current.deviations,
        help: current.help,
        seq,
        now: app.clock.now(),
    })
}

/// What may be said of answers at the bench: what was given back, and at once only where the practical says so.
fn feedback(
    app: &App,
    run: i64,
    group: i64,
    practical: &Practical,
    current: &Entries,
    outcome: &GroupOutcome,
) -> Result<FeedbackOnBench, ApiError> {
    let policy = &practical.file.feedback;
    let reviews = Reviews::of(app, run)?;
    let people = current.own_answers.keys().copied().map(Some).chain([None]);
    let sheets: Vec<(Option<i64>, &Given)> =
        people.filter_map(|person| Some((person, reviews.given(group, person)?.1))).collect();
    // The work at the bench is the group's: it is alike on every sheet.
    let bench_marks = sheets.last().map(|(_, given)| given.bench_marks.clone()).unwrap_or_default();
    let slot = |result: &String, by: Option<i64>| Place::Answer { result: result.clone(), by }.slot();
    let given_back = sheets.into_iter().flat_map(|(person, given)| {
        given.answers.iter().map(move |(result, answer)| (slot(result, person), in_words(practical, answer)))
    });
    let own = outcome.own_verdicts.iter().flat_map(|(p, v)| v.iter().map(|(r, v)| (slot(r, Some(*p)), v)));
    let all = outcome.verdicts.iter().map(|(r, v)| (r.clone(), v)).chain(own);
    // A reason in words waits for somebody who reads it.
    let judged = all.filter(|(_, v)| v.value != ValueVerdict::ToRead);
    let at_once = judged.filter(|_| policy.when == FeedbackWhen::AtOnce).map(|(slot, v)| (slot, Hint::of(policy, v)));
    let (at_once, given_back) = (at_once.collect(), given_back.collect());
    Ok(FeedbackOnBench { answers_of: policy.answers_of, attempts: policy.attempts, at_once, given_back, bench_marks })
}

/// What was given back; earlier versions of the program named what a slip happened to as the sheet does.
fn in_words(practical: &Practical, answer: &GivenAnswer) -> GivenAnswer {
    let mut answer = answer.clone();
    for slip in &mut answer.slips {
        slip.at = practical.label_of(&slip.at);
    }
    answer
}

/// What a group was given, as far as it may know.
fn allotted(practical: &Practical) -> AllottedOnBench {
    let given = &practical.allotted;
    let planned = given.assignment.as_deref().and_then(|name| practical.assignment(name)).map(|a| &a.planned);
    let amounts = planned.into_iter().flatten();
    let named = |(symbol, amount): (&String, &String)| Some([practical.material(symbol)?.name.clone(), amount.clone()]);
    AllottedOnBench {
        assignment: given.assignment.clone(),
        unknown: given.unknown.clone(),
        amounts: amounts.filter_map(named).collect(),
    }
}

/// Who sits at a bench now.
fn people_of(app: &App, run: i64, group: i64) -> Result<Vec<PersonView>, ApiError> {
    let nr = current_visit(&app.store.visits(run)?, app.clock.now());
    let here = seated(&app.store.seats(run)?, nr).into_iter().filter(|s| s.group == Some(group));
    Ok(here.map(|s| PersonView { id: s.person, name: s.name }).collect())
}

fn messages_for(app: &App, bench: &Bench, current: &Entries) -> Result<Vec<MessageOnBench>, ApiError> {
    let mine = app.store.messages(bench.run.id)?.into_iter().filter(|m| m.group.is_none_or(|g| g == bench.group.id));
    mine.map(|m| {
        let id = m.id.to_string();
        Ok(MessageOnBench {
            heard: current.heard.contains(&id),
            from: name_of(app, m.actor)?,
            text: m.text,
            at: m.at,
            to_all: m.group.is_none(),
            id,
        })
    })
    .collect()
}

fn bench_step(practical: &Practical, room: &Room, with_slots: Step, step: &Step) -> BenchStep {
    let known = step.technique.as_deref().and_then(technique);
    let tagged = practical.file.vessels.iter().filter(|v| v.tagged && step.vessel.as_ref() == Some(&v.name));
    let vessels = tagged.map(|v| TaggedOnBench {
        vessel: v.name.clone(),
        weighed_as: v.weighed_as.clone(),
        masses: room
            .vessels
            .iter()
            .filter(|own| own.vessel == v.name)
            .map(|own| (own.tag.clone(), own.mass.clone()))
            .collect(),
    });
    let bottles = step.adds.iter().filter_map(|a| {
        let choices: Vec<String> = room.bottles_for(practical, &a.material).map(|b| b.name.clone()).collect();
        let name = practical.material(&a.material)?.name.clone();
        (!choices.is_empty()).then(|| BottlesOnBench { material: a.material.clone(), name, choices })
    });
    BenchStep {
        guards: known.map_or_else(Vec::new, |t| t.guards.clone()),
        look_for: known.map_or_else(Vec::new, |t| t.look_for.clone()),
        clock: StepClock::of(step),
        weighed_until_constant: practical.weighed_until_constant(step).map(|r| r.symbol.clone()),
        vessels: vessels.collect(),
        bottles: bottles.collect(),
        step: with_slots,
    }
}

fn to_observe(asked: &practical::file::Observation) -> ToObserve {
    let controls = (asked.kind == ObservationKind::SpotTest)
        .then(|| [asked.positive_control.clone(), asked.negative_control.clone()]);
    ToObserve {
        symbol: asked.symbol.clone(),
        question: asked.question.clone(),
        kind: asked.kind,
        when: asked.when.clone(),
        choices: asked.choices.clone(),
        controls,
    }
}

fn on_bench(material: &practical::Material) -> OnBench {
    let unit = if material.supply.is_weighed() { "g" } else { "mL" };
    OnBench {
        symbol: material.symbol.clone(),
        name: material.name.clone(),
        unit: unit.into(),
        product: material.role == Role::Product,
    }
}

/// Where to look, and no number to write instead: that is for the desk.
fn for_the_group(findings: BTreeMap<String, Vec<Finding>>) -> BTreeMap<String, Vec<Finding>> {
    let one = |found: Vec<Finding>| found.into_iter().map(Finding::for_the_group).collect();
    findings.into_iter().map(|(slot, found)| (slot, one(found))).collect()
}
