//! Steps at the bench.

use crate::amount::{Level, QuantityError};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// One step at the bench.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Step {
    /// In a few words.
    pub title: String,
    /// What to do.
    pub text: String,
    /// Name of the technique in the library.
    #[serde(default)]
    pub technique: Option<String>,
    /// Shortest and longest time at the bench, in minutes.
    #[serde(default)]
    pub minutes: Option<[u32; 2]>,
    /// Done only where this was seen before, by observation: `{ colour = "blue" }`. Where something else was seen, it is left
    /// out; before anybody has looked, it is still to come.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub when: BTreeMap<String, String>,
    /// How soon after the step before it has to begin, where the chemistry does not wait: `5 min`.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub within: Option<String>,
    /// A wait that needs nobody: `24 h`, `1 to 7 days`, `at least 1 day`.
    #[serde(default)]
    pub wait: Option<String>,
    /// Temperature of the bath, the mixture or the oven.
    #[serde(default)]
    pub temperature: Option<String>,
    /// What heats it.
    #[serde(default)]
    pub heat: Option<Heat>,
    /// When it is done.
    #[serde(default)]
    pub stop: Option<Stop>,
    /// In how many portions it is done.
    #[serde(default)]
    pub portions: Option<u32>,
    /// Whether the work can safely rest after this step.
    #[serde(default)]
    pub stopping_point: bool,
    /// The vessel it happens in.
    #[serde(default)]
    pub vessel: Option<String>,
    /// What goes into the vessel, in this order.
    #[serde(default)]
    pub adds: Vec<Addition>,
    /// The vessel that everything liquid is poured or filtered into.
    #[serde(default)]
    pub pours_into: Option<String>,
    /// The volume of liquid left when it is done: `6 mL`.
    #[serde(default)]
    pub leaves: Option<String>,
    /// What has to dissolve here.
    #[serde(default)]
    pub dissolves: Option<Dissolving>,
    /// What crystallises here, and from how much water.
    #[serde(default)]
    pub crystallises: Option<Crystallising>,
    /// What is brought to neutral here, and with what.
    #[serde(default)]
    pub neutralises: Option<Neutralising>,
    /// The material that is to boil here.
    #[serde(default)]
    pub boils: Option<String>,
    /// The material that is dried here.
    #[serde(default)]
    pub dries: Option<String>,
    /// Shared resources that it takes.
    #[serde(default)]
    pub uses: Vec<String>,
    /// Of these, what it holds for a part of its time only: `{ balance = "3 min last" }`.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub held: BTreeMap<String, String>,
    /// Readings taken.
    #[serde(default)]
    pub records: Vec<String>,
    /// Observations made.
    #[serde(default)]
    pub observes: Vec<String>,
    /// Results worked out.
    #[serde(default)]
    pub answers: Vec<String>,
    /// What can hurt someone here.
    #[serde(default)]
    pub cautions: Vec<String>,
    /// Other ways of doing it.
    #[serde(default)]
    pub variants: Vec<Variant>,
}

/// What heats a step.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Heat {
    /// A burner.
    Flame,
    /// At most 100 °C.
    WaterBath,
    /// Electric.
    HotPlate,
    /// Electric, around a flask.
    Mantle,
    /// Dry and slow.
    Oven,
}

