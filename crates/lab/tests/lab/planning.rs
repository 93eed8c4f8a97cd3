//! What a plan is checked for: each check has a case where it speaks and a near twin where it must not.
//!
//! Every case is a practical of the library with something changed in its text. Figures are worked by hand from the
//! abridged atomic masses.

use lab::plan::plan;
use practical::{School, check};
use serde_json::Value;

const EPSOM: &str = include_str!("../../../../practicals/epsom-salt.practical.toml");
const GYPSUM: &str = include_str!("../../../../practicals/gypsum-water.practical.toml");
const IODIDE: &str = include_str!("../../../../practicals/zinc-iodide.practical.toml");
const SODIUM: &str = include_str!("../../../../practicals/sodium-hydroxide-standard.practical.toml");
const VINEGAR: &str = include_str!("../../../../practicals/vinegar.practical.toml");
const HARDNESS: &str = include_str!("../../../../practicals/water-hardness.practical.toml");
const ESTER: &str = include_str!("../../../../practicals/ethyl-ethanoate.practical.toml");
const STRONTIUM: &str = include_str!("../../../../practicals/strontium-sulfate.practical.toml");

/// The consequences of one kind, after each `from` was replaced by its `to`.
fn told(base: &str, changes: &[(&str, &str)], kind: &str) -> Vec<Value> {
    let text = changes.iter().fold(base.to_owned(), |text, (from, to)| {
        assert!(text.contains(from), "'{from}' is not in the text");
        text.replacen(from, to, 1)
    });
    let checked = check(&text, &School::default());
    let practical = checked.practical.unwrap_or_else(|| panic!("{}", checked.errors[0]));
    let notes = plan(&practical).notes.into_iter();
    let told = notes.map(|n| (n.warns, serde_json::to_value(&n.what).unwrap()));
    let of_kind = told.filter(|(_, what)| what["kind"] == kind);
    of_kind
        .map(|(warns, mut what)| {
            what["warns"] = warns.into();
            what
        })
        .collect()
}

/// The first of that kind.
fn first(base: &str, changes: &[(&str, &str)], kind: &str) -> Value {
    told(base, changes, kind).into_iter().next().unwrap_or_else(|| panic!("nothing of the kind {kind}"))
}

fn silent(base: &str, changes: &[(&str, &str)], kind: &str) {
    let found: Vec<Value> = told(base, changes, kind).into_iter().filter(|w| w["warns"] == true).collect();
    assert!(found.is_empty(), "{found:?}");
}

/// Whatever stands in the library contradicts itself nowhere.
#[test]
fn nothing_in_the_library_is_warned_of() {
    for text in [EPSOM, GYPSUM, IODIDE, SODIUM, STRONTIUM] {
        let practical = check(text, &School::default()).practical.unwrap();
        let plan = plan(&practical);
        let recipes = plan.recipes.iter().flat_map(|r| &r.notes);
        let warned: Vec<_> = plan.notes.iter().chain(recipes).filter(|n| n.warns).collect();
        assert!(warned.is_empty(), "{}: {warned:?}", practical.file.id);
    }
}

/// 25.0 mmol of acid take 5.00 mmol × 485.646 g/mol = 2.428 g; 2.4 g of the band are 99 % of that.
#[test]
fn near_the_edge() {
    let carbonate = |planned| first(EPSOM, &[("planned = \"3.0 ± 0.1 g\"", planned)], "in-excess");
    let near = carbonate("planned = \"2.5 ± 0.1 g\"");
    assert_eq!((&near["near_edge"], &near["low"], &near["enough"]), (&true.into(), &"-1".into(), &"2.43 g".into()));
    assert_eq!(carbonate("planned = \"2.8 ± 0.1 g\"")["near_edge"], false);
    assert_eq!(
        first(EPSOM, &[("planned = \"3.0 ± 0.1 g\"", "planned = \"2.0 g\"")], "not-the-one-meant")["warns"],
        true
    );
    silent(EPSOM, &[], "not-the-one-meant");
}

/// M(SrCl2·6H2O) = 266.61 g/mol: 28.3 mL × 0.200 mol/L = 5.66 mmol suffice for 1.509 g, and somebody takes 1.52 g.
#[test]
fn a_volume_that_no_longer_suffices() {
    let with = |volume| {
        let roles = [
            ("role = \"excess\"", "role = \"limiting\""),
            ("role = \"limiting\"\nform = { kind = \"solution\"", "role = \"excess\"\nform = { kind = \"solution\""),
        ];
        first(STRONTIUM, &[roles[0], roles[1], ("planned = \"20.0 ± 0.3 mL\"", volume)], "enough-up-to")
    };
    let short = with("planned = \"28.3 mL\"");
    assert_eq!((&short["enough"], &short["upto"], &short["band"]), (&false.into(), &"1.51 g".into(), &"1.52 g".into()));
    assert_eq!(with("planned = \"29.0 mL\"")["enough"], true);
}

