//! The school's calendar: its days, its periods, and when it is closed.
//!
//! Days and periods are local, in the school's own zone; moments are milliseconds since 1970, UTC. A wait is counted in real
//! hours, so a night in which the clocks change is as long as it is, while a period begins when the bell rings.

mod clashes;
mod returns;

pub use clashes::{Clash, Use, clashes, uses_of};
pub use returns::{Meeting, Return, ReturnStands, returns};

use jiff::Timestamp;
use jiff::civil::{Date, DateTime, Time, Weekday};
use jiff::tz::TimeZone;
use serde::{Deserialize, Serialize};

/// Most periods of a day.
pub const MOST_PERIODS: usize = 20;
/// Most closed spells that a calendar keeps.
pub const MOST_DAYS_OFF: usize = 400;
/// Two periods with no longer a break between them can be taken as one lesson, min.
const SHORT_BREAK: i64 = 15;
/// A minute, ms.
const MINUTE: i64 = 60_000;

/// When there is school.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SchoolCalendar {
    /// The zone of its clocks, as in the tz database: `Europe/Lisbon`.
    pub zone: String,
    /// Days of the week with lessons.
    pub school_days: Vec<SchoolDay>,
    /// The bell, in the order of the day.
    pub periods: Vec<Period>,
    /// When it is closed.
    pub days_off: Vec<DaysOff>,
}

/// A day of the week.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum SchoolDay {
    /// Monday.
    Monday,
    /// Tuesday.
    Tuesday,
    /// Wednesday.
    Wednesday,
    /// Thursday.
    Thursday,
    /// Friday.
    Friday,
    /// Saturday.
    Saturday,
    /// Sunday.
    Sunday,
}

/// A period between two bells.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Period {
    /// What it is called: `3`.
    pub name: String,
    /// When it begins, by the school's clocks: `10:50`.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub from: Time,
    /// How long it lasts.
    pub minutes: u32,
}

/// Days on which the school is closed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct DaysOff {
    /// Why: `half term`.
    pub name: String,
    /// The first of them.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub from: Date,
    /// The last of them.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub to: Date,
}

/// Why there is no school.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "closed", rename_all = "kebab-case")]
pub enum NoSchool {
    /// It is one of the days off.
    DayOff {
        /// Its name.
        name: String,
    },
    /// There are no lessons on this day of the week.
    NoLessons {
        /// The day.
        day: SchoolDay,
    },
}

/// A time at which a lesson could be.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Slot {
    /// When it begins, ms.
    pub begins_at: i64,
    /// How long it can last, min.
    pub minutes: u32,
    /// Its first period.
    pub first: String,
    /// Its last period, where it takes several.
    pub last: Option<String>,
}

/// What makes no sense in a calendar.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum CalendarFault {
    /// A zone that is in no database.
    #[error("'{0}' is no time zone that is known; write it as Europe/Lisbon")]
    Zone(String),
    /// A school without a day.
    #[error("a school has lessons on one day of the week at least")]
    NoSchoolDay,
    /// Longer than a list may be.
    #[error("a calendar has at most {most} {what}, and these are {there}")]
    TooMany {
        /// Of what.
        what: &'static str,
        /// How many it may have.
        most: usize,
        /// How many there are.
        there: usize,
    },
    /// A period of no time.
    #[error("period {0} lasts 1 to 600 minutes")]
    PeriodLength(String),
    /// A period that begins before the one before is over.
    #[error("period {later} begins before period {earlier} is over")]
    PeriodsOverlap {
        /// Its name.
        earlier: String,
        /// Its name.
        later: String,
    },
    /// A last day before the first.
    #[error("'{name}' ends on {to}, before it begins on {from}")]
    Backwards {
        /// Its name.
        name: String,
        /// Its first day.
        from: Date,
        /// Its last day.
        to: Date,
    },
}

impl From<Weekday> for SchoolDay {
    fn from(day: Weekday) -> SchoolDay {
        match day {
            Weekday::Monday => SchoolDay::Monday,
            Weekday::Tuesday => SchoolDay::Tuesday,
            Weekday::Wednesday => SchoolDay::Wednesday,
            Weekday::Thursday => SchoolDay::Thursday,
            Weekday::Friday => SchoolDay::Friday,
            Weekday::Saturday => SchoolDay::Saturday,
            Weekday::Sunday => SchoolDay::Sunday,
        }
    }
}

