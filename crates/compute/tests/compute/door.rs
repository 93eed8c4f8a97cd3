//! The door, question by question: worked by hand, and near twins that must be refused or told apart.

use compute::{ComputeError, Request, Response, Worked, compute};
use serde_json::{Value, json};

pub fn ask(question: Value) -> Result<Value, ComputeError> {
    let request: Request = serde_json::from_value(question.clone()).unwrap_or_else(|e| panic!("{e}: {question}"));
    compute(&request).map(|answer| serde_json::to_value(answer).unwrap())
}

fn told(question: Value) -> String {
    ask(question).unwrap_err().to_string()
}

/// The text of one result: the digits it has earned, and its unit.
fn result(answer: &Value, name: &str) -> String {
    let results = answer["worked"]["results"].as_array().unwrap_or_else(|| panic!("no results in {answer}"));
    let found = results.iter().find(|r| r["name"] == name).unwrap_or_else(|| panic!("no '{name}' in {answer}"));
    format!("{} {}", found["text"].as_str().unwrap(), found["unit"].as_str().unwrap())
}

fn field(value: &Value, decimals: usize) -> String {
    format!("{:.decimals$}", value.as_f64().unwrap())
}

// ── quantities ───────────────────────────────────────────────────────────────────────────────────────────────────

/// 5.00 g in 250.0 mL is 20.0 g/L; half a unit of the last digit, rectangular: 0.005/√3/5 and 0.05/√3/250 together.
#[test]
fn typed_digits_say_how_sure_a_quantity_is() {
    let made = |mass: Value, volume: Value| {
        ask(json!({ "kind": "solution", "ask": "made", "solute": "NaCl", "mass": mass, "volume": volume })).unwrap()
    };
    let u = |answer: &Value| {
        let r = answer["worked"]["results"].as_array().unwrap().iter().find(|r| r["name"] == "rho").unwrap();
        r["relative_uncertainty"].as_f64().unwrap()
    };
    let by_digits = u(&made(json!("5.00 g"), json!("250.0 mL")));
    let expected = (0.005 / 5.0f64).hypot(0.05 / 250.0) / 3f64.sqrt();
    assert!((by_digits / expected - 1.0).abs() < 1e-9);
    let stated = u(&made(json!("5.00 ± 0.02 g"), json!({ "value": "250.0 mL", "components": [] })));
    assert!((stated / (0.02 / 3f64.sqrt() / 5.0) - 1.0).abs() < 1e-9);
    let known = json!({ "value": "5.00 g", "components": [{ "kind": "standard", "u": 0.01 }] });
    assert!((u(&made(known, json!({ "value": "250.0 mL", "components": [] }))) - 0.002).abs() < 1e-12);
}

#[test]
fn what_is_no_quantity_is_told_with_its_field() {
    let made = |mass: &str, volume: &str| {
        told(json!({ "kind": "solution", "ask": "made", "solute": "NaCl", "mass": mass, "volume": volume }))
    };
    assert_eq!(made("5.00 mL", "250.0 mL"), "mass is a mass, and '5.00 mL' is a volume");
    assert_eq!(made("5.00 g", "0 mL"), "volume cannot be zero");
    assert_eq!(made("-5.00 g", "250.0 mL"), "mass cannot be negative: -5.00 g");
    assert_eq!(made("five g", "250.0 mL"), "mass: 'f' does not belong to a number (character 1 of 'five')");
    assert_eq!(made("5.00 stone", "1 L").split(';').next(), Some("mass: 'stone' is no unit known here"));
    assert_eq!(made("5.00 ± x g", "1 L"), "mass, ±: 'x' does not belong to a number (character 1 of 'x')");
    assert_eq!(made("5.00 ± -1 g", "1 L"), "mass: a tolerance is not negative");
    assert_eq!(made("1e400 g", "1 L"), "mass: this number is beyond any measurement (character 1 of '1e400')");
}

// ── numbers ──────────────────────────────────────────────────────────────────────────────────────────────────────

