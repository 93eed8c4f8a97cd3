//! Is a reading possible, and if it is odd, what would make it fit?
//!
//! *Possible* is what the instrument can show at all: a negative mass is refused at the door. Everything else is a
//! finding. Where a reading lies outside its expected range, the small slips of writing are tried on its digits: the
//! point moved by one to three places, two neighbouring digits exchanged. Exactly one that fits is offered.

use super::Standing;
use crate::bench::{Circumstances, Flag};
use measure::Decimal;
use practical::{Practical, Reading};
use serde::Serialize;
use std::collections::BTreeMap;

/// Something odd about one reading, with its figures.
#[derive(Debug, Clone, PartialEq, Serialize, strum::IntoStaticStr)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
#[strum(serialize_all = "kebab-case")]
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
    /// A reading below the one that is taken off it: an end below its start, a bottle lighter before than after.
    BelowItsPartner {
        /// Label of the other reading.
        partner: String,
        /// By how much, in the unit of the reading.
        by: String,
    },
    /// Two digits exchanged would make it agree with its repeats.
    SwappedAgainstRepeat {
        /// What it would read.
        reads: String,
    },
    /// A repeat before it is still empty.
    EarlierMissing {
        /// Label of the place that is empty.
        earlier: String,
    },
    /// Something was the matter with what was weighed.
    Flagged {
        /// What.
        flag: Flag,
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

impl Finding {
    /// Whether the reading cannot be, or is to be looked at again.
    #[must_use]
    pub fn standing(&self) -> Standing {
        match self {
            Finding::OutsideRange { .. } | Finding::LighterThanContainer { .. } | Finding::BelowItsPartner { .. } => {
                Standing::Wrong
            }
            Finding::Decimals { .. }
            | Finding::NotTheMark { .. }
            | Finding::SwappedAgainstRepeat { .. }
            | Finding::EarlierMissing { .. }
            | Finding::Flagged { .. } => Standing::Doubtful,
        }
    }
}

/// A repeat agrees within so many display steps, and is far off beyond so many.
const NEAR_REPEATS: f64 = 3.0;
const FAR_FROM_REPEATS: f64 = 6.0;

/// What is odd about the reading of `symbol` among all `readings` of the group.
#[must_use]
pub fn plausibility(
    practical: &Practical,
    symbol: &str,
    readings: &BTreeMap<String, Decimal>,
    how: Option<&Circumstances>,
) -> Vec<Finding> {
    let (Some(reading), Some(&value)) = (practical.reading(symbol), readings.get(symbol)) else { return Vec::new() };
    let mut findings: Vec<Finding> =
        how.into_iter().flat_map(|h| &h.flags).map(|flag| Finding::Flagged { flag: *flag }).collect();
    let (low, high) = reading.range;
    if !inside(value, reading) {
        findings.push(Finding::OutsideRange { low, high, fit: fit(value, reading) });
    } else if reading.instrument.is_nominal() && value.compare(reading.expected).is_ne() {
        findings.push(Finding::NotTheMark { nominal: reading.expected.to_string() });
    }
    // The named balance of the room may show more, or fewer, than the practical asks for.
    let expected = how.and_then(|h| h.on.as_ref()).map_or(reading.decimals, |i| reading.decimals_on(i));
    if value.decimals() != expected {
        findings.push(Finding::Decimals { expected, typed: value.decimals() });
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
    // What is not a container with its contents: a burette's end and start, a bottle before and after.
    let contained = |smaller: &String| practical.containers.get(&reading.symbol).is_some_and(|c| c.contains(smaller));
    let pairs =
        practical.differences.iter().filter(|(larger, smaller)| *larger == reading.symbol && !contained(smaller));
    for (_, smaller) in pairs {
        let start = readings.get(smaller).or_else(|| readings.get(&format!("{smaller}{trial}")));
        let of = practical.reading(smaller);
        if let (Some(start), Some(of)) = (start.filter(|s| value.compare(**s).is_lt()), of)
            && let Some(by) = start.minus(value)
        {
            findings.push(Finding::BelowItsPartner { partner: of.label.clone(), by: by.to_string() });
        }
    }
    findings.extend(against_repeats(practical, reading, symbol, readings));
    findings
}

/// A repeat among the others: one before it that is missing; two digits that, exchanged, would make it agree.
///
/// What has to agree of a burette is the titre, not the reading.
fn against_repeats(
    practical: &Practical,
    reading: &Reading,
    symbol: &str,
    readings: &BTreeMap<String, Decimal>,
) -> Vec<Finding> {
    let slots = reading.slots();
    let Some(at) = slots.iter().position(|s| s.symbol == symbol).filter(|_| reading.repeats.is_some()) else {
        return Vec::new();
    };
    let missing = slots[..at].iter().find(|s| !readings.contains_key(&s.symbol));
    let mut findings: Vec<Finding> =
        missing.map(|s| Finding::EarlierMissing { earlier: s.label.clone() }).into_iter().collect();
    let Some(&value) = readings.get(symbol) else { return findings };
    // Points of a series differ by right, and so do the starts of a burette.
    let starts = |s: &str| practical.file.titres.iter().any(|t| t.start == s);
    if practical.is_plotted(reading) || reading.adds_up() || starts(&reading.symbol) {
        return findings;
    }
    let titre = practical.file.titres.iter().find(|t| t.end == reading.symbol);
    let comparable = |trial: usize, value: Decimal| match titre {
        Some(t) => value.minus(*readings.get(&format!("{}[{}]", t.start, trial + 1))?),
        None => Some(value),
    };
    let rough = reading.repeats.as_ref().map_or(0, |r| r.rough);
    let others = slots.iter().enumerate().filter(|(t, _)| *t != at && *t >= rough);
    let others: Vec<Decimal> = others.filter_map(|(t, s)| comparable(t, *readings.get(&s.symbol)?)).collect();
    let near = |v: Decimal, steps: f64| {
        let apart = |o: &Decimal| (v.to_f64() - o.to_f64()).abs();
        !others.is_empty() && others.iter().any(|o| apart(o) <= steps * reading.instrument.resolution * 1.0001)
    };
    let agrees = |v: Decimal, steps: f64| comparable(at, v).is_some_and(|c| near(c, steps));
    if at >= rough && others.len() > 1 && comparable(at, value).is_some() && !agrees(value, FAR_FROM_REPEATS) {
        let swapped: Vec<Decimal> = swaps(value).into_iter().filter(|v| agrees(*v, NEAR_REPEATS)).collect();
        if let [only] = swapped[..] {
            findings.push(Finding::SwappedAgainstRepeat { reads: only.to_string() });
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
