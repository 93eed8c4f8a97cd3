//! Heat from a change of temperature: reactions in a cup with cooling put back, fuels under a can, calorimeters, cycles.
//!
//! Source: Shoemaker, Garland & Nibler, Experiments in Physical Chemistry, 8th ed., VI (extrapolation to the time of
//! mixing); IUPAC Green Book, 3rd ed., 2.11 (signs: heat given off is negative).

use super::found::ratio_term;
use super::worksheet::{Solved, Worksheet};
use super::{ComputeError, Found, Measured, Remark};
use chem::MassTable;
use measure::{Dimension, Source};
use practical::book;
use serde::{Deserialize, Serialize};
use sheet::Outcome;

/// A question about heat.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case", deny_unknown_fields)]
pub enum CalorimetryQuestion {
    /// Something is mixed in a cup, and the temperature is read before and after.
    Reaction(Box<Mixing>),
    /// A calorimeter's heat capacity, from hot water poured into cold.
    ConstantByMixing {
        /// Mass of the hot water.
        hot: Measured,
        /// Its temperature.
        hot_temperature: Measured,
        /// Mass of the cold water, in the calorimeter from the beginning.
        cold: Measured,
        /// Its temperature.
        cold_temperature: Measured,
        /// Of both together.
        final_temperature: Measured,
        /// Of water.
        specific_heat: Measured,
    },
    /// A calorimeter's heat capacity, from an electric heater.
    ConstantByHeater {
        /// Across the heater.
        voltage: Measured,
        /// Through it.
        current: Measured,
        /// For how long.
        time: Measured,
        /// In the calorimeter.
        water: Measured,
        /// By how much it got warmer, in K.
        warmed: Measured,
        /// Of water.
        specific_heat: Measured,
    },
    /// A fuel burnt under a can of water.
    Combustion(Box<Burning>),
    /// Enthalpies added up: Hess.
    Cycle {
        /// The steps.
        steps: Vec<CycleStep>,
    },
    /// Heat over an amount, from figures that are known already.
    PerMole {
        /// What is warmed.
        heated: Measured,
        /// Of it.
        specific_heat: Measured,
        /// By how much, in K; cooling is negative.
        warmed: Measured,
        /// What reacted.
        amount: Measured,
    },
}

/// A reaction in a cup.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Mixing {
    /// What is put together.
    pub parts: Vec<CupPart>,
    /// Of what is heated.
    pub specific_heat: Measured,
    /// Heat capacity of the cup, where it is counted.
    #[serde(default)]
    pub calorimeter: Option<Measured>,
    /// Temperature before mixing, read again and again.
    pub before: Vec<Measured>,
    /// Times of the readings that the line goes through.
    pub times: Vec<Measured>,
    /// Temperatures then.
    pub after: Vec<Measured>,
    /// When it was mixed.
    pub mixed_at: Measured,
}

/// Something put into the cup: a solid by its mass, a solution by volume and concentration, or water alone.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CupPart {
    /// What it is called.
    pub name: String,
    /// Of a solid that reacts.
    #[serde(default)]
    pub formula: Option<String>,
    /// Of a solid.
    #[serde(default)]
    pub mass: Option<Measured>,
    /// Of a liquid.
    #[serde(default)]
    pub volume: Option<Measured>,
    /// Of a solution that reacts.
    #[serde(default)]
    pub concentration: Option<Measured>,
    /// Its coefficient where it reacts; 1/2 for an acid that gives two protons.
    #[serde(default)]
    pub coefficient: Option<String>,
    /// Of a liquid that is heated.
    #[serde(default)]
    pub density: Option<Measured>,
    /// It counts in the mass that is heated.
    #[serde(default)]
    pub heated: bool,
}

/// A fuel burnt.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Burning {
    /// Its formula.
    pub fuel: String,
    /// The burner before.
    pub before: Measured,
    /// And after.
    pub after: Measured,
    /// Volume of the water.
    pub water: Measured,
    /// Of the water.
    pub density: Measured,
    /// Of the water.
    pub specific_heat: Measured,
    /// By how much it got warmer, in K.
    pub warmed: Measured,
    /// Mass of the can, where it is counted.
    #[serde(default)]
    pub can: Option<Measured>,
    /// Specific heat of the can.
    #[serde(default)]
    pub can_specific_heat: Option<Measured>,
    /// Accepted enthalpy of combustion, in kJ/mol.
    #[serde(default)]
    pub accepted: Option<Measured>,
    /// Part of the heat that another fuel lost in the same apparatus.
    #[serde(default)]
    pub loss_of_another: Option<Measured>,
}

/// One step of a cycle.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CycleStep {
    /// How often it is gone; negative backwards.
    pub times: i32,
    /// Its enthalpy.
    pub enthalpy: Measured,
}

