//! Values, sensitivities, standard uncertainty and digits of every definition, in one run over the program.
//!
//! Forward, each node gets a value or the reason why there is none; backward from a definition, each input gets its
//! derivative. The standard uncertainty is first-order propagation with what is shared counted once:
//! u²(y) = Σ over sources s of (Σ over inputs i of (∂y/∂xᵢ)·uₛ(xᵢ))².
//!
//! Source: JCGM 100:2008 (GUM), 5.1.2 and 5.2.2 (full correlation within a source, none between sources).

use crate::candidates::Candidates;
use crate::inputs::Inputs;
use crate::kernel::{Runner, State, Trouble, covariance, given};
use crate::program::{Definition, Fold, Function, LinePart, Node, Program};
use crate::{Given, Leaf, Precision};
use measure::Source;
use std::borrow::Cow;
use std::collections::BTreeMap;

/// All definitions of a sheet for one group.
#[derive(Debug, Clone)]
pub struct Evaluation<'p> {
    program: &'p Program,
    inputs: Cow<'p, Inputs>,
    runner: Runner<'p>,
    precisions: Vec<Precision>,
}

/// What a definition came to.
#[derive(Debug, Clone, PartialEq)]
pub enum Outcome {
    /// A number.
    Value(Value),
    /// Readings are missing; in the order of first use.
    NotYet {
        /// Their symbols.
        missing: Vec<String>,
    },
    /// The readings admit no number.
    Failed(Failure),
    /// One for each trial.
    Series(Vec<Outcome>),
}

/// Why there is no number, and whose fault it is.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum Failure {
    /// A divisor is zero.
    #[error("'{0}' divides by zero")]
    DividedByZero(String),
    /// A logarithm of zero or less.
    #[error("'{0}' takes the logarithm of zero or less")]
    LogOfNothing(String),
    /// A square root of a negative number.
    #[error("'{0}' takes the square root of a negative number")]
    RootOfNegative(String),
    /// Beyond any number.
    #[error("'{0}' is beyond any number")]
    TooLarge(String),
    /// No two repeats agree.
    #[error("no two values of '{0}' agree within the limit: another trial is needed")]
    Discordant(String),
    /// Several sets agree equally well.
    #[error("several sets in '{0}' agree equally well: another trial is needed to tell which is right")]
    Tied(String),
    /// Points that all lie at one x.
    #[error("'{0}' is of a line whose points all lie at one place")]
    NoLine(String),
    /// A temperature at which there is no liquid water.
    #[error("'{0}' asks for the vapour pressure of water where there is no liquid water")]
    NoLiquidWater(String),
    /// Amounts that are no formula.
    #[error("no formula fits the amounts in '{0}' within their uncertainty")]
    NoFormula(String),
}

/// A value in base units with all that is known of it.
#[derive(Debug, Clone, PartialEq)]
pub struct Value {
    /// In base units.
    pub value: f64,
    /// Standard uncertainty u, in base units.
    pub standard_uncertainty: f64,
    /// What contributes to u, most first.
    pub budget: Vec<Share>,
    /// How many digits mean something, by the school rule.
    pub precision: Precision,
}

/// One source's part of the variance.
#[derive(Debug, Clone, PartialEq)]
pub struct Share {
    /// Where it comes from.
    pub source: Source,
    /// Standard uncertainty that it alone would give, in base units.
    pub standard_uncertainty: f64,
    /// Fraction of the variance.
    pub fraction: f64,
}

impl Program {
    /// Runs the whole sheet for one group.
    #[must_use]
    pub fn evaluate<'p>(&'p self, inputs: &'p Inputs) -> Evaluation<'p> {
        self.run(Cow::Borrowed(inputs))
    }

    /// The same, keeping the inputs.
    #[must_use]
    pub fn evaluate_with(&self, inputs: Inputs) -> Evaluation<'_> {
        self.run(Cow::Owned(inputs))
    }

    fn run<'p>(&'p self, inputs: Cow<'p, Inputs>) -> Evaluation<'p> {
        let mut runner = Runner::new(self, &inputs);
        runner.run();
        let mut precisions: Vec<Precision> = Vec::with_capacity(self.nodes.len());
        for (i, node) in self.nodes.iter().enumerate() {
            let fixed = self.definitions.iter().find(|d| d.root == i).and_then(|d| inputs.substituted.get(&d.name));
            let precision = match (fixed, node, runner.states[i]) {
                (Some(s), ..) => s.precision,
                (_, Node::Input(input), State::Ready) => {
                    given(self, *input, &inputs).map_or(Precision::Exact, |g| g.precision)
                }
                (_, _, State::Ready) => precision_of(node, runner.values[i], &runner, &precisions),
                _ => Precision::Exact,
            };
            precisions.push(precision);
        }
        Evaluation { program: self, inputs, runner, precisions }
    }
}

