//! All answers of one sheet, in the order in which they are asked.

use super::diagnosis::{Way, diagnose};
use super::formulas;
use super::judge::{comparison, is_absurd, judge_digits, judge_unit, judge_value, precision_by};
use super::on_the_way::{Earlier, Sums};
use super::reach::{Made, Reach};
use super::verdict::{Diagnosis, DigitsVerdict, UnitVerdict, ValueVerdict, Verdict};
use crate::bench::{Answer, Said};
use crate::evaluated::Evaluated;
use measure::{Decimal, Unit};
use practical::ResultSpec;
use practical::slip::{Level, Slip};
use sheet::{Act, Change, Inputs, Otherwise, Outcome, Precision, Substitute, Value};
use std::collections::BTreeMap;

/// Results beyond which earlier answers are put in all together only.
const MOST_SUBSETS: usize = 6;

impl Evaluated<'_> {
    /// The judgement on every answer, in the order in which they are asked.
    #[must_use]
    pub fn checked(&self, answers: &BTreeMap<String, Answer>) -> BTreeMap<String, Verdict> {
        let Evaluated { practical, readings, evaluation, .. } = self;
        let plain = Otherwise::new(&practical.program, evaluation.inputs());
        let mut sums = Sums { practical, readings, evaluation, plain, earlier: Vec::new(), established: Vec::new() };
        let asked = practical.results.iter().filter_map(|r| Some((r, answers.get(&r.name)?)));
        asked.map(|(result, answer)| (result.name.clone(), sums.check(result, answer))).collect()
    }

    /// Where common slips would put a result, as a part of the right value, each once and nearest to right first: the
    /// labelled ticks of a spectrum.
    #[must_use]
    pub fn ticks(&self, result: &str) -> Vec<(Slip, f64)> {
        let Some(result) = self.practical.result(result) else { return Vec::new() };
        let mut plain = Otherwise::new(&self.practical.program, self.evaluation.inputs());
        let right = self.practical.program.place_of(&result.name).and_then(|p| plain.plain(p)).filter(|r| *r != 0.0);
        let Some(right) = right else { return Vec::new() };
        let common = Reach::all(self.practical, result, &self.readings, &plain, &[])
            .into_iter()
            .filter(|c| c.slip.prior() >= 2.0);
        let mut ticks: Vec<(Slip, f64)> = Vec::new();
        for candidate in common {
            // A slip of reading may be anywhere; the ticks are for slips of thought.
            let Made::On(changes) = &candidate.made else { continue };
            if candidate.slip.level() == Level::Reading || ticks.iter().any(|(s, _)| *s == candidate.slip) {
                continue;
            }
            let ratio = plain.value(&result.name, changes).map(|v| v / right);
            if let Some(ratio) = ratio.filter(|r| r.is_finite() && *r > 0.0 && (r - 1.0).abs() > 0.02) {
                ticks.push((candidate.slip, ratio));
            }
        }
        ticks.sort_by(|a, b| a.1.ln().abs().total_cmp(&b.1.ln().abs()));
        ticks
    }
}

