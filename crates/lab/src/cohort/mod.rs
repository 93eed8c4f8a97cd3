//! The class as a whole: how results are spread, what does not belong, what groups that are off have in common.
//!
//! A class is a distribution, not an average: every group is a dot with its interval. Centre and spread are the robust mean
//! and standard deviation (Algorithm A of ISO 13528, annex C), which a few blunders do not move.

mod bottle;
mod causes;
mod copied;
mod slips;

pub use bottle::{FoundStrength, NoStrength, found_strength};
pub use causes::{Cause, CauseKind};
pub use copied::Copied;
pub use slips::SlipCount;

use crate::bench::Entries;
use crate::evaluated::{Evaluated, ResultState};
use crate::group::GroupOutcome;
use crate::judge::{AcceptedFrom, LeftOver, stated, trial_run};
use crate::plan::planned_value;
use practical::statistics::{against_accepted, algorithm_a, dixon, grubbs, regression};
use practical::{Practical, ResultSpec};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// One group of the class.
#[derive(Debug, Clone, Copy)]
pub struct Member<'a> {
    /// What it is called.
    pub name: &'a str,
    /// The practical as this group works it.
    pub practical: &'a Practical,
    /// What it entered.
    pub entries: &'a Entries,
    /// What follows from that.
    pub outcome: &'a GroupOutcome,
    /// The lesson at which its last reading was taken, where there are several.
    pub visit: Option<&'a str>,
    /// The bench that it stands at, where that is known.
    pub bench: Option<&'a str>,
}

/// Which test says that a value does not belong.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum OutlierTest {
    /// Distance from the mean in units of s, two-sided, 95 %.
    #[default]
    Grubbs,
    /// Gap over range, two-sided, 95 %; three to ten values.
    Dixon,
}

/// What a class says together.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Cohort {
    /// Each result that has a number, in the order of the practical.
    pub results: Vec<CohortResult>,
    /// Lines through the whole class, where the practical asks for them.
    pub pooled: Vec<PooledLine>,
    /// Slips by how many groups made them, most first.
    pub slips: Vec<SlipCount>,
    /// Readings that two groups share to the last digit: a question, never a verdict.
    pub copied: Vec<Copied>,
    /// What is left of each reagent at all benches together, by disposal group.
    pub left_over: Vec<LeftOver>,
}

/// One result over all groups, in its unit.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CohortResult {
    /// Name of the result.
    pub name: String,
    /// In words.
    pub label: String,
    /// The recipe of these groups, where recipes are planned to come out otherwise.
    pub recipe: Option<String>,
    /// Its unit.
    pub unit: String,
    /// One for each group that has come so far.
    pub dots: Vec<Dot>,
    /// Where a class usually comes out: mean ± 2 s of the practical's own record.
    pub expected: Option<Band>,
    /// Robust mean and standard deviation; none for fewer than three groups.
    pub robust: Option<RobustShown>,
    /// The test for what does not belong.
    pub test: OutlierTest,
    /// Why the test says nothing, where it does not.
    pub untested: Option<String>,
    /// The accepted value beside the class.
    pub accepted: Option<Accepted>,
    /// What may be the matter with something that groups share, the clearest first.
    pub causes: Vec<Cause>,
}

/// One group's value.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Dot {
    /// The group.
    pub group: String,
    /// Its value.
    pub value: f64,
    /// Expanded uncertainty U (k = 2); 0 where it is exact.
    pub expanded: f64,
    /// The chosen test says that it does not belong.
    pub outlier: bool,
    /// Whether the accepted value lies within its interval.
    pub holds_accepted: Option<bool>,
}

/// Centre and spread that a few blunders do not move.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RobustShown {
    /// Robust mean.
    pub mean: f64,
    /// Robust standard deviation.
    pub sd: f64,
    /// The same, written: mean to the place where s has its second figure.
    pub mean_shown: String,
    /// s to two figures.
    pub sd_shown: String,
}

/// A class beside an accepted value.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Accepted {
    /// The value.
    pub value: f64,
    /// Where it comes from.
    pub from: AcceptedFrom,
    /// Class mean less accepted value.
    pub bias: f64,
    /// Probability of a bias at least as large by chance (t test); none where there is no spread.
    pub p: Option<f64>,
}

/// A straight line through the points of all groups.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PooledLine {
    /// In words.
    pub label: String,
    /// Unit along the line.
    pub x_unit: String,
    /// Unit across it.
    pub y_unit: String,
    /// One for each group that has both.
    pub points: Vec<PooledPoint>,
    /// Slope.
    pub slope: Estimated,
    /// Intercept.
    pub intercept: Estimated,
}

