//! A group takes its readings, looks, waits, answers, and says each thing as a bench sends it.

use crate::instruments::Instruments;
use crate::slip::{Planted, Slip};
use crate::truth::{Truth, draw};
use lab::bench::{Entries, Entry, Room, Taken, accepted};
use lab::check::SlipMade;
use lab::evaluated::{Evaluated, ResultState};
use lab::group::GroupOutcome;
use lab::judge::Matter;
use measure::rounding::{Ties, decimal_of, to_figures};
use measure::{Decimal, Unit};
use practical::file::{AnswerKind, ObservationKind, Role, Stop};
use practical::{Part, Practical, ResultSpec, minutes};
use rand::seq::IndexedRandom;
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use std::collections::BTreeSet;

/// One thing said at a bench.
#[derive(Debug, Clone, PartialEq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = SaidAtABench))]
pub struct Said {
    /// Seconds from the start.
    pub at: i64,
    /// What.
    #[serde(flatten)]
    pub entry: Entry,
}

/// What a group hears once it has said something.
#[derive(Debug, Clone, Copy)]
pub struct Heard<'a> {
    practical: &'a Practical,
    /// What was said.
    pub said: &'a Said,
    /// Everything that stands.
    pub entries: &'a Entries,
}

impl Heard<'_> {
    /// Everything that follows: worked out for whoever listens.
    #[must_use]
    pub fn outcome(&self) -> GroupOutcome {
        Evaluated::of(self.practical, self.entries).outcome()
    }
}

/// One group of one practical, with what is really there.
#[derive(Debug)]
pub struct Group<'p> {
    practical: &'p Practical,
    truth: Truth,
    instruments: Instruments,
    rng: ChaCha8Rng,
    /// Seconds from the start.
    now: i64,
    entries: Entries,
    said: Vec<Said>,
    planted: Option<Planted>,
    /// How often its sums go wrong, 0 to 1.
    slips_in_sums: f64,
}

