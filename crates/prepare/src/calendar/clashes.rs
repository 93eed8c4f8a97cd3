//! Two classes at one thing: what they share by name, at the same time, and there are not enough of it for both.

use super::{MINUTE, Meeting};
use crate::lessons::{Lesson, Turn};
use serde::Serialize;

/// A class at a shared thing, in the calendar.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Use {
    /// Which run.
    pub run: i64,
    /// What, as its practical calls it.
    pub resource: String,
    /// From its first turn, ms.
    pub from: i64,
    /// To its last turn, ms.
    pub to: i64,
    /// Most groups at once.
    pub groups: u32,
    /// Groups for which there is room.
    pub places: u32,
}

/// Two classes that want the same thing at once.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Clash {
    /// What.
    pub resource: String,
    /// The runs, the one that begins earlier first.
    pub runs: [i64; 2],
    /// From when on, ms.
    pub from: i64,
    /// Until when, ms.
    pub to: i64,
    /// Groups of both at once.
    pub groups: u32,
    /// Groups for which there is room.
    pub places: u32,
}

/// What a class holds of what is shared in one lesson, as it was planned.
#[must_use]
pub fn uses_of(run: i64, lesson: &Lesson, meeting: Meeting) -> Vec<Use> {
    let of = |shared: &crate::lessons::Shared| {
        let turns: Vec<&Turn> = lesson.turns.iter().filter(|t| t.resource == shared.name).collect();
        let moment = |minute: u32| meeting.begins_at + i64::from(minute) * MINUTE;
        // Nobody goes in without somebody being in, so the most are in at one of the beginnings.
        let at_once = |at: u32| turns.iter().filter(|t| t.from <= at && at < t.to).count();
        let most = turns.iter().map(|t| at_once(t.from)).max()?;
        Some(Use {
            run,
            resource: shared.name.clone(),
            from: moment(turns.iter().map(|t| t.from).min()?),
            to: moment(turns.iter().map(|t| t.to).max()?),
            groups: u32::try_from(most).unwrap_or(u32::MAX),
            places: shared.count.saturating_mul(shared.serves),
        })
    };
    lesson.shared.iter().filter_map(of).collect()
}

/// Where two runs want more of a thing at once than there is, the earliest first.
#[must_use]
pub fn clashes(uses: &[Use]) -> Vec<Clash> {
    let mut out = Vec::new();
    for (i, a) in uses.iter().enumerate() {
        for b in &uses[i + 1..] {
            let (from, to) = (a.from.max(b.from), a.to.min(b.to));
            let groups = a.groups.saturating_add(b.groups);
            let places = a.places.min(b.places);
            if a.run != b.run && a.resource == b.resource && from < to && groups > places {
                let runs = if a.from <= b.from { [a.run, b.run] } else { [b.run, a.run] };
                out.push(Clash { resource: a.resource.clone(), runs, from, to, groups, places });
            }
        }
    }
    out.sort_by_key(|c| c.from);
    out
}
