//! Things that do not go together, or not in this order.
//!
//! Hazards belong to a form and a strength: 0.1 mol/L sodium hydroxide is not its pellets. What is in one vessel, in the
//! order in which it comes there, is looked at pair by pair, what is poured together as well; a flame counts for the whole
//! room while it burns. What has reacted away still counts as there: told too often rather than too seldom.
//!
//! Looked at are the pairs of [`RULES`], and nothing else.
//!
//! Source: the general rules of laboratory safety for these groups of substances; the supplier's safety data sheets come
//! first.

use super::{Consequence, Note, Setting, classes};
use practical::file::{Heat, Step};
use practical::{Key, Material, celsius};
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
    /// Gives off hydrogen.
    MetalAndAcid,
    /// Gives off hydrogen cyanide.
    AcidOnCyanide,
    /// Gives off hydrogen sulfide.
    AcidOnSulfide,
    /// Gives off nitrogen oxides.
    AcidOnNitrite,
    /// Makes chlorine dioxide, which explodes.
    AcidOnChlorate,
    /// Gives off ammonia.
    BaseOnAmmonium,
    /// Reacts violently with water.
    WaterReactive,
    /// Boils and spits.
    ConcentratedAcidAndBase,
    /// May catch fire or explode.
    OxidiserAndMetal,
    /// Makes what explodes, or gives off chlorine.
    OxidiserAndConcentratedAcid,
    /// Gives off chlorine.
    DichromateAndHydrochloric,
    /// Gives off nitrogen oxides.
    NitricAcidAndMetal,
    /// Leaves what explodes when it dries.
    SilverAndAmmonia,
    /// Makes chloroform, with heat.
    HypochloriteAndPropanone,
    /// Makes a peroxide that explodes.
    PeroxideAndPropanone,
    /// Gives off oxygen, violently.
    HypochloriteAndPeroxide,
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
                    // Poured together is added together.
                    let poured = contents.remove(vessel).unwrap_or_default();
                    let there = contents.entry(into).or_default();
                    for added in &poured {
                        for before in there.iter() {
                            found.extend(
                                pair(before, added, step).map(|d| (d, before.name.clone(), added.name.clone())),
                            );
                        }
                    }
                    there.extend(poured);
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

/// Two classes, in either order, and the danger of them together.
struct Rule {
    one: fn(&Material) -> bool,
    other: fn(&Material) -> bool,
    danger: Combination,
}

const fn rule(one: fn(&Material) -> bool, other: fn(&Material) -> bool, danger: Combination) -> Rule {
    Rule { one, other, danger }
}

/// Every pair that is looked at, the worst of a kind first: one danger is told of each two things.
///
/// Source: general rules of chemical incompatibility as safety data sheets state them in sections 7 and 10; each class in
/// [`classes`] with the strength from which on it counts.
const RULES: &[Rule] = &[
    rule(classes::cyanide, classes::acid, Combination::AcidOnCyanide),
    rule(classes::hypochlorite, classes::acid, Combination::HypochloriteAndAcid),
    rule(classes::hypochlorite, classes::ammonia_or_ammonium, Combination::HypochloriteAndAmmonia),
    rule(classes::hypochlorite, classes::propanone, Combination::HypochloriteAndPropanone),
    rule(classes::hypochlorite, classes::peroxide, Combination::HypochloriteAndPeroxide),
    rule(classes::permanganate, classes::hydrochloric, Combination::PermanganateAndHydrochloric),
    rule(classes::strong_dichromate, classes::strong_hydrochloric, Combination::DichromateAndHydrochloric),
    rule(classes::strong_chlorate, classes::acid, Combination::AcidOnChlorate),
    rule(classes::iodine, classes::ammonia, Combination::IodineAndAmmonia),
    rule(classes::silver, classes::strong_ammonia, Combination::SilverAndAmmonia),
    rule(classes::strong_peroxide, classes::propanone, Combination::PeroxideAndPropanone),
    rule(classes::sulfide, classes::acid, Combination::AcidOnSulfide),
    rule(classes::sulfite, classes::acid, Combination::AcidOnSulfite),
    rule(classes::nitrite, classes::acid, Combination::AcidOnNitrite),
    rule(classes::strong_nitric, classes::metal_or_copper, Combination::NitricAcidAndMetal),
    rule(classes::solid_oxidiser, classes::concentrated_acid, Combination::OxidiserAndConcentratedAcid),
    rule(classes::solid_oxidiser, classes::metal, Combination::OxidiserAndMetal),
    rule(classes::oxidiser, classes::organic, Combination::OxidiserAndOrganic),
    rule(classes::water_reactive, classes::watery, Combination::WaterReactive),
    rule(classes::concentrated_acid, classes::concentrated_base, Combination::ConcentratedAcidAndBase),
    rule(classes::aluminium, classes::strong_base, Combination::BaseAndAluminium),
    rule(classes::strong_ammonium, classes::strong_base, Combination::BaseOnAmmonium),
];

/// The danger of adding `added` to what holds `before`.
fn pair(before: &Material, added: &Material, step: &Step) -> Option<Combination> {
    use Combination as C;
    let either = |one: fn(&Material) -> bool, other: fn(&Material) -> bool| {
        (one(before) && other(added)) || (one(added) && other(before))
    };
    // The order counts: acid goes into water.
    if classes::water(added) && classes::concentrated_acid(before) {
        return Some(C::WaterOntoAcid);
    }
    let by_class = RULES.iter().find(|r| either(r.one, r.other)).map(|r| r.danger);
    let at_once = || step.portions.is_none_or(|n| n < 2) && !says_portions(step);
    by_class.or_else(|| (either(classes::carbonate, classes::acid) && at_once()).then_some(C::AcidOnCarbonate)).or_else(
        || {
            let hydrogen = either(classes::metal, classes::acid);
            let flame = step.heat == Some(Heat::Flame);
            let strong = either(classes::metal, classes::strong_acid);
            match (hydrogen && flame, strong) {
                (true, _) => Some(C::MetalAcidFlame),
                (false, true) => Some(C::MetalAndAcid),
                (false, false) => None,
            }
        },
    )
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
