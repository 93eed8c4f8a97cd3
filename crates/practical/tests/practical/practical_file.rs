//! The practical as a file: what is wrong is told with its place and a hint, edits keep what they do not touch, and two
//! versions say what differs.

use practical::{Checked, Edit, Practical, School, blank, changes, edited};
use proptest::prelude::*;
use serde_json::{Value, json};

const EPSOM: &str = include_str!("../../../../practicals/epsom-salt.practical.toml");
const SODIUM: &str = include_str!("../../../../practicals/sodium-hydroxide-standard.practical.toml");
const STRONTIUM: &str = include_str!("../../../../practicals/strontium-sulfate.practical.toml");

fn check(text: &str) -> Checked {
    practical::check(text, &School::default())
}

/// Everything that is told, a line each.
fn told(text: &str) -> Vec<String> {
    check(text).errors.iter().map(ToString::to_string).collect()
}

fn with(base: &str, from: &str, to: &str) -> String {
    assert!(base.contains(from), "'{from}' is not in the text");
    base.replacen(from, to, 1)
}

/// Line of the first place where `part` stands.
fn line_of(text: &str, part: &str) -> usize {
    text[..text.find(part).unwrap()].matches('\n').count() + 1
}

#[test]
fn what_is_wrong_is_told_with_its_place_and_a_hint() {
    for (base, from, to, expected) in [
        (
            EPSOM,
            "24 H2O",
            "23 H2O",
            "reaction 1: not balanced: H 68 on the left, 70 on the right; O 62 on the left, 63 on the right; balanced it reads 1 4MgCO3·Mg(OH)2·5H2O + 5 H2SO4 + 24 H2O -> 5 MgSO4·7H2O + 4 CO2",
        ),
        (EPSOM, "+ 4 CO2", "+ 4 NO2", "no coefficients conserve every element and charge"),
        (EPSOM, "visits = 2", "visists = 2", "unknown field `visists`"),
        (
            EPSOM,
            "format = \"1.1\"",
            "format = \"7.0\"",
            "this file has format 7.0; this version reads 1.1; a newer Keen Beaker wrote it",
        ),
        (
            EPSOM,
            "containers = [\"m_dish\"]",
            "containers = [\"m_dsh\"]",
            "weighing 'm_crystals': there is no reading 'm_dsh'; did you mean 'm_dish'?",
        ),
        (
            EPSOM,
            "product = \"crystals\"\nproduct_mass",
            "product = \"crystal\"\nproduct_mass",
            "method 'limiting-yield': there is no material 'crystal'; did you mean 'crystals'?",
        ),
        (
            EPSOM,
            "planned = \"3.0 ± 0.1 g\"",
            "planned = \"0 g\"",
            "material 'carbonate': '0 g': an amount is more than nothing",
        ),
        (
            EPSOM,
            "planned = \"3.0 ± 0.1 g\"",
            "planned = \"-3.0 g\"",
            "material 'carbonate': '-3.0 g': an amount is more than nothing",
        ),
        (EPSOM, "planned = \"3.0 ± 0.1 g\"", "planned = \"3.0 mL\"", "'3.0 mL': this is a volume; here belongs a mass"),
        (EPSOM, "unit = \"mmol\"", "unit = \"mL\"", "this gives an amount of substance, which cannot be written in mL"),
        (
            EPSOM,
            "unit = \"g\"\ninstrument",
            "unit = \"furlong\"\ninstrument",
            "reading 'm_carbonate': 'furlong': 'furlong' is no unit known here",
        ),
        (
            EPSOM,
            "records = [\"m_dish\"]",
            "",
            "reading 'm_dish': no step records it; name it under 'records' of the step where it is taken",
        ),
        (
            EPSOM,
            "answers = [\"n_acid\", \"m_theory\", \"percent_yield\"]",
            "answers = [\"n_acid\", \"m_theory\"]",
            "result 'percent_yield': no step asks for it",
        ),
        (
            EPSOM,
            "technique = \"pipetting\"",
            "technique = \"pipeting\"",
            "there is no technique 'pipeting'; did you mean 'pipetting'?",
        ),
        (EPSOM, "vessel = \"beaker\"", "vessel = \"baker\"", "there is no vessel 'baker'; did you mean 'beaker'?"),
        (
            EPSOM,
            "symbol = \"m_dish\"",
            "symbol = \"m_carbonate\"",
            "there are two of this name: m_carbonate; give one of them another name",
        ),
        (EPSOM, "formula = \"H2SO4\"", "formula = \"H2So4\"", "no element has the symbol 'So'"),
        (EPSOM, "wait = \"24 h\"", "wait = \"overnight\"", "'overnight' is no time: write '24 h'"),
        (
            SODIUM,
            "expression = \"mean(n_khp)\"",
            "expression = \"n_khp\"",
            "result 'n_second': it has a value for each trial; fold it with mean(…)",
        ),
        (
            STRONTIUM,
            "positive_control = \"strontium chloride, 0.1 mol/L\"",
            "",
            "a spot test has a positive and a negative control",
        ),
        (
            STRONTIUM,
            "sulfate = \"20.0 ± 0.3 mL\"",
            "sulphate = \"20.0 mL\"",
            "assignment 'recipe A': there is no material 'sulphate'; did you mean 'sulfate'?",
        ),
    ] {
        let text = with(base, from, to);
        let all = told(&text);
        assert!(all.iter().any(|e| e.contains(expected)), "{from} -> {to}: {all:#?}");
    }
}

