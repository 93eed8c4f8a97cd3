//! What a definition of the sheet stands for: an amount, a mean titre, a percent yield.
//!
//! A method says so of everything that it defines, and an author says it of sums of their own under `[[roles]]`. Judgement,
//! diagnosis and the board ask for a role, never for a name. A definition without a role is a number like any other, and
//! nothing is said of it that only a role could tell.

use super::Practical;
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;

/// What a definition can stand for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum SheetRole {
    /// Amount of substance of a material.
    Amount,
    /// Mass of a material, computed or weighed.
    Mass,
    /// Amount concentration of a material.
    Concentration,
    /// The same of each trial apart.
    ConcentrationEach,
    /// Mass of a material in a volume.
    MassConcentration,
    /// Mean of the titres that count, by the name of the titre.
    MeanTitre,
    /// Amount that a titrant found left over of a material taken in excess.
    ExcessLeft,
    /// Amount of that material that reacted.
    Reacted,
    /// Extent of the reaction.
    Extent,
    /// Mass of a product that was found.
    ActualYield,
    /// Mass of a product that there could be at most.
    TheoreticalYield,
    /// One over the other.
    PercentYield,
    /// What was got back of the same substance, as a part of what was taken.
    Recovery,
    /// A component as a part of a sample.
    MassFraction,
    /// The same of each trial apart.
    MassFractionEach,
    /// What was found in all parts, as a part of the whole.
    PartsFound,
    /// Atoms of one element for each of another in a compound.
    AmountRatio,
    /// Waters of crystallisation for each unit of a salt.
    Waters,
    /// How far a result lies from the accepted value, as a part of that.
    PercentError,
    /// Slope of a calibration line.
    LineSlope,
    /// What a line says of an unknown.
    ReadOff,
    /// Temperature that a mixture had at the moment of mixing.
    MixedTemperature,
    /// By how much a mixture got warmer.
    TemperatureChange,
    /// Pressure of a gas without the water in it.
    DryPressure,
    /// Enthalpy of a reaction for each mole of it: negative where heat is given off.
    Enthalpy,
}

impl SheetRole {
    /// Whether it is a part of a whole, and more than the whole cannot be.
    #[must_use]
    pub fn is_part_of_a_whole(self) -> bool {
        match self {
            SheetRole::PercentYield | SheetRole::Recovery | SheetRole::MassFraction | SheetRole::PartsFound => true,
            SheetRole::Amount
            | SheetRole::Mass
            | SheetRole::Concentration
            | SheetRole::ConcentrationEach
            | SheetRole::MassConcentration
            | SheetRole::MassFractionEach
            | SheetRole::MeanTitre
            | SheetRole::ExcessLeft
            | SheetRole::Reacted
            | SheetRole::Extent
            | SheetRole::ActualYield
            | SheetRole::TheoreticalYield
            | SheetRole::AmountRatio
            | SheetRole::Waters
            | SheetRole::PercentError
            | SheetRole::LineSlope
            | SheetRole::ReadOff
            | SheetRole::MixedTemperature
            | SheetRole::TemperatureChange
            | SheetRole::DryPressure
            | SheetRole::Enthalpy => false,
        }
    }

    /// What `of` names beside it.
    #[must_use]
    pub fn subject(self) -> Subject {
        match self {
            SheetRole::Amount
            | SheetRole::Mass
            | SheetRole::Concentration
            | SheetRole::ConcentrationEach
            | SheetRole::MassConcentration
            | SheetRole::ExcessLeft
            | SheetRole::Reacted
            | SheetRole::ActualYield
            | SheetRole::TheoreticalYield
            | SheetRole::PercentYield
            | SheetRole::DryPressure => Subject::Material,
            SheetRole::MeanTitre => Subject::Titre,
            SheetRole::Extent
            | SheetRole::Recovery
            | SheetRole::MassFraction
            | SheetRole::MassFractionEach
            | SheetRole::PartsFound
            | SheetRole::AmountRatio
            | SheetRole::Waters
            | SheetRole::PercentError
            | SheetRole::LineSlope
            | SheetRole::ReadOff
            | SheetRole::MixedTemperature
            | SheetRole::TemperatureChange
            | SheetRole::Enthalpy => Subject::None,
        }
    }
}

/// What a role is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Subject {
    /// A material, by its symbol.
    Material,
    /// A titre, by its name.
    Titre,
    /// Nothing that needs naming.
    None,
}

