//! Which reagent limits, by the amounts weighed and by what was seen.
//!
//! Number and observation decide together: the acid limits only if the readings say so *and* solid remains, nothing
//! fizzes and litmus stays blue. Where the two disagree, both are told.

use crate::practical::Practical;
use crate::practical::file::Role;
use serde::Serialize;
use sheet::Evaluation;
use std::collections::BTreeMap;

/// What the observations say about the reagent that was meant to limit.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Evidence {
    /// Not all has been looked at.
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

/// The finding on the limiting reagent; `None` while readings are missing or where nothing limits.
#[must_use]
pub fn limiting(
    practical: &Practical,
    evaluation: &Evaluation<'_>,
    observations: &BTreeMap<String, String>,
) -> Option<LimitingFinding> {
    let (name, reagents) = practical.limiting.as_ref()?;
    let material = practical.material(reagents.get(evaluation.limiting_argument(name)?)?)?;
    let against: Vec<String> = practical
        .observations
        .iter()
        .filter_map(|o| observations.get(&o.symbol).filter(|seen| **seen != o.expected))
        .cloned()
        .collect();
    let all_made = practical.observations.iter().all(|o| observations.contains_key(&o.symbol));
    let observed = match (against.is_empty(), all_made) {
        (false, _) => Evidence::Contradicts { seen: against },
        (true, true) => Evidence::Bears,
        (true, false) => Evidence::Open,
    };
    Some(LimitingFinding { limits: material.name.clone(), as_intended: material.role == Role::Limiting, observed })
}
