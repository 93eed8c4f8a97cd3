//! Whether what a group enters may take the place of what stands there. What was superseded is kept and shown struck
//! through; but nobody writes over what they had seen without saying so, nor over what an instructor put right meanwhile.

use super::{Actor, Entry, Place, Record};
use uuid::Uuid;

/// How long a page may take to show what has arrived, ms: over a bad network some seconds.
const SHOWN_WITHIN_MS: i64 = 5_000;

/// Why an entry does not take the place of what stands there.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum StandsAlready {
    /// Whoever enters had seen it, and does not say that this corrects it.
    #[error("there is a reading here already, {0}: correct that one, and say why; this entry was not taken")]
    Seen(String),
    /// An instructor entered it, and whoever enters does not say that this corrects it.
    #[error(
        "your instructor has entered {0} here: if it is wrong, correct that one, and say why; this entry was not taken"
    )]
    Instructors(String),
}

/// Whether a group's entry may be filed. `supersedes` is what it says that it corrects, `last_contact` (ms) when the device
/// had heard of the record before. Asked of readings alone: what is seen is chosen anew as often as it changes,
/// and an answer has its attempts. What is sent again, and what says the same, is taken as often as it comes;
/// what two devices entered without knowing of each other is taken from both.
///
/// # Errors
/// [`StandsAlready`], with what stands there.
pub fn may_replace(
    record: &Record,
    id: Uuid,
    entry: &Entry,
    supersedes: Option<Uuid>,
    last_contact: i64,
) -> Result<(), StandsAlready> {
    let place = entry.place();
    if !matches!(place, Place::Reading(_)) || record.entry(id).is_some() {
        return Ok(());
    }
    let standing = record.history(&place).next_back().and_then(|filed| Some((filed, filed.entry.written()?)));
    let Some((filed, (text, unit))) = standing else { return Ok(()) };
    if supersedes == Some(filed.id) || entry.written() == Some((text, unit)) {
        return Ok(());
    }
    let shown = || format!("{text} {unit}").trim_end().to_owned();
    let seen = filed.received_at + SHOWN_WITHIN_MS <= last_contact;
    match filed.actor {
        Actor::Person(_) | Actor::Console => Err(StandsAlready::Instructors(shown())),
        Actor::Device(_) if supersedes.is_none() && seen => Err(StandsAlready::Seen(shown())),
        Actor::Device(_) => Ok(()),
    }
}
