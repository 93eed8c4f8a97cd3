//! Weighings, titres, methods and results; whether everything that is computed is recorded.

use super::{Report, keys, unknown};
use crate::error::PracticalProblem as Problem;
use crate::file::{AnswerKind, DigitsPolicy, Disclosed, File, Marks, Method, ReadingKind, ReasonItem, ResultItem};
use crate::method::Expansion;
use crate::{Amount, Material, Practical, QuantityError, ResultSpec, School, Stated, Subject, Tolerance};
use measure::{Decimal, Dimension, Unit};
use sheet::Draft;
use std::collections::{BTreeMap, BTreeSet};

/// Everything that weighings, titres, methods and results of one's own define.
pub(super) fn expand<'m>(
    report: &mut Report<'_>,
    file: &File,
    materials: &'m [Material],
    school: &School,
) -> Expansion<'m> {
    let repeated = file.readings.iter().filter(|r| r.repeats.is_some()).map(|r| r.symbol.clone()).collect();
    let mut expansion = Expansion::over(materials, repeated, school.agreement.clone());
    let scatter = file.class.iter().rev().filter(|c| c.mean != 0.0 && c.sd.is_finite() && c.mean.is_finite());
    expansion.class_scatter = scatter.map(|c| (c.result.clone(), (c.sd / c.mean).abs())).collect();
    let known: Vec<&str> = file.readings.iter().map(|r| r.symbol.as_str()).collect();
    let mut readings = |path: &[super::Key], words: String, used: Vec<&str>| {
        if let Some(name) = used.into_iter().find(|u| !known.contains(u)) {
            report.fail(path, words, unknown("reading", name, known.iter().copied()));
        }
    };
    for (i, weighing) in file.weighings.iter().enumerate() {
        readings(&keys!["weighings", i], format!("weighing '{}'", weighing.name()), weighing.readings());
        from(&mut expansion, &keys!["weighings", i], |e| e.weighing(weighing));
    }
    for (i, titre) in file.titres.iter().enumerate() {
        readings(&keys!["titres", i], format!("titre '{}'", titre.name), vec![&titre.start, &titre.end]);
        from(&mut expansion, &keys!["titres", i], |e| e.titre(titre));
    }
    for (i, method) in file.methods.iter().enumerate() {
        let mut result = Ok(());
        from(&mut expansion, &keys!["methods", i], |e| result = e.method(method));
        report.keep(&keys!["methods", i], format!("method '{}'", kind(method)), result);
    }
    for (i, item) in file.results.iter().enumerate() {
        if let Some(expression) = &item.expression {
            let draft = Draft::made(&item.name, expression.as_str());
            from(&mut expansion, &keys!["results", i, "expression"], |e| e.drafts.push(draft));
        }
    }
    expansion.roles.declare(&file.roles);
    expansion
}

/// Notes where the definitions come from that `make` adds.
fn from(expansion: &mut Expansion<'_>, path: &[super::Key], make: impl FnOnce(&mut Expansion<'_>)) {
    let before = expansion.drafts.len();
    make(expansion);
    for draft in &expansion.drafts[before..] {
        expansion.origins.entry(draft.name.clone()).or_insert_with(|| path.to_vec());
    }
}

fn kind(method: &Method) -> &'static str {
    match method {
        Method::LimitingYield { .. } => "limiting-yield",
        Method::Yield { .. } => "yield",
        Method::Recovery { .. } => "recovery",
        Method::Standardise { .. } => "standardise",
        Method::Titrate { .. } => "titrate",
        Method::BackTitration { .. } => "back-titration",
        Method::EmpiricalFormula { .. } => "empirical-formula",
        Method::Hydrate { .. } => "hydrate",
        Method::MassFraction { .. } => "mass-fraction",
        Method::Gravimetric { .. } => "gravimetric",
        Method::MassBalance { .. } => "mass-balance",
        Method::SolutionMade { .. } => "solution-made",
        Method::PercentError { .. } => "percent-error",
        Method::Calibration { .. } => "calibration",
        Method::Calorimetry { .. } => "calorimetry",
        Method::Gas { .. } => "gas",
        Method::Charge { .. } => "charge",
    }
}

