//! Do the repeats agree? Titres within a limit, concentrations within a relative standard deviation, masses that no
//! longer change; and where the next titration should end.
//!
//! Titres are compared as exact decimals, rough ones apart; masses by the stop rule of the step. Nothing is said before
//! both readings of a repeat are there, so that a reading cannot be fitted to the verdict. Where each trial has a mass of
//! its own, the titres differ by right: the concentrations are compared, by s/mean with s of n − 1.

use super::advice::{judged, plain};
use super::{Advice, Compared, Matter, Standing, Titre, fixed, number};
use crate::Figure;
use crate::evaluated::Evaluated;
use measure::{Concordance, Decimal, Unit, concordance};
use practical::file::{Judgement, Method, Stop, TitreItem};
use practical::statistics::summary;
use practical::{Amount, Practical, Reading, SheetRole};
use sheet::Outcome;
use std::collections::BTreeMap;

/// How far before the expected end to slow down, mL: twenty drops.
const SLOW_BEFORE_ML: f64 = 1.0;

impl Evaluated<'_> {
    pub(super) fn agreements(&self, out: &mut Vec<Advice>) {
        for titre in &self.practical.file.titres {
            let agreed = self.titres(titre).or_else(|| self.trials(titre));
            // After titres that agree nobody is sent back to the burette.
            let more = agreed.as_ref().is_none_or(|a| a.standing != Standing::Settled);
            out.extend(agreed);
            out.extend(self.next_titre(titre).filter(|_| more));
        }
        for (i, step) in self.practical.steps.iter().enumerate() {
            let Some(Stop::ConstantMass { within }) = &step.stop else { continue };
            let Some(reading) = self.practical.weighed_until_constant(step) else { continue };
            out.extend(self.mass(number(i), within, &reading.symbol));
        }
    }

    /// The volume delivered in a trial: both readings, or it is none yet.
    fn delivered(&self, titre: &TitreItem, trial: usize) -> Option<Decimal> {
        volume_between(&self.readings, titre, &format!("[{}]", trial + 1))
    }

    /// The titres delivered, by trial from 0.
    fn all_delivered(&self, titre: &TitreItem) -> Option<Vec<(usize, Decimal)>> {
        let most = self.practical.reading(&titre.end)?.repeats.as_ref()?.most;
        Some((0..most).filter_map(|t| Some((t, self.delivered(titre, t)?))).collect())
    }

    /// The best set within the limit, and whether it is large enough.
    fn titres(&self, titre: &TitreItem) -> Option<Advice> {
        let School::Within { limit, wanted } = self.school(titre)? else { return None };
        let allowed = Amount::parse(limit).ok()?;
        let end = self.practical.reading(&titre.end)?;
        let step = self.step_recording(&titre.end)?;
        let rough = end.repeats.as_ref()?.rough;
        let delivered = self.all_delivered(titre)?;
        let (trials, values): (Vec<usize>, Vec<Decimal>) =
            delivered.iter().copied().filter(|(t, _)| *t >= rough).unzip();
        if values.is_empty() {
            return None;
        }
        let best = match concordance(&values, allowed.value) {
            Concordance::Agree(set) => set,
            // Which of them is right the numbers cannot say: another one decides.
            Concordance::Tied(_) | Concordance::None => Vec::new(),
        };
        let shown = delivered.iter().map(|(t, v)| Titre {
            trial: number(t + 1),
            text: v.to_string(),
            rough: *t < rough,
            agrees: best.iter().any(|i| trials[*i] == *t),
        });
        let (titres, limit, agreeing) = (shown.collect(), Figure::stated(limit, &allowed), number(best.len()));
        let (standing, matter) = if agreeing >= wanted {
            let range = Figure::of(range(&values, &best)?, &end.unit);
            (Standing::Settled, Matter::TitresAgree { titres, range, limit })
        } else {
            let pairs = (0..values.len()).flat_map(|a| (a + 1..values.len()).map(move |b| [a, b]));
            let nearest = pairs.filter_map(|p| range(&values, &p)).min_by(|a, b| a.compare(*b));
            let closest = range(&values, &best).filter(|_| agreeing > 1).or(nearest);
            let closest = closest.map(|c| Figure::of(c, &end.unit));
            (Standing::Waiting, Matter::OneMore { titres, closest, agreeing, wanted, limit })
        };
        Some(judged(step, standing, Judgement::Concordance, matter))
    }

    /// All accurate trials by their relative standard deviation: titres of aliquots, or, where a standard was weighed for
    /// each trial, the concentrations.
    fn trials(&self, titre: &TitreItem) -> Option<Advice> {
        let School::Scatter { rsd: limit, wanted, of } = self.school(titre)? else { return None };
        let allowed = Amount::parse(limit).ok()?;
        let step = self.step_recording(&titre.end)?;
        let rough = self.practical.reading(&titre.end)?.repeats.as_ref()?.rough;
        let values: Vec<f64> = match of {
            Scattered::Titres => {
                self.all_delivered(titre)?.into_iter().filter(|(t, _)| *t >= rough).map(|(_, v)| v.to_f64()).collect()
            }
            Scattered::Concentrations { titrant } => {
                let each = self.practical.roles.named(SheetRole::ConcentrationEach, titrant)?;
                let Some(Outcome::Series(each)) = self.evaluation.outcome(each) else { return None };
                let accurate = each.into_iter().skip(rough).filter_map(|o| match o {
                    Outcome::Value(v) => Some(v.value),
                    Outcome::NotYet { .. } | Outcome::Failed(_) | Outcome::Series(_) => None,
                });
                accurate.collect()
            }
        };
        let trials = number(values.len());
        let of = match of {
            Scattered::Titres => Compared::Titres,
            Scattered::Concentrations { .. } => Compared::Concentrations,
        };
        if trials == 0 {
            return None;
        }
        let found = summary(&values).ok()?.spread.and_then(|s| s.rsd_percent).map(f64::abs);
        let limit = Figure::stated(limit, &allowed);
        let percent = Unit::parse("%").ok()?;
        let rsd = found.map(|r| Figure::shown(r, &fixed(r, 2), &percent));
        let scattered = found.is_some_and(|r| r > 100.0 * allowed.base());
        let (standing, matter) = match rsd {
            Some(rsd) if trials >= wanted && !scattered => {
                (Standing::Settled, Matter::TrialsAgree { of, trials, rsd, limit })
            }
            rsd => {
                let standing = if scattered { Standing::Doubtful } else { Standing::Waiting };
                (standing, Matter::AnotherTrial { of, trials, wanted, rsd, scattered, limit })
            }
        };
        Some(judged(step, standing, Judgement::Concordance, matter))
    }

    /// The end of the next titration, from the last one; in proportion where each trial has a mass of its own.
    fn next_titre(&self, titre: &TitreItem) -> Option<Advice> {
        let end = self.practical.reading(&titre.end)?;
        let most = end.repeats.as_ref()?.most;
        let step = self.step_recording(&titre.end)?;
        let trial = (0..most).find(|t| self.delivered(titre, *t).is_none())?;
        let last = trial.checked_sub(1)?;
        let before = self.delivered(titre, last)?.to_f64();
        let factor = match self.practical.mass_of_each_trial(&titre.name) {
            Some(mass) => self.of_trial(mass, trial)? / self.of_trial(mass, last)?,
            None => 1.0,
        };
        let about = before * factor;
        if !about.is_finite() || about <= 0.0 {
            return None;
        }
        let unit = end.unit.written();
        let start = self.readings.get(&format!("{}[{}]", titre.start, trial + 1)).map(|d| d.to_f64());
        // To the half millilitre below, as one looks at a burette in passing.
        let slow = ((start.unwrap_or(0.0) + about - SLOW_BEFORE_ML) * 2.0).floor() / 2.0;
        let matter = Matter::NextTitre {
            trial: number(trial + 1),
            about: format!("{} {unit}", fixed(about, 1)),
            slow_from: format!("{} {unit}", fixed(slow.max(0.0), 1)),
            on_scale: start.is_some(),
        };
        Some(plain(step, Standing::Waiting, matter))
    }

    /// A reading or a definition that repeats, in one trial.
    fn of_trial(&self, name: &str, trial: usize) -> Option<f64> {
        if let Some(reading) = self.readings.get(&format!("{name}[{}]", trial + 1)) {
            return Some(reading.to_f64());
        }
        let Some(Outcome::Series(each)) = self.evaluation.outcome(name) else { return None };
        match each.get(trial)? {
            Outcome::Value(v) => Some(v.value),
            Outcome::NotYet { .. } | Outcome::Failed(_) | Outcome::Series(_) => None,
        }
    }

    fn mass(&self, step: u32, within: &str, symbol: &str) -> Option<Advice> {
        let reading = self.practical.reading(symbol)?;
        let unit = &reading.unit;
        let stated = Amount::parse(within).ok()?;
        let allowed = stated.value;
        let waived = self.entries.weighed_once(symbol);
        let within = Figure::stated(within, &stated);
        let values = self.repeats(symbol).or_else(|| self.weighed_so_far(symbol))?;
        let judge = |standing, matter| Some(judged(step, standing, Judgement::Dryness, matter));
        let difference = match values[..] {
            [] => return None,
            [_] => None,
            [.., before, last] => {
                Some(if before.compare(last).is_lt() { last.minus(before)? } else { before.minus(last)? })
            }
        };
        match difference {
            Some(apart) if apart.compare(allowed).is_le() => {
                judge(Standing::Settled, Matter::ConstantMass { difference: Figure::of(apart, unit), within })
            }
            _ if waived => {
                let because = |d: &crate::bench::Deviation| {
                    let own = matches!(&d.what, crate::bench::Departure::WeighedOnce { reading } if reading == symbol);
                    own.then(|| d.note.clone())
                };
                let because = self.entries.deviations.iter().rev().find_map(because)?;
                judge(Standing::Doubtful, Matter::WeighedOnce { because })
            }
            difference => {
                let difference = difference.map(|d| Figure::of(d, unit));
                judge(Standing::Waiting, Matter::OnceAgain { difference, within })
            }
        }
    }
}

