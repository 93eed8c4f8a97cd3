//! What a percentage refers to, and which hydrate is weighed: both figures until it is said.

use super::{AsHydrate, Consequence, Note, Setting, figures, in_unit_of};
use chem::Formula;
use practical::{Basis, Material, StrengthKind, Supply};

/// In °C.
const ROOM_TEMPERATURE: f64 = 20.0;

impl Setting<'_> {
    pub(super) fn forms(&self, notes: &mut Vec<Note>) {
        for m in &self.practical.materials {
            if let Some(what) = self.open_basis(m) {
                notes.push(Note { beside: self.line_of(m), warns: true, what });
            }
            if let Some(what) = self.stronger_than_saturated(m) {
                notes.push(Note { beside: self.line_of(m), warns: true, what });
            }
            if let Some(what) = self.hydrates(m) {
                notes.push(Note { beside: self.line_of(m), warns: false, what });
            }
        }
    }

    /// A bare percentage of a solution, as both things that it could be.
    fn open_basis(&self, m: &Material) -> Option<Consequence> {
        let Supply::Solution(strength) = &m.supply else { return None };
        if strength.kind != StrengthKind::Percent(None) {
            return None;
        }
        let mass = self.molar_mass(m)?;
        let as_basis = |basis| strength.concentration(StrengthKind::Percent(Some(basis)), mass);
        let shown = |c: f64| format!("{} mol/L", figures(c, 3));
        Some(Consequence::BasisOpen {
            material: m.name.clone(),
            written: super::ledger::stated_words(&strength.stated),
            in_volume: shown(as_basis(Basis::MassInVolume)?),
            in_mass: as_basis(Basis::MassInMass).map(shown),
        })
    }

    /// A solution that holds more than water takes up at room temperature. A litre of solution has less than a litre of water
    /// in it, so that what is above the saturation of a litre is above it surely.
    fn stronger_than_saturated(&self, m: &Material) -> Option<Consequence> {
        let Supply::Solution(strength) = &m.supply else { return None };
        if strength.saturated_at.is_some() {
            return None;
        }
        let mass = self.molar_mass(m)?;
        let (counted, grams) = self.practical.soluble(m, ROOM_TEMPERATURE)?;
        let held = strength.concentration(strength.kind, mass)? * mass * counted;
        let most = 10.0 * grams;
        (held > most).then(|| Consequence::StrongerThanSaturated {
            material: m.name.clone(),
            written: super::ledger::stated_words(&strength.stated),
            most: format!("{} mol/L", figures(most / counted / mass, 3)),
        })
    }

    /// The same amount of a salt as each of its hydrates.
    fn hydrates(&self, m: &Material) -> Option<Consequence> {
        let planned = m.planned.as_ref().filter(|_| m.hydrates.len() > 1)?;
        let own = self.molar_mass(m)?;
        let (dry, _) = m.formula.as_ref()?.typed().split_once(['·', '*']).unwrap_or((m.formula.as_ref()?.typed(), ""));
        let form = |waters: &f64| {
            let formula = if *waters == 0.0 { dry.to_owned() } else { format!("{dry}·{}H2O", water_count(*waters)) };
            let mass = Formula::parse(&formula).ok()?.molar_mass(&self.practical.school.atomic_masses).ok()?.value;
            Some(AsHydrate {
                waters: *waters,
                formula,
                mass: in_unit_of(planned, planned.base() * mass / own),
                // The planned mass of another hydrate holds own/mass times as much.
                flips: self.limits_otherwise(m, own / mass),
            })
        };
        Some(Consequence::Hydrates { material: m.name.clone(), forms: m.hydrates.iter().filter_map(form).collect() })
    }
}

fn water_count(waters: f64) -> String {
    if waters == 1.0 { String::new() } else { format!("{waters}") }
}
