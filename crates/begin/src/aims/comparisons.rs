//! Which of two: the reagent that runs out, the reaction that happens.

use super::glass::{WeighedOut, balance};
use super::taken::{Form, Recipe, Wants, element};
use super::yields::{PRECIPITATE, empty_and_full, vessel_for};
use super::{dried_at, marks, title};
use crate::interview::{Field, Interview, Proposed, Why};
use crate::matter::{Matter, Reaction, Species, round_mass};
use crate::write::plain;
use measure::Dimension;
use minijinja::{Value, context};
use practical::Stated;

pub(super) fn which_limits(on: &mut Interview<'_>) -> Option<Value> {
    let wants = Wants {
        example: "CaCl2 + Na2CO3 -> CaCO3 + NaCl",
        product: "1.0 g",
        strength: "0.500 ± 0.005 mol/L",
        dissolved: true,
        times: 2.0,
    };
    let recipe = Recipe::asked(on, &wants)?;
    let [first, second] = recipe.reagents.as_slice() else {
        return on.refuse(Field::Equation, "two reagents are compared: there have to be two in the equation");
    };
    if first.form == Form::Solid && second.form == Form::Solid {
        return on.refuse(Field::OtherAs, "one of the two has to be a solution, to be run in");
    }
    // In the other recipe there is so much more of the first that the second runs out.
    let extra = on.asked.iter().find(|a| a.field == Field::Excess).and_then(|a| Stated::parse(&a.value).ok());
    let over = 1.0 + extra.map_or(0.0, |s| s.base());
    if over < 1.15 {
        return on.refuse(Field::Excess, "too close: with less than 15 % nobody can tell which one runs out");
    }
    let (other, read) = first.times(over * over);
    let title = title(on, &format!("which runs out? {} in two recipes", recipe.product.name))?;
    let expected = PRECIPITATE * recipe.theory;
    let oven = dried_at(on, "110 °C")?;
    let liquid = recipe.liquid() * over + 50.0;
    let product = over * PRECIPITATE * recipe.theory;
    Some(context! {
        title, oven,
        marks => marks(on),
        equation => recipe.reaction.text,
        disposal => recipe.disposal(),
        weighed => empty_and_full(&recipe.balance, (0.3, 0.62, 1.5), 2.0 * recipe.theory, expected),
        weighed_otherwise => empty_and_full(&recipe.balance, (0.3, 0.62, 1.5), 2.0 * recipe.theory, product),
        beaker => vessel_for(liquid),
        instruments => recipe.instruments(),
        first => first, second => second, other, read,
        solid => [first, second].into_iter().find(|t| t.form == Form::Solid),
        product => recipe.product,
    })
}

/// A species that both equations use, or make.
fn shared<'a>(one: &'a [Species], other: &[Species], fits: impl Fn(&Species) -> bool) -> Option<&'a Species> {
    one.iter().find(|s| fits(s) && other.iter().any(|o| o.formula == s.formula))
}

pub(super) fn which_reaction(on: &mut Interview<'_>) -> Option<Value> {
    let likely = Reaction::asked(on, Field::Equation, "Cu + AgNO3 -> Cu(NO3)2 + Ag")?;
    let other = Reaction::asked(on, Field::OtherEquation, "Cu + AgNO3 -> CuNO3 + Ag")?;
    if likely.text == other.text {
        return on.refuse(Field::OtherEquation, "that is the same reaction");
    }
    let is_element = |s: &Species| element(s).is_some();
    let metal = shared(&likely.reactants, &other.reactants, is_element).cloned();
    let made = shared(&likely.products, &other.products, is_element).cloned();
    let (Some(metal), Some(made)) = (metal, made) else {
        return on.refuse(Field::OtherEquation, "both have to use one element and to make another: they are weighed");
    };
    let Some(reagent) = likely.others(&[&metal]).first().cloned() else {
        return on.refuse(Field::Equation, "nothing reacts with the element");
    };
    let metal_matter = Matter::of(on, Field::SampleFrom, &metal)?.taken_as(None);
    let matter = Matter::of(on, Field::LimitingFrom, &reagent)?.taken_as(None).distinct(&[&metal_matter]);
    let product = Matter::of(on, Field::OtherFrom, &made)?.taken_as(None).distinct(&[&metal_matter, &matter]);
    let mass = on.quantity(Field::Mass, &[Dimension::MASS], Some(Proposed("1.0 g".into(), Why::Usual)))?.base();
    let balance = balance(on, mass, 0.002)?;
    let moles = mass / matter.molar_mass * matter.brings;
    let used = moles / reagent.coefficient * metal.coefficient * metal_matter.molar_mass;
    // So much of the element that there is enough whichever reaction it is.
    let coefficient =
        |r: &Reaction, s: &Species| r.reactants.iter().find(|o| o.formula == s.formula).map_or(1.0, |o| o.coefficient);
    let most = moles / coefficient(&other, &reagent) * coefficient(&other, &metal) * metal_matter.molar_mass;
    let there = round_mass(2.0 * used.max(most));
    let got = 0.97 * moles / reagent.coefficient * made.coefficient * product.molar_mass;
    let seen = on.suggested(Field::Seen, vec!["blue".into(), "colourless".into()], None)?;
    let otherwise = on.suggested(Field::SeenOtherwise, vec!["colourless".into(), "green".into()], None)?;
    if seen == otherwise {
        return on.refuse(Field::SeenOtherwise, "with the other reaction something else has to be seen");
    }
    let title = title(on, &format!("{} with {}: which reaction?", metal_matter.name, matter.name))?;
    let whole = WeighedOut::of(&balance, there, 0.2);
    Some(context! {
        title, seen, otherwise,
        marks => marks(on),
        equation => likely.text, other_equation => other.text,
        disposal => super::disposal(&[&matter, &metal_matter, &product]),
        taken => WeighedOut::of(&balance, mass, 0.05),
        coil => whole,
        coil_after => crate::write::Reads::on(&balance, there - used, (0.3 * (there - used), 1.4 * there)),
        weighed => empty_and_full(&balance, (0.3, 0.62, 1.5), 2.0 * got, got),
        water => plain((40.0 * mass).clamp(30.0, 150.0), 0),
        beaker => vessel_for(40.0 * mass),
        instruments => vec![balance],
        metal => metal_matter, reagent => matter, product,
    })
}
