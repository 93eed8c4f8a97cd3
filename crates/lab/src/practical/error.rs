//! Why a file is no practical.

use chem::{EquationError, FormulaError, Imbalance};
use sheet::SheetError;

/// What is wrong with a practical file, and in which item.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[error("{place}: {problem}")]
pub struct PracticalError {
    /// `line 12, character 3`, or the item by name: `reading 'm_dish'`.
    pub place: String,
    /// What is wrong there.
    pub problem: PracticalProblem,
}

/// What can be wrong with a practical.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum PracticalProblem {
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
    /// An equation that does not balance.
    #[error("{0}")]
    Imbalance(Imbalance),
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
    },
    /// Two items of one name.
    #[error("there are two of this name")]
    Twice,
    /// Something that cannot be.
    #[error("{0}")]
    Senseless(&'static str),
    /// The sheet.
    #[error(transparent)]
    Sheet(#[from] SheetError),
}
