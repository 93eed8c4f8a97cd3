//! What checking an answer shows: value, unit and digits apart, and what explains a wrong one.

use practical::slip::Slip;
use serde::{Deserialize, Serialize};

/// What holds for an answer, by value, unit and digits together: the one word for it on every screen.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Stands {
    /// Right.
    Right,
    /// Right with an earlier value of one's own.
    CarriedForward,
    /// The number is right, or right with an earlier value of one's own; the unit or the digits are not.
    Written,
    /// Wrong.
    Wrong,
    /// It could not be judged, or nobody has read it yet.
    Open,
}

impl Stands {
    fn of(value: &ValueVerdict, unit: &UnitVerdict, digits: &DigitsVerdict) -> Stands {
        let well_written = match (unit, digits) {
            (UnitVerdict::Missing | UnitVerdict::Unknown { .. } | UnitVerdict::Wrong { .. }, _)
            | (UnitVerdict::Right, DigitsVerdict::TooMany { .. } | DigitsVerdict::TooFew { .. }) => false,
            (
                UnitVerdict::Right,
                DigitsVerdict::Right
                | DigitsVerdict::ByAnotherSchool { .. }
                | DigitsVerdict::Ambiguous { .. }
                | DigitsVerdict::NotJudged,
            ) => true,
        };
        match value {
            ValueVerdict::Right | ValueVerdict::CarriedForward { .. } if !well_written => Stands::Written,
            ValueVerdict::Right => Stands::Right,
            ValueVerdict::CarriedForward { .. } => Stands::CarriedForward,
            ValueVerdict::Wrong | ValueVerdict::NotReduced { .. } => Stands::Wrong,
            ValueVerdict::TooFewDigits
            | ValueVerdict::NotYet { .. }
            | ValueVerdict::NoValue { .. }
            | ValueVerdict::ToRead => Stands::Open,
        }
    }
}

/// What checking one answer showed. Value, unit and digits are judged apart.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Verdict {
    /// What holds, all together.
    pub stands: Stands,
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
    /// The judgement on an answer.
    pub(super) fn new(
        (value, unit, digits): (ValueVerdict, UnitVerdict, DigitsVerdict),
        absurd: bool,
        comparison: Option<Comparison>,
        diagnosis: Diagnosis,
    ) -> Verdict {
        Verdict { stands: Stands::of(&value, &unit, &digits), value, unit, digits, absurd, comparison, diagnosis }
    }

    /// Everything that is known to have gone wrong in the answer, the slip on the way first, then what is wrong with how it
    /// is written.
    #[must_use]
    pub fn slips(&self) -> Vec<Slip> {
        let unit = match &self.unit {
            UnitVerdict::Right => None,
            UnitVerdict::Wrong { fits } if ["1", "%"].contains(&fits.as_str()) => Some(Slip::PercentForFraction),
            UnitVerdict::Missing | UnitVerdict::Unknown { .. } | UnitVerdict::Wrong { .. } => Some(Slip::UnitWrong),
        };
        let digits = match self.digits {
            DigitsVerdict::TooMany { .. } => Some(Slip::DigitsTooMany),
            DigitsVerdict::TooFew { .. } => Some(Slip::DigitsTooFew),
            DigitsVerdict::Right
            | DigitsVerdict::ByAnotherSchool { .. }
            | DigitsVerdict::Ambiguous { .. }
            | DigitsVerdict::NotJudged => None,
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
    /// What was typed for one is no unit known here.
    Unknown {
        /// As typed.
        typed: String,
    },
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
    /// Right as another school writes it; nothing is lost by it.
    ByAnotherSchool {
        /// Where this school writes it otherwise.
        rule: WrittenBy,
        /// As this school writes it.
        here: String,
    },
    /// Zeros at the end of a whole number may count or not: it depends on that.
    Ambiguous {
        /// Figures where they do not.
        least: u32,
        /// Figures where they do.
        most: u32,
    },
    /// There is nothing to hold them against, or the number is not right in the first place.
    NotJudged,
}

/// A choice of schools in writing a result.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum WrittenBy {
    /// A five was rounded the other way.
    Fives,
    /// The digits follow the significant figures where the school goes by the uncertainty, or the other way round.
    Digits,
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

/// A name of the practical, and what it stands for.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Labelled {
    /// Slot of a reading, symbol of a material, name of a definition.
    pub symbol: String,
    /// In words.
    pub label: String,
}

/// What a slip happened to.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SlipPlace {
    /// What should have been used, or was done otherwise; several where they belong together, as in a ratio. Empty where it
    /// is the whole sum.
    pub what: Vec<Labelled>,
    /// What was used in its place; for the instructor, as it gives half the answer away.
    pub instead: Option<Labelled>,
}

impl SlipPlace {
    /// What it happened to in words, without what was used instead: all that a group may read.
    #[must_use]
    pub fn words(&self) -> String {
        self.what.iter().map(|n| n.label.as_str()).collect::<Vec<_>>().join(" : ")
    }
}

/// A slip in a place that makes an answer.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Explanation {
    /// Which.
    pub slip: Slip,
    /// What it happened to.
    pub at: SlipPlace,
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
