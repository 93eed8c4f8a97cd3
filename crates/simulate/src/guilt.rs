//! What groups with one planted slip hear: every slip of a size that matters is to be told, rightly and in time.
//!
//! A slip of a reading matters where it moves a result by more than a twentieth, or leaves none. What stays below theory
//! although it is damp shows nowhere, and is not counted.

use crate::{Group, Planted, Slip, Told};
use lab::bench::Entry;
use lab::evaluated::{Evaluated, ResultState};
use lab::group::GroupOutcome;
use lab::judge::Standing;
use practical::Practical;
use std::collections::BTreeMap;

/// How often slips of one kind were told in each way, with the first example of what was not.
#[derive(Debug, Default, Clone)]
pub struct Tally(pub BTreeMap<(Slip, Told), (usize, String)>);

impl Tally {
    /// How many, by how they were told.
    #[must_use]
    pub fn of(&self, told: Told) -> usize {
        self.0.iter().filter(|((_, t), _)| *t == told).map(|(_, (n, _))| n).sum()
    }

    /// Counts one.
    pub fn count(&mut self, slip: Slip, told: Told, example: String) {
        self.0.entry((slip, told)).or_insert((0, example)).0 += 1;
    }
}

/// How the slip of one group was told; none where it cannot happen in this practical, or changed nothing.
#[must_use]
pub fn of_one(practical: &Practical, seed: u64, slip: Slip) -> Option<(Told, String)> {
    let mut group = Group::with(practical, seed, slip)?;
    let planted = group.planted()?.clone();
    let (mut in_time, mut late, mut otherwise) = (false, false, false);
    let mut made = None;
    group.work(|after| {
        let at = match &after.said.entry {
            Entry::Begun { step } => Some(*step),
            _ => None,
        };
        if made.is_none() && at.is_some_and(|step| step > planted.step) {
            // The next step has begun: what is said from now on comes late.
            made = at;
        }
        let outcome = after.outcome();
        let findings = outcome.findings.iter().filter(|(slot, _)| is_near(&planted, slot));
        let mut said = findings.flat_map(|(_, f)| f).any(|f| slip.is_said_by(f));
        said |= outcome.advice.iter().any(|a| slip.is_advised_by(a));
        if said && made.is_none_or(|step| step <= planted.step + 1) {
            in_time = true;
        }
        late |= said;
        otherwise |= !outcome.findings.is_empty() || outcome.advice.iter().any(|a| a.standing >= Standing::Doubtful);
    });
    let faultless = {
        let mut same = Group::at(practical, seed);
        same.work(|_| {});
        same.entries().clone()
    };
    let changed = faultless.readings != group.entries().readings
        || faultless.observations != group.entries().observations
        || slip == Slip::TooEarly;
    let end = Evaluated::of(practical, group.entries()).outcome();
    if !changed || !matters(practical, &planted, &Evaluated::of(practical, &faultless).outcome(), &end) {
        return None;
    }
    let told = match (in_time, late, otherwise) {
        (true, ..) => Told::Right,
        (false, true, _) => Told::Late,
        (false, false, true) => Told::Otherwise,
        (false, false, false) => Told::Silent,
    };
    let read = group.entries().readings.get(&planted.place).cloned().unwrap_or_default();
    let heard: Vec<String> = end.findings.values().flatten().map(|f| format!("{f:?}")).collect();
    let doubts = end.advice.iter().filter(|a| a.standing >= Standing::Doubtful).map(|a| format!("{:?}", a.matter));
    let words: Vec<String> = heard.into_iter().chain(doubts).collect();
    Some((told, format!("{} seed {seed}, {} {read}: {}", practical.file.id, planted.place, words.join("; "))))
}

/// A result that moves by less than this part is as good as right.
const MATTERS: f64 = 0.05;

fn matters(practical: &Practical, planted: &Planted, right: &GroupOutcome, found: &GroupOutcome) -> bool {
    let value = |outcome: &GroupOutcome, name: &str| {
        let result = outcome.results.iter().find(|r| r.name == name)?;
        match &result.state {
            ResultState::Value(v) => Some(v.value),
            ResultState::NotYet { .. } | ResultState::Failed { .. } => None,
        }
    };
    match planted.slip {
        Slip::TooEarly
        | Slip::ColourPassed
        | Slip::SeenOtherwise
        | Slip::WrongCode
        | Slip::MeltsHigh
        | Slip::Overshot
        // A wrong number of decimals is wrong at any size.
        | Slip::ZeroDropped => true,
        Slip::Damp => practical.yields().any(|y| value(found, &y.percent).is_some_and(|v| v > 103.0)),
        Slip::PointMoved
        | Slip::DigitsSwapped
        | Slip::DigitDropped
        | Slip::MilligramsForGrams
        | Slip::EndsExchanged
        | Slip::VesselTaredAway
        | Slip::AnotherVessel => right.results.iter().any(|r| {
            let (Some(right), found) = (value(right, &r.name), value(found, &r.name)) else { return false };
            found.is_none_or(|found| (found - right).abs() > MATTERS * right.abs())
        }),
    }
}

/// The place of the slip, or another of the same trial.
fn is_near(planted: &Planted, slot: &str) -> bool {
    let trial = |s: &str| s.split_once('[').map(|(_, t)| t.to_owned());
    planted.place == slot || trial(slot).is_none() || trial(slot) == trial(&planted.place)
}
