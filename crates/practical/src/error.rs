//! Why a file is no practical, with the place and what might help.

use super::place::Place;
use chem::{EquationError, FormulaError, Imbalance};
use serde::Serialize;
use sheet::SheetError;

/// What is wrong with a practical file, and where.
#[derive(Debug, Clone, PartialEq)]
pub struct PracticalError {
    /// Where.
    pub place: Place,
    /// What is wrong there.
    pub problem: PracticalProblem,
}

impl std::fmt::Display for PracticalError {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{}: {}", self.place, self.problem)?;
        self.problem.hint().map_or(Ok(()), |hint| write!(f, "; {hint}"))
    }
}

/// The same, ready to be shown.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Told {
    /// Where.
    pub place: Place,
    /// What is wrong there.
    pub reason: String,
    /// What might help.
    pub hint: Option<String>,
}

impl From<&PracticalError> for Told {
    fn from(e: &PracticalError) -> Told {
        Told { place: e.place.clone(), reason: e.problem.to_string(), hint: e.problem.hint() }
    }
}

/// Everything that keeps a text from being a practical, in the order of the file.
#[derive(Debug, Clone, PartialEq)]
pub struct PracticalErrors(pub Vec<PracticalError>);

impl std::fmt::Display for PracticalErrors {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let lines: Vec<String> = self.0.iter().map(ToString::to_string).collect();
        f.write_str(&lines.join("\n"))
    }
}

impl std::error::Error for PracticalErrors {}

/// What can be wrong with a practical.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum PracticalProblem {
    /// A material that the reactions know with other water, or as another species.
    #[error("the reaction has {species}, not {formula}")]
    Supplies {
        /// As the material states it.
        formula: String,
        /// As the reaction has it.
        species: String,
    },
    /// Larger than any practical.
    #[error("a practical file has at most {0} characters")]
    TooLong(usize),
    /// Not TOML, an unknown key, a missing one, a value of the wrong kind.
    #[error("{0}")]
    Text(String),
    /// Written by a later version.
    #[error("this file has format {found}; this version reads {known}")]
    Format {
        /// In the file.
        found: String,
        /// The newest one known here.
        known: &'static str,
    },
    /// A formula.
    #[error(transparent)]
    Formula(#[from] FormulaError),
    /// An equation.
    #[error(transparent)]
    Equation(#[from] EquationError),
    /// An equation that does not balance as written.
    #[error("{imbalance}")]
    Imbalance {
        /// Element by element.
        imbalance: Imbalance,
        /// Balanced, if that is possible in one way.
        balanced: Option<String>,
    },
    /// An equation that cannot balance.
    #[error("{0}")]
    Impossible(String),
    /// A quantity or a unit.
    #[error("'{text}': {reason}")]
    Quantity {
        /// As written.
        text: String,
        /// What is wrong with it.
        reason: String,
    },
    /// A name that nothing has.
    #[error("there is no {what} '{name}'")]
    Unknown {
        /// Such as `instrument`.
        what: &'static str,
        /// As written.
        name: String,
        /// One that is near.
        near: Option<String>,
    },
    /// Two items of one name.
    #[error("there are two of this name: {0}")]
    Twice(String),
    /// Something that cannot be.
    #[error("{0}")]
    Senseless(&'static str),
    /// A reading without a step.
    #[error("no step records it")]
    NeverTaken,
    /// A reading without a use.
    #[error("nothing uses it")]
    NeverUsed,
    /// A result that hangs on a reading that no step records.
    #[error("it needs {0}, which no step records")]
    NeedsUntaken(String),
    /// An asked result that no step asks for.
    #[error("no step asks for it")]
    NeverAsked,
    /// The sheet.
    #[error(transparent)]
    Sheet(#[from] SheetError),
}

impl PracticalProblem {
    /// What might help.
    #[must_use]
    pub fn hint(&self) -> Option<String> {
        match self {
            PracticalProblem::Imbalance { balanced: Some(balanced), .. } => {
                Some(format!("balanced it reads {balanced}"))
            }
            PracticalProblem::Unknown { near: Some(near), .. } => Some(format!("did you mean '{near}'?")),
            PracticalProblem::Format { .. } => Some("a newer Keen Beaker wrote it".into()),
            PracticalProblem::Supplies { species, .. } => Some(format!("write supplies = \"{species}\"")),
            PracticalProblem::NeverTaken => Some("name it under 'records' of the step where it is taken".into()),
            PracticalProblem::NeverUsed => {
                Some("use it in a weighing, a method or the sheet, or say which material it is of".into())
            }
            PracticalProblem::NeverAsked => Some("name it under 'answers' of a step".into()),
            PracticalProblem::NeedsUntaken(_) => Some("add a step that records it".into()),
            PracticalProblem::Twice(_) => Some("give one of them another name".into()),
            PracticalProblem::TooLong(_)
            | PracticalProblem::Text(_)
            | PracticalProblem::Formula(_)
            | PracticalProblem::Equation(_)
            | PracticalProblem::Imbalance { .. }
            | PracticalProblem::Impossible(_)
            | PracticalProblem::Quantity { .. }
            | PracticalProblem::Unknown { .. }
            | PracticalProblem::Senseless(_)
            | PracticalProblem::Sheet(_) => None,
        }
    }
}
