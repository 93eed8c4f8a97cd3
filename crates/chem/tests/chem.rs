//! Chemistry through the crate's public items: laws that hold for any formula, equation or solution.

use chem::{AcidBase, AcidBaseRole, ELEMENTS, Formula, MassTable, Solution, Titration, element};
use proptest::prelude::*;

fn mass(text: &str) -> f64 {
    Formula::parse(text).unwrap_or_else(|e| panic!("{text}: {e}")).molar_mass(&MassTable::Abridged).unwrap().value
}

/// Formulas without water: groups with counts, brackets.
fn anhydrous() -> impl Strategy<Value = String> {
    let atom = prop::sample::select(vec!["H", "C", "N", "O", "Na", "Cl", "Mg", "S", "Fe", "Cu", "Zn", "K", "Cr", "I"]);
    let count = prop::sample::select(vec!["", "2", "3", "4", "12"]);
    let group = (atom, count.clone()).prop_map(|(a, n)| format!("{a}{n}"));
    let plain = prop::collection::vec(group, 1..4).prop_map(|g| g.concat());
    let bracketed = (plain.clone(), plain.clone(), count).prop_map(|(a, b, n)| format!("{a}({b}){n}"));
    prop_oneof![plain, bracketed]
}

/// Formulas that somebody might write, with and without water.
fn formulas() -> impl Strategy<Value = String> {
    (anhydrous(), prop::sample::select(vec!["", "·H2O", "·5H2O", "·0.5H2O", ".7H2O"]))
        .prop_map(|(b, w)| format!("{b}{w}"))
}

proptest! {
    /// What is printed for setting, read again, is the formula.
    #[test]
    fn a_formula_prints_as_something_that_reads_the_same(text in formulas()) {
        let formula = Formula::parse(&text).unwrap();
        let printed: String = formula.runs().iter().map(|r| r.text.as_str()).collect();
        prop_assert_eq!(Formula::parse(&printed).unwrap(), formula);
    }

    /// A hydrate weighs its salt and its water; the percentages add up.
    #[test]
    fn masses_add_up(text in anhydrous(), waters in 1u32..12) {
        let hydrate = format!("{text}·{waters}H2O");
        prop_assert!((mass(&hydrate) - mass(&text) - f64::from(waters) * mass("H2O")).abs() < 1e-9);
        let all = Formula::parse(&hydrate).unwrap().molar_mass(&MassTable::Abridged).unwrap();
        let sum: f64 = all.shares.iter().map(|(_, _, share)| share).sum();
        prop_assert!((sum - all.value).abs() < 1e-9);
    }

    /// Every drop moves the pH towards that of the titrant alone, and never past it, whatever is in the flask: the charge
    /// balance of a mixture is the mean of its parts by volume. A weak base run into a stronger one dilutes it.
    #[test]
    fn every_drop_moves_the_ph_towards_the_titrant(
        pka in 2.0f64..12.0, acid in 0.001f64..0.5, salt in 0.0f64..0.5, base in 0.001f64..0.5,
    ) {
        let flask = Solution {
            solutes: vec![
                (AcidBase::new(AcidBaseRole::WeakAcid, &[pka]), acid),
                (AcidBase::new(AcidBaseRole::Salt(1), &[pka]), salt),
            ],
            pkw: 14.0,
        };
        let titrant = AcidBase::new(AcidBaseRole::StrongBase, &[]);
        let alone = Solution { solutes: vec![(titrant.clone(), base)], pkw: 14.0 }.equilibrium().ph;
        let t = Titration { flask, volume: 25.0, titrant, concentration: base };
        let curve: Vec<f64> = (0..30).map(|ml| t.ph_at(f64::from(ml))).collect();
        let away: Vec<f64> = curve.iter().map(|ph| (alone - ph) * (alone - curve[0]).signum()).collect();
        prop_assert!(away.windows(2).all(|w| w[1] <= w[0] + 1e-9), "{curve:?}, the titrant alone {alone}");
        prop_assert!(away.iter().all(|a| *a >= -1e-9), "{curve:?}, the titrant alone {alone}");
    }

    /// The mirror image: a base titrated with acid is the acid's curve upside down.
    #[test]
    fn acid_and_base_are_mirror_images(pka in 3.0f64..11.0, c in 0.01f64..0.5, ml in 0.0f64..40.0) {
        let curve = |role, titrant, pka: f64| {
            let flask = Solution { solutes: vec![(AcidBase::new(role, &[pka]), c)], pkw: 14.0 };
            Titration { flask, volume: 25.0, titrant: AcidBase::new(titrant, &[]), concentration: 0.1 }.ph_at(ml)
        };
        let acid = curve(AcidBaseRole::WeakAcid, AcidBaseRole::StrongBase, pka);
        let base = curve(AcidBaseRole::WeakBase, AcidBaseRole::StrongAcid, 14.0 - pka);
        prop_assert!((acid + base - 14.0).abs() < 1e-9, "{acid} and {base}");
    }

    /// The parts of a ladder add up to one, and their mean is the protons given.
    #[test]
    fn fractions_of_a_ladder_add_up(first in 1.0f64..6.0, step in 0.1f64..5.0, ph in 0.0f64..14.0) {
        let acid = AcidBase::new(AcidBaseRole::WeakAcid, &[first, first + step, first + 2.0 * step]);
        let parts: Vec<f64> = (0..=3).map(|n| acid.fraction(n, ph)).collect();
        prop_assert!((parts.iter().sum::<f64>() - 1.0).abs() < 1e-9);
        let mean: f64 = parts.iter().zip(0u32..).map(|(p, n)| p * f64::from(n)).sum();
        prop_assert!((mean - acid.protons_given(ph)).abs() < 1e-9);
    }
}

