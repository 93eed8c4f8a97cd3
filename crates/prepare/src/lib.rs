//! What stands on the trolley, and whether it fits the lesson.
//!
//! Pure: a practical, a class and a room in; amounts, things and a timetable out. Ticks, bottles and people are the store's.

pub mod amounts;
pub mod calendar;
pub mod lessons;
pub mod needs;
pub mod replan;
pub mod schedule;
pub mod stock;
pub mod things;
pub mod trays;

use lessons::RoomTime;
use needs::{MaterialNeed, WasteNeed};
use practical::{Allotted, Practical};
use schedule::Effort;
use serde::Serialize;
use std::collections::BTreeMap;
use things::Thing;
use trays::{Tray, VialNeed};

/// Whom it is prepared for.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct ForClass {
    /// What each group was given that others were not, in bench order.
    pub groups: Vec<Allotted>,
    /// Whole groups on top.
    pub spare_groups: u32,
    /// Per cent on top of everything.
    pub percent_on_top: f64,
    /// How many of a shared thing the room has, where that differs from what the practical says.
    pub resources: BTreeMap<String, u32>,
    /// How long the lessons are, min; the last one counts for all after it.
    pub lessons: Vec<u32>,
}

/// Everything that is put out.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Preparation {
    /// How much of what.
    pub materials: Vec<MaterialNeed>,
    /// What stands at the benches.
    pub things: Vec<Thing>,
    /// What each group finds on its tray.
    pub trays: Vec<Tray>,
    /// Vials of unknowns, with the key.
    pub vials: Vec<VialNeed>,
    /// What is thrown away together.
    pub waste: Vec<WasteNeed>,
    /// Whether it fits the lessons.
    pub time: RoomTime,
}

/// What is prepared of a practical for a class.
#[must_use]
pub fn preparation(practical: &Practical, class: &ForClass, effort: Effort) -> Preparation {
    let materials = needs::materials(practical, class);
    Preparation {
        waste: needs::waste(practical, &materials),
        things: things::things(practical, class),
        vials: trays::vials(practical, class),
        trays: trays::trays(practical, class, &materials),
        time: lessons::room_time(practical, class, effort),
        materials,
    }
}
