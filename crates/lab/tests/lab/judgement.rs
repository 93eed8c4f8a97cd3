//! What is told while there is still time: every judgement where it speaks, and a near twin where it must not.

use crate::bench::{Bench, matters};
use lab::bench::{Departure, Entry, Flag, Room, RoomItem, Taken};
use lab::evaluated::Evaluated;
use lab::judge::{Changed, Finding, Matter, Standing};
use measure::{Instrument, InstrumentKind};

fn lost(material: &str, amount: &str) -> Departure {
    Departure::Lost { material: material.into(), amount: amount.into() }
}

fn added(material: &str, amount: &str) -> Departure {
    Departure::Added { material: material.into(), amount: amount.into() }
}

mod needed {
    use super::*;

    fn needs(bench: &Bench) -> Vec<Matter> {
        matters(bench, |m| {
            matches!(m, Matter::Needed { .. } | Matter::TakenIsEnough { .. } | Matter::TakenIsShort { .. })
        })
    }

    /// 25.00 mL of 1.00 mol/L are 25.0 mmol; five take one formula of 485.65 g/mol: 2.428 g. Planned are 3.0 g to
    /// 25.0 mL. 3.00 g are 23.6 % more; 2.30 g are 0.128 g short.
    #[test]
    fn the_excess_follows_from_the_volume_really_taken() {
        let acid = Bench::of("epsom-salt").read("V_acid", "25.00");
        let name = || "basic magnesium carbonate".to_owned();
        let open = Matter::Needed { material: name(), enough: "2.43 g".into(), planned: Some("3.00 g".into()) };
        assert_eq!(needs(&acid), [open]);
        let enough = Matter::TakenIsEnough { material: name(), over: "24".into() };
        assert_eq!(needs(&acid.clone().read("m_carbonate", "3.00")), [enough]);
        let short = Matter::TakenIsShort { material: name(), short_by: "0.128 g".into() };
        assert_eq!(needs(&acid.read("m_carbonate", "2.30")), [short]);
        assert_eq!(needs(&Bench::of("epsom-salt").read("m_carbonate", "3.00")), [], "before the acid nobody knows");
    }

    /// 20.0 mL of 1.00 mol/L hydroxide are 20.0 mmol: 3.33 mL of 6.0 mol/L acid.
    #[test]
    fn acid_to_neutralise_by_the_base_that_was_measured() {
        let of = |volume: &str| {
            let told = needs(&Bench::of("acid-base-separation").read("V_base", volume));
            let neutral = told.into_iter().filter_map(|m| match m {
                Matter::Needed { enough, planned: None, .. } => Some(enough),
                _ => None,
            });
            neutral.collect::<Vec<_>>()
        };
        assert_eq!(of("20.0"), ["3.33 mL"]);
        assert_eq!(of("21.0"), ["3.50 mL"]);
    }
}

mod limits {
    use super::*;

    fn limiting(bench: &Bench) -> Vec<Matter> {
        matters(bench, |m| matches!(m, Matter::AnotherLimits { .. } | Matter::SeenOtherwise { .. }))
    }

    /// Recipe A: 20.00 mL of 0.200 mol/L are 4.00 mmol of sulfate. Of 1.500 g of SrCl2·6H2O (266.62 g/mol) 1.100 g are
    /// 4.13 mmol, 1.050 g are 3.94 mmol: a spill of 0.45 g turns it, one of 0.40 g does not.
    #[test]
    fn a_spill_turns_the_limiting_reagent_just_where_it_does() {
        let both = Bench::of("strontium-sulfate").read("m_strontium", "1.500").read("V_sulfate", "20.00");
        assert_eq!(limiting(&both), []);
        assert_eq!(limiting(&both.clone().departed(lost("strontium", "0.40 g"), "")), []);
        let spilled = both.departed(lost("strontium", "0.45 g"), "on the bench");
        let told = limiting(&spilled);
        let [Matter::AnotherLimits { limits, meant }] = &told[..] else { panic!("{told:?}") };
        assert_eq!((limits.as_str(), meant.as_str()), ("strontium chloride hexahydrate", "sodium sulfate"));
        // Put back: a top-up mends it.
        assert_eq!(limiting(&spilled.departed(added("strontium", "0.45 g"), "")), []);
    }

    #[test]
    fn what_was_seen_speaks_against_the_numbers() {
        let acid = Bench::of("epsom-salt").read("V_acid", "25.00").read("m_carbonate", "3.00");
        assert_eq!(limiting(&acid.clone().saw("solid", "solid remains").saw("fizz", "no fizz")), []);
        let told = limiting(&acid.saw("fizz", "fizzes"));
        assert_eq!(told, [Matter::SeenOtherwise { limits: "sulfuric acid".into(), seen: vec!["fizzes".into()] }]);
    }

