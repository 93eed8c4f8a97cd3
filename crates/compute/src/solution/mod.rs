//! Solutions: what to weigh or measure for a strength, what strength was really made, dilution in every direction.
//!
//! n = c·V; m = n·M/w; c₁V₁ = c₂V₂; a stock by mass fraction has c = ρ·w/M. Percentages say what they refer to: `1 %` w/v is
//! 1 g in 100 mL, never left open. Volumes add only where that is said.
//!
//! Source: IUPAC Green Book, 3rd ed., 2.10; Harris, Quantitative Chemical Analysis, 9th ed., 1.3 and 1.4.

mod dilution;
mod portions;
mod strength;

pub use dilution::{Dilute, Diluted, Mix, MixPart, MixTo, Serial, Standards};
pub use portions::Portions;
pub use strength::{Concentrated, Describe, Made, PercentVv, PercentWv, WeighOut};

use super::{ComputeError, Measured, Worked};
use measure::Dimension;
use measure::rounding::{Ties, decimal_of, to_place};
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
}

fn one() -> u32 {
    1
}

/// What to do, or what was made.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SolutionAnswer {
    /// Results and solution; none for portions.
    pub worked: Option<Worked>,
    /// Rounded to the instrument, and the strength so achieved.
    pub rounded: Option<Rounded>,
    /// Portions, in the order of the shares; they add up to the total.
    pub portions: Vec<String>,
    /// What to mind while making it.
    pub cautions: Vec<&'static str>,
}

/// A mass rounded to a balance.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Rounded {
    /// To weigh, in g.
    pub take: String,
    /// Strength achieved over strength wanted.
    pub achieved: f64,
}

pub(super) fn answer(question: &SolutionQuestion) -> Result<SolutionAnswer, ComputeError> {
    let sheet = match question {
        SolutionQuestion::WeighOut(q) => q.worksheet(),
        SolutionQuestion::Made(q) => q.worksheet(),
        SolutionQuestion::Concentrated(q) => q.worksheet(),
        SolutionQuestion::Describe(q) => q.worksheet(),
        SolutionQuestion::PercentWv(q) => q.worksheet(),
        SolutionQuestion::PercentVv(q) => q.worksheet(),
        SolutionQuestion::Dilute(q) => q.worksheet(),
        SolutionQuestion::Diluted(q) => q.worksheet(),
        SolutionQuestion::Serial(q) => q.worksheet(),
        SolutionQuestion::Standards(q) => q.worksheet(),
        SolutionQuestion::Mix(q) => q.worksheet(),
        SolutionQuestion::MixTo(q) => q.worksheet(),
        SolutionQuestion::Portions(q) => return q.answer(),
    };
    let worked = sheet?.solve()?;
    let rounded = match question {
        SolutionQuestion::WeighOut(WeighOut { step: Some(step), .. }) => Some(to_step(&worked, step)?),
        _ => None,
    };
    Ok(SolutionAnswer { rounded, portions: Vec::new(), cautions: cautions(question), worked: Some(worked) })
}

fn to_step(worked: &Worked, step: &str) -> Result<Rounded, ComputeError> {
    let step = Measured::Typed(step.to_owned()).positive("step", Dimension::MASS)?.base();
    let wanted = worked.result("m_solute").map_or(0.0, |r| r.value);
    let take = (wanted / step).round() * step;
    if take == 0.0 {
        return Err(ComputeError::impossible(
            "the balance does not show so little: make a stronger solution and dilute it",
        ));
    }
    #[allow(clippy::cast_possible_truncation)] // log10 of a display step is small
    let place = step.log10().floor() as i32;
    let shown = decimal_of(take).map_or_else(String::new, |d| to_place(d, place, Ties::HalfUp).to_string());
    Ok(Rounded { take: shown, achieved: take / wanted })
}

/// What to mind for a reagent that heats up or bites.
fn cautions(question: &SolutionQuestion) -> Vec<&'static str> {
    let (SolutionQuestion::Concentrated(Concentrated { solute, .. })
    | SolutionQuestion::WeighOut(WeighOut { solute, .. })) = question
    else {
        return Vec::new();
    };
    match solute.as_str() {
        "H2SO4" | "HNO3" | "HCl" | "H3PO4" | "HClO4" => {
            vec![
                "Pour the acid into the water, slowly and stirring, never the water into the acid.",
                "Make up to the mark only when it is at room temperature.",
            ]
        }
        "NaOH" | "KOH" => vec![
            "It gets hot as it dissolves: add it to the water in portions.",
            "Make up to the mark only when it is at room temperature.",
        ],
        _ => Vec::new(),
    }
}
