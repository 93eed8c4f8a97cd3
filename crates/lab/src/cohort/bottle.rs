//! The strength of a bottle, from what a class found of it.
//!
//! The mean of the groups that took from it, without the one that does not belong. What groups scatter by is averaged; what
//! they share (the standard, the kind of balance and burette) is not, and is no smaller than the surest group's own
//! uncertainty: U² = (t₉₅·s/√n)² + U_min². Source: JCGM 100:2008, 4.2.3 and 5.1.2.

use super::{Member, OutlierTest, is_apart, number, outlying};
use crate::bench::Bottle;
use crate::evaluated::rounded_to_uncertainty;
use measure::rounding::uncertainty_figures;
use practical::statistics::summary;
use practical::{Practical, SheetRole};
use serde::Serialize;

/// What a class found a bottle to hold.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FoundStrength {
    /// Groups whose values count.
    pub groups: Vec<String>,
    /// The group whose value does not belong to the others.
    pub left_out: Option<String>,
    /// Mean, mol/L.
    pub value: f64,
    /// U (k = 2), mol/L.
    pub expanded: f64,
    /// As it stands on a bottle: `0.0973 ± 0.0004 mol/L`.
    pub shown: String,
}

/// Why a class says nothing of a bottle.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum NoStrength {
    /// The practical finds out no concentration of what is in it.
    #[error("this practical does not find out how strong '{0}' is")]
    NotSought(String),
    /// There is nothing to take the mean of.
    #[error("{groups} of the groups that used '{bottle}' have a result; it takes at least two")]
    TooFew {
        /// The bottle.
        bottle: String,
        /// Groups with a value.
        groups: usize,
    },
}

/// What the groups that took from a bottle found of it together.
///
/// # Errors
/// [`NoStrength`], where they find nothing of the kind, or fewer than two have.
pub fn found_strength(
    practical: &Practical,
    members: &[Member<'_>],
    bottle: &Bottle,
) -> Result<FoundStrength, NoStrength> {
    let not_sought = || NoStrength::NotSought(bottle.holds.clone());
    let held = practical.materials.iter().filter(|m| m.name == bottle.holds);
    let mut sought = held.filter_map(|m| {
        let definition = practical.roles.named(SheetRole::Concentration, &m.symbol)?;
        Some((m, practical.results.iter().find(|r| r.name == definition)?))
    });
    let (material, result) = sought.next().ok_or_else(not_sought)?;
    let took = |m: &&Member<'_>| m.entries.bottles.get(&material.symbol) == Some(&bottle.name);
    let in_molar = |x: f64| result.unit.to_base(x);
    let mut numbers: Vec<_> = members.iter().filter(took).filter_map(|m| number(m, &result.name)).collect();
    let values: Vec<f64> = numbers.iter().map(|(_, v, _)| *v).collect();
    let (suspect, _) = outlying(&values, OutlierTest::Grubbs);
    let apart = suspect.filter(|i| is_apart(&numbers, *i));
    let left_out = apart.map(|i| numbers.remove(i).0.name.to_owned());
    let too_few = || NoStrength::TooFew { bottle: bottle.name.clone(), groups: numbers.len() };
    let values: Vec<f64> = numbers.iter().map(|(_, v, _)| in_molar(*v)).collect();
    let together = summary(&values).map_err(|_| too_few())?;
    let spread = together.spread.ok_or_else(too_few)?;
    let surest = numbers.iter().map(|(_, _, u)| in_molar(*u)).fold(f64::INFINITY, f64::min);
    let expanded = (spread.t_975 * spread.standard_error).hypot(surest);
    let value = rounded_to_uncertainty(together.mean, expanded).ok_or_else(too_few)?;
    let u = uncertainty_figures(expanded).ok_or_else(too_few)?;
    Ok(FoundStrength {
        groups: numbers.iter().map(|(m, ..)| m.name.to_owned()).collect(),
        left_out,
        value: together.mean,
        expanded,
        shown: format!("{value} ± {u} mol/L"),
    })
}
