//! A formula as a value of the sheet: found from amounts, ranked with its rivals, and fed into what comes after.
//!
//! Molar masses by hand from the abridged table: Cu 63.546, Cl 35.45, CuSO₄ 159.602, H₂O 18.015 g/mol.

use crate::bench::{Bench, instrument};
use measure::{Instrument, InstrumentKind};
use sheet::{Outcome, Substitute, monte_carlo};

/// Copper and chlorine weighed to `resolution`: 0.0200 and 0.0400 mol of atoms.
fn copper_chloride(resolution: f64) -> Bench {
    let balance = Instrument { resolution, ..instrument("Balance 1", InstrumentKind::Balance, "g") };
    Bench::default()
        .read("m_Cu", "1.271", &balance)
        .read("m_Cl", "1.418", &balance)
        .read("m_sample", "2.689", &balance)
        .material("Cu", "Cu")
        .material("Cl", "Cl")
}

const SALT: &str = "n_Cu = m_Cu / M(Cu)\nn_Cl = m_Cl / M(Cl)\nsalt = formula(Cu, n_Cu, Cl, n_Cl)";

fn rest_of_the_sheet() -> String {
    format!("{SALT}\nn = m_sample / M(salt)")
}

#[test]
fn the_formula_found_weighs_what_it_weighs_further_on() {
    let bench = copper_chloride(0.001);
    let program = bench.program(&rest_of_the_sheet());
    let evaluation = program.evaluate(&bench.inputs);
    assert_eq!(evaluation.shown("salt").as_deref(), Some("CuCl2"));
    let Some(Outcome::Value(n)) = evaluation.outcome("n") else { panic!("no amount") };
    let expected = 2.689 / (63.546 + 2.0 * 35.45);
    assert!((n.value / expected - 1.0).abs() < 1e-12, "{} is not {expected}", n.value);
    // A little more copper does not change which formula it is: only the sample's mass moves n.
    let moved: Vec<String> = evaluation.sensitivities("n").into_keys().collect();
    assert_eq!(moved, ["m_sample"]);
    let lines = evaluation.worked("n");
    let text = |tokens: &[sheet::Token]| tokens.iter().map(|t| t.text.as_str()).collect::<Vec<_>>().join(" ");
    assert_eq!(lines.iter().map(|l| l.name.as_str()).collect::<Vec<_>>(), ["n_Cu", "n_Cl", "salt", "n"]);
    assert_eq!(text(&lines[2].symbols), "whole numbers for ( n_Cu : n_Cl )");
    assert_eq!(text(&lines[2].numbers), "whole numbers for ( 20.00 mmol : 40.00 mmol )");
    assert_eq!((lines[2].result.as_deref(), lines[2].unit.as_str()), (Some("CuCl2"), "1"));
    assert_eq!(text(&lines[3].numbers), "2.689 g ÷ 134.446 g/mol");
}

/// An error carried forward: with CuCl put in, everything after it is right for CuCl.
#[test]
fn a_students_own_formula_feeds_what_comes_after() {
    let mut bench = copper_chloride(0.001);
    let own = chem::Formula::parse("CuCl").unwrap();
    let substitute = Substitute::formula(&own, &bench.vocabulary.masses).unwrap();
    bench.inputs.substituted.insert("salt".into(), substitute);
    let n = bench.value(&rest_of_the_sheet());
    let expected = 2.689 / (63.546 + 35.45);
    assert!((n.value / expected - 1.0).abs() < 1e-12, "{} is not {expected}", n.value);
    // What the readings say is still known beside it.
    let program = bench.program(SALT);
    let evaluation = program.evaluate(&bench.inputs);
    let found = evaluation.candidates("salt").unwrap();
    assert_eq!(found.simplest().map(|c| found.written(c)).as_deref(), Some("CuCl2"));
}

#[test]
fn a_coarse_balance_leaves_rivals_and_the_simplest_is_taken() {
    let bench = copper_chloride(1.2);
    let program = bench.program(SALT);
    let evaluation = program.evaluate(&bench.inputs);
    let found = evaluation.candidates("salt").unwrap();
    let written: Vec<String> = found.consistent.iter().map(|c| found.written(c)).collect();
    assert_eq!(written[0], "CuCl2", "the best fit stands first");
    assert!(written.contains(&"CuCl".to_owned()) && written.contains(&"Cu2Cl3".to_owned()), "{written:?}");
    assert!(found.consistent.windows(2).all(|w| w[0].chi_squared <= w[1].chi_squared));
    assert_eq!(evaluation.shown("salt").as_deref(), Some("CuCl"));
}

