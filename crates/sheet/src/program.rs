//! The program of a sheet: nodes in a row, and the definitions that name some of them.
//!
//! Each node uses earlier ones only; a definition is the number of its root node, and what is used again is not
//! computed again. Everything that does not depend on a group (molar masses, coefficients, stated strengths) is fixed
//! when it is compiled, with its uncertainty; readings are filled in at evaluation.

use crate::Written;
use crate::expression::{Expression, Kind, Leaf};
use crate::parser::parse_expression;
use crate::vocabulary::{Given, Repeats, Writing};
use measure::{Dimension, Unit};
use std::ops::Range;

/// One definition before it is compiled: from a sheet's text, or made by a method.
#[derive(Debug, Clone, PartialEq)]
pub struct Draft {
    /// The name that later definitions use.
    pub name: String,
    /// The expression, in the sheet's language.
    pub expression: String,
    /// The unit it is shown in; by default the usual one of its dimension.
    pub unit: Option<Unit>,
    /// Line of the sheet's text, 0 for one that a method made.
    pub line: usize,
}

impl Draft {
    /// A definition that a method makes.
    #[must_use]
    pub fn made(name: impl Into<String>, expression: impl Into<String>) -> Draft {
        Draft { name: name.into(), expression: expression.into(), unit: None, line: 0 }
    }

    /// Names that stand in its expression, in the order of first use; none where it cannot be read.
    #[must_use]
    pub fn mentions(&self) -> Vec<String> {
        let mut names = Vec::new();
        let expression = parse_expression(&self.expression);
        if let Ok(expression) = &expression {
            names_in(expression, &mut names);
        }
        names.into_iter().map(str::to_owned).collect()
    }
}

impl From<Written> for Draft {
    fn from(w: Written) -> Draft {
        Draft { name: w.name, expression: w.expression, unit: None, line: w.line }
    }
}

/// A named value of the sheet.
#[derive(Debug, Clone, PartialEq)]
pub struct Definition {
    /// As in `m_theory`.
    pub name: String,
    /// What it measures.
    pub dimension: Dimension,
    /// The unit it is shown in.
    pub unit: Unit,
    /// Read once, or once for each trial; then its values stand one after the other.
    pub repeats: Option<Repeats>,
    pub(crate) root: usize,
    pub(crate) expression: Expression,
    /// The nodes that it hangs on as quick steps, last first.
    pub(crate) backwards: Vec<Op>,
}

/// A checked and compiled sheet.
#[derive(Debug, Clone, PartialEq)]
pub struct Program {
    pub(crate) nodes: Vec<Node>,
    pub(crate) inputs: Vec<Input>,
    pub(crate) definitions: Vec<Definition>,
    /// Repeated readings that are used, with how often.
    pub(crate) axes: Vec<(String, Repeats)>,
    /// The nodes as quick steps, in order.
    pub(crate) steps: Vec<Op>,
    /// The nodes by place: each alone, or those of all trials together.
    pub(crate) spans: Vec<Place>,
    /// How numbers are read and written.
    pub(crate) writing: Writing,
}

/// One step of the program; the numbers are earlier nodes.
#[derive(Debug, Clone, PartialEq)]
pub(crate) enum Node {
    Input(usize),
    Negative(usize),
    Sum(usize, usize),
    Difference(usize, usize),
    Product(usize, usize),
    Quotient(usize, usize),
    Power(usize, f64),
    /// Another name for a value, with a node of its own so that it can be substituted alone.
    Same(usize),
    Function(Function, usize),
    /// The smallest of some extents.
    Limiting(Vec<usize>),
    /// The values of an axis brought together, rough ones left out.
    Fold(Fold, Vec<usize>),
    /// Something of the straight line through points: all y, then all x; rough ones left out.
    Line(LinePart, Vec<usize>, Vec<usize>),
    /// pH of a weak acid or base by charge balance: the concentration, then the pKa.
    Ph(Protolyte, Vec<usize>),
    /// Molar mass of the formula that amounts stand for.
    Formula(Search),
}

