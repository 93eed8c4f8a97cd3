//! Slips that happen at a bench, one at a time, in an otherwise faultless group; and what says each of them rightly.

use lab::judge::{Advice, Finding, Matter, Standing};
use practical::file::{InstrumentItem, ObservationKind, Stop};
use practical::{Practical, Slot};
use rand::Rng;
use rand::seq::IndexedRandom;
use strum::IntoEnumIterator;

/// What a group does wrong once.
#[derive(
    Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, strum::EnumIter, strum::IntoStaticStr, strum::EnumString,
)]
#[strum(serialize_all = "kebab-case")]
pub enum Slip {
    /// The decimal point one place off.
    PointMoved,
    /// Two neighbouring digits exchanged.
    DigitsSwapped,
    /// A digit left out.
    DigitDropped,
    /// In mg where g are asked for.
    MilligramsForGrams,
    /// A zero at the end left out.
    ZeroDropped,
    /// The start of a burette written as its end.
    EndsExchanged,
    /// The contents alone where the vessel is asked for with them.
    VesselTaredAway,
    /// Another vessel on the balance.
    AnotherVessel,
    /// Product that is still wet, by a tenth.
    Damp,
    /// A titration run past its end, and kept.
    Overshot,
    /// Melts well above: heated too fast, or another substance.
    MeltsHigh,
    /// Weighed before the wait was over, or a time cut short.
    TooEarly,
    /// The end colour passed.
    ColourPassed,
    /// Seen otherwise than it is.
    SeenOtherwise,
    /// The code of another vial.
    WrongCode,
}

/// A slip with the place where it happens: a slot, an observation, or the number of a step.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Planted {
    /// Which.
    pub slip: Slip,
    /// Where.
    pub place: String,
    /// The step, counted from 0.
    pub step: u32,
}

impl Slip {
    /// Every slip.
    #[must_use]
    pub fn all() -> Vec<Slip> {
        Slip::iter().collect()
    }

