//! Which slip made this answer? Evidence against "some other number".
//!
//! Every slip in every place is tried on the group's own numbers; each gives a value. A typed answer is one point of the
//! grid of numbers with its last digit. That a slip with value v was made explains it with probability
//! fit · 2h / (2h + 2s): h half a unit of the last digit, s what rounding on the way may add. That it is some other number
//! explains it with probability 2h / (|a| · ln 100): even on a logarithmic scale over two decades. The ratio of the two,
//! times the prior of the slip, is the weight of the explanation. It is named when its share of all weight, with that of its
//! rivals for the same number, passes a threshold.
//!
//! A three-digit answer carries about seven bits. Rare slips in many places do not pass on that alone, and pairs of slips
//! are named only where each of the two shows in an answer of its own.
//!
//! Source: Bayes' rule with a uniform background, e.g. MacKay, Information Theory, Inference, and Learning Algorithms,
//! chapter 28 (model comparison); priors from the catalogue.

use super::in_writing::{rounded_early, written};
use super::on_the_way::{Established, Sums};
use super::reach::{At, Candidate, Made, Reach};
use super::verdict::{Diagnosis, Explanation, Labelled, SlipPlace};
use measure::{Decimal, Unit};
use practical::slip::Slip;
use practical::{Practical, ResultSpec};
use sheet::{Act, Change, Otherwise};
use std::collections::BTreeMap;

/// Part of all wrong answers that one slip of the catalogue explains; the others are "some other number".
const EXPLAINED: f64 = 0.6;
/// Share of the weight that an explanation needs to be named.
const NAMED: f64 = 0.85;
/// Share of the weight from which it is shown to the instructor.
const NEAR: f64 = 0.3;
/// Part of the other numbers that have the other sign.
const OTHER_SIGN: f64 = 0.05;
/// Natural logarithm of the range of other numbers: two decades.
const BACKGROUND: f64 = 4.605;
/// What rounding on the way and another table of atomic masses may add, as a part of the value.
const SPREAD: f64 = 0.0004;
/// A rival needs this part of the weight of the likeliest name to be told beside it.
const RIVAL: f64 = 0.05;
/// Part of the evidence that the first value needs to have before others that fit as well.
const CLEAR: f64 = 0.5;
/// Names told for one explanation.
const MOST_NAMES: usize = 4;
/// A slip that was made before is so likely to be made again.
const AGAIN: f64 = 0.3;

/// Where a student may have started from: from the answers before, or from the readings again.
pub(super) struct Way<'a> {
    /// The group's numbers, with its own earlier answers put in; several, where rounding may or may not be in them.
    pub starts: Vec<Otherwise<'a>>,
    /// Definitions beyond which nothing is done otherwise.
    pub cuts: Vec<&'a str>,
    /// How likely it is, beside the usual one.
    pub weight: f64,
    /// What was done otherwise before, and is done so again.
    pub already: Vec<Change>,
}

/// A slip in a place, weighed.
struct Weighed {
    candidate: Candidate,
    /// What it makes of the result, in base units; none where it makes nothing of its own.
    value: Option<f64>,
    weight: f64,
    again: Option<String>,
}

/// A typed answer in base units.
#[derive(Clone, Copy)]
struct Typed {
    value: f64,
    /// Half a unit of its last digit.
    half: f64,
}

impl Typed {
    /// How well a value explains it: 1 inside the interval of its digits, falling off beyond it within the spread.
    fn fit(self, value: f64) -> f64 {
        let beyond = (self.value - value).abs() - self.half * (1.0 + 1e-9);
        let width = SPREAD * value.abs();
        if beyond <= 0.0 {
            1.0
        } else if beyond > 4.0 * width {
            0.0
        } else {
            (-0.5 * (beyond / width).powi(2)).exp()
        }
    }

    /// How much likelier it is by a slip with this value than by some other number.
    fn ratio(self, value: f64, right: Option<f64>) -> f64 {
        let unlikely = if right.is_some_and(|r| r * self.value < 0.0) { OTHER_SIGN } else { 1.0 };
        self.fit(value) * self.value.abs() * BACKGROUND / unlikely / (2.0 * self.half + 2.0 * SPREAD * value.abs())
    }
}

