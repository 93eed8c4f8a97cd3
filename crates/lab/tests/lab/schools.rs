//! What a school chose reaches the sums, the findings and the judgement on answers, and a practical may choose otherwise.

use crate::bench::Bench;
use lab::check::{DigitsVerdict, ValueVerdict, WrittenBy};
use lab::evaluated::{Evaluated, ResultState};
use lab::judge::{Finding, Matter, Standing};
use measure::rounding::{Ties, WholeNumbers};
use measure::{Instrument, Tolerances};
use practical::{BuretteReading, Dry, Practical, ResultDigits, School, TitresAgree};

/// Two weighings and their mean, asked for; with what the practical chooses otherwise.
fn two_weighings(own: &str) -> String {
    let reading = |symbol: &str| {
        format!(
            "[[readings]]\nsymbol = \"{symbol}\"\nlabel = \"{symbol}\"\nshort = \"{symbol}\"\nunit = \"g\"\n\
             instrument = \"Balance\"\ndecimals = 2\nrange = [0, 500]\nexpected = \"1.12\"\n"
        )
    };
    format!(
        "format = \"1.1\"\nid = \"m\"\ntitle = \"m\"\nkind = \"\"\nfinds = \"\"\nlevel = \"\"\nvisits = 1\n\
         sheet = \"mean_mass = (m_1 + m_2) / 2\"\n{own}\n\
         [[instruments]]\nname = \"Balance\"\nkind = \"balance\"\nunit = \"g\"\nresolution = 0.01\ntolerance = 0.01\n\
         repeatability = 0.01\ncapacity = 500\n{}{}\
         [[steps]]\ntitle = \"all\"\ntext = \"all\"\nrecords = [\"m_1\", \"m_2\"]\nanswers = [\"mean_mass\"]\n\
         [[results]]\nname = \"mean_mass\"\nlabel = \"mean\"\nunit = \"g\"\nunits = [\"g\"]\ntolerance = \"0.01 g\"\nasked = true\n",
        reading("m_1"),
        reading("m_2"),
    )
}

fn weighed(own: &str, school: &School, m_1: &str, m_2: &str) -> Bench {
    Bench::in_school(&two_weighings(own), school).read("m_1", m_1).read("m_2", m_2)
}

fn shown(bench: &Bench, result: &str) -> String {
    let outcome = bench.outcome();
    match &outcome.results.iter().find(|r| r.name == result).unwrap().state {
        ResultState::Value(v) => v.text.clone(),
        other => format!("{other:?}"),
    }
}

fn digits(bench: Bench, text: &str) -> DigitsVerdict {
    let verdict = bench.answer("mean_mass", text, "g").outcome().verdicts.remove("mean_mass").unwrap();
    assert_eq!(verdict.value, ValueVerdict::Right, "{text}");
    verdict.digits
}

fn library(id: &str, school: &School) -> Bench {
    let file = format!("{}/../../practicals/{id}.practical.toml", env!("CARGO_MANIFEST_DIR"));
    Bench::in_school(&std::fs::read_to_string(file).unwrap(), school)
}

/// The mean of 1.12 and 1.13 is 1.125: 1.13 where fives go up, 1.12 where they go to the even digit. Either is right, and
/// what the school writes otherwise is told; where nothing is halfway, nothing is said of it.
#[test]
fn a_five_goes_as_the_school_rounds_and_the_other_way_is_right_with_a_word() {
    let even = School { fives: Ties::HalfEven, ..School::default() };
    let tie = |school: &School| weighed("", school, "1.12", "1.13");
    assert_eq!(
        (shown(&tie(&School::default()), "mean_mass"), shown(&tie(&even), "mean_mass")),
        ("1.13".into(), "1.12".into())
    );
    let other = |here: &str| DigitsVerdict::ByAnotherSchool { rule: WrittenBy::Fives, here: here.into() };
    assert_eq!(digits(tie(&School::default()), "1.13"), DigitsVerdict::Right);
    assert_eq!(digits(tie(&School::default()), "1.12"), other("1.13"));
    assert_eq!(digits(tie(&even), "1.13"), other("1.12"));
    assert_eq!(digits(tie(&even), "1.12"), DigitsVerdict::Right);
    assert_eq!(digits(weighed("", &even, "1.12", "1.14"), "1.13"), DigitsVerdict::Right);
    // A practical that rounds up in a school that rounds to even.
    let own = "school = { fives = \"half-up\" }";
    assert_eq!(shown(&weighed(own, &even, "1.12", "1.13"), "mean_mass"), "1.13");
}

