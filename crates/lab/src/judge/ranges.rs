//! What a melting or boiling range says: pure, impure or damp, another substance; and which candidate it can be.
//!
//! A pure solid melts within about 1 °C, at its own temperature. Impurity and damp lower the beginning and widen the
//! range; heating too fast, or the thermometer, shifts it up. A mixture of two different substances melts lower even when
//! both melt alike: the mixed melting point decides between them. Textbook rules of organic laboratory practice.
//!
//! What is collected in a distillation boils within a few degrees of the substance, at the day's pressure: 9.0·10⁻⁷ per Pa
//! of the absolute boiling point below 101 325 Pa (Sydney Young's rule, 1.2·10⁻⁴ per mmHg; good to some tenths of a degree
//! near atmospheric pressure).

use super::advice::judged;
use super::{Advice, Matter, Standing, fixed};
use crate::evaluated::Evaluated;
use measure::{Decimal, Dimension, InstrumentKind, Unit, rectangular};
use practical::file::{Judgement, ReadingKind, Role};
use practical::{Material, Reading};

/// A distillate within this of the boiling point is taken for the substance, °C.
const COLLECTED: f64 = 3.0;
/// Part of the absolute boiling point for each Pa below standard pressure.
const YOUNG: f64 = 9.0e-7;
const STANDARD_PA: f64 = 101_325.0;

/// A pure solid melts within this, °C, or within its own range where that is wider.
const NARROW: f64 = 1.0;
/// An impure one may begin this much lower, °C.
const DEPRESSED: f64 = 2.0;
/// A mixture that begins to melt this much lower is one of two substances, °C.
const LOWERED: f64 = 3.0;

/// Standard uncertainties within which a candidate is looked for.
const NEAR: f64 = 2.5;
/// Standard uncertainties beyond which there is doubt: three groups in a thousand get there without any fault.
const BEYOND: f64 = 3.0;

