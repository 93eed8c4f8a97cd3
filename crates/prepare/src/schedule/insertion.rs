//! A quick plan: one group after the other goes where it is through soonest.

use super::profile::{Prefer, Profile};
use super::{Bounded, HORIZON, NoPlan, Starts};

/// The shorter of two: each wait as short as it can be, or each task as early as it can be.
pub(super) fn quick(room: &Bounded) -> Result<Starts, NoPlan> {
    let horizon = horizon(room);
    let late = one_by_one(room, horizon, Prefer::Late)?;
    let early = one_by_one(room, horizon, Prefer::Early)?;
    Ok(if early.makespan(room) < late.makespan(room) { early } else { late })
}

/// One group after another always finds room before this minute.
fn horizon(room: &Bounded) -> u32 {
    let mut sum = 0u32;
    for tasks in &room.groups {
        let tails = Bounded::heads(tasks).last().copied().unwrap_or(0) + tasks.last().map_or(0, |t| t.minutes);
        sum = sum.saturating_add(tails);
    }
    sum.clamp(1, HORIZON) + 1
}

fn one_by_one(room: &Bounded, horizon: u32, prefer: Prefer) -> Result<Starts, NoPlan> {
    let mut profile = Profile::empty(room, horizon);
    let mut starts = Vec::with_capacity(room.groups.len());
    for tasks in &room.groups {
        if tasks.is_empty() {
            starts.push(Vec::new());
            continue;
        }
        let own = profile.soonest(tasks, prefer).ok_or_else(too_many)?;
        profile.take(tasks, &own);
        starts.push(own);
    }
    Ok(Starts(starts))
}

fn too_many() -> NoPlan {
    NoPlan::TooMuch { told: "there are more groups than fit one after the other in six weeks".into() }
}
