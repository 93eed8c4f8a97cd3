//! Readings, units and rounding through the crate's public items: laws that hold for any number, and tables.

use measure::rounding::{Ties, decimal_of, to_figures, to_place, uncertainty_figures};
use measure::{Class, Concordance, Decimal, Dimension, GLASSWARE, InstrumentKind, Unit, concordance, glassware};
use proptest::prelude::*;
use std::cmp::Ordering;

fn read(text: &str) -> Decimal {
    Decimal::parse(text).unwrap()
}

fn unit(text: &str) -> Unit {
    Unit::parse(text).unwrap()
}

/// Decimals as people type them, with the integer and the power of ten that they mean.
fn typed() -> impl Strategy<Value = (String, i128, i32)> {
    (-9_999_999i64..10_000_000, 0u32..6).prop_map(|(digits, decimals)| {
        let plain = digits.unsigned_abs().to_string();
        let padded = format!("{plain:0>width$}", width = decimals as usize + 1);
        let (whole, part) = padded.split_at(padded.len() - decimals as usize);
        let sign = if digits < 0 { "-" } else { "" };
        let text = if part.is_empty() { format!("{sign}{whole}") } else { format!("{sign}{whole}.{part}") };
        (text, i128::from(digits), -i32::try_from(decimals).unwrap())
    })
}

proptest! {
    /// Sums, differences and products against whole numbers of the finest place.
    #[test]
    fn decimal_arithmetic_is_exact((a, x, p) in typed(), (b, y, q) in typed()) {
        let place = p.min(q);
        let scale = |n: i128, from: i32| n * 10i128.pow((from - place).unsigned_abs());
        let (x_fine, y_fine) = (scale(x, p), scale(y, q));
        let same = |d: Decimal, n: i128, at: i32| d.compare(Decimal::new(n, at)) == Ordering::Equal;
        prop_assert!(same(read(&a).plus(read(&b)).unwrap(), x_fine + y_fine, place));
        prop_assert!(same(read(&a).minus(read(&b)).unwrap(), x_fine - y_fine, place));
        prop_assert!(same(read(&a).times(read(&b)).unwrap(), x * y, p + q));
        prop_assert_eq!(read(&a).compare(read(&b)), x_fine.cmp(&y_fine));
    }

    #[test]
    fn comma_and_point_mean_the_same((a, ..) in typed()) {
        prop_assert_eq!(read(&a.replace('.', ",")).to_string(), read(&a).to_string());
    }

    /// A rounded number differs by at most half a unit of its last place, and rounding it again changes nothing.
    #[test]
    fn rounding_is_near_and_final((a, ..) in typed(), place in -5i32..3, half_even: bool) {
        let ties = if half_even { Ties::HalfEven } else { Ties::HalfUp };
        let rounded = to_place(read(&a), place, ties);
        prop_assert_eq!(rounded.last_place(), place);
        let off = (rounded.to_f64() - read(&a).to_f64()).abs();
        prop_assert!(off <= 0.5 * 10f64.powi(place) * (1.0 + 1e-9));
        prop_assert_eq!(to_place(rounded, place, ties), rounded);
    }

    /// Both rules agree but on a tie, where half to even gives an even last digit.
    #[test]
    fn the_two_rules_differ_on_ties_alone(whole in 0i128..100_000) {
        let tie = Decimal::new(whole * 10 + 5, -1);
        let (up, even) = (to_place(tie, 0, Ties::HalfUp), to_place(tie, 0, Ties::HalfEven));
        prop_assert_eq!(up.compare(Decimal::new(whole + 1, 0)), Ordering::Equal);
        let last = even.digits().bytes().last().unwrap() - b'0';
        prop_assert_eq!(last % 2, 0);
        let beside = Decimal::new(whole * 100 + 51, -2);
        prop_assert_eq!(to_place(beside, 0, Ties::HalfUp), to_place(beside, 0, Ties::HalfEven));
    }

    #[test]
    fn figures_are_as_many_as_asked((a, x, _) in typed(), figures in 1u32..9) {
        prop_assume!(x != 0);
        let rounded = to_figures(read(&a), figures, Ties::HalfUp);
        prop_assert_eq!(rounded.digits().len(), figures as usize);
    }

    /// The shortest decimal of a double, read again, is the double.
    #[test]
    fn a_double_survives_as_a_decimal(value in prop::num::f64::NORMAL) {
        if let Some(decimal) = decimal_of(value) {
            prop_assert_eq!(decimal.to_f64(), value);
        }
    }

    /// The best concordant set against every subset there is.
    #[test]
    fn concordance_finds_what_a_search_of_all_subsets_finds(
        titres in prop::collection::vec(2400i128..2430, 0..8), limit in 0i128..15,
    ) {
        let repeats: Vec<Decimal> = titres.iter().map(|t| Decimal::new(*t, -2)).collect();
        let best = (0u32..1 << titres.len())
            .filter_map(|subset| {
                let chosen: Vec<usize> = (0..titres.len()).filter(|i| subset >> i & 1 == 1).collect();
                let of = |i: &usize| titres[*i];
                let range = chosen.iter().map(of).max()? - chosen.iter().map(of).min()?;
                (chosen.len() >= 2 && range <= limit).then_some((chosen.len(), range))
            })
            .max_by_key(|(n, range)| (*n, -range));
        let describe = |set: &Vec<usize>| {
            let of: Vec<i128> = set.iter().map(|i| titres[*i]).collect();
            (set.len(), of.iter().max().unwrap() - of.iter().min().unwrap())
        };
        match concordance(&repeats, Decimal::new(limit, -2)) {
            Concordance::None => prop_assert_eq!(best, None),
            Concordance::Agree(set) => prop_assert_eq!(best, Some(describe(&set))),
            Concordance::Tied(sets) => {
                prop_assert!(sets.len() > 1);
                for set in &sets {
                    prop_assert_eq!(best, Some(describe(set)));
                }
            }
        }
    }
}

