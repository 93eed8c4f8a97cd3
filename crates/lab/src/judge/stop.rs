//! The stop rule of a step: is it reached, and if not, how far is it still?
//!
//! A pH or a temperature is read; a colour, a clear solution and the last drip are seen. A time is kept by the step's own
//! clock, which starts on its condition. Where a step is done in portions, what they add up to stands beside it.

use super::advice::plain;
use super::{Advice, Matter, Standing, fixed, number};
use crate::evaluated::Evaluated;
use practical::file::ReadingKind;
use practical::file::{Step, Stop};
use practical::{Amount, Reading};

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
            Stop::PhAtMost { ph } => {
                self.reach(at, step, Reading::is_ph, &Reach { target: *ph, down: true, what: "pH", unit: "" })
            }
            Stop::PhAtLeast { ph } => {
                self.reach(at, step, Reading::is_ph, &Reach { target: *ph, down: false, what: "pH", unit: "" })
            }
            Stop::Temperature { reaches } => {
                let celsius = Amount::parse(reaches).ok()?.base() - 273.15;
                self.reach(
                    at,
                    step,
                    Reading::is_temperature,
                    &Reach { target: celsius, down: false, what: "", unit: "°C" },
                )
            }
            Stop::Dissolved => self.sight(at, step, "everything dissolved"),
            Stop::Colour { to } => self.sight(at, step, to),
            Stop::DrippingStops => self.sight(at, step, "no more drips"),
            // Told by the agreement of weighings, and by the clock.
            Stop::ConstantMass { .. } | Stop::Time { .. } => None,
        }
    }

    /// A number that has to come up, or down, to a target: the last reading of the right kind counts.
    fn reach(&self, at: u32, step: &Step, is: fn(&Reading) -> bool, reach: &Reach) -> Option<Advice> {
        let last = |reading: &Reading| {
            // Of a range (pH paper) the end that is farther from the target counts.
            let worse = if reading.kind == ReadingKind::Interval && !reach.down { "[from]" } else { "" };
            let slots = reading.slots();
            slots.iter().rev().filter(|s| s.symbol.ends_with(worse)).find_map(|s| self.readings.get(&s.symbol).copied())
        };
        // What is recorded at the end of the step stands above what was read on the way.
        let mut of_kind = step.records.iter().rev().filter_map(|s| self.practical.reading(s)).filter(|r| is(r));
        let (reading, last) = of_kind.find_map(|r| Some((r, last(r)?)))?;
        let short = if reach.down { last.to_f64() - reach.target } else { reach.target - last.to_f64() };
        let said = |text: String| [reach.what, &text, reach.unit].map(str::trim).join(" ").trim().to_owned();
        let target = said(fixed(reach.target, reading.decimals.min(1)));
        let found = Some(said(last.to_string()));
        Some(if short <= 0.0 {
            plain(at, Standing::Settled, Matter::StopReached { target, found })
        } else {
            let by = Some(format!("{} {}", fixed(short, reading.decimals), reach.unit).trim().to_owned());
            plain(at, Standing::Waiting, Matter::StopNotYet { target, found, by })
        })
    }

    /// Something to be seen: the step's own question decides.
    fn sight(&self, at: u32, step: &Step, target: &str) -> Option<Advice> {
        let asked =
            step.observes.iter().find_map(|o| self.practical.observation(o).filter(|o| !o.expected.is_empty()))?;
        let seen = self.entries.observations.get(&asked.symbol)?;
        let target = target.to_owned();
        Some(if *seen == asked.expected {
            plain(at, Standing::Settled, Matter::StopReached { target, found: None })
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

/// What a number has to reach.
struct Reach {
    target: f64,
    /// From above.
    down: bool,
    what: &'static str,
    unit: &'static str,
}
