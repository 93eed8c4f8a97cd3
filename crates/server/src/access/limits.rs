//! How much one device may ask, with a loose cap over all, so that one prankster cannot lock a class out.

use crate::problem::ApiError;
use governor::clock::{Clock, DefaultClock};
use governor::{DefaultDirectRateLimiter, DefaultKeyedRateLimiter, Quota, RateLimiter};
use std::num::NonZeroU32;
use std::time::Duration;

/// What is being asked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Limit {
    /// Anything: 40 a second, 200 at once.
    Request,
    /// Finding and joining a run: 60 at once (a class behind one address), then one a second.
    Join,
    /// A passphrase, or a group's PIN: 6 at once, then one in ten seconds.
    Secret,
}

/// Counters by kind and device.
pub struct Limits {
    all: DefaultDirectRateLimiter,
    requests: DefaultKeyedRateLimiter<String>,
    joins: DefaultKeyedRateLimiter<String>,
    secrets: DefaultKeyedRateLimiter<String>,
}

impl Limits {
    /// With a cap of so many requests a second over all devices.
    pub fn with_cap(requests_a_second: NonZeroU32) -> Limits {
        let all = Quota::per_second(requests_a_second);
        let of = |burst: u32, period: Duration| {
            let quota = Quota::with_period(period).expect("a period is more than nothing");
            RateLimiter::keyed(quota.allow_burst(NonZeroU32::new(burst).expect("a burst is more than nothing")))
        };
        Limits {
            all: RateLimiter::direct(all),
            requests: of(200, Duration::from_millis(25)),
            joins: of(60, Duration::from_secs(1)),
            secrets: of(6, Duration::from_secs(10)),
        }
    }

    /// Counts one try of `device`.
    ///
    /// # Errors
    /// [`ApiError::TooMany`] with the seconds to wait.
    pub fn count(&self, limit: Limit, device: &str) -> Result<(), ApiError> {
        let counter = match limit {
            Limit::Request => &self.requests,
            Limit::Join => &self.joins,
            Limit::Secret => &self.secrets,
        };
        if counter.len() > 10_000 {
            counter.retain_recent();
        }
        counter.check_key(&device.to_owned()).map_err(|not_until| {
            ApiError::TooMany(not_until.wait_time_from(DefaultClock::default().now()).as_secs() + 1)
        })?;
        // What a device is refused for itself takes nothing from the others.
        if limit == Limit::Request {
            self.all.check().map_err(|_| ApiError::TooMany(1))?;
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_one_device_is_refused_takes_nothing_from_the_others() {
        let limits = Limits::with_cap(NonZeroU32::new(300).unwrap());
        let flood = (0..2000).filter(|_| limits.count(Limit::Request, "prankster").is_ok()).count();
        assert!((200..300).contains(&flood), "{flood}");
        assert!((0..50).all(|_| limits.count(Limit::Request, "Beryl").is_ok()), "the cap is still there for them");
    }
}
