//! Which slips a class makes: what is worth five minutes for all.

use super::Member;
use crate::check::Verdict;
use practical::slip::Slip;
use serde::Serialize;
use std::collections::BTreeMap;

/// A slip and the groups that made it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SlipCount {
    /// Which.
    pub slip: Slip,
    /// The groups, in bench order.
    pub groups: Vec<String>,
    /// The results at which it was made.
    pub results: Vec<String>,
}

pub(super) fn counted(members: &[Member<'_>]) -> Vec<SlipCount> {
    let mut by_slip: BTreeMap<Slip, (Vec<String>, Vec<String>)> = BTreeMap::new();
    for member in members {
        let own = member.outcome.own_verdicts.values().flatten();
        for (result, verdict) in member.outcome.verdicts.iter().chain(own) {
            for slip in first_and_written(verdict) {
                let (groups, results) = by_slip.entry(slip).or_default();
                if !groups.iter().any(|g| g == member.name) {
                    groups.push(member.name.to_owned());
                }
                if !results.contains(result) {
                    results.push(result.clone());
                }
            }
        }
    }
    let mut out: Vec<SlipCount> =
        by_slip.into_iter().map(|(slip, (groups, results))| SlipCount { slip, groups, results }).collect();
    out.sort_by_key(|s| std::cmp::Reverse(s.groups.len()));
    out
}

/// Of several names for one explanation the likeliest; what is wrong with the writing beside it.
fn first_and_written(verdict: &Verdict) -> Vec<Slip> {
    let names = verdict.diagnosis.named.len();
    let slips = verdict.slips();
    slips.iter().take(names.min(1)).chain(slips.iter().skip(names)).copied().collect()
}