/// What the digits of a computed node claim, by the school rules.
fn precision_of(node: &Node, value: f64, runner: &Runner<'_>, of: &[Precision]) -> Precision {
    match node {
        // A molar mass is as exact as its table.
        Node::Input(_) | Node::Formula(_) => Precision::Exact,
        Node::Negative(a) | Node::Same(a) => of[*a],
        Node::Sum(a, b) | Node::Difference(a, b) => of[*a].sum(of[*b], value),
        Node::Product(a, b) | Node::Quotient(a, b) => of[*a].product(of[*b], value),
        Node::Power(a, _) => of[*a].product(Precision::Exact, value),
        Node::Function(f, a) => match f {
            // The equation for water is good to far more figures than any thermometer.
            Function::SquareRoot | Function::VapourPressure => of[*a].product(Precision::Exact, value),
            Function::NaturalLog | Function::CommonLog => logarithm(of[*a], value),
            Function::PowerOfTen | Function::Exponential => antilog(of[*a], value),
            Function::Absolute => of[*a],
        },
        Node::Limiting(extents) => {
            let least = extents.iter().find(|n| runner.values[**n] == value);
            least.map_or(Precision::Exact, |n| of[*n])
        }
        // An exponent is written with as many decimals as the concentration has figures.
        Node::Ph(_, arguments) => logarithm(of[arguments[0]], value),
        // As from a drawn line: rise over run, each with the digits of its coarsest reading.
        Node::Line(part, ys, xs) => {
            let spread = |nodes: &[usize]| {
                let there =
                    || nodes.iter().filter(|n| runner.states[**n] == State::Ready).map(|n| (runner.values[*n], of[*n]));
                let (low, high) = there().fold((f64::MAX, f64::MIN), |(l, h), (v, _)| (l.min(v), h.max(v)));
                there().fold(Precision::Exact, |p, (_, own)| p.sum(own, high - low))
            };
            match part {
                LinePart::Intercept => spread(ys).sum(Precision::Exact, value),
                LinePart::Slope | LinePart::SlopeThroughZero | LinePart::Area => spread(ys).product(spread(xs), value),
            }
        }
        Node::Fold(fold, nodes) => {
            let there = nodes.iter().filter(|n| runner.states[**n] == State::Ready);
            let coarsest = there.fold(Precision::Exact, |p, n| p.sum(of[*n], runner.values[*n]));
            match fold {
                Fold::StandardDeviation => Precision::from_figures(2, value),
                // One of them, with what its own digits claim.
                Fold::Smallest | Fold::Largest | Fold::LastAgreeing(_) => {
                    let one = nodes.iter().find(|n| runner.states[**n] == State::Ready && runner.values[**n] == value);
                    one.map_or(coarsest, |n| of[*n])
                }
                Fold::Mean | Fold::MeanWithoutOutlier | Fold::Sum | Fold::Range | Fold::ConcordantMean(_) => {
                    coarsest.sum(Precision::Exact, value)
                }
            }
        }
    }
}

/// A logarithm has as many decimals as its argument has figures.
fn logarithm(argument: Precision, value: f64) -> Precision {
    let decimals = argument.figures().and_then(|n| i32::try_from(n).ok());
    decimals.map_or(Precision::Exact, |n| Precision::from_place(10f64.powi(-n), value))
}

/// An antilogarithm has as many figures as its argument has decimals, at least one.
fn antilog(argument: Precision, value: f64) -> Precision {
    match argument {
        Precision::Exact => Precision::Exact,
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss)] // a small count, made non-negative
        Precision::Known { last_place, .. } => {
            Precision::from_figures((-last_place.log10()).round().max(1.0) as u32, value)
        }
    }
}

