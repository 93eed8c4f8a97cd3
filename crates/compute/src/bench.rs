//! A bench from outside: what a group sends, in order, in; everything that judgement says of it out. And a group that was
//! never there, to be sent in.

use super::ComputeError;
use super::class::PracticalSource;
use lab::bench::{Bottle, Entries, Entry, Room, RoomItem, accepted};
use lab::evaluated::{Evaluated, ResultOutcome};
use lab::judge::{
    Advice, Doubt, Effect, Finding, Hypothesis, LimitingFinding, Standing, Waiting, YieldFinding, may_be_told,
};
use practical::{Allotted, Practical, School, edited};
use serde::{Deserialize, Serialize};
use simulate::{Group, Said};
use std::collections::BTreeMap;

/// Most entries of one question.
const MOST_ENTRIES: usize = 2_000;
/// Latest time of an entry: a year, s.
const LATEST: i64 = 366 * 24 * 3600;

/// What was said at a bench.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct BenchQuestion {
    /// Of which practical.
    pub practical: PracticalSource,
    /// What the school chose; the usual choices if left out.
    #[serde(default)]
    pub school: School,
    /// Name of the group's assignment, if it has one.
    #[serde(default)]
    pub assignment: Option<String>,
    /// Code of the unknown that it was given.
    #[serde(default)]
    pub unknown: Option<String>,
    /// Named instruments of the room.
    #[serde(default)]
    pub instruments: Vec<measure::Instrument>,
    /// Bottles of the room.
    #[serde(default)]
    pub bottles: Vec<Bottle>,
    /// What the bench sent, in order.
    pub entries: Vec<Sent>,
}

/// One thing that a bench sent.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Sent {
    /// Seconds from the start; not before the one that stands before it.
    #[serde(default)]
    pub at: i64,
    /// What.
    #[serde(flatten)]
    pub entry: Entry,
}

/// Everything that follows.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BenchAnswer {
    /// What is odd about each reading, by slot, and how it stands.
    pub findings: BTreeMap<String, OddReading>,
    /// What there is to tell, in the order of the steps.
    pub advice: Vec<Told>,
    /// Reactions that could explain what was found, the best supported first.
    pub hypotheses: Vec<Hypothesis>,
    /// The reagent that limits, once it can be said.
    pub limiting: Option<LimitingFinding>,
    /// Yields that cannot be, by result.
    pub yields: BTreeMap<String, YieldFinding>,
    /// What would follow had strengths or labels been otherwise, by result.
    pub doubts: BTreeMap<String, Vec<Doubt>>,
    /// What slips at the bench would do, by result.
    pub effects: BTreeMap<String, Vec<Effect>>,
    /// What waits and needs nobody.
    pub waits: Vec<Waiting>,
    /// By step: whether all that it asks for stands or need not be taken any more.
    pub done: Vec<bool>,
    /// The step to go on with, counted from 0; none when all are marked as done.
    pub next: Option<u32>,
    /// Every result recomputed.
    pub results: Vec<ResultOutcome>,
}

/// A reading with what is odd about it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OddReading {
    /// By the worst of them.
    pub standing: Standing,
    /// All of them.
    pub findings: Vec<Finding>,
}

/// Something to tell, and whether the group hears it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = AdviceTold))]
pub struct Told {
    /// As the desk sees it.
    #[serde(flatten)]
    pub advice: Advice,
    /// The group may be told it now, as it stands or with figures withheld.
    pub to_the_group: bool,
}

/// A group that was never there.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SimulateQuestion {
    /// Of which practical.
    pub practical: PracticalSource,
    /// What the school chose; the usual choices if left out.
    #[serde(default)]
    pub school: School,
    /// Name of its assignment.
    #[serde(default)]
    pub assignment: Option<String>,
    /// Code of its unknown.
    #[serde(default)]
    pub unknown: Option<String>,
    /// The same seed gives the same group.
    #[serde(default)]
    pub seed: u64,
}

/// What it said, ready to be sent to a bench.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SimulateAnswer {
    /// In order.
    pub entries: Vec<Said>,
}

/// The practical as a group works it that was given an assignment or an unknown.
fn allotted(
    source: &PracticalSource,
    school: &School,
    assignment: Option<&str>,
    unknown: Option<&str>,
) -> Result<Practical, ComputeError> {
    let practical = source.read(None, school)?;
    let short = |text: &str| text.chars().take(60).collect::<String>();
    if let Some(name) = assignment.filter(|name| practical.assignment(name).is_none()) {
        return Err(ComputeError::undefined(format!("the practical has no assignment '{}'", short(name))));
    }
    if let Some(code) = unknown.filter(|code| practical.key_of(code).is_none()) {
        return Err(ComputeError::undefined(format!("the practical has no unknown '{}'", short(code))));
    }
    let to = Allotted { assignment: assignment.map(str::to_owned), unknown: unknown.map(str::to_owned) };
    Ok(practical.allotted(&to))
}