#[test]
fn a_calculation_claims_what_its_numbers_allow() {
    let calculate = |expression: &str, values: Value| {
        ask(json!({ "kind": "number", "ask": "calculate", "expression": expression, "values": values })).unwrap()
    };
    // (51.73 − 47.91)/6.16: the difference has three figures, so has the quotient.
    let yielded = calculate("(full - empty) / theory", json!({ "full": "51.73", "empty": "47.91", "theory": "6.16" }));
    assert_eq!((yielded["half_up"].as_str(), yielded["figures"].as_u64()), (Some("0.620"), Some(3)));
    // Only the sum goes by its last place: 9.96 + 0.041 is 10.00, four figures.
    let sum = calculate("a + b", json!({ "a": "9.96", "b": "0.041" }));
    assert_eq!((sum["half_up"].as_str(), sum["figures"].as_u64()), (Some("10.00"), Some(4)));
    let failed =
        told(json!({ "kind": "number", "ask": "calculate", "expression": "a / b", "values": { "a": "1", "b": "0" } }));
    assert_eq!(failed, "'result' divides by zero");
    let wrong = told(json!({ "kind": "number", "ask": "calculate", "expression": "a + x", "values": { "a": "1" } }));
    assert!(wrong.starts_with("nothing before this line is called 'x'"), "{wrong}");
}

// ── formulas ──────────────────────────────────────────────────────────────────────────────────────────────────────

/// Three tables: 246.466 by the abridged one; 246.5 by one-decimal masses (24.3 + 32.1 + 11·16.0 + 14·1.0 = 246.4).
#[test]
fn a_molar_mass_is_of_the_table_that_was_chosen() {
    let mass = |masses: Value| ask(json!({ "kind": "formula", "formula": "MgSO4·7H2O", "masses": masses }));
    assert_eq!(field(&mass(json!("abridged")).unwrap()["molar_mass"], 3), "246.466");
    assert_eq!(field(&mass(json!("school")).unwrap()["molar_mass"], 1), "246.4");
    let own = json!({ "own": { "Mg": 24.0, "S": 32.0, "O": 16.0, "H": 1.0 } });
    assert_eq!(field(&mass(own).unwrap()["molar_mass"], 1), "246.0");
    let missing = mass(json!({ "own": { "Mg": 24.0 } })).unwrap_err().to_string();
    assert!(missing.starts_with("H has no value in this table"), "{missing}");
}

/// Both schools of writing a result: by figures, and rounded to where U ends.
#[test]
fn a_result_is_written_by_figures_and_by_its_uncertainty() {
    let answer = ask(json!({
        "kind": "solution", "ask": "made", "solute": "NaCl", "mass": "5.000 ± 0.020 g", "volume": "250.0 ± 0.2 mL",
    }))
    .unwrap();
    let rho = answer["worked"]["results"].as_array().unwrap().iter().find(|r| r["name"] == "rho").unwrap();
    // u/ρ = √((0.020/5)² + (0.2/250)²)/√3 = 0.00236; U = 0.094 g/L of 20.00.
    assert_eq!(
        (rho["text"].as_str(), rho["expanded"].as_str(), rho["rounded"].as_str()),
        (Some("20.00"), Some("0.094"), Some("20.000"))
    );
}

// ── reactions ────────────────────────────────────────────────────────────────────────────────────────────────────

fn strontium(volume: &str) -> Value {
    json!({
        "kind": "reaction", "ask": "yield",
        "equation": "SrCl2 + Na2SO4 -> SrSO4 + 2 NaCl",
        "reagents": [
            { "species": "SrCl2", "weighed_as": "SrCl2·6H2O", "supply": { "form": "solid", "mass": "1.500 g" } },
            { "species": "Na2SO4", "supply": { "form": "solution", "volume": volume, "concentration": "0.2000 mol/L" } },
        ],
        "product": "SrSO4", "actual": "0.684 g",
    })
}

/// By hand: 1.500 g/266.61 g/mol = 5.626 mmol; 20.00 mL hold 4.000 mmol; 4.000 mmol · 183.68 g/mol = 0.7347 g.
#[test]
fn recipe_a_and_recipe_b_limit_by_different_reagents() {
    let a = ask(strontium("20.00 mL")).unwrap();
    assert_eq!((a["reagents"][0]["limits"].as_bool(), a["reagents"][1]["limits"].as_bool()), (Some(false), Some(true)));
    assert_eq!(result(&a, "m_theory"), "0.7347 g");
    assert_eq!(result(&a, "percent_yield"), "93.1 %");
    assert_eq!(result(&a, "left_supply_SrCl2"), "0.4336 g");
    let b = ask(strontium("35.0 mL")).unwrap();
    assert_eq!(b["reagents"][0]["limits"], true);
    assert_eq!(result(&b, "m_theory"), "1.033 g");
    assert_eq!(field(&b["reagents"][1]["excess_percent"], 0), "24");
}

