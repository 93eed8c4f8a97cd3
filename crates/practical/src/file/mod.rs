//! The practical file as it stands on disk: format 1.1 of `*.practical.toml`.
//!
//! Nothing is interpreted here but the shape: an unknown key, a missing one and a wrong kind of value are told with
//! their line. Quantities are texts with their unit, so that digits survive: `3.0 ± 0.1 g`. Documented with an example
//! in `docs/format.md`; the JSON Schema beside it comes from these types.

mod bench;
mod materials;
mod results;
mod steps;

pub use bench::{
    Evidence, InstrumentItem, Observation, ObservationKind, ReadingItem, ReadingKind, RepeatsItem, Resource, Vessel,
};
pub use materials::{Arrangement, Form, MaterialItem, ReactionItem, Role, Solubility};
pub use results::{
    AgreementItem, AnswerKind, AnswersOf, Assignment, ClassResult, Closeness, CurveItem, DigitsPolicy, Disclosed,
    Feedback, FeedbackWhen, Judgement, Marking, Marks, Method, Pooled, Portion, ReagentItem, ReasonItem, ResultItem,
    Titrated, TitreItem, TrialRun, Unknown, Weighing,
};
pub use steps::{Addition, Crystallising, Dissolving, Heat, Neutralising, SecondCrop, Step, Stop, Variant};

use super::error::PracticalProblem;
use super::{FORMAT, READ_AS_THEY_STAND, RoleItem, SchoolItem};
use chem::MassTable;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use toml_edit::Document;

/// Longest text of a practical that is read.
pub const MAX_CHARACTERS: usize = 200_000;

/// A practical file.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct File {
    /// Version of the format: `1.1`.
    pub format: String,
    /// Stable identity, as in an address: `epsom-salt`.
    pub id: String,
    /// As a reader sees it.
    pub title: String,
    /// What sort of work it is: `salt preparation`.
    pub kind: String,
    /// What it finds: `percent yield of a hydrated salt`.
    pub finds: String,
    /// For whom.
    pub level: String,
    /// Lessons it takes.
    pub visits: u32,
    /// Where molar masses come from; the school's choice if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub atomic_masses: Option<MassTable>,
    /// What is done otherwise than the school does it.
    #[serde(default)]
    pub school: SchoolItem,
    /// How several reactions belong together.
    #[serde(default)]
    pub arrangement: Arrangement,
    /// Balanced, with coefficients.
    #[serde(default)]
    pub reactions: Vec<ReactionItem>,
    /// Everything on the bench that is used up, made or poured.
    #[serde(default)]
    pub materials: Vec<MaterialItem>,
    /// What readings are taken on.
    #[serde(default)]
    pub instruments: Vec<InstrumentItem>,
    /// What holds things, with its capacity.
    #[serde(default)]
    pub vessels: Vec<Vessel>,
    /// What groups share.
    #[serde(default)]
    pub resources: Vec<Resource>,
    /// What is read, in bench order.
    #[serde(default)]
    pub readings: Vec<ReadingItem>,
    /// What is looked at.
    #[serde(default)]
    pub observations: Vec<Observation>,
    /// What is done, in order.
    #[serde(default)]
    pub steps: Vec<Step>,
    /// How masses are found from readings of balances.
    #[serde(default)]
    pub weighings: Vec<Weighing>,
    /// How delivered volumes are found from readings of a burette.
    #[serde(default)]
    pub titres: Vec<TitreItem>,
    /// What is computed, by name.
    #[serde(default)]
    pub methods: Vec<Method>,
    /// Definitions of one's own.
    #[serde(default)]
    pub sheet: String,
    /// What definitions of one's own stand for; methods say it of theirs.
    #[serde(default)]
    pub roles: Vec<RoleItem>,
    /// What is shown or asked for.
    #[serde(default)]
    pub results: Vec<ResultItem>,
    /// What is asked for in words.
    #[serde(default)]
    pub reasons: Vec<ReasonItem>,
    /// How groups differ.
    #[serde(default)]
    pub assignments: Vec<Assignment>,
    /// Coded samples with their hidden key.
    #[serde(default)]
    pub unknowns: Vec<Unknown>,
    /// What the instructor found beforehand.
    #[serde(default)]
    pub trial_run: Option<TrialRun>,
    /// How a class usually comes out.
    #[serde(default)]
    pub class: Vec<ClassResult>,
    /// How answers are taken, and what is said to them at the bench.
    #[serde(default)]
    pub feedback: Feedback,
    /// How sheets are marked beyond the weights of each result.
    #[serde(default)]
    pub marking: Marking,
    /// Lines through the points of all groups.
    #[serde(default)]
    pub pooled: Vec<Pooled>,
    /// When a judgement may be told at the bench; before the answer unless said otherwise.
    #[serde(default)]
    pub disclosure: BTreeMap<Judgement, Disclosed>,
    /// What usually goes wrong, in a line each.
    #[serde(default)]
    pub typical_errors: Vec<String>,
    /// For the report.
    #[serde(default)]
    pub questions: Vec<String>,
    /// Where filtrates, washings and left-overs go.
    #[serde(default)]
    pub disposal: String,
}

/// What a text holds, or where it stops being a practical file.
pub(super) struct Shape {
    /// With the places of everything.
    pub document: Document<String>,
    pub file: File,
}

/// The shape of a practical's text.
///
/// # Errors
/// What is wrong, and at which byte.
pub(super) fn read(text: &str) -> Result<Shape, (usize, PracticalProblem)> {
    if text.len() > MAX_CHARACTERS {
        return Err((0, PracticalProblem::TooLong(MAX_CHARACTERS)));
    }
    let document = Document::parse(text.to_owned())
        .map_err(|e| (e.span().map_or(0, |s| s.start), PracticalProblem::Text(e.message().to_owned())))?;
    // The version first: a newer file may well have keys that are unknown here.
    if let Some(found) = document
        .get("format")
        .and_then(toml_edit::Item::as_str)
        .filter(|f| *f != FORMAT && !READ_AS_THEY_STAND.contains(f))
    {
        let at = document.get("format").and_then(toml_edit::Item::span).map_or(0, |s| s.start);
        return Err((at, PracticalProblem::Format { found: found.chars().take(20).collect(), known: FORMAT }));
    }
    let file = toml_edit::de::from_document(document.clone())
        .map_err(|e| (e.span().map_or(0, |s| s.start), PracticalProblem::Text(e.message().to_owned())))?;
    Ok(Shape { document, file })
}
