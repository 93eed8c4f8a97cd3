//! What do the groups that are off have in common?
//!
//! Everything that some groups share and others do not (a balance, a burette, a bottle, a lesson) is tried as the cause of a
//! difference: mean of those that share it, less mean of the others, and by how many ways of dealing the same values out the
//! difference would be at least as large (permutation test). Values far out are drawn in to 2.5 robust s first, so that one
//! blunder is no cause. Many causes are tried, so p is corrected for their number (Holm 1979). Causes that are shared by the
//! very same groups cannot be told apart, and are said to be so. What must cancel (a balance's offset in a difference of two
//! weighings) is not blamed.
//!
//! Sources: Good, Permutation, Parametric and Bootstrap Tests, 3rd ed., 3.1; Holm, Scand. J. Statist. 6, 65.

use super::Member;
use crate::evaluated::Evaluated;
use measure::InstrumentKind;
use practical::ResultSpec;
use practical::statistics::algorithm_a;
use rand_chacha::ChaCha8Rng;
use rand_chacha::rand_core::{RngCore, SeedableRng};
use serde::Serialize;
use std::collections::BTreeMap;

/// p (corrected) up to which a cause is told as one.
const TOLD: f64 = 0.05;
/// Ways of dealing out up to which all of them are gone through.
const ALL_WAYS: u64 = 20_000;
/// Ways that are drawn beyond that.
const DRAWN: usize = 20_000;
/// Robust standard deviations beyond which values are drawn in.
const DRAWN_IN: f64 = 2.5;

/// What groups may share.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum CauseKind {
    /// A balance.
    Balance,
    /// A burette.
    Burette,
    /// Any other instrument.
    Instrument,
    /// A bottle.
    Bottle,
    /// A bench.
    Bench,
    /// A lesson.
    Visit,
    /// A recipe.
    Recipe,
}

/// Something shared, and how the groups that share it differ from the others.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Cause {
    /// What it is.
    pub kind: CauseKind,
    /// What it is called: `Balance 2`, `bottle B`.
    pub name: String,
    /// Other things that the very same groups share: they cannot be told apart from it.
    pub same_groups: Vec<String>,
    /// The groups.
    pub groups: Vec<String>,
    /// Their mean less that of the others, in the unit of the result.
    pub difference: f64,
    /// The same as a part of the others' mean.
    pub relative: f64,
    /// Probability of a difference at least as large by chance.
    pub p: f64,
    /// The same, corrected for the causes tried (Holm).
    pub p_corrected: f64,
    /// Causes tried.
    pub tried: usize,
    /// An offset of it cancels in this result.
    pub cancels: bool,
    /// Whether it is told as a cause: p corrected is at most 0.05, and it does not cancel.
    pub told: bool,
}

type Number<'a, 'm> = (&'a Member<'m>, f64, f64);

pub(super) fn found(result: &ResultSpec, numbers: &[Number<'_, '_>]) -> Vec<Cause> {
    let raw: Vec<f64> = numbers.iter().map(|(_, v, _)| *v).collect();
    let values = drawn_in(&raw);
    let mut sharing: BTreeMap<(CauseKind, String), Vec<bool>> = BTreeMap::new();
    for (i, (member, ..)) in numbers.iter().enumerate() {
        for shared in things(member, result) {
            sharing.entry(shared).or_insert_with(|| vec![false; numbers.len()])[i] = true;
        }
    }
    let mut causes: Vec<(Vec<bool>, Cause)> = Vec::new();
    for ((kind, name), with) in sharing {
        let count = with.iter().filter(|w| **w).count();
        if count < 2 || numbers.len() - count < 2 {
            continue;
        }
        let others: Vec<bool> = with.iter().map(|w| !w).collect();
        if let Some((_, known)) = causes.iter_mut().find(|(set, _)| *set == with || *set == others) {
            known.same_groups.push(name);
            continue;
        }
        let difference = mean(&values, &with, true) - mean(&values, &with, false);
        let base = mean(&values, &with, false);
        let cause = Cause {
            kind,
            groups: numbers.iter().zip(&with).filter(|(_, w)| **w).map(|((m, ..), _)| m.name.to_owned()).collect(),
            cancels: kind == CauseKind::Balance && cancels(numbers, &with, result, &name),
            name,
            same_groups: Vec::new(),
            difference,
            relative: if base == 0.0 { 0.0 } else { difference / base },
            p: permuted(&values, &with),
            p_corrected: 1.0,
            tried: 0,
            told: false,
        };
        causes.push((with, cause));
    }
    let mut causes: Vec<Cause> = causes.into_iter().map(|(_, c)| c).collect();
    causes.sort_by(|a, b| a.p.total_cmp(&b.p));
    let tried = causes.len();
    let mut least = 0f64;
    for (i, cause) in causes.iter_mut().enumerate() {
        least = least.max((cause.p * (tried - i) as f64).min(1.0));
        cause.p_corrected = least;
        cause.tried = tried;
        cause.told = least <= TOLD && !cause.cancels;
    }
    causes
}