#[test]
fn near_a_tie_the_chances_are_told_and_far_from_one_they_are_not() {
    // 28.13 mL would hold just as much as the solid: a twentieth of a millilitre below it, both may limit.
    let near = ask(strontium("28.10 ± 0.20 mL")).unwrap();
    let chance = near["reagents"][1]["probability"].as_f64().unwrap();
    assert!((0.5..0.75).contains(&chance), "{chance}");
    assert!(near["extent_interval"].is_array());
    let far = ask(strontium("20.00 mL")).unwrap();
    assert!(far["reagents"][1]["probability"].is_null() && far["extent_interval"].is_null());
}

/// Every form gives an amount: 24.0 L of gas at 20 °C and 101.3 kPa hold 0.9975 mol (p·V/(R·T), by hand).
#[test]
fn a_gas_is_taken_by_its_volume_temperature_and_pressure() {
    let burn = |temperature: &str| {
        json!({
            "kind": "reaction", "ask": "yield", "equation": "2 H2 + O2 -> 2 H2O", "product": "H2O",
            "reagents": [{ "species": "H2", "supply": {
                "form": "gas", "volume": "24.0 L", "temperature": temperature, "pressure": "101.3 kPa" } }],
        })
    };
    let answer = ask(burn("20.0 °C")).unwrap();
    let n = answer["worked"]["results"].as_array().unwrap().iter().find(|r| r["name"] == "n_H2").unwrap();
    assert_eq!(field(&n["value"], 4), "0.9975");
    assert_eq!(told(burn("-280 °C")), "temperature of H2 is at or below absolute zero");
}

#[test]
fn a_reaction_that_cannot_be_is_refused() {
    let mut question = strontium("20.00 mL");
    question["equation"] = json!("SrCl2 + Na2SO4 -> SrSO4 + NaCl");
    assert!(told(question.clone()).starts_with("not balanced: Na 2 on the left, 1 on the right"));
    question["equation"] = json!("SrCl2 + Na2CO3 -> SrCO3 + 2 NaCl");
    assert_eq!(told(question), "the equation has no 'Na2SO4'");
    let mut question = strontium("20.00 mL");
    question["product"] = json!("Na2SO4");
    assert_eq!(told(question.clone()), "'Na2SO4' is used up, not made");
    question["product"] = json!("SrSO4");
    question["reagents"][0]["supply"] = json!({ "form": "solid", "mass": "1.500 g", "purity": "103 %" });
    assert_eq!(told(question), "purity of SrCl2 cannot be above 100 %: 103 %");
}

/// Copper in silver nitrate: 0.500 g Cu give 1.697 g Ag if copper goes to +2, 0.849 g if to +1 (by hand).
#[test]
fn of_two_reactions_mass_and_observation_decide_together() {
    let question = |actual: &str, seen: Value| {
        json!({
            "kind": "reaction", "ask": "competing", "actual": actual, "seen": seen,
            "reagents": [{ "species": "Cu", "supply": { "form": "solid", "mass": "0.500 g" } }],
            "candidates": [
                { "equation": "Cu + Ag^+ -> Cu^+ + Ag", "product": "Ag", "predicts": { "solution": "colourless" } },
                { "equation": "Cu + 2 Ag^+ -> Cu^2+ + 2 Ag", "product": "Ag", "predicts": { "solution": "blue" } },
            ],
        })
    };
    let best = |q: Value| {
        let ranked = ask(q).unwrap()["ranked"].clone();
        (ranked[0]["candidate"].as_u64().unwrap(), field(&ranked[0]["percent"], 0))
    };
    assert_eq!(best(question("1.62 g", json!({ "solution": "blue" }))), (1, "95".into()));
    // A mass that would please the other reaction does not outweigh what was seen.
    assert_eq!(best(question("0.84 g", json!({ "solution": "blue" }))), (1, "49".into()));
    assert_eq!(best(question("0.84 g", json!({ "solution": "colourless" }))), (0, "99".into()));
    let ranked = ask(question("1.62 g", json!({}))).unwrap()["ranked"].clone();
    assert_eq!(ranked[1]["above_theory"], true);
}

