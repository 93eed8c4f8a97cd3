//! Everything that follows from what stands at one bench, put together: readings judged, results evaluated, answers checked.
//!
//! Nothing here is stored; the same entries give the same outcome.

use crate::check::Verdict;
use crate::evaluated::{Evaluated, ResultOutcome, ResultState, ShownValue};
use crate::judge::{
    Advice, Finding, Hypothesis, LimitingFinding, Next, Standing, Waiting, YieldFinding, delivered, limiting, waiting,
    yield_above_theory,
};
use practical::file::Role;
use serde::Serialize;
use std::collections::{BTreeMap, BTreeSet};

/// Everything that follows from a group's entries.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GroupOutcome {
    /// What is odd about each reading, by symbol; no entry where nothing is.
    pub findings: BTreeMap<String, Vec<Finding>>,
    /// How each reading that is odd stands, by symbol: by the worst of its findings.
    pub standings: BTreeMap<String, Standing>,
    /// Slots of repeats that need not be filled any more.
    pub spared: BTreeSet<String>,
    /// Steps of which all that they ask for stands or need not be taken any more, counted from 0.
    pub complete: BTreeSet<u32>,
    /// Every result of the practical, in its order.
    pub results: Vec<ResultOutcome>,
    /// Masses of the products, by symbol of the material, once they can be said: for labels, whatever is asked.
    pub products: BTreeMap<String, ShownValue>,
    /// The reagent that limits, once it can be said.
    pub limiting: Option<LimitingFinding>,
    /// Volumes delivered, by the place of their final reading.
    pub delivered: BTreeMap<String, String>,
    /// What there is to tell beside the steps.
    pub advice: Vec<Advice>,
    /// Where the group goes on.
    pub next: Next,
    /// What waits and needs nobody.
    pub waiting: Vec<Waiting>,
    /// Reactions that could explain what was found, the best supported first; empty unless several compete.
    pub hypotheses: Vec<Hypothesis>,
    /// Yields that cannot be, by the result that is the percent yield.
    pub yield_findings: BTreeMap<String, YieldFinding>,
    /// Each answer judged, by result.
    pub verdicts: BTreeMap<String, Verdict>,
    /// Answers of single students judged, by their number.
    pub own_verdicts: BTreeMap<i64, BTreeMap<String, Verdict>>,
}

impl Evaluated<'_> {
    /// Everything that follows.
    #[must_use]
    pub fn outcome(&self) -> GroupOutcome {
        let (practical, entries) = (self.practical, self.entries);
        let findings = self.readings.keys().map(|s| (s.clone(), self.findings_of(s)));
        let findings: BTreeMap<String, Vec<Finding>> = findings.filter(|(_, f)| !f.is_empty()).collect();
        let worst = |f: &[Finding]| f.iter().map(Finding::standing).max();
        let advice = self.advice();
        let worked_out = practical.results.iter().filter(|r| r.is_worked_out());
        let yields = practical.yields();
        let spared = self.spared(&advice);
        GroupOutcome {
            standings: findings.iter().filter_map(|(s, f)| Some((s.clone(), worst(f)?))).collect(),
            findings,
            complete: self.complete(&spared),
            spared,
            results: worked_out.map(|r| self.result(&r.name)).collect(),
            products: self.products(),
            limiting: limiting(practical, &self.evaluation, &entries.observations),
            delivered: delivered(practical, &self.readings),
            advice,
            next: self.next(),
            waiting: waiting(practical, entries),
            hypotheses: self.competing(),
            yield_findings: yields
                .filter_map(|names| Some((names.percent.clone(), yield_above_theory(&names, &self.evaluation)?)))
                .collect(),
            verdicts: self.checked(&entries.answers),
            own_verdicts: entries.own_answers.iter().map(|(person, own)| (*person, self.checked(own))).collect(),
        }
    }

    /// What was made, weighed: one mass for each product that a method weighs.
    fn products(&self) -> BTreeMap<String, ShownValue> {
        let made = self.practical.materials.iter().filter(|m| m.role == Role::Product);
        let weighed = made.filter_map(|m| match self.result(self.practical.measured_by(&m.symbol)?).state {
            ResultState::Value(mass) => Some((m.symbol.clone(), mass)),
            ResultState::NotYet { .. } | ResultState::Failed { .. } => None,
        });
        weighed.collect()
    }
}
