//! The built-in Epsom salt practical, worked by hand: plan, judgement and the checking of sums.
//!
//! Theory: 25.00 mL × 1.00 mol/L = 25.0 mmol of acid, one magnesium each; 25.0 mmol × 246.466 g/mol = 6.16 g.

use lab::bench::Answer;
use lab::bench::Entries;
use lab::check::{DigitsVerdict, UnitVerdict, ValueVerdict, Verdict};
use lab::evaluated::{Evaluated, ResultState};
use lab::group::GroupOutcome;
use lab::judge::{Evidence, Finding, Fit, YieldFinding};
use lab::plan::{Consequence, plan};
use practical::Practical;

const TEXT: &str = include_str!("../../../../practicals/epsom-salt.practical.toml");

fn epsom() -> Practical {
    Practical::parse(TEXT).unwrap()
}

fn entries(readings: [&str; 4]) -> Entries {
    let symbols = ["m_carbonate", "V_acid", "m_dish", "m_dish_crystals"];
    let typed = symbols.iter().zip(readings).filter(|(_, text)| !text.is_empty());
    Entries { readings: typed.map(|(s, t)| ((*s).to_owned(), t.to_owned())).collect(), ..Entries::default() }
}

fn bench(readings: [&str; 4]) -> GroupOutcome {
    Evaluated::of(&epsom(), &entries(readings)).outcome()
}

fn shown(outcome: &GroupOutcome, name: &str) -> String {
    match &outcome.results.iter().find(|r| r.name == name).unwrap().state {
        ResultState::Value(v) => format!("{} {}", v.text, v.unit),
        other => format!("{other:?}"),
    }
}

const BERYL: [&str; 4] = ["3.04", "25.00", "47.91", "51.73"];

#[test]
fn results_follow_from_the_groups_own_readings() {
    let outcome = bench(BERYL);
    assert_eq!(shown(&outcome, "n_acid"), "25.0 mmol");
    assert_eq!(shown(&outcome, "m_theory"), "6.16 g");
    assert_eq!(shown(&outcome, "percent_yield"), "62.0 %");
    assert!(outcome.findings.is_empty());
    assert!(outcome.limiting.is_some_and(|l| l.as_intended && l.limits == "sulfuric acid"));
    assert_eq!(
        shown(&bench(["3.04", "25.00", "47.91", ""]), "percent_yield"),
        r#"NotYet { missing: ["m_dish_crystals"] }"#
    );
}

/// 2.40 g / 485.646 g/mol × 5 = 24.7 mmol, less than the 25.0 mmol of acid.
#[test]
fn too_little_carbonate_makes_it_limit() {
    let limiting = bench(["2.40", "25.00", "47.91", "51.73"]).limiting.unwrap();
    assert!(!limiting.as_intended);
    assert_eq!(limiting.limits, "basic magnesium carbonate");
}

#[test]
fn an_observation_can_contradict_the_numbers() {
    let mut seen = entries(BERYL);
    let look = |e: &Entries| Evaluated::of(&epsom(), e).outcome().limiting.unwrap().observed;
    assert_eq!(look(&seen), Evidence::Open);
    for (symbol, choice) in [("solid", "solid remains"), ("fizz", "no fizz"), ("litmus", "stays blue")] {
        seen.observations.insert(symbol.into(), choice.into());
    }
    assert_eq!(look(&seen), Evidence::Bears);
    seen.observations.insert("litmus".into(), "turns red".into());
    assert_eq!(look(&seen), Evidence::Contradicts { seen: vec!["turns red".into()] });
}

mod readings {
    use super::*;

    /// What is found for one reading among otherwise sound ones, and its near twin where nothing may be found.
    fn found(symbol: &str, text: &str) -> Vec<Finding> {
        let mut e = entries(BERYL);
        e.readings.insert(symbol.into(), text.into());
        Evaluated::of(&epsom(), &e).outcome().findings.remove(symbol).unwrap_or_default()
    }

    #[test]
    fn a_tenfold_slip_and_swapped_digits_are_offered_back() {
        let outside = |fit| Finding::OutsideRange { low: 2.9, high: 3.1, fit };
        assert_eq!(found("m_carbonate", "0.302")[0], outside(Some(Fit::PointMoved { reads: Some("3.02".into()) })));
        assert_eq!(found("m_carbonate", "30.2")[0], outside(Some(Fit::PointMoved { reads: Some("3.02".into()) })));
        assert_eq!(found("m_carbonate", "0.33")[0], outside(None));
        assert_eq!(found("m_carbonate", "3.20")[0], outside(Some(Fit::DigitsSwapped { reads: Some("3.02".into()) })));
        assert_eq!(found("m_carbonate", "3.02"), []);
        assert_eq!(found("m_carbonate", "3.10"), []);
    }