#[test]
fn recovery_is_of_the_same_substance() {
    let answer =
        ask(json!({ "kind": "reaction", "ask": "recovery", "taken": "1.250 g", "recovered": "1.087 g" })).unwrap();
    assert_eq!(result(&answer, "recovery"), "86.96 %");
}

// ── titrations ───────────────────────────────────────────────────────────────────────────────────────────────────

#[test]
fn titres_that_do_not_agree_standardise_nothing() {
    let question = |titres: Value| {
        json!({
            "kind": "titration", "ask": "standardise", "primary": "KHC8H4O4", "mass": "5.110 g", "flask": "250.0 mL",
            "aliquot": "25.00 mL", "titres": titres, "limit": "0.10 mL", "ratio": "1",
        })
    };
    let at = |text: &str| json!({ "at": text });
    let good = ask(question(json!([at("25.70 mL"), at("25.75 mL")]))).unwrap();
    assert_eq!(result(&good, "c_titrant"), "0.09727 mol/L");
    assert_eq!(
        told(question(json!([at("25.10 mL"), at("25.70 mL")]))),
        "no two titres agree within 0.10 mL: run another titration"
    );
    assert_eq!(
        told(question(json!([at("25.10 mL"), at("25.15 mL"), at("25.70 mL"), at("25.75 mL")]))),
        "several sets agree equally well within 0.10 mL: run another titration"
    );
    let backwards = json!([{ "at": "0.40 mL", "from": "25.10 mL" }]);
    assert_eq!(told(question(backwards)), "the final reading 0.40 mL is below the initial one");
    assert_eq!(told(question(json!([at("25.70 cL")]))).split(';').next(), Some("titre: 'cL' is no unit known here"));
    let mut odd = question(json!([at("25.70 mL"), at("25.75 mL")]));
    odd["ratio"] = json!("two");
    assert_eq!(told(odd), "'two' is no ratio such as 1, 6 or 2/5");
}

/// Four titres and a wild one, by each school: 24.30 24.20 24.25 24.60 25.90.
#[test]
fn each_school_of_concordance_has_its_own_set() {
    let titres = ["24.30 mL", "24.20 mL", "24.25 mL", "24.60 mL", "25.90 mL"];
    let ask_with = |titres: &[&str], school: Value| {
        let titres: Vec<Value> = titres.iter().map(|t| json!({ "at": t })).collect();
        let question = json!({ "kind": "titration", "ask": "concordance", "titres": titres, "limit": "0.10 mL", "school": school });
        ask(question).unwrap()["agreement"].clone()
    };
    let within = ask_with(&titres, json!({ "rule": "within-limit" }));
    assert_eq!(within["sets"][0]["indices"], json!([0, 1, 2]));
    let tested = ask_with(&titres, json!({ "rule": "after-outlier-test" }));
    assert_eq!((&tested["sets"][0]["indices"], &tested["set_aside"]), (&json!([0, 1, 2, 3]), &json!(4)));
    assert!(tested["warning"].is_null());
    let three = ask_with(&titres[..3], json!({ "rule": "after-outlier-test" }));
    assert_eq!(three["warning"], "of three titres an outlier test says little: run another one");
    // s/mean of all but the wild one is 0.7 %, of the best three 0.2 %.
    let steady = |percent: f64| ask_with(&titres, json!({ "rule": "relative-deviation", "percent": percent }));
    assert_eq!(steady(1.0)["sets"][0]["indices"], json!([0, 1, 2, 3]));
    assert_eq!(steady(0.3)["sets"][0]["indices"], json!([0, 1, 2]));
    assert_eq!(steady(0.01)["sets"], json!([]));
}

