//! Whether repeats agree, told at the bench: each verdict with a near twin where it must not be given.

use lab::group::{Entries, recompute};
use lab::judge::Doneness;
use lab::practical::Practical;

const VINEGAR: &str = include_str!("../../../../practicals/vinegar.practical.toml");
const GYPSUM: &str = include_str!("../../../../practicals/gypsum-water.practical.toml");
const SODIUM: &str = include_str!("../../../../practicals/sodium-hydroxide-standard.practical.toml");

/// What is said of the readings entered, `V_end[2]` and its like.
fn said(text: &str, readings: &[(&str, &str)]) -> Vec<Doneness> {
    let entered = readings.iter().map(|(s, t)| ((*s).to_owned(), (*t).to_owned())).collect();
    recompute(&Practical::parse(text).unwrap(), &Entries { readings: entered, ..Entries::default() }).doneness
}

/// Titres of the vinegar from 0.10 mL on, the first one rough.
fn titres(ends: &[&str]) -> Vec<Doneness> {
    let slots: Vec<(String, String)> = ends
        .iter()
        .enumerate()
        .flat_map(|(i, end)| {
            [(format!("V_start[{}]", i + 1), "0.10".to_owned()), (format!("V_end[{}]", i + 1), (*end).to_owned())]
        })
        .collect();
    let slots: Vec<(&str, &str)> = slots.iter().map(|(s, t)| (s.as_str(), t.as_str())).collect();
    said(VINEGAR, &slots)
}

fn agree(trials: &[u32], range: &str) -> Vec<Doneness> {
    vec![Doneness::TitresAgree { step: 2, trials: trials.to_vec(), range: range.into(), limit: "0.10 mL".into() }]
}

fn one_more(closest: Option<&str>) -> Vec<Doneness> {
    vec![Doneness::OneMore { step: 2, closest: closest.map(str::to_owned), limit: "0.10 mL".into() }]
}

/// 21.15 − 0.10 and 21.05 − 0.10 are 0.10 mL apart, exactly the limit; 0.15 mL are too much.
#[test]
fn titres_agree_at_the_limit_and_not_beyond_it() {
    assert_eq!(titres(&["21.60", "21.15", "21.05"]), agree(&[2, 3], "0.10 mL"));
    assert_eq!(titres(&["21.60", "21.20", "21.05"]), one_more(Some("0.15 mL")));
    // The rough one agrees with the second, and does not count.
    assert_eq!(titres(&["21.20", "21.20"]), one_more(None));
    // The fourth decides; what does not agree is left out.
    assert_eq!(titres(&["21.60", "21.20", "21.05", "21.10"]), agree(&[3, 4], "0.05 mL"));
}

#[test]
fn nothing_is_said_before_both_readings_are_there() {
    assert_eq!(titres(&[]), []);
    assert_eq!(said(VINEGAR, &[("V_start[2]", "0.10"), ("V_start[3]", "0.10"), ("V_end[3]", "21.10")]), one_more(None));
    assert_eq!(said(VINEGAR, &[("V_end[2]", "21.10"), ("V_end[3]", "21.10")]), []);
    // Of a weighed standard each trial has its own mass: titres need not agree, concentrations do.
    assert_eq!(
        said(SODIUM, &[("V_start[2]", "0.10"), ("V_end[2]", "25.10"), ("V_start[3]", "0.10"), ("V_end[3]", "22.10")]),
        []
    );
}

/// Within 0.003 g the crucible is dry; the last two count, not the nearest two.
#[test]
fn a_mass_is_constant_when_the_last_two_agree() {
    let heated = |masses: &[&str]| {
        let slots: Vec<(String, &str)> =
            masses.iter().enumerate().map(|(i, m)| (format!("m_heated[{}]", i + 1), *m)).collect();
        let slots: Vec<(&str, &str)> = slots.iter().map(|(s, t)| (s.as_str(), *t)).collect();
        said(GYPSUM, &slots)
    };
    let again = |difference: Option<&str>| {
        vec![Doneness::OnceAgain { step: 2, difference: difference.map(str::to_owned), within: "0.003 g".into() }]
    };
    let constant = |difference: &str| {
        vec![Doneness::ConstantMass { step: 2, difference: difference.into(), within: "0.003 g".into() }]
    };
    assert_eq!(heated(&[]), []);
    assert_eq!(heated(&["33.081"]), again(None));
    assert_eq!(heated(&["33.141", "33.081"]), again(Some("0.060 g")));
    assert_eq!(heated(&["33.141", "33.084", "33.081"]), constant("0.003 g"));
    // Regained moisture is no agreement either.
    assert_eq!(heated(&["33.081", "33.085"]), again(Some("0.004 g")));
    assert_eq!(heated(&["33.081", "33.081", "33.090"]), again(Some("0.009 g")));
}
