//! What makes a number right that is not the recomputed one: an earlier answer that it follows from, a choice that is as good,
//! a percent error of what was found within its own tolerance.

use super::formulas;
use super::judge::{judge_unit, judge_value};
use super::on_the_way::{Chosen, Earlier, Own, Put, Sums};
use super::verdict::{UnitVerdict, ValueVerdict};
use crate::bench::UnitGiven;
use measure::{Decimal, Unit};
use practical::file::Method;
use practical::{ResultSpec, SheetRole};
use sheet::{Act, Change, Leaf, Outcome, Precision, Work};

/// An answer that follows from earlier ones.
pub(super) struct Carried {
    /// Those of them that are wrong.
    pub origins: Vec<String>,
    /// What follows from them, with its digits.
    pub value: (f64, Precision),
    pub unit: UnitVerdict,
    pub read_in: Unit,
}

impl Carried {
    /// Right with one's own rounding of earlier right answers is simply right.
    pub fn verdict(&self) -> ValueVerdict {
        match self.origins.as_slice() {
            [] => ValueVerdict::Right,
            origins => ValueVerdict::CarriedForward { origins: origins.to_vec() },
        }
    }
}

/// By how much a reading is moved to see whether a result follows it in proportion.
const NUDGE: f64 = 1.000_01;
/// An answer that moves by less than this does not follow a reading at all.
const FAINT: f64 = 1e-9;

impl Sums<'_> {
    /// The earlier answers that, put in together, make this one right.
    pub(super) fn carried_forward(&self, result: &ResultSpec, typed: Decimal, given: &UnitGiven) -> Option<Carried> {
        let plain = self.plain.plain(self.practical.program.place_of(&result.name)?);
        let judged = |chosen: &Chosen<'_>, value: (f64, Precision)| {
            let (unit, read_in) = judge_unit(result, given, typed, value);
            let right = judge_value(result, typed, &read_in, value) == ValueVerdict::Right;
            right.then(|| Carried { origins: Sums::origins(chosen), value, unit, read_in })
        };
        let on_the_way = |chosen: &Chosen<'_>| {
            let value = self.value_on(&result.name, chosen)?;
            (Some(value.0) != plain).then(|| judged(chosen, value))?
        };
        let ways = self.ways_on();
        ways.iter().find_map(on_the_way).or_else(|| {
            ways.iter().filter(|w| w.len() == 1).find_map(|w| judged(w, self.beside_the_way(&result.name, w)?))
        })
    }

    /// What a result comes to by somebody who went on from an earlier answer that does not stand on the sheet's own way, but
    /// is made of the same readings: the amount of a precipitate, where the sheet goes by its mass. The result follows such
    /// an answer in proportion, or in inverse proportion, where it follows all the readings of it so.
    fn beside_the_way(&self, result: &str, chosen: &Chosen<'_>) -> Option<(f64, Precision)> {
        let [(Earlier { result: earlier, .. }, Own { put: Put::Value(own), .. })] = chosen[..] else { return None };
        let program = &self.practical.program;
        if program.hangs_on(result, earlier) {
            return None;
        }
        let Some(Outcome::Value(expected)) = self.evaluation.outcome(result) else { return None };
        let theirs = self.plain.plain(program.place_of(earlier)?).filter(|v| *v != 0.0)?;
        let mut otherwise = self.plain.clone();
        let read = program
            .places(earlier, &[])
            .into_iter()
            .filter(|p| matches!(program.work(*p), Work::Leaf(Leaf::Reading(_) | Leaf::Trial(..))));
        let mut proportion: Option<f64> = None;
        for place in read {
            let change = [Change { place, act: Act::Times(NUDGE) }];
            let mut follows = |name: &str, plain: f64| Some((otherwise.value(name, &change)? / plain).abs().ln());
            let (there, here) = (follows(earlier, theirs)?, follows(result, expected.value)?);
            if there.abs() < FAINT {
                continue;
            }
            let by = here / there;
            let whole = by.round();
            if whole.abs() != 1.0 || (by - whole).abs() > 0.01 || proportion.is_some_and(|p| p != whole) {
                return None;
            }
            proportion = Some(whole);
        }
        let value = expected.value * (own.value / theirs).powf(proportion?);
        value.is_finite().then(|| (value, expected.precision.of_another(value)))
    }

    /// Whether another choice that is as good makes this answer: another set of titres that agree, another reagent whose
    /// extent is the smallest within its uncertainty.
    pub(super) fn is_legitimate(&self, result: &ResultSpec, typed: Decimal, unit: &Unit, precision: Precision) -> bool {
        let program = &self.practical.program;
        let mut otherwise = self.plain.clone();
        program.places(&result.name, &[]).into_iter().any(|place| {
            let sets = otherwise.agreeing_sets(place).into_iter().map(Act::MeanOf);
            let acts: Vec<Act> = sets.chain(formulas::as_small(self, place).into_iter().map(Act::Extent)).collect();
            acts.into_iter().any(|act| {
                let value = otherwise.value(&result.name, &[Change { place, act }]);
                value.is_some_and(|v| judge_value(result, typed, unit, (v, precision)) == ValueVerdict::Right)
            })
        })
    }

    fn is_answered(&self, result: &str) -> bool {
        self.earlier.iter().any(|e| e.result == result)
    }

    /// A percent error of what was found within its own tolerance, where that was not answered itself: near zero, another table
    /// of atomic masses is a large part of it.
    pub(super) fn is_error_of_a_right_value(&self, result: &ResultSpec, typed: Decimal, unit: &Unit) -> bool {
        let errors = self.practical.file.methods.iter().filter_map(|m| {
            let Method::PercentError { found, .. } = m else { return None };
            Some(found)
        });
        let answered = unit.to_base(typed.to_f64());
        let half = 0.5 * unit.difference_to_base(10f64.powi(typed.last_place()));
        self.practical.roles.has(&result.name, SheetRole::PercentError)
            && errors.filter_map(|found| self.practical.result(found)).filter(|f| !self.is_answered(&f.name)).any(
                |found| {
                    let mut otherwise = self.plain.clone();
                    let place = self.practical.program.place_of(&found.name);
                    let Some((place, value)) = place.and_then(|p| Some((p, self.plain.plain(p)?))) else {
                        return false;
                    };
                    let off = found.tolerance.around(value, 0.0);
                    let ends: Vec<f64> = [-off, off]
                        .into_iter()
                        .filter_map(|d| otherwise.value(&result.name, &[Change { place, act: Act::Number(value + d) }]))
                        .collect();
                    let low = ends.iter().copied().fold(f64::INFINITY, f64::min);
                    let high = ends.iter().copied().fold(f64::NEG_INFINITY, f64::max);
                    (low - half..=high + half).contains(&answered)
                },
            )
    }
}
