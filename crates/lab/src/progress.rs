//! How far a group is: which part of each step is still to be done.

use crate::bench::Entries;
use practical::Practical;
use practical::file::Step;

/// The part of each step that is left, from 0 to 1.
///
/// What a step asks for is counted: readings as often as they are wanted when all goes well, things seen, answers. A step that
/// asks for nothing is over once a later one was begun. One that only some groups do counts as over.
#[must_use]
pub fn left_to_do(practical: &Practical, entries: &Entries) -> Vec<f64> {
    let counts: Vec<(usize, usize)> = practical.steps.iter().map(|s| asked(practical, entries, s)).collect();
    let number = |i: usize| u32::try_from(i).unwrap_or(u32::MAX);
    let touched = |i: &usize| {
        let step = number(*i);
        counts[*i].1 > 0 || entries.done.contains_key(&step) || entries.begun.contains_key(&step)
    };
    let reached = (0..counts.len()).rev().find(touched);
    let left = |(i, (wanted, there)): (usize, &(usize, usize))| {
        if entries.done.contains_key(&number(i)) || !practical.steps[i].when.is_empty() {
            0.0
        } else if *wanted > 0 {
            (wanted - there) as f64 / *wanted as f64
        } else if reached.is_some_and(|last| i < last) {
            0.0
        } else {
            1.0
        }
    };
    counts.iter().enumerate().map(left).collect()
}

/// How much a step asks for, and how much of that is there.
fn asked(practical: &Practical, entries: &Entries, step: &Step) -> (usize, usize) {
    let (mut wanted, mut there) = (0, 0);
    for reading in practical.readings.iter().filter(|r| step.records.contains(&r.symbol)) {
        let own = if reading.repeats.is_some() { practical.repeats_wanted(reading) } else { reading.slots().len() };
        let taken = reading.slots().iter().filter(|s| entries.readings.contains_key(&s.symbol)).count();
        wanted += own;
        there += taken.min(own);
    }
    wanted += step.observes.len() + step.answers.len();
    there += step.observes.iter().filter(|o| entries.observations.contains_key(*o)).count();
    let answered =
        |a: &&String| entries.answers.contains_key(*a) || entries.own_answers.values().any(|own| own.contains_key(*a));
    there += step.answers.iter().filter(answered).count();
    (wanted, there)
}