/// Half a unit of the last digit that counts. Of 1550 it may be the last or the one before: as many count as were wanted.
fn half_width(typed: Decimal, unit: &Unit, wanted: Option<u32>) -> f64 {
    let least = typed.significant_figures().unwrap_or(1);
    let all = u32::try_from(typed.digits().len()).unwrap_or(least);
    let idle = all - wanted.unwrap_or(all).clamp(least, all);
    0.5 * unit.difference_to_base(10f64.powi(typed.last_place() + i32::try_from(idle).unwrap_or(0)))
}

/// What explains a wrong answer, and the slip that is thereby known.
pub(super) fn diagnose(
    sums: &Sums<'_>,
    result: &ResultSpec,
    typed: Decimal,
    unit: &Unit,
    wanted: Option<u32>,
    ways: &mut [Way<'_>],
) -> (Diagnosis, Option<Established>) {
    let answer = Typed { value: unit.to_base(typed.to_f64()), half: half_width(typed, unit, wanted) };
    if answer.value == 0.0 || !answer.value.is_finite() {
        return (Diagnosis::default(), None);
    }
    let right = sums.practical.program.place_of(&result.name).and_then(|p| sums.plain.plain(p));
    // What comes to the right value after all explains no wrong answer.
    let of_its_own = |v: &f64| {
        v.is_finite()
            && right.is_none_or(|r| (v - r).abs() > result.tolerance.around(r, 2.0 * answer.half).max(1e-9 * r.abs()))
    };
    let mut weighed: Vec<Weighed> = Vec::new();
    for way in ways {
        let Some(first) = way.starts.first() else { continue };
        let reach = Reach::all(sums.practical, result, sums.readings, first, &way.cuts);
        let places = sums.practical.program.places(&result.name, &way.cuts);
        let mut candidates = reach;
        candidates.extend(rounded_early(sums.practical, first, &places, &result.name));
        if let Some(value) = sums.practical.program.place_of(&result.name).and_then(|p| first.plain(p)) {
            candidates.extend(written((sums.practical, result), value, typed, unit));
        }
        for candidate in candidates {
            let best = match &candidate.made {
                Made::Written(value) => Some(*value),
                Made::On(changes) => {
                    // Another slip in a place takes the place of what was done there before.
                    let before = way.already.iter().filter(|a| changes.iter().all(|c| c.place != a.place));
                    let all: Vec<Change> = before.chain(changes).cloned().collect();
                    let values = way.starts.iter_mut().filter_map(|s| s.value(&result.name, &all));
                    let best = values.max_by(|a, b| answer.fit(*a).total_cmp(&answer.fit(*b)));
                    best.filter(|v| !is_a_missing_term(&candidate, *v, &mut way.starts, &result.name))
                }
            };
            let weight = candidate.share * way.weight;
            weighed.push(Weighed { candidate, value: best.filter(of_its_own), weight, again: None });
        }
    }
    level(&mut weighed);
    weighed.extend(repeated(sums, result));
    for w in &mut weighed {
        w.weight *= w.value.map_or(0.0, |v| answer.ratio(v, right));
    }
    conclude(sums.practical, result, answer, together(weighed))
}

/// Whether a reading that was made much smaller only fell out of a sum: no moved point shows there, but a missing term.
fn is_a_missing_term(candidate: &Candidate, value: f64, starts: &mut [Otherwise<'_>], result: &str) -> bool {
    let Made::On(changes) = &candidate.made else { return false };
    let ([Change { place, act: Act::Number(moved) }], Slip::DecimalPoint | Slip::UnitThousand) =
        (&changes[..], candidate.slip)
    else {
        return false;
    };
    let is_small = |start: &Otherwise<'_>| start.plain(*place).is_some_and(|own| moved.abs() < SMALL * own.abs());
    let gone = [Change { place: *place, act: Act::Number(0.0) }];
    starts.iter_mut().filter(|s| is_small(s)).any(|start| {
        let without = start.value(result, &gone).filter(|w| *w != 0.0);
        without.is_some_and(|w| (value - w).abs() <= SMALL * w.abs())
    })
}

/// What is less than this part of something is lost beside it.
const SMALL: f64 = 0.02;

/// Turns shares into priors: a slip is as common as it is in however many places it may have happened. On the way and in
/// writing are two occasions.
fn level(weighed: &mut [Weighed]) {
    let occasion = |w: &Weighed| (w.candidate.slip, matches!(w.candidate.made, Made::Written(_)));
    let mut by_slip: BTreeMap<(Slip, bool), (f64, f64)> = BTreeMap::new();
    for w in weighed.iter() {
        let (sum, most) = by_slip.entry(occasion(w)).or_insert((0.0, 0.0));
        *sum += w.weight;
        *most = most.max(w.weight.min(1.0));
    }
    let all: f64 = by_slip.iter().map(|((slip, _), (_, most))| slip.prior() * most).sum();
    for w in weighed {
        let (sum, most) = by_slip[&occasion(w)];
        w.weight *= EXPLAINED * w.candidate.slip.prior() * most / (sum * all);
    }
}

/// Slips that were named at earlier results, made again on the way from the readings.
fn repeated(sums: &Sums<'_>, result: &ResultSpec) -> Vec<Weighed> {
    let mut plain = sums.plain.clone();
    let of = |known: &Established| {
        let made = Made::On(known.changes.clone());
        let candidate = Candidate { slip: known.slip, at: known.at.clone(), exchange: None, share: 1.0, made };
        let value = plain.value(&result.name, &known.changes);
        Weighed { candidate, value, weight: AGAIN, again: Some(known.result.clone()) }
    };
    sums.established.iter().map(of).collect()
}

/// The same slip in the same place is one explanation, from wherever it was come to.
fn together(weighed: Vec<Weighed>) -> Vec<Weighed> {
    let mut out: Vec<Weighed> = Vec::new();
    for w in weighed.into_iter().filter(|w| w.weight > 0.0) {
        match out.iter_mut().find(|o| o.candidate.slip == w.candidate.slip && o.candidate.at == w.candidate.at) {
            Some(known) if known.weight < w.weight => *known = Weighed { weight: known.weight + w.weight, ..w },
            Some(known) => known.weight += w.weight,
            None => out.push(w),
        }
    }
    out
}

fn conclude(
    practical: &Practical,
    result: &ResultSpec,
    answer: Typed,
    mut weighed: Vec<Weighed>,
) -> (Diagnosis, Option<Established>) {
    weighed.sort_by(|a, b| b.weight.total_cmp(&a.weight));
    let total: f64 = weighed.iter().map(|w| w.weight).sum::<f64>() + 1.0 - EXPLAINED;
    let explained: f64 = weighed.iter().map(|w| w.weight).sum::<f64>() / total;
    let Some(first) = weighed.first() else { return (Diagnosis::default(), None) };
    // What a student's own digits cannot tell apart is one piece of evidence, from wherever it was come to.
    let same =
        |w: &&Weighed| w.value.zip(first.value).is_some_and(|(a, b)| (a - b).abs() <= answer.half + SPREAD * b.abs());
    let of_one_value: f64 = weighed.iter().filter(same).map(|w| w.weight).sum::<f64>() / total;
    let is_named = explained >= NAMED && of_one_value >= CLEAR * explained;
    let (leading, least) = (first.weight, first.weight * RIVAL);
    let rivals = weighed.iter().filter(|w| w.weight >= least).take(MOST_NAMES);
    let mut told: Vec<Explanation> = rivals.map(|w| explanation(practical, result, w, w.weight / total)).collect();
    let established = match &first.candidate.made {
        Made::On(changes) if is_named && leading > 0.0 && first.again.is_none() => Some(Established {
            slip: first.candidate.slip,
            at: first.candidate.at.clone(),
            changes: changes.clone(),
            result: result.name.clone(),
        }),
        Made::On(_) | Made::Written(_) => None,
    };
    let diagnosis = if is_named {
        Diagnosis { named: told, near: Vec::new() }
    } else {
        told.retain(|t| t.chance >= NEAR);
        Diagnosis { named: Vec::new(), near: told }
    };
    (diagnosis, established)
}

fn explanation(practical: &Practical, result: &ResultSpec, w: &Weighed, chance: f64) -> Explanation {
    let (right, instead) = w.candidate.exchange.clone().unzip();
    Explanation {
        slip: w.candidate.slip,
        at: place(practical, &w.candidate.at),
        right,
        instead,
        value: result.unit.from_base(w.value.unwrap_or(f64::NAN)),
        chance,
        again: w.again.clone(),
    }
}

/// The names with what they stand for.
pub(super) fn place(practical: &Practical, at: &At) -> SlipPlace {
    let named = |symbol: &String| Labelled { symbol: symbol.clone(), label: practical.label_of(symbol) };
    SlipPlace { what: at.what.iter().map(named).collect(), instead: at.instead.as_ref().map(named) }
}
