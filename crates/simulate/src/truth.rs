//! What is really there at a bench: amounts within the planned bands, and what follows from them.
//!
//! What a group takes is drawn from the band of the plan. How the chemistry comes out is drawn from what a class usually
//! finds (`[[class]]`), or is what the expected readings come to. The reading that completes such a result is then solved
//! through the practical's own sheet, so that masses, titres and results belong together, whatever the method.

use lab::evaluated::inputs;
use lab::plan::planned_readings;
use lab::secant::secant;
use measure::Decimal;
use measure::rounding::decimal_of;
use practical::file::{ReadingKind, Role, TitreItem, Weighing};
use practical::{Part, Practical, Reading, SheetRole, Slot};
use rand::Rng;
use rand_distr::StandardNormal;
use std::collections::{BTreeMap, BTreeSet};

/// A band is kept to this part of it: nobody weighs to the very edge.
const OF_THE_BAND: f64 = 0.8;
/// A planned amount without a band is met within this part of it.
const WITHOUT_A_BAND: f64 = 0.01;
/// Vessels of a kind differ by so much.
const VESSELS_DIFFER: f64 = 0.05;
/// A class lies within so many of its standard deviations.
const CLASS_WITHIN: f64 = 2.2;
/// A drop falls before the eye has stopped it, mL, one standard deviation.
const END_POINT: f64 = 0.02;

/// True values by slot, in the unit of the reading.
#[derive(Debug, Clone, Default)]
pub(crate) struct Truth(pub BTreeMap<String, f64>);

impl Truth {
    pub fn of(&self, slot: &str) -> f64 {
        self.0.get(slot).copied().unwrap_or_default()
    }
}

/// Draws what is there for one group.
pub(crate) fn draw(practical: &Practical, rng: &mut impl Rng) -> Truth {
    let run = practical.file.trial_run.iter().filter(|_| practical.allotted.assignment.is_none());
    let mut plan: BTreeMap<String, f64> =
        planned_readings(practical).iter().map(|(s, d)| (s.clone(), d.to_f64())).collect();
    for (slot, text) in run.flat_map(|t| &t.readings) {
        // A series goes as it went: points hang together.
        let plotted = practical.reading(slot).is_some_and(|r| practical.is_plotted(r));
        if let (true, Ok(read)) = (plotted, Decimal::parse(text)) {
            plan.insert(slot.clone(), read.to_f64());
        }
    }
    let mut nature = Nature { practical, plan, truth: Truth::default(), rng };
    nature.taken();
    nature.weighed();
    nature.titrated();
    nature.comes_out();
    nature.truth
}

struct Nature<'a, R> {
    practical: &'a Practical,
    plan: BTreeMap<String, f64>,
    truth: Truth,
    rng: &'a mut R,
}

impl<'a, R: Rng> Nature<'a, R> {
    fn planned(&self, slot: &str) -> f64 {
        self.plan.get(slot).copied().unwrap_or_default()
    }

    fn normal(&mut self) -> f64 {
        self.rng.sample(StandardNormal)
    }

    fn either_way(&mut self, by: f64) -> f64 {
        if by > 0.0 { self.rng.random_range(-by..by) } else { 0.0 }
    }

    /// Everything that is not a difference of two readings.
    fn taken(&mut self) {
        let practical = self.practical;
        let containers = vessels(practical);
        for slot in practical.slots() {
            let (reading, planned) = (slot.reading, self.planned(&slot.symbol));
            let value = if reading.instrument.is_nominal() {
                planned + self.either_way(reading.instrument.tolerance)
            } else if containers.contains(&reading.symbol) {
                within(reading, planned * (1.0 + self.either_way(VESSELS_DIFFER)))
            } else if let Some(half) = band(practical, reading) {
                planned + self.either_way(half)
            } else if reading.kind == ReadingKind::Count
                || practical.is_plotted(reading)
                || practical.decides_a_stop(reading)
            {
                planned
            } else {
                let by = match reading.kind {
                    // A pure substance melts where it melts.
                    ReadingKind::Interval => 0.1,
                    ReadingKind::Number | ReadingKind::Count | ReadingKind::Span if reading.is_temperature() => 0.3,
                    ReadingKind::Number | ReadingKind::Count | ReadingKind::Span => 0.01 * planned.abs(),
                };
                let off = by * self.normal().clamp(-2.0, 2.0);
                // A range shifts as a whole.
                let begins = if slot.part == Part::To { Some(format!("{}[from]", reading.symbol)) } else { None };
                let shifted = begins.map(|b| self.truth.of(&b) - self.planned(&b));
                within(reading, planned + shifted.unwrap_or(off))
            };
            self.truth.0.insert(slot.symbol, value);
        }
    }

