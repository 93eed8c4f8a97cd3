//! What the room has of its own: named instruments, bottles, vessels weighed beforehand.
//!
//! A practical says what is needed (a balance that shows 0.01 g); the room says which there are (Balance 1, Balance 2),
//! each with its own resolution and tolerance. A reading taken on a named instrument is judged and computed by that one.

use super::Entries;
use super::refusal::Unsound;
use measure::{Dimension, Instrument, Unit};
use practical::file::Form;
use practical::{Edit, Key, Practical, Reading, Stated};
use serde::{Deserialize, Serialize};

/// One thing of the room.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "sort", rename_all = "kebab-case")]
pub enum RoomItem {
    /// Something that readings are taken on.
    Instrument(Instrument),
    /// A bottle that groups take a material from.
    Bottle(Bottle),
    /// A vessel with a tag, weighed beforehand.
    Vessel(TaggedVessel),
}

/// A bottle in the room.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Bottle {
    /// What stands on it: `bottle B`.
    pub name: String,
    /// What is in it, as the practical names the material: `sodium hydroxide`.
    pub holds: String,
    /// The strength on its label, in words: `0.1 mol/L, made 9 Nov`.
    #[serde(default)]
    pub strength: String,
    /// The strength it was measured to have: `0.0973 ± 0.0003 mol/L`; sums of groups that take from it use this.
    #[serde(default)]
    pub measured: Option<String>,
    /// From what it was made, by whom and when; none where nobody said it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub made: Option<BottleMade>,
    /// How its strength was measured since; none where nobody did.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub standardised: Option<Standardised>,
}

/// Somebody measured how strong a bottle is.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Standardised {
    /// From what: `12-Gneiss, 4 groups`.
    pub from: String,
    /// Who took it over.
    pub by: String,
    /// In ms.
    pub at: i64,
}

/// How a bottle came about.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct BottleMade {
    /// From what was really taken: `4.02 g NaOH in 1000 mL`.
    pub from: String,
    /// Who made it.
    pub by: String,
    /// In ms.
    pub at: i64,
    /// The last day on which it is good: `2027-05-11`.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub keep_until: Option<String>,
    /// The question to the core that its strength answers, as JSON: from it the sum is worked out anew.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub recipe: Option<String>,
}

/// A vessel weighed beforehand.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct TaggedVessel {
    /// What kind of vessel, as the practical names it: `vial`.
    pub vessel: String,
    /// What stands on it: `12`.
    pub tag: String,
    /// What it weighed, as read, in g.
    pub mass: String,
}

/// Everything that the room has.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Room {
    /// Its named instruments.
    pub instruments: Vec<Instrument>,
    /// Its bottles.
    pub bottles: Vec<Bottle>,
    /// Its vessels weighed beforehand.
    pub vessels: Vec<TaggedVessel>,
}

impl RoomItem {
    /// What it is called, unique among things of its kind.
    #[must_use]
    pub fn name(&self) -> String {
        match self {
            RoomItem::Instrument(i) => i.name.clone(),
            RoomItem::Bottle(b) => b.name.clone(),
            RoomItem::Vessel(v) => format!("{} {}", v.vessel, v.tag),
        }
    }

