//! A lesson that is on: planned anew from where each group really is.

use crate::ForClass;
use crate::lessons::{Piece, capacities, pieces, task, whole_minutes};
use crate::schedule::{Effort, Room, Task, timetable};
use practical::Practical;

/// A shorter wait at something that is shared is no queue, min.
const NO_QUEUE: u32 = 3;

/// Where a group is.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct GroupNow {
    /// Which part of each step is still to be done, from 0 to 1; all of what is not named.
    pub left: Vec<f64>,
    /// What waits already: the step that comes after it, counted from 0, and in how many minutes it can.
    pub waits: Vec<(u32, u32)>,
}

impl GroupNow {
    fn part_left(&self, piece: &Piece) -> f64 {
        self.left.get(piece.step as usize).copied().unwrap_or(1.0).clamp(0.0, 1.0)
    }

    /// In how many minutes a piece can be begun, by what waits already.
    fn ready_in(&self, piece: &Piece) -> u32 {
        self.waits.iter().filter(|(step, _)| *step == piece.step).map(|(_, minutes)| *minutes).max().unwrap_or(0)
    }
}

/// How a lesson goes on, counted in minutes from now.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Replan {
    /// When each group is through with what it can do in this lesson.
    pub through: Vec<u32>,
    /// Who waits for what, the first first.
    pub queue: Vec<Waits>,
    /// What has to be begun by when, to come to a place where it can stop before the lesson ends.
    pub begin_by: Vec<BeginBy>,
}

/// A group that waits for something that is shared.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Waits {
    /// The group, counted from 0.
    pub group: u32,
    /// For what.
    pub resource: String,
    /// Until when.
    pub until: u32,
}

/// The last moment at which a stretch of work can be begun.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BeginBy {
    /// What its first step is called.
    pub title: String,
    /// In so many minutes; below 0 where it is past.
    pub at: i64,
    /// Groups that have not begun it, counted from 0.
    pub groups: Vec<u32>,
}

/// How a lesson of `minutes`, of which `remaining` are to come, goes on by typical times; none where there is no plan.
///
/// What lies behind a wait that is longer than the lesson, or than what is left of it where it has begun, belongs to another
/// day.
#[must_use]
pub fn replan(
    practical: &Practical,
    class: &ForClass,
    minutes: u32,
    remaining: u32,
    now: &[GroupNow],
) -> Option<Replan> {
    let pieces = pieces(practical);
    let groups: Vec<Vec<Task>> = now.iter().map(|own| to_do(&pieces, own, minutes, remaining)).collect();
    let room = Room { groups, resources: capacities(practical, &class.resources) };
    let planned = timetable(&room, Effort::Quick).ok()?;
    let through = |(starts, tasks): (&Vec<u32>, &Vec<Task>)| {
        starts.last().zip(tasks.last()).map_or(0, |(start, task)| start + task.minutes)
    };
    let mut queue: Vec<Waits> = (0..)
        .zip(planned.starts.iter().zip(&room.groups))
        .flat_map(|(group, (starts, tasks))| queueing(group, starts, tasks))
        .collect();
    queue.sort_by_key(|w| w.until);
    Some(Replan {
        through: planned.starts.iter().zip(&room.groups).map(through).collect(),
        queue,
        begin_by: begin_by(&pieces, now, minutes, remaining),
    })
}

/// What a group has still to do in a lesson of `minutes`.
fn to_do(pieces: &[Piece], own: &GroupNow, minutes: u32, remaining: u32) -> Vec<Task> {
    let mut tasks = Vec::new();
    for piece in pieces.iter().skip_while(|p| own.part_left(p) == 0.0) {
        let ready_in = own.ready_in(piece);
        if ready_in > remaining {
            break;
        }
        if ready_in > 0 && tasks.is_empty() {
            tasks.push(Task { minutes: 0, holds: Vec::new(), wait_least: ready_in, wait_most: None, ..task(piece, 0) });
        }
        tasks.push(task(piece, whole_minutes(f64::from(piece.minutes) * own.part_left(piece))));
        if piece.wait_least > minutes {
            break;
        }
    }
    tasks
}

/// Where a group could begin, and has to wait for what it takes.
fn queueing(group: u32, starts: &[u32], tasks: &[Task]) -> Vec<Waits> {
    let mut ready = 0;
    let mut out = Vec::new();
    for (start, task) in starts.iter().zip(tasks) {
        if start.saturating_sub(ready) >= NO_QUEUE
            && let Some(resource) = task.holds.first()
        {
            out.push(Waits { group, resource: resource.clone(), until: *start });
        }
        ready = start + task.minutes + task.wait_least;
    }
    out
}

/// Each stretch of this lesson from one place where it can stop to the next, where somebody has not begun it.
fn begin_by(pieces: &[Piece], now: &[GroupNow], minutes: u32, remaining: u32) -> Vec<BeginBy> {
    let mut out = Vec::new();
    let mut from = 0;
    while from < pieces.len() {
        let to = (from..pieces.len()).find(|i| pieces[*i].may_cut).unwrap_or(pieces.len() - 1);
        let stretch = &pieces[from..=to];
        // The wait after the last piece needs nobody, and no lesson.
        let waits: u32 = stretch[..stretch.len() - 1].iter().map(|p| p.wait_least).sum();
        let takes = stretch.iter().map(|p| p.minutes).sum::<u32>() + waits;
        let first = &stretch[0];
        let open = (0..)
            .zip(now)
            .filter(|(_, own)| own.part_left(first) >= 1.0 && is_today(pieces, own, from, minutes, remaining));
        let groups: Vec<u32> = open.map(|(group, _)| group).collect();
        if !groups.is_empty() && takes > 0 {
            let at = i64::from(remaining) - i64::from(takes);
            out.push(BeginBy { title: first.title.clone(), at, groups });
        }
        from = to + 1;
    }
    out
}

/// Whether no wait of another day lies between where a group is and a piece.
fn is_today(pieces: &[Piece], own: &GroupNow, piece: usize, minutes: u32, remaining: u32) -> bool {
    let at = pieces.iter().position(|p| own.part_left(p) > 0.0).unwrap_or(pieces.len());
    at <= piece
        && pieces[at..piece].iter().all(|p| p.wait_least <= minutes)
        && pieces[at..=piece].iter().all(|p| own.ready_in(p) <= remaining)
}