/// 3.0 g of carbonate hold 30.9 mmol of magnesium: 25.0 mL of acid of 1.24 mol/L would use it all.
#[test]
fn the_value_at_which_another_reagent_limits() {
    let strength = |range| first(EPSOM, &[("1.00 ± 0.003 mol/L", range)], "flip");
    let inside = strength("1.0 to 1.3 mol/L");
    assert_eq!((&inside["inside"], &inside["at"]), (&true.into(), &"1.24 mol/L".into()));
    assert_eq!(strength("0.9 to 1.1 mol/L")["inside"], false);
    assert!(told(EPSOM, &[], "flip").is_empty());
}

/// 1.00 g of sodium carbonate take 18.9 mmol of acid, 1.00 g of sodium hydrogencarbonate only 11.9: 20.0 mmol are
/// 106 % of the worst, 15.0 mmol 79.5 %.
#[test]
fn a_sample_that_might_be_all_one_component() {
    let mixture = r#"
arrangement = "parallel"

[[reactions]]
equation = "Na2CO3 + 2 HCl -> 2 NaCl + H2O + CO2"

[[reactions]]
equation = "NaHCO3 + HCl -> NaCl + H2O + CO2"

[[materials]]
symbol = "soda"
name = "sodium carbonate"
formula = "Na2CO3"
role = "sample"
form = { kind = "solid" }

[[materials]]
symbol = "bicarbonate"
name = "sodium hydrogencarbonate"
formula = "NaHCO3"
role = "sample"
form = { kind = "solid" }

[[materials]]
symbol = "mixture"
name = "soda mixture"
role = "sample"
form = { kind = "solid" }
planned = "1.00 g"
mixture_of = ["soda", "bicarbonate"]

[[materials]]
symbol = "acid"
name = "hydrochloric acid"
formula = "HCl"
role = "excess"
form = { kind = "solution", strength = "1.00 ± 0.01 mol/L" }
planned = "20.0 mL"
"#;
    let text = format!(
        "format = \"1.0\"\nid = \"m\"\ntitle = \"m\"\nkind = \"\"\nfinds = \"\"\nlevel = \"\"\nvisits = 1\n{mixture}"
    );
    let worst = first(&text, &[], "worst-case");
    assert_eq!(
        (&worst["percent"], &worst["component"], &worst["enough"]),
        (&"106".into(), &"sodium carbonate".into(), &true.into())
    );
    let short = first(&text, &[("20.0 mL", "15.0 mL")], "worst-case");
    assert_eq!((&short["percent"], &short["enough"]), (&"79.5".into(), &false.into()));
}

/// 10 g of H2SO4 (98.072 g/mol) in 100 mL are 1.02 mol/L; 10 g in 100 g of density 1.07 g/mL are 1.09 mol/L.
#[test]
fn per_cent_of_what() {
    let strength = |to| [("strength = \"1.00 ± 0.003 mol/L\"", to)];
    let open = first(EPSOM, &strength("strength = \"10 %\", density = \"1.07 g/mL\""), "basis-open");
    assert_eq!((&open["in_volume"], &open["in_mass"]), (&"1.02 mol/L".into(), &"1.09 mol/L".into()));
    silent(EPSOM, &strength("strength = \"10 % w/v\""), "basis-open");
}

/// 2.0 g of CaSO4·2H2O (172.164 g/mol) are as much as 1.58 g of CaSO4 (136.134 g/mol). 1.50 g of SrCl2 would be 9.46 mmol,
/// more than the 7.0 mmol of sulfate.
#[test]
fn the_same_amount_as_each_hydrate() {
    let forms = first(GYPSUM, &[], "hydrates")["forms"].clone();
    assert_eq!(forms[0]["mass"], "1.58 g");
    let strontium = [("planned = \"20.0 ± 0.3 mL\"", "planned = \"35.0 mL\"")];
    assert_eq!(first(STRONTIUM, &strontium, "hydrates")["forms"][0]["flips"], true);
    assert_eq!(first(STRONTIUM, &[], "hydrates")["forms"][0]["flips"], false);
    silent(EPSOM, &[], "hydrates");
}

/// 1.52 g of SrCl2·6H2O hold 0.904 g of SrCl2, which take 1.71 g of water at 52.9 g in 100 g; 0.62 g come with it.
#[test]
fn will_it_dissolve() {
    let water = |ml| first(STRONTIUM, &[("water = \"50 mL\"", ml)], "dissolves");
    let little = water("water = \"1.0 mL\"");
    assert_eq!((&little["fits"], &little["smallest"]), (&false.into(), &"1.1 mL".into()));
    assert_eq!(water("water = \"1.2 mL\"")["fits"], true);
}

/// Mass balance with 33.7 g of MgSO4 in 100 g of water at 20 °C: of 6.16 g, 4.19 g crystallise from 5 g of water and
/// 5.26 g from 4 g. 1 mL of ice water (22.0 g) dissolves 0.59 g of the heptahydrate.
#[test]
fn what_perfect_hands_could_reach() {
    let water = |to| first(EPSOM, &[("water = \"5 g\", at = \"20 °C\"", to)], "ceiling")["percent"].clone();
    assert_eq!(water("water = \"5 g\", at = \"20 °C\""), "68");
    assert_eq!(water("water = \"4 g\", at = \"20 °C\""), "85");
    // (5.257 − 0.585) / 6.162
    assert_eq!(water("water = \"4 g\", at = \"20 °C\", washed_with = \"1 mL\""), "76");
    let unknown = [("solubility = { of", "melts = \"1 °C\"\n# { of")];
    assert!(told(EPSOM, &unknown, "ceiling").is_empty());
}

