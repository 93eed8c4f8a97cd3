//! From a file's shape to a practical that can be run: every name resolves, every unit fits, the equations balance,
//! everything that a result needs is recorded. Each item is looked at on its own, so that all that is wrong is told at
//! once.

mod bench;
mod materials;
mod results;

use super::error::{PracticalError, PracticalProblem as Problem};
use super::file::{Arrangement, File, Shape};
use super::method::Expansion;
use super::place::{Key, locate};
use super::{Allotted, Material, Practical, Reading, School, reactions};
use chem::Formula;
use sheet::{Draft, Program, ReadingName, SheetError, SheetProblem, Vocabulary, nearest, read_definitions};
use std::collections::BTreeSet;

/// What is gathered on the way.
struct Report<'a> {
    shape: &'a Shape,
    errors: Vec<PracticalError>,
    /// Something is wrong without which there is no practical.
    broken: bool,
}

impl Report<'_> {
    /// Something that can be told and mended while everything else is still shown.
    fn tell(&mut self, path: &[Key], item: impl Into<String>, problem: Problem) {
        let place = locate(&self.shape.document, path, item.into());
        self.errors.push(PracticalError { place, problem });
    }

    /// Something without which there is no practical.
    fn fail(&mut self, path: &[Key], item: impl Into<String>, problem: Problem) {
        self.broken = true;
        self.tell(path, item, problem);
    }

    /// The value, or a failure told.
    fn keep<T>(&mut self, path: &[Key], item: impl Into<String>, result: Result<T, Problem>) -> Option<T> {
        result.map_err(|problem| self.fail(path, item, problem)).ok()
    }

    fn distinct<'a>(&mut self, section: &str, key: &str, what: &str, names: impl Iterator<Item = &'a str>) {
        let mut seen = BTreeSet::new();
        for (i, name) in names.enumerate() {
            if !seen.insert(name) {
                self.fail(&keys![section, i, key], format!("{what} '{name}'"), Problem::Twice(name.to_owned()));
            }
        }
    }
}

/// A path from keys and numbers.
macro_rules! keys {
    ($($key:expr),* $(,)?) => { [$(crate::Key::from($key)),*] };
}
use keys;

/// A name that nothing has, with one that is near.
fn unknown<'a>(what: &'static str, name: &str, known: impl Iterator<Item = &'a str>) -> Problem {
    Problem::Unknown { what, name: name.chars().take(60).collect(), near: nearest(name, known) }
}

pub(super) fn practical(shape: &Shape, school: &School) -> (Option<Practical>, Vec<PracticalError>) {
    let file = &shape.file;
    let school = school.with(file.atomic_masses.as_ref(), &file.school);
    let mut report = Report { shape, errors: Vec::new(), broken: false };
    identity(&mut report, file);
    if let Err(problem) = school.sound() {
        report.fail(&keys!["school"], "school", problem);
    }
    let reactions = materials::reactions(&mut report, file);
    let materials = materials::materials(&mut report, file, &reactions, &school.atomic_masses);
    let readings = bench::readings(&mut report, file, &materials, &school);
    bench::observations(&mut report, file);
    bench::steps(&mut report, file, &materials);
    let mut expansion = results::expand(&mut report, file, &materials, &school);
    let results = results::results(&mut report, file, &mut expansion, &school);
    results::differences_between_groups(&mut report, file);
    results::feedback(&mut report, file);
    results::marking(&mut report, file);
    let program =
        if report.broken { None } else { compile(&mut report, file, &readings, &expansion, &reactions, &school) };
    let Some(program) = program else { return (None, report.errors) };

    let mut practical = Practical {
        file: file.clone(),
        school,
        arrangement: file.arrangement,
        reactions,
        readings: readings.into_iter().map(|r| Reading { tared: expansion.tared.contains(&r.symbol), ..r }).collect(),
        observations: bench::with_codes(file),
        steps: file.steps.clone(),
        results,
        containers: expansion.containers,
        differences: expansion.differences,
        program,
        labels: expansion.labels,
        limiting: expansion.limiting,
        roles: expansion.roles,
        allotted: Allotted::default(),
        labelled: std::collections::BTreeMap::new(),
        materials: Vec::new(),
    };
    practical.materials = materials;
    results::answers(&mut report, &mut practical);
    results::pooled(&mut report, &practical);
    results::roles(&mut report, &practical);
    results::titres(&mut report, &practical);
    results::use_of_readings(&mut report, &practical);
    (Some(practical), report.errors)
}

fn identity(report: &mut Report<'_>, file: &File) {
    let plain = |c: char| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '-';
    if file.id.is_empty() || file.id.len() > 60 || !file.id.chars().all(plain) {
        let told = Problem::Senseless("an identity is made of small letters, digits and '-', at most 60 of them");
        report.fail(&keys!["id"], "", told);
    }
    if file.title.trim().is_empty() || file.title.chars().count() > 120 {
        report.fail(&keys!["title"], "", Problem::Senseless("a title has 1 to 120 characters"));
    }
    if !(1..=20).contains(&file.visits) {
        report.tell(&keys!["visits"], "", Problem::Senseless("a practical takes 1 to 20 visits"));
    }
}

