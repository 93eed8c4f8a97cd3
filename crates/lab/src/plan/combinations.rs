//! Things that do not go together, or not in this order.
//!
//! Hazards belong to a form and a strength: 0.1 mol/L sodium hydroxide is not its pellets. What is in one vessel, in the
//! order in which it comes there, is looked at pair by pair; a flame counts for the whole room while it burns.
//!
//! Source: the general rules of laboratory safety for these groups of substances; the supplier's safety data sheets come
//! first.

use super::{Consequence, Note, Setting};
use practical::file::{Heat, Step};
use practical::{Key, Material, StrengthKind, Supply, celsius};
use serde::Serialize;
use std::collections::BTreeMap;

/// A danger of two things together.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Combination {
    /// Gives off sulfur dioxide.
    AcidOnSulfite,
    /// Foams over: carbon dioxide.
    AcidOnCarbonate,
    /// Boils where it touches and throws acid.
    WaterOntoAcid,
    /// Gives off hydrogen and heat.
    BaseAndAluminium,
    /// May catch fire.
    OxidiserAndOrganic,
    /// Vapour runs to the flame.
    FlammableNearFlame,
    /// Bursts.
    ClosedAndHeated,
    /// Cracks.
    IceOnHotGlass,
    /// Makes a touch explosive.
    IodineAndAmmonia,
    /// Gives off chlorine.
    HypochloriteAndAcid,
    /// Gives off chloramines.
    HypochloriteAndAmmonia,
    /// Gives off chlorine.
    PermanganateAndHydrochloric,
    /// Hydrogen near a flame.
    MetalAcidFlame,
}

impl Setting<'_> {
    pub(super) fn combinations(&self, notes: &mut Vec<Note>) {
        let practical = self.practical;
        let mut contents: BTreeMap<&str, Vec<&Material>> = BTreeMap::new();
        for (i, step) in practical.steps.iter().enumerate() {
            let mut found = Vec::new();
            if let Some(vessel) = step.vessel.as_deref() {
                let inside = contents.entry(vessel).or_default();
                for added in step.adds.iter().filter_map(|a| practical.material(&a.material)) {
                    for before in inside.iter() {
                        found.extend(pair(before, added, step).map(|d| (d, before.name.clone(), added.name.clone())));
                    }
                    inside.push(added);
                }
                if let Some(into) = step.pours_into.as_deref() {
                    let poured = contents.remove(vessel).unwrap_or_default();
                    contents.entry(into).or_default().extend(poured);
                }
            }
            if step.heat == Some(Heat::Flame) {
                let burns = practical.materials.iter().find(|m| is_flammable(m));
                found.extend(burns.map(|m| (Combination::FlammableNearFlame, m.name.clone(), "a flame".into())));
            }
            let sealed = step.technique.as_deref() == Some("sealing-sample");
            if sealed && step.heat.is_some() {
                found.push((Combination::ClosedAndHeated, "a closed vessel".into(), "heat".into()));
            }
            let before = i.checked_sub(1).and_then(|b| practical.steps.get(b));
            if before.is_some_and(|b| glows(b) && b.vessel == step.vessel) && is_iced(step) {
                found.push((Combination::IceOnHotGlass, "hot glass".into(), "ice".into()));
            }
            for (danger, one, other) in found {
                let what = Consequence::Together { danger, one, other, step: step.title.clone() };
                let beside: Vec<Key> = vec!["steps".into(), i.into()];
                notes.push(Note { beside, warns: true, what });
            }
        }
    }
}

/// The danger of adding `added` to what holds `before`.
fn pair(before: &Material, added: &Material, step: &Step) -> Option<Combination> {
    use Combination as C;
    let either = |one: fn(&Material) -> bool, other: fn(&Material) -> bool| {
        (one(before) && other(added)) || (one(added) && other(before))
    };
    let rules = [
        (is_water(added) && is_concentrated_acid(before), C::WaterOntoAcid),
        (either(is_hypochlorite, is_acid), C::HypochloriteAndAcid),
        (either(is_hypochlorite, is_ammonia), C::HypochloriteAndAmmonia),
        (either(is_permanganate, is_hydrochloric), C::PermanganateAndHydrochloric),
        (either(is_iodine, is_ammonia), C::IodineAndAmmonia),
        (either(is_sulfite, is_acid), C::AcidOnSulfite),
        (
            either(is_carbonate, is_acid) && step.portions.is_none_or(|n| n < 2) && !says_portions(step),
            C::AcidOnCarbonate,
        ),
        (either(is_aluminium, is_strong_base), C::BaseAndAluminium),
        (either(is_oxidiser, is_organic), C::OxidiserAndOrganic),
        (either(is_metal, is_acid) && step.heat == Some(Heat::Flame), C::MetalAcidFlame),
    ];
    rules.into_iter().find_map(|(holds, danger)| holds.then_some(danger))
}

