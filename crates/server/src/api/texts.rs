//! The names that are typed for classes and groups.

use crate::invalid::Invalid;
use crate::line::one_line;

/// Longest name of a class or a group.
const LONGEST_NAME: usize = 40;

/// A name as it is kept; `what` says whose it is, as in `the name of a group`.
pub fn named(text: &str, what: &'static str) -> Result<String, Invalid> {
    one_line(text, LONGEST_NAME).ok_or(Invalid::Length { what, most: LONGEST_NAME })
}