    /// The practical keeps it until all answers are there; until then the group is not told.
    #[test]
    fn a_judgement_that_gives_an_answer_away_waits_for_it() {
        let spilled = Bench::of("strontium-sulfate")
            .read("m_strontium", "1.500")
            .read("V_sulfate", "20.00")
            .departed(lost("strontium", "0.45 g"), "");
        let hears = |b: &Bench| {
            let flipped = |m: &Matter| match m {
                Matter::AnotherLimits { .. } => true,
                Matter::Departed { limits, .. } => limits.is_some(),
                _ => false,
            };
            b.told().iter().filter(|a| flipped(&a.matter)).count()
        };
        assert_eq!(hears(&spilled), 0);
        // That there is enough of one would say that the other limits.
        let enough = |b: &Bench| {
            b.told().iter().any(|a| matches!(a.matter, Matter::TakenIsEnough { .. } | Matter::TakenIsShort { .. }))
        };
        assert!(!enough(&spilled));
        let asked: Vec<String> = spilled.practical.results.iter().filter(|r| r.asked).map(|r| r.name.clone()).collect();
        let answered =
            asked.iter().fold(spilled, |b, name| b.answer(name, if name == "extent" { "sulfate" } else { "1.00" }, ""));
        assert_eq!(hears(&answered), 2);
        assert!(enough(&answered));
    }
}

mod departures {
    use super::*;

    fn changes(bench: &Bench, result: &str) -> Vec<(String, String)> {
        let all = bench.advice().into_iter().filter_map(|a| match a.matter {
            Matter::Departed { changes, .. } => Some(changes),
            _ => None,
        });
        let of = |c: Vec<Changed>| c.into_iter().find(|c| c.result == result).map(|c| (c.before, c.with_it));
        all.filter_map(of).collect()
    }

    fn pair(before: &str, with_it: &str) -> (String, String) {
        (before.into(), with_it.into())
    }

    /// Theory 6.162 g. 3.70 g are 60.0 %; with 0.10 g taken for a test 3.80 g, 61.7 %; with 0.10 g of seed in it 3.60 g,
    /// 58.4 %. What was spilled of the product was made all the same.
    #[test]
    fn a_sample_counts_as_made_and_a_seed_does_not() {
        let dry = Bench::of("epsom-salt")
            .read("V_acid", "25.00")
            .read("m_carbonate", "3.00")
            .read("m_dish", "48.00")
            .read("m_dish_crystals", "51.70");
        let with = |what: Departure| changes(&dry.clone().departed(what, ""), "percent_yield");
        let (material, amount) = (|| "crystals".to_owned(), || "0.10 g".to_owned());
        assert_eq!(with(Departure::Sampled { material: material(), amount: amount() }), [pair("60.0", "61.7")]);
        assert_eq!(with(Departure::Seeded { material: material(), amount: amount() }), [pair("60.0", "58.4")]);
        assert_eq!(with(lost("crystals", "0.10 g")), [pair("60.0", "61.7")]);
        // A rinse is in no sum.
        assert_eq!(with(added("ethanol", "1 mL")), []);
    }

    /// 1.0 mL of acid lost: 24.0 mmol; 1.0 mL more: 25.0 mmol again.
    #[test]
    fn a_top_up_is_counted_after_the_spill() {
        let spilled = Bench::of("epsom-salt")
            .read("V_acid", "25.00")
            .departed(lost("acid", "1 mL"), "")
            .departed(added("acid", "1 mL"), "");
        assert_eq!(changes(&spilled, "n_acid"), [pair("25.0", "24.0"), pair("24.0", "25.0")]);
    }

    /// What a departure makes of a result is told only once that result was answered.
    #[test]
    fn consequences_do_not_give_answers_away() {
        let spilled = Bench::of("epsom-salt").read("V_acid", "25.00").departed(lost("acid", "1 mL"), "");
        let told = |b: &Bench| {
            let all = b.told().into_iter().filter_map(|a| match a.matter {
                Matter::Departed { changes, .. } => Some(changes.into_iter().map(|c| c.result)),
                _ => None,
            });
            all.flatten().collect::<Vec<_>>()
        };
        assert!(told(&spilled).is_empty());
        assert_eq!(told(&spilled.answer("n_acid", "25.0", "mmol")), ["n_acid"]);
    }
}

mod impossible {
    use super::*;

    fn cannot_be(bench: &Bench) -> Vec<(Standing, Matter)> {
        let told = bench.advice().into_iter().filter(|a| {
            matches!(
                a.matter,
                Matter::AboveTheory { .. }
                    | Matter::BelowNothing { .. }
                    | Matter::HeavierAfterHeating { .. }
                    | Matter::PartAboveWhole { .. }
            )
        });
        told.map(|a| (a.standing, a.matter)).collect()
    }

