//! The practical: what is used, done, recorded and computed, defined as a whole.
//!
//! [`Practical::parse`] turns the text of a `*.practical.toml` file into a checked definition with its compiled sheet.
//! What passes can be run: every name resolves, every unit fits, the equations balance, everything that a result needs
//! is recorded. [`check`] does the same for a text in the making: it tells everything that is wrong, each with its
//! place, and gives what can be given all the same.

#![deny(missing_docs)]

mod amount;
mod assigned;
pub mod book;
mod changes;
mod classified;
mod curve;
mod edit;
mod error;
pub mod file;
mod held;
mod kit;
mod method;
mod place;
mod planned;
mod reactions;
mod reading;
mod role;
mod run_down;
mod school;
pub mod slip;
mod solubility;
pub mod statistics;
pub mod substance;
mod supply;
pub mod technique;
mod upgrade;
mod validate;

pub use amount::{Amount, Basis, Level, QuantityError, Stated, minutes};
pub use assigned::Allotted;
pub use changes::{Change, changes};
pub use classified::{Classified, hazard_form, mass_percent};
pub use curve::Curve;
pub use edit::{Edit, EditError, edited};
pub use error::{PracticalError, PracticalErrors, PracticalProblem, Told};
pub use held::{Held, HeldAt};
pub use kit::{blank, kit};
pub use method::{Agreement, Compared, Rule};
pub use place::{Key, Place};
pub use reactions::{Reaction, written};
pub use reading::{Part, Reading, Slot};
pub use role::{RoleItem, Roles, SheetRole, Subject, YieldNames};
pub use run_down::{Amounts, Ran, Run, RunDown};
pub use school::{BuretteReading, Dry, ResultDigits, School, SchoolItem, ShownUncertainty, TitresAgree};
pub use solubility::{celsius, grams_of_water};
pub use supply::{Strength, StrengthKind, Supply};
pub use upgrade::upgraded;

use chem::{Coefficient, Formula};
use file::{Arrangement, Disclosed, File, Marks, Observation, Role, Step};
use measure::Unit;
use sheet::Program;
use std::collections::BTreeMap;

/// The newest format that this version reads, and writes.
pub const FORMAT: &str = "1.1";
/// Earlier formats that are read as they stand: all that came since can be left out.
const READ_AS_THEY_STAND: &[&str] = &["1.0"];

/// A checked practical.
#[derive(Debug, Clone)]
pub struct Practical {
    /// As it stands in the file: identity, instruments, resources, assignments, what a class usually finds.
    pub file: File,
    /// What the school chose, with what this practical does otherwise.
    pub school: School,
    /// How several reactions belong together.
    pub arrangement: Arrangement,
    /// Balanced, in the order of the file.
    pub reactions: Vec<Reaction>,
    /// In the order of the file.
    pub materials: Vec<Material>,
    /// In bench order.
    pub readings: Vec<Reading>,
    /// What is looked at, in bench order.
    pub observations: Vec<Observation>,
    /// In bench order.
    pub steps: Vec<Step>,
    /// What is asked of a group or shown to the instructor, in order; reasons in words come last.
    pub results: Vec<ResultSpec>,
    /// Containers to subtract from a gross reading, by the gross reading's symbol.
    pub containers: BTreeMap<String, Vec<String>>,
    /// Two readings whose difference counts: the larger first.
    pub differences: Vec<(String, String)>,
    /// The compiled sheet.
    pub program: Program,
    /// What each definition is called in words.
    pub labels: BTreeMap<String, String>,
    /// Definitions that find the limiting reagent: name, and the reagents in the order of its arguments.
    pub limiting: Option<(String, Vec<String>)>,
    /// What definitions stand for, by the methods that make them and by the author.
    pub roles: Roles,
    /// What this group was given that others were not; nothing in the practical as it stands.
    pub allotted: Allotted,
    /// Strengths on the labels of bottles that were measured since, by material.
    pub labelled: BTreeMap<String, Stated>,
}

/// A substance on the bench.
#[derive(Debug, Clone)]
pub struct Material {
    /// As the sheet calls it.
    pub symbol: String,
    /// Systematic name.
    pub name: String,
    /// Common name or remark.
    pub also: String,
    /// What it does here.
    pub role: Role,
    /// What is weighed or dissolved, if it has a formula.
    pub formula: Option<Formula>,
    /// How it is supplied.
    pub supply: Supply,
    /// How much is planned, and how far from it will do: of one group, or of each along an axis.
    pub planned: Option<Stated>,
    /// The same in words where exactness does not matter: `3 drops`, `a spatula tip`.
    pub roughly: Option<String>,
    /// The axis along which it is planned anew each time: `trial`; none where it is of one group.
    pub each: Option<String>,
    /// Numbers of waters that this salt is sold with.
    pub hydrates: Vec<f64>,
    /// Materials that it may be a mixture of.
    pub mixture_of: Vec<String>,
    /// What water takes up: the formula counted, then °C and g in 100 g of water, by temperature.
    pub solubility: Option<(Formula, Vec<[f64; 2]>)>,
    /// Solubility product.
    pub ksp: Option<f64>,
    /// Melting range, °C.
    pub melts: Option<(f64, f64)>,
    /// Boiling point, °C.
    pub boils: Option<f64>,
    /// Hottest that it bears, °C.
    pub bears: Option<f64>,
    /// Hazard statements of this form and strength.
    pub hazards: Vec<String>,
    /// Its disposal group; empty where none is named.
    pub waste: String,
    /// Stoichiometric coefficient, and whether it is used up.
    pub term: Option<(Coefficient, bool)>,
    /// The species of the reactions that it brings, and how many of it.
    pub species: Option<(Formula, u32)>,
}