impl Sums<'_> {
    fn check(&mut self, result: &ResultSpec, answer: &Answer) -> Verdict {
        let said = match answer.read(self.practical, result) {
            Ok(said) => said,
            Err(why) => return unjudged(ValueVerdict::NoValue { reason: why.to_string() }),
        };
        match (said, self.recomputed(result)) {
            (Said::Words, _) => unjudged(ValueVerdict::ToRead),
            // Amounts that are no formula within their scatter may be near the one that is declared.
            (Said::Formula(formula), Err(ValueVerdict::NoValue { .. })) => {
                let (value, diagnosis) = formulas::judge(self, result, &formula);
                Verdict { diagnosis, ..unjudged(value) }
            }
            (_, Err(value)) => unjudged(value),
            (Said::Number(typed), Ok(expected)) => self.number(result, answer, typed, &expected),
            (Said::Formula(formula), Ok(_)) => {
                let (value, diagnosis) = formulas::judge(self, result, &formula);
                if let Ok(own) = Substitute::formula(&formula, &self.practical.school.atomic_masses) {
                    let right = value == ValueVerdict::Right;
                    self.earlier.push(Earlier { result: result.name.clone(), own, right });
                }
                Verdict { diagnosis, ..unjudged(value) }
            }
            (Said::Reagent(chosen), Ok(_)) => {
                let (value, diagnosis) = formulas::limiting(self, result, chosen);
                Verdict { diagnosis, ..unjudged(value) }
            }
        }
    }

    /// What the group's readings come to, or why there is nothing to compare with.
    fn recomputed(&self, result: &ResultSpec) -> Result<Value, ValueVerdict> {
        match self.evaluation.outcome(&result.name) {
            Some(Outcome::Value(v)) => Ok(v),
            Some(Outcome::NotYet { missing }) => Err(ValueVerdict::NotYet { missing }),
            Some(Outcome::Failed(failure)) => Err(ValueVerdict::NoValue { reason: failure.to_string() }),
            Some(Outcome::Series(_)) | None => {
                Err(ValueVerdict::NoValue { reason: "the sheet has no such result".into() })
            }
        }
    }

    fn number(&mut self, result: &ResultSpec, answer: &Answer, typed: Decimal, expected: &Value) -> Verdict {
        let beside = (expected.value, precision_by(result.digits, expected, &result.unit));
        let (unit, read_in) = judge_unit(result, answer, typed, beside);
        let mut value = judge_value(result, typed, &read_in, beside);
        if value == ValueVerdict::Wrong && self.is_legitimate(result, typed, &read_in, expected.precision) {
            value = ValueVerdict::Right;
        }
        let mut digits_of = expected.clone();
        let mut diagnosis = Diagnosis::default();
        if value == ValueVerdict::Wrong {
            if let Some((origins, own)) = self.carried_forward(result, typed, &read_in) {
                // Right with its own rounding of earlier right answers is simply right.
                value = if origins.is_empty() { ValueVerdict::Right } else { ValueVerdict::CarriedForward { origins } };
                (digits_of.value, digits_of.precision) = own;
            } else {
                diagnosis = self.explain(result, typed, &read_in, expected.precision.figures());
            }
        }
        let good = matches!(value, ValueVerdict::Right | ValueVerdict::CarriedForward { .. });
        let good_by_itself = value == ValueVerdict::Right;
        let digits = if good {
            judge_digits(self.practical, result, typed, &read_in, &digits_of)
        } else {
            DigitsVerdict::NotJudged
        };
        self.earlier.push(Earlier {
            result: result.name.clone(),
            own: Substitute {
                value: read_in.to_base(typed.to_f64()),
                precision: Precision::of(typed, &read_in, self.practical.school.whole_numbers),
            },
            right: value == ValueVerdict::Right,
        });
        let answered = read_in.to_base(typed.to_f64());
        let absurd = !good_by_itself && is_absurd(self.practical, result, answered, expected.value);
        let comparison = comparison(result, typed, &read_in, expected.value);
        Verdict::new((value, unit, digits), absurd, Some(comparison), diagnosis)
    }

    /// Whether another concordant set than the best one makes this answer: two sets that agree are both legitimate.
    fn is_legitimate(&self, result: &ResultSpec, typed: Decimal, unit: &Unit, precision: Precision) -> bool {
        let program = &self.practical.program;
        let mut otherwise = self.plain.clone();
        program.places(&result.name, &[]).into_iter().any(|place| {
            otherwise.agreeing_sets(place).into_iter().any(|set| {
                let change = Change { place, act: Act::MeanOf(set) };
                let value = otherwise.value(&result.name, &[change]);
                value.is_some_and(|v| judge_value(result, typed, unit, (v, precision)) == ValueVerdict::Right)
            })
        })
    }

    /// The earlier answers that, put in together, make this one right: those of them that are wrong, and the value that
    /// follows from them with its digits.
    fn carried_forward(
        &self,
        result: &ResultSpec,
        typed: Decimal,
        unit: &Unit,
    ) -> Option<(Vec<String>, (f64, Precision))> {
        let count = self.earlier.len();
        // At most a handful of results are asked for; beyond that only all of them together are tried.
        let (first, last) = if count <= MOST_SUBSETS { (1, (1usize << count) - 1) } else { (usize::MAX, usize::MAX) };
        let plain = self.plain.plain(self.practical.program.place_of(&result.name)?);
        for subset in first..=last {
            let chosen: Vec<&Earlier> =
                self.earlier.iter().enumerate().filter(|(i, _)| subset >> (i % 64) & 1 == 1).map(|(_, e)| e).collect();
            let own = self.with(&chosen);
            let evaluation = self.practical.program.evaluate(&own);
            let Some(Outcome::Value(v)) = evaluation.outcome(&result.name) else { continue };
            if Some(v.value) != plain && judge_value(result, typed, unit, (v.value, v.precision)) == ValueVerdict::Right
            {
                let origins = chosen.iter().filter(|e| !e.right).map(|e| e.result.clone()).collect();
                return Some((origins, (v.value, v.precision)));
            }
        }
        None
    }

    /// The group's numbers with these answers put in.
    pub(super) fn with(&self, earlier: &[&Earlier]) -> Inputs {
        let mut own = self.evaluation.inputs().clone();
        own.substituted = earlier.iter().map(|e| (e.result.clone(), e.own)).collect();
        own
    }

    fn explain(&mut self, result: &ResultSpec, typed: Decimal, unit: &Unit, wanted: Option<u32>) -> Diagnosis {
        let earlier: Vec<&Earlier> = self.earlier.iter().collect();
        let wrong: Vec<&Earlier> = self.earlier.iter().filter(|e| !e.right).collect();
        let cuts: Vec<&str> = earlier.iter().map(|e| e.result.as_str()).collect();
        let program = &self.practical.program;
        // With its own earlier answers as written, with the wrong ones only; or from the readings alone.
        let (as_written, wrong_only) = (self.with(&earlier), self.with(&wrong));
        let mut starts = vec![Otherwise::new(program, &as_written)];
        if !earlier.is_empty() {
            starts.push(Otherwise::new(program, &wrong_only));
        }
        let mut ways = vec![Way { starts, cuts, weight: 1.0, already: Vec::new() }];
        if !earlier.is_empty() {
            let starts = vec![self.plain.clone()];
            ways.push(Way { starts, cuts: Vec::new(), weight: FROM_THE_START, already: Vec::new() });
        }
        // What was done otherwise before may be done so again where the own result does not lead on.
        if !self.established.is_empty() {
            let already = self.established.iter().flat_map(|e| e.changes.clone()).collect();
            ways.push(Way { starts: vec![self.plain.clone()], cuts: Vec::new(), weight: 1.0, already });
        }
        let (diagnosis, established) = diagnose(self, result, typed, unit, wanted, &mut ways);
        self.established.extend(established);
        diagnosis
    }
}

/// How likely it is that somebody who has answered what comes before goes back to the readings for the next sum, and slips
/// on a part that was right there: a guess, rather too small than too large.
const FROM_THE_START: f64 = 0.08;

fn unjudged(value: ValueVerdict) -> Verdict {
    Verdict::new((value, UnitVerdict::Right, DigitsVerdict::NotJudged), false, None, Diagnosis::default())
}
