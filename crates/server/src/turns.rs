//! Entries of one group are looked at and appended one after another, so that what was asked of the record still holds
//! when the entry is in it. Groups do not wait for each other, save for chance.

use std::sync::{Mutex, MutexGuard, PoisonError};

const STRIPES: u64 = 256;

/// Whose turn it is, by group.
pub struct Turns(Vec<Mutex<()>>);

impl Default for Turns {
    fn default() -> Turns {
        Turns((0..STRIPES).map(|_| Mutex::default()).collect())
    }
}

impl Turns {
    /// Waits for the turn of a group's entry, which lasts as long as what is returned.
    pub fn of(&self, group: i64) -> MutexGuard<'_, ()> {
        let stripe = usize::try_from(group.unsigned_abs() % STRIPES).expect("below the number of stripes");
        // Nothing is kept behind it that a panic could leave half done.
        self.0[stripe].lock().unwrap_or_else(PoisonError::into_inner)
    }
}
