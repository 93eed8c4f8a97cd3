//! The built-in library: every file is sound, contradicts itself nowhere, and comes out as worked here by hand from its
//! own expected readings and the abridged atomic masses.

use crate::bench::Bench;
use lab::evaluated::ResultState;
use lab::judge::Matter;
use lab::plan::{Combination, Consequence, Note, plan, planned_readings};
use practical::file::{Form, Role};
use practical::substance::{statement, substances};
use practical::technique::{technique, techniques};
use practical::{Practical, check};
use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;

fn library() -> BTreeMap<String, String> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../practicals");
    let files = std::fs::read_dir(folder).unwrap().map(|f| f.unwrap().path());
    let named = files.filter(|f| f.to_string_lossy().ends_with(".practical.toml"));
    named
        .map(|f| {
            let name = f.file_name().unwrap().to_string_lossy().replace(".practical.toml", "");
            (name, std::fs::read_to_string(f).unwrap())
        })
        .collect()
}

/// One fact, one figure: with every reading as planned, the bench says of an excess what the plan says.
#[test]
fn the_bench_and_the_plan_say_one_figure() {
    let mut compared = 0;
    for text in library().values() {
        let bench = Bench::on(text);
        let planned = planned_readings(&bench.practical);
        let taken = planned.iter().fold(bench, |bench, (slot, value)| {
            let decimals = bench.practical.reading(slot).unwrap().decimals as usize;
            bench.read(slot, &format!("{:.decimals$}", value.to_f64()))
        });
        let over = |material: &str| {
            taken.advice().into_iter().find_map(|a| match a.matter {
                Matter::TakenIsEnough { material: m, over } if m == material => Some(over),
                _ => None,
            })
        };
        for note in plan(&taken.practical).notes {
            let Consequence::InExcess { material, percent, .. } = note.what else { continue };
            if let Some(over) = over(&material) {
                assert_eq!(over, percent, "{}: {material}", taken.practical.file.id);
                compared += 1;
            }
        }
    }
    assert!(compared >= 3, "{compared} compared");
}

/// What a practical is told of and does all the same, since it is what it is about; its steps say how to live with it.
const MEANT: [(&str, Combination); 5] = [
    // The gas is collected; no flame in the room.
    ("magnesium-by-gas", Combination::MetalAndAcid),
    // The sulfur is what is watched; window or fume cupboard, and into carbonate at once.
    ("cross-and-clock", Combination::AcidOnSulfite),
    ("magnesium-rate", Combination::MetalAndAcid),
    ("clock-and-temperature", Combination::AcidOnSulfite),
    // Iodine takes the thiosulfate before the acid does.
    ("thiosulfate-by-iodate", Combination::AcidOnSulfite),
];

#[test]
fn every_file_is_sound_and_contradicts_itself_nowhere() {
    let library = library();
    assert!(library.len() >= 20);
    for (name, text) in &library {
        let checked = check(text, &practical::School::default());
        assert!(checked.errors.is_empty(), "{name}: {}", checked.errors[0]);
        let practical = checked.practical.unwrap();
        assert_eq!(practical.file.id, *name);
        let plan = plan(&practical);
        let recipes = plan.recipes.iter().flat_map(|r| &r.notes);
        let meant = |n: &&Note| matches!(&n.what, Consequence::Together { danger, .. } if MEANT.contains(&(name.as_str(), *danger)));
        let warned: Vec<_> = plan.notes.iter().chain(recipes).filter(|n| n.warns).filter(|n| !meant(n)).collect();
        assert!(warned.is_empty(), "{name}: {warned:?}");
    }
}

