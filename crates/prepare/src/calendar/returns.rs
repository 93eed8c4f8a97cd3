//! What waits over days: from when it can be gone on with, until when it must be, and in which lesson.

use super::{MINUTE, NoSchool, SchoolCalendar, Slot};
use crate::lessons::{Lesson, Then};
use serde::Serialize;

/// What may stay is looked for a lesson within so many days.
const LOOK_AHEAD: i64 = 28 * 24 * 60 * MINUTE;
/// So many lessons are offered.
const OFFERED: usize = 3;

/// A lesson in the calendar.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Meeting {
    /// In ms.
    pub begins_at: i64,
    /// How long it lasts.
    pub minutes: u32,
}

/// A wait between two lessons, in the calendar.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Return {
    /// The lesson after which something waits, from 1.
    pub after: u32,
    /// How long it waits, as the step says.
    pub wait: String,
    /// From when on every group can go on, ms.
    pub ready_at: i64,
    /// Until when every group should have gone on, ms; none where it may stay.
    pub latest_at: Option<i64>,
    /// How the next lesson stands to that.
    pub stands: ReturnStands,
    /// Lessons that fit, the earliest first: where the next one does not, or none is planned.
    pub could: Vec<Slot>,
}

/// How the next lesson stands to a wait.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "stands", rename_all = "kebab-case")]
pub enum ReturnStands {
    /// It fits.
    Fits,
    /// Not every group can go on by then.
    TooEarly,
    /// What waits should not wait so long.
    TooLate,
    /// The school is closed.
    Closed {
        /// Why.
        why: NoSchool,
    },
    /// There is none.
    NotPlanned,
}

/// The waits between the lessons of a practical, as far as it is known when those are. No lesson is offered before `now`, ms.
#[must_use]
pub fn returns(lessons: &[Lesson], meetings: &[Meeting], calendar: &SchoolCalendar, now: i64) -> Vec<Return> {
    // Where it falls into other parts than there are lessons, nobody knows which part a later lesson is.
    let known = if lessons.len() == meetings.len() { lessons.len() } else { 1 };
    let all = (1u32..).zip(lessons).zip(meetings).take(known);
    all.filter_map(|((after, lesson), meeting)| {
        let (Then::Waits { wait }, Some(last)) = (&lesson.then, lesson.pieces.last()) else { return None };
        let through = ends(lesson);
        let moment = |minute: u32| meeting.begins_at + i64::from(minute) * MINUTE;
        let ready_at = moment(through.iter().max()? + last.wait_least);
        let latest_at = last.wait_most.and_then(|most| Some(moment(through.iter().min()? + most)));
        let next = meetings.get(after as usize);
        let stands = next.map_or(ReturnStands::NotPlanned, |next| stands(*next, ready_at, latest_at, calendar));
        let until = latest_at.unwrap_or(ready_at.max(now) + LOOK_AHEAD);
        let minutes = next.map_or(lesson.minutes, |next| next.minutes);
        let could = match stands {
            ReturnStands::Fits => Vec::new(),
            ReturnStands::TooEarly | ReturnStands::TooLate | ReturnStands::Closed { .. } | ReturnStands::NotPlanned => {
                calendar.slots(ready_at.max(now), until, minutes, OFFERED)
            }
        };
        Some(Return { after, wait: wait.clone(), ready_at, latest_at, stands, could })
    })
    .collect()
}

fn stands(next: Meeting, ready_at: i64, latest_at: Option<i64>, calendar: &SchoolCalendar) -> ReturnStands {
    if let Some(why) = calendar.closed(next.begins_at) {
        return ReturnStands::Closed { why };
    }
    if next.begins_at < ready_at {
        return ReturnStands::TooEarly;
    }
    if latest_at.is_some_and(|latest| next.begins_at > latest) { ReturnStands::TooLate } else { ReturnStands::Fits }
}

/// In which minute of the lesson each group is through; with the lesson where there is no plan.
fn ends(lesson: &Lesson) -> Vec<u32> {
    let last = lesson.pieces.last().map_or(0, |p| p.minutes);
    let own = lesson.timetable.iter().flat_map(|t| &t.starts).filter_map(|starts| starts.last());
    let ends: Vec<u32> = own.map(|start| start + last).collect();
    if ends.is_empty() { vec![lesson.minutes] } else { ends }
}
