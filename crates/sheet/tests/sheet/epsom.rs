//! The sheet of a salt preparation, worked by hand: every pass over one program, and what it refuses.

use chem::{Formula, MassTable};
use measure::{Decimal, Instrument, InstrumentKind, Source, Unit};
use sheet::{
    Draft, Failure, Given, Inputs, Material, Outcome, Precision, Program, Quantity, ReadingName, SheetError,
    Substitute, Value, Vocabulary, read_definitions,
};

const SHEET: &str = "
m_crystals    = m_full - m_dish
n_acid        = V_acid * concentration(acid)
n_carbonate   = m_carbonate / M(carbonate)
extent        = limiting(n_carbonate / coefficient(carbonate), n_acid / coefficient(acid))
m_theory      = extent * coefficient(crystals) * M(crystals)  # the salt as it crystallises
percent_yield = m_crystals / m_theory
";

fn unit(text: &str) -> Unit {
    Unit::parse(text).unwrap()
}

fn material(symbol: &str, formula: &str, coefficient: i64) -> Material {
    Material {
        symbol: symbol.into(),
        formula: Some(Formula::parse(formula).unwrap()),
        coefficient: Some(coefficient.into()),
        concentration: None,
        purity: None,
        density: None,
        mass_concentration: None,
    }
}

fn vocabulary() -> Vocabulary {
    let strength = Quantity { value: Decimal::parse("1.00").unwrap(), unit: unit("mol/L"), half_width: 0.003 };
    let readings = [("m_carbonate", "g"), ("V_acid", "mL"), ("m_dish", "g"), ("m_full", "g")];
    Vocabulary {
        readings: readings.map(|(s, u)| ReadingName { symbol: s.into(), unit: unit(u), repeats: None }).into(),
        materials: vec![
            material("carbonate", "4MgCO3·Mg(OH)2·5H2O", 1),
            Material { concentration: Some(strength), ..material("acid", "H2SO4", 5) },
            material("crystals", "MgSO4·7H2O", 5),
        ],
        masses: MassTable::Abridged,
        writing: sheet::Writing::default(),
        masses_exact: false,
        ratios: Vec::new(),
    }
}

fn compile(text: &str) -> Result<Program, SheetError> {
    let drafts: Vec<Draft> = read_definitions(text)?.into_iter().map(Draft::from).collect();
    Program::compile(&drafts, &vocabulary())
}

fn told(text: &str) -> String {
    compile(text).unwrap_err().to_string()
}

/// Repeatability alone, so that the expected uncertainties can be worked on paper.
fn instrument(name: &str, kind: InstrumentKind, unit: &str, tolerance: f64, repeatability: f64) -> Instrument {
    Instrument {
        name: name.into(),
        kind,
        unit: unit.into(),
        resolution: 0.0,
        tolerance,
        repeatability,
        capacity: 200.0,
        sensitivity: 0.0,
    }
}

fn readings(typed: &[(&str, &str)]) -> Inputs {
    let balance = instrument("Balance 1", InstrumentKind::Balance, "g", 0.0, 0.01);
    let pipette = instrument("Pipette 25", InstrumentKind::VolumetricPipette, "mL", 0.03, 0.0);
    let mut inputs = Inputs::default();
    for (symbol, text) in typed {
        let (u, on) = if symbol.starts_with('V') { ("mL", &pipette) } else { ("g", &balance) };
        let given = Given::reading(symbol, Decimal::parse(text).unwrap(), &unit(u), on, sheet::Writing::default());
        inputs.readings.insert((*symbol).to_owned(), given);
    }
    inputs
}

const BERYL: &[(&str, &str)] =
    &[("m_carbonate", "3.04"), ("V_acid", "25.00"), ("m_dish", "47.91"), ("m_full", "51.73")];

fn value(program: &Program, inputs: &Inputs, name: &str) -> Value {
    match program.evaluate(inputs).outcome(name).unwrap() {
        Outcome::Value(v) => v,
        other => panic!("{name}: {other:?}"),
    }
}

/// By hand: 25.00 mL × 1.00 mol/L = 25.0 mmol; extent 25.0/5 = 5.00 mmol against 3.04/485.646 = 6.26 mmol;
/// 25.0 mmol × 246.466 g/mol = 6.16 g; 3.82 g ÷ 6.16165 g = 62.0 %.
#[test]
fn values_and_digits_as_worked_by_hand() {
    let program = compile(SHEET).unwrap();
    let inputs = readings(BERYL);
    let evaluation = program.evaluate(&inputs);
    let shown = ["n_acid", "m_theory", "m_crystals", "percent_yield"].map(|n| evaluation.shown(n).unwrap());
    assert_eq!(shown, ["25.0", "6.16", "3.82", "0.620"]);
    assert_eq!(evaluation.limiting_argument("extent"), Some(1));
    assert!((value(&program, &inputs, "m_theory").value - 6.161_65).abs() < 1e-9);
}

