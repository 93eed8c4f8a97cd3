//! All answers of one sheet, in the order in which they are asked.

use super::carried::Carried;
use super::diagnosis::{Way, diagnose};
use super::formulas;
use super::judge::{comparison, is_absurd, judge_digits, judge_unit, judge_value, precision_by};
use super::on_the_way::{Earlier, Own, Put, Sums};
use super::verdict::{Diagnosis, DigitsVerdict, UnitVerdict, ValueVerdict, Verdict};
use crate::bench::{Answer, Said, UnitGiven};
use crate::evaluated::Evaluated;
use chem::Formula;
use measure::{Decimal, Unit};
use practical::ResultSpec;
use practical::slip::{Level, Slip};
use sheet::{Act, Change, Otherwise, Outcome, Precision, Substitute, Value};
use std::collections::BTreeMap;

impl Evaluated<'_> {
    /// The judgement on every answer, in the order in which they are asked.
    #[must_use]
    pub fn checked(&self, answers: &BTreeMap<String, Answer>) -> BTreeMap<String, Verdict> {
        let mut sums = self.sums();
        let asked = self.practical.results.iter().filter_map(|r| Some((r, answers.get(&r.name)?)));
        asked.map(|(result, answer)| (result.name.clone(), sums.check(result, answer))).collect()
    }

    /// The way through a sheet of answers, before the first of them.
    pub(super) fn sums(&self) -> Sums<'_> {
        let Evaluated { practical, readings, evaluation, .. } = self;
        let plain = Otherwise::new(&practical.program, evaluation.inputs());
        Sums { practical, readings, evaluation, plain, earlier: Vec::new(), established: Vec::new() }
    }

    /// Where common slips would put a result, as a part of the right value, each once and nearest to right first: the
    /// labelled ticks of a spectrum.
    #[must_use]
    pub fn ticks(&self, result: &str) -> Vec<(Slip, f64)> {
        let Some(could) = self.could_answer(result, &BTreeMap::new()).filter(|c| c.follows != 0.0) else {
            return Vec::new();
        };
        let mut ticks: Vec<(Slip, f64)> = Vec::new();
        // A slip of reading may be anywhere; the ticks are for slips of thought.
        for made in could.slips.iter().filter(|m| m.slip.prior() >= 2.0 && m.slip.level() != Level::Reading) {
            let ratio = made.value / could.follows;
            let shows = ratio.is_finite() && ratio > 0.0 && (ratio - 1.0).abs() > 0.02;
            if shows && !ticks.iter().any(|(s, _)| *s == made.slip) {
                ticks.push((made.slip, ratio));
            }
        }
        ticks.sort_by(|a, b| a.1.ln().abs().total_cmp(&b.1.ln().abs()));
        ticks
    }
}

