//! Yields: what part of the product that there could be is got.

use super::glass::balance;
use super::taken::{Form, Recipe, Wants};
use super::{dried_at, marks, title};
use crate::interview::{Field, Interview, Proposed, Why};
use crate::matter::{Matter, statements_of};
use crate::write::{Reads, plain};
use measure::rounding::figures;
use measure::{Dimension, Instrument, InstrumentKind};
use minijinja::{Value, context};

/// What usual hands get of a salt that crystallises, of a precipitate, of a recrystallised solid, of a distilled liquid.
///
/// Source: the classes of the library's own practicals.
const SALT: f64 = 0.7;
pub(super) const PRECIPITATE: f64 = 0.93;
const ORGANIC_SOLID: f64 = 0.65;
const ORGANIC_LIQUID: f64 = 0.6;

/// A vessel that is weighed empty and full, in g.
pub(super) fn empty_and_full(on: &Instrument, vessel: (f64, f64, f64), most: f64, expected: f64) -> Value {
    let (low, empty, high) = vessel;
    context! {
        empty => Reads::on(on, empty, (low, high)),
        full => Reads::on(on, empty + expected, (low, (high + 1.1 * most).ceil())),
    }
}

/// The smallest usual vessel that is no more than two thirds full.
pub(super) fn vessel_for(millilitres: f64) -> &'static str {
    match millilitres * 1.5 {
        v if v <= 100.0 => "100 mL",
        v if v <= 250.0 => "250 mL",
        v if v <= 400.0 => "400 mL",
        _ => "600 mL",
    }
}

fn filled(on: &mut Interview<'_>, recipe: &Recipe, share: f64, vessel: (f64, f64, f64), more: Value) -> Option<Value> {
    let limits = recipe.reagents.len() > 1 && on.yes(Field::AskWhichLimits, true);
    let title = title(on, &format!("{}: how much do you get?", recipe.product.name))?;
    let expected = share * recipe.theory;
    Some(context! {
        title, limits,
        marks => marks(on),
        equation => recipe.reaction.text,
        disposal => recipe.disposal(),
        reagents => recipe.reagents,
        product => recipe.product,
        weighed => empty_and_full(&recipe.balance, vessel, recipe.theory, expected),
        within => format!("{} g", plain(2.0 * recipe.balance.resolution, 4)),
        ..more
    })
}

pub(super) fn salt(on: &mut Interview<'_>) -> Option<Value> {
    let wants = Wants {
        example: "CuO + H2SO4 + H2O -> CuSO4·5H2O",
        product: "5.0 g",
        strength: "1.00 ± 0.01 mol/L",
        dissolved: false,
        times: 1.0,
    };
    let recipe = Recipe::asked(on, &wants)?;
    // A solid that is meant to be left over is filtered off; two solids are dissolved in water.
    let filtered = recipe.reagents.iter().any(|t| t.form == Form::Solid && t.role == "excess") && recipe.liquid() > 0.0;
    let water = (recipe.liquid() <= 0.0).then(|| {
        let grams: f64 = recipe.reagents.iter().map(|t| t.mass).sum();
        figures((3.0 * grams).max(10.0), 1)
    });
    let liquid = recipe.liquid() + water.as_ref().map_or(0.0, |w| w.parse().unwrap_or(0.0));
    let left = figures((1.2 * recipe.theory).max(5.0).min(0.6 * liquid.max(5.0)), 1);
    let more = context! {
        filtered, water, left,
        instruments => recipe.instruments(),
        beaker => vessel_for(liquid),
        dish => if liquid * 1.2 <= 60.0 { "60 mL" } else { "250 mL" },
    };
    filled(on, &recipe, SALT, (25.0, 48.0, 90.0), more)
}

pub(super) fn precipitate(on: &mut Interview<'_>) -> Option<Value> {
    let wants = Wants {
        example: "CaCl2 + Na2CO3 -> CaCO3 + NaCl",
        product: "1.0 g",
        strength: "0.500 ± 0.005 mol/L",
        dissolved: true,
        times: 1.0,
    };
    let recipe = Recipe::asked(on, &wants)?;
    let oven = dried_at(on, "110 °C")?;
    let solids = recipe.reagents.iter().any(|t| t.form == Form::Solid);
    let water = solids.then_some("50");
    let liquid = recipe.liquid() + if solids { 50.0 } else { 0.0 };
    let more = context! {
        oven, water,
        instruments => recipe.instruments(),
        beaker => vessel_for(liquid),
    };
    filled(on, &recipe, PRECIPITATE, (0.3, 0.62, 1.5), more)
}

