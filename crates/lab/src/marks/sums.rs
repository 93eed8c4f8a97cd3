//! Marks for an answer: method, value, unit and digits apart.
//!
//! What is carried forward earns its marks. A slip that was lost once is not lost again. Unit and digits are lost once for a
//! sheet, at the first result at which they go wrong. Marks for the way are given where the number is right or carried
//! forward, and half of them where the one slip on the way is known. Where the practical says so, a right last number earns
//! what was left out on the way to it.
//!
//! Source: usual practice of consequential marking ("error carried forward", one penalty for one error).

use crate::check::{DigitsVerdict, UnitVerdict, ValueVerdict, Verdict};
use practical::file::Marks;
use practical::{Practical, ResultSpec};
use serde::Serialize;
use std::collections::BTreeMap;

/// What a mark is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum MarkKind {
    /// The way.
    Method,
    /// The number.
    Value,
    /// The unit.
    Unit,
    /// The digits.
    Digits,
}

/// What one answer is worth.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Awarded {
    /// For the way.
    pub method: f64,
    /// For the number.
    pub value: f64,
    /// For the unit.
    pub unit: f64,
    /// For the digits.
    pub digits: f64,
}

impl Awarded {
    /// All of them.
    #[must_use]
    pub fn total(&self) -> f64 {
        self.method + self.value + self.unit + self.digits
    }
}

/// Marks for each answer of a sheet, by result; a result without an answer has none.
#[must_use]
pub fn awarded(practical: &Practical, verdicts: &BTreeMap<String, Verdict>) -> BTreeMap<String, Awarded> {
    let (mut unit_lost, mut digits_lost) = (false, false);
    let mut of = |result: &ResultSpec, verdict: &Verdict| {
        let most = result.marks;
        let good = matches!(verdict.value, ValueVerdict::Right | ValueVerdict::CarriedForward { .. });
        let lost_before = verdict.diagnosis.named.first().is_some_and(|e| e.again.is_some());
        let known = !verdict.diagnosis.named.is_empty() || matches!(verdict.value, ValueVerdict::NotReduced { .. });
        let counts = good || lost_before;
        let unit_wrong = verdict.unit != UnitVerdict::Right;
        let digits_wrong = matches!(verdict.digits, DigitsVerdict::TooMany { .. } | DigitsVerdict::TooFew { .. });
        let marks = Awarded {
            method: if counts {
                most.method
            } else if known {
                most.method / 2.0
            } else {
                0.0
            },
            value: if counts { most.value } else { 0.0 },
            unit: if unit_wrong && !unit_lost { 0.0 } else { most.unit },
            digits: if digits_wrong && !digits_lost { 0.0 } else { most.digits },
        };
        unit_lost |= unit_wrong;
        digits_lost |= digits_wrong;
        // Nothing was written that could be judged.
        match verdict.value {
            ValueVerdict::NotYet { .. } | ValueVerdict::NoValue { .. } | ValueVerdict::ToRead => Awarded::default(),
            ValueVerdict::Right
            | ValueVerdict::CarriedForward { .. }
            | ValueVerdict::NotReduced { .. }
            | ValueVerdict::TooFewDigits
            | ValueVerdict::Wrong => marks,
        }
    };
    let mut marks: BTreeMap<String, Awarded> =
        practical.results.iter().filter_map(|r| Some((r.name.clone(), of(r, verdicts.get(&r.name)?)))).collect();
    if practical.file.marking.last_earns_all {
        marks.extend(left_out(practical, verdicts));
    }
    marks
}

/// All marks for the numbers that were left out on the way to a right last one.
fn left_out<'a>(
    practical: &'a Practical,
    verdicts: &'a BTreeMap<String, Verdict>,
) -> impl Iterator<Item = (String, Awarded)> + 'a {
    let asked = || practical.results.iter().filter(|r| r.asked && r.is_worked_out());
    let last = asked().next_back().filter(|r| verdicts.get(&r.name).is_some_and(|v| v.value == ValueVerdict::Right));
    let on_the_way = move |r: &&ResultSpec| last.is_some_and(|l| practical.program.hangs_on(&l.name, &r.name));
    asked().filter(|r| !verdicts.contains_key(&r.name)).filter(on_the_way).map(|r| {
        let Marks { method, value, unit, digits } = r.marks;
        (r.name.clone(), Awarded { method, value, unit, digits })
    })
}
