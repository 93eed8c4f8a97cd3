//! A quantity as written in a practical: `3.0 g`.

use measure::{Decimal, Unit};

/// A number with its unit, digits kept.
#[derive(Debug, Clone, PartialEq)]
pub struct Amount {
    /// As written.
    pub value: Decimal,
    /// Its unit.
    pub unit: Unit,
}

impl Amount {
    /// The quantity that a text such as `25.0 mL` means.
    ///
    /// # Errors
    /// A sentence that says what is wrong with the number or the unit.
    pub fn parse(text: &str) -> Result<Amount, String> {
        let (number, unit) = text.trim().split_once(char::is_whitespace).unwrap_or((text.trim(), "1"));
        let value = Decimal::parse(number).map_err(|e| e.to_string())?;
        let unit = Unit::parse(unit).map_err(|e| e.to_string())?;
        Ok(Amount { value, unit })
    }

    /// In base units.
    #[must_use]
    pub fn base(&self) -> f64 {
        self.unit.to_base(self.value.to_f64())
    }
}