    /// Theory 6.162 g, U about 0.02 g: 6.16 g is all of it, 6.40 g is 0.24 g too much, 54.40 g still has its dish.
    #[test]
    fn more_than_could_form_is_told_before_it_leaves_the_balance() {
        let weighed = |full: &str| {
            Bench::of("epsom-salt")
                .read("V_acid", "25.00")
                .read("m_carbonate", "3.00")
                .read("m_dish", "48.00")
                .read("m_dish_crystals", full)
        };
        assert_eq!(cannot_be(&weighed("54.16")), []);
        let damp = Matter::AboveTheory { excess: Some("0.24 g".into()), far: false };
        assert_eq!(cannot_be(&weighed("54.40")), [(Standing::Doubtful, damp)]);
        assert_eq!(cannot_be(&weighed("64.40")), [(Standing::Wrong, Matter::AboveTheory { excess: None, far: true })]);
        let below = Matter::BelowNothing { what: "mass of the crystals".into() };
        assert_eq!(cannot_be(&weighed("47.00")), [(Standing::Wrong, below)]);
        // The group hears that, not by how much, until it has answered what that would give away.
        let hears = |b: &Bench| {
            b.told().into_iter().find_map(|a| match a.matter {
                Matter::AboveTheory { excess, .. } => Some(excess),
                _ => None,
            })
        };
        assert_eq!(hears(&weighed("54.40")), Some(None));
        let answered = weighed("54.40").answer("m_theory", "6.16", "g").answer("percent_yield", "104", "%");
        assert_eq!(hears(&answered), Some(Some("0.24 g".into())));
    }

    #[test]
    fn heating_only_drives_off() {
        let heated = |mass: &str| {
            let crucible = Bench::of("gypsum-water").read("m_crucible", "31.500").read("m_filled", "33.500");
            cannot_be(&crucible.read("m_heated[1]", mass))
        };
        assert_eq!(heated("33.081"), []);
        assert_eq!(heated("33.501"), [], "within its uncertainty");
        assert_eq!(heated("33.600"), [(Standing::Wrong, Matter::HeavierAfterHeating { by: "0.100 g".into() })]);
    }

    /// 2.300 g of 2.000 g are 115.0 %.
    #[test]
    fn no_part_is_larger_than_its_whole() {
        let part = |full: &str| {
            let whole = Bench::of("acid-base-separation").read("m_sample", "2.000").read("m_paper_acid", "0.600");
            cannot_be(&whole.read("m_full_acid", full))
        };
        assert_eq!(part("2.598"), []);
        let over = Matter::PartAboveWhole { what: "the part".into(), percent: "115.0".into() };
        assert_eq!(part("2.900"), [(Standing::Wrong, over)]);
    }
}

mod stops {
    use super::*;

    fn stop(bench: &Bench) -> Vec<Matter> {
        matters(bench, |m| matches!(m, Matter::StopReached { .. } | Matter::StopNotYet { .. }))
    }

    /// "pH 1 or below 2": the last test counts, and the portions add up.
    #[test]
    fn acid_is_added_until_the_last_test_says_so() {
        let portion = |bench: Bench, n: u32, volume: &str, ph: &str| {
            bench.read(&format!("V_quench[{n}]"), volume).read(&format!("pH_quench[{n}]"), ph)
        };
        let one = portion(Bench::of("acid-base-separation"), 1, "2.0", "5");
        let not_yet = |found: &str, by: &str| Matter::StopNotYet {
            target: "pH 2".into(),
            found: Some(found.into()),
            by: Some(by.into()),
        };
        assert_eq!(stop(&one), [not_yet("pH 5", "3")]);
        let two = portion(one, 2, "1.5", "2");
        assert_eq!(stop(&two), [Matter::StopReached { target: "pH 2".into(), found: Some("pH 2".into()) }]);
        assert_eq!(stop(&portion(two.clone(), 3, "0.1", "3")), [not_yet("pH 3", "1")]);
        let total = matters(&two, |m| matches!(m, Matter::PortionsSoFar { .. }));
        let [Matter::PortionsSoFar { portions: 2, total, .. }] = &total[..] else { panic!("{total:?}") };
        assert_eq!(total, "3.5 mL");
    }

    /// On the way the last point counts; what is read at the end stands above it.
    #[test]
    fn a_ph_is_come_up_to() {
        let on_the_way = Bench::of("buffer").read("pH_at[1]", "4.52").read("pH_at[2]", "4.81");
        let told = |bench: &Bench| match &stop(bench)[..] {
            [Matter::StopNotYet { by: Some(by), .. }] => Err(by.clone()),
            [Matter::StopReached { found: Some(found), .. }] => Ok(found.clone()),
            other => panic!("{other:?}"),
        };
        assert_eq!(told(&on_the_way), Err("0.19".into()));
        assert_eq!(told(&on_the_way.clone().read("p_H", "4.99")), Err("0.01".into()));
        assert_eq!(told(&on_the_way.read("p_H", "5.00")), Ok("pH 5.00".into()));
    }

    #[test]
    fn a_colour_is_there_or_not_yet() {
        let zinc = |seen: &str| Bench::of("zinc-iodide").saw("colour", seen);
        let target = || "colourless".to_owned();
        assert_eq!(stop(&zinc("colourless")), [Matter::StopReached { target: target(), found: None }]);
        assert_eq!(stop(&zinc("brown")), [Matter::StopNotYet { target: target(), found: None, by: None }]);
        let means = matters(&zinc("brown"), |m| matches!(m, Matter::SeenMeans { .. }));
        assert!(matches!(&means[..], [Matter::SeenMeans { means, .. }] if means.starts_with("Iodine is still there")));
        assert_eq!(matters(&zinc("colourless"), |m| matches!(m, Matter::SeenMeans { .. })), []);
    }

