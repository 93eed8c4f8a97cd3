//! Guesses at the PINs of groups, for the desk to hear of.

use moka::sync::Cache;
use serde::Serialize;
use std::time::Duration;
use utoipa::ToSchema;

/// Groups whose wrong PINs are told to the desk, and for how long.
const MOST_GUESSED_AT: u64 = 1024;
const TOLD_FOR: Duration = Duration::from_hours(1);

/// Wrong PINs that were typed for a group within the last hour.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct WrongPins {
    /// How many.
    pub tries: u32,
    /// Where the last came from.
    pub place: String,
    /// When, ms.
    pub at: i64,
}

/// By group.
pub struct Guesses(Cache<i64, WrongPins>);

impl Default for Guesses {
    fn default() -> Guesses {
        Guesses(Cache::builder().max_capacity(MOST_GUESSED_AT).time_to_live(TOLD_FOR).build())
    }
}

impl Guesses {
    /// What was guessed at a group.
    pub fn at(&self, group: i64) -> Option<WrongPins> {
        self.0.get(&group)
    }

    /// One more wrong PIN at a group.
    pub fn add(&self, group: i64, place: &str, now: i64) {
        let tries = self.at(group).map_or(0, |wrong| wrong.tries) + 1;
        self.0.insert(group, WrongPins { tries, place: place.to_owned(), at: now });
    }
}
