//! A practical's text: whether it is one, and what follows from it.

use super::ComputeError;
use crate::plan::{Plan, plan};
use crate::practical::Practical;
use serde::{Deserialize, Serialize};

/// A question about a practical file.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PracticalQuestion {
    /// The text of the file.
    pub text: String,
}

/// What follows from a practical.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticalAnswer {
    /// Identity.
    pub id: String,
    /// Title.
    pub title: String,
    /// What follows from the amounts planned.
    pub plan: Plan,
}

pub(super) fn answer(question: &PracticalQuestion) -> Result<PracticalAnswer, ComputeError> {
    let practical = Practical::parse(&question.text).map_err(|e| ComputeError::Sheet { message: e.to_string() })?;
    Ok(PracticalAnswer { id: practical.id.clone(), title: practical.title.clone(), plan: plan(&practical) })
}
