//! Uncertainty, done honestly: what is shared, what cancels, what shrinks by averaging, and what a published example gives.

use crate::bench::{Bench, instrument};
use measure::{Component, Instrument, InstrumentKind, Source};
use sheet::monte_carlo;

fn u(bench: &Bench, text: &str) -> f64 {
    bench.value(text).standard_uncertainty
}

fn close(found: f64, expected: f64) {
    assert!((found / expected - 1.0).abs() < 1e-9, "{found} is not {expected}");
}

#[test]
fn a_quantity_minus_itself_is_exactly_nothing() {
    let balance = Instrument { repeatability: 0.01, ..instrument("Balance 1", InstrumentKind::Balance, "g") };
    let bench = Bench::default().read("m", "3.04", &balance);
    let nothing = bench.value("x = m - m");
    assert_eq!((nothing.value, nothing.standard_uncertainty), (0.0, 0.0));
    assert_eq!(u(&bench, "x = m / m"), 0.0);
}

/// A difference of two weighings counts two readings: 0.01 g · √2.
#[test]
fn two_readings_of_one_balance_count_twice() {
    let balance = Instrument { repeatability: 0.01, ..instrument("Balance 1", InstrumentKind::Balance, "g") };
    let bench = Bench::default().read("full", "51.73", &balance).read("empty", "47.91", &balance);
    close(u(&bench, "net = full - empty"), 0.01 * 2f64.sqrt());
}

/// A balance that is off in proportion is off in a difference in proportion to the difference: 1e-3/√3 of 3.82 g.
#[test]
fn sensitivity_of_a_balance_counts_for_the_net_mass_only() {
    let balance = Instrument { sensitivity: 1e-3, ..instrument("Balance 1", InstrumentKind::Balance, "g") };
    let bench = Bench::default().read("full", "51.73", &balance).read("empty", "47.91", &balance);
    close(u(&bench, "net = full - empty"), 3.82 * 1e-3 / 3f64.sqrt());
    // Two balances are off each in its own way, and then the dish matters.
    let other = Instrument { name: "Balance 2".into(), ..balance.clone() };
    let bench = Bench::default().read("full", "51.73", &balance).read("empty", "47.91", &other);
    close(u(&bench, "net = full - empty"), 1e-3 / 3f64.sqrt() * 51.73f64.hypot(47.91));
}

/// The tolerance of a burette is one for all titres of it: it neither cancels in a mean nor shrinks; reading does.
#[test]
fn a_burettes_tolerance_does_not_shrink_by_averaging() {
    let reading_only = Instrument { repeatability: 0.03, ..instrument("Burette C", InstrumentKind::Burette, "mL") };
    let toleranced = Instrument { tolerance: 0.05, ..reading_only.clone() };
    let titres = ["24.30", "24.25", "24.35"];
    let bench = |on: &Instrument| Bench::default().series("V", &titres, 0, on);
    close(u(&bench(&reading_only), "V_mean = mean(V)"), 0.03e-3 / 3f64.sqrt());
    let all = bench(&toleranced).value("V_mean = mean(V)");
    let tolerance: f64 = 0.05e-3 / 3f64.sqrt();
    close(all.standard_uncertainty, tolerance.hypot(0.03e-3 / 3f64.sqrt()));
    assert_eq!(all.budget[0].source, Source::Calibration("Burette C".into()));
    // Another burette for each trial would average out.
    let third = |n: usize| Instrument { name: format!("Burette {n}"), repeatability: 0.0, ..toleranced.clone() };
    let three = (0..3).fold(Bench::default(), |b, n| b.read(&format!("V{n}"), titres[n], &third(n)));
    close(u(&three, "V_mean = (V0 + V1 + V2) / 3"), tolerance / 3f64.sqrt());
}

/// One pipette used for both: its tolerance cancels in the ratio.
#[test]
fn one_pipette_above_and_below_cancels() {
    let pipette = Instrument { tolerance: 0.06, ..instrument("Pipette 25", InstrumentKind::VolumetricPipette, "mL") };
    let bench = Bench::default().read("V_a", "25.00", &pipette).read("V_b", "25.00", &pipette);
    assert!(u(&bench, "ratio = V_a / V_b") < 1e-15);
    let other = Instrument { name: "Pipette 25 b".into(), ..pipette.clone() };
    let bench = Bench::default().read("V_a", "25.00", &pipette).read("V_b", "25.00", &other);
    close(u(&bench, "ratio = V_a / V_b"), 0.06 / 3f64.sqrt() / 25.0 * 2f64.sqrt());
}

