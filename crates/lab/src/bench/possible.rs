//! Whether a typed number is a reading at all: one that its instrument can show.

use super::refusal::Impossible;
use measure::{Decimal, Dimension, Instrument};
use practical::Reading;

/// The number typed for `reading`, if `instrument` could show it.
///
/// # Errors
/// [`Impossible`]: no number, a negative one, or beyond the instrument.
pub fn possible(reading: &Reading, instrument: &Instrument, typed: &str) -> Result<Decimal, Impossible> {
    let value = Decimal::parse(typed).map_err(Impossible::NoNumber)?;
    let unit = || reading.unit.written().to_owned();
    // A temperature on its scale may lie below zero; a mass, a volume, a count may not.
    if value.is_negative() && reading.unit.dimension() != Dimension::TEMPERATURE {
        return Err(Impossible::Negative { what: reading.label.clone(), value, unit: unit() });
    }
    let capacity = instrument.capacity;
    if value.to_f64() > capacity * 1000.0 {
        return Err(Impossible::BeyondInstrument { name: instrument.name.clone(), capacity, value, unit: unit() });
    }
    Ok(value)
}
