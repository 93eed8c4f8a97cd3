//! How much one device may ask, with a loose cap over all, so that one prankster cannot lock a class out.

use crate::access::Asker;
use crate::problem::ApiError;
use governor::clock::{Clock, DefaultClock};
use governor::{DefaultDirectRateLimiter, DefaultKeyedRateLimiter, Quota, RateLimiter};
use moka::sync::Cache;
use std::hash::Hash;
use std::net::IpAddr;
use std::num::NonZeroU32;
use std::time::Duration;

/// Those who have no session share a cap of their own, so much smaller than the one of the class at work.
const STRANGERS_PART: u32 = 4;
/// A session that was looked up so long ago is looked up again before its device counts as known.
const KNOWN_FOR: Duration = Duration::from_mins(10);
const MOST_KNOWN: u64 = 20_000;
/// Counters beyond which those that are full again are thrown away.
const MANY_COUNTERS: usize = 10_000;

/// What is being asked for, apart from plain requests.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Limit {
    /// Finding and joining a run: 60 at once (a class behind one address), then one a second.
    Join,
    /// A passphrase from one address, or a group's PIN: 6 at once, then one in ten seconds.
    Secret,
    /// A group's PIN, from wherever: 20 at once, then one in half a minute.
    Pin,
}

/// How much is answered.
#[derive(Debug, Clone, Copy)]
pub struct Allowance {
    /// Requests a second, over all devices.
    pub requests_a_second: NonZeroU32,
    /// Entries of one group a minute, after sixty at once.
    pub entries_a_minute: NonZeroU32,
}

/// What a group may send at once: an hour of work that was kept on a device without a network.
const ENTRIES_AT_ONCE: u32 = 60;

/// Counters by kind and asker.
pub struct Limits {
    all: DefaultDirectRateLimiter,
    strangers: DefaultDirectRateLimiter,
    requests: DefaultKeyedRateLimiter<Asker>,
    pages: DefaultKeyedRateLimiter<Option<IpAddr>>,
    joins: DefaultKeyedRateLimiter<String>,
    secrets: DefaultKeyedRateLimiter<String>,
    pins: DefaultKeyedRateLimiter<String>,
    entries: DefaultKeyedRateLimiter<i64>,
    /// Hashes of tokens whose session held when it was last looked up.
    known: Cache<[u8; 32], ()>,
}

impl Limits {
    /// With these allowances.
    pub fn new(allowance: Allowance) -> Limits {
        let all = allowance.requests_a_second;
        let strangers = NonZeroU32::new(all.get() / STRANGERS_PART).unwrap_or(NonZeroU32::MIN);
        let burst = |burst: u32| NonZeroU32::new(burst).expect("a burst is more than nothing");
        let of = |at_once: u32, period: Duration| {
            Quota::with_period(period).expect("a period is more than nothing").allow_burst(burst(at_once))
        };
        Limits {
            all: RateLimiter::direct(Quota::per_second(all)),
            strangers: RateLimiter::direct(Quota::per_second(strangers)),
            requests: RateLimiter::keyed(of(200, Duration::from_millis(25))),
            pages: RateLimiter::keyed(of(2_000, Duration::from_millis(10))),
            joins: RateLimiter::keyed(of(60, Duration::from_secs(1))),
            secrets: RateLimiter::keyed(of(6, Duration::from_secs(10))),
            pins: RateLimiter::keyed(of(20, Duration::from_secs(30))),
            entries: RateLimiter::keyed(
                Quota::per_minute(allowance.entries_a_minute).allow_burst(burst(ENTRIES_AT_ONCE)),
            ),
            known: Cache::builder().max_capacity(MOST_KNOWN).time_to_live(KNOWN_FOR).build(),
        }
    }

    /// Counts a request.
    ///
    /// # Errors
    /// [`ApiError::TooMany`] with the seconds to wait.
    pub fn count_request(&self, asker: &Asker) -> Result<(), ApiError> {
        counted(&self.requests, asker).map_err(ApiError::TooMany)?;
        // What a device is refused for itself takes nothing from the others, nor what strangers are from the known.
        let shared = match asker {
            Asker::Known(_) => &self.all,
            Asker::Stranger(_) => &self.strangers,
        };
        shared.check().map_err(|_| ApiError::TooMany(1))
    }