    #[test]
    fn decimals_marks_and_containers() {
        assert_eq!(found("m_carbonate", "3.0"), [Finding::Decimals { expected: 2, typed: 1 }]);
        assert_eq!(found("V_acid", "25.05"), [Finding::NotTheMark { nominal: "25.00".into() }]);
        assert_eq!(found("V_acid", "25.00"), []);
        let lighter = Finding::LighterThanContainer { container: "mass of the empty dish".into(), by: "0.01".into() };
        assert_eq!(found("m_dish_crystals", "47.90"), [lighter]);
        // As heavy as its dish, it holds nothing, where 3.82 g are planned; of 1.60 g nobody can say more than that it is little.
        let empty = Finding::FarFromPlan { net: "0.00 g".into(), planned: "3.82 g".into(), less: true };
        assert_eq!(found("m_dish_crystals", "47.91"), [empty]);
        assert_eq!(found("m_dish_crystals", "49.51"), []);
    }

    #[test]
    fn what_no_instrument_shows_is_refused() {
        let practical = epsom();
        let told = |text: &str| {
            let dish = practical.reading("m_dish").unwrap();
            lab::bench::possible(dish, &dish.instrument, text).unwrap_err().to_string()
        };
        assert_eq!(told("-48.1"), "mass of the empty dish cannot be negative: -48.1 g");
        assert_eq!(told("9e9"), "Balance 1 shows at most 300 g, not 9000000000 g");
        assert_eq!(told("1e400"), "this number is beyond any measurement (character 1 of '1e400')");
    }
}

/// Above theory only when it stays above after its uncertainty is taken off: 6.18/6.16 = 100.3 % ± 0.6 % is not.
#[test]
fn a_yield_above_theory_is_told_with_its_excess() {
    let yields = |full: &str| bench(["3.06", "25.00", "49.20", full]).yield_findings.remove("percent_yield");
    assert_eq!(yields("55.93"), Some(YieldFinding::Damp { excess: "0.57".into() }));
    assert_eq!(yields("55.38"), None);
    assert_eq!(yields("95.93"), Some(YieldFinding::TooMuch { times: "7.6".into() }));
    assert_eq!(yields("49.00"), Some(YieldFinding::Negative));
}

mod sums {
    use super::*;

    fn judged(answers: &[(&str, &str, &str)], of: &str) -> Verdict {
        let mut e = entries(BERYL);
        for (name, text, unit) in answers {
            e.answers.insert((*name).into(), Answer { text: (*text).into(), unit: (*unit).into() });
        }
        Evaluated::of(&epsom(), &e).outcome().verdicts.remove(of).unwrap()
    }

    fn one(name: &str, text: &str, unit: &str) -> Verdict {
        judged(&[(name, text, unit)], name)
    }

    #[test]
    fn value_unit_and_digits_are_judged_apart() {
        let v = one("percent_yield", "62.0", "%");
        assert_eq!((v.value, v.unit, v.digits), (ValueVerdict::Right, UnitVerdict::Right, DigitsVerdict::Right));
        let v = one("percent_yield", "61.9963", "%");
        assert_eq!(v.value, ValueVerdict::Right);
        assert_eq!(v.digits, DigitsVerdict::TooMany { typed: 6, wanted: 3 });
        assert_eq!(one("percent_yield", "62", "%").digits, DigitsVerdict::TooFew { typed: 2, wanted: 3 });
        let v = one("m_theory", "6.16", "");
        assert_eq!((v.value, v.unit), (ValueVerdict::Right, UnitVerdict::Missing));
        // The same amount in another unit of the same kind is right.
        assert_eq!(one("n_acid", "0.0250", "mol").value, ValueVerdict::Right);
        assert_eq!(one("n_acid", "0.0250", "mol").unit, UnitVerdict::Right);
    }

    #[test]
    fn the_right_number_in_the_wrong_unit_is_a_wrong_unit() {
        let v = one("n_acid", "0.0250", "mmol");
        assert_eq!((v.value, v.unit), (ValueVerdict::Right, UnitVerdict::Wrong { fits: "mol".into() }));
        let v = one("percent_yield", "0.620", "%");
        assert_eq!((v.value, v.unit), (ValueVerdict::Right, UnitVerdict::Wrong { fits: "1".into() }));
        let v = one("m_theory", "6.16", "mmol");
        assert_eq!((v.value, v.unit), (ValueVerdict::Right, UnitVerdict::Wrong { fits: "g".into() }));
    }