impl Evaluated<'_> {
    /// A reading that is taken once, with what the display showed before it.
    fn weighed_so_far(&self, symbol: &str) -> Option<Vec<Decimal>> {
        let last = *self.readings.get(symbol)?;
        let before = self.entries.circumstances.get(symbol).into_iter().flat_map(|c| &c.steps);
        Some(before.filter_map(|text| Decimal::parse(text).ok()).chain([last]).collect())
    }
}

/// Final less initial reading, of one repeat (`[2]`) or of the only one (empty).
fn volume_between(readings: &BTreeMap<String, Decimal>, titre: &TitreItem, repeat: &str) -> Option<Decimal> {
    let of = |symbol: &str| readings.get(&format!("{symbol}{repeat}")).copied();
    of(&titre.end)?.minus(of(&titre.start)?)
}

/// The volumes delivered so far, exact, by the place of their final reading: `V_end[2]`.
#[must_use]
pub fn delivered(practical: &Practical, readings: &BTreeMap<String, Decimal>) -> BTreeMap<String, String> {
    let of = |titre: &TitreItem| -> Vec<(String, String)> {
        let slots = practical.reading(&titre.end).map(Reading::slots).unwrap_or_default();
        let volume = |slot: &practical::Slot<'_>| {
            let repeat = slot.symbol.strip_prefix(&titre.end)?;
            Some((slot.symbol.clone(), volume_between(readings, titre, repeat)?.to_string()))
        };
        slots.iter().filter_map(volume).collect()
    };
    practical.file.titres.iter().flat_map(of).collect()
}

