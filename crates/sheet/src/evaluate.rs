//! Values, sensitivities, standard uncertainty and digits of every definition, in one run over the program.
//!
//! Forward, each node gets a value or the reason why there is none; backward from a definition, each input gets its
//! derivative. The standard uncertainty is first-order propagation with what is shared counted once:
//! u²(y) = Σ over sources s of (Σ over inputs i of (∂y/∂xᵢ)·uₛ(xᵢ))².
//!
//! Source: JCGM 100:2008 (GUM), 5.1.2 and 5.2.2 (full correlation within a source, none between sources).

use crate::compile::{Definition, Function, Node, Program};
use crate::{Given, Leaf, Precision};
use measure::Source;
use std::collections::BTreeMap;

/// What one group has: its readings, and earlier values of its own to be put in.
#[derive(Debug, Clone, Default)]
pub struct Inputs {
    /// By symbol.
    pub readings: BTreeMap<String, Given>,
    /// By name of the definition; such a definition is taken as given instead of being computed.
    pub substituted: BTreeMap<String, Substitute>,
}

/// A value put in the place of a definition.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Substitute {
    /// In base units.
    pub value: f64,
    /// What its digits claim.
    pub precision: Precision,
}

/// All definitions of a sheet for one group.
#[derive(Debug, Clone)]
pub struct Evaluation<'p> {
    program: &'p Program,
    inputs: &'p Inputs,
    slots: Vec<Slot>,
}

#[derive(Debug, Clone, Copy, PartialEq)]
enum Slot {
    Ready { value: f64, precision: Precision },
    NotYet,
    Failed(Trouble),
}

#[derive(Debug, Clone, Copy, PartialEq)]
enum Trouble {
    DividedByZero,
    LogOfNothing,
    RootOfNegative,
    TooLarge,
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
        let mut slots: Vec<Slot> = Vec::with_capacity(self.nodes.len());
        let substitutes: BTreeMap<usize, Substitute> =
            self.definitions.iter().filter_map(|d| inputs.substituted.get(&d.name).map(|s| (d.root, *s))).collect();
        for (i, node) in self.nodes.iter().enumerate() {
            let slot = match substitutes.get(&i) {
                Some(s) => Slot::Ready { value: s.value, precision: s.precision },
                None => self.step(node, &slots, inputs),
            };
            slots.push(slot);
        }
        Evaluation { program: self, inputs, slots }
    }

    fn step(&self, node: &Node, slots: &[Slot], inputs: &Inputs) -> Slot {
        if let Node::Input(i) = node {
            let input = &self.inputs[*i];
            return match input.given.as_ref().or_else(|| reading(&input.leaf, inputs)) {
                Some(g) => Slot::Ready { value: g.value, precision: g.precision },
                None => Slot::NotYet,
            };
        }
        let uses = node.uses();
        let mut ready = Vec::with_capacity(uses.len());
        for used in uses {
            match slots[used] {
                Slot::Ready { value, precision } => ready.push((value, precision)),
                other => return other,
            }
        }
        calculate(node, &ready)
    }
}

fn reading<'i>(leaf: &Leaf, inputs: &'i Inputs) -> Option<&'i Given> {
    match leaf {
        Leaf::Reading(symbol) => inputs.readings.get(symbol),
        _ => None,
    }
}

fn calculate(node: &Node, operands: &[(f64, Precision)]) -> Slot {
    let (a, pa) = operands[0];
    let (b, pb) = operands.get(1).copied().unwrap_or((0.0, Precision::Exact));
    let (value, precision) = match node {
        Node::Input(_) => unreachable!("inputs are filled in, not calculated"),
        Node::Negative(_) => (-a, pa),
        Node::Sum(..) => (a + b, pa.sum(pb, a + b)),
        Node::Difference(..) => (a - b, pa.sum(pb, a - b)),
        Node::Product(..) => (a * b, pa.product(pb, a * b)),
        Node::Quotient(..) if b == 0.0 => return Slot::Failed(Trouble::DividedByZero),
        Node::Quotient(..) => (a / b, pa.product(pb, a / b)),
        Node::Power(_, n) if a == 0.0 && *n < 0.0 => return Slot::Failed(Trouble::DividedByZero),
        Node::Power(_, n) if a < 0.0 && n.fract() != 0.0 => return Slot::Failed(Trouble::RootOfNegative),
        Node::Power(_, n) if *n == 1.0 => (a, pa),
        Node::Power(_, n) => (a.powf(*n), pa.product(Precision::Exact, a.powf(*n))),
        Node::Function(f, _) => match function(*f, a, pa) {
            Ok(done) => done,
            Err(trouble) => return Slot::Failed(trouble),
        },
        Node::Limiting(_) => operands.iter().copied().fold((a, pa), |least, o| if o.0 < least.0 { o } else { least }),
    };
    if value.is_finite() { Slot::Ready { value, precision } } else { Slot::Failed(Trouble::TooLarge) }
}

