//! Solutions: what to weigh or measure for a strength, what strength was really made, dilution in every direction.
//!
//! n = c·V; m = n·M/w; c₁V₁ = c₂V₂; a stock by mass fraction has c = ρ·w/M. Percentages say what they refer to: `1 %` w/v is
//! 1 g in 100 mL, never left open. Volumes add only where that is said.
//!
//! Source: IUPAC Green Book, 3rd ed., 2.10; Harris, Quantitative Chemical Analysis, 9th ed., 1.3 and 1.4.

mod dilution;
mod portions;
mod provide;
mod strength;

pub use dilution::{Dilute, Diluted, Mix, MixPart, MixTo, Serial, Standards};
pub use portions::Portions;
pub use provide::{InTurn, IntoVessels, Split, Total, Totals, TurnStep, VesselsThere};
pub use strength::{Concentrated, Describe, Made, MadeFromConcentrated, PercentVv, PercentWv, WeighOut};

use super::{ComputeError, Worked};
use measure::rounding::{Ties, decimal_of, to_figures};
use measure::{Decimal, Dimension};
use serde::{Deserialize, Serialize};

/// A question about a solution.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case")]
pub enum SolutionQuestion {
    /// How much solid for this volume of this strength?
    WeighOut(WeighOut),
    /// What strength was made from what was really weighed?
    Made(Made),
    /// How much stock for this volume of a weaker solution? Any one kind of strength.
    Dilute(Dilute),
    /// What strength does a dilution have?
    Diluted(Diluted),
    /// How much of a concentrated reagent, sold by mass fraction and density?
    Concentrated(Concentrated),
    /// What strength was made from what was really taken of a concentrated reagent?
    MadeFromConcentrated(MadeFromConcentrated),
    /// A solution by what was weighed of solute and water, in every way of saying it.
    Describe(Describe),
    /// Mass and amount concentration for a percentage of mass per volume.
    PercentWv(PercentWv),
    /// Strength of a percentage of volume per volume.
    PercentVv(PercentVv),
    /// Strengths of a dilution series.
    Serial(Serial),
    /// Volumes of stock for a set of standards.
    Standards(Standards),
    /// Strength of a mixture; volumes taken as additive.
    Mix(Mix),
    /// Volumes of a stronger and a weaker solution; volumes taken as additive.
    MixTo(MixTo),
    /// Portions rounded to what an instrument measures, so that they still add up.
    Portions(Portions),
    /// How much of something for a class?
    Totals(Totals),
    /// Into which vessels does it go?
    IntoVessels(IntoVessels),
    /// How much solid for the same solution in several flasks?
    Split(Split),
    /// A series in which each flask is made from the one before, each with its own glass.
    InTurn(InTurn),
}

fn one() -> u32 {
    1
}

/// What to do, or what was made.
#[derive(Debug, Clone, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SolutionAnswer {
    /// Results and solution; none for portions.
    pub worked: Option<Worked>,
    /// Rounded to the instrument, and the strength so achieved.
    pub rounded: Option<Rounded>,
    /// Of a series, each volume so rounded, in the order of the strengths.
    pub each_rounded: Vec<Rounded>,
    /// Portions, in the order of the shares, which add up to the total; vessels, largest first.
    pub portions: Vec<String>,
    /// What each portion would be exactly, in the unit of what is weighed.
    pub exact_portions: Vec<f64>,
    /// What a class needs; of vessels, what they hold.
    pub total: Option<Total>,
    /// What to mind while making it.
    pub cautions: Vec<&'static str>,
}

/// Rounded to what measures it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Rounded {
    /// To weigh or to measure out.
    pub take: String,
    /// In this unit.
    pub unit: String,
    /// Strength achieved over strength wanted.
    pub achieved: f64,
}