/// One group's point.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PooledPoint {
    /// The group.
    pub group: String,
    /// Along the line.
    pub x: f64,
    /// Across it.
    pub y: f64,
}

/// A number found from many.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Estimated {
    /// The number.
    pub value: f64,
    /// Its standard error; none for two points.
    pub standard_error: Option<f64>,
}

/// Where something usually lies.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Band {
    /// From here.
    pub low: f64,
    /// To here.
    pub high: f64,
}

/// Everything that the groups say together.
#[must_use]
pub fn cohort(practical: &Practical, members: &[Member<'_>], test: OutlierTest) -> Cohort {
    let results = practical.results.iter().flat_map(|r| {
        let alike = comparable(r, members);
        alike.into_iter().filter_map(move |(recipe, some)| of_result(practical, r, &some, recipe, test))
    });
    Cohort {
        results: results.collect(),
        pooled: pooled(practical, members),
        slips: slips::counted(members),
        copied: copied::shared(members),
        left_over: together(members),
    }
}

/// What is left of each reagent at all benches together.
fn together(members: &[Member<'_>]) -> Vec<LeftOver> {
    let mut all: Vec<LeftOver> = Vec::new();
    for member in members {
        for left in Evaluated::of(member.practical, member.entries).left_over() {
            match all.iter_mut().find(|l| l.symbol == left.symbol) {
                Some(known) => {
                    known.amount += left.amount;
                    known.mass = known.mass.zip(left.mass).map(|(a, b)| a + b);
                }
                None => all.push(left),
            }
        }
    }
    all.sort_by(|a, b| a.group.cmp(&b.group));
    all
}

/// Part of a value by which recipes differ as planned: beyond it their groups are not compared with each other.
const OTHERWISE_PLANNED: f64 = 0.02;

/// Groups whose values of a result can be compared: all of them, or those of each recipe where it is planned to differ.
fn comparable<'m>(result: &ResultSpec, members: &[Member<'m>]) -> Vec<(Option<String>, Vec<Member<'m>>)> {
    let mut recipes: BTreeMap<Option<&str>, Vec<Member<'m>>> = BTreeMap::new();
    for member in members {
        recipes.entry(member.practical.allotted.assignment.as_deref()).or_default().push(*member);
    }
    if recipes.len() < 2 {
        return vec![(None, members.to_vec())];
    }
    let planned: Vec<f64> = recipes.values().filter_map(|m| planned_value(m[0].practical, result)).collect();
    let (low, high) = planned.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(*v), h.max(*v)));
    if high - low <= OTHERWISE_PLANNED * high.abs().max(low.abs()) {
        return vec![(None, members.to_vec())];
    }
    recipes.into_iter().map(|(recipe, some)| (recipe.map(str::to_owned), some)).collect()
}

