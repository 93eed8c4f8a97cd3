//! Why a question has no answer.

use chem::{EquationError, FormulaError, NoStandardMass};
use practical::statistics::Undefined;
use serde::Serialize;
use sheet::{Failure, SheetError};

/// What is wrong with a question, in words and for programs.
#[derive(Debug, Clone, PartialEq, Serialize, thiserror::Error)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "error", rename_all = "kebab-case")]
#[error("{}", self.message())]
pub enum ComputeError {
    /// A formula that cannot be read.
    Formula {
        /// In words, with the place counted from 1.
        message: String,
        /// Characters before the place.
        offset: usize,
    },
    /// An equation that cannot be read.
    Equation {
        /// In words.
        message: String,
    },
    /// An element without a value in the table.
    NoMass {
        /// In words.
        message: String,
        /// The element.
        symbol: String,
    },
    /// A number or a quantity that cannot be read, or measures something else.
    Quantity {
        /// In words.
        message: String,
        /// Which field.
        field: String,
    },
    /// A sheet that cannot be understood.
    Sheet {
        /// In words, with line and character.
        message: String,
    },
    /// What was asked for cannot be: 104 % of a solution, a stock weaker than what is to be made of it.
    Impossible {
        /// In words.
        message: String,
    },
    /// What was given does not decide it, or says nothing.
    Undefined {
        /// In words.
        message: String,
    },
}

impl ComputeError {
    pub(super) fn quantity(field: impl Into<String>, message: impl Into<String>) -> ComputeError {
        ComputeError::Quantity { message: message.into(), field: field.into() }
    }

    pub(super) fn impossible(message: impl Into<String>) -> ComputeError {
        ComputeError::Impossible { message: message.into() }
    }

    pub(super) fn undefined(message: impl Into<String>) -> ComputeError {
        ComputeError::Undefined { message: message.into() }
    }
}

impl From<FormulaError> for ComputeError {
    fn from(e: FormulaError) -> ComputeError {
        ComputeError::Formula { offset: e.at.saturating_sub(1), message: e.to_string() }
    }
}

impl From<EquationError> for ComputeError {
    fn from(e: EquationError) -> ComputeError {
        ComputeError::Equation { message: e.to_string() }
    }
}

impl From<NoStandardMass> for ComputeError {
    fn from(e: NoStandardMass) -> ComputeError {
        ComputeError::NoMass { message: e.to_string(), symbol: e.symbol.to_owned() }
    }
}

impl From<SheetError> for ComputeError {
    fn from(e: SheetError) -> ComputeError {
        ComputeError::Sheet { message: e.to_string() }
    }
}

impl From<Failure> for ComputeError {
    fn from(e: Failure) -> ComputeError {
        ComputeError::undefined(e.to_string())
    }
}

impl From<Undefined> for ComputeError {
    fn from(e: Undefined) -> ComputeError {
        ComputeError::undefined(e.to_string())
    }
}

impl ComputeError {
    /// In words, for a person.
    #[must_use]
    pub fn message(&self) -> &str {
        match self {
            ComputeError::Formula { message, .. }
            | ComputeError::Equation { message }
            | ComputeError::NoMass { message, .. }
            | ComputeError::Quantity { message, .. }
            | ComputeError::Sheet { message }
            | ComputeError::Impossible { message }
            | ComputeError::Undefined { message } => message,
        }
    }
}
