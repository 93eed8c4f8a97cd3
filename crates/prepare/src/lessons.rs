//! Whether it fits the lessons: where it is cut, how long each part takes with what the room has, and what would make it fit.
//!
//! A cut is possible after a stopping point, and in a wait that may last until another day. A wait that is longer than a lesson
//! is always one. Typical times are halfway between a step's shortest and longest; slow ones its longest. A step holds what it
//! uses all the time, or for the part that its file says (`held`): then it is several pieces, one after the other.

use crate::ForClass;
use crate::schedule::{Effort, NoPlan, Room, Task, Timetable, timetable};
use practical::file::{Resource, Step};
use practical::{Held, HeldAt, Practical, minutes};
use serde::Serialize;
use std::collections::BTreeMap;

/// A wait of this many minutes may last until another day: a day.
const ANOTHER_DAY: f64 = 24.0 * 60.0;
/// A lesson where nothing is said, min.
pub const USUAL_LESSON: u32 = 90;

/// The room's time.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RoomTime {
    /// The parts that it falls into, each to be done in one lesson.
    pub lessons: Vec<Lesson>,
    /// Lessons that the practical says it takes.
    pub visits: u32,
    /// Titles of steps that do not say how long they take: not counted.
    pub unsaid: Vec<String>,
}

/// A part that is done in one lesson.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Lesson {
    /// How long the lesson is, min.
    pub minutes: u32,
    /// What each group does, in order: steps, or pieces of them.
    pub pieces: Vec<Piece>,
    /// With typical times; none where there is no plan.
    pub timetable: Option<Timetable>,
    /// Why there is no plan.
    pub no_plan: Option<NoPlan>,
    /// With slow times, min.
    pub slow: Option<u32>,
    /// What each shared thing does meanwhile, the busiest first.
    pub shared: Vec<Shared>,
    /// Who has which of the shared things when.
    pub turns: Vec<Turn>,
    /// What follows: why it ends here.
    pub then: Then,
    /// Where it does not fit, what would make it fit, the least first.
    pub remedies: Vec<Remedy>,
}

/// A step, or a piece of one that holds something else than the rest of it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Piece {
    /// The step, counted from 0, as in the practical.
    pub step: u32,
    /// Its title.
    pub title: String,
    /// Typical, min.
    pub minutes: u32,
    /// Slow, min.
    pub slow: u32,
    /// What it holds of what is shared.
    pub holds: Vec<String>,
    /// Shortest wait before the next one, min.
    pub wait_least: u32,
    /// Longest wait before the next one, min.
    pub wait_most: Option<u32>,
    /// What the step says of that wait.
    pub wait: Option<String>,
    /// Whether the work may go on another day after it.
    pub may_cut: bool,
    /// Nothing is done here but sums.
    pub only_sums: bool,
}

/// A shared thing in a lesson.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Shared {
    /// As the steps call it.
    pub name: String,
    /// How many there are.
    pub count: u32,
    /// Groups that one of them serves at once.
    pub serves: u32,
    /// Which part of the time between its first and its last use it is in use, all of them together.
    pub busy: f64,
}

/// Somebody's turn at a shared thing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Turn {
    /// The group, counted from 0.
    pub group: u32,
    /// The step, counted from 0, as in the practical.
    pub step: u32,
    /// What of.
    pub resource: String,
    /// Which of them, from 1.
    pub unit: u32,
    /// From this minute of the lesson.
    pub from: u32,
    /// To this minute.
    pub to: u32,
}

/// Why a lesson ends where it ends.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "then", rename_all = "kebab-case")]
pub enum Then {
    /// It is done.
    Done,
    /// Something waits that needs nobody.
    Waits {
        /// As the step says.
        wait: String,
    },
    /// The work can rest.
    Rests,
}

/// What would make a lesson fit.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "remedy", rename_all = "kebab-case")]
pub enum Remedy {
    /// The sums are done after the lesson.
    SumsAfterwards {
        /// Min.
        makespan: u32,
    },
    /// More of what is shared.
    More {
        /// What of.
        resource: String,
        /// So many in all.
        count: u32,
        /// Min.
        makespan: u32,
    },
    /// Fewer, larger groups.
    FewerGroups {
        /// So many.
        groups: u32,
        /// Min.
        makespan: u32,
    },
}

