//! Lines, heat, rates, gases, charge, equilibria: what cannot be is refused or remarked in words, and nothing panics.

use crate::door::ask;
use compute::ComputeError;
use proptest::prelude::*;
use serde_json::{Value, json};

fn told(question: Value) -> String {
    ask(question).unwrap_err().to_string()
}

fn kind(error: &ComputeError) -> &'static str {
    match error {
        ComputeError::Impossible { .. } => "impossible",
        ComputeError::Undefined { .. } => "undefined",
        ComputeError::Quantity { .. } => "quantity",
        ComputeError::Formula { .. } | ComputeError::NoMass { .. } => "formula",
        ComputeError::Equation { .. } | ComputeError::Sheet { .. } => "sheet",
    }
}

#[test]
fn what_cannot_be_is_refused_in_words() {
    let sample = |volume: &str, temperature: &str, pressure: &str| {
        json!({ "kind": "gas", "ask": "amount", "sample": {
            "volume": volume, "temperature": temperature, "pressure": pressure, "over_water": true } })
    };
    let burner = |before: &str, after: &str| {
        json!({ "kind": "calorimetry", "ask": "combustion", "fuel": "C2H5OH", "before": before, "after": after, "water": "100.0 mL",
            "density": "1.00 g/mL", "specific_heat": "4.18 J/(g K)", "warmed": "12.0 K" })
    };
    let points = |x: Value, y: Value| json!({ "kind": "calibration", "ask": "line", "points": { "x": x, "y": y } });
    let cell = |value: &str, electrons: u32| {
        let half = json!({ "standard": "0.34 V", "electrons": electrons, "species": [{ "value": value, "power": 1 }] });
        json!({ "kind": "electrochemistry", "ask": "cell", "temperature": "25 °C", "electrons": 2, "cathode": half,
            "anode": { "standard": "-0.76 V", "electrons": 2 } })
    };
    let salt = |charge: i32, titre: &str, common: Value| {
        json!({ "kind": "equilibrium", "ask": "solubility-product", "salt": "Ca(OH)2", "cation": { "charge": 2, "count": 1 },
            "anion": { "charge": charge, "count": 2 }, "titrated": "anion", "ratio": "1", "titrant": "0.05", "titre": titre,
            "aliquot": "25.00", "common_ion": common, "davies": "0.509" })
    };
    let common = json!({ "ion": "anion", "concentration": "0.100" });
    let rows = [
        (sample("-36.8 mL", "19 °C", "1000 hPa"), "impossible", "volume cannot be negative: -36.8 mL"),
        (sample("36.8 mL", "-280 °C", "1000 hPa"), "impossible", "-280 °C is not above absolute zero"),
        (sample("36.8 mL", "-60 °C", "1000 hPa"), "undefined", "'p_water' asks for the vapour pressure of water"),
        (sample("36.8 mL", "19 g", "1000 hPa"), "quantity", "temperature is a temperature, and '19 g' is a mass"),
        (burner("198.20 g", "198.71 g"), "impossible", "the burner weighs no less after it burnt"),
        (points(json!(["1", "2"]), json!(["1"])), "undefined", "a line needs as many values"),
        (
            points(json!(["2", "2", "2"]), json!(["1", "2", "3"])),
            "undefined",
            "a line says nothing where values do not differ",
        ),
        (points(json!(["one", "2"]), json!(["1", "2"])), "quantity", "value 1:"),
        (cell("0", 2), "impossible", "cathode cannot be zero"),
        (cell("0.01", 0), "quantity", "a number from 1 to 100, not 0"),
        (salt(-2, "20.0", Value::Null), "impossible", "the charges of the ions of a salt add up to nothing"),
        (salt(-1, "20.0", common), "impossible", "the titration finds no more of the ion than was there before"),
        (
            json!({ "kind": "kinetics", "ask": "clock-order", "concentration": ["0.1", "0.2"], "time": ["0", "20"] }),
            "undefined",
            "0 is no time to divide by",
        ),
        (
            json!({ "kind": "kinetics", "ask": "integrated", "order": 7, "time": ["0", "1"], "value": ["1", "2"] }),
            "quantity",
            "0, 1 or 2, not 7",
        ),
        (
            json!({ "kind": "electrochemistry", "ask": "deposit", "substance": "Qx", "electrons": 2, "current": "1 A", "time": "9 s" }),
            "formula",
            "",
        ),
    ];
    for (question, expected, words) in rows {
        let error = ask(question.clone()).unwrap_err();
        assert_eq!(kind(&error), expected, "{error}: {question}");
        assert!(error.to_string().starts_with(words), "{error}");
    }
    assert!(
        told(json!({ "kind": "gas", "ask": "correction", "volume": "1 mL",
        "from": { "temperature": "20 °C", "pressure": "0 Pa" }, "to": { "temperature": "0 °C", "pressure": "1 bar" } }))
        .starts_with("pressure cannot be zero")
    );
}