/// By hand, for y = (m₂ − m₁)/(V·c·M): the two weighings give 0.01·√2/6.16165 = 0.002295; the pipette
/// 0.62·0.03/√3/25 = 0.000430; the strength 0.62·0.003/√3 = 0.001074; together 0.00257. Atomic masses add below 1e-5.
#[test]
fn uncertainty_counts_what_is_shared_once() {
    let program = compile(SHEET).unwrap();
    let inputs = readings(BERYL);
    let percent_yield = value(&program, &inputs, "percent_yield");
    assert!((percent_yield.standard_uncertainty - 0.002_57).abs() < 1e-5, "{}", percent_yield.standard_uncertainty);
    let share = |source: &Source| percent_yield.budget.iter().find(|s| s.source == *source).unwrap();
    assert!((share(&Source::Calibration("Pipette 25".into())).standard_uncertainty - 0.000_430).abs() < 1e-6);
    // The carbonate is in excess: it contributes nothing at all.
    assert!(percent_yield.budget.iter().all(|s| s.source != Source::Reading("m_carbonate".into())));

    let twice = compile("double = V_acid + V_acid\nnothing = V_acid - V_acid").unwrap();
    let one = 0.03 / 3f64.sqrt() / 1000.0;
    assert!((value(&twice, &inputs, "double").standard_uncertainty - 2.0 * one).abs() < 1e-12);
    assert_eq!(value(&twice, &inputs, "nothing").standard_uncertainty, 0.0);
}

/// Every derivative agrees with a central difference.
#[test]
fn sensitivities_agree_with_numerical_estimates() {
    let text =
        format!("{SHEET}wild = sqrt(abs(ln(m_full / m_dish))) * exp10(-m_carbonate / (2 g)) + (V_acid / (3 mL)) ^ 2.5");
    let program = compile(&text).unwrap();
    let inputs = readings(BERYL);
    for name in ["percent_yield", "wild", "m_theory"] {
        for (symbol, d) in program.evaluate(&inputs).sensitivities(name) {
            let at = |shift: f64| {
                let mut moved = inputs.clone();
                moved.readings.get_mut(&symbol).unwrap().value *= 1.0 + shift;
                value(&program, &moved, name).value
            };
            let estimate = (at(1e-6) - at(-1e-6)) / (2e-6 * inputs.readings[&symbol].value);
            assert!(
                (d - estimate).abs() <= 1e-6 * estimate.abs().max(1e-9),
                "{name} to {symbol}: {d} against {estimate}"
            );
        }
    }
}

#[test]
fn a_missing_reading_is_not_yet_and_named() {
    let program = compile(SHEET).unwrap();
    let inputs = readings(&BERYL[..3]);
    let evaluation = program.evaluate(&inputs);
    assert_eq!(evaluation.outcome("percent_yield"), Some(Outcome::NotYet { missing: vec!["m_full".into()] }));
    assert_eq!(evaluation.shown("m_theory").as_deref(), Some("6.16"));
}

#[test]
fn a_failure_names_the_definition_that_caused_it() {
    let program = compile("net = m_full - m_dish\nper_gram = V_acid / net\nlater = per_gram * 2").unwrap();
    let inputs = readings(&[("m_full", "47.91"), ("m_dish", "47.91"), ("V_acid", "25.00")]);
    let outcome = program.evaluate(&inputs).outcome("later").unwrap();
    assert_eq!(outcome, Outcome::Failed(Failure::DividedByZero("per_gram".into())));
}

/// A student who found 3.01 g as theory (the anhydrous salt) has 3.82/3.01 = 127 % by that theory.
#[test]
fn a_students_own_earlier_value_can_be_put_in() {
    let program = compile(SHEET).unwrap();
    let mut inputs = readings(BERYL);
    let precision =
        Precision::of(Decimal::parse("3.01").unwrap(), &unit("g"), measure::rounding::WholeNumbers::default());
    inputs.substituted.insert("m_theory".into(), Substitute { value: 3.01, precision });
    assert_eq!(program.evaluate(&inputs).shown("percent_yield").as_deref(), Some("1.27"));
}

