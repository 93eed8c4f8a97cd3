//! What a group can choose at a step: the clock that it starts, the instruments that it reads on.

use super::Room;
use practical::file::{Step, Stop};
use practical::{Practical, minutes};
use serde::Serialize;
use std::collections::BTreeMap;
use std::time::Duration;

/// The clock of a step.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StepClock {
    /// The condition on which it starts: `it boils`; none where it starts when one is ready.
    pub from: Option<String>,
    /// How long it runs, s.
    pub seconds: u32,
}

impl StepClock {
    /// A step that lasts a stated time has a clock for it; one that waits has one for its shortest wait.
    #[must_use]
    pub fn of(step: &Step) -> Option<StepClock> {
        let seconds = |text: &str| {
            let (least, _) = minutes(text).ok()?;
            let span = Duration::try_from_secs_f64(least * 60.0).ok()?;
            u32::try_from(span.as_secs()).ok().filter(|s| *s > 0)
        };
        if let Some((lasts, from)) = step.stop.as_ref().and_then(Stop::lasts) {
            return Some(StepClock { from: from.map(str::to_owned), seconds: seconds(lasts)? });
        }
        Some(StepClock { from: None, seconds: seconds(step.wait.as_deref()?)? })
    }
}

/// An instrument to choose.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Choosable {
    /// Its name.
    pub name: String,
    /// Digits after the point that it shows.
    pub decimals: u32,
}

/// Instruments of the room that fit each reading, by its symbol; readings with none are left out.
#[must_use]
pub fn choosable(practical: &Practical, room: &Room) -> BTreeMap<String, Vec<Choosable>> {
    let of = |reading: &practical::Reading| -> Vec<Choosable> {
        let fitting = room.instruments_for(reading);
        fitting.map(|i| Choosable { name: i.name.clone(), decimals: reading.decimals_on(i) }).collect()
    };
    let all = practical.readings.iter().map(|r| (r.symbol.clone(), of(r)));
    all.filter(|(_, choices)| !choices.is_empty()).collect()
}
