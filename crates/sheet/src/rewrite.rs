//! The same program done otherwise in some places: what a slip would have made of it.
//!
//! A *place* is one step of the program, or the like steps of all trials. A *change* says what is done there instead: a
//! number in its place, only the first term of a difference, the quotient upside down. Nothing is compiled anew; a
//! [`Otherwise`] runs the program with its changes as often as one likes.
//!
//! What must stay true: a changed step uses the steps that it used before, or a number, so that one pass forward is still
//! enough and a rewritten sheet ends as surely as the sheet itself.

use crate::expression::Leaf;
use crate::inputs::Inputs;
use crate::kernel::{Runner, State};
use crate::program::{Definition, Fold, Function, Node, Place, Program};

/// What is done in a place.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Work<'p> {
    /// A number that is known or read.
    Leaf(&'p Leaf),
    /// Two terms.
    Sum,
    /// Two terms, the second subtracted.
    Difference,
    /// Two factors.
    Product,
    /// The first over the second.
    Quotient,
    /// A power of ten.
    PowerOfTen,
    /// The smallest of so many extents.
    Limiting(usize),
    /// Trials brought together.
    Fold(Gathered),
    /// A molar mass from amounts.
    Formula,
    /// Anything else.
    Other,
}

impl<'p> Work<'p> {
    /// The number that is known or read there.
    #[must_use]
    pub fn leaf(self) -> Option<&'p Leaf> {
        match self {
            Work::Leaf(leaf) => Some(leaf),
            Work::Sum
            | Work::Difference
            | Work::Product
            | Work::Quotient
            | Work::PowerOfTen
            | Work::Limiting(_)
            | Work::Fold(_)
            | Work::Formula
            | Work::Other => None,
        }
    }
}

/// How trials are brought together.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Gathered {
    /// All accurate ones.
    Mean,
    /// Those that agree, or all that an outlier test leaves.
    ConcordantMean,
    /// Added up.
    Sum,
    /// In any other way.
    Other,
}

/// What is done in a place instead.
#[derive(Debug, Clone, PartialEq)]
pub enum Act {
    /// This number, in base units, in every trial.
    Number(f64),
    /// So many times the number, in every trial.
    Times(f64),
    /// The first operand alone.
    First,
    /// The second operand alone.
    Second,
    /// The operands exchanged.
    Reversed,
    /// Multiplied where it divides, divided where it multiplies.
    Inverse,
    /// So many times the second operand over the first.
    SecondOverFirst(f64),
    /// So many times one operand times the other.
    ProductTimes(f64),
    /// One of the extents, counted from 0.
    Extent(usize),
    /// The mean of these trials, counted from 0 with the rough ones.
    MeanOf(Vec<usize>),
}

/// An act in a place.
#[derive(Debug, Clone, PartialEq)]
pub struct Change {
    /// Where.
    pub place: Place,
    /// What.
    pub act: Act,
}

impl Program {
    /// The places that a definition hangs on, itself included, earliest first; nothing beyond the definitions `given`.
    #[must_use]
    pub fn places(&self, definition: &str, given: &[&str]) -> Vec<Place> {
        let Some(definition) = self.definition(definition) else { return Vec::new() };
        let cuts: Vec<usize> = given.iter().filter_map(|n| self.definition(n)).flat_map(Definition::nodes).collect();
        let mut needed = vec![false; definition.nodes().end];
        needed[definition.nodes()].fill(true);
        for i in (0..needed.len()).rev() {
            let beyond = cuts.contains(&i) && !definition.nodes().contains(&i);
            if needed[i] && !beyond {
                self.nodes[i].uses().iter().for_each(|u| needed[*u] = true);
            }
            needed[i] &= !beyond;
        }
        self.spans.iter().filter(|s| needed[..].get(s.first..s.first + s.count).is_some_and(any)).copied().collect()
    }

    /// The place of a definition's own value.
    #[must_use]
    pub fn place_of(&self, definition: &str) -> Option<Place> {
        let nodes = self.definition(definition)?.nodes();
        Some(Place { first: nodes.start, count: nodes.len() })
    }

    /// The place where a number is known or read; none where the sheet does not speak of it.
    #[must_use]
    pub fn place_of_leaf(&self, leaf: &Leaf) -> Option<Place> {
        let input = self.inputs.iter().position(|i| i.leaf == *leaf)?;
        let first = self.nodes.iter().position(|n| *n == Node::Input(input))?;
        Some(Place { first, count: 1 })
    }

