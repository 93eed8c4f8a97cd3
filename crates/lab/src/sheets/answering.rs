//! Whether an answer may still be given: as often as the practical allows, by the student whose it is, and not once the
//! values were given back.

use super::Given;
use crate::bench::{Entry, Place, Record};
use practical::Practical;

/// Why an answer is not taken.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum NoMoreAnswers {
    /// On somebody else's sheet.
    #[error("this is another student's answer")]
    Anothers,
    /// The practical allows no further attempt.
    #[error("here an answer is given {}; the last one stands", times(*.0))]
    Attempts(u32),
    /// The value is known.
    #[error("the value was given back already; the last answer stands")]
    GivenBack,
}

fn times(n: u32) -> String {
    if n == 1 { "once".to_owned() } else { format!("{n} times") }
}

/// Whether this answer may be taken. `person` is who says it, `given` what was given back last of the sheet that it
/// belongs to. The same answer sent again is taken as often as it comes; what is no answer is no matter of this.
///
/// # Errors
/// [`NoMoreAnswers`], with the reason.
pub fn may_answer(
    practical: &Practical,
    record: &Record,
    entry: &Entry,
    person: Option<i64>,
    given: Option<&Given>,
) -> Result<(), NoMoreAnswers> {
    let place = entry.place();
    let Place::Answer { result, by } = &place else { return Ok(()) };
    if by.is_some() && *by != person {
        return Err(NoMoreAnswers::Anothers);
    }
    if record.history(&place).next_back().is_some_and(|before| before.entry == *entry) {
        return Ok(());
    }
    let before = record.history(&place).count();
    if let Some(allowed) = practical.file.feedback.attempts.filter(|n| before >= *n as usize) {
        return Err(NoMoreAnswers::Attempts(allowed));
    }
    let known = given.and_then(|g| g.answers.get(result)).is_some_and(|a| a.expected.is_some());
    if known { Err(NoMoreAnswers::GivenBack) } else { Ok(()) }
}
