//! Readings that groups take, and the single places in which they write them down.
//!
//! A reading that repeats, or that is an interval, has several *slots*: `V_end[2]` is the final reading of the second
//! titration, `T_melt[from]` where the melting begins.

use super::file::{ReadingKind, Role, Step, Stop, Weighing};
use super::{Dry, Material, Practical};
use measure::{Decimal, DecimalError, Dimension, Instrument, InstrumentKind, Unit};
use sheet::Repeats;
use std::collections::BTreeMap;

/// The axis along which amounts add up to a total.
const PORTIONS: &str = "portion";
/// Axis of a series that is read point by point.
const POINTS: &str = "point";

/// A reading as the practical defines it.
#[derive(Debug, Clone)]
pub struct Reading {
    /// As the sheet calls it.
    pub symbol: String,
    /// In words.
    pub label: String,
    /// In one or two words, for the head of a column.
    pub short: String,
    /// What sort of reading it is.
    pub kind: ReadingKind,
    /// Unit it is read in.
    pub unit: Unit,
    /// What it is read on.
    pub instrument: Instrument,
    /// Digits after the point that this instrument gives.
    pub decimals: u32,
    /// Where it should lie, ends included.
    pub range: (f64, f64),
    /// What is planned or expected; of an interval where it begins.
    pub expected: Decimal,
    /// Of an interval, where it is expected to end.
    pub expected_end: Option<Decimal>,
    /// What is planned or expected each time, where a series goes up or down; else none.
    pub points: Vec<Decimal>,
    /// The material that it measures, if it does.
    pub of: Option<String>,
    /// How often it is taken.
    pub repeats: Option<Repeats>,
    /// So many repeats are enough, where the file says it.
    pub enough: Option<usize>,
    /// Whether the balance was set to zero before.
    pub tared: bool,
    /// The reading that it is plotted against.
    pub against: Option<String>,
    /// The melting range of the substance alone, where this is one of a mixture.
    pub compared_with: Option<String>,
}

/// Which of a reading's places it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Part {
    /// The only one.
    Whole,
    /// Of one repetition, from 0.
    Trial(usize),
    /// Where an interval begins.
    From,
    /// Where an interval ends.
    To,
}

/// One place in which a group writes a number down.
#[derive(Debug, Clone)]
pub struct Slot<'a> {
    /// As in `V_end[2]`.
    pub symbol: String,
    /// In words: `final reading, trial 2`.
    pub label: String,
    /// In one or two words.
    pub short: String,
    /// What is read.
    pub reading: &'a Reading,
    /// Which part of it.
    pub part: Part,
}

/// What a file expects of a reading: one number, of an interval both its ends (`104.5 to 106.0`).
///
/// # Errors
/// When it is no number.
pub(super) fn expectation(kind: ReadingKind, text: &str) -> Result<(Decimal, Option<Decimal>), DecimalError> {
    match text.split_once(" to ").filter(|_| kind == ReadingKind::Interval) {
        Some((from, to)) => Ok((Decimal::parse(from)?, Some(Decimal::parse(to)?))),
        None => Ok((Decimal::parse(text)?, None)),
    }
}

impl Reading {
    /// What the sheet calls it: its symbol; of an interval its two ends, `T_melt_from` and `T_melt_to`.
    #[must_use]
    pub fn sheet_names(&self) -> Vec<String> {
        match self.kind {
            ReadingKind::Interval => vec![format!("{}_from", self.symbol), format!("{}_to", self.symbol)],
            ReadingKind::Number | ReadingKind::Count | ReadingKind::Span => vec![self.symbol.clone()],
        }
    }

    /// Whether it is a pH.
    #[must_use]
    pub fn is_ph(&self) -> bool {
        matches!(self.instrument.kind, InstrumentKind::PhMeter | InstrumentKind::PhPaper)
    }

    /// Whether it is a temperature.
    #[must_use]
    pub fn is_temperature(&self) -> bool {
        self.unit.dimension() == Dimension::TEMPERATURE
    }

    /// Whether it is taken of each portion of something that adds up.
    #[must_use]
    pub fn adds_up(&self) -> bool {
        let quantity = [Dimension::VOLUME, Dimension::MASS].contains(&self.unit.dimension());
        quantity && self.axis_is(PORTIONS)
    }

    /// The decimals that it has on an instrument, by the display step of that or the part of a division that is estimated on
    /// it.
    #[must_use]
    pub fn decimals_on(&self, instrument: &Instrument) -> u32 {
        if instrument.resolution == self.instrument.resolution {
            return self.decimals;
        }
        let places = (0..=8).find(|d| {
            let scaled = instrument.resolution * 10f64.powi(*d);
            (scaled - scaled.round()).abs() < 1e-6
        });
        places.and_then(|d| u32::try_from(d).ok()).unwrap_or(self.decimals)
    }

    /// Whether there are as many repeats as the work needs, one more at a time: points of a series, portions.
    #[must_use]
    pub fn is_open_ended(&self) -> bool {
        self.axis_is(PORTIONS) || self.axis_is(POINTS)
    }

