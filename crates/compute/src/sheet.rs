//! Any calculation sheet: quantities with their uncertainties, definitions, results with budget and Monte Carlo.

use super::composition::{Candidate, Fitted, status};
use super::worksheet::computed;
use super::{ComputeError, Computed, MOST_SAMPLES, Measured};
use chem::{Coefficient, Formula, MassTable};
use measure::Source;
use practical::Amount;
use serde::{Deserialize, Serialize};
use sheet::{Draft, Inputs, Line, Material, Outcome, Program, ReadingName, Vocabulary, monte_carlo, read_definitions};

/// A question about a sheet.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SheetQuestion {
    /// What was measured.
    pub quantities: Vec<SheetQuantity>,
    /// Substances that the sheet speaks of.
    #[serde(default)]
    pub materials: Vec<SheetMaterial>,
    /// Definitions, one a line.
    pub sheet: String,
    /// Unit in which a definition is wanted, by its name.
    #[serde(default)]
    pub units: std::collections::BTreeMap<String, String>,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
    /// Monte Carlo samples of the last definition; 0 leaves it out.
    #[serde(default)]
    pub samples: usize,
    /// Seed of the samples.
    #[serde(default)]
    pub seed: u64,
}

/// A measured quantity of a sheet.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SheetQuantity {
    /// As the sheet calls it.
    pub symbol: String,
    /// Its value; a plain number has no unit.
    pub value: Measured,
}

/// A substance of a sheet.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SheetMaterial {
    /// As the sheet calls it.
    pub symbol: String,
    /// Its formula.
    pub formula: String,
    /// Its coefficient in the reaction.
    #[serde(default)]
    pub coefficient: Option<u32>,
}

/// What a sheet comes to.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SheetAnswer {
    /// Every definition that is one value.
    pub results: Vec<Computed>,
    /// Every definition that is a formula.
    pub formulas: Vec<FoundFormula>,
    /// What each measured quantity contributes to the last definition.
    pub inputs: Vec<InputShare>,
    /// The solution worked out.
    pub lines: Vec<Line>,
    /// Monte Carlo of the last definition, in its unit.
    pub drawn: Option<DrawnAnswer>,
}

/// A formula that the amounts of a sheet stand for.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FoundFormula {
    /// As the sheet calls it.
    pub name: String,
    /// Whether the data decide.
    pub status: Fitted,
    /// Those that fit within 95 %, best first.
    pub consistent: Vec<Candidate>,
    /// The nearest that does not fit.
    pub nearest_rejected: Option<Candidate>,
    /// Of the consistent ones, the one with the smallest subscripts: what `M(…)` takes further on.
    pub simplest: Option<String>,
}

/// One quantity's part in the last result.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct InputShare {
    /// As the sheet calls it.
    pub symbol: String,
    /// Standard uncertainty of the quantity, in its own unit.
    pub standard_uncertainty: f64,
    /// ∂y/∂x · u(x) without its sign, in the unit of the result.
    pub contribution: f64,
    /// Percent of the variance of the result.
    pub percent: f64,
}

/// Samples of a result.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DrawnAnswer {
    /// Mean.
    pub mean: f64,
    /// Standard deviation.
    pub sd: f64,
    /// 2.5 % lie below.
    pub low: f64,
    /// 2.5 % lie above.
    pub high: f64,
    /// Samples that gave a number.
    pub samples: usize,
    /// Samples that did not.
    pub failed: usize,
}

const MOST_QUANTITIES: usize = 200;

