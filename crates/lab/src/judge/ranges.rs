//! What a melting or boiling range says: pure, impure or damp, another substance; and which candidate it can be.
//!
//! A pure solid melts within about 2 °C, at its own temperature. Impurity and damp lower the beginning and widen the
//! range; heating too fast, or the thermometer, shifts it up. A mixture of two different substances melts lower even when
//! both melt alike: the mixed melting point decides between them. Textbook rules of organic laboratory practice.
//!
//! What is collected in a distillation boils within a few degrees of the substance, at the day's pressure: 9.0·10⁻⁷ per Pa
//! of the absolute boiling point below 101 325 Pa (Sydney Young's rule, 1.2·10⁻⁴ per mmHg; good to some tenths of a degree
//! near atmospheric pressure).

use super::advice::judged;
use super::{Advice, Matter, Standing, fixed};
use crate::evaluated::Evaluated;
use measure::{Decimal, Dimension, InstrumentKind, Unit};
use practical::file::{Judgement, ReadingKind, Role};
use practical::{Material, Reading};

/// A distillate within this of the boiling point is taken for the substance, °C.
const COLLECTED: f64 = 3.0;
/// Part of the absolute boiling point for each Pa below standard pressure.
const YOUNG: f64 = 9.0e-7;
const STANDARD_PA: f64 = 101_325.0;

/// A range wider than this is not that of a pure solid, °C.
const NARROW: f64 = 2.0;
/// A mixture that begins to melt this much lower is one of two substances, °C.
const LOWERED: f64 = 3.0;

impl Evaluated<'_> {
    pub(super) fn ranges(&self, out: &mut Vec<Advice>) {
        for reading in self.practical.readings.iter().filter(|r| r.kind == ReadingKind::Interval) {
            let Some(range) = self.interval(reading) else { continue };
            let Some(step) = self.step_recording(&reading.symbol) else { continue };
            let mut tell = |standing, matter| out.push(judged(step, standing, Judgement::Purity, matter));
            let slack = reading.instrument.tolerance.max(1.0);
            if let Some(alone) = reading.compared_with.as_deref().and_then(|a| self.practical.reading(a)) {
                let Some(own) = self.interval(alone) else { continue };
                let lower = own.0 - range.0;
                let wider = (range.1 - range.0) - (own.1 - own.0);
                if lower > LOWERED || wider > LOWERED {
                    tell(Standing::Settled, Matter::MixtureMeltsLower { by: fixed(lower, 1) });
                } else {
                    tell(Standing::Settled, Matter::MixtureMeltsAlike);
                }
                continue;
            }
            let Some(material) = reading.of.as_deref().and_then(|m| self.practical.material(m)) else { continue };
            let distilled = reading.instrument.kind == InstrumentKind::Thermometer;
            if let Some(boils) = material.boils.filter(|_| distilled) {
                let (standing, matter) = self.distillate(material, boils, range);
                tell(standing, matter);
            } else if material.role == Role::Sample && material.melts.is_none() {
                // Only a wide range may begin lower than that of the pure substance.
                let depressed = if range.1 - range.0 > NARROW { NARROW } else { 0.0 };
                let fits = |m: &&Material| {
                    let known = m.melts.filter(|_| m.role == Role::Test);
                    known.is_some_and(|k| range.0 >= k.0 - slack - depressed && range.1 <= k.1 + slack)
                };
                let fitting: Vec<String> =
                    self.practical.materials.iter().filter(fits).map(|m| m.name.clone()).collect();
                let standing = if fitting.len() == 1 { Standing::Settled } else { Standing::Doubtful };
                tell(standing, Matter::Candidates { names: fitting });
            } else if let Some(known) = material.melts {
                let (standing, matter) = verdict(material, known, range, slack);
                tell(standing, matter);
            }
        }
    }

    fn distillate(&self, material: &Material, boils: f64, range: (f64, f64)) -> (Standing, Matter) {
        let barometer = self.practical.readings.iter().find(|r| r.unit.dimension() == Dimension::PRESSURE);
        let read = barometer.and_then(|r| Some(pascals(r, *self.readings.get(&r.symbol)?)));
        let today = boils - YOUNG * (boils + 273.15) * (STANDARD_PA - read.unwrap_or(STANDARD_PA));
        let (substance, known) = (material.name.clone(), fixed(today, 1));
        let apart = |by: f64| (by > COLLECTED).then(|| fixed(by, 1));
        let (below, above) = (apart(today - range.0), apart(range.1 - today));
        if below.is_none() && above.is_none() {
            return (Standing::Settled, Matter::BoilsAsPure { substance, known });
        }
        (Standing::Doubtful, Matter::BoilsOutside { substance, known, below, above })
    }

    /// Both ends of an interval, in its unit, in the order of heating.
    fn interval(&self, reading: &Reading) -> Option<(f64, f64)> {
        let end = |which: &str| self.readings.get(&format!("{}[{which}]", reading.symbol)).map(|d| d.to_f64());
        let (from, to) = (end("from")?, end("to")?);
        (from <= to).then_some((from, to))
    }
}

/// A reading of a barometer in Pa.
fn pascals(reading: &Reading, read: Decimal) -> f64 {
    let pascal = Unit::parse("Pa").map_or(1.0, |u| u.to_base(1.0));
    reading.unit.to_base(read.to_f64()) / pascal
}

fn verdict(material: &Material, known: (f64, f64), range: (f64, f64), slack: f64) -> (Standing, Matter) {
    let substance = material.name.clone();
    let shown = format!("{} to {} °C", known.0, known.1);
    let (below, above, width) = (known.0 - range.0, range.1 - known.1, range.1 - range.0);
    if below > slack || width > NARROW.max(known.1 - known.0) {
        let below = fixed(below.max(0.0), 1);
        return (Standing::Doubtful, Matter::MeltsLow { substance, known: shown, below, width: fixed(width, 1) });
    }
    if above > slack {
        return (Standing::Doubtful, Matter::MeltsHigh { substance, known: shown, above: fixed(above, 1) });
    }
    (Standing::Settled, Matter::MeltsAsPure { substance, known: shown })
}
