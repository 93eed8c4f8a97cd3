//! A reaction with the amounts really used: which reagent limits, what is left, what could be made, and which of
//! several reactions it was.
//!
//! n = m·w/M (solid), c·V (solution), V·ρ·w/M (liquid), p·V/(R·T) (gas); extent ξ = min(nᵢ/νᵢ); left nᵢ − νᵢ·ξ; theoretical
//! yield ν·ξ·M of the product in the form in which it is weighed.
//!
//! Near a tie the uncertainties decide: the probability that each reagent limits comes from Monte Carlo.
//!
//! Sources and expressions: [`practical::book`].

use super::worksheet::{Solved, Worksheet};
use super::{ComputeError, MOST_SAMPLES, Measured, Worked};
use chem::{Equation, Formula, MassTable};
use measure::Dimension;
use practical::book;
use serde::{Deserialize, Serialize};
use sheet::{Evaluation, monte_carlo};
use std::collections::BTreeMap;

/// A question about a reaction.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case", deny_unknown_fields)]
pub enum ReactionQuestion {
    /// Limiting reagent, left-overs, theoretical and percent yield.
    Yield {
        /// Balanced, with coefficients.
        equation: String,
        /// What was used.
        reagents: Vec<Reagent>,
        /// The product, as in the equation.
        #[serde(default)]
        product: Option<String>,
        /// The product as it is weighed, if that differs (a hydrate).
        #[serde(default)]
        product_as: Option<String>,
        /// Mass of product found.
        #[serde(default)]
        actual: Option<Measured>,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
        /// Monte Carlo samples for the probability that each reagent limits. With 0 they are drawn only where the next
        /// extent lies within twice the uncertainty of the difference.
        #[serde(default)]
        samples: usize,
        /// Seed of the samples.
        #[serde(default)]
        seed: u64,
    },
    /// Which of several reactions explains the product found?
    Competing {
        /// The reactions in question.
        candidates: Vec<Competitor>,
        /// What was used.
        reagents: Vec<Reagent>,
        /// Mass of product found.
        actual: Measured,
        /// What was seen, by name of the observation.
        #[serde(default)]
        seen: BTreeMap<String, String>,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
    },
    /// The same substance in and out: percent recovery.
    Recovery {
        /// Mass put in.
        taken: Measured,
        /// Mass got back.
        recovered: Measured,
    },
}

/// What was used of one substance.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Reagent {
    /// As in the equation.
    pub species: String,
    /// As it is weighed, if that differs: a hydrate with one of the species in it.
    #[serde(default)]
    pub weighed_as: Option<String>,
    /// How it was measured out.
    pub supply: Supply,
}

/// How a substance is measured out.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "form", rename_all = "kebab-case", deny_unknown_fields)]
pub enum Supply {
    /// Weighed.
    Solid {
        /// What the balance showed.
        mass: Measured,
        /// Mass fraction of the substance in it; pure if left out.
        #[serde(default)]
        purity: Option<Measured>,
    },
    /// A solution of known strength.
    Solution {
        /// What was taken of it.
        volume: Measured,
        /// Amount concentration.
        concentration: Measured,
    },
    /// A solution whose strength is mass per volume (w/v).
    MassConcentration {
        /// What was taken of it.
        volume: Measured,
        /// As in `9.0 g/L`.
        strength: Measured,
    },
    /// A liquid, or a solution by mass fraction (w/w).
    Liquid {
        /// What was taken of it.
        volume: Measured,
        /// Its density.
        density: Measured,
        /// Mass fraction of the substance in it; pure if left out.
        #[serde(default)]
        purity: Option<Measured>,
    },
    /// A gas, taken as ideal.
    Gas {
        /// Its volume.
        volume: Measured,
        /// Its temperature, in °C or K.
        temperature: Measured,
        /// Its pressure.
        pressure: Measured,
    },
}

/// One reaction that may have happened.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Competitor {
    /// Balanced.
    pub equation: String,
    /// Its product, as in the equation.
    pub product: String,
    /// The product as it is weighed, if that differs.
    #[serde(default)]
    pub product_as: Option<String>,
    /// What would be seen, by name of the observation.
    #[serde(default)]
    pub predicts: BTreeMap<String, String>,
}