impl Evaluation<'_> {
    /// The numbers that it was run with.
    #[must_use]
    pub fn inputs(&self) -> &Inputs {
        &self.inputs
    }

    /// What the definition called `name` came to; `None` when the sheet has no such definition.
    #[must_use]
    pub fn outcome(&self, name: &str) -> Option<Outcome> {
        let definition = self.program.definition(name)?;
        if definition.repeats.is_some() {
            return Some(Outcome::Series(definition.nodes().map(|n| self.node_outcome(definition, n)).collect()));
        }
        Some(self.node_outcome(definition, definition.root))
    }

    /// The number that a definition came to; none where it has none yet, or one for each trial.
    #[must_use]
    pub fn value(&self, name: &str) -> Option<Value> {
        match self.outcome(name)? {
            Outcome::Value(value) => Some(value),
            Outcome::NotYet { .. } | Outcome::Failed(_) | Outcome::Series(_) => None,
        }
    }

    fn node_outcome(&self, definition: &Definition, node: usize) -> Outcome {
        match self.runner.states[node] {
            State::NotYet => Outcome::NotYet { missing: self.missing(definition, node - definition.root) },
            State::Failed(trouble) => Outcome::Failed(self.failure(definition, trouble)),
            State::Ready => {
                let budget = self.budget(node);
                let variance: f64 = budget.iter().map(|s| s.standard_uncertainty.powi(2)).sum();
                let (value, precision) = (self.runner.values[node], self.precisions[node]);
                Outcome::Value(Value { value, standard_uncertainty: variance.sqrt(), budget, precision })
            }
        }
    }

    /// Derivative of the definition called `name` to each reading, by symbol (`m[2]` for a second trial), in base units.
    ///
    /// Empty when the definition has no value (yet), or repeats.
    #[must_use]
    pub fn sensitivities(&self, name: &str) -> BTreeMap<String, f64> {
        let Some(definition) = self.program.definition(name).filter(|d| d.repeats.is_none()) else {
            return BTreeMap::new();
        };
        self.gradient(definition.root)
            .into_iter()
            .filter_map(|(input, d)| match &self.program.inputs[input].leaf {
                Leaf::Reading(symbol) => Some((symbol.clone(), d)),
                Leaf::Trial(symbol, trial) => Some((trial_name(symbol, *trial), d)),
                _ => None,
            })
            .collect()
    }

    /// Apparatus error of the simple school, in base units: every instrument half a division off, all in the worst
    /// way. For products this adds percentages, for a difference it counts both readings.
    ///
    /// `None` when the definition has no value (yet), or repeats.
    #[must_use]
    pub fn apparatus_error(&self, name: &str) -> Option<f64> {
        let definition = self.program.definition(name).filter(|d| d.repeats.is_none())?;
        self.number_at(definition.root)?;
        let gradient = self.gradient(definition.root).into_iter();
        Some(
            gradient
                .map(|(i, d)| (d * given(self.program, i, &self.inputs).map_or(0.0, |g| g.half_division)).abs())
                .sum(),
        )
    }

    /// Covariance of two definitions, in base units: sources that both hang on count together.
    #[must_use]
    pub fn covariance(&self, one: &str, other: &str) -> Option<f64> {
        let by_source = |name: &str| -> Option<BTreeMap<Source, f64>> {
            let definition = self.program.definition(name).filter(|d| d.repeats.is_none())?;
            self.number_at(definition.root)?;
            Some(self.by_source(definition.root))
        };
        Some(covariance(&by_source(one)?, &by_source(other)?))
    }

    /// Which of the arguments of `limiting` in the definition called `name` is the smallest, counted from 0.
    #[must_use]
    pub fn limiting_argument(&self, name: &str) -> Option<usize> {
        let definition = self.program.definition(name)?;
        let Node::Limiting(of) = &self.program.nodes[definition.root] else { return None };
        let values: Vec<f64> = of.iter().map(|n| self.number_at(*n)).collect::<Option<_>>()?;
        (0..values.len()).min_by(|a, b| values[*a].total_cmp(&values[*b]))
    }

    /// What the definition called `name` may be, where it is a formula and its amounts are there.
    #[must_use]
    pub fn candidates(&self, name: &str) -> Option<&Candidates> {
        self.runner.candidates(self.program.definition(name)?.root)
    }

    /// Amount and molar mass of each part of a formula, in mol and g/mol, where they are there.
    #[must_use]
    pub fn amounts(&self, name: &str) -> Option<Vec<(f64, f64)>> {
        let Node::Formula(search) = &self.program.nodes[self.program.definition(name)?.root] else { return None };
        search
            .amounts
            .iter()
            .zip(&search.masses)
            .map(|(n, m)| Some((self.number_at(*n)?, self.number_at(*m)?)))
            .collect()
    }

    /// The formula found, as written; none where it is taken as given.
    pub(crate) fn formula(&self, definition: &Definition) -> Option<String> {
        if self.runner.is_fixed(definition.root) {
            return None;
        }
        let candidates = self.runner.candidates(definition.root)?;
        candidates.simplest().map(|c| candidates.written(c))
    }

    pub(crate) fn program(&self) -> &Program {
        self.program
    }

    pub(crate) fn number_at(&self, node: usize) -> Option<f64> {
        (self.runner.states[node] == State::Ready).then(|| self.runner.values[node])
    }

    pub(crate) fn precision(&self, node: usize) -> Precision {
        self.precisions[node]
    }

    pub(crate) fn given_of(&self, leaf: &Leaf) -> Option<&Given> {
        let input = self.program.inputs.iter().position(|i| i.leaf == *leaf)?;
        given(self.program, input, &self.inputs)
    }

    /// Readings that are not there: of a trial, its own; of one value, those that have no trial at all, or all repeated
    /// ones if more trials are needed.
    fn missing(&self, definition: &Definition, trial: usize) -> Vec<String> {
        let all = self.program.readings_of(definition);
        let none = |s: &&str| match (self.program.repeats_of(s), self.inputs.series.get(*s)) {
            (None, _) => !self.inputs.readings.contains_key(*s),
            (Some(_), None) => true,
            (Some(_), Some(trials)) if definition.repeats.is_some() => !matches!(trials.get(trial), Some(Some(_))),
            (Some(r), Some(trials)) => !trials.iter().skip(r.rough).any(Option::is_some),
        };
        let missing: Vec<String> = all.iter().copied().filter(none).map(str::to_owned).collect();
        let repeated = || all.iter().filter(|s| self.program.repeats_of(s).is_some()).map(|s| (*s).to_owned());
        if missing.is_empty() { repeated().collect() } else { missing }
    }

    /// The first definition on the way that failed names the culprit.
    fn failure(&self, definition: &Definition, trouble: Trouble) -> Failure {
        let culprit = self
            .program
            .definitions
            .iter()
            .find(|d| d.root <= definition.root && matches!(self.runner.states[d.root], State::Failed(_)))
            .map_or_else(|| definition.name.clone(), |d| d.name.clone());
        match trouble {
            Trouble::DividedByZero => Failure::DividedByZero(culprit),
            Trouble::LogOfNothing => Failure::LogOfNothing(culprit),
            Trouble::RootOfNegative => Failure::RootOfNegative(culprit),
            Trouble::TooLarge => Failure::TooLarge(culprit),
            Trouble::Discordant => Failure::Discordant(culprit),
            Trouble::Tied => Failure::Tied(culprit),
            Trouble::NoFormula => Failure::NoFormula(culprit),
            Trouble::NoLine => Failure::NoLine(culprit),
            Trouble::NoLiquidWater => Failure::NoLiquidWater(culprit),
        }
    }

    fn gradient(&self, root: usize) -> Vec<(usize, f64)> {
        self.runner.clone().gradient(root)
    }

    fn by_source(&self, root: usize) -> BTreeMap<Source, f64> {
        self.runner.clone().by_source(root, &self.inputs)
    }

    fn budget(&self, root: usize) -> Vec<Share> {
        let mut squares: BTreeMap<Source, f64> = BTreeMap::new();
        for (source, u) in self.by_source(root) {
            // The points of a line are one reason to whoever reads a budget.
            let source = match source {
                Source::Scatter { what, .. } => Source::Scatter { what, point: None },
                other => other,
            };
            *squares.entry(source).or_default() += u * u;
        }
        let variance: f64 = squares.values().sum();
        let mut shares: Vec<Share> = squares
            .into_iter()
            // What cancels leaves the last bits of a double.
            .filter(|(_, square)| *square > 1e-24 * variance)
            .map(|(source, square)| Share { source, standard_uncertainty: square.sqrt(), fraction: square / variance })
            .collect();
        shares.sort_by(|a, b| b.fraction.total_cmp(&a.fraction));
        shares
    }
}

/// A trial of a repeated reading, counted from 1 as people do: `V_end[2]`.
#[must_use]
pub fn trial_name(symbol: &str, trial: usize) -> String {
    format!("{symbol}[{}]", trial + 1)
}