/// Evidence, expectations of a recipe, stops, end points and agreement name what is there, and could be so.
#[test]
fn what_is_declared_is_held_against_the_file() {
    for (base, from, to, expected) in [
        (
            EPSOM,
            "\"solid remains\" = \"acid\", \"all dissolved\"",
            "\"solid remains\" = \"acd\", \"all dissolved\"",
            "observation 'solid': there is no material 'acd'; did you mean 'acid'?",
        ),
        (
            EPSOM,
            "evidence = { of = \"limiting\", says = { \"no fizz\" = \"acid\", fizzes = \"carbonate\" } }",
            "evidence = { of = \"yield\" }",
            "observation 'fizz': something seen is evidence of what limits, of purity, of dryness or of what it is",
        ),
        (
            STRONTIUM,
            "expected = { V_sulfate = \"35.00\"",
            "observed = { sulfate_left = \"clouds a little\" }\nexpected = { V_sulfate = \"35.00\"",
            "assignment 'recipe B': there is no choice 'clouds a little'",
        ),
        (
            SODIUM,
            "past = [\"deep pink\"]",
            "past = [\"purple\"]",
            "there is no choice that this step observes 'purple'",
        ),
        (
            SODIUM,
            "end = \"V_end\"\n",
            "end = \"V_end\"\nend_point = \"80 mL\"\n",
            "titre 'V_titre': the end point is as uncertain as the whole titre",
        ),
        (
            SODIUM,
            "end = \"V_end\"\n",
            "end = \"V_end\"\nagree = { of = \"c_base\" }\n",
            "titre 'V_titre': what is compared has a value for each trial",
        ),
        (SODIUM, "pka = [5.41]", "pka = [54.1]", "titre 'V_titre': a pKa lies between -2 and 16"),
        (SODIUM, "flask = \"50 mL\"", "flask = \"50 g\"", "titre 'V_titre': '50 g'"),
        (
            EPSOM,
            "stop = { until = \"constant-mass\", within = \"0.02 g\" }",
            "stop = { until = \"within\", value = \"pH 17\", by = \"0.1\" }",
            "a pH lies between -2 and 16",
        ),
    ] {
        let text = with(base, from, to);
        let all = told(&text);
        assert!(all.iter().any(|e| e.contains(expected)), "{from} -> {to}: {all:#?}");
    }
}

#[test]
fn the_place_is_the_line_and_the_character_of_the_value() {
    let text = with(EPSOM, "planned = \"25.0 mL\"", "planned = \"25.0 g g\"");
    let errors = check(&text).errors;
    assert_eq!(errors[0].place.line, line_of(&text, "25.0 g g"));
    assert_eq!(errors[0].place.column, "planned = ".len() + 1);
    assert_eq!(serde_json::to_value(&errors[0].place.path).unwrap(), json!(["materials", 1, "planned"]));
    // In the sheet's own text the line is counted on from its quotes.
    let sheet = "visits = 2\nsheet = '''\na = m_dish * 2\nb = a + V_acid\n'''\n";
    let text = with(EPSOM, "visits = 2\n", sheet);
    let place = &check(&text).errors[0].place;
    assert_eq!((place.line, place.column), (line_of(&text, "b = a +"), 7));
}