pub(super) fn results(
    report: &mut Report<'_>,
    file: &File,
    expansion: &mut Expansion<'_>,
    school: &School,
) -> Vec<ResultSpec> {
    report.distinct("results", "name", "result", file.results.iter().map(|r| r.name.as_str()));
    let written = sheet::read_definitions(&file.sheet).unwrap_or_default();
    let defined: BTreeSet<&str> =
        expansion.drafts.iter().map(|d| d.name.as_str()).chain(written.iter().map(|w| w.name.as_str())).collect();
    let mut out = Vec::new();
    for (i, item) in file.results.iter().enumerate() {
        let words = format!("result '{}'", item.name);
        if !defined.contains(item.name.as_str()) && !report.broken {
            let problem = unknown("definition", &item.name, defined.iter().copied());
            report.fail(&keys!["results", i, "name"], &words, problem);
        }
        match result(item, school) {
            Ok(spec) => out.push(ResultSpec { truncated_counts: file.marking.truncated_counts, ..spec }),
            Err((key, problem)) => report.fail(&keys!["results", i, key], &words, problem),
        }
        if item.asked && !file.steps.iter().any(|s| s.answers.contains(&item.name)) {
            report.tell(&keys!["results", i, "asked"], &words, Problem::NeverAsked);
        }
    }
    for (i, item) in file.reasons.iter().enumerate() {
        let words = format!("reason '{}'", item.name);
        if defined.contains(item.name.as_str()) || file.readings.iter().any(|r| r.symbol == item.name) {
            let told = Problem::Senseless("a reason has a name that no reading, definition or result has");
            report.tell(&keys!["reasons", i, "name"], &words, told);
        }
        if !(0.0..=MOST_MARKS).contains(&item.marks) {
            report.tell(&keys!["reasons", i, "marks"], &words, Problem::Senseless(MARKS));
        }
        if !file.steps.iter().any(|s| s.answers.contains(&item.name)) {
            report.tell(&keys!["reasons", i, "name"], &words, Problem::NeverAsked);
        }
        out.push(reason(item));
    }
    report.distinct("reasons", "name", "reason", file.reasons.iter().map(|r| r.name.as_str()));
    let reasons = file.reasons.iter().map(|r| (r.name.clone(), r.label.clone()));
    expansion.labels.extend(file.results.iter().map(|r| (r.name.clone(), r.label.clone())).chain(reasons));
    out
}

const MOST_MARKS: f64 = 1000.0;
const MARKS: &str = "marks are not negative, and at most 1000";

/// A reason in words, among what is asked for.
fn reason(item: &ReasonItem) -> ResultSpec {
    ResultSpec {
        name: item.name.clone(),
        label: item.label.clone(),
        unit: Unit::one(),
        units: Vec::new(),
        digits: DigitsPolicy::AtLeastTwo,
        tolerance: Tolerance::Absolute(0.0),
        asked: true,
        answer: AnswerKind::Words,
        disclosed: Disclosed::AfterAnswer,
        marks: Marks { value: item.marks, ..Marks::default() },
        wanted: None,
        truncated_counts: false,
        model: item.model.clone(),
    }
}

fn result(item: &ResultItem, school: &School) -> Result<ResultSpec, (&'static str, Problem)> {
    let quantity = |text: &str, reason: String| Problem::Quantity { text: text.to_owned(), reason };
    let unit = |text: &str, key| Unit::parse(text).map_err(|e| (key, quantity(text, e.to_string())));
    let shown = unit(&item.unit, "unit")?;
    let wanted = item.wanted.as_deref().map(|w| {
        let read = Stated::positive(w, &[Dimension::ONE]).map(|s| s.base());
        read.map_err(|e| ("wanted", quantity(w, e.to_string())))
    });
    let marks = item.marks;
    if [marks.method, marks.value, marks.unit, marks.digits].iter().any(|m| !(0.0..=MOST_MARKS).contains(m)) {
        return Err(("marks", Problem::Senseless(MARKS)));
    }
    let spec = ResultSpec {
        name: item.name.clone(),
        label: item.label.clone(),
        units: item.units.iter().map(|u| unit(u, "units")).collect::<Result<_, _>>()?,
        digits: item.digits.unwrap_or(school.digits_policy()),
        tolerance: tolerance(&item.tolerance, &shown).map_err(|e| ("tolerance", quantity(&item.tolerance, e)))?,
        asked: item.asked,
        answer: item.answer,
        disclosed: item.disclosed,
        marks,
        wanted: wanted.transpose()?,
        truncated_counts: false,
        model: String::new(),
        unit: shown,
    };
    Ok(spec)
}

