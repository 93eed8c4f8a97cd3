//! The first law over the whole library: a faultless group hears nothing untrue, no right answer is refused, nothing is a
//! dead end; and what is planted is told. `cargo xtask innocence` goes through many more groups.

use crate::{library, library_in, of_the_library};
use chem::MassTable;
use measure::Tolerances;
use measure::rounding::{Ties, WholeNumbers};
use practical::{BuretteReading, Dry, ResultDigits, School, TitresAgree};
use simulate::innocence::{Doubt, Tally, allotments, of_one};
use simulate::{Group, Slip, Told, guilt};

#[test]
fn a_faultless_group_hears_nothing_doubtful_at_any_practical() {
    let mut all = Tally::default();
    for practical in library() {
        for to in allotments(&practical) {
            let own = practical.allotted(&to);
            (1000..1004).for_each(|seed| all.add(of_one(&own, seed)));
        }
    }
    assert!(all.given > 1_000, "{} readings and answers", all.given);
    for never in [Doubt::Untrue, Doubt::Refused, Doubt::DeadEnd] {
        let words: Vec<_> = all.heard.iter().filter(|((d, _), _)| *d == never).collect();
        assert!(words.is_empty(), "{words:#?}");
    }
    assert!(all.flagged_in_1000() <= 3.0, "{:#?}", all.heard);
}

/// Each school's own choices, all at once the other way: what it shows it accepts, and nobody is accused by it.
#[test]
fn a_faultless_group_hears_nothing_doubtful_in_another_school() {
    let school = School {
        atomic_masses: MassTable::School,
        fives: Ties::HalfEven,
        digits: ResultDigits::Uncertainty,
        whole_numbers: WholeNumbers::PlaceHolders,
        burettes: BuretteReading::Half,
        agreement: TitresAgree::OutlierTest,
        dry: Dry::FixedTime,
        tolerances: Tolerances::Triangular,
        ..School::default()
    };
    let mut all = Tally::default();
    for practical in library_in(&school) {
        for to in allotments(&practical) {
            let own = practical.allotted(&to);
            (3000..3003).for_each(|seed| all.add(of_one(&own, seed)));
        }
    }
    for never in [Doubt::Untrue, Doubt::Refused, Doubt::DeadEnd] {
        let words: Vec<_> = all.heard.iter().filter(|((d, _), _)| *d == never).collect();
        assert!(words.is_empty(), "{words:#?}");
    }
    assert!(all.given > 500 && all.flagged_in_1000() <= 3.0, "{:#?}", all.heard);
}

#[test]
fn what_is_planted_is_told_rightly_and_in_time() {
    let mut tally = guilt::Tally::default();
    for practical in library() {
        for slip in Slip::all() {
            for seed in 2000..2002 {
                if let Some((told, example)) = guilt::of_one(&practical, seed, slip) {
                    tally.count(slip, told, example);
                }
            }
        }
    }
    let n = |told| tally.of(told);
    let all = n(Told::Right) + n(Told::Late) + n(Told::Otherwise) + n(Told::Silent);
    assert!(all > 200, "{all} slips");
    assert!(100 * n(Told::Right) >= 92 * all, "{} of {all}: {:#?}", n(Told::Right), tally.0);
}

#[test]
fn the_same_seed_gives_the_same_group_and_another_one_another() {
    let vinegar = of_the_library("vinegar");
    let said = |seed| Group::at(&vinegar, seed).work(|_| {});
    assert_eq!(said(7), said(7));
    assert_ne!(said(7), said(8));
}