/// 4.00 mmol with 1.63 mmol of strontium over, in 70 mL: x(x + 0.0232) = K. A K a thousand times larger keeps 10.2 mmol/L.
#[test]
fn a_precipitate_keeps_what_its_solubility_product_allows() {
    assert_eq!(first(STRONTIUM, &[], "ceiling")["percent"], "100");
    assert_eq!(first(STRONTIUM, &[("ksp = 3.4e-7", "ksp = 3.4e-4")], "ceiling")["percent"], "82");
}

/// K = 4, one to one: two thirds; with the alcohol threefold nine tenths (x² = 4(1 − x)(3 − x)).
#[test]
fn an_ester_stops_at_its_equilibrium() {
    let ester = |alcohol: &str| {
        format!(
            r#"format = "1.0"
id = "ester"
title = "ester"
kind = ""
finds = ""
level = ""
visits = 1

[[reactions]]
equation = "CH3COOH + C2H5OH -> CH3COOC2H5 + H2O"
equilibrium = 4

[[materials]]
symbol = "acid"
name = "ethanoic acid"
formula = "CH3COOH"
role = "limiting"
form = {{ kind = "solid" }}
planned = "6.005 g"

[[materials]]
symbol = "alcohol"
name = "ethanol"
formula = "C2H5OH"
role = "excess"
form = {{ kind = "solid" }}
planned = "{alcohol}"

[[materials]]
symbol = "ester"
name = "ethyl ethanoate"
formula = "CH3COOC2H5"
role = "product"
form = {{ kind = "liquid" }}

[[instruments]]
name = "Balance"
kind = "balance"
unit = "g"
resolution = 0.01
tolerance = 0.01
repeatability = 0.005
capacity = 300

[[readings]]
symbol = "m_acid"
label = "acid"
short = "acid"
unit = "g"
instrument = "Balance"
decimals = 2
range = [5, 7]
expected = "6.00"
of = "acid"

[[readings]]
symbol = "m_ester"
label = "ester"
short = "ester"
unit = "g"
instrument = "Balance"
decimals = 2
range = [1, 9]
expected = "5.00"

[[methods]]
kind = "yield"
reagent = {{ material = "acid", reading = "m_acid" }}
product = "ester"
product_mass = "m_ester"
"#
        )
    };
    assert_eq!(first(&ester("4.607 g"), &[], "ceiling")["percent"], "67");
    assert_eq!(first(&ester("13.82 g"), &[], "ceiling")["percent"], "90");
}

#[test]
fn will_it_fit() {
    let beaker = |to| told(EPSOM, &[("capacity = \"100 mL\"", to)], "too-full");
    assert_eq!(beaker("capacity = \"30 mL\"")[0]["only_for_heat"], true);
    assert_eq!(beaker("capacity = \"20 mL\"")[0]["only_for_heat"], false);
    assert!(beaker("capacity = \"40 mL\"").is_empty());
    // The filtrate goes over into the dish, all of it.
    assert_eq!(told(EPSOM, &[("capacity = \"60 mL\"", "capacity = \"20 mL\"")], "too-full")[0]["vessel"], "dish");
}

#[test]
fn temperature_against_purpose() {
    let boiling = |at| {
        [("technique = \"washing\"", "technique = \"reflux\"\nboils = \"ethanol\""), ("temperature = \"20 °C\"", at)]
    };
    assert_eq!(first(EPSOM, &boiling("temperature = \"70 °C\""), "cannot-boil")["boils"], "78.0 °C");
    silent(EPSOM, &boiling("temperature = \"85 °C\""), "cannot-boil");
    // A water bath does not boil what boils where water does.
    let bath = [
        ("role = \"solvent\"", "boils = \"100 °C\"\nrole = \"solvent\""),
        ("temperature = \"80 °C\"", "boils = \"water\""),
        ("heat = \"hot-plate\"", "heat = \"water-bath\""),
    ];
    assert_eq!(first(STRONTIUM, &bath, "cannot-boil")["reaches"], "100 °C");
    // On a hot plate water at 100 °C boils, and at 95 °C it does not.
    let plate =
        |at| [("role = \"solvent\"", "boils = \"100 °C\"\nrole = \"solvent\""), ("temperature = \"80 °C\"", at)];
    silent(STRONTIUM, &plate("boils = \"water\"\ntemperature = \"100 °C\""), "cannot-boil");
    assert_eq!(
        first(STRONTIUM, &plate("boils = \"water\"\ntemperature = \"95 °C\""), "cannot-boil")["boils"],
        "100 °C"
    );
    // Under reflux it is asked of the liquid that boils first, although the step does not name it.
    let reflux = |at: &'static str, acid: &'static str| {
        [("boils = \"alcohol\"\ntemperature = \"85 °C\"", at), ("role = \"catalyst\"", acid)]
    };
    let (acid, unknown) = ("boils = \"337 °C\"\nrole = \"catalyst\"", "role = \"catalyst\"");
    assert_eq!(first(ESTER, &reflux("temperature = \"70 °C\"", acid), "cannot-boil")["boils"], "78.0 °C");
    silent(ESTER, &reflux("temperature = \"85 °C\"", acid), "cannot-boil");
    silent(ESTER, &reflux("temperature = \"70 °C\"", unknown), "cannot-boil");
    let dried = |at| [("temperature = \"20 °C\"", at)];
    assert_eq!(first(EPSOM, &dried("temperature = \"60 °C\""), "too-hot")["bears"], "48.0 °C");
    silent(EPSOM, &dried("temperature = \"40 °C\""), "too-hot");
}

