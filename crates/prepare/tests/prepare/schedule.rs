//! Timetables of rooms that nobody thought of.

use prepare::schedule::{Effort, NoPlan, Room, Task, Timetable, timetable};
use proptest::prelude::*;
use std::collections::BTreeMap;

fn task(minutes: u32, holds: Option<u8>, least: u32, most: Option<u32>) -> Task {
    Task {
        name: format!("{minutes} min"),
        minutes,
        holds: holds.map(|n| format!("thing {n}")).into_iter().collect(),
        wait_least: least,
        wait_most: most.map(|more| least + more),
    }
}

prop_compose! {
    fn rooms()(
        tasks in prop::collection::vec((0u32..20, prop::option::of(0u8..3), 0u32..6, prop::option::of(0u32..15)), 1..6),
        groups in 1usize..7,
        counts in prop::collection::vec(1u32..4, 3),
    ) -> Room {
        let tasks: Vec<Task> = tasks.into_iter().map(|(m, r, least, most)| task(m, r, least, most)).collect();
        let resources = counts.iter().enumerate().map(|(i, n)| (format!("thing {i}"), *n)).collect();
        Room { groups: vec![tasks; groups], resources }
    }
}

/// Looked through minute by minute, by another way than it was made.
fn sound(room: &Room, plan: &Timetable) -> Result<(), String> {
    let mut last = 0;
    let mut taken: BTreeMap<(&str, u32), u32> = BTreeMap::new();
    for (tasks, starts) in room.groups.iter().zip(&plan.starts) {
        for (i, (task, start)) in tasks.iter().zip(starts).enumerate() {
            last = last.max(start + task.minutes);
            for minute in *start..start + task.minutes {
                task.holds.iter().for_each(|h| *taken.entry((h, minute)).or_default() += 1);
            }
            if let Some(next) = starts.get(i + 1) {
                let wait = next.checked_sub(start + task.minutes).ok_or("steps overlap")?;
                if wait < task.wait_least || task.wait_most.is_some_and(|most| wait > most) {
                    return Err(format!("a wait of {wait} after {task:?}"));
                }
            }
        }
    }
    if let Some(((thing, minute), n)) = taken.iter().find(|((thing, _), n)| **n > room.resources[*thing]) {
        return Err(format!("{n} at {thing} in minute {minute}"));
    }
    if last == plan.makespan { Ok(()) } else { Err(format!("ends in {last}, said {}", plan.makespan)) }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    /// Any plan can be carried out, no bound is above what is found, and the same room gives the same plan.
    #[test]
    fn a_plan_can_be_carried_out(room in rooms()) {
        let quick = timetable(&room, Effort::Quick).unwrap();
        let fair = timetable(&room, Effort::Fair).unwrap();
        prop_assert_eq!(sound(&room, &quick), Ok(()));
        prop_assert_eq!(sound(&room, &fair), Ok(()));
        prop_assert!(fair.lower_bound <= fair.makespan && fair.makespan <= quick.makespan);
        prop_assert!(quick.lower_bound <= fair.lower_bound);
        prop_assert_eq!(timetable(&room, Effort::Fair).unwrap(), fair);
    }
}

/// What cannot be is told with what cannot be met; nothing runs away.
#[test]
fn what_cannot_be_planned_says_why() {
    let room = |tasks: Vec<Task>, groups: usize| Room {
        groups: vec![tasks; groups],
        resources: [("thing 0".to_owned(), 1), ("thing 1".to_owned(), 0)].into(),
    };
    let told = |room: &Room| timetable(room, Effort::Thorough).unwrap_err();
    let mut wait = task(5, None, 10, None);
    wait.wait_most = Some(5);
    assert!(matches!(
        told(&room(vec![wait.clone(), task(1, None, 0, None)], 2)),
        NoPlan::Wait { least: 10, most: 5, .. }
    ));
    // After the last step nothing is waited for.
    assert!(timetable(&room(vec![wait], 2), Effort::Thorough).is_ok());
    assert!(matches!(told(&room(vec![task(5, Some(1), 0, None)], 1)), NoPlan::NoneOfIt { .. }));
    assert!(matches!(told(&room(vec![task(5, Some(2), 0, None)], 1)), NoPlan::NoneOfIt { .. }));
    assert!(matches!(told(&room(vec![task(5, None, 0, None)], 201)), NoPlan::TooMuch { .. }));
    assert!(matches!(told(&room(vec![task(20_000, None, 0, None)], 1)), NoPlan::TooMuch { .. }));
    // Nobody, and groups with nothing to do.
    assert_eq!(timetable(&room(vec![], 3), Effort::Thorough).unwrap().makespan, 0);
    assert_eq!(timetable(&room(vec![task(5, None, 0, None)], 0), Effort::Thorough).unwrap().makespan, 0);
}