/// What a teacher, a technician and the slowest group need to find in each.
#[test]
fn every_file_says_what_its_readers_need() {
    for (name, text) in library() {
        let practical = Practical::parse(&text).unwrap();
        let file = &practical.file;
        assert!(!file.level.is_empty() && !file.disposal.is_empty() && !file.class.is_empty(), "{name}");
        assert!(!file.typical_errors.is_empty() && !file.questions.is_empty(), "{name}: errors and questions");
        assert!(practical.steps.iter().any(|s| s.cautions.iter().any(|c| c.contains("Goggles"))), "{name}: goggles");
        assert!(practical.steps.iter().all(|s| s.minutes.is_some() || s.wait.is_some()), "{name}: times");
        assert!(practical.results.iter().any(|r| r.asked), "{name}: nothing is asked");
        let worded = practical.steps.iter().all(|s| s.technique.is_some() || s.records.is_empty());
        assert!(worded, "{name}: a step that records has a technique");
        for hazard in practical.materials.iter().flat_map(|m| &m.hazards) {
            let code = hazard.split(' ').next().unwrap();
            assert_eq!(statement(code).as_deref(), Some(hazard.as_str()), "{name}: not the exact wording");
        }
    }
}

/// A pure solid or liquid has the hazards that the Handbook gives it: one fact, said once.
#[test]
fn hazards_agree_with_the_handbook() {
    for (name, text) in library() {
        for m in Practical::parse(&text).unwrap().file.materials {
            let pure = matches!(m.form, Form::Solid { .. } | Form::Liquid { .. });
            let known =
                substances().iter().find(|s| pure && m.formula.as_deref() == Some(&s.formula) && s.name == m.name);
            let Some(form) = known.and_then(|s| s.forms.first()) else { continue };
            let codes: Vec<&str> = m.hazards.iter().filter_map(|h| h.split(' ').next()).collect();
            assert_eq!(codes, form.hazards, "{name}: {}", m.name);
        }
    }
}

#[test]
fn between_them_they_use_every_role_form_technique_group_and_method() {
    let all: Vec<Practical> = library().values().map(|t| Practical::parse(t).unwrap()).collect();
    let roles: BTreeSet<String> = all.iter().flat_map(|p| &p.materials).map(|m| format!("{:?}", m.role)).collect();
    for role in [Role::Limiting, Role::Excess, Role::Product, Role::Catalyst, Role::Solvent, Role::Quench, Role::Wash] {
        assert!(roles.contains(&format!("{role:?}")), "{role:?}");
    }
    for role in [Role::Indicator, Role::Seed, Role::Test, Role::Titrant, Role::Standard, Role::Sample] {
        assert!(roles.contains(&format!("{role:?}")), "{role:?}");
    }
    let forms = || all.iter().flat_map(|p| &p.file.materials).map(|m| &m.form);
    assert!(forms().any(|f| matches!(f, Form::Solution { strength, .. } if strength.contains("w/w"))));
    assert!(forms().any(|f| matches!(f, Form::Liquid { density: Some(_), .. })));
    let used: BTreeSet<&str> = all
        .iter()
        .flat_map(|p| &p.steps)
        .filter_map(|s| Some(technique(s.technique.as_deref()?)?.group.as_str()))
        .collect();
    let groups: BTreeSet<&str> = techniques().iter().map(|t| t.group.as_str()).collect();
    assert_eq!(used, groups);
    let kinds = |text: &str| -> Vec<String> {
        let methods = text.split("[[methods]]\n").skip(1);
        methods
            .filter_map(|m| Some(m.lines().next()?.trim_start_matches("kind = ").trim_matches('"').to_owned()))
            .collect()
    };
    let methods: BTreeSet<String> = library().values().flat_map(|t| kinds(t)).collect();
    for kind in [
        "limiting-yield",
        "yield",
        "recovery",
        "standardise",
        "titrate",
        "back-titration",
        "empirical-formula",
        "hydrate",
        "mass-fraction",
        "gravimetric",
        "mass-balance",
        "solution-made",
        "percent-error",
        "calibration",
        "calorimetry",
        "gas",
        "charge",
    ] {
        assert!(methods.contains(kind), "{kind}");
    }
}

