//! A group's own answers, judged on value, unit and digits apart.
//!
//! An answer is the interval that its typed digits mean (half a unit of the last digit either way), and is right when
//! that interval, widened by the practical's tolerance, holds the value recomputed from the group's own readings. The
//! interval is capped: "6 g" for 6.16 g is too few digits to judge, not a lucky hit.
//!
//! *Error carried forward*: a wrong answer that is right with the group's own earlier answers put in costs nothing
//! here; the mark is lost once, where it went wrong.

use crate::practical::file::DigitsPolicy;
use crate::practical::{Practical, ResultSpec};
use measure::rounding::figures;
use measure::{Decimal, Unit};
use serde::{Deserialize, Serialize};
use sheet::{Evaluation, Inputs, Outcome, Precision, Substitute};
use std::collections::BTreeMap;

/// An answer as a group sent it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Answer {
    /// The number as typed.
    pub text: String,
    /// The unit as chosen; empty if none was.
    pub unit: String,
}

/// What checking one answer showed. Value, unit and digits are judged apart.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Verdict {
    /// Is the number right?
    pub value: ValueVerdict,
    /// Is the unit?
    pub unit: UnitVerdict,
    /// Are the digits?
    pub digits: DigitsVerdict,
    /// Where the answer and the recomputed value lie; none while there is nothing to compare with.
    pub comparison: Option<Comparison>,
}

/// The judgement on a number.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum ValueVerdict {
    /// A reading it hangs on is missing.
    NotYet {
        /// Symbols, in bench order.
        missing: Vec<String>,
    },
    /// The readings admit no value to compare with.
    NoValue {
        /// Why.
        reason: String,
    },
    /// The interval that the typed digits mean holds the recomputed value.
    Right,
    /// Right with the group's own earlier answers put in: the mark is lost once, there.
    CarriedForward {
        /// Results where it went wrong.
        origins: Vec<String>,
    },
    /// The typed digits would fit too much to say.
    TooFewDigits,
    /// None of these.
    Wrong,
}

/// The judgement on a unit.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum UnitVerdict {
    /// It measures what was asked for.
    Right,
    /// None was chosen.
    Missing,
    /// It measures something else, or the number is right in another unit.
    Wrong {
        /// The unit in which the number would stand.
        fits: String,
    },
}

/// The judgement on the number of significant figures.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum DigitsVerdict {
    /// As many as the readings allow.
    Right,
    /// More than the readings allow.
    TooMany {
        /// Figures typed.
        typed: u32,
        /// Figures earned.
        wanted: u32,
    },
    /// Fewer than the readings allow.
    TooFew {
        /// Figures typed.
        typed: u32,
        /// Figures earned.
        wanted: u32,
    },
    /// There is nothing to hold them against, or the number is not right in the first place.
    NotJudged,
}

/// The answer beside the recomputed value, in the unit asked for.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Comparison {
    /// The answer.
    pub answered: f64,
    /// Half a unit of its last digit.
    pub half_width: f64,
    /// The recomputed value.
    pub expected: f64,
    /// How far an answer may be off, either way.
    pub tolerance: f64,
    /// Answer over recomputed value.
    pub ratio: f64,
    /// The same, written to three figures.
    pub ratio_shown: String,
}

/// A half-width wider than this part of the value is too few digits to judge.
const WIDEST: f64 = 0.04;

/// The judgement on `answer` to `result`, given the sheet's inputs and the group's answers to all results.
#[must_use]
pub fn check(
    practical: &Practical,
    result: &ResultSpec,
    answer: &Answer,
    inputs: &Inputs,
    answers: &BTreeMap<String, Answer>,
) -> Verdict {
    let unjudged =
        |value| Verdict { value, unit: UnitVerdict::Right, digits: DigitsVerdict::NotJudged, comparison: None };
    let Ok(typed) = Decimal::parse(&answer.text) else {
        return unjudged(ValueVerdict::NoValue { reason: "the answer is no number".into() });
    };
    let evaluation = practical.program.evaluate(inputs);
    let expected = match evaluation.outcome(&result.name) {
        Some(Outcome::Value(v)) => v,
        Some(Outcome::NotYet { missing }) => return unjudged(ValueVerdict::NotYet { missing }),
        Some(Outcome::Failed(failure)) => return unjudged(ValueVerdict::NoValue { reason: failure.to_string() }),
        Some(Outcome::Series(_)) | None => {
            return unjudged(ValueVerdict::NoValue { reason: "the sheet has no such result".into() });
        }
    };
    let (unit, read_in) = judge_unit(result, answer, typed, expected.value);
    let mut value = judge_value(result, typed, &read_in, expected.value);
    if matches!(value, ValueVerdict::Wrong) {
        let origins = carried_forward(practical, result, typed, &read_in, inputs, answers, &evaluation);
        if let Some(origins) = origins {
            value = ValueVerdict::CarriedForward { origins };
        }
    }
    let good = matches!(value, ValueVerdict::Right | ValueVerdict::CarriedForward { .. });
    let digits = if good { judge_digits(result, typed, expected.precision) } else { DigitsVerdict::NotJudged };
    Verdict { value, unit, digits, comparison: Some(comparison(result, typed, &read_in, expected.value)) }
}