/// What a calorimeter says.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CalorimetryAnswer {
    /// Figures, how they came about, and remarks.
    #[serde(flatten)]
    pub found: Found,
    /// What runs out first, by its name; several where they do so together.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub limiting: Vec<String>,
    /// Standard uncertainty of the temperature at mixing that the scatter of the readings alone gives, in K.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub scatter_at_mixing: Option<f64>,
}

impl From<Found> for CalorimetryAnswer {
    fn from(found: Found) -> CalorimetryAnswer {
        CalorimetryAnswer { found, limiting: Vec::new(), scatter_at_mixing: None }
    }
}

/// J/(g K).
const SPECIFIC_HEAT: Dimension = Dimension::SPECIFIC_HEAT;
/// J/K.
const HEAT_CAPACITY: Dimension = Dimension::HEAT_CAPACITY;

pub(super) fn answer(question: &CalorimetryQuestion) -> Result<CalorimetryAnswer, ComputeError> {
    let mut sheet = Worksheet::by_table(&MassTable::default());
    match question {
        CalorimetryQuestion::Reaction(q) => return mixing(q),
        CalorimetryQuestion::ConstantByMixing {
            hot,
            hot_temperature,
            cold,
            cold_temperature,
            final_temperature,
            specific_heat,
        } => {
            sheet.divisor("m_hot", "hot", hot, Dimension::MASS)?;
            sheet.temperature("T_hot", hot_temperature)?;
            sheet.divisor("m_cold", "cold", cold, Dimension::MASS)?;
            sheet.temperature("T_cold", cold_temperature)?;
            sheet.temperature("T_final", final_temperature)?;
            sheet.divisor("c_water", "specific_heat", specific_heat, SPECIFIC_HEAT)?;
            sheet.define(
                "q_hot",
                "heat that the hot water gave off",
                book::heat("m_hot", "c_water", None, "(T_hot - T_final)"),
                "J",
            );
            sheet.define(
                "q_cold",
                "heat that the cold water took up",
                book::heat("m_cold", "c_water", None, "(T_final - T_cold)"),
                "J",
            );
            sheet.define(
                "constant",
                "heat capacity of the calorimeter",
                "(q_hot - q_cold) / (T_final - T_cold)",
                "J/K",
            );
            let found = Found::from(sheet.solve()?);
            let below = |r: &super::Computed| (r.value < 0.0).then_some(Remark::BelowNothing);
            let zero =
                |r: &super::Computed| (r.value.abs() <= r.expanded_uncertainty).then_some(Remark::ConsistentWithZero);
            return Ok(found.remarked("constant", below).remarked("constant", zero).into());
        }
        CalorimetryQuestion::ConstantByHeater { voltage, current, time, water, warmed, specific_heat } => {
            sheet.divisor("U", "voltage", voltage, Dimension::POTENTIAL)?;
            sheet.divisor("I", "current", current, Dimension::CURRENT)?;
            sheet.divisor("t", "time", time, Dimension::TIME)?;
            sheet.divisor("m", "water", water, Dimension::MASS)?;
            sheet.divisor("dT", "warmed", warmed, Dimension::TEMPERATURE)?;
            sheet.divisor("c_water", "specific_heat", specific_heat, SPECIFIC_HEAT)?;
            sheet.define("energy", "energy of the heater", "U * I * t", "J");
            sheet.define("constant", "heat capacity of the calorimeter", "energy / dT - m * c_water", "J/K");
            let below = |r: &super::Computed| (r.value < 0.0).then_some(Remark::BelowNothing);
            return Ok(Found::from(sheet.solve()?).remarked("constant", below).into());
        }
        CalorimetryQuestion::Combustion(q) => return burning(q, sheet),
        CalorimetryQuestion::Cycle { steps } => {
            if steps.is_empty() || steps.len() > 100 {
                return Err(ComputeError::quantity("steps", "one to a hundred steps"));
            }
            let mut terms = Vec::new();
            for (i, step) in steps.iter().enumerate() {
                let symbol = format!("H_{}", i + 1);
                sheet.signed(&symbol, "enthalpy", &step.enthalpy, Dimension::ENERGY / Dimension::AMOUNT)?;
                terms.push(format!("({}) * {symbol}", step.times));
            }
            sheet.define("enthalpy", "enthalpy of the whole way", terms.join(" + "), "kJ/mol");
        }
        CalorimetryQuestion::PerMole { heated, specific_heat, warmed, amount } => {
            sheet.divisor("m", "heated", heated, Dimension::MASS)?;
            sheet.divisor("c", "specific_heat", specific_heat, SPECIFIC_HEAT)?;
            sheet.signed("dT", "warmed", warmed, Dimension::TEMPERATURE)?;
            sheet.divisor("n", "amount", amount, Dimension::AMOUNT)?;
            sheet.define("heat", "heat given off", book::heat("m", "c", None, "dT"), "J");
            sheet.define("enthalpy", "enthalpy of the reaction", "-heat / n", "kJ/mol");
        }
    }
    Ok(Found::from(sheet.solve()?).into())
}

