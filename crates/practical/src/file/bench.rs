//! Instruments, vessels, shared resources, readings and observations.

use super::Judgement;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// An instrument of the room.
pub type InstrumentItem = measure::Instrument;

/// What holds things.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Vessel {
    /// As the steps call it: `beaker`.
    pub name: String,
    /// What it holds to the brim: `100 mL`.
    pub capacity: String,
    /// Whether each group's carries a tag to be written down: `crucible 7`.
    #[serde(default)]
    pub tagged: bool,
    /// The reading that weighs it empty: of a vessel weighed beforehand the tag alone gives it.
    #[serde(default)]
    pub weighed_as: Option<String>,
}

/// What groups share.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Resource {
    /// As the steps call it: `water bath`.
    pub name: String,
    /// How many of them a room usually has.
    pub count: u32,
    /// Groups that one of them serves at once.
    pub groups: u32,
}

/// What sort of reading it is. A side (litmus), a colour and a code are observations.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum ReadingKind {
    /// One number.
    #[default]
    Number,
    /// Two: where it begins and where it ends (melting, boiling, pH paper).
    Interval,
    /// A whole number: drops.
    Count,
    /// A span of time.
    Span,
}

/// How often a reading is taken.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct RepeatsItem {
    /// What one is called: `trial`, `crop`, `fraction`. Readings repeat together when this agrees.
    pub axis: String,
    /// The most there can be.
    pub most: u32,
    /// Of these, so many at the beginning are rough.
    #[serde(default)]
    pub rough: u32,
    /// So many are enough, and more can be taken; where trials have to agree, their agreement decides.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub enough: Option<u32>,
}

/// A reading that groups take.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ReadingItem {
    /// As the sheet calls it: `m_dish`.
    pub symbol: String,
    /// In words.
    pub label: String,
    /// In one or two words, for the head of a column.
    pub short: String,
    /// What sort of reading it is.
    #[serde(default)]
    pub kind: ReadingKind,
    /// The unit it is read in.
    pub unit: String,
    /// Name of the instrument.
    pub instrument: String,
    /// Digits after the point that this instrument gives.
    pub decimals: u32,
    /// Where it should lie, ends included.
    pub range: [f64; 2],
    /// What is planned or expected; of an interval both its ends: `104.5 to 106.0`.
    pub expected: String,
    /// What is planned or expected each time, where a series goes up or down: `["2.00", "4.00", "6.00"]`. So often it is taken.
    #[serde(default)]
    pub points: Vec<String>,
    /// The material that it measures, if it does.
    #[serde(default)]
    pub of: Option<String>,
    /// Taken once, unless this says otherwise.
    #[serde(default)]
    pub repeats: Option<RepeatsItem>,
    /// The reading that it is plotted against while it is taken, where both repeat together: a temperature against time.
    #[serde(default)]
    pub against: Option<String>,
    /// The melting range of the substance alone, of which this one is of a mixture with a candidate.
    #[serde(default)]
    pub compared_with: Option<String>,
}

/// What sort of observation it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum ObservationKind {
    /// One of the choices.
    #[default]
    Choice,
    /// One of the choices, beside a positive and a negative control.
    SpotTest,
    /// The code of an unknown; the choices are the codes.
    Code,
    /// In the group's own words.
    Note,
}

/// Something to look at, with the answers that can be given.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Observation {
    /// Its name.
    pub symbol: String,
    /// As the group is asked.
    pub question: String,
    /// What sort it is.
    #[serde(default)]
    pub kind: ObservationKind,
    /// When to look: `5 min after the ice`; at any time in its step if left out.
    #[serde(default)]
    pub when: String,
    /// What can be seen; left out for a code and a note.
    #[serde(default)]
    pub choices: Vec<String>,
    /// What is seen when all is as it should be; left out where that differs between groups, or is not known before.
    #[serde(default)]
    pub expected: String,
    /// What shows how the test looks when the substance is there.
    #[serde(default)]
    pub positive_control: String,
    /// What shows how the test looks when it is not.
    #[serde(default)]
    pub negative_control: String,
    /// What a choice means for the work, and what to do next, told at once: `"all dissolved" = "Add more carbonate …"`.
    #[serde(default)]
    pub means: BTreeMap<String, String>,
    /// What it is evidence of. Without it, what was seen speaks for nothing but itself.
    #[serde(default)]
    pub evidence: Option<Evidence>,
}

/// What something seen is evidence of.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = DeclaredEvidence))]
#[serde(deny_unknown_fields)]
pub struct Evidence {
    /// The judgement that it weighs on.
    pub of: Judgement,
    /// Of the limiting reagent: the material that limits where this choice is seen. A choice that is not named says nothing.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub says: BTreeMap<String, String>,
}