/// The room's time for a class.
pub(crate) fn room_time(practical: &Practical, class: &ForClass, effort: Effort) -> RoomTime {
    // A step that is nothing but a wait takes no time of anybody's.
    let unsaid = practical.steps.iter().filter(|s| s.minutes.is_none() && s.wait.is_none());
    let pieces = pieces(practical);
    let mut lessons = Vec::new();
    let mut rest = pieces.as_slice();
    while !rest.is_empty() {
        let minutes = class.lessons.get(lessons.len()).or(class.lessons.last()).copied().unwrap_or(USUAL_LESSON);
        let part = Part { practical, class, minutes };
        let (now, later) = rest.split_at(part.end(rest));
        lessons.push(part.lesson(now, later.is_empty(), effort));
        rest = later;
    }
    RoomTime { visits: practical.file.visits, unsaid: unsaid.map(|s| s.title.clone()).collect(), lessons }
}

/// All that a group does, in order.
pub(crate) fn pieces(practical: &Practical) -> Vec<Piece> {
    let mut out: Vec<Piece> = Vec::new();
    for (i, step) in practical.steps.iter().enumerate() {
        // From the end of the wait, where there is one.
        if let (Some(within), Some(before)) = (within_of(step), out.last_mut()) {
            before.wait_most = Some(before.wait_least.saturating_add(within));
        }
        out.extend(pieces_of(u32::try_from(i).unwrap_or(u32::MAX), step));
    }
    out
}

fn pieces_of(number: u32, step: &Step) -> Vec<Piece> {
    let held: Vec<(&String, Held)> =
        step.held.iter().filter_map(|(resource, text)| Some((resource, Held::parse(text).ok()?))).collect();
    let whole: Vec<String> = step.uses.iter().filter(|u| !step.held.contains_key(*u)).cloned().collect();
    let piece = |minutes: [u32; 2], of: Option<&String>, all: bool| Piece {
        step: number,
        title: step.title.clone(),
        minutes: minutes[0].saturating_add(minutes[1]).div_ceil(2),
        slow: minutes[1],
        holds: of.into_iter().chain(whole.iter().filter(|_| all)).cloned().collect(),
        wait_least: 0,
        wait_most: None,
        wait: None,
        may_cut: false,
        only_sums: only_sums(step),
    };
    let at = |wanted: &[HeldAt]| -> Vec<Piece> {
        let here = held.iter().filter(|(_, h)| wanted.contains(&h.at));
        here.map(|(resource, h)| piece([h.minutes, h.minutes], Some(resource), h.at != HeldAt::AfterTheWait)).collect()
    };
    let (first, last) = (at(&[HeldAt::First, HeldAt::FirstAndLast]), at(&[HeldAt::Last, HeldAt::FirstAndLast]));
    let apart: u32 = first.iter().chain(&last).map(|p| p.minutes).sum();
    let left = step.minutes.unwrap_or_default().map(|m| m.saturating_sub(apart));
    let mut out = first;
    if left[1] > 0 || apart == 0 {
        out.push(piece(left, None, true));
    }
    out.extend(last);
    if let (Some((least, most)), Some(end)) = (wait_of(step), out.last_mut()) {
        end.wait_least = whole_minutes(least);
        end.wait_most = most.map(whole_minutes);
        end.wait.clone_from(&step.wait);
        end.may_cut = most.is_none_or(|m| m >= ANOTHER_DAY);
    }
    out.extend(at(&[HeldAt::AfterTheWait]));
    if let Some(end) = out.last_mut() {
        end.may_cut |= step.stopping_point;
    }
    out
}

/// Groups that each shared thing serves at once, by name.
pub(crate) fn capacities(practical: &Practical, counts: &BTreeMap<String, u32>) -> BTreeMap<String, u32> {
    let of = |r: &Resource| counts.get(&r.name).copied().unwrap_or(r.count);
    practical.file.resources.iter().map(|r| (r.name.clone(), of(r).saturating_mul(r.groups))).collect()
}