/// What is left of one reagent.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Left {
    /// As in the equation.
    pub species: String,
    /// Name of the results that belong to it: `n_`, `x_`, `used_`, `left_`, `left_mass_`, `left_supply_` and this.
    pub symbol: String,
    /// Whether it limits, alone or tied.
    pub limits: bool,
    /// Excess over what the limiting reagent takes, in percent.
    pub excess_percent: f64,
    /// Chance that it is the one that limits, where samples were asked for.
    pub probability: Option<f64>,
}

/// What follows for a reaction.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case")]
pub enum ReactionAnswer {
    /// Limiting reagent and yield.
    Yield {
        /// In the order asked.
        reagents: Vec<Left>,
        /// More than one limits, to the last digit.
        tie: bool,
        /// Distance of the next extent above the smallest, relative to it.
        gap: f64,
        /// 95 % of the samples of the extent, in mol, where samples were drawn: near a tie it is not what u says.
        extent_interval: Option<[f64; 2]>,
        /// Results and solution.
        worked: Worked,
    },
    /// Reactions by how well they explain what was found, best first.
    Competing {
        /// In that order.
        ranked: Vec<Ranked>,
    },
    /// Percent recovery.
    Recovery {
        /// Results and solution.
        worked: Worked,
    },
}

/// How one reaction explains what was found.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ranked {
    /// Place in the list asked, from 0.
    pub candidate: usize,
    /// Theoretical yield in g.
    pub theoretical_g: f64,
    /// What was found, as percent of it.
    pub percent: f64,
    /// More was found than this reaction can give, beyond twice the uncertainty.
    pub above_theory: bool,
    /// Observations that speak against it.
    pub contradicted_by: Vec<String>,
    /// Reagent that would limit.
    pub limiting: String,
}

pub(super) fn answer(question: &ReactionQuestion) -> Result<ReactionAnswer, ComputeError> {
    match question {
        ReactionQuestion::Yield { equation, reagents, product, product_as, actual, masses, samples, seed } => {
            let product = product.as_deref().map(|p| (p, product_as.as_deref().unwrap_or(p)));
            let batch = Batch::new(equation, reagents, product, actual.as_ref(), masses)?;
            batch.answer((*samples).min(MOST_SAMPLES), *seed)
        }
        ReactionQuestion::Competing { candidates, reagents, actual, seen, masses } => {
            let ranked = candidates.iter().enumerate().map(|(i, c)| rank(i, c, reagents, actual, seen, masses));
            let mut ranked: Vec<Ranked> = ranked.collect::<Result<_, _>>()?;
            ranked.sort_by(|a, b| {
                let doubt = |r: &Ranked| (!r.contradicted_by.is_empty(), r.above_theory);
                let misfit = |r: &Ranked| (r.percent / 100.0).ln().abs();
                doubt(a).cmp(&doubt(b)).then(misfit(a).total_cmp(&misfit(b)))
            });
            Ok(ReactionAnswer::Competing { ranked })
        }
        ReactionQuestion::Recovery { taken, recovered } => {
            let mut sheet = Worksheet::new(&MassTable::default());
            sheet.divisor("m_taken", "taken", taken, Dimension::MASS)?;
            sheet.reading("m_recovered", "recovered", recovered, Dimension::MASS)?;
            sheet.define("recovery", "percent recovery", book::part("m_recovered", "m_taken"), "%");
            Ok(ReactionAnswer::Recovery { worked: sheet.solve()? })
        }
    }
}