impl<'p> Group<'p> {
    /// A faultless group at a practical as it is allotted to it.
    #[must_use]
    pub fn at(practical: &'p Practical, seed: u64) -> Group<'p> {
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        let truth = draw(practical, &mut rng);
        let (instruments, entries, said) = (Instruments::default(), Entries::default(), Vec::new());
        Group { practical, truth, instruments, rng, now: 0, entries, said, planted: None, slips_in_sums: 0.0 }
    }

    /// The same group, with one slip somewhere; none where it cannot happen in this practical.
    #[must_use]
    pub fn with(practical: &'p Practical, seed: u64, slip: Slip) -> Option<Group<'p>> {
        let mut group = Group::at(practical, seed);
        let planted = slip.plant(practical, &mut group.rng)?;
        Some(Group { planted: Some(planted), ..group })
    }

    /// The same group, of whose sums this part goes wrong, by slips as common as they are.
    #[must_use]
    pub fn with_wrong_sums(self, part: f64) -> Group<'p> {
        Group { slips_in_sums: part.clamp(0.0, 1.0), ..self }
    }

    /// What is really there at a place, in the unit of its reading.
    #[must_use]
    pub fn there(&self, slot: &str) -> f64 {
        self.truth.of(slot)
    }

    /// What its instrument shows at a place, whether the group has looked or not.
    pub(crate) fn shows(&mut self, slot: &practical::Slot<'_>) -> String {
        self.instruments.shown(slot.reading, self.truth.of(&slot.symbol), &mut self.rng)
    }

    /// What was planted, and where.
    #[must_use]
    pub fn planted(&self) -> Option<&Planted> {
        self.planted.as_ref()
    }

    /// The slip, where it happens at this place.
    fn slips(&self, place: &str) -> Option<Slip> {
        self.planted.as_ref().filter(|p| p.place == place).map(|p| p.slip)
    }

    /// What stands when everything has been said.
    #[must_use]
    pub fn entries(&self) -> &Entries {
        &self.entries
    }

    /// The readings as they would stand without any instrument: what is really there, to eight figures.
    #[must_use]
    pub fn really(&self) -> Entries {
        let exact = |slot: &String| {
            let value = decimal_of(self.truth.of(slot)).map(|d| to_figures(d, 8, Ties::HalfUp));
            (slot.clone(), value.map_or_else(String::new, |v| v.to_string()))
        };
        Entries { readings: self.entries.readings.keys().map(exact).collect(), ..self.entries.clone() }
    }

    /// Does all the work, step by step, and listens after each thing said. The whole of what was said.
    pub fn work(&mut self, mut listen: impl FnMut(&Heard<'_>)) -> Vec<Said> {
        let steps = self.practical.bench_steps();
        for (i, step) in steps.iter().enumerate() {
            let number = u32::try_from(i).unwrap_or(u32::MAX);
            if self.practical.is_left_out(&self.practical.steps[i], &self.entries.observations) {
                continue;
            }
            self.say(Entry::Begun { step: number }, &mut listen);
            self.now += 120;
            let lasts = step.stop.as_ref().and_then(Stop::lasts).map(|(lasts, _)| lasts);
            let waits = step.wait.as_deref().filter(|_| !step.records.is_empty());
            if let Some(span) = lasts.or(waits) {
                self.say(Entry::Clock { step: number, running: true, seconds: None }, &mut listen);
                let early = self.slips(&i.to_string()) == Some(Slip::TooEarly);
                self.now += if early { seconds(span) / 3 } else { seconds(span) };
                self.say(Entry::Clock { step: number, running: false, seconds: None }, &mut listen);
            }
            self.record(&step.records, &mut listen);
            self.repeat_while_wanted(number, &mut listen);
            for symbol in &step.observes {
                self.look(symbol, &mut listen);
            }
            for result in &step.answers {
                self.answer(result, &mut listen);
            }
            self.say(Entry::Step { step: number, done: true }, &mut listen);
            if let Some(wait) = step.wait.as_deref().filter(|_| step.records.is_empty()) {
                self.now += seconds(wait);
            }
        }
        let asked: Vec<String> = self.practical.results.iter().filter(|r| r.asked).map(|r| r.name.clone()).collect();
        for result in asked.iter().filter(|r| !self.entries.answers.contains_key(*r)).collect::<Vec<_>>() {
            self.answer(result, &mut listen);
        }
        std::mem::take(&mut self.said)
    }

    /// The places of a step, trial by trial, as many as the practical asks for to begin with.
    fn record(&mut self, slots: &[String], listen: &mut impl FnMut(&Heard<'_>)) {
        for slot in slots {
            let there = self.practical.slot(slot);
            let wanted = there.as_ref().is_none_or(|s| match s.part {
                Part::Trial(t) => t < self.practical.repeats_wanted(s.reading),
                Part::Whole | Part::From | Part::To => true,
            });
            if wanted {
                self.read(slot, listen);
            }
        }
    }

    /// One more, while the practical's own rule asks for it and there is a place.
    fn repeat_while_wanted(&mut self, step: u32, listen: &mut impl FnMut(&Heard<'_>)) {
        let mut tries = 0;
        loop {
            let outcome = Evaluated::of(self.practical, &self.entries).outcome();
            let wants = |m: &Matter| {
                matches!(
                    m,
                    Matter::OneMore { .. }
                        | Matter::AnotherTrial { .. }
                        | Matter::OutlierTestWaits { .. }
                        | Matter::OnceAgain { .. }
                )
            };
            if !outcome.advice.iter().any(|a| a.step == step && wants(&a.matter)) {
                return;
            }
            let recorded = &self.practical.steps[step as usize].records;
            let axes: BTreeSet<&str> = recorded
                .iter()
                .filter_map(|r| Some(self.practical.reading(r)?.repeats.as_ref()?.axis.as_str()))
                .collect();
            let along = self.practical.slots().into_iter().filter(|s| {
                s.reading.repeats.as_ref().is_some_and(|r| axes.contains(r.axis.as_str()))
                    && !self.entries.readings.contains_key(&s.symbol)
            });
            let mut next: Vec<(Part, String)> = along.map(|s| (s.part, s.symbol)).collect();
            let Some(first) = next.first().map(|(part, _)| *part) else {
                let weighed = self.practical.weighed_until_constant(&self.practical.steps[step as usize]);
                let last = weighed.and_then(|r| r.slots().pop());
                match last {
                    Some(last) if tries < 5 => self.read(&last.symbol, listen),
                    Some(_) | None => return,
                }
                tries += 1;
                continue;
            };
            next.retain(|(part, _)| *part == first);
            for (_, slot) in next {
                self.now += 240;
                self.read(&slot, listen);
            }
        }
    }

    fn read(&mut self, slot: &str, listen: &mut impl FnMut(&Heard<'_>)) {
        let Some(reading) = self.practical.reading(slot) else { return };
        self.now += 60;
        // A place that is weighed once again keeps what it showed before.
        let mut steps = self.entries.circumstances.get(slot).map(|c| c.steps.clone()).unwrap_or_default();
        steps.extend(self.entries.readings.get(slot).cloned());
        let mut text = self.instruments.shown(reading, self.truth.of(slot), &mut self.rng);
        // Nothing ends before it begins.
        let begins = self.entries.readings.get(&format!("{}[from]", reading.symbol)).filter(|_| slot.ends_with("[to]"));
        let number = |t: &str| t.parse::<f64>().unwrap_or_default();
        if let Some(from) = begins.filter(|from| number(from) > number(&text)) {
            text.clone_from(from);
        }
        if let Some(slip) = self.slips(slot) {
            text = slip.written(&text, self.beside(slot).as_deref());
        }
        // A range that shifts, shifts as a whole.
        if slot.ends_with("[to]") && self.slips(&slot.replace("[to]", "[from]")) == Some(Slip::MeltsHigh) {
            text = Slip::MeltsHigh.written(&text, None);
        }
        let unit = reading.unit.written().to_owned();
        self.say(Entry::Reading(Taken { symbol: slot.to_owned(), text, unit, steps, ..Taken::default() }), listen);
    }

    /// What is taken off a reading, as written: its vessel, the start of a burette.
    fn beside(&self, slot: &str) -> Option<String> {
        let reading = self.practical.reading(slot)?;
        let start = self.practical.file.titres.iter().find(|t| t.end == reading.symbol).map(|t| &t.start);
        let vessel = self.practical.containers.get(&reading.symbol).and_then(|c| c.first());
        let other = start.or(vessel)?;
        let own = slot.replacen(&reading.symbol, other, 1);
        self.entries.readings.get(&own).or_else(|| self.entries.readings.get(other)).cloned()
    }

    /// What is to be seen by whoever works as it should be.
    fn look(&mut self, symbol: &str, listen: &mut impl FnMut(&Heard<'_>)) {
        let Some(asked) = self.practical.observation(symbol) else { return };
        let choice = match asked.kind {
            ObservationKind::Code => self.practical.allotted.unknown.clone().or_else(|| asked.choices.first().cloned()),
            ObservationKind::Note => Some("as it should be".to_owned()),
            ObservationKind::Choice | ObservationKind::SpotTest if asked.expected.is_empty() => None,
            ObservationKind::Choice | ObservationKind::SpotTest => Some(asked.expected.clone()),
        };
        let choice = match (choice, self.slips(symbol)) {
            (choice, None) => choice,
            (_, Some(Slip::ColourPassed)) => self.practical.steps.iter().find_map(|s| match &s.stop {
                Some(Stop::Colour { past, .. }) if s.observes.iter().any(|o| o == symbol) => past.first().cloned(),
                _ => None,
            }),
            (choice, Some(_)) => asked.choices.iter().find(|c| Some(*c) != choice.as_ref()).cloned(),
        };
        if let Some(choice) = choice {
            self.say(Entry::Observation { symbol: symbol.to_owned(), choice }, listen);
        }
    }

    /// What the program itself shows, typed as an answer, in one of the units that fit.
    fn answer(&mut self, result: &str, listen: &mut impl FnMut(&Heard<'_>)) {
        let Some(asked) = self.practical.result(result) else { return };
        let (text, unit) = match asked.answer {
            AnswerKind::Words => ("It was as the question says.".to_owned(), String::new()),
            AnswerKind::Limiting | AnswerKind::Formula => match self.as_chosen(asked) {
                Some(text) => (text, String::new()),
                None => return,
            },
            AnswerKind::Number => match self.as_shown(asked) {
                Some(shown) => shown,
                None => return,
            },
        };
        self.say(Entry::Answer { result: result.to_owned(), text, unit, by: None }, listen);
    }

    fn as_chosen(&self, asked: &ResultSpec) -> Option<String> {
        let bench = Evaluated::of(self.practical, &self.entries);
        if asked.answer == AnswerKind::Limiting {
            let limits = bench.outcome().limiting?.limits;
            return self.practical.materials.iter().find(|m| m.name == limits).map(|m| m.symbol.clone());
        }
        if let Some(accepted) = self.practical.accepted_formula(&asked.name) {
            return Some(accepted.typed().to_owned());
        }
        // What was made is known to be what it is.
        let made = self.practical.materials.iter().find(|m| m.role == Role::Product).and_then(|m| m.formula.as_ref());
        made.map(|f| f.typed().to_owned())
    }

    fn as_shown(&mut self, asked: &ResultSpec) -> Option<(String, String)> {
        let text = if self.slips_in_sums > 0.0 { self.as_worked_out(asked)? } else { self.as_recomputed(asked)? };
        let fitting: Vec<&Unit> = asked.units.iter().filter(|u| u.dimension() == asked.unit.dimension()).collect();
        let unit = match fitting.len() {
            0 => &asked.unit,
            n => fitting[self.rng.random_range(0..n)],
        };
        Some((in_unit(&text, &asked.unit, unit)?, unit.written().to_owned()))
    }

    fn as_recomputed(&self, asked: &ResultSpec) -> Option<String> {
        let outcome = Evaluated::of(self.practical, &self.entries).outcome();
        let state = outcome.results.into_iter().find(|r| r.name == asked.name)?.state;
        match state {
            ResultState::Value(shown) => Some(shown.text),
            ResultState::NotYet { .. } | ResultState::Failed { .. } => None,
        }
    }

    /// What follows from its own answers so far, with or without a slip.
    fn as_worked_out(&mut self, asked: &ResultSpec) -> Option<String> {
        let could = Evaluated::of(self.practical, &self.entries).could_answer(&asked.name, &self.entries.answers)?;
        let goes_wrong = self.rng.random_bool(self.slips_in_sums);
        // What makes the same number is no slip that anybody could see.
        let seen: Vec<&SlipMade> = could.slips.iter().filter(|made| made.text != could.text).collect();
        let made = goes_wrong.then(|| seen.choose_weighted(&mut self.rng, |made| made.common).ok()).flatten();
        Some(made.map_or(could.text.clone(), |made| made.text.clone()))
    }

    fn say(&mut self, entry: Entry, listen: &mut impl FnMut(&Heard<'_>)) {
        let room = Room::default();
        // What a bench would refuse, nobody hears of.
        let Ok(entry) = accepted(self.practical, &room, entry) else { return };
        self.entries.put(&entry, self.now * 1000, &room);
        let said = Said { at: self.now, entry };
        listen(&Heard { practical: self.practical, said: &said, entries: &self.entries });
        self.said.push(said);
    }
}

/// A value as shown, written in another unit of its dimension with the same figures.
fn in_unit(text: &str, from: &Unit, to: &Unit) -> Option<String> {
    if from.same_as(to) {
        return Some(text.to_owned());
    }
    let typed = Decimal::parse(text).ok()?;
    // What the program shows, it shows to the last zero.
    let figures = u32::try_from(typed.digits().len()).unwrap_or(1);
    let value = to.from_base(from.to_base(typed.to_f64()));
    Some(to_figures(decimal_of(value)?, figures, Ties::HalfUp).to_string())
}

/// The shortest time that a wait or a clock lasts.
fn seconds(text: &str) -> i64 {
    let (least, _) = minutes(text).unwrap_or((0.0, None));
    #[expect(clippy::cast_possible_truncation, reason = "a wait is weeks at most")]
    let seconds = (least * 60.0) as i64;
    seconds
}
