//! What was seen: what it means for the work, a spot test beside its controls, crystals against their description.

use super::advice::{judged, plain};
use super::{Advice, Matter, Standing, number};
use crate::evaluated::Evaluated;
use practical::file::{Judgement, Observation, ObservationKind, Stop};

impl Evaluated<'_> {
    pub(super) fn observed(&self, out: &mut Vec<Advice>) {
        for (i, step) in self.practical.steps.iter().enumerate() {
            // What the stop rule goes by is told by the stop rule.
            let by_sight = matches!(&step.stop, Some(Stop::Dissolved | Stop::Colour { .. } | Stop::DrippingStops));
            let deciding = step.observes.iter().find(|o| self.practical.observation(o).is_some_and(decides));
            for symbol in &step.observes {
                let Some(asked) = self.practical.observation(symbol) else { continue };
                let Some(seen) = self.entries.observations.get(symbol) else { continue };
                let allotted = self.practical.allotted.unknown.as_ref();
                if asked.kind == ObservationKind::Code
                    && let Some(allotted) = allotted.filter(|code| *code != seen)
                {
                    let matter = Matter::OtherUnknown { allotted: allotted.clone(), noted: seen.clone() };
                    out.push(plain(number(i), Standing::Doubtful, matter));
                }
                let told = match seen_at(asked, seen) {
                    Some((_, Matter::NotAsExpected { .. })) if by_sight && deciding == Some(symbol) => None,
                    told => told,
                };
                let judgement = gives_away(asked);
                out.extend(told.map(|(standing, matter)| {
                    // The practical's own words are for the bench: its author chose what they give away.
                    let own_words = matches!(matter, Matter::SeenMeans { .. });
                    if own_words {
                        plain(number(i), standing, matter)
                    } else {
                        judged(number(i), standing, judgement, matter)
                    }
                }));
            }
        }
    }
}

/// Whose disclosure what is said of an observation waits for: what it is evidence of. Of one that declares nothing, a test
/// waits as purity does, and what is seen of a reaction as the limiting reagent does, so that nothing is given away early.
fn gives_away(asked: &Observation) -> Judgement {
    match (&asked.evidence, asked.kind) {
        (Some(evidence), _) => evidence.of,
        (None, ObservationKind::SpotTest) => Judgement::Purity,
        (None, ObservationKind::Choice | ObservationKind::Code | ObservationKind::Note) => Judgement::Limiting,
    }
}

fn decides(asked: &Observation) -> bool {
    !asked.expected.is_empty()
}

fn seen_at(asked: &Observation, seen: &str) -> Option<(Standing, Matter)> {
    let as_expected = asked.expected == seen;
    let seen = seen.to_owned();
    if let Some(means) = asked.means.get(&seen) {
        let standing = if as_expected { Standing::Settled } else { Standing::Doubtful };
        return Some((standing, Matter::SeenMeans { means: means.clone(), seen }));
    }
    match asked.kind {
        ObservationKind::SpotTest if !decides(asked) => None,
        ObservationKind::SpotTest if as_expected => Some((Standing::Settled, Matter::TestPassed { seen })),
        ObservationKind::SpotTest => {
            let (positive, negative) = (asked.positive_control.clone(), asked.negative_control.clone());
            Some((Standing::Doubtful, Matter::TestFailed { seen, positive, negative }))
        }
        ObservationKind::Choice if !as_expected && decides(asked) => {
            Some((Standing::Doubtful, Matter::NotAsExpected { question: asked.question.clone(), seen }))
        }
        ObservationKind::Choice | ObservationKind::Code | ObservationKind::Note => None,
    }
}
