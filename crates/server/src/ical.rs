//! iCalendar (RFC 5545), read and written.
//!
//! Read are days on which something is all day long, and the times at which something begins: which of them are days off or
//! bells is for a person to say. What repeats by a rule is told, and read for its first time only.

use icalendar::parser::{read_calendar_simple, unfold};
use icalendar::{Calendar, CalendarComponent, CalendarDateTime, Component, DatePerhapsTime, Event};
use jiff::civil::{Date, DateTime};
use jiff::tz::TimeZone;
use jiff::{Span, Timestamp};
use prepare::calendar::{DaysOff, Period};
use serde::Serialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// Most events that are read.
const MOST_EVENTS: usize = 20_000;
/// A calendar holds events, and those hold alarms; nothing goes deeper.
const DEEPEST: usize = 4;
/// Longest event, lines.
const LONGEST_EVENT: usize = 500;
/// Longest period, min.
const LONGEST: i64 = 600;
/// Longest name that is kept of an event.
const LONGEST_NAME: usize = 60;
/// So many times of the day are offered as bells, the most used first.
const BELLS: usize = 20;

/// What stands in a calendar file.
#[derive(Debug, PartialEq, Eq, Serialize, ToSchema)]
pub struct FoundInCalendar {
    /// Spells of whole days that are not over, the first first.
    pub days: Vec<DaysOff>,
    /// When something begins, in the order of the day, by the school's clocks; named by their order.
    pub periods: Vec<Period>,
    /// Spells of whole days that are over.
    pub past: u32,
    /// What repeats by a rule: only its first time is read.
    pub repeating: Vec<String>,
    /// Zones that nobody knows; their times are taken as the school's own.
    pub unknown_zones: Vec<String>,
    /// Events of whose time nothing could be made.
    pub unread: u32,
}

/// Why nothing can be read.
#[derive(Debug, PartialEq, Eq, thiserror::Error)]
pub enum BadCalendar {
    /// It does not begin like one.
    #[error("this is no iCalendar file: it begins with BEGIN:VCALENDAR")]
    NoCalendar,
    /// It was cut off, or something in it is never ended.
    #[error("this iCalendar file is broken: something in it has no end; it may have been cut off")]
    NoEnd,
    /// One thing within another, without end.
    #[error("this iCalendar file is broken: line {0} begins something within something that holds nothing")]
    TooDeep(usize),
    /// More than anybody's.
    #[error("this calendar has {0} events; {MOST_EVENTS} are read at most")]
    TooMany(usize),
}

/// What stands in a file, for a school in a zone that is at a day.
///
/// # Errors
/// What is wrong with the file.
pub fn read(text: &str, zone: &TimeZone, today: Date) -> Result<FoundInCalendar, BadCalendar> {
    let text = unfold(text.trim_start_matches('\u{feff}').trim_start());
    if !starts(&text, "BEGIN:VCALENDAR") {
        return Err(BadCalendar::NoCalendar);
    }
    let texts = events_of(&text)?;
    if texts.len() > MOST_EVENTS {
        return Err(BadCalendar::TooMany(texts.len()));
    }
    let mut reading = Reading { zone, unknown_zones: Vec::new() };
    let mut found = FoundInCalendar {
        days: Vec::new(),
        periods: Vec::new(),
        past: 0,
        repeating: Vec::new(),
        unknown_zones: Vec::new(),
        unread: 0,
    };
    // How often something begins at a time of the day, and how long it lasts.
    let mut bells: BTreeMap<(jiff::civil::Time, u32), u32> = BTreeMap::new();
    for text in texts {
        let Some(event) = event_in(text) else {
            found.unread += 1;
            continue;
        };
        let name = name_of(&event);
        if event.property_value("RRULE").is_some() && found.repeating.len() < 20 {
            found.repeating.push(name.clone());
        }
        match reading.span(&event) {
            Some(When::Days(_, to)) if to < today => found.past += 1,
            Some(When::Days(from, to)) => found.days.push(DaysOff { name, from, to }),
            Some(When::Time(begins, minutes)) => *bells.entry((begins.time(), minutes)).or_default() += 1,
            None => found.unread += 1,
        }
    }
    found.days.sort_by(|a, b| (a.from, a.to, &a.name).cmp(&(b.from, b.to, &b.name)));
    found.days.dedup();
    let mut used: Vec<_> = bells.into_iter().collect();
    used.sort_by_key(|(_, times)| std::cmp::Reverse(*times));
    used.truncate(BELLS);
    used.sort_by_key(|(bell, _)| *bell);
    let period = |(nr, ((from, minutes), _)): (u32, _)| Period { name: nr.to_string(), from, minutes };
    found.periods = (1..).zip(used).map(period).collect();
    found.unknown_zones = reading.unknown_zones;
    Ok(found)
}

/// The text of each event. The parser takes time by the square of the lines, and goes down with what it reads: so events are
/// read one by one, and a file that nests without end must not take the server with it. Lines are those that the parser sees,
/// with what was folded put together.
fn events_of(text: &str) -> Result<Vec<&str>, BadCalendar> {
    let mut open: Vec<&str> = Vec::new();
    let mut out = Vec::new();
    let (mut at, mut event) = (0, None);
    for (nr, line) in (1..).zip(text.split_inclusive('\n')) {
        let said = line.trim_end_matches(['\r', '\n']);
        if starts(said, "BEGIN:") {
            open.push(&said["BEGIN:".len()..]);
            if open.len() == 2 && starts(said, "BEGIN:VEVENT") {
                event = Some(at);
            }
        } else if starts(said, "END:") && open.last().is_some_and(|name| *name == &said["END:".len()..]) {
            open.pop();
            if let (1, Some(from)) = (open.len(), event) {
                out.push(&text[from..at + line.len()]);
                event = None;
            }
        }
        if open.len() > DEEPEST {
            return Err(BadCalendar::TooDeep(nr));
        }
        at += line.len();
    }
    if open.is_empty() { Ok(out) } else { Err(BadCalendar::NoEnd) }
}

