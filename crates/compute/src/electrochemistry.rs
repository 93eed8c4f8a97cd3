//! Charge and what it changes, potentials and what they say of concentrations.
//!
//! Concentrations in mol/L and pressures in bar stand for activities.
//!
//! Source: IUPAC Green Book, 3rd ed., 2.13; Harris, Quantitative Chemical Analysis, 9th ed., chapters 14 and 17.

use super::gas::gas_pressure;
use super::statistics::read;
use super::worksheet::Worksheet;
use super::{ComputeError, Found, Measured, Remark};
use chem::MassTable;
use measure::Dimension;
use practical::book::{self, FARADAY_CONSTANT, GAS_CONSTANT};
use practical::statistics::{self as stats, Weighting};
use serde::{Deserialize, Serialize};

/// A question about charge or potential.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case", deny_unknown_fields)]
pub enum ElectrochemistryQuestion {
    /// What a current deposits or dissolves, and what was found.
    Deposit {
        /// What is deposited.
        substance: String,
        /// Electrons for each formula unit.
        electrons: u32,
        /// Constant current.
        current: Measured,
        /// For how long.
        time: Measured,
        /// Change in mass, where it is known.
        #[serde(default)]
        mass: Option<Measured>,
        /// Mass fraction of the substance in what was found.
        #[serde(default)]
        purity: Option<Measured>,
    },
    /// How long, or with which current, for so much?
    Needed {
        /// What is deposited.
        substance: String,
        /// Electrons for each formula unit.
        electrons: u32,
        /// Wanted.
        mass: Measured,
        /// Where the time is asked.
        #[serde(default)]
        current: Option<Measured>,
        /// Where the current is asked.
        #[serde(default)]
        time: Option<Measured>,
    },
    /// A current that changes, read now and then.
    Varying {
        /// What is deposited.
        substance: String,
        /// Electrons for each formula unit.
        electrons: u32,
        /// When it was read.
        time: Vec<Measured>,
        /// Then.
        current: Vec<Measured>,
    },
    /// A gas at an electrode.
    Gas {
        /// Electrons for each molecule.
        electrons: u32,
        /// Constant current.
        current: Measured,
        /// For how long.
        time: Measured,
        /// Of the gas.
        temperature: Measured,
        /// Of the gas, or of the air around where it stands over water.
        pressure: Measured,
        /// Caught over water.
        #[serde(default)]
        over_water: bool,
        /// As read, where it is known.
        #[serde(default)]
        volume: Option<Measured>,
    },
    /// The potential of a cell from its half-cells.
    Cell {
        /// Of both half-cells.
        temperature: Measured,
        /// Where electrons are taken up.
        cathode: HalfCell,
        /// Where they are given off.
        anode: HalfCell,
        /// Electrons in the equation of the cell.
        electrons: u32,
        /// What the meter shows.
        #[serde(default)]
        measured: Option<Measured>,
    },
    /// An electrode's slope, and an unknown read off it.
    Slope {
        /// Of all solutions.
        temperature: Measured,
        /// Of the ion, with its sign.
        charge: i32,
        /// Concentrations in mol/L, as typed.
        concentration: Vec<String>,
        /// Potentials in mV, as typed.
        potential: Vec<String>,
        /// Potential of the unknown in mV.
        #[serde(default)]
        unknown: Option<String>,
    },
    /// The unknown half of a concentration cell.
    ConcentrationCell {
        /// Of both halves.
        temperature: Measured,
        /// Electrons for each ion.
        electrons: u32,
        /// What the meter shows.
        measured: Measured,
        /// The known half.
        known: Measured,
        /// The unknown is the more dilute one.
        unknown_is_dilute: bool,
    },
    /// The ion that is left beside its precipitate, from a concentration cell.
    SolubilityCell {
        /// Of both halves.
        temperature: Measured,
        /// Electrons for each ion.
        electrons: u32,
        /// What the meter shows.
        measured: Measured,
        /// The ion in the reference half.
        reference: Measured,
        /// The precipitant beside the precipitate.
        other_ion: Measured,
        /// Its number for each of the ion in the precipitate.
        #[serde(default = "one")]
        others: u32,
    },
}

fn one() -> u32 {
    1
}

/// A half-cell as a reduction: E = E° + (R·T/(z·F))·Σ power·ln(value).
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct HalfCell {
    /// E°.
    pub standard: Measured,
    /// Electrons in its equation.
    pub electrons: u32,
    /// What is dissolved or a gas; the oxidised side with a positive power.
    #[serde(default)]
    pub species: Vec<CellSpecies>,
}

