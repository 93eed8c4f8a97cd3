//! What is left of each reagent, by disposal group.
//!
//! The reactions run down on what was taken ([`practical::RunDown`]): what they do not use is left, in the beaker or in the
//! filtrate. Where the practical says so, it goes with others of its disposal group; where that is, is
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
    /// What is left of each reagent that the reactions use up, and of what they make that another was to use; nothing before
    /// all reagents were taken.
    #[must_use]
    pub fn left_over(&self) -> Vec<LeftOver> {
        let practical = self.practical;
        let Some((_, reagents)) = &practical.limiting else { return Vec::new() };
        let amounts: Option<Vec<(&str, f64)>> = reagents
            .iter()
            .map(|symbol| Some((symbol.as_str(), self.value(practical.roles.named(SheetRole::Amount, symbol)?)?)))
            .collect();
        let Some(amounts) = amounts else { return Vec::new() };
        let down = practical.run_down(&amounts);
        let left = reagents.iter().filter_map(|symbol| {
            let material = practical.material(symbol)?;
            let (species, units) = material.species.as_ref()?;
            let amount = down.amounts(species)?.left / f64::from(*units);
            let molar_mass = material.formula.as_ref().and_then(|f| f.molar_mass(&practical.school.atomic_masses).ok());
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
