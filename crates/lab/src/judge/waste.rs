//! What is left of each reagent, by disposal group.
//!
//! Of what was taken, n, the reaction has used ν·ξ, ξ being the extent that the limiting reagent allows: n − ν·ξ is left, in
//! the beaker or in the filtrate. Where the practical says so, it goes with others of its disposal group; where that is, is
//! for the local rule.

use crate::evaluated::Evaluated;
use practical::SheetRole;
use serde::Serialize;

/// What is left of a reagent.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LeftOver {
    /// Symbol of the material.
    pub symbol: String,
    /// Its name.
    pub name: String,
    /// Its disposal group; empty where the practical names none.
    pub group: String,
    /// Amount of substance, mmol.
    pub amount: f64,
    /// Mass of the substance, g; none where it has no formula.
    pub mass: Option<f64>,
}

impl Evaluated<'_> {
    /// What is left of each reagent that the reaction uses up; nothing before all of them were taken.
    #[must_use]
    pub fn left_over(&self) -> Vec<LeftOver> {
        let practical = self.practical;
        let value = |name: &str| self.value(name);
        let Some((name, reagents)) = &practical.limiting else { return Vec::new() };
        let Some(extent) = value(name) else { return Vec::new() };
        let left = reagents.iter().filter_map(|symbol| {
            let material = practical.material(symbol)?;
            let (coefficient, _) = material.term?;
            let used = extent * *coefficient.numer() as f64 / *coefficient.denom() as f64;
            let amount = (value(practical.roles.named(SheetRole::Amount, symbol)?)? - used).max(0.0);
            let molar_mass = material.formula.as_ref().and_then(|f| f.molar_mass(&practical.masses).ok());
            Some(LeftOver {
                symbol: symbol.clone(),
                name: material.name.clone(),
                group: material.waste.clone(),
                amount: 1000.0 * amount,
                mass: molar_mass.map(|m| amount * m.value),
            })
        });
        left.collect()
    }
}
