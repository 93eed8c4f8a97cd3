//! A practical's text: whether it is one, and what follows from it.

use lab::plan::{Plan, plan};
use practical::{School, Told, check};
use serde::{Deserialize, Serialize};

/// A question about a practical file.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PracticalQuestion {
    /// The text of the file.
    pub text: String,
    /// What the school chose; the usual choices if left out.
    #[serde(default)]
    pub school: School,
}

/// What follows from a practical.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticalAnswer {
    /// Identity; empty where the text has no shape.
    pub id: String,
    /// Title; empty where the text has no shape.
    pub title: String,
    /// Everything that keeps it from being run, in the order of the text.
    pub problems: Vec<Told>,
    /// What follows from the amounts planned, unless something essential is wrong.
    pub plan: Option<Plan>,
}

pub(super) fn answer(question: &PracticalQuestion) -> PracticalAnswer {
    let checked = check(&question.text, &question.school);
    let (id, title) = checked.file.map(|f| (f.id, f.title)).unwrap_or_default();
    let problems = checked.errors.iter().map(Told::from).collect();
    PracticalAnswer { id, title, problems, plan: checked.practical.as_ref().map(plan) }
}