    /// Nothing in the practical says what it means; it is told all the same that it is not as it should be.
    #[test]
    fn what_is_not_as_it_should_be_is_told() {
        let mist = |seen: &str| {
            matters(&Bench::of("gypsum-water").saw("steam", seen), |m| matches!(m, Matter::NotAsExpected { .. }))
        };
        assert_eq!(mist("stays clear"), []);
        assert!(matches!(&mist("mists")[..], [Matter::NotAsExpected { seen, .. }] if seen == "mists"));
    }

    #[test]
    fn a_spot_test_is_held_beside_its_controls() {
        let test = |seen: &str| {
            matters(&Bench::of("copper-and-silver").saw("chloride", seen), |m| {
                matches!(m, Matter::TestPassed { .. } | Matter::TestFailed { .. })
            })
        };
        assert_eq!(test("stays clear"), [Matter::TestPassed { seen: "stays clear".into() }]);
        let failed = test("clouds");
        let [Matter::TestFailed { positive, .. }] = &failed[..] else { panic!("{failed:?}") };
        assert!(positive.starts_with("silver nitrate"));
    }
}

mod melting {
    use super::*;

    fn ranges(practical: &str, ranges: &[(&str, &str, &str)]) -> Vec<Matter> {
        let bench = ranges.iter().fold(Bench::of(practical), |b, (symbol, from, to)| {
            b.read(&format!("{symbol}[from]"), from).read(&format!("{symbol}[to]"), to)
        });
        matters(&bench, |m| {
            matches!(
                m,
                Matter::MeltsAsPure { .. }
                    | Matter::MeltsLow { .. }
                    | Matter::MeltsHigh { .. }
                    | Matter::Candidates { .. }
                    | Matter::RangeAsExpected { .. }
                    | Matter::MixtureMeltsAlike
                    | Matter::MixtureMeltsLower { .. }
            )
        })
    }

    /// trans-Cinnamic acid melts at 132 to 134 °C, and the practical expects 131 to 133 of what is not recrystallised. An end
    /// is sure to √(1²/3 + 0.25²/3 + 0.5²) = 0.78 °C; doubt begins at three times that, 2.3 °C.
    #[test]
    fn narrow_and_near_is_pure_low_or_wide_is_not_and_high_is_another_matter() {
        let acid = |from: &str, to: &str| ranges("acid-base-separation", &[("T_acid", from, to)]).remove(0);
        let (substance, known) = (|| "trans-cinnamic acid".to_owned(), || "132 to 134 °C".to_owned());
        let low = |below: &str, width: &str| Matter::MeltsLow {
            substance: substance(),
            known: known(),
            below: below.into(),
            width: width.into(),
        };
        assert_eq!(acid("131.0", "133.0"), Matter::MeltsAsPure { substance: substance(), known: known() });
        assert_eq!(acid("130.5", "132.5"), Matter::MeltsAsPure { substance: substance(), known: known() });
        let expected = Matter::RangeAsExpected { substance: substance(), known: known() };
        assert_eq!(acid("129.5", "131.5"), expected);
        assert_eq!(acid("128.5", "131.5"), low("3.5", "3.0"));
        assert_eq!(acid("128.0", "134.0"), low("4.0", "6.0"));
        assert_eq!(acid("131.5", "134.0"), Matter::MeltsAsPure { substance: substance(), known: known() });
        let high = Matter::MeltsHigh { substance: substance(), known: known(), above: "3.0".into() };
        assert_eq!(acid("135.0", "137.0"), high);
        assert_eq!(acid("133.0", "135.0"), Matter::MeltsAsPure { substance: substance(), known: known() });
        // A range that ends before it begins is a slip of writing, not a verdict.
        assert_eq!(ranges("acid-base-separation", &[("T_acid", "133.0", "131.0")]), []);
    }

    /// Ethyl ethanoate boils at 77 °C. At 950 hPa, 6325 Pa low, Young's rule takes 9.0e-7 × 350.15 × 6325 = 2.0 °C off.
    #[test]
    fn a_distillate_is_held_against_the_boiling_point_of_the_day() {
        let collected = |bench: Bench, from: &str, to: &str| {
            let bench = bench.read("T_boil[from]", from).read("T_boil[to]", to);
            matters(&bench, |m| matches!(m, Matter::BoilsAsPure { .. } | Matter::BoilsOutside { .. })).remove(0)
        };
        let pure = |known: &str| Matter::BoilsAsPure { substance: "ethyl ethanoate".into(), known: known.into() };
        let outside = |known: &str, below: Option<&str>, above: Option<&str>| Matter::BoilsOutside {
            substance: "ethyl ethanoate".into(),
            known: known.into(),
            below: below.map(str::to_owned),
            above: above.map(str::to_owned),
        };
        let usual = || Bench::of("ethyl-ethanoate");
        assert_eq!(collected(usual(), "74.5", "79.5"), pure("77.0"));
        assert_eq!(collected(usual(), "71.0", "78.0"), outside("77.0", Some("6.0"), None));
        assert_eq!(collected(usual(), "75.0", "84.0"), outside("77.0", None, Some("7.0")));
        let file = concat!(env!("CARGO_MANIFEST_DIR"), "/../../practicals/ethyl-ethanoate.practical.toml");
        let text = std::fs::read_to_string(file).unwrap();
        let barometer = "[[readings]]\nsymbol = \"p\"\nlabel = \"pressure\"\nshort = \"p\"\nunit = \"hPa\"\n\
            instrument = \"Barometer\"\ndecimals = 0\nrange = [800, 1100]\nexpected = \"1013\"\nof = \"ester\"\n\n[[readings]]\n\
            symbol = \"T_boil\"";
        let made = "[[instruments]]\nname = \"Barometer\"\nkind = \"meter\"\nunit = \"hPa\"\nresolution = 1\n\
            tolerance = 1\nrepeatability = 0.5\ncapacity = 1200\n\n[[readings]]\nsymbol = \"V_acid\"";
        let text = text
            .replacen("[[readings]]\nsymbol = \"T_boil\"", barometer, 1)
            .replacen("[[readings]]\nsymbol = \"V_acid\"", made, 1)
            .replacen("\"m_flask\", \"T_boil\"", "\"m_flask\", \"p\", \"T_boil\"", 1);
        let high = || Bench::on(&text).read("p", "950");
        assert_eq!(collected(high(), "72.5", "77.5"), pure("75.0"));
        assert_eq!(collected(high(), "74.0", "81.5"), outside("75.0", None, Some("6.5")));
    }