    /// What is weighed in something: the vessels are there, and what lies in them.
    fn weighed(&mut self) {
        let practical = self.practical;
        for weighing in &practical.file.weighings {
            let (gross, vessels): (&String, Vec<&String>) = match weighing {
                Weighing::Tared { .. } => continue,
                Weighing::ByDifference { before, after, .. } => (before, vec![after]),
                Weighing::ContainerAndContents { gross, containers, .. } => (gross, containers.iter().collect()),
                Weighing::MatchedBlank { gross, blank, .. } => (gross, vec![blank]),
            };
            let Some(reading) = practical.reading(gross) else { continue };
            for slot in reading.slots() {
                let beside = |of: &String, values: &BTreeMap<String, f64>| {
                    let own = slot.symbol.replacen(gross.as_str(), of, 1);
                    values.get(&own).or_else(|| values.get(of)).copied().unwrap_or_default()
                };
                let empty: f64 = vessels.iter().map(|v| beside(v, &self.plan)).sum();
                let planned = self.planned(&slot.symbol) - empty;
                // Where the first reading is the reagent itself, what is left of it is what follows.
                if let (Weighing::ByDifference { after, .. }, Some(_)) = (weighing, band(practical, reading)) {
                    let left = slot.symbol.replacen(gross.as_str(), after, 1);
                    let gone = planned * (1.0 + 0.02 * self.normal().clamp(-2.0, 2.0));
                    self.truth.0.insert(left, self.truth.of(&slot.symbol) - gone);
                    continue;
                }
                let net = match of_what(practical, weighing, reading).and_then(|m| m.planned.as_ref()) {
                    Some(stated) if stated.half_width > 0.0 => {
                        let unit = &reading.unit;
                        let (low, high) = stated.ends();
                        let middle = unit.from_base(f64::midpoint(low, high));
                        middle + self.either_way(OF_THE_BAND * unit.difference_from_base((high - low) / 2.0))
                    }
                    Some(_) => planned * (1.0 + self.either_way(WITHOUT_A_BAND)),
                    None => planned * (1.0 + 0.02 * self.normal().clamp(-2.0, 2.0)),
                };
                let empty: f64 = vessels.iter().map(|v| beside(v, &self.truth.0)).sum();
                self.truth.0.insert(slot.symbol.clone(), empty + net);
            }
        }
    }

    /// A burette is filled again, or gone on with where what is left is enough.
    fn titrated(&mut self) {
        let practical = self.practical;
        let goes_on = self.rng.random_bool(0.5);
        for titre in &practical.file.titres {
            let Some(end) = practical.reading(&titre.end) else { continue };
            let mut stands = None::<f64>;
            for slot in end.slots() {
                let start = started(titre, &slot);
                let planned = self.planned(&slot.symbol) - self.planned(&start);
                let enough = |from: f64| from + 1.3 * planned + 2.0 < end.instrument.capacity;
                let from = match stands.filter(|from| goes_on && enough(*from)) {
                    Some(from) => from,
                    None => self.rng.random_range(0.0..0.6),
                };
                let to = from + planned;
                self.truth.0.extend([(start, from), (slot.symbol, to)]);
                stands = Some(to);
            }
        }
    }

    /// How it comes out: each result that nature decides, through the reading that completes it.
    fn comes_out(&mut self) {
        let mut solved = BTreeSet::new();
        let mut targets = self.targets();
        // What hangs on one free reading alone comes first.
        targets.sort_by_key(|(name, _)| self.free(name, &solved).count());
        for (name, target) in targets {
            let Some(reading) = self.free(&name, &solved).next_back() else { continue };
            solved.insert(reading.symbol.clone());
            self.solve(&name, target, reading);
        }
    }

