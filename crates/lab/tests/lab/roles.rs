//! What definitions stand for: asked by role, said by methods or by the author, silent where nobody said it.

use super::bench::{Bench, matters};
use super::students::{Readings, checked};
use lab::bench::Answer;
use lab::check::Verdict;
use lab::judge::Matter;
use std::collections::BTreeMap;

fn text(id: &str) -> String {
    let file = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("../../practicals/{id}.practical.toml"));
    std::fs::read_to_string(file).unwrap()
}

/// Every reading as the practical expects it, and one answer.
fn answered(bench: &Bench, result: &str, percent: &str) -> Verdict {
    let practical = &bench.practical;
    let expected = practical.slots().into_iter().map(|s| (s.symbol.clone(), s.reading.expected.to_string()));
    let readings: Readings = expected.collect();
    let answer = Answer { text: percent.into(), unit: "%".into() };
    let mut verdicts = checked(practical, &readings, &BTreeMap::from([(result.to_owned(), answer)]));
    verdicts.remove(result).unwrap()
}

/// More than the whole cannot be, whichever method makes the part, and where an author says so of sums of their own; how
/// far a result lies from an accepted value is no part of anything.
#[test]
fn more_than_the_whole_is_absurd_wherever_a_role_says_that_it_is_a_part() {
    for (id, result, is_a_part) in [
        ("acid-base-separation", "mass_fraction", true),
        ("acid-base-separation", "recovered", true),
        ("benzylbenzamide", "percent_yield", true),
        ("benzylbenzamide", "percent_recovery", true),
        ("antacid", "w_antacid", true),
        ("sulfate-by-barium", "w_sulfate", true),
        ("iron-by-permanganate", "w_iron", true),
        ("soda-in-two-steps", "soda_yield", true),
        ("buffer", "neutralised", false),
    ] {
        let bench = Bench::of(id);
        assert!(bench.practical.result(result).is_some(), "{id} has no {result}");
        // Within a factor of ten of what is right, so that it is not absurd for being far off.
        assert_eq!(answered(&bench, result, "170").absurd, is_a_part, "{id} {result}");
        assert!(!answered(&bench, result, "81").absurd, "{id} {result}");
    }
}

/// Of two yields each is held against its own theory: what is wrong with the first says nothing of the second.
#[test]
fn each_of_two_yields_has_its_own_finding() {
    let bench = |soda: &str, salt: &str| {
        let readings =
            [("m_dish", "40.000"), ("m_start", "42.000"), ("m_soda[1]", soda), ("V_acid", "8.2"), ("m_salt", salt)];
        readings.into_iter().fold(Bench::of("soda-in-two-steps"), |b, (s, t)| b.read(s, t))
    };
    let found = |b: &Bench| b.outcome().yield_findings.into_keys().collect::<Vec<_>>();
    assert_eq!(found(&bench("41.262", "41.385")), Vec::<String>::new());
    assert_eq!(found(&bench("41.500", "41.385")), ["soda_yield"]);
    assert_eq!(found(&bench("41.262", "41.600")), ["percent_yield"]);
}

/// The same sums without their roles are numbers like any other: nothing is said that only a role could tell.
#[test]
fn a_definition_without_a_role_is_a_number_like_any_other() {
    let declared = text("soda-in-two-steps");
    let bare: String = {
        let (before, after) = declared.split_once("[[roles]]").unwrap();
        format!("{before}{}", &after[after.find("[[results]]").unwrap()..])
    };
    // 1.200 g of 1.262 g are 95.1 %; upside down, 105.1 %.
    let named = |text: &str| {
        let readings = [("m_dish", "38.000"), ("m_start", "40.000"), ("m_soda[1]", "39.200")];
        let readings = readings.map(|(s, t)| (s.to_owned(), t.to_owned())).into_iter().collect();
        let answer = Answer { text: "105.1".into(), unit: "%".into() };
        let answers = BTreeMap::from([("soda_yield".to_owned(), answer)]);
        let verdict = checked(&Bench::on(text).practical, &readings, &answers).remove("soda_yield").unwrap();
        verdict.slips().first().map(|s| serde_json::to_value(s).unwrap())
    };
    let (with, without) = (named(&declared), named(&bare));
    assert_eq!((with, without), (Some("yield-inverted".into()), Some("division-inverted".into())));
}

/// What a role is about must be there, and each wrong one is told at its place.
#[test]
fn a_role_of_nothing_is_refused_where_it_stands() {
    let good = text("soda-in-two-steps");
    for (from, to, told) in [
        ("definition = \"soda_yield\"", "definition = \"soda_yeld\"", "soda_yeld"),
        ("role = \"percent-yield\"\nof = \"soda\"", "role = \"percent-yield\"\nof = \"sodium\"", "sodium"),
        ("role = \"percent-yield\"\nof = \"soda\"", "role = \"percent-yield\"", "say of which material"),
        ("role = \"percent-yield\"", "role = \"yield\"", "unknown variant"),
    ] {
        let broken = good.replacen(from, to, 1);
        assert_ne!(broken, good, "{from}");
        let errors = practical::Practical::parse(&broken).unwrap_err().to_string();
        assert!(errors.contains(told) && errors.contains("line "), "{told}: {errors}");
    }
}

/// Parts of a mixture that come to more than was taken are told; all of it and no more is not.
#[test]
fn parts_above_their_whole_are_told_by_role() {
    let above = |sample: &str| {
        let bench = Bench::of("acid-base-separation");
        let expected = bench.practical.slots().into_iter().map(|s| (s.symbol.clone(), s.reading.expected.to_string()));
        let readings: Vec<(String, String)> = expected.collect();
        let given = |s: &str, t: &str| if s == "m_sample" { sample.to_owned() } else { t.to_owned() };
        let bench = readings.iter().fold(bench, |b, (s, t)| b.read(s, &given(s, t)));
        matters(&bench, |m| matches!(m, Matter::PartAboveWhole { .. }))
    };
    assert_eq!(above("2.000"), []);
    let percent = |m: &Matter| match m {
        Matter::PartAboveWhole { what, percent } => (what.clone(), percent.clone()),
        _ => unreachable!(),
    };
    let told: Vec<(String, String)> = above("1.000").iter().map(percent).collect();
    assert_eq!(told.len(), 1, "{told:?}");
    assert_eq!(told[0].0, "all parts together");
}