    #[test]
    fn candidates_that_melt_alike_are_told_apart_by_their_mixture() {
        let names = |names: &[&str]| Matter::Candidates { names: names.iter().map(|n| (*n).to_owned()).collect() };
        let alone = |from: &str, to: &str| ranges("unknown-by-melting", &[("T_melt", from, to)]);
        assert_eq!(alone("132.0", "133.5"), [names(&["urea", "trans-cinnamic acid"])]);
        assert_eq!(alone("135.0", "137.0"), [names(&["benzoin"])]);
        assert_eq!(alone("120.0", "121.5"), [names(&[])]);
        let mixed = |symbol: &str, from: &str, to: &str| {
            ranges("unknown-by-melting", &[("T_melt", "132.0", "133.5"), (symbol, from, to)]).remove(1)
        };
        assert_eq!(mixed("T_mixed", "131.5", "133.5"), Matter::MixtureMeltsAlike);
        assert_eq!(mixed("T_other", "102.0", "118.0"), Matter::MixtureMeltsLower { by: "30.0".into() });
        // The practical keeps what it is from the group.
        let bench = Bench::of("unknown-by-melting").read("T_melt[from]", "132.0").read("T_melt[to]", "133.5");
        assert!(bench.told().iter().all(|a| !matches!(a.matter, Matter::Candidates { .. })));
    }
}

mod readings {
    use super::*;

    fn findings(bench: &Bench, symbol: &str) -> Vec<Finding> {
        bench.outcome().findings.remove(symbol).unwrap_or_default()
    }

    #[test]
    fn an_end_lies_beyond_its_start() {
        let titre = |start: &str, end: &str| {
            findings(&Bench::of("vinegar").read("V_start[1]", start).read("V_end[1]", end), "V_end[1]")
        };
        assert_eq!(titre("0.10", "21.60"), []);
        let partner = "initial burette reading".to_owned();
        assert_eq!(titre("22.00", "21.60"), [Finding::BelowItsPartner { partner, by: "0.40".into() }]);
    }

    /// A product far below what is planned may have been tared already; what is left over of a reagent is what it is.
    #[test]
    fn contents_are_held_against_the_plan_where_a_method_counts_on_them() {
        let paper = Bench::of("strontium-sulfate").read("m_paper", "0.620");
        let tared = findings(&paper.clone().read("m_paper_product", "0.683"), "m_paper_product");
        assert!(
            tared.iter().any(|f| matches!(f, Finding::FarFromPlan { less: true, .. } | Finding::OutsideRange { .. }))
        );
        let zinc = Bench::of("zinc-iodide").read("m_flask", "48.000");
        for left in ["48.200", "48.985"] {
            assert_eq!(findings(&zinc.clone().read("m_flask_zinc", left), "m_flask_zinc"), [], "{left}");
        }
    }

    /// Of a burette the titres are compared: 22.10 from 0.10 is far off, 21.20 would agree. What differs by right, a mass
    /// that is heated, a titre of another mass, is compared with nothing.
    #[test]
    fn swapped_digits_are_known_by_the_repeats() {
        let heated = Bench::of("gypsum-water").read("m_heated[1]", "33.801").read("m_heated[2]", "33.081");
        assert_eq!(findings(&heated.clone().read("m_heated[3]", "33.081"), "m_heated[1]"), []);
        // A heating that gains what no balance scatters is told as such; a milligram up is not.
        let told = |third: &str| {
            matters(&heated.clone().read("m_heated[3]", third), |m| matches!(m, Matter::HeavierAfterHeating { .. }))
        };
        assert_eq!(told("33.801"), [Matter::HeavierAfterHeating { by: "0.720 g".into() }]);
        assert_eq!(told("33.082"), []);
        let last = |end: &str| {
            let ends = ["21.60", "21.20", "21.15", end];
            let all = ends.iter().enumerate().fold(Bench::of("vinegar"), |b, (i, e)| {
                b.read(&format!("V_start[{}]", i + 1), "0.10").read(&format!("V_end[{}]", i + 1), e)
            });
            findings(&all, "V_end[4]")
        };
        assert_eq!(last("22.10"), [Finding::SwappedAgainstRepeat { reads: Some("21.20".into()) }]);
        assert_eq!(last("22.35"), []);
    }

