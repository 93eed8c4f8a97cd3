//! One group's bench, recomputed whole from what it entered: readings judged, results evaluated, answers checked.
//!
//! Nothing here is stored; the same entries give the same outcome.

use crate::bench::Circumstances;
pub use crate::bench::Entries;
use crate::check::{Slip, Verdict, check_all, slip_ticks};
use crate::judge::{
    Advice, Bench, Doubt, Effect, Finding, Hypothesis, LimitingFinding, Needed, Next, Waiting, YieldFinding, competing,
    delivered, doubts, effects, limiting, needed, next, plausibility, waiting, yield_above_theory,
};
use crate::practical::file::Role;
use crate::practical::{Part, Practical};
use measure::Decimal;
use measure::Source;
use measure::rounding::{Ties, decimal_of, to_place, uncertainty_figures};
use serde::Serialize;
use sheet::{Evaluation, Given, Inputs, Line, Outcome, Value};
use std::collections::BTreeMap;

/// Everything that follows from a group's entries.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GroupOutcome {
    /// What is odd about each reading, by symbol; no entry where nothing is.
    pub findings: BTreeMap<String, Vec<Finding>>,
    /// Every result of the practical, in its order.
    pub results: Vec<ResultOutcome>,
    /// Masses of the products, by symbol of the material, once they can be said: for labels, whatever is asked.
    pub products: BTreeMap<String, ShownValue>,
    /// The reagent that limits, once it can be said.
    pub limiting: Option<LimitingFinding>,
    /// Volumes delivered, by the place of their final reading.
    pub delivered: BTreeMap<String, String>,
    /// What there is to tell beside the steps.
    pub advice: Vec<Advice>,
    /// Where the group goes on.
    pub next: Next,
    /// What waits and needs nobody.
    pub waiting: Vec<Waiting>,
    /// Reactions that could explain what was found, the best supported first; empty unless several compete.
    pub hypotheses: Vec<Hypothesis>,
    /// Yields that cannot be, by the result that is the percent yield.
    pub yield_findings: BTreeMap<String, YieldFinding>,
    /// Each answer judged, by result.
    pub verdicts: BTreeMap<String, Verdict>,
    /// Answers of single students judged, by their number.
    pub own_verdicts: BTreeMap<i64, BTreeMap<String, Verdict>>,
}

/// What masses say of a formula: several allowed are *ambiguous*, and the data cannot decide.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FormulasAllowed {
    /// Those within the uncertainty (95 %), best first.
    pub allowed: Vec<String>,
    /// The nearest beyond it.
    pub nearest_rejected: Option<String>,
}

/// One result recomputed.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ResultOutcome {
    /// Name of the definition.
    pub name: String,
    /// Value, or why there is none.
    pub state: ResultState,
}

/// What a result came to.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum ResultState {
    /// Readings are missing.
    NotYet {
        /// Their symbols.
        missing: Vec<String>,
    },
    /// The readings admit no number.
    Failed {
        /// Why.
        reason: String,
    },
    /// A number.
    Value(ShownValue),
}

/// A value as it is written, in the unit of the result.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShownValue {
    /// To the digits it has earned by the school rule.
    pub text: String,
    /// The unit.
    pub unit: String,
    /// Unrounded.
    pub value: f64,
    /// Expanded uncertainty U (k = 2), two figures; none where it is exact.
    pub expanded: Option<String>,
    /// What contributes to the uncertainty, most first, as fractions of the variance.
    pub budget: Vec<BudgetShare>,
}

/// One line of an uncertainty budget.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BudgetShare {
    /// Where it comes from.
    pub source: Source,
    /// Fraction of the variance.
    pub fraction: f64,
}

/// The sheet's inputs for readings taken on the instruments that the practical names.
#[must_use]
pub fn inputs(practical: &Practical, readings: &BTreeMap<String, Decimal>) -> Inputs {
    inputs_on(practical, readings, &BTreeMap::new())
}

