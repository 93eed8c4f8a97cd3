//! The stop rule of a step: is it reached, and if not, how far is it still?
//!
//! A pH or a temperature is read; a colour, a clear solution and the last drip are seen. A time is kept by the step's own
//! clock, which starts on its condition. Where a step is done in portions, what they add up to stands beside it.

use super::advice::plain;
use super::{Advice, Matter, Standing, figures, fixed, number};
use crate::evaluated::Evaluated;
use measure::{Decimal, Unit};
use practical::file::{ReadingKind, Step, Stop};
use practical::{Amount, Part, Reading};

impl Evaluated<'_> {
    pub(super) fn stops(&self, out: &mut Vec<Advice>) {
        for (i, step) in self.practical.steps.iter().enumerate() {
            let at = number(i);
            out.extend(step.stop.as_ref().and_then(|stop| self.stop(at, step, stop)));
            out.extend(step.records.iter().filter_map(|symbol| self.portions(at, symbol)));
        }
    }

    fn stop(&self, at: u32, step: &Step, stop: &Stop) -> Option<Advice> {
        match stop {
            Stop::Dissolved => self.sight(at, step, "everything dissolved", &[]),
            Stop::Colour { to, past } => self.sight(at, step, to, past),
            Stop::DrippingStops => self.sight(at, step, "no more drips", &[]),
            // Told by the agreement of weighings, and by the clock.
            Stop::ConstantMass { .. } | Stop::Time { .. } => None,
            Stop::PhAtMost { .. }
            | Stop::PhAtLeast { .. }
            | Stop::Temperature { .. }
            | Stop::RisesTo { .. }
            | Stop::FallsTo { .. }
            | Stop::AtMost { .. }
            | Stop::AtLeast { .. }
            | Stop::Within { .. }
            | Stop::NotAbove { .. }
            | Stop::StaysWithin { .. } => self.level(at, step, stop),
        }
    }

    /// A number that is brought to a level: the last reading that shows it counts.
    fn level(&self, at: u32, step: &Step, stop: &Stop) -> Option<Advice> {
        let level = stop.level().ok()??;
        let (reading, low, high) =
            self.practical.shows_the_level(step).find_map(|r| self.last_shown(r).map(|(low, high)| (r, low, high)))?;
        let unit = if level.is_ph { Unit::one() } else { reading.unit.clone() };
        let target = unit.from_base(level.amount.base());
        let margin = stop.margin().and_then(|m| Amount::parse(m).ok());
        let stands = Beside {
            short: target - low.to_f64(),
            over: high.to_f64() - target,
            margin: margin.map(|m| unit.difference_from_base(m.unit.difference_to_base(m.value.to_f64()))),
            near: reading.instrument.tolerance.max(reading.instrument.resolution),
            // What binary fractions leave is no distance.
            tiny: 1e-9 * (1.0 + target.abs()),
        };
        let way = stands.way(stop)?;
        let shown = if level.is_ph { ("pH ", String::new()) } else { ("", format!(" {}", unit.written())) };
        let said = |text: &str| format!("{}{text}{}", shown.0, shown.1);
        let target = said(&written(&level.amount, &unit));
        let found = Some(said(&if low == high { low.to_string() } else { format!("{low} to {high}") }));
        let by = |by: f64| Some(format!("{}{}", fixed(by, reading.decimals), shown.1));
        let words = |text: &str| (!text.is_empty()).then(|| text.to_owned());
        let (above, below) = stop.way_back();
        let (standing, matter) = match way {
            Way::There => (Standing::Settled, Matter::StopReached { target, found }),
            Way::NotYet(far) => (Standing::Waiting, Matter::StopNotYet { target, found, by: by(far) }),
            Way::Past(far) => {
                let back = words(above);
                (Standing::Doubtful, Matter::StopPassed { target, found, by: by(far), below: false, back })
            }
            Way::Below(far) => {
                let back = words(below);
                (Standing::Waiting, Matter::StopPassed { target, found, by: by(far), below: true, back })
            }
        };
        Some(plain(at, standing, matter))
    }

    /// What a reading showed last: one number, of a range (pH paper) both its ends.
    fn last_shown(&self, reading: &Reading) -> Option<(Decimal, Decimal)> {
        let slots = reading.slots();
        let at = |part: Part| slots.iter().find(|s| s.part == part).and_then(|s| self.readings.get(&s.symbol)).copied();
        if reading.kind == ReadingKind::Interval {
            return Some((at(Part::From)?, at(Part::To)?));
        }
        let last = slots.iter().rev().find_map(|s| self.readings.get(&s.symbol).copied())?;
        Some((last, last))
    }

    /// Something to be seen: the step's own question decides.
    fn sight(&self, at: u32, step: &Step, target: &str, past: &[String]) -> Option<Advice> {
        let asked =
            step.observes.iter().find_map(|o| self.practical.observation(o).filter(|o| !o.expected.is_empty()))?;
        let seen = self.entries.observations.get(&asked.symbol)?;
        let target = target.to_owned();
        Some(if *seen == asked.expected {
            plain(at, Standing::Settled, Matter::StopReached { target, found: None })
        } else if past.contains(seen) {
            let found = Some(seen.clone());
            plain(at, Standing::Doubtful, Matter::StopPassed { target, found, by: None, below: false, back: None })
        } else {
            plain(at, Standing::Waiting, Matter::StopNotYet { target, found: None, by: None })
        })
    }

    fn portions(&self, at: u32, symbol: &str) -> Option<Advice> {
        let reading = self.practical.reading(symbol).filter(|r| r.adds_up())?;
        let each: Vec<_> = reading.slots().iter().filter_map(|s| self.readings.get(&s.symbol).copied()).collect();
        let total = each.iter().copied().reduce(|a, b| a.plus(b).unwrap_or(a))?;
        let unit = reading.unit.written();
        let (portions, total, of) = (number(each.len()), format!("{total} {unit}"), reading.label.clone());
        Some(plain(at, Standing::Waiting, Matter::PortionsSoFar { portions, total, of }))
    }
}

