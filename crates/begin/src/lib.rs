//! A practical begun from what is to be found: a few questions, each with a proposal and its reason, and out comes a whole file.
//!
//! [`begin`] is total: whatever is answered, it says what is asked, what stands there and what is wrong with it; once
//! everything that is needed is there, the text of a practical that nothing is wrong with. The words of the file are the
//! templates in `beginnings/`, its figures are worked out here. Nothing remembers how a file was begun.

mod aims;
mod interview;
mod matter;
mod write;

pub use interview::{Asked, Field, LONGEST, Takes, Why};

use interview::Interview;
use measure::Instrument;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use strum::{EnumIter, IntoStaticStr};

/// What is to be found.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, EnumIter, IntoStaticStr)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[strum(serialize_all = "kebab-case")]
pub enum Aim {
    /// How strong a titrant is, by a weighed standard.
    TitrantByMass,
    /// How strong a titrant is, by a solution of known strength.
    TitrantBySolution,
    /// How strong an unknown solution is.
    SampleByTitration,
    /// What part of a solid reacts, by titrating the excess that is left.
    BackTitration,
    /// Percent yield of a salt that crystallises.
    YieldOfSalt,
    /// Percent yield of a precipitate.
    YieldOfPrecipitate,
    /// Percent yield of an organic solid that is recrystallised.
    YieldOfOrganicSolid,
    /// Percent yield of an organic liquid that is distilled.
    YieldOfOrganicLiquid,
    /// The simplest formula of a binary compound.
    SimplestFormula,
    /// How many waters a salt crystallises with.
    WatersOfCrystallisation,
    /// The part of an ion in a salt, by a precipitate.
    PartByPrecipitate,
    /// The part of a mixture that does not dissolve.
    PartByResidue,
    /// How much of a solid comes back from recrystallising.
    Recovery,
    /// How strong a solution is that was made from a weighed solid.
    Solution,
    /// The same, and a series of dilutions of it.
    DilutionSeries,
    /// Which reagent runs out, in two recipes.
    WhichLimits,
    /// Which of two reactions it is.
    WhichReaction,
}

/// What is asked, and what came of it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Begun {
    /// In the order of asking; what hangs on an answer that is not there yet is not asked yet.
    pub asked: Vec<Asked>,
    /// The whole file, once everything needed is answered.
    pub text: Option<String>,
}

/// A practical that finds `aim`, as far as it is answered, with the instruments of a room.
#[must_use]
pub fn begin(aim: Aim, answers: &BTreeMap<Field, String>, room: &[Instrument]) -> Begun {
    let mut on = Interview::new(answers, room);
    let filled = aims::ask(aim, &mut on);
    let text = filled.filter(|_| on.is_sound()).map(|with| write::written(aim.into(), with));
    Begun { asked: on.asked, text }
}
