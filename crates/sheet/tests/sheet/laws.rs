//! Laws that hold for any sheet: derivatives are those of the numbers, hostile text is told and never stalls.

use crate::bench::{Bench, instrument};
use measure::InstrumentKind;
use proptest::prelude::*;
use sheet::{Inputs, Outcome, Program, Runner};

/// Expressions that use every operator and function, smooth where they are tried.
const SMOOTH: &[&str] = &[
    "a * b / c",
    "(a + b) / (c - d)",
    "a ^ 2 * b - sqrt(c) * d",
    "ln(a) * log10(b) + exp(-c) + exp10(d / 10)",
    "abs(-a) + b ^ -1 + c ^ 0.5",
    "limiting(a, b, c * 0.5) * d",
    "-(a - b) * (c / d) ^ 3",
];

fn bench(values: [f64; 4]) -> (Bench, [f64; 4]) {
    let pure = instrument("counter", InstrumentKind::Balance, "1");
    let names = ["a", "b", "c", "d"];
    let texts = values.map(|v| format!("{v:.6}"));
    let bench = names.iter().zip(&texts).fold(Bench::default(), |b, (n, t)| b.read(n, t, &pure));
    (bench, texts.map(|t| t.parse().unwrap()))
}

fn last_value(program: &Program, inputs: &Inputs) -> f64 {
    match program.evaluate(inputs).outcome("y") {
        Some(Outcome::Value(v)) => v.value,
        other => panic!("{other:?}"),
    }
}

proptest! {
    /// Reverse accumulation against a central difference.
    #[test]
    fn derivatives_agree_with_differences(
        which in 0..SMOOTH.len(), a in 0.5f64..2.0, b in 2.5f64..4.0, c in 4.5f64..6.0, d in 0.5f64..2.0,
    ) {
        let (bench, values) = bench([a, b, c, d]);
        let program = bench.program(&format!("y = {}", SMOOTH[which]));
        let slopes = program.evaluate(&bench.inputs).sensitivities("y");
        for (name, value) in ["a", "b", "c", "d"].iter().zip(values) {
            let h = 1e-5;
            let at = |x: f64| {
                let mut moved = bench.inputs.clone();
                moved.readings.get_mut(*name).unwrap().value = x;
                last_value(&program, &moved)
            };
            let numerical = (at(value + h) - at(value - h)) / (2.0 * h);
            let exact = slopes.get(*name).copied().unwrap_or(0.0);
            prop_assert!(
                (numerical - exact).abs() <= 1e-5 * exact.abs().max(1.0),
                "{} to {name}: {exact} by derivative, {numerical} by difference", SMOOTH[which],
            );
        }
    }

    /// A runner that is filled again gives what a fresh evaluation gives.
    #[test]
    fn a_runner_forgets_nothing_and_keeps_nothing(
        which in 0..SMOOTH.len(), first in 0.5f64..2.0, second in 0.5f64..2.0,
    ) {
        let (bench, _) = bench([first, 3.0, 5.0, 1.0]);
        let program = bench.program(&format!("y = {}", SMOOTH[which]));
        let mut runner = Runner::new(&program, &bench.inputs);
        runner.run();
        let mut moved = bench.inputs.clone();
        moved.readings.get_mut("a").unwrap().value = second;
        if let Some(slot) = runner.slot("a") {
            runner.fill(slot, second);
        }
        runner.run();
        prop_assert_eq!(runner.value(0), Some(last_value(&program, &moved)));
    }

    /// What a printed number means, read again, is the number: digits are never lost on the way.
    #[test]
    fn what_is_shown_is_within_half_of_its_last_digit(value in 1e-4f64..1e4) {
        let pure = instrument("counter", InstrumentKind::Balance, "1");
        let text = format!("{value:.5}");
        let bench = Bench::default().read("a", &text, &pure);
        let program = bench.program("y = a * 1");
        let shown = program.evaluate(&bench.inputs).shown("y").unwrap();
        let (shown, typed): (f64, f64) = (shown.parse().unwrap(), text.parse().unwrap());
        prop_assert!((shown - typed).abs() <= 0.5e-5 * typed.max(1.0));
    }

    #[test]
    fn arbitrary_text_is_a_sheet_or_an_error_and_never_a_panic(
        text in "[\\PC\\n]{0,80}",
        close in "[abxyzM_0-9.+\\-*/^(),= \\n#%]{0,80}",
    ) {
        let (bench, _) = bench([1.0, 2.0, 3.0, 4.0]);
        for sheet in [&text, &close] {
            if let Ok(program) = bench.try_program(sheet) {
                let _ = program.evaluate(&bench.inputs).all_worked();
            }
        }
    }
}

#[test]
fn hostile_length_and_nesting_are_refused_by_their_bounds() {
    let (bench, _) = bench([1.0, 2.0, 3.0, 4.0]);
    let told = |text: &str| bench.try_program(text).unwrap_err();
    assert!(
        told(&format!("y = {}a{}", "(".repeat(60), ")".repeat(60))).starts_with("expressions nest at most 40 deep")
    );
    assert!(told(&format!("y = {}a", "-".repeat(60))).starts_with("expressions nest at most 40 deep"));
    assert!(
        told(&format!("y = {}", "a+".repeat(1_000_000))).starts_with("a sheet has at most 400 characters in a line")
    );
    assert!(told(&"y = a\n".repeat(500)).starts_with("a sheet has at most 400 lines"));
}