    /// How many repeats are enough, whatever they show; none where that is not known beforehand.
    #[must_use]
    pub fn enough(&self) -> Option<usize> {
        let points = (!self.points.is_empty()).then_some(self.points.len());
        self.enough.or(points).or_else(|| self.is_open_ended().then_some(1))
    }

    fn axis_is(&self, axis: &str) -> bool {
        self.repeats.as_ref().is_some_and(|r| r.axis == axis)
    }

    /// The places in which it is written down, in order.
    #[must_use]
    pub fn slots(&self) -> Vec<Slot<'_>> {
        let slot = |bracket: String, words: String, short: String, part| Slot {
            symbol: format!("{}{bracket}", self.symbol),
            label: format!("{}{words}", self.label),
            short: format!("{}{short}", self.short),
            reading: self,
            part,
        };
        match (&self.repeats, self.kind) {
            (Some(repeats), _) => (0..repeats.most)
                .map(|t| {
                    let rough = if t < repeats.rough { ", rough" } else { "" };
                    let words = format!(", {} {}{rough}", repeats.axis, t + 1);
                    slot(format!("[{}]", t + 1), words, format!(" {}", t + 1), Part::Trial(t))
                })
                .collect(),
            (None, ReadingKind::Interval) => vec![
                slot("[from]".into(), ", begins".into(), " from".into(), Part::From),
                slot("[to]".into(), ", ends".into(), " to".into(), Part::To),
            ],
            (None, ReadingKind::Number | ReadingKind::Count | ReadingKind::Span) => {
                vec![slot(String::new(), String::new(), String::new(), Part::Whole)]
            }
        }
    }
}

impl Practical {
    /// The reading that a slot belongs to: `V_end` for `V_end[2]`; none for a slot that it does not have.
    #[must_use]
    pub fn reading(&self, slot: &str) -> Option<&Reading> {
        let symbol = slot.split_once('[').map_or(slot, |(symbol, _)| symbol);
        let reading = self.readings.iter().find(|r| r.symbol == symbol)?;
        (slot == symbol || reading.slots().iter().any(|s| s.symbol == slot)).then_some(reading)
    }

    /// Whether a reading is plotted while it is taken, on either axis.
    #[must_use]
    pub fn is_plotted(&self, reading: &Reading) -> bool {
        reading.against.is_some() || self.readings.iter().any(|r| r.against.as_ref() == Some(&reading.symbol))
    }

    /// Whether it is the volume of a liquor, from which a second crop may come.
    #[must_use]
    pub fn is_liquor(&self, reading: &Reading) -> bool {
        let second_crops = self.steps.iter().filter_map(|s| s.crystallises.as_ref()?.second_crop.as_ref());
        second_crops.into_iter().any(|c| c.liquor.as_ref() == Some(&reading.symbol))
    }

    /// Whether a step that records it is done by the level that it shows.
    #[must_use]
    pub fn decides_a_stop(&self, reading: &Reading) -> bool {
        self.steps.iter().any(|step| self.shows_the_level(step).any(|r| r.symbol == reading.symbol))
    }

    /// The readings that show the level by which a step is done: the one that its stop names, else those of that kind which
    /// the step records, the last first.
    pub fn shows_the_level<'p>(&'p self, step: &'p Step) -> impl Iterator<Item = &'p Reading> {
        let stop = step.stop.as_ref();
        let level = stop.and_then(|s| s.level().ok()?);
        let named = stop.and_then(Stop::names_a_reading);
        let recorded = step.records.iter().rev().filter_map(|s| self.reading(s));
        recorded.filter(move |r| match (&level, named) {
            (None, _) => false,
            (Some(_), Some(name)) => r.symbol == name,
            (Some(level), None) if level.is_ph => r.is_ph(),
            (Some(level), None) => !r.is_ph() && r.unit.dimension() == level.amount.unit.dimension(),
        })
    }

    /// The reading that the sheet calls by this name.
    #[must_use]
    pub fn reading_in_sheet(&self, name: &str) -> Option<&Reading> {
        self.readings.iter().find(|r| r.sheet_names().iter().any(|n| n == name))
    }

