//! More product than theory allows: by how much, and what would explain it.
//!
//! A yield is "above theory" only when it stays above after three times its standard uncertainty is taken off: of a class of
//! thirty with yields of 100 % nobody hears of it by chance. The uncertainty is that of the instruments alone. The reasons
//! are told with the figure each would need; which one it was decides the next weighing, not a formula.

use super::advice::{judged, plain};
use super::{Advice, Matter, Standing, fixed};
use crate::evaluated::Evaluated;
use practical::file::Judgement;
use practical::{SheetRole, YieldNames};
use serde::Serialize;
use sheet::Evaluation;

/// So many standard uncertainties beyond what can be.
const BEYOND: f64 = 3.0;

/// A first weighing lies so many times the limit for constant mass above the last, at most.
const STILL_DRYING: f64 = 3.0;

/// A yield that cannot be.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum YieldFinding {
    /// Up to half above theory: water or wash liquid would do it.
    Damp {
        /// Product above theory, in g, to the hundredth.
        excess: String,
    },
    /// Far above theory: something was weighed with it, or a digit is wrong.
    TooMuch {
        /// How many times theory.
        times: String,
    },
    /// Less than nothing.
    Negative,
}

impl Evaluated<'_> {
    /// Results that cannot be: product above theory or below nothing, a gain that chemistry does not allow, a part
    /// larger than its whole. Told at the step whose reading completes them.
    pub(super) fn results_that_cannot_be(&self, out: &mut Vec<Advice>) {
        for names in self.practical.yields() {
            let Some(finding) = yield_above_theory(&names, &self.evaluation) else { continue };
            let Some(step) = self.step_completing(&names.actual) else { continue };
            // What is still to be dried is a little heavier by right: once again is what there is to say.
            let excess =
                self.value(&names.actual).zip(self.value(&names.theoretical)).map(|(found, theory)| found - theory);
            let drying = out.iter().filter(|a| a.step == step).find_map(|a| match &a.matter {
                Matter::OnceAgain { within, .. } => Some(within.value),
                _ => None,
            });
            let a_little = drying.zip(excess).is_some_and(|(within, excess)| excess <= STILL_DRYING * within);
            if a_little && matches!(finding, YieldFinding::Damp { .. }) {
                continue;
            }
            let above = |excess, far| Matter::AboveTheory { excess, far };
            out.push(match finding {
                YieldFinding::Damp { excess } => {
                    judged(step, Standing::Doubtful, Judgement::Yield, above(Some(format!("{excess} g")), false))
                }
                YieldFinding::TooMuch { .. } => judged(step, Standing::Wrong, Judgement::Yield, above(None, true)),
                YieldFinding::Negative => {
                    let what = self.label(&names.actual);
                    plain(step, Standing::Wrong, Matter::BelowNothing { what })
                }
            });
        }
        let wholes = self.practical.roles.parts_of_a_whole();
        out.extend(wholes.iter().filter_map(|part| self.above_whole(&part.definition, part.role)));
        out.extend(self.practical.heated().filter_map(|lost| self.heavier_after_heating(lost)));
    }

    /// A part that is larger than its whole; of a yield it is told beside theory.
    fn above_whole(&self, name: &str, role: SheetRole) -> Option<Advice> {
        let what = part_words(role)?;
        let part = self.evaluation.value(name)?;
        (part.value - BEYOND * part.standard_uncertainty > 1.0).then_some(())?;
        let percent = fixed(100.0 * part.value, 1);
        let matter = Matter::PartAboveWhole { what: what.to_owned(), percent };
        Some(judged(self.step_completing(name)?, Standing::Wrong, Judgement::Yield, matter))
    }

    fn heavier_after_heating(&self, lost: &str) -> Option<Advice> {
        let mass = self.evaluation.value(lost)?;
        (mass.value < -BEYOND * mass.standard_uncertainty).then_some(())?;
        let matter = Matter::HeavierAfterHeating { by: format!("{} g", fixed(-mass.value, 3)) };
        Some(plain(self.step_completing(lost)?, Standing::Wrong, matter))
    }

    fn label(&self, name: &str) -> String {
        self.practical.labels.get(name).cloned().unwrap_or_else(|| name.to_owned())
    }

    /// The last step whose readings a definition hangs on.
    pub(super) fn step_completing(&self, name: &str) -> Option<u32> {
        let program = &self.practical.program;
        let readings = match program.definition(name) {
            Some(definition) => program.readings_of(definition),
            None => vec![name],
        };
        let of = |sheet_name: &str| self.step_recording(&self.practical.reading_in_sheet(sheet_name)?.symbol);
        readings.into_iter().filter_map(of).max()
    }
}

/// What a part of a whole is called; none of a yield, which has words of its own.
fn part_words(role: SheetRole) -> Option<&'static str> {
    match role {
        SheetRole::MassFraction => Some("the part"),
        SheetRole::PartsFound => Some("all parts together"),
        SheetRole::Recovery => Some("the recovered mass"),
        SheetRole::PercentYield
        | SheetRole::Amount
        | SheetRole::Mass
        | SheetRole::Concentration
        | SheetRole::ConcentrationEach
        | SheetRole::MassFractionEach
        | SheetRole::MassConcentration
        | SheetRole::MeanTitre
        | SheetRole::ExcessLeft
        | SheetRole::Reacted
        | SheetRole::Extent
        | SheetRole::ActualYield
        | SheetRole::TheoreticalYield
        | SheetRole::AmountRatio
        | SheetRole::Waters
        | SheetRole::PercentError
        | SheetRole::LineSlope
        | SheetRole::ReadOff
        | SheetRole::MixedTemperature
        | SheetRole::TemperatureChange
        | SheetRole::DryPressure
        | SheetRole::Enthalpy => None,
    }
}

/// What is wrong with a yield, if anything is.
#[must_use]
pub fn yield_above_theory(names: &YieldNames, evaluation: &Evaluation<'_>) -> Option<YieldFinding> {
    let percent = evaluation.value(&names.percent)?;
    let (actual, theory) = (evaluation.value(&names.actual)?, evaluation.value(&names.theoretical)?);
    if actual.value < 0.0 {
        return Some(YieldFinding::Negative);
    }
    if percent.value - BEYOND * percent.standard_uncertainty <= 1.0 {
        return None;
    }
    if percent.value < 1.5 {
        return Some(YieldFinding::Damp { excess: format!("{:.2}", actual.value - theory.value) });
    }
    Some(YieldFinding::TooMuch { times: format!("{:.1}", percent.value) })
}
