//! How long the steps of a practical took a class, beside what was planned.

use crate::bench::Entries;
use crate::roll::Visit;
use practical::Practical;
use serde::Serialize;

/// A step that was begun and not finished within this time was left alone in between.
const LONGEST_MINUTES: f64 = 180.0;
/// Groups of which a class's time is said.
const FEWEST: usize = 3;

/// How long a step took, in minutes.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StepTime {
    /// The step, counted from 0.
    pub step: u32,
    /// Its title.
    pub title: String,
    /// Groups that began and finished it in one lesson.
    pub groups: usize,
    /// A quarter of them took no longer.
    pub lower: f64,
    /// Half of them took no longer.
    pub median: f64,
    /// Three quarters of them took no longer.
    pub upper: f64,
    /// What was planned, shortest and longest.
    pub planned: Option<[u32; 2]>,
}

/// How long each step took from its beginning to its end, where at least three groups did both in one lesson. What waits
/// over night, or goes on next week, says nothing of hands.
#[must_use]
pub fn step_times(practical: &Practical, groups: &[&Entries], visits: &[Visit]) -> Vec<StepTime> {
    let steps = (0u32..).zip(&practical.steps);
    steps
        .filter_map(|(step, spec)| {
            let mut minutes: Vec<f64> = groups.iter().filter_map(|entries| minutes_at(entries, step, visits)).collect();
            minutes.sort_by(f64::total_cmp);
            (minutes.len() >= FEWEST).then(|| StepTime {
                step,
                title: spec.title.clone(),
                groups: minutes.len(),
                lower: part(&minutes, 0.25),
                median: part(&minutes, 0.5),
                upper: part(&minutes, 0.75),
                planned: spec.minutes,
            })
        })
        .collect()
}

fn minutes_at(entries: &Entries, step: u32, visits: &[Visit]) -> Option<f64> {
    let done = *entries.done.get(&step)?;
    // Where nobody opened it, it began when the one before it was done.
    let before = || entries.done.values().copied().filter(|at| *at < done).max();
    let begun = entries.begun.get(&step).copied().filter(|at| *at <= done).or_else(before)?;
    // The last lesson that had begun by then.
    let lesson = |at: i64| visits.iter().rposition(|v| v.begins_at <= at);
    let minutes = (done - begun) as f64 / 60_000.0;
    (lesson(begun) == lesson(done) && (0.0..=LONGEST_MINUTES).contains(&minutes)).then_some(minutes)
}

/// The value that this part of sorted ones does not exceed, between neighbours in proportion.
fn part(sorted: &[f64], part: f64) -> f64 {
    let at = part * (sorted.len() - 1) as f64;
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "an index within the values")]
    let below = at.floor() as usize;
    let above = (below + 1).min(sorted.len() - 1);
    sorted[below] + (at - at.floor()) * (sorted[above] - sorted[below])
}