/// u of the mean: each reading √(0.01²/12 + 0.01²/3 + 0.01²) = 0.0119, of the mean 0.0084; U = 0.017, whose first figure is
/// 1: to the third decimal. 1.125 is right there; by figures it is the guard digit.
#[test]
fn a_result_is_written_to_its_uncertainty_where_the_school_says_so() {
    let by_u = School { digits: ResultDigits::Uncertainty, ..School::default() };
    assert_eq!(shown(&weighed("", &by_u, "1.12", "1.13"), "mean_mass"), "1.125");
    assert_eq!(digits(weighed("", &by_u, "1.12", "1.13"), "1.125"), DigitsVerdict::Right);
    let other = DigitsVerdict::ByAnotherSchool { rule: WrittenBy::Digits, here: "1.125".into() };
    assert_eq!(digits(weighed("", &by_u, "1.12", "1.13"), "1.13"), other);
    // Two too many are too many in both.
    let many = DigitsVerdict::TooMany { typed: 6, wanted: 4 };
    assert_eq!(digits(weighed("", &by_u, "1.12", "1.13"), "1.12500"), many);
    // A practical's own rule stands above the school's.
    let text = two_weighings("").replace("tolerance = \"0.01 g\"", "tolerance = \"0.01 g\"\ndigits = \"as-fewest\"");
    let bench = Bench::in_school(&text, &by_u).read("m_1", "1.12").read("m_2", "1.13");
    assert_eq!(shown(&bench, "mean_mass"), "1.13");
}

/// 100 for a mean of 100.00: nobody can tell; three figures; one.
#[test]
fn zeros_at_the_end_of_a_whole_number_are_read_as_the_school_reads_them() {
    let of = |whole_numbers| {
        let school = School { whole_numbers, ..School::default() };
        let bench = weighed("", &school, "99.99", "100.01").answer("mean_mass", "100", "g");
        bench.outcome().verdicts.remove("mean_mass").unwrap().digits
    };
    assert_eq!(of(WholeNumbers::Ambiguous), DigitsVerdict::TooFew { typed: 3, wanted: 5 });
    assert_eq!(of(WholeNumbers::PlaceHolders), DigitsVerdict::TooFew { typed: 1, wanted: 5 });
    let three = |whole_numbers| {
        let school = School { whole_numbers, ..School::default() };
        let text =
            two_weighings("").replace("tolerance = \"0.01 g\"", "tolerance = \"0.01 g\"\ndigits = { exactly = 3 }");
        let bench = Bench::in_school(&text, &school).read("m_1", "99.99").read("m_2", "100.01");
        bench.answer("mean_mass", "100", "g").outcome().verdicts.remove("mean_mass").unwrap().digits
    };
    assert_eq!(three(WholeNumbers::Ambiguous), DigitsVerdict::Ambiguous { least: 1, most: 3 });
    assert_eq!(three(WholeNumbers::Counted), DigitsVerdict::Right);
    assert_eq!(three(WholeNumbers::PlaceHolders), DigitsVerdict::TooFew { typed: 1, wanted: 3 });
}

/// 24.33 between two halves of a division; 24.35 on one; a balance has no halves; and a digit short is one in both.
#[test]
fn a_burette_is_read_as_the_school_reads_it() {
    let half = School { burettes: BuretteReading::Half, ..School::default() };
    let found = |school: &School, text: &str| {
        let bench = library("vinegar", school).read("V_start[1]", "0.00").read("V_end[1]", text);
        bench.outcome().findings.remove("V_end[1]").unwrap_or_default()
    };
    let between = [Finding::BetweenHalves { low: "17.30".into(), high: "17.35".into() }];
    assert_eq!(found(&half, "17.33"), between);
    assert_eq!((found(&half, "17.35"), found(&School::default(), "17.33")), (vec![], vec![]));
    let short = [Finding::Decimals { expected: 2, typed: 1 }];
    assert_eq!((found(&half, "17.3"), found(&School::default(), "17.3")), (short.to_vec(), short.to_vec()));
    // 25 mL have divisions of 0.05 mL or of 0.1 mL: the step of the instrument says which, or nothing is said.
    let small = |step: f64| {
        let titration = library("vinegar", &half);
        let on = &titration.practical.reading("V_end").unwrap().instrument;
        half.burette_step(&Instrument { capacity: 25.0, resolution: step, ..on.clone() })
    };
    assert_eq!((small(0.05), small(0.025), small(0.01)), (Some(0.05), Some(0.025), None));
    let balance = library("epsom-salt", &half).read("m_dish", "48.13").outcome();
    assert_eq!(balance.findings.get("m_dish"), None);
}

/// Triangular, a tolerance counts less: 0.02 mL on a pipette is 0.0082 mL instead of 0.0115 mL.
#[test]
fn a_tolerance_lies_as_the_school_takes_it() {
    let u = |tolerances| {
        let school = School { tolerances, ..School::default() };
        let bench = weighed("", &school, "1.12", "1.13");
        let evaluated = Evaluated::of(&bench.practical, &bench.entries);
        match &evaluated.outcome().results[0].state {
            ResultState::Value(v) => format!("{:.4}", v.uncertainty / 2.0),
            other => panic!("{other:?}"),
        }
    };
    // √(0.01²/12 + 0.01²/6 + 0.01²)/√2 = 0.00791.
    assert_eq!((u(Tolerances::Rectangular).as_str(), u(Tolerances::Triangular).as_str()), ("0.0084", "0.0079"));
}