/// All of it at once, in the order of the text; what is not essential still leaves a plan.
#[test]
fn everything_is_told_at_once() {
    let text =
        with(&with(EPSOM, "formula = \"H2SO4\"", "formula = \"H2So4\""), "vessel = \"dish\"", "vessel = \"dis\"");
    let errors = check(&text).errors;
    assert!(errors.len() >= 2 && errors.windows(2).all(|e| e[0].place.line <= e[1].place.line), "{errors:?}");
    assert!(check(&text).practical.is_none() && check(&text).file.is_some());
    let unasked = with(EPSOM, "records = [\"m_dish\"]", "");
    let checked = check(&unasked);
    assert!(checked.practical.is_some());
    let told: Vec<String> = checked.errors.iter().map(ToString::to_string).collect();
    assert!(told.iter().any(|e| e.contains("it needs m_dish, which no step records")), "{told:#?}");
    assert!(Practical::parse(&unasked).is_err());
}

#[test]
fn a_cycle_is_shown_as_it_goes_round() {
    let cycle = |sheet: &str| told(&with(EPSOM, "visits = 2\n", &format!("visits = 2\nsheet = '''\n{sheet}\n'''\n")));
    assert!(cycle("a = b + 1\nb = c * 2\nc = a / 3")[0].contains("these need each other: a → b → c → a"));
    assert!(cycle("a = a + 1")[0].contains("these need each other: a → a"));
    // The order of lines does not matter, where it goes round nowhere.
    assert_eq!(cycle("a = b + m_dish\nb = m_dish * 2"), [] as [String; 0]);
}

#[test]
fn a_reading_that_nothing_uses_is_told() {
    let reading = "[[readings]]\nsymbol = \"m_extra\"\nlabel = \"extra\"\nshort = \"extra\"\nunit = \"g\"\ninstrument = \"Balance 1\"\ndecimals = 2\nrange = [0, 9]\nexpected = \"1.00\"\n\n[[observations]]";
    let text = with(
        &with(EPSOM, "[[observations]]", reading),
        "records = [\"m_dish\"]",
        "records = [\"m_dish\", \"m_extra\"]",
    );
    assert_eq!(told(&text).len(), 1);
    assert!(told(&text)[0].contains("reading 'm_extra': nothing uses it"));
    assert_eq!(told(&with(&text, "expected = \"1.00\"", "expected = \"1.00\"\nof = \"ethanol\"")), [] as [String; 0]);
}

#[test]
fn a_tolerance_is_of_the_value_absolute_or_in_the_last_digit() {
    let tolerance = |to: &str| told(&with(EPSOM, "tolerance = \"0.5 %\"", to));
    for good in ["tolerance = \"0.02 mmol\"", "tolerance = \"1 in the last digit\"", "tolerance = \"2 %\""] {
        assert_eq!(tolerance(good), [] as [String; 0]);
    }
    assert!(
        tolerance("tolerance = \"0.02 g\"")[0].contains("this is a mass, and the result is an amount of substance")
    );
    assert!(tolerance("tolerance = \"some in the last digit\"")[0].contains("'some in the last digit'"));
}

#[test]
fn broken_text_is_told_with_its_line() {
    assert!(told("= nonsense")[0].starts_with("line 1, character 1: "));
    assert!(
        told(&EPSOM.repeat(100))[0].starts_with("line 1, character 1: a practical file has at most 200000 characters")
    );
    let torn = with(EPSOM, "title = \"Epsom", "title = \"Epsom\n");
    // The line that is torn off is the one that makes no sense.
    let next = line_of(&torn, "title = ") + 1;
    assert_eq!(told(&torn), [format!("line {next}, character 7: key with no value, expected `=`")]);
    // Whatever a text holds stays text.
    let script =
        with(EPSOM, "title = \"Epsom salt from basic magnesium carbonate\"", "title = \"<script>alert(1)</script>\"");
    assert_eq!(check(&script).file.unwrap().title, "<script>alert(1)</script>");
}