/// The sheet over the names of this practical.
fn compile(
    report: &mut Report<'_>,
    file: &File,
    readings: &[Reading],
    expansion: &Expansion<'_>,
    reactions: &[reactions::Reaction],
    school: &School,
) -> Option<Program> {
    let materials = expansion.materials;
    let mut drafts = expansion.drafts.clone();
    let written = read_definitions(&file.sheet);
    let written = written.map_err(|e| in_sheet(report, &keys!["sheet"], e)).ok()?;
    drafts.extend(written.into_iter().map(Draft::from));
    let mut drafts = in_order(drafts);
    for draft in &mut drafts {
        if let Some(item) = file.results.iter().find(|r| r.name == draft.name) {
            draft.unit = measure::Unit::parse(&item.unit).ok();
        }
    }
    let vocabulary = vocabulary(readings, materials, &expansion.elements, reactions, file.arrangement, school);
    match Program::compile(&drafts, &vocabulary) {
        Ok(program) => Some(program),
        Err(error) => {
            let origin = expansion.origins.get(&error.definition).filter(|_| error.line == 0);
            let path = match (&error.problem, file.results.iter().position(|r| r.name == error.definition)) {
                (SheetProblem::WrongUnit { .. }, Some(i)) => keys!["results", i, "unit"].to_vec(),
                _ => origin.cloned().unwrap_or_else(|| keys!["sheet"].to_vec()),
            };
            // The equation has the salt without its water: that is what there is to say.
            if let SheetProblem::NotStated { material, .. } = &error.problem
                && let Some(at) = materials.iter().position(|m| m.symbol == *material)
                && let (Some(formula), None) = (&materials[at].formula, &materials[at].species)
                && let Some(meant) = materials::meant_by(formula, reactions)
            {
                let problem = Problem::Supplies { formula: formula.typed().into(), species: meant.typed().into() };
                report.fail(&keys!["materials", at, "formula"], format!("material '{material}'"), problem);
                return None;
            }
            let item = if error.line == 0 { format!("definition '{}'", error.definition) } else { "sheet".into() };
            if error.line == 0 {
                report.fail(&path, item, Problem::Sheet(error));
            } else {
                in_sheet(report, &path, error);
            }
            None
        }
    }
}

/// The definitions so that each stands behind what it uses; what goes round in a circle stays at the end.
///
/// Weighings, methods, the sheet and results may then use each other, wherever they stand in the file.
fn in_order(mut drafts: Vec<Draft>) -> Vec<Draft> {
    let mut out = Vec::with_capacity(drafts.len());
    let ready = |d: &Draft, left: &[Draft]| !d.mentions().iter().any(|n| left.iter().any(|l| l.name == *n));
    while let Some(next) = (0..drafts.len()).find(|i| ready(&drafts[*i], &drafts)) {
        out.push(drafts.remove(next));
    }
    out.extend(drafts);
    out
}

/// An error in the sheet's own text: its block begins on the line after the quotes.
fn in_sheet(report: &mut Report<'_>, path: &[Key], error: SheetError) {
    let mut place = locate(&report.shape.document, path, "sheet".into());
    (place.line, place.column) = (place.line + error.line, error.column);
    report.broken = true;
    report.errors.push(PracticalError { place, problem: Problem::Sheet(error) });
}

fn vocabulary(
    readings: &[Reading],
    materials: &[Material],
    elements: &[String],
    reactions: &[reactions::Reaction],
    arrangement: Arrangement,
    school: &School,
) -> Vocabulary {
    let bare = |symbol: &str, formula: Option<Formula>| sheet::Material {
        symbol: symbol.to_owned(),
        formula,
        coefficient: None,
        concentration: None,
        purity: None,
        density: None,
        mass_concentration: None,
    };
    let mut known: Vec<sheet::Material> = materials
        .iter()
        .map(|m| {
            let mut known = bare(&m.symbol, m.formula.clone());
            known.coefficient = m.term.map(|(c, _)| c);
            m.supply.tell(&mut known);
            known
        })
        .collect();
    for element in elements {
        if !known.iter().any(|m| m.symbol == *element) {
            known.push(bare(element, Formula::parse(element).ok()));
        }
    }
    let named = readings.iter().flat_map(|r| {
        let name = |symbol| ReadingName { symbol, unit: r.unit.clone(), repeats: r.repeats.clone() };
        r.sheet_names().into_iter().map(name)
    });
    Vocabulary {
        readings: named.collect(),
        materials: known,
        masses: school.atomic_masses.clone(),
        masses_exact: false,
        writing: school.writing(),
        ratios: materials::own_ratios(materials, reactions, arrangement),
    }
}
