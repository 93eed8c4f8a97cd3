//! For a class: totals, sharing out over vessels, series from one stock.

use super::{Rounded, SolutionAnswer, WeighOut, to_step};
use crate::worksheet::Worksheet;
use crate::{ComputeError, Measured};
use measure::Dimension;
use practical::Amount;
use prepare::amounts::{Portion, rounded_up, vessels};
use serde::{Deserialize, Serialize};

/// How much of something for a class?
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Totals {
    /// Groups that work with it.
    pub groups: u32,
    /// Whole groups on top.
    #[serde(default)]
    pub spare_groups: u32,
    /// How often each takes it.
    pub trials: u32,
    /// How much each time.
    pub per_trial: Measured,
    /// How often the glass is rinsed with it.
    #[serde(default)]
    pub rinses: u32,
    /// How much each time.
    #[serde(default)]
    pub per_rinse: Option<Measured>,
    /// What stays behind in the glass of each group.
    #[serde(default)]
    pub left_in_glass: Option<Measured>,
    /// Per cent on top.
    #[serde(default)]
    pub percent_on_top: f64,
    /// What it is rounded up to; not rounded if left out.
    #[serde(default)]
    pub step: Option<Measured>,
}

/// What a class needs, in the unit of what each trial takes.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Total {
    /// The unit.
    pub unit: String,
    /// Of one group.
    pub per_group: f64,
    /// Of all, with what is spare.
    pub exact: f64,
    /// Rounded up.
    pub rounded_up: f64,
    /// What is left over if all goes to plan.
    pub left_over: f64,
}

/// Most groups that something is reckoned for.
const MOST_GROUPS: u32 = 1_000;

impl Totals {
    pub(super) fn answer(&self) -> Result<SolutionAnswer, ComputeError> {
        if self.groups > MOST_GROUPS || self.spare_groups > MOST_GROUPS || self.trials > MOST_GROUPS {
            return Err(ComputeError::impossible(format!("more than {MOST_GROUPS} of something is no class")));
        }
        if !(0.0..=1000.0).contains(&self.percent_on_top) {
            return Err(ComputeError::quantity("percent on top", "per cent on top are from 0 to 1000"));
        }
        let each = self.per_trial.read("per trial")?;
        let dimension = each.unit.dimension();
        let own = |field: &str, m: &Option<Measured>| -> Result<f64, ComputeError> {
            let read = m.as_ref().map(|m| m.not_negative(field, dimension)).transpose()?;
            Ok(read.map_or(0.0, |a| each.unit.from_base(a.base())))
        };
        let portion = Portion {
            trials: self.trials,
            per_trial: own("per trial", &Some(self.per_trial.clone()))?,
            rinses: self.rinses,
            per_rinse: own("per rinse", &self.per_rinse)?,
            left_in_glass: own("left in the glass", &self.left_in_glass)?,
        };
        let all = f64::from(self.groups + self.spare_groups);
        let exact = all * portion.per_group() * (1.0 + self.percent_on_top / 100.0);
        let step = own("step", &self.step)?;
        if self.step.is_some() && step <= 0.0 {
            return Err(ComputeError::quantity("step", "a step is above zero"));
        }
        let up = if step > 0.0 { rounded_up(exact, step) } else { exact };
        let total = Total {
            unit: each.unit.written().to_owned(),
            per_group: portion.per_group(),
            exact,
            rounded_up: up,
            left_over: up - f64::from(self.groups) * portion.used(),
        };
        Ok(SolutionAnswer { total: Some(total), ..SolutionAnswer::default() })
    }
}

/// Into which vessels does it go?
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct IntoVessels {
    /// To be made.
    pub volume: Measured,
    /// What the room has.
    pub vessels: Vec<VesselsThere>,
}

/// Vessels of one size.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct VesselsThere {
    /// What each holds.
    pub size: Measured,
    /// How many there are.
    pub count: u32,
}

impl IntoVessels {
    pub(super) fn answer(&self) -> Result<SolutionAnswer, ComputeError> {
        let ml = |field: &str, m: &Measured| {
            Ok::<f64, ComputeError>(1000.0 * m.not_negative(field, Dimension::VOLUME)?.base())
        };
        let needed = ml("volume", &self.volume)?;
        let there: Vec<(f64, u32)> =
            self.vessels.iter().map(|v| Ok((ml("size", &v.size)?, v.count))).collect::<Result<_, ComputeError>>()?;
        let chosen = vessels(needed, &there)
            .ok_or_else(|| ComputeError::impossible("all vessels together hold less than what is to be made"))?;
        let held: f64 = chosen.iter().sum();
        // Volumes are to a tenth: what is over is told without the noise of binary fractions.
        let over = (1e6 * (held - needed)).round() / 1e6;
        let total = Total { unit: "mL".into(), per_group: needed, exact: needed, rounded_up: held, left_over: over };
        Ok(SolutionAnswer {
            portions: chosen.iter().map(|ml| format!("{ml} mL")).collect(),
            total: Some(total),
            ..SolutionAnswer::default()
        })
    }
}

