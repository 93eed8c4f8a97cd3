//! Whether repeats agree, told at the bench: each verdict with a near twin where it must not be given.

use crate::bench::{Bench, matters};
use lab::judge::{ComparedTrials, Matter, Standing};

/// Titres of the vinegar from 0.10 mL on, the first one rough.
fn titres(ends: &[&str]) -> Bench {
    let mut bench = Bench::of("vinegar");
    for (i, end) in ends.iter().enumerate() {
        bench = bench.read(&format!("V_start[{}]", i + 1), "0.10").read(&format!("V_end[{}]", i + 1), end);
    }
    bench
}

/// What is said of the titres.
#[derive(Debug, PartialEq)]
enum Said {
    Nothing,
    /// These trials agree, within this.
    Agree(Vec<u32>, String),
    /// One more; so near are the nearest two.
    OneMore(Option<String>),
}

fn agreement(bench: &Bench) -> Said {
    let said = bench.advice().into_iter().find_map(|a| match a.matter {
        Matter::TitresAgree { titres, range, .. } => {
            assert_eq!((a.step, a.standing), (2, Standing::Settled));
            Some(Said::Agree(titres.iter().filter(|t| t.agrees).map(|t| t.trial).collect(), range.text))
        }
        Matter::OneMore { closest, .. } => {
            assert_eq!((a.step, a.standing), (2, Standing::Waiting));
            Some(Said::OneMore(closest.map(|c| c.text)))
        }
        _ => None,
    });
    said.unwrap_or(Said::Nothing)
}

fn agree(trials: &[u32], range: &str) -> Said {
    Said::Agree(trials.to_vec(), range.into())
}

fn one_more(closest: Option<&str>) -> Said {
    Said::OneMore(closest.map(str::to_owned))
}

/// 21.15 − 0.10 and 21.05 − 0.10 are 0.10 mL apart, exactly the limit; 0.15 mL are too much.
#[test]
fn titres_agree_at_the_limit_and_not_beyond_it() {
    assert_eq!(agreement(&titres(&["21.60", "21.15", "21.05"])), agree(&[2, 3], "0.10 mL"));
    assert_eq!(agreement(&titres(&["21.60", "21.20", "21.05"])), one_more(Some("0.15 mL")));
    // The rough one agrees with the second, and does not count.
    assert_eq!(agreement(&titres(&["21.20", "21.20"])), one_more(None));
    // The fourth decides; what does not agree is left out.
    assert_eq!(agreement(&titres(&["21.60", "21.20", "21.05", "21.10"])), agree(&[3, 4], "0.05 mL"));
}

/// Four accurate titres that rise each time by more than twice the limit in all are a drift, and so are four that fall; in
/// another order, or nearer together, they are scatter. The same at a titration of silver.
#[test]
fn titres_that_move_one_way_are_told() {
    let drifts = |id: &str, ends: &[&str]| {
        let bench = ends.iter().enumerate().fold(Bench::of(id), |b, (i, end)| {
            b.read(&format!("V_start[{}]", i + 1), "0.10").read(&format!("V_end[{}]", i + 1), end)
        });
        let told = bench.advice().into_iter().find_map(|a| match a.matter {
            Matter::OneMore { drift, .. } | Matter::TitresAgree { drift, .. } => Some(drift),
            _ => None,
        });
        told.unwrap()
    };
    for id in ["vinegar", "chloride-by-silver"] {
        assert!(drifts(id, &["21.60", "21.00", "21.15", "21.30", "21.45"]), "{id}");
        assert!(drifts(id, &["21.60", "21.45", "21.30", "21.15", "21.00"]), "{id}");
        assert!(!drifts(id, &["21.60", "21.00", "21.30", "21.15", "21.45"]), "{id}");
        assert!(!drifts(id, &["21.60", "21.00", "21.05", "21.10", "21.15"]), "{id}");
        assert!(!drifts(id, &["21.60", "21.00", "21.15", "21.30"]), "{id}");
    }
}

