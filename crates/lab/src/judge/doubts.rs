//! Had it been otherwise: a strength ten times out, two reagents exchanged.
//!
//! When a result cannot be, or two labels are in doubt, each way is put through the same sheet: which reagent would limit, and
//! what would the yield be? A way whose yield lies above 100 % beyond its uncertainty is not feasible.

use crate::evaluated::Evaluated;
use measure::rounding::figures;
use practical::{Practical, SheetRole, YieldNames};
use serde::Serialize;
use sheet::{Act, Change, Evaluation, Leaf, Otherwise, Place};

/// What could have been otherwise.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Doubted {
    /// A solution ten times as strong as stated.
    TenTimes {
        /// Name of the material.
        material: String,
    },
    /// A tenth as strong.
    ATenth {
        /// Name of the material.
        material: String,
    },
    /// One reagent taken for the other.
    Exchanged {
        /// Name of one.
        one: String,
        /// Name of the other.
        other: String,
    },
}

/// What would follow.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Doubt {
    /// What.
    pub doubted: Doubted,
    /// Name of the reagent that would limit; none where only one is counted.
    pub limits: Option<String>,
    /// The percent yield, to three figures.
    pub percent: String,
    /// Whether that can be.
    pub feasible: bool,
}

impl Evaluated<'_> {
    /// What would follow for a percent yield, had strengths been ten times out or reagents exchanged; nothing for another
    /// result.
    #[must_use]
    pub fn doubts_of(&self, result: &str) -> Vec<Doubt> {
        let names = self.practical.yields().find(|y| y.percent == result);
        names.map_or_else(Vec::new, |names| doubts(self.practical, &self.evaluation, &names))
    }
}

fn doubts(practical: &Practical, evaluation: &Evaluation<'_>, names: &YieldNames) -> Vec<Doubt> {
    let Some(now) = evaluation.value(&names.percent) else { return Vec::new() };
    let relative = if now.value == 0.0 { 0.0 } else { now.standard_uncertainty / now.value.abs() };
    let mut otherwise = Otherwise::new(&practical.program, evaluation.inputs());
    let ways = strengths(practical).into_iter().chain(exchanged(practical, &otherwise));
    let told = ways.filter_map(|(doubted, changes)| {
        let value = otherwise.value(&names.percent, &changes).filter(|v| v.is_finite())?;
        // A strength of what is in excess changes nothing.
        ((value - now.value).abs() > 1e-9 * now.value.abs()).then(|| Doubt {
            doubted,
            limits: limiting(practical, &mut otherwise, &changes),
            percent: figures(100.0 * value, 3),
            feasible: value > 0.0 && value * (1.0 - 2.0 * relative) <= 1.0,
        })
    });
    told.collect()
}

type Way = (Doubted, Vec<Change>);

/// Every strength of a solution on the way, ten times more and ten times less.
fn strengths(practical: &Practical) -> Vec<Way> {
    let mut ways = Vec::new();
    for material in &practical.materials {
        let symbol = &material.symbol;
        let leaves = [Leaf::Concentration(symbol.clone()), Leaf::MassConcentration(symbol.clone())];
        let Some(place) = leaves.iter().find_map(|leaf| practical.program.place_of_leaf(leaf)) else { continue };
        let name = || material.name.clone();
        let times = |by: f64| vec![Change { place, act: Act::Times(by) }];
        ways.push((Doubted::TenTimes { material: name() }, times(10.0)));
        ways.push((Doubted::ATenth { material: name() }, times(0.1)));
    }
    ways
}

/// Every two reagents that are measured alike, each taken for the other.
fn exchanged(practical: &Practical, plain: &Otherwise<'_>) -> Vec<Way> {
    let program = &practical.program;
    let measured = |symbol: &String| -> Option<(Place, f64, bool)> {
        let name = practical.measured_by(symbol)?;
        let place = program.place_of(name).or_else(|| program.place_of_leaf(&Leaf::Reading(name.to_owned())))?;
        Some((place, plain.plain(place)?, practical.material(symbol)?.supply.is_weighed()))
    };
    let reagents = practical.limiting.as_ref().map(|(_, r)| r.clone()).unwrap_or_default();
    let mut ways = Vec::new();
    for (i, one) in reagents.iter().enumerate() {
        for other in &reagents[i + 1..] {
            let (Some((a, x, weighed)), Some((b, y, also))) = (measured(one), measured(other)) else { continue };
            if weighed == also {
                let name = |symbol: &str| practical.material(symbol).map_or_else(String::new, |m| m.name.clone());
                let changes = vec![Change { place: a, act: Act::Number(y) }, Change { place: b, act: Act::Number(x) }];
                ways.push((Doubted::Exchanged { one: name(one), other: name(other) }, changes));
            }
        }
    }
    ways
}

/// The reagent that would limit.
fn limiting(practical: &Practical, otherwise: &mut Otherwise<'_>, changes: &[Change]) -> Option<String> {
    let (_, reagents) = practical.limiting.as_ref()?;
    let mut least: Option<(f64, &String)> = None;
    for symbol in reagents {
        let (coefficient, _) = practical.material(symbol)?.term?;
        let amount = otherwise.value(practical.roles.named(SheetRole::Amount, symbol)?, changes)?;
        let extent = amount / chem::number(coefficient);
        if least.is_none_or(|(l, _)| extent < l) {
            least = Some((extent, symbol));
        }
    }
    least.and_then(|(_, symbol)| practical.material(symbol)).map(|m| m.name.clone())
}
