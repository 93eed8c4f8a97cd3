//! Values for each trial: calculated with one by one, folded to one, told when they do not go together.

use crate::bench::{Bench, instrument};
use measure::{Instrument, InstrumentKind};
use sheet::{Outcome, Repeats};

fn burette() -> Instrument {
    Instrument { resolution: 0.05, ..instrument("Burette C", InstrumentKind::Burette, "mL") }
}

/// Four titrations, the first one rough; the last has not been finished.
fn titrations() -> Bench {
    Bench::default().series("V_start", &["0.00", "0.10", "0.45", "1.00"], 1, &burette()).series(
        "V_end",
        &["24.90", "24.40", "24.65", ""],
        1,
        &burette(),
    )
}

fn shown(bench: &Bench, text: &str) -> Option<String> {
    let program = bench.program(text);
    program.evaluate(&bench.inputs).shown(&program.definitions().last().unwrap().name)
}

#[test]
fn a_titre_is_worked_out_for_each_trial_that_is_there() {
    let bench = titrations();
    let program = bench.program("titre = V_end - V_start");
    let Some(Outcome::Series(all)) = program.evaluate(&bench.inputs).outcome("titre") else { panic!("a series") };
    let values: Vec<String> = all
        .iter()
        .map(|o| match o {
            Outcome::Value(v) => format!("{:.2}", v.value * 1000.0),
            Outcome::NotYet { missing } => format!("not yet: {}", missing.join(" ")),
            other => panic!("{other:?}"),
        })
        .collect();
    assert_eq!(values, ["24.90", "24.30", "24.20", "not yet: V_end"]);
}

#[test]
fn the_rough_titre_is_kept_out_of_every_fold() {
    let bench = titrations();
    let fold = |f: &str| shown(&bench, &format!("titre = V_end - V_start\nresult = {f}")).unwrap();
    assert_eq!(fold("mean(titre)"), "24.25");
    assert_eq!(fold("range(titre)"), "0.10");
    assert_eq!(fold("sum(titre)"), "48.50");
    assert_eq!(fold("largest(titre)"), "24.30");
    assert_eq!(fold("smallest(titre)"), "24.20");
    // 24.30 − 24.20 is exactly the limit, whatever binary fractions make of it.
    assert_eq!(fold("concordant_mean(titre, 0.10 mL)"), "24.25");
    assert_eq!(fold("sd(titre)"), "0.071");
}

#[test]
fn what_does_not_agree_asks_for_another_titration() {
    let bench = titrations();
    let sheet = "titre = V_end - V_start\nV_mean = concordant_mean(titre, 0.05 mL)";
    assert_eq!(bench.failure(sheet), "no two values of 'V_mean' agree within the limit: another trial is needed");
    let two_pairs = Bench::default().series("V", &["21.30", "21.35", "21.60", "21.65"], 0, &burette());
    assert_eq!(
        two_pairs.failure("V_mean = concordant_mean(V, 0.10 mL)"),
        "several sets in 'V_mean' agree equally well: another trial is needed to tell which is right"
    );
    let one = Bench::default().series("V", &["21.30", "", ""], 0, &burette());
    let program = one.program("V_mean = concordant_mean(V, 0.10 mL)");
    let outcome = program.evaluate(&one.inputs).outcome("V_mean");
    assert_eq!(outcome, Some(Outcome::NotYet { missing: vec!["V".into()] }));
}

/// By hand: 0.5105 g and 0.4870 g of KHP (204.222 g/mol) with 25.70 mL and 24.50 mL are 0.09727 and 0.09733 mol/L.
#[test]
fn a_mass_for_each_trial_compares_concentrations() {
    let balance = instrument("Balance 1", InstrumentKind::Balance, "g");
    let bench = Bench::default()
        .series("m", &["0.5105", "0.4870"], 0, &balance)
        .series("V", &["25.70", "24.50"], 0, &burette())
        .material("khp", "KHC8H4O4");
    let sheet = "c = m / M(khp) / V\nc_mean = mean(c)";
    assert_eq!(shown(&bench, sheet).as_deref(), Some("0.09730"));
    let program = bench.program(sheet);
    let lines = program.evaluate(&bench.inputs).worked("c_mean");
    let written: Vec<String> = lines
        .iter()
        .map(|l| {
            let numbers: Vec<&str> = l.numbers.iter().map(|t| t.text.as_str()).collect();
            format!("{} = {} = {}", l.name, numbers.join(" "), l.result.clone().unwrap())
        })
        .collect();
    assert_eq!(
        written,
        [
            "c[1] = 0.5105 g ÷ 204.222 g/mol ÷ 25.70 mL = 0.09727",
            "c[2] = 0.4870 g ÷ 204.222 g/mol ÷ 24.50 mL = 0.09733",
            "c_mean = mean of ( 0.09727 mol/L , 0.09733 mol/L ) = 0.09730",
        ]
    );
}

#[test]
fn axes_that_do_not_go_together_are_told() {
    let mut bench = titrations();
    let crops = Repeats { axis: "crop".into(), most: 2, rough: 0 };
    let balance = instrument("Balance 1", InstrumentKind::Balance, "g");
    bench = bench.series("V_crop", &["1.0", "2.0"], 0, &burette());
    bench.vocabulary.readings.last_mut().unwrap().repeats = Some(crops);
    bench = bench.read("m", "1.00", &balance);
    let told = |text: &str| bench.try_program(text).unwrap_err();
    assert_eq!(
        told("x = V_end + V_crop"),
        "a value for each trial and a value for each crop do not go together; fold one with mean(…) or sum(…) \
         (line 1, character 11, in the definition of 'x')"
    );
    assert_eq!(
        told("x = mean(m)"),
        "mean folds a value for each trial; this is one value (line 1, character 5, in the definition of 'x')"
    );
    assert_eq!(
        told("x = concordant_mean(V_end, 0.10 g)"),
        "concordant_mean takes a value for each trial and the limit, in its unit \
         (line 1, character 28, in the definition of 'x')"
    );
    assert!(bench.try_program("x = mean(V_end) / 1 mL * mean(V_crop)").is_ok());
}

/// 0.1000 mol/L of an acid with pKa 4.756 has pH 2.88 (by hand from the quadratic); half a unit of pKa moves it by about
/// a quarter, ten times the concentration by about minus a half.
#[test]
fn a_solver_has_a_derivative_of_its_own() {
    let bench = Bench::default().known("c", "0.1000", "mol/L", &[]).known("pKa", "4.756", "1", &[]);
    let program = bench.program("pH = acid_pH(c, pKa)");
    let evaluation = program.evaluate(&bench.inputs);
    assert!(matches!(evaluation.outcome("pH"), Some(Outcome::Value(v)) if format!("{:.3}", v.value) == "2.881"));
    let slopes = evaluation.sensitivities("pH");
    assert!((slopes["pKa"] - 0.5).abs() < 0.01, "{slopes:?}");
    // d(pH)/dc = −1/(2 ln 10 c), nearly.
    assert!((slopes["c"] + 1.0 / (2.0 * std::f64::consts::LN_10 * 0.1)).abs() < 0.05, "{slopes:?}");
    let base = bench.program("pH = base_pH(c, pKa)");
    assert!(matches!(base.evaluate(&bench.inputs).outcome("pH"), Some(Outcome::Value(v)) if v.value > 8.0));
    assert!(
        bench.try_program("pH = acid_pH(pKa, c)").unwrap_err().starts_with("acid_pH takes an amount concentration")
    );
}
