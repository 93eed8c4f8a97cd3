//! A group's own bench: what to do, and what stands there.
//!
//! A group sees its own readings and what is odd about them; never another group's, never a recomputed result or a
//! verdict that was not released.

use crate::access::Bench;
use crate::api::board::{ClockView, Entered, clocks, entered};
use crate::api::plan::ReadingSpec;
use crate::app::{App, blocking};
use crate::problem::{ApiError, Problem};
use actix_web::{get, web};
use lab::bench::{Deviation, Room};
use lab::group::recompute;
use lab::judge::{Advice, Finding, Next, decimals_shown, may_be_told};
use lab::practical::file::{ObservationKind, Role, Step, Stop};
use lab::practical::{Practical, minutes};
use lab::technique::{Reasoned, technique};
use serde::Serialize;
use std::collections::BTreeMap;
use std::time::Duration;
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
    /// Name of the group.
    group: String,
    /// What the run is joined with.
    code: String,
    /// For a second device of the group.
    pin: String,
    /// Closed to new entries.
    closed: bool,
    /// In order.
    steps: Vec<BenchStep>,
    /// In bench order.
    readings: Vec<ReadingSpec>,
    /// Instruments of the room to choose from, by reading; none where there is no choice.
    instruments: BTreeMap<String, Vec<Choosable>>,
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
    /// Answers sent, by result.
    answered: BTreeMap<String, Entered>,
    /// Tags of the group's own vessels, by name of the vessel.
    tags: BTreeMap<String, Entered>,
    /// Bottles taken from, by symbol of the material.
    bottles: BTreeMap<String, Entered>,
    /// Volumes delivered, by the place of their final reading.
    delivered: BTreeMap<String, String>,
    /// What is odd about a reading, by symbol.
    findings: BTreeMap<String, Vec<Finding>>,
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

/// The clock of a step.
#[derive(Debug, Serialize, ToSchema)]
pub struct StepClock {
    /// The condition on which it starts: `it boils`; none where it starts when one is ready.
    from: Option<String>,
    /// How long it runs, s.
    seconds: u32,
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

/// An instrument to choose.
#[derive(Debug, Serialize, ToSchema)]
pub struct Choosable {
    /// Its name.
    name: String,
    /// Digits after the point that it shows.
    decimals: u32,
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

/// `GET /bench`, for a device of a group: its own bench.
#[utoipa::path(get, path = "/api/v1/bench", responses((status = 200, body = BenchView), (status = 401, body = Problem)))]
#[get("/bench")]
pub async fn show_bench(app: web::Data<App>, bench: Bench) -> Result<web::Json<BenchView>, ApiError> {
    Ok(web::Json(blocking(&app, move |app| view(app, bench)).await?))
}

fn view(app: &App, bench: Bench) -> Result<BenchView, ApiError> {
    let room = app.store.room()?;
    let seq = app.store.last_seq(bench.run.id)?;
    let state = app.store.bench(bench.run.id, bench.group.id)?;
    let ever = app.store.room_ever()?;
    let current = state.current(&ever);
    let practical = app.practical_for(&bench.run, &current, &ever)?;
    let asked = practical.results.iter().filter(|r| r.asked).map(|r| Asked {
        name: r.name.clone(),
        label: r.label.clone(),
        units: r.units.iter().map(|u| u.written().to_owned()).collect(),
    });
    let outcome = recompute(&practical, &current);
    let steps = practical.bench_steps().into_iter().zip(&practical.steps);
    Ok(BenchView {
        title: practical.file.title.clone(),
        class: bench.run.class,
        code: bench.run.code,
        group_id: bench.group.id,
        group: bench.group.name,
        pin: bench.group.pin,
        closed: bench.run.closed_at.is_some(),
        steps: steps.map(|(with_slots, step)| bench_step(&practical, &room, with_slots, step)).collect(),
        readings: practical.slots().iter().map(|s| ReadingSpec::of(&practical, s)).collect(),
        instruments: choosable(&practical, &room),
        observations: practical.observations.iter().map(to_observe).collect(),
        asked: asked.collect(),
        materials: practical.materials.iter().map(on_bench).collect(),
        entered: entered(&state.entries, "reading"),
        observed: entered(&state.entries, "observation"),
        answered: entered(&state.entries, "answer"),
        tags: entered(&state.entries, "tag"),
        bottles: entered(&state.entries, "bottle"),
        advice: may_be_told(&practical, &current, outcome.advice),
        findings: outcome.findings,
        delivered: outcome.delivered,
        clocks: clocks(&current),
        next: outcome.next,
        steps_done: current.done.iter().copied().collect(),
        deviations: current.deviations,
        help: current.help,
        seq,
        now: app.clock.now(),
    })
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
        clock: clock_of(step),
        weighed_until_constant: practical.weighed_until_constant(step).map(|r| r.symbol.clone()),
        vessels: vessels.collect(),
        bottles: bottles.collect(),
        step: with_slots,
    }
}

/// A step that lasts a stated time has a clock for it; one that waits has one for its shortest wait.
fn clock_of(step: &Step) -> Option<StepClock> {
    let seconds = |text: &str| {
        let (least, _) = minutes(text).ok()?;
        let span = Duration::try_from_secs_f64(least * 60.0).ok()?;
        u32::try_from(span.as_secs()).ok().filter(|s| *s > 0)
    };
    if let Some(Stop::Time { lasts, from }) = &step.stop {
        return Some(StepClock { from: Some(from.clone()), seconds: seconds(lasts)? });
    }
    Some(StepClock { from: None, seconds: seconds(step.wait.as_deref()?)? })
}

/// Two of a kind, or one that is not the practical's own, and there is something to choose.
fn choosable(practical: &Practical, room: &Room) -> BTreeMap<String, Vec<Choosable>> {
    let of = |reading: &lab::practical::Reading| -> Vec<Choosable> {
        let fitting = room.instruments_for(reading);
        fitting.map(|i| Choosable { name: i.name.clone(), decimals: decimals_shown(i, reading) }).collect()
    };
    let all = practical.readings.iter().map(|r| (r.symbol.clone(), of(r)));
    all.filter(|(_, choices)| !choices.is_empty()).collect()
}

fn to_observe(asked: &lab::practical::file::Observation) -> ToObserve {
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

fn on_bench(material: &lab::practical::Material) -> OnBench {
    let unit = if material.supply.is_weighed() { "g" } else { "mL" };
    OnBench {
        symbol: material.symbol.clone(),
        name: material.name.clone(),
        unit: unit.into(),
        product: material.role == Role::Product,
    }
}
