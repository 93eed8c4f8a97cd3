//! An answer as a student typed it, and what it says.

use super::refusal::NoAnswer;
use chem::Formula;
use measure::{Decimal, Unit, Written, WrittenError};
use practical::file::AnswerKind;
use practical::{Practical, ResultSpec};
use serde::{Deserialize, Serialize};

/// An answer as a group or a student sent it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Answer {
    /// The number or formula as typed, the symbol of the reagent chosen, or a reason in words.
    pub text: String,
    /// The unit as chosen; empty if none was.
    #[serde(default)]
    pub unit: String,
}

/// What an answer says.
#[derive(Debug, Clone)]
pub enum Said {
    /// A number, with the unit that was typed or chosen for it.
    Number(Decimal, UnitGiven),
    /// A formula.
    Formula(Formula),
    /// One of the reagents, by its place among the arguments of `limiting`.
    Reagent(usize),
    /// A reason, for somebody to read.
    Words,
}

/// The unit of an answer.
#[derive(Debug, Clone, PartialEq)]
pub enum UnitGiven {
    /// None.
    Missing,
    /// One that is known.
    Known(Unit),
    /// Something that is no unit known here.
    Unknown(String),
}

/// Most characters of a reason.
const LONGEST_REASON: usize = 500;

impl Answer {
    /// What it says, as an answer to this result.
    ///
    /// # Errors
    /// [`NoAnswer`], with what was wrong in it.
    pub fn read(&self, practical: &Practical, result: &ResultSpec) -> Result<Said, NoAnswer> {
        match result.answer {
            AnswerKind::Number => self.number(),
            AnswerKind::Formula => Formula::parse(self.text.trim()).map(Said::Formula).map_err(NoAnswer::Formula),
            AnswerKind::Limiting => {
                let reagents = practical.limiting.as_ref().map(|(_, r)| r.as_slice()).unwrap_or_default();
                let chosen = reagents.iter().position(|r| r == self.text.trim());
                chosen.map(Said::Reagent).ok_or(NoAnswer::Reagent)
            }
            AnswerKind::Words if self.text.trim().is_empty() => Err(NoAnswer::Empty),
            AnswerKind::Words if self.text.chars().count() > LONGEST_REASON => Err(NoAnswer::TooLong(LONGEST_REASON)),
            AnswerKind::Words => Ok(Said::Words),
        }
    }

    /// The same number with a unit that was typed after it in the place of the one that was chosen.
    #[must_use]
    pub fn parted(&self) -> Answer {
        let number = Written::number_in(&self.text);
        let end = self.text.find(number).map_or(self.text.len(), |at| at + number.len());
        let (text, unit) = self.text.split_at(end);
        match unit.trim() {
            "" => Answer { text: text.trim().to_owned(), unit: self.unit.trim().to_owned() },
            unit => Answer { text: text.trim().to_owned(), unit: unit.to_owned() },
        }
    }

    /// A number. A unit typed with it counts before the one that was chosen.
    fn number(&self) -> Result<Said, NoAnswer> {
        let chosen = self.unit.trim();
        let beside = || match Unit::parse(chosen) {
            Ok(unit) => UnitGiven::Known(unit),
            Err(_) if chosen.is_empty() => UnitGiven::Missing,
            Err(_) => UnitGiven::Unknown(chosen.to_owned()),
        };
        match Written::read(&self.text) {
            Ok(Written { value, unit: Some(unit), .. }) => Ok(Said::Number(value, UnitGiven::Known(unit))),
            Ok(Written { value, unit: None, .. }) => Ok(Said::Number(value, beside())),
            Err(WrittenError::Unit { value, .. }) => {
                let typed = self.text.trim()[Written::number_in(&self.text).len()..].trim().to_owned();
                Ok(Said::Number(value, UnitGiven::Unknown(typed)))
            }
            Err(WrittenError::Number(why)) => Err(NoAnswer::Number(why)),
        }
    }
}
