//! Reactions and materials.

use super::{Report, keys, unknown};
use crate::amount::Roughly;
use crate::error::PracticalProblem as Problem;
use crate::file::{Arrangement, File, Form, MaterialItem};
use crate::reactions::{self, Reaction};
use crate::solubility::grams_taken_up;
use crate::{Material, QuantityError, Stated, Supply};
use chem::{Coefficient, Formula, MassTable};
use measure::Dimension;

/// Of what a planned amount is unless it says so.
const GROUP: &str = "group";

pub(super) fn reactions(report: &mut Report<'_>, file: &File) -> Vec<Reaction> {
    let mut out = Vec::new();
    for (i, item) in file.reactions.iter().enumerate() {
        let words = format!("reaction {}", i + 1);
        out.extend(report.keep(&keys!["reactions", i, "equation"], &words, reactions::reaction(item)));
        for (symbol, seen) in &item.predicts {
            let path = &keys!["reactions", i, "predicts", symbol.as_str()];
            match file.observations.iter().find(|o| o.symbol == *symbol) {
                None => {
                    let known = file.observations.iter().map(|o| o.symbol.as_str());
                    report.fail(path, &words, unknown("observation", symbol, known));
                }
                Some(o) if !o.choices.contains(seen) => {
                    report.fail(path, &words, unknown("choice", seen, o.choices.iter().map(String::as_str)));
                }
                Some(_) => {}
            }
        }
    }
    if out.len() == file.reactions.len() {
        reactions::carry(&mut out, file.arrangement);
    }
    out
}

pub(super) fn materials(
    report: &mut Report<'_>,
    file: &File,
    reactions: &[Reaction],
    masses: &MassTable,
) -> Vec<Material> {
    report.distinct("materials", "symbol", "material", file.materials.iter().map(|m| m.symbol.as_str()));
    let mut out = Vec::new();
    for (i, item) in file.materials.iter().enumerate() {
        let words = format!("material '{}'", item.symbol);
        let mut field = |key: &str, problem| report.fail(&keys!["materials", i, key], &words, problem);
        if item.mixture_of.len() == 1 {
            field("mixture_of", Problem::Senseless("a mixture has two components or more"));
        }
        for name in &item.mixture_of {
            if !file.materials.iter().any(|m| m.symbol == *name) {
                field("mixture_of", unknown("material", name, file.materials.iter().map(|m| m.symbol.as_str())));
            }
        }
        if item.symbol.trim().is_empty() || item.name.trim().is_empty() {
            field("symbol", Problem::Senseless("a material has a symbol and a name"));
        }
        let along = |axis: &str| file.readings.iter().any(|r| r.repeats.as_ref().is_some_and(|n| n.axis == axis));
        let each = item.each.as_deref().map(str::trim).filter(|each| *each != GROUP);
        if each.is_some_and(|axis| !along(axis)) {
            field(
                "each",
                Problem::Senseless("nothing repeats along this: of the 'group', or of each 'trial', 'portion'"),
            );
        }
        out.extend(material(item, reactions, file.arrangement, masses, |key, problem| field(key, problem)));
    }
    out
}

