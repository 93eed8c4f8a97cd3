//! Is a reading possible, and if it is odd, what would make it fit?
//!
//! *Possible* is what the instrument can show at all: a negative mass is refused at the door. Everything else is a
//! finding. Where a reading lies outside its expected range, the small slips of writing are tried on its digits: the
//! point moved by one to three places, two neighbouring digits exchanged. Exactly one that fits is offered.

use super::{Standing, fixed};
use crate::bench::Flag;
use crate::evaluated::Evaluated;
use measure::Decimal;
use practical::file::Weighing;
use practical::{Compared, Part, Reading, Slot};
use serde::Serialize;

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
    /// A burette that is read to half a division here, with another last digit than 0 or 5.
    BetweenHalves {
        /// The half division below.
        low: String,
        /// The one above.
        high: String,
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
    /// What lies in the vessel is far less, or far more, than is planned.
    FarFromPlan {
        /// What lies in it, with its unit.
        net: String,
        /// What is planned, with its unit.
        planned: String,
        /// It is less.
        less: bool,
    },
    /// Two digits exchanged would make it agree with its repeats.
    SwappedAgainstRepeat {
        /// What it would read; for the desk, a group hears where to look.
        reads: Option<String>,
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
        /// What it would read; for the desk, a group hears where to look.
        reads: Option<String>,
    },
    /// Two neighbouring digits are exchanged.
    DigitsSwapped {
        /// What it would read; for the desk, a group hears where to look.
        reads: Option<String>,
    },
}

impl Finding {
    /// As a group hears it: where to look, and no number to write instead.
    #[must_use]
    pub fn for_the_group(self) -> Finding {
        match self {
            Finding::OutsideRange { low, high, fit } => {
                let fit = fit.map(|fit| match fit {
                    Fit::PointMoved { .. } => Fit::PointMoved { reads: None },
                    Fit::DigitsSwapped { .. } => Fit::DigitsSwapped { reads: None },
                });
                Finding::OutsideRange { low, high, fit }
            }
            Finding::SwappedAgainstRepeat { .. } => Finding::SwappedAgainstRepeat { reads: None },
            Finding::Decimals { .. }
            | Finding::BetweenHalves { .. }
            | Finding::LighterThanContainer { .. }
            | Finding::NotTheMark { .. }
            | Finding::BelowItsPartner { .. }
            | Finding::FarFromPlan { .. }
            | Finding::EarlierMissing { .. }
            | Finding::Flagged { .. } => self,
        }
    }

    /// Whether the reading cannot be, or is to be looked at again.
    #[must_use]
    pub fn standing(&self) -> Standing {
        match self {
            Finding::OutsideRange { .. } | Finding::LighterThanContainer { .. } | Finding::BelowItsPartner { .. } => {
                Standing::Wrong
            }
            Finding::Decimals { .. }
            | Finding::BetweenHalves { .. }
            | Finding::NotTheMark { .. }
            | Finding::FarFromPlan { .. }
            | Finding::SwappedAgainstRepeat { .. }
            | Finding::EarlierMissing { .. }
            | Finding::Flagged { .. } => Standing::Doubtful,
        }
    }
}

/// So many times more or less than planned is no scatter of any class.
const FAR_FROM_PLAN: f64 = 2.5;
/// A titre agrees with another within so many display steps, and is far off beyond so many.
const NEAR_REPEATS: f64 = 3.0;
const FAR_FROM_REPEATS: f64 = 6.0;
/// A burette that is gone on with starts this near to where it ended, in display steps.
const GONE_ON: f64 = 4.0;

