//! Answers that are no number: a formula, judged chemically; a reagent, chosen.

use super::on_the_way::{Chosen, Earlier, Own, Put, Sums};
use super::smallest::{Smallest, smallest};
use super::verdict::{Diagnosis, Explanation, Labelled, SlipPlace, ValueVerdict};
use chem::Formula;
use practical::ResultSpec;
use practical::slip::Slip;
use sheet::{Outcome, Place, Work};

/// How far a ratio of amounts may be from one of whole numbers to explain a formula.
const NEAR_WHOLE: f64 = 0.1;

/// A formula: of the same composition as one that the amounts stand for, not reduced, or of another ratio.
pub(super) fn judge(sums: &Sums<'_>, result: &ResultSpec, typed: &Formula) -> (ValueVerdict, Diagnosis) {
    let reason = |r: &str| (ValueVerdict::NoValue { reason: r.to_owned() }, Diagnosis::default());
    let Some(candidates) = sums.evaluation.candidates(&result.name) else {
        return reason("the amounts admit no formula");
    };
    // What the data cannot decide between, any of; all that fit within their uncertainty.
    let read = |c: &sheet::Candidate| Formula::parse(&candidates.written(c)).ok();
    let fitting = || candidates.consistent.iter().filter_map(read);
    // One group in twenty lies beyond: what is declared and nearest is right all the same.
    let nearest = || candidates.nearest_simple.as_ref().and_then(read);
    let declared = || sums.practical.accepted_formula(&result.name).filter(|f| nearest().as_ref() == Some(f));
    if fitting().chain(declared()).any(|f| f == *typed) {
        return (ValueVerdict::Right, Diagnosis::default());
    }
    if candidates.consistent.is_empty() && declared().is_none() {
        return reason("no formula fits the amounts within their uncertainty and the scatter of the chemistry");
    }
    if let Some(by) = fitting().find_map(|f| multiple(typed, &f)) {
        let explained = named(Slip::RatioNotReduced, result);
        return (ValueVerdict::NotReduced { by }, explained);
    }
    let own: Option<Vec<f64>> = candidates.parts.iter().map(|p| counted(typed, p)).collect();
    let Some(own) = own.filter(|o| o.iter().all(|n| *n > 0.0)) else {
        return (ValueVerdict::Wrong, Diagnosis::default());
    };
    if let Some(origins) = follows(sums, result, &own) {
        return (ValueVerdict::CarriedForward { origins }, Diagnosis::default());
    }
    let diagnosis = sums.evaluation.amounts(&result.name).map_or_else(Diagnosis::default, |parts| {
        let found = explanations(&own, &parts);
        let named = found.into_iter().map(|slip| explanation(slip, result)).collect();
        Diagnosis { named, near: Vec::new() }
    });
    (ValueVerdict::Wrong, diagnosis)
}

/// The wrong earlier answers that a formula follows from: its amounts with those put in, or a ratio of one's own made whole.
fn follows(sums: &Sums<'_>, result: &ResultSpec, own: &[f64]) -> Option<Vec<String>> {
    let from_amounts = |chosen: &Chosen<'_>| {
        let (inputs, _) = sums.with(chosen);
        let parts = sums.practical.program.evaluate(&inputs).amounts(&result.name)?;
        let amounts: Vec<f64> = parts.iter().map(|(n, _)| *n).collect();
        let origins = Sums::origins(chosen);
        (!origins.is_empty() && in_ratio(own, &amounts)).then_some(origins)
    };
    let from_a_ratio = |earlier: &Earlier| {
        let [Own { put: Put::Value(ratio), right: false }, ..] = &earlier.ways[..] else { return None };
        let [first, second] = own else { return None };
        let near = (second / first - ratio.value).abs() <= NEAR_WHOLE * ratio.value;
        near.then(|| vec![earlier.result.clone()])
    };
    sums.ways_on().iter().find_map(from_amounts).or_else(|| sums.earlier.iter().find_map(from_a_ratio))
}

/// Whether amounts stand in the ratio of these subscripts.
fn in_ratio(own: &[f64], amounts: &[f64]) -> bool {
    let scale = own.iter().sum::<f64>() / amounts.iter().sum::<f64>();
    own.iter().zip(amounts).all(|(n, a)| (n - a * scale).abs() <= NEAR_WHOLE * n)
}