/// One species in a half-cell.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CellSpecies {
    /// In mol/L, or in bar.
    pub value: Measured,
    /// Its coefficient; negative on the reduced side.
    pub power: i32,
}

/// What an electrode says.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case")]
pub enum ElectrochemistryAnswer {
    /// A sheet worked out.
    Worked(ChargeFound),
    /// A line through potentials.
    Slope(Electrode),
}

/// Figures, and what they say in words.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChargeFound {
    /// Figures, how they came about, and remarks.
    #[serde(flatten)]
    pub found: Found,
    /// Whether a cell runs by itself as it is written; none where no cell is asked about.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub spontaneous: Option<bool>,
    /// The charge number that the data say; none where no whole number from 1 to 8 is near.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub charge_number: Option<i64>,
}

/// An electrode and what was read off it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Electrode {
    /// Potential in mV against lg c.
    pub line: stats::StraightLine,
    /// R·T·ln 10/(z·F) in mV for ten times the concentration.
    pub theoretical_slope: f64,
    /// Slope found, as a percentage of it.
    pub percent_of_theory: f64,
    /// The unknown, where one was read.
    pub unknown: Option<ElectrodeUnknown>,
}

/// A concentration read off an electrode's line; one reading.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ElectrodeUnknown {
    /// lg c.
    pub log10: stats::ReadOff,
    /// c in mol/L.
    pub concentration: f64,
    /// u(c) = c·ln 10·u(lg c); none where no point is left over.
    pub standard_uncertainty: Option<f64>,
}

pub(super) fn answer(question: &ElectrochemistryQuestion) -> Result<ElectrochemistryAnswer, ComputeError> {
    let mut sheet = Worksheet::by_table(&MassTable::default());
    match question {
        ElectrochemistryQuestion::Slope { temperature, charge, concentration, potential, unknown } => {
            return electrode(temperature, *charge, concentration, potential, unknown.as_ref())
                .map(ElectrochemistryAnswer::Slope);
        }
        ElectrochemistryQuestion::Deposit { substance, electrons, current, time, mass, purity } => {
            constant_current(&mut sheet, current, time)?;
            sheet.material("substance", substance, None)?;
            deposited(&mut sheet, *electrons)?;
            if let Some(mass) = mass {
                sheet.reading("m", "mass", mass, Dimension::MASS)?;
                if let Some(purity) = purity {
                    sheet.fraction("w", "purity", purity)?;
                }
                let n = book::amount_of_solid("m", purity.as_ref().map(|_| "w"), "M(substance)");
                sheet.define("n", "amount found", n, "mol");
                sheet.define("efficiency", "current efficiency", book::part("n", "n_theory"), "%");
                sheet.define(
                    "Q_lost",
                    "charge that did something else",
                    format!("Q - n * {electrons} * {FARADAY_CONSTANT} C/mol"),
                    "C",
                );
                if mass.amount("mass", Dimension::MASS)?.value.to_f64() > 0.0 {
                    sheet.define("F", "Faraday constant by this experiment", format!("Q / (n * {electrons})"), "C/mol");
                    sheet.define("N_A", "Avogadro constant by this experiment", "F / (1.602176634 C) * 10^19", "1/mol");
                    sheet.define("z", "charge number by this experiment", "n_electrons / n", "1");
                }
            }
        }
        ElectrochemistryQuestion::Needed { substance, electrons, mass, current, time } => {
            sheet.material("substance", substance, None)?;
            sheet.reading("m", "mass", mass, Dimension::MASS)?;
            let charge = format!("m / M(substance) * {} * {FARADAY_CONSTANT} C/mol", positive(*electrons)?);
            sheet.define("Q", "charge", charge, "C");
            match (current, time) {
                (Some(current), None) => {
                    sheet.divisor("I", "current", current, Dimension::CURRENT)?;
                    sheet.define("t", "time", "Q / I", "s");
                }
                (None, Some(time)) => {
                    sheet.divisor("t", "time", time, Dimension::TIME)?;
                    sheet.define("I", "current", "Q / t", "A");
                }
                (Some(_), Some(_)) | (None, None) => {
                    return Err(ComputeError::quantity("current", "either the current is given or the time"));
                }
            }
        }
        ElectrochemistryQuestion::Varying { substance, electrons, time, current } => {
            sheet.material("substance", substance, None)?;
            if time.len() != current.len() || time.len() < 2 {
                return Err(ComputeError::quantity("time", "a current for each time, two or more"));
            }
            sheet.points("t", "time", time, ("reading", Dimension::TIME))?;
            sheet.points("I", "current", current, ("reading", Dimension::CURRENT))?;
            sheet.define("Q", "charge, currents joined by straight lines", "area(I, t)", "C");
            sheet.define("I_mean", "mean current", "Q / range(t)", "A");
            deposited(&mut sheet, *electrons)?;
        }
        ElectrochemistryQuestion::Gas { electrons, current, time, temperature, pressure, over_water, volume } => {
            constant_current(&mut sheet, current, time)?;
            gas_pressure(&mut sheet, temperature, pressure, *over_water, None)?;
            let each = positive(*electrons)?;
            sheet.define("n_theory", "gas by the charge", book::amount_by_charge("Q", &each), "mol");
            sheet.define("V_theory", "volume by the charge, as read", book::volume_of_gas("n_theory", "T", "p"), "mL");
            if let Some(volume) = volume {
                sheet.divisor("V", "volume", volume, Dimension::VOLUME)?;
                sheet.define("n", "gas found", book::amount_of_gas("p", "V", "T"), "mol");
                sheet.define("efficiency", "current efficiency", book::part("n", "n_theory"), "%");
                sheet.define("F", "Faraday constant by this experiment", format!("Q / (n * {each})"), "C/mol");
            }
        }
        ElectrochemistryQuestion::Cell { temperature, cathode, anode, electrons, measured } => {
            cell(&mut sheet, temperature, [cathode, anode], *electrons, measured.as_ref())?;
        }
        ElectrochemistryQuestion::ConcentrationCell { temperature, electrons, measured, known, unknown_is_dilute } => {
            concentration_cell(&mut sheet, temperature, *electrons, measured, known)?;
            let unknown = if *unknown_is_dilute { "c_known / factor" } else { "c_known * factor" };
            sheet.define("c", "concentration of the unknown half", unknown, "mol/L");
        }
        ElectrochemistryQuestion::SolubilityCell { temperature, electrons, measured, reference, other_ion, others } => {
            concentration_cell(&mut sheet, temperature, *electrons, measured, reference)?;
            sheet.define("c", "concentration beside the precipitate", "c_known / factor", "mol/L");
            sheet.divisor("c_other", "other_ion", other_ion, Dimension::CONCENTRATION)?;
            let product = format!("c / (1 mol/L) * (c_other / (1 mol/L))^{}", positive(*others)?);
            sheet.define("Ksp", "solubility product", product, "1");
            sheet.define("pKsp", "its exponent", "-log10(Ksp)", "1");
        }
    }
    let above = |r: &super::Computed| (r.value - r.expanded_uncertainty > 100.0).then_some(Remark::MoreThanPossible);
    let found = Found::from(sheet.solve()?).remarked("efficiency", above);
    let spontaneous = found.worked.result("E").filter(|_| matches!(question, ElectrochemistryQuestion::Cell { .. }));
    let charge_number = found.worked.result("z").and_then(|z| whole_charge(z.value));
    let spontaneous = spontaneous.map(|e| e.value > 0.0);
    Ok(ElectrochemistryAnswer::Worked(ChargeFound { found, spontaneous, charge_number }))
}

