//! The room's time: who does what when, with what the groups have to share.
//!
//! Each group does its tasks in order. Between the end of one and the start of the next lies a wait of at least so long and at
//! most so long; what is shared is held during a task only, and serves so many groups at once. Wanted is the plan in which the
//! last group is through first.
//!
//! Model: resource-constrained project scheduling with minimal and maximal time lags (Brucker et al., European Journal of
//! Operational Research 112, 1999, 3–41). A quick plan ([`insertion`]) comes first; a constraint solver ([`search`]) then looks
//! for a shorter one for a bounded number of decisions, and says what it proved. No clock is read: the same room gives the same
//! plan.

mod bound;
mod insertion;
mod profile;
mod search;

use serde::Serialize;
use std::collections::BTreeMap;

/// Most groups that are planned.
pub const MOST_GROUPS: usize = 200;
/// Most tasks of one group.
pub const MOST_TASKS: usize = 200;
/// Longest task or wait, min: a week.
pub const LONGEST: u32 = 7 * 24 * 60;
/// Longest plan that is reckoned with, min: six weeks.
const HORIZON: u32 = 60_000;

/// What is to be done, and with what.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Room {
    /// What each group has to do, in order.
    pub groups: Vec<Vec<Task>>,
    /// How many groups each shared thing serves at once.
    pub resources: BTreeMap<String, u32>,
}

/// Something that a group does without a break.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Task {
    /// As it is called.
    pub name: String,
    /// How long it takes.
    pub minutes: u32,
    /// What it holds meanwhile.
    pub holds: Vec<String>,
    /// Shortest wait before the next one, min.
    pub wait_least: u32,
    /// Longest wait before the next one, min; none where it can wait.
    pub wait_most: Option<u32>,
}

/// Who does what when.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Timetable {
    /// Minute in which each task of each group begins.
    pub starts: Vec<Vec<u32>>,
    /// Minute in which the last group is through.
    pub makespan: u32,
    /// No plan is shorter than this.
    pub lower_bound: u32,
}

impl Timetable {
    /// Whether no plan is shorter.
    #[must_use]
    pub fn is_proven_best(&self) -> bool {
        self.makespan == self.lower_bound
    }
}

/// Why there is no plan.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "why", rename_all = "kebab-case")]
pub enum NoPlan {
    /// A wait that is to be at least this long and at most that.
    #[error("after '{after}' the wait is to be at least {least} min and at most {most} min: no wait is both")]
    Wait {
        /// The task before it.
        after: String,
        /// Shortest.
        least: u32,
        /// Longest.
        most: u32,
    },
    /// Something is needed of which there is none.
    #[error("'{task}' needs: {resource}, and there is none")]
    NoneOfIt {
        /// The task that needs it.
        task: String,
        /// What is needed.
        resource: String,
    },
    /// More than can be reckoned with.
    #[error("{told}")]
    TooMuch {
        /// What, and how much is reckoned with.
        told: String,
    },
}

/// The shortest plan that is found within the effort.
///
/// # Errors
/// [`NoPlan`]: what cannot be met.
pub fn timetable(room: &Room, effort: Effort) -> Result<Timetable, NoPlan> {
    let bounded = Bounded::of(room)?;
    let lower = bound::lower_bound(&bounded);
    let quick = insertion::quick(&bounded)?;
    Ok(match effort {
        Effort::Quick => quick.timetable(&bounded, lower),
        Effort::Fair => search::improved(&bounded, quick, lower, 20),
        Effort::Thorough => search::improved(&bounded, quick, lower, 1),
    })
}

/// How hard it is tried.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Effort {
    /// A good plan in milliseconds: while a class is at work.
    Quick,
    /// A tenth of a second at most: one of several that are compared.
    Fair,
    /// The best within about two seconds, and what was proved.
    Thorough,
}

/// A room that was looked through: everything in it can be reckoned with.
#[derive(Debug)]
struct Bounded {
    groups: Vec<Vec<Held>>,
    capacities: Vec<u32>,
}

/// A task with what it holds by number.
#[derive(Debug, Clone, PartialEq, Eq)]
struct Held {
    minutes: u32,
    holds: Vec<usize>,
    least: u32,
    most: Option<u32>,
}

impl Bounded {
    fn of(room: &Room) -> Result<Bounded, NoPlan> {
        let too_much = |told: String| Err(NoPlan::TooMuch { told });
        if room.groups.len() > MOST_GROUPS {
            return too_much(format!("{} groups: at most {MOST_GROUPS} are planned", room.groups.len()));
        }
        let names: Vec<&String> = room.resources.keys().collect();
        let mut groups = Vec::new();
        for tasks in &room.groups {
            if tasks.len() > MOST_TASKS {
                return too_much(format!("{} steps: at most {MOST_TASKS} are planned", tasks.len()));
            }
            let mut held = Vec::new();
            for (i, task) in tasks.iter().enumerate() {
                let last = i + 1 == tasks.len();
                let longest = task.minutes.max(if last { 0 } else { task.wait_least });
                if longest > LONGEST {
                    return too_much(format!("'{}': longer than a week", task.name));
                }
                if let Some(most) = task.wait_most.filter(|most| !last && *most < task.wait_least) {
                    let least = task.wait_least;
                    return Err(NoPlan::Wait { after: task.name.clone(), least, most });
                }
                let mut holds = Vec::new();
                for resource in &task.holds {
                    let none = || NoPlan::NoneOfIt { task: task.name.clone(), resource: resource.clone() };
                    let at = names.iter().position(|n| *n == resource).ok_or_else(none)?;
                    if room.resources[resource] == 0 {
                        return Err(none());
                    }
                    holds.push(at);
                }
                held.push(Held { minutes: task.minutes, holds, least: task.wait_least, most: task.wait_most });
            }
            groups.push(held);
        }
        Ok(Bounded { groups, capacities: room.resources.values().copied().collect() })
    }

    /// Earliest start of each task of a group that has the room to itself.
    fn heads(tasks: &[Held]) -> Vec<u32> {
        let mut earliest = 0;
        let mut heads = Vec::with_capacity(tasks.len());
        for task in tasks {
            heads.push(earliest);
            earliest += task.minutes + task.least;
        }
        heads
    }

    /// Shortest time from the end of each task to the end of the last one.
    fn tails(tasks: &[Held]) -> Vec<u32> {
        let mut tails = vec![0; tasks.len()];
        for i in (1..tasks.len()).rev() {
            tails[i - 1] = tasks[i - 1].least + tasks[i].minutes + tails[i];
        }
        tails
    }
}

/// Starts by group and task.
#[derive(Debug, Clone)]
struct Starts(Vec<Vec<u32>>);

impl Starts {
    fn makespan(&self, room: &Bounded) -> u32 {
        let ends = self
            .0
            .iter()
            .zip(&room.groups)
            .filter_map(|(starts, tasks)| starts.iter().zip(tasks).map(|(s, t)| s + t.minutes).max());
        ends.max().unwrap_or(0)
    }

    fn timetable(self, room: &Bounded, lower_bound: u32) -> Timetable {
        Timetable { makespan: self.makespan(room), lower_bound, starts: self.0 }
    }
}