/// `0.5 %` of the value, `0.02 g`, `1 in the last digit`.
fn tolerance(text: &str, unit: &Unit) -> Result<Tolerance, String> {
    if let Some(number) = text.trim().strip_suffix("in the last digit") {
        let n = Decimal::parse(number.trim()).map_err(|e| e.to_string())?.to_f64();
        let whole = (0..=50u32).find(|w| f64::from(*w) == n);
        return whole
            .map(Tolerance::LastDigit)
            .ok_or_else(|| "a whole number up to 50 stands before 'in the last digit'".into());
    }
    let amount = Amount::parse(text).map_err(|e| e.to_string())?;
    if amount.value.is_negative() {
        return Err("a tolerance is not negative".into());
    }
    match amount.unit.dimension() {
        // Of a percentage, percent could mean either; a part of the value is what is meant.
        Dimension::ONE if amount.unit.written() == "%" => Ok(Tolerance::Relative(amount.base())),
        d if d == unit.dimension() => Ok(Tolerance::Absolute(amount.unit.difference_to_base(amount.value.to_f64()))),
        d => Err(format!("this is {d}, and the result is {}", unit.dimension())),
    }
}

/// What some groups read and see that others do not: of things that are there, in a way that they can be.
fn own_expectations(
    report: &mut Report<'_>,
    file: &File,
    (section, i): (&'static str, usize),
    words: &str,
    expected: &BTreeMap<String, String>,
    observed: &BTreeMap<String, String>,
) {
    for (symbol, text) in expected {
        let path = &keys![section, i, "expected", symbol.as_str()];
        let Some(reading) = file.readings.iter().find(|r| r.symbol == *symbol) else {
            let names = file.readings.iter().map(|r| r.symbol.as_str());
            report.fail(path, words, unknown("reading", symbol, names));
            continue;
        };
        if let Err(e) = crate::reading::expectation(reading.kind, text) {
            report.fail(path, words, Problem::Quantity { text: text.clone(), reason: e.to_string() });
        }
    }
    for (symbol, choice) in observed {
        let path = &keys![section, i, "observed", symbol.as_str()];
        match file.observations.iter().find(|o| o.symbol == *symbol) {
            None => {
                let names = file.observations.iter().map(|o| o.symbol.as_str());
                report.fail(path, words, unknown("observation", symbol, names));
            }
            Some(o) if !o.choices.contains(choice) => {
                report.fail(path, words, unknown("choice", choice, o.choices.iter().map(String::as_str)));
            }
            Some(_) => {}
        }
    }
}

pub(super) fn differences_between_groups(report: &mut Report<'_>, file: &File) {
    report.distinct("unknowns", "code", "unknown", file.unknowns.iter().map(|u| u.code.as_str()));
    report.distinct("assignments", "name", "assignment", file.assignments.iter().map(|a| a.name.as_str()));
    for (i, assignment) in file.assignments.iter().enumerate() {
        let words = format!("assignment '{}'", assignment.name);
        let materials = file.materials.iter().map(|m| m.symbol.as_str());
        let results = file.results.iter().map(|r| r.name.as_str());
        let codes = file.unknowns.iter().map(|u| u.code.as_str());
        let mut known = |key: &str, what: &'static str, used: Vec<&String>, names: Vec<&str>| {
            if let Some(name) = used.into_iter().find(|u| !names.contains(&u.as_str())) {
                report.fail(&keys!["assignments", i, key], &words, unknown(what, name, names.into_iter()));
            }
        };
        known("planned", "material", assignment.planned.keys().collect(), materials.collect());
        known(
            "limiting",
            "material",
            assignment.limiting.iter().collect(),
            file.materials.iter().map(|m| m.symbol.as_str()).collect(),
        );
        known("accepted", "result", assignment.accepted.keys().collect(), results.collect());
        known("unknown", "unknown", assignment.unknown.iter().collect(), codes.collect());
        for (symbol, text) in &assignment.planned {
            if let Err(reason) = Stated::positive(text, &[Dimension::MASS, Dimension::VOLUME]) {
                let problem = Problem::Quantity { text: text.clone(), reason: reason.to_string() };
                report.fail(&keys!["assignments", i, "planned", symbol.as_str()], &words, problem);
            }
        }
        let (expected, observed) = (&assignment.expected, &assignment.observed);
        own_expectations(report, file, ("assignments", i), &words, expected, observed);
    }
    for (i, unknown) in file.unknowns.iter().enumerate() {
        let words = format!("unknown '{}'", unknown.code);
        own_expectations(report, file, ("unknowns", i), &words, &unknown.expected, &unknown.observed);
    }
    for (i, c) in file.class.iter().enumerate() {
        let names = file.results.iter().map(|r| r.name.as_str());
        if !file.results.iter().any(|r| r.name == c.result) {
            report.fail(&keys!["class", i, "result"], "class", unknown("result", &c.result, names));
        } else if !(c.mean.is_finite() && c.sd.is_finite() && c.sd >= 0.0) {
            report.fail(&keys!["class", i, "sd"], "class", Problem::Senseless("a standard deviation is not negative"));
        }
    }
    for (symbol, text) in file.trial_run.iter().flat_map(|t| &t.readings) {
        let path = &keys!["trial_run", "readings", symbol.as_str()];
        if let Err(e) = Decimal::parse(text) {
            report.fail(path, "trial run", Problem::Quantity { text: text.clone(), reason: e.to_string() });
        }
    }
}

