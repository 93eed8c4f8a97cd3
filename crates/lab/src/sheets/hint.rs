//! What may be said of an answer at once: how it stands and where to look again, never a value.

use crate::check::{Stands, Verdict};
use practical::file::Feedback;
use practical::slip::Slip;
use serde::Serialize;

/// How an answer is, without its value.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Hint {
    /// What holds.
    pub stands: Stands,
    /// Which slip, where one is clear.
    pub slip: Option<Slip>,
    /// What it happened to, in words; never what was used instead, which would be half the answer.
    pub at: Option<String>,
    /// The practical's own words for it.
    pub words: Option<String>,
}

impl Hint {
    /// A slip, and where to look again.
    #[must_use]
    pub fn of(policy: &Feedback, verdict: &Verdict) -> Hint {
        let slip = verdict.slips().first().copied();
        Hint {
            stands: verdict.stands,
            words: slip.and_then(|s| policy.hints.get(&s).cloned()),
            at: verdict.diagnosis.named.first().map(|e| e.at.words()),
            slip,
        }
    }
}
