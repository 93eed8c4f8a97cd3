//! Which way a slip at the bench pushes a result, worked out by hand from the readings.

use super::bench::Bench;
use lab::bench::{Departure, Deviation, Entry, Flag};
use lab::evaluated::Evaluated;
use lab::judge::Effect;
use practical::technique::BenchSlip as Slip;

fn of(bench: &Bench, result: &str) -> Vec<Effect> {
    Evaluated::of(&bench.practical, &bench.entries).effects(result)
}

fn relative(effects: &[Effect], slip: Slip) -> Option<f64> {
    effects.iter().find(|e| e.slip == slip).map(|e| e.relative)
}

fn near(effects: &[Effect], slip: Slip, expected: f64) {
    let found = relative(effects, slip).unwrap_or_else(|| panic!("no {slip:?} in {effects:?}"));
    assert!((found - expected).abs() < 0.002 * expected.abs().max(0.01), "{slip:?}: {found} for {expected}");
}

fn epsom() -> Bench {
    let bench = Bench::of("epsom-salt").read("m_carbonate", "3.04").read("V_acid", "25.00");
    bench.read("m_dish", "47.91").read("m_dish_crystals", "51.73")
}

/// 3.82 g in a dish of 47.91 g: what clings to it counts in proportion, the dish would make it 13.5 times as much, and
/// another balance 10 mg.
#[test]
fn a_product_is_pushed_by_what_is_weighed_with_it_and_what_is_lost() {
    let found = of(&epsom(), "percent_yield");
    near(&found, Slip::DampProduct, 0.05);
    near(&found, Slip::TransferLoss, -0.03);
    near(&found, Slip::PaperNotTared, 47.91 / 3.82);
    near(&found, Slip::DifferentBalance, 0.01 / 3.82);
    // The acid limits: what is spilled of the carbonate does nothing.
    assert_eq!(relative(&found, Slip::ExcessReagentSpilled), Some(0.0));
    // No titre, no flask, nothing heated to constant mass.
    for slip in [Slip::AirInTip, Slip::EyeAbove, Slip::PastTheMark, Slip::Spattered, Slip::CrucibleDamp] {
        assert_eq!(relative(&found, slip), None, "{slip:?}");
    }
    // The theoretical yield hangs on no weighing of the product.
    assert_eq!(relative(&of(&epsom(), "m_theory"), Slip::DampProduct), None);
    assert!(of(&Bench::of("epsom-salt"), "percent_yield").is_empty());
}

/// Three titres near 25 mL: a bubble of 0.2 mL in each makes each concentration 0.8 % low; one eye for both readings does nothing.
#[test]
fn a_titre_is_pushed_by_its_end_and_not_by_an_eye_that_both_readings_share() {
    let mut bench = Bench::of("sodium-hydroxide-standard");
    for (t, m, v) in [(2, "18.500", "25.16"), (3, "18.490", "24.66"), (4, "18.510", "25.66")] {
        bench = bench.read(&format!("m_before[{t}]"), m).read(&format!("m_after[{t}]"), "18.000");
        bench = bench.read(&format!("V_start[{t}]"), "0.00").read(&format!("V_end[{t}]"), v);
    }
    let found = of(&bench, "c_base");
    let mean_of = |f: fn(f64) -> f64| [25.16, 24.66, 25.66].into_iter().map(f).sum::<f64>() / 3.0;
    near(&found, Slip::AirInTip, -mean_of(|v| 0.2 / v));
    near(&found, Slip::BuretteNotRinsed, -0.02);
    near(&found, Slip::DampStandard, 0.01);
    assert_eq!((relative(&found, Slip::EyeAbove), relative(&found, Slip::EyeBelow)), (Some(0.0), Some(0.0)));
    assert_eq!(relative(&found, Slip::DampProduct), None);
}

