//! Each method of a practical, worked by hand from its expected readings (abridged atomic masses).

use lab::evaluated::ResultState;
use lab::plan::plan;
use practical::Practical;

/// A practical made of these materials (symbol, formula, form), readings (symbol, unit, expected, repeated) and methods.
fn practical(
    reactions: &str,
    materials: &[(&str, &str, &str)],
    readings: &[(&str, &str, &str, bool)],
    methods: &str,
    results: &[(&str, &str)],
) -> String {
    let head = format!(
        "format = \"1.0\"\nid = \"m\"\ntitle = \"m\"\nkind = \"\"\nfinds = \"\"\nlevel = \"\"\nvisits = 1\n{reactions}\n"
    );
    let material = |(symbol, formula, form): &(&str, &str, &str)| {
        format!(
            "[[materials]]\nsymbol = \"{symbol}\"\nname = \"{symbol}\"\nformula = \"{formula}\"\nrole = \"sample\"\nform = {form}\n"
        )
    };
    let instrument = |(kind, name, unit)| {
        format!(
            "[[instruments]]\nname = \"{name}\"\nkind = \"{kind}\"\nunit = \"{unit}\"\nresolution = 0.001\ntolerance = 0.001\nrepeatability = 0.001\ncapacity = 500\n"
        )
    };
    let reading = |(symbol, unit, expected, repeated): &(&str, &str, &str, bool)| {
        let instrument = if *unit == "g" { "Balance" } else { "Burette" };
        let repeats = if *repeated { "repeats = { axis = \"trial\", most = 3 }\n" } else { "" };
        format!(
            "[[readings]]\nsymbol = \"{symbol}\"\nlabel = \"{symbol}\"\nshort = \"{symbol}\"\nunit = \"{unit}\"\ninstrument = \"{instrument}\"\ndecimals = 3\nrange = [0, 500]\nexpected = \"{expected}\"\n{repeats}"
        )
    };
    let taken: Vec<String> = readings.iter().map(|r| format!("\"{}\"", r.0)).collect();
    let step = format!("[[steps]]\ntitle = \"all\"\ntext = \"all\"\nrecords = [{}]\n{methods}\n", taken.join(", "));
    let result = |(name, unit): &(&str, &str)| {
        format!(
            "[[results]]\nname = \"{name}\"\nlabel = \"{name}\"\nunit = \"{unit}\"\ndigits = \"as-fewest\"\ntolerance = \"1 %\"\n"
        )
    };
    let mut parts = vec![head];
    parts.extend(materials.iter().map(material));
    parts.extend([("balance", "Balance", "g"), ("burette", "Burette", "mL")].map(instrument));
    parts.extend(readings.iter().map(reading));
    parts.push(step);
    parts.extend(results.iter().map(result));
    parts.concat()
}

fn worked(text: &str) -> Vec<String> {
    let practical = Practical::parse(text).unwrap_or_else(|e| panic!("{e}"));
    let results = plan(&practical).results;
    let shown = |r: &lab::plan::PlannedResult| match &r.planned {
        ResultState::Value(v) => format!("{} {}", v.text, v.unit),
        other => format!("{}: {other:?}", r.name),
    };
    results.iter().map(shown).collect()
}

const SOLID: &str = r#"{ kind = "solid" }"#;

/// 2.000 g of ethanol-free benzanilide, say: the same substance in and out, 1.640 g of 2.000 g.
#[test]
fn recovery_is_what_came_back_of_what_was_taken() {
    let text = practical(
        "",
        &[],
        &[("m_crude", "g", "2.000", false), ("m_pure", "g", "1.640", false)],
        "[[methods]]\nkind = \"recovery\"\ntaken = \"m_crude\"\nrecovered = \"m_pure\"",
        &[("percent_recovery", "%")],
    );
    assert_eq!(worked(&text), ["82.00 %"]);
}

