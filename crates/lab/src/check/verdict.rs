//! What checking an answer shows: value, unit and digits apart, and what explains a wrong one.

use super::slip::Slip;
use serde::Serialize;

/// What checking one answer showed. Value, unit and digits are judged apart.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Verdict {
    /// Is the number right?
    pub value: ValueVerdict,
    /// Is the unit?
    pub unit: UnitVerdict,
    /// Are the digits?
    pub digits: DigitsVerdict,
    /// No result can be so, whatever led to it: the student might have seen it.
    pub absurd: bool,
    /// Where the answer and the recomputed value lie; none while there is nothing to compare with, and for a formula or
    /// a choice.
    pub comparison: Option<Comparison>,
    /// What explains a wrong answer.
    pub diagnosis: Diagnosis,
}

impl Verdict {
    /// Everything that is known to have gone wrong in the answer, the slip on the way first, then what is wrong with how it
    /// is written.
    #[must_use]
    pub fn slips(&self) -> Vec<Slip> {
        let unit = match &self.unit {
            UnitVerdict::Right => None,
            UnitVerdict::Wrong { fits } if ["1", "%"].contains(&fits.as_str()) => Some(Slip::PercentForFraction),
            UnitVerdict::Missing | UnitVerdict::Wrong { .. } => Some(Slip::UnitWrong),
        };
        let digits = match self.digits {
            DigitsVerdict::TooMany { .. } => Some(Slip::DigitsTooMany),
            DigitsVerdict::TooFew { .. } => Some(Slip::DigitsTooFew),
            DigitsVerdict::Right | DigitsVerdict::NotJudged => None,
        };
        self.diagnosis.named.iter().map(|e| e.slip).chain(unit).chain(digits).collect()
    }
}

/// The judgement on a number.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum ValueVerdict {
    /// A reading it hangs on is missing.
    NotYet {
        /// Symbols, in bench order.
        missing: Vec<String>,
    },
    /// The readings admit no value to compare with.
    NoValue {
        /// Why.
        reason: String,
    },
    /// The interval that the typed digits mean holds the recomputed value.
    Right,
    /// Right with the group's own earlier answers put in: the mark is lost once, there.
    CarriedForward {
        /// Results where it went wrong.
        origins: Vec<String>,
    },
    /// The typed digits would fit too much to say.
    TooFewDigits,
    /// The right elements in the right ratio, not in the smallest numbers.
    NotReduced {
        /// Every subscript is so many times too large.
        by: u32,
    },
    /// A reason in words: for somebody to read.
    ToRead,
    /// None of these.
    Wrong,
}

/// The judgement on a unit.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum UnitVerdict {
    /// It measures what was asked for.
    Right,
    /// None was chosen.
    Missing,
    /// It measures something else, or the number is right in another unit.
    Wrong {
        /// The unit in which the number would stand.
        fits: String,
    },
}

/// The judgement on the number of significant figures.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum DigitsVerdict {
    /// As many as the readings allow.
    Right,
    /// More than the readings allow.
    TooMany {
        /// Figures typed.
        typed: u32,
        /// Figures earned.
        wanted: u32,
    },
    /// Fewer than the readings allow.
    TooFew {
        /// Figures typed.
        typed: u32,
        /// Figures earned.
        wanted: u32,
    },
    /// There is nothing to hold them against, or the number is not right in the first place.
    NotJudged,
}

/// The answer beside the recomputed value, in the unit asked for.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Comparison {
    /// The answer.
    pub answered: f64,
    /// Half a unit of its last digit.
    pub half_width: f64,
    /// The recomputed value.
    pub expected: f64,
    /// How far an answer may be off, either way.
    pub tolerance: f64,
    /// Answer over recomputed value.
    pub ratio: f64,
    /// The same, written to three figures.
    pub ratio_shown: String,
}

/// What explains a wrong answer.
#[derive(Debug, Clone, PartialEq, Default, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Diagnosis {
    /// Slips that make this answer of the group's own readings, the likeliest first: one explanation, which may have
    /// several names. Empty where none is clear enough to be named, and where nothing is wrong.
    pub named: Vec<Explanation>,
    /// Slips that come close and are not named: for the instructor to look at, never for the group.
    pub near: Vec<Explanation>,
}

/// A slip in a place that makes an answer.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Explanation {
    /// Which.
    pub slip: Slip,
    /// What it happened to: symbol of a reading or a material, name of a definition; `a ← b` where b was used for a.
    pub at: String,
    /// What should stand there, where it is one number for another.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub right: Option<String>,
    /// What stood there instead.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub instead: Option<String>,
    /// What it makes of the result, in the unit asked for.
    pub value: f64,
    /// How much of the evidence it has, 0 to 1.
    pub chance: f64,
    /// The result at which the same slip was lost already.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub again: Option<String>,
}
