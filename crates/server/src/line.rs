//! Short texts that people type: names, messages, reasons.

/// A text on one line, blanks run together; none when it is empty, too long or holds what no screen can show.
pub fn one_line(text: &str, most: usize) -> Option<String> {
    let line = text.split_whitespace().collect::<Vec<_>>().join(" ");
    let fits = (1..=most).contains(&line.chars().count());
    (fits && !line.chars().any(char::is_control)).then_some(line)
}
