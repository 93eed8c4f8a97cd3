//! Classes of substances that are dangerous together, by formula and strength.
//!
//! A class is a list of formulas, or a part that stands in the formula as it is typed and nothing else does. Strength is the
//! amount concentration of a solution; a pure substance has no limit. Water of crystallisation does not count.

use practical::{Basis, Material, StrengthKind, Supply};

/// The formula as typed.
fn typed(m: &Material) -> &str {
    m.formula.as_ref().map_or("", |f| f.typed())
}

fn count(m: &Material, symbol: &str) -> f64 {
    m.formula.as_ref().map_or(0.0, |f| f.composition().count(symbol))
}

/// Amount concentration, where it is a solution; infinite for a pure substance.
fn strength(m: &Material) -> f64 {
    match &m.supply {
        Supply::Solution(s) => {
            let mass = m.formula.as_ref().and_then(|f| f.molar_mass(&chem::MassTable::Abridged).ok());
            let bare = s.kind == StrengthKind::Percent(None);
            let kind = if bare { StrengthKind::Percent(Some(Basis::MassInVolume)) } else { s.kind };
            mass.and_then(|mass| s.concentration(kind, mass.value)).unwrap_or(f64::INFINITY)
        }
        Supply::Solid { .. } | Supply::Liquid { .. } | Supply::Saturated | Supply::Gas { .. } => f64::INFINITY,
    }
}

fn is_solution(m: &Material) -> bool {
    matches!(m.supply, Supply::Solution(_) | Supply::Saturated)
}

fn is_one_of(m: &Material, formulas: &[&str]) -> bool {
    formulas.contains(&typed(m))
}

const ACIDS: &[&str] = &[
    "HCl", "HBr", "HI", "HF", "H2SO4", "HNO3", "H3PO4", "HClO4", "CH3COOH", "C2H4O2", "HCOOH", "CH2O2", "H2C2O4",
    "C6H8O7", "KHSO4", "NaHSO4", "H2SO3", "HNO2", "NH2SO3H", "H3NSO3", "HSO3NH2", "C4H6O6",
];
const STRONG_ACIDS: &[&str] = &["HCl", "HBr", "H2SO4", "HNO3", "HClO4", "H3PO4"];

/// Acids of the teaching laboratory, weak ones too.
pub(super) fn acid(m: &Material) -> bool {
    is_one_of(m, ACIDS)
}

/// Acids from 1 mol/L on.
pub(super) fn strong_acid(m: &Material) -> bool {
    acid(m) && strength(m) >= 1.0
}

/// Mineral acids from 5 mol/L on.
pub(super) fn concentrated_acid(m: &Material) -> bool {
    is_one_of(m, STRONG_ACIDS) && strength(m) >= 5.0
}

pub(super) fn hydrochloric(m: &Material) -> bool {
    typed(m) == "HCl"
}

/// From 1 mol/L on.
pub(super) fn strong_hydrochloric(m: &Material) -> bool {
    hydrochloric(m) && strength(m) >= 1.0
}

/// From 2 mol/L on.
pub(super) fn strong_nitric(m: &Material) -> bool {
    typed(m) == "HNO3" && strength(m) >= 2.0
}

/// Alkali from 1 mol/L on.
pub(super) fn strong_base(m: &Material) -> bool {
    is_one_of(m, &["NaOH", "KOH", "LiOH", "Ca(OH)2", "Ba(OH)2", "CaO"]) && strength(m) >= 1.0
}

/// Alkali from 5 mol/L on, and solid.
pub(super) fn concentrated_base(m: &Material) -> bool {
    is_one_of(m, &["NaOH", "KOH", "LiOH"]) && strength(m) >= 5.0
}

pub(super) fn water(m: &Material) -> bool {
    typed(m) == "H2O"
}

/// Water, and what is dissolved in it.
pub(super) fn watery(m: &Material) -> bool {
    water(m) || is_solution(m)
}

/// Acyl and inorganic chlorides that fume, anhydrides, alkali metals, hydrides, burnt lime, carbide; not aroyl chlorides,
/// which are shaken with water on purpose.
pub(super) fn water_reactive(m: &Material) -> bool {
    const VIOLENT: &[&str] = &[
        "CH3COCl",
        "C2H3ClO",
        "SOCl2",
        "SO2Cl2",
        "PCl3",
        "PCl5",
        "POCl3",
        "TiCl4",
        "SiCl4",
        "P2O5",
        "P4O10",
        "(CH3CO)2O",
        "C4H6O3",
        "Li",
        "Na",
        "K",
        "Ca",
        "NaH",
        "CaH2",
        "LiAlH4",
        "CaO",
        "CaC2",
    ];
    is_one_of(m, VIOLENT) && !is_solution(m)
}

pub(super) fn cyanide(m: &Material) -> bool {
    is_one_of(m, &["NaCN", "KCN", "Ca(CN)2", "Zn(CN)2", "CuCN", "AgCN"])
}