    #[test]
    fn a_repeat_out_of_its_order_is_kept_and_told() {
        let late = Bench::of("vinegar").read("V_end[2]", "21.20");
        let earlier = "final burette reading, trial 1, rough".to_owned();
        assert_eq!(findings(&late, "V_end[2]"), [Finding::EarlierMissing { earlier }]);
        assert_eq!(findings(&late.read("V_end[1]", "21.60"), "V_end[2]"), []);
    }

    #[test]
    fn a_flag_stands_beside_its_mass() {
        let torn = Bench::of("gypsum-water").flagged("m_crucible", "31.500", Flag::Hot);
        assert_eq!(findings(&torn, "m_crucible"), [Finding::Flagged { flag: Flag::Hot }]);
        let again = torn.read("m_crucible", "31.502");
        assert_eq!(findings(&again, "m_crucible"), [], "weighed again, cold");
    }

    /// Decimals by the balance that the reading was taken on, and its uncertainty as well.
    #[test]
    fn a_named_balance_brings_its_own_decimals_and_uncertainty() {
        let balance = |name: &str, step: f64| {
            RoomItem::Instrument(Instrument {
                name: name.into(),
                kind: InstrumentKind::Balance,
                unit: "g".into(),
                resolution: step,
                tolerance: step,
                repeatability: step / 2.0,
                capacity: 200.0,
                sensitivity: 0.0,
            })
        };
        let mut bench = Bench::of("epsom-salt");
        bench.room = Room::of([balance("Balance 2", 0.01), balance("Balance 3", 0.001)]);
        let on = |name: &str, text: &str| {
            let taken = Taken { on: Some(name.into()), ..bench.reading("m_dish", text) };
            bench.clone().say(Entry::Reading(taken))
        };
        assert_eq!(findings(&on("Balance 2", "48.00"), "m_dish"), []);
        let wanting = Finding::Decimals { expected: 3, typed: 2 };
        assert_eq!(findings(&on("Balance 3", "48.00"), "m_dish"), [wanting]);
        assert_eq!(findings(&on("Balance 3", "48.000"), "m_dish"), []);
        let u = |b: Bench| {
            let all = b.read("V_acid", "25.00").read("m_carbonate", "3.00").read("m_dish_crystals", "51.70");
            let results = all.outcome().results;
            let lab::evaluated::ResultState::Value(v) = &results[2].state else { panic!("{results:?}") };
            v.expanded.clone().unwrap()
        };
        assert!(u(on("Balance 3", "48.000")) < u(on("Balance 2", "48.00")));
    }
}

/// A bottle that was measured stands for its label: 25.00 mL of 0.980 mol/L are 24.5 mmol.
#[test]
fn a_measured_bottle_replaces_the_planned_strength() {
    use lab::bench::Bottle;
    let bottle = |measured: Option<&str>| {
        let measured = measured.map(str::to_owned);
        RoomItem::Bottle(Bottle {
            name: "bottle A".into(),
            holds: "sulfuric acid".into(),
            strength: "1 mol/L".into(),
            measured,
            made: None,
            standardised: None,
        })
    };
    let text =
        std::fs::read_to_string(concat!(env!("CARGO_MANIFEST_DIR"), "/../../practicals/epsom-salt.practical.toml"));
    let text = text.unwrap();
    let amount = |measured: Option<&str>| {
        let mut bench = Bench::on(&text);
        bench.room = Room::of([bottle(measured)]);
        let taken =
            bench.read("V_acid", "25.00").say(Entry::Bottle { material: "acid".into(), name: "bottle A".into() });
        let edits = taken.room.strengths(&taken.practical, &taken.entries);
        let own = practical::edited(&text, &edits).unwrap();
        let again = Bench { entries: taken.entries, ..Bench::on(&own) };
        let results = again.outcome().results;
        let lab::evaluated::ResultState::Value(v) = &results[0].state else { panic!("{results:?}") };
        v.text.clone()
    };
    assert_eq!(amount(None), "25.0");
    assert_eq!(amount(Some("0.980 ± 0.002 mol/L")), "24.5");
    assert!(bottle(Some("strong")).sound().is_err() && bottle(Some("0.98 g")).sound().is_err());
}

/// While the dish dries, the sums whose readings are there can be done; while the acid works, the dish can be weighed.
#[test]
fn what_can_be_done_in_the_meantime() {
    let next = |b: &Bench| {
        let next = b.outcome().next;
        (next.step, next.meanwhile)
    };
    let fresh = Bench::of("epsom-salt");
    assert_eq!(next(&fresh), (Some(0), vec![3]));
    let dried = fresh.read("m_carbonate", "3.00").read("V_acid", "25.00").read("m_dish", "48.00");
    let dried = (0..7).fold(dried, |b, step| b.say(Entry::Step { step, done: true }));
    assert_eq!(next(&dried), (Some(7), vec![9]));
    let all = (7..10).fold(dried, |b, step| b.say(Entry::Step { step, done: true }));
    assert_eq!(next(&all), (None, vec![]));
}