#[test]
fn the_same_fact_said_two_ways() {
    let text = |to| [("Pipette 25.00 mL of the sulfuric acid", to)];
    let said = first(EPSOM, &text("Pipette 20.00 mL of the sulfuric acid"), "said-two-ways");
    assert_eq!(
        (&said["one"], &said["other"], &said["there"]),
        (&"25.0 mL".into(), &"20.00 mL".into(), &"step 2".into())
    );
    let strength = first(EPSOM, &text("Pipette the 2.0 mol/L sulfuric acid"), "said-two-ways");
    assert_eq!((&strength["one"], &strength["other"]), (&"1.00 mol/L".into(), &"2.0 mol/L".into()));
    for quiet in [
        "Pipette 25.0 mL of cold sulfuric acid",
        "Pipette 5 mL five times of the sulfuric acid",
        "Pipette the 1.00 mol/L sulfuric acid",
    ] {
        silent(EPSOM, &text(quiet), "said-two-ways");
    }
    // A reading that expects something else than the ledger plans.
    let expected = |to| [("expected = \"3.00\"", to)];
    assert_eq!(first(EPSOM, &expected("expected = \"2.50\""), "said-two-ways")["other"], "2.50 g expected");
    silent(EPSOM, &expected("expected = \"3.05\""), "said-two-ways");
}

#[test]
fn what_is_never_recorded_though_a_result_needs_it() {
    let what = |base, changes: &[(&str, &str)]| first(base, changes, "never-recorded")["what"].clone();
    assert_eq!(what(EPSOM, &[("1.00 ± 0.003 mol/L", "1.00 mol/L")]), "strength");
    assert_eq!(what(EPSOM, &[("product_mass = \"m_crystals\"", "product_mass = \"m_dish_crystals\"")]), "container");
    assert_eq!(what(EPSOM, &[("temperature = \"20 °C\"\n", "")]), "drying-temperature");
    assert_eq!(what(EPSOM, &[("role = \"wash\"", "role = \"excess\"")]), "amount");
    let unread = [
        ("records = [\"V_start\", \"V_end\"]", ""),
        ("adds = [{ material = \"base\", amount = \"25 mL\" }]", "adds = [{ material = \"phenolphthalein\" }]"),
    ];
    assert_eq!(what(SODIUM, &unread), "added");
    for base in [EPSOM, SODIUM, IODIDE] {
        silent(base, &[], "never-recorded");
    }
}

/// Half a step twice, 0.01 g, is 2 % of 0.50 g of crystals and 0.26 % of 3.82 g.
#[test]
fn an_instrument_too_coarse_for_what_it_measures() {
    let coarse = told(EPSOM, &[("expected = \"51.82\"", "expected = \"48.50\"")], "coarse");
    assert_eq!(coarse[0]["percent"], "2.0");
    assert!(told(EPSOM, &[], "coarse").is_empty());
}

/// A blank of 0.10 mL is a quarter of a step of the burette beside itself, and nothing beside the titre that it is taken off; a
/// volume as small that is no blank is coarse.
#[test]
fn a_blank_is_coarse_beside_what_it_is_taken_off() {
    let reading = |symbol: &str| {
        format!(
            "[[readings]]\nsymbol = \"{symbol}\"\nlabel = \"a little\"\nshort = \"little\"\nunit = \"mL\"\ninstrument = \"Burette 50 mL\"\ndecimals = 2\nrange = [0, 2]\nexpected = \"0.10\"\n\n[[observations]]"
        )
    };
    let blank = [
        ("[[observations]]", reading("V_blank")),
        ("limit = \"0.10 mL\"", "limit = \"0.10 mL\"\nblank = \"V_blank\"".into()),
    ];
    silent(VINEGAR, &blank.each_ref().map(|(from, to)| (*from, to.as_str())), "coarse");
    let part =
        [("[[observations]]", reading("V_more")), ("V_flask / V_vinegar", "V_flask / (V_vinegar + V_more)".into())];
    let coarse = told(VINEGAR, &part.each_ref().map(|(from, to)| (*from, to.as_str())), "coarse");
    assert_eq!(coarse[0]["reading"], "a little");
}