pub(super) fn answer(question: &SheetQuestion) -> Result<SheetAnswer, ComputeError> {
    if question.quantities.len() > MOST_QUANTITIES || question.materials.len() > MOST_QUANTITIES {
        return Err(ComputeError::quantity(
            "quantities",
            format!("at most {MOST_QUANTITIES} quantities and materials"),
        ));
    }
    let mut vocabulary = Vocabulary { masses: question.masses.clone(), ..Vocabulary::default() };
    let mut inputs = Inputs::default();
    let mut amounts = Vec::new();
    for quantity in &question.quantities {
        let symbol = &quantity.symbol;
        let amount = quantity.value.read(symbol)?;
        let given = quantity.value.given(symbol, &amount);
        vocabulary.readings.push(ReadingName { symbol: symbol.clone(), unit: amount.unit.clone(), repeats: None });
        inputs.readings.insert(symbol.clone(), given);
        amounts.push(amount);
    }
    for m in &question.materials {
        vocabulary.materials.push(Material {
            symbol: m.symbol.clone(),
            formula: Some(Formula::parse(&m.formula)?),
            coefficient: m.coefficient.map(|c| Coefficient::from_integer(c.into())),
            concentration: None,
            purity: None,
            density: None,
            mass_concentration: None,
        });
    }
    let mut drafts: Vec<Draft> = read_definitions(&question.sheet)?.into_iter().map(Draft::from).collect();
    for (name, unit) in &question.units {
        let unit = measure::Unit::parse(unit).map_err(|e| ComputeError::quantity(name, e.to_string()))?;
        if let Some(draft) = drafts.iter_mut().find(|d| d.name == *name) {
            draft.unit = Some(unit);
        }
    }
    let program = Program::compile(&drafts, &vocabulary)?;
    let evaluation = program.evaluate(&inputs);
    let mut results = Vec::new();
    let mut formulas = Vec::new();
    for definition in program.definitions() {
        if program.is_formula(definition) {
            formulas.extend(evaluation.candidates(&definition.name).map(|found| FoundFormula {
                name: definition.name.clone(),
                status: status(found.consistent.len()),
                consistent: found.consistent.iter().map(|c| Candidate::of(found, c)).collect(),
                nearest_rejected: found.nearest_rejected.as_ref().map(|c| Candidate::of(found, c)),
                simplest: found.simplest().map(|c| found.written(c)),
            }));
            continue;
        }
        match evaluation.outcome(&definition.name) {
            Some(Outcome::Value(v)) => {
                results.push(computed(&program, &evaluation, &definition.name, &definition.name, &v));
            }
            Some(Outcome::Failed(failure)) => return Err(failure.into()),
            Some(Outcome::NotYet { .. } | Outcome::Series(_)) | None => {}
        }
    }
    let last = program.definitions().last();
    let shares = |name: &str| -> Vec<InputShare> {
        let Some(result) = results.iter().find(|r| r.name == name) else { return Vec::new() };
        question.quantities.iter().zip(&amounts).map(|(q, amount)| share(q, amount, &inputs, result)).collect()
    };
    let drawn = last.filter(|_| question.samples > 0).and_then(|d| {
        let drawn = monte_carlo(&program, &inputs, &d.name, question.samples.min(MOST_SAMPLES), question.seed)?;
        Some(DrawnAnswer {
            mean: d.unit.from_base(drawn.mean()),
            sd: d.unit.difference_from_base(drawn.standard_deviation()),
            low: d.unit.from_base(drawn.quantile(0.025)?),
            high: d.unit.from_base(drawn.quantile(0.975)?),
            samples: drawn.samples(),
            failed: drawn.failed,
        })
    });
    Ok(SheetAnswer {
        formulas,
        inputs: last.map(|d| shares(&d.name)).unwrap_or_default(),
        lines: evaluation.all_worked(),
        drawn,
        results,
    })
}

fn share(quantity: &SheetQuantity, amount: &Amount, inputs: &Inputs, result: &Computed) -> InputShare {
    let given = inputs.readings.get(&quantity.symbol);
    let u = given.map_or(0.0, |g| g.contributions.iter().map(|c| c.standard_uncertainty.powi(2)).sum::<f64>().sqrt());
    let own = |s: &&lab::evaluated::BudgetShare| s.source == Source::Reading(quantity.symbol.clone());
    let fraction = result.budget.iter().find(own).map_or(0.0, |s| s.fraction);
    InputShare {
        symbol: quantity.symbol.clone(),
        standard_uncertainty: amount.unit.difference_from_base(u),
        contribution: fraction.sqrt() * result.standard_uncertainty,
        percent: 100.0 * fraction,
    }
}
