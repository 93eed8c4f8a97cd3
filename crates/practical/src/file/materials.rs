//! Reactions and materials.

use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// How several reactions belong together.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Arrangement {
    /// What one makes, the next uses: ratios carry through.
    #[default]
    Sequence,
    /// Hypotheses: one of them happens, and the evidence decides which. The first is the one assumed.
    Competing,
    /// Side by side: each component of a mixture has its own.
    Parallel,
}

/// One reaction.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ReactionItem {
    /// With coefficients.
    pub equation: String,
    /// What to call it: `to copper(I)`.
    #[serde(default)]
    pub name: String,
    /// What would be seen if it is this one, by observation.
    #[serde(default)]
    pub predicts: BTreeMap<String, String>,
    /// Equilibrium constant in amounts, where it does not run to the end and no volume enters: 4 for an ester.
    #[serde(default)]
    pub equilibrium: Option<f64>,
    /// How much of what is possible happens, of a side reaction that stands beside the others: `5 %`.
    #[serde(default)]
    pub part: Option<String>,
}

/// What a material does in the practical.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Role {
    /// Meant to run out first.
    Limiting,
    /// Meant to be left over.
    Excess,
    /// What is made and weighed.
    Product,
    /// Speeds it up and is not used up.
    Catalyst,
    /// What it happens in.
    Solvent,
    /// What stops it.
    Quench,
    /// What the product is washed with.
    Wash,
    /// What shows the end.
    Indicator,
    /// What crystals start on.
    Seed,
    /// What a spot test is made with.
    Test,
    /// What is in the burette.
    Titrant,
    /// What a titrant's strength is measured against.
    Standard,
    /// What is to be found out.
    Sample,
}

impl Role {
    /// Whether its amount is part of the sums.
    #[must_use]
    pub fn counts(self) -> bool {
        match self {
            Role::Limiting | Role::Excess | Role::Titrant | Role::Standard | Role::Sample => true,
            Role::Product
            | Role::Catalyst
            | Role::Solvent
            | Role::Quench
            | Role::Wash
            | Role::Indicator
            | Role::Seed
            | Role::Test => false,
        }
    }
}

/// How a material is supplied, with what its amount is computed from.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum Form {
    /// Weighed; the formula says which hydrate.
    Solid {
        /// Mass fraction of the formula in it: `98.5 % w/w`; pure if left out.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        purity: Option<String>,
    },
    /// Measured by volume.
    Solution {
        /// `1.00 ± 0.01 mol/L`, `about 0.1 mol/L` (to be standardised), `9.0 g/L`, `10 % w/v`, `37 % w/w`, or a range: `0.9 to 1.1 mol/L`.
        strength: String,
        /// `1.18 g/mL`; needed for a mass fraction, and of the pure liquid for `% v/v`.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        density: Option<String>,
        /// How it is diluted from a solution of that strength: `1 + 4` (added to), `1 in 5` (made up to).
        #[serde(default, skip_serializing_if = "Option::is_none")]
        dilution: Option<String>,
    },
    /// A liquid, measured by volume unless it is weighed.
    Liquid {
        /// As in `0.789 g/mL`; needed only where its amount is computed.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        density: Option<String>,
        /// Mass fraction of the formula in it, or by volume: `96 % v/v`, with the density of the pure liquid.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        purity: Option<String>,
        /// Weighed instead of measured by volume.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        weighed: bool,
    },
    /// A solution that is as strong as it can be, measured by volume: from the solubility of the material.
    Saturated {
        /// At which temperature it was saturated: `20 °C`.
        at: String,
        /// Of the solution; needed only where its amount is computed.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        density: Option<String>,
    },
    /// A gas, measured by volume and taken as ideal.
    Gas {
        /// As in `20 °C`.
        temperature: String,
        /// As in `101.3 kPa`.
        pressure: String,
    },
}

/// A substance on the bench.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct MaterialItem {
    /// As the sheet calls it: `acid`.
    pub symbol: String,
    /// Systematic name.
    pub name: String,
    /// Common name or a remark.
    #[serde(default)]
    pub also: String,
    /// What is weighed or dissolved, hydrate included; none for an indicator.
    #[serde(default)]
    pub formula: Option<String>,
    /// The species of the reaction that it supplies, where the reaction is written with ions: `Sr^2+`.
    #[serde(default)]
    pub supplies: Option<String>,
    /// What it does here.
    pub role: Role,
    /// How it is supplied.
    pub form: Form,
    /// With the band in which it will do: `3.0 ± 0.1 g`; where exactness does not matter also `3 drops`, `2 pieces`,
    /// `a spatula tip`.
    #[serde(default)]
    pub planned: Option<String>,
    /// Of what the planned amount is: of the `group`, or of each trial, portion, fraction, flask along which a reading repeats.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub each: Option<String>,
    /// What one of its drops holds: `0.04 mL`; 0.05 mL if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub drop: Option<String>,
    /// Numbers of waters that this salt is sold with: `[0, 1, 7]`.
    #[serde(default)]
    pub hydrates: Vec<f64>,
    /// Materials that an unknown mixture may consist of.
    #[serde(default)]
    pub mixture_of: Vec<String>,
    /// How much of it water takes up.
    #[serde(default)]
    pub solubility: Option<Solubility>,
    /// Solubility product, for a precipitate.
    #[serde(default)]
    pub ksp: Option<f64>,
    /// Melting point or range: `113 to 115 °C`.
    #[serde(default)]
    pub melts: Option<String>,
    /// Boiling point.
    #[serde(default)]
    pub boils: Option<String>,
    /// Hottest that it bears: what it is dried at must stay below.
    #[serde(default)]
    pub bears: Option<String>,
    /// Hazard statements of this form and strength.
    #[serde(default)]
    pub hazards: Vec<String>,
    /// The disposal group that what is left of it belongs to: `heavy metals`.
    #[serde(default)]
    pub waste: String,
}

/// Solubility in water by temperature.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Solubility {
    /// The formula that the figures count, mostly the anhydrous salt.
    pub of: String,
    /// Temperature in °C, then grams of it in 100 g of water.
    pub at: Vec<[f64; 2]>,
}