/// How much solid for the same solution in several flasks, so that the portions add up?
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Split {
    /// Formula as it is weighed.
    pub solute: String,
    /// Strength.
    pub strength: Measured,
    /// Each flask, at most 20.
    pub volumes: Vec<Measured>,
    /// Mass fraction of the solid; pure if left out.
    #[serde(default)]
    pub purity: Option<Measured>,
    /// Display step of the balance.
    pub step: String,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: chem::MassTable,
}

impl Split {
    pub(super) fn answer(&self) -> Result<SolutionAnswer, ComputeError> {
        if self.volumes.is_empty() || self.volumes.len() > 20 {
            return Err(ComputeError::undefined("say which flasks, at most 20"));
        }
        let flasks: Vec<f64> = self
            .volumes
            .iter()
            .map(|v| Ok(1000.0 * v.positive("volume", Dimension::VOLUME)?.base()))
            .collect::<Result<_, ComputeError>>()?;
        let all: f64 = flasks.iter().sum();
        let whole = WeighOut {
            solute: self.solute.clone(),
            strength: self.strength.clone(),
            species: None,
            per_unit: 1,
            volume: Measured::Typed(format!("{all} mL")),
            purity: self.purity.clone(),
            step: Some(self.step.clone()),
            masses: self.masses.clone(),
        };
        let mut sheet = whole.worksheet()?;
        sheet.define("V_total", "solution in all", "V * 1", "mL");
        let worked = sheet.solve()?;
        let rounded = to_step(&worked, "m_solute", &self.step, Dimension::MASS)?;
        let mass = worked.result("m_solute").map_or(0.0, |r| r.value);
        let exact_portions = flasks.iter().map(|flask| mass * flask / all).collect();
        let portions =
            super::Portions { shares: flasks, total: format!("{} g", rounded.take), step: self.step.clone() };
        let portions = portions.answer()?.portions;
        Ok(SolutionAnswer {
            rounded: Some(rounded),
            portions,
            exact_portions,
            worked: Some(worked),
            ..SolutionAnswer::default()
        })
    }
}

/// Strengths of a series in which each flask is made from the one before, each with its own glass.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct InTurn {
    /// Strength to start from.
    pub stock: Measured,
    /// What is taken and made up to each time, at most 20.
    pub steps: Vec<TurnStep>,
}

/// One dilution of several in turn.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct TurnStep {
    /// Taken of the one before.
    pub taken: Measured,
    /// Made up to.
    pub volume: Measured,
}

impl InTurn {
    pub(super) fn worksheet(&self) -> Result<Worksheet, ComputeError> {
        let mut sheet = Worksheet::default();
        let (dimension, unit) = super::dilution::strength_of(&self.stock)?;
        sheet.reading("c_stock", "stock", &self.stock, dimension)?;
        let mut before = "c_stock".to_owned();
        let mut factor = Vec::new();
        for (i, step) in (1..=20).zip(&self.steps) {
            sheet.divisor(&format!("V_taken_{i}"), "taken", &step.taken, Dimension::VOLUME)?;
            sheet.divisor(&format!("V_{i}"), "volume", &step.volume, Dimension::VOLUME)?;
            let (taken, made) =
                (step.taken.amount("taken", Dimension::VOLUME)?, step.volume.amount("volume", Dimension::VOLUME)?);
            if taken.base() > made.base() {
                return Err(ComputeError::impossible("more is taken than the flask holds"));
            }
            sheet.define(
                &format!("c_{i}"),
                format!("after step {i}"),
                format!("{before} * V_taken_{i} / V_{i}"),
                &unit,
            );
            factor.push(format!("V_{i} / V_taken_{i}"));
            before = format!("c_{i}");
        }
        if factor.is_empty() {
            return Err(ComputeError::undefined("say what is taken and made up to"));
        }
        sheet.define("factor", "factor in all", factor.join(" * "), "1");
        Ok(sheet)
    }
}

/// Each volume of stock rounded to what measures it.
pub(super) fn each_to_step(worked: &crate::Worked, step: &str) -> Result<Vec<Rounded>, ComputeError> {
    let volumes = worked.results.iter().filter(|r| r.name.starts_with("V_") && r.name != "V_total");
    let volumes = volumes.map(|r| match r.value {
        // A blank takes nothing.
        0.0 => Ok(Rounded { take: "0".into(), unit: r.unit.clone(), achieved: 1.0 }),
        _ => to_step(worked, &r.name, step, Dimension::VOLUME),
    });
    volumes.collect()
}

/// A step of what is measured with, above zero.
pub(super) fn step_of(step: &str, dimension: Dimension) -> Result<Amount, ComputeError> {
    Measured::Typed(step.to_owned()).positive("step", dimension)
}
