//! A bench from outside: what is said of it by all that it sent, on practicals of the library, with a near twin for each.

use crate::door::ask;
use serde_json::{Value, json};

fn text(id: &str) -> String {
    let file = format!("{}/../../practicals/{id}.practical.toml", env!("CARGO_MANIFEST_DIR"));
    std::fs::read_to_string(file).unwrap()
}

fn reading(symbol: &str, text: &str, unit: &str) -> Value {
    json!({ "kind": "reading", "symbol": symbol, "text": text, "unit": unit })
}

/// One thing said a minute.
fn bench(text: &str, assignment: Option<&str>, said: &[Value]) -> Value {
    let entries: Vec<Value> = said
        .iter()
        .enumerate()
        .map(|(i, entry)| {
            let mut sent = entry.clone();
            sent["at"] = json!(entry.get("at").cloned().unwrap_or_else(|| json!(60 * i)));
            sent
        })
        .collect();
    let question = json!({
        "kind": "bench", "practical": { "text": text }, "assignment": assignment, "entries": entries,
    });
    ask(question).unwrap_or_else(|e| panic!("{e}"))
}

/// The matters of a standing, by kind.
fn matters<'a>(answer: &'a Value, standing: &str) -> Vec<&'a str> {
    let advice = answer["advice"].as_array().unwrap().iter();
    advice.filter(|a| a["standing"] == standing).map(|a| a["matter"]["kind"].as_str().unwrap()).collect()
}

fn seen(symbol: &str, choice: &str) -> Value {
    json!({ "kind": "observation", "symbol": symbol, "choice": choice })
}

/// 1.500 g of the hexahydrate are 5.63 mmol. By recipe A 20.00 mL of sulfate limit and strontium is left; by recipe B
/// 35.00 mL leave sulfate. What is right for the one is wrong for the other, and both are known by their own recipe.
#[test]
fn what_is_seen_is_judged_by_the_groups_own_recipe() {
    let (clouds, clear) = ("clouds at once", "clouds no more than saturated strontium sulfate");
    let group = |recipe, volume, strontium, sulfate| {
        let said = [
            reading("m_strontium", "1.500", "g"),
            reading("V_sulfate", volume, "mL"),
            seen("strontium_left", strontium),
            seen("sulfate_left", sulfate),
        ];
        bench(&text("strontium-sulfate"), Some(recipe), &said)
    };
    for right in [group("recipe A", "20.00", clouds, clear), group("recipe B", "35.00", clear, clouds)] {
        assert_eq!(matters(&right, "doubtful"), [] as [&str; 0], "{right}");
        assert_eq!(right["limiting"]["observed"]["kind"], "bears");
    }
    for wrong in [group("recipe B", "35.00", clouds, clear), group("recipe A", "20.00", clear, clouds)] {
        assert!(matters(&wrong, "doubtful").contains(&"seen-otherwise"), "{wrong}");
    }
}

/// A colour, a layer, the place of a thermometer: declared as evidence of nothing, they weigh on no reagent.
#[test]
fn what_is_declared_as_no_evidence_speaks_against_no_reagent() {
    let said = [reading("m_iron", "5.56", "g"), reading("m_ammonium", "2.64", "g"), seen("colour", "yellow or brown")];
    let practical = text("double-salt");
    let sent: Vec<Value> = said
        .iter()
        .filter(|s| s["symbol"].as_str().is_some_and(|n| practical.contains(&format!("symbol = \"{n}\""))))
        .cloned()
        .collect();
    let answer = bench(&practical, None, &sent);
    assert!(!matters(&answer, "doubtful").contains(&"seen-otherwise"), "{answer}");
}