/// A piece as the timetable takes it.
pub(crate) fn task(piece: &Piece, minutes: u32) -> Task {
    Task {
        name: piece.title.clone(),
        minutes,
        holds: piece.holds.clone(),
        wait_least: piece.wait_least,
        wait_most: piece.wait_most,
    }
}

struct Part<'a> {
    practical: &'a Practical,
    class: &'a ForClass,
    minutes: u32,
}

impl Part<'_> {
    /// How many pieces belong to this lesson: up to where it has to end, or to the last place where it may and still fits.
    fn end(&self, pieces: &[Piece]) -> usize {
        let must = pieces.iter().position(|p| p.wait_least > self.minutes).map_or(pieces.len(), |i| i + 1);
        if self.fits(&pieces[..must]) {
            return must;
        }
        let may = |to: &usize| pieces[to - 1].may_cut;
        // Where nothing fits, the shortest part that can be cut off: the rest is not lost with it.
        let last = (1..must).rev().filter(may).find(|to| self.fits(&pieces[..*to]));
        last.or_else(|| (1..must).find(may)).unwrap_or(must)
    }

    fn fits(&self, pieces: &[Piece]) -> bool {
        let planned = self.plan(pieces, |p| p.minutes, self.class.groups.len(), &self.class.resources, Effort::Fair);
        planned.is_ok_and(|t| t.makespan <= self.minutes)
    }

    fn plan(
        &self,
        pieces: &[Piece],
        minutes: impl Fn(&Piece) -> u32,
        groups: usize,
        counts: &BTreeMap<String, u32>,
        effort: Effort,
    ) -> Result<Timetable, NoPlan> {
        let tasks: Vec<Task> = pieces.iter().map(|p| task(p, minutes(p))).collect();
        timetable(&Room { groups: vec![tasks; groups], resources: capacities(self.practical, counts) }, effort)
    }

    fn lesson(&self, pieces: &[Piece], all: bool, effort: Effort) -> Lesson {
        let groups = self.class.groups.len();
        let planned = self.plan(pieces, |p| p.minutes, groups, &self.class.resources, effort);
        let slow = self.plan(pieces, |p| p.slow, groups, &self.class.resources, Effort::Fair);
        let then = match pieces.last().and_then(|p| p.wait.clone()) {
            _ if all => Then::Done,
            Some(wait) => Then::Waits { wait },
            None => Then::Rests,
        };
        let too_long = planned.as_ref().is_ok_and(|t| t.makespan > self.minutes);
        let remedies = if too_long { self.remedies(pieces) } else { Vec::new() };
        let (timetable, no_plan) = match planned {
            Ok(timetable) => (Some(timetable), None),
            Err(why) => (None, Some(why)),
        };
        Lesson {
            minutes: self.minutes,
            pieces: pieces.to_vec(),
            shared: timetable.as_ref().map_or_else(Vec::new, |t| self.shared(pieces, t)),
            turns: timetable.as_ref().map_or_else(Vec::new, |t| self.turns(pieces, t)),
            timetable,
            no_plan,
            slow: slow.ok().map(|t| t.makespan),
            then,
            remedies,
        }
    }

    /// How busy each shared thing is.
    fn shared(&self, pieces: &[Piece], timetable: &Timetable) -> Vec<Shared> {
        let mut out: Vec<Shared> = Vec::new();
        for resource in &self.practical.file.resources {
            let count = self.class.resources.get(&resource.name).copied().unwrap_or(resource.count);
            let uses = uses(&resource.name, pieces, timetable);
            let (Some(first), Some(last)) = (uses.iter().map(|u| u.from).min(), uses.iter().map(|u| u.to).max()) else {
                continue;
            };
            let held: u32 = uses.iter().map(|u| u.to - u.from).sum();
            let could = f64::from(last - first) * f64::from(count.saturating_mul(resource.groups));
            let busy = if could > 0.0 { f64::from(held) / could } else { 0.0 };
            out.push(Shared { name: resource.name.clone(), count, serves: resource.groups, busy });
        }
        out.sort_by(|a, b| b.busy.total_cmp(&a.busy));
        out
    }

    /// Each use goes to the lowest number that is free: what is shared is told apart by numbers from 1.
    fn turns(&self, pieces: &[Piece], timetable: &Timetable) -> Vec<Turn> {
        let mut out = Vec::new();
        for resource in &self.practical.file.resources {
            let mut uses = uses(&resource.name, pieces, timetable);
            uses.sort_by_key(|u| (u.from, u.group));
            // When each place is free again; places of one unit stand together.
            let mut free: Vec<u32> = Vec::new();
            for mut turn in uses {
                let place = free.iter().position(|at| *at <= turn.from).unwrap_or_else(|| {
                    free.push(0);
                    free.len() - 1
                });
                free[place] = turn.to;
                turn.unit = u32::try_from(place).unwrap_or(u32::MAX) / resource.groups.max(1) + 1;
                out.push(turn);
            }
        }
        out
    }

    /// Each alone; only what makes it fit.
    fn remedies(&self, pieces: &[Piece]) -> Vec<Remedy> {
        let all = self.class.groups.len();
        let fits = |pieces: &[Piece], groups: usize, counts: &BTreeMap<String, u32>| {
            let planned = self.plan(pieces, |p| p.minutes, groups, counts, Effort::Fair).ok()?;
            (planned.makespan <= self.minutes).then_some(planned.makespan)
        };
        let mut out = Vec::new();
        let sums = pieces.iter().rev().take_while(|p| p.only_sums).count();
        if sums > 0 && sums < pieces.len() {
            let without = fits(&pieces[..pieces.len() - sums], all, &self.class.resources);
            out.extend(without.map(|makespan| Remedy::SumsAfterwards { makespan }));
        }
        for resource in &self.practical.file.resources {
            let there = self.class.resources.get(&resource.name).copied().unwrap_or(resource.count);
            let more = (1..=2).find_map(|more| {
                let mut counts = self.class.resources.clone();
                counts.insert(resource.name.clone(), there + more);
                Some((there + more, fits(pieces, all, &counts)?))
            });
            out.extend(more.map(|(count, makespan)| Remedy::More { resource: resource.name.clone(), count, makespan }));
        }
        let fewer = (2..all).rev().find_map(|n| Some((n, fits(pieces, n, &self.class.resources)?)));
        out.extend(
            fewer.map(|(n, makespan)| Remedy::FewerGroups { groups: u32::try_from(n).unwrap_or(u32::MAX), makespan }),
        );
        out
    }
}

