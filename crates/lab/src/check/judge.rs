//! A number judged on value, unit and digits apart.
//!
//! An answer is the interval that its typed digits mean (half a unit of the last digit either way), and is right when
//! that interval, widened by the practical's tolerance, holds the value recomputed from the group's own readings. The
//! interval is capped: "6 g" for 6.16 g is too few digits to judge, not a lucky hit. What has the digits that are asked for
//! is never too few to judge, however near to zero it lies.

use super::verdict::{Comparison, DigitsVerdict, UnitVerdict, ValueVerdict, WrittenBy};
use crate::bench::UnitGiven;
use measure::rounding::{Ties, WholeNumbers, decimal_of, figures};
use measure::{Decimal, Unit};
use practical::file::DigitsPolicy;
use practical::{Practical, ResultSpec};
use sheet::{Precision, Value};

/// A half-width wider than this part of the value is too few digits to judge.
const WIDEST: f64 = 0.04;

/// The unit verdict, and the unit in which the number is to be read.
pub(super) fn judge_unit(
    result: &ResultSpec,
    given: &UnitGiven,
    typed: Decimal,
    (expected, precision): (f64, Precision),
) -> (UnitVerdict, Unit) {
    let chosen = match given {
        UnitGiven::Missing => return (UnitVerdict::Missing, result.unit.clone()),
        UnitGiven::Unknown(typed) => return (UnitVerdict::Unknown { typed: typed.clone() }, result.unit.clone()),
        UnitGiven::Known(unit) => unit.clone(),
    };
    let wrong = |fits: &Unit| (UnitVerdict::Wrong { fits: fits.written().to_owned() }, fits.clone());
    if chosen.dimension() != result.unit.dimension() {
        return wrong(&result.unit);
    }
    let right = |unit: &Unit| judge_value(result, typed, unit, (expected, precision)) == ValueVerdict::Right;
    if right(&chosen) {
        return (UnitVerdict::Right, chosen);
    }
    // 0.0250 with mmol beside it: the number is right, in mol.
    let one = Unit::one();
    let others = result.units.iter().chain([&result.unit, &one]).filter(|u| u.dimension() == chosen.dimension());
    let meant = others.filter(|u| !u.same_as(&chosen)).find(|u| right(u));
    meant.map_or((UnitVerdict::Right, chosen), wrong)
}

