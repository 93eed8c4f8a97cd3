//! Marks for the work at the bench: what was written down, whether repeats agree, how near the result came.
//!
//! *Recording*: the part of the readings due that are there, the group's own, with the decimals of their instrument. Of
//! repeats as many are due as were begun. *Agreement*: all where repeats agree as the practical wants it, half within twice
//! that. *Closeness*: all up to one distance from the accepted value, none from another on, in proportion between; the
//! value is what the group's readings come to, whatever was worked out from them. To the half mark.
//!
//! Source: usual practice of marking practical work; halves and the factor of two are ours.

use crate::Figure;
use crate::bench::Entries;
use crate::evaluated::ResultState;
use crate::group::GroupOutcome;
use crate::judge::{Finding, Matter, reference};
use measure::Dimension;
use measure::rounding::figures;
use practical::file::{Closeness, Judgement};
use practical::{Part, Practical, Slot, Stated};
use serde::{Deserialize, Serialize};

/// Marks for one side of the work at the bench.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BenchMark {
    /// Marks earned.
    pub marks: f64,
    /// Marks there are to have.
    pub most: f64,
    /// What they are for, and what was found.
    pub found: BenchFound,
}

/// What was found at the bench.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum BenchFound {
    /// So many of the readings due are there, the group's own, with all their decimals.
    Recording {
        /// So many are.
        good: usize,
        /// So many are due.
        of: usize,
    },
    /// So many sets of repeats agree.
    Agreement {
        /// So many do.
        agree: usize,
        /// So many lie within twice of what is wanted.
        nearly: usize,
        /// So many there are.
        of: usize,
    },
    /// The result lies so far from the accepted value.
    Closeness {
        /// Name of the result.
        result: String,
        /// Percent of the accepted value, either way; none while there is no result or no accepted value.
        off_percent: Option<String>,
    },
}

/// Marks for each side that the practical gives any for.
#[must_use]
pub fn bench_marks(practical: &Practical, entries: &Entries, outcome: &GroupOutcome) -> Vec<BenchMark> {
    let marking = &practical.file.marking;
    let mut out = Vec::new();
    if marking.recording > 0.0 {
        let due = due(practical, entries);
        let good = due.iter().filter(|s| is_good(entries, outcome, &s.symbol)).count();
        out.push(mark(marking.recording, part(good as f64, due.len()), BenchFound::Recording { good, of: due.len() }));
    }
    if marking.agreement > 0.0 {
        let sets = agreements(outcome);
        let count = |how: f64| sets.iter().filter(|s| **s == how).count();
        let (agree, nearly) = (count(1.0), count(0.5));
        let earned = part(sets.iter().sum(), sets.len());
        out.push(mark(marking.agreement, earned, BenchFound::Agreement { agree, nearly, of: sets.len() }));
    }
    if let Some(closeness) = &marking.closeness {
        let off = off(practical, outcome, &closeness.result);
        let earned = off.map_or(0.0, |off| slid(closeness, off));
        let off_percent = off.map(|o| figures(100.0 * o, 2));
        out.push(mark(
            closeness.marks,
            earned,
            BenchFound::Closeness { result: closeness.result.clone(), off_percent },
        ));
    }
    out
}

fn part(earned: f64, of: usize) -> f64 {
    if of == 0 { 0.0 } else { earned / of as f64 }
}

fn mark(most: f64, earned: f64, found: BenchFound) -> BenchMark {
    BenchMark { marks: ((2.0 * most * earned).round() / 2.0).min(most), most, found }
}

/// Places that should be filled: all that are taken once; of repeats those up to the last that was begun.
fn due<'p>(practical: &'p Practical, entries: &Entries) -> Vec<Slot<'p>> {
    let slots = practical.slots();
    let axis = |s: &Slot<'_>| s.reading.repeats.as_ref().map(|r| r.axis.clone());
    let begun = |axis: &str| {
        let of_axis = slots.iter().filter(|s| s.reading.repeats.as_ref().is_some_and(|r| r.axis == axis));
        let trials = of_axis.filter(|s| entries.readings.contains_key(&s.symbol)).filter_map(|s| match s.part {
            Part::Trial(t) => Some(t),
            Part::Whole | Part::From | Part::To => None,
        });
        trials.max().unwrap_or(0)
    };
    let is_due = |s: &Slot<'_>| match s.part {
        Part::Trial(t) => axis(s).is_none_or(|axis| t <= begun(&axis)),
        Part::Whole | Part::From | Part::To => true,
    };
    let taken = |s: &Slot<'_>| !practical.is_not_taken(s.reading, &entries.observations);
    slots.iter().filter(|s| is_due(s) && taken(s)).cloned().collect()
}