    /// The typed interval is 61.95 to 62.05 %, and half a percent of 62.0 is 0.31: 62.4 is out, 62.3 is in.
    #[test]
    fn the_interval_decides_and_a_wide_one_does_not_pass() {
        assert_eq!(one("percent_yield", "62.3", "%").value, ValueVerdict::Right);
        assert_eq!(one("percent_yield", "62.4", "%").value, ValueVerdict::Wrong);
        assert_eq!(one("m_theory", "6", "g").value, ValueVerdict::TooFewDigits);
        assert_eq!(one("percent_yield", "1e2", "%").value, ValueVerdict::TooFewDigits);
        assert_eq!(one("percent_yield", "840", "%").comparison.unwrap().ratio_shown, "13.5");
    }

    /// Anhydrous salt: 25.0 mmol × 120.36 g/mol = 3.01 g; 3.82 / 3.01 = 127 %.
    #[test]
    fn an_error_is_carried_forward_once() {
        let own = [("m_theory", "3.01", "g"), ("percent_yield", "127", "%")];
        assert_eq!(judged(&own, "m_theory").value, ValueVerdict::Wrong);
        let carried = judged(&own, "percent_yield");
        assert_eq!(carried.value, ValueVerdict::CarriedForward { origins: vec!["m_theory".into()] });
        // The same wrong number without the earlier answer is just wrong.
        assert_eq!(one("percent_yield", "127", "%").value, ValueVerdict::Wrong);
        // A right earlier answer carries nothing.
        let right = [("m_theory", "6.16", "g"), ("percent_yield", "127", "%")];
        assert_eq!(judged(&right, "percent_yield").value, ValueVerdict::Wrong);
    }

    #[test]
    fn an_answer_before_its_readings_waits() {
        let mut e = entries(["3.04", "25.00", "47.91", ""]);
        e.answers.insert("percent_yield".into(), Answer { text: "62.0".into(), unit: "%".into() });
        let v = Evaluated::of(&epsom(), &e).outcome().verdicts.remove("percent_yield").unwrap();
        assert_eq!(v.value, ValueVerdict::NotYet { missing: vec!["m_dish_crystals".into()] });
    }
}

#[test]
fn the_worked_solution_ends_with_the_result() {
    let lines = Evaluated::of(&epsom(), &entries(BERYL)).worked("percent_yield");
    let names: Vec<&str> = lines.iter().map(|l| l.name.as_str()).collect();
    assert_eq!(names, ["m_crystals", "n_carbonate", "n_acid", "extent", "m_theory", "percent_yield"]);
    assert_eq!(lines[5].result.as_deref(), Some("62.0"));
}

/// 3.0 g / 485.65 g/mol = 6.18 mmol, for which 30.9 mmol of acid would be needed, against 25.0: 24 % over; just enough is
/// 2.43 g.
#[test]
fn the_plan_tells_what_follows() {
    let plan = plan(&epsom());
    let carbonate = plan.materials.iter().find(|m| m.symbol == "carbonate").unwrap();
    let amounts = carbonate.equivalents.as_ref().unwrap();
    assert_eq!((amounts.millimoles.as_str(), amounts.per_coefficient.as_str()), ("6.18", "6.18"));
    let product = plan.materials.iter().find(|m| m.symbol == "crystals").unwrap();
    assert_eq!(product.planned.as_ref().unwrap().value, "6.16");
    let excess = plan.notes.iter().find_map(|n| match &n.what {
        Consequence::InExcess { percent, low, high, enough, near_edge, .. } => {
            Some(format!("{percent} % ({low} to {high}), enough {enough}, near {near_edge}"))
        }
        _ => None,
    });
    assert_eq!(excess.as_deref(), Some("24 % (19 to 28), enough 2.43 g, near false"));
    assert!(plan.notes.iter().all(|n| !matches!(n.what, Consequence::NotTheOneMeant { .. })));
    let rough = plan.notes.iter().find_map(|n| match &n.what {
        Consequence::RoughWillDo { readings } => Some(readings.clone()),
        _ => None,
    });
    assert_eq!(rough.unwrap(), ["mass of basic magnesium carbonate"]);
}
