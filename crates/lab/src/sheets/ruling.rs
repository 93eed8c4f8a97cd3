//! What an instructor rules on an answer, and the marks that hold then.

use crate::check::{Stands, Verdict};
use crate::marks::Awarded;
use measure::Decimal;
use practical::Practical;
use serde::{Deserialize, Serialize};

/// What holds for an answer.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Ruling {
    /// The verdict as it was worked out.
    AsJudged,
    /// It is right, whatever was worked out.
    Right,
    /// It is wrong, whatever was worked out.
    Wrong,
}

/// What an instructor says of the answer that stands.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Review {
    /// What holds.
    pub ruling: Ruling,
    /// Marks set by hand, as a decimal number.
    pub marks: Option<String>,
    /// For the group to read.
    pub comment: String,
}

impl Ruling {
    /// What holds for an answer with this verdict.
    #[must_use]
    pub fn over(self, verdict: &Verdict) -> Stands {
        match self {
            Ruling::AsJudged => verdict.stands,
            Ruling::Right => Stands::Right,
            Ruling::Wrong => Stands::Wrong,
        }
    }
}

impl Review {
    /// Marks for a result as they hold: set by hand, by the ruling, or as worked out where nobody has looked.
    #[must_use]
    pub fn marks(review: Option<&Review>, practical: &Practical, result: &str, worked_out: &Awarded) -> f64 {
        let Some(review) = review else { return worked_out.total() };
        let most = practical.result(result).map(|r| r.marks).unwrap_or_default();
        let by_hand = review.marks.as_deref().and_then(|m| Decimal::parse(m).ok());
        match (by_hand, review.ruling) {
            (Some(marks), _) => marks.to_f64(),
            (None, Ruling::AsJudged) => worked_out.total(),
            (None, Ruling::Right) => most.method + most.value + worked_out.unit + worked_out.digits,
            (None, Ruling::Wrong) => 0.0,
        }
    }
}