/// q = (m·c + C)·ΔT with ΔT from the line carried back; ΔH = −q/ξ.
fn mixing(q: &Mixing) -> Result<CalorimetryAnswer, ComputeError> {
    let mut sheet = Worksheet::by_table(&MassTable::default());
    if q.before.is_empty() || q.after.len() < 2 || q.after.len() != q.times.len() {
        return Err(ComputeError::quantity(
            "after",
            "a reading before mixing, and two or more after it, each with its time",
        ));
    }
    sheet.points("T_before", "before", &q.before, ("earlier reading", Dimension::TEMPERATURE))?;
    sheet.points("T_after", "after", &q.after, ("later reading", Dimension::TEMPERATURE))?;
    sheet.points("t", "times", &q.times, ("later reading", Dimension::TIME))?;
    sheet.signed("t_mixed", "mixed_at", &q.mixed_at, Dimension::TIME)?;
    let parts = cup(&mut sheet, &q.parts)?;
    sheet.divisor("c", "specific_heat", &q.specific_heat, SPECIFIC_HEAT)?;
    let vessel = q.calorimeter.as_ref().map(|m| sheet.reading("C_cup", "calorimeter", m, HEAT_CAPACITY)).transpose()?;
    sheet.define("T_initial", "temperature before mixing", "mean(T_before)", "°C");
    sheet.define("cooling", "change after mixing", "slope(T_after, t)", "K/min");
    sheet.define("T_mixing", "temperature at mixing, by the line", book::carried_back("T_after", "t", "t_mixed"), "°C");
    sheet.define("dT", "change in temperature", "T_mixing - T_initial", "K");
    sheet.define("m_heated", "mass that is heated", parts.heated.join(" + "), "g");
    let heat = book::heat("m_heated", "c", vessel.map(|()| "C_cup"), "dT");
    sheet.define("heat", "heat given off", heat, "J");
    let extents: Vec<String> = parts.reagents.iter().map(|r| r.extent.clone()).collect();
    let Some(extent) = book::extent(&extents) else {
        return Err(ComputeError::quantity(
            "parts",
            "nothing here reacts: give a formula with a mass, or a concentration",
        ));
    };
    sheet.define("extent", "extent of the reaction", format!("({extent}) * 1"), "mol");
    sheet.define("enthalpy", "enthalpy of the reaction", "-heat / extent", "kJ/mol");
    let solved = sheet.finish()?;
    let evaluation = solved.evaluate();
    let worked = solved.worked(&evaluation)?;
    let limiting = limiting(&solved, &parts.reagents);
    let scatter_at_mixing = evaluation.value("T_mixing").map(|v| {
        let scatter = v.budget.iter().filter(|s| matches!(s.source, Source::Scatter { .. }));
        scatter.map(|s| s.standard_uncertainty).fold(0.0, f64::hypot)
    });
    let mut found = Found::from(worked);
    if limiting.len() > 1 {
        found.remarks.push(Remark::RunsOutTogether);
    }
    Ok(CalorimetryAnswer { found, limiting, scatter_at_mixing })
}

/// A part that reacts.
struct Reagent {
    name: String,
    /// Definition of its extent.
    extent: String,
}

#[derive(Default)]
struct Cup {
    heated: Vec<String>,
    reagents: Vec<Reagent>,
}

