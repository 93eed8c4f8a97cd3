//! What a person typed into a field for a number: the number, perhaps with its unit or with a sign that it is not exact.
//!
//! `≈ 24.3 mL` is 24.3 in mL, with the remark kept. What may mean two numbers (`6,240`) is asked back. A unit that is not
//! known is *unknown*, which is another thing than missing: the number is kept.

use crate::decimal::{Decimal, DecimalError, DecimalProblem, MAX_TYPED_CHARACTERS, fail};
use crate::unit::Unit;
use crate::{UnitError, numeral};

/// A number as a person typed it.
#[derive(Debug, Clone, PartialEq)]
pub struct Written {
    /// The number.
    pub value: Decimal,
    /// The unit beside it, where one was typed.
    pub unit: Option<Unit>,
    /// Whether it was called approximate.
    pub approximate: bool,
}

/// Why what was typed is no number with a unit.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum WrittenError {
    /// No number, or more than one that it may mean.
    #[error(transparent)]
    Number(DecimalError),
    /// A number beside something that is no unit.
    #[error("{why}")]
    Unit {
        /// The number, kept.
        value: Decimal,
        /// What is wrong with the unit.
        why: UnitError,
    },
}

/// Signs and words for "about", the longer first.
const ABOUT: [&str; 8] = ["approx.", "about", "ca.", "c.", "≈", "~", "∼", "≃"];

impl Written {
    /// What a text typed into a field means.
    ///
    /// # Errors
    /// [`WrittenError`], with the number where there is one.
    ///
    /// ```
    /// use measure::Written;
    /// let typed = Written::read("≈ 340 µmol").unwrap();
    /// assert_eq!((typed.value.to_string().as_str(), typed.approximate), ("340", true));
    /// assert!(Written::read("6,240").unwrap_err().to_string().starts_with("is this 6240, or 6.240?"));
    /// ```
    pub fn read(text: &str) -> Result<Written, WrittenError> {
        Written::with_decimals(text, None)
    }

    /// The same, of a number that is known to have so many decimals where it has any: what a scale shows with three
    /// decimals is 6.240, and no six thousand.
    ///
    /// # Errors
    /// As of [`Written::read`].
    pub fn with_decimals(text: &str, decimals: Option<u32>) -> Result<Written, WrittenError> {
        let told = |at: usize, problem| Err(WrittenError::Number(fail(text, at + 1, problem)));
        let length = text.chars().take(MAX_TYPED_CHARACTERS + 1).count();
        if length > MAX_TYPED_CHARACTERS {
            return told(0, DecimalProblem::TooLong(text.chars().count()));
        }
        let blanks = text.len() - text.trim_start().len();
        let about = ABOUT.iter().find(|a| text[blanks..].starts_with(**a)).map_or(0, |a| a.len());
        let skipped = text[..blanks + about].chars().count();
        let typed = numeral::plain(&text[blanks + about..]);
        let (value, end) = match numeral::scan(&typed) {
            Ok(found) => found,
            Err((at, problem)) => return told(skipped + at, problem),
        };
        if let Some(asked) = comma_of_thousands(&typed[..end]).filter(|_| decimals != Some(value.decimals())) {
            return told(skipped, asked);
        }
        let rest: String = text.chars().skip(skipped + end).collect();
        let approximate = about > 0;
        if rest.trim().is_empty() {
            return Ok(Written { value, unit: None, approximate });
        }
        match (Unit::parse(&rest), rest.trim().chars().next()) {
            (Ok(unit), _) => Ok(Written { value, unit: Some(unit), approximate }),
            // What cannot begin a unit is something about the number.
            (Err(_), Some(c)) if !(c.is_alphabetic() || "%‰°º/€$£".contains(c)) => {
                let blanks = rest.chars().take_while(|c| c.is_whitespace()).count();
                told(skipped + end + blanks, DecimalProblem::Unexpected(c))
            }
            (Err(why), _) => Err(WrittenError::Unit { value, why }),
        }
    }

    /// The number alone, as it was typed: without a unit and without a sign for "about".
    #[must_use]
    pub fn number_in(text: &str) -> &str {
        let text = text.trim();
        let text = ABOUT.iter().find_map(|a| text.strip_prefix(*a)).unwrap_or(text).trim_start();
        let end = numeral::scan(&numeral::plain(text))
            .map_or(text.len(), |(_, end)| text.char_indices().nth(end).map_or(text.len(), |(at, _)| at));
        text[..end].trim_end()
    }
}

/// One comma before exactly three digits, behind one to three that do not begin with a zero: thousands in one country, a
/// decimal comma in another.
fn comma_of_thousands(number: &[char]) -> Option<DecimalProblem> {
    let text: String = number.iter().collect();
    let unsigned = text.trim().trim_start_matches(['-', '+']);
    let (before, after) = unsigned.split_once(',')?;
    let digits = |t: &str| t.chars().all(|c| c.is_ascii_digit());
    let both = (1..=3).contains(&before.len()) && after.len() == 3 && digits(before) && digits(after);
    if !both || before.starts_with('0') {
        return None;
    }
    Some(DecimalProblem::CommaOfThousands {
        thousands: text.trim().replace(',', ""),
        decimal: text.trim().replace(',', "."),
    })
}