/// Lines through a class join definitions that have one value a group.
pub(super) fn pooled(report: &mut Report<'_>, practical: &Practical) {
    for (i, line) in practical.file.pooled.iter().enumerate() {
        for (key, name) in [("x", &line.x), ("y", &line.y)] {
            let names = practical.program.definitions().iter().filter(|d| d.repeats.is_none());
            if !names.clone().any(|d| d.name == *name) {
                let problem = unknown("definition with one value", name, names.map(|d| d.name.as_str()));
                report.tell(&keys!["pooled", i, key], format!("line '{}'", line.label), problem);
            }
        }
    }
}

/// A role is given to something that is there, and is about something that is there.
pub(super) fn roles(report: &mut Report<'_>, practical: &Practical) {
    for (i, item) in practical.file.roles.iter().enumerate() {
        let words = format!("role of '{}'", item.definition);
        let defined = practical.program.definitions().iter().map(|d| d.name.as_str());
        let read = practical.readings.iter().map(|r| r.symbol.as_str());
        let known: Vec<&str> = defined.chain(read).collect();
        if !known.contains(&item.definition.as_str()) {
            let problem = unknown("definition", &item.definition, known.into_iter());
            report.tell(&keys!["roles", i, "definition"], &words, problem);
        }
        let (what, names): (_, Vec<&str>) = match item.role.subject() {
            Subject::Material => ("material", practical.materials.iter().map(|m| m.symbol.as_str()).collect()),
            Subject::Titre => ("titre", practical.file.titres.iter().map(|t| t.name.as_str()).collect()),
            Subject::None => continue,
        };
        match &item.of {
            Some(of) if names.contains(&of.as_str()) => {}
            Some(of) => report.tell(&keys!["roles", i, "of"], &words, unknown(what, of, names.into_iter())),
            None => {
                let told = Problem::Senseless("this role is about something: say of which material or titre");
                report.tell(&keys!["roles", i], &words, told);
            }
        }
    }
}

