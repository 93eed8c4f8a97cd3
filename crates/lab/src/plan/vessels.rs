//! Will it fit, and does the temperature do what it is for?
//!
//! The liquids are followed from vessel to vessel, step by step, each at the upper end of its band. A vessel that is
//! heated or foams should be no more than two thirds full.

use super::{Consequence, Note, Setting, figures};
use measure::Dimension;
use practical::file::{Heat, Step};
use practical::{Amount, Key, Material, Stated, Supply, celsius};
use std::collections::BTreeMap;

const WITH_ROOM: f64 = 2.0 / 3.0;

impl Setting<'_> {
    pub(super) fn vessels(&self, notes: &mut Vec<Note>) {
        let mut holds: BTreeMap<&str, f64> = BTreeMap::new();
        for (i, step) in self.practical.steps.iter().enumerate() {
            let beside: Vec<Key> = vec!["steps".into(), i.into()];
            if let Some(vessel) = step.vessel.as_deref() {
                let added: f64 = step.adds.iter().filter_map(|a| self.litres(&a.material, a.amount.as_deref())).sum();
                *holds.entry(vessel).or_insert(0.0) += added;
                let foams = step.technique.as_deref() == Some("controlled-addition");
                let hot = step.heat.is_some_and(|h| h != Heat::Oven) || foams;
                notes.extend(self.too_full(vessel, holds[vessel], hot).map(|w| note(&beside, w)));
                if let Some(into) = step.pours_into.as_deref() {
                    let poured = holds.insert(vessel, 0.0).unwrap_or(0.0);
                    *holds.entry(into).or_insert(0.0) += poured;
                    notes.extend(self.too_full(into, holds[into], false).map(|w| note(&beside, w)));
                }
                if let Some(left) = step.leaves.as_deref().and_then(litres_of) {
                    holds.insert(step.pours_into.as_deref().unwrap_or(vessel), left);
                }
            }
            notes.extend(self.cannot_boil(step).map(|w| note(&beside, w)));
            notes.extend(self.too_hot(step).map(|w| note(&beside, w)));
        }
    }

    /// The volume that a material brings, L; a solid brings none.
    fn litres(&self, symbol: &str, amount: Option<&str>) -> Option<f64> {
        if let Some(text) = amount {
            let stated = Stated::parse(text).ok()?;
            return (stated.amount.unit.dimension() == Dimension::VOLUME).then(|| stated.ends().1);
        }
        let planned = self.practical.material(symbol)?.planned.as_ref()?;
        (planned.amount.unit.dimension() == Dimension::VOLUME).then(|| planned.ends().1)
    }

    fn too_full(&self, vessel: &str, litres: f64, hot: bool) -> Option<Consequence> {
        let item = self.practical.file.vessels.iter().find(|v| v.name == vessel)?;
        let capacity = litres_of(&item.capacity)?;
        let over = litres > capacity;
        let crowded = hot && litres > WITH_ROOM * capacity;
        (over || crowded).then(|| Consequence::TooFull {
            vessel: vessel.to_owned(),
            capacity: item.capacity.clone(),
            volume: format!("{} mL", figures(litres * 1000.0, 3)),
            only_for_heat: !over,
        })
    }

    fn cannot_boil(&self, step: &Step) -> Option<Consequence> {
        let m = match step.boils.as_deref() {
            Some(symbol) => self.practical.material(symbol)?,
            // Under reflux something boils, without being asked: the first of the liquids that does.
            None => self.boils_first(step)?,
        };
        let boils = m.boils?;
        let planned = step.temperature.as_deref().and_then(celsius);
        // A water bath is at 100 °C and passes a little less on; nothing that boils there boils in it.
        let most = (step.heat == Some(Heat::WaterBath)).then_some(100.0);
        let reaches = planned.or(most)?.min(most.unwrap_or(f64::INFINITY));
        // What is itself at its boiling point boils; a bath at it passes a little less on.
        let never = if most.is_some() { reaches <= boils } else { reaches < boils };
        never.then(|| Consequence::CannotBoil {
            material: m.name.clone(),
            boils: degrees(boils),
            reaches: degrees(reaches),
        })
    }

    /// Of the liquids that are put into the vessel of a reflux, up to here, the one that boils first.
    fn boils_first(&self, step: &Step) -> Option<&Material> {
        (step.technique.as_deref() == Some("reflux")).then_some(())?;
        let practical = self.practical;
        let vessel = step.vessel.as_ref()?;
        let until = practical.steps.iter().position(|s| s == step)?;
        let here = practical.steps[..=until].iter().filter(|s| s.vessel.as_ref() == Some(vessel));
        let liquids: Vec<&Material> = here
            .flat_map(|s| &s.adds)
            .filter_map(|a| practical.material(&a.material))
            .filter(|m| !matches!(m.supply, Supply::Solid { .. } | Supply::Gas { .. }))
            .collect();
        // Where one of them may boil at any temperature, nothing is said.
        let all = liquids.iter().all(|m| m.boils.is_some());
        let lowest = |a: &&&Material, b: &&&Material| a.boils.unwrap_or(0.0).total_cmp(&b.boils.unwrap_or(0.0));
        all.then(|| liquids.iter().min_by(lowest).copied()).flatten()
    }

    fn too_hot(&self, step: &Step) -> Option<Consequence> {
        let m = self.practical.material(step.dries.as_deref()?)?;
        let planned = celsius(step.temperature.as_deref()?)?;
        let bears = [m.bears, m.melts.map(|(from, _)| from)].into_iter().flatten().min_by(f64::total_cmp)?;
        (planned > bears).then(|| Consequence::TooHot {
            material: m.name.clone(),
            bears: degrees(bears),
            planned: degrees(planned),
        })
    }
}

fn note(beside: &[Key], what: Consequence) -> Note {
    Note { beside: beside.to_vec(), warns: true, what }
}

fn litres_of(text: &str) -> Option<f64> {
    Amount::parse(text).ok().filter(|a| a.unit.dimension() == Dimension::VOLUME).map(|a| a.base())
}

fn degrees(celsius: f64) -> String {
    format!("{} °C", figures(celsius, 3))
}
