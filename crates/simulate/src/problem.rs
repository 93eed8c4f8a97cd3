//! Problems from any practical: the readings of a group that was never there, and what is asked of them.

use crate::Group;
use crate::glass::Titrating;
use crate::innocence::allotments;
use lab::bench::{Answer, Entries};
use lab::check::{SlipMade, Verdict};
use lab::evaluated::{Evaluated, ResultState};
use practical::file::{AnswerKind, TitreItem};
use practical::slip::Slip;
use practical::{Part, Practical, ResultSpec};
use rand::seq::{IndexedRandom, SliceRandom};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use std::collections::BTreeMap;

/// Names to choose from where a slip is to be found.
const CHOICES: usize = 5;
/// Sums that are tried until one can be told.
const TRIES: usize = 60;

/// A practical with the readings of one faultless group, and no answers.
#[derive(Debug, Clone)]
pub struct Problem {
    /// As it was allotted to the group.
    pub practical: Practical,
    /// Its readings and what it saw.
    pub entries: Entries,
    seed: u64,
}

/// A finished sum with one slip in it.
#[derive(Debug, Clone, PartialEq)]
pub struct WrongSum {
    /// The result.
    pub result: String,
    /// The answer, with its unit.
    pub answer: Answer,
    /// Which slip was made.
    pub made: SlipMade,
    /// Slips to choose from, it among them.
    pub choices: Vec<Slip>,
    /// What checking says of it.
    pub verdict: Verdict,
}

impl Problem {
    /// The same for the same seed.
    #[must_use]
    pub fn of(practical: &Practical, seed: u64) -> Problem {
        let practical = as_allotted(practical, seed);
        let entries = at_work(&practical, seed).entries().clone();
        Problem { entries: Entries { answers: BTreeMap::new(), ..entries }, practical, seed }
    }

    /// The same without the readings of its titre, which are taken by hand; whatever each trial has beside it is there for as
    /// many as there are places. None where nothing is titrated by hand.
    #[must_use]
    pub fn by_hand(practical: &Practical, seed: u64) -> Option<Problem> {
        let practical = as_allotted(practical, seed);
        let titre = titrated(&practical)?;
        let mut group = at_work(&practical, seed);
        let mut entries = without_titre(&practical, group.entries(), titre);
        for slot in practical.slots() {
            let of_titre = [&titre.start, &titre.end].contains(&&slot.reading.symbol);
            let one_more = matches!(slot.part, Part::Trial(_)) && !entries.readings.contains_key(&slot.symbol);
            if one_more && !of_titre {
                entries.readings.insert(slot.symbol.clone(), group.shows(&slot));
            }
        }
        Some(Problem { practical, entries, seed })
    }

    /// What is asked: results that can be worked out of these readings.
    pub fn asked(&self) -> impl Iterator<Item = &ResultSpec> {
        let outcome = Evaluated::of(&self.practical, &self.entries).outcome();
        let there = move |name: &str| {
            let found = outcome.results.iter().find(|r| r.name == name);
            found.is_some_and(|r| matches!(r.state, ResultState::Value(_)))
        };
        self.practical.results.iter().filter(move |r| r.asked && r.is_worked_out() && there(&r.name))
    }

    /// The titre that can be taken by hand.
    #[must_use]
    pub fn titre(&self) -> Option<&TitreItem> {
        titrated(&self.practical)
    }

    /// A finished sum in which one slip was made that shows, with names to choose from; none where no sum of it lets a slip
    /// be told.
    #[must_use]
    pub fn wrong_sum(&self) -> Option<WrongSum> {
        let mut rng = ChaCha8Rng::seed_from_u64(self.seed ^ 0x5117);
        let asked: Vec<&ResultSpec> = self.asked().filter(|r| r.answer == AnswerKind::Number).collect();
        for _ in 0..TRIES {
            let result = asked.choose(&mut rng)?;
            let found = self.with_a_slip(result, &mut rng);
            if found.is_some() {
                return found;
            }
        }
        None
    }

    fn with_a_slip(&self, result: &ResultSpec, rng: &mut impl Rng) -> Option<WrongSum> {
        let bench = Evaluated::of(&self.practical, &self.entries);
        let could = bench.could_answer(&result.name, &BTreeMap::new())?;
        let made = could.slips.choose_weighted(rng, |made| made.common).ok()?.clone();
        let answer = Answer { text: made.text.clone(), unit: result.unit.written().to_owned() };
        let mut verdicts = bench.checked(&BTreeMap::from([(result.name.clone(), answer.clone())]));
        let verdict = verdicts.remove(&result.name)?;
        // Only what can be told from the numbers is asked; what they tell as well is no other choice.
        let told: Vec<Slip> = verdict.diagnosis.named.iter().map(|e| e.slip).collect();
        told.contains(&made.slip).then_some(())?;
        let mut others: Vec<Slip> = could.slips.iter().map(|m| m.slip).filter(|s| !told.contains(s)).collect();
        others.sort_unstable();
        others.dedup();
        others.shuffle(rng);
        others.truncate(CHOICES - 1);
        others.push(made.slip);
        others.shuffle(rng);
        Some(WrongSum { result: result.name.clone(), answer, made, choices: others, verdict })
    }
}

/// The titre of a practical that can be taken by hand; none where its file does not say what goes on in the flask.
#[must_use]
pub fn titrated(practical: &Practical) -> Option<&TitreItem> {
    practical.file.titres.iter().find(|t| t.curve.is_some())
}

/// One titration of the problem with this seed, counted from 0; none where nothing is titrated by hand, or there is no such
/// trial.
#[must_use]
pub fn titrating(practical: &Practical, seed: u64, trial: usize) -> Option<Titrating> {
    let own = as_allotted(practical, seed);
    let titre = titrated(&own)?;
    let end = own.reading(&titre.end)?.slots().into_iter().nth(trial)?.symbol;
    let start = end.replacen(&titre.end, &titre.start, 1);
    let group = Group::at(&own, seed);
    let equivalence = group.there(&end) - group.there(&start);
    Titrating::of(&own, titre, equivalence, seed.wrapping_mul(31).wrapping_add(trial as u64))
}

/// The group of this seed, when it has done all its work.
fn at_work(practical: &Practical, seed: u64) -> Group<'_> {
    let mut group = Group::at(practical, seed);
    group.work(|_| {});
    group
}

/// What the group of this seed is given of what groups are given.
fn as_allotted(practical: &Practical, seed: u64) -> Practical {
    let all = allotments(practical);
    practical.allotted(&all[usize::try_from(seed).unwrap_or(0) % all.len()])
}

/// What stands at a bench without its answers, the readings of a titre, and what is seen while that is taken.
fn without_titre(practical: &Practical, entries: &Entries, titre: &TitreItem) -> Entries {
    let mut own = Entries { answers: BTreeMap::new(), ..entries.clone() };
    own.readings.retain(|slot, _| {
        let symbol = slot.split('[').next().unwrap_or(slot);
        symbol != titre.start && symbol != titre.end
    });
    let steps = practical.steps.iter().filter(|s| s.records.contains(&titre.end));
    for symbol in steps.flat_map(|s| &s.observes) {
        own.observations.remove(symbol);
    }
    own
}