#[test]
fn the_smallest_scale_that_is_still_good_enough() {
    let wanted = |to| first(EPSOM, &[("wanted = \"2 %\"", to)], "smallest-scale");
    assert_eq!(wanted("wanted = \"2 %\"")["reached"], true);
    assert_eq!(wanted("wanted = \"0.7 %\"")["reached"], false);
    // No scale makes up for a strength that is known to 0.3 %.
    assert!(told(EPSOM, &[("wanted = \"2 %\"", "wanted = \"0.1 %\"")], "smallest-scale").is_empty());
    assert_eq!(first(EPSOM, &[("wanted = \"2 %\"", "wanted = \"0.1 %\"")], "precision")["kind"], "precision");
}

#[test]
fn roles_that_the_reactions_contradict() {
    assert_eq!(first(EPSOM, &[("role = \"excess\"", "role = \"catalyst\"")], "catalyst-counts")["warns"], true);
    silent(EPSOM, &[], "catalyst-counts");
    let methods = [("formula = \"Zn\"", "formula = \"Cu\"")];
    assert_eq!(first(IODIDE, &methods, "not-in-reaction")["material"], "zinc");
    silent(IODIDE, &[], "not-in-reaction");
}

mod combinations {
    use super::*;

    /// A formula, and the form in which it is there.
    type Stuff = (&'static str, &'static str);

    /// Two materials, the first in the vessel before the second, in one step with these words.
    fn together(first: Stuff, second: Stuff, step: &str) -> Vec<Value> {
        let material = |symbol: &str, (formula, form): Stuff| {
            format!(
                "[[materials]]\nsymbol = \"{symbol}\"\nname = \"{symbol}\"\nformula = \"{formula}\"\nrole = \"solvent\"\nform = {form}\n"
            )
        };
        let text = format!(
            "format = \"1.0\"\nid = \"t\"\ntitle = \"t\"\nkind = \"\"\nfinds = \"\"\nlevel = \"\"\nvisits = 1\n{}{}\
             [[vessels]]\nname = \"beaker\"\ncapacity = \"1 L\"\n[[steps]]\ntitle = \"mix\"\ntext = \"Mix.\"\nvessel = \"beaker\"\n\
             adds = [{{ material = \"one\" }}, {{ material = \"two\" }}]\n{step}\n",
            material("one", first),
            material("two", second),
        );
        told(&text, &[], "together").iter().map(|w| w["danger"].clone()).collect()
    }

    const SOLID: &str = r#"{ kind = "solid" }"#;
    const LIQUID: &str = r#"{ kind = "liquid" }"#;
    const DILUTE: &str = r#"{ kind = "solution", strength = "0.1 mol/L" }"#;
    const STRONG: &str = r#"{ kind = "solution", strength = "10 mol/L" }"#;