/// The formula as typed, without water of crystallisation.
fn typed(m: &Material) -> &str {
    m.formula.as_ref().map_or("", |f| f.typed())
}

fn count(m: &Material, symbol: &str) -> f64 {
    m.formula.as_ref().map_or(0.0, |f| f.composition().count(symbol))
}

/// Amount concentration, where it is a solution by amount; infinite for a pure substance.
fn strength(m: &Material) -> f64 {
    match &m.supply {
        Supply::Solution(s) => {
            let mass = m.formula.as_ref().and_then(|f| f.molar_mass(&chem::MassTable::Abridged).ok());
            let kind = if s.kind == StrengthKind::Percent(None) {
                StrengthKind::Percent(Some(practical::Basis::MassInVolume))
            } else {
                s.kind
            };
            mass.and_then(|mass| s.concentration(kind, mass.value)).unwrap_or(f64::INFINITY)
        }
        Supply::Solid { .. } | Supply::Liquid { .. } | Supply::Gas { .. } => f64::INFINITY,
    }
}

fn is_acid(m: &Material) -> bool {
    const ACIDS: &[&str] = &[
        "HCl", "HBr", "HI", "H2SO4", "HNO3", "H3PO4", "HClO4", "CH3COOH", "C2H4O2", "HCOOH", "H2C2O4", "C6H8O7",
        "KHSO4", "NaHSO4", "H2SO3", "HNO2",
    ];
    ACIDS.contains(&typed(m))
}

fn is_concentrated_acid(m: &Material) -> bool {
    matches!(typed(m), "H2SO4" | "HNO3" | "HCl" | "H3PO4" | "HClO4") && strength(m) >= 5.0
}

fn is_water(m: &Material) -> bool {
    typed(m) == "H2O"
}

fn is_hydrochloric(m: &Material) -> bool {
    typed(m) == "HCl"
}

fn is_sulfite(m: &Material) -> bool {
    count(m, "S") > 0.0 && count(m, "C") == 0.0 && typed(m).contains("SO3")
        || typed(m).contains("S2O3")
        || typed(m).contains("S2O5")
}

fn is_carbonate(m: &Material) -> bool {
    typed(m).contains("CO3")
}

fn is_ammonia(m: &Material) -> bool {
    matches!(typed(m), "NH3" | "NH4OH")
}

fn is_iodine(m: &Material) -> bool {
    typed(m) == "I2"
}

fn is_hypochlorite(m: &Material) -> bool {
    matches!(typed(m), "NaClO" | "NaOCl" | "KClO" | "Ca(ClO)2" | "Ca(OCl)2" | "LiClO")
}

fn is_permanganate(m: &Material) -> bool {
    typed(m).contains("MnO4")
}

fn is_aluminium(m: &Material) -> bool {
    typed(m) == "Al"
}

fn is_strong_base(m: &Material) -> bool {
    matches!(typed(m), "NaOH" | "KOH") && strength(m) >= 1.0
}

fn is_metal(m: &Material) -> bool {
    matches!(typed(m), "Zn" | "Mg" | "Fe" | "Al" | "Ca" | "Sn")
}

/// Strong enough to set something alight: dilute solutions for titrations are not.
fn is_oxidiser(m: &Material) -> bool {
    let oxidises = is_permanganate(m)
        || typed(m).contains("Cr2O7")
        || typed(m).contains("ClO3")
        || typed(m) == "H2O2"
        || typed(m) == "HNO3"
        || m.hazards.iter().any(|h| h.starts_with("H271") || h.starts_with("H272"));
    oxidises && strength(m) >= 1.0
}

/// Burns: carbon with hydrogen, no metal, no carbonate; not a dilute solution.
fn is_organic(m: &Material) -> bool {
    let carbon = count(m, "C") > 0.0 && count(m, "H") > 0.0 && !is_carbonate(m);
    let metal = ["Na", "K", "Ca", "Mg", "Zn", "Cu", "Fe"].iter().any(|e| count(m, e) > 0.0);
    carbon && !metal && strength(m) >= 1.0
}

fn is_flammable(m: &Material) -> bool {
    m.hazards.iter().any(|h| ["H224", "H225", "H226"].iter().any(|code| h.starts_with(code)))
}

fn says_portions(step: &Step) -> bool {
    step.technique.as_deref() == Some("controlled-addition")
        || step.text.contains("portion")
        || step.text.contains("drop")
}

/// Hot enough that ice cracks it.
fn glows(step: &Step) -> bool {
    matches!(step.heat, Some(Heat::Flame | Heat::HotPlate | Heat::Mantle))
}

fn is_iced(step: &Step) -> bool {
    step.temperature.as_deref().and_then(celsius).is_some_and(|t| t < 10.0)
        || step.text.split(|c: char| !c.is_alphabetic()).any(|w| w.eq_ignore_ascii_case("ice"))
}