/// The judgement on a number beside the value expected, with what that value's digits mean.
pub(super) fn judge_value(
    result: &ResultSpec,
    typed: Decimal,
    unit: &Unit,
    (expected, precision): (f64, Precision),
) -> ValueVerdict {
    let answered = unit.to_base(typed.to_f64());
    let half_width = unit.difference_to_base(half_unit(typed));
    let wide = half_width > WIDEST * answered.abs().max(expected.abs());
    // Nothing is nothing, to however many places it is written.
    let nothing = answered == 0.0 && precision.last_place().is_some_and(|place| expected.abs() < 0.5 * place);
    if wide && !nothing && !has_the_digits(result, typed, unit, precision) {
        return ValueVerdict::TooFewDigits;
    }
    // The last factor keeps an answer on the very edge of the interval in, whatever binary fractions do.
    let allowed = (half_width + result.tolerance.around(expected, 2.0 * half_width)) * (1.0 + 1e-9);
    let cut_off = || {
        // What was cut off lies between nothing and one unit of the last digit, towards zero.
        let missing = (expected.abs() - answered.abs()) * expected.signum() * answered.signum();
        result.truncated_counts && (0.0..2.0 * half_width * (1.0 + 1e-9)).contains(&missing)
    };
    // 1000 mg for 1.02 g with two figures: the zeros hold the place, and it is what the program would write there.
    let as_written = |ties| decimal_of(unit.from_base(expected)).map(|d| precision.rounded(d, unit, ties).to_f64());
    let rounded = [Ties::HalfUp, Ties::HalfEven].into_iter().any(|ties| as_written(ties) == Some(typed.to_f64()));
    if (answered - expected).abs() <= allowed || cut_off() || rounded {
        ValueVerdict::Right
    } else {
        ValueVerdict::Wrong
    }
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

/// Whether a number has the digits that are asked for, by its figures or by its last place.
fn has_the_digits(result: &ResultSpec, typed: Decimal, unit: &Unit, precision: Precision) -> bool {
    let most = figures_at_most(typed);
    let by_policy = match result.digits {
        DigitsPolicy::Exactly(n) => most >= n,
        DigitsPolicy::AtLeastTwo => most >= 2,
        DigitsPolicy::AsFewest | DigitsPolicy::AsFewestWithinOne | DigitsPolicy::ToUncertainty => false,
    };
    let by_figures = precision.figures().is_some_and(|wanted| most >= wanted);
    by_policy || by_figures || finer(typed, unit, precision).is_some_and(|places| places >= 0)
}

/// Figures that a number claims by its most generous reading: `100` may be three.
fn figures_at_most(typed: Decimal) -> u32 {
    u32::try_from(typed.digits().len()).unwrap_or(u32::MAX)
}

/// By how many places the last digit stands behind that of the recomputed value; below zero before it.
fn finer(typed: Decimal, unit: &Unit, precision: Precision) -> Option<i32> {
    let place = unit.difference_to_base(10f64.powi(typed.last_place()));
    #[expect(clippy::cast_possible_truncation, reason = "log10 of a double is a few hundred")]
    let places = (precision.last_place()? / place).log10().round() as i32;
    Some(places)
}

/// The digits of a right number, by the rules of the school: as it writes results, or right as another does.
pub(super) fn judge_digits(
    practical: &Practical,
    result: &ResultSpec,
    typed: Decimal,
    unit: &Unit,
    expected: &Value,
) -> DigitsVerdict {
    let by = |policy| {
        let precision = precision_by(policy, expected, &result.unit);
        digits_by(policy, practical.school.whole_numbers, typed, unit, precision)
    };
    let precision = precision_by(result.digits, expected, &result.unit);
    let written = |ties| decimal_of(unit.from_base(expected.value)).map(|d| precision.rounded(d, unit, ties));
    let fives = practical.school.fives;
    let is = |shown: Option<Decimal>| shown.is_some_and(|s| s.to_string() == typed.to_string());
    let exactly = matches!(result.digits, DigitsPolicy::Exactly(_));
    let elsewhere = |rule| {
        let here = written(fives).map_or_else(String::new, |d| d.to_string());
        DigitsVerdict::ByAnotherSchool { rule, here }
    };
    // What the program shows, it takes.
    if !exactly && is(written(fives)) {
        return DigitsVerdict::Right;
    }
    let other_way = match fives {
        Ties::HalfUp => Ties::HalfEven,
        Ties::HalfEven => Ties::HalfUp,
    };
    if !exactly && is(written(other_way)) {
        return elsewhere(WrittenBy::Fives);
    }
    let own = by(result.digits);
    let another = match result.digits {
        DigitsPolicy::AsFewest => DigitsPolicy::ToUncertainty,
        DigitsPolicy::ToUncertainty => DigitsPolicy::AsFewest,
        DigitsPolicy::AsFewestWithinOne | DigitsPolicy::AtLeastTwo | DigitsPolicy::Exactly(_) => return own,
    };
    let wrong = matches!(own, DigitsVerdict::TooMany { .. } | DigitsVerdict::TooFew { .. });
    if wrong && by(another) == DigitsVerdict::Right { elsewhere(WrittenBy::Digits) } else { own }
}

/// What the digits of a recomputed value claim, by how a result is written.
pub(crate) fn precision_by(policy: DigitsPolicy, value: &Value, unit: &Unit) -> Precision {
    match policy {
        DigitsPolicy::ToUncertainty => {
            Precision::by_uncertainty(value.value, value.standard_uncertainty, unit).unwrap_or(value.precision)
        }
        DigitsPolicy::AsFewest
        | DigitsPolicy::AsFewestWithinOne
        | DigitsPolicy::AtLeastTwo
        | DigitsPolicy::Exactly(_) => value.precision,
    }
}

/// Digits are too many, or too few, where figures and last place both say so. One more than the fewest is a guard digit and
/// no fault.
fn digits_by(
    policy: DigitsPolicy,
    zeros: WholeNumbers,
    typed: Decimal,
    unit: &Unit,
    precision: Precision,
) -> DigitsVerdict {
    let Some(least) = typed.significant_figures() else { return DigitsVerdict::NotJudged };
    let most = figures_at_most(typed);
    match zeros {
        WholeNumbers::PlaceHolders => digits_of(policy, (typed, least), unit, precision),
        WholeNumbers::Counted => digits_of(policy, (typed, most), unit, precision),
        WholeNumbers::Ambiguous => {
            let (few, many) =
                (digits_of(policy, (typed, least), unit, precision), digits_of(policy, (typed, most), unit, precision));
            if std::mem::discriminant(&few) == std::mem::discriminant(&many) {
                many
            } else {
                DigitsVerdict::Ambiguous { least, most }
            }
        }
    }
}

/// The same, of a number with so many figures.
fn digits_of(
    policy: DigitsPolicy,
    (typed, figures): (Decimal, u32),
    unit: &Unit,
    precision: Precision,
) -> DigitsVerdict {
    let (wanted, more, fewer) = match (policy, precision.figures()) {
        (DigitsPolicy::Exactly(n), _) => (n, 0, 0),
        (_, None) => return DigitsVerdict::NotJudged,
        (DigitsPolicy::AtLeastTwo, Some(_)) => (2, u32::MAX - 2, 0),
        (DigitsPolicy::AsFewest | DigitsPolicy::ToUncertainty, Some(wanted)) => (wanted, 1, 0),
        (DigitsPolicy::AsFewestWithinOne, Some(wanted)) => (wanted, 1, 1),
    };
    let exactly = matches!(policy, DigitsPolicy::Exactly(_));
    let place = finer(typed, unit, precision).filter(|_| !exactly).map(i64::from);
    if figures > wanted + more && place.is_none_or(|p| p > i64::from(more)) {
        DigitsVerdict::TooMany { typed: figures, wanted }
    } else if figures + fewer < wanted && place.is_none_or(|p| -p > i64::from(fewer)) {
        DigitsVerdict::TooFew { typed: figures, wanted }
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
