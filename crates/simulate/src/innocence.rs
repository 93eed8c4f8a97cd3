//! What faultless groups hear: every word of doubt counts against the judge.
//!
//! A word of doubt is a finding or an advice that is doubtful or wrong, or an answer that is not right though it is what
//! the program shows. It is *fair* where the readings really scatter more than the practical allows; *unneeded* where it
//! holds of what is really there, without any instrument, so that the words are true and there is yet no reason for doubt;
//! *untrue* otherwise. A *dead end* is a step that cannot be done though all that the practical asks for was done.

use crate::{Group, Heard};
use lab::bench::Entry;
use lab::check::Stands;
use lab::evaluated::Evaluated;
use lab::group::GroupOutcome;
use lab::judge::{Matter, Standing};
use practical::{Allotted, Practical};
use std::collections::{BTreeMap, BTreeSet};

/// How a word of doubt is to be taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Doubt {
    /// It is not so.
    Untrue,
    /// It is so, and no reason for doubt.
    Unneeded,
    /// The scatter really was so.
    Fair,
    /// A right answer that was not taken.
    Refused,
    /// A step that cannot be done.
    DeadEnd,
}

/// What the groups of one practical heard.
#[derive(Debug, Default, Clone)]
pub struct Tally {
    /// How many groups.
    pub groups: usize,
    /// Readings and answers that they gave.
    pub given: usize,
    /// Each word of doubt by how it is to be taken and what it says: how often, and the first example.
    pub heard: BTreeMap<(Doubt, String), (usize, String)>,
}

impl Tally {
    /// How many words of doubt of a kind.
    #[must_use]
    pub fn of(&self, doubt: Doubt) -> usize {
        self.heard.iter().filter(|((d, _), _)| *d == doubt).map(|(_, (n, _))| n).sum()
    }

    /// Words of doubt in a thousand readings and answers, whatever they are; dead ends apart.
    #[must_use]
    pub fn flagged_in_1000(&self) -> f64 {
        let all = [Doubt::Untrue, Doubt::Unneeded, Doubt::Fair, Doubt::Refused];
        let flagged: usize = all.into_iter().map(|d| self.of(d)).sum();
        #[expect(clippy::cast_precision_loss, reason = "counts")]
        let part = 1000.0 * flagged as f64 / self.given.max(1) as f64;
        part
    }

    /// Both together.
    pub fn add(&mut self, other: Tally) {
        self.groups += other.groups;
        self.given += other.given;
        for (key, (n, example)) in other.heard {
            let own = self.heard.entry(key).or_insert((0, example));
            own.0 += n;
        }
    }
}

/// Everything that a practical allots: itself as it stands, or each of its assignments and unknowns.
#[must_use]
pub fn allotments(practical: &Practical) -> Vec<Allotted> {
    let by = |assignment: Option<&String>, unknown: Option<&String>| Allotted {
        assignment: assignment.cloned(),
        unknown: unknown.cloned(),
    };
    let assigned = practical.file.assignments.iter().map(|a| by(Some(&a.name), a.unknown.as_ref()));
    let dealt: BTreeSet<&String> = practical.file.assignments.iter().filter_map(|a| a.unknown.as_ref()).collect();
    let coded = practical.file.unknowns.iter().filter(|u| !dealt.contains(&u.code)).map(|u| by(None, Some(&u.code)));
    let all: Vec<Allotted> = assigned.chain(coded).collect();
    if all.is_empty() { vec![Allotted::default()] } else { all }
}

/// What one faultless group hears.
#[must_use]
pub fn of_one(practical: &Practical, seed: u64) -> Tally {
    let mut tally = Tally { groups: 1, ..Tally::default() };
    let mut heard = BTreeMap::new();
    let mut group = Group::at(practical, seed);
    group.work(|after| {
        tally.given += usize::from(matches!(after.said.entry, Entry::Reading(_) | Entry::Answer { .. }));
        listen(after, &mut heard);
    });
    let bench = Evaluated::of(practical, group.entries()).outcome();
    let complete = &bench.complete;
    for (i, step) in practical.steps.iter().enumerate() {
        let number = u32::try_from(i).unwrap_or(u32::MAX);
        let wants = bench.advice.iter().find(|a| a.step == number && asks_for_more(&a.matter));
        if !complete.contains(&number) || wants.is_some() {
            let why = wants.map_or_else(|| "a place that stays open".to_owned(), |a| format!("{:?}", a.matter));
            heard.insert(("dead end".to_owned(), step.title.clone()), Word { fair: false, example: why });
        }
    }
    let really = group.really();
    let exact = Evaluated::of(practical, &really).outcome();
    let holds = doubts(&exact);
    for ((kind, place), word) in heard {
        let doubt = match kind.as_str() {
            "dead end" => Doubt::DeadEnd,
            k if k.starts_with("answer") => Doubt::Refused,
            _ if word.fair => Doubt::Fair,
            _ if holds.contains_key(&(kind.clone(), place.clone())) => Doubt::Unneeded,
            _ => Doubt::Untrue,
        };
        let example = format!("seed {seed}, {place}: {}", word.example);
        let counted = tally.heard.entry((doubt, kind)).or_insert((0, example));
        counted.0 += 1;
    }
    tally
}

struct Word {
    fair: bool,
    example: String,
}

type Words = BTreeMap<(String, String), Word>;

fn listen(after: &Heard<'_>, heard: &mut Words) {
    let outcome = after.outcome();
    for (key, word) in doubts(&outcome) {
        heard.entry(key).or_insert(word);
    }
    let Entry::Answer { result, text, unit, .. } = &after.said.entry else { return };
    let Some(verdict) = outcome.verdicts.get(result) else { return };
    let taken = match verdict.stands {
        Stands::Right => true,
        // A reason in words waits for somebody to read it.
        Stands::Open => matches!(verdict.value, lab::check::ValueVerdict::ToRead),
        Stands::CarriedForward | Stands::Written | Stands::Wrong => false,
    };
    if !taken {
        let example = format!("{text} {unit}: {:?}, {:?}, {:?}", verdict.value, verdict.unit, verdict.digits);
        heard.insert((format!("answer {result}"), result.clone()), Word { fair: false, example });
    }
}

/// Every word of doubt that stands.
fn doubts(outcome: &GroupOutcome) -> Words {
    let mut out = Words::new();
    for (slot, findings) in &outcome.findings {
        for finding in findings {
            let kind: &'static str = finding.into();
            out.insert((kind.to_owned(), slot.clone()), Word { fair: false, example: format!("{finding:?}") });
        }
    }
    for advice in outcome.advice.iter().filter(|a| a.standing >= Standing::Doubtful) {
        let kind: &'static str = (&advice.matter).into();
        let word = Word { fair: really_scattered(&advice.matter), example: format!("{:?}", advice.matter) };
        out.insert((kind.to_owned(), format!("step {}", advice.step)), word);
    }
    out
}

/// Whether a matter is no more than that readings scatter as they do.
fn really_scattered(matter: &Matter) -> bool {
    matches!(matter, Matter::AnotherTrial { scattered: true, .. })
}

/// Whether the practical's own rule wants one more, which has no place.
fn asks_for_more(matter: &Matter) -> bool {
    matches!(matter, Matter::OneMore { .. } | Matter::OutlierTestWaits { .. } | Matter::OnceAgain { .. })
        || matches!(matter, Matter::AnotherTrial { left, .. } if *left > 0)
}