impl Evaluated<'_> {
    /// What is odd about the reading in a place.
    pub(crate) fn findings_of(&self, slot: &str) -> Vec<Finding> {
        let practical = self.practical;
        let (Some(there), Some(&value)) = (practical.slot(slot), self.readings.get(slot)) else { return Vec::new() };
        let reading = there.reading;
        let how = self.entries.circumstances.get(slot);
        let mut findings: Vec<Finding> =
            how.into_iter().flat_map(|h| &h.flags).map(|flag| Finding::Flagged { flag: *flag }).collect();
        let beside_its_pair = self.below_its_pair(&there, value);
        let (low, high) = self.expected_range(&there);
        // At the very edge the instrument may be what lies beyond, not what it measures.
        let on = how.and_then(|h| h.on.as_ref()).unwrap_or(&reading.instrument);
        let edge = if on.is_nominal() { 0.0 } else { on.tolerance + on.resolution };
        if !(low - edge..=high + edge).contains(&value.to_f64()) {
            // A pair that cannot be says already where to look.
            let fit = if beside_its_pair.is_empty() { self.fit(&there, value, (low, high)) } else { None };
            findings.push(Finding::OutsideRange { low, high, fit });
        } else if reading.instrument.is_nominal() && value.compare(reading.expected).is_ne() {
            findings.push(Finding::NotTheMark { nominal: reading.expected.to_string() });
        }
        // The named balance of the room may show more, or fewer, than the practical asks for.
        let expected = how.and_then(|h| h.on.as_ref()).map_or(reading.decimals, |i| reading.decimals_on(i));
        if value.decimals() != expected {
            findings.push(Finding::Decimals { expected, typed: value.decimals() });
        } else if let Some(step) = practical.school.burette_step(on) {
            findings.extend(between_steps(value, step));
        }
        let paired = !beside_its_pair.is_empty();
        if !paired && !findings.iter().any(|f| matches!(f, Finding::OutsideRange { .. })) {
            findings.extend(self.far_from_plan(&there, value));
        }
        findings.extend(beside_its_pair);
        findings.extend(self.earlier_missing(&there));
        if !paired {
            findings.extend(self.swapped_against_repeats(&there, value));
        }
        findings
    }

    /// Where a reading should lie. A burette stands where the titrations before left it: a start anywhere with room below
    /// it, an end as far below its start as the practical expects.
    fn expected_range(&self, slot: &Slot<'_>) -> (f64, f64) {
        let reading = slot.reading;
        let (low, high) = reading.range;
        let titres = &self.practical.file.titres;
        if let Some(titre) = titres.iter().find(|t| t.start == reading.symbol) {
            let near = GONE_ON * reading.instrument.resolution;
            let own = self.readings.get(&slot.symbol).map(|v| v.to_f64());
            let ends = self.practical.reading(&titre.end).map(Reading::slots).unwrap_or_default();
            let mut stood = ends.iter().filter_map(|end| self.readings.get(&end.symbol).map(|v| v.to_f64()));
            let gone_on = own.is_some_and(|own| stood.any(|end| (end - own).abs() <= near));
            return if gone_on { (low, high.max(reading.instrument.capacity)) } else { (low, high) };
        }
        let Some(titre) = titres.iter().find(|t| t.end == reading.symbol) else { return (low, high) };
        let start = slot.symbol.replacen(&titre.end, &titre.start, 1);
        let planned = self.practical.reading(&titre.start).map(|r| r.expected.to_f64());
        let (Some(start), Some(planned)) = (self.readings.get(&start), planned) else { return (low, high) };
        let moved = start.to_f64() - planned;
        (
            low.min(low + moved),
            (high + moved).min(reading.instrument.capacity).max(high.min(reading.instrument.capacity)),
        )
    }

    /// A reading below the one that is taken off it: contents lighter than their container, an end below its start, a range
    /// that ends before it begins.
    fn below_its_pair(&self, slot: &Slot<'_>, value: Decimal) -> Vec<Finding> {
        let (practical, reading) = (self.practical, slot.reading);
        let beside = |other: &str| {
            let own = slot.symbol.replacen(&reading.symbol, other, 1);
            self.readings.get(&own).or_else(|| self.readings.get(other)).copied()
        };
        let mut findings = Vec::new();
        let vessels = practical.containers.get(&reading.symbol);
        for container in vessels.into_iter().flatten() {
            let (Some(empty), Some(of)) = (beside(container), practical.reading(container)) else { continue };
            if value.compare(empty).is_lt()
                && let Some(by) = empty.minus(value)
            {
                findings.push(Finding::LighterThanContainer { container: of.label.clone(), by: by.to_string() });
            }
        }
        // What is not a container with its contents: a burette's end and start, a bottle before and after.
        let contained = |smaller: &String| vessels.is_some_and(|c| c.contains(smaller));
        let pairs =
            practical.differences.iter().filter(|(larger, smaller)| *larger == reading.symbol && !contained(smaller));
        for (_, smaller) in pairs {
            let (Some(start), Some(of)) = (beside(smaller), practical.reading(smaller)) else { continue };
            if value.compare(start).is_lt()
                && let Some(by) = start.minus(value)
            {
                findings.push(Finding::BelowItsPartner { partner: of.label.clone(), by: by.to_string() });
            }
        }
        if slot.part == Part::To
            && let Some(begins) = reading.slots().into_iter().find(|s| s.part == Part::From)
            && let Some(by) = self.readings.get(&begins.symbol).and_then(|from| from.minus(value))
            && !by.is_negative()
            && by.to_f64() > 0.0
        {
            findings.push(Finding::BelowItsPartner { partner: begins.label, by: by.to_string() });
        }
        findings
    }

    /// What lies in a vessel beside what the practical expects there: the vessel was taken off twice, or it is another one.
    fn far_from_plan(&self, slot: &Slot<'_>, value: Decimal) -> Option<Finding> {
        let (practical, reading) = (self.practical, slot.reading);
        let weighing = practical.file.weighings.iter().find(|w| w.gross() == reading.symbol)?;
        // Of what a method counts on; what is left over of a reagent is as much as it happens to be.
        let counted = practical.materials.iter().any(|m| practical.measured_by(&m.symbol) == Some(weighing.name()));
        counted.then_some(())?;
        let vessels: Vec<&String> = match weighing {
            Weighing::ContainerAndContents { containers, .. } => containers.iter().collect(),
            Weighing::MatchedBlank { blank, .. } => vec![blank],
            Weighing::Tared { .. } | Weighing::ByDifference { .. } => return None,
        };
        let (mut net, mut planned) = (value.to_f64(), reading.expected.to_f64());
        for vessel in vessels {
            let own = slot.symbol.replacen(&reading.symbol, vessel, 1);
            net -= self.readings.get(&own).or_else(|| self.readings.get(vessel))?.to_f64();
            planned -= practical.reading(vessel)?.expected.to_f64();
        }
        let times = net / planned;
        let far = planned > 0.0 && !(1.0 / FAR_FROM_PLAN..=FAR_FROM_PLAN).contains(&times);
        let words = |x: f64| format!("{} {}", fixed(x, reading.decimals), reading.unit.written());
        far.then(|| Finding::FarFromPlan { net: words(net), planned: words(planned), less: times < 1.0 })
    }

    /// A repeat before it that is still empty.
    fn earlier_missing(&self, slot: &Slot<'_>) -> Option<Finding> {
        let Part::Trial(trial) = slot.part else { return None };
        let missing = slot.reading.slots().into_iter().take(trial).find(|s| !self.readings.contains_key(&s.symbol))?;
        Some(Finding::EarlierMissing { earlier: missing.label })
    }

    /// Two digits of a burette's end that, exchanged, would make its titre agree with two others that agree already. Only
    /// where titres have to agree: what differs by right is compared with nothing.
    fn swapped_against_repeats(&self, slot: &Slot<'_>, value: Decimal) -> Option<Finding> {
        let reading = slot.reading;
        let Part::Trial(at) = slot.part else { return None };
        let titre = self.practical.file.titres.iter().find(|t| t.end == reading.symbol)?;
        (self.practical.agreement(titre)?.of == Compared::Titres).then_some(())?;
        let rough = reading.repeats.as_ref().map_or(0, |r| r.rough);
        let start = |trial: usize| self.readings.get(&format!("{}[{}]", titre.start, trial + 1)).copied();
        let delivered = |trial: usize, end: Decimal| Some(end.minus(start(trial)?)?.to_f64());
        let step = reading.instrument.resolution * 1.0001;
        let slots = reading.slots();
        let others = slots.iter().enumerate().filter(|(t, _)| *t != at && *t >= rough);
        let others: Vec<f64> = others.filter_map(|(t, s)| delivered(t, *self.readings.get(&s.symbol)?)).collect();
        let near = |v: f64, steps: f64| others.iter().any(|o| (v - o).abs() <= steps * step);
        let agreeing =
            others.iter().any(|a| others.iter().filter(|b| (*a - **b).abs() <= NEAR_REPEATS * step).count() > 1);
        if at < rough || !agreeing || near(delivered(at, value)?, FAR_FROM_REPEATS) {
            return None;
        }
        let fits = |v: &Decimal| delivered(at, *v).is_some_and(|d| near(d, NEAR_REPEATS));
        let swapped: Vec<Decimal> = swaps(value).into_iter().filter(fits).collect();
        let [only] = swapped[..] else { return None };
        Some(Finding::SwappedAgainstRepeat { reads: Some(only.to_string()) })
    }

    /// The one small slip of writing that brings `value` into the range and keeps it beside what it is taken off; none when
    /// several would, or none does.
    fn fit(&self, slot: &Slot<'_>, value: Decimal, (low, high): (f64, f64)) -> Option<Fit> {
        let could_be = |v: &Decimal| (low..=high).contains(&v.to_f64()) && self.below_its_pair(slot, *v).is_empty();
        // A moved point keeps the digits; the instrument's decimals are taken as meant, so 30.2 is offered as 3.02.
        let moved = [-3, -2, -1, 1, 2, 3].into_iter().map(|p| value.shifted(p)).filter(could_be);
        let moved: Vec<Fit> = moved.map(|v| Fit::PointMoved { reads: Some(v.to_string()) }).collect();
        let swapped = swaps(value).into_iter().filter(could_be);
        let swapped: Vec<Fit> = swapped.map(|v| Fit::DigitsSwapped { reads: Some(v.to_string()) }).collect();
        let all: Vec<Fit> = moved.into_iter().chain(swapped).collect();
        <[Fit; 1]>::try_from(all).ok().map(|[only]| only)
    }
}

/// What lies between two steps to which an instrument is read.
fn between_steps(value: Decimal, step: f64) -> Option<Finding> {
    let steps = value.to_f64() / step;
    let shown = |n: f64| fixed(n * step, value.decimals());
    let between = (steps - steps.round()).abs() > 1e-6;
    between.then(|| Finding::BetweenHalves { low: shown(steps.floor()), high: shown(steps.ceil()) })
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