/// An answer can be given once at least, and a hint gives nothing away.
pub(super) fn feedback(report: &mut Report<'_>, file: &File) {
    if file.feedback.attempts == Some(0) {
        let told = Problem::Senseless("an answer can be given once at least; leave it out for any number of attempts");
        report.tell(&keys!["feedback", "attempts"], "feedback", told);
    }
    for (slip, hint) in &file.feedback.hints {
        if hint.trim().is_empty() || hint.chars().count() > 200 {
            let told = Problem::Senseless("a hint has 1 to 200 characters");
            report.tell(&keys!["feedback", "hints"], format!("hint '{slip:?}'"), told);
        }
    }
}

/// Marks for the work at the bench: none is negative, and a scale slides one way.
pub(super) fn marking(report: &mut Report<'_>, file: &File) {
    let marking = &file.marking;
    for (key, marks) in [("recording", marking.recording), ("agreement", marking.agreement)] {
        if !(0.0..=MOST_MARKS).contains(&marks) {
            report.tell(&keys!["marking", key], "marking", Problem::Senseless(MARKS));
        }
    }
    let Some(closeness) = &marking.closeness else { return };
    if !(0.0..=MOST_MARKS).contains(&closeness.marks) {
        report.tell(&keys!["marking", "closeness", "marks"], "marking", Problem::Senseless(MARKS));
    }
    if !file.results.iter().any(|r| r.name == closeness.result) {
        let names = file.results.iter().map(|r| r.name.as_str());
        let path = &keys!["marking", "closeness", "result"];
        report.tell(path, "marking", unknown("result", &closeness.result, names));
    }
    let mut ends = Vec::new();
    for (key, text) in [("all_within", &closeness.all_within), ("none_beyond", &closeness.none_beyond)] {
        match Stated::positive(text, &[Dimension::ONE]) {
            Ok(stated) => ends.push(stated.base()),
            Err(reason) => {
                let problem = Problem::Quantity { text: text.clone(), reason: reason.to_string() };
                report.tell(&keys!["marking", "closeness", key], "marking", problem);
            }
        }
    }
    if let [all, none] = ends[..]
        && all >= none
    {
        let told = Problem::Senseless("marks begin to be lost before there are none left: 'all_within' is the smaller");
        report.tell(&keys!["marking", "closeness", "all_within"], "marking", told);
    }
}

/// What is answered fits what is found: a formula is answered as one, a limiting reagent needs reagents to choose from.
pub(super) fn answers(report: &mut Report<'_>, practical: &mut Practical) {
    for i in 0..practical.results.len() {
        let result = &practical.results[i];
        let formula = practical.program.definition(&result.name).is_some_and(|d| practical.program.is_formula(d));
        let limits = practical.limiting.as_ref().is_some_and(|(name, _)| *name == result.name);
        let told = match result.answer {
            AnswerKind::Formula if !formula => "only a formula that the sheet finds can be answered with a formula",
            AnswerKind::Limiting if !limits => "a limiting reagent is answered where a method finds it: 'extent'",
            AnswerKind::Words if practical.file.results.iter().any(|r| r.name == result.name) => {
                "a result is worked out; what is answered in words stands under [[reasons]]"
            }
            AnswerKind::Number | AnswerKind::Formula | AnswerKind::Limiting | AnswerKind::Words => {
                if formula {
                    practical.results[i].answer = AnswerKind::Formula;
                }
                continue;
            }
        };
        report.tell(&keys!["results", i, "answer"], format!("result '{}'", result.name), Problem::Senseless(told));
    }
}

/// Protons of a curve.
const MOST_PROTONS: usize = 3;

