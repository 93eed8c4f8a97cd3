//! Amounts, as a technician reckons them.

use crate::{class, library};
use prepare::amounts::{handy_step, rounded_up, vessels};
use prepare::needs::MaterialNeed;
use prepare::preparation;
use prepare::schedule::Effort;

fn needs(id: &str, groups: usize) -> Vec<MaterialNeed> {
    let practical = library(id);
    preparation(&practical, &class(&practical, groups), Effort::Quick).materials
}

/// Eight groups and one to spare, by hand: trials × each + rinses + what is left in the glass, times nine, rounded up.
#[test]
fn totals_by_hand() {
    let rows = [
        // Five titrations of 25 mL (rough, three that agree, one to spare) are three fills of 50 mL: 9 × (150 + 10).
        ("sodium-hydroxide-standard", "base", 1440.0, 1450.0),
        ("sodium-hydroxide-standard", "khp", 9.0 * 5.0 * 0.5, 23.0),
        // Two drops in each flask, which the step says and not the material.
        ("sodium-hydroxide-standard", "phenolphthalein", 9.0 * 5.0 * 0.1, 4.6),
        ("hydrochloric-acid-standard", "soda", 9.0 * 5.0 * 0.13, 6.0),
        // Four titrations of 23 mL, two to a fill: two fills and two rinses.
        ("antacid", "base", 9.0 * 110.0, 1000.0),
        // A pipette: four times 25 mL, a rinse, and what stays in the beaker.
        ("antacid", "acid", 9.0 * (100.0 + 5.0 + 10.0), 1050.0),
        // 26 mL leave less than 26 in the burette: a fill each.
        ("iron-by-permanganate", "permanganate", 9.0 * (5.0 * 50.0 + 10.0), 2400.0),
        ("epsom-salt", "carbonate", 27.0, 27.0),
        ("epsom-salt", "acid", 9.0 * (25.0 + 5.0 + 10.0), 360.0),
        // Two recipes, 20 mL and 35 mL: of both a whole burette is filled.
        ("strontium-sulfate", "sulfate", 9.0 * 60.0, 540.0),
        ("water-hardness", "calcium", 9.0 * (4.0 * 50.0 + 15.0), 1950.0),
    ];
    for (id, symbol, exact, provide) in rows {
        let needs = needs(id, 8);
        let need = needs.iter().find(|m| m.symbol == symbol).unwrap_or_else(|| panic!("{id} has no {symbol}"));
        let total = need.total.unwrap_or_else(|| panic!("{id}, {symbol}: no total"));
        assert!((total.exact - exact).abs() < 1e-9, "{id}, {symbol}: {} for {exact}", total.exact);
        assert!((total.provide - provide).abs() < 1e-9, "{id}, {symbol}: {} for {provide}", total.provide);
    }
}

/// What is made, and what an unknown may consist of, is not put out; what nothing is said of is there, without an amount.
#[test]
fn only_what_is_taken_is_put_out() {
    let symbols = |id| needs(id, 8).into_iter().map(|m| m.symbol).collect::<Vec<_>>();
    assert!(!symbols("epsom-salt").contains(&"crystals".to_owned()));
    assert!(!symbols("acid-base-separation").contains(&"cinnamic".to_owned()));
    let melting = needs("unknown-by-melting", 8);
    assert!(melting.iter().any(|m| m.symbol == "unknown" && m.total.is_none()));
}

/// A tray has what its own recipe takes, and the vial of its own unknown.
#[test]
fn a_tray_has_what_its_group_takes() {
    let of = |id: &str| {
        let practical = library(id);
        preparation(&practical, &class(&practical, 3), Effort::Quick)
    };
    let sulfate = of("strontium-sulfate");
    let taken = |tray: usize| sulfate.trays[tray].takes.iter().find(|t| t.symbol == "sulfate").unwrap().amount;
    let recipes: Vec<_> = sulfate.trays.iter().map(|t| t.recipe.as_deref().unwrap()).collect();
    assert_eq!(recipes, ["recipe A", "recipe B", "recipe A"]);
    // Through a burette: of both recipes two rinses and a whole fill.
    assert_eq!((taken(0), taken(1)), (Some(60.0), Some(60.0)));
    let barium = of("sulfate-by-barium");
    let vials: Vec<_> = barium.trays.iter().map(|t| t.unknown.as_deref().unwrap()).collect();
    assert_eq!(vials, ["K3", "R8", "T5"]);
    let filled: Vec<_> = barium.vials.iter().map(|v| (v.code.as_str(), v.count, v.is.is_empty())).collect();
    assert_eq!(filled, [("K3", 1, false), ("R8", 1, false), ("T5", 1, false)]);
    // What all take alike stands on every tray, and what is made on none.
    let epsom = of("epsom-salt");
    assert!(epsom.trays.iter().all(|t| t.recipe.is_none() && t.unknown.is_none() && t.takes == epsom.trays[0].takes));
    assert!(epsom.trays[0].takes.iter().all(|t| t.symbol != "crystals"));
}