fn cup(sheet: &mut Worksheet, parts: &[CupPart]) -> Result<Cup, ComputeError> {
    let mut out = Cup::default();
    if parts.len() > 20 {
        return Err(ComputeError::quantity("parts", "at most 20 parts"));
    }
    for (i, part) in parts.iter().enumerate() {
        let at = |what: &str| format!("{what}_{}", i + 1);
        let amount = match (&part.mass, &part.volume) {
            (Some(mass), None) => {
                sheet.divisor(&at("m"), &part.name, mass, Dimension::MASS)?;
                if part.heated {
                    out.heated.push(at("m"));
                }
                match &part.formula {
                    Some(formula) => {
                        sheet.material(&at("s"), formula, None)?;
                        Some(book::amount_of_solid(&at("m"), None, &format!("M({})", at("s"))))
                    }
                    None => None,
                }
            }
            (None, Some(volume)) => {
                sheet.divisor(&at("V"), &part.name, volume, Dimension::VOLUME)?;
                if part.heated {
                    let Some(density) = &part.density else {
                        return Err(ComputeError::quantity(
                            "density",
                            format!("{}: a liquid that is heated needs a density", part.name),
                        ));
                    };
                    sheet.divisor(&at("rho"), "density", density, Dimension::DENSITY)?;
                    out.heated.push(format!("{} * {}", at("V"), at("rho")));
                }
                match &part.concentration {
                    Some(c) => {
                        sheet.divisor(&at("c"), &part.name, c, Dimension::CONCENTRATION)?;
                        Some(book::amount_of_solution(&at("V"), &at("c")))
                    }
                    None => None,
                }
            }
            (Some(_), Some(_)) | (None, None) => {
                return Err(ComputeError::quantity("parts", format!("{}: either a mass or a volume", part.name)));
            }
        };
        if let Some(amount) = amount {
            let each = ratio_term("coefficient", part.coefficient.as_deref().unwrap_or("1"))?;
            sheet.define(&at("n"), format!("amount of {}", part.name), amount, "mol");
            let extent = book::extent_allowed(&at("n"), &each);
            sheet.define(&at("x"), format!("extent that {} allows", part.name), extent, "mol");
            out.reagents.push(Reagent { name: part.name.clone(), extent: at("x") });
        }
    }
    if out.heated.is_empty() {
        return Err(ComputeError::quantity("parts", "nothing here is heated: mark what counts with heated"));
    }
    Ok(out)
}

/// What runs out first; equal extents, up to the last bits, do so together.
fn limiting(solved: &Solved, reagents: &[Reagent]) -> Vec<String> {
    let evaluation = solved.evaluate();
    let of = |r: &Reagent| match evaluation.outcome(&r.extent) {
        Some(Outcome::Value(v)) => v.value,
        Some(Outcome::NotYet { .. } | Outcome::Failed(_) | Outcome::Series(_)) | None => f64::INFINITY,
    };
    let least = reagents.iter().map(of).fold(f64::INFINITY, f64::min);
    reagents.iter().filter(|r| of(r) <= least * (1.0 + 1e-12)).map(|r| r.name.clone()).collect()
}

fn burning(q: &Burning, mut sheet: Worksheet) -> Result<CalorimetryAnswer, ComputeError> {
    let burner = |field: &str, m: &Measured| m.not_negative(field, Dimension::MASS).map(|a| a.base());
    if burner("after", &q.after)? >= burner("before", &q.before)? {
        return Err(ComputeError::impossible(
            "the burner weighs no less after it burnt: nothing was burnt, or the two are exchanged",
        ));
    }
    sheet.material("fuel", &q.fuel, None)?;
    sheet.reading("m_before", "before", &q.before, Dimension::MASS)?;
    sheet.reading("m_after", "after", &q.after, Dimension::MASS)?;
    sheet.divisor("V", "water", &q.water, Dimension::VOLUME)?;
    sheet.divisor("rho", "density", &q.density, Dimension::DENSITY)?;
    sheet.divisor("c", "specific_heat", &q.specific_heat, SPECIFIC_HEAT)?;
    sheet.signed("dT", "warmed", &q.warmed, Dimension::TEMPERATURE)?;
    let vessel = match (&q.can, &q.can_specific_heat) {
        (Some(can), Some(specific)) => {
            sheet.reading("m_can", "can", can, Dimension::MASS)?;
            sheet.divisor("c_can", "can_specific_heat", specific, SPECIFIC_HEAT)?;
            Some("m_can * c_can")
        }
        (Some(_), None) => {
            return Err(ComputeError::quantity("can_specific_heat", "a can that counts needs its specific heat"));
        }
        (None, _) => None,
    };
    sheet.define("m_burnt", "fuel burnt", "m_before - m_after", "g");
    sheet.define("n_burnt", "amount burnt", "m_burnt / M(fuel)", "mol");
    sheet.define("heat", "heat taken up", book::heat("V * rho", "c", vessel, "dT"), "J");
    sheet.define("enthalpy", "enthalpy of combustion", "-heat / n_burnt", "kJ/mol");
    sheet.define("per_gram", "heat for each gram", "-heat / m_burnt", "kJ/g");
    if let Some(accepted) = &q.accepted {
        sheet.signed("H_accepted", "accepted", accepted, Dimension::ENERGY / Dimension::AMOUNT)?;
        sheet.define("lost", "heat lost", "1 - enthalpy / H_accepted", "%");
    }
    if let Some(loss) = &q.loss_of_another {
        sheet.fraction("w_loss", "loss_of_another", loss)?;
        sheet.define("corrected", "corrected by the loss of another fuel", "enthalpy / (1 - w_loss)", "kJ/mol");
    }
    let more = |r: &super::Computed| (r.value + r.expanded_uncertainty < 0.0).then_some(Remark::MoreThanPossible);
    Ok(Found::from(sheet.solve()?).remarked("lost", more).into())
}
