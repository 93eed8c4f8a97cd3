//! Which of two reactions was it? Masses and what was seen decide together.
//!
//! For each competing equation: which reagent would limit, how much product it could make, how much of what was weighed before
//! and after it would use up; each beside what was found. A hypothesis that contradicts what was seen is rejected even where
//! its figures fit better; what does not fit then is an error to explain, not evidence.
//!
//! Fit: the sum of |ln(found / predicted)| over the product and everything that was weighed before and after.

use super::fixed;
use crate::evaluated::Evaluated;
use measure::Decimal;
use practical::file::{Arrangement, Role, Weighing};
use practical::{Material, Practical, Reaction};
use serde::Serialize;
use sheet::{Evaluation, Outcome};
use std::collections::BTreeMap;

/// One of several reactions that could explain what was found.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Hypothesis {
    /// As the practical calls it.
    pub name: String,
    /// The reagent that would limit.
    pub limits: String,
    /// Masses that it predicts beside those that were found.
    pub masses: Vec<PredictedMass>,
    /// What was seen that speaks for it.
    pub agrees: Vec<String>,
    /// What was seen that it cannot explain.
    pub contradicted_by: Vec<String>,
    /// How badly the masses fit: 0 is exactly; 0.7 is a factor of two somewhere.
    pub misfit: f64,
}

/// A mass by a hypothesis, and as it was found.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PredictedMass {
    /// In words: `silver made`, `copper used up`.
    pub of: String,
    /// By the hypothesis, in g.
    pub predicted: String,
    /// As weighed, in g.
    pub found: String,
}

impl Evaluated<'_> {
    /// The competing reactions of a practical, the best supported first; none where there is one reaction, or nothing to compare.
    #[must_use]
    pub(crate) fn competing(&self) -> Vec<Hypothesis> {
        let Evaluated { practical, evaluation, readings, entries } = self;
        let seen = &entries.observations;
        if practical.arrangement != Arrangement::Competing {
            return Vec::new();
        }
        let found = Found { practical, evaluation, readings };
        let mut all: Vec<Hypothesis> = practical.reactions.iter().filter_map(|r| found.hypothesis(r, seen)).collect();
        all.sort_by(|a, b| {
            let rejected = |h: &Hypothesis| !h.contradicted_by.is_empty();
            rejected(a).cmp(&rejected(b)).then(a.misfit.total_cmp(&b.misfit))
        });
        all
    }
}

struct Found<'a> {
    practical: &'a Practical,
    evaluation: &'a Evaluation<'a>,
    readings: &'a BTreeMap<String, Decimal>,
}

impl Found<'_> {
    fn hypothesis(&self, reaction: &Reaction, seen: &BTreeMap<String, String>) -> Option<Hypothesis> {
        let term = |m: &Material| reaction.equation.term_of(m.formula.as_ref()?);
        let extent = |m: &Material| -> Option<f64> {
            let (coefficient, used) = term(m)?;
            let there = m.supply.moles(self.taken(m)?, self.molar_mass(m)?)?;
            used.then(|| there / chem::number(coefficient))
        };
        let materials = || self.practical.materials.iter();
        let extents = materials().filter_map(|m| Some((m, extent(m)?)));
        let (limits, least) = extents.min_by(|a, b| a.1.total_cmp(&b.1))?;
        let mut masses = Vec::new();
        let mut misfit = 0.0;
        for m in materials() {
            let Some((coefficient, used)) = term(m) else { continue };
            let Some(molar) = self.molar_mass(m) else { continue };
            let measured = if used { self.used_up(m) } else { self.made(m) };
            let Some(measured) = measured.filter(|x| *x > 0.0) else { continue };
            let predicted = least * chem::number(coefficient) * molar;
            misfit += (measured / predicted).ln().abs();
            let of = if used { format!("{} used up", m.name) } else { format!("{} made", m.name) };
            masses.push(PredictedMass { of, predicted: fixed(predicted, 3), found: fixed(measured, 3) });
        }
        let (agrees, contradicted_by) = observed(reaction, seen);
        (!masses.is_empty()).then(|| Hypothesis {
            name: reaction.name.clone(),
            limits: limits.name.clone(),
            masses,
            agrees,
            contradicted_by,
            misfit,
        })
    }

    fn molar_mass(&self, m: &Material) -> Option<f64> {
        Some(m.formula.as_ref()?.molar_mass(&self.practical.school.atomic_masses).ok()?.value)
    }

    fn definition(&self, name: &str) -> Option<f64> {
        match self.evaluation.outcome(name)? {
            Outcome::Value(v) => Some(v.value),
            Outcome::NotYet { .. } | Outcome::Failed(_) | Outcome::Series(_) => None,
        }
    }

    /// What was taken of a reagent, in g or L.
    fn taken(&self, m: &Material) -> Option<f64> {
        let reading = self.practical.readings.iter().find(|r| r.of.as_ref() == Some(&m.symbol))?;
        let typed = self.readings.get(&reading.symbol)?;
        Some(reading.unit.to_base(typed.to_f64()))
    }

    /// What a reagent lost between two weighings, in g.
    fn used_up(&self, m: &Material) -> Option<f64> {
        let reading = self.practical.readings.iter().find(|r| r.of.as_ref() == Some(&m.symbol))?;
        let weighing = self.practical.file.weighings.iter().find_map(|w| {
            let Weighing::ByDifference { name, before, .. } = w else { return None };
            (*before == reading.symbol).then_some(name)
        })?;
        self.definition(weighing)
    }

    /// What was made, in g.
    fn made(&self, m: &Material) -> Option<f64> {
        let name = (m.role == Role::Product).then(|| self.practical.measured_by(&m.symbol))??;
        self.definition(name)
    }
}

/// What was seen, as it speaks for a reaction and against it.
fn observed(reaction: &Reaction, seen: &BTreeMap<String, String>) -> (Vec<String>, Vec<String>) {
    let looked_at = reaction.predicts.iter().filter_map(|(symbol, wanted)| Some((wanted, seen.get(symbol)?)));
    let (agrees, against): (Vec<_>, Vec<_>) = looked_at.partition(|(wanted, seen)| wanted == seen);
    let words = |pairs: Vec<(&String, &String)>| pairs.into_iter().map(|(_, s)| s.clone()).collect();
    (words(agrees), words(against))
}