    /// Each trial's own part of a place.
    pub fn trials(&self, place: Place) -> impl Iterator<Item = Place> + use<> {
        (place.first..place.first + place.count).map(|first| Place { first, count: 1 })
    }

    /// The definition whose value a place is.
    #[must_use]
    pub fn defines(&self, place: Place) -> Option<&str> {
        let at = |d: &&crate::Definition| d.root == place.first && d.nodes().len() == place.count;
        self.definitions.iter().find(at).map(|d| d.name.as_str())
    }

    /// What is done in a place.
    #[must_use]
    pub fn work(&self, place: Place) -> Work<'_> {
        match &self.nodes[place.first] {
            Node::Input(i) => Work::Leaf(&self.inputs[*i].leaf),
            Node::Sum(..) => Work::Sum,
            Node::Difference(..) => Work::Difference,
            Node::Product(..) => Work::Product,
            Node::Quotient(..) => Work::Quotient,
            Node::Function(Function::PowerOfTen, _) => Work::PowerOfTen,
            Node::Limiting(of) => Work::Limiting(of.len()),
            Node::Fold(Fold::Mean, _) => Work::Fold(Gathered::Mean),
            Node::Fold(Fold::ConcordantMean(_) | Fold::MeanWithoutOutlier, _) => Work::Fold(Gathered::ConcordantMean),
            Node::Fold(Fold::Sum, _) => Work::Fold(Gathered::Sum),
            Node::Fold(..) => Work::Fold(Gathered::Other),
            Node::Formula(_) => Work::Formula,
            Node::Negative(_)
            | Node::Power(..)
            | Node::Same(_)
            | Node::Function(..)
            | Node::Line(..)
            | Node::Ph(..) => Work::Other,
        }
    }

    /// The places that a place takes its operands from, in order; of a fold the accurate trials.
    #[must_use]
    pub fn operands(&self, place: Place) -> Vec<Place> {
        let of = |node: usize| {
            let span = self.spans.iter().find(|s| (s.first..s.first + s.count).contains(&node));
            // Of a fold each trial counts by itself.
            span.copied().filter(|s| s.count == place.count).unwrap_or(Place { first: node, count: 1 })
        };
        self.nodes[place.first].uses().into_iter().map(of).collect()
    }

    /// All trials that a fold is over, the rough ones with it.
    #[must_use]
    pub fn folded(&self, place: Place) -> Option<Place> {
        let Node::Fold(_, of) = &self.nodes[place.first] else { return None };
        let first = of.first()?;
        self.spans.iter().find(|s| (s.first..s.first + s.count).contains(first)).copied()
    }
}

fn any(needed: &[bool]) -> bool {
    needed.iter().any(|n| *n)
}

/// A program with the numbers of one group, to be run with changes again and again.
#[derive(Debug, Clone)]
pub struct Otherwise<'p> {
    program: &'p Program,
    runner: Runner<'p>,
    /// Definitions that are given instead of computed.
    given: Vec<(usize, f64)>,
    /// What every place comes to without a change.
    plain: Vec<Option<f64>>,
}

