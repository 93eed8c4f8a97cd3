//! Why an entry is not taken: every reason with what a sentence about it needs.

use chem::FormulaError;
use measure::{Decimal, DecimalError, Dimension, UnitError};
use practical::QuantityError;

/// Why an entry is not taken.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum Refusal {
    /// The practical, or the room, has nothing of that name.
    #[error("there is no such {0}")]
    NoSuch(&'static str),
    /// It cannot be so.
    #[error(transparent)]
    Impossible(#[from] Impossible),
}

/// What cannot be so.
#[derive(Debug, Clone, PartialEq, thiserror::Error, strum::VariantNames)]
pub enum Impossible {
    /// A reading that is no number.
    #[error("{0}")]
    NoNumber(DecimalError),
    /// A mass, a volume or a count below zero.
    #[error("{what} cannot be negative: {value} {unit}")]
    Negative {
        /// The reading.
        what: String,
        /// As typed.
        value: Decimal,
        /// Of the reading.
        unit: String,
    },
    /// More than the instrument shows, by any reading of its scale.
    #[error("{name} shows at most {capacity} {unit}, not {value} {unit}")]
    BeyondInstrument {
        /// The instrument.
        name: String,
        /// In its unit.
        capacity: f64,
        /// As typed.
        value: Decimal,
        /// Of the reading.
        unit: String,
    },
    /// Another unit than that of the reading.
    #[error("{what} is read in {unit}, not in '{typed}'")]
    UnitOfReading {
        /// The reading.
        what: String,
        /// Its unit.
        unit: String,
        /// As typed, shortened.
        typed: String,
    },
    /// A weighing with an endless chain of values.
    #[error("a weighing is followed through at most {0} values")]
    TooManySteps(usize),
    /// An answer that says nothing of the kind that was asked for.
    #[error("{what}: {why}")]
    NoAnswer {
        /// The result.
        what: String,
        /// Why.
        why: NoAnswer,
    },
    /// A unit that was not offered.
    #[error("'{0}' is none of the units offered")]
    UnitNotOffered(String),
    /// A student's own answer where a group answers.
    #[error("here a group answers together")]
    GroupAnswers,
    /// A group's answer where each student answers.
    #[error("say whose answer it is: here each student answers")]
    StudentsAnswer,
    /// A clock of no time, or of weeks.
    #[error("a clock runs from one second to fourteen days")]
    Clock,
    /// A text that is too long.
    #[error("{what} has at most {most} characters")]
    TooLong {
        /// What it is.
        what: &'static str,
        /// Characters.
        most: usize,
    },
    /// A tag that says nothing.
    #[error("a tag is what is written on the vessel; it cannot be empty")]
    EmptyTag,
    /// A note that says nothing.
    #[error("a note says something")]
    EmptyNote,
    /// Something seen that is not among what can be chosen.
    #[error("'{choice}' is none of the {}", if *.coded { "codes of this practical" } else { "choices" })]
    NotAChoice {
        /// As sent, shortened.
        choice: String,
        /// Whether codes stand for what is seen.
        coded: bool,
    },
    /// A departure that cannot be told from another one.
    #[error("a deviation has a number of its own")]
    DeviationNumber,
    /// How much it was cannot be read.
    #[error("how much: {0}")]
    HowMuch(QuantityError),
    /// Grams of what is measured in millilitres, or the other way.
    #[error("{material} is measured as {wanted} here")]
    MeasuredAs {
        /// Its name.
        material: String,
        /// What it is measured as.
        wanted: Dimension,
    },
    /// None of it, or less.
    #[error("how much: more than nothing")]
    Nothing,
    /// A departure without a word about it.
    #[error("say what was done, or why; it is kept beside the readings")]
    SaysNothing,
}

/// Why a text is no answer to what was asked for.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error, strum::VariantNames)]
pub enum NoAnswer {
    /// No number.
    #[error(transparent)]
    Number(DecimalError),
    /// No formula.
    #[error(transparent)]
    Formula(FormulaError),
    /// A reagent that the practical does not have.
    #[error("this is none of the reagents")]
    Reagent,
    /// A reason without a word.
    #[error("a reason says something")]
    Empty,
    /// A reason of many pages.
    #[error("a reason has at most {0} characters")]
    TooLong(usize),
}

/// Why something of the room is not taken.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error, strum::VariantNames)]
pub enum Unsound {
    /// No name, or one beyond any label.
    #[error("a name has 1 to 60 characters")]
    Name,
    /// A unit that is none.
    #[error("the unit '{unit}': {why}")]
    Unit {
        /// As typed, shortened.
        unit: String,
        /// Why.
        why: UnitError,
    },
    /// Numbers that no instrument has.
    #[error("resolution and capacity are more than nothing, tolerance and repeatability not negative")]
    Numbers,
    /// A bottle of nothing.
    #[error("a bottle holds something")]
    EmptyBottle,
    /// A measured strength that is none.
    #[error("its measured strength: {0}")]
    Strength(QuantityError),
    /// A vessel of no mass.
    #[error("{0} g is no mass of a vessel")]
    NoMass(Decimal),
    /// A mass that is no number.
    #[error("its mass: {0}")]
    Mass(DecimalError),
}
