//! The time, injected: the demo and the tests set it, and it goes on from there.

use jiff::{
    Timestamp,
    civil::{Date, DateTime},
    tz::TimeZone,
};
use std::time::{Instant, SystemTime, UNIX_EPOCH};

/// A day.
pub const DAY_MS: i64 = 24 * 3600 * 1000;
/// A clock that is set by the network may step back by seconds; an hour is a clock that was set wrong.
const SLACK_MS: i64 = 3_600_000;

/// Whether the time now is earlier than when the record was last written to: the clock was set back.
pub fn is_behind(now: i64, last_written: i64) -> bool {
    last_written > now + SLACK_MS
}

/// Where the server's time comes from.
#[derive(Debug, Clone, Copy)]
pub enum Clock {
    /// The machine's own.
    Machine,
    /// Set to a moment when the server started, and running since.
    Set { to: i64, since: Instant },
}

impl Clock {
    /// A clock set to `text`: a moment with an offset, or a local date and time.
    pub fn set_to(text: &str) -> anyhow::Result<Clock> {
        Ok(Clock::Set { to: moment(text)?, since: Instant::now() })
    }

    /// Milliseconds since 1970, UTC.
    pub fn now(&self) -> i64 {
        let millis = |d: std::time::Duration| i64::try_from(d.as_millis()).unwrap_or(i64::MAX);
        match self {
            Clock::Machine => SystemTime::now().duration_since(UNIX_EPOCH).map_or(0, millis),
            Clock::Set { to, since } => to.saturating_add(millis(since.elapsed())),
        }
    }
}

/// The moment that a text means, in ms: with an offset, or local.
pub fn moment(text: &str) -> anyhow::Result<i64> {
    if let Ok(exact) = text.parse::<Timestamp>() {
        return Ok(exact.as_millisecond());
    }
    let local: DateTime = text.parse()?;
    Ok(local.to_zoned_datetime(TimeZone::system())?.timestamp().as_millisecond())
}

/// A moment in local time, for files and print: `2026-11-12T11:04:00+00:00`.
pub fn written(ms: i64) -> String {
    match Timestamp::from_millisecond(ms) {
        Ok(t) => t.to_zoned_datetime(TimeZone::system()).strftime("%Y-%m-%dT%H:%M:%S%:z").to_string(),
        Err(_) => String::new(),
    }
}

/// Whether the day that a text names is over, at a moment in ms; none where it names no day.
pub fn is_over(day: &str, now: i64) -> Option<bool> {
    let end = day.parse::<Date>().ok()?.tomorrow().ok()?.to_zoned_datetime(TimeZone::system()).ok()?;
    Some(end.timestamp().as_millisecond() <= now)
}

/// The zone of the machine's clock, as the tz database calls it.
pub fn zone_name() -> String {
    TimeZone::system().iana_name().unwrap_or("UTC").to_owned()
}