/// Weighed once after its time is dry where the school says so; what gets heavier is told in both.
#[test]
fn dry_is_as_the_school_says() {
    let timed = School { dry: Dry::FixedTime, ..School::default() };
    let said = |school: &School, masses: &[&str]| {
        let mut bench = library("gypsum-water", school);
        for (i, mass) in masses.iter().enumerate() {
            bench = bench.read(&format!("m_heated[{}]", i + 1), mass);
        }
        let dry = bench.advice().into_iter().filter(|a| {
            matches!(a.matter, Matter::DriedForItsTime | Matter::OnceAgain { .. } | Matter::HeavierAfterHeating { .. })
        });
        dry.map(|a| (a.standing, matches!(a.matter, Matter::DriedForItsTime))).collect::<Vec<_>>()
    };
    assert_eq!(said(&timed, &["33.081"]), [(Standing::Settled, true)]);
    assert_eq!(said(&School::default(), &["33.081"]), [(Standing::Waiting, false)]);
    assert_eq!(said(&timed, &["33.081", "33.141"]), [(Standing::Doubtful, false)]);
}

/// Antacid says no limit, so the school's rule counts: of three, a wild one is marked and another asked for; of four it is
/// set aside, and the mean leaves it out. Titres that scatter as they do are all counted.
#[test]
fn titres_agree_by_the_rule_of_the_school() {
    let tested = School { agreement: TitresAgree::OutlierTest, ..School::default() };
    let of = |masses_and_titres: &[(&str, &str)]| {
        let mut bench = library("hydrochloric-acid-standard", &tested);
        for (i, (mass, end)) in masses_and_titres.iter().enumerate() {
            let t = i + 1;
            let before: f64 = 10.0 + mass.parse::<f64>().unwrap();
            bench = bench
                .read(&format!("m_before[{t}]"), &format!("{before:.3}"))
                .read(&format!("m_after[{t}]"), "10.000")
                .read(&format!("V_start[{t}]"), "0.00")
                .read(&format!("V_end[{t}]"), end);
        }
        bench
            .advice()
            .into_iter()
            .filter_map(|a| match a.matter {
                Matter::TrialsCount { trials, set_aside, .. } | Matter::OutlierTestWaits { trials, set_aside, .. } => {
                    Some((a.standing, trials, set_aside))
                }
                _ => None,
            })
            .collect::<Vec<_>>()
    };
    let m = "0.130";
    let rough = (m, "24.60");
    assert_eq!(of(&[rough, (m, "24.50"), (m, "24.55")]), [(Standing::Waiting, 2, None)]);
    assert_eq!(of(&[rough, (m, "24.50"), (m, "24.55"), (m, "24.45")]), [(Standing::Settled, 3, None)]);
    assert_eq!(of(&[rough, (m, "24.50"), (m, "24.50"), (m, "25.90")]), [(Standing::Waiting, 3, Some(4))]);
    assert_eq!(of(&[rough, (m, "24.50"), (m, "24.55"), (m, "24.50"), (m, "26.90")]), [(Standing::Settled, 3, Some(5))]);
}

/// A limit that nobody would call one, and an element that is none, are refused with their reason.
#[test]
fn choices_that_nobody_could_work_by_are_told() {
    let wrong = |text: &str| serde_json::from_str::<School>(text).map(|s| s.sound().err().map(|e| e.to_string()));
    assert!(wrong(r#"{"agreement":{"within":"0.10 mL"}}"#).unwrap().is_none());
    for (text, told) in [
        (r#"{"agreement":{"within":"5 mL"}}"#, "up to 2 mL"),
        (r#"{"agreement":{"within":"0.1 g"}}"#, "up to 2 mL"),
        (r#"{"agreement":{"rsd":"-1 %"}}"#, "up to 2 mL"),
        (r#"{"atomic_masses":{"own":{"Xx":5}}}"#, "Xx"),
        (r#"{"atomic_masses":{"own":{"H":-1}}}"#, "between 0.5 and 500"),
    ] {
        let found = wrong(text).unwrap().unwrap_or_default();
        assert!(found.contains(told), "{text}: {found}");
    }
    assert!(wrong(r#"{"fives":"sideways"}"#).is_err());
    let own =
        Practical::parse(&two_weighings("school = { agreement = { within = \"5 mL\" } }")).unwrap_err().to_string();
    assert!(own.contains("up to 2 mL"), "{own}");
}