fn of_result(
    practical: &Practical,
    result: &ResultSpec,
    members: &[Member<'_>],
    recipe: Option<String>,
    test: OutlierTest,
) -> Option<CohortResult> {
    let numbers: Vec<(&Member<'_>, f64, f64)> = members.iter().filter_map(|m| number(m, &result.name)).collect();
    if numbers.is_empty() {
        return None;
    }
    let values: Vec<f64> = numbers.iter().map(|(_, v, _)| *v).collect();
    let (suspect, untested) = outlying(&values, test);
    let outlier = suspect.filter(|i| is_apart(&numbers, *i));
    let accepted = accepted(practical, result, &numbers);
    let dots = numbers.iter().enumerate().map(|(i, (m, value, expanded))| Dot {
        group: m.name.to_owned(),
        value: *value,
        expanded: *expanded,
        outlier: outlier == Some(i),
        holds_accepted: accepted.as_ref().map(|a| (value - a.value).abs() <= *expanded),
    });
    let usual = practical.file.class.iter().filter(|c| c.result == result.name);
    let ends = usual.map(|c| (c.mean - 2.0 * c.sd, c.mean + 2.0 * c.sd));
    Some(CohortResult {
        name: result.name.clone(),
        label: result.label.clone(),
        recipe,
        unit: result.unit.written().to_owned(),
        dots: dots.collect(),
        expected: ends.reduce(|a, b| (a.0.min(b.0), a.1.max(b.1))).map(|(low, high)| Band { low, high }),
        robust: robust(&values),
        test,
        untested,
        accepted,
        causes: causes::found(result, &numbers),
    })
}

/// A group's value and expanded uncertainty, in the unit of the result.
fn number<'a, 'm>(member: &'a Member<'m>, result: &str) -> Option<(&'a Member<'m>, f64, f64)> {
    let state = &member.outcome.results.iter().find(|r| r.name == result)?.state;
    let ResultState::Value(v) = state else { return None };
    v.value.is_finite().then_some((member, v.value, v.uncertainty))
}

/// Whether a value lies further from the mean of the others than its own uncertainty reaches: two that are equal make any
/// third one an outlier by the tests.
fn is_apart(numbers: &[(&Member<'_>, f64, f64)], suspect: usize) -> bool {
    let others: Vec<f64> = numbers.iter().enumerate().filter(|(i, _)| *i != suspect).map(|(_, (_, v, _))| *v).collect();
    let mean = others.iter().sum::<f64>() / others.len() as f64;
    let (_, value, expanded) = numbers[suspect];
    (value - mean).abs() > expanded
}

/// Which value does not belong; or why nothing is said.
fn outlying(values: &[f64], test: OutlierTest) -> (Option<usize>, Option<String>) {
    let found = match test {
        OutlierTest::Grubbs => grubbs(values).map(|g| g.outlier.then_some(g.suspect)),
        OutlierTest::Dixon => dixon(values).map(|d| {
            let suspect = d.suspect.filter(|_| d.outlier);
            suspect.and_then(|s| values.iter().position(|v| *v == s))
        }),
    };
    match found {
        Ok(index) => (index, None),
        Err(why) => (None, Some(why.to_string())),
    }
}

fn robust(values: &[f64]) -> Option<RobustShown> {
    if values.len() < 3 {
        return None;
    }
    let found = algorithm_a(values).ok()?;
    let sd_shown = measure::rounding::figures(found.sd, 2);
    let mean_shown = crate::evaluated::rounded_to_uncertainty(found.mean, found.sd)?;
    Some(RobustShown { mean: found.mean, sd: found.sd, mean_shown, sd_shown })
}

/// The value that the practical states for every group alike, or what the trial run came to.
fn accepted(practical: &Practical, result: &ResultSpec, numbers: &[(&Member<'_>, f64, f64)]) -> Option<Accepted> {
    let own = |m: &Member<'_>| stated(m.practical, result);
    let first = numbers.first().and_then(|(m, ..)| own(m));
    let alike = first.filter(|v| numbers.iter().all(|(m, ..)| own(m) == Some(*v)));
    let (value, from) = match alike {
        Some(v) => (v, AcceptedFrom::Stated),
        None => (trial_run(practical, result)?, AcceptedFrom::TrialRun),
    };
    let values: Vec<f64> = numbers.iter().map(|(_, v, _)| *v).collect();
    let mean = robust(&values).map_or_else(|| values.iter().sum::<f64>() / values.len() as f64, |r| r.mean);
    let p = against_accepted(&values, value).ok().map(|(_, p)| p);
    Some(Accepted { value, from, bias: mean - value, p })
}

fn pooled(practical: &Practical, members: &[Member<'_>]) -> Vec<PooledLine> {
    let of = |asked: &practical::file::Pooled| {
        let unit = |name: &str| practical.program.definition(name).map(|d| d.unit.clone());
        let (x_unit, y_unit) = (unit(&asked.x)?, unit(&asked.y)?);
        let point = |m: &Member<'_>| {
            let evaluated = Evaluated::of(m.practical, m.entries);
            let value = |name: &str| evaluated.value(name);
            let (x, y) = (x_unit.from_base(value(&asked.x)?), y_unit.from_base(value(&asked.y)?));
            Some(PooledPoint { group: m.name.to_owned(), x, y })
        };
        let points: Vec<PooledPoint> = members.iter().filter_map(point).collect();
        let (x, y): (Vec<f64>, Vec<f64>) = points.iter().map(|p| (p.x, p.y)).unzip();
        let line = regression(&x, &y).ok()?;
        let errors = line.errors.as_ref();
        Some(PooledLine {
            label: asked.label.clone(),
            x_unit: x_unit.written().to_owned(),
            y_unit: y_unit.written().to_owned(),
            points,
            slope: Estimated { value: line.slope, standard_error: errors.map(|e| e.slope) },
            intercept: Estimated { value: line.intercept, standard_error: errors.map(|e| e.intercept) },
        })
    };
    practical.file.pooled.iter().filter_map(of).collect()
}