    /// Counts a file of the front end, by address: a class behind one address opens the page at once, twenty files each.
    ///
    /// # Errors
    /// [`ApiError::TooMany`] with the seconds to wait.
    pub fn count_page(&self, from: Option<IpAddr>) -> Result<(), ApiError> {
        counted(&self.pages, &from).map_err(ApiError::TooMany)
    }

    /// Counts a try of `key`.
    ///
    /// # Errors
    /// [`ApiError::TooMany`] with the seconds to wait.
    pub fn count(&self, limit: Limit, key: &str) -> Result<(), ApiError> {
        let counter = match limit {
            Limit::Join => &self.joins,
            Limit::Secret => &self.secrets,
            Limit::Pin => &self.pins,
        };
        counted(counter, &key.to_owned()).map_err(ApiError::TooMany)
    }

    /// Counts an entry of a group.
    ///
    /// # Errors
    /// [`ApiError::TooManyEntries`] with the seconds to wait.
    pub fn count_entry(&self, group: i64) -> Result<(), ApiError> {
        counted(&self.entries, &group).map_err(ApiError::TooManyEntries)
    }

    /// The session of a token with this hash holds.
    pub fn learn(&self, hash: [u8; 32]) {
        self.known.insert(hash, ());
    }

    /// How many devices and desks had a session that held when it was last looked up, within ten minutes.
    pub fn known(&self) -> u64 {
        self.known.run_pending_tasks();
        self.known.entry_count()
    }

    /// Whether the session of a token with this hash held a moment ago.
    pub fn knows(&self, hash: &[u8; 32]) -> bool {
        self.known.contains_key(hash)
    }
}

/// Counts, or says how many seconds are to wait.
fn counted<K: Hash + Eq + Clone>(counter: &DefaultKeyedRateLimiter<K>, key: &K) -> Result<(), u64> {
    if counter.len() > MANY_COUNTERS {
        counter.retain_recent();
    }
    counter.check_key(key).map_err(|not_until| not_until.wait_time_from(DefaultClock::default().now()).as_secs() + 1)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn limits(requests: u32) -> Limits {
        let some = |n| NonZeroU32::new(n).unwrap();
        Limits::new(Allowance { requests_a_second: some(requests), entries_a_minute: some(30) })
    }

    fn part(n: usize) -> u8 {
        u8::try_from(n % 250).unwrap()
    }

    fn taken(of: usize, limits: &Limits, asker: impl Fn(usize) -> Asker) -> usize {
        (0..of).filter(|n| limits.count_request(&asker(*n)).is_ok()).count()
    }

    #[test]
    fn what_one_device_is_refused_takes_nothing_from_the_others() {
        let limits = limits(300);
        let flood = taken(2000, &limits, |_| Asker::Known([7; 32]));
        assert!((200..300).contains(&flood), "{flood}");
        assert_eq!(taken(50, &limits, |_| Asker::Known([8; 32])), 50, "the cap is still there for them");
    }

    /// A thousand addresses, and a made-up cookie with each request: all of it is strangers'.
    #[test]
    fn however_many_strangers_ask_the_class_goes_on() {
        let limits = limits(400);
        let crowd = |n: usize| Asker::Stranger(Some(IpAddr::from([10, 0, part(n / 250), part(n)])));
        let flood = taken(1000, &limits, crowd);
        assert!((100..200).contains(&flood), "{flood}");
        assert_eq!(taken(150, &limits, |n| Asker::Known([part(n); 32])), 150);
    }

    #[test]
    fn a_class_behind_one_address_opens_the_page_at_once() {
        let limits = limits(2000);
        let school = Some(IpAddr::from([10, 0, 0, 1]));
        assert!((0..60 * 20).all(|_| limits.count_page(school).is_ok()));
        assert!((0..3000).any(|_| limits.count_page(school).is_err()), "and yet not for ever");
    }

    #[test]
    fn a_group_catches_up_after_an_hour_without_network_and_then_goes_at_the_pace_of_hands() {
        let limits = limits(400);
        assert_eq!((0..100).filter(|_| limits.count_entry(1).is_ok()).count(), 60);
        assert!(matches!(limits.count_entry(1), Err(ApiError::TooManyEntries(1..=3))));
        assert!(limits.count_entry(2).is_ok(), "another group is not held up");
    }
}