fn rank(
    candidate: usize,
    c: &Competitor,
    reagents: &[Reagent],
    actual: &Measured,
    seen: &BTreeMap<String, String>,
    masses: &MassTable,
) -> Result<Ranked, ComputeError> {
    let product = (c.product.as_str(), c.product_as.as_deref().unwrap_or(&c.product));
    let batch = Batch::new(&c.equation, reagents, Some(product), Some(actual), masses)?;
    let ReactionAnswer::Yield { reagents, worked, .. } = batch.answer(0, 0)? else {
        return Err(ComputeError::undefined("a reaction has a yield"));
    };
    let result = |name: &str| worked.result(name).map_or((0.0, 0.0), |r| (r.value, r.standard_uncertainty));
    let (percent, u) = result("percent_yield");
    let against = c.predicts.iter().filter(|(what, choice)| seen.get(*what).is_some_and(|s| s != *choice));
    Ok(Ranked {
        candidate,
        theoretical_g: result("m_theory").0,
        percent,
        above_theory: percent > 100.0 + 2.0 * u,
        contradicted_by: against.map(|(what, _)| what.clone()).collect(),
        limiting: reagents.iter().find(|r| r.limits).map_or_else(String::new, |r| r.species.clone()),
    })
}

/// Samples drawn unasked where two reagents nearly tie.
const NEAR_TIE_SAMPLES: usize = 20_000;

/// The sheet of one reaction.
struct Batch {
    solved: Solved,
    reagents: Vec<(String, String)>,
}

impl Batch {
    fn new(
        equation: &str,
        reagents: &[Reagent],
        product: Option<(&str, &str)>,
        actual: Option<&Measured>,
        masses: &MassTable,
    ) -> Result<Batch, ComputeError> {
        let equation = Equation::parse(equation)?;
        if let Err(imbalance) = equation.check() {
            return Err(ComputeError::impossible(imbalance.to_string()));
        }
        if reagents.is_empty() {
            return Err(ComputeError::undefined("say what was used of at least one reagent"));
        }
        let mut sheet = Worksheet::new(masses);
        let mut symbols: Vec<String> = Vec::new();
        for reagent in reagents {
            let symbol = symbol_of(&reagent.species, &symbols);
            reagent.define(&symbol, &equation, &mut sheet)?;
            symbols.push(symbol);
        }
        let extents: Vec<String> = symbols.iter().map(|s| format!("x_{s}")).collect();
        let smallest = book::extent(&extents).unwrap_or_default();
        sheet.define("extent", "extent of the reaction", smallest, "mol");
        for (symbol, reagent) in symbols.iter().zip(reagents) {
            reagent.define_left(symbol, &mut sheet);
        }
        if let Some((product, weighed_as)) = product {
            let formula = Formula::parse(product)?;
            let (coefficient, used_up) = equation
                .term_of(&formula)
                .ok_or_else(|| ComputeError::impossible(format!("the equation has no '{product}'")))?;
            if used_up {
                return Err(ComputeError::impossible(format!("'{product}' is used up, not made")));
            }
            sheet.material("product", weighed_as, Some(coefficient))?;
            let made = book::amount_in_extent("extent", "coefficient(product)");
            sheet.define("n_product", format!("amount of {product}"), made, "mol");
            let theory = book::mass_of("n_product", "M(product)");
            sheet.define("m_theory", format!("theoretical yield of {weighed_as}"), theory, "g");
            if let Some(actual) = actual {
                sheet.reading("m_actual", "actual", actual, Dimension::MASS)?;
                sheet.define("percent_yield", "percent yield", book::part("m_actual", "m_theory"), "%");
            }
        }
        let reagents = symbols.into_iter().zip(reagents.iter().map(|r| r.species.clone())).collect();
        Ok(Batch { solved: sheet.finish()?, reagents })
    }

