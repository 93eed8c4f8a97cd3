//! An answer as a student typed it, and what it says.

use crate::practical::file::AnswerKind;
use crate::practical::{Practical, ResultSpec};
use chem::Formula;
use measure::Decimal;
use serde::{Deserialize, Serialize};

/// An answer as a group or a student sent it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Answer {
    /// The number or formula as typed, or the symbol of the reagent chosen.
    pub text: String,
    /// The unit as chosen; empty if none was.
    #[serde(default)]
    pub unit: String,
}

/// What an answer says.
#[derive(Debug, Clone)]
pub enum Said {
    /// A number.
    Number(Decimal),
    /// A formula.
    Formula(Formula),
    /// One of the reagents, by its place among the arguments of `limiting`.
    Reagent(usize),
}

impl Answer {
    /// What it says, as an answer to this result.
    ///
    /// # Errors
    /// A sentence that says what was wrong in it.
    pub fn read(&self, practical: &Practical, result: &ResultSpec) -> Result<Said, String> {
        match result.answer {
            AnswerKind::Number => Decimal::parse(&self.text).map(Said::Number).map_err(|e| e.to_string()),
            AnswerKind::Formula => Formula::parse(self.text.trim()).map(Said::Formula).map_err(|e| e.to_string()),
            AnswerKind::Limiting => {
                let reagents = practical.limiting.as_ref().map(|(_, r)| r.as_slice()).unwrap_or_default();
                let chosen = reagents.iter().position(|r| r == self.text.trim());
                chosen.map(Said::Reagent).ok_or_else(|| "this is none of the reagents".to_owned())
            }
        }
    }
}