/// Which slips lead from amounts and molar masses to these subscripts.
fn explanations(own: &[f64], parts: &[(f64, f64)]) -> Vec<Slip> {
    let fits = |amounts: &[f64]| in_ratio(own, amounts);
    let masses: Vec<f64> = parts.iter().map(|(n, m)| n * m).collect();
    let upside_down: Vec<f64> = parts.iter().map(|(n, _)| 1.0 / n).collect();
    let least = parts.iter().map(|(n, _)| *n).fold(f64::MAX, f64::min);
    let whole: Vec<f64> = parts.iter().map(|(n, _)| (n / least).round()).collect();
    let halved = |i: usize, by: f64| -> Vec<f64> {
        parts.iter().enumerate().map(|(j, (n, _))| if i == j { n * by } else { *n }).collect()
    };
    let mut found = Vec::new();
    if fits(&masses) {
        found.push(Slip::MassRatioFormula);
    }
    if whole == own {
        found.push(Slip::ForcedWhole);
    }
    if parts.len() == 2 && fits(&upside_down) {
        found.push(Slip::RatioInverted);
    }
    if (0..parts.len()).any(|i| fits(&halved(i, 0.5)) || fits(&halved(i, 2.0))) {
        found.push(Slip::AtomForMolecule);
    }
    found
}

/// How often a part stands in a formula: an element's atoms, or a greater part such as H2O by an element of its own.
fn counted(formula: &Formula, part: &str) -> Option<f64> {
    let part = Formula::parse(part).ok()?;
    let ratios: Vec<f64> =
        part.composition().iter().map(|(atom, n)| formula.composition().count(atom.element.symbol) / n).collect();
    ratios.into_iter().reduce(f64::min)
}

/// How many times the composition of `simple` a formula is, if it is more than once.
fn multiple(formula: &Formula, simple: &Formula) -> Option<u32> {
    (2..=12u32).find(|by| {
        let times = f64::from(*by);
        let same = |symbol: &str| formula.composition().count(symbol) == times * simple.composition().count(symbol);
        formula.charge() == 0
            && formula.composition().iter().chain(simple.composition().iter()).all(|(a, _)| same(a.element.symbol))
    })
}

/// The reagent that limits: right where the extents say so, or cannot say otherwise within their uncertainty; right with the
/// group's own earlier amounts where those say so.
pub(super) fn limiting(sums: &Sums<'_>, result: &ResultSpec, chosen: usize) -> (ValueVerdict, Diagnosis) {
    let place = sums.practical.program.place_of(&result.name);
    let (Some(limits), Some(place)) = (sums.evaluation.limiting_argument(&result.name), place) else {
        return (ValueVerdict::NoValue { reason: "the extents cannot be compared".into() }, Diagnosis::default());
    };
    if chosen == limits || as_small(sums, place).contains(&chosen) {
        return (ValueVerdict::Right, Diagnosis::default());
    }
    let by_own_numbers = |way: &Chosen<'_>| {
        let (inputs, _) = sums.with(way);
        sums.practical.program.evaluate(&inputs).limiting_argument(&result.name) == Some(chosen)
    };
    if let Some(way) = sums.ways_on().iter().find(|w| by_own_numbers(w)) {
        let origins = Sums::origins(way);
        let right = origins.is_empty();
        let value = if right { ValueVerdict::Right } else { ValueVerdict::CarriedForward { origins } };
        return (value, Diagnosis::default());
    }
    let Smallest { by_mass, by_amount } = smallest(sums.practical, &sums.plain);
    let taken_by = [(Slip::SmallerAmountLimits, by_amount), (Slip::SmallerMassLimits, by_mass)];
    let named = taken_by.into_iter().filter(|(_, k)| *k == Some(chosen)).map(|(slip, _)| explanation(slip, result));
    let named = named.collect();
    (ValueVerdict::Wrong, Diagnosis { named, near: Vec::new() })
}

/// The reagents whose extents lie within U (k = 2) of the smallest one, that one left out; none in any other place.
pub(super) fn as_small(sums: &Sums<'_>, place: Place) -> Vec<usize> {
    let program = &sums.practical.program;
    let Work::Limiting(_) = program.work(place) else { return Vec::new() };
    let limits = program.defines(place).and_then(|name| {
        let least = sums.evaluation.outcome(name)?;
        Some((sums.evaluation.limiting_argument(name)?, least))
    });
    let Some((limits, Outcome::Value(least))) = limits else { return Vec::new() };
    let near =
        |p: &Place| sums.plain.plain(*p).is_some_and(|extent| extent - least.value <= 2.0 * least.standard_uncertainty);
    let extents = program.operands(place);
    (0..extents.len()).filter(|k| *k != limits && near(&extents[*k])).collect()
}

fn named(slip: Slip, result: &ResultSpec) -> Diagnosis {
    Diagnosis { named: vec![explanation(slip, result)], near: Vec::new() }
}

fn explanation(slip: Slip, result: &ResultSpec) -> Explanation {
    let at =
        SlipPlace { what: vec![Labelled { symbol: result.name.clone(), label: result.label.clone() }], instead: None };
    Explanation { slip, at, right: None, instead: None, value: 0.0, chance: 1.0, again: None }
}