/// At half of the equivalence volume the pH of a weak acid is its pKa, nearly; at the point itself it is basic.
#[test]
fn the_middle_of_a_titration_is_the_pka() {
    let flask = Solution { solutes: vec![(AcidBase::new(AcidBaseRole::WeakAcid, &[4.756]), 0.1)], pkw: 14.0 };
    let titrant = AcidBase::new(AcidBaseRole::StrongBase, &[]);
    let t = Titration { flask, volume: 25.0, titrant, concentration: 0.1 };
    let end = t.equivalence_volumes()[0];
    assert!((end - 25.0).abs() < 1e-12);
    assert!((t.ph_at(end / 2.0) - 4.756).abs() < 0.002);
    assert!(t.ph_at(end) > 8.0);
}

#[test]
fn a_titrant_that_is_weak_has_no_equivalence_volume_here() {
    let flask = Solution { solutes: vec![(AcidBase::new(AcidBaseRole::StrongAcid, &[]), 0.1)], pkw: 14.0 };
    let titrant = AcidBase::new(AcidBaseRole::WeakBase, &[9.25]);
    let t = Titration { flask, volume: 25.0, titrant, concentration: 0.1 };
    assert!(t.equivalence_volumes().is_empty());
}

/// The table: one entry for each atomic number, symbols as IUPAC writes them, and the school value within rounding.
#[test]
fn the_table_of_elements_is_whole() {
    for (e, number) in ELEMENTS.iter().zip(1u8..) {
        assert_eq!(e.number, number, "{}", e.symbol);
        assert!(element(e.symbol).is_some_and(|found| found == e));
        let letters: Vec<char> = e.symbol.chars().collect();
        assert!(letters[0].is_ascii_uppercase() && letters[1..].iter().all(char::is_ascii_lowercase));
        match (e.abridged, e.school) {
            (Some((mass, half_width)), Some(school)) => {
                assert!((mass - school).abs() < 0.051, "{}", e.symbol);
                assert!(half_width > 0.0 && half_width < 0.01 * mass, "{}", e.symbol);
            }
            (None, None) => {}
            other => panic!("{}: {other:?}", e.symbol),
        }
    }
    assert_eq!(ELEMENTS.iter().filter(|e| e.abridged.is_some()).count(), 84);
}