pub(super) fn answer(question: &BenchQuestion) -> Result<BenchAnswer, ComputeError> {
    let BenchQuestion { practical, school, assignment, unknown, instruments, bottles, entries } = question;
    if entries.len() > MOST_ENTRIES {
        return Err(ComputeError::impossible(format!("a bench sends at most {MOST_ENTRIES} entries")));
    }
    let mut plain = allotted(practical, school, assignment.as_deref(), unknown.as_deref())?;
    let instruments = instruments.iter().cloned().map(RoomItem::Instrument);
    let items: Vec<RoomItem> = instruments.chain(bottles.iter().cloned().map(RoomItem::Bottle)).collect();
    for item in &items {
        item.sound().map_err(|why| ComputeError::quantity("room", format!("{}: {why}", item.name())))?;
    }
    let room = Room::of(items);
    let mut stands = Entries::default();
    let mut before = 0;
    for (i, sent) in entries.iter().enumerate() {
        let field = || format!("entries.{i}");
        if !(before..=LATEST).contains(&sent.at) {
            return Err(ComputeError::quantity(field(), format!("{}: entries come in order, within a year", field())));
        }
        before = sent.at;
        let entry = accepted(&plain, &room, sent.entry.clone())
            .map_err(|why| ComputeError::quantity(field(), format!("{}: {why}", field())))?;
        stands.put(&entry, 1000 * sent.at, &room);
    }
    // What a bottle was measured to hold is in the text of the practical, so that all of it is worked out anew.
    let strengths = room.strengths(&plain, &stands);
    if !strengths.is_empty() {
        let text = practical.text()?;
        let text = edited(text, &strengths).map_err(|why| ComputeError::undefined(why.to_string()))?;
        let of_bottles = allotted(&PracticalSource::Text { text }, school, assignment.as_deref(), unknown.as_deref())?;
        plain = of_bottles.labelled_as(&plain);
    }
    Ok(judged(&plain, &stands))
}

fn judged(practical: &Practical, stands: &Entries) -> BenchAnswer {
    let bench = Evaluated::of(practical, stands);
    let outcome = bench.outcome();
    let told = may_be_told(practical, stands, outcome.advice.clone());
    // What is told may have figures withheld: step and matter are what they have in common.
    let same = |a: &Advice, b: &Advice| {
        a.step == b.step && std::mem::discriminant(&a.matter) == std::mem::discriminant(&b.matter)
    };
    let advice =
        outcome.advice.iter().map(|a| Told { to_the_group: told.iter().any(|t| same(t, a)), advice: a.clone() });
    let names = || practical.results.iter().filter(|r| r.is_worked_out()).map(|r| r.name.clone());
    let doubts = names().map(|n| (n.clone(), bench.doubts_of(&n))).filter(|(_, d)| !d.is_empty());
    let effects = names().map(|n| (n.clone(), bench.effects(&n))).filter(|(_, e)| !e.is_empty());
    let standing = |slot: &str| outcome.standings.get(slot).copied().unwrap_or(Standing::Doubtful);
    let findings = outcome.findings.iter();
    let steps = 0..u32::try_from(practical.steps.len()).unwrap_or(u32::MAX);
    BenchAnswer {
        findings: findings
            .map(|(slot, f)| (slot.clone(), OddReading { standing: standing(slot), findings: f.clone() }))
            .collect(),
        advice: advice.collect(),
        hypotheses: outcome.hypotheses.clone(),
        limiting: outcome.limiting.clone(),
        yields: outcome.yield_findings.clone(),
        doubts: doubts.collect(),
        effects: effects.collect(),
        waits: outcome.waiting.clone(),
        done: steps.map(|s| outcome.complete.contains(&s)).collect(),
        next: outcome.next.step,
        results: outcome.results.clone(),
    }
}

pub(super) fn simulated(question: &SimulateQuestion) -> Result<SimulateAnswer, ComputeError> {
    let SimulateQuestion { practical, school, assignment, unknown, seed } = question;
    let practical = allotted(practical, school, assignment.as_deref(), unknown.as_deref())?;
    Ok(SimulateAnswer { entries: Group::at(&practical, *seed).work(|_| {}) })
}