/// Counted as a careful group fills them: of the vinegar one rough titration and two that agree, start and end of each;
/// of the gypsum two weighings after heating; of the buffer's series one point; both crops of the amide.
#[test]
fn places_are_counted_as_they_are_wanted() {
    let wanted = |id: &str| Bench::of(id).practical.places_wanted();
    let once = |id: &str| {
        Bench::of(id).practical.readings.iter().filter(|r| r.repeats.is_none()).map(|r| r.slots().len()).sum::<usize>()
    };
    assert_eq!(wanted("vinegar") - once("vinegar"), 6);
    assert_eq!(
        wanted("sodium-hydroxide-standard") - once("sodium-hydroxide-standard"),
        16,
        "rough and three, with masses"
    );
    assert_eq!(wanted("gypsum-water") - once("gypsum-water"), 2);
    assert_eq!(wanted("buffer") - once("buffer"), 2);
    assert_eq!(wanted("benzylbenzamide") - once("benzylbenzamide"), 4);
    assert_eq!(wanted("epsom-salt"), 4);
}

/// 1.000 g of AgNO3 is 5.887 mmol. To copper(II): 2.943 mmol or 0.187 g of copper; to copper(I): 0.374 g; silver 0.635 g both
/// ways. The copper decides, and so does the colour; a colour that contradicts rejects whatever fits.
#[test]
fn two_reactions_are_told_apart_by_masses_and_by_what_was_seen() {
    let bench = Bench::of("copper-and-silver")
        .read("m_nitrate", "1.000")
        .read("m_coil", "1.200")
        .read("m_coil_after", "1.015")
        .read("m_paper", "0.620")
        .read("m_paper_silver", "1.240");
    let found = bench.outcome().hypotheses;
    assert_eq!(found.iter().map(|h| h.name.as_str()).collect::<Vec<_>>(), ["to copper(II)", "to copper(I)"]);
    let copper = |name: &str| {
        let h = found.iter().find(|h| h.name == name).unwrap();
        let used = h.masses.iter().find(|m| m.of.ends_with("used up")).unwrap();
        (used.predicted.clone(), used.found.clone())
    };
    assert_eq!(copper("to copper(II)"), ("0.187".into(), "0.185".into()));
    assert_eq!(copper("to copper(I)").0, "0.374");
    let seen = bench.saw("colour", "colourless").outcome().hypotheses;
    assert_eq!((seen[0].name.as_str(), &seen[1].contradicted_by), ("to copper(I)", &vec!["colourless".to_owned()]));
}

/// 25.00 mL of 1.00 mol/L acid and 3.04 g of carbonate (31.3 mmol of magnesium) make 6.16 g at most; 3.82 g were found. Ten times
/// as strong, the carbonate limits: 7.71 g. A tenth as strong, 0.616 g could be made: 620 %, which cannot be.
#[test]
fn a_strength_ten_times_out_is_put_through_the_same_sheet() {
    use lab::judge::Doubted;
    let bench = Bench::of("epsom-salt")
        .read("m_carbonate", "3.04")
        .read("V_acid", "25.00")
        .read("m_dish", "47.91")
        .read("m_dish_crystals", "51.73");
    let found = Evaluated::of(&bench.practical, &bench.entries).doubts_of("percent_yield");
    let of = |wanted: &Doubted| found.iter().find(|d| d.doubted == *wanted).unwrap();
    let acid = || "sulfuric acid".to_owned();
    let strong = of(&Doubted::TenTimes { material: acid() });
    assert_eq!((strong.percent.as_str(), strong.feasible), ("49.5", true));
    assert_eq!(strong.limits.as_deref(), Some("basic magnesium carbonate"));
    let weak = of(&Doubted::ATenth { material: acid() });
    assert_eq!((weak.percent.as_str(), weak.feasible), ("620", false));
}

/// 3.82 g took 1.95 of the 5 g of water with them; of the 3.05 left, 1.05 evaporated give 0.337·1.05/(0.488 − 0.337·0.512)
/// = 1.1 g more of the hydrate. 5.90 g leave less than the 2 mL to which it would be evaporated.
#[test]
fn a_second_crop_is_worth_it_by_what_the_liquor_holds() {
    let told = |dish: &str| {
        let bench = Bench::of("epsom-salt").read("m_dish", "48.00").read("m_dish_crystals", dish);
        matters(&bench, |m| matches!(m, Matter::SecondCrop { .. } | Matter::NoSecondCrop { .. }))
    };
    assert!(told("51.82").iter().all(|m| matches!(m, Matter::SecondCrop { gain, .. } if gain == "1.1 g")));
    assert_eq!(told("51.82").len(), 1);
    assert!(matches!(&told("53.90")[..], [Matter::NoSecondCrop { worth, .. }] if worth == "0.5 g"));
    assert!(matters(&Bench::of("epsom-salt"), |m| matches!(m, Matter::SecondCrop { .. })).is_empty());
}