/// The sheet's inputs for a group's readings, each on the instrument that it was taken on.
fn inputs_on(
    practical: &Practical,
    readings: &BTreeMap<String, Decimal>,
    how: &BTreeMap<String, Circumstances>,
) -> Inputs {
    let mut inputs = Inputs::default();
    for slot in practical.slots() {
        let reading = slot.reading;
        let on = how.get(&slot.symbol).and_then(|h| h.on.as_ref()).unwrap_or(&reading.instrument);
        let given = readings.get(&slot.symbol).map(|value| {
            let read = if reading.tared { Given::tared } else { Given::reading };
            read(&slot.symbol, *value, &reading.unit, on)
        });
        match slot.part {
            Part::Trial(_) => inputs.series.entry(reading.symbol.clone()).or_default().push(given),
            Part::Whole => inputs.readings.extend(given.map(|g| (slot.symbol, g))),
            Part::From => inputs.readings.extend(given.map(|g| (format!("{}_from", reading.symbol), g))),
            Part::To => inputs.readings.extend(given.map(|g| (format!("{}_to", reading.symbol), g))),
        }
    }
    inputs
}

/// Everything that follows from `entries`.
#[must_use]
pub fn recompute(practical: &Practical, entries: &Entries) -> GroupOutcome {
    let typed = typed_readings(entries);
    let inputs = inputs_on(practical, &typed, &entries.circumstances);
    let evaluation = practical.program.evaluate(&inputs);
    let how = |symbol: &String| entries.circumstances.get(symbol);
    let findings = typed.keys().map(|s| (s.clone(), plausibility(practical, s, &typed, how(s))));
    GroupOutcome {
        findings: findings.filter(|(_, f)| !f.is_empty()).collect(),
        results: practical
            .results
            .iter()
            .filter(|r| r.is_worked_out())
            .map(|r| result_outcome(practical, &evaluation, &r.name))
            .collect(),
        products: products(practical, &evaluation),
        limiting: limiting(practical, &evaluation, &entries.observations),
        delivered: delivered(practical, &typed),
        advice: Bench { practical, entries, readings: &typed, inputs: &inputs, evaluation: &evaluation }.advice(),
        next: next(practical, entries, &evaluation),
        waiting: waiting(practical, entries),
        hypotheses: competing(practical, &evaluation, &typed, &entries.observations),
        yield_findings: practical
            .yields()
            .filter_map(|names| Some((names.percent.clone(), yield_above_theory(&names, &evaluation)?)))
            .collect(),
        verdicts: check_all(practical, &inputs, &typed, &entries.answers),
        own_verdicts: entries
            .own_answers
            .iter()
            .map(|(person, own)| (*person, check_all(practical, &inputs, &typed, own)))
            .collect(),
    }
}

/// What was made, weighed: one mass for each product that a method weighs.
fn products(practical: &Practical, evaluation: &Evaluation<'_>) -> BTreeMap<String, ShownValue> {
    let made = practical.materials.iter().filter(|m| m.role == Role::Product);
    let weighed = made.filter_map(|m| {
        let name = practical.measured_by(&m.symbol)?;
        match result_outcome(practical, evaluation, name).state {
            ResultState::Value(mass) => Some((m.symbol.clone(), mass)),
            ResultState::NotYet { .. } | ResultState::Failed { .. } => None,
        }
    });
    weighed.collect()
}

/// The worked solution of one result from a group's own readings.
#[must_use]
pub fn worked(practical: &Practical, entries: &Entries, result: &str) -> Vec<Line> {
    let inputs = inputs_on(practical, &typed_readings(entries), &entries.circumstances);
    practical.program.evaluate(&inputs).worked(result)
}

/// What would follow for a percent yield, had strengths been ten times out or reagents exchanged; nothing for other results.
#[must_use]
pub fn yield_doubts(practical: &Practical, entries: &Entries, result: &str) -> Vec<Doubt> {
    let Some(names) = practical.yields().find(|y| y.percent == result) else { return Vec::new() };
    let inputs = inputs_on(practical, &typed_readings(entries), &entries.circumstances);
    doubts(practical, &inputs, &practical.program.evaluate(&inputs), &names)
}