    #[test]
    fn each_danger_speaks_and_its_twin_does_not() {
        // (in the vessel, added to it, the step, the danger), then a near twin that is none.
        let rows: [(Stuff, Stuff, &str, &str); 27] = [
            (("Na2SO3", SOLID), ("HCl", DILUTE), "", "acid-on-sulfite"),
            (("CaCO3", SOLID), ("HCl", DILUTE), "", "acid-on-carbonate"),
            (("H2SO4", STRONG), ("H2O", LIQUID), "", "water-onto-acid"),
            (("Al", SOLID), ("NaOH", STRONG), "", "base-and-aluminium"),
            (("KMnO4", SOLID), ("C2H5OH", LIQUID), "", "oxidiser-and-organic"),
            (("I2", SOLID), ("NH3", DILUTE), "", "iodine-and-ammonia"),
            (("NaClO", DILUTE), ("HCl", DILUTE), "", "hypochlorite-and-acid"),
            (("NaClO", DILUTE), ("NH3", DILUTE), "", "hypochlorite-and-ammonia"),
            (("KMnO4", DILUTE), ("HCl", DILUTE), "", "permanganate-and-hydrochloric"),
            (("Zn", SOLID), ("HCl", DILUTE), "heat = \"flame\"", "metal-acid-flame"),
            (("Mg", SOLID), ("HCl", STRONG), "", "metal-and-acid"),
            (("KCN", SOLID), ("CH3COOH", DILUTE), "", "acid-on-cyanide"),
            (("HCl", DILUTE), ("FeS", SOLID), "", "acid-on-sulfide"),
            (("NaNO2", DILUTE), ("NH2SO3H", SOLID), "", "acid-on-nitrite"),
            (("KClO3", SOLID), ("H2SO4", DILUTE), "", "acid-on-chlorate"),
            (("NH4Cl", SOLID), ("NaOH", STRONG), "", "base-on-ammonium"),
            (("CaO", SOLID), ("H2O", LIQUID), "", "water-reactive"),
            (("Na", SOLID), ("H2O", LIQUID), "", "water-reactive"),
            (("H2SO4", STRONG), ("NaOH", SOLID), "", "concentrated-acid-and-base"),
            (("KMnO4", SOLID), ("Mg", SOLID), "", "oxidiser-and-metal"),
            (("KMnO4", SOLID), ("H2SO4", STRONG), "", "oxidiser-and-concentrated-acid"),
            (("K2Cr2O7", SOLID), ("HCl", STRONG), "", "dichromate-and-hydrochloric"),
            (("Cu", SOLID), ("HNO3", STRONG), "", "nitric-acid-and-metal"),
            (("AgNO3", DILUTE), ("NH3", STRONG), "", "silver-and-ammonia"),
            (("NaClO", DILUTE), ("C3H6O", LIQUID), "", "hypochlorite-and-propanone"),
            (("C3H6O", LIQUID), ("H2O2", STRONG), "", "peroxide-and-propanone"),
            (("H2O2", DILUTE), ("NaClO", DILUTE), "", "hypochlorite-and-peroxide"),
        ];
        for (one, two, step, danger) in rows {
            assert_eq!(together(one, two, step), [danger], "{} and {}", one.0, two.0);
        }
        let twins: [(Stuff, Stuff, &str); 26] = [
            (("Na2SO4", SOLID), ("HCl", DILUTE), ""),
            (("CaCO3", SOLID), ("HCl", DILUTE), "portions = 5"),
            (("H2O", LIQUID), ("H2SO4", STRONG), ""),
            (("Al", SOLID), ("NaOH", DILUTE), ""),
            (("KMnO4", DILUTE), ("H2C2O4", DILUTE), ""),
            (("KI", SOLID), ("NH3", DILUTE), ""),
            (("NaClO3", DILUTE), ("HCl", DILUTE), ""),
            (("NaCl", DILUTE), ("NH3", DILUTE), ""),
            (("KMnO4", DILUTE), ("H2SO4", DILUTE), ""),
            (("Zn", SOLID), ("HCl", DILUTE), "heat = \"water-bath\""),
            (("Cu", SOLID), ("HCl", STRONG), ""),
            (("KSCN", SOLID), ("HCl", DILUTE), ""),
            (("K3Fe(CN)6", SOLID), ("HCl", DILUTE), ""),
            (("NH2SO3H", SOLID), ("HCl", DILUTE), ""),
            (("C7H8O3S", SOLID), ("HCl", DILUTE), ""),
            (("S8", SOLID), ("HCl", DILUTE), ""),
            (("NaNO3", SOLID), ("HCl", DILUTE), ""),
            (("NH4Cl", DILUTE), ("NaOH", DILUTE), ""),
            (("Ca(OH)2", SOLID), ("H2O", LIQUID), ""),
            (("C7H5ClO", LIQUID), ("NaOH", DILUTE), ""),
            (("H2SO4", DILUTE), ("NaOH", DILUTE), ""),
            (("K2Cr2O7", DILUTE), ("HCl", DILUTE), ""),
            (("Cu", SOLID), ("HNO3", DILUTE), ""),
            (("AgNO3", DILUTE), ("NH3", DILUTE), ""),
            (("C3H6O", LIQUID), ("H2O2", DILUTE), ""),
            (("NaCl", SOLID), ("C3H6O", LIQUID), ""),
        ];
        for (one, two, step) in twins {
            assert_eq!(together(one, two, step), [] as [&str; 0], "{} and {}", one.0, two.0);
        }
    }

    #[test]
    fn a_flame_ice_and_a_closed_vessel() {
        let heat = |to| [("heat = \"water-bath\"", to)];
        assert_eq!(first(EPSOM, &heat("heat = \"flame\""), "together")["danger"], "flammable-near-flame");
        silent(EPSOM, &[], "together");
        let iced = [("text = \"Keep it at 80 °C", "temperature = \"0 °C\"\ntext = \"Keep it at 80 °C")];
        assert_eq!(first(STRONTIUM, &iced, "together")["danger"], "ice-on-hot-glass");
        let sealed =
            |heat| [("technique = \"drying-oven\"", "technique = \"sealing-sample\""), ("heat = \"oven\"\n", heat)];
        assert_eq!(first(STRONTIUM, &sealed("heat = \"oven\"\n"), "together")["danger"], "closed-and-heated");
        silent(STRONTIUM, &sealed(""), "together");
    }
}

/// 1.00 g of copper (15.74 mmol) in excess silver nitrate: Cu(I) would free 15.74 mmol of silver (1.70 g), Cu(II) twice
/// as much.
#[test]
fn competing_reactions_each_say_what_they_would_make() {
    let text = r#"format = "1.0"
id = "silver"
title = "silver"
kind = ""
finds = ""
level = ""
visits = 1
arrangement = "competing"

[[reactions]]
name = "to copper(I)"
equation = "Cu + AgNO3 -> CuNO3 + Ag"
predicts = { colour = "colourless" }

[[reactions]]
name = "to copper(II)"
equation = "Cu + 2 AgNO3 -> Cu(NO3)2 + 2 Ag"
predicts = { colour = "blue" }

[[materials]]
symbol = "copper"
name = "copper"
formula = "Cu"
role = "limiting"
form = { kind = "solid" }
planned = "1.000 g"

[[materials]]
symbol = "nitrate"
name = "silver nitrate"
formula = "AgNO3"
role = "excess"
form = { kind = "solid" }
planned = "6.00 g"

[[materials]]
symbol = "silver"
name = "silver"
formula = "Ag"
role = "product"
form = { kind = "solid" }

[[observations]]
symbol = "colour"
question = "Which colour has the liquid?"
choices = ["colourless", "blue"]
expected = "blue"
"#;
    let found = told(text, &[], "hypothesis");
    let shown = |i: usize| (found[i]["name"].clone(), found[i]["theory"].clone(), found[i]["seen"][0].clone());
    assert_eq!(shown(0), ("to copper(I)".into(), "1.70 g".into(), "colourless".into()));
    assert_eq!(shown(1), ("to copper(II)".into(), "3.40 g".into(), "blue".into()));
    let one = [("arrangement = \"competing\"", "arrangement = \"parallel\"")];
    assert!(told(text, &one, "hypothesis").is_empty());
}

