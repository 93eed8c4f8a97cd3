//! Hostile questions: whatever comes through the door, it is answered or refused, and never panics.

use crate::door::ask;
use practical::Practical;
use proptest::prelude::*;
use serde_json::json;

const EPSOM: &str = include_str!("../../../../practicals/epsom-salt.practical.toml");

#[test]
fn long_and_deep_questions_are_refused_by_their_bounds() {
    let formula = |text: String| ask(json!({ "kind": "formula", "formula": text })).unwrap_err().to_string();
    assert!(formula("H2O".repeat(333_334)).starts_with("a formula has at most 200 characters"));
    assert!(formula("(".repeat(100)).starts_with("brackets nest at most 20 deep"));
    let equation = ask(json!({ "kind": "equation", "equation": "H2 + ".repeat(100_000) })).unwrap_err();
    assert!(equation.to_string().starts_with("an equation has at most 600 characters"));
    let many: Vec<String> = vec!["1".into(); 20_000];
    let values = ask(json!({ "kind": "statistics", "ask": "summary", "values": many })).unwrap_err();
    assert_eq!(values.to_string(), "at most 10000 values");
    let points: Vec<f64> = vec![1.0; 5000];
    let curve = ask(json!({
        "kind": "acid_base", "ask": "titration", "volume": "25 mL", "at": points,
        "flask": [{ "role": "strong-acid", "concentration": "0.1 M" }],
        "titrant": { "role": "strong-base", "concentration": "0.1 M" },
    }));
    assert!(curve.unwrap_err().to_string().starts_with("give at most 2000 volumes"));
    let practical = ask(json!({ "kind": "practical", "text": "x".repeat(300_000) })).unwrap();
    assert_eq!(practical["problems"][0]["reason"], "a practical file has at most 200000 characters");
}

proptest! {
    #[test]
    fn arbitrary_questions_never_panic(
        text in "\\PC{0,60}",
        close in "[A-Za-z0-9()\\[\\]·.^+\\-=> ]{0,60}",
        quantity in "[0-9.,eE±\\- ]{0,12} ?(g|mL|mol/L|%|°C|M|)",
    ) {
        for t in [&text, &close] {
            let _ = ask(json!({ "kind": "formula", "formula": t }));
            let _ = ask(json!({ "kind": "equation", "equation": t }));
            let _ = ask(json!({ "kind": "number", "ask": "read", "text": t }));
            let _ = ask(json!({ "kind": "practical", "text": t }));
            let _ = ask(json!({ "kind": "solution", "ask": "made", "solute": t, "mass": quantity, "volume": "1 L" }));
            let _ = ask(json!({ "kind": "sheet", "sheet": t, "quantities": [{ "symbol": "a", "value": quantity }] }));
        }
    }

    /// A practical with one piece of its text replaced is a practical or an error with a place.
    #[test]
    fn a_damaged_practical_is_told_with_its_place(
        at in 0..EPSOM.len(), length in 0usize..40, with in "[\\PC\\n]{0,12}",
    ) {
        let start = (0..=at).rev().find(|i| EPSOM.is_char_boundary(*i)).unwrap();
        let end = (start + length..=EPSOM.len()).find(|i| EPSOM.is_char_boundary(*i)).unwrap_or(EPSOM.len());
        let damaged = format!("{}{with}{}", &EPSOM[..start], &EPSOM[end..]);
        if let Err(errors) = Practical::parse(&damaged) {
            let lines = damaged.matches('\n').count() + 1;
            prop_assert!(!errors.0.is_empty());
            prop_assert!(errors.0.iter().all(|e| (1..=lines).contains(&e.place.line)), "{errors}");
        }
    }
}
