//! Is a reading possible, and if it is odd, what would make it fit?
//!
//! *Possible* is what the instrument can show at all: a negative mass is refused at the door. Everything else is a
//! finding. Where a reading lies outside its expected range, the small slips of writing are tried on its digits: the
//! point moved by one to three places, two neighbouring digits exchanged. Exactly one that fits is offered.

use crate::practical::{Practical, Reading};
use measure::{Decimal, Dimension};
use serde::Serialize;
use std::collections::BTreeMap;

/// Something odd about one reading, with its figures.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Finding {
    /// Outside where it should lie.
    OutsideRange {
        /// Lower end.
        low: f64,
        /// Upper end.
        high: f64,
        /// What the digits would have to be.
        fit: Option<Fit>,
    },
    /// More or fewer digits after the point than the instrument gives.
    Decimals {
        /// As the instrument gives them.
        expected: u32,
        /// As typed.
        typed: u32,
    },
    /// A container with its contents that weighs less than the container.
    LighterThanContainer {
        /// Label of the container's reading.
        container: String,
        /// By how much, in the unit of the reading.
        by: String,
    },
    /// Another volume than the mark gives.
    NotTheMark {
        /// The nominal value.
        nominal: String,
    },
}

/// A small slip of writing that would explain an odd reading.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Fit {
    /// The decimal point stands in another place.
    PointMoved {
        /// What it would read.
        reads: String,
    },
    /// Two neighbouring digits are exchanged.
    DigitsSwapped {
        /// What it would read.
        reads: String,
    },
}

/// The number typed for `reading`, if an instrument could show it.
///
/// # Errors
/// A sentence for the group: no number, a negative one, or beyond the instrument.
pub fn possible(reading: &Reading, typed: &str) -> Result<Decimal, String> {
    let value = Decimal::parse(typed).map_err(|e| e.to_string())?;
    let unit = reading.unit.written();
    // A temperature on its scale may lie below zero; a mass, a volume, a count may not.
    if value.is_negative() && reading.unit.dimension() != Dimension::TEMPERATURE {
        return Err(format!("{} cannot be negative: {value} {unit}", reading.label));
    }
    let capacity = reading.instrument.capacity;
    if value.to_f64() > capacity * 1000.0 {
        return Err(format!("{} shows at most {capacity} {unit}, not {value} {unit}", reading.instrument.name));
    }
    Ok(value)
}

/// What is odd about the reading of `symbol` among all `readings` of the group.
#[must_use]
pub fn plausibility(practical: &Practical, symbol: &str, readings: &BTreeMap<String, Decimal>) -> Vec<Finding> {
    let (Some(reading), Some(&value)) = (practical.reading(symbol), readings.get(symbol)) else { return Vec::new() };
    let mut findings = Vec::new();
    let (low, high) = reading.range;
    if !inside(value, reading) {
        findings.push(Finding::OutsideRange { low, high, fit: fit(value, reading) });
    } else if reading.instrument.is_nominal() && value.compare(reading.expected).is_ne() {
        findings.push(Finding::NotTheMark { nominal: reading.expected.to_string() });
    }
    if value.decimals() != reading.decimals {
        findings.push(Finding::Decimals { expected: reading.decimals, typed: value.decimals() });
    }
    // Readings of one trial belong together: `V_end[2]` with `V_start[2]`.
    let trial = symbol.find('[').map_or("", |at| &symbol[at..]);
    for container in practical.containers.get(&reading.symbol).into_iter().flatten() {
        let empty = readings.get(container).or_else(|| readings.get(&format!("{container}{trial}")));
        let (Some(&empty), Some(of)) = (empty, practical.reading(container)) else { continue };
        if value.compare(empty).is_lt() {
            let by = empty.to_f64() - value.to_f64();
            let decimals = reading.decimals as usize;
            findings
                .push(Finding::LighterThanContainer { container: of.label.clone(), by: format!("{by:.decimals$}") });
        }
    }
    findings
}

fn inside(value: Decimal, reading: &Reading) -> bool {
    (reading.range.0..=reading.range.1).contains(&value.to_f64())
}

/// The one small slip of writing that brings `value` into the range; none when several would, or none does.
fn fit(value: Decimal, reading: &Reading) -> Option<Fit> {
    // A moved point keeps the digits; the instrument's decimals are taken as meant, so 30.2 is offered as 3.02.
    let moved = [-3, -2, -1, 1, 2, 3].into_iter().map(|p| value.shifted(p)).filter(|v| inside(*v, reading));
    let moved: Vec<Fit> = moved.map(|v| Fit::PointMoved { reads: v.to_string() }).collect();
    let swapped = swaps(value).into_iter().filter(|v| inside(*v, reading));
    let swapped: Vec<Fit> = swapped.map(|v| Fit::DigitsSwapped { reads: v.to_string() }).collect();
    let all: Vec<Fit> = moved.into_iter().chain(swapped).collect();
    <[Fit; 1]>::try_from(all).ok().map(|[only]| only)
}

/// The number with each pair of neighbouring, different digits exchanged.
fn swaps(value: Decimal) -> Vec<Decimal> {
    let digits = value.digits().into_bytes();
    (1..digits.len())
        .filter(|i| digits[i - 1] != digits[*i])
        .filter_map(|i| {
            let mut other = digits.clone();
            other.swap(i - 1, i);
            let swapped: i128 = String::from_utf8(other).ok()?.parse().ok()?;
            Some(Decimal::new(swapped, value.last_place()))
        })
        .collect()
}
