//! What would follow from the amounts planned, before anything is weighed.
//!
//! The practical's own sheet is run with planned amounts in place of readings: which reagent limits, how far the
//! others are in excess, the theoretical yield, the uncertainty that the chosen instruments allow, and which readings
//! decide it. Every consequence is a [`Consequence`] with its figures; the wording is the interface's.

use crate::group::{ResultState, inputs, result_outcome};
use crate::practical::file::{Form, Role};
use crate::practical::{Amount, Material, Practical};
use chem::{Coefficient, Run};
use measure::Source;
use measure::rounding::{Ties, decimal_of, to_figures};
use serde::Serialize;
use sheet::{Evaluation, Inputs, Line, Outcome};

/// A practical as its planner sees it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Plan {
    /// The equation, ready for setting.
    pub equation: Vec<Run>,
    /// Atoms on either side, which agree.
    pub balance: Vec<AtomCount>,
    /// One line for each material.
    pub materials: Vec<LedgerLine>,
    /// What follows.
    pub consequences: Vec<Consequence>,
    /// Results with the planned amounts put in.
    pub sheet: Vec<Line>,
}

/// How many of one element stand on either side.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AtomCount {
    /// Symbol.
    pub symbol: String,
    /// On the left and on the right.
    pub count: f64,
}

/// A material in the ledger.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LedgerLine {
    /// As the sheet calls it.
    pub symbol: String,
    /// Systematic name.
    pub name: String,
    /// Common name or remark.
    pub also: String,
    /// Formula, ready for setting.
    pub formula: Vec<Run>,
    /// What it does here.
    pub role: Role,
    /// How it is supplied, in words: `1.00 mol/L`.
    pub form: String,
    /// Planned for one group: number and unit; for a product its theoretical yield.
    pub planned: Option<Planned>,
    /// Amount that takes part, in mmol of the limiting reagent's partner count; none for what does not react.
    pub equivalents: Option<Equivalents>,
    /// Hazard statements.
    pub hazards: Vec<String>,
}

/// A planned amount as written.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Planned {
    /// Digits as written.
    pub value: String,
    /// Unit.
    pub unit: String,
    /// How far from it will do.
    pub band: Option<String>,
}

/// How much of a reagent there is, measured by what the limiting one needs.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Equivalents {
    /// Amount of substance, mmol, three figures.
    pub millimoles: String,
    /// Extent over the smallest extent; 1 for the one that limits.
    pub planned: f64,
    /// The same at the ends of the band.
    pub low: f64,
    /// The same at the ends of the band.
    pub high: f64,
}

/// Something that follows from the plan.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Consequence {
    /// A reagent is in excess, by these percentages over its band, and this much of it would be just enough.
    InExcess {
        /// Name of the reagent.
        material: String,
        /// Symbol of the reagent, to stand beside its line.
        symbol: String,
        /// As planned.
        percent: String,
        /// At the lower end of the band.
        low: String,
        /// At the upper end of the band.
        high: String,
        /// Just enough, with its unit.
        enough: String,
        /// Within 5 % of just enough somewhere in its band.
        near_edge: bool,
    },
    /// Another reagent than the one meant to limit does.
    NotTheOneMeant {
        /// The one that limits.
        limits: String,
        /// Its symbol.
        symbol: String,
    },
    /// Expected uncertainty of a result with these instruments.
    Precision {
        /// In words.
        result: String,
        /// Relative U (k = 2), in percent.
        percent: String,
    },
    /// Readings that decide the result: record every digit.
    Critical {
        /// Labels, most important first, with their part of the variance.
        readings: Vec<Part>,
    },
    /// Readings that hardly matter.
    RoughWillDo {
        /// Labels.
        readings: Vec<String>,
    },
    /// Time at the bench.
    Time {
        /// Shortest and longest, in minutes.
        minutes: [u32; 2],
        /// Waits, in words.
        waits: Vec<String>,
        /// Lessons it takes.
        visits: u32,
    },
}

/// A source with its part of the variance.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Part {
    /// In words.
    pub label: String,
    /// In percent, whole.
    pub percent: String,
}

