//! Whether a typed number is a reading at all: one that its instrument can show.

use super::refusal::Impossible;
use measure::{Dimension, Instrument, Written, WrittenError};
use practical::Reading;

/// The number typed for `reading`, as it was typed but without a unit beside it, if `instrument` could show it.
///
/// # Errors
/// [`Impossible`]: no number, another unit than that of the reading, a negative number, or beyond the instrument.
pub fn possible<'t>(reading: &Reading, instrument: &Instrument, typed: &'t str) -> Result<&'t str, Impossible> {
    let unit = || reading.unit.written().to_owned();
    let another =
        || Impossible::UnitOfReading { what: reading.label.clone(), unit: unit(), typed: typed.trim().to_owned() };
    let Written { value, unit: beside, .. } = Written::with_decimals(typed, Some(reading.decimals_on(instrument)))
        .map_err(|e| match e {
            WrittenError::Number(why) => Impossible::NoNumber(why),
            WrittenError::Unit { .. } => another(),
        })?;
    if beside.is_some_and(|u| !u.same_as(&reading.unit)) {
        return Err(another());
    }
    // A temperature on its scale may lie below zero; a mass, a volume, a count may not.
    if value.is_negative() && reading.unit.dimension() != Dimension::TEMPERATURE {
        return Err(Impossible::Negative { what: reading.label.clone(), value, unit: unit() });
    }
    let capacity = instrument.capacity;
    if value.to_f64() > capacity * 1000.0 {
        return Err(Impossible::BeyondInstrument { name: instrument.name.clone(), capacity, value, unit: unit() });
    }
    Ok(Written::number_in(typed))
}
