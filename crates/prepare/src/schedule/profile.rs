//! How much of each shared thing is taken, minute by minute.

use super::{Bounded, Held};

/// What is taken of the shared things.
#[derive(Debug, Clone)]
pub(super) struct Profile {
    taken: Vec<Vec<u32>>,
    capacities: Vec<u32>,
    horizon: usize,
}

impl Profile {
    /// Nothing taken yet.
    pub fn empty(room: &Bounded, horizon: u32) -> Profile {
        let horizon = horizon as usize;
        Profile { taken: vec![vec![0; horizon]; room.capacities.len()], capacities: room.capacities.clone(), horizon }
    }

    /// Takes what the tasks of a group hold.
    pub fn take(&mut self, tasks: &[Held], starts: &[u32]) {
        for (task, start) in tasks.iter().zip(starts) {
            let (from, to) = (*start as usize, (start + task.minutes) as usize);
            for resource in &task.holds {
                self.taken[*resource][from..to].iter_mut().for_each(|taken| *taken += 1);
            }
        }
    }

    /// For each minute before the horizon, whether the task could begin then by what it holds.
    fn free(&self, task: &Held) -> Vec<bool> {
        let minutes = task.minutes as usize;
        let mut free = vec![true; self.horizon];
        let latest = (self.horizon + 1).saturating_sub(minutes);
        free[latest.min(self.horizon)..].fill(false);
        for resource in &task.holds {
            let full = self.capacities[*resource];
            // Minutes in a row that are free, counted from behind.
            let mut run = 0;
            for at in (0..self.horizon).rev() {
                run = if self.taken[*resource][at] < full { run + 1 } else { 0 };
                free[at] &= run >= minutes;
            }
        }
        free
    }

    /// The starts of a group's tasks with which it is through first; where there is a choice on the way, as `prefer` says. None
    /// where there is no way before the horizon.
    pub fn soonest(&self, tasks: &[Held], prefer: Prefer) -> Option<Vec<u32>> {
        let mut reachable: Vec<Vec<bool>> = Vec::with_capacity(tasks.len());
        for (i, task) in tasks.iter().enumerate() {
            let mut can = self.free(task);
            if let Some(before) = i.checked_sub(1) {
                let last = &tasks[before];
                let least = (last.minutes + last.least) as usize;
                let most = last.most.map(|most| (last.minutes + most) as usize);
                // The nearest minute so far from which this one can be reached at the latest.
                let mut came: Option<usize> = None;
                for (at, can) in can.iter_mut().enumerate() {
                    if let Some(from) = at.checked_sub(least)
                        && reachable[before][from]
                    {
                        came = Some(from);
                    }
                    *can &= came.is_some_and(|from| most.is_none_or(|most| at - from <= most));
                }
            }
            reachable.push(can);
        }
        let last = reachable.last()?.iter().position(|r| *r)?;
        let mut starts = vec![0; tasks.len()];
        let mut next = last;
        starts[tasks.len() - 1] = u32::try_from(last).ok()?;
        for i in (0..tasks.len() - 1).rev() {
            let task = &tasks[i];
            let latest = next - (task.minutes + task.least) as usize;
            let earliest = task.most.map_or(0, |most| next.saturating_sub((task.minutes + most) as usize));
            let mut choices = (earliest..=latest).filter(|at| reachable[i][*at]);
            next = match prefer {
                Prefer::Early => choices.next()?,
                Prefer::Late => choices.next_back()?,
            };
            starts[i] = u32::try_from(next).ok()?;
        }
        Some(starts)
    }
}

/// Which of several starts that come to the same end.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Prefer {
    /// The earliest: shared things are free again for others.
    Early,
    /// The latest: the shortest waits.
    Late,
}