pub(super) fn answer(question: &SolutionQuestion) -> Result<SolutionAnswer, ComputeError> {
    let sheet = match question {
        SolutionQuestion::WeighOut(q) => q.worksheet(),
        SolutionQuestion::Made(q) => q.worksheet(),
        SolutionQuestion::Concentrated(q) => q.worksheet(),
        SolutionQuestion::MadeFromConcentrated(q) => q.worksheet(),
        SolutionQuestion::Describe(q) => q.worksheet(),
        SolutionQuestion::PercentWv(q) => q.worksheet(),
        SolutionQuestion::PercentVv(q) => q.worksheet(),
        SolutionQuestion::Dilute(q) => q.worksheet(),
        SolutionQuestion::Diluted(q) => q.worksheet(),
        SolutionQuestion::Serial(q) => q.worksheet(),
        SolutionQuestion::InTurn(q) => q.worksheet(),
        SolutionQuestion::Standards(q) => q.worksheet(),
        SolutionQuestion::Mix(q) => q.worksheet(),
        SolutionQuestion::MixTo(q) => q.worksheet(),
        SolutionQuestion::Portions(q) => return q.answer(),
        SolutionQuestion::Totals(q) => return q.answer(),
        SolutionQuestion::IntoVessels(q) => return q.answer(),
        SolutionQuestion::Split(q) => return q.answer(),
    };
    let worked = sheet?.solve()?;
    let rounded = match question {
        SolutionQuestion::WeighOut(WeighOut { step: Some(step), .. }) => {
            Some(to_step(&worked, "m_solute", step, Dimension::MASS)?)
        }
        SolutionQuestion::Concentrated(Concentrated { step: Some(step), .. })
        | SolutionQuestion::Dilute(Dilute { step: Some(step), .. }) => {
            Some(to_step(&worked, "V_stock", step, Dimension::VOLUME)?)
        }
        _ => None,
    };
    let each_rounded = match question {
        SolutionQuestion::Standards(Standards { step: Some(step), .. }) => provide::each_to_step(&worked, step)?,
        _ => Vec::new(),
    };
    Ok(SolutionAnswer {
        rounded,
        each_rounded,
        cautions: cautions(question),
        worked: Some(worked),
        ..SolutionAnswer::default()
    })
}

/// A result rounded to the nearest step of what measures it.
fn to_step(worked: &Worked, name: &str, step: &str, dimension: Dimension) -> Result<Rounded, ComputeError> {
    let typed = provide::step_of(step, dimension)?;
    let result = worked.result(name).ok_or_else(|| ComputeError::undefined("nothing is to be measured out"))?;
    let unit = measure::Unit::parse(&result.unit).expect("the units of the code are units");
    let step = unit.from_base(typed.base());
    let steps = (result.value / step).round();
    if steps == 0.0 {
        return Err(ComputeError::impossible(if dimension == Dimension::MASS {
            "the balance does not show so little: make a stronger solution and dilute it"
        } else {
            "that is less than can be measured out: dilute the stock first"
        }));
    }
    if steps.abs() > 1e9 {
        return Err(ComputeError::impossible("that is more than can be measured out in such steps"));
    }
    #[allow(clippy::cast_possible_truncation)] // bounded above
    let take = Decimal::new(steps as i128, 0).times(typed.value).filter(|_| typed.unit.same_as(&unit));
    let take = take.map_or_else(|| trimmed(steps * step), |d| d.to_string());
    Ok(Rounded { take, unit: result.unit.clone(), achieved: steps * step / result.value })
}

/// A number without the noise of binary fractions.
fn trimmed(value: f64) -> String {
    decimal_of(value).map_or_else(String::new, |d| to_figures(d, 9, Ties::HalfUp).to_string())
}

/// What to mind for a reagent that heats up or bites, as the library of substances says.
fn cautions(question: &SolutionQuestion) -> Vec<&'static str> {
    let (SolutionQuestion::Concentrated(Concentrated { solute, .. })
    | SolutionQuestion::WeighOut(WeighOut { solute, .. })) = question
    else {
        return Vec::new();
    };
    let making = practical::substance::with_formula(solute).map(|s| s.making.as_slice());
    making.unwrap_or_default().iter().map(String::as_str).collect()
}