/// Recipe B of the strontium sulfate: 7.00 mmol of sulfate over 5.63 mmol of strontium, 24 % over; 1.033 g.
#[test]
fn recipes_are_planned_each_for_itself() {
    let plan = plan(&check(STRONTIUM, &School::default()).practical.unwrap());
    let shown = |recipe: usize| {
        let r = &plan.recipes[recipe];
        let theory = r.results.iter().find(|p| p.name == "m_theory").unwrap();
        let excess = r.materials.iter().find_map(|m| m.equivalents.as_ref().filter(|e| e.planned > 1.0)).unwrap();
        let text = serde_json::to_value(&theory.planned).unwrap()["text"].clone();
        (r.name.clone(), text, format!("{:.0}", (excess.planned - 1.0) * 100.0))
    };
    assert_eq!(shown(0), ("recipe A".into(), "0.735".into(), "41".into()));
    assert_eq!(shown(1), ("recipe B".into(), "1.033".into(), "24".into()));
}

/// 0.50 g of KHP are 2.448 mmol: 24.5 mL of 0.1 mol/L. A tenth of that is read badly on 50 mL, and so is a second filling; a
/// strength that the readings do not expect is told. Vinegar (25.00 mL of 0.083 mol/L) and water hardness likewise.
#[test]
fn the_titre_is_foreseen_from_the_plan() {
    let volume = |base: &str, changes: &[(&str, &str)]| {
        let found = first(base, changes, "titre-foreseen");
        (found["volume"].as_str().unwrap().to_owned(), found["warns"] == true, found["fits"] == true)
    };
    assert_eq!(volume(SODIUM, &[]), ("24.5 mL".into(), false, true));
    // A tenth of the mass: 2.45 mL on 50 mL; the readings of the burette still expect ten times as much.
    let little = &[("expected = \"18.500\"", "expected = \"18.050\"")];
    assert_eq!(volume(SODIUM, little), ("2.45 mL".into(), true, false));
    let ledger = first(SODIUM, little, "said-two-ways");
    assert_eq!((&ledger["one"], &ledger["other"]), (&"0.50 g".into(), &"0.050 g expected".into()));
    silent(SODIUM, &[("expected = \"18.500\"", "expected = \"18.530\"")], "said-two-ways");
    for base in [VINEGAR, HARDNESS] {
        let (_, warns, fits) = volume(base, &[]);
        assert!(fits && !warns);
    }
    let weak = first(VINEGAR, &[("0.1000 ± 0.0005 mol/L", "0.0500 ± 0.0005 mol/L")], "titre-foreseen");
    assert_eq!((&weak["warns"], weak["expected"].is_string()), (&true.into(), true), "{weak}");
}

/// Two accurate trials within 0.6 % are what a 0.13 g portion on a milligram balance seldom gives; 0.50 g does.
#[test]
fn a_limit_that_faultless_groups_miss_is_told() {
    silent(SODIUM, &[], "limit-missed");
    let tight = first(SODIUM, &[("rsd = \"0.6 %\"", "rsd = \"0.1 %\"")], "limit-missed");
    assert_eq!((&tight["limit"], &tight["warns"]), (&"0.1 %".into(), &true.into()));
    // Titres of aliquots scatter by 0.18 %: half a per cent is easily kept, a twentieth of that is not.
    let vinegar = |rsd| [("limit = \"0.10 mL\"", rsd)];
    silent(VINEGAR, &vinegar("rsd = \"0.5 %\""), "limit-missed");
    assert_eq!(first(VINEGAR, &vinegar("rsd = \"0.05 %\""), "limit-missed")["warns"], true);
    let light = first(SODIUM, &[("expected = \"18.500\"", "expected = \"18.100\"")], "limit-missed");
    assert!(light["of_ten"].as_str().unwrap().parse::<u32>().unwrap() >= 3, "{light}");
}

/// A class that found 0.42 mol/L of a vinegar planned as 0.84 mol/L; a yield is as large as hands are skilled.
#[test]
fn a_class_that_found_something_else_is_told_of_titrations_alone() {
    silent(VINEGAR, &[], "class-otherwise");
    let other = first(VINEGAR, &[("mean = 0.838", "mean = 0.419")], "class-otherwise");
    assert_eq!(other["class"], "0.419 mol/L");
    silent(EPSOM, &[("mean = 62", "mean = 90")], "class-otherwise");
}