/// 2.015 g of gypsum leave 1.596 g: x is 2·0.419/… ; a lighter residue counts as more water, a heavier one as less, and a
/// crucible weighed damp as gypsum and residue both lighter.
#[test]
fn a_residue_is_pushed_the_other_way() {
    let bench = Bench::of("gypsum-water").read("m_crucible", "31.504").read("m_filled", "33.519");
    let bench = bench.read("m_heated[1]", "33.101").read("m_heated[2]", "33.100");
    let found = of(&bench, "x_water");
    // x = (g − r)/18.015 · 136.134/r, so dx/x = −dr/(g − r) − dr/r.
    let by = |dr: f64| -dr / 0.419 - dr / 1.596;
    near(&found, Slip::Spattered, by(-0.01 * 1.596));
    near(&found, Slip::MoistureRegained, by(0.01 * 1.596));
    near(&found, Slip::LidMismatch, by(0.05));
    // 20 mg too much in the empty crucible: gypsum and residue 20 mg lighter, their difference the same.
    near(&found, Slip::CrucibleDamp, 0.02 / 1.596);
}

/// 10 mL past the mark of 250: 0.5 % is 1.25 mL, and the solution as much weaker.
#[test]
fn a_flask_filled_past_its_mark_weakens_the_solution() {
    let bench = Bench::of("copper-series").read("m_copper", "6.213").read("V_flask", "250.00");
    near(&of(&bench, "c_copper"), Slip::PastTheMark, -0.005);
}

#[test]
fn what_a_group_has_logged_comes_first() {
    let spilled = Deviation {
        nr: "1".into(),
        step: 2,
        what: Departure::Lost { material: "carbonate".into(), amount: "0.2 g".into() },
        note: String::new(),
        withdrawn: false,
    };
    let bench = epsom().flagged("m_dish_crystals", "51.73", Flag::Torn).say(Entry::Deviation(spilled));
    let found = of(&bench, "percent_yield");
    let logged: Vec<Slip> = found.iter().take_while(|e| e.logged).map(|e| e.slip).collect();
    assert_eq!(logged, [Slip::PaperTorn, Slip::ExcessReagentSpilled]);
    let rest: Vec<f64> = found.iter().skip(2).map(|e| e.relative.abs()).collect();
    assert!(rest.windows(2).all(|w| w[0] >= w[1]), "the largest first: {rest:?}");
}

/// Nobody tears a paper where nothing is filtered, and at a distillation nothing runs through one; where it is filtered both
/// can happen. What a group has logged is shown in any case.
#[test]
fn effects_are_those_of_the_techniques_in_the_file() {
    let ester = Bench::of("ethyl-ethanoate");
    let read = |bench: Bench, values: &[(&str, &str)]| values.iter().fold(bench, |b, (s, v)| b.read(s, v));
    let planned = lab::plan::planned_readings(&ester.practical);
    let values: Vec<(String, String)> = planned.iter().map(|(s, v)| (s.clone(), v.to_string())).collect();
    let values: Vec<(&str, &str)> = values.iter().map(|(s, v)| (s.as_str(), v.as_str())).collect();
    let ester = read(ester, &values);
    let found = of(&ester, "percent_yield");
    assert!(relative(&found, Slip::TransferLoss).is_some());
    for slip in [Slip::PaperTorn, Slip::FinesThrough, Slip::PaperMoisture] {
        assert_eq!(relative(&found, slip), None, "{slip:?}");
    }
    assert!(relative(&of(&epsom(), "percent_yield"), Slip::PaperTorn).is_some());
}

/// Two crops of 1.20 g and 0.40 g together: 5 % of water in each is 5 % of the yield, and one balance 0.01 g in each.
#[test]
fn crops_that_are_added_up_keep_their_effects() {
    let bench = Bench::of("benzylbenzamide");
    let planned = lab::plan::planned_readings(&bench.practical);
    let bench = planned.iter().fold(bench, |b, (s, v)| b.read(s, &v.to_string()));
    for result in bench.practical.yields().map(|y| y.percent).collect::<Vec<_>>() {
        let found = of(&bench, &result);
        near(&found, Slip::DampProduct, 0.05);
    }
}
