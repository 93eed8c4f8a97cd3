//! A formula: what is in it, and what a mole of it weighs.

use super::ComputeError;
use chem::{Formula, MassTable, Run};
use measure::rounding::uncertainty_figures;
use serde::{Deserialize, Serialize};

/// A question about a formula.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct FormulaQuestion {
    /// As typed.
    pub formula: String,
    /// Which relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

/// What is known about a formula.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FormulaAnswer {
    /// For setting with real subscripts and charges.
    pub runs: Vec<Run>,
    /// Charge number.
    pub charge: i32,
    /// By atomic number.
    pub composition: Vec<AtomShare>,
    /// g/mol; an ion's electrons are not counted.
    pub molar_mass: f64,
    /// Standard uncertainty from the tolerances of the atomic masses, g/mol.
    pub standard_uncertainty: f64,
    /// U (k = 2), g/mol, two figures.
    pub expanded: Option<String>,
}

/// One element (or isotope) of a formula.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AtomShare {
    /// Symbol, or `[2H]` for an isotope.
    pub symbol: String,
    /// Number in one formula unit.
    pub count: f64,
    /// Percent by mass.
    pub percent: f64,
}

pub(super) fn answer(question: &FormulaQuestion) -> Result<FormulaAnswer, ComputeError> {
    let formula = Formula::parse(&question.formula)?;
    let mass = formula.molar_mass(&question.masses)?;
    let u = mass.contributions.iter().map(|(_, u)| u * u).sum::<f64>().sqrt();
    let composition = mass.shares.iter().map(|(atom, count, share)| AtomShare {
        symbol: atom
            .mass_number
            .map_or_else(|| atom.element.symbol.to_owned(), |n| format!("[{n}{}]", atom.element.symbol)),
        count: *count,
        percent: 100.0 * share / mass.value,
    });
    Ok(FormulaAnswer {
        runs: formula.runs().to_vec(),
        charge: formula.charge(),
        composition: composition.collect(),
        molar_mass: mass.value,
        standard_uncertainty: u,
        expanded: uncertainty_figures(2.0 * u).map(|d| d.to_string()),
    })
}