/// When a step is done.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "until", rename_all = "kebab-case", deny_unknown_fields)]
pub enum Stop {
    /// Nothing solid is left.
    Dissolved,
    /// The pH is this or below.
    PhAtMost {
        /// A pH.
        ph: f64,
    },
    /// The pH is this or above.
    PhAtLeast {
        /// A pH.
        ph: f64,
    },
    /// A colour has come, or has gone.
    Colour {
        /// In words: `first lasting pink`.
        to: String,
        /// Choices of the step's observation that show that it was passed: `deep pink`.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        past: Vec<String>,
    },
    /// Something comes up to a level: a bath that is heated, a pH while base is added.
    RisesTo {
        /// As in `60 °C`, `pH 8.0`.
        to: String,
        /// So far beyond it is past it: `3 °C`. Left out, nothing is said of what lies beyond.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        past: Option<String>,
        /// Symbol of the reading that shows it; the only one of its kind that the step records, if left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        reading: Option<String>,
    },
    /// Something comes down to a level: a solution that cools.
    FallsTo {
        /// As in `7 °C`.
        to: String,
        /// So far beyond it is past it. Left out, nothing is said of what lies beyond.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        past: Option<String>,
        /// As with what rises.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        reading: Option<String>,
    },
    /// It is this or below, from wherever it came.
    AtMost {
        /// As in `pH 2.0`, `10 °C`.
        value: String,
        /// As with what rises.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        reading: Option<String>,
    },
    /// It is this or above, from wherever it came.
    AtLeast {
        /// As in `pH 9.0`.
        value: String,
        /// As with what rises.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        reading: Option<String>,
    },
    /// It lies near this, from either side.
    Within {
        /// As in `pH 5.00`.
        value: String,
        /// How near: `0.05`, `2 °C`.
        by: String,
        /// What to do when it lies above: `add acid dropwise`.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        above: String,
        /// What to do when it lies below.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        below: String,
        /// As with what rises.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        reading: Option<String>,
    },
    /// It goes on as long as it stays below a limit, which need not be reached: a distillate collected up to 55 °C.
    NotAbove {
        /// As in `55 °C`.
        limit: String,
        /// As with what rises.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        reading: Option<String>,
    },
    /// It is held near a level for a time.
    StaysWithin {
        /// As in `60 °C`.
        value: String,
        /// How near: `3 °C`.
        by: String,
        /// As in `10 min`, from when it is there.
        lasts: String,
        /// As with what rises.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        reading: Option<String>,
    },
    /// Two weighings in a row agree.
    ConstantMass {
        /// As in `0.02 g`.
        within: String,
    },
    /// Nothing drips any more.
    DrippingStops,
    /// A temperature is reached; from which side a file of format 1.0 does not say.
    Temperature {
        /// As in `60 °C`.
        reaches: String,
    },
    /// A time has passed, from a condition on.
    Time {
        /// As in `10 min`.
        lasts: String,
        /// When the clock starts: `it boils`.
        from: String,
    },
}

impl Stop {
    /// The level that it goes by, where it goes by one.
    ///
    /// # Errors
    /// When what is written is no level.
    pub fn level(&self) -> Result<Option<Level>, QuantityError> {
        let text = match self {
            Stop::PhAtMost { ph } | Stop::PhAtLeast { ph } => return Level::ph(*ph).map(Some),
            Stop::Temperature { reaches: text }
            | Stop::RisesTo { to: text, .. }
            | Stop::FallsTo { to: text, .. }
            | Stop::AtMost { value: text, .. }
            | Stop::AtLeast { value: text, .. }
            | Stop::Within { value: text, .. }
            | Stop::NotAbove { limit: text, .. }
            | Stop::StaysWithin { value: text, .. } => text,
            Stop::Dissolved
            | Stop::Colour { .. }
            | Stop::ConstantMass { .. }
            | Stop::DrippingStops
            | Stop::Time { .. } => return Ok(None),
        };
        Level::parse(text).map(Some)
    }

    /// How far from the level is told, where it is said: how near it has to be, or how far beyond is past it.
    #[must_use]
    pub fn margin(&self) -> Option<&str> {
        match self {
            Stop::Within { by, .. } | Stop::StaysWithin { by, .. } => Some(by),
            Stop::RisesTo { past, .. } | Stop::FallsTo { past, .. } => past.as_deref(),
            Stop::Dissolved
            | Stop::PhAtMost { .. }
            | Stop::PhAtLeast { .. }
            | Stop::Colour { .. }
            | Stop::ConstantMass { .. }
            | Stop::DrippingStops
            | Stop::Temperature { .. }
            | Stop::AtMost { .. }
            | Stop::AtLeast { .. }
            | Stop::NotAbove { .. }
            | Stop::Time { .. } => None,
        }
    }

