//! For how long a step holds something that groups share: all of it, unless the file says which part.

use crate::amount::minutes;

/// A part of a step for which something is held.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Held {
    /// Each time, min.
    pub minutes: u32,
    /// When.
    pub at: HeldAt,
}

/// When in a step something is held.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum HeldAt {
    /// It begins with it.
    First,
    /// It ends with it.
    Last,
    /// It begins and ends with it.
    FirstAndLast,
    /// Another time: after its wait.
    AfterTheWait,
}

impl Held {
    /// What `3 min last`, `2 min first and last`, `3 min after the wait` mean.
    ///
    /// # Errors
    /// A sentence that says what is wrong.
    pub fn parse(text: &str) -> Result<Held, String> {
        let told = || {
            let text: String = text.chars().take(40).collect();
            format!("'{text}': write '3 min first', '3 min last', '2 min first and last' or '3 min after the wait'")
        };
        let (at, time) = [
            (HeldAt::FirstAndLast, " first and last"),
            (HeldAt::First, " first"),
            (HeldAt::Last, " last"),
            (HeldAt::AfterTheWait, " after the wait"),
        ]
        .into_iter()
        .find_map(|(at, words)| Some((at, text.trim().strip_suffix(words)?)))
        .ok_or_else(told)?;
        let (least, most) = minutes(time).map_err(|_| told())?;
        let whole = least.round();
        if most != Some(least) || (least - whole).abs() > 1e-9 || !(1.0..=10_000.0).contains(&whole) {
            return Err(told());
        }
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss)] // from 1 to 10 000
        Ok(Held { minutes: whole as u32, at })
    }
}