/// When which group holds something, its unit not yet chosen.
fn uses(resource: &str, pieces: &[Piece], timetable: &Timetable) -> Vec<Turn> {
    let mut out = Vec::new();
    for (group, own) in (0..).zip(&timetable.starts) {
        for (from, piece) in own.iter().zip(pieces).filter(|(_, p)| p.holds.iter().any(|h| h == resource)) {
            let (from, to) = (*from, from + piece.minutes);
            out.push(Turn { group, step: piece.step, resource: resource.to_owned(), unit: 1, from, to });
        }
    }
    out
}

/// A step at which nothing is done but sums.
fn only_sums(step: &Step) -> bool {
    !step.answers.is_empty()
        && step.records.is_empty()
        && step.observes.is_empty()
        && step.adds.is_empty()
        && step.uses.is_empty()
        && step.wait.is_none()
}

/// Shortest and longest wait after a step, min.
fn wait_of(step: &Step) -> Option<(f64, Option<f64>)> {
    let (least, most) = minutes(step.wait.as_deref()?).ok()?;
    // A wait of a single length has no end: it is a least.
    Some((least, most.filter(|m| *m > least)))
}

/// How soon after the one before a step begins, min.
fn within_of(step: &Step) -> Option<u32> {
    let (_, most) = minutes(step.within.as_deref()?).ok()?;
    most.map(whole_minutes)
}

pub(crate) fn whole_minutes(minutes: f64) -> u32 {
    #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss)] // clamped
    let whole = minutes.ceil().clamp(0.0, f64::from(crate::schedule::LONGEST)) as u32;
    whole
}
