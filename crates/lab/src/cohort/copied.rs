//! Readings that two groups share to the last digit.
//!
//! Equal readings happen: a question for the instructor, never a verdict. Nominal volumes, which are the same for all by
//! their nature, do not count.

use super::Member;
use measure::{Decimal, InstrumentKind};
use serde::Serialize;

/// So many equal readings are worth a question.
const WORTH_A_QUESTION: usize = 3;
/// Figures from which equality says something.
const FIGURES: u32 = 3;

/// Two groups with the same readings in several places.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Copied {
    /// One group.
    pub one: String,
    /// The other.
    pub other: String,
    /// Where their readings are equal, by slot.
    pub places: Vec<String>,
    /// Of so many that both have.
    pub of: usize,
}

pub(super) fn shared(members: &[Member<'_>]) -> Vec<Copied> {
    let mut out = Vec::new();
    for (i, one) in members.iter().enumerate() {
        for other in &members[i + 1..] {
            let (places, of) = equal(one, other);
            // Half of all that could differ, and several.
            if places.len() >= WORTH_A_QUESTION && 2 * places.len() >= of {
                out.push(Copied { one: one.name.to_owned(), other: other.name.to_owned(), places, of });
            }
        }
    }
    out
}

fn equal(one: &Member<'_>, other: &Member<'_>) -> (Vec<String>, usize) {
    let says_something = |slot: &str| {
        let reading = one.practical.reading(slot);
        reading.is_some_and(|r| {
            !matches!(r.instrument.kind, InstrumentKind::VolumetricPipette | InstrumentKind::VolumetricFlask)
        })
    };
    let own = |m: &Member<'_>, slot: &str| m.entries.circumstances.get(slot).is_none_or(|h| h.borrowed.is_none());
    let both =
        one.entries.readings.iter().filter_map(|(slot, text)| Some((slot, text, other.entries.readings.get(slot)?)));
    let both: Vec<_> = both.filter(|(slot, ..)| says_something(slot) && own(one, slot) && own(other, slot)).collect();
    let figures = |text: &str| Decimal::parse(text).ok().and_then(Decimal::significant_figures).unwrap_or(0);
    let equal = both.iter().filter(|(_, a, b)| a == b && figures(a) >= FIGURES).map(|(slot, ..)| (*slot).clone());
    (equal.collect(), both.len())
}
