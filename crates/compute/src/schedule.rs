//! Does it fit: groups that do the same steps and share what the room has.

use crate::ComputeError;
use prepare::schedule::{Effort, NoPlan, Room, Task, timetable};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// When does each group begin each step, so that the last one is through first?
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ScheduleQuestion {
    /// How many groups.
    pub groups: u32,
    /// What each of them does, in order.
    pub steps: Vec<ScheduleStep>,
    /// How many groups each shared thing serves at once.
    pub resources: BTreeMap<String, u32>,
}

/// A step in the room's time.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ScheduleStep {
    /// As it is called.
    pub name: String,
    /// How long it takes, min.
    pub minutes: u32,
    /// What it holds meanwhile.
    #[serde(default)]
    pub resource: Option<String>,
    /// Shortest wait before the next step, min.
    #[serde(default)]
    pub min_wait_after: u32,
    /// Longest wait before the next step, min; none where it can wait.
    #[serde(default)]
    pub max_wait_after: Option<u32>,
}

/// The best that was found, and what was proved.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ScheduleAnswer {
    /// Whether it is the shortest, a plan all the same, or whether there is none.
    pub status: ScheduleStatus,
    /// Minute in which the last group is through.
    pub makespan: Option<u32>,
    /// No plan is shorter.
    pub lower_bound: Option<u32>,
    /// Minute in which each group begins each step.
    pub starts: Vec<Vec<u32>>,
    /// What cannot be met.
    pub why: Option<NoPlan>,
    /// The same in words.
    pub message: Option<String>,
}

/// What is known of a plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum ScheduleStatus {
    /// No plan is shorter.
    Optimal,
    /// A plan; there may be a shorter one.
    Feasible,
    /// There is no plan.
    Infeasible,
}

pub(super) fn answer(question: &ScheduleQuestion) -> Result<ScheduleAnswer, ComputeError> {
    let tasks: Vec<Task> = question
        .steps
        .iter()
        .map(|s| Task {
            name: s.name.clone(),
            minutes: s.minutes,
            holds: s.resource.iter().cloned().collect(),
            wait_least: s.min_wait_after,
            wait_most: s.max_wait_after,
        })
        .collect();
    if question.groups as usize > prepare::schedule::MOST_GROUPS {
        let most = prepare::schedule::MOST_GROUPS;
        return Err(ComputeError::impossible(format!("{} groups: at most {most} are planned", question.groups)));
    }
    let room = Room { groups: vec![tasks; question.groups as usize], resources: question.resources.clone() };
    match timetable(&room, Effort::Thorough) {
        Ok(found) => Ok(ScheduleAnswer {
            status: if found.is_proven_best() { ScheduleStatus::Optimal } else { ScheduleStatus::Feasible },
            makespan: Some(found.makespan),
            lower_bound: Some(found.lower_bound),
            starts: found.starts,
            why: None,
            message: None,
        }),
        Err(NoPlan::TooMuch { told }) => Err(ComputeError::impossible(told)),
        Err(why) => Ok(ScheduleAnswer {
            status: ScheduleStatus::Infeasible,
            makespan: None,
            lower_bound: None,
            starts: Vec::new(),
            message: Some(why.to_string()),
            why: Some(why),
        }),
    }
}
