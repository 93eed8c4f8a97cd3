//! The names that are typed for classes, groups, people and runs.

use crate::invalid::Invalid;
use crate::line::one_line;

/// Longest name of a class or a group.
const LONGEST_NAME: usize = 40;

/// A name as it is kept; `what` says whose it is, as in `the name of a group`.
pub fn named(text: &str, what: &'static str) -> Result<String, Invalid> {
    one_line(text, LONGEST_NAME).ok_or(Invalid::Length { what, most: LONGEST_NAME })
}

/// The same, where it may be empty.
pub fn short(text: &str, what: &'static str) -> Result<String, Invalid> {
    if text.trim().is_empty() {
        return Ok(String::new());
    }
    one_line(text, 2 * LONGEST_NAME).ok_or(Invalid::TooLong { what, most: 2 * LONGEST_NAME })
}