/// What follows from the practical as it is planned.
#[must_use]
pub fn plan(practical: &Practical) -> Plan {
    let expected = practical.readings.iter().map(|r| (r.symbol.clone(), r.expected)).collect();
    let planned = inputs(practical, &expected);
    let evaluation = practical.program.evaluate(&planned);
    let balance = practical.equation.check().unwrap_or_default();
    let last_result = practical.results.last();
    Plan {
        equation: practical.equation.runs(),
        balance: balance.into_iter().map(|(symbol, count)| AtomCount { symbol, count }).collect(),
        materials: practical.materials.iter().map(|m| ledger_line(practical, m, &planned, &evaluation)).collect(),
        consequences: consequences(practical, &planned, &evaluation),
        sheet: last_result.map(|r| evaluation.worked(&r.name)).unwrap_or_default(),
    }
}

fn ledger_line(practical: &Practical, m: &Material, inputs: &Inputs, evaluation: &Evaluation<'_>) -> LedgerLine {
    let theory = practical.yields.as_ref().filter(|y| y.product == m.symbol).and_then(|y| {
        let unit = practical.program.definition(&y.theoretical)?.unit.written().to_owned();
        Some(Planned { value: evaluation.shown(&y.theoretical)?, unit, band: None })
    });
    let planned = m.planned.as_ref().map(|p| Planned {
        value: p.value.to_string(),
        unit: p.unit.written().to_owned(),
        band: m.band.as_ref().map(|b| b.value.to_string()),
    });
    LedgerLine {
        symbol: m.symbol.clone(),
        name: m.name.clone(),
        also: m.also.clone(),
        formula: m.formula.runs().to_vec(),
        role: m.role,
        form: form_words(&m.form),
        planned: planned.or(theory),
        equivalents: equivalents(practical, m, inputs, evaluation),
        hazards: m.hazards.clone(),
    }
}

fn form_words(form: &Form) -> String {
    match form {
        Form::Solid { purity: None } => "solid".into(),
        Form::Solid { purity: Some(p) } => format!("solid, {p} by mass"),
        Form::Solution { concentration, .. } => concentration.clone(),
        Form::Liquid { .. } => "liquid".into(),
    }
}

/// Extent of one reagent over that of the one that limits, as planned and at both ends of its band.
fn equivalents(
    practical: &Practical,
    m: &Material,
    inputs: &Inputs,
    evaluation: &Evaluation<'_>,
) -> Option<Equivalents> {
    let (name, reagents) = practical.limiting.as_ref()?;
    let (coefficient, _) = m.term.filter(|_| reagents.contains(&m.symbol))?;
    let amount = crate::practical::amount_name(&m.symbol);
    let at = |inputs: &Inputs| match practical.program.evaluate(inputs).outcome(&amount) {
        Some(Outcome::Value(v)) => Some(v.value),
        _ => None,
    };
    // The yardstick is the reagent meant to limit, so that the scale stands still while an excess varies.
    let meant = reagents.iter().find(|r| practical.material(r).is_some_and(|m| m.role == Role::Limiting));
    let yardstick = match meant.and_then(|r| practical.material(r)) {
        Some(limiting) => match evaluation.outcome(&crate::practical::amount_name(&limiting.symbol)) {
            Some(Outcome::Value(v)) => v.value / number(limiting.term?.0),
            _ => return None,
        },
        None => match evaluation.outcome(name) {
            Some(Outcome::Value(v)) => v.value,
            _ => return None,
        },
    };
    let planned = at(inputs)?;
    let shifted = |by: f64| -> Option<f64> {
        let reading = practical.readings.iter().find(|r| r.of.as_deref() == Some(&m.symbol))?;
        let mut moved = inputs.clone();
        let shift = m.band.as_ref().map_or(0.0, Amount::base) * by;
        moved.readings.get_mut(&reading.symbol)?.value += shift;
        at(&moved)
    };
    let relative = |n: f64| n / number(coefficient) / yardstick;
    // Counted in partners of the limiting reagent, so that the columns can be compared down the page.
    let partners = yardstick_count(practical, meant) / number(coefficient);
    Some(Equivalents {
        millimoles: figures(planned * 1000.0 * partners, 3),
        planned: relative(planned),
        low: relative(shifted(-1.0)?),
        high: relative(shifted(1.0)?),
    })
}

