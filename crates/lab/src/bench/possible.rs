//! Whether a typed number is a reading at all: one that its instrument can show.

use measure::{Decimal, Dimension, Instrument};
use practical::Reading;

/// The number typed for `reading`, if `instrument` could show it.
///
/// # Errors
/// A sentence for the group: no number, a negative one, or beyond the instrument.
pub fn possible(reading: &Reading, instrument: &Instrument, typed: &str) -> Result<Decimal, String> {
    let value = Decimal::parse(typed).map_err(|e| e.to_string())?;
    let unit = reading.unit.written();
    // A temperature on its scale may lie below zero; a mass, a volume, a count may not.
    if value.is_negative() && reading.unit.dimension() != Dimension::TEMPERATURE {
        return Err(format!("{} cannot be negative: {value} {unit}", reading.label));
    }
    let capacity = instrument.capacity;
    if value.to_f64() > capacity * 1000.0 {
        return Err(format!("{} shows at most {capacity} {unit}, not {value} {unit}", instrument.name));
    }
    Ok(value)
}