impl<'p> Otherwise<'p> {
    /// The program with the numbers of `inputs`, earlier values put in as they say.
    #[must_use]
    pub fn new(program: &'p Program, inputs: &Inputs) -> Otherwise<'p> {
        let mut runner = Runner::new(program, inputs);
        runner.run();
        let plain = runner.states.iter().zip(&runner.values).map(|(s, v)| (*s == State::Ready).then_some(*v)).collect();
        let given = runner.given().to_vec();
        Otherwise { program, runner, given, plain }
    }

    /// What a place comes to without a change, in base units; of several trials the first one.
    #[must_use]
    pub fn plain(&self, place: Place) -> Option<f64> {
        self.plain[place.first]
    }

    /// The two operands of a product or a quotient, without a change.
    fn operands_of(&self, node: usize) -> Option<[f64; 2]> {
        let [first, second] = two(&self.program.nodes[node])?;
        Some([self.plain[first]?, self.plain[second]?])
    }

    /// What a definition comes to with `changes`, in base units; none where there is no number (yet).
    pub fn value(&mut self, definition: &str, changes: &[Change]) -> Option<f64> {
        let root = self.program.definition(definition).filter(|d| d.repeats.is_none())?.root;
        let mut numbers = self.given.clone();
        let mut nodes = Vec::new();
        for change in changes {
            for i in change.place.first..change.place.first + change.place.count {
                // A trial that is not there yet stays away.
                let read = change.place.count > 1 || matches!(self.program.nodes[i], Node::Input(_));
                if read && self.plain[i].is_none() {
                    continue;
                }
                match &change.act {
                    Act::Number(x) => numbers.push((i, *x)),
                    Act::Times(x) => numbers.push((i, x * self.plain[i]?)),
                    Act::SecondOverFirst(times) => {
                        let [first, second] = self.operands_of(i)?;
                        numbers.push((i, times * second / first));
                    }
                    Act::ProductTimes(times) => {
                        let [first, second] = self.operands_of(i)?;
                        numbers.push((i, times * first * second));
                    }
                    act => nodes.push((i, done(self.program, i, act)?)),
                }
            }
        }
        // A change of what is given comes first.
        numbers.reverse();
        numbers.sort_by_key(|(node, _)| *node);
        numbers.dedup_by_key(|(node, _)| *node);
        nodes.sort_by_key(|(node, _)| *node);
        let changed = self.runner.run_otherwise(&numbers, &nodes, root);
        // What was read is as it was, for the next one.
        for i in numbers.iter().map(|(i, _)| *i).filter(|i| matches!(self.program.nodes[*i], Node::Input(_))) {
            match self.plain[i] {
                Some(x) => self.runner.fill(i, x),
                None => self.runner.empty(i),
            }
        }
        changed
    }
}

/// The two operands of a product or a quotient.
fn two(node: &Node) -> Option<[usize; 2]> {
    match node {
        Node::Product(a, b) | Node::Quotient(a, b) => Some([*a, *b]),
        _ => None,
    }
}

/// A node that does something else with the same operands; none where that makes no sense.
fn done(program: &Program, i: usize, act: &Act) -> Option<Node> {
    Some(match (act, &program.nodes[i]) {
        (Act::First, Node::Sum(a, _) | Node::Difference(a, _) | Node::Product(a, _) | Node::Quotient(a, _)) => {
            Node::Same(*a)
        }
        (Act::Second, Node::Sum(_, b) | Node::Difference(_, b) | Node::Product(_, b) | Node::Quotient(_, b)) => {
            Node::Same(*b)
        }
        (Act::First, Node::Function(_, a)) => Node::Same(*a),
        (Act::Reversed, Node::Difference(a, b)) => Node::Difference(*b, *a),
        (Act::Reversed, Node::Quotient(a, b)) => Node::Quotient(*b, *a),
        (Act::Inverse, Node::Quotient(a, b)) => Node::Product(*a, *b),
        (Act::Inverse, Node::Product(a, b)) => Node::Quotient(*a, *b),
        (Act::Extent(k), Node::Limiting(of)) => Node::Same(*of.get(*k)?),
        (Act::MeanOf(trials), Node::Fold(..)) => {
            let all = program.folded(Place { first: i, count: 1 })?;
            let nodes = trials.iter().filter(|t| **t < all.count).map(|t| all.first + t).collect();
            Node::Fold(Fold::Mean, nodes)
        }
        _ => return None,
    })
}

impl Otherwise<'_> {
    /// The sets of trials that agree within the limit of a concordant mean, two trials or more, counted from 0 with the
    /// rough ones; none for any other place.
    #[must_use]
    pub fn agreeing_sets(&self, place: Place) -> Vec<Vec<usize>> {
        let Node::Fold(Fold::ConcordantMean(limit), of) = &self.program.nodes[place.first] else { return Vec::new() };
        let Some(all) = self.program.folded(place) else { return Vec::new() };
        let there: Vec<(usize, f64)> =
            of.iter().filter_map(|n| Some((n - all.first, self.plain[*n]?))).take(MOST_TRIALS).collect();
        (1u32..1 << there.len())
            .map(|set| there.iter().enumerate().filter(|(i, _)| set >> i & 1 == 1).map(|(_, t)| *t).collect())
            .filter(|set: &Vec<(usize, f64)>| {
                let values = || set.iter().map(|(_, v)| *v);
                let range = values().fold(f64::MIN, f64::max) - values().fold(f64::MAX, f64::min);
                // Binary fractions must not decide whether 0.10 is within 0.10.
                set.len() > 1 && range <= limit * (1.0 + 1e-9)
            })
            .map(|set| set.into_iter().map(|(t, _)| t).collect())
            .collect()
    }
}

/// Trials beyond which sets are not tried one by one.
const MOST_TRIALS: usize = 10;