/// Where three are wanted, two that agree are not enough; the other school takes all of them: 21.10, 21.15 and 21.50 have
/// s = 0.218 mL, 1.03 % of 21.25 mL; 21.10, 21.15 and 21.05 have s = 0.05 mL, 0.24 %.
#[test]
fn the_practical_chooses_how_many_and_by_which_school() {
    let text = |rule: &str| {
        let file = concat!(env!("CARGO_MANIFEST_DIR"), "/../../practicals/vinegar.practical.toml");
        let text = std::fs::read_to_string(file).unwrap();
        assert!(text.contains("limit = \"0.10 mL\""));
        text.replace("limit = \"0.10 mL\"", rule)
    };
    let run = |rule: &str, ends: &[&str]| {
        ends.iter().enumerate().fold(Bench::on(&text(rule)), |b, (i, end)| {
            b.read(&format!("V_start[{}]", i + 1), "0.10").read(&format!("V_end[{}]", i + 1), end)
        })
    };
    let three = "limit = \"0.10 mL\"\ntrials = 3";
    let two_agree = run(three, &["21.60", "21.20", "21.25"]);
    assert_eq!(agreement(&two_agree), one_more(Some("0.05 mL")));
    assert_eq!(agreement(&run(three, &["21.60", "21.20", "21.25", "21.15"])), agree(&[2, 3, 4], "0.10 mL"));

    let scatter = |ends: &[&str]| {
        let told = matters(&run("rsd = \"0.3 %\"\ntrials = 3", ends), |m| {
            matches!(m, Matter::TrialsAgree { .. } | Matter::AnotherTrial { .. })
        });
        match &told[..] {
            [Matter::TrialsAgree { of: ComparedTrials::Titres, rsd, .. }] => Ok(rsd.text.clone()),
            [Matter::AnotherTrial { of: ComparedTrials::Titres, rsd, scattered, .. }] => {
                Err((rsd.as_ref().map(|r| r.text.clone()), *scattered))
            }
            other => panic!("{other:?}"),
        }
    };
    assert_eq!(scatter(&["21.60", "21.20"]), Err((None, false)));
    assert_eq!(scatter(&["21.60", "21.20", "21.25", "21.60"]), Err((Some("1.03 %".into()), true)));
    assert_eq!(scatter(&["21.60", "21.20", "21.25", "21.15"]), Ok("0.24 %".into()));
    // Both is told when the practical is read.
    let told = practical::Practical::parse(&text("limit = \"0.10 mL\"\nrsd = \"0.3 %\"")).map(|_| ()).unwrap_err();
    assert!(told.to_string().contains("titres agree within a limit, or by their rsd: say one of them"), "{told}");
}

/// Left to the instruments: two readings of a burette (0.02 mL repeatability, 0.05 mL steps) and half a drop are 0.038 mL
/// of 21 mL, 0.18 %; twice that is 0.36 %, and three trials are wanted.
#[test]
fn a_limit_left_to_the_instruments_is_twice_what_they_let_expect() {
    let file = concat!(env!("CARGO_MANIFEST_DIR"), "/../../practicals/vinegar.practical.toml");
    let text = std::fs::read_to_string(file).unwrap().replace("limit = \"0.10 mL\"", "");
    let run = |ends: &[&str]| {
        let bench = ends.iter().enumerate().fold(Bench::on(&text), |b, (i, end)| {
            b.read(&format!("V_start[{}]", i + 1), "0.10").read(&format!("V_end[{}]", i + 1), end)
        });
        matters(&bench, |m| matches!(m, Matter::TrialsAgree { .. } | Matter::AnotherTrial { .. })).remove(0)
    };
    assert!(matches!(
        run(&["21.60", "21.20", "21.25"]),
        Matter::AnotherTrial { trials: 2, wanted: 3, scattered: false, .. }
    ));
    let Matter::TrialsAgree { limit, .. } = run(&["21.60", "21.20", "21.25", "21.15"]) else { panic!("they agree") };
    assert!((0.30..0.42).contains(&limit.value), "{limit:?}");
    // One of four spoils it, and is named; with three nobody can say which.
    let spoilt = |ends: &[&str]| match run(ends) {
        Matter::AnotherTrial { scattered: true, spoiled_by, .. } => spoiled_by,
        other => panic!("{other:?}"),
    };
    assert_eq!(spoilt(&["21.60", "21.20", "21.25", "21.80", "21.20"]), Some(4));
    assert_eq!(spoilt(&["21.60", "21.20", "22.20", "21.70"]), None);
}

