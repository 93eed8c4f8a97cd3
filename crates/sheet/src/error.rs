//! What can be wrong with a sheet, where, and what might help.

use measure::{Dimension, UnitError};

/// Why a sheet could not be compiled, with the place.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[error("{problem} (line {line}, character {column}, in the definition of '{definition}')")]
pub struct SheetError {
    /// Name of the definition, or the line as typed where it has none.
    pub definition: String,
    /// Line of the sheet's text, from 1; 0 for a definition that a method made.
    pub line: usize,
    /// Character of the line, from 1.
    pub column: usize,
    /// What is wrong there.
    pub problem: SheetProblem,
}

/// What can be wrong in a sheet.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum SheetProblem {
    /// A line that is no definition.
    #[error("a definition reads 'name = expression'")]
    NoDefinition,
    /// More than a sheet may hold.
    #[error("a sheet has at most {0}")]
    TooMuch(&'static str),
    /// A name that is taken by a unit, or has other characters than letters, digits and `_`.
    #[error("'{0}' cannot be a name: use letters, digits and _, and no name of a unit")]
    BadName(String),
    /// Two definitions, or a definition and a reading, of one name.
    #[error("'{0}' is already defined")]
    Twice(String),
    /// A name that nothing before this place defines.
    #[error("nothing before this line is called '{name}'{}", suggestion(.near))]
    UnknownName {
        /// The name as written.
        name: String,
        /// The nearest known name, if one is near.
        near: Option<String>,
    },
    /// A name that only a later line defines.
    #[error("'{0}' is defined further down; a line uses what stands before it")]
    Later(String),
    /// Definitions that need each other.
    #[error("these need each other: {}", .0.join(" → "))]
    Circle(Vec<String>),
    /// A function that the language does not have.
    #[error("there is no function '{0}'")]
    UnknownFunction(String),
    /// A material that the practical does not list.
    #[error("the practical has no material '{name}'{}", suggestion(.near))]
    UnknownMaterial {
        /// The symbol as written.
        name: String,
        /// The nearest material, if one is near.
        near: Option<String>,
    },
    /// A property that the material does not state.
    #[error("the material '{material}' states no {property}")]
    NotStated {
        /// Symbol of the material.
        material: String,
        /// Which property.
        property: &'static str,
    },
    /// Arguments that do not fit.
    #[error("{function} takes {wanted}")]
    Arguments {
        /// As written.
        function: String,
        /// What it takes.
        wanted: &'static str,
    },
    /// As in grams plus millilitres.
    #[error("{left} cannot be {action} {right}")]
    Dimensions {
        /// Left of the sign.
        left: Dimension,
        /// `added to`, `subtracted from`, `compared with`.
        action: &'static str,
        /// Right of the sign.
        right: Dimension,
    },
    /// A formula where a number is expected.
    #[error("'{0}' is a formula, not a number; its molar mass is M({0})")]
    NoNumber(String),
    /// A logarithm of grams.
    #[error("{function} takes a pure number, not {found}")]
    NeedsNumber {
        /// As written.
        function: String,
        /// What it got.
        found: Dimension,
    },
    /// A result declared in a unit of another dimension.
    #[error("this gives {found}, which cannot be written in {unit}")]
    WrongUnit {
        /// The unit declared.
        unit: String,
        /// What the expression is.
        found: Dimension,
    },
    /// As in a titre plus a crop.
    #[error("a value for each {left} and a value for each {right} do not go together; fold one with mean(…) or sum(…)")]
    Axes {
        /// Left of the sign.
        left: String,
        /// Right of the sign.
        right: String,
    },
    /// A mean of what is there once.
    #[error("{0} folds a value for each trial; this is one value")]
    NothingToFold(String),
    /// A power that is no plain number, or powers beyond sense.
    #[error("a power is a plain number; of a quantity with a unit, a small whole one")]
    BadPower,
    /// A unit that is not known.
    #[error("{0}")]
    Unit(#[from] UnitError),
    /// A number that could not be read.
    #[error("{0}")]
    Number(String),
    /// Something that does not belong there.
    #[error("'{0}' was not expected here")]
    Unexpected(String),
    /// The line ends too early.
    #[error("the line ends where a value is expected")]
    Ended,
    /// Brackets or signs piled up.
    #[error("expressions nest at most 40 deep")]
    TooDeep,
}

fn suggestion(near: &Option<String>) -> String {
    near.as_ref().map_or(String::new(), |n| format!("; did you mean '{n}'?"))
}

/// The candidate that is at most two slips of the finger away, if one is: a letter too many, one too few, another one, or
/// two exchanged.
#[must_use]
pub fn nearest<'a>(name: &str, candidates: impl Iterator<Item = &'a str>) -> Option<String> {
    candidates
        .map(|c| (strsim::osa_distance(name, c), c))
        .filter(|(slips, c)| *slips <= 2 && *slips < c.chars().count())
        .min()
        .map(|(_, c)| c.to_owned())
}
