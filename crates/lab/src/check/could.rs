//! What somebody with these readings could answer who answered so before: the result that follows, and what each slip of the
//! catalogue would make of it.

use super::diagnosis::place;
use super::judge::precision_by;
use super::reach::{Made, Reach};
use super::verdict::SlipPlace;
use crate::bench::Answer;
use crate::evaluated::{Evaluated, written_as};
use practical::slip::Slip;
use sheet::{Change, Otherwise, Value};
use std::collections::BTreeMap;

/// What could be answered.
#[derive(Debug, Clone, PartialEq)]
pub struct Could {
    /// What follows from the readings and the earlier answers, in base units.
    pub follows: f64,
    /// The same as it is written, in the unit of the result.
    pub text: String,
    /// What else a slip makes of it, in no order.
    pub slips: Vec<SlipMade>,
}

/// A result that a slip made.
#[derive(Debug, Clone, PartialEq)]
pub struct SlipMade {
    /// Which.
    pub slip: Slip,
    /// What it happened to.
    pub at: SlipPlace,
    /// The result, in base units.
    pub value: f64,
    /// As it is written, in the unit of the result.
    pub text: String,
    /// How common it is: the prior of the slip, shared by all the places where it may have happened.
    pub common: f64,
}

impl Evaluated<'_> {
    /// What could be answered for a result by whoever gave these answers before; none where there is no number.
    #[must_use]
    pub fn could_answer(&self, result: &str, before: &BTreeMap<String, Answer>) -> Option<Could> {
        let practical = self.practical;
        let asked = practical.result(result)?;
        let mut sums = self.sums();
        for earlier in practical.results.iter().take_while(|r| r.name != result) {
            if let Some(answer) = before.get(&earlier.name) {
                sums.check(earlier, answer);
            }
        }
        let right = sums.recomputed(asked).ok()?;
        let written = |value: f64| {
            let own = Value { value, precision: right.precision.of_another(value), ..right.clone() };
            written_as(practical, asked, value, precision_by(asked.digits, &own, &asked.unit))
        };
        let (inputs, chosen) = sums.with(&sums.likeliest(|_| true));
        let cuts = sums.gone_on_from();
        let start = Otherwise::new(&practical.program, &inputs);
        let candidates = Reach::all(practical, asked, &self.readings, &start, &cuts);
        let mut shares: BTreeMap<Slip, f64> = BTreeMap::new();
        for candidate in &candidates {
            *shares.entry(candidate.slip).or_default() += candidate.share;
        }
        let mut start = start.clone();
        let follows = start.value(result, &chosen)?;
        let made = candidates.into_iter().filter_map(|candidate| {
            let Made::On(changes) = &candidate.made else { return None };
            let all: Vec<Change> = chosen.iter().chain(changes).cloned().collect();
            let value = start.value(result, &all).filter(|v| v.is_finite())?;
            Some(SlipMade {
                slip: candidate.slip,
                at: place(practical, &candidate.at),
                value,
                text: written(value)?,
                common: candidate.slip.prior() * candidate.share / shares[&candidate.slip],
            })
        });
        Some(Could { slips: made.collect(), text: written(follows)?, follows })
    }
}
