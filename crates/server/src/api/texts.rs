//! Short texts that people type: names, messages, reasons.

use crate::problem::ApiError;

/// A text on one line, blanks run together; none when it is empty, too long or holds what no screen can show.
pub fn one_line(text: &str, most: usize) -> Option<String> {
    let line = text.split_whitespace().collect::<Vec<_>>().join(" ");
    let fits = (1..=most).contains(&line.chars().count());
    (fits && !line.chars().any(char::is_control)).then_some(line)
}

/// A name as it is kept.
pub fn named(text: &str, what: &str) -> Result<String, ApiError> {
    one_line(text, 40).ok_or_else(|| ApiError::Invalid(format!("the name of {what} has 1 to 40 characters")))
}