/// A melting point of one's own, or as the library has it.
fn melting(on: &mut Interview<'_>, of: &Matter) -> Option<Value> {
    let known = of.melts.as_ref().filter(|m| !m.starts_with('-'));
    let proposed = known.map_or(Proposed("none".into(), Why::Usual), |m| Proposed(m.clone(), Why::InTheLibrary));
    let said = on.suggested(Field::Melting, vec!["none".into()], Some(proposed))?;
    if said == "none" {
        return Some(Value::from(()));
    }
    let at = on.read(Field::Melting, &said, &[Dimension::TEMPERATURE])?.base() - 273.15;
    let apparatus = practical::kit().into_iter().find(|i| i.kind == InstrumentKind::MeltingPoint)?;
    Some(context! {
        expected => format!("{:.1} to {:.1}", at - 1.5, at),
        low => plain((at - 25.0).floor(), 0), high => plain((at + 10.0).ceil(), 0),
        instrument => apparatus,
    })
}

pub(super) fn organic_solid(on: &mut Interview<'_>) -> Option<Value> {
    let wants = Wants {
        example: "C7H9N + C7H5ClO -> C14H13NO + HCl",
        product: "3.0 g",
        strength: "2.00 ± 0.02 mol/L",
        dissolved: false,
        times: 1.0,
    };
    let recipe = Recipe::asked(on, &wants)?;
    let solvent = on.suggested(Field::Solvent, solvents(), Some(Proposed("ethanol".into(), Why::Usual)))?;
    let melting = melting(on, &recipe.product)?;
    let melting_instrument = melting.get_attr("instrument").ok().filter(|v| !v.is_undefined());
    let more = context! {
        solvent, melting,
        boils => boiling(&solvent),
        solvent_hazards => statements_of(&solvent),
        instruments => recipe.instruments().into_iter().map(Value::from_serialize).chain(melting_instrument).collect::<Vec<_>>(),
        flask => vessel_for(recipe.liquid() + 30.0),
    };
    filled(on, &recipe, ORGANIC_SOLID, (5.0, 12.0, 30.0), more)
}

pub(super) fn organic_liquid(on: &mut Interview<'_>) -> Option<Value> {
    let wants = Wants {
        example: "CH3COOH + C2H5OH -> CH3COOC2H5 + H2O",
        product: "15 g",
        strength: "2.00 ± 0.02 mol/L",
        dissolved: false,
        times: 1.0,
    };
    let recipe = Recipe::asked(on, &wants)?;
    let catalyst = on.suggested(
        Field::Catalyst,
        vec!["none".into(), "sulfuric acid".into()],
        Some(Proposed("none".into(), Why::Usual)),
    )?;
    let boils = recipe.product.boils.as_ref().and_then(|b| practical::celsius(b));
    let more = context! {
        catalyst_hazards => statements_of(&catalyst),
        catalyst => Some(catalyst).filter(|c| c != "none"),
        boils => boils.map(|b| context! {
            expected => format!("{:.1} to {:.1}", b - 3.0, b + 1.0),
            low => plain(b - 20.0, 0), high => plain(b + 15.0, 0), upper => plain(b + 2.0, 0),
        }),
        instruments => with_thermometer(recipe.instruments(), boils.is_some()),
        flask => vessel_for(recipe.liquid() + 2.0),
    };
    filled(on, &recipe, ORGANIC_LIQUID, (20.0, 45.0, 90.0), more)
}

fn with_thermometer(mut all: Vec<Instrument>, wanted: bool) -> Vec<Instrument> {
    let thermometer = practical::kit().into_iter().find(|i| i.kind == InstrumentKind::Thermometer);
    all.extend(thermometer.filter(|_| wanted));
    all
}

pub(super) fn solvents() -> Vec<String> {
    ["ethanol", "water", "propan-2-ol", "ethyl ethanoate"].map(str::to_owned).to_vec()
}

/// The boiling point of a liquid of the library, with its unit.
pub(super) fn boiling(name: &str) -> Option<String> {
    practical::substance::called(name)?.boils.as_ref().map(|b| format!("{b} °C"))
}

/// A recrystallisation on its own.
pub(super) fn recovery(on: &mut Interview<'_>) -> Option<Value> {
    let matter = Matter::called(on, Field::Substance, "benzoic acid")?.taken_as(None);
    let mass = on.quantity(Field::Mass, &[Dimension::MASS], Some(Proposed("2.0 g".into(), Why::Usual)))?.base();
    let balance = balance(on, mass, 0.002)?;
    let solvent = on.suggested(Field::Solvent, solvents(), Some(Proposed("water".into(), Why::Usual)))?;
    let melting = melting(on, &matter)?;
    let melting_instrument = melting.get_attr("instrument").ok().filter(|v| !v.is_undefined());
    let title = title(on, &format!("recrystallising {}", matter.name))?;
    let taken = super::glass::WeighedOut::of(&balance, mass, 0.05);
    Some(context! {
        title, melting, taken,
        marks => marks(on),
        boils => boiling(&solvent),
        solvent_hazards => statements_of(&solvent),
        disposal => super::disposal(&[&matter]),
        weighed => empty_and_full(&balance, (5.0, 12.0, 30.0), mass, 0.8 * mass),
        instruments => std::iter::once(Value::from_serialize(&balance)).chain(melting_instrument).collect::<Vec<_>>(),
        solvent,
        substance => matter,
    })
}
