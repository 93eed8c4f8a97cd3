//! What waits and needs nobody: crystallising, drying in the air or the oven, from which it is fetched another day.
//!
//! A step that names a wait has waited since its clock was started, or since it was done; it waits no longer once its
//! clock was stopped, what it records after the wait was read, or anything of a later step was begun, done or read. How
//! long it should wait is the step's own text (`24 h`, `12 to 72 h`, `at least 1 day`). Times are milliseconds; nothing
//! here reads a clock.

use super::advice::plain;
use super::{Advice, Matter, Standing};
use crate::bench::Entries;
use crate::evaluated::Evaluated;
use practical::file::{Step, Stop};
use practical::{Practical, Reading, minutes};
use serde::Serialize;
use std::collections::BTreeMap;

/// Something of a group that waits.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Waiting {
    /// The step, counted from 0.
    pub step: u32,
    /// Its title.
    pub title: String,
    /// How long it waits, as the step says.
    pub wait: String,
    /// Since when, ms.
    pub since: i64,
    /// From when on it can be gone on with, ms.
    pub ready_at: i64,
    /// Until when it should be gone on with, ms; none where it can stay.
    pub latest_at: Option<i64>,
    /// The step that comes then, counted from 0: the next one, or the same where it still has something to record.
    pub then: Option<u32>,
    /// Its title, where it is another one.
    pub then_title: Option<String>,
}

/// What waits at a group's bench, in the order of the steps.
#[must_use]
pub fn waiting(practical: &Practical, entries: &Entries) -> Vec<Waiting> {
    let all = practical.steps.iter().enumerate().filter_map(|(i, step)| {
        let (least, most) = minutes(step.wait.as_deref()?).ok()?;
        let number = super::number(i);
        let clock = entries.clocks.get(&number);
        let since = match clock {
            Some(clock) if clock.stopped.is_some() => return None,
            Some(clock) => clock.since,
            None => *entries.done.get(&number)?,
        };
        let weighed = clock.is_some() && any_read(practical, entries, step);
        if weighed || gone_on(practical, entries, i, since) {
            return None;
        }
        let records_more = !all_read(practical, entries, step);
        let next = practical.steps.get(i + 1).filter(|_| !records_more);
        // A wait of no fixed end says `at least`; one of a single length has no end either: it is a least.
        let latest = most.filter(|m| *m > least).map(|m| since + milliseconds(m));
        Some(Waiting {
            step: number,
            title: step.title.clone(),
            wait: step.wait.clone()?,
            since,
            ready_at: since + milliseconds(least),
            latest_at: latest,
            then: if records_more { Some(number) } else { next.map(|_| number + 1) },
            then_title: next.map(|s| s.title.clone()),
        })
    });
    all.collect()
}

impl Evaluated<'_> {
    /// A time cut short, or something read before its wait was over: the clock of the step knows.
    pub(super) fn cut_short(&self, out: &mut Vec<Advice>) {
        let Evaluated { practical, entries, .. } = self;
        for (i, step) in practical.steps.iter().enumerate() {
            let number = super::number(i);
            let lasts = step.stop.as_ref().and_then(Stop::lasts).map(|(lasts, _)| lasts);
            let Some(span) = lasts.or(step.wait.as_deref()) else { continue };
            let (Ok((least, _)), Some(clock)) = (minutes(span), entries.clocks.get(&number)) else { continue };
            // Only what waits is read too early: a step that lasts may well record something while its clock runs. Where the
            // step records nothing itself, the next one reads what has waited. The last reading counts: others may be of
            // the wait itself.
            let reads = if step.records.is_empty() { practical.steps.get(i + 1) } else { Some(step) };
            let places = reads.filter(|_| lasts.is_none()).into_iter().flat_map(|s| &s.records);
            let slots = places.filter_map(|r| practical.reading(r)).flat_map(Reading::slots);
            let read = slots.filter_map(|s| entries.taken_at.get(&s.symbol).copied());
            let after = read.filter(|at| *at >= clock.since).max();
            let ended = match (clock.stopped, after) {
                (Some(stopped), Some(read)) => stopped.min(read),
                (Some(one), None) | (None, Some(one)) => one,
                (None, None) => continue,
            };
            let waited = ended - clock.since;
            if waited + GRACE < milliseconds(least) {
                let matter = Matter::TooEarly { waited: worded(waited), least: span.to_owned() };
                out.push(plain(number, Standing::Doubtful, matter));
            }
        }
    }
}

/// A clock that is stopped so much before its time was stopped on it, ms.
const GRACE: i64 = 30_000;

/// A span as a person says it.
fn worded(milliseconds: i64) -> String {
    match milliseconds / 60_000 {
        minutes @ 0..120 => format!("{minutes} min"),
        minutes @ 120..2880 => format!("{} h", minutes / 60),
        minutes => format!("{} days", minutes / 1440),
    }
}

/// Whether anything was begun, done or read of a step after `at` once it waited.
fn gone_on(practical: &Practical, entries: &Entries, at: usize, since: i64) -> bool {
    practical.steps.iter().enumerate().skip(at + 1).any(|(i, step)| {
        let number = super::number(i);
        let said = |times: &BTreeMap<u32, i64>| times.get(&number).is_some_and(|t| *t > since);
        let clock = entries.clocks.get(&number).is_some_and(|c| c.since > since);
        said(&entries.begun) || said(&entries.done) || clock || (i == at + 1 && any_read(practical, entries, step))
    })
}

/// Whether anything that a step records was read or seen.
fn any_read(practical: &Practical, entries: &Entries, step: &Step) -> bool {
    if step.observes.iter().any(|o| entries.observations.contains_key(o)) {
        return true;
    }
    let mut places = step.records.iter().filter_map(|r| practical.reading(r)).flat_map(Reading::slots);
    places.any(|s| entries.readings.contains_key(&s.symbol))
}

/// Whether everything that a step records stands.
fn all_read(practical: &Practical, entries: &Entries, step: &Step) -> bool {
    let mut places = step.records.iter().filter_map(|r| practical.reading(r)).flat_map(Reading::slots);
    places.all(|s| entries.readings.contains_key(&s.symbol))
}

#[expect(clippy::cast_possible_truncation, reason = "a wait is weeks at most")]
fn milliseconds(minutes: f64) -> i64 {
    (minutes * 60_000.0) as i64
}