impl SchoolCalendar {
    /// A calendar of which nobody has said anything: Monday to Friday, no bell, never closed.
    #[must_use]
    pub fn unsaid(zone: String) -> SchoolCalendar {
        use SchoolDay::{Friday, Monday, Thursday, Tuesday, Wednesday};
        let school_days = vec![Monday, Tuesday, Wednesday, Thursday, Friday];
        SchoolCalendar { zone, school_days, periods: Vec::new(), days_off: Vec::new() }
    }

    /// Whether one can go by it.
    ///
    /// # Errors
    /// What makes no sense in it.
    pub fn sound(&self) -> Result<(), CalendarFault> {
        if TimeZone::get(&self.zone).is_err() {
            return Err(CalendarFault::Zone(self.zone.chars().take(60).collect()));
        }
        if self.school_days.is_empty() {
            return Err(CalendarFault::NoSchoolDay);
        }
        let counts = [("periods", self.periods.len(), MOST_PERIODS), ("days off", self.days_off.len(), MOST_DAYS_OFF)];
        if let Some((what, there, most)) = counts.into_iter().find(|(_, there, most)| there > most) {
            return Err(CalendarFault::TooMany { what, most, there });
        }
        if let Some(p) = self.periods.iter().find(|p| !(1..=600).contains(&p.minutes)) {
            return Err(CalendarFault::PeriodLength(p.name.clone()));
        }
        if let Some([earlier, later]) = self.periods.array_windows().find(|[earlier, later]| gap(earlier, later) < 0) {
            let [earlier, later] = [earlier, later].map(|p| p.name.clone());
            return Err(CalendarFault::PeriodsOverlap { earlier, later });
        }
        match self.days_off.iter().find(|d| d.to < d.from) {
            Some(d) => Err(CalendarFault::Backwards { name: d.name.clone(), from: d.from, to: d.to }),
            None => Ok(()),
        }
    }

    /// Why there is no school at a moment; none where there is.
    #[must_use]
    pub fn closed(&self, at: i64) -> Option<NoSchool> {
        self.closed_on(self.local(at)?.date())
    }

    /// The first lessons of so many minutes that begin in a span of time, `most` of them.
    #[must_use]
    pub fn slots(&self, from: i64, to: i64, minutes: u32, most: usize) -> Vec<Slot> {
        let (Some(first), Some(last)) = (self.local(from), self.local(to)) else { return Vec::new() };
        let days = first.date().series(jiff::Span::new().days(1)).take_while(|d| *d <= last.date());
        let open = days.filter(|d| self.closed_on(*d).is_none());
        let all =
            open.flat_map(|day| self.periods.iter().enumerate().filter_map(move |(i, _)| self.slot(day, i, minutes)));
        all.filter(|s| (from..=to).contains(&s.begins_at)).take(most).collect()
    }

    /// The lesson of so many minutes that begins with a period of a day; none where the day has not so many left.
    fn slot(&self, day: Date, period: usize, minutes: u32) -> Option<Slot> {
        let first = &self.periods[period];
        let mut end = i64::from(first.minutes);
        let mut last = None;
        for [earlier, later] in self.periods[period..].array_windows() {
            let pause = gap(earlier, later);
            if end >= i64::from(minutes) || pause > SHORT_BREAK {
                break;
            }
            end += pause + i64::from(later.minutes);
            last = Some(later.name.clone());
        }
        let begins = day.to_datetime(first.from).to_zoned_datetime(self.zone()?).ok()?;
        let slot = Slot {
            begins_at: begins.timestamp().as_millisecond(),
            minutes: u32::try_from(end).ok()?,
            first: first.name.clone(),
            last,
        };
        (slot.minutes >= minutes).then_some(slot)
    }

    fn closed_on(&self, day: Date) -> Option<NoSchool> {
        if let Some(off) = self.days_off.iter().find(|d| (d.from..=d.to).contains(&day)) {
            return Some(NoSchool::DayOff { name: off.name.clone() });
        }
        let day = SchoolDay::from(day.weekday());
        (!self.school_days.contains(&day)).then_some(NoSchool::NoLessons { day })
    }

    fn zone(&self) -> Option<TimeZone> {
        TimeZone::get(&self.zone).ok()
    }

    fn local(&self, at: i64) -> Option<DateTime> {
        Some(self.zone()?.to_datetime(Timestamp::from_millisecond(at).ok()?))
    }
}

/// From the end of a period to the beginning of the next, min; below 0 where they overlap.
fn gap(earlier: &Period, later: &Period) -> i64 {
    let between = later.from.duration_since(earlier.from).as_mins();
    between - i64::from(earlier.minutes)
}
