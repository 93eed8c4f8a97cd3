//! What is found by weighing alone: formulas, waters of crystallisation, parts.

use super::glass::{WeighedOut, balance};
use super::taken::element;
use super::yields::{empty_and_full, vessel_for};
use super::{dried_at, marks, part, title};
use crate::interview::{Field, Interview, Proposed, Why};
use crate::matter::{Matter, Reaction, molar_mass, round_mass};
use crate::write::{Reads, decimals, plain};
use chem::Formula;
use measure::rounding::figures;
use measure::{Dimension, Instrument};
use minijinja::{Value, context};

/// Empty, filled and heated: a crucible that weighs 31.5 g.
fn crucible(on: &Instrument, filled: f64, heated: f64) -> Value {
    let empty = 31.5;
    let most = 60.0 + (1.5 * filled.max(heated)).ceil();
    context! {
        empty => Reads::on(on, empty, (15.0, 60.0)),
        filled => Reads::on(on, empty + filled, (15.0, most)),
        heated => Reads::on(on, empty + heated, (15.0, most)),
        within => format!("{} g", plain((3.0 * on.resolution).max(0.003), 3)),
    }
}

pub(super) fn simplest_formula(on: &mut Interview<'_>) -> Option<Value> {
    let reaction = Reaction::asked(on, Field::Equation, "Mg + O2 -> MgO")?;
    let binary = |f: &Formula| f.composition().iter().count() == 2 && f.charge() == 0 && f.typed() != "H2O";
    let made = reaction.products.iter().find(|s| binary(&s.formula));
    let used = reaction.reactants.iter().find(|s| binary(&s.formula));
    // Either the elements combine in the crucible, or the compound gives one of them up there.
    let (compound, combines) = match (made, used) {
        (Some(made), _) => (made.clone(), true),
        (None, Some(used)) => (used.clone(), false),
        (None, None) => return on.refuse(Field::Equation, "there is no compound of two elements in it"),
    };
    let of_compound = |symbol: &str| compound.formula.composition().count(symbol) > 0.0;
    let side = if combines { &reaction.reactants } else { &reaction.products };
    let kept: Vec<String> = side.iter().filter_map(element).filter(|e| of_compound(e)).map(str::to_owned).collect();
    if kept.is_empty() {
        return on.refuse(Field::Equation, "neither of its elements stands alone on the other side");
    }
    let solid = kept.iter().position(|e| !matches!(e.as_str(), "H" | "N" | "O" | "F" | "Cl" | "Br")).unwrap_or(0);
    let kept = kept[on.choice(Field::Element, &kept, solid, Why::InTheEquation)?].clone();
    let other = compound.formula.composition().iter().map(|(a, _)| a.element.symbol).find(|e| *e != kept)?;
    let species = side.iter().find(|s| element(s) == Some(kept.as_str()))?.clone();
    let metal = Matter::of(on, Field::SampleFrom, &species)?.taken_as(None);
    let compound_matter = Matter::of(on, Field::OtherFrom, &compound)?.taken_as(None).distinct(&[&metal]);
    let whole = molar_mass(&compound.formula);
    let part = compound.formula.composition().count(&kept) * chem_mass(&kept) / whole;
    let usual = if combines { "1.0 g" } else { "2.0 g" };
    let mass = on.quantity(Field::Mass, &[Dimension::MASS], Some(Proposed(usual.into(), Why::Usual)))?.base();
    let balance = balance(on, mass, 0.002)?;
    let title = title(on, &format!("the formula of {}", compound_matter.name))?;
    let after = if combines { mass / part } else { mass * part };
    Some(context! {
        title, combines, other, kept,
        marks => marks(on),
        equation => reaction.text,
        disposal => super::disposal(&[&metal, &compound_matter]),
        accepted => compound.typed(),
        taken => WeighedOut::of(&balance, mass, 0.1),
        crucible => crucible(&balance, mass, after),
        instruments => vec![balance],
        element => metal,
        compound => compound_matter,
    })
}

fn chem_mass(symbol: &str) -> f64 {
    Formula::parse(symbol).map_or(0.0, |f| molar_mass(&f))
}

pub(super) fn waters(on: &mut Interview<'_>) -> Option<Value> {
    let salt = Matter::called(on, Field::Hydrate, "MgSO4·7H2O")?.taken_as(None);
    let Some((dry, water)) = salt.formula.split_once('·') else {
        return on
            .refuse(Field::Hydrate, format!("'{}' has no water of crystallisation: write CuSO4·5H2O", salt.formula));
    };
    let count = water.strip_suffix("H2O").map(|n| if n.is_empty() { "1" } else { n }.parse::<f64>());
    let Some(Ok(count)) = count else {
        return on.refuse(Field::Hydrate, format!("'{water}' is no water: write CuSO4·5H2O"));
    };
    let dry = dry.to_owned();
    let mass = on.quantity(Field::Mass, &[Dimension::MASS], Some(Proposed("2.0 g".into(), Why::Usual)))?.base();
    let balance = balance(on, mass, 0.002)?;
    let dry_mass = Formula::parse(&dry).map_or(0.0, |f| molar_mass(&f));
    let residue = mass * dry_mass / salt.molar_mass;
    let title = title(on, &format!("water of crystallisation in {}", salt.name))?;
    let equation = format!("{} -> {dry} + {} H2O", salt.formula, plain(count, 1)).replace(" 1 H2O", " H2O");
    let anhydrous = practical::substance::with_formula(&dry);
    Some(context! {
        title, equation, dry,
        marks => marks(on),
        dry_name => anhydrous.map_or_else(|| dry.clone(), |s| s.name.clone()),
        disposal => super::disposal(&[&salt]),
        taken => WeighedOut::of(&balance, mass, 0.1),
        crucible => crucible(&balance, mass, residue),
        lost => format!("{} g", figures(2.0 * balance.resolution, 1)),
        instruments => vec![balance],
        salt,
    })
}