#[test]
fn nothing_is_said_before_both_readings_are_there() {
    assert_eq!(agreement(&titres(&[])), Said::Nothing);
    let second_open =
        Bench::of("vinegar").read("V_start[2]", "0.10").read("V_start[3]", "0.10").read("V_end[3]", "21.10");
    assert_eq!(agreement(&second_open), one_more(None));
    assert_eq!(agreement(&Bench::of("vinegar").read("V_end[2]", "21.10").read("V_end[3]", "21.10")), Said::Nothing);
}

/// One trial of the standardisation: phthalate weighed by difference, burette from 0.10 mL.
fn trial(bench: Bench, n: u32, mass: f64, titre: f64) -> Bench {
    let (at, end) = (|symbol: &str| format!("{symbol}[{n}]"), format!("{:.2}", titre + 0.10));
    bench
        .read(&at("m_before"), "12.000")
        .read(&at("m_after"), &format!("{:.3}", 12.0 - mass))
        .read(&at("V_start"), "0.10")
        .read(&at("V_end"), &end)
}

/// c = m/(M·V) with M = 204.22 g/mol: 0.500 g in 25.00 mL is 0.09794 mol/L, 0.460 g in 23.00 mL the same, though the
/// titres are 2 mL apart. In 22.70 mL it is 0.09923: s/mean of the two is 0.93 %, of three 0.76 %.
#[test]
fn of_weighed_standards_the_concentrations_agree_not_the_titres() {
    let told = |bench: &Bench| {
        bench.advice().into_iter().find_map(|a| match a.matter {
            Matter::TrialsAgree { of: ComparedTrials::Concentrations, trials, rsd, .. } => {
                Some((trials, Some(rsd.text), true))
            }
            Matter::AnotherTrial { trials, rsd, .. } => Some((trials, rsd.map(|r| r.text), false)),
            Matter::TitresAgree { .. } | Matter::OneMore { .. } => panic!("titres differ by right"),
            _ => None,
        })
    };
    let rough = trial(Bench::of("sodium-hydroxide-standard"), 1, 0.480, 24.60);
    assert_eq!(told(&rough), None);
    let one = trial(rough, 2, 0.500, 25.00);
    assert_eq!(told(&one), Some((1, None, false)));
    let two = trial(one, 3, 0.460, 23.00);
    assert_eq!(told(&two), Some((2, Some("0.00 %".into()), false)), "three are wanted");
    assert_eq!(told(&trial(two.clone(), 4, 0.520, 26.00)), Some((3, Some("0.00 %".into()), true)));
    let (trials, rsd, done) = told(&trial(two, 4, 0.460, 22.70)).unwrap();
    assert_eq!((trials, rsd.as_deref(), done), (3, Some("0.76 %"), false));
}

/// 0.480 g took 24.60 mL, so 0.500 g take 24.60 × 0.500/0.480 = 25.6 mL; from 0.10 mL on, one millilitre before is
/// 24.7, to the half below 24.5 mL.
#[test]
fn the_next_titre_is_foretold_from_the_rough_one_and_the_mass() {
    let next = |bench: &Bench| {
        bench.advice().into_iter().find_map(|a| match a.matter {
            Matter::NextTitre { trial, about, slow_from, on_scale } => Some((trial, about, slow_from, on_scale)),
            _ => None,
        })
    };
    let rough = trial(Bench::of("sodium-hydroxide-standard"), 1, 0.480, 24.60);
    assert_eq!(next(&rough), None, "the mass of the second trial is not there yet");
    let weighed = rough.read("m_before[2]", "12.000").read("m_after[2]", "11.500");
    assert_eq!(next(&weighed), Some((2, "25.6 mL".into(), "24.5 mL".into(), false)));
    let set_up = weighed.read("V_start[2]", "0.10");
    assert_eq!(next(&set_up), Some((2, "25.6 mL".into(), "24.5 mL".into(), true)));
    // Of aliquots all take the same; after titres that agree nobody is sent back to the burette.
    assert_eq!(next(&titres(&["21.60"])), Some((2, "21.5 mL".into(), "20.5 mL".into(), false)));
    assert_eq!(next(&titres(&["21.60", "21.20", "21.15"])), None);
}