fn is_good(entries: &Entries, outcome: &GroupOutcome, slot: &str) -> bool {
    let borrowed = entries.circumstances.get(slot).is_some_and(|c| c.borrowed.is_some());
    let findings = outcome.findings.get(slot).into_iter().flatten();
    let short = findings.into_iter().any(|f| matches!(f, Finding::Decimals { .. }));
    entries.readings.contains_key(slot) && !borrowed && !short
}

/// How each set of repeats agrees: 1 as wanted, a half within twice of that, 0 else.
fn agreements(outcome: &GroupOutcome) -> Vec<f64> {
    let half = |found: &Option<Figure>, limit: &Figure| match found {
        Some(found) if found.is_within(2.0, limit) => 0.5,
        Some(_) | None => 0.0,
    };
    let judged =
        outcome.advice.iter().filter(|a| matches!(a.judgement, Some(Judgement::Concordance | Judgement::Dryness)));
    let how = judged.filter_map(|a| match &a.matter {
        Matter::TitresAgree { .. }
        | Matter::TrialsAgree { .. }
        | Matter::TrialsCount { .. }
        | Matter::ConstantMass { .. }
        | Matter::DriedForItsTime => Some(1.0),
        Matter::OneMore { closest, limit, .. } => Some(half(closest, limit)),
        Matter::AnotherTrial { rsd, limit, .. } => Some(half(rsd, limit)),
        Matter::OnceAgain { difference, within } => Some(half(difference, within)),
        // Of what is judged for dryness: the last weighing is no nearer to the one before.
        Matter::WeighedOnce { .. } | Matter::HeavierAfterHeating { .. } | Matter::OutlierTestWaits { .. } => Some(0.0),
        Matter::NextTitre { .. }
        | Matter::StopReached { .. }
        | Matter::StopNotYet { .. }
        | Matter::StopPassed { .. }
        | Matter::TooEarly { .. }
        | Matter::RangeAsExpected { .. }
        | Matter::OtherThanItsVial { .. }
        | Matter::PortionsSoFar { .. }
        | Matter::Needed { .. }
        | Matter::TakenIsEnough { .. }
        | Matter::TakenIsShort { .. }
        | Matter::AnotherLimits { .. }
        | Matter::SeenOtherwise { .. }
        | Matter::AboveTheory { .. }
        | Matter::SecondCrop { .. }
        | Matter::NoSecondCrop { .. }
        | Matter::BelowNothing { .. }
        | Matter::PartAboveWhole { .. }
        | Matter::MeltsAsPure { .. }
        | Matter::MeltsLow { .. }
        | Matter::MeltsHigh { .. }
        | Matter::BoilsAsPure { .. }
        | Matter::BoilsOutside { .. }
        | Matter::Candidates { .. }
        | Matter::MixtureMeltsAlike
        | Matter::MixtureMeltsLower { .. }
        | Matter::SeenMeans { .. }
        | Matter::OtherUnknown { .. }
        | Matter::NotAsExpected { .. }
        | Matter::TestPassed { .. }
        | Matter::TestFailed { .. }
        | Matter::Departed { .. } => None,
    });
    how.collect()
}

/// How far a result lies from the accepted value, as a part of that.
fn off(practical: &Practical, outcome: &GroupOutcome, result: &str) -> Option<f64> {
    let spec = practical.result(result)?;
    let (accepted, _) = reference(practical, spec)?;
    match &outcome.results.iter().find(|r| r.name == result)?.state {
        ResultState::Value(v) => (accepted != 0.0).then(|| ((v.value - accepted) / accepted).abs()),
        ResultState::NotYet { .. } | ResultState::Failed { .. } => None,
    }
}

/// The part of the marks that so far off earns.
fn slid(closeness: &Closeness, off: f64) -> f64 {
    // Refused when the practical is read, if they are not.
    let end = |text: &str| Stated::positive(text, &[Dimension::ONE]).map(|s| s.base());
    let ends = end(&closeness.all_within).ok().zip(end(&closeness.none_beyond).ok());
    ends.map_or(0.0, |(all, none)| ((none - off) / (none - all)).clamp(0.0, 1.0))
}