/// How answers are taken and marked: what cannot be meant is told, beside what is right.
#[test]
fn how_answers_are_marked_is_checked_too() {
    let closeness = "result = \"c_base\"\nmarks = 3\nall_within = \"0.5 %\"\nnone_beyond = \"3 %\"";
    let reason = "name = \"filtrate\"\nlabel";
    for (base, from, to, expected) in [
        (SODIUM, "recording = 2", "recording = -2", "marking: marks are not negative, and at most 1000"),
        (SODIUM, "recording = 2", "recordings = 2", "unknown field `recordings`"),
        (
            SODIUM,
            closeness,
            "result = \"c_bass\"\nmarks = 3\nall_within = \"0.5 %\"\nnone_beyond = \"3 %\"",
            "there is no result 'c_bass'; did you mean 'c_base'?",
        ),
        (
            SODIUM,
            "all_within = \"0.5 %\"",
            "all_within = \"5 %\"",
            "marking: marks begin to be lost before there are none left",
        ),
        (SODIUM, "none_beyond = \"3 %\"", "none_beyond = \"3 g\"", "'3 g': this is a mass"),
        (
            STRONTIUM,
            reason,
            "name = \"m_theory\"\nlabel",
            "a reason has a name that no reading, definition or result has",
        ),
        (STRONTIUM, reason, "name = \"filtrat\"\nlabel", "reason 'filtrat': no step asks for it"),
        (
            STRONTIUM,
            "x = \"m_theory\"",
            "x = \"m_theorie\"",
            "there is no definition with one value 'm_theorie'; did you mean 'm_theory'?",
        ),
        (
            STRONTIUM,
            "answer = \"limiting\"",
            "answer = \"words\"",
            "what is answered in words stands under [[reasons]]",
        ),
        (EPSOM, "evaporated_to = \"2 mL\"", "evaporated_to = \"2 min\"", "'2 min': this is a time"),
        (EPSOM, "worth = \"0.5 g\"", "worth = \"half\"", "step 'Leave it to crystallise'"),
    ] {
        let errors = told(&with(base, from, to));
        assert!(errors.iter().any(|e| e.contains(expected)), "{to}: {errors:#?}");
    }
}

mod editing {
    use super::*;

    fn edits(edits: &[Value]) -> Vec<Edit> {
        edits.iter().map(|e| serde_json::from_value(e.clone()).unwrap()).collect()
    }

    fn after(list: &[Value]) -> String {
        edited(EPSOM, &edits(list)).unwrap()
    }

    #[test]
    fn only_what_is_edited_changes() {
        let text = after(&[json!({ "kind": "set", "path": ["materials", 0, "planned"], "value": "2.5 ± 0.1 g" })]);
        let differing: Vec<(&str, &str)> = EPSOM.lines().zip(text.lines()).filter(|(a, b)| a != b).collect();
        assert_eq!(differing, [("planned = \"3.0 ± 0.1 g\"", "planned = \"2.5 ± 0.1 g\"")]);
        // An inline table, a list in a line, a key that was not there, one taken away.
        let text = after(&[
            json!({ "kind": "set", "path": ["materials", 1, "form", "strength"], "value": "0.50 mol/L" }),
            json!({ "kind": "set", "path": ["steps", 0, "minutes", 1], "value": 9 }),
            json!({ "kind": "set", "path": ["materials", 0, "bears"], "value": "100 °C" }),
            json!({ "kind": "set", "path": ["materials", 1, "also"], "value": null }),
            json!({ "kind": "set", "path": ["methods", 0, "reagents", 1, "reading"], "value": "V_base" }),
        ]);
        for part in ["strength = \"0.50 mol/L\"", "minutes = [3, 9]", "bears = \"100 °C\"", "reading = \"V_base\""] {
            assert!(text.contains(part), "{part}");
        }
        assert!(!text.contains("also = \"dilute\""));
        assert!(text.contains("# The acid is measured exactly"));
    }

    #[test]
    fn what_is_said_for_the_first_time_begins_its_table() {
        let text = after(&[json!({ "kind": "set", "path": ["disclosure", "yield"], "value": "instructor" })]);
        assert!(text.contains("disclosure = { yield = \"instructor\" }") && Practical::parse(&text).is_ok(), "{text}");
        let text = after(&[
            json!({ "kind": "set", "path": ["feedback", "answers_of"], "value": "student" }),
            json!({ "kind": "set", "path": ["feedback", "attempts"], "value": 2 }),
            json!({ "kind": "set", "path": ["marking", "recording"], "value": 1.5 }),
        ]);
        let practical = Practical::parse(&text).unwrap_or_else(|e| panic!("{e}\n{text}"));
        assert_eq!((practical.file.feedback.attempts, practical.file.marking.recording), (Some(2), 1.5));
        let run = json!({ "readings": { "m_dish": "48.12" } });
        let text = after(&[json!({ "kind": "set", "path": ["trial_run"], "value": run })]);
        assert_eq!(check(&text).file.unwrap().trial_run.unwrap().readings["m_dish"], "48.12");
    }