    fn answer(&self, samples: usize, seed: u64) -> Result<ReactionAnswer, ComputeError> {
        let evaluation = self.solved.evaluate();
        let worked = self.solved.worked(&evaluation)?;
        let extent = |symbol: &str| worked.result(&format!("x_{symbol}")).map_or(f64::NAN, |r| r.value);
        let extents: Vec<f64> = self.reagents.iter().map(|(s, _)| extent(s)).collect();
        let least = extents.iter().copied().fold(f64::INFINITY, f64::min);
        let limits = |x: f64| (x - least).abs() <= 1e-12 * least.abs();
        let tied = extents.iter().filter(|x| limits(**x)).count() > 1;
        let next = extents.iter().copied().filter(|x| !limits(*x)).fold(f64::INFINITY, f64::min);
        let gap = if tied || next.is_infinite() || least == 0.0 { 0.0 } else { next / least - 1.0 };
        let samples = if samples == 0 && self.near_tie(&evaluation, &extents) { NEAR_TIE_SAMPLES } else { samples };
        let drawn = evaluation
            .limiting_argument("extent")
            .filter(|_| samples > 0)
            .and_then(|_| monte_carlo(&self.solved.program, &self.solved.inputs, "extent", samples, seed));
        let chance = |i: usize| {
            let drawn = drawn.as_ref()?;
            Some(*drawn.chosen.get(i)? as f64 / drawn.samples().max(1) as f64)
        };
        let reagents = self.reagents.iter().zip(&extents).enumerate().map(|(i, ((symbol, species), x))| Left {
            species: species.clone(),
            symbol: symbol.clone(),
            limits: limits(*x),
            excess_percent: if least == 0.0 { 0.0 } else { 100.0 * (x / least - 1.0) },
            probability: chance(i),
        });
        let extent_interval = drawn.as_ref().and_then(|d| Some([d.quantile(0.025)?, d.quantile(0.975)?]));
        Ok(ReactionAnswer::Yield { reagents: reagents.collect(), tie: tied, gap, extent_interval, worked })
    }

    /// Whether another extent lies within twice the uncertainty of its difference to the smallest.
    fn near_tie(&self, evaluation: &Evaluation<'_>, extents: &[f64]) -> bool {
        let name = |i: usize| format!("x_{}", self.reagents[i].0);
        let Some(least) = (0..extents.len()).min_by(|a, b| extents[*a].total_cmp(&extents[*b])) else { return false };
        let covariance = |a: usize, b: usize| evaluation.covariance(&name(a), &name(b)).unwrap_or(0.0);
        (0..extents.len()).filter(|i| *i != least).any(|i| {
            let variance = covariance(least, least) + covariance(i, i) - 2.0 * covariance(least, i);
            extents[i] - extents[least] <= 2.0 * variance.max(0.0).sqrt()
        })
    }
}

impl Reagent {
    /// The amount used and its extent.
    fn define(&self, symbol: &str, equation: &Equation, sheet: &mut Worksheet) -> Result<(), ComputeError> {
        let species = &self.species;
        let (coefficient, used_up) = equation
            .term_of(&Formula::parse(species)?)
            .ok_or_else(|| ComputeError::impossible(format!("the equation has no '{species}'")))?;
        if !used_up {
            return Err(ComputeError::impossible(format!("'{species}' is made, not used up")));
        }
        let supplied = format!("supplied_{symbol}");
        sheet.material(symbol, species, Some(coefficient))?;
        sheet.material(&supplied, self.weighed_as.as_deref().unwrap_or(species), None)?;
        let field = |what: &str| format!("{what} of {species}");
        let (m, v, w, c, rho) = (
            format!("m_{symbol}"),
            format!("V_{symbol}"),
            format!("w_{symbol}"),
            format!("c_{symbol}"),
            format!("rho_{symbol}"),
        );
        let molar_mass = format!("M({supplied})");
        let amount = match &self.supply {
            Supply::Solid { mass, purity } => {
                sheet.reading(&m, &field("mass"), mass, Dimension::MASS)?;
                book::amount_of_solid(&m, pure(sheet, &w, &field("purity"), purity.as_ref())?, &molar_mass)
            }
            Supply::Solution { volume, concentration } => {
                sheet.reading(&v, &field("volume"), volume, Dimension::VOLUME)?;
                sheet.divisor(&c, &field("concentration"), concentration, Dimension::CONCENTRATION)?;
                book::amount_of_solution(&v, &c)
            }
            Supply::MassConcentration { volume, strength } => {
                sheet.reading(&v, &field("volume"), volume, Dimension::VOLUME)?;
                sheet.divisor(&rho, &field("strength"), strength, Dimension::DENSITY)?;
                book::amount_by_mass_concentration(&v, &rho, &molar_mass)
            }
            Supply::Liquid { volume, density, purity } => {
                sheet.reading(&v, &field("volume"), volume, Dimension::VOLUME)?;
                sheet.divisor(&rho, &field("density"), density, Dimension::DENSITY)?;
                book::amount_of_liquid(&v, &rho, pure(sheet, &w, &field("purity"), purity.as_ref())?, &molar_mass)
            }
            Supply::Gas { volume, temperature, pressure } => {
                let (p, t) = (format!("p_{symbol}"), format!("T_{symbol}"));
                sheet.reading(&v, &field("volume"), volume, Dimension::VOLUME)?;
                sheet.divisor(&p, &field("pressure"), pressure, Dimension::PRESSURE)?;
                let kelvin = temperature.amount(&field("temperature"), Dimension::TEMPERATURE)?.base();
                if kelvin <= 0.0 {
                    return Err(ComputeError::impossible(format!(
                        "{} is at or below absolute zero",
                        field("temperature")
                    )));
                }
                sheet.temperature(&t, temperature)?;
                book::amount_of_gas(&p, &v, &t)
            }
        };
        sheet.define(&format!("n_{symbol}"), format!("amount of {species}"), amount, "mol");
        sheet.define(
            &format!("x_{symbol}"),
            format!("extent that {species} allows"),
            book::extent_allowed(&format!("n_{symbol}"), &format!("coefficient({symbol})")),
            "mol",
        );
        Ok(())
    }

