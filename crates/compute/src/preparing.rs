//! What is put out for a class, and whether it fits its lessons.

use crate::{ComputeError, PracticalSource};
use lab::roll::dealt;
use practical::Allotted;
use prepare::schedule::{Effort, MOST_GROUPS};
use prepare::{ForClass, Preparation, preparation};
use serde::Deserialize;
use std::collections::BTreeMap;

/// What is to be prepared of a practical?
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PrepareQuestion {
    /// The practical.
    pub practical: PracticalSource,
    /// How many groups work it; recipes and unknowns are dealt to them in turn.
    pub groups: u32,
    /// Whole groups on top.
    #[serde(default)]
    pub spare_groups: u32,
    /// Per cent on top of everything.
    #[serde(default)]
    pub percent_on_top: f64,
    /// How many of a shared thing the room has, where that differs.
    #[serde(default)]
    pub resources: BTreeMap<String, u32>,
    /// How long the lessons are, min.
    #[serde(default)]
    pub lessons: Vec<u32>,
}

pub(super) fn answer(question: &PrepareQuestion) -> Result<Preparation, ComputeError> {
    let practical = question.practical.read(None, &practical::School::default())?;
    let groups = question.groups as usize;
    if groups > MOST_GROUPS || question.spare_groups as usize > MOST_GROUPS {
        return Err(ComputeError::impossible(format!("more than {MOST_GROUPS} groups are no class")));
    }
    if !(0.0..=1000.0).contains(&question.percent_on_top) {
        return Err(ComputeError::quantity("percent_on_top", "per cent on top are from 0 to 1000"));
    }
    let class = ForClass {
        groups: dealt(&practical, groups).unwrap_or_else(|| vec![Allotted::default(); groups]),
        spare_groups: question.spare_groups,
        percent_on_top: question.percent_on_top,
        resources: question.resources.clone(),
        lessons: question.lessons.clone(),
    };
    Ok(preparation(&practical, &class, Effort::Thorough))
}
