//! One bench, evaluated once: the practical, what stands there, the readings as numbers, the sheet run with them.
//!
//! Everything that is said of a bench starts here: results, worked solutions, findings, advice, verdicts. Judgement and
//! checking add their questions to [`Evaluated`] in files of their own.

use crate::bench::{Circumstances, Entries};
use crate::check::precision_by;
use measure::rounding::{Ties, decimal_of, figures, to_figures, to_place, uncertainty_figures};
use measure::{Contribution, Decimal, Source};
use practical::file::DigitsPolicy;
use practical::{Part, Practical, ResultSpec};
use serde::Serialize;
use sheet::{Evaluation, Given, Inputs, Line, Outcome, Precision, Value};
use std::collections::BTreeMap;

/// One bench, evaluated.
#[derive(Debug)]
pub struct Evaluated<'a> {
    pub(crate) practical: &'a Practical,
    pub(crate) entries: &'a Entries,
    /// Readings that are numbers, by slot.
    pub(crate) readings: BTreeMap<String, Decimal>,
    pub(crate) evaluation: Evaluation<'a>,
}

impl<'a> Evaluated<'a> {
    /// The practical with what stands at a bench.
    #[must_use]
    pub fn of(practical: &'a Practical, entries: &'a Entries) -> Evaluated<'a> {
        // Non-numbers were refused on entry, so skipping them here loses nothing.
        let typed = entries.readings.iter().filter_map(|(s, text)| Some((s.clone(), Decimal::parse(text).ok()?)));
        let readings: BTreeMap<String, Decimal> = typed.collect();
        let inputs = inputs_on(practical, &readings, &entries.circumstances);
        Evaluated { practical, entries, readings, evaluation: practical.program.evaluate_with(inputs) }
    }

    /// The worked solution of one result from the group's own readings.
    #[must_use]
    pub fn worked(&self, result: &str) -> Vec<Line> {
        self.evaluation.worked(result)
    }

    /// The formulas that the masses allow, best first, and the nearest that they do not; none where none is searched.
    #[must_use]
    pub fn formulas(&self, result: &str) -> Option<FormulasAllowed> {
        let found = self.evaluation.candidates(result)?;
        Some(FormulasAllowed {
            allowed: found.consistent.iter().map(|c| found.written(c)).collect(),
            nearest_rejected: found.nearest_rejected.as_ref().map(|c| found.written(c)),
        })
    }

    /// The number that a definition comes to, in base units.
    pub(crate) fn value(&self, name: &str) -> Option<f64> {
        self.evaluation.value(name).map(|v| v.value)
    }

    /// One result, as it is shown.
    pub(crate) fn result(&self, name: &str) -> ResultOutcome {
        result_outcome(self.practical, &self.evaluation, name)
    }
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
    /// The same, unrounded; 0 where it is exact.
    pub uncertainty: f64,
    /// Apparatus error in % of the value, two figures: half a division of everything read, added up; none of nothing.
    pub apparatus_percent: Option<String>,
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
        let named = how.get(&slot.symbol).and_then(|h| h.on.as_ref()).map(|on| practical.school.as_read(on));
        let on = named.as_ref().unwrap_or(&reading.instrument);
        let given = readings.get(&slot.symbol).map(|value| {
            let read = if reading.tared { Given::tared } else { Given::reading };
            let mut given = read(&slot.symbol, *value, &reading.unit, on, practical.school.writing());
            given.contributions.extend(practical.end_point(reading).map(|litres| Contribution {
                source: Source::EndPoint(slot.symbol.clone()),
                standard_uncertainty: practical.school.tolerances.standard(litres),
                distribution: practical.school.tolerances.distribution(),
            }));
            given
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
    let beyond = || ResultState::Failed { reason: format!("'{name}' is beyond any number") };
    let Some(definition) = practical.program.definition(name) else { return beyond() };
    let unit = &definition.unit;
    let by_policy =
        practical.result(name).filter(|_| !practical.program.is_formula(definition)).filter(|r| match r.digits {
            DigitsPolicy::Exactly(_) | DigitsPolicy::ToUncertainty => true,
            DigitsPolicy::AsFewest | DigitsPolicy::AsFewestWithinOne | DigitsPolicy::AtLeastTwo => false,
        });
    let text = match by_policy {
        Some(spec) => written_as(practical, spec, v.value, precision_by(spec.digits, v, unit)),
        None => evaluation.shown(name),
    };
    let Some(text) = text else { return beyond() };
    let uncertainty = unit.difference_from_base(2.0 * v.standard_uncertainty);
    let budget = v.budget.iter().map(|s| BudgetShare { source: s.source.clone(), fraction: s.fraction }).collect();
    let apparatus = evaluation.apparatus_error(name).map(|e| 100.0 * e / v.value.abs());
    let apparatus_percent = apparatus.filter(|p| p.is_finite() && *p > 0.0).map(|p| figures(p, 2));
    ResultState::Value(ShownValue {
        text,
        unit: unit.written().to_owned(),
        value: unit.from_base(v.value),
        expanded: uncertainty_figures(uncertainty).map(|u| u.to_string()),
        uncertainty,
        apparatus_percent,
        budget,
    })
}

/// A value in base units as a result is written: in its unit, to the digits that it is asked for to.
pub(crate) fn written_as(practical: &Practical, spec: &ResultSpec, value: f64, precision: Precision) -> Option<String> {
    let fives = practical.school.fives;
    let number = decimal_of(spec.unit.from_base(value))?;
    Some(match spec.digits {
        DigitsPolicy::Exactly(n) => to_figures(number, n, fives).to_string(),
        DigitsPolicy::AsFewest
        | DigitsPolicy::AsFewestWithinOne
        | DigitsPolicy::AtLeastTwo
        | DigitsPolicy::ToUncertainty => precision.rounded(number, &spec.unit, fives).to_string(),
    })
}

/// A value rounded to the place where its expanded uncertainty, in the same unit, has its second figure.
#[must_use]
pub fn rounded_to_uncertainty(value: f64, uncertainty: f64) -> Option<String> {
    let place = uncertainty_figures(uncertainty)?.last_place();
    Some(to_place(decimal_of(value)?, place, Ties::HalfUp).to_string())
}