/// EURACHEM/CITAC Guide CG 4 (QUAM:2012.P1), example A2: NaOH standardised with KHP, 0.10214 ± 0.00010 mol/L (u).
fn quam_a2() -> Bench {
    let linearity = Component::Rectangular { half_width: 0.000_15, times: 2 };
    let burette = [
        Component::Triangular { half_width: 0.03, times: 1 },
        Component::Temperature { half_width: 3.0, expansion: 2.1e-4 },
    ];
    Bench::default()
        .known("rep", "1.0", "1", &[Component::Standard { u: 0.0005 }])
        .known("m_khp", "0.3888", "g", &[linearity])
        .known("P", "1.0", "1", &[Component::Rectangular { half_width: 0.0005, times: 1 }])
        .known("M_khp", "204.2212", "g/mol", &[Component::Standard { u: 0.0038 }])
        .known("V", "18.64", "mL", &burette)
}

const A2: &str = "c = rep * m_khp * P / (M_khp * V)";

#[test]
fn quam_a2_naoh_against_khp() {
    let c = quam_a2().value(A2);
    assert_eq!(format!("{:.5} ± {:.5}", c.value, c.standard_uncertainty), "0.10214 ± 0.00010");
    // The guide: the volume contributes most, then the repeatability.
    let order: Vec<_> = c.budget.iter().take(2).map(|s| s.source.clone()).collect();
    assert_eq!(order, [Source::Reading("V".into()), Source::Reading("rep".into())]);
}

/// Supplement 1 to the GUM as the check of the first-order result; both agree where the sheet is near linear.
#[test]
fn monte_carlo_agrees_where_the_sheet_is_near_linear() {
    let bench = quam_a2();
    let program = bench.program(A2);
    let drawn = monte_carlo(&program, &bench.inputs, "c", 10_000, 7).unwrap();
    let first_order = bench.value(A2);
    // 10⁴ samples know a standard deviation to 0.7 %; four times that is no accident.
    assert!((drawn.standard_deviation() / first_order.standard_uncertainty - 1.0).abs() < 0.03);
    assert!((drawn.mean() - first_order.value).abs() < 0.05 * first_order.standard_uncertainty);
    let again = monte_carlo(&program, &bench.inputs, "c", 10_000, 7).unwrap();
    assert_eq!(drawn, again, "a seed is an input");
    assert_ne!(drawn, monte_carlo(&program, &bench.inputs, "c", 10_000, 8).unwrap());
}

/// Two extents 0.1 % apart, each known to 1 %: a coin toss, which the active branch alone would hide.
#[test]
fn near_a_tie_the_samples_say_how_likely_each_reagent_limits() {
    let percent = |value: &'static str| (value, [Component::Standard { u: 0.01 }]);
    let (a, b) = (percent("1.000"), percent("1.001"));
    let bench = Bench::default().known("x", a.0, "mol", &a.1).known("y", b.0, "mol", &b.1);
    let program = bench.program("extent = limiting(x, y)");
    let drawn = monte_carlo(&program, &bench.inputs, "extent", 10_000, 1).unwrap();
    let share = drawn.chosen[0] as f64 / drawn.samples() as f64;
    // Φ(0.001/(0.01·√2)) = 0.528.
    assert!((share - 0.528).abs() < 0.02, "{share}");
    // The smaller of two is smaller than either: the mean lies below the active branch.
    assert!(drawn.mean() < 1.0 - 0.004);
}

/// The simple school: half a division each way, both readings of a difference, percentages added.
#[test]
fn apparatus_error_of_the_simple_school() {
    let balance = Instrument { resolution: 0.01, ..instrument("Balance 1", InstrumentKind::Balance, "g") };
    let cylinder = Instrument { resolution: 1.0, ..instrument("Cylinder", InstrumentKind::MeasuringCylinder, "mL") };
    let bench =
        Bench::default().read("full", "51.73", &balance).read("empty", "47.91", &balance).read("V", "50", &cylinder);
    let program = bench.program("net = full - empty\nrho = net / V");
    let evaluation = program.evaluate(&bench.inputs);
    close(evaluation.apparatus_error("net").unwrap(), 0.010);
    // 0.010/3.82 + 0.5/50 = 1.26 % of 76.4 g/L.
    let expected = (0.010 / 3.82 + 0.5 / 50.0) * 3.82 / 0.050;
    close(evaluation.apparatus_error("rho").unwrap(), expected);
}

#[test]
fn what_two_results_share_shows_in_their_covariance() {
    let balance = Instrument { repeatability: 0.002, ..instrument("Balance 1", InstrumentKind::Balance, "g") };
    let bench = Bench::default()
        .read("empty", "27.048", &balance)
        .read("metal", "28.675", &balance)
        .read("oxide", "29.115", &balance);
    let program = bench.program("m_metal = metal - empty\nm_oxygen = oxide - metal");
    let evaluation = program.evaluate(&bench.inputs);
    // The middle weighing is in both, with opposite signs.
    close(evaluation.covariance("m_metal", "m_oxygen").unwrap(), -(0.002f64.powi(2)));
    close(evaluation.covariance("m_metal", "m_metal").unwrap(), 2.0 * 0.002f64.powi(2));
}
