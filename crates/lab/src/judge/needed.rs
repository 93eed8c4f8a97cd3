//! How much is needed, from what was actually weighed: told before it is poured, checked after.
//!
//! A reagent meant to be in excess: just enough is what all reactions together would use of it ([`practical::RunDown`]), by
//! what was really taken of the limiting one; with the planned excess it is in the planned ratio of both. An acid and a base that are to use each other up: n of what is
//! there, times the ratio that the step states.

use super::advice::judged;
use super::{Advice, Matter, Standing, figures, fixed, number};
use crate::evaluated::Evaluated;
use measure::Unit;
use practical::file::{Judgement, Neutralising, Role};
use practical::{Material, Reading, Stated};

impl Evaluated<'_> {
    pub(super) fn needs(&self, out: &mut Vec<Advice>) {
        let limiting = self.practical.materials.iter().find(|m| m.role == Role::Limiting);
        if let Some((limiting, quantity)) = limiting.and_then(|l| Some((l, self.taken(l)?))) {
            let excess = self.practical.materials.iter().filter(|m| m.role == Role::Excess);
            out.extend(excess.filter_map(|m| self.excess(limiting, quantity, m)));
        }
        for (i, step) in self.practical.steps.iter().enumerate() {
            out.extend(step.neutralises.as_ref().and_then(|n| self.neutralises(number(i), n)));
        }
    }

    fn excess(&self, limiting: &Material, quantity: f64, material: &Material) -> Option<Advice> {
        let there = self.moles(limiting, quantity)?;
        let per_unit = self.moles(material, 1.0)?;
        // Everything else that was taken, or is planned, takes part as well.
        let others = self.practical.materials.iter().filter(|m| m.role.counts() && m.symbol != material.symbol);
        let mut amounts: Vec<(&str, f64)> = others
            .filter(|m| m.symbol != limiting.symbol)
            .filter_map(|m| Some((m.symbol.as_str(), self.moles(m, self.taken(m).or_else(|| planned(m))?)?)))
            .collect();
        amounts.extend([(limiting.symbol.as_str(), there), (material.symbol.as_str(), 0.0)]);
        let needed = self.practical.just_enough(&material.symbol, &amounts)?;
        let step = self.step_adding(&material.symbol).or_else(|| self.step_of(material))?;
        let enough = needed / per_unit;
        let tell = |standing, matter| Some(judged(step, standing, Judgement::Needed, matter));
        let name = material.name.clone();
        if let Some(taken) = self.taken(material) {
            let over = taken / enough - 1.0;
            if over >= 0.0 {
                let over = fixed(100.0 * over, 0);
                return tell(Standing::Settled, Matter::TakenIsEnough { material: name, over });
            }
            let short_by = shown(material, enough - taken)?;
            return tell(Standing::Doubtful, Matter::TakenIsShort { material: name, short_by });
        }
        let planned = material.planned.as_ref().zip(limiting.planned.as_ref()).and_then(|(own, other)| {
            let in_all = |m: &Material| self.practical.times_planned(m) as f64;
            let by_plan = self.moles(limiting, other.base() * in_all(limiting))?;
            let times = self.moles(material, own.base() * in_all(material))? / by_plan * there;
            shown(material, times / per_unit)
        });
        let enough = shown(material, enough)?;
        tell(Standing::Waiting, Matter::Needed { material: name, enough, planned })
    }

    fn neutralises(&self, step: u32, with: &Neutralising) -> Option<Advice> {
        let (there, added) = (self.practical.material(&with.what)?, self.practical.material(&with.with)?);
        let moles = self.moles(there, self.taken(there)?)? * with.ratio.unwrap_or(1.0);
        let enough = shown(added, moles / self.moles(added, 1.0)?)?;
        let matter = Matter::Needed { material: added.name.clone(), enough, planned: None };
        Some(judged(step, Standing::Waiting, Judgement::Needed, matter))
    }

    /// What was taken of a material, g or L, departures from the plan counted; none while it was not measured.
    pub(super) fn taken(&self, material: &Material) -> Option<f64> {
        let by_method = self.practical.taken_by(&material.symbol);
        let quantity = by_method.and_then(|name| self.value(name).or_else(|| self.read(self.practical.reading(name)?)));
        let own = || self.read(self.practical.readings.iter().find(|r| r.of.as_deref() == Some(&material.symbol))?);
        Some(quantity.or_else(own)? + self.departed_by(material))
    }

    /// A reading that is taken once, in base units.
    fn read(&self, reading: &Reading) -> Option<f64> {
        Some(reading.unit.to_base(self.readings.get(&reading.symbol)?.to_f64()))
    }

    /// Amount of substance in a quantity (g or L), mol.
    fn moles(&self, material: &Material, quantity: f64) -> Option<f64> {
        let m = material.formula.as_ref()?.molar_mass(&self.practical.school.atomic_masses).ok()?.value;
        material.supply.moles(quantity, m)
    }

    fn step_of(&self, material: &Material) -> Option<u32> {
        let reading = self.practical.readings.iter().find(|r| r.of.as_deref() == Some(&material.symbol))?;
        self.step_recording(&reading.symbol)
    }
}

/// What is planned of a material, g or L.
fn planned(material: &Material) -> Option<f64> {
    material.planned.as_ref().map(Stated::base)
}

/// A quantity of a material to three figures, in the unit in which it is planned or measured.
fn shown(material: &Material, quantity: f64) -> Option<String> {
    let weighed = if material.supply.is_weighed() { "g" } else { "mL" };
    let planned = material.planned.as_ref().map(|p| p.amount.unit.clone());
    let unit = planned.or_else(|| Unit::parse(weighed).ok())?;
    Some(format!("{} {}", figures(unit.from_base(quantity), 3), unit.written()))
}