#[test]
fn water_of_crystallisation_is_counted_in_whole_molecules() {
    let balance = Instrument { resolution: 0.001, ..instrument("Balance 1", InstrumentKind::Balance, "g") };
    // 0.0100 mol of CuSO4 in a crucible of 20.000 g, and 0.0500 mol of water that left it.
    let bench = Bench::default()
        .read("m_empty", "20.000", &balance)
        .read("m_before", "22.497", &balance)
        .read("m_after", "21.596", &balance)
        .material("anhydrous", "CuSO4")
        .material("water", "H2O");
    let sheet = "n_salt = (m_after - m_empty) / M(anhydrous)\nn_water = (m_before - m_after) / M(water)\n\
                 hydrate = formula(anhydrous, n_salt, water, n_water, 12)";
    let program = bench.program(sheet);
    let evaluation = program.evaluate(&bench.inputs);
    assert_eq!(evaluation.shown("hydrate").as_deref(), Some("CuSO4·5H2O"));
    let Some(Outcome::Value(mass)) = evaluation.outcome("hydrate") else { panic!("no molar mass") };
    assert!((mass.value - (159.602 + 5.0 * 18.015)).abs() < 1e-9, "{}", mass.value);
    // Up to four molecules, none fits.
    let failure = bench.failure(&sheet.replace("12", "4"));
    assert_eq!(failure, "no formula fits the amounts in 'hydrate' within their uncertainty");
}

#[test]
fn a_missing_weighing_is_not_yet_and_an_exchange_of_two_is_told() {
    let mut bench = copper_chloride(0.001);
    let program = bench.program(&rest_of_the_sheet());
    bench.inputs.readings.remove("m_Cl");
    let not_yet = program.evaluate(&bench.inputs).outcome("n");
    assert_eq!(not_yet, Some(Outcome::NotYet { missing: vec!["m_Cl".into()] }));
    let bench = copper_chloride(0.001);
    let failure = bench.failure(&format!("{SALT}\nless = n_Cu - n_Cl\nn = formula(Cu, less, Cl, n_Cl)"));
    assert_eq!(failure, "no formula fits the amounts in 'n' within their uncertainty");
}

#[test]
fn samples_are_given_the_formula_that_all_data_decided() {
    let bench = copper_chloride(0.001);
    let program = bench.program(&rest_of_the_sheet());
    let first_order = bench.value(&rest_of_the_sheet()).standard_uncertainty;
    let drawn = monte_carlo(&program, &bench.inputs, "n", 4000, 7).unwrap();
    assert_eq!(drawn.failed, 0);
    let ratio = drawn.standard_deviation() / first_order;
    assert!((ratio - 1.0).abs() < 0.05, "{ratio}");
}

#[test]
fn a_formula_is_no_number_and_its_parts_are_materials_with_amounts() {
    let bench = copper_chloride(0.001);
    let told = |line: &str| bench.try_program(&format!("{SALT}\n{line}")).unwrap_err();
    assert!(told("x = salt * 2").starts_with("'salt' is a formula, not a number; its molar mass is M(salt)"));
    assert!(told("x = m_sample / M(sald)").starts_with("the practical has no material 'sald'"));
    assert!(told("x = formula(Cu, n_Cu, Cl, m_Cl)").starts_with("formula takes two to six materials"));
    assert!(told("x = formula(Cu, n_Cu)").starts_with("formula takes two to six materials"));
    assert!(told("x = formula(Cu, n_Cu, Cl, n_Cl, 40)").starts_with("formula takes two to six materials"));
    let many: Vec<String> = (0..20).map(|i| format!("x{i} = formula(Cu, n_Cu, Cl, n_Cl)")).collect();
    assert!(told(&many.join("\n")).starts_with("a sheet has at most 20 formulas to be found"));
    assert!(told("x = formula(Cu, n_Cu, Br, n_Cl)").starts_with("the practical has no material 'Br'"));
}
