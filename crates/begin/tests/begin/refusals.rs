//! What cannot be begun is told at its field, and nothing comes of it; whatever is typed stays a text in the file.

use super::{begun, practical};
use begin::{Aim, Asked, Field as F, Why, begin};
use measure::Instrument;
use practical::{Practical, kit};
use std::collections::BTreeMap;
use strum::IntoEnumIterator;

/// The problem that is told at the one field that has one.
fn problem(aim: Aim, said: &[(F, &str)]) -> (F, String) {
    let begun = begun(aim, said);
    assert_eq!(begun.text, None, "{aim:?}: {said:?}");
    let mut told = begun.asked.into_iter().filter_map(|a| Some((a.field, a.problem?)));
    let first = told.next().unwrap_or_else(|| panic!("{aim:?}: {said:?}: nothing is told"));
    assert_eq!(told.next(), None, "one at a time");
    first
}

#[test]
fn what_is_wrong_is_told_at_its_field() {
    const SODA: (F, &str) = (F::Equation, "Na2CO3 + HCl -> NaCl + H2O + CO2");
    const VINEGAR: (F, &str) = (F::Equation, "CH3COOH + NaOH -> CH3COONa + H2O");
    type Case<'a> = (Aim, &'a [(F, &'a str)], F, &'a str);
    let cases: &[Case<'_>] = &[
        (Aim::TitrantByMass, &[(F::Equation, "Na2CO3 + HCl -> NaCl + H2O")], F::Equation, "it cannot balance"),
        (Aim::TitrantByMass, &[(F::Equation, "Na2CO3 HCl")], F::Equation, "arrow"),
        (Aim::TitrantByMass, &[(F::Equation, "Xx + HCl -> XxCl")], F::Equation, "Xx"),
        (Aim::TitrantByMass, &[SODA, (F::Titre, "60 mL")], F::Titre, "the burette holds 50 mL"),
        (Aim::TitrantByMass, &[SODA, (F::Titre, "1 mL")], F::Titre, "too little to read"),
        (Aim::TitrantByMass, &[SODA, (F::Mass, "0.5 g")], F::Mass, "that takes 94.4 mL"),
        (Aim::TitrantByMass, &[SODA, (F::Burette, "the long one")], F::Burette, "'the long one' is none of these"),
        (Aim::TitrantByMass, &[SODA, (F::TitrantStrength, "0.1")], F::TitrantStrength, "'0.1'"),
        (Aim::TitrantByMass, &[SODA, (F::Trials, "twelve")], F::Trials, "a whole number from 2 to 6"),
        (
            Aim::SampleByTitration,
            &[VINEGAR, (F::SampleStrength, "0.8 mol/L"), (F::Dilution, "undiluted")],
            F::Dilution,
            "that takes 200 mL",
        ),
        (
            Aim::SampleByTitration,
            &[VINEGAR, (F::SampleStrength, "0.1 mol/L"), (F::Blank, "perhaps")],
            F::Blank,
            "neither yes nor no",
        ),
        (
            Aim::BackTitration,
            &[(F::Equation, "CaCO3 + HCl -> CaCl2 + H2O + CO2"), (F::OtherEquation, "KOH + HNO3 -> KNO3 + H2O")],
            F::OtherEquation,
            "has to react in both equations",
        ),
        (Aim::YieldOfSalt, &[(F::Equation, "Zz9 + H2SO4 -> ZnSO4")], F::Equation, "Z"),
        (
            Aim::YieldOfOrganicLiquid,
            &[(F::Equation, "C5H12O + C2H4O2 -> C7H14O2 + H2O"), (F::LimitingAs, "liquid")],
            F::LimitingAs,
            "the density of C5H12O is not known",
        ),
        (
            Aim::YieldOfSalt,
            &[(F::Equation, "CuO + H2SO4 + H2O -> CuSO4·5H2O"), (F::LimitingAs, "a pinch")],
            F::LimitingAs,
            "'a pinch': write solid, liquid",
        ),
        (
            Aim::SimplestFormula,
            &[(F::Equation, "HCl + NaOH -> NaCl + H2O"), (F::Element, "Na")],
            F::Equation,
            "stands alone",
        ),
        (Aim::WatersOfCrystallisation, &[(F::Hydrate, "NaCl")], F::Hydrate, "no water of crystallisation"),
        (
            Aim::PartByResidue,
            &[(F::Substance, "salt"), (F::Other, "sand"), (F::Part, "140 %")],
            F::Part,
            "100 % at most",
        ),
        (
            Aim::TitrantByMass,
            &[(F::Equation, "TcO2 + HCl -> TcCl4 + H2O")],
            F::Equation,
            "without a standard atomic mass",
        ),
        (
            Aim::TitrantByMass,
            &[(F::Equation, "MnO4^- + C2O4^2- + H^+ -> Mn^2+ + CO2 + H2O"), (F::Standard, "MnO4^-")],
            F::Standard,
            "is none of these",
        ),
        (Aim::Solution, &[(F::Substance, "moon dust")], F::Substance, "the library has no 'moon dust'"),
        (Aim::DilutionSeries, &[(F::Substance, "NaCl"), (F::Volumes, "5, many")], F::Volumes, "two to ten volumes"),
        (
            Aim::PartByPrecipitate,
            &[(F::Equation, "Ag^+ + Cl^- -> AgCl"), (F::OtherFrom, "sodium chloride")],
            F::OtherFrom,
            "there is no Ag^+ in NaCl",
        ),
        (
            Aim::WhichLimits,
            &[(F::Equation, "CaCl2 + Na2CO3 -> CaCO3 + NaCl"), (F::Excess, "5 %")],
            F::Excess,
            "nobody can tell",
        ),
        (
            Aim::WhichReaction,
            &[(F::Equation, "Cu + AgNO3 -> Cu(NO3)2 + Ag"), (F::OtherEquation, "Cu + 2 AgNO3 -> Cu(NO3)2 + 2 Ag")],
            F::OtherEquation,
            "the same reaction",
        ),
    ];
    for (aim, said, field, words) in cases {
        let (at, told) = problem(*aim, said);
        assert!(at == *field && told.contains(words), "{aim:?}, {said:?}: at {at:?}: {told}");
    }
}

/// Whatever is typed anywhere, it comes to an answer, and what becomes a file is one that is read.
#[test]
fn hostile_answers_stay_texts() {
    let hostile = [
        "\"\"\"\n[[steps]]\ntitle = \"mine\"",
        "{{ 7 * 7 }} {% for x in y %}",
        "\\\" = ]] # \u{0} \u{7f} \u{202e}",
        "1e308 mol/L",
        "-5 g",
        "0.0000000001 mL",
        "99999999999999999999999999 °C",
    ];
    for (aim, said) in super::cases::CASES {
        let fields: Vec<F> = begun(*aim, said).asked.iter().map(|a| a.field).collect();
        for (field, text) in fields.iter().flat_map(|f| hostile.iter().map(move |h| (*f, *h))) {
            let mut worse = said.to_vec();
            worse.push((field, text));
            let begun = begun(*aim, &worse);
            let Some(file) = begun.text else { continue };
            let read = Practical::parse(&file).unwrap_or_else(|e| panic!("{aim:?}, {field:?} = {text}: {e}\n{file}"));
            assert!(read.file.steps.iter().all(|s| s.title != "mine"));
        }
    }
}

fn asked(all: &[Asked], field: F) -> &Asked {
    all.iter().find(|a| a.field == field).unwrap()
}

/// Proposals follow what was typed and what stands in the room, and say why.
#[test]
fn what_is_proposed_says_why() {
    let by_hand = begun(Aim::TitrantByMass, &[(F::Equation, "Na2CO3 + HCl -> NaCl + H2O + CO2")]);
    // 25 mL of 0.1 mol/L are 2.5 mmol, half as much carbonate of 105.99 g/mol: 0.132 g.
    let mass = asked(&by_hand.asked, F::Mass);
    assert_eq!((mass.value.as_str(), &mass.why), ("0.13 g", &Some(Why::TakesATitre { titre: "25.0 mL".into() })));

    // 25 mL of 0.8 mol/L would take 200 mL of 0.1 mol/L: a tenth of it takes 20 mL.
    let vinegar = [(F::Equation, "CH3COOH + NaOH -> CH3COONa + H2O"), (F::SampleStrength, "0.8 mol/L")];
    let begun = begun(Aim::SampleByTitration, &vinegar);
    let dilution = asked(&begun.asked, F::Dilution);
    assert_eq!(
        (dilution.value.as_str(), &dilution.why),
        ("25 mL in 250 mL", &Some(Why::UndilutedTakes { titre: "200 mL".into() }))
    );

    // The equation was typed without coefficients; the file has it balanced.
    let practical = practical(Aim::TitrantByMass, &[(F::Equation, "Na2CO3 + HCl -> NaCl + H2O + CO2")]).unwrap();
    assert_eq!(practical.file.reactions[0].equation, "Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2");
}

/// Hazards belong to a form and a strength: glacial acid burns, and is not what is pipetted at 0.1 mol/L.
#[test]
fn hazards_are_those_of_what_is_taken() {
    let codes = |aim, said: &[(F, &str)], symbol: &str| -> Vec<String> {
        let practical = practical(aim, said).unwrap();
        let hazards = &practical.file.materials.iter().find(|m| m.symbol == symbol).unwrap().hazards;
        hazards.iter().map(|h| h.split(' ').next().unwrap().to_owned()).collect()
    };
    let ester = [(F::Equation, "CH3COOH + C2H5OH -> CH3COOC2H5 + H2O"), (F::Catalyst, "sulfuric acid")];
    assert_eq!(codes(Aim::YieldOfOrganicLiquid, &ester, "acid"), ["H226", "H314"]);
    assert_eq!(codes(Aim::YieldOfOrganicLiquid, &ester, "catalyst"), ["H290", "H314"]);
    let soda = [(F::Equation, "Na2CO3 + HCl -> NaCl + H2O + CO2")];
    assert_eq!(codes(Aim::TitrantByMass, &soda, "acid"), ["H290"]);
}

#[test]
fn the_glass_is_of_our_room_and_what_it_lacks_is_said() {
    let ours = Instrument { name: "Burette 7".into(), capacity: 25.0, ..kit()[3].clone() };
    let said = BTreeMap::from([(F::Equation, "Na2CO3 + HCl -> NaCl + H2O + CO2".to_owned())]);
    let begun = begin(Aim::TitrantByMass, &said, &[ours]);
    let burette = asked(&begun.asked, F::Burette);
    assert_eq!((burette.value.as_str(), &burette.why), ("Burette 7", &Some(Why::InOurRoom)));
    assert_eq!(asked(&begun.asked, F::Balance).why, Some(Why::NotInOurRoom));
    assert_eq!(asked(&begun.asked, F::Titre).value, "12.5 mL");
    assert!(begun.text.unwrap().contains("Burette 7"));
    assert!(Aim::iter().all(|aim| begin(aim, &BTreeMap::new(), &[]).text.is_none()), "nothing from nothing");
}

/// A species that is no bottle of its own asks what brings it: a salt of the ion that dissolves, a hydrate; not an acid, not the
/// precipitate itself.
#[test]
fn what_brings_a_species_is_asked_where_it_is_none_itself() {
    let suggested = |aim, said: &[(F, &str)], field| -> Vec<String> {
        let begun = begun(aim, said);
        match &asked(&begun.asked, field).takes {
            begin::Takes::Text { suggested } => suggested.clone(),
            other => panic!("{other:?}"),
        }
    };
    let silver = [(F::Equation, "Ag^+ + Cl^- -> AgCl")];
    assert_eq!(suggested(Aim::PartByPrecipitate, &silver, F::OtherFrom)[0], "silver nitrate");
    let strontium = [(F::Equation, "Sr^2+ + SO4^2- -> SrSO4")];
    assert_eq!(suggested(Aim::YieldOfPrecipitate, &strontium, F::OtherFrom)[0], "strontium chloride hexahydrate");
    let sulfates = suggested(Aim::YieldOfPrecipitate, &strontium, F::LimitingFrom);
    assert!(sulfates.contains(&"sodium sulfate".to_owned()), "{sulfates:?}");
    assert!(!sulfates.iter().any(|s| s.contains("acid") || s.contains("strontium")), "{sulfates:?}");
    let oxalic = [(F::Equation, "H2C2O4 + NaOH -> Na2C2O4 + H2O")];
    assert_eq!(suggested(Aim::TitrantByMass, &oxalic, F::StandardFrom), ["ethanedioic acid dihydrate"]);
    // What stands in the library as it is asks nothing.
    let soda = begun(Aim::TitrantByMass, &[(F::Equation, "Na2CO3 + HCl -> NaCl + H2O + CO2")]);
    assert!(soda.asked.iter().all(|a| a.field != F::StandardFrom && a.field != F::TitrantFrom));
}

/// The hydrate that is weighed counts: 126.07 g/mol of ethanedioic acid dihydrate, not 90.03. 25 mL of 0.1 mol/L base take
/// 1.25 mmol of it, 0.158 g.
#[test]
fn a_hydrate_is_weighed_as_what_it_is() {
    let begun = begun(Aim::TitrantByMass, &[(F::Equation, "H2C2O4 + NaOH -> Na2C2O4 + H2O")]);
    assert_eq!(asked(&begun.asked, F::Mass).value, "0.16 g");
    let practical = Practical::parse(&begun.text.unwrap()).unwrap();
    let standard = practical.file.materials.iter().find(|m| m.formula.as_deref() == Some("H2C2O4·2H2O")).unwrap();
    assert_eq!(standard.supplies.as_deref(), Some("H2C2O4"));
}
