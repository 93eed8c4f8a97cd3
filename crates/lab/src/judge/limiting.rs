//! Which reagent limits, by the amounts weighed and by what was seen.
//!
//! Number and observation decide together: the acid limits only if the readings say so *and* solid remains, nothing
//! fizzes and litmus stays blue. Where the two disagree, both are told.

use super::advice::judged;
use super::departed::limiting_now;
use super::{Advice, Matter, Standing};
use crate::evaluated::Evaluated;
use practical::Practical;
use practical::file::{Evidence as DeclaredEvidence, Judgement, Observation, Role};
use serde::Serialize;
use sheet::Evaluation;
use std::collections::BTreeMap;

/// What the observations say about the reagent that was meant to limit.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Evidence {
    /// Not all has been looked at, or nothing is declared that would tell.
    Open,
    /// Everything looks as it must.
    Bears,
    /// Something speaks against it.
    Contradicts {
        /// What was seen, as the group chose it.
        seen: Vec<String>,
    },
}

/// Which reagent limits in one group's batch.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LimitingFinding {
    /// Name of the reagent that limits by the readings.
    pub limits: String,
    /// Whether it is the one that was meant to.
    pub as_intended: bool,
    /// What was seen.
    pub observed: Evidence,
}

impl Evaluated<'_> {
    /// Another reagent than the one meant to: told where the reagents come together, departures counted.
    pub(super) fn limits(&self, out: &mut Vec<Advice>) {
        let inputs = self.departed_inputs();
        let evaluation = self.practical.program.evaluate(&inputs);
        let Some(limits) = limiting_now(self.practical, &evaluation) else { return };
        let meant = self.practical.materials.iter().find(|m| m.role == Role::Limiting);
        let together = self.practical.limiting.iter().flat_map(|(_, reagents)| reagents);
        let Some(step) = together.filter_map(|r| self.step_adding(r)).max() else { return };
        let tell = |standing, matter| judged(step, standing, Judgement::Limiting, matter);
        if let Some(meant) = meant.filter(|m| m.symbol != limits.symbol) {
            let matter = Matter::AnotherLimits { limits: limits.name.clone(), meant: meant.name.clone() };
            out.push(tell(Standing::Doubtful, matter));
        } else if let Some(LimitingFinding { observed: Evidence::Contradicts { seen }, .. }) =
            limiting(self.practical, &evaluation, &self.entries.observations)
        {
            out.push(tell(Standing::Doubtful, Matter::SeenOtherwise { limits: limits.name.clone(), seen }));
        }
    }
}

/// The finding on the limiting reagent; `None` while readings are missing or where nothing limits.
///
/// Only what the practical declares as evidence of it weighs: a choice speaks for the material that it names, against the
/// others, and a choice that names none says nothing.
#[must_use]
pub fn limiting(
    practical: &Practical,
    evaluation: &Evaluation<'_>,
    observations: &BTreeMap<String, String>,
) -> Option<LimitingFinding> {
    let material = limiting_now(practical, evaluation)?;
    let telling = || practical.observations.iter().filter_map(|o| Some((o, limiting_evidence(o)?)));
    let said = telling().filter_map(|(o, evidence)| {
        let seen = observations.get(&o.symbol)?;
        Some((seen, evidence.says.get(seen)?))
    });
    let (bears, against): (Vec<_>, Vec<_>) = said.partition(|(_, limits)| **limits == material.symbol);
    let all_made = telling().all(|(o, _)| observations.contains_key(&o.symbol));
    let observed = if !against.is_empty() {
        Evidence::Contradicts { seen: against.into_iter().map(|(seen, _)| seen.clone()).collect() }
    } else if all_made && !bears.is_empty() {
        Evidence::Bears
    } else {
        Evidence::Open
    };
    Some(LimitingFinding { limits: material.name.clone(), as_intended: material.role == Role::Limiting, observed })
}

fn limiting_evidence(observation: &Observation) -> Option<&DeclaredEvidence> {
    observation.evidence.as_ref().filter(|e| e.of == Judgement::Limiting)
}