    /// The slip put somewhere in a practical where it can happen; none where it cannot.
    pub fn plant(self, practical: &Practical, rng: &mut impl Rng) -> Option<Planted> {
        let step_of = |reading: &str| practical.steps.iter().position(|s| s.records.iter().any(|r| r == reading));
        let at = |place: String, step: usize| Some(Planted { slip: self, place, step: u32::try_from(step).ok()? });
        let slots: Vec<Slot<'_>> = practical.slots();
        let mut readings = |fits: &dyn Fn(&Slot<'_>) -> bool| -> Option<Planted> {
            let taken = |s: &&Slot<'_>| match s.part {
                practical::Part::Trial(t) => t < practical.repeats_wanted(s.reading),
                practical::Part::Whole | practical::Part::From | practical::Part::To => true,
            };
            let all: Vec<&Slot<'_>> = slots.iter().filter(taken).filter(|s| fits(s)).collect();
            let slot = all.choose(rng)?;
            at(slot.symbol.clone(), step_of(&slot.reading.symbol)?)
        };
        let weighed = |s: &Slot<'_>| is_balance(&s.reading.instrument);
        let shown = |s: &Slot<'_>| !s.reading.instrument.is_nominal() && !practical.is_plotted(s.reading);
        let gross = |s: &Slot<'_>| practical.containers.contains_key(&s.reading.symbol);
        let made = |s: &Slot<'_>| {
            let product = practical.file.weighings.iter().find(|w| w.gross() == s.reading.symbol);
            product.is_some_and(|w| {
                let weighs = |m: &practical::Material| practical.measured_by(&m.symbol) == Some(w.name());
                practical.materials.iter().any(|m| m.role == practical::file::Role::Product && weighs(m))
            })
        };
        match self {
            Slip::PointMoved | Slip::DigitsSwapped | Slip::DigitDropped | Slip::ZeroDropped => readings(&shown),
            Slip::MilligramsForGrams => readings(&|s| weighed(s) && shown(s)),
            Slip::EndsExchanged => readings(&|s| practical.file.titres.iter().any(|t| t.end == s.reading.symbol)),
            // An accurate one among several: a single one has nothing to disagree with.
            Slip::Overshot => readings(&|s| {
                let repeats = practical.file.titres.iter().find(|t| t.end == s.reading.symbol);
                let agrees = repeats.is_some_and(|t| practical.agreement(t).is_some());
                let rough = s.reading.repeats.as_ref().map_or(0, |r| r.rough);
                agrees && matches!(s.part, practical::Part::Trial(t) if t >= rough)
            }),
            Slip::VesselTaredAway => readings(&|s| weighed(s) && gross(s)),
            Slip::AnotherVessel => readings(&|s| weighed(s) && gross(s)),
            Slip::Damp => readings(&made),
            Slip::MeltsHigh => readings(&|s| s.reading.of.is_some() && s.part == practical::Part::From),
            Slip::TooEarly => {
                let timed = |s: &&(usize, &practical::file::Step)| {
                    let by_clock = s.1.stop.as_ref().is_some_and(|stop| matches!(stop, Stop::Time { .. }));
                    by_clock || (s.1.wait.is_some() && !s.1.records.is_empty())
                };
                let steps: Vec<(usize, &practical::file::Step)> = practical.steps.iter().enumerate().collect();
                let all: Vec<&(usize, &practical::file::Step)> = steps.iter().filter(timed).collect();
                let (i, _) = all.choose(rng)?;
                at(i.to_string(), *i)
            }
            Slip::ColourPassed => {
                let passable = practical.steps.iter().enumerate().find_map(|(i, s)| {
                    let Some(Stop::Colour { past, .. }) = &s.stop else { return None };
                    (!past.is_empty()).then(|| s.observes.first().map(|o| (i, o.clone())))?
                });
                let (i, symbol) = passable?;
                at(symbol, i)
            }
            Slip::SeenOtherwise | Slip::WrongCode => {
                let fits = |kind: ObservationKind, expected: &str| match (self, kind) {
                    (Slip::WrongCode, ObservationKind::Code) => true,
                    (_, ObservationKind::Choice | ObservationKind::SpotTest) => {
                        self == Slip::SeenOtherwise && !expected.is_empty()
                    }
                    (_, ObservationKind::Code | ObservationKind::Note) => false,
                };
                let of = |(i, s): (usize, &practical::file::Step)| -> Vec<(usize, String)> {
                    let seen = s.observes.iter().filter_map(|o| practical.observation(o));
                    seen.filter(|o| fits(o.kind, &o.expected)).map(|o| (i, o.symbol.clone())).collect()
                };
                let all: Vec<(usize, String)> = practical.steps.iter().enumerate().flat_map(of).collect();
                let (i, symbol) = all.choose(rng)?;
                at(symbol.clone(), *i)
            }
        }
    }

    /// What a group writes instead; the same where this slip changes nothing in it.
    #[must_use]
    pub fn written(self, text: &str, beside: Option<&str>) -> String {
        let number: f64 = text.parse().unwrap_or_default();
        let decimals = text.split_once('.').map_or(0, |(_, d)| d.len());
        let fixed = |x: f64| format!("{x:.decimals$}");
        match self {
            Slip::PointMoved => format!("{:.1$}", number / 10.0, decimals + 1),
            Slip::DigitsSwapped => {
                let mut digits: Vec<char> = text.chars().collect();
                let pair = (0..digits.len().saturating_sub(1)).find(|i| {
                    digits[*i].is_ascii_digit() && digits[i + 1].is_ascii_digit() && digits[*i] != digits[i + 1]
                });
                if let Some(i) = pair {
                    digits.swap(i, i + 1);
                }
                digits.into_iter().collect()
            }
            // The second one: a zero in front says nothing.
            Slip::DigitDropped => {
                let mut digits = text.chars().enumerate().filter(|(_, c)| c.is_ascii_digit());
                let second = digits.nth(1).map(|(i, _)| i);
                text.chars().enumerate().filter(|(i, _)| Some(*i) != second).map(|(_, c)| c).collect()
            }
            Slip::ZeroDropped => {
                text.strip_suffix(|c: char| c.is_ascii_digit()).unwrap_or(text).trim_end_matches('.').to_owned()
            }
            Slip::MilligramsForGrams => format!("{:.1$}", number * 1000.0, decimals.saturating_sub(3)),
            Slip::EndsExchanged => beside.map_or_else(|| text.to_owned(), str::to_owned),
            Slip::VesselTaredAway => fixed(number - beside.and_then(|b| b.parse::<f64>().ok()).unwrap_or_default()),
            Slip::AnotherVessel => fixed(number + 0.37 * beside.and_then(|b| b.parse::<f64>().ok()).unwrap_or(number)),
            Slip::Damp => {
                let net = number - beside.and_then(|b| b.parse::<f64>().ok()).unwrap_or_default();
                fixed(number + 0.1 * net)
            }
            Slip::Overshot => fixed(number + 0.9),
            Slip::MeltsHigh => fixed(number + 6.0),
            Slip::TooEarly | Slip::ColourPassed | Slip::SeenOtherwise | Slip::WrongCode => text.to_owned(),
        }
    }
}

