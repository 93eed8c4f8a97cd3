//! The roll of a run: its lessons, who sits where, what each group is given, what waits at the benches.
//!
//! A practical may take several lessons. A *visit* is one of them. A *seat* says that a person is at a bench from a visit
//! on, or absent; it holds until a later visit says otherwise. Times are milliseconds; nothing here reads a clock.

use crate::judge::Waiting;
use practical::{Allotted, Practical};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// A lesson is set up before it begins: from so long before, it is the next one's; a quarter of an hour.
const SET_UP_BEFORE_MS: i64 = 15 * 60_000;

/// What somebody with an account works at.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum AccountRole {
    /// Plans, runs and checks.
    #[default]
    Instructor,
    /// Prepares: sees the room and what is put out, but no sums, marks or names.
    Technician,
    /// Looks at the classes that are shared with it, and changes nothing.
    Reader,
}

/// One lesson of a run.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Visit {
    /// From 1.
    pub nr: i64,
    /// In ms.
    pub begins_at: i64,
    /// How long it lasts.
    pub minutes: i64,
}

/// Where a person is from a visit on.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Seat {
    /// From this visit on.
    pub visit: i64,
    /// Who.
    pub person: i64,
    /// Name, as the roster has it.
    pub name: String,
    /// At which bench; absent if none.
    pub group: Option<i64>,
}

/// The visit that is on at `now`, or the last one that has begun; the first before that, and 1 where none is planned.
#[must_use]
pub fn current_visit(visits: &[Visit], now: i64) -> i64 {
    visits.iter().rev().find(|v| v.begins_at - SET_UP_BEFORE_MS <= now).or(visits.first()).map_or(1, |v| v.nr)
}

/// Where everybody is at a visit, by name: the last that was said up to then. `all` is in the order of visits.
#[must_use]
pub fn seated(all: &[Seat], visit: i64) -> Vec<Seat> {
    let mut by_person: BTreeMap<i64, Seat> = BTreeMap::new();
    by_person.extend(all.iter().filter(|s| s.visit <= visit).map(|s| (s.person, s.clone())));
    let mut here: Vec<Seat> = by_person.into_values().collect();
    here.sort_by(|a, b| a.name.cmp(&b.name));
    here
}

/// Whether a person is at one of these benches now, or was at an earlier visit.
#[must_use]
pub fn ever_seated_at(all: &[Seat], person: i64, groups: &[i64]) -> bool {
    all.iter().any(|s| s.person == person && s.group.is_some_and(|g| groups.contains(&g)))
}

/// What `count` groups are given in turn: each assignment as often as the others, or each unknown where there is no
/// assignment; none where the practical has neither.
#[must_use]
pub fn dealt(practical: &Practical, count: usize) -> Option<Vec<Allotted>> {
    let assignments = practical.file.assignments.iter();
    let mut kinds: Vec<Allotted> =
        assignments.map(|a| Allotted { assignment: Some(a.name.clone()), unknown: None }).collect();
    if kinds.is_empty() {
        let unknowns = practical.file.unknowns.iter();
        kinds = unknowns.map(|u| Allotted { assignment: None, unknown: Some(u.code.clone()) }).collect();
    }
    (!kinds.is_empty()).then(|| kinds.iter().cycle().take(count).cloned().collect())
}

/// What waits at the benches of a run after one step.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunWait {
    /// Title of the step.
    pub step: String,
    /// Title of the step that comes then.
    pub then: Option<String>,
    /// Names of the groups.
    pub groups: Vec<String>,
    /// Since when the first of them waits, ms.
    pub since: i64,
    /// From when on all of them can go on, ms.
    pub ready_at: i64,
    /// Until when the first of them should, ms.
    pub latest_at: Option<i64>,
}

/// What waits at the benches, gathered by step in the order of the practical; each group by its name.
pub fn gathered<'a>(groups: impl IntoIterator<Item = (&'a str, &'a [Waiting])>) -> Vec<RunWait> {
    let mut by_step: BTreeMap<u32, RunWait> = BTreeMap::new();
    for (name, waiting) in groups {
        for w in waiting {
            let one = by_step.entry(w.step).or_insert_with(|| RunWait {
                step: w.title.clone(),
                then: w.then_title.clone(),
                groups: Vec::new(),
                since: w.since,
                ready_at: w.ready_at,
                latest_at: w.latest_at,
            });
            one.groups.push(name.to_owned());
            one.since = one.since.min(w.since);
            one.ready_at = one.ready_at.max(w.ready_at);
            one.latest_at = [one.latest_at, w.latest_at].into_iter().flatten().min();
        }
    }
    by_step.into_values().collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    const HOUR: i64 = 3_600_000;

    /// Two lessons, a day apart: the second is on from a quarter of an hour before it begins, not earlier.
    #[test]
    fn a_lesson_is_on_while_it_is_being_set_up() {
        let visits = [1, 2].map(|nr| Visit { nr, begins_at: nr * 24 * HOUR, minutes: 60 });
        let at = |now| current_visit(&visits, now);
        assert_eq!((at(0), at(24 * HOUR), at(30 * HOUR)), (1, 1, 1));
        assert_eq!((at(48 * HOUR - 16 * 60_000), at(48 * HOUR - 15 * 60_000), at(99 * HOUR)), (1, 2, 2));
        assert_eq!(current_visit(&[], 0), 1);
    }

    /// Who moves at the second lesson was where they were at the first; who is absent is at no bench and was at one.
    #[test]
    fn a_seat_holds_until_a_later_visit_says_otherwise() {
        let seat = |visit, person, name: &str, group| Seat { visit, person, name: name.into(), group };
        let all = [
            seat(1, 7, "Ona", Some(1)),
            seat(1, 8, "Ira", Some(2)),
            seat(2, 7, "Ona", Some(2)),
            seat(3, 8, "Ira", None),
        ];
        let at = |visit| seated(&all, visit).into_iter().map(|s| (s.name, s.group)).collect::<Vec<_>>();
        assert_eq!(at(1), [("Ira".to_owned(), Some(2)), ("Ona".to_owned(), Some(1))]);
        assert_eq!(at(2), [("Ira".to_owned(), Some(2)), ("Ona".to_owned(), Some(2))]);
        assert_eq!(at(3), [("Ira".to_owned(), None), ("Ona".to_owned(), Some(2))]);
        assert!(ever_seated_at(&all, 8, &[2]) && !ever_seated_at(&all, 8, &[1]) && !ever_seated_at(&all, 9, &[1, 2]));
    }

    /// Two groups after one step: the first since then, both ready when the later one is, and no later than the earlier
    /// one should be.
    #[test]
    fn what_waits_is_gathered_by_step() {
        let waiting = |step, since, ready_at, latest_at| Waiting {
            step,
            title: format!("step {step}"),
            wait: "1 to 2 days".into(),
            since,
            ready_at,
            latest_at,
            then: None,
            then_title: None,
        };
        let (one, two) =
            ([waiting(3, 10, 110, Some(900))], [waiting(3, 20, 120, Some(800)), waiting(5, 30, 130, None)]);
        let found = gathered([("Beryl", &one[..]), ("Galena", &two[..])]);
        let told: Vec<_> = found.iter().map(|w| (w.groups.len(), w.since, w.ready_at, w.latest_at)).collect();
        assert_eq!(told, [(2, 10, 120, Some(800)), (1, 30, 130, None)]);
    }
}
