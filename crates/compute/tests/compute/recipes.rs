//! Recipes worked by hand, as a technician would check them, and what holds of every recipe.

use crate::door::ask;
use proptest::prelude::*;
use serde_json::{Value, json};

fn solution(ask_for: Value) -> Result<Value, String> {
    let mut question = ask_for;
    question["kind"] = json!("solution");
    ask(question).map_err(|e| e.to_string())
}

fn take(question: Value) -> String {
    let answer = solution(question).unwrap_or_else(|e| panic!("{e}"));
    let rounded = &answer["rounded"];
    format!("{} {}", rounded["take"].as_str().unwrap(), rounded["unit"].as_str().unwrap())
}

/// c·V·M/w with molar masses added up from the abridged table by hand, rounded to what the balance shows.
#[test]
fn from_a_solid() {
    for (solute, strength, volume, purity, step, weighed) in [
        // 0.1 × 1 × 39.997 (22.990 + 15.999 + 1.0080).
        ("NaOH", "0.100 mol/L", "1000 mL", None, "0.01 g", "4.00 g"),
        ("NaOH", "0.100 mol/L", "2500 mL", Some("98.0 %"), "0.1 g", "10.2 g"),
        // The hydrate that is on the shelf: 0.05 × 249.68; without water 0.05 × 159.60.
        ("CuSO4·5H2O", "0.200 mol/L", "250 mL", None, "0.01 g", "12.48 g"),
        ("CuSO4", "0.200 mol/L", "250 mL", None, "0.01 g", "7.98 g"),
        // Washing soda and soda ash for the same solution: 286.14 and 105.99.
        ("Na2CO3·10H2O", "0.0500 mol/L", "500 mL", None, "0.001 g", "7.153 g"),
        ("Na2CO3", "0.0500 mol/L", "500 mL", None, "0.001 g", "2.650 g"),
        // 169.87 × 0.05 × 0.1.
        ("AgNO3", "0.0500 mol/L", "100 mL", Some("99.8 %"), "0.001 g", "0.851 g"),
        // 158.03 × 0.02 × 2.
        ("KMnO4", "0.0200 mol/L", "2 L", None, "0.01 g", "6.32 g"),
        ("KHC8H4O4", "0.1000 mol/L", "250 mL", Some("99.95 %"), "0.0001 g", "5.1081 g"),
        // By mass: 10 g/L are 10 g in a litre, whatever the molar mass.
        ("NaCl", "10 g/L", "500 mL", None, "0.1 g", "5.0 g"),
    ] {
        let mut question =
            json!({ "ask": "weigh-out", "solute": solute, "strength": strength, "volume": volume, "step": step });
        if let Some(purity) = purity {
            question["purity"] = json!(purity);
        }
        assert_eq!(take(question), weighed, "{solute}, {strength}, {volume}");
    }
}

/// An ion of which a formula unit gives two is half as much salt.
#[test]
fn by_the_ion_that_counts() {
    let chloride = json!({ "ask": "weigh-out", "solute": "CaCl2", "strength": "0.100 mol/L", "per_unit": 2,
                           "volume": "1 L", "step": "0.01 g" });
    // 0.05 mol × 110.98 g/mol.
    assert_eq!(take(chloride), "5.55 g");
    let made =
        solution(json!({ "ask": "made", "solute": "CaCl2", "mass": "5.55 g", "volume": "1000 mL", "per_unit": 2,
                                "wanted": "0.100 mol/L" }));
    let made = made.unwrap();
    let off = made["worked"]["results"].as_array().unwrap().iter().find(|r| r["name"] == "off").unwrap();
    assert!(off["value"].as_f64().unwrap().abs() < 0.05, "{off}");
}

/// c₁V₁ = c₂V₂ with c₁ = ρ·w/M: 37 % of 1.18 g/mL is 11.97 mol/L (36.458 g/mol), 96 % of 1.84 g/mL is 18.01 mol/L.
#[test]
fn from_what_is_sold_concentrated_and_from_a_stronger_solution() {
    for (solute, percent, density, target, volume, step, measured) in [
        ("HCl", "37 %", "1.18 g/mL", "0.100 mol/L", "1000 mL", "0.1 mL", "8.4 mL"),
        ("HCl", "37 %", "1.18 g/mL", "2.0 mol/L", "500 mL", "1 mL", "84 mL"),
        ("H2SO4", "96 %", "1.84 g/mL", "1.00 mol/L", "2 L", "1 mL", "111 mL"),
        ("HNO3", "65 %", "1.39 g/mL", "1.0 mol/L", "250 mL", "0.5 mL", "17.5 mL"),
        // Half a millilitre steps: 7.30 mL is 7.5.
        ("NH3", "25 %", "0.91 g/mL", "0.390 mol/L", "250 mL", "0.5 mL", "7.5 mL"),
        ("CH3COOH", "99.8 %", "1.049 g/mL", "0.200 mol/L", "1 L", "0.1 mL", "11.5 mL"),
    ] {
        let question = json!({ "ask": "concentrated", "solute": solute, "mass_fraction": percent, "density": density,
                               "target": target, "volume": volume, "step": step });
        assert_eq!(take(question), measured, "{solute}");
    }
    for (stock, target, volume, step, measured) in [
        ("1.00 mol/L", "0.100 mol/L", "250 mL", "0.1 mL", "25.0 mL"),
        ("0.9870 mol/L", "0.0350 mol/L", "250 mL", "0.05 mL", "8.85 mL"),
        ("70 %", "30 %", "100 mL", "0.5 mL", "43.0 mL"),
    ] {
        let question = json!({ "ask": "dilute", "stock": stock, "target": target, "volume": volume, "step": step });
        assert_eq!(take(question), measured, "{stock} to {target}");
    }
}

