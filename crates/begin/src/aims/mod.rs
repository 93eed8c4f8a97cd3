//! What each aim asks, and the figures that follow from the answers.

mod comparisons;
mod glass;
mod masses;
mod solutions;
mod taken;
mod titrations;
mod yields;

use crate::Aim;
use crate::interview::{Field, Interview, Proposed, Why};
use crate::matter::Matter;
use measure::Dimension;
use minijinja::Value;

/// What the template of the aim is filled with, once everything that it needs is answered.
pub(crate) fn ask(aim: Aim, on: &mut Interview<'_>) -> Option<Value> {
    match aim {
        Aim::TitrantByMass => titrations::titrant_by_mass(on),
        Aim::TitrantBySolution => titrations::titrant_by_solution(on),
        Aim::SampleByTitration => titrations::sample_by_titration(on),
        Aim::BackTitration => titrations::back_titration(on),
        Aim::YieldOfSalt => yields::salt(on),
        Aim::YieldOfPrecipitate => yields::precipitate(on),
        Aim::YieldOfOrganicSolid => yields::organic_solid(on),
        Aim::YieldOfOrganicLiquid => yields::organic_liquid(on),
        Aim::SimplestFormula => masses::simplest_formula(on),
        Aim::WatersOfCrystallisation => masses::waters(on),
        Aim::PartByPrecipitate => masses::part_by_precipitate(on),
        Aim::PartByResidue => masses::part_by_residue(on),
        Aim::Recovery => yields::recovery(on),
        Aim::Solution => solutions::one(on),
        Aim::DilutionSeries => solutions::series(on),
        Aim::WhichLimits => comparisons::which_limits(on),
        Aim::WhichReaction => comparisons::which_reaction(on),
    }
}

/// The title, with one to begin from.
fn title(on: &mut Interview<'_>, proposed: &str) -> Option<String> {
    let mut letters = proposed.chars();
    let proposed = letters.next().map_or_else(String::new, |c| c.to_uppercase().chain(letters).collect());
    let title = on.text(Field::Title, Some(Proposed(proposed, Why::Usual)))?;
    if title.chars().count() > 120 {
        return on.refuse(Field::Title, "a title has 120 characters at most");
    }
    Some(title)
}

/// The part of something that is expected, at most all of it.
fn part(on: &mut Interview<'_>, usual: &str) -> Option<f64> {
    let part = on.quantity(Field::Part, &[Dimension::ONE], Some(Proposed(usual.into(), Why::Usual)))?.base();
    if part > 1.0 {
        return on.refuse(Field::Part, "a part is 100 % at most");
    }
    Some(part)
}

/// The temperature of the oven, as it was written.
fn dried_at(on: &mut Interview<'_>, usual: &str) -> Option<String> {
    on.quantity(Field::Drying, &[Dimension::TEMPERATURE], Some(Proposed(usual.into(), Why::Usual)))?;
    on.asked.last().map(|asked| asked.value.clone())
}

/// Marks for the last result, where there are to be any; written as it stands.
fn marks(on: &mut Interview<'_>) -> Value {
    let some = on.yes(Field::Marks, true);
    Value::from_safe_string(if some { "{ method = 2, value = 2, unit = 1, digits = 1 }".into() } else { String::new() })
}

/// Where what is left of these goes, by the groups of the library.
fn disposal(of: &[&Matter]) -> String {
    let mut groups: Vec<(&str, Vec<&str>)> = Vec::new();
    for matter in of {
        let group = if matter.waste.is_empty() { "as the supplier’s sheet says" } else { matter.waste.as_str() };
        match groups.iter_mut().find(|(g, _)| *g == group) {
            Some((_, names)) if names.contains(&matter.name.as_str()) => {}
            Some((_, names)) => names.push(&matter.name),
            None => groups.push((group, vec![&matter.name])),
        }
    }
    let said: Vec<String> =
        groups.iter().map(|(group, names)| format!("{}: {}.", capital(group), names.join(", "))).collect();
    format!("{} Local rules come first.", said.join(" "))
}

fn capital(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or_else(String::new, |c| c.to_uppercase().chain(letters).collect())
}