/// The unit verdict, and the unit in which the number is to be read.
fn judge_unit(result: &ResultSpec, answer: &Answer, typed: Decimal, expected: f64) -> (UnitVerdict, Unit) {
    let chosen = Unit::parse(&answer.unit).ok().filter(|_| !answer.unit.trim().is_empty());
    let Some(chosen) = chosen else { return (UnitVerdict::Missing, result.unit.clone()) };
    let wrong = |fits: &Unit| (UnitVerdict::Wrong { fits: fits.written().to_owned() }, fits.clone());
    if chosen.dimension() != result.unit.dimension() {
        return wrong(&result.unit);
    }
    if judge_value(result, typed, &chosen, expected) == ValueVerdict::Right {
        return (UnitVerdict::Right, chosen);
    }
    // 0.0250 with mmol beside it: the number is right, in mol.
    let one = Unit::one();
    let others = result.units.iter().chain([&result.unit, &one]).filter(|u| u.dimension() == chosen.dimension());
    let meant =
        others.filter(|u| !u.same_as(&chosen)).find(|u| judge_value(result, typed, u, expected) == ValueVerdict::Right);
    meant.map_or((UnitVerdict::Right, chosen), wrong)
}

fn judge_value(result: &ResultSpec, typed: Decimal, unit: &Unit, expected: f64) -> ValueVerdict {
    let answered = unit.to_base(typed.to_f64());
    let half_width = unit.difference_to_base(half_unit(typed));
    if half_width > WIDEST * answered.abs().max(expected.abs()) {
        return ValueVerdict::TooFewDigits;
    }
    // The last factor keeps an answer on the very edge of the interval in, whatever binary fractions do.
    let allowed = (half_width + result.tolerance.around(expected, 2.0 * half_width)) * (1.0 + 1e-9);
    if (answered - expected).abs() <= allowed { ValueVerdict::Right } else { ValueVerdict::Wrong }
}

fn half_unit(typed: Decimal) -> f64 {
    0.5 * 10f64.powi(typed.last_place())
}

/// The wrong earlier results that, put in together or alone, make this answer right.
fn carried_forward(
    practical: &Practical,
    result: &ResultSpec,
    typed: Decimal,
    unit: &Unit,
    inputs: &Inputs,
    answers: &BTreeMap<String, Answer>,
    evaluation: &Evaluation<'_>,
) -> Option<Vec<String>> {
    let earlier: Vec<(&str, Substitute)> = practical
        .results
        .iter()
        .take_while(|r| r.name != result.name)
        .filter(|r| r.asked)
        .filter_map(|r| Some((r.name.as_str(), wrong_answer(r, answers.get(&r.name)?, evaluation)?)))
        .collect();
    // At most a handful of results are asked for; beyond that only all of them together are tried.
    let subsets = if earlier.len() <= 6 { 1..(1usize << earlier.len()) } else { usize::MAX - 1..usize::MAX };
    for subset in subsets {
        let chosen: Vec<_> =
            earlier.iter().enumerate().filter(|(i, _)| subset >> (i % 64) & 1 == 1).map(|(_, e)| e).collect();
        let mut own = inputs.clone();
        own.substituted = chosen.iter().map(|(name, s)| ((*name).to_owned(), *s)).collect();
        let Some(Outcome::Value(v)) = practical.program.evaluate(&own).outcome(&result.name) else { continue };
        let changed = evaluation.outcome(&result.name) != Some(Outcome::Value(v.clone()));
        if changed && judge_value(result, typed, unit, v.value) == ValueVerdict::Right {
            return Some(chosen.iter().map(|(name, _)| (*name).to_owned()).collect());
        }
    }
    None
}

/// An earlier answer that is a number and not right, ready to be put in.
fn wrong_answer(result: &ResultSpec, answer: &Answer, evaluation: &Evaluation<'_>) -> Option<Substitute> {
    let typed = Decimal::parse(&answer.text).ok()?;
    let Some(Outcome::Value(expected)) = evaluation.outcome(&result.name) else { return None };
    let (_, unit) = judge_unit(result, answer, typed, expected.value);
    let right = judge_value(result, typed, &unit, expected.value) == ValueVerdict::Right;
    (!right).then(|| Substitute { value: unit.to_base(typed.to_f64()), precision: Precision::of(typed, &unit) })
}

fn judge_digits(result: &ResultSpec, typed: Decimal, precision: Precision) -> DigitsVerdict {
    let (Some(figures), Some(wanted)) = (typed.significant_figures(), precision.figures()) else {
        return DigitsVerdict::NotJudged;
    };
    // `100` may claim one figure or three: where a reading of it is right, it is right.
    let most = u32::try_from(typed.digits().len()).unwrap_or(figures);
    let slack = match result.digits {
        DigitsPolicy::AsFewest | DigitsPolicy::Exactly(_) | DigitsPolicy::AtLeastTwo => 0,
        DigitsPolicy::AsFewestWithinOne => 1,
    };
    let wanted = match result.digits {
        DigitsPolicy::AsFewest | DigitsPolicy::AsFewestWithinOne => wanted,
        DigitsPolicy::Exactly(n) => n,
        DigitsPolicy::AtLeastTwo => figures.max(2),
    };
    if figures > wanted + slack {
        DigitsVerdict::TooMany { typed: figures, wanted }
    } else if most + slack < wanted {
        DigitsVerdict::TooFew { typed: most, wanted }
    } else {
        DigitsVerdict::Right
    }
}

fn comparison(result: &ResultSpec, typed: Decimal, unit: &Unit, expected: f64) -> Comparison {
    let shown = |base: f64| result.unit.from_base(base);
    let width = |base: f64| result.unit.difference_from_base(base);
    let answered = unit.to_base(typed.to_f64());
    let half = unit.difference_to_base(half_unit(typed));
    let ratio = if expected == 0.0 { f64::MAX } else { answered / expected };
    let ratio_shown = figures(ratio, 3);
    Comparison {
        answered: shown(answered),
        half_width: width(half),
        expected: shown(expected),
        tolerance: width(result.tolerance.around(expected, 2.0 * half)),
        ratio,
        ratio_shown,
    }
}
