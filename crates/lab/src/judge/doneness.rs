//! Is it done? Whether titres agree, whether a mass is constant: told while it can still be repeated.
//!
//! Titres are compared as exact decimals, rough ones apart, within the limit of the practical's own method; masses by
//! the stop rule of the step. Nothing is said before both readings of a repeat are there, so that a reading cannot be
//! fitted to the verdict.

use crate::practical::file::{Method, Stop, TitreItem};
use crate::practical::{Amount, Practical};
use measure::{Concordance, Decimal, concordance};
use serde::Serialize;
use std::collections::BTreeMap;

/// What the repeats of one step come to.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Doneness {
    /// Titres agree: no further one is needed.
    TitresAgree {
        /// Step, counted from 0.
        step: u32,
        /// Which ones, counted from 1.
        trials: Vec<u32>,
        /// Their range, with its unit.
        range: String,
        /// What it may be.
        limit: String,
    },
    /// One more titration is needed.
    OneMore {
        /// Step, counted from 0.
        step: u32,
        /// How near the two nearest are, with its unit; none while there is but one.
        closest: Option<String>,
        /// What it may be.
        limit: String,
    },
    /// Two weighings in a row agree.
    ConstantMass {
        /// Step, counted from 0.
        step: u32,
        /// How far they are apart, with its unit.
        difference: String,
        /// What it may be.
        within: String,
    },
    /// They do not agree yet.
    OnceAgain {
        /// Step, counted from 0.
        step: u32,
        /// How far they are apart, with its unit; none while there is but one.
        difference: Option<String>,
        /// What it may be.
        within: String,
    },
}

/// What can be said of the repeats of every step; nothing where nothing has been repeated yet.
#[must_use]
pub fn doneness(practical: &Practical, readings: &BTreeMap<String, Decimal>) -> Vec<Doneness> {
    let titres = practical.file.titres.iter().filter_map(|t| titres(practical, readings, t));
    let steps = practical.steps.iter().enumerate();
    let masses = steps.filter_map(|(i, step)| {
        let Some(Stop::ConstantMass { within }) = &step.stop else { return None };
        let weighed = step.records.iter().find_map(|r| {
            let values = repeats(practical, readings, r)?;
            Some((r, values))
        });
        mass(practical, number(i), within, weighed?)
    });
    titres.chain(masses).collect()
}

/// The values of a reading that repeats, in order, up to the first that is missing.
fn repeats(practical: &Practical, readings: &BTreeMap<String, Decimal>, symbol: &str) -> Option<Vec<Decimal>> {
    let reading = practical.reading(symbol).filter(|r| r.repeats.is_some())?;
    Some(reading.slots().iter().map_while(|s| readings.get(&s.symbol).copied()).collect())
}

fn titres(practical: &Practical, readings: &BTreeMap<String, Decimal>, titre: &TitreItem) -> Option<Doneness> {
    let limit = practical.file.methods.iter().find_map(|m| limit_of(m, &titre.name))?;
    let allowed = Amount::parse(limit).ok()?;
    let end = practical.reading(&titre.end)?;
    let step = practical.steps.iter().position(|s| s.records.contains(&titre.end)).map(number)?;
    let rough = end.repeats.as_ref()?.rough;
    // Both readings of a trial, or it is none yet.
    let delivered = |trial: usize| {
        let of = |symbol: &str| readings.get(&format!("{symbol}[{}]", trial + 1)).copied();
        of(&titre.end)?.minus(of(&titre.start)?)
    };
    let most = end.repeats.as_ref()?.most;
    let (trials, values): (Vec<usize>, Vec<Decimal>) = (rough..most).filter_map(|t| Some((t, delivered(t)?))).unzip();
    if values.is_empty() {
        return None;
    }
    let unit = end.unit.written();
    let shown = |range: Decimal| format!("{range} {unit}");
    let span = |set: &[usize]| {
        let of = |pick: fn(std::cmp::Ordering) -> bool| {
            set.iter().map(|i| values[*i]).reduce(|a, b| if pick(a.compare(b)) { a } else { b })
        };
        of(std::cmp::Ordering::is_gt)?.minus(of(std::cmp::Ordering::is_lt)?)
    };
    let best = match concordance(&values, allowed.value) {
        Concordance::Agree(set) => Some(set),
        // Which of them is right the numbers cannot say: another one decides.
        Concordance::Tied(_) | Concordance::None => None,
    };
    let limit = limit.to_owned();
    if let Some(set) = best {
        let trials = set.iter().map(|i| number(trials[*i] + 1)).collect();
        return Some(Doneness::TitresAgree { step, trials, range: shown(span(&set)?), limit });
    }
    let pairs = (0..values.len()).flat_map(|a| (a + 1..values.len()).map(move |b| [a, b]));
    let closest = pairs.filter_map(|p| span(&p)).min_by(|a, b| a.compare(*b)).map(shown);
    Some(Doneness::OneMore { step, closest, limit })
}

fn limit_of<'a>(method: &'a Method, name: &str) -> Option<&'a str> {
    match method {
        Method::Titrate { titre, limit, .. } | Method::BackTitration { titre, limit, .. } if titre == name => {
            Some(limit)
        }
        Method::Standardise { titre, limit: Some(limit), .. } if titre == name => Some(limit),
        _ => None,
    }
}

fn mass(practical: &Practical, step: u32, within: &str, weighed: (&String, Vec<Decimal>)) -> Option<Doneness> {
    let (symbol, values) = weighed;
    let unit = practical.reading(symbol)?.unit.written();
    let within_value = Amount::parse(within).ok()?.value;
    let within = within.to_owned();
    let [.., before, last] = values[..] else {
        return (!values.is_empty()).then_some(Doneness::OnceAgain { step, difference: None, within });
    };
    let apart = if before.compare(last).is_lt() { last.minus(before)? } else { before.minus(last)? };
    let difference = format!("{apart} {unit}");
    Some(if apart.compare(within_value).is_gt() {
        Doneness::OnceAgain { step, difference: Some(difference), within }
    } else {
        Doneness::ConstantMass { step, difference, within }
    })
}

fn number(n: usize) -> u32 {
    u32::try_from(n).unwrap_or(u32::MAX)
}
