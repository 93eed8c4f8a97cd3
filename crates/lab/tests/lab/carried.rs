//! What is carried forward besides plain numbers: a choice, a number beside a wrong unit, an answer that stands beside the way;
//! and what people write into a field. Each with a twin that must not be taken.

use super::bench::Bench;
use super::students::checked;
use lab::bench::Answer;
use lab::check::{Stands, UnitVerdict, ValueVerdict, Verdict};
use practical::Practical;
use std::collections::BTreeMap;
use std::path::Path;

const STRONTIUM: &[(&str, &str)] =
    &[("m_strontium", "1.482"), ("V_sulfate", "20.00"), ("m_paper", "0.624"), ("m_paper_product", "1.296")];
const BARIUM: &[(&str, &str)] =
    &[("m_sample", "0.302"), ("V_barium", "30.0"), ("m_crucible", "31.512"), ("m_full", "32.003")];
const COPPER: &[(&str, &str)] = &[("m_al", "0.500"), ("m_cu_salt", "3.400"), ("m_paper", "0.620"), ("m_full", "1.800")];
const VINEGAR: &[(&str, &str)] = &[
    ("V_vinegar", "25.00"),
    ("V_flask", "250.00"),
    ("V_aliquot", "25.00"),
    ("V_start[2]", "0.32"),
    ("V_end[2]", "21.42"),
    ("V_start[3]", "0.32"),
    ("V_end[3]", "21.42"),
];

/// Result, text, unit.
type Sent<'a> = (&'a str, &'a str, &'a str);