#[test]
fn a_blank_is_subtracted_and_a_flask_needs_its_aliquot() {
    let sample = |more: Value| {
        let mut q = json!({
            "kind": "titration", "ask": "sample", "analyte": "CH3COOH", "taken": "10.00 mL",
            "concentration": "0.1000 mol/L", "titre": "20.15 mL", "ratio": "1",
        });
        q.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        q
    };
    // (20.15 − 0.05) mL · 0.1 mol/L · 10 / 10 mL = 2.010 mol/L in the vinegar, diluted 25.00 in 250.0.
    let diluted = json!({ "blank": "0.05 mL", "flask": "250.0 mL", "aliquot": "25.00 mL" });
    assert_eq!(result(&ask(sample(diluted)).unwrap(), "c_analyte"), "2.010 mol/L");
    assert_eq!(result(&ask(sample(json!({}))).unwrap(), "c_analyte"), "0.2015 mol/L");
    assert_eq!(told(sample(json!({ "flask": "250.0 mL" }))), "a flask and an aliquot go together");
}

// ── compositions ─────────────────────────────────────────────────────────────────────────────────────────────────

fn zinc_iodide(parts: Value) -> Value {
    json!({ "kind": "composition", "ask": "formula", "elements": ["Zn", "I"], "parts": parts })
}

#[test]
fn a_formula_is_named_only_when_the_data_decide() {
    let sure = ask(zinc_iodide(json!(["0.515 ± 0.004 g", "2.000 ± 0.004 g"]))).unwrap();
    assert_eq!((sure["status"].as_str(), sure["consistent"][0]["formula"].as_str()), (Some("unique"), Some("ZnI2")));
    // 15 mg of zinc lost, and the same doubt: ratio 2.00/0.971, no small formula within a per cent of it.
    let lost = ask(zinc_iodide(json!(["0.500 ± 0.004 g", "2.000 ± 0.004 g"]))).unwrap();
    assert_eq!(lost["status"], "none");
    // Known to a fifth only, several fit, and the precision that would decide is told.
    let rough = ask(zinc_iodide(json!(["0.5 ± 0.1 g", "2.00 ± 0.01 g"]))).unwrap();
    assert_eq!(rough["status"], "ambiguous");
    assert!(rough["consistent"].as_array().unwrap().len() > 1);
    assert!((0.0..20.0).contains(&rough["decided_by_percent"].as_f64().unwrap()));
}

#[test]
fn what_is_no_composition_is_told() {
    assert_eq!(told(zinc_iodide(json!(["0.5 g"]))), "give two to six elements, each with its part");
    assert_eq!(told(zinc_iodide(json!(["0 g", "2 g"]))), "mass of Zn cannot be zero");
    let exact = json!({ "value": "0.515 g", "components": [] });
    assert_eq!(told(zinc_iodide(json!([exact, exact]))), "without an uncertainty nothing can be ranked");
    let mut unknown = zinc_iodide(json!(["1 g", "2 g"]));
    unknown["elements"] = json!(["Zn", "Xx"]);
    assert_eq!(told(unknown), "no element has the symbol 'Xx'");
    let swapped = json!({
        "kind": "composition", "ask": "crucible", "elements": ["Sn", "O"],
        "crucible": "28.675 g", "with_element": "27.048 g", "with_product": "29.115 g",
    });
    assert_eq!(told(swapped), "an amount is zero or less: are two readings exchanged?");
}

/// Stopped half way: 1.41 waters, which is neither one nor two.
#[test]
fn a_hydrate_stopped_half_way_is_no_whole_number() {
    let question = |residue: &str| {
        json!({
            "kind": "composition", "ask": "hydrate", "salt": "CaSO4", "crucible": "24.405 ± 0.002 g",
            "with_hydrate": "26.409 ± 0.002 g", "with_anhydrous": residue, "candidates": [0.5, 1, 1.5, 2],
        })
    };
    let done = ask(question("25.990 ± 0.002 g")).unwrap();
    assert_eq!(
        (done["status"].as_str(), done["consistent"][0]["formula"].as_str()),
        (Some("unique"), Some("CaSO4·2H2O"))
    );
    let hemihydrate_left = ask(question("26.0945 ± 0.002 g")).unwrap();
    assert_eq!(hemihydrate_left["status"], "none");
    assert_eq!(result(&hemihydrate_left, "x").split(' ').next().map(|x| &x[..4]), Some("1.41"));
}