/// A search for whole-number subscripts.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Search {
    /// What is counted.
    pub parts: Vec<String>,
    /// Nodes with the amount of each.
    pub amounts: Vec<usize>,
    /// Nodes with the molar mass of each.
    pub masses: Vec<usize>,
    /// Largest subscript tried.
    pub most: u32,
    /// Relative standard deviation of each amount beside the first that is the chemistry's own.
    pub scatter: f64,
}

/// How the values of an axis become one.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) enum Fold {
    Mean,
    Sum,
    Range,
    StandardDeviation,
    Smallest,
    Largest,
    /// Mean of the best concordant set within this limit, in base units.
    ConcordantMean(f64),
    /// Mean of all but the one that Grubbs' test marks.
    MeanWithoutOutlier,
    /// The later of the last two in a row that agree within this limit, in base units; the last one until two do.
    LastAgreeing(f64),
}

/// What is asked of the points (x, y).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub(crate) enum LinePart {
    /// Slope of the least-squares line.
    Slope,
    /// Where that line meets x = 0.
    Intercept,
    /// Slope of the least-squares line through (0, 0).
    SlopeThroughZero,
    /// What lies under the points joined by straight lines, x in rising order.
    Area,
}

/// Which side of the ladder the pure substance stands on.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Protolyte {
    Acid,
    Base,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Function {
    SquareRoot,
    NaturalLog,
    CommonLog,
    PowerOfTen,
    Exponential,
    Absolute,
    /// Vapour pressure of water by its temperature.
    VapourPressure,
}

/// A leaf of the program.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Input {
    pub leaf: Leaf,
    /// Known already; none for a reading.
    pub given: Option<Given>,
}

impl Definition {
    /// The nodes that hold its values.
    pub(crate) fn nodes(&self) -> Range<usize> {
        self.root..self.root + length(self.repeats.as_ref())
    }
}

/// How many values something has.
pub(crate) fn length(repeats: Option<&Repeats>) -> usize {
    repeats.map_or(1, |r| r.most)
}

impl Program {
    /// How numbers are read and written.
    #[must_use]
    pub fn writing(&self) -> Writing {
        self.writing
    }

    /// The definitions, in order.
    #[must_use]
    pub fn definitions(&self) -> &[Definition] {
        &self.definitions
    }

    /// The definition with this name.
    #[must_use]
    pub fn definition(&self, name: &str) -> Option<&Definition> {
        self.definitions.iter().find(|d| d.name == name)
    }

    /// Symbols of the readings that a definition hangs on, in the order of first use.
    #[must_use]
    pub fn readings_of(&self, definition: &Definition) -> Vec<&str> {
        let mut symbols = Vec::new();
        for i in self.reachable(definition.nodes()) {
            let Node::Input(input) = &self.nodes[i] else { continue };
            if let Leaf::Reading(symbol) | Leaf::Trial(symbol, _) = &self.inputs[*input].leaf
                && !symbols.contains(&symbol.as_str())
            {
                symbols.push(symbol.as_str());
            }
        }
        symbols
    }

    /// A definition, or a reading of an axis, by the name in the sheet: how often it is there.
    pub(crate) fn repeats_of(&self, name: &str) -> Option<&Repeats> {
        self.definition(name)
            .and_then(|d| d.repeats.as_ref())
            .or_else(|| self.axes.iter().find(|(symbol, _)| symbol == name).map(|(_, repeats)| repeats))
    }

    /// Names of the definitions that stand in the expression of `definition`, in the order of first use.
    #[must_use]
    pub fn definitions_in(&self, definition: &Definition) -> Vec<&Definition> {
        let mut names = Vec::new();
        names_in(&definition.expression, &mut names);
        names.into_iter().filter_map(|n| self.definition(n)).collect()
    }

    /// Whether a definition, by name, is worked out from another one, directly or on the way.
    #[must_use]
    pub fn hangs_on(&self, definition: &str, on: &str) -> bool {
        let used = self.definition(definition).map(|d| self.definitions_in(d)).unwrap_or_default();
        used.iter().any(|d| d.name == on || self.hangs_on(&d.name, on))
    }

    /// Whether a definition is a formula; its number is the molar mass.
    #[must_use]
    pub fn is_formula(&self, definition: &Definition) -> bool {
        matches!(self.nodes[definition.root], Node::Formula(_))
    }