    /// All places in which something is written down, in bench order; what repeats together stands together.
    #[must_use]
    pub fn slots(&self) -> Vec<Slot<'_>> {
        let mut out: Vec<Slot<'_>> = Vec::new();
        for (i, reading) in self.readings.iter().enumerate() {
            let axis = |r: &Reading| r.repeats.as_ref().map(|n| n.axis.clone());
            let own = axis(reading);
            if own.is_some() && self.readings[..i].iter().any(|r| axis(r) == own) {
                continue;
            }
            let mut together: Vec<Slot<'_>> = match own {
                Some(_) => self.readings[i..].iter().filter(|r| axis(r) == own).flat_map(Reading::slots).collect(),
                None => reading.slots(),
            };
            together.sort_by_key(|s| match s.part {
                Part::Trial(t) => t,
                Part::Whole | Part::From | Part::To => 0,
            });
            out.extend(together);
        }
        out
    }

    /// The mass that a step weighs until it is constant: the one that repeats, or the last one that it records.
    #[must_use]
    pub fn weighed_until_constant(&self, step: &Step) -> Option<&Reading> {
        matches!(step.stop, Some(Stop::ConstantMass { .. })).then_some(())?;
        let mut masses = step.records.iter().filter_map(|s| self.reading(s));
        let last = masses.clone().next_back();
        masses.find(|r| r.repeats.is_some()).or(last)
    }

    /// Whether a reading of a balance weighs something out that is taken from a stock: its material is planned, and is no
    /// product. What was made, and an empty vessel, are as heavy as they are.
    #[must_use]
    pub fn is_weighed_out(&self, reading: &Reading) -> bool {
        let by_weighing = || {
            // From a bottle that is weighed before and after, nothing is tipped back.
            let direct = |w: &&Weighing| w.gross() == reading.symbol && !matches!(w, Weighing::ByDifference { .. });
            let weighing = self.file.weighings.iter().find(direct)?;
            self.materials.iter().find(|m| self.taken_by(&m.symbol) == Some(weighing.name()))
        };
        let of = reading.of.as_deref().and_then(|symbol| self.material(symbol)).or_else(by_weighing);
        let taken = of.is_some_and(|m| m.planned.is_some() && m.role != Role::Product);
        taken && reading.instrument.kind == InstrumentKind::Balance
    }

    /// Whether it is the titre of a blank, taken off another one.
    #[must_use]
    pub fn is_a_blank(&self, reading: &Reading) -> bool {
        self.file.methods.iter().any(|m| m.blank() == Some(reading.symbol.as_str()))
    }

    /// Whether a step is left out by a group that saw something else than it is for.
    #[must_use]
    pub fn is_left_out(&self, step: &Step, seen: &BTreeMap<String, String>) -> bool {
        step.when.iter().any(|(symbol, choice)| seen.get(symbol).is_some_and(|saw| saw != choice))
    }

    /// Whether a reading is taken in no step but those that a group leaves out.
    #[must_use]
    pub fn is_not_taken(&self, reading: &Reading, seen: &BTreeMap<String, String>) -> bool {
        let mut taking = self.steps.iter().filter(|s| s.records.contains(&reading.symbol)).peekable();
        taking.peek().is_some() && taking.all(|s| self.is_left_out(s, seen))
    }

    /// How many places a group fills when all goes well.
    #[must_use]
    pub fn places_wanted(&self) -> usize {
        let wanted = |r: &Reading| if r.repeats.is_some() { self.repeats_wanted(r) } else { r.slots().len() };
        self.readings.iter().map(wanted).sum()
    }

    /// How often a group takes a reading when all goes well: of a titration the rough one and as many as have to agree, of a
    /// mass to be constant two, of a series all its points, where they are said, else one, of portions one, of crops and flasks all.
    #[must_use]
    pub fn repeats_wanted(&self, reading: &Reading) -> usize {
        let Some(repeats) = &reading.repeats else { return 1 };
        let constant =
            || self.steps.iter().filter_map(|s| self.weighed_until_constant(s)).any(|w| w.symbol == reading.symbol);
        let titrated = self.file.titres.iter().filter(|t| self.axis_of(&t.end) == Some(repeats.axis.as_str()));
        let agreeing = titrated.map(|t| self.agreement(t).map_or(2, |a| a.wanted)).max();
        let needed = if !reading.points.is_empty() {
            reading.points.len()
        } else if self.is_plotted(reading) || reading.axis_is(PORTIONS) {
            1
        } else if let Some(enough) = reading.enough {
            enough
        } else if let Some(agreeing) = agreeing {
            repeats.rough + agreeing
        } else if constant() {
            if self.school.dry == Dry::FixedTime { 1 } else { 2 }
        } else {
            repeats.most
        };
        needed.min(repeats.most)
    }

    /// How often a planned amount is taken by one group when all goes well: once, or in each trial.
    #[must_use]
    pub fn times_planned(&self, material: &Material) -> usize {
        material.each.as_deref().map_or(1, |axis| self.times_along(axis))
    }

    /// How often something is done along an axis when all goes well.
    #[must_use]
    pub fn times_along(&self, axis: &str) -> usize {
        let along = self.readings.iter().filter(|r| r.axis_is(axis));
        along.map(|r| self.repeats_wanted(r)).max().unwrap_or(1).max(1)
    }

    fn axis_of(&self, symbol: &str) -> Option<&str> {
        let reading = self.readings.iter().find(|r| r.symbol == symbol)?;
        reading.repeats.as_ref().map(|r| r.axis.as_str())
    }

    /// The slot with this symbol.
    #[must_use]
    pub fn slot(&self, symbol: &str) -> Option<Slot<'_>> {
        self.reading(symbol)?.slots().into_iter().find(|s| s.symbol == symbol)
    }

    /// The steps, with slots in place of readings that have several.
    #[must_use]
    pub fn bench_steps(&self) -> Vec<Step> {
        let slots = self.slots();
        let taken = |step: &Step| -> Vec<String> {
            let own = slots.iter().filter(|s| step.records.contains(&s.reading.symbol));
            own.map(|s| s.symbol.clone()).collect()
        };
        self.steps.iter().map(|s| Step { records: taken(s), ..s.clone() }).collect()
    }
}
