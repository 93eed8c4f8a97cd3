//! What stands on the shelf, and whether it is enough.
//!
//! A container counts for a material of the same name: of a solid or a liquid for what is provided, of a solution for what it is
//! made from, the solid where it is held in g, the concentrated reagent where it is held in mL.

use crate::needs::MaterialNeed;
use serde::{Deserialize, Serialize};

/// A container of a substance.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Container {
    /// What is in it, as practicals name it.
    pub holds: String,
    /// In which form and strength: `pellets`, `37 % w/w`.
    #[serde(default)]
    pub form: String,
    /// What its amount is counted in.
    pub unit: StockUnit,
    /// Where it stands.
    #[serde(default)]
    pub place: String,
    /// Until when it keeps, as a date: `2027-06-30`; not said if none.
    #[serde(default)]
    pub keep_until: Option<String>,
}

/// What an amount on the shelf is counted in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum StockUnit {
    /// Grams.
    #[serde(rename = "g")]
    Gram,
    /// Millilitres.
    #[serde(rename = "mL")]
    Millilitre,
}

impl StockUnit {
    /// As it is written.
    #[must_use]
    pub fn written(self) -> &'static str {
        match self {
            StockUnit::Gram => "g",
            StockUnit::Millilitre => "mL",
        }
    }
}

/// Whether a material is there.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OnShelf {
    /// The material, as the sheet calls it.
    pub symbol: String,
    /// In g or mL.
    pub unit: StockUnit,
    /// Needed of it.
    pub needed: f64,
    /// There, in all its containers.
    pub there: f64,
}

impl OnShelf {
    /// What is to be ordered.
    #[must_use]
    pub fn missing(&self) -> f64 {
        (self.needed - self.there).max(0.0)
    }
}

/// For each material that the shelf is known to hold, whether it is enough; of what no container holds nothing is said.
#[must_use]
pub fn on_shelf(needs: &[MaterialNeed], stock: &[(Container, f64)]) -> Vec<OnShelf> {
    let mut out = Vec::new();
    for need in needs {
        for unit in [StockUnit::Gram, StockUnit::Millilitre] {
            let held = stock.iter().filter(|(c, _)| c.unit == unit && c.holds.eq_ignore_ascii_case(&need.name));
            let held: Vec<f64> = held.map(|(_, amount)| *amount).collect();
            if let Some(needed) = needed(need, unit).filter(|_| !held.is_empty()) {
                out.push(OnShelf { symbol: need.symbol.clone(), unit, needed, there: held.iter().sum() });
            }
        }
    }
    out
}

fn needed(need: &MaterialNeed, unit: StockUnit) -> Option<f64> {
    match (&need.solution, unit) {
        (Some(made), StockUnit::Gram) => made.solids.first().map(|s| s.grams),
        (Some(made), StockUnit::Millilitre) => made.concentrated.first().map(|s| s.millilitres),
        (None, _) => need.total.filter(|_| need.unit == unit.written()).map(|t| t.provide),
    }
}
