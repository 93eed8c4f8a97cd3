//! Departures from the plan: spilled, topped up, sampled, seeded, weighed only once, done elsewhere.
//!
//! A departure is logged, never hidden: what it changes is recomputed and told, and the readings stay as they were
//! read. An amount is what a group believes ("about 1 mL"); nothing is claimed of its uncertainty.

use serde::{Deserialize, Serialize};

/// One departure from the plan, with the group's own words.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Deviation {
    /// Its own number, made by the device, by which it can be withdrawn.
    pub nr: String,
    /// The step at which it happened, counted from 0.
    pub step: u32,
    /// What happened.
    pub what: Departure,
    /// In the group's words: why, or what else.
    #[serde(default)]
    pub note: String,
    /// It did not happen after all.
    #[serde(default)]
    pub withdrawn: bool,
}

/// What can happen otherwise than planned.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum Departure {
    /// Of what was measured, this much never took part: spilled, or stuck to the boat.
    Lost {
        /// Symbol of the material.
        material: String,
        /// About how much: `1 mL`.
        amount: String,
    },
    /// This much more went in than was measured.
    Added {
        /// Symbol of the material.
        material: String,
        /// About how much.
        amount: String,
    },
    /// Of the product, this much was taken for a test before it was weighed.
    Sampled {
        /// Symbol of the product.
        material: String,
        /// About how much.
        amount: String,
    },
    /// This much of the product was put in as seed.
    Seeded {
        /// Symbol of the product.
        material: String,
        /// About how much.
        amount: String,
    },
    /// A mass that should be weighed until it is constant was weighed once, for the reason in the note.
    WeighedOnce {
        /// Symbol of the reading.
        reading: String,
    },
    /// Done in another way or place than the step says: on the bench instead of in the fume cupboard.
    Otherwise,
}

impl Departure {
    /// The material and the amount that it is about, and whether there is more of it than was measured.
    #[must_use]
    pub fn amount(&self) -> Option<(&str, &str, bool)> {
        match self {
            Departure::Lost { material, amount } | Departure::Seeded { material, amount } => {
                Some((material, amount, false))
            }
            Departure::Added { material, amount } | Departure::Sampled { material, amount } => {
                Some((material, amount, true))
            }
            Departure::WeighedOnce { .. } | Departure::Otherwise => None,
        }
    }
}