/// A definition, or a reading that is used as it is, and what it stands for.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct RoleItem {
    /// Name of the definition.
    pub definition: String,
    /// What it stands for.
    pub role: SheetRole,
    /// Symbol of the material, or name of the titre, that the role is about.
    #[serde(default)]
    pub of: Option<String>,
}

/// The roles of a practical's definitions, those that methods give first.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Roles(Vec<RoleItem>);

impl Roles {
    /// Says one of a definition.
    pub(super) fn give(&mut self, definition: impl Into<String>, role: SheetRole, of: Option<&str>) {
        self.0.push(RoleItem { definition: definition.into(), role, of: of.map(str::to_owned) });
    }

    /// Adds what an author says of definitions of their own.
    pub(super) fn declare(&mut self, declared: &[RoleItem]) {
        self.0.extend_from_slice(declared);
    }

    /// The same of definitions that are called otherwise.
    pub(super) fn renamed(&self, called: impl Fn(&str) -> String) -> Vec<RoleItem> {
        self.0.iter().map(|r| RoleItem { definition: called(&r.definition), ..r.clone() }).collect()
    }

    /// The definition that stands for this.
    #[must_use]
    pub fn named(&self, role: SheetRole, of: &str) -> Option<&str> {
        self.0.iter().find(|r| r.role == role && r.of.as_deref() == Some(of)).map(|r| r.definition.as_str())
    }

    /// All definitions that stand for this, with what each is about.
    pub fn all(&self, role: SheetRole) -> impl Iterator<Item = &RoleItem> {
        self.0.iter().filter(move |r| r.role == role)
    }

    /// What a definition stands for.
    pub fn of(&self, definition: &str) -> impl Iterator<Item = SheetRole> {
        self.0.iter().filter(move |r| r.definition == definition).map(|r| r.role)
    }

    /// Whether a definition stands for this.
    #[must_use]
    pub fn has(&self, definition: &str, role: SheetRole) -> bool {
        self.of(definition).any(|r| r == role)
    }

    /// Every definition that is a part of a whole, once, with its role.
    #[must_use]
    pub fn parts_of_a_whole(&self) -> Vec<&RoleItem> {
        let mut seen = BTreeSet::new();
        self.0.iter().filter(|r| r.role.is_part_of_a_whole() && seen.insert(r.definition.as_str())).collect()
    }
}

/// The definitions that belong to one yield.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct YieldNames {
    /// Mass of product found.
    pub actual: String,
    /// Mass it could be at most.
    pub theoretical: String,
    /// One over the other.
    pub percent: String,
    /// Symbol of the product.
    pub product: String,
}

impl Practical {
    /// Every percent yield whose found and theoretical mass have a role as well.
    pub fn yields(&self) -> impl Iterator<Item = YieldNames> {
        self.roles.all(SheetRole::PercentYield).filter_map(|percent| {
            let product = percent.of.as_deref()?;
            // Of several yields of one product, each has the masses that it is computed from.
            let own = |role| {
                let of_it = |r: &&RoleItem| r.of.as_deref() == Some(product);
                let mut all = self.roles.all(role).filter(of_it);
                let read = self.program.definition(&percent.definition).map(|d| self.program.readings_of(d));
                let used = |r: &&RoleItem| {
                    self.program.hangs_on(&percent.definition, &r.definition)
                        || read.as_ref().is_some_and(|read| read.contains(&r.definition.as_str()))
                };
                let used = self.roles.all(role).filter(of_it).find(used).or_else(|| all.next());
                used.map(|r| r.definition.clone())
            };
            Some(YieldNames {
                actual: own(SheetRole::ActualYield)?,
                theoretical: own(SheetRole::TheoreticalYield)?,
                percent: percent.definition.clone(),
                product: product.to_owned(),
            })
        })
    }

    /// The yield of a product.
    #[must_use]
    pub fn yield_of(&self, product: &str) -> Option<YieldNames> {
        self.yields().find(|y| y.product == product)
    }

    /// Whether a result is a part of a whole: a percent yield, a recovery, a mass fraction, what was found of a sample.
    #[must_use]
    pub fn is_part_of_a_whole(&self, name: &str) -> bool {
        self.roles.of(name).any(SheetRole::is_part_of_a_whole)
    }
}