/// Each vial by its own key: U9 is trans-cinnamic acid, and whoever says so is right; the key itself is for the desk.
#[test]
fn an_unknown_is_judged_by_its_own_vial_and_told_to_nobody_else() {
    let vial = |code: &str, which: &str, from: &str, to: &str| {
        ask(json!({
            "kind": "bench", "practical": { "text": text("unknown-by-melting") }, "unknown": code,
            "entries": [
                { "at": 0, "kind": "observation", "symbol": "which", "choice": which },
                { "at": 60, "kind": "reading", "symbol": "T_melt[from]", "text": from, "unit": "°C" },
                { "at": 90, "kind": "reading", "symbol": "T_melt[to]", "text": to, "unit": "°C" },
            ],
        }))
        .unwrap()
    };
    assert_eq!(matters(&vial("U9", "trans-cinnamic acid", "132.5", "134.0"), "doubtful"), [] as [&str; 0]);
    assert_eq!(matters(&vial("U4", "urea", "132.0", "133.5"), "doubtful"), [] as [&str; 0]);
    let other = vial("U4", "trans-cinnamic acid", "122.0", "123.5");
    assert_eq!(matters(&other, "doubtful"), ["candidates", "other-than-its-vial", "not-as-expected"]);
    let told = other["advice"].as_array().unwrap().iter().filter(|a| a["to_the_group"] == true).count();
    assert_eq!(told, 0, "what an unknown is stays with the desk: {other}");
}

/// A stop with a direction, on a practical that has none of them: what rises, falls, is held, is a limit.
#[test]
fn a_stop_knows_from_which_side_it_is_reached() {
    let practical = text("ethyl-ethanoate");
    assert!(practical.contains("records = [\"m_flask\", \"T_boil\""), "the step that collects");
    let reading_of = "[[readings]]\nsymbol = \"T_now\"\nlabel = \"temperature\"\nshort = \"T\"\nunit = \"°C\"\n\
        instrument = \"Thermometer\"\ndecimals = 1\nrange = [-10, 120]\nexpected = \"20.0\"\nof = \"ester\"\n\n[[readings]]\nsymbol = \"T_boil\"";
    let with = |stop: &str| {
        let step = format!(
            "[[steps]]\ntitle = \"Bring it there\"\ntext = \"Bring it there.\"\nrecords = [\"T_now\"]\nstop = {stop}\n\n[[steps]]"
        );
        practical.replacen("[[readings]]\nsymbol = \"T_boil\"", reading_of, 1).replacen("[[steps]]", &step, 1)
    };
    let at = |stop: &str, celsius: &str| {
        let answer = bench(&with(stop), None, &[reading("T_now", celsius, "°C")]);
        let first = &answer["advice"][0];
        format!("{} {}", first["standing"].as_str().unwrap_or("-"), first["matter"]["kind"].as_str().unwrap_or("-"))
    };
    let (there, not_yet, past) = ("settled stop-reached", "waiting stop-not-yet", "doubtful stop-passed");
    for (stop, rows) in [
        ("{ until = \"falls-to\", to = \"7 °C\" }", [("15.0", not_yet), ("7.0", there), ("2.0", there)]),
        (
            "{ until = \"rises-to\", to = \"60 °C\", past = \"5 °C\" }",
            [("55.0", not_yet), ("63.0", there), ("70.0", past)],
        ),
        ("{ until = \"not-above\", limit = \"55 °C\" }", [("49.0", there), ("55.0", there), ("58.0", past)]),
        ("{ until = \"at-most\", value = \"10 °C\" }", [("12.0", not_yet), ("10.0", there), ("-5.0", there)]),
        (
            "{ until = \"within\", value = \"60 °C\", by = \"2 °C\" }",
            [("59.0", there), ("62.0", there), ("65.0", past)],
        ),
        (
            "{ until = \"stays-within\", value = \"60 °C\", by = \"3 °C\", lasts = \"10 min\" }",
            [("58.0", there), ("62.5", there), ("70.0", past)],
        ),
    ] {
        for (celsius, expected) in rows {
            assert_eq!(at(stop, celsius), expected, "{stop} at {celsius}");
        }
    }
    // From which side an older file does not say: near is there, and of anything else nothing is known.
    assert_eq!(at("{ until = \"temperature\", reaches = \"7 °C\" }", "7.5"), there);
    assert_ne!(at("{ until = \"temperature\", reaches = \"7 °C\" }", "15.0"), there);
}