    /// The definition or the reading whose value, or first trial, this node is; empty where it has no name.
    pub(crate) fn name_of(&self, node: usize) -> String {
        if let Some(definition) = self.definitions.iter().find(|d| d.nodes().contains(&node)) {
            return definition.name.clone();
        }
        match &self.nodes[node] {
            Node::Input(input) => match &self.inputs[*input].leaf {
                Leaf::Reading(symbol) | Leaf::Trial(symbol, _) => symbol.clone(),
                _ => String::new(),
            },
            _ => String::new(),
        }
    }

    /// Nodes that `roots` hang on, themselves included, earliest first.
    pub(crate) fn reachable(&self, roots: Range<usize>) -> Vec<usize> {
        let mut needed = vec![false; roots.end];
        needed[roots.clone()].fill(true);
        for i in (0..roots.end).rev() {
            if needed[i] {
                self.nodes[i].uses().iter().for_each(|u| needed[*u] = true);
            }
        }
        (0..roots.end).filter(|i| needed[*i]).collect()
    }
}

fn names_in<'a>(expression: &'a Expression, out: &mut Vec<&'a str>) {
    match &expression.kind {
        Kind::Name(name) if !out.contains(&name.as_str()) => out.push(name),
        Kind::Name(_) | Kind::Number { .. } => {}
        Kind::Call { arguments, .. } => arguments.iter().for_each(|a| names_in(a, out)),
        Kind::Negative(inner) => names_in(inner, out),
        Kind::Binary { left, right, .. } => {
            names_in(left, out);
            names_in(right, out);
        }
    }
}

impl Node {
    pub(crate) fn uses(&self) -> Vec<usize> {
        match self {
            Node::Input(_) => Vec::new(),
            Node::Negative(a) | Node::Same(a) | Node::Power(a, _) | Node::Function(_, a) => vec![*a],
            Node::Sum(a, b) | Node::Difference(a, b) | Node::Product(a, b) | Node::Quotient(a, b) => vec![*a, *b],
            Node::Limiting(of) | Node::Fold(_, of) | Node::Ph(_, of) => of.clone(),
            Node::Line(_, ys, xs) => [&ys[..], &xs[..]].concat(),
            Node::Formula(search) => [&search.amounts[..], &search.masses[..]].concat(),
        }
    }
}

/// One step of a program, or the like steps of all trials.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Place {
    pub(crate) first: usize,
    pub(crate) count: usize,
}

impl Place {
    pub(crate) fn of(first: usize, count: usize) -> Place {
        Place { first, count }
    }

    /// How many trials it has.
    #[must_use]
    pub fn count(self) -> usize {
        self.count
    }
}

/// The frequent steps of a program, small enough to be gone through quickly; the numbers are nodes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) enum Op {
    Sum(u32, u32, u32),
    Difference(u32, u32, u32),
    Product(u32, u32, u32),
    Quotient(u32, u32, u32),
    Same(u32, u32),
    /// The smaller of two.
    Smaller(u32, u32, u32),
    /// Anything else, looked up in the program.
    Other(u32),
}

/// The steps for these nodes, in their order; inputs have none.
pub(crate) fn steps(nodes: &[Node], wanted: impl Iterator<Item = usize>) -> Vec<Op> {
    let small = |n: usize| u32::try_from(n).expect("a program is bounded");
    wanted
        .filter_map(|i| {
            let at = small(i);
            Some(match nodes[i] {
                Node::Input(_) => return None,
                Node::Sum(a, b) => Op::Sum(at, small(a), small(b)),
                Node::Difference(a, b) => Op::Difference(at, small(a), small(b)),
                Node::Product(a, b) => Op::Product(at, small(a), small(b)),
                Node::Quotient(a, b) => Op::Quotient(at, small(a), small(b)),
                Node::Same(a) => Op::Same(at, small(a)),
                Node::Limiting(ref of) if of.len() == 2 => Op::Smaller(at, small(of[0]), small(of[1])),
                _ => Op::Other(at),
            })
        })
        .collect()
}