/// The material, if nothing is wrong with it; everything that is wrong is told through `fail`.
fn material(
    item: &MaterialItem,
    reactions: &[Reaction],
    arrangement: Arrangement,
    masses: &MassTable,
    mut fail: impl FnMut(&str, Problem),
) -> Option<Material> {
    let mut sound = true;
    let mut told = |key: &str, problem: Problem| {
        sound = false;
        fail(key, problem);
    };
    let formula = item.formula.as_deref().map(Formula::parse).transpose().unwrap_or_else(|e| {
        told("formula", e.into());
        None
    });
    let dissolved = |celsius: f64| {
        let table = item.solubility.as_ref()?;
        let mass = |f: &Formula| f.molar_mass(masses).ok().map(|m| m.value);
        let counted = mass(&Formula::parse(&table.of).ok()?)? / mass(formula.as_ref()?)?;
        let mut at = table.at.clone();
        at.sort_by(|a, b| a[0].total_cmp(&b[0]));
        let grams = grams_taken_up(&at, celsius)?;
        Some(grams / (100.0 + grams) / counted)
    };
    let supply = Supply::read(&item.form, dissolved).map_err(|e| told("form", e)).ok();
    let dimensions: &[Dimension] = match item.form {
        Form::Solid { .. } | Form::Liquid { weighed: true, .. } => &[Dimension::MASS],
        Form::Solution { .. } | Form::Liquid { .. } | Form::Saturated { .. } => &[Dimension::VOLUME, Dimension::MASS],
        Form::Gas { .. } => &[Dimension::VOLUME],
    };
    let drop = item.drop.as_deref().map(|d| Stated::positive(d, &[Dimension::VOLUME])).transpose();
    let drop =
        drop.map_err(|e| Problem::Quantity { text: item.drop.clone().unwrap_or_default(), reason: e.to_string() });
    let drop = drop.map_err(|e| told("drop", e)).ok().flatten();
    let roughly = item.planned.as_deref().and_then(|text| Roughly::read(text, drop.as_ref()));
    if roughly.is_some() && item.role.counts() {
        told("planned", Problem::Senseless("its amount is part of the sums: say it as a mass or a volume"));
    }
    let mut stated = |key: &str, text: &Option<String>, dimensions: &[Dimension]| {
        let text = text.as_deref()?;
        let quantity = |e: QuantityError| Problem::Quantity { text: text.to_owned(), reason: e.to_string() };
        Stated::positive(text, dimensions).map_err(|reason| told(key, quantity(reason))).ok()
    };
    let planned = match &roughly {
        Some(roughly) => roughly.stated.clone(),
        None => stated("planned", &item.planned, dimensions),
    };
    let celsius = |s: &Stated| (s.ends().0 - 273.15, s.ends().1 - 273.15);
    let temperature = &[Dimension::TEMPERATURE];
    let melts = stated("melts", &item.melts, temperature).map(|s| celsius(&s));
    let boils = stated("boils", &item.boils, temperature).map(|s| s.base() - 273.15);
    let bears = stated("bears", &item.bears, temperature).map(|s| s.base() - 273.15);
    let solubility = item.solubility.as_ref().and_then(|s| {
        let of = Formula::parse(&s.of).map_err(|e| told("solubility", e.into())).ok()?;
        let mut at = s.at.clone();
        at.sort_by(|a, b| a[0].total_cmp(&b[0]));
        if at.is_empty() || at.iter().any(|[t, g]| !t.is_finite() || g.is_nan() || *g < 0.0) {
            told(
                "solubility",
                Problem::Senseless("a solubility has at least one temperature, and grams that are not negative"),
            );
        }
        if let Some(f) = &formula
            && reactions::units_of(&of, f).is_none()
        {
            told("solubility", Problem::Senseless("the formula counted is not in the material"));
        }
        Some((of, at))
    });
    if item.ksp.is_some_and(|k| !(k > 0.0 && k < 1.0)) {
        told("ksp", Problem::Senseless("a solubility product is a small number above zero"));
    }
    if item.hydrates.iter().any(|n| !(0.0..=30.0).contains(n)) {
        told("hydrates", Problem::Senseless("a hydrate has 0 to 30 waters"));
    }
    let species = formula.as_ref().and_then(|f| species(item, f, reactions));
    let term = species.as_ref().and_then(|(species, units)| {
        let (coefficient, used) = reactions::term_of(reactions, arrangement, species)?;
        Some((coefficient / Coefficient::from_integer(i64::from(*units)), used))
    });
    let sound = sound;
    sound.then_some(())?;
    Some(Material {
        symbol: item.symbol.clone(),
        name: item.name.clone(),
        also: item.also.clone(),
        role: item.role,
        formula,
        supply: supply?,
        planned,
        roughly: roughly.map(|r| r.said),
        each: item.each.as_deref().map(str::trim).filter(|each| *each != GROUP).map(str::to_owned),
        hydrates: item.hydrates.clone(),
        mixture_of: item.mixture_of.clone(),
        solubility,
        ksp: item.ksp,
        melts,
        boils,
        bears,
        hazards: item.hazards.clone(),
        waste: item.waste.trim().to_owned(),
        term,
        species,
    })
}

/// The species of the reactions that a material brings: itself, or the one that it is said to supply, and how many of it.
fn species(item: &MaterialItem, formula: &Formula, reactions: &[Reaction]) -> Option<(Formula, u32)> {
    let stands = |species: &Formula| reactions.iter().any(|r| r.equation.term_of(species).is_some());
    let Some(species) = item.supplies.as_deref().and_then(|s| Formula::parse(s).ok()) else {
        return stands(formula).then(|| (formula.clone(), 1));
    };
    let units = reactions::units_of(&species, formula).filter(|_| stands(&species))?;
    Some((species, units))
}

/// The species of a reaction that a material seems to be meant as: itself with other water. To be told, never taken.
pub(super) fn meant_by<'r>(formula: &Formula, reactions: &'r [Reaction]) -> Option<&'r Formula> {
    let dry = |f: &Formula| -> Vec<(String, f64)> {
        let counts = f.composition().iter().filter(|(a, _)| !matches!(a.element.symbol, "H" | "O"));
        counts.map(|(a, n)| (a.element.symbol.to_owned(), n)).collect()
    };
    let all = reactions.iter().flat_map(|r| r.equation.terms());
    let own = dry(formula);
    let waters = |f: &Formula| {
        let apart = |symbol: &str| formula.composition().count(symbol) - f.composition().count(symbol);
        (apart("H") - 2.0 * apart("O")).abs() < 1e-9 && apart("O") != 0.0
    };
    all.map(|t| &t.formula).find(|f| !own.is_empty() && f.charge() == formula.charge() && dry(f) == own && waters(f))
}

/// Ratios of materials that meet in a reaction of their own, where that differs from the ratio of their coefficients.
pub(super) fn own_ratios(
    materials: &[Material],
    reactions: &[Reaction],
    arrangement: Arrangement,
) -> Vec<(String, String, Coefficient)> {
    if arrangement != Arrangement::Parallel {
        return Vec::new();
    }
    let mut out = Vec::new();
    for reaction in reactions {
        let here: Vec<(&str, Coefficient)> = materials
            .iter()
            .filter_map(|m| Some((m.symbol.as_str(), reaction.equation.term_of(m.formula.as_ref()?)?.0)))
            .collect();
        for (of, above) in &here {
            for (per, below) in here.iter().filter(|(p, _)| p != of) {
                let known = out.iter().any(|(a, b, _): &(String, String, _)| a == of && b == per);
                if !known {
                    out.push(((*of).to_owned(), (*per).to_owned(), *above / *below));
                }
            }
        }
    }
    out
}
