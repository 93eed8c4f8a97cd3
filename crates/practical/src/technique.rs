//! The technique library: what a piece of bench work takes, what can hurt, what must come before what, which slips are
//! common and which reading they touch, and what to look for.
//!
//! The library is the file `techniques/techniques.toml`; a step of a practical names its technique. A slip of the bench
//! changes a reading, not the sum: what it does to a result follows from the sheet's sensitivities.

use serde::{Deserialize, Serialize};
use std::sync::LazyLock;

static LIBRARY: LazyLock<Vec<Technique>> = LazyLock::new(|| {
    let file: Library = toml_edit::de::from_str(include_str!("../../../techniques/techniques.toml"))
        .expect("the library is part of this program and tested");
    file.techniques
});

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct Library {
    techniques: Vec<Technique>,
}

/// One technique.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Technique {
    /// As a practical names it: `suction-filtration`.
    pub id: String,
    /// In words.
    pub name: String,
    /// What it belongs to: `filtration`.
    pub group: String,
    /// What it takes.
    pub equipment: Vec<String>,
    /// Usual shortest and longest time, in minutes.
    pub minutes: [u32; 2],
    /// What can hurt someone, with the reason.
    pub cautions: Vec<Reasoned>,
    /// What must come before what, with the reason.
    pub guards: Vec<Reasoned>,
    /// What usually goes wrong.
    pub slips: Vec<CommonSlip>,
    /// How one sees that it is going well.
    pub look_for: Vec<String>,
}

/// A rule with its reason.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Reasoned {
    /// What to do or to leave.
    pub text: String,
    /// Why.
    pub why: String,
}

/// A slip of the bench, as it happens with this technique.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CommonSlip {
    /// Which one.
    pub code: BenchSlip,
    /// The reading that it touches: `product mass`.
    pub touches: String,
    /// Which way it moves that reading.
    pub sign: Way,
    /// How it comes about.
    pub text: String,
}

/// Which way a slip moves a reading.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Way {
    /// Too much.
    High,
    /// Too little.
    Low,
    /// It depends.
    Either,
}

/// The slips of the bench, by their stable codes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[allow(missing_docs)] // the code says it; the library says how it comes about
pub enum BenchSlip {
    DampProduct,
    UnwashedProduct,
    TransferLoss,
    WashedAway,
    FinesThrough,
    Spattered,
    IncompleteReaction,
    SideProduct,
    Overheated,
    BoiledDry,
    Effloresced,
    Sublimed,
    HotWeighing,
    MoistureRegained,
    CrucibleDamp,
    LidMismatch,
    Soot,
    PaperNotTared,
    PaperMoisture,
    PaperTorn,
    SolidLeftInBoat,
    DifferentBalance,
    AirInTip,
    BuretteNotRinsed,
    PipetteNotRinsed,
    FlaskRinsedWithSample,
    FunnelLeftIn,
    OvershotEndpoint,
    WrongIndicator,
    EyeAbove,
    EyeBelow,
    PipetteBlownOut,
    PastTheMark,
    FlaskNotMixed,
    DampStandard,
    CarbonDioxideUptake,
    LimitingReagentSpilled,
    ExcessReagentSpilled,
    LayerDiscarded,
    SolventLeft,
    BulbMisplaced,
    HeatedTooFast,
    HeatLost,
    StirredTooLittle,
    CuvetteDirty,
    GasLost,
    GasStillWarm,
    DepositLost,
    ClockLate,
}

/// All techniques, by group as they stand in the library.
#[must_use]
pub fn techniques() -> &'static [Technique] {
    &LIBRARY
}

/// The technique with this name.
#[must_use]
pub fn technique(id: &str) -> Option<&'static Technique> {
    LIBRARY.iter().find(|t| t.id == id)
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::BTreeSet;

    /// Reading it at all holds every slip against the catalogue; the rest is what a person needs at the bench.
    #[test]
    fn every_technique_is_complete_and_named_once() {
        let ids: BTreeSet<&str> = techniques().iter().map(|t| t.id.as_str()).collect();
        assert_eq!(ids.len(), techniques().len());
        assert!(ids.len() >= 30);
        for t in techniques() {
            let told = !t.equipment.is_empty() && !t.guards.is_empty() && !t.slips.is_empty() && !t.look_for.is_empty();
            assert!(told && t.minutes[0] <= t.minutes[1], "{}", t.id);
            assert!(t.cautions.iter().chain(&t.guards).all(|r| !r.text.is_empty() && !r.why.is_empty()), "{}", t.id);
        }
    }

    /// Ways that follow from the physics of the slip, whatever the practical.
    #[test]
    fn slips_move_the_reading_the_way_they_must() {
        let way = |id: &str, code| technique(id).unwrap().slips.iter().find(|s| s.code == code).unwrap().sign;
        assert_eq!(way("titration", BenchSlip::AirInTip), Way::High);
        assert_eq!(way("ignition", BenchSlip::HotWeighing), Way::Low);
        assert_eq!(way("suction-filtration", BenchSlip::WashedAway), Way::Low);
        assert_eq!(way("drying-air", BenchSlip::DampProduct), Way::High);
        assert_eq!(way("pipetting", BenchSlip::PipetteBlownOut), Way::High);
        assert_eq!(way("burette-reading", BenchSlip::FunnelLeftIn), Way::Low);
    }
}