pub(super) fn part_by_precipitate(on: &mut Interview<'_>) -> Option<Value> {
    let reaction = Reaction::asked(on, Field::Equation, "Ba^2+ + SO4^2- -> BaSO4")?;
    let analyte = reaction.reactant(on, Field::Analyte, |s| s.formula.charge() < 0)?;
    let Some(other) = reaction.others(&[&analyte]).first().cloned() else {
        return on.refuse(Field::Equation, "nothing brings it down");
    };
    let precipitate = reaction.product(on, Field::Product, |s| s.formula.charge() == 0)?;
    let precipitant = Matter::of(on, Field::OtherFrom, &other)?;
    let strength = on.quantity(
        Field::Strength,
        &[Dimension::CONCENTRATION],
        Some(Proposed("0.100 ± 0.002 mol/L".into(), Why::Usual)),
    )?;
    let words = on.asked.last().map_or_else(String::new, |a| a.value.clone());
    let precipitant = precipitant.taken_as(Some(&strength));
    let part = part(on, "50 %")?;
    // So much of the sample that about half a gram is weighed in the end.
    let per_gram = part / molar_mass(&analyte.formula) / analyte.coefficient;
    let factor = per_gram * precipitate.coefficient * molar_mass(&precipitate.formula);
    let mass = on.quantity(
        Field::Mass,
        &[Dimension::MASS],
        Some(Proposed(format!("{} g", plain(round_mass(0.5 / factor), 3)), Why::Leaves { mass: "0.5 g".into() })),
    )?;
    let mass = mass.base();
    let balance = balance(on, 0.5, 0.004)?;
    let needed = 1000.0 * mass * per_gram * other.coefficient / precipitant.brings / strength.base();
    let volume: f64 = (1.2 * needed / 5.0).ceil() * 5.0;
    let Some(cylinder) = on.graduated(volume, 1.3 * volume) else {
        return on.refuse(Field::Strength, format!("it takes {} mL of it: take a stronger one", figures(volume, 3)));
    };
    let oven = dried_at(on, "120 °C")?;
    let product = Matter::of(on, Field::ProductFrom, &precipitate)?;
    let name = ion_name(analyte.typed());
    let title = title(on, &format!("{name} in a salt, weighed as {}", product.name))?;
    let places = decimals(&cylinder);
    Some(context! {
        title, oven, name,
        marks => marks(on),
        equation => reaction.text,
        analyte => analyte.typed(),
        symbol => format!("s_{}", name.chars().filter(char::is_ascii_alphanumeric).collect::<String>().to_lowercase()),
        disposal => super::disposal(&[&precipitant, &product]),
        strength => words,
        volume => format!("{volume:.places$} mL"),
        precipitant_reads => Reads::on(&cylinder, volume, ((0.9 * volume).floor(), (1.3 * volume).ceil().min(cylinder.capacity))),
        taken => WeighedOut::of(&balance, mass, 0.1),
        weighed => empty_and_full(&balance, (15.0, 31.5, 60.0), mass * factor * 1.5, mass * factor),
        beaker => vessel_for(102.0 + volume),
        instruments => vec![balance, cylinder],
        precipitant, product,
    })
}

/// What an ion is called, where everybody calls it so.
fn ion_name(formula: &str) -> String {
    let known = match formula {
        "SO4^2-" => "sulfate",
        "Cl^-" => "chloride",
        "Br^-" => "bromide",
        "I^-" => "iodide",
        "CO3^2-" => "carbonate",
        "PO4^3-" => "phosphate",
        "C2O4^2-" => "ethanedioate",
        "Ba^2+" => "barium",
        "Ca^2+" => "calcium",
        "Ag^+" => "silver",
        "Pb^2+" => "lead",
        "Sr^2+" => "strontium",
        "Ni^2+" => "nickel",
        "Mg^2+" => "magnesium",
        "Fe^3+" => "iron",
        _ => formula,
    };
    known.to_owned()
}

pub(super) fn part_by_residue(on: &mut Interview<'_>) -> Option<Value> {
    let dissolves = on.suggested(Field::Substance, vec!["sodium chloride".into()], None)?;
    let stays = on.suggested(Field::Other, vec!["sand".into()], None)?;
    let part = part(on, "40 %")?;
    let mass = on.quantity(Field::Mass, &[Dimension::MASS], Some(Proposed("5.0 g".into(), Why::Usual)))?.base();
    let balance = balance(on, mass, 0.002)?;
    let oven = dried_at(on, "110 °C")?;
    let title = title(on, &format!("{stays} in a mixture with {dissolves}"))?;
    Some(context! {
        title, oven, dissolves, stays,
        marks => marks(on),
        water => figures((8.0 * mass).max(20.0), 1),
        taken => WeighedOut::of(&balance, mass, 0.04),
        weighed => empty_and_full(&balance, (0.3, 0.62, 1.5), mass, part * mass),
        beaker => vessel_for(10.0 * mass),
        instruments => vec![balance],
    })
}