fn function(f: Function, a: f64, pa: Precision) -> Result<(f64, Precision), Trouble> {
    let logarithm = |value: f64| {
        let decimals = pa.figures().and_then(|n| i32::try_from(n).ok());
        (value, decimals.map_or(Precision::Exact, |n| Precision::from_place(10f64.powi(-n), value)))
    };
    match f {
        Function::SquareRoot if a < 0.0 => Err(Trouble::RootOfNegative),
        Function::SquareRoot => Ok((a.sqrt(), pa.product(Precision::Exact, a.sqrt()))),
        Function::NaturalLog | Function::CommonLog if a <= 0.0 => Err(Trouble::LogOfNothing),
        Function::NaturalLog => Ok(logarithm(a.ln())),
        Function::CommonLog => Ok(logarithm(a.log10())),
        Function::PowerOfTen => Ok((10f64.powf(a), antilog(pa, 10f64.powf(a)))),
        Function::Exponential => Ok((a.exp(), antilog(pa, a.exp()))),
        Function::Absolute => Ok((a.abs(), pa)),
    }
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
    /// What the definition called `name` came to; `None` when the sheet has no such definition.
    #[must_use]
    pub fn outcome(&self, name: &str) -> Option<Outcome> {
        let definition = self.program.definition(name)?;
        Some(match self.slots[definition.root] {
            Slot::NotYet => Outcome::NotYet { missing: self.missing(definition) },
            Slot::Failed(trouble) => Outcome::Failed(self.failure(definition, trouble)),
            Slot::Ready { value, precision } => {
                let budget = self.budget(definition);
                let variance: f64 = budget.iter().map(|s| s.standard_uncertainty.powi(2)).sum();
                Outcome::Value(Value { value, standard_uncertainty: variance.sqrt(), budget, precision })
            }
        })
    }

    /// Derivative of the definition called `name` to each reading, by symbol, in base units.
    ///
    /// Empty when the definition has no value (yet).
    #[must_use]
    pub fn sensitivities(&self, name: &str) -> BTreeMap<String, f64> {
        let Some(definition) = self.program.definition(name) else { return BTreeMap::new() };
        self.gradient(definition.root)
            .into_iter()
            .filter_map(|(input, d)| match &self.program.inputs[input].leaf {
                Leaf::Reading(symbol) => Some((symbol.clone(), d)),
                _ => None,
            })
            .collect()
    }

    /// Which of the arguments of `limiting` in the definition called `name` is the smallest, counted from 0.
    #[must_use]
    pub fn limiting_argument(&self, name: &str) -> Option<usize> {
        let definition = self.program.definition(name)?;
        let Node::Limiting(of) = &self.program.nodes[definition.root] else { return None };
        let values: Vec<f64> = of.iter().map(|n| self.value(*n)).collect::<Option<_>>()?;
        (0..values.len()).min_by(|a, b| values[*a].total_cmp(&values[*b]))
    }

    pub(crate) fn program(&self) -> &Program {
        self.program
    }

    pub(crate) fn value(&self, node: usize) -> Option<f64> {
        match self.slots[node] {
            Slot::Ready { value, .. } => Some(value),
            Slot::NotYet | Slot::Failed(_) => None,
        }
    }

    pub(crate) fn given_of(&self, leaf: &Leaf) -> Option<&Given> {
        let input = self.program.inputs.iter().find(|i| i.leaf == *leaf);
        input.and_then(|i| i.given.as_ref()).or_else(|| reading(leaf, self.inputs))
    }

    fn substituted(&self, node: usize) -> bool {
        let definition = self.program.definitions.iter().find(|d| d.root == node);
        definition.is_some_and(|d| self.inputs.substituted.contains_key(&d.name))
    }

    fn missing(&self, definition: &Definition) -> Vec<String> {
        let all = self.program.readings_of(definition).into_iter();
        all.filter(|s| !self.inputs.readings.contains_key(*s)).map(str::to_owned).collect()
    }

    /// The first definition on the way that failed names the culprit.
    fn failure(&self, definition: &Definition, trouble: Trouble) -> Failure {
        let culprit = self
            .program
            .definitions
            .iter()
            .find(|d| d.root <= definition.root && matches!(self.slots[d.root], Slot::Failed(_)))
            .map_or_else(|| definition.name.clone(), |d| d.name.clone());
        match trouble {
            Trouble::DividedByZero => Failure::DividedByZero(culprit),
            Trouble::LogOfNothing => Failure::LogOfNothing(culprit),
            Trouble::RootOfNegative => Failure::RootOfNegative(culprit),
            Trouble::TooLarge => Failure::TooLarge(culprit),
        }
    }

    /// Derivatives of a node to the inputs it hangs on, by input, backwards through the program.
    fn gradient(&self, root: usize) -> Vec<(usize, f64)> {
        if self.value(root).is_none() {
            return Vec::new();
        }
        let mut adjoint = vec![0.0; root + 1];
        adjoint[root] = 1.0;
        let mut out = Vec::new();
        for i in (0..=root).rev() {
            let d = adjoint[i];
            if d == 0.0 || self.substituted(i) {
                continue;
            }
            if let Node::Input(input) = self.program.nodes[i] {
                out.push((input, d));
                continue;
            }
            for (used, partial) in self.partials(i) {
                adjoint[used] += d * partial;
            }
        }
        out
    }

    fn partials(&self, i: usize) -> Vec<(usize, f64)> {
        let of = |n: usize| self.value(n).expect("what a ready node uses is ready");
        let y = of(i);
        match &self.program.nodes[i] {
            Node::Input(_) => Vec::new(),
            Node::Negative(a) => vec![(*a, -1.0)],
            Node::Sum(a, b) => vec![(*a, 1.0), (*b, 1.0)],
            Node::Difference(a, b) => vec![(*a, 1.0), (*b, -1.0)],
            Node::Product(a, b) => vec![(*a, of(*b)), (*b, of(*a))],
            Node::Quotient(a, b) => vec![(*a, 1.0 / of(*b)), (*b, -y / of(*b))],
            Node::Power(a, n) => vec![(*a, n * of(*a).powf(n - 1.0))],
            Node::Function(f, a) => vec![(*a, derivative(*f, of(*a), y))],
            Node::Limiting(extents) => {
                let least = extents.iter().copied().min_by(|a, b| of(*a).total_cmp(&of(*b)));
                least.map(|n| vec![(n, 1.0)]).unwrap_or_default()
            }
        }
    }

    fn budget(&self, definition: &Definition) -> Vec<Share> {
        let mut by_source: BTreeMap<Source, f64> = BTreeMap::new();
        for (input, d) in self.gradient(definition.root) {
            let input = &self.program.inputs[input];
            let Some(given) = input.given.as_ref().or_else(|| reading(&input.leaf, self.inputs)) else { continue };
            for c in &given.contributions {
                *by_source.entry(c.source.clone()).or_default() += d * c.standard_uncertainty;
            }
        }
        let variance: f64 = by_source.values().map(|u| u * u).sum();
        let mut shares: Vec<Share> = by_source
            .into_iter()
            .filter(|(_, u)| *u != 0.0)
            .map(|(source, u)| Share { source, standard_uncertainty: u.abs(), fraction: u * u / variance })
            .collect();
        shares.sort_by(|a, b| b.fraction.total_cmp(&a.fraction));
        shares
    }
}

fn derivative(f: Function, x: f64, y: f64) -> f64 {
    match f {
        Function::SquareRoot => 0.5 / y,
        Function::NaturalLog => 1.0 / x,
        Function::CommonLog => 1.0 / (x * std::f64::consts::LN_10),
        Function::PowerOfTen => y * std::f64::consts::LN_10,
        Function::Exponential => y,
        Function::Absolute => x.signum(),
    }
}