/// BaSO4 for sulfate: factor 96.056/233.38; 0.4670 g from 0.5000 g of sample are 38.44 %. By hand.
#[test]
fn a_precipitate_stands_for_its_analyte() {
    let answer = ask(json!({
        "kind": "composition", "ask": "gravimetric", "analyte": "SO4^2-", "weighed_as": "BaSO4", "ratio": "1",
        "precipitate": "0.4670 g", "sample": "0.5000 g",
    }))
    .unwrap();
    assert_eq!(result(&answer, "w_analyte"), "38.44 %");
}

#[test]
fn a_molecule_holds_a_whole_number_of_empirical_formulas() {
    let molecular = |mass: &str| {
        ask(json!({ "kind": "composition", "ask": "molecular", "empirical": "CH2O", "molar_mass": mass })).unwrap()
    };
    let glucose = molecular("180 ± 5 g/mol");
    assert_eq!((glucose["multiple"].as_u64(), glucose["whole"].as_bool()), (Some(6), Some(true)));
    assert_eq!(molecular("165 ± 1 g/mol")["whole"], false);
}

/// Spin-only moments √(n(n+2)): 5.92 for five unpaired electrons. χ = 14 450e-6 cm³/mol at 298 K: 2.8279·√(χT) = 5.87.
#[test]
fn unpaired_electrons_from_a_susceptibility() {
    let moment = |chi: f64| {
        ask(json!({
            "kind": "composition", "ask": "magnetic-moment", "susceptibility": chi, "diamagnetic": 50.0,
            "temperature": "298 K",
        }))
    };
    let manganese = moment(14_400.0).unwrap();
    assert_eq!((field(&manganese["moment"], 2).as_str(), manganese["unpaired"].as_u64()), ("5.87", Some(5)));
    assert!(moment(-200.0).unwrap_err().to_string().starts_with("a diamagnetic substance"));
}

// ── solutions ────────────────────────────────────────────────────────────────────────────────────────────────────

#[test]
fn a_mass_is_rounded_to_the_balance_and_the_strength_achieved_is_told() {
    let weigh = |step: &str| {
        json!({
            "kind": "solution", "ask": "weigh-out", "solute": "KHC8H4O4", "strength": "0.1000 mol/L",
            "volume": "250.0 mL", "step": step,
        })
    };
    // 5.10555 g wanted: 5.11 g on a 0.01 g balance is 0.087 % too much.
    let answer = ask(weigh("0.01 g")).unwrap();
    assert_eq!(
        (answer["rounded"]["take"].as_str(), field(&answer["rounded"]["achieved"], 5)),
        (Some("5.11"), "1.00087".into())
    );
    assert!(told(weigh("20 g")).starts_with("the balance does not show so little"));
}

#[test]
fn portions_still_add_up() {
    let portions = |shares: Value, total: &str| {
        ask(json!({ "kind": "solution", "ask": "portions", "shares": shares, "total": total, "step": "0.1 g" }))
    };
    let three = portions(json!([1, 1, 1]), "10.0 g").unwrap()["portions"].clone();
    assert_eq!(three, json!(["3.4 g", "3.3 g", "3.3 g"]));
    let uneven = portions(json!([0.5, 0.25, 0.25]), "0.7 g").unwrap()["portions"].clone();
    assert_eq!(uneven, json!(["0.3 g", "0.2 g", "0.2 g"]));
    let words = |r: Result<Value, ComputeError>| r.unwrap_err().to_string();
    assert_eq!(words(portions(json!([1, 1]), "10.05 g")), "the total itself is no whole number of steps");
    assert_eq!(words(portions(json!([0, 0]), "10.0 g")), "shares are numbers of zero or more, not all zero");
    assert_eq!(words(portions(json!([]), "10.0 g")), "shares are numbers of zero or more, not all zero");
}

#[test]
fn a_concentrated_acid_comes_with_its_caution_and_salt_does_not() {
    let concentrated = |solute: &str| {
        ask(json!({
            "kind": "solution", "ask": "concentrated", "solute": solute, "mass_fraction": "37.0 %",
            "density": "1.18 g/mL", "target": "1.00 mol/L", "volume": "500.0 mL",
        }))
        .unwrap()
    };
    let acid = concentrated("HCl");
    // 11.97 mol/L; 41.8 mL. By hand.
    assert_eq!((result(&acid, "c_stock"), result(&acid, "V_stock")), ("12.0 mol/L".into(), "41.8 mL".into()));
    assert!(acid["cautions"][0].as_str().unwrap().starts_with("Pour the acid into the water"));
    assert_eq!(concentrated("NaCl")["cautions"], json!([]));
}