impl Evaluated<'_> {
    pub(super) fn ranges(&self, out: &mut Vec<Advice>) {
        for reading in self.practical.readings.iter().filter(|r| r.kind == ReadingKind::Interval) {
            let Some(range) = self.interval(reading) else { continue };
            let Some(step) = self.step_recording(&reading.symbol) else { continue };
            out.extend(self.range(reading, range).map(|(j, standing, matter)| judged(step, standing, j, matter)));
            out.extend(
                self.other_than_its_vial(reading, range)
                    .map(|m| judged(step, Standing::Doubtful, Judgement::Identity, m)),
            );
        }
    }

    fn range(&self, reading: &Reading, range: (f64, f64)) -> Option<(Judgement, Standing, Matter)> {
        if let Some(alone) = reading.compared_with.as_deref().and_then(|a| self.practical.reading(a)) {
            let own = self.interval(alone)?;
            let lower = own.0 - range.0;
            let wider = (range.1 - range.0) - (own.1 - own.0);
            let matter = if lower > LOWERED || wider > LOWERED {
                Matter::MixtureMeltsLower { by: fixed(lower.max(0.0), 1) }
            } else {
                Matter::MixtureMeltsAlike
            };
            return Some((Judgement::Identity, Standing::Settled, matter));
        }
        let material = reading.of.as_deref().and_then(|m| self.practical.material(m))?;
        let purity = |(standing, matter)| Some((Judgement::Purity, standing, matter));
        let allowed = allowance(reading, BEYOND);
        let distilled = reading.instrument.kind == InstrumentKind::Thermometer;
        if let Some(boils) = material.boils.filter(|_| distilled) {
            return purity(self.distillate(reading, material, boils, range));
        }
        if material.role == Role::Sample && material.melts.is_none() {
            // Only a wide range may begin lower than that of the pure substance.
            let depressed = if range.1 - range.0 > NARROW + width_allowed(reading) { DEPRESSED } else { 0.0 };
            let fitting = |within: f64| -> Vec<String> {
                let fits = |m: &&Material| {
                    let known = m.melts.filter(|_| m.role == Role::Test);
                    known.is_some_and(|k| range.0 >= k.0 - within - depressed && range.1 <= k.1 + within)
                };
                self.practical.materials.iter().filter(fits).map(|m| m.name.clone()).collect()
            };
            // Several that fit are no reason for doubt: the mixed range decides between them.
            let near = fitting(allowance(reading, NEAR));
            let names = if near.is_empty() { fitting(allowed) } else { near };
            let standing = if names.is_empty() { Standing::Doubtful } else { Standing::Settled };
            return Some((Judgement::Identity, standing, Matter::Candidates { names }));
        }
        let known = material.melts?;
        let expected = as_the_file_expects(reading, range);
        purity(melting(material, known, range, (allowed, width_allowed(reading)), expected))
    }

    /// The key says what is in the vial, and with it where that melts: for the desk alone.
    fn other_than_its_vial(&self, reading: &Reading, range: (f64, f64)) -> Option<Matter> {
        let code = self.practical.allotted.unknown.as_ref()?;
        let vial = self.practical.file.unknowns.iter().find(|u| u.code == *code)?;
        vial.expected.get(&reading.symbol)?;
        let expected = (reading.expected.to_f64(), reading.expected_end?.to_f64());
        let allowed = allowance(reading, BEYOND) + DEPRESSED;
        let elsewhere = range.0 < expected.0 - allowed || range.1 > expected.1 + allowed;
        let known = format!("{} to {} °C", reading.expected, reading.expected_end?);
        elsewhere.then(|| Matter::OtherThanItsVial { code: code.clone(), is: vial.is.clone(), known })
    }

    fn distillate(&self, reading: &Reading, material: &Material, boils: f64, range: (f64, f64)) -> (Standing, Matter) {
        let barometer = self.practical.readings.iter().find(|r| r.unit.dimension() == Dimension::PRESSURE);
        let read = barometer.and_then(|r| Some(pascals(r, *self.readings.get(&r.symbol)?)));
        let today = boils - YOUNG * (boils + 273.15) * (STANDARD_PA - read.unwrap_or(STANDARD_PA));
        let (substance, known) = (material.name.clone(), fixed(today, 1));
        let collected = COLLECTED + allowance(reading, BEYOND);
        let apart = |by: f64| (by > collected).then(|| fixed(by, 1));
        let (below, above) = (apart(today - range.0), apart(range.1 - today));
        if below.is_none() && above.is_none() {
            return (Standing::Settled, Matter::BoilsAsPure { substance, known });
        }
        if as_the_file_expects(reading, range) {
            return (Standing::Settled, Matter::RangeAsExpected { substance, known });
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

/// How far an end may be shifted by the thermometer and the eye: so many standard uncertainties of a range's end.
fn allowance(reading: &Reading, times: f64) -> f64 {
    let on = &reading.instrument;
    let u = rectangular(on.tolerance).hypot(rectangular(on.resolution / 2.0)).hypot(on.repeatability);
    (times * u).max(on.tolerance).max(1.0)
}

/// How far the width of a range may be off: two readings, of which the thermometer's own error is the same.
fn width_allowed(reading: &Reading) -> f64 {
    let on = &reading.instrument;
    BEYOND * f64::sqrt(2.0) * rectangular(on.resolution / 2.0).hypot(on.repeatability)
}

/// Whether a range lies where the practical itself expects it: a crude distillate, a second crop, a product that is not
/// recrystallised.
fn as_the_file_expects(reading: &Reading, range: (f64, f64)) -> bool {
    let Some(end) = reading.expected_end.map(Decimal::to_f64) else { return false };
    let (allowed, begin) = (allowance(reading, BEYOND), reading.expected.to_f64());
    range.0 >= begin - allowed && range.1 <= end + allowed
}

/// Within what an end may be off, and what the width may.
fn melts_as_pure(known: (f64, f64), range: (f64, f64), allowed: (f64, f64)) -> bool {
    let narrow = range.1 - range.0 <= NARROW.max(known.1 - known.0) + allowed.1;
    known.0 - range.0 <= allowed.0 && range.1 - known.1 <= allowed.0 && narrow
}

/// Too high comes first: no impurity raises where a solid melts.
fn melting(
    material: &Material,
    known: (f64, f64),
    range: (f64, f64),
    allowed: (f64, f64),
    expected: bool,
) -> (Standing, Matter) {
    let substance = material.name.clone();
    let shown = format!("{} to {} °C", known.0, known.1);
    let (below, above, width) = (known.0 - range.0, range.1 - known.1, range.1 - range.0);
    if above > allowed.0 {
        return (Standing::Doubtful, Matter::MeltsHigh { substance, known: shown, above: fixed(above, 1) });
    }
    if melts_as_pure(known, range, allowed) {
        return (Standing::Settled, Matter::MeltsAsPure { substance, known: shown });
    }
    if expected {
        return (Standing::Settled, Matter::RangeAsExpected { substance, known: shown });
    }
    let below = fixed(below.max(0.0), 1);
    (Standing::Doubtful, Matter::MeltsLow { substance, known: shown, below, width: fixed(width, 1) })
}