#[test]
fn the_worked_solution_reads_as_one_would_write_it() {
    let program = compile(SHEET).unwrap();
    let inputs = readings(BERYL);
    let lines = program.evaluate(&inputs).worked("percent_yield");
    let text = |tokens: &[sheet::Token]| tokens.iter().map(|t| t.text.as_str()).collect::<Vec<_>>().join(" ");
    let shown: Vec<String> = lines
        .iter()
        .map(|l| {
            format!(
                "{} = {} = {} = {} {}",
                l.name,
                text(&l.symbols),
                text(&l.numbers),
                l.result.as_deref().unwrap(),
                l.unit
            )
        })
        .collect();
    assert_eq!(shown[0], "m_crystals = m_full − m_dish = 51.73 g − 47.91 g = 3.82 g");
    assert_eq!(shown[1], "n_acid = V_acid × concentration ( acid ) = 25.00 mL × 1.00 mol/L = 25.0 mmol");
    assert_eq!(
        shown[4],
        "m_theory = extent × coefficient ( crystals ) × M ( crystals ) = 5.00 mmol × 5 × 246.466 g/mol = 6.16 g"
    );
    assert_eq!(shown[5], "percent_yield = m_crystals ÷ m_theory = 3.82 g ÷ 6.16 g = 0.620 1");
    assert_eq!(lines[0].numbers[0].reading.as_deref(), Some("m_full"));
}

#[test]
fn errors_give_the_place_and_a_hint() {
    for (text, expected) in [
        ("x = m_full + V_acid", "a volume cannot be added to a mass (line 1, character 12, in the definition of 'x')"),
        (
            "\nx = m_dsh",
            "nothing before this line is called 'm_dsh'; did you mean 'm_dish'? (line 2, character 5, in the definition of 'x')",
        ),
        (
            "x = M(crystal)",
            "the practical has no material 'crystal'; did you mean 'crystals'? (line 1, character 7, in the definition of 'x')",
        ),
        ("x = density(acid)", "the material 'acid' states no density (line 1, character 5, in the definition of 'x')"),
        ("x = ln(m_full)", "ln takes a pure number, not a mass (line 1, character 5, in the definition of 'x')"),
        ("x = sin(2)", "there is no function 'sin' (line 1, character 5, in the definition of 'x')"),
        ("m_dish = 2", "'m_dish' is already defined (line 1, character 1, in the definition of 'm_dish')"),
        (
            "mL = 2",
            "'mL' cannot be a name: use letters, digits and _, and no name of a unit (line 1, character 1, in the definition of 'mL')",
        ),
        ("x = (2 + 3", "the line ends where a value is expected (line 1, character 11, in the definition of 'x')"),
        ("x = y\ny = x", "these need each other: x → y → x (line 1, character 5, in the definition of 'x')"),
        (
            "x = y\ny = 2",
            "'y' is defined further down; a line uses what stands before it (line 1, character 5, in the definition of 'x')",
        ),
        (
            "no definition",
            "a definition reads 'name = expression' (line 1, character 1, in the definition of 'no definition')",
        ),
        ("x = <script>", "'<' was not expected here (line 1, character 5, in the definition of 'x')"),
    ] {
        assert_eq!(told(text), expected);
    }
    let deep = format!("x = {}1{}", "(".repeat(100), ")".repeat(100));
    assert!(told(&deep).starts_with("expressions nest at most 40 deep"));
    assert!(told(&format!("x = {}", "1+".repeat(300))).starts_with("a sheet has at most 400 characters in a line"));
}

mod arbitrary {
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn text_never_panics(text in "[a-zM_0-9 .,+*/^()=%#\\-\n×÷]{0,120}") {
            let _ = super::compile(&text);
        }

        /// Whatever the readings, x − x is 0 ± 0 and limiting is one of its arguments.
        #[test]
        fn laws_hold_for_any_readings(a in 0.01f64..100.0, b in 0.01f64..100.0) {
            let program = super::compile("zero = m_full - m_full\nleast = limiting(m_full, m_dish)").unwrap();
            let inputs = super::readings(&[("m_full", &format!("{a:.2}")), ("m_dish", &format!("{b:.2}"))]);
            let zero = super::value(&program, &inputs, "zero");
            prop_assert_eq!((zero.value, zero.standard_uncertainty), (0.0, 0.0));
            let least = super::value(&program, &inputs, "least").value;
            prop_assert_eq!(least, inputs.readings["m_full"].value.min(inputs.readings["m_dish"].value));
        }
    }
}