    /// Results that nature decides, with what they come to, in base units: what a class finds, else what the plan expects.
    fn targets(&mut self) -> Vec<(String, f64)> {
        let practical = self.practical;
        let mut out: Vec<(String, f64)> = Vec::new();
        for row in &practical.file.class {
            let Some(result) = practical.result(&row.result) else { continue };
            if out.iter().any(|(name, _)| *name == row.result) {
                continue;
            }
            let off = row.sd * self.normal().clamp(-CLASS_WITHIN, CLASS_WITHIN);
            let value = result.unit.to_base(row.mean + off);
            let whole = practical.is_part_of_a_whole(&row.result);
            out.push((row.result.clone(), if whole { value.min(1.0) } else { value }));
        }
        let planned = practical.program.evaluate_with(self.inputs(&self.plan));
        let decided =
            practical.program.definitions().iter().filter(|d| practical.roles.of(&d.name).any(decided_by_nature));
        let rest: Vec<(String, f64)> = decided
            .filter(|d| !out.iter().any(|(name, _)| *name == d.name))
            .filter_map(|d| Some((d.name.clone(), planned.value(&d.name)?.value)))
            .collect();
        out.extend(rest);
        out
    }

    /// The readings on the way to a result that the plan does not take: a titre's end, a product on its paper.
    fn free(&self, name: &str, solved: &BTreeSet<String>) -> impl DoubleEndedIterator<Item = &'a Reading> {
        let practical: &'a Practical = self.practical;
        let names = practical.program.definition(name).map(|d| practical.program.readings_of(d)).unwrap_or_default();
        let free = |r: &&Reading| {
            let shown = r.kind == ReadingKind::Number && !r.instrument.is_nominal() && !practical.is_plotted(r);
            let start = practical.file.titres.iter().any(|t| t.start == r.symbol);
            let vessel = vessels(practical).contains(&r.symbol);
            let used = !r.is_temperature() && r.sheet_names().iter().any(|n| names.contains(&n.as_str()));
            used && shown && !start && !vessel && !solved.contains(&r.symbol) && !self.is_given(r)
        };
        practical.readings.iter().filter(free).collect::<Vec<_>>().into_iter()
    }

    /// Whether the plan says how much it is: a reagent that was weighed or poured.
    fn is_given(&self, reading: &Reading) -> bool {
        let weighings = self.practical.file.weighings.iter().filter(|w| w.gross() == reading.symbol);
        let weighed = weighings.filter_map(|w| of_what(self.practical, w, reading));
        let own = reading.of.as_deref().and_then(|m| self.practical.material(m));
        weighed.chain(own).any(|m| m.planned.is_some() && m.role != Role::Product)
    }

    fn inputs(&self, values: &BTreeMap<String, f64>) -> sheet::Inputs {
        let readings = values.iter().filter_map(|(s, v)| Some((s.clone(), decimal_of(rounded(*v))?)));
        inputs(self.practical, &readings.collect())
    }

    /// What a result would be with this value of a reading, every trial being like this one.
    fn would_be(&self, name: &str, slot: &Slot<'_>, value: f64) -> Option<f64> {
        let mut values = self.truth.0.clone();
        if let Part::Trial(trial) = slot.part {
            let here = format!("[{}]", trial + 1);
            for (other, v) in &mut values {
                let like = other.split_once('[').map(|(symbol, _)| format!("{symbol}{here}"));
                if let Some(like) = like.and_then(|l| self.truth.0.get(&l)) {
                    *v = *like;
                }
            }
            values
                .iter_mut()
                .filter(|(s, _)| s.split('[').next() == Some(&slot.reading.symbol))
                .for_each(|(_, v)| *v = value);
        } else {
            values.insert(slot.symbol.clone(), value);
        }
        let found = self.practical.program.evaluate_with(self.inputs(&values)).value(name)?;
        Some(found.value).filter(|v| v.is_finite())
    }

    fn solve(&mut self, name: &str, target: f64, reading: &Reading) {
        let practical = self.practical;
        let titre = practical.file.titres.iter().find(|t| t.end == reading.symbol).cloned();
        let constant = practical.steps.iter().find_map(|s| {
            let within = match (&s.stop, practical.weighed_until_constant(s)) {
                (Some(practical::file::Stop::ConstantMass { within }), Some(r)) if r.symbol == reading.symbol => within,
                _ => return None,
            };
            practical::Amount::parse(within).ok().map(|a| a.value.to_f64())
        });
        let rough = reading.repeats.as_ref().map_or(0, |r| r.rough);
        for slot in reading.slots() {
            let Some(value) = self.root(name, target, &slot) else { continue };
            let trial = if let Part::Trial(t) = slot.part { t } else { 0 };
            let value = if titre.is_some() {
                let past = if trial < rough { self.rng.random_range(0.2..0.8) } else { END_POINT * self.normal() };
                value + past
            } else if let (Some(within), 0, true) = (constant, trial, reading.repeats.is_some()) {
                value + self.rng.random_range(0.0..2.0) * within
            } else {
                value
            };
            // A burette that is gone on with starts where this one ended.
            let moved = value - self.truth.of(&slot.symbol);
            if let Some(t) = &titre {
                let from = self.truth.of(&started(t, &slot));
                let later: Vec<String> = reading.slots().into_iter().skip(trial + 1).map(|s| s.symbol).collect();
                let mut stood = self.truth.of(&slot.symbol);
                for next in later {
                    let start = next.replacen(&t.end, &t.start, 1);
                    if self.truth.of(&start) <= from || (self.truth.of(&start) - stood).abs() > 1e-9 {
                        break;
                    }
                    stood = self.truth.of(&next);
                    for symbol in [start, next] {
                        self.truth.0.entry(symbol).and_modify(|v| *v += moved);
                    }
                }
            }
            self.truth.0.insert(slot.symbol, value);
        }
    }

    /// The reading at which a result comes to a value, by secants.
    fn root(&self, name: &str, target: f64, slot: &Slot<'_>) -> Option<f64> {
        let off = |v: f64| Some(self.would_be(name, slot, v)? - target);
        let from = self.truth.of(&slot.symbol);
        secant(off, (from, from + 0.01 * from.abs().max(0.1)), 1e-9 * target.abs().max(1e-12))
    }
}