/// Where a number stands beside the level that it is brought to, and by how much.
enum Way {
    There,
    NotYet(f64),
    Past(f64),
    Below(f64),
}

/// How far a number lies below and above the level, in the unit of the reading; one of both is negative.
struct Beside {
    short: f64,
    over: f64,
    margin: Option<f64>,
    /// What the instrument may be off.
    near: f64,
    tiny: f64,
}

impl Beside {
    /// None where nothing is known: from which side a file of format 1.0 comes to a temperature it does not say.
    fn way(&self, stop: &Stop) -> Option<Way> {
        let Beside { short, over, margin, near, tiny } = *self;
        let beyond = |by: f64| margin.filter(|m| by > m + tiny).map(|_| by);
        Some(match stop {
            Stop::PhAtMost { .. } | Stop::AtMost { .. } | Stop::FallsTo { .. } if over > tiny => Way::NotYet(over),
            Stop::PhAtLeast { .. } | Stop::AtLeast { .. } | Stop::RisesTo { .. } if short > tiny => Way::NotYet(short),
            Stop::FallsTo { .. } => beyond(short).map_or(Way::There, Way::Past),
            Stop::RisesTo { .. } => beyond(over).map_or(Way::There, Way::Past),
            Stop::Within { .. } | Stop::StaysWithin { .. } => match (beyond(short), beyond(over)) {
                (Some(by), _) => Way::Below(by),
                (None, Some(by)) => Way::Past(by),
                (None, None) => Way::There,
            },
            Stop::NotAbove { .. } if over > tiny => Way::Past(over),
            Stop::Temperature { .. } => (short.min(over).abs() <= near + tiny).then_some(Way::There)?,
            Stop::PhAtMost { .. }
            | Stop::AtMost { .. }
            | Stop::PhAtLeast { .. }
            | Stop::AtLeast { .. }
            | Stop::NotAbove { .. }
            | Stop::Dissolved
            | Stop::Colour { .. }
            | Stop::ConstantMass { .. }
            | Stop::DrippingStops
            | Stop::Time { .. } => Way::There,
        })
    }
}

/// A level as it is written, in the unit of what is read.
fn written(level: &Amount, unit: &Unit) -> String {
    if level.unit.same_as(unit) { level.value.to_string() } else { figures(unit.from_base(level.base()), 3) }
}
