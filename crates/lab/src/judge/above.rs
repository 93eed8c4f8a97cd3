//! A yield above theory: how large each reason would have to be.
//!
//! Whatever is weighed beyond theory is something else (water, wash liquid, a salt, paper, a part of the vessel): found −
//! theory. Or theory itself is too small: the limiting reagent would have to be 1/(theory/found) times as much, by its
//! quantity or by its strength, up to the next reagent that would then limit. Each is told with the number that makes the
//! yield just 100 %; which it was, the bench knows.
//!
//! Source: the same sheet, solved for one of its numbers; theory is proportional to the limiting amount.

use super::departed::limiting_now;
use crate::evaluated::Evaluated;
use measure::rounding::figures;
use practical::{Practical, SheetRole, Supply, YieldNames};
use serde::Serialize;

/// A reason for a yield above theory, with the figure that it would need.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Needed {
    /// So much of what was weighed is no product.
    Weighed {
        /// Mass, with unit.
        mass: String,
        /// The same in percent of what was weighed.
        percent: String,
    },
    /// So much of the limiting reagent was taken instead of what was written down.
    Taken {
        /// Name of the reagent.
        material: String,
        /// As written down, with unit.
        recorded: String,
        /// What it would have to be, with unit.
        needed: String,
    },
    /// It is so strong instead of as stated.
    Strength {
        /// Name of the reagent.
        material: String,
        /// As stated, with unit.
        stated: String,
        /// What it would have to be, with unit.
        needed: String,
    },
}

impl Evaluated<'_> {
    /// What each reason would need to make a percent yield just 100 %; nothing for one at or below it, or another result.
    #[must_use]
    pub fn needed_for(&self, result: &str) -> Vec<Needed> {
        let names = self.practical.yields().find(|y| y.percent == result);
        names.map_or_else(Vec::new, |names| needed(self, &names))
    }
}

fn needed(bench: &Evaluated<'_>, names: &YieldNames) -> Vec<Needed> {
    let Evaluated { practical, readings, evaluation, .. } = bench;
    let value = |name: &str| evaluation.value(name).map(|v| v.value);
    let (Some(found), Some(theory)) = (value(&names.actual), value(&names.theoretical)) else { return Vec::new() };
    if found <= theory || theory <= 0.0 {
        return Vec::new();
    }
    let (excess, times) = (found - theory, found / theory);
    let mut out = vec![Needed::Weighed {
        mass: format!("{} g", figures(excess, 2)),
        percent: figures(100.0 * excess / found, 2),
    }];
    // Only where this theory follows from the reagent that limits.
    let follows = |extent: &str| practical.program.hangs_on(&names.theoretical, extent);
    let by_extent = practical.limiting.as_ref().is_some_and(|(extent, _)| follows(extent));
    let limiting = limiting_now(practical, evaluation).filter(|_| by_extent);
    let Some(material) = limiting.filter(|m| others_allow(practical, &value, &m.symbol, times)) else { return out };
    let recorded = practical.measured_by(&material.symbol).and_then(|name| match practical.program.definition(name) {
        Some(definition) => Some((&definition.unit, definition.unit.from_base(value(name)?))),
        None => Some((&practical.reading(name)?.unit, readings.get(name)?.to_f64())),
    });
    if let Some((unit, recorded)) = recorded {
        let written = |x: f64| format!("{} {}", figures(x, 3), unit.written());
        out.push(Needed::Taken {
            material: material.name.clone(),
            recorded: written(recorded),
            needed: written(recorded * times),
        });
    }
    if let (Supply::Solution(_), Some(stated)) = (&material.supply, material.supply.stated()) {
        let unit = &stated.amount.unit;
        let written = |base: f64| format!("{} {}", figures(unit.from_base(base), 3), unit.written());
        out.push(Needed::Strength {
            material: material.name.clone(),
            stated: written(stated.base()),
            needed: written(stated.base() * times),
        });
    }
    out
}

/// Whether so many times the limiting reagent would still limit: no other runs out before.
fn others_allow(practical: &Practical, value: &dyn Fn(&str) -> Option<f64>, limiting: &str, times: f64) -> bool {
    let Some((name, reagents)) = &practical.limiting else { return true };
    let Some(extent) = value(name) else { return false };
    reagents.iter().filter(|r| *r != limiting).all(|symbol| {
        let coefficient = practical.material(symbol).and_then(|m| m.term).map(|(c, _)| chem::number(c));
        let amount = practical.roles.named(SheetRole::Amount, symbol).and_then(value);
        matches!((amount, coefficient), (Some(n), Some(c)) if n / c >= extent * times)
    })
}