    #[test]
    fn items_come_go_and_move_where_they_stand() {
        let step = json!({ "title": "Breathe", "text": "Out and in." });
        let text = after(&[json!({ "kind": "insert", "path": ["steps"], "at": 1, "value": step })]);
        let titles =
            |text: &str| -> Vec<String> { check(text).file.unwrap().steps.iter().map(|s| s.title.clone()).collect() };
        assert_eq!(titles(&text)[..3], ["Weigh the carbonate", "Breathe", "Pipette the acid"]);
        assert!(Practical::parse(&text).is_ok());
        let text = after(&[json!({ "kind": "move", "path": ["steps"], "from": 0, "to": 2 })]);
        assert_eq!(
            titles(&text)[..3],
            ["Pipette the acid", "Add the carbonate to the warm acid", "Weigh the carbonate"]
        );
        let text = after(&[json!({ "kind": "remove", "path": ["observations"], "at": 1 })]);
        assert_eq!(check(&text).file.unwrap().observations.len(), 2);
        // A list that was not there begins with its first item.
        let unknown = json!({ "code": "K7", "is": "benzanilide" });
        let text = after(&[json!({ "kind": "insert", "path": ["unknowns"], "value": unknown })]);
        assert!(Practical::parse(&text).is_ok() && text.contains("[[unknowns]]"));
    }

    /// A method changed for another: its old fields go with it, remarks and the other items stay.
    #[test]
    fn an_item_is_changed_for_another() {
        let text = "# before\n[[weighings]]\n# the boat\nsymbol = \"m\" # kept\nscheme = \"tared\"\nreading = \"m_net\"\n\n\
                    [[weighings]]\nsymbol = \"n\"\nscheme = \"tared\"\n";
        let change =
            |path: Value, value: Value| edited(text, &edits(&[json!({ "kind": "set", "path": path, "value": value })]));
        let other = json!({ "symbol": "m", "scheme": "by-difference", "before": "m_1", "after": "m_2" });
        let now = change(json!(["weighings", 0]), other).unwrap();
        assert!(
            now.starts_with("# before\n[[weighings]]\n# the boat\nsymbol = \"m\" # kept\nscheme = \"by-difference\""),
            "{now}"
        );
        assert!(
            !now.contains("m_net") && now.contains("after = \"m_2\"") && now.matches("[[weighings]]").count() == 2,
            "{now}"
        );
        assert!(change(json!(["weighings", 2]), json!({})).is_err());
        assert!(change(json!(["weighings", 0]), json!("by-difference")).is_err());
    }

    #[test]
    fn what_is_nowhere_is_told_and_nothing_is_changed() {
        let refused = |edit: Value| edited(EPSOM, &edits(&[edit])).unwrap_err().to_string();
        assert_eq!(
            refused(json!({ "kind": "set", "path": ["materials", 9, "planned"], "value": "1 g" })),
            "there is nothing at materials › 10 › planned to change"
        );
        assert_eq!(
            refused(json!({ "kind": "remove", "path": ["steps"], "at": 99 })),
            "there is nothing at steps to change"
        );
        assert_eq!(
            refused(json!({ "kind": "insert", "path": ["title"], "value": 1 })),
            "there is nothing at title to change"
        );
        let unreadable =
            edited("= broken", &edits(&[json!({ "kind": "set", "path": ["title"], "value": "x" })])).unwrap_err();
        assert!(unreadable.to_string().starts_with("the text cannot be read at the moment"));
    }