/// Largest less smallest of some values.
fn range(values: &[Decimal], set: &[usize]) -> Option<Decimal> {
    let of = |pick: fn(std::cmp::Ordering) -> bool| {
        set.iter().map(|i| values[*i]).reduce(|a, b| if pick(a.compare(b)) { a } else { b })
    };
    of(std::cmp::Ordering::is_gt)?.minus(of(std::cmp::Ordering::is_lt)?)
}

/// What is compared of repeats that need not have one volume.
enum Scattered<'a> {
    /// Titres of aliquots.
    Titres,
    /// Strengths of the titrant, one for each weighed standard.
    Concentrations { titrant: &'a str },
}

/// By which school the repeats of a titre are judged.
enum School<'a> {
    /// The best set within a limit.
    Within { limit: &'a str, wanted: u32 },
    /// All accurate ones by their relative standard deviation.
    Scatter { rsd: &'a str, wanted: u32, of: Scattered<'a> },
}

type Schooled<'a> = (&'a str, &'a Option<String>, &'a Option<String>, &'a Option<u32>, Scattered<'a>);

/// The titre that a method uses, its limit, its rsd, how many have to agree, and what of them is compared.
fn compared(method: &Method) -> Option<Schooled<'_>> {
    match method {
        Method::Titrate { titre, limit, rsd, trials, .. } | Method::BackTitration { titre, limit, rsd, trials, .. } => {
            Some((titre, limit, rsd, trials, Scattered::Titres))
        }
        Method::Standardise { titrant, titre, limit, rsd, trials, .. } => {
            Some((titre, limit, rsd, trials, Scattered::Concentrations { titrant }))
        }
        Method::LimitingYield { .. }
        | Method::Yield { .. }
        | Method::Recovery { .. }
        | Method::EmpiricalFormula { .. }
        | Method::Hydrate { .. }
        | Method::MassFraction { .. }
        | Method::Gravimetric { .. }
        | Method::MassBalance { .. }
        | Method::SolutionMade { .. }
        | Method::PercentError { .. } => None,
    }
}

impl Evaluated<'_> {
    fn school(&self, titre: &TitreItem) -> Option<School<'_>> {
        self.practical.file.methods.iter().find_map(|m| {
            let (own, limit, rsd, trials, of) = compared(m)?;
            (own == titre.name).then_some(())?;
            let wanted = trials.unwrap_or(2).max(2);
            match (limit, rsd) {
                (Some(limit), _) => Some(School::Within { limit, wanted }),
                (None, Some(rsd)) => Some(School::Scatter { rsd, wanted, of }),
                (None, None) => None,
            }
        })
    }
}
