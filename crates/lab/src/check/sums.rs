//! All answers of one sheet, in the order in which they are asked.

use super::diagnosis::{Way, diagnose};
use super::formulas;
use super::judge::{comparison, is_absurd, judge_digits, judge_unit, judge_value, precision_by};
use super::on_the_way::{Chosen, Earlier, Own, Put, Sums};
use super::reach::{Made, Reach};
use super::verdict::{Diagnosis, DigitsVerdict, UnitVerdict, ValueVerdict, Verdict};
use crate::bench::{Answer, Said, UnitGiven};
use crate::evaluated::Evaluated;
use chem::Formula;
use measure::{Decimal, Unit};
use practical::file::Method;
use practical::slip::{Level, Slip};
use practical::{ResultSpec, SheetRole};
use sheet::{Act, Change, Leaf, Otherwise, Outcome, Precision, Substitute, Value, Work};
use std::collections::BTreeMap;

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
        self.earlier.push(Earlier { result: result.name.clone(), ways });
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

    /// Whether another choice that is as good makes this answer: another set of titres that agree, another reagent whose
    /// extent is the smallest within its uncertainty.
    fn is_legitimate(&self, result: &ResultSpec, typed: Decimal, unit: &Unit, precision: Precision) -> bool {
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

    /// A percent error of what was found within its own tolerance: near zero, another table of atomic masses is a large part
    /// of it.
    fn is_error_of_a_right_value(&self, result: &ResultSpec, typed: Decimal, unit: &Unit) -> bool {
        let errors = self.practical.file.methods.iter().filter_map(|m| {
            let Method::PercentError { found, .. } = m else { return None };
            Some(found)
        });
        let answered = unit.to_base(typed.to_f64());
        let half = 0.5 * unit.difference_to_base(10f64.powi(typed.last_place()));
        self.practical.roles.has(&result.name, SheetRole::PercentError)
            && errors.filter_map(|found| self.practical.result(found)).any(|found| {
                let mut otherwise = self.plain.clone();
                let place = self.practical.program.place_of(&found.name);
                let Some((place, value)) = place.and_then(|p| Some((p, self.plain.plain(p)?))) else { return false };
                let off = found.tolerance.around(value, 0.0);
                let ends: Vec<f64> = [-off, off]
                    .into_iter()
                    .filter_map(|d| otherwise.value(&result.name, &[Change { place, act: Act::Number(value + d) }]))
                    .collect();
                let low = ends.iter().copied().fold(f64::INFINITY, f64::min);
                let high = ends.iter().copied().fold(f64::NEG_INFINITY, f64::max);
                (low - half..=high + half).contains(&answered)
            })
    }

    /// The earlier answers that, put in together, make this one right.
    fn carried_forward(&self, result: &ResultSpec, typed: Decimal, given: &UnitGiven) -> Option<Carried> {
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
        let [(earlier, Own { put: Put::Value(own), .. })] = chosen[..] else { return None };
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

    fn explain(&mut self, result: &ResultSpec, typed: Decimal, unit: &Unit, wanted: Option<u32>) -> Diagnosis {
        let program = &self.practical.program;
        let all = |wanted: &dyn Fn(&Earlier) -> bool| -> Chosen<'_> {
            let some = self.earlier.iter().filter(|e| wanted(e));
            some.filter_map(|e| Some((e.result.as_str(), e.ways.first()?))).collect()
        };
        let cuts: Vec<&str> =
            self.earlier.iter().filter(|e| e.ways.iter().any(Own::is_value)).map(|e| e.result.as_str()).collect();
        // With its own earlier answers as written, with the wrong ones only; or from the readings alone.
        let ((as_written, chosen), (wrong_only, _)) = (self.with(&all(&|_| true)), self.with(&all(&|e| !e.is_right())));
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

/// An answer that follows from earlier ones.
struct Carried {
    /// Those of them that are wrong.
    origins: Vec<String>,
    /// What follows from them, with its digits.
    value: (f64, Precision),
    unit: UnitVerdict,
    read_in: Unit,
}

impl Carried {
    /// Right with one's own rounding of earlier right answers is simply right.
    fn verdict(&self) -> ValueVerdict {
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

/// How likely it is that somebody who has answered what comes before goes back to the readings for the next sum, and slips
/// on a part that was right there: a guess, rather too small than too large.
const FROM_THE_START: f64 = 0.08;

fn unjudged(value: ValueVerdict) -> Verdict {
    Verdict::new((value, UnitVerdict::Right, DigitsVerdict::NotJudged), false, None, Diagnosis::default())
}
