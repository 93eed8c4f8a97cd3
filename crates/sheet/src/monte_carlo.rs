//! Monte Carlo over the same program: the check of first-order uncertainty, and the answer where that fails.
//!
//! Every source is drawn once for a sample, from its own distribution, and moves all inputs that it belongs to; folds
//! and `limiting` select anew in each sample. Seeded: the same seed gives the same samples.
//!
//! Source: JCGM 101:2008 (Supplement 1 to the GUM), clause 5.

use crate::inputs::Inputs;
use crate::kernel::{Runner, State, given};
use crate::program::{Node, Program};
use measure::{Distribution, Source};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use rand_distr::StandardNormal;
use std::collections::BTreeMap;

/// The samples of one definition, sorted, in base units.
#[derive(Debug, Clone, PartialEq)]
pub struct Drawn {
    sorted: Vec<f64>,
    /// How often each argument of `limiting` was the smallest, where the definition is such a choice.
    pub chosen: Vec<usize>,
    /// Samples that admitted no number.
    pub failed: usize,
}

impl Drawn {
    /// Mean of the samples; 0 when there are none.
    #[must_use]
    pub fn mean(&self) -> f64 {
        self.sorted.iter().sum::<f64>() / self.sorted.len().max(1) as f64
    }

    /// Standard deviation of the samples.
    #[must_use]
    pub fn standard_deviation(&self) -> f64 {
        let mean = self.mean();
        let squares: f64 = self.sorted.iter().map(|x| (x - mean).powi(2)).sum();
        (squares / self.sorted.len().saturating_sub(1).max(1) as f64).sqrt()
    }

    /// The value below which this part of the samples lies; `None` when there are none.
    #[must_use]
    pub fn quantile(&self, part: f64) -> Option<f64> {
        let last = self.sorted.len().checked_sub(1)?;
        let at = part.clamp(0.0, 1.0) * last as f64;
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss)] // between 0 and the last place
        let low = at.floor() as usize;
        let high = (low + 1).min(last);
        Some(self.sorted[low] + (self.sorted[high] - self.sorted[low]) * (at - low as f64))
    }

    /// Samples that gave a number.
    #[must_use]
    pub fn samples(&self) -> usize {
        self.sorted.len()
    }
}

/// `samples` draws of the definition called `name`; `None` when there is none of that name, or it repeats.
#[must_use]
pub fn monte_carlo(program: &Program, inputs: &Inputs, name: &str, samples: usize, seed: u64) -> Option<Drawn> {
    let definition = program.definition(name).filter(|d| d.repeats.is_none())?;
    let mut runner = Runner::new(program, inputs);
    let moves = moves(program, inputs);
    let sources: usize = moves.iter().flat_map(|m| &m.parts).map(|(source, ..)| source + 1).max().unwrap_or(0);
    let mut drawn = vec![(0.0, 0.0, 0.0); sources];
    let choices = match &program.nodes[definition.root] {
        Node::Limiting(of) => of.as_slice(),
        _ => &[],
    };
    let mut out = Drawn { sorted: Vec::with_capacity(samples), chosen: vec![0; choices.len()], failed: 0 };
    let mut random = ChaCha8Rng::seed_from_u64(seed);
    for _ in 0..samples {
        for one in &mut drawn {
            *one = (
                draw(&mut random, Distribution::Normal),
                draw(&mut random, Distribution::Rectangular),
                draw(&mut random, Distribution::Triangular),
            );
        }
        for m in &moves {
            let shift: f64 = m
                .parts
                .iter()
                .map(|(source, distribution, u)| {
                    let (normal, rectangular, triangular) = drawn[*source];
                    u * match distribution {
                        Distribution::Normal => normal,
                        Distribution::Rectangular => rectangular,
                        Distribution::Triangular => triangular,
                    }
                })
                .sum();
            runner.fill(m.slot, m.value + shift);
        }
        runner.run();
        if runner.states[definition.root] == State::Ready {
            let value = runner.values[definition.root];
            out.sorted.push(value);
            if let Some(least) = choices.iter().position(|n| runner.values[*n] == value) {
                out.chosen[least] += 1;
            }
        } else {
            out.failed += 1;
        }
    }
    out.sorted.sort_by(f64::total_cmp);
    Some(out)
}

/// An input that is not exact: where it stands, its value, and what moves it.
struct Move {
    slot: usize,
    value: f64,
    parts: Vec<(usize, Distribution, f64)>,
}

fn moves(program: &Program, inputs: &Inputs) -> Vec<Move> {
    let mut numbers: BTreeMap<Source, usize> = BTreeMap::new();
    let mut moves = Vec::new();
    for (slot, node) in program.nodes.iter().enumerate() {
        let Node::Input(input) = node else { continue };
        let Some(given) = given(program, *input, inputs).filter(|g| !g.contributions.is_empty()) else { continue };
        let parts = given.contributions.iter().map(|c| {
            let next = numbers.len();
            (*numbers.entry(c.source.clone()).or_insert(next), c.distribution, c.standard_uncertainty)
        });
        moves.push(Move { slot, value: given.value, parts: parts.collect() });
    }
    moves
}

/// One draw with mean 0 and standard deviation 1.
fn draw(random: &mut ChaCha8Rng, distribution: Distribution) -> f64 {
    match distribution {
        Distribution::Normal => random.sample(StandardNormal),
        Distribution::Rectangular => random.random_range(-1.0..1.0) * 3f64.sqrt(),
        Distribution::Triangular => (random.random::<f64>() - random.random::<f64>()) * 6f64.sqrt(),
    }
}