/// Portions add up to the total that was rounded, and no portion is more than a step from its share.
#[test]
fn portions_add_up() {
    let split = solution(json!({ "ask": "split", "solute": "KNO3", "strength": "0.0333 mol/L", "purity": "99.0 %",
                                 "volumes": ["1000 mL", "500 mL", "250 mL"], "step": "0.01 g" }))
    .unwrap();
    assert_eq!(split["rounded"]["take"], "5.95");
    assert_eq!(split["portions"], json!(["3.40 g", "1.70 g", "0.85 g"]));
    // A third each of 1.00 g: the hundredth that is over goes to one of them.
    let thirds =
        solution(json!({ "ask": "portions", "shares": [1, 1, 1], "total": "1.00 g", "step": "0.01 g" })).unwrap();
    assert_eq!(thirds["portions"], json!(["0.34 g", "0.33 g", "0.33 g"]));
}

/// A series from one stock; a blank takes nothing; a strength above the stock's cannot be.
#[test]
fn a_series_from_one_stock() {
    let series = |targets: Value| {
        solution(json!({ "ask": "standards", "stock": "0.00200 mol/L", "volume": "100 mL", "targets": targets,
                         "step": "0.05 mL", "left_in_glass": "20 mL" }))
    };
    let made = series(json!(["0 mol/L", "0.00005 mol/L", "0.00013 mol/L", "0.00033 mol/L"])).unwrap();
    let takes: Vec<&str> =
        made["each_rounded"].as_array().unwrap().iter().map(|r| r["take"].as_str().unwrap()).collect();
    assert_eq!(takes, ["0", "2.50", "6.50", "16.50"]);
    let total = made["worked"]["results"].as_array().unwrap().iter().find(|r| r["name"] == "V_total").unwrap();
    assert!((total["value"].as_f64().unwrap() - 45.5).abs() < 1e-9);
    assert!(series(json!(["0.003 mol/L"])).unwrap_err().contains("cannot be stronger than its stock"));
}

/// What cannot be made says why; its near twin is made.
#[test]
fn what_cannot_be_made_says_why() {
    let concentrated = |target: &str| {
        solution(json!({ "ask": "concentrated", "solute": "HCl", "mass_fraction": "36.0 %", "density": "1.18 g/mL",
                         "target": target, "volume": "100 mL" }))
    };
    // 36 % of 1.18 g/mL is 11.65 mol/L.
    assert!(concentrated("11.6 mol/L").is_ok());
    assert!(concentrated("11.7 mol/L").unwrap_err().contains("stronger than its stock"));
    let little = |strength: &str| {
        solution(
            json!({ "ask": "weigh-out", "solute": "KIO3", "strength": strength, "volume": "100 mL", "step": "0.001 g" }),
        )
    };
    assert!(little("0.0000010 mol/L").unwrap_err().contains("the balance does not show so little"));
    assert!(little("0.0000240 mol/L").is_ok());
    let vessels = |needed: &str| {
        solution(
            json!({ "ask": "into-vessels", "volume": needed, "vessels": [{ "size": "2 L", "count": 1 }, { "size": "500 mL", "count": 1 }] }),
        )
    };
    assert_eq!(vessels("2.3 L").unwrap()["portions"], json!(["2000 mL", "500 mL"]));
    assert!(vessels("2.6 L").unwrap_err().contains("hold less"));
    let totals = |groups: u32, on_top: f64| {
        solution(
            json!({ "ask": "totals", "groups": groups, "trials": 3, "per_trial": "25 mL", "percent_on_top": on_top }),
        )
    };
    assert_eq!(totals(0, 0.0).unwrap()["total"]["exact"], 0.0);
    assert!(totals(1001, 0.0).unwrap_err().contains("no class"));
    assert!(totals(8, -5.0).unwrap_err().contains("from 0 to 1000"));
}

proptest! {
    /// Followed exactly, a recipe makes the planned strength within the U that it states.
    #[test]
    fn a_recipe_makes_what_it_plans_within_its_u(
        hundredths in 2u32..200,
        millilitres in prop::sample::select(vec![100u32, 250, 500, 1000]),
        solute in prop::sample::select(vec!["NaCl", "KNO3", "CuSO4·5H2O", "Na2CO3", "K2Cr2O7"]),
        step in prop::sample::select(vec!["0.1", "0.01", "0.001"]),
    ) {
        let strength = format!("{} mol/L", f64::from(hundredths) / 100.0);
        let volume = format!("{millilitres} mL");
        let recipe = solution(json!({ "ask": "weigh-out", "solute": solute, "strength": strength, "volume": volume,
                                      "step": format!("{step} g") })).unwrap();
        let half: f64 = step.parse::<f64>().unwrap() / 2.0;
        let made = solution(json!({
            "ask": "made", "solute": solute, "wanted": strength,
            "mass": { "value": format!("{} g", recipe["rounded"]["take"].as_str().unwrap()),
                      "components": [{ "kind": "rectangular", "half_width": half, "times": 2 }] },
            "volume": { "value": volume, "components": [{ "kind": "rectangular", "half_width": 0.1, "times": 1 }] },
        })).unwrap();
        let c = made["worked"]["results"].as_array().unwrap().iter().find(|r| r["name"] == "c").unwrap();
        let off = (c["value"].as_f64().unwrap() - f64::from(hundredths) / 100.0).abs();
        prop_assert!(off <= c["expanded_uncertainty"].as_f64().unwrap(), "{off} off {c}");
    }
}