/// What is said of a mass that is weighed until it is constant, as it is written.
#[derive(Debug, PartialEq)]
enum Dry {
    OnceAgain(Option<String>, String),
    Constant(String, String),
    Waived(String),
}

fn dryness(bench: &Bench) -> Vec<Dry> {
    let said = bench.advice().into_iter().filter_map(|a| match a.matter {
        Matter::OnceAgain { difference, within } => Some(Dry::OnceAgain(difference.map(|d| d.text), within.text)),
        Matter::ConstantMass { difference, within } => Some(Dry::Constant(difference.text, within.text)),
        Matter::WeighedOnce { because } => Some(Dry::Waived(because)),
        _ => None,
    });
    said.collect()
}

/// Within 0.003 g the crucible is dry; the last two count, not the nearest two.
#[test]
fn a_mass_is_constant_when_the_last_two_agree() {
    let heated = |masses: &[&str]| {
        let mut bench = Bench::of("gypsum-water");
        for (i, mass) in masses.iter().enumerate() {
            bench = bench.read(&format!("m_heated[{}]", i + 1), mass);
        }
        dryness(&bench)
    };
    let again = |d: Option<&str>| vec![Dry::OnceAgain(d.map(str::to_owned), "0.003 g".into())];
    let constant = |d: &str| vec![Dry::Constant(d.into(), "0.003 g".into())];
    assert_eq!(heated(&[]), []);
    assert_eq!(heated(&["33.081"]), again(None));
    assert_eq!(heated(&["33.141", "33.081"]), again(Some("0.060 g")));
    assert_eq!(heated(&["33.141", "33.084", "33.081"]), constant("0.003 g"));
    // Regained moisture is no agreement either.
    assert_eq!(heated(&["33.081", "33.085"]), again(Some("0.004 g")));
    assert_eq!(heated(&["33.081", "33.081", "33.090"]), again(Some("0.009 g")));
}

/// Weighed once and again on the same line (51.84, then 51.83); a waiver needs its reason and stays doubtful.
#[test]
fn a_mass_is_provisional_until_weighed_again_or_waived() {
    let once = Bench::of("epsom-salt").read("m_dish_crystals", "51.84");
    let within = || "0.02 g".to_owned();
    assert_eq!(dryness(&once), [Dry::OnceAgain(None, within())]);
    let again = once.clone().read_on_the_way("m_dish_crystals", &["51.84"], "51.83");
    assert_eq!(dryness(&again), [Dry::Constant("0.01 g".into(), within())]);
    let drying = once.clone().read_on_the_way("m_dish_crystals", &["51.93"], "51.84");
    assert_eq!(dryness(&drying), [Dry::OnceAgain(Some("0.09 g".into()), within())]);
    let waived =
        once.departed(lab::bench::Departure::WeighedOnce { reading: "m_dish_crystals".into() }, "the bell rang");
    assert_eq!(dryness(&waived), [Dry::Waived("the bell rang".into())]);
}

/// Once two titres agree, the third and its weighings need not be taken; before that they are asked for. Points and
/// portions are asked for one by one, and nothing that is there is spared.
#[test]
fn repeats_that_are_not_needed_are_spared() {
    let spared = |bench: &Bench| bench.outcome().spared.into_iter().collect::<Vec<_>>();
    assert_eq!(spared(&titres(&["21.60", "21.20"])), Vec::<String>::new());
    let agree = spared(&titres(&["21.60", "21.15", "21.10"]));
    assert!(agree.contains(&"V_end[4]".to_owned()) && !agree.contains(&"V_end[3]".to_owned()), "{agree:?}");
}