fn yardstick_count(practical: &Practical, meant: Option<&String>) -> f64 {
    meant.and_then(|r| practical.material(r)).and_then(|m| m.term).map_or(1.0, |(c, _)| number(c))
}

fn consequences(practical: &Practical, inputs: &Inputs, evaluation: &Evaluation<'_>) -> Vec<Consequence> {
    let mut out = Vec::new();
    let limiting = practical
        .limiting
        .as_ref()
        .and_then(|(name, reagents)| practical.material(reagents.get(evaluation.limiting_argument(name)?)?));
    if let Some(m) = limiting.filter(|m| m.role != Role::Limiting) {
        out.push(Consequence::NotTheOneMeant { limits: m.name.clone(), symbol: m.symbol.clone() });
    }
    for m in practical.materials.iter().filter(|m| m.role == Role::Excess) {
        let (Some(e), Some(planned)) = (equivalents(practical, m, inputs, evaluation), &m.planned) else { continue };
        let over = |x: f64| format!("{:.0}", (x - 1.0) * 100.0);
        let enough = planned.value.to_f64() / e.planned;
        out.push(Consequence::InExcess {
            material: m.name.clone(),
            symbol: m.symbol.clone(),
            percent: over(e.planned),
            low: over(e.low),
            high: over(e.high),
            enough: format!("{} {}", figures(enough, 3), planned.unit.written()),
            near_edge: e.low < 1.05,
        });
    }
    if let Some(result) = practical.results.iter().rfind(|r| r.asked)
        && let ResultState::Value(v) = result_outcome(practical, evaluation, &result.name).state
    {
        let expanded = v.expanded.as_deref().and_then(|u| u.parse::<f64>().ok());
        if let Some(u) = expanded.filter(|_| v.value != 0.0) {
            out.push(Consequence::Precision {
                result: result.label.clone(),
                percent: figures(100.0 * u / v.value.abs(), 2),
            });
        }
        let label = |source: &Source| source_words(practical, source);
        let critical = v.budget.iter().filter(|s| s.fraction >= 0.1);
        let readings =
            critical.map(|s| Part { label: label(&s.source), percent: format!("{:.0}", s.fraction * 100.0) });
        out.push(Consequence::Critical { readings: readings.collect() });
        let matters = |symbol: &str| {
            let own = |s: &&crate::group::BudgetShare| matches!(&s.source, Source::Reading(r) if r == symbol);
            v.budget.iter().find(own).is_some_and(|s| s.fraction >= 0.01)
        };
        let rough: Vec<String> = practical
            .readings
            .iter()
            .filter(|r| !matters(&r.symbol) && !r.instrument.is_nominal())
            .map(|r| r.label.clone())
            .collect();
        if !rough.is_empty() {
            out.push(Consequence::RoughWillDo { readings: rough });
        }
    }
    let minutes = practical.steps.iter().filter_map(|s| s.minutes).fold([0, 0], |a, m| [a[0] + m[0], a[1] + m[1]]);
    let waits = practical.steps.iter().filter_map(|s| s.wait.clone()).collect();
    out.push(Consequence::Time { minutes, waits, visits: practical.visits });
    out
}

fn source_words(practical: &Practical, source: &Source) -> String {
    match source {
        Source::Reading(symbol) => practical.reading(symbol).map_or_else(|| symbol.clone(), |r| r.label.clone()),
        Source::Calibration(name) => format!("tolerance of {name}"),
        Source::Stated(what) => what
            .split_once(" of ")
            .and_then(|(property, m)| Some(format!("{property} of the {}", practical.material(m)?.name)))
            .unwrap_or_else(|| what.clone()),
        Source::AtomicMass(symbol) => format!("atomic mass of {symbol}"),
    }
}

fn number(coefficient: Coefficient) -> f64 {
    *coefficient.numer() as f64 / *coefficient.denom() as f64
}

fn figures(value: f64, figures: u32) -> String {
    decimal_of(value).map_or_else(String::new, |d| to_figures(d, figures, Ties::HalfUp).to_string())
}