/// A whole charge number within a quarter of what the data give.
#[allow(clippy::cast_possible_truncation)] // from 1 to 8
fn whole_charge(z: f64) -> Option<i64> {
    let whole = z.round();
    ((1.0..=8.0).contains(&whole) && (z - whole).abs() <= 0.25).then_some(whole as i64)
}

fn positive(electrons: u32) -> Result<String, ComputeError> {
    if (1..=100).contains(&electrons) {
        return Ok(electrons.to_string());
    }
    Err(ComputeError::quantity("electrons", format!("a number from 1 to 100, not {electrons}")))
}

fn constant_current(sheet: &mut Worksheet, current: &Measured, time: &Measured) -> Result<(), ComputeError> {
    sheet.divisor("I", "current", current, Dimension::CURRENT)?;
    sheet.divisor("t", "time", time, Dimension::TIME)?;
    sheet.define("Q", "charge", book::charge("I", "t"), "C");
    Ok(())
}

/// What the charge Q deposits of the substance.
fn deposited(sheet: &mut Worksheet, electrons: u32) -> Result<(), ComputeError> {
    sheet.define("n_electrons", "amount of electrons", book::amount_by_charge("Q", "1"), "mol");
    sheet.define("n_theory", "amount by the charge", format!("n_electrons / {}", positive(electrons)?), "mol");
    sheet.define("m_theory", "mass by the charge", book::mass_of("n_theory", "M(substance)"), "g");
    Ok(())
}