/// JCGM 100:2008, 7.2.6: an uncertainty is quoted to two figures. By hand.
#[test]
fn an_expanded_uncertainty_has_two_figures() {
    for (u, shown) in [(0.012_34, "0.012"), (0.099_6, "0.10"), (1.96, "2.0"), (24.6, "25"), (0.000_204, "0.00020")] {
        assert_eq!(uncertainty_figures(u).unwrap().to_string(), shown, "{u}");
    }
    assert!(uncertainty_figures(0.0).is_none());
    assert!(uncertainty_figures(f64::NAN).is_none());
}

/// Every unit of the job, with what one of it is worth in another: by definition.
#[test]
fn the_units_of_the_job() {
    for (one, of, worth) in [
        ("kg", "g", 1000.0),
        ("mg", "µg", 1000.0),
        ("cm³", "mL", 1.0),
        ("dm³", "L", 1.0),
        ("L", "µL", 1e6),
        ("mol", "mmol", 1000.0),
        ("M", "mol dm⁻³", 1.0),
        ("mmol/L", "mol/L", 1e-3),
        ("g/mL", "g/L", 1000.0),
        ("g/cm³", "kg/L", 1.0),
        ("bar", "kPa", 100.0),
        ("atm", "Pa", 101_325.0),
        ("h", "min", 60.0),
        ("%", "ppm", 1e4),
        ("kJ", "J", 1000.0),
    ] {
        let there = unit(of).from_base(unit(one).to_base(1.0));
        assert!((there / worth - 1.0).abs() < 1e-12, "1 {one} is {there} {of}");
        assert_eq!(unit(one).dimension(), unit(of).dimension());
    }
    assert!((unit("K").from_base(unit("°C").to_base(25.0)) - 298.15).abs() < 1e-9);
}

/// p·V = n·R·T in the units of the job: 101.325 kPa · 22.414 L is 1 mol at 0 °C.
#[test]
fn dimensions_of_the_gas_law_fit() {
    let left = unit("kPa").to_base(101.325) * unit("L").to_base(22.414);
    let right = unit("J/mol/K").to_base(8.314_462_618) * unit("°C").to_base(0.0);
    assert!((left / right - 1.0).abs() < 1e-4);
    let gas = unit("J/mol/K").dimension();
    let fits = gas.times(Dimension::AMOUNT).and_then(|d| d.times(Dimension::TEMPERATURE));
    assert_eq!(fits, Dimension::PRESSURE.times(Dimension::VOLUME));
}

#[test]
fn dimensions_are_named_as_at_the_bench() {
    assert_eq!(unit("mol/L").dimension().to_string(), "an amount concentration");
    assert_eq!(unit("kPa").dimension().to_string(), "a pressure");
    assert_eq!(unit("mol/kg").dimension().to_string(), "mass^-1 amount^1");
    assert!(Dimension::MASS.power(100).is_none());
}

/// What a table of tolerances must keep: B is worse than A, and a larger piece is no better than a smaller one.
#[test]
fn the_glassware_table_is_in_order() {
    for g in GLASSWARE {
        assert!(g.tolerance(Class::A) < g.tolerance(Class::B), "{g:?}");
        assert!(g.class_a < g.volume * 0.02, "{g:?}");
        assert_eq!(
            g.division.is_none(),
            matches!(g.kind, InstrumentKind::VolumetricPipette | InstrumentKind::VolumetricFlask)
        );
    }
    for pair in GLASSWARE.windows(2).filter(|p| p[0].kind == p[1].kind) {
        assert!(pair[0].volume <= pair[1].volume && pair[0].class_a <= pair[1].class_a, "{pair:?}");
    }
    // ISO 648: a 25 mL pipette of class A delivers within 0.03 mL; ISO 1042: a 250 mL flask holds within 0.15 mL.
    let tolerance = |kind, volume| glassware(kind, volume).unwrap().class_a;
    assert_eq!(tolerance(InstrumentKind::VolumetricPipette, 25.0), 0.03);
    assert_eq!(tolerance(InstrumentKind::VolumetricFlask, 250.0), 0.15);
    assert!(glassware(InstrumentKind::Balance, 25.0).is_none());
}

/// What is a number, and which: the page reads the same table, so that it never says "no number" to one that is.
#[test]
fn numbers_are_read_as_the_page_reads_them() {
    let table: Vec<(String, Option<f64>)> = serde_json::from_str(include_str!("numbers.json")).unwrap();
    assert!(table.len() > 40);
    for (typed, value) in table {
        assert_eq!(Decimal::parse(&typed).ok().map(Decimal::to_f64), value, "'{typed}'");
    }
}