/// A metal's sulfide: sulfur without oxygen, carbon or nitrogen (a thiocyanate is none).
pub(super) fn sulfide(m: &Material) -> bool {
    let nitrogen = count(m, "N") > 0.0 && !typed(m).contains("NH4");
    let other = nitrogen || ["O", "C", "Cl"].iter().any(|e| count(m, e) > 0.0);
    count(m, "S") > 0.0 && !other && !is_one_of(m, &["S", "S8"])
}

/// Sulfites, hydrogensulfites, disulfites, thiosulfates, dithionites; a sulfonic or a sulfamic acid is none.
pub(super) fn sulfite(m: &Material) -> bool {
    let salt = count(m, "C") == 0.0 && (count(m, "N") == 0.0 || typed(m).contains("NH4"));
    salt && ["SO3", "S2O3", "S2O5", "S2O4"].iter().any(|part| typed(m).contains(part)) && typed(m) != "SO3"
}

pub(super) fn nitrite(m: &Material) -> bool {
    is_one_of(m, &["NaNO2", "KNO2", "NH4NO2", "AgNO2"])
}

pub(super) fn chlorate(m: &Material) -> bool {
    typed(m).contains("ClO3")
}

/// Solid, or from 1 mol/L on.
pub(super) fn strong_chlorate(m: &Material) -> bool {
    chlorate(m) && strength(m) >= 1.0
}

pub(super) fn carbonate(m: &Material) -> bool {
    typed(m).contains("CO3")
}

pub(super) fn ammonia(m: &Material) -> bool {
    is_one_of(m, &["NH3", "NH4OH"])
}

/// From 1 mol/L on.
pub(super) fn strong_ammonia(m: &Material) -> bool {
    ammonia(m) && strength(m) >= 1.0
}

fn ammonium(m: &Material) -> bool {
    typed(m).contains("NH4") && typed(m) != "NH4OH"
}

/// Solid, or from 1 mol/L on.
pub(super) fn strong_ammonium(m: &Material) -> bool {
    ammonium(m) && strength(m) >= 1.0
}

pub(super) fn ammonia_or_ammonium(m: &Material) -> bool {
    ammonia(m) || ammonium(m)
}

pub(super) fn iodine(m: &Material) -> bool {
    typed(m) == "I2"
}

pub(super) fn hypochlorite(m: &Material) -> bool {
    is_one_of(m, &["NaClO", "NaOCl", "KClO", "KOCl", "Ca(ClO)2", "Ca(OCl)2", "LiClO", "LiOCl"])
}

pub(super) fn peroxide(m: &Material) -> bool {
    typed(m) == "H2O2"
}

/// From 3 mol/L on, 10 %.
pub(super) fn strong_peroxide(m: &Material) -> bool {
    peroxide(m) && strength(m) >= 3.0
}

pub(super) fn propanone(m: &Material) -> bool {
    is_one_of(m, &["C3H6O", "CH3COCH3", "(CH3)2CO"])
}

pub(super) fn permanganate(m: &Material) -> bool {
    typed(m).contains("MnO4")
}

/// Solid, or from 0.5 mol/L on.
pub(super) fn strong_dichromate(m: &Material) -> bool {
    (typed(m).contains("Cr2O7") || typed(m) == "CrO3") && strength(m) >= 0.5
}

/// Soluble silver.
pub(super) fn silver(m: &Material) -> bool {
    is_one_of(m, &["AgNO3", "Ag2SO4", "Ag2O"])
}

pub(super) fn aluminium(m: &Material) -> bool {
    typed(m) == "Al"
}

/// Metals that free hydrogen from an acid.
pub(super) fn metal(m: &Material) -> bool {
    is_one_of(m, &["Zn", "Mg", "Fe", "Al", "Ca", "Sn", "Mn"])
}

/// What nitric acid takes as well.
pub(super) fn metal_or_copper(m: &Material) -> bool {
    metal(m) || is_one_of(m, &["Cu", "Ag", "Pb", "Hg"])
}

/// Strong enough to set something alight: dilute solutions for titrations are not.
pub(super) fn oxidiser(m: &Material) -> bool {
    let oxidises = permanganate(m)
        || typed(m).contains("Cr2O7")
        || chlorate(m)
        || typed(m) == "H2O2"
        || typed(m) == "HNO3"
        || m.hazards.iter().any(|h| h.starts_with("H271") || h.starts_with("H272"));
    oxidises && strength(m) >= 1.0
}

/// Salts that give oxygen: permanganates, chlorates, dichromates, as solids.
pub(super) fn solid_oxidiser(m: &Material) -> bool {
    let gives = permanganate(m) || chlorate(m) || typed(m).contains("Cr2O7") || typed(m) == "CrO3";
    gives && !is_solution(m)
}

/// Burns: carbon with hydrogen, no metal, no carbonate; not a dilute solution.
pub(super) fn organic(m: &Material) -> bool {
    let carbon = count(m, "C") > 0.0 && count(m, "H") > 0.0 && !carbonate(m);
    let metal = ["Na", "K", "Ca", "Mg", "Zn", "Cu", "Fe"].iter().any(|e| count(m, e) > 0.0);
    carbon && !metal && strength(m) >= 1.0
}