    /// What is used up and what is left of it: as amount, as mass of the pure species, and as it was supplied.
    fn define_left(&self, symbol: &str, sheet: &mut Worksheet) {
        let species = &self.species;
        sheet.define(
            &format!("used_{symbol}"),
            format!("{species} used up"),
            book::amount_in_extent("extent", &format!("coefficient({symbol})")),
            "mol",
        );
        sheet.define(
            &format!("left_{symbol}"),
            format!("{species} left"),
            book::difference(&format!("n_{symbol}"), &format!("used_{symbol}")),
            "mol",
        );
        sheet.define(
            &format!("left_mass_{symbol}"),
            format!("mass of {species} left"),
            book::mass_of(&format!("left_{symbol}"), &format!("M({symbol})")),
            "g",
        );
        let (left, supplied) = (format!("left_{symbol}"), format!("supplied_{symbol}"));
        let over = |purity: &Option<Measured>| if purity.is_some() { format!(" / w_{symbol}") } else { String::new() };
        let (expression, unit) = match &self.supply {
            Supply::Solid { purity, .. } => (format!("{left} * M({supplied}){}", over(purity)), "g"),
            Supply::Solution { .. } => (format!("{left} / c_{symbol}"), "mL"),
            Supply::MassConcentration { .. } => (format!("{left} * M({supplied}) / rho_{symbol}"), "mL"),
            Supply::Liquid { purity, .. } => (format!("{left} * M({supplied}) / rho_{symbol}{}", over(purity)), "mL"),
            Supply::Gas { .. } => (book::volume_of_gas(&left, &format!("T_{symbol}"), &format!("p_{symbol}")), "mL"),
        };
        sheet.define(&format!("left_supply_{symbol}"), format!("{species} left, as supplied"), expression, unit);
    }
}

fn pure<'s>(
    sheet: &mut Worksheet,
    symbol: &'s str,
    field: &str,
    purity: Option<&Measured>,
) -> Result<Option<&'s str>, ComputeError> {
    let Some(purity) = purity else { return Ok(None) };
    sheet.fraction(symbol, field, purity)?;
    Ok(Some(symbol))
}

/// A name for the sheet: the letters and digits of the formula, numbered where two would be alike.
fn symbol_of(species: &str, taken: &[String]) -> String {
    let plain: String = species.chars().filter(char::is_ascii_alphanumeric).take(20).collect();
    let plain = if plain.starts_with(|c: char| c.is_ascii_alphabetic()) { plain } else { format!("r{plain}") };
    if taken.contains(&plain) { format!("{plain}_{}", taken.len() + 1) } else { plain }
}