/// 15 min from when it is at 80 °C: stopped after five it is too early, after fifteen not; a clock nobody started says nothing.
#[test]
fn the_clock_knows_a_time_cut_short() {
    let clock = |at: i64, running: bool| json!({ "kind": "clock", "step": 0, "running": running, "at": at });
    let practical = text("strontium-sulfate");
    let before = &practical[..practical.find("lasts = \"15 min\"").unwrap()];
    let step = before.matches("[[steps]]").count() - 1;
    let told = |said: &[Value]| {
        let said: Vec<Value> = said
            .iter()
            .cloned()
            .map(|mut s| {
                s["step"] = json!(step);
                s
            })
            .collect();
        matters(&bench(&practical, None, &said), "doubtful").contains(&"too-early")
    };
    assert!(told(&[clock(0, true), clock(300, false)]));
    assert!(!told(&[clock(0, true), clock(900, false)]));
    assert!(!told(&[clock(0, true)]), "it still runs");
    // A step that lasts may record something while its clock runs: that is no end of it.
    let records =
        practical.replacen("stop = { until = \"time\"", "records = [\"m_paper\"]\nstop = { until = \"time\"", 1);
    let clock_of = |at: i64, running: bool| json!({ "kind": "clock", "step": step, "running": running, "at": at });
    let mut within = reading("m_paper", "0.620", "g");
    within["at"] = json!(120);
    let answer = bench(&records, None, &[clock_of(0, true), within, clock_of(900, false)]);
    assert!(!matters(&answer, "doubtful").contains(&"too-early"), "{answer}");
    assert!(!told(&[]));
}

#[test]
fn a_question_about_a_bench_is_refused_with_its_place() {
    let told = |question: Value| ask(question).unwrap_err().to_string();
    let vinegar = || json!({ "text": text("vinegar") });
    let asked = |entries: Value| told(json!({ "kind": "bench", "practical": vinegar(), "entries": entries }));
    let odd = json!([{ "at": 0, "kind": "reading", "symbol": "V_nothing", "text": "1.00", "unit": "mL" }]);
    assert!(asked(odd).starts_with("entries.0: "), "a reading that is not there");
    let back = json!([{ "at": 60, "kind": "begun", "step": 0 }, { "at": 0, "kind": "begun", "step": 1 }]);
    assert_eq!(asked(back), "entries.1: entries come in order, within a year");
    let unknown = json!({ "kind": "bench", "practical": vinegar(), "unknown": "U9", "entries": [] });
    assert_eq!(told(unknown), "the practical has no unknown 'U9'");
    let recipe = json!({ "kind": "bench", "practical": vinegar(), "assignment": "recipe Z", "entries": [] });
    assert_eq!(told(recipe), "the practical has no assignment 'recipe Z'");
}

/// What a simulated group sends, a bench takes, and says nothing doubtful of.
#[test]
fn a_simulated_group_can_be_sent_to_a_bench() {
    for id in ["water-hardness", "double-salt", "gypsum-water"] {
        let practical = json!({ "text": text(id) });
        let group = ask(json!({ "kind": "simulate", "practical": practical.clone(), "seed": 11 })).unwrap();
        let answer = ask(json!({ "kind": "bench", "practical": practical, "entries": group["entries"] })).unwrap();
        assert_eq!(matters(&answer, "doubtful"), [] as [&str; 0], "{id}");
        assert_eq!(answer["findings"], json!({}), "{id}");
        assert!(answer["done"].as_array().unwrap().iter().all(|d| *d == true), "{id}: {}", answer["done"]);
    }
}