/// The place of the initial reading that belongs to a final one.
fn started(titre: &TitreItem, end: &Slot<'_>) -> String {
    end.symbol.replacen(&titre.end, &titre.start, 1)
}

/// Readings of empty vessels.
fn vessels(practical: &Practical) -> BTreeSet<&String> {
    let of = |weighing| match weighing {
        &Weighing::Tared { .. } | &Weighing::ByDifference { .. } => Vec::new(),
        Weighing::ContainerAndContents { containers, .. } => containers.iter().collect(),
        Weighing::MatchedBlank { blank, .. } => vec![blank],
    };
    practical.file.weighings.iter().flat_map(of).collect()
}

/// What is weighed: the material of the reading, or the one that a method finds by this weighing.
fn of_what<'p>(practical: &'p Practical, weighing: &Weighing, reading: &Reading) -> Option<&'p practical::Material> {
    let by_method = || practical.materials.iter().find(|m| practical.measured_by(&m.symbol) == Some(weighing.name()));
    reading.of.as_deref().and_then(|m| practical.material(m)).or_else(by_method)
}

/// How far either way a reading of a planned material may lie, in its unit.
fn band(practical: &Practical, reading: &Reading) -> Option<f64> {
    let stated = practical.material(reading.of.as_deref()?)?.planned.as_ref()?;
    (stated.amount.unit.dimension() == reading.unit.dimension() && reading.kind == ReadingKind::Number).then_some(())?;
    let half = stated.amount.unit.difference_to_base(stated.half_width);
    let half = OF_THE_BAND * reading.unit.difference_from_base(half);
    Some(if half > 0.0 { half } else { WITHOUT_A_BAND * reading.unit.from_base(stated.base()).abs() })
}

/// Where a faultless reading lies: inside what the practical expects of it.
fn within(reading: &Reading, value: f64) -> f64 {
    let (low, high) = reading.range;
    let edge = 0.05 * (high - low);
    value.clamp(low + edge, high - edge)
}

/// To twelve figures: what is beyond is no amount.
fn rounded(value: f64) -> f64 {
    format!("{value:.11e}").parse().unwrap_or(value)
}

/// What no group decides: how much comes out, how strong something is.
fn decided_by_nature(role: SheetRole) -> bool {
    match role {
        SheetRole::PercentYield
        | SheetRole::Recovery
        | SheetRole::MassFraction
        | SheetRole::Concentration
        | SheetRole::AmountRatio
        | SheetRole::Waters
        | SheetRole::ReadOff
        | SheetRole::PartsFound => true,
        SheetRole::Amount
        | SheetRole::Mass
        | SheetRole::ConcentrationEach
        | SheetRole::MassFractionEach
        | SheetRole::MassConcentration
        | SheetRole::MeanTitre
        | SheetRole::ExcessLeft
        | SheetRole::Reacted
        | SheetRole::Extent
        | SheetRole::ActualYield
        | SheetRole::TheoreticalYield
        | SheetRole::PercentError
        | SheetRole::LineSlope
        | SheetRole::MixedTemperature
        | SheetRole::TemperatureChange
        | SheetRole::DryPressure
        | SheetRole::Enthalpy => false,
    }
}