/// Everything that a group used on the way to a result, and when.
fn things(member: &Member<'_>, result: &ResultSpec) -> Vec<(CauseKind, String)> {
    let practical = member.practical;
    let mut out = Vec::new();
    let Some(definition) = practical.program.definition(&result.name) else { return out };
    let readings = practical.program.readings_of(definition);
    for slot in practical.slots() {
        let used = slot.reading.sheet_names().iter().any(|n| readings.contains(&n.as_str()));
        let on = member.entries.circumstances.get(&slot.symbol).and_then(|h| h.on.as_ref());
        if let Some(instrument) = on.filter(|_| used) {
            let kind = match instrument.kind {
                InstrumentKind::Balance => CauseKind::Balance,
                InstrumentKind::Burette => CauseKind::Burette,
                InstrumentKind::VolumetricPipette
                | InstrumentKind::VolumetricFlask
                | InstrumentKind::MeasuringCylinder
                | InstrumentKind::GraduatedPipette
                | InstrumentKind::Syringe
                | InstrumentKind::DroppingPipette
                | InstrumentKind::Thermometer
                | InstrumentKind::PhMeter
                | InstrumentKind::PhPaper
                | InstrumentKind::Timer
                | InstrumentKind::MeltingPoint
                | InstrumentKind::Meter => CauseKind::Instrument,
            };
            out.push((kind, instrument.name.clone()));
        }
    }
    out.extend(member.entries.bottles.values().map(|b| (CauseKind::Bottle, b.clone())));
    out.extend(member.bench.map(|b| (CauseKind::Bench, b.to_owned())));
    out.extend(member.visit.map(|v| (CauseKind::Visit, v.to_owned())));
    out.extend(practical.allotted.assignment.iter().map(|a| (CauseKind::Recipe, a.clone())));
    out.sort();
    out.dedup();
    out
}

/// Whether an offset of this balance cancels in the result of every group that used it: the sum of the derivatives to all
/// readings on it is nothing beside their size.
fn cancels(numbers: &[Number<'_, '_>], with: &[bool], result: &ResultSpec, balance: &str) -> bool {
    let of_group = |member: &Member<'_>| {
        let sensitivities = Evaluated::of(member.practical, member.entries).evaluation.sensitivities(&result.name);
        let on = |symbol: &str| {
            let how = member.entries.circumstances.get(symbol);
            how.and_then(|h| h.on.as_ref()).is_some_and(|i| i.name == balance)
        };
        let here: Vec<f64> = sensitivities.iter().filter(|(s, _)| on(s)).map(|(_, d)| *d).collect();
        here.iter().sum::<f64>().abs() <= 1e-6 * here.iter().map(|d| d.abs()).sum::<f64>()
    };
    numbers.iter().zip(with).filter(|(_, w)| **w).all(|((m, ..), _)| of_group(m))
}

fn drawn_in(values: &[f64]) -> Vec<f64> {
    let Ok(robust) = algorithm_a(values) else { return values.to_vec() };
    let (low, high) = (robust.mean - DRAWN_IN * robust.sd, robust.mean + DRAWN_IN * robust.sd);
    values.iter().map(|v| v.clamp(low.min(high), high.max(low))).collect()
}

fn mean(values: &[f64], with: &[bool], wanted: bool) -> f64 {
    let chosen: Vec<f64> = values.iter().zip(with).filter(|(_, w)| **w == wanted).map(|(v, _)| *v).collect();
    chosen.iter().sum::<f64>() / chosen.len() as f64
}

/// Part of all ways of dealing the values out to the same numbers of groups that differ at least as much.
fn permuted(values: &[f64], with: &[bool]) -> f64 {
    let (n, k) = (values.len(), with.iter().filter(|w| **w).count());
    let total: f64 = values.iter().sum();
    let far = |sum: f64| (sum / k as f64 - (total - sum) / (n - k) as f64).abs();
    let seen = far(values.iter().zip(with).filter(|(_, w)| **w).map(|(v, _)| v).sum());
    // The last bits of a sum must not decide whether it is as large.
    let as_large = |sum: f64| far(sum) >= seen * (1.0 - 1e-9);
    if ways(n, k) <= ALL_WAYS {
        let (mut count, mut all) = (0u64, 0u64);
        each_way(values, k, 0, 0.0, &mut |sum| {
            all += 1;
            count += u64::from(as_large(sum));
        });
        return count as f64 / all as f64;
    }
    let mut random = ChaCha8Rng::seed_from_u64(n as u64);
    let mut order: Vec<usize> = (0..n).collect();
    let count = (0..DRAWN).filter(|_| {
        for i in 0..k {
            let rest = u64::try_from(n - i).unwrap_or(1);
            let j = i + usize::try_from(random.next_u64() % rest).unwrap_or(0);
            order.swap(i, j);
        }
        as_large(order[..k].iter().map(|i| values[*i]).sum())
    });
    (count.count() + 1) as f64 / (DRAWN + 1) as f64
}

fn ways(n: usize, k: usize) -> u64 {
    (0..k.min(n - k)).fold(1u64, |w, i| w.saturating_mul((n - i) as u64) / (i as u64 + 1))
}

/// Calls `tell` with the sum of each choice of `k` values from `from` on.
fn each_way(values: &[f64], k: usize, from: usize, sum: f64, tell: &mut impl FnMut(f64)) {
    if k == 0 {
        return tell(sum);
    }
    for i in from..=values.len() - k {
        each_way(values, k - 1, i + 1, sum + values[i], tell);
    }
}