/// What each reason for a percent yield above theory would need; nothing for other results.
#[must_use]
pub fn yield_needs(practical: &Practical, entries: &Entries, result: &str) -> Vec<Needed> {
    let Some(names) = practical.yields().find(|y| y.percent == result) else { return Vec::new() };
    let typed = typed_readings(entries);
    let inputs = inputs_on(practical, &typed, &entries.circumstances);
    needed(practical, &typed, &practical.program.evaluate(&inputs), &names)
}

/// The formulas that a group's masses allow, best first, and the nearest that they do not; none where none is searched.
#[must_use]
pub fn formulas(practical: &Practical, entries: &Entries, result: &str) -> Option<FormulasAllowed> {
    let inputs = inputs_on(practical, &typed_readings(entries), &entries.circumstances);
    let evaluation = practical.program.evaluate(&inputs);
    let found = evaluation.candidates(result)?;
    Some(FormulasAllowed {
        allowed: found.consistent.iter().map(|c| found.written(c)).collect(),
        nearest_rejected: found.nearest_rejected.as_ref().map(|c| found.written(c)),
    })
}

/// Where common slips would put a result of this group, as a part of the right value.
#[must_use]
pub fn ticks(practical: &Practical, entries: &Entries, result: &str) -> Vec<(Slip, f64)> {
    let typed = typed_readings(entries);
    let inputs = inputs_on(practical, &typed, &entries.circumstances);
    practical.result(result).map_or_else(Vec::new, |r| slip_ticks(practical, &inputs, &typed, r))
}

/// What slips at the bench would do to a result of this group.
#[must_use]
pub fn bench_effects(practical: &Practical, entries: &Entries, result: &str) -> Vec<Effect> {
    let inputs = inputs_on(practical, &typed_readings(entries), &entries.circumstances);
    let result = practical.result(result);
    result.map_or_else(Vec::new, |r| effects(practical, r, &practical.program.evaluate(&inputs), entries))
}

/// A group's readings as numbers, by slot.
pub(crate) fn typed_readings(entries: &Entries) -> BTreeMap<String, Decimal> {
    // What is no number was refused at the door, so that nothing is lost by leaving it out here.
    entries.readings.iter().filter_map(|(s, text)| Some((s.clone(), Decimal::parse(text).ok()?))).collect()
}

pub(crate) fn result_outcome(practical: &Practical, evaluation: &Evaluation<'_>, name: &str) -> ResultOutcome {
    let state = match evaluation.outcome(name) {
        Some(Outcome::Value(v)) => shown(practical, evaluation, name, &v),
        Some(Outcome::NotYet { missing }) => ResultState::NotYet { missing },
        Some(Outcome::Failed(failure)) => ResultState::Failed { reason: failure.to_string() },
        // Refused when the practical is read.
        Some(Outcome::Series(_)) => ResultState::Failed { reason: format!("'{name}' has a value for each trial") },
        None => ResultState::Failed { reason: format!("the sheet has no '{name}'") },
    };
    ResultOutcome { name: name.to_owned(), state }
}

fn shown(practical: &Practical, evaluation: &Evaluation<'_>, name: &str, v: &Value) -> ResultState {
    let (Some(definition), Some(text)) = (practical.program.definition(name), evaluation.shown(name)) else {
        return ResultState::Failed { reason: format!("'{name}' is beyond any number") };
    };
    let unit = &definition.unit;
    let budget = v.budget.iter().map(|s| BudgetShare { source: s.source.clone(), fraction: s.fraction }).collect();
    ResultState::Value(ShownValue {
        text,
        unit: unit.written().to_owned(),
        value: unit.from_base(v.value),
        expanded: uncertainty_figures(unit.difference_from_base(2.0 * v.standard_uncertainty)).map(|u| u.to_string()),
        budget,
    })
}

/// A value in a result's unit, rounded to the place where its expanded uncertainty ends.
#[must_use]
pub fn rounded_to_uncertainty(value: f64, expanded: &str) -> Option<String> {
    let place = Decimal::parse(expanded).ok()?.last_place();
    Some(to_place(decimal_of(value)?, place, Ties::HalfUp).to_string())
}