/// E = E° + (R·T/(z·F))·Σ power·ln(value) of both half-cells, and what follows for the cell.
fn cell(
    sheet: &mut Worksheet,
    temperature: &Measured,
    halves: [&HalfCell; 2],
    electrons: u32,
    measured: Option<&Measured>,
) -> Result<(), ComputeError> {
    sheet.temperature("T", temperature)?;
    for (half, side) in halves.into_iter().zip(["cathode", "anode"]) {
        sheet.signed(&format!("E0_{side}"), side, &half.standard, Dimension::POTENTIAL)?;
        let mut terms = Vec::new();
        for (i, species) in half.species.iter().enumerate() {
            let symbol = format!("a_{side}_{}", i + 1);
            sheet.divisor(&symbol, side, &species.value, Dimension::ONE)?;
            terms.push(format!("{} * ln({symbol})", species.power));
        }
        let shift = if terms.is_empty() { "0".to_owned() } else { terms.join(" + ") };
        let thermal =
            format!("{GAS_CONSTANT} J/mol/K * T / ({} * {FARADAY_CONSTANT} C/mol)", positive(half.electrons)?);
        let potential = format!("E0_{side} + {thermal} * ({shift})");
        sheet.define(&format!("E_{side}"), format!("potential of the {side}"), potential, "V");
    }
    let z = positive(electrons)?;
    sheet.define("E0", "standard potential of the cell", "E0_cathode - E0_anode", "V");
    sheet.define("E", "potential of the cell", "E_cathode - E_anode", "V");
    for (name, label, of) in [("dG", "Gibbs energy", "E"), ("dG0", "standard Gibbs energy", "E0")] {
        sheet.define(name, label, format!("-{z} * {FARADAY_CONSTANT} C/mol * {of}"), "kJ/mol");
    }
    let decades = format!("{GAS_CONSTANT} J/mol/K * T * ln(10)");
    sheet.define("lg_K", "lg K", format!("-dG0 / ({decades})"), "1");
    sheet.define("lg_Q", "lg Q", format!("(dG - dG0) / ({decades})"), "1");
    if let Some(measured) = measured {
        sheet.signed("E_read", "measured", measured, Dimension::POTENTIAL)?;
        sheet.define("difference", "read less computed", "E_read - E", "V");
    }
    Ok(())
}

/// By how many times two halves differ: exp(z·F·E/(R·T)).
fn concentration_cell(
    sheet: &mut Worksheet,
    temperature: &Measured,
    electrons: u32,
    measured: &Measured,
    known: &Measured,
) -> Result<(), ComputeError> {
    sheet.temperature("T", temperature)?;
    sheet.reading("E", "measured", measured, Dimension::POTENTIAL)?;
    sheet.divisor("c_known", "known", known, Dimension::CONCENTRATION)?;
    let z = positive(electrons)?;
    let factor = format!("exp({z} * {FARADAY_CONSTANT} C/mol * E / ({GAS_CONSTANT} J/mol/K * T))");
    sheet.define("factor", "one concentration over the other", factor, "1");
    Ok(())
}

fn electrode(
    temperature: &Measured,
    charge: i32,
    concentration: &[String],
    potential: &[String],
    unknown: Option<&String>,
) -> Result<Electrode, ComputeError> {
    if charge == 0 || charge.abs() > 8 {
        return Err(ComputeError::quantity("charge", format!("the charge of an ion, not {charge}")));
    }
    let concentration = read(concentration)?;
    if concentration.iter().any(|c| *c <= 0.0) {
        return Err(ComputeError::impossible("a concentration of nothing has no logarithm"));
    }
    let lg: Vec<f64> = concentration.iter().map(|c| c.log10()).collect();
    let potential = read(potential)?;
    let mut thermal = Worksheet::default();
    thermal.temperature("T", temperature)?;
    let slope = format!("{GAS_CONSTANT} J/mol/K * T * ln(10) / ({charge} * {FARADAY_CONSTANT} C/mol)");
    thermal.define("slope", "mV for each power of ten", slope, "mV");
    let theoretical_slope = super::gas::result(&thermal.solve()?, "slope")?;
    let line = stats::line(&lg, &potential, &Weighting::Alike)?;
    let unknown = unknown.map(|text| {
        let log10 = stats::read_off(&lg, &potential, &Weighting::Alike, &read(std::slice::from_ref(text))?, None)?;
        let concentration = 10f64.powf(log10.x);
        let standard_uncertainty = log10.standard_error.map(|u| concentration * std::f64::consts::LN_10 * u);
        Ok::<_, ComputeError>(ElectrodeUnknown { log10, concentration, standard_uncertainty })
    });
    let percent_of_theory = 100.0 * line.slope / theoretical_slope;
    Ok(Electrode { line, theoretical_slope, percent_of_theory, unknown: unknown.transpose()? })
}