/// A solution is made from what is on the shelf; a sample comes as it is, and what is as strong as it is sold is not made.
#[test]
fn a_solution_says_what_it_is_made_from() {
    let base = needs("sodium-hydroxide-standard", 8);
    let base = base.iter().find(|m| m.symbol == "base").unwrap().solution.clone().unwrap();
    // 1.45 L of 0.100 mol/L: 0.145 mol × 39.997 g/mol.
    assert!((base.solids[0].grams - 5.7996).abs() < 1e-3, "{:?}", base.solids);
    assert!(base.to_be_standardised && base.bottle.starts_with("plastic"));
    let acid = needs("epsom-salt", 8);
    let acid = acid.iter().find(|m| m.symbol == "acid").unwrap().solution.clone().unwrap();
    // 0.360 mol of 96 %, 1.84 g/mL: 0.360 × 98.08 / (0.96 × 1.84) mL.
    assert!((acid.concentrated[0].millilitres - 19.99).abs() < 0.01 && acid.solids.is_empty());
    assert!(acid.making[0].starts_with("Pour the acid into the water") && !acid.to_be_standardised);
    let vinegar = needs("vinegar", 8);
    assert!(vinegar.iter().find(|m| m.symbol == "vinegar").is_none_or(|m| m.solution.is_none()));
    let ester = needs("ethyl-ethanoate", 8);
    let catalyst = ester.iter().find(|m| m.form.starts_with("95 %")).unwrap();
    assert!(catalyst.solution.as_ref().unwrap().concentrated.is_empty());
}

#[test]
fn totals_are_rounded_up_and_an_exact_multiple_stays() {
    for (exact, step, up) in
        [(2.1, 0.7, 2.1), (1000.0, 100.0, 1000.0), (1000.1, 100.0, 1100.0), (10.14, 0.01, 10.14), (0.0, 5.0, 0.0)]
    {
        assert!((rounded_up(exact, step) - up).abs() < 1e-9, "{exact} to {step}");
    }
    for (exact, step) in [(1440.0, 50.0), (22.5, 1.0), (4.5, 0.2), (0.09, 0.002), (0.0, 1.0), (f64::NAN, 1.0)] {
        assert!((handy_step(exact) - step).abs() < 1e-12, "{exact}: {}", handy_step(exact));
    }
}

/// The fewest vessels; of these the least over.
#[test]
fn vessels_by_hand() {
    let room = [(2000.0, 2), (1000.0, 3), (500.0, 2), (250.0, 4), (100.0, 4)];
    let chosen = |needed| vessels(needed, &room);
    assert_eq!(chosen(2600.0), Some(vec![2000.0, 1000.0]));
    assert_eq!(chosen(1440.0), Some(vec![2000.0]));
    assert_eq!(chosen(90.0), Some(vec![100.0]));
    assert_eq!(chosen(0.0), Some(vec![]));
    assert_eq!(chosen(9400.1), None);
    // A size of nothing, and none of a size, hold nothing.
    assert_eq!(vessels(10.0, &[(0.0, 5), (250.0, 0), (20.0, 1)]), Some(vec![20.0]));
    assert_eq!(vessels(10.0, &[]), None);
}

/// The acid is poured at step 2; on the second day nobody needs it, and the indicator of no step may be needed any day.
#[test]
fn what_only_an_earlier_lesson_took_is_not_made_again() {
    use prepare::needs::is_taken_from;
    let epsom = library("epsom-salt");
    assert!(is_taken_from(&epsom, "acid", 0));
    assert!(!is_taken_from(&epsom, "acid", 7));
    let antacid = library("antacid");
    assert!(is_taken_from(&antacid, "phenolphthalein", 4));
}

/// What a solution is made from counts, in the unit in which it is held; another substance, and what nobody holds, say nothing.
#[test]
fn the_shelf_is_held_against_what_is_needed() {
    use prepare::stock::{Container, StockUnit, on_shelf};
    let container = |holds: &str, unit| Container {
        holds: holds.into(),
        form: String::new(),
        unit,
        place: String::new(),
        keep_until: None,
    };
    let titration = needs("sodium-hydroxide-standard", 8);
    let of = |holds: &str, unit, amounts: &[f64]| {
        let stock: Vec<_> = amounts.iter().map(|a| (container(holds, unit), *a)).collect();
        on_shelf(&titration, &stock)
    };
    // Two bottles of pellets: 5.80 g are needed for 1.45 L.
    let pellets = of("Sodium hydroxide", StockUnit::Gram, &[2.0, 3.0]);
    assert_eq!((pellets.len(), pellets[0].symbol.as_str(), pellets[0].there), (1, "base", 5.0));
    assert!((pellets[0].missing() - 0.7996).abs() < 1e-3, "{pellets:?}");
    assert_eq!(of("sodium hydroxide", StockUnit::Gram, &[250.0])[0].missing(), 0.0);
    // A solution of it in mL is not what this one is made from; neither is another salt.
    assert!(of("sodium hydroxide", StockUnit::Millilitre, &[500.0]).is_empty());
    assert!(of("sodium hydrogencarbonate", StockUnit::Gram, &[500.0]).is_empty());
    assert!(of("sodium hydroxide", StockUnit::Gram, &[]).is_empty());
    let acid = needs("epsom-salt", 8);
    let acid = on_shelf(&acid, &[(container("sulfuric acid", StockUnit::Millilitre), 15.0)]);
    assert!((acid[0].missing() - 4.99).abs() < 0.01, "{acid:?}");
}