impl Sums<'_> {
    pub(super) fn check(&mut self, result: &ResultSpec, answer: &Answer) -> Verdict {
        let said = match answer.read(self.practical, result) {
            Ok(said) => said,
            Err(why) => return unjudged(ValueVerdict::NoValue { reason: why.to_string() }),
        };
        match (said, self.recomputed(result)) {
            (Said::Words, _) => unjudged(ValueVerdict::ToRead),
            // Amounts that are no formula within their scatter may be near the one that is declared.
            (Said::Formula(formula), Ok(_) | Err(ValueVerdict::NoValue { .. })) => self.formula(result, &formula),
            // Where the readings admit nothing, what follows from an earlier answer is right all the same.
            (Said::Number(typed, given), Err(none @ ValueVerdict::NoValue { .. })) => {
                self.follows_without_readings(result, typed, &given).unwrap_or_else(|| unjudged(none))
            }
            (_, Err(value)) => unjudged(value),
            (Said::Number(typed, given), Ok(expected)) => self.number(result, typed, &given, &expected),
            (Said::Reagent(chosen), Ok(_)) => self.reagent(result, chosen),
        }
    }

    fn formula(&mut self, result: &ResultSpec, typed: &Formula) -> Verdict {
        let (value, diagnosis) = formulas::judge(self, result, typed);
        if let Ok(own) = Substitute::formula(typed, &self.practical.school.atomic_masses) {
            self.keep(result, vec![Own { put: Put::Value(own), right: value == ValueVerdict::Right }]);
        }
        Verdict { diagnosis, ..unjudged(value) }
    }

    fn reagent(&mut self, result: &ResultSpec, chosen: usize) -> Verdict {
        let (value, diagnosis) = formulas::limiting(self, result, chosen);
        if let Some(place) = self.practical.program.place_of(&result.name) {
            let put = Put::Choice(Change { place, act: Act::Extent(chosen) });
            self.keep(result, vec![Own { put, right: value == ValueVerdict::Right }]);
        }
        Verdict { diagnosis, ..unjudged(value) }
    }

    fn keep(&mut self, result: &ResultSpec, ways: Vec<Own>) {
        let aliases = self.aliases(&result.name);
        self.earlier.push(Earlier { result: result.name.clone(), aliases, ways });
    }

    /// What the group's readings come to, or why there is nothing to compare with.
    pub(super) fn recomputed(&self, result: &ResultSpec) -> Result<Value, ValueVerdict> {
        match self.evaluation.outcome(&result.name) {
            Some(Outcome::Value(v)) => Ok(v),
            Some(Outcome::NotYet { missing }) => Err(ValueVerdict::NotYet { missing }),
            Some(Outcome::Failed(failure)) => Err(ValueVerdict::NoValue { reason: failure.to_string() }),
            Some(Outcome::Series(_)) | None => {
                Err(ValueVerdict::NoValue { reason: "the sheet has no such result".into() })
            }
        }
    }

    fn number(&mut self, result: &ResultSpec, typed: Decimal, given: &UnitGiven, expected: &Value) -> Verdict {
        let beside = (expected.value, precision_by(result.digits, expected, &result.unit));
        let (mut unit, mut read_in) = judge_unit(result, given, typed, beside);
        let mut value = judge_value(result, typed, &read_in, beside);
        if value == ValueVerdict::Wrong
            && (self.is_legitimate(result, typed, &read_in, expected.precision)
                || self.is_error_of_a_right_value(result, typed, &read_in))
        {
            value = ValueVerdict::Right;
        }
        let mut digits_of = expected.clone();
        let mut diagnosis = Diagnosis::default();
        if value == ValueVerdict::Wrong {
            if let Some(carried) = self.carried_forward(result, typed, given) {
                value = carried.verdict();
                (digits_of.value, digits_of.precision) = carried.value;
                (unit, read_in) = (carried.unit, carried.read_in);
            } else {
                diagnosis = self.explain(result, typed, &read_in, expected.precision.figures());
            }
        }
        let good = matches!(value, ValueVerdict::Right | ValueVerdict::CarriedForward { .. });
        let digits = if good {
            judge_digits(self.practical, result, typed, &read_in, &digits_of)
        } else {
            DigitsVerdict::NotJudged
        };
        let right = value == ValueVerdict::Right;
        self.keep(result, self.ways_from(typed, given, &read_in, right));
        let answered = read_in.to_base(typed.to_f64());
        let absurd = !right && is_absurd(self.practical, result, answered, expected.value);
        let comparison = comparison(result, typed, &read_in, expected.value);
        Verdict::new((value, unit, digits), absurd, Some(comparison), diagnosis)
    }

    /// An answer as it was meant, and as it was written where the unit beside it is another one.
    fn ways_from(&self, typed: Decimal, given: &UnitGiven, read_in: &Unit, right: bool) -> Vec<Own> {
        let put = |unit: &Unit| {
            let precision = Precision::of(typed, unit, self.practical.school.whole_numbers);
            Put::Value(Substitute { value: unit.to_base(typed.to_f64()), precision })
        };
        let mut ways = vec![Own { put: put(read_in), right }];
        if let UnitGiven::Known(written) = given
            && written.dimension() == read_in.dimension()
            && !written.same_as(read_in)
        {
            ways.push(Own { put: put(written), right: false });
        }
        ways
    }

    /// A number where the readings admit none: right where it follows from the group's own earlier answers.
    fn follows_without_readings(&mut self, result: &ResultSpec, typed: Decimal, given: &UnitGiven) -> Option<Verdict> {
        let carried = self.carried_forward(result, typed, given)?;
        let (verdict, right) = (carried.verdict(), carried.origins.is_empty());
        let Carried { value, unit, read_in, .. } = carried;
        self.keep(result, self.ways_from(typed, given, &read_in, right));
        let compared = comparison(result, typed, &read_in, value.0);
        Some(Verdict::new((verdict, unit, DigitsVerdict::NotJudged), false, Some(compared), Diagnosis::default()))
    }

    fn explain(&mut self, result: &ResultSpec, typed: Decimal, unit: &Unit, wanted: Option<u32>) -> Diagnosis {
        let program = &self.practical.program;
        let cuts = self.gone_on_from();
        // With its own earlier answers as written, with the wrong ones only; or from the readings alone.
        let ((as_written, chosen), (wrong_only, _)) =
            (self.with(&self.likeliest(|_| true)), self.with(&self.likeliest(|e| !e.is_right())));
        let mut starts = vec![Otherwise::new(program, &as_written)];
        if !self.earlier.is_empty() {
            starts.push(Otherwise::new(program, &wrong_only));
        }
        let mut ways = vec![Way { starts, cuts, weight: 1.0, already: chosen.clone() }];
        if !self.earlier.is_empty() {
            let starts = vec![self.plain.clone()];
            ways.push(Way { starts, cuts: Vec::new(), weight: FROM_THE_START, already: chosen });
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