    /// From nothing, by edits alone, to something that can be run.
    #[test]
    fn a_practical_is_written_from_nothing() {
        let text = blank("salt-water", "Salt \"water\"");
        assert_eq!(told(&text), [] as [String; 0]);
        let instrument = serde_json::to_value(&practical::kit()[0]).unwrap();
        let reading = json!({ "symbol": "m_salt", "label": "mass of salt", "short": "salt", "unit": "g", "instrument": instrument["name"], "decimals": 2, "range": [0.9, 1.1], "expected": "1.00" });
        let text = edited(&text, &edits(&[
            json!({ "kind": "insert", "path": ["materials"], "value": { "symbol": "salt", "name": "sodium chloride", "formula": "NaCl", "role": "sample", "form": { "kind": "solid" } } }),
            json!({ "kind": "insert", "path": ["instruments"], "value": instrument }),
            json!({ "kind": "insert", "path": ["readings"], "value": reading }),
            json!({ "kind": "insert", "path": ["results"], "value": { "name": "n_salt", "label": "amount", "expression": "m_salt / M(salt)", "unit": "mmol", "digits": "as-fewest", "tolerance": "1 %", "asked": true } }),
            json!({ "kind": "insert", "path": ["steps"], "value": { "title": "Weigh", "text": "Weigh.", "records": ["m_salt"], "answers": ["n_salt"] } }),
        ])).unwrap();
        assert_eq!(told(&text), [] as [String; 0]);
        assert!(text.contains("title = 'Salt \"water\"'") || text.contains("title = \"Salt \\\"water\\\"\""));
    }

    proptest! {
        /// Whatever edit comes, the text that comes out can be parsed; nothing panics.
        #[test]
        fn any_edit_leaves_a_text_that_can_be_read(
            path in prop::collection::vec(prop_oneof![
                prop::sample::select(vec!["materials", "steps", "form", "planned", "records", "reagents", "methods", "title", "x"]).prop_map(|s| json!(s)),
                (0usize..12).prop_map(|n| json!(n)),
            ], 0..5),
            value in prop_oneof![Just(json!(null)), Just(json!("it's \"1\"\n")), Just(json!([1, 2])), Just(json!({ "a": { "b": [] } })), Just(json!(1.5))],
            kind in 0..4,
            at in 0usize..12,
        ) {
            let edit = match kind {
                0 => json!({ "kind": "set", "path": path, "value": value }),
                1 => json!({ "kind": "insert", "path": path, "at": at, "value": value }),
                2 => json!({ "kind": "remove", "path": path, "at": at }),
                _ => json!({ "kind": "move", "path": path, "from": at, "to": 0 }),
            };
            if let Ok(text) = edited(EPSOM, &edits(&[edit])) {
                prop_assert!(text.parse::<toml_edit::DocumentMut>().is_ok());
            }
        }
    }
}

/// 3.0 ± 0.1 g becomes 2.5 ± 0.2 g, and the reading expects 2.50 between 2.3 and 2.7; the acid's unit is another one, the
/// dish weighs more than its contents, and what is no amount stands where it was put, to be told there.
#[test]
fn a_planned_amount_takes_its_readings_along() {
    let planned = |material: usize, text: &str| {
        let edits = [Edit::Plan { material, planned: text.to_owned() }];
        changes(EPSOM, &edited(EPSOM, &edits).unwrap()).into_iter().map(|c| c.item).collect::<Vec<_>>()
    };
    assert_eq!(
        planned(0, "2.5 ± 0.2 g"),
        ["materials › carbonate › planned", "readings › m_carbonate › expected", "readings › m_carbonate › range"]
    );
    // Within the range that is there, the range stays.
    assert_eq!(planned(0, "3.05 g"), ["materials › carbonate › planned", "readings › m_carbonate › expected"]);
    assert_eq!(planned(0, "2500 mg"), ["materials › carbonate › planned"]);
    assert_eq!(planned(0, "some"), ["materials › carbonate › planned"]);
    assert_eq!(planned(2, "6.2 g"), ["materials › crystals › planned"]);
    let nowhere = edited(EPSOM, &[Edit::Plan { material: 99, planned: "1 g".into() }]);
    assert!(nowhere.unwrap_err().to_string().contains("materials › 100"));
}

#[test]
fn two_versions_say_what_differs() {
    let text =
        with(&with(EPSOM, "3.0 ± 0.1 g", "2.5 ± 0.1 g"), "title = \"Weigh the carbonate\"", "title = \"Weigh it\"");
    let found: Vec<String> = changes(EPSOM, &text)
        .into_iter()
        .map(|c| format!("{}: {} -> {}", c.item, c.before.unwrap_or_default(), c.after.unwrap_or_default()))
        .collect();
    assert_eq!(
        found,
        [
            "materials › carbonate › planned: 3.0 ± 0.1 g -> 2.5 ± 0.1 g",
            "steps › Weigh the carbonate: there -> ",
            "steps › Weigh it:  -> there",
        ]
    );
    assert!(changes(EPSOM, &EPSOM.replace("# The acid", "# Acid")).is_empty(), "a remark is no change");
}