/// What is said of the trials of a titre can be held against them.
pub(super) fn titres(report: &mut Report<'_>, practical: &Practical) {
    for (i, titre) in practical.file.titres.iter().enumerate() {
        let words = format!("titre '{}'", titre.name);
        let planned = |symbol: &str| practical.reading(symbol).map(|r| r.unit.to_base(r.expected.to_f64()));
        let volume = planned(&titre.end).zip(planned(&titre.start)).map(|(end, start)| end - start);
        let read = |text: &str, dimensions: &[Dimension]| {
            let quantity = |e: QuantityError| Problem::Quantity { text: text.to_owned(), reason: e.to_string() };
            Stated::positive(text, dimensions).map_err(quantity)
        };
        if let Some(text) = &titre.end_point {
            let path = &keys!["titres", i, "end_point"];
            let stated = report.keep(path, &words, read(text, &[Dimension::VOLUME]));
            if stated.zip(volume).is_some_and(|(s, v)| s.base() >= v.abs()) {
                report.fail(path, &words, Problem::Senseless("the end point is as uncertain as the whole titre"));
            }
        }
        if let Some(curve) = &titre.curve {
            let path = |key: &str| keys!["titres", i, "curve", key];
            report.keep(&path("titrant"), &words, read(&curve.titrant, &[Dimension::CONCENTRATION]));
            report.keep(&path("flask"), &words, read(&curve.flask, &[Dimension::VOLUME]));
            if curve.pka.len() > MOST_PROTONS || curve.pka.iter().any(|pka| !(-2.0..=16.0).contains(pka)) {
                report.fail(
                    &path("pka"),
                    &words,
                    Problem::Senseless("a pKa lies between -2 and 16, for three protons at most"),
                );
            }
        }
        let Some(agree) = &titre.agree else { continue };
        let path = &keys!["titres", i, "agree"];
        if let Some(name) = &agree.of {
            match practical.program.definition(name) {
                None => {
                    let known = practical.program.definitions().iter().map(|d| d.name.as_str());
                    report.fail(path, &words, unknown("definition", name, known));
                }
                Some(d) if d.repeats.is_none() => {
                    report.fail(path, &words, Problem::Senseless("what is compared has a value for each trial"));
                }
                Some(_) => {}
            }
        }
        if agree.limit.is_some() && agree.rsd.is_some() {
            let told = "trials agree within a limit, or by their rsd: say one of them";
            report.fail(path, &words, Problem::Senseless(told));
        }
        for (text, dimension) in [(&agree.limit, Dimension::VOLUME), (&agree.rsd, Dimension::ONE)] {
            if let Some(text) = text {
                report.keep(path, &words, read(text, &[dimension]));
            }
        }
    }
}

/// A reading is taken by a step and used by something; a result has all it needs.
pub(super) fn use_of_readings(report: &mut Report<'_>, practical: &Practical) {
    let recorded: BTreeSet<&str> = practical.steps.iter().flat_map(|s| &s.records).map(String::as_str).collect();
    let readings = practical.readings.iter().filter(|r| recorded.contains(r.symbol.as_str()));
    let taken: BTreeSet<String> = readings.flat_map(crate::Reading::sheet_names).collect();
    let used: BTreeSet<&str> =
        practical.program.definitions().iter().flat_map(|d| practical.program.readings_of(d)).collect();
    for (i, reading) in practical.readings.iter().enumerate() {
        let words = format!("reading '{}'", reading.symbol);
        let symbol = reading.symbol.as_str();
        if !recorded.contains(symbol) {
            report.tell(&keys!["readings", i], &words, Problem::NeverTaken);
        }
        // What the bench itself goes by, no sheet need hang on.
        let guides = practical.is_plotted(reading)
            || practical.decides_a_stop(reading)
            || reading.adds_up()
            || practical.is_liquor(reading);
        if !used.contains(symbol) && reading.of.is_none() && reading.kind == ReadingKind::Number && !guides {
            report.tell(&keys!["readings", i], &words, Problem::NeverUsed);
        }
    }
    for (i, result) in practical.results.iter().enumerate() {
        let words = format!("result '{}'", result.name);
        let Some(definition) = practical.program.definition(&result.name) else { continue };
        if definition.repeats.is_some() {
            let told = "it has a value for each trial; fold it with mean(…)";
            report.tell(&keys!["results", i, "name"], &words, Problem::Senseless(told));
        }
        let needs = practical.program.readings_of(definition);
        if let Some(missing) = needs.into_iter().find(|r| !taken.contains(*r)) {
            report.tell(&keys!["results", i], &words, Problem::NeedsUntaken(missing.to_owned()));
        }
    }
}
