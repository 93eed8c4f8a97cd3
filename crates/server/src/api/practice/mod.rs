//! Practice: problems from practicals, and instruments in somebody's hands.
//!
//! Nothing of it is kept: a seed says which problem it is, and the page sends what was done so far. Who is signed in
//! practises on any practical; a group's device on its own, unless that would give away what it is asked to find.

pub mod glass;
pub mod problems;

use crate::access::Practising;
use crate::app::App;
use crate::problem::ApiError;
use practical::Practical;
use practical::file::Arrangement;
use serde::Deserialize;
use simulate::Problem;
use std::sync::Arc;
use utoipa::ToSchema;

/// Which problem.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WhichProblem {
    /// Id of the practical.
    practical: String,
    /// The same number, the same problem.
    seed: u32,
    /// Its titrations are done by hand: their readings are not there, but taken.
    #[serde(default)]
    by_hand: bool,
}

impl WhichProblem {
    /// The problem, for whoever may practise on it.
    fn problem(&self, app: &App, who: &Practising) -> Result<Problem, ApiError> {
        let (practical, seed) = (practised(app, who, &self.practical)?, self.seed.into());
        if !self.by_hand {
            return Ok(Problem::of(&practical, seed));
        }
        Problem::by_hand(&practical, seed).ok_or(ApiError::NotFound("titration to practise in this practical"))
    }
}

/// A practical, if whoever asks may practise on it.
fn practised(app: &App, who: &Practising, id: &str) -> Result<Arc<Practical>, ApiError> {
    match who {
        Practising::Staff => {
            let all = app.store.practicals()?;
            let newest = all.iter().find(|p| p.id == id).ok_or(ApiError::NotFound("practical"))?;
            app.practical(id, newest.version, &app.store.school()?.school)
        }
        Practising::Group(run) => {
            let own = app.practical_of(run)?;
            if run.practical != id || gives_away(&own) {
                return Err(ApiError::NotFound("practical to practise on at this bench"));
            }
            Ok(own)
        }
    }
}

/// Whether a solved problem would tell what the groups of a practical are to find out: what an unknown is, a formula, or
/// which of several reactions happens.
fn gives_away(practical: &Practical) -> bool {
    let finds = |r: &practical::ResultSpec| r.asked && practical.accepted_formula(&r.name).is_some();
    let competing = practical.file.arrangement == Arrangement::Competing;
    competing || !practical.file.unknowns.is_empty() || practical.results.iter().any(finds)
}