fn is_balance(instrument: &InstrumentItem) -> bool {
    instrument.kind == measure::InstrumentKind::Balance
}

/// How a slip was told.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Told {
    /// With the right matter, at its step or the next one.
    Right,
    /// With the right matter, later.
    Late,
    /// Something else was said, and nothing that is right.
    Otherwise,
    /// Nothing was said.
    Silent,
}

impl Slip {
    /// Whether a finding about the place of the slip, or its partner, says what happened.
    #[must_use]
    pub fn is_said_by(self, finding: &Finding) -> bool {
        match self {
            Slip::PointMoved | Slip::DigitDropped | Slip::MilligramsForGrams | Slip::ZeroDropped => matches!(
                finding,
                Finding::OutsideRange { .. }
                    | Finding::FarFromPlan { .. }
                    | Finding::Decimals { .. }
                    | Finding::LighterThanContainer { .. }
                    | Finding::BelowItsPartner { .. }
            ),
            Slip::DigitsSwapped => matches!(
                finding,
                Finding::OutsideRange { .. }
                    | Finding::FarFromPlan { .. }
                    | Finding::SwappedAgainstRepeat { .. }
                    | Finding::LighterThanContainer { .. }
                    | Finding::BelowItsPartner { .. }
            ),
            Slip::EndsExchanged => matches!(finding, Finding::BelowItsPartner { .. } | Finding::OutsideRange { .. }),
            Slip::VesselTaredAway | Slip::AnotherVessel => {
                let said = matches!(finding, Finding::LighterThanContainer { .. } | Finding::OutsideRange { .. });
                said || matches!(finding, Finding::FarFromPlan { .. })
            }
            Slip::Overshot => matches!(finding, Finding::OutsideRange { .. }),
            Slip::Damp
            | Slip::MeltsHigh
            | Slip::TooEarly
            | Slip::ColourPassed
            | Slip::SeenOtherwise
            | Slip::WrongCode => false,
        }
    }

    /// Whether an advice says what happened.
    #[must_use]
    pub fn is_advised_by(self, advice: &Advice) -> bool {
        let doubt = advice.standing >= Standing::Doubtful;
        match self {
            Slip::PointMoved
            | Slip::DigitsSwapped
            | Slip::DigitDropped
            | Slip::MilligramsForGrams
            | Slip::VesselTaredAway
            | Slip::AnotherVessel => {
                matches!(
                    advice.matter,
                    Matter::AboveTheory { .. }
                        | Matter::PartAboveWhole { .. }
                        | Matter::BelowNothing { .. }
                        | Matter::HeavierAfterHeating { .. }
                        | Matter::MeltsHigh { .. }
                        | Matter::MeltsLow { .. }
                        | Matter::BoilsOutside { .. }
                ) || disagree(&advice.matter)
            }
            Slip::EndsExchanged => matches!(advice.matter, Matter::BelowNothing { .. }),
            Slip::ZeroDropped => false,
            Slip::Damp => matches!(advice.matter, Matter::AboveTheory { .. }),
            Slip::Overshot => disagree(&advice.matter),
            Slip::MeltsHigh => {
                let told = matches!(advice.matter, Matter::MeltsHigh { .. } | Matter::BoilsOutside { .. });
                doubt && (told || matches!(advice.matter, Matter::Candidates { .. }))
            }
            Slip::TooEarly => matches!(advice.matter, Matter::TooEarly { .. }),
            Slip::ColourPassed => matches!(advice.matter, Matter::StopPassed { .. }),
            Slip::SeenOtherwise => {
                doubt
                    && matches!(
                        advice.matter,
                        Matter::NotAsExpected { .. }
                            | Matter::SeenMeans { .. }
                            | Matter::SeenOtherwise { .. }
                            | Matter::TestFailed { .. }
                            | Matter::StopPassed { .. }
                    )
                    || matches!(advice.matter, Matter::StopNotYet { .. })
            }
            Slip::WrongCode => matches!(advice.matter, Matter::OtherUnknown { .. }),
        }
    }
}

/// Whether as many trials as are wanted are there and do not agree. That one more is wanted before, every group hears.
fn disagree(matter: &Matter) -> bool {
    match matter {
        Matter::OneMore { titres, wanted, .. } => {
            titres.iter().filter(|t| !t.rough).count() >= usize::try_from(*wanted).unwrap_or(usize::MAX)
        }
        other => matches!(other, Matter::AnotherTrial { scattered: true, .. }),
    }
}