    /// The kind, as it stands beside its name.
    #[must_use]
    pub fn kind(&self) -> &'static str {
        match self {
            RoomItem::Instrument(_) => "instrument",
            RoomItem::Bottle(_) => "bottle",
            RoomItem::Vessel(_) => "vessel",
        }
    }

    /// Whether it can be so.
    ///
    /// # Errors
    /// [`Unsound`]: no name, a unit that is none, numbers that no instrument has, a mass that is no number.
    pub fn sound(&self) -> Result<(), Unsound> {
        if self.name().trim().is_empty() || self.name().chars().count() > 60 {
            return Err(Unsound::Name);
        }
        match self {
            RoomItem::Instrument(i) => {
                let positive = |x: f64| x.is_finite() && x > 0.0;
                let not_negative = |x: f64| x.is_finite() && x >= 0.0;
                Unit::parse(&i.unit).map_err(|why| Unsound::Unit { unit: short(&i.unit), why })?;
                let sound = positive(i.resolution)
                    && positive(i.capacity)
                    && [i.tolerance, i.repeatability, i.sensitivity].into_iter().all(not_negative);
                sound.then_some(()).ok_or(Unsound::Numbers)
            }
            RoomItem::Bottle(b) if b.holds.trim().is_empty() => Err(Unsound::EmptyBottle),
            RoomItem::Bottle(b) => match &b.measured {
                Some(text) => {
                    Stated::positive(text, &[Dimension::CONCENTRATION]).map(|_| ()).map_err(Unsound::Strength)
                }
                None => Ok(()),
            },
            RoomItem::Vessel(v) => match measure::Decimal::parse(&v.mass) {
                Ok(mass) if !mass.is_negative() && mass.to_f64() > 0.0 => Ok(()),
                Ok(mass) => Err(Unsound::NoMass(mass)),
                Err(e) => Err(Unsound::Mass(e)),
            },
        }
    }
}

impl Room {
    /// Everything in its place.
    #[must_use]
    pub fn of(items: impl IntoIterator<Item = RoomItem>) -> Room {
        let mut room = Room::default();
        for item in items {
            match item {
                RoomItem::Instrument(i) => room.instruments.push(i),
                RoomItem::Bottle(b) => room.bottles.push(b),
                RoomItem::Vessel(v) => room.vessels.push(v),
            }
        }
        room
    }

    /// Every thing of it.
    #[must_use]
    pub fn items(&self) -> Vec<RoomItem> {
        let instruments = self.instruments.iter().cloned().map(RoomItem::Instrument);
        let bottles = self.bottles.iter().cloned().map(RoomItem::Bottle);
        instruments.chain(bottles).chain(self.vessels.iter().cloned().map(RoomItem::Vessel)).collect()
    }

    /// The named instruments that this reading can be taken on.
    pub fn instruments_for<'r>(&'r self, reading: &'r Reading) -> impl Iterator<Item = &'r Instrument> {
        self.instruments.iter().filter(|i| {
            i.kind == reading.instrument.kind && Unit::parse(&i.unit).is_ok_and(|u| u.same_as(&reading.unit))
        })
    }

    /// The bottles that a material of the practical can be taken from.
    pub fn bottles_for<'r>(&'r self, practical: &'r Practical, material: &str) -> impl Iterator<Item = &'r Bottle> {
        let name = practical.material(material).map(|m| m.name.as_str());
        self.bottles.iter().filter(move |b| Some(b.holds.as_str()) == name)
    }

    /// What a group's bottles make of the practical: the measured strength in place of the planned one, material by
    /// material; empty where no bottle was measured.
    #[must_use]
    pub fn strengths(&self, practical: &Practical, entries: &Entries) -> Vec<Edit> {
        let of = |(material, name): (&String, &String)| {
            let at = practical.file.materials.iter().position(|m| m.symbol == *material)?;
            let solution = matches!(practical.file.materials.get(at)?.form, Form::Solution { .. });
            let measured = self.bottles.iter().find(|b| b.name == *name)?.measured.clone().filter(|_| solution)?;
            let path: Vec<Key> = vec!["materials".into(), at.into(), "form".into(), "strength".into()];
            Some(Edit::Set { path, value: measured.into() })
        };
        entries.bottles.iter().filter_map(of).collect()
    }

    /// The vessel with this tag.
    #[must_use]
    pub fn vessel(&self, vessel: &str, tag: &str) -> Option<&TaggedVessel> {
        self.vessels.iter().find(|v| v.vessel == vessel && v.tag == tag)
    }
}

/// The beginning of a text that somebody typed, to be quoted.
pub(super) fn short(text: &str) -> String {
    text.chars().take(30).collect()
}