/// A result of the sheet that is shown or asked for.
#[derive(Debug, Clone)]
pub struct ResultSpec {
    /// Name of the definition.
    pub name: String,
    /// In words.
    pub label: String,
    /// The unit asked for.
    pub unit: Unit,
    /// Units that a group can choose from.
    pub units: Vec<Unit>,
    /// How many digits are right.
    pub digits: file::DigitsPolicy,
    /// Legitimate spread.
    pub tolerance: Tolerance,
    /// Whether groups work it out themselves.
    pub asked: bool,
    /// What is answered.
    pub answer: file::AnswerKind,
    /// When it may be shown at the bench.
    pub disclosed: Disclosed,
    /// What it is worth.
    pub marks: Marks,
    /// How good it should be: relative U (k = 2).
    pub wanted: Option<f64>,
    /// Digits that were cut off instead of rounded count as right.
    pub truncated_counts: bool,
    /// Of a reason in words, what a good one says.
    pub model: String,
}

impl ResultSpec {
    /// Whether the sheet works it out; a reason in words it does not.
    #[must_use]
    pub fn is_worked_out(&self) -> bool {
        self.answer != file::AnswerKind::Words
    }
}

/// How far an answer may be off beyond its typed digits.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Tolerance {
    /// Part of the value.
    Relative(f64),
    /// In base units.
    Absolute(f64),
    /// So many units of the last digit typed.
    LastDigit(u32),
}

impl Tolerance {
    /// Either way, in base units, around `expected` for an answer whose last digit is worth `last`.
    #[must_use]
    pub fn around(self, expected: f64, last: f64) -> f64 {
        match self {
            Tolerance::Relative(part) => part * expected.abs(),
            Tolerance::Absolute(width) => width,
            Tolerance::LastDigit(n) => f64::from(n) * last,
        }
    }
}

/// What a text in the making comes to.
#[derive(Debug)]
pub struct Checked {
    /// Its shape, where it has one.
    pub file: Option<File>,
    /// The practical, as far as nothing essential is wrong.
    pub practical: Option<Practical>,
    /// Everything that is wrong, in the order of the text. While there is any, it cannot be published.
    pub errors: Vec<PracticalError>,
}

/// What a text in the making comes to in a school, and everything that is wrong with it.
#[must_use]
pub fn check(text: &str, school: &School) -> Checked {
    let shape = match file::read(text) {
        Ok(shape) => shape,
        Err((at, problem)) => {
            let (line, column) = place::line_and_column(text, at);
            let place = Place { line, column, item: String::new(), path: Vec::new() };
            return Checked { file: None, practical: None, errors: vec![PracticalError { place, problem }] };
        }
    };
    let (practical, mut errors) = validate::practical(&shape, school);
    errors.sort_by_key(|e| (e.place.line, e.place.column));
    Checked { file: Some(shape.file), practical, errors }
}

impl Practical {
    /// The practical that a file's text defines, in a school that chose nothing.
    ///
    /// # Errors
    /// [`PracticalErrors`]: everything that is wrong, each with its line and character.
    pub fn parse(text: &str) -> Result<Practical, PracticalErrors> {
        Practical::parse_in(text, &School::default())
    }

    /// The practical that a file's text defines, as a school works it.
    ///
    /// # Errors
    /// [`PracticalErrors`]: everything that is wrong, each with its line and character.
    pub fn parse_in(text: &str, school: &School) -> Result<Practical, PracticalErrors> {
        let checked = check(upgraded(text).as_deref().unwrap_or(text), school);
        match checked.practical {
            Some(practical) if checked.errors.is_empty() => Ok(practical),
            _ => Err(PracticalErrors(checked.errors)),
        }
    }

    /// The material with this symbol.
    #[must_use]
    pub fn material(&self, symbol: &str) -> Option<&Material> {
        self.materials.iter().find(|m| m.symbol == symbol)
    }

    /// What a name stands for, in words: a place in which a number is written, a definition, one of its trials, a material.
    #[must_use]
    pub fn label_of(&self, name: &str) -> String {
        if let Some(slot) = self.slot(name) {
            return slot.label;
        }
        if let Some(label) = self.labels.get(name) {
            return label.clone();
        }
        let trial = name.strip_suffix(']').and_then(|n| n.split_once('['));
        if let Some((label, n)) = trial.and_then(|(of, n)| Some((self.labels.get(of)?, n))) {
            return format!("{label}, trial {n}");
        }
        self.material(name).map_or_else(|| name.to_owned(), |m| m.name.clone())
    }

    /// The result with this name.
    #[must_use]
    pub fn result(&self, name: &str) -> Option<&ResultSpec> {
        self.results.iter().find(|r| r.name == name)
    }

    /// The observation with this symbol.
    #[must_use]
    pub fn observation(&self, symbol: &str) -> Option<&Observation> {
        self.observations.iter().find(|o| o.symbol == symbol)
    }
}
