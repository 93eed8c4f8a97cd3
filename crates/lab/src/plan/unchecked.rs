//! What a plan could not be checked for, because something that the check needs is not said. Silence is no clearance.

use super::Setting;
use practical::file::Role;
use practical::{Material, Supply};
use serde::Serialize;
use std::collections::BTreeSet;

/// Something that is missing, and what therefore was not looked at.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Unchecked {
    /// No formula: what it does beside the others.
    NoFormula {
        /// Name of the material.
        material: String,
    },
    /// No volume of what is poured: whether the vessel holds it.
    NoVolume {
        /// Name of the material.
        material: String,
        /// The vessel.
        vessel: String,
    },
    /// No planned amount of a reagent: whether it suffices.
    NoAmount {
        /// Name of the material.
        material: String,
    },
    /// No solubility: whether it dissolves, and what crystallises.
    NoSolubility {
        /// Name of the material.
        material: String,
    },
    /// No boiling point: whether it boils.
    NoBoilingPoint {
        /// Name of the material.
        material: String,
    },
    /// Nothing said of what it bears: whether it is dried too hot.
    NoLimit {
        /// Name of the material.
        material: String,
    },
}

impl Setting<'_> {
    /// What was not checked, each once.
    pub(super) fn unchecked(&self) -> Vec<Unchecked> {
        let practical = self.practical;
        let mut out = BTreeSet::new();
        let named = |m: &Material| m.name.clone();
        let poured = |m: &Material| !matches!(m.supply, Supply::Solid { .. });
        for step in &practical.steps {
            let added = || step.adds.iter().filter_map(|a| Some((a, practical.material(&a.material)?)));
            for (_, m) in added().filter(|(_, m)| m.formula.is_none()) {
                out.insert(Unchecked::NoFormula { material: named(m) });
            }
            if let Some(vessel) = &step.vessel {
                for (_, m) in added().filter(|(a, m)| a.amount.is_none() && m.planned.is_none() && poured(m)) {
                    out.insert(Unchecked::NoVolume { material: named(m), vessel: vessel.clone() });
                }
            }
            let of = |symbol: &Option<String>| symbol.as_deref().and_then(|s| practical.material(s));
            let dissolving = step.dissolves.as_ref().and_then(|d| practical.material(&d.material));
            let crystals = step.crystallises.as_ref().and_then(|c| practical.material(&c.product));
            for m in dissolving.into_iter().chain(crystals).filter(|m| m.solubility.is_none() && m.ksp.is_none()) {
                out.insert(Unchecked::NoSolubility { material: named(m) });
            }
            if let Some(m) = of(&step.boils).filter(|m| m.boils.is_none()) {
                out.insert(Unchecked::NoBoilingPoint { material: named(m) });
            }
            if let Some(m) = of(&step.dries).filter(|m| m.bears.is_none() && m.melts.is_none()) {
                out.insert(Unchecked::NoLimit { material: named(m) });
            }
        }
        let reagent = |m: &&Material| {
            let used = m.term.is_some_and(|(_, used_up)| used_up);
            used && matches!(m.role, Role::Limiting | Role::Excess) && m.planned.is_none()
        };
        out.extend(practical.materials.iter().filter(reagent).map(|m| Unchecked::NoAmount { material: named(m) }));
        out.into_iter().collect()
    }
}