/// A cup that takes up less heat than nothing, more copper than the current brought, more ions than a salt has: computed, and said.
#[test]
fn what_should_not_be_is_computed_and_said() {
    let remarks = |question: Value| ask(question).unwrap()["remarks"].clone();
    let cup = |last: &str| {
        remarks(
            json!({ "kind": "calorimetry", "ask": "constant-by-mixing", "hot": "75.0 g", "hot_temperature": "50.0 °C", "cold": "75.0 g",
            "cold_temperature": "20.0 °C", "final_temperature": last, "specific_heat": "4.18 J/(g K)" }),
        )
    };
    assert_eq!(cup("36.0 °C"), json!(["below-nothing"]));
    assert_eq!(cup("35.0 °C"), json!(["consistent-with-zero"]));
    assert_eq!(cup("34.0 °C"), Value::Null);
    let copper = |mass: &str| {
        remarks(
            json!({ "kind": "electrochemistry", "ask": "deposit", "substance": "Cu", "electrons": 2, "current": "0.400 A",
            "time": "1800 s", "mass": mass }),
        )
    };
    // 0.2371 g at most; 0.237 is within its uncertainty of that.
    assert_eq!(copper("0.260 g"), json!(["more-than-possible"]));
    assert_eq!(copper("0.237 g"), Value::Null);
    let apart = |depression: &str| {
        remarks(
            json!({ "kind": "equilibrium", "ask": "vant-hoff", "solute": "1.000 g", "molar_mass": "110.98 g/mol", "solvent": "100.0 g",
            "constant": "1.86 K kg/mol", "depression": depression, "ions": 3 }),
        )
    };
    assert_eq!(apart("0.55 K"), json!(["more-than-possible"]));
    assert_eq!(apart("0.45 K"), Value::Null);
}

/// Two solutions of one strength and volume run out together; a drop more of one, and the other decides.
#[test]
fn a_tie_in_a_cup_is_named_as_one() {
    let cup = |base: &str| {
        let part = |name: &str, volume: &str| json!({ "name": name, "volume": volume, "concentration": "1.00 mol/L", "density": "1.00 g/mL", "heated": true });
        ask(json!({ "kind": "calorimetry", "ask": "reaction", "parts": [part("acid", "50.0 mL"), part("base", base)],
            "specific_heat": "4.18 J/(g K)", "before": ["20.0 °C"], "times": ["4 min", "6 min"], "after": ["26.6 °C", "26.4 °C"],
            "mixed_at": "3 min" }))
        .unwrap()
    };
    assert_eq!(cup("50.0 mL")["limiting"], json!(["acid", "base"]));
    assert_eq!(cup("50.0 mL")["remarks"], json!(["runs-out-together"]));
    assert_eq!(cup("50.1 mL")["limiting"], json!(["acid"]));
    assert_eq!(cup("50.1 mL")["remarks"], Value::Null);
}

proptest! {
    /// Whatever numbers come, a line is a line of finite numbers or a refusal.
    #[test]
    fn no_points_make_a_number_that_is_none(x in prop::collection::vec(-1e9f64..1e9, 0..8), y in prop::collection::vec(-1e9f64..1e9, 0..8)) {
        let text = |v: &[f64]| v.iter().map(ToString::to_string).collect::<Vec<_>>();
        for question in [
            json!({ "kind": "calibration", "ask": "unknown", "points": { "x": text(&x), "y": text(&y) }, "unknown": ["1"] }),
            json!({ "kind": "calibration", "ask": "addition", "added": text(&x), "y": text(&y) }),
            json!({ "kind": "kinetics", "ask": "which-order", "time": text(&x), "value": text(&y) }),
            json!({ "kind": "kinetics", "ask": "half-lives", "time": text(&x), "value": text(&y) }),
            json!({ "kind": "equilibrium", "ask": "gran", "volume": text(&x), "ph": text(&y) }),
        ] {
            // What is no number is null in JSON where a number is promised.
            if let Ok(answer) = ask(question) {
                let slope = &answer["line"]["slope"];
                prop_assert!(slope.is_null() == answer["line"].is_null(), "{answer}");
            }
        }
    }
}
