//! A number judged on value, unit and digits apart.
//!
//! An answer is the interval that its typed digits mean (half a unit of the last digit either way), and is right when
//! that interval, widened by the practical's tolerance, holds the value recomputed from the group's own readings. The
//! interval is capped: "6 g" for 6.16 g is too few digits to judge, not a lucky hit.

use super::verdict::{Comparison, DigitsVerdict, UnitVerdict, ValueVerdict};
use crate::bench::Answer;
use measure::rounding::figures;
use measure::{Decimal, Unit};
use practical::file::DigitsPolicy;
use practical::{Practical, ResultSpec};
use sheet::Precision;

/// A half-width wider than this part of the value is too few digits to judge.
const WIDEST: f64 = 0.04;

/// The unit verdict, and the unit in which the number is to be read.
pub(super) fn judge_unit(result: &ResultSpec, answer: &Answer, typed: Decimal, expected: f64) -> (UnitVerdict, Unit) {
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

pub(super) fn judge_value(result: &ResultSpec, typed: Decimal, unit: &Unit, expected: f64) -> ValueVerdict {
    let answered = unit.to_base(typed.to_f64());
    let half_width = unit.difference_to_base(half_unit(typed));
    if half_width > WIDEST * answered.abs().max(expected.abs()) {
        return ValueVerdict::TooFewDigits;
    }
    // The last factor keeps an answer on the very edge of the interval in, whatever binary fractions do.
    let allowed = (half_width + result.tolerance.around(expected, 2.0 * half_width)) * (1.0 + 1e-9);
    let cut_off = || {
        // What was cut off lies between nothing and one unit of the last digit, towards zero.
        let missing = (expected.abs() - answered.abs()) * expected.signum() * answered.signum();
        result.truncated_counts && (0.0..2.0 * half_width * (1.0 + 1e-9)).contains(&missing)
    };
    if (answered - expected).abs() <= allowed || cut_off() { ValueVerdict::Right } else { ValueVerdict::Wrong }
}

/// A part above this of its whole cannot be explained by what clings to it.
const BEYOND_A_WHOLE: f64 = 1.5;
/// So many times more or less than what was recomputed is seen without a sum.
const FAR_OFF: f64 = 10.0;

/// Whether no result can be so, whatever led to it: a yield of 900 %, less than nothing, ten times out.
pub(super) fn is_absurd(practical: &Practical, result: &ResultSpec, answered: f64, expected: f64) -> bool {
    let beyond = practical.is_part_of_a_whole(&result.name) && answered > BEYOND_A_WHOLE;
    let below_nothing = answered < 0.0 && expected > 0.0;
    let times = (answered / expected).abs();
    beyond || below_nothing || (expected != 0.0 && !(1.0 / FAR_OFF..=FAR_OFF).contains(&times))
}

fn half_unit(typed: Decimal) -> f64 {
    0.5 * 10f64.powi(typed.last_place())
}

pub(super) fn judge_digits(result: &ResultSpec, typed: Decimal, precision: Precision) -> DigitsVerdict {
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

pub(super) fn comparison(result: &ResultSpec, typed: Decimal, unit: &Unit, expected: f64) -> Comparison {
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