#[test]
fn a_dilution_works_in_any_one_kind_of_strength() {
    let dilute = |stock: &str, target: &str| json!({ "kind": "solution", "ask": "dilute", "stock": stock, "target": target, "volume": "500.0 mL" });
    assert_eq!(result(&ask(dilute("95.0 %", "70.0 %")).unwrap(), "V_stock"), "368 mL");
    assert_eq!(result(&ask(dilute("9.00 g/L", "1.80 g/L")).unwrap(), "V_stock"), "100 mL");
    assert_eq!(told(dilute("2.0 mol/L", "1.0 g/L")), "target is an amount concentration, and '1.0 g/L' is a density");
    assert_eq!(told(dilute("0.1 mol/L", "0.2 mol/L")), "a dilution cannot be stronger than its stock");
}

// ── pH ───────────────────────────────────────────────────────────────────────────────────────────────────────────

/// Benzoic acid, pKa 4.20, brought to pH 9 is converted to 1 − 10⁻⁴·⁸; a phenol, pKa 10.0, to 9.1 %: that separates them.
#[test]
fn the_fraction_converted_at_a_ph_tells_what_an_extraction_takes() {
    let fraction = |pka: f64| {
        ask(json!({ "kind": "acid_base", "ask": "fraction", "pka": [pka], "protons": 1, "ph": 9.0 })).unwrap()["fraction"].as_f64().unwrap()
    };
    assert!((1.0 - fraction(4.20) - 10f64.powf(-4.8)).abs() < 1e-9);
    assert_eq!(format!("{:.3}", fraction(10.0)), "0.091");
}

#[test]
fn what_brings_a_buffer_to_a_ph() {
    // 0.1 mol/L acid to its pKa takes half of it as strong base.
    let acid = json!([{ "role": "weak-acid", "concentration": "0.100 mol/L", "pka": [4.756] }]);
    let adjust = ask(json!({ "kind": "acid_base", "ask": "adjust", "solutes": acid, "ph": 4.756 })).unwrap();
    assert_eq!(field(&adjust["base_needed"], 4), "0.0500");
    let down = json!([{ "role": "strong-base", "concentration": "0.010 mol/L" }]);
    let down = ask(json!({ "kind": "acid_base", "ask": "adjust", "solutes": down, "ph": 7.0 })).unwrap();
    assert_eq!(field(&down["base_needed"], 4), "-0.0100");
}

#[test]
fn a_solute_that_makes_no_sense_is_refused() {
    let ph = |solute: Value| told(json!({ "kind": "acid_base", "ask": "ph", "solutes": [solute] }));
    assert!(
        ph(json!({ "role": "weak-acid", "concentration": "0.1 mol/L" }))
            .starts_with("a strong acid or base has no pKa")
    );
    assert!(
        ph(json!({ "role": "strong-acid", "concentration": "0.1 mol/L", "pka": [1.0] }))
            .starts_with("a strong acid or base")
    );
    assert_eq!(
        ph(json!({ "role": "weak-acid", "concentration": "0.1 g", "pka": [4.0] })),
        "concentration is an amount concentration, and '0.1 g' is a mass"
    );
    assert!(ph(json!({ "role": "weak-acid", "concentration": "0.1 M", "pka": [9.0, 4.0] })).contains("lowest first"));
    assert!(ph(json!({ "role": "weak-acid", "concentration": "0.1 M", "pka": [1e9] })).contains("between -30 and 30"));
}

// ── sheets and practicals ────────────────────────────────────────────────────────────────────────────────────────

