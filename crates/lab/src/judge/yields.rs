//! More product than theory allows: by how much, and what would explain it.
//!
//! A yield is "above theory" only when it stays above after its expanded uncertainty (k = 2) is taken off. The reasons
//! are told with the figure each would need; which one it was decides the next weighing, not a formula.

use super::advice::{judged, plain};
use super::{Advice, Bench, Matter, Standing, fixed};
use crate::practical::YieldNames;
use crate::practical::file::{Judgement, Method};
use serde::Serialize;
use sheet::{Evaluation, Outcome, Value};

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

impl Bench<'_> {
    /// Results that cannot be: product above theory or below nothing, a gain that chemistry does not allow, a part
    /// larger than its whole. Told at the step whose reading completes them.
    pub(super) fn results_that_cannot_be(&self, out: &mut Vec<Advice>) {
        if let Some(names) = &self.practical.yields
            && let Some(finding) = yield_above_theory(names, self.evaluation)
            && let Some(step) = self.step_completing(&names.actual)
        {
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
        for method in &self.practical.file.methods {
            out.extend(self.cannot_be(method));
        }
    }

    fn cannot_be(&self, method: &Method) -> Option<Advice> {
        let above_whole = |name: &str, what: &str| {
            let part = self.uncertain(name)?;
            (part.value - 2.0 * part.standard_uncertainty > 1.0).then_some(())?;
            let percent = fixed(100.0 * part.value, 1);
            let matter = Matter::PartAboveWhole { what: what.to_owned(), percent };
            Some(judged(self.step_completing(name)?, Standing::Wrong, Judgement::Yield, matter))
        };
        match method {
            Method::Hydrate { lost, .. } => {
                let mass = self.uncertain(lost)?;
                (mass.value < -2.0 * mass.standard_uncertainty).then_some(())?;
                let matter = Matter::HeavierAfterHeating { by: format!("{} g", fixed(-mass.value, 3)) };
                Some(plain(self.step_completing(lost)?, Standing::Wrong, matter))
            }
            Method::MassFraction { .. } => above_whole("mass_fraction", "the part"),
            Method::MassBalance { .. } => above_whole("recovered", "all parts together"),
            Method::Recovery { .. } => above_whole("percent_recovery", "what was got back"),
            Method::LimitingYield { .. }
            | Method::Yield { .. }
            | Method::Standardise { .. }
            | Method::Titrate { .. }
            | Method::BackTitration { .. }
            | Method::EmpiricalFormula { .. }
            | Method::Gravimetric { .. }
            | Method::SolutionMade { .. }
            | Method::PercentError { .. } => None,
        }
    }

    fn uncertain(&self, name: &str) -> Option<Value> {
        match self.evaluation.outcome(name) {
            Some(Outcome::Value(v)) => Some(v),
            Some(Outcome::NotYet { .. } | Outcome::Failed(_) | Outcome::Series(_)) | None => None,
        }
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

/// What is wrong with a yield, if anything is.
#[must_use]
pub fn yield_above_theory(names: &YieldNames, evaluation: &Evaluation<'_>) -> Option<YieldFinding> {
    let value = |name: &str| match evaluation.outcome(name) {
        Some(Outcome::Value(v)) => Some(v),
        _ => None,
    };
    let percent: Value = value(&names.percent)?;
    let (actual, theory) = (value(&names.actual)?, value(&names.theoretical)?);
    if actual.value < 0.0 {
        return Some(YieldFinding::Negative);
    }
    if percent.value - 2.0 * percent.standard_uncertainty <= 1.0 {
        return None;
    }
    if percent.value < 1.5 {
        return Some(YieldFinding::Damp { excess: format!("{:.2}", actual.value - theory.value) });
    }
    Some(YieldFinding::TooMuch { times: format!("{:.1}", percent.value) })
}
