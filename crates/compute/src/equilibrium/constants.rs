//! Equilibrium constants from absorbances and titres.

use super::{EquilibriumAnswer, number, positive};
use crate::worksheet::Worksheet;
use crate::{ComputeError, Found, Measured};
use measure::Dimension;
use practical::book;
use practical::statistics as stats;
use serde::{Deserialize, Serialize};

/// A mixture of A and B, and its absorbance.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ComplexRun {
    /// Concentration of A's solution, in mol/L.
    pub a: String,
    /// Taken of it, in mL.
    pub a_volume: String,
    /// Concentration of B's solution.
    pub b: String,
    /// Taken of it.
    pub b_volume: String,
    /// Made up to, in mL.
    pub total: String,
    /// As read.
    pub absorbance: String,
}

/// What a mixture says; concentrations in mol/L.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ComplexRunFound {
    /// A in all.
    pub a: f64,
    /// B in all.
    pub b: f64,
    /// AB.
    pub complex: f64,
    /// A that is left.
    pub a_left: f64,
    /// B that is left.
    pub b_left: f64,
    /// [AB]/([A][B]) in L/mol.
    pub k: f64,
}

/// A mixture of acid, alcohol, ester and water that has come to rest, titrated.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Esterification {
    /// At the start.
    pub acid: Measured,
    /// At the start.
    pub alcohol: Measured,
    /// At the start.
    pub ester: Measured,
    /// At the start.
    pub water: Measured,
    /// Of the mixture.
    pub total: Measured,
    /// Taken of it.
    pub aliquot: Measured,
    /// The base.
    pub titrant: Measured,
    /// What the aliquot takes.
    pub titre: Measured,
    /// What the catalyst in it takes.
    pub catalyst_titre: Measured,
}

pub(super) fn complex(
    slope: &str,
    intercept: Option<&String>,
    runs: &[ComplexRun],
) -> Result<EquilibriumAnswer, ComputeError> {
    let (slope, intercept) = (positive("slope", slope)?, intercept.map_or(Ok(0.0), |t| number(t))?);
    let of = |r: &ComplexRun| {
        let total = positive("total", &r.total)?;
        let in_total =
            |c: &str, v: &str| Ok::<_, ComputeError>(positive("concentration", c)? * positive("volume", v)? / total);
        let (a, b) = (in_total(&r.a, &r.a_volume)?, in_total(&r.b, &r.b_volume)?);
        at_equilibrium(a, b, (number(&r.absorbance)? - intercept) / slope)
    };
    summed(runs.iter().map(of).collect::<Result<_, _>>()?)
}

pub(super) fn complex_of(a: &str, b: &str, complex: &str) -> Result<EquilibriumAnswer, ComputeError> {
    summed(vec![at_equilibrium(positive("a", a)?, positive("b", b)?, number(complex)?)?])
}

fn at_equilibrium(a: f64, b: f64, complex: f64) -> Result<ComplexRunFound, ComputeError> {
    if complex <= 0.0 {
        return Err(ComputeError::undefined("the absorbance shows no complex at all"));
    }
    if complex >= a.min(b) {
        return Err(ComputeError::undefined("the absorbance shows more complex than the reagents can make"));
    }
    let (a_left, b_left) = (a - complex, b - complex);
    Ok(ComplexRunFound { a, b, complex, a_left, b_left, k: complex / (a_left * b_left) })
}

fn summed(runs: Vec<ComplexRunFound>) -> Result<EquilibriumAnswer, ComputeError> {
    let summary = stats::summary(&runs.iter().map(|r| r.k).collect::<Vec<_>>())?;
    let half_width_95 = summary.spread.as_ref().map(|s| s.t_975 * s.standard_error);
    Ok(EquilibriumAnswer::Complex { runs, mean: summary.mean, spread: summary.spread, half_width_95 })
}

/// K of an esterification: as many molecules on one side as on the other, so that the volume cancels.
pub(super) fn ester(q: &Esterification) -> Result<Found, ComputeError> {
    let Esterification { acid, alcohol, ester, water, total, aliquot, titrant, titre, catalyst_titre } = q;
    let mut sheet = Worksheet::default();
    for (symbol, field, amount) in [
        ("n_acid", "acid", acid),
        ("n_alcohol", "alcohol", alcohol),
        ("n_ester", "ester", ester),
        ("n_water", "water", water),
    ] {
        sheet.reading(symbol, field, amount, Dimension::AMOUNT)?;
    }
    for (symbol, field, volume) in
        [("V_total", "total", total), ("V_aliquot", "aliquot", aliquot), ("V_titre", "titre", titre)]
    {
        sheet.divisor(symbol, field, volume, Dimension::VOLUME)?;
    }
    sheet.reading("V_catalyst", "catalyst_titre", catalyst_titre, Dimension::VOLUME)?;
    sheet.divisor("c", "titrant", titrant, Dimension::CONCENTRATION)?;
    sheet.define("acid_left", "acid left", "(V_titre - V_catalyst) * c * V_total / V_aliquot", "mol");
    sheet.draft("reacted", book::difference("n_acid", "acid_left"));
    sheet.define("alcohol_left", "alcohol left", "n_alcohol - reacted", "mol");
    sheet.define("ester_made", "ester there", "n_ester + reacted", "mol");
    sheet.define("water_made", "water there", "n_water + reacted", "mol");
    sheet.define("K_c", "equilibrium constant", "ester_made * water_made / (acid_left * alcohol_left)", "1");
    sheet.define("conversion", "acid that reacted", book::part("reacted", "n_acid"), "%");
    let found = Found::from(sheet.solve()?);
    let impossible = |name: &str| found.worked.result(name).is_some_and(|r| r.value <= 0.0);
    if ["acid_left", "alcohol_left", "ester_made", "water_made"].into_iter().any(impossible) {
        return Err(ComputeError::undefined("by these titres there is less than nothing of something"));
    }
    Ok(found)
}

/// pK = pH − lg([base form]/[acid form]).
pub(super) fn indicator(
    absorbance: &Measured,
    acid_form: &Measured,
    base_form: &Measured,
    ph: &Measured,
) -> Result<Found, ComputeError> {
    let mut sheet = Worksheet::default();
    for (symbol, field, read) in
        [("A", "absorbance", absorbance), ("A_acid", "acid_form", acid_form), ("A_base", "base_form", base_form)]
    {
        sheet.signed(symbol, field, read, Dimension::ONE)?;
    }
    sheet.signed("pH", "ph", ph, Dimension::ONE)?;
    sheet.define("ratio", "base form for each acid form", "(A - A_acid) / (A_base - A)", "1");
    sheet.define("pK", "pK of the indicator", "pH - log10(ratio)", "1");
    Ok(sheet.solve()?.into())
}