/// A result with the expected readings put in, in its own unit; right to a tenth of a percent.
#[test]
#[allow(clippy::excessive_precision)] // molar masses as the table adds up
fn every_file_comes_out_as_worked_by_hand() {
    let rows: [(&str, &str, f64); 54] = [
        // 25.00 mL of 1.00 mol/L; M(MgSO4·7H2O) = 24.305 + 32.06 + 4 × 15.999 + 7 × 18.015
        ("epsom-salt", "m_theory", 0.02500 * 1.00 * 246.466),
        // M(KHC8H4O4) = 39.098 + 8 × 12.011 + 5 × 1.008 + 4 × 15.999
        ("sodium-hydroxide-standard", "c_base", 0.500 / 204.222 / 0.02516),
        ("zinc-iodide", "amount_ratio", (2.000 / 126.90) / ((1.500 - 0.985) / 65.38)),
        ("gypsum-water", "x_water", (0.419 / 18.015) / (1.581 / 136.134)),
        ("strontium-sulfate", "m_theory", 0.02000 * 0.200 * 183.676),
        // M(FeSO4·7H2O) = 278.006, M((NH4)2Fe(SO4)2·6H2O) = 392.125
        ("double-salt", "m_theory", 6.95 / 278.006 * 392.125),
        ("double-salt", "percent_yield", 100.0 * (8.02 - 0.62) / (6.95 / 278.006 * 392.125)),
        // one carbonate takes two
        ("hydrochloric-acid-standard", "c_acid", 2.0 * (0.130 / 105.988) / 0.02424),
        // one permanganate takes five irons
        ("iron-by-permanganate", "w_iron", 100.0 * 0.02550 * 0.0200 * 5.0 * 55.845 / 1.000),
        ("water-hardness", "c_calcium", 15.00 * 10.00 / 50.00),
        ("water-hardness", "rho_calcium", 15.00 * 10.00 / 50.00 * 100.086),
        ("chloride-by-silver", "c_brine", 22.50 * 0.0500 / 25.00 * (100.0 / 10.0)),
        ("vinegar", "c_vinegar", 21.00 * 0.1000 / 25.00 * (250.0 / 25.0)),
        // 12.5 mmol added, 4.5 left, two for each carbonate
        ("antacid", "w_antacid", 100.0 * (25.00 * 0.500 - 22.50 * 0.2000) / 2.0 * 100.086 / 500.0),
        ("copper-and-silver", "silver_per_copper", (0.616 / 107.87) / (0.187 / 63.546)),
        // M(SO4) / M(BaSO4) = 96.056 / 233.386
        ("sulfate-by-barium", "w_sulfate", 100.0 * 0.493 * 96.056 / 233.386 / 0.300),
        ("soda-in-two-steps", "soda_yield", 100.0 * 1.262 / (2.000 / 84.006 / 2.0 * 105.988)),
        ("soda-in-two-steps", "percent_yield", 100.0 * 1.364 / (2.000 / 84.006 * 58.440)),
        ("ethyl-ethanoate", "m_theory", 15.0 * 1.049 / 60.052 * 88.106),
        ("benzylbenzamide", "m_theory", 1.90 * 0.981 / 107.156 * 211.264),
        ("unknown-by-melting", "depression", 132.0 - 102.0),
        ("acid-base-separation", "recovered", 100.0 * ((1.520 - 0.620) + (1.540 - 0.620)) / 2.000),
        // c = 0.0692 g / 345.92 g/mol / 2.00 mL; χ = 3 × 1.480 ppm / (4 π c) + 0.000 225; μ = 2.828 √(χ T)
        ("nickel-complex", "moment", {
            let c = 0.0692 / 345.925 / 2.00;
            let chi: f64 = 3.0 * 1.480e-6 / (4.0 * std::f64::consts::PI * c) + 0.000_225;
            2.828 * (chi * 298.15).sqrt()
        }),
        ("copper-series", "c_copper", 6.240 / 249.677 / 0.2500),
        // a tenth of the flask; one carbonate takes two
        ("carbonate-flask", "c_soda", 1.300 / 105.988 / 0.2500),
        ("carbonate-flask", "c_acid", 2.0 * (1.300 / 105.988 / 10.0) / 0.02453),
        // one iodate sets three iodine free, each takes two thiosulfate; M(KIO3) = 39.098 + 126.90 + 3 × 15.999
        ("thiosulfate-by-iodate", "c_thio", 6.0 * (0.890 / 213.995 / 10.0) / 0.02495),
        // two permanganate for five peroxide, one in twenty-five
        ("peroxide-by-permanganate", "c_peroxide", 2.5 * 17.65 * 0.02000 / 25.00 * 25.0),
        ("peroxide-by-permanganate", "rho_peroxide", 2.5 * 17.65 * 0.02000 / 25.00 * 25.0 * 34.014),
        // 26.7 … 26.0 °C at 4 to 10 min: mean 184.5/7 at 7 min, slope −3.4/28 K/min, carried back four minutes
        ("neutralisation-heat", "warmed", 184.5 / 7.0 + 4.0 * 3.4 / 28.0 - 60.4 / 3.0),
        ("neutralisation-heat", "enthalpy", -100.0 * 4.18 * (184.5 / 7.0 + 4.0 * 3.4 / 28.0 - 60.4 / 3.0) / 50.00),
        ("cold-salt", "enthalpy", 50.0 * 4.18 * 7.0 / (5.00 / 53.489) / 1000.0),
        // 2, 4, … 10 mL of 0.500 mmol/L in 25 mL are steps of 0.04 mmol/L: Σ (i − 3)·A over 10 steps
        ("permanganate-by-line", "line_slope", (-2.0 * 0.098 - 0.193 + 0.383 + 2.0 * 0.481) / (10.0 * 0.04)),
        // p = 101.0 − 2.488 − 0.588 kPa at 21.0 °C (2488 Pa: table of IAPWS), h = 60 mm
        ("magnesium-by-gas", "p_gas", 101.0 - 2.488 - 0.5884),
        ("copper-by-current", "m_theory", 0.400 * 1800.0 / 96_485.332 / 2.0 * 63.546),
        // 50 mL of 0.150 mol/L in 55 mL
        ("cross-and-clock", "c_largest", 0.150 * 50.0 / 55.0),
        ("lime-water", "c_lime", 20.50 * 0.0500 / 2.0 / 25.00),
        // 23.28 mL of 0.00500 mol/L take five irons each, a tenth of the flask, of five tablets
        ("iron-tablets", "m_iron", 23.28 * 0.00500 * 5.0 * 10.0 * 55.845 / 5.0),
        ("half-way", "c_weak", 25.00 * 0.1000 / 25.00),
        // 25, 10, 4, 1.5 mL of 0.500 mol/L in 50 mL: lg c by hand, slope of four points
        ("cells-and-concentration", "slope_found", {
            let lg: [f64; 4] = [0.250f64.log10(), 0.100f64.log10(), 0.0400f64.log10(), 0.0150f64.log10()];
            let (volts, mean) = ([1083.0, 1071.5, 1060.0, 1047.5], lg.iter().sum::<f64>() / 4.0);
            let above: f64 = lg.iter().zip(volts).map(|(x, y)| (x - mean) * y).sum();
            above / lg.iter().map(|x| (x - mean).powi(2)).sum::<f64>()
        }),
        // 0.225/4700 = 0.047 87 mmol/L bound of 1.00 and 0.40, and so on
        ("iron-thiocyanate", "x_largest", 0.530 / 4700.0 * 1000.0),
        ("iron-thiocyanate", "K_c", {
            let of = |a: f64, b: f64| {
                let x = a / 4700.0;
                x / ((0.001 - x) * (b - x))
            };
            (of(0.225, 0.0004) + of(0.330, 0.0006) + of(0.432, 0.0008) + of(0.530, 0.0010)) / 4.0
        }),
        ("brine-by-evaporation", "mass_fraction", 100.0 * 2.00 / 20.00),
        // 25.16 mL of 0.1000 mol/L, two for each carbonate: 12.58 mmol in the flask, 1.333 g of 3.60 g
        ("washing-soda", "m_dry", 0.02516 * 0.1000 / 2.0 * 10.0 * 105.988),
        ("washing-soda", "x_water", {
            let soda = 0.02516 * 0.1000 / 2.0 * 10.0;
            (3.60 - soda * 105.988) / 18.015 / soda
        }),
        ("spirit-burner", "enthalpy", -150.0 * 4.18 * 30.5 / (1.08 / 46.069) / 1000.0),
        ("spirit-burner", "lost", 100.0 * (1.0 - 150.0 * 4.18 * 30.5 / (1.08 / 46.069) / 1000.0 / 1367.0)),
        // Σ t·V/Σ t² of 10, 20, 30, 40 s
        ("magnesium-rate", "rate_strong", (100.0 + 400.0 + 885.0 + 1540.0) / 3000.0),
        // p·V/(R·T) of 100.8 kPa, (360.6 − 92.143)/0.998 mL, 372.65 K
        ("volatile-liquid", "molar_mass", {
            let n = 100.8 * (360.6 - 92.143) / 0.998 / 1000.0 / (8.314_462_6 * 372.65);
            0.508 / n
        }),
        ("vitamin-tablet", "m_tablet", 28.40 * 0.01000 * 10.0 * 176.124),
        // ln(96/17) over 1/293.15 − 1/325.15 is 5157 K; the five points together 5170 K
        ("clock-and-temperature", "E_a", 8.314 * 5170.0 / 1000.0),
        ("freezing-point", "molar_mass", 3.00 / (1.9 / 1.86 * 0.05000)),
        // At 5, 10, 15, 20 %: slope of 1.018, 1.038, 1.0592, 1.0808; 1.042 read off it
        ("sugar-by-density", "read_off", {
            let slope = (-1.5 * 1.018 - 0.5 * 1.038 + 0.5 * 1.0592 + 1.5 * 1.0808) / (5.0 * 0.05);
            100.0 * (0.125 + (1.042 - (1.018 + 1.038 + 1.0592 + 1.0808) / 4.0) / slope)
        }),
        ("buffer", "exponent", 5.00 - (6.38f64 / (10.00 - 6.38)).log10()),
    ];
    let library = library();
    for (name, result, expected) in rows {
        let practical = Practical::parse(&library[name]).unwrap();
        let planned = plan(&practical).results.into_iter().find(|r| r.name == result).unwrap().planned;
        let ResultState::Value(found) = planned else { panic!("{name}: {planned:?}") };
        let off = (found.value / expected - 1.0).abs();
        assert!(off < 0.001, "{name}, {result}: {} for {expected}", found.value);
    }
    let worked: BTreeSet<&str> = rows.iter().map(|(name, ..)| *name).collect();
    let files: BTreeSet<&str> = library.keys().map(String::as_str).collect();
    assert_eq!(worked, files, "each file has a worked example");
}

/// The example of docs/format.md. By hand: 0.981 g of AgCl (143.32 g/mol) hold 0.2427 g of chloride, 60.7 % of 0.400 g.
#[test]
fn the_documented_example_is_a_practical() {
    let page = include_str!("../../../../docs/format.md");
    let example =
        page.split("```toml\n").find(|block| block.starts_with("format = ")).unwrap().split("```").next().unwrap();
    let practical = Practical::parse(example).unwrap_or_else(|e| panic!("{e}"));
    let plan = plan(&practical);
    assert!(plan.notes.iter().all(|n| !n.warns), "{:?}", plan.notes);
    assert_eq!(serde_json::to_value(&plan.results[0].planned).unwrap()["text"], "60.7");
}
