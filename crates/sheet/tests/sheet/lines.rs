//! Lines, areas and the vapour pressure of water in a sheet: by hand, by differences, and where there is none.

use crate::bench::{Bench, instrument};
use measure::{Instrument, InstrumentKind, Source};
use sheet::{Failure, Outcome};

fn exact(unit: &str) -> Instrument {
    instrument("meter", InstrumentKind::Meter, unit)
}

/// Miller & Miller, fluorescein: slope 1.9304, intercept 1.518, s(y/x) 0.4329, s(b) 0.0409, s(a) 0.2949.
fn fluorescein() -> Bench {
    Bench::default().series("c", &["0", "2", "4", "6", "8", "10", "12"], 0, &exact("g/L")).series(
        "y",
        &["2.1", "5.0", "9.0", "12.6", "17.3", "21.0", "24.7"],
        0,
        &exact("1"),
    )
}

fn close(found: f64, expected: f64) {
    assert!((found / expected - 1.0).abs() < 1e-4, "{found} is not {expected}");
}

/// Points lie about their line, and that is where its uncertainty comes from: instruments here have none.
#[test]
fn a_line_has_its_standard_errors() {
    let bench = fluorescein();
    let slope = bench.value("b = slope(y, c)");
    close(slope.value, 1.930_357);
    close(slope.standard_uncertainty, 0.040_900);
    assert_eq!(slope.budget.len(), 1);
    assert_eq!(slope.budget[0].source, Source::Scatter { what: "y".into(), point: None });
    let intercept = bench.value("a = intercept(y, c)");
    close(intercept.value, 1.517_857);
    close(intercept.standard_uncertainty, 0.294_936);
}

/// What is carried along the line feels both ends: at the middle s/√n, farther out more; s(a) again at zero.
#[test]
fn slope_and_intercept_of_one_line_share_its_scatter() {
    let bench = fluorescein();
    let at = |x: &str| bench.value(&format!("y0 = intercept(y, c) + slope(y, c) * {x}")).standard_uncertainty;
    close(at("(6 g/L)"), 0.432_848 / 7f64.sqrt());
    close(at("(0 g/L)"), 0.294_936);
    let far = (1.0 / 7.0 + 14.0f64.powi(2) / 112.0).sqrt();
    close(at("(20 g/L)"), 0.432_848 * far);
    // The same line twice is one line.
    assert!(bench.value("d = slope(y, c) - slope(y, c)").standard_uncertainty < 1e-12);
}

/// The tolerance of one meter moves all points alike: the intercept feels it, the slope does not.
#[test]
fn what_moves_all_points_moves_the_line() {
    let meter = Instrument { tolerance: 0.3, ..exact("1") };
    let straight = |on: &Instrument| {
        Bench::default().series("x", &["1", "2", "3"], 0, &exact("g/L")).series("y", &["1.0", "2.0", "3.0"], 0, on)
    };
    assert!(straight(&meter).value("b = slope(y, x)").standard_uncertainty < 1e-12);
    close(straight(&meter).value("a = 1 + intercept(y, x)").standard_uncertainty, 0.3 / 3f64.sqrt());
    assert_eq!(straight(&exact("1")).value("a = 1 + intercept(y, x)").standard_uncertainty, 0.0);
}

/// Σxy/Σx² = 28/14 exactly; with 0.1 more at the last point 28.3/14, s²= (0.1·…)²/2.
#[test]
fn a_line_through_zero_has_one_number() {
    let through = |last: &str| {
        Bench::default()
            .series("x", &["1", "2", "3"], 0, &exact("g/L"))
            .series("y", &["2.0", "4.0", last], 0, &exact("1"))
            .value("b = slope_through_zero(y, x)")
    };
    close(through("6.0").value, 2.0);
    let off = through("6.1");
    close(off.value, 28.3 / 14.0);
    let points: [(f64, f64); 3] = [(1.0, 2.0), (2.0, 4.0), (3.0, 6.1)];
    let rss: f64 = points.iter().map(|(x, y)| (y - 28.3 / 14.0 * x).powi(2)).sum();
    close(off.standard_uncertainty, (rss / 2.0 / 14.0).sqrt());
}

/// 0.310 A falling to 0.290 A over 60 s, then steady for 60 s: 18.0 C and 17.4 C; readings in any order.
#[test]
fn an_area_is_what_lies_under_the_points() {
    let area = |t: [&str; 3], i: [&str; 3]| {
        let bench = Bench::default().series("t", &t, 0, &exact("s")).series("I", &i, 0, &exact("A"));
        bench.value("Q = area(I, t)").value
    };
    close(area(["0", "60", "120"], ["0.310", "0.290", "0.290"]), 35.4);
    close(area(["120", "0", "60"], ["0.290", "0.310", "0.290"]), 35.4);
}

/// Two points have a line and no scatter; one has none yet; points at one place have none at all.
#[test]
fn where_there_is_no_line_none_is_shown() {
    let of = |x: &[&str]| {
        let y: Vec<&str> = ["1.0", "2.0", "4.0"].into_iter().take(x.len()).collect();
        Bench::default().series("x", x, 0, &exact("g/L")).series("y", &y, 0, &exact("1")).outcome("b = slope(y, x)")
    };
    assert!(matches!(of(&["1", "2"]), Outcome::Value(v) if v.standard_uncertainty == 0.0));
    assert!(matches!(of(&["1"]), Outcome::NotYet { .. }));
    assert_eq!(of(&["2", "2", "2"]), Outcome::Failed(Failure::NoLine("b".into())));
}

/// 20 °C: 2339 Pa, and 145 Pa for each kelvin (tables of IAPWS); ice has another curve.
#[test]
fn water_has_its_vapour_pressure() {
    let thermometer =
        |tolerance| Instrument { tolerance, ..instrument("thermometer", InstrumentKind::Thermometer, "°C") };
    let over = |t: &str, tolerance| Bench::default().read("T", t, &thermometer(tolerance));
    let kilopascal = 1e5;
    close((over("20.0", 0.0).value("p = p_water(T)").value / kilopascal * 1e3).round(), 2339.0);
    let u = over("20.0", 1.0).value("p = p_water(T)").standard_uncertainty / kilopascal;
    assert!((u - 0.1447 / 3f64.sqrt()).abs() < 1e-3, "{u}");
    assert_eq!(over("-60", 0.0).outcome("p = p_water(T)"), Outcome::Failed(Failure::NoLiquidWater("p".into())));
}