/// Where the liquor's volume is read it counts, whatever was planned: of 4.0 mL 2.0 are evaporated, 2.1 g more.
#[test]
fn a_liquor_that_was_read_counts_for_the_second_crop() {
    let file = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../practicals/epsom-salt.practical.toml");
    let reading = "[[readings]]\nsymbol = \"V_liquor\"\nlabel = \"volume of the liquor\"\nshort = \"liquor\"\nunit = \"mL\"\n\
                   instrument = \"Pipette 25 mL\"\ndecimals = 2\nrange = [0, 10]\nexpected = \"3.00\"\n\n[[observations]]";
    let text = std::fs::read_to_string(file).unwrap();
    let text = text.replace("worth = \"0.5 g\"", "worth = \"0.5 g\", liquor = \"V_liquor\"");
    let known = text
        .replacen("[[observations]]", reading, 1)
        .replace("records = [\"m_dish_crystals\"]", "records = [\"m_dish_crystals\", \"V_liquor\"]");
    let bench = Bench::on(&known).read("m_dish", "48.00").read("m_dish_crystals", "51.82");
    let told = |bench: &Bench| matters(bench, |m| matches!(m, Matter::SecondCrop { .. } | Matter::NoSecondCrop { .. }));
    assert!(told(&bench).is_empty(), "it is still to be read");
    assert!(matches!(&told(&bench.read("V_liquor", "4.00"))[..], [Matter::SecondCrop { gain, .. }] if gain == "2.1 g"));
    let errors = practical::check(&text, &practical::School::default()).errors;
    assert!(errors.iter().any(|e| e.to_string().contains("there is no single reading 'V_liquor'")), "{errors:?}");
}

/// 6.73 g of 6.16 g: 0.57 g too much, or 27.3 mL of acid for 25.0, or 1.09 mol/L for 1.00. Three times theory could not come
/// from more acid: the carbonate would run out first.
#[test]
fn a_yield_above_theory_tells_what_each_reason_would_need() {
    let of = |full: &str| {
        let bench = Bench::of("epsom-salt").read("m_carbonate", "3.04").read("V_acid", "25.00");
        let bench = bench.read("m_dish", "48.00").read("m_dish_crystals", full);
        serde_json::to_value(Evaluated::of(&bench.practical, &bench.entries).needed_for("percent_yield")).unwrap()
    };
    let needs = of("54.73");
    assert_eq!((&needs[0]["kind"], &needs[0]["mass"]), (&"weighed".into(), &"0.57 g".into()));
    assert_eq!((&needs[1]["recorded"], &needs[1]["needed"]), (&"25.0 mL".into(), &"27.3 mL".into()));
    assert_eq!((&needs[2]["stated"], &needs[2]["needed"]), (&"1.00 mol/L".into(), &"1.09 mol/L".into()));
    assert_eq!(of("66.50").as_array().unwrap().len(), 1);
    assert_eq!(of("52.00").as_array().unwrap().len(), 0);
}

/// The left-over of copper and silver is seen to cloud or to stay clear; a step that is only for what clouds is left out by
/// who saw it stay clear: it is not what comes next, its readings are not wanted, and nothing is said of it. Before anybody
/// has looked it is still to come.
#[test]
fn what_was_seen_chooses_the_way_on() {
    let file = concat!(env!("CARGO_MANIFEST_DIR"), "/../../practicals/copper-and-silver.practical.toml");
    let text = std::fs::read_to_string(file).unwrap();
    let plain = practical::Practical::parse(&text).unwrap();
    let looked = plain.steps.iter().position(|s| !s.observes.is_empty()).unwrap();
    let symbol = &plain.steps[looked].observes[0];
    let choices = &plain.observation(symbol).unwrap().choices;
    let after = looked + 1;
    let title = format!("title = \"{}\"", plain.steps[after].title);
    let when = |choice: &str| text.replacen(&title, &format!("{title}\nwhen = {{ {symbol} = \"{choice}\" }}"), 1);
    let bench = |seen: Option<&str>| {
        let bench = Bench::on(&when(&choices[0]));
        seen.into_iter().fold(bench, |b, choice| b.saw(symbol, choice))
    };
    let of = u32::try_from(after).unwrap();
    let is_complete = |b: &Bench| b.outcome().complete.contains(&of);
    assert!(!is_complete(&bench(None)) && !is_complete(&bench(Some(&choices[0]))));
    let left = bench(Some(&choices[1]));
    assert!(is_complete(&left));
    let done = (0..of).fold(left, |b, step| b.say(Entry::Step { step, done: true }));
    assert_eq!(done.outcome().next.step, Some(of + 1));
    let told = practical::Practical::parse(&when("no such thing")).unwrap_err().to_string();
    assert!(told.contains("no such thing"), "{told}");
    let early = text.replacen("[[steps]]", &format!("[[steps]]\nwhen = {{ {symbol} = \"{}\" }}", choices[0]), 1);
    assert!(practical::Practical::parse(&early).unwrap_err().to_string().contains("in a step before it"));
}
