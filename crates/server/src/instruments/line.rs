//! One line of an instrument: `12.345 g stable`, or unsolicited `Balance 2 #17 12.345 g stable`.

use measure::Decimal;

/// Longest line that is read, in bytes, its end not counted.
pub const LONGEST_LINE: usize = 120;
const LONGEST_NUMBER: usize = 16;

/// A reading as it was sent.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Sent {
    /// The digits, as sent.
    pub digits: String,
    /// They have come to rest.
    pub stable: bool,
}

/// Why a line is no reading.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum BadLine {
    /// It is not text.
    #[error("it sends something that is not text")]
    NoText,
    /// It has no number and unit.
    #[error("it sent '{0}', which is not a reading")]
    NoReading(String),
    /// It is about another instrument.
    #[error("it calls itself '{0}'")]
    Another(String),
    /// Its unit is another one.
    #[error("it sends {found}, not {wanted}")]
    Unit {
        /// As sent.
        found: String,
        /// As the file says.
        wanted: String,
    },
}

/// What an instrument of this name says, whose numbers are in this unit.
pub fn read(line: &[u8], name: &str, unit: &str) -> Result<Sent, BadLine> {
    let text = std::str::from_utf8(line).map_err(|_| BadLine::NoText)?.trim();
    let short = || text.chars().filter(|c| !c.is_control()).take(40).collect::<String>();
    let reading = match text.split_once(" #") {
        Some((own, rest)) if own == name => rest.split_once(' ').map(|(_, reading)| reading),
        Some((own, _)) => return Err(BadLine::Another(own.chars().take(40).collect())),
        None => Some(text),
    };
    let words: Vec<&str> = reading.unwrap_or_default().split(' ').collect();
    let (digits, found, stable) = match words[..] {
        [digits, unit] => (digits, unit, false),
        [digits, unit, "stable"] => (digits, unit, true),
        _ => return Err(BadLine::NoReading(short())),
    };
    if digits.len() > LONGEST_NUMBER || Decimal::parse(digits).is_err() || digits.contains(',') {
        return Err(BadLine::NoReading(short()));
    }
    if found != unit {
        return Err(BadLine::Unit { found: found.chars().take(12).collect(), wanted: unit.to_owned() });
    }
    Ok(Sent { digits: digits.to_owned(), stable })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_reading_keeps_its_digits_and_everything_else_is_refused_with_a_reason() {
        let read = |line: &str| read(line.as_bytes(), "Balance 2", "g");
        assert_eq!(read("12.340 g stable\r"), Ok(Sent { digits: "12.340".into(), stable: true }));
        assert_eq!(read("Balance 2 #17 0.5 g"), Ok(Sent { digits: "0.5".into(), stable: false }));
        for nonsense in
            ["NaN g stable", "inf g", "1e999 g g", "12.3", "", "12.3 g  stable", "1,5 g", "12.3 g stable yes"]
        {
            assert!(matches!(read(nonsense), Err(BadLine::NoReading(_))), "{nonsense}: {:?}", read(nonsense));
        }
        assert_eq!(read("12.3 mg stable").unwrap_err().to_string(), "it sends mg, not g");
        assert_eq!(read("Balance 1 #3 12.3 g").unwrap_err().to_string(), "it calls itself 'Balance 1'");
        assert_eq!(super::read(&[0xff, 0xfe], "Balance 2", "g"), Err(BadLine::NoText));
        assert!(read(&format!("{} g stable", "9".repeat(40))).is_err());
    }
}