    /// The reading that it names.
    #[must_use]
    pub fn names_a_reading(&self) -> Option<&str> {
        match self {
            Stop::RisesTo { reading, .. }
            | Stop::FallsTo { reading, .. }
            | Stop::AtMost { reading, .. }
            | Stop::AtLeast { reading, .. }
            | Stop::Within { reading, .. }
            | Stop::NotAbove { reading, .. }
            | Stop::StaysWithin { reading, .. } => reading.as_deref(),
            Stop::Dissolved
            | Stop::PhAtMost { .. }
            | Stop::PhAtLeast { .. }
            | Stop::Colour { .. }
            | Stop::ConstantMass { .. }
            | Stop::DrippingStops
            | Stop::Temperature { .. }
            | Stop::Time { .. } => None,
        }
    }

    /// What to do when it lies above the level, and when it lies below, in the practical's own words; empty where none is said.
    #[must_use]
    pub fn way_back(&self) -> (&str, &str) {
        if let Stop::Within { above, below, .. } = self { (above, below) } else { ("", "") }
    }

    /// The time that it lasts, and from when it counts, where it goes by a clock.
    #[must_use]
    pub fn lasts(&self) -> Option<(&str, Option<&str>)> {
        match self {
            Stop::Time { lasts, from } => Some((lasts, Some(from))),
            Stop::StaysWithin { lasts, .. } => Some((lasts, None)),
            Stop::Dissolved
            | Stop::PhAtMost { .. }
            | Stop::PhAtLeast { .. }
            | Stop::Colour { .. }
            | Stop::ConstantMass { .. }
            | Stop::DrippingStops
            | Stop::Temperature { .. }
            | Stop::RisesTo { .. }
            | Stop::FallsTo { .. }
            | Stop::AtMost { .. }
            | Stop::AtLeast { .. }
            | Stop::Within { .. }
            | Stop::NotAbove { .. } => None,
        }
    }
}

/// Something that goes into the vessel.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Addition {
    /// Symbol of the material.
    pub material: String,
    /// How much; what is planned of it if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub amount: Option<String>,
}

/// Something that has to dissolve.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Dissolving {
    /// Symbol of the material.
    pub material: String,
    /// How much water there is: `50 mL`.
    pub water: String,
    /// At which temperature.
    pub at: String,
}

/// Something that crystallises.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Crystallising {
    /// Symbol of the product.
    pub product: String,
    /// Water that is there in all, what ends up in the crystals included: `5 g`; of a precipitate the volume of liquid.
    pub water: String,
    /// At which temperature.
    pub at: String,
    /// Ice-cold water that the product is washed with.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub washed_with: Option<String>,
    /// When a second crop is worth it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub second_crop: Option<SecondCrop>,
}

/// When more is got out of the liquor.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SecondCrop {
    /// The volume to which the liquor is evaporated: `3 mL`.
    pub evaporated_to: String,
    /// The gain from which on it is worth it: `0.5 g`.
    pub worth: String,
    /// Symbol of the reading of the liquor's volume, where it is read.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub liquor: Option<String>,
}

/// An acid and a base that are to use each other up.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Neutralising {
    /// Symbol of the material that is there.
    pub what: String,
    /// Symbol of the material that is added until nothing of the other is left.
    pub with: String,
    /// How much of the second one of the first takes: 2 for sodium carbonate with a hydrochloric acid; 1 if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub ratio: Option<f64>,
}

/// Another way of doing a step.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Variant {
    /// As in `ice bath`.
    pub name: String,
    /// What to do instead.
    pub text: String,
    /// Its own times, in minutes.
    #[serde(default)]
    pub minutes: Option<[u32; 2]>,
    /// Its own wait.
    #[serde(default)]
    pub wait: Option<String>,
    /// Its own cautions.
    #[serde(default)]
    pub cautions: Vec<String>,
}