/// Each trial takes 0.50 g: of a rough and the accurate ones that are wanted, the group takes as many times that.
#[test]
fn what_is_planned_of_each_trial_is_told_for_the_group() {
    let line = |base: &str, symbol: &str| {
        let practical = check(base, &School::default()).practical.unwrap();
        plan(&practical).materials.into_iter().find(|m| m.symbol == symbol).unwrap()
    };
    let khp = line(SODIUM, "khp");
    assert_eq!((khp.each.as_deref(), khp.in_all.as_deref()), (Some("trial"), Some("2.00 g")));
    assert_eq!(line(SODIUM, "base").in_all.as_deref(), Some("100 mL"));
    assert_eq!((line(EPSOM, "acid").each, line(EPSOM, "acid").in_all), (None, None));
    let wrong = SODIUM.replacen("each = \"trial\"", "each = \"fraction\"", 1);
    assert!(check(&wrong, &School::default()).errors[0].to_string().contains("nothing repeats along this"));
}

/// Drops have a volume that can be said; a spatula tip has none; what counts in the sums is weighed or measured.
#[test]
fn drops_pieces_and_a_spatula_tip_where_exactness_does_not_matter() {
    let planned = |text: &str| {
        let with = EPSOM.replacen("planned = \"2 mL\"", text, 1);
        assert_ne!(with, EPSOM);
        let checked = check(&with, &School::default());
        let m = checked.practical.map(|p| p.materials.into_iter().find(|m| m.roughly.is_some()).unwrap());
        m.map(|m| (m.roughly.unwrap(), m.planned.map(|p| p.amount.value.to_string()))).ok_or(checked.errors)
    };
    assert_eq!(planned("planned = \"3 drops\"").unwrap(), ("3 drops".into(), Some("0.15".into())));
    assert_eq!(planned("planned = \"3 drops\"\ndrop = \"0.04 mL\"").unwrap().1, Some("0.12".into()));
    assert_eq!(planned("planned = \"a spatula tip\"").unwrap(), ("a spatula tip".into(), None));
    let counts = EPSOM.replacen("planned = \"25.0 mL\"", "planned = \"500 drops\"", 1);
    assert!(check(&counts, &School::default()).errors[0].to_string().contains("part of the sums"));
}

/// What a check needs and nobody says is told as not checked; where it is said, it is not.
#[test]
fn what_could_not_be_checked_is_said() {
    let unchecked = |base: &str, changes: &[(&str, &str)]| -> Vec<String> {
        let text = changes.iter().fold(base.to_owned(), |text, (from, to)| text.replacen(from, to, 1));
        let practical = check(&text, &School::default()).practical.unwrap();
        let all = serde_json::to_value(plan(&practical).unchecked).unwrap();
        all.as_array()
            .unwrap()
            .iter()
            .map(|u| format!("{}: {}", u["kind"].as_str().unwrap(), u["material"].as_str().unwrap()))
            .collect()
    };
    assert!(!unchecked(EPSOM, &[]).iter().any(|u| u.starts_with("no-solubility") || u.starts_with("no-amount")));
    let without = unchecked(EPSOM, &[("\nsolubility = {", "\n# solubility = {"), ("planned = \"25.0 mL\"\n", "")]);
    assert!(without.iter().any(|u| u.starts_with("no-solubility: magnesium sulfate")), "{without:?}");
    assert!(without.iter().any(|u| u.starts_with("no-amount: sulfuric acid")), "{without:?}");
    assert!(unchecked(SODIUM, &[]).iter().any(|u| u == "no-formula: phenolphthalein"));
}

/// 195 g of sodium sulfate in a litre of water are 1.37 mol/L: 2.0 mol/L cannot be, the 0.2 mol/L of the practical can; of
/// sodium hydroxide, 1090 g, the 0.1 mol/L of another can as well.
#[test]
fn a_solution_stronger_than_a_saturated_one() {
    let soluble = "\nsolubility = { of = \"Na2SO4\", at = [[0, 4.9], [20, 19.5], [30, 40.8]] }";
    let strength = STRONTIUM.lines().find(|l| l.starts_with("form = { kind = \"solution\"")).unwrap();
    let strong = format!("form = {{ kind = \"solution\", strength = \"2.0 mol/L\" }}{soluble}");
    let told = first(STRONTIUM, &[(strength, strong.as_str())], "stronger-than-saturated");
    assert_eq!((&told["most"], &told["warns"]), (&"1.37 mol/L".into(), &true.into()));
    silent(STRONTIUM, &[(strength, format!("{strength}{soluble}").as_str())], "stronger-than-saturated");
    let base = SODIUM.lines().find(|l| l.starts_with("form = { kind = \"solution\"")).unwrap();
    let known = format!("{base}\nsolubility = {{ of = \"NaOH\", at = [[0, 42], [20, 109], [40, 129]] }}");
    silent(SODIUM, &[(base, known.as_str())], "stronger-than-saturated");
}