fn verdicts(practical: &Practical, taken: &[(&str, &str)], sent: &[Sent<'_>]) -> BTreeMap<String, Verdict> {
    let readings = taken.iter().map(|(s, t)| ((*s).to_owned(), (*t).to_owned())).collect();
    let answer = |(r, t, u): &Sent<'_>| ((*r).to_owned(), Answer { text: (*t).to_owned(), unit: (*u).to_owned() });
    checked(practical, &readings, &sent.iter().map(answer).collect())
}

fn of(id: &str, taken: &[(&str, &str)], sent: &[Sent<'_>]) -> BTreeMap<String, Verdict> {
    verdicts(&Bench::of(id).practical, taken, sent)
}

/// A practical that choose first and has coefficients, from the bench of diagnosis.
fn copper() -> Practical {
    let file = Path::new(env!("CARGO_MANIFEST_DIR")).join("benches/diagnosis/copper-by-aluminium.practical.toml");
    Practical::parse(&std::fs::read_to_string(file).unwrap()).unwrap()
}

fn carried(from: &str) -> ValueVerdict {
    ValueVerdict::CarriedForward { origins: vec![from.to_owned()] }
}

#[test]
fn a_choice_follows_from_ones_own_numbers_and_what_follows_from_a_choice_too() {
    // 5.558 mmol of strontium and 4.00 mmol of sulfate: with 40.0 mmol of sulfate strontium limits.
    let own = [("n_sulfate", "40.0", "mmol"), ("extent", "strontium", "")];
    assert_eq!(of("strontium-sulfate", STRONTIUM, &own)["extent"].value, carried("n_sulfate"));
    let right = [("n_sulfate", "4.00", "mmol"), ("extent", "strontium", "")];
    let wrong = &of("strontium-sulfate", STRONTIUM, &right)["extent"];
    assert_eq!(wrong.value, ValueVerdict::Wrong);

    // A wrong choice costs once: 5.558 mmol of SrSO4 are 1.021 g. 1.034 g follow from nothing.
    for (text, value) in [("1.021", carried("extent")), ("1.034", ValueVerdict::Wrong)] {
        let sent = [("n_sulfate", "4.00", "mmol"), ("extent", "strontium", ""), ("m_theory", text, "g")];
        assert_eq!(of("strontium-sulfate", STRONTIUM, &sent)["m_theory"].value, value, "{text}");
    }
    // 0.500 g of aluminium are 18.53 mmol, the salt's 19.94: with ten times as much salt the aluminium limits, 27.80 mmol of
    // copper are 1.766 g.
    let sent = [("extent", "aluminium", ""), ("n_salt", "199.4", "mmol"), ("m_theory", "1.766", "g")];
    let copper = verdicts(&copper(), COPPER, &sent);
    assert_eq!(copper["extent"].value, ValueVerdict::Wrong);
    assert!(matches!(copper["m_theory"].value, ValueVerdict::CarriedForward { .. }), "{:?}", copper["m_theory"]);
}

/// 0.8440 mol/L of an acid of 60.05 g/mol; 843.7 with mol/L beside it gives 50 660 g/L.
#[test]
fn a_wrong_unit_is_lost_once() {
    let sent = |rho| [("c_vinegar", "844.0", "mol/L"), ("rho_vinegar", rho, "g/L")];
    let verdicts = of("vinegar", VINEGAR, &sent("50680"));
    assert!(matches!(verdicts["c_vinegar"].unit, UnitVerdict::Wrong { .. }), "{:?}", verdicts["c_vinegar"]);
    assert_eq!(verdicts["rho_vinegar"].value, carried("c_vinegar"));
    assert_eq!(of("vinegar", VINEGAR, &sent("51340"))["rho_vinegar"].value, ValueVerdict::Wrong);
    assert_eq!(of("vinegar", VINEGAR, &sent("50.68"))["rho_vinegar"].stands, Stands::Right);
}

/// The amount of the precipitate is asked for, the sheet goes by its mass: 2.104 mmol are 0.2021 g of sulfate.
#[test]
fn an_answer_beside_the_way_is_gone_on_from() {
    let file = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../practicals/sulfate-by-barium.practical.toml");
    let asked = "[[results]]\nname = \"n_precipitate\"\nlabel = \"amount of the precipitate\"\nunit = \"mmol\"\nunits = [\"mmol\"]\n\
                 expression = \"m_precipitate / M(precipitate)\"\ntolerance = \"0.5 %\"\nasked = true\n\n[[results]]\n";
    let text = std::fs::read_to_string(file).unwrap().replacen("[[results]]\n", asked, 1);
    let practical = Practical::parse(&text.replace("answers = [", "answers = [\"n_precipitate\", ")).unwrap();
    // The acid's molar mass in its place: 0.491 g over 98.07 are 5.007 mmol, and those 0.4810 g.
    for (mass, value) in [("0.4810", carried("n_precipitate")), ("0.4870", ValueVerdict::Wrong)] {
        let sent = [("n_precipitate", "5.007", "mmol"), ("m_sulfate", mass, "g")];
        assert_eq!(verdicts(&practical, BARIUM, &sent)["m_sulfate"].value, value, "{mass}");
    }
    // Upside down nothing follows from it.
    let sent = [("n_precipitate", "5.007", "mmol"), ("m_sulfate", "0.0849", "g")];
    assert_ne!(verdicts(&practical, BARIUM, &sent)["m_sulfate"].value, carried("n_precipitate"));
}

#[test]
fn a_field_takes_what_a_teacher_would_take() {
    let judged =
        |text: &str, unit: &str| of("sulfate-by-barium", BARIUM, &[("m_sulfate", text, unit)])["m_sulfate"].clone();
    for (text, unit) in [
        ("0.202", "g"),
        ("≈ 0.202", "g"),
        ("0.202 g", ""),
        ("202 mg", "g"),
        ("2.02·10^-1", "g"),
        ("2,02 × 10⁻¹ g", ""),
        ("202 000 µg", "g"),
    ] {
        let verdict = judged(text, unit);
        assert_eq!((verdict.stands, &verdict.unit), (Stands::Right, &UnitVerdict::Right), "{text} {unit}: {verdict:?}");
    }
    let unknown = judged("0.202 stone", "g");
    assert_eq!((unknown.value, unknown.unit), (ValueVerdict::Right, UnitVerdict::Unknown { typed: "stone".into() }));
    // Asked back, with nothing lost: 2020 or 2.020?
    let asked = judged("2,020", "g");
    let ValueVerdict::NoValue { reason } = &asked.value else { panic!("{asked:?}") };
    assert!(reason.starts_with("is this 2020, or 2.020?"), "{reason}");
    // A litre measures no mass.
    assert!(matches!(judged("0.202 mL", "").unit, UnitVerdict::Wrong { .. }));
}

#[test]
fn nothing_is_nothing_and_an_error_near_it_is_judged_with_what_was_found() {
    // Both used up: 0.500 g of aluminium to the last digit.
    let practical = copper();
    let exact = [("m_al", "0.500"), ("m_cu_salt", "4.739"), ("m_paper", "0.620"), ("m_full", "1.800")];
    for (text, right) in [("0", true), ("0.000", true), ("0.1", false), ("0.02", false)] {
        let verdict = &verdicts(&practical, &exact, &[("m_left", text, "g")])["m_left"];
        assert_eq!(verdict.value == ValueVerdict::Right, right, "{text}: {:?}", verdict.value);
    }
    // 20.85 mL: 50.08 g/L for 50.0 are 0.17 %, 50.04 by a molar mass of 60.0 are 0.08 %. Who has answered 50.08 has no 0.35 %.
    let near: Vec<_> = VINEGAR.iter().map(|(s, t)| (*s, if s.starts_with("V_end") { "21.17" } else { *t })).collect();
    let found = ("rho_vinegar", "50.08", "g/L");
    for (before, text, right) in
        [(None, "0.17", true), (None, "0.08", true), (None, "0.90", false), (Some(found), "0.35", false)]
    {
        let sent: Vec<_> = before.into_iter().chain([("percent_error", text, "%")]).collect();
        let verdict = &of("vinegar", &near, &sent)["percent_error"];
        assert_eq!(verdict.value == ValueVerdict::Right, right, "{text}: {:?}", verdict.value);
    }
}

/// Strange answers, a bomb of a formula, ten thousand trials: told or wrong, never a panic, never endless.
#[test]
fn strange_answers_are_told() {
    let practical = Bench::of("strontium-sulfate").practical;
    let bomb = format!("{}{}", "(".repeat(5000), "H".repeat(5000));
    for text in
        ["", " ", "NaN", "1e400", "-", "🧪", "<b>4</b>", "4\u{0}", "1/0", &bomb, "۴", "2.5×10", &"9".repeat(9000)]
    {
        for result in ["n_strontium", "extent", "m_theory"] {
            let verdict = &verdicts(&practical, STRONTIUM, &[(result, text, "mmol")])[result];
            assert_ne!(verdict.stands, Stands::Right, "{text:.20} at {result}");
        }
    }
    let unit = &verdicts(&practical, STRONTIUM, &[("n_strontium", "5.558", "furlong^9")])["n_strontium"];
    assert!(matches!(unit.unit, UnitVerdict::Unknown { .. }));
    let many: Vec<(String, String)> = (1..10_000).map(|t| (format!("V_end[{t}]"), "21.42".to_owned())).collect();
    let taken: Vec<(&str, &str)> =
        many.iter().map(|(s, t)| (s.as_str(), t.as_str())).chain(VINEGAR.iter().copied()).collect();
    assert_eq!(of("vinegar", &taken, &[("c_vinegar", "0.8440", "mol/L")])["c_vinegar"].stands, Stands::Right);
}

/// What is kept of a number and a unit in one field: each in its own, the sign for "about" with the number.
#[test]
fn a_unit_typed_with_the_number_is_its_unit() {
    let parted = |text: &str, unit: &str| {
        let Answer { text, unit } = Answer { text: text.to_owned(), unit: unit.to_owned() }.parted();
        (text, unit)
    };
    for (text, unit, kept) in [
        ("0.202", "g", ("0.202", "g")),
        ("≈ 202 mg", "g", ("≈ 202", "mg")),
        ("2.02×10^-1 g", "", ("2.02×10^-1", "g")),
        ("0.202 stone", "g", ("0.202", "stone")),
        ("12 500", "mg", ("12 500", "mg")),
    ] {
        assert_eq!(parted(text, unit), (kept.0.to_owned(), kept.1.to_owned()), "{text}");
    }
}