/// 25.00 mL of 0.05000 mol/L Na2CO3 take 24.50 mL of acid, two for each: 2 × 1.250 mmol / 24.50 mL = 0.1020 mol/L.
#[test]
fn a_titrant_is_standardised_against_an_aliquot() {
    let text = practical(
        "[[reactions]]\nequation = \"Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2\"",
        &[
            ("soda", "Na2CO3", r#"{ kind = "solution", strength = "0.05000 mol/L" }"#),
            ("acid", "HCl", r#"{ kind = "solution", strength = "0.1 mol/L" }"#),
        ],
        &[("V_soda", "mL", "25.00", false), ("V_titre", "mL", "24.50", true)],
        "[[methods]]\nkind = \"standardise\"\ntitrant = \"acid\"\nstandard = { material = \"soda\", reading = \"V_soda\" }\ntitre = \"V_titre\"\nlimit = \"0.10 mL\"",
        &[("c_acid", "mol/L")],
    );
    assert_eq!(worked(&text), ["0.1020 mol/L"]);
}

/// 10.00 mL of a tenfold diluted vinegar take 8.40 mL of 0.1000 mol/L base: 0.0840 × 10 = 0.840 mol/L, × 60.052 = 50.4 g/L.
#[test]
fn a_sample_is_titrated_by_aliquot_and_dilution() {
    let text = practical(
        "[[reactions]]\nequation = \"CH3COOH + NaOH -> CH3COONa + H2O\"",
        &[
            ("vinegar", "CH3COOH", r#"{ kind = "solution", strength = "0.8 mol/L" }"#),
            ("base", "NaOH", r#"{ kind = "solution", strength = "0.1000 mol/L" }"#),
        ],
        &[("V_aliquot", "mL", "10.00", false), ("V_titre", "mL", "8.40", true)],
        "[[methods]]\nkind = \"titrate\"\nsample = \"vinegar\"\naliquot = \"V_aliquot\"\ntitrant = \"base\"\ntitre = \"V_titre\"\nlimit = \"0.10 mL\"\ndilution = \"10\"\nas_mass = true",
        &[("c_vinegar", "mol/L"), ("rho_vinegar", "g/L")],
    );
    assert_eq!(worked(&text), ["0.840 mol/L", "50.4 g/L"]);
}

/// 50.00 mL of 0.5000 mol/L acid are 25.00 mmol; 20.00 mL of 0.5000 mol/L base leave 15.00 mmol for the carbonate, two
/// for each: 7.500 mmol × 100.086 g/mol = 0.7506 g in 1.000 g, 75.06 %. Each pair meets in a reaction of its own.
#[test]
fn an_antacid_is_titrated_back() {
    let text = practical(
        "arrangement = \"parallel\"\n[[reactions]]\nequation = \"CaCO3 + 2 HCl -> CaCl2 + H2O + CO2\"\n[[reactions]]\nequation = \"HCl + NaOH -> NaCl + H2O\"",
        &[
            ("antacid", "CaCO3", SOLID),
            ("acid", "HCl", r#"{ kind = "solution", strength = "0.5000 mol/L" }"#),
            ("base", "NaOH", r#"{ kind = "solution", strength = "0.5000 mol/L" }"#),
        ],
        &[("m_tablet", "g", "1.000", false), ("V_acid", "mL", "50.00", false), ("V_titre", "mL", "20.00", true)],
        "[[methods]]\nkind = \"back-titration\"\nsample = \"antacid\"\nexcess = { material = \"acid\", reading = \"V_acid\" }\ntitrant = \"base\"\ntitre = \"V_titre\"\nlimit = \"0.10 mL\"\nsample_mass = \"m_tablet\"",
        &[("n_left", "mmol"), ("n_reacted", "mmol"), ("w_antacid", "%")],
    );
    assert_eq!(worked(&text), ["10.00 mmol", "15.00 mmol", "75.06 %"]);
}

/// 0.515 g of zinc (65.38) and 2.000 g of iodine (126.90): 7.877 mmol and 15.760 mmol of atoms, 2.00 to 1: ZnI2.
#[test]
fn a_formula_counts_atoms_not_molecules() {
    let text = practical(
        "",
        &[("iodine", "I2", SOLID)],
        &[("m_Zn", "g", "0.515", false), ("m_I", "g", "2.000", false)],
        "[[methods]]\nkind = \"empirical-formula\"\nelements = [{ material = \"Zn\", mass = \"m_Zn\" }, { material = \"iodine\", mass = \"m_I\" }]",
        &[("amount_ratio", "1"), ("simplest_formula", "g/mol")],
    );
    assert_eq!(worked(&text), ["2.00 1", "ZnI2 g/mol"]);
}

/// 1.581 g of CaSO4 (136.134) and 0.419 g of water (18.015): 11.613 and 23.258 mmol, 2.003 waters.
#[test]
fn waters_of_crystallisation_from_the_loss() {
    let text = practical(
        "",
        &[("salt", "CaSO4", SOLID), ("water", "H2O", r#"{ kind = "liquid" }"#)],
        &[("m_residue", "g", "1.581", false), ("m_lost", "g", "0.419", false)],
        "[[methods]]\nkind = \"hydrate\"\nanhydrous = \"salt\"\nresidue = \"m_residue\"\nwater = \"water\"\nlost = \"m_lost\"",
        &[("x_water", "1")],
    );
    assert_eq!(worked(&text), ["2.00 1"]);
}

/// Sulfate in a salt as BaSO4: factor 96.056/233.386 = 0.41158; 0.4660 g hold 0.1918 g, 67.53 % of 0.2840 g.
#[test]
fn gravimetry_goes_by_the_factor() {
    let text = practical(
        "[[reactions]]\nequation = \"Ba^2+ + SO4^2- -> BaSO4\"",
        &[("sulfate", "SO4^2-", SOLID), ("precipitate", "BaSO4", SOLID)],
        &[("m_precipitate", "g", "0.4660", false), ("m_sample", "g", "0.2840", false)],
        "[[methods]]\nkind = \"gravimetric\"\nanalyte = \"sulfate\"\nprecipitate = \"precipitate\"\nprecipitate_mass = \"m_precipitate\"\nsample_mass = \"m_sample\"",
        &[("w_sulfate", "%")],
    );
    assert_eq!(worked(&text), ["67.53 %"]);
}

/// 0.90 g and 0.96 g of 2.00 g: 93 %, 0.14 g unaccounted for; the first part is 45 % of the sample.
#[test]
fn a_separation_is_balanced() {
    let text = practical(
        "",
        &[],
        &[("m_acid", "g", "0.900", false), ("m_ester", "g", "0.960", false), ("m_sample", "g", "2.000", false)],
        "[[methods]]\nkind = \"mass-balance\"\nparts = [\"m_acid\", \"m_ester\"]\nwhole = \"m_sample\"\n[[methods]]\nkind = \"mass-fraction\"\ncomponent = \"m_acid\"\nsample = \"m_sample\"",
        &[("recovered", "%"), ("unaccounted", "g"), ("mass_fraction", "%")],
    );
    assert_eq!(worked(&text), ["93.00 %", "0.140 g", "45.0 %"]);
}

/// 5.11 g of KHP (204.222 g/mol) in 250.0 mL: 25.02 mmol, 0.1001 mol/L; 0.1 % above 0.1000 mol/L.
#[test]
fn a_solution_made_and_its_percent_error() {
    let text = practical(
        "",
        &[("khp", "KHC8H4O4", SOLID)],
        &[("m_khp", "g", "5.1100", false), ("V_flask", "mL", "250.00", false)],
        "[[methods]]\nkind = \"solution-made\"\nsolute = { material = \"khp\", reading = \"m_khp\" }\nvolume = \"V_flask\"\n[[methods]]\nkind = \"percent-error\"\nfound = \"c_khp\"\naccepted = \"0.1000 mol/L\"",
        &[("c_khp", "mol/L"), ("percent_error", "%")],
    );
    assert_eq!(worked(&text), ["0.10009 mol/L", "0.09 %"]);
}

/// 2 NaHCO3 → Na2CO3 + …, Na2CO3 + 2 HCl → 2 NaCl + …: 1.680 g (84.006) give 20.00 mmol of NaCl, 1.169 g (58.44).
#[test]
fn ratios_carry_through_a_sequence() {
    let text = practical(
        "[[reactions]]\nequation = \"2 NaHCO3 -> Na2CO3 + H2O + CO2\"\n[[reactions]]\nequation = \"Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2\"",
        &[("start", "NaHCO3", SOLID), ("salt", "NaCl", SOLID)],
        &[("m_start", "g", "1.680", false), ("m_salt", "g", "1.111", false)],
        "[[methods]]\nkind = \"yield\"\nreagent = { material = \"start\", reading = \"m_start\" }\nproduct = \"salt\"\nproduct_mass = \"m_salt\"",
        &[("m_theory", "g"), ("percent_yield", "%")],
    );
    assert_eq!(worked(&text), ["1.169 g", "95.06 %"]);
}

/// Weighing schemes: each gives 0.500 g from its readings, and a tared one has two readings as well.
#[test]
fn every_weighing_scheme_gives_the_net_mass() {
    let text = practical(
        "",
        &[],
        &[
            ("a", "g", "18.500", false),
            ("b", "g", "18.000", false),
            ("c", "g", "0.300", false),
            ("d", "g", "0.500", false),
        ],
        "[[weighings]]\nscheme = \"by-difference\"\nname = \"m_difference\"\nlabel = \"l\"\nbefore = \"a\"\nafter = \"b\"\n\
         [[weighings]]\nscheme = \"container-and-contents\"\nname = \"m_contents\"\nlabel = \"l\"\ngross = \"a\"\ncontainers = [\"b\", \"c\"]\n\
         [[weighings]]\nscheme = \"matched-blank\"\nname = \"m_blank\"\nlabel = \"l\"\ngross = \"a\"\nblank = \"b\"\n\
         [[weighings]]\nscheme = \"tared\"\nname = \"m_tared\"\nlabel = \"l\"\nreading = \"d\"",
        &[("m_difference", "g"), ("m_contents", "g"), ("m_blank", "g"), ("m_tared", "g")],
    );
    assert_eq!(worked(&text), ["0.500 g", "0.200 g", "0.500 g", "0.500 g"]);
    let practical = Practical::parse(&text).unwrap();
    let results = plan(&practical).results;
    let expanded = |name: &str| match &results.iter().find(|r| r.name == name).unwrap().planned {
        ResultState::Value(v) => v.expanded.clone(),
        _ => None,
    };
    assert_eq!(expanded("m_tared"), expanded("m_difference"));
}

/// 1.000 g of magnesium could make 1.000 / 24.305 × 95.205 = 3.917 g of chloride: 3.000 g crude are 76.6 %, and 2.500 g
/// recrystallised 63.8 %; each crop has its own yield and is judged by it.
#[test]
fn two_methods_of_one_kind_have_names_of_their_own() {
    let yields = |first: &str| {
        format!(
            "[[methods]]\nkind = \"yield\"\n{first}reagent = {{ material = \"metal\", reading = \"m_metal\" }}\nproduct = \"salt\"\nproduct_mass = \"m_crude\"\n\
             [[methods]]\nkind = \"yield\"\nas = \"pure\"\nreagent = {{ material = \"metal\", reading = \"m_metal\" }}\nproduct = \"salt\"\nproduct_mass = \"m_pure\""
        )
    };
    let text = |first: &str, names: &[(&str, &str)]| {
        practical(
            "[[reactions]]\nequation = \"Mg + 2 HCl -> MgCl2 + H2\"",
            &[("metal", "Mg", SOLID), ("salt", "MgCl2", SOLID)],
            &[("m_metal", "g", "1.000", false), ("m_crude", "g", "3.000", false), ("m_pure", "g", "2.500", false)],
            &yields(first),
            names,
        )
    };
    let plain = text("", &[("percent_yield", "%"), ("percent_yield_pure", "%")]);
    assert_eq!(worked(&plain), ["76.59 %", "63.82 %"]);
    let both = Practical::parse(&plain).unwrap();
    let pairs: Vec<(String, String)> = both.yields().map(|y| (y.actual, y.percent)).collect();
    let own = |mass: &str, percent: &str| (mass.to_owned(), percent.to_owned());
    assert_eq!(pairs, [own("m_crude", "percent_yield"), own("m_pure", "percent_yield_pure")]);
    assert_eq!(both.labels["m_theory_pure"], format!("{} (pure)", both.labels["m_theory"]));
    let twice = text("", &[("percent_yield", "%")]).replacen("as = \"pure\"\n", "", 1);
    assert!(Practical::parse(&twice).is_err());
    let odd = text("as = \"a b\"\n", &[("percent_yield_pure", "%")]);
    assert!(Practical::parse(&odd).unwrap_err().to_string().contains("letters, digits"));
}