#[test]
fn a_sheet_of_ones_own_with_its_budget() {
    let question = |sheet: &str| {
        json!({
            "kind": "sheet",
            "quantities": [
                { "symbol": "m_salt", "value": "3.82 ± 0.01 g" },
                { "symbol": "V", "value": { "value": "25.00 mL", "components": [] } },
            ],
            "materials": [{ "symbol": "salt", "formula": "MgSO4·7H2O" }],
            "sheet": sheet, "units": { "c": "mmol/L" }, "samples": 2000, "seed": 3,
        })
    };
    let answer = ask(question("n = m_salt / M(salt)\nc = n / V")).unwrap();
    // 3.82 g / 246.466 g/mol / 25.00 mL = 620 mmol/L. By hand.
    assert_eq!(answer["results"][1]["text"], "620");
    assert_eq!(answer["inputs"][0]["symbol"], "m_salt");
    assert!(answer["inputs"][0]["percent"].as_f64().unwrap() > 99.0);
    let (sd, u) =
        (answer["drawn"]["sd"].as_f64().unwrap(), answer["results"][1]["standard_uncertainty"].as_f64().unwrap());
    assert!((sd / u - 1.0).abs() < 0.06, "{sd} and {u}");
    assert!(told(question("n = m_salt + V")).starts_with("a volume cannot be added to a mass"));
    assert_eq!(told(question("n = ln(m_salt / m_salt - 1)")), "'n' takes the logarithm of zero or less");
}

/// 0.0200 mol of copper with 0.0400 mol of chlorine: CuCl₂, and 2.689 g of it are 20.00 mmol. By hand.
#[test]
fn a_sheet_finds_a_formula_and_calculates_on_with_it() {
    let question = |chlorine: &str| {
        json!({
            "kind": "sheet",
            "quantities": [
                { "symbol": "m_Cu", "value": "1.271 ± 0.002 g" },
                { "symbol": "m_Cl", "value": chlorine },
                { "symbol": "m", "value": "2.689 g" },
            ],
            "materials": [{ "symbol": "Cu", "formula": "Cu" }, { "symbol": "Cl", "formula": "Cl" }],
            "sheet": "salt = formula(Cu, m_Cu / M(Cu), Cl, m_Cl / M(Cl))\nn = m / M(salt)",
        })
    };
    let answer = ask(question("1.418 ± 0.002 g")).unwrap();
    assert_eq!(answer["formulas"][0]["status"], "unique");
    assert_eq!(answer["formulas"][0]["simplest"], "CuCl2");
    assert_eq!(answer["results"], json!([answer["results"][0]]), "a formula is no number");
    assert_eq!(
        (answer["results"][0]["name"].as_str(), answer["results"][0]["text"].as_str()),
        (Some("n"), Some("20.00"))
    );
    let rough = ask(question("1.4 ± 0.3 g")).unwrap();
    assert_eq!(rough["formulas"][0]["status"], "ambiguous");
    assert_eq!(told(question("1.000 ± 0.001 g")), "no formula fits the amounts in 'salt' within their uncertainty");
}

#[test]
fn a_practical_is_read_and_planned_or_refused_with_its_place() {
    let text = include_str!("../../../../practicals/epsom-salt.practical.toml");
    let answer = ask(json!({ "kind": "practical", "text": text })).unwrap();
    assert_eq!(
        (answer["id"].as_str(), answer["plan"]["notes"][0]["what"]["kind"].as_str()),
        (Some("epsom-salt"), Some("in-excess"))
    );
    let broken = text.replace("kind = \"limiting-yield\"", "kind = \"guess\"");
    let answer = ask(json!({ "kind": "practical", "text": broken })).unwrap();
    assert!(answer["problems"][0]["reason"].as_str().unwrap().contains("unknown variant `guess`"));
    assert_eq!(answer["plan"], Value::Null);
}

#[test]
fn an_unknown_field_is_refused_and_the_same_question_gives_the_same_answer() {
    let unknown = serde_json::from_value::<Request>(json!({ "kind": "formula", "formula": "H2O", "prize": 1 }));
    assert!(unknown.unwrap_err().to_string().contains("unknown field `prize`"));
    let request: Request = serde_json::from_value(strontium("28.10 ± 0.20 mL")).unwrap();
    assert_eq!(compute(&request), compute(&request));
}

#[test]
fn results_can_be_found_by_name() {
    let request: Request = serde_json::from_value(strontium("20.00 mL")).unwrap();
    let Ok(Response::Reaction(compute::ReactionAnswer::Yield { worked, .. })) = compute(&request) else {
        panic!("a yield")
    };
    let worked: Worked = worked;
    assert_eq!(worked.result("percent_yield").map(|r| r.unit.as_str()), Some("%"));
    assert!(worked.result("nothing").is_none());
}