/// An event by its text; none where it is longer than any, or cannot be read.
fn event_in(text: &str) -> Option<Event> {
    if text.lines().count() > LONGEST_EVENT {
        return None;
    }
    let component = read_calendar_simple(text).ok()?.pop()?;
    CalendarComponent::from(component).as_event().cloned()
}

/// Whether a line starts with this, in capitals or not.
fn starts(line: &str, with: &str) -> bool {
    line.get(..with.len()).is_some_and(|start| start.eq_ignore_ascii_case(with))
}

fn name_of(event: &Event) -> String {
    let name: String = event.get_summary().unwrap_or_default().chars().filter(|c| !c.is_control()).collect();
    let name: String = name.trim().chars().take(LONGEST_NAME).collect();
    if name.is_empty() { "without a name".to_owned() } else { name }
}

enum When {
    /// From a day to a day, both of them in it.
    Days(Date, Date),
    /// From a local time for so many minutes.
    Time(DateTime, u32),
}

struct Reading<'a> {
    zone: &'a TimeZone,
    unknown_zones: Vec<String>,
}

impl Reading<'_> {
    fn span(&mut self, event: &Event) -> Option<When> {
        match event.get_start()? {
            DatePerhapsTime::Date(from) => {
                let from: Date = from.to_string().parse().ok()?;
                let end = match event.get_end() {
                    // The end is the day after the last.
                    Some(DatePerhapsTime::Date(end)) => end.to_string().parse::<Date>().ok()?.yesterday().ok()?,
                    Some(DatePerhapsTime::DateTime(_)) => return None,
                    None => lasting(event).map_or(Some(from), |span| from.checked_add(span).ok()?.yesterday().ok())?,
                };
                Some(When::Days(from, end.max(from)))
            }
            DatePerhapsTime::DateTime(begins) => {
                let begins = self.local(&begins)?;
                let ends = match event.get_end() {
                    Some(DatePerhapsTime::DateTime(end)) => self.local(&end)?,
                    Some(DatePerhapsTime::Date(_)) => return None,
                    None => begins.checked_add(lasting(event)?).ok()?,
                };
                let minutes = ends.duration_since(begins).as_mins();
                (1..=LONGEST).contains(&minutes).then_some(())?;
                Some(When::Time(begins, u32::try_from(minutes).ok()?))
            }
        }
    }

    /// By the school's clocks.
    fn local(&mut self, at: &CalendarDateTime) -> Option<DateTime> {
        let civil = |text: String| text.replace(' ', "T").parse::<DateTime>().ok();
        match at {
            CalendarDateTime::Floating(local) => civil(local.to_string()),
            CalendarDateTime::Utc(at) => Some(self.zone.to_datetime(Timestamp::from_second(at.timestamp()).ok()?)),
            CalendarDateTime::WithTimezone { date_time, tzid } => {
                let there = civil(date_time.to_string())?;
                let Ok(zone) = TimeZone::get(tzid) else {
                    if !self.unknown_zones.contains(tzid) && self.unknown_zones.len() < 20 {
                        self.unknown_zones.push(tzid.chars().take(LONGEST_NAME).collect());
                    }
                    return Some(there);
                };
                let at = there.to_zoned_datetime(zone).ok()?;
                Some(self.zone.to_datetime(at.timestamp()))
            }
        }
    }
}

/// How long an event says that it lasts.
fn lasting(event: &Event) -> Option<Span> {
    event.property_value("DURATION")?.parse().ok()
}

/// An entry of a calendar that is written.
#[derive(Debug)]
pub struct Dated {
    /// The same each time that it is written.
    pub uid: String,
    /// What it is.
    pub name: String,
    /// More about it.
    pub about: String,
    /// When.
    pub when: Stretch,
}

/// When an entry is.
#[derive(Debug)]
pub enum Stretch {
    /// Whole days, the last one in it.
    Days(Date, Date),
    /// Moments, ms.
    Moments(i64, i64),
}

/// A calendar file. `now` is when it is written, ms.
pub fn written(name: &str, entries: &[Dated], now: i64) -> String {
    let utc = |ms: i64| {
        let at = Timestamp::from_millisecond(ms).unwrap_or_default();
        at.strftime("%Y%m%dT%H%M%SZ").to_string()
    };
    let mut calendar = Calendar::new();
    calendar.name(name);
    for entry in entries {
        let mut event = Event::with_uid(&entry.uid);
        event.summary(&entry.name).add_property("DTSTAMP", utc(now));
        if !entry.about.is_empty() {
            event.description(&entry.about);
        }
        match entry.when {
            Stretch::Moments(from, to) => {
                event.add_property("DTSTART", utc(from)).add_property("DTEND", utc(to));
            }
            Stretch::Days(from, to) => {
                let day = |name: &str, day: Date| {
                    icalendar::Property::new(name, day.strftime("%Y%m%d").to_string())
                        .append_parameter(icalendar::ValueType::Date)
                        .done()
                };
                event.append_property(day("DTSTART", from));
                event.append_property(day("DTEND", to.tomorrow().unwrap_or(to)));
            }
        }
        calendar.push(event.done());
    }
    calendar.to_string()
}
