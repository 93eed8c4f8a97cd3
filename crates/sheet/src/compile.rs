//! From expressions to a flat program, with every dimension checked.
//!
//! A [`Program`] is a list of nodes in which each uses earlier ones only; a definition is the number of its root node.
//! A definition that is used again is not computed again. Everything that does not depend on a group (molar masses,
//! coefficients, stated strengths) is fixed here, with its uncertainty; readings are filled in at evaluation.

use crate::candidates::Candidates;
use crate::error::{SheetError, SheetProblem, nearest};
use crate::expression::{Expression, Kind, Leaf, Operator};
use crate::kernel::{Op, steps};
use crate::parser::parse_expression;
use crate::vocabulary::{Given, Material, Quantity, Repeats, Vocabulary};
use crate::{Precision, Written};
use chem::{Coefficient, Formula};
use measure::{Contribution, Dimension, Distribution, Source, Unit, rounding};
use std::ops::Range;

const MAX_DEFINITIONS: usize = 200;

/// Each is a search through thousands of candidates.
const MAX_FORMULAS: usize = 20;

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
    /// pH of a weak acid or base by charge balance: the concentration, then the acid exponents.
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
fn length(repeats: Option<&Repeats>) -> usize {
    repeats.map_or(1, |r| r.most)
}

impl Program {
    /// The program of `drafts`, in their order, over the names of `vocabulary`.
    ///
    /// # Errors
    /// [`SheetError`] for the first definition that cannot be understood or whose dimensions do not fit.
    pub fn compile(drafts: &[Draft], vocabulary: &Vocabulary) -> Result<Program, SheetError> {
        let program = Program {
            nodes: Vec::new(),
            inputs: Vec::new(),
            definitions: Vec::new(),
            axes: Vec::new(),
            steps: Vec::new(),
        };
        let mut compiler = Compiler { vocabulary, program };
        for draft in drafts {
            compiler.definition(draft).map_err(|(at, problem)| SheetError {
                definition: draft.name.chars().take(60).collect(),
                line: draft.line,
                column: at + 1,
                problem,
            })?;
        }
        let mut program = compiler.program;
        program.steps = steps(&program.nodes, 0..program.nodes.len());
        for i in 0..program.definitions.len() {
            let root = program.definitions[i].root;
            let reachable = program.reachable(root..root + 1);
            program.definitions[i].backwards = steps(&program.nodes, reachable.into_iter().rev());
        }
        Ok(program)
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

    /// Whether a definition is a formula; its number is the molar mass.
    #[must_use]
    pub fn is_formula(&self, definition: &Definition) -> bool {
        matches!(self.nodes[definition.root], Node::Formula(_))
    }

    /// Nodes that `roots` hang on, themselves included, earliest first.
    fn reachable(&self, roots: Range<usize>) -> Vec<usize> {
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
            Node::Formula(search) => [&search.amounts[..], &search.masses[..]].concat(),
        }
    }
}

struct Compiler<'a> {
    vocabulary: &'a Vocabulary,
    program: Program,
}

/// One value, or one for each trial: where its nodes begin, and what it measures.
#[derive(Debug, Clone)]
struct Operand {
    first: usize,
    dimension: Dimension,
    repeats: Option<Repeats>,
}

impl Operand {
    /// The node of one trial; what is there once is the same in each.
    fn at(&self, trial: usize) -> usize {
        if self.repeats.is_some() { self.first + trial } else { self.first }
    }
}

type Compiled = Result<Operand, (usize, SheetProblem)>;

impl<'a> Compiler<'a> {
    fn definition(&mut self, draft: &Draft) -> Result<(), (usize, SheetProblem)> {
        let name = &draft.name;
        if self.program.definitions.len() >= MAX_DEFINITIONS {
            return Err((0, SheetProblem::TooMuch("200 definitions")));
        }
        let starts_well = name.starts_with(|c: char| c.is_alphabetic());
        let plain = name.chars().all(|c| c.is_alphanumeric() || c == '_') && name.chars().count() <= 40;
        if !starts_well || !plain || Unit::parse(name).is_ok() {
            return Err((0, SheetProblem::BadName(name.chars().take(40).collect())));
        }
        let taken = self.vocabulary.readings.iter().any(|r| r.symbol == *name);
        if taken || self.program.definition(name).is_some() {
            return Err((0, SheetProblem::Twice(name.clone())));
        }
        let expression = parse_expression(&draft.expression)?;
        let operand = self.expression(&expression)?;
        let dimension = operand.dimension;
        let unit = draft.unit.clone().unwrap_or_else(|| usual_unit(dimension));
        if unit.dimension() != dimension {
            return Err((0, SheetProblem::WrongUnit { unit: unit.written().to_owned(), found: dimension }));
        }
        // A definition that only renames another still gets a node of its own, so that it can be substituted alone.
        let shared = self.program.definitions.iter().any(|d| d.root == operand.first);
        let operand = if shared || matches!(self.program.nodes[operand.first], Node::Input(_)) {
            self.each(&[&operand], dimension, |n| Node::Same(n[0]))
        } else {
            operand
        };
        self.program.definitions.push(Definition {
            name: name.clone(),
            dimension,
            unit,
            repeats: operand.repeats,
            root: operand.first,
            expression,
            backwards: Vec::new(),
        });
        Ok(())
    }

    /// One node for each trial of the operands, or one alone when nothing is repeated. Their axes agree.
    fn each(&mut self, of: &[&Operand], dimension: Dimension, node: impl Fn(&[usize]) -> Node) -> Operand {
        let repeats = of.iter().find_map(|o| o.repeats.clone());
        let first = self.program.nodes.len();
        for trial in 0..length(repeats.as_ref()) {
            let nodes: Vec<usize> = of.iter().map(|o| o.at(trial)).collect();
            self.program.nodes.push(node(&nodes));
        }
        Operand { first, dimension, repeats }
    }

    /// One node for each leaf, however often it is used: what is shared stays shared.
    fn input(&mut self, leaf: Leaf, dimension: Dimension, given: Option<Given>) -> Operand {
        let once = |first| Operand { first, dimension, repeats: None };
        let again = self.program.inputs.iter().position(|i| i.leaf == leaf && leaf != Leaf::Number);
        if let Some(old) = again {
            let node = self.program.nodes.iter().position(|n| *n == Node::Input(old));
            return once(node.expect("every input has its node"));
        }
        self.program.inputs.push(Input { leaf, given });
        self.program.nodes.push(Node::Input(self.program.inputs.len() - 1));
        once(self.program.nodes.len() - 1)
    }

    /// A repeated reading: a node for each trial, one after the other, once.
    fn series(&mut self, symbol: &str, dimension: Dimension, repeats: &Repeats) -> Operand {
        let known = self.program.inputs.iter().position(|i| i.leaf == Leaf::Trial(symbol.to_owned(), 0));
        let known = known.and_then(|old| self.program.nodes.iter().position(|n| *n == Node::Input(old)));
        let first = known.unwrap_or(self.program.nodes.len());
        if known.is_none() {
            for trial in 0..repeats.most {
                self.program.inputs.push(Input { leaf: Leaf::Trial(symbol.to_owned(), trial), given: None });
                self.program.nodes.push(Node::Input(self.program.inputs.len() - 1));
            }
            self.program.axes.push((symbol.to_owned(), repeats.clone()));
        }
        Operand { first, dimension, repeats: Some(repeats.clone()) }
    }

    fn expression(&mut self, e: &Expression) -> Compiled {
        match &e.kind {
            Kind::Number { value, unit } => {
                let given = Given::exact_digits(*value, unit);
                Ok(self.input(Leaf::Number, unit.dimension(), Some(given)))
            }
            Kind::Name(name) => self.name(name).map_err(|p| (e.at, p)),
            Kind::Call { function, arguments } => self.call(e.at, function, arguments),
            Kind::Negative(inner) => {
                let inner = self.expression(inner)?;
                Ok(self.each(&[&inner], inner.dimension, |n| Node::Negative(n[0])))
            }
            Kind::Binary { operator, left, right } => self.binary(e.at, *operator, left, right),
        }
    }

    fn name(&mut self, name: &str) -> Result<Operand, SheetProblem> {
        if let Some(d) = self.program.definition(name) {
            if self.program.is_formula(d) {
                return Err(SheetProblem::NoNumber(name.to_owned()));
            }
            return Ok(Operand { first: d.root, dimension: d.dimension, repeats: d.repeats.clone() });
        }
        if let Some(reading) = self.vocabulary.readings.iter().find(|r| r.symbol == name) {
            let dimension = reading.unit.dimension();
            return Ok(match &reading.repeats {
                Some(repeats) => self.series(name, dimension, repeats),
                None => self.input(Leaf::Reading(name.to_owned()), dimension, None),
            });
        }
        let names = self.vocabulary.readings.iter().map(|r| r.symbol.as_str());
        let near = nearest(name, names.chain(self.program.definitions.iter().map(|d| d.name.as_str())));
        Err(SheetProblem::UnknownName { name: name.to_owned(), near })
    }

    fn binary(&mut self, at: usize, operator: Operator, left: &Expression, right: &Expression) -> Compiled {
        if operator == Operator::Power {
            return self.power(at, left, right);
        }
        let (a, b) = (self.expression(left)?, self.expression(right)?);
        together(&[&a, &b]).map_err(|p| (at, p))?;
        let (da, db) = (a.dimension, b.dimension);
        let differ = |action| Err((at, SheetProblem::Dimensions { left: db, action, right: da }));
        let too_far = (at, SheetProblem::BadPower);
        let dimension = match operator {
            Operator::Plus if da != db => return differ("added to"),
            Operator::Minus if da != db => return differ("subtracted from"),
            Operator::Plus | Operator::Minus => da,
            Operator::Times => da.times(db).ok_or(too_far)?,
            Operator::Over => db.power(-1).and_then(|d| da.times(d)).ok_or(too_far)?,
            Operator::Power => return self.power(at, left, right),
        };
        Ok(self.each(&[&a, &b], dimension, |n| match operator {
            Operator::Plus => Node::Sum(n[0], n[1]),
            Operator::Minus => Node::Difference(n[0], n[1]),
            Operator::Times => Node::Product(n[0], n[1]),
            Operator::Over | Operator::Power => Node::Quotient(n[0], n[1]),
        }))
    }

    fn power(&mut self, at: usize, base: &Expression, exponent: &Expression) -> Compiled {
        let number = match &exponent.kind {
            Kind::Number { value, unit } if *unit == Unit::one() => value.to_f64(),
            Kind::Negative(inner) => match &inner.kind {
                Kind::Number { value, unit } if *unit == Unit::one() => -value.to_f64(),
                _ => return Err((at, SheetProblem::BadPower)),
            },
            _ => return Err((at, SheetProblem::BadPower)),
        };
        let base = self.expression(base)?;
        let dimension = if base.dimension == Dimension::ONE {
            Dimension::ONE
        } else {
            let whole = [-3i8, -2, -1, 1, 2, 3].into_iter().find(|w| f64::from(*w) == number);
            whole.and_then(|w| base.dimension.power(w)).ok_or((at, SheetProblem::BadPower))?
        };
        Ok(self.each(&[&base], dimension, |n| Node::Power(n[0], number)))
    }

    fn call(&mut self, at: usize, function: &str, arguments: &[Expression]) -> Compiled {
        let wrong = |wanted| (at, SheetProblem::Arguments { function: function.to_owned(), wanted });
        match function {
            "limiting" => return self.limiting(at, arguments),
            "acid_pH" => return self.ph(at, function, Protolyte::Acid, arguments),
            "base_pH" => return self.ph(at, function, Protolyte::Base, arguments),
            "formula" => return self.formula(at, arguments),
            "M" => {
                if let Some(found) = self.found_formula(arguments) {
                    return Ok(self.each(&[&found], found.dimension, |n| Node::Same(n[0])));
                }
            }
            _ => {}
        }
        if let Some(f) = mathematical(function) {
            let [argument] = arguments else { return Err(wrong("one value")) };
            let inner = self.expression(argument)?;
            let dimension = match (f, inner.dimension) {
                (Function::Absolute, d) => d,
                (_, Dimension::ONE) => Dimension::ONE,
                (_, found) => return Err((at, SheetProblem::NeedsNumber { function: function.to_owned(), found })),
            };
            return Ok(self.each(&[&inner], dimension, |n| Node::Function(f, n[0])));
        }
        if FOLDS.contains(&function) {
            return self.fold(at, function, arguments);
        }
        let materials: Vec<&Material> = arguments
            .iter()
            .map(|a| match &a.kind {
                Kind::Name(name) => self.material(name).map_err(|p| (a.at, p)),
                _ => Err(wrong("the symbol of a material")),
            })
            .collect::<Result<_, _>>()
            .or_else(|e| if LEAF_FUNCTIONS.contains(&function) { Err(e) } else { Ok(Vec::new()) })?;
        match (function, &materials[..]) {
            ("M", [m]) => self.molar_mass(m),
            ("coefficient", [m]) => self.coefficient(m),
            ("ratio", [of, per]) => self.ratio(of, per),
            ("concentration", [m]) => {
                self.stated(m, "concentration", m.concentration.as_ref(), Leaf::Concentration(m.symbol.clone()))
            }
            ("purity", [m]) => self.stated(m, "purity", m.purity.as_ref(), Leaf::Purity(m.symbol.clone())),
            ("density", [m]) => self.stated(m, "density", m.density.as_ref(), Leaf::Density(m.symbol.clone())),
            ("ratio", _) => return Err(wrong("the symbols of two materials")),
            (known, _) if LEAF_FUNCTIONS.contains(&known) => return Err(wrong("the symbol of one material")),
            _ => return Err((at, SheetProblem::UnknownFunction(function.chars().take(30).collect()))),
        }
        .map_err(|p| (at, p))
    }

    /// `mean(x)`, `concordant_mean(x, 0.10 mL)`: one value from the values of an axis, rough ones left out.
    fn fold(&mut self, at: usize, function: &str, arguments: &[Expression]) -> Compiled {
        let wrong = |wanted| (at, SheetProblem::Arguments { function: function.to_owned(), wanted });
        let [of, rest @ ..] = arguments else { return Err(wrong("a value for each trial")) };
        let operand = self.expression(of)?;
        let fold = match (function, rest) {
            ("mean", []) => Fold::Mean,
            ("sum", []) => Fold::Sum,
            ("range", []) => Fold::Range,
            ("sd", []) => Fold::StandardDeviation,
            ("smallest", []) => Fold::Smallest,
            ("largest", []) => Fold::Largest,
            ("concordant_mean", [limit]) => match &limit.kind {
                Kind::Number { value, unit } if unit.dimension() == operand.dimension => {
                    Fold::ConcordantMean(unit.to_base(value.to_f64()))
                }
                _ => return Err((limit.at, wrong("a value for each trial and the limit, in its unit").1)),
            },
            _ => return Err(wrong("a value for each trial, and concordant_mean also the limit")),
        };
        let Some(repeats) = operand.repeats.as_ref() else {
            return Err((at, SheetProblem::NothingToFold(function.to_owned())));
        };
        let nodes = (repeats.rough.min(repeats.most)..repeats.most).map(|t| operand.at(t)).collect();
        self.program.nodes.push(Node::Fold(fold, nodes));
        Ok(Operand { first: self.program.nodes.len() - 1, dimension: operand.dimension, repeats: None })
    }

    fn limiting(&mut self, at: usize, extents: &[Expression]) -> Compiled {
        if extents.len() < 2 {
            let wanted = "the extents of two or more reagents";
            return Err((at, SheetProblem::Arguments { function: "limiting".into(), wanted }));
        }
        let operands: Vec<Operand> = extents.iter().map(|e| self.expression(e)).collect::<Result<_, _>>()?;
        let dimension = operands[0].dimension;
        if let Some(other) = operands.iter().map(|o| o.dimension).find(|d| *d != dimension) {
            return Err((at, SheetProblem::Dimensions { left: other, action: "compared with", right: dimension }));
        }
        let all: Vec<&Operand> = operands.iter().collect();
        together(&all).map_err(|p| (at, p))?;
        Ok(self.each(&all, dimension, |n| Node::Limiting(n.to_vec())))
    }

    /// `acid_pH(c, pKa, …)`: a named solver with its own derivative.
    fn ph(&mut self, at: usize, function: &str, side: Protolyte, arguments: &[Expression]) -> Compiled {
        let operands: Vec<Operand> = arguments.iter().map(|e| self.expression(e)).collect::<Result<_, _>>()?;
        let fits = match &operands[..] {
            [c, exponents @ ..] => {
                c.dimension == Dimension::CONCENTRATION
                    && (1..=6).contains(&exponents.len())
                    && exponents.iter().all(|e| e.dimension == Dimension::ONE)
            }
            [] => false,
        };
        if !fits {
            let wanted = "an amount concentration, then one to six acid exponents";
            return Err((at, SheetProblem::Arguments { function: function.to_owned(), wanted }));
        }
        let all: Vec<&Operand> = operands.iter().collect();
        together(&all).map_err(|p| (at, p))?;
        Ok(self.each(&all, Dimension::ONE, |n| Node::Ph(side, n.to_vec())))
    }

    /// `formula(Cu, n_Cu, Cl, n_Cl)`: a named solver, given the table of masses. It is a step in its amounts, so it has
    /// a derivative to the molar masses of its parts only.
    fn formula(&mut self, at: usize, arguments: &[Expression]) -> Compiled {
        let wanted = "two to six materials, each with its amount (not for each trial), then, if it is not 6, the \
                      largest subscript: up to 12, of five parts 8, of six 6";
        let wrong = (at, SheetProblem::Arguments { function: "formula".into(), wanted });
        let (pairs, rest) = arguments.split_at(arguments.len() / 2 * 2);
        let most = match rest {
            [Expression { kind: Kind::Number { value, unit }, .. }] if *unit == Unit::one() => {
                (1..=Candidates::most(pairs.len() / 2)).find(|n| f64::from(*n) == value.to_f64())
            }
            [] => Some(6),
            _ => None,
        };
        let (Some(most), 4..=12) = (most, pairs.len()) else { return Err(wrong) };
        if self.program.nodes.iter().filter(|n| matches!(n, Node::Formula(_))).count() >= MAX_FORMULAS {
            return Err((at, SheetProblem::TooMuch("20 formulas to be found")));
        }
        let mut search = Search { parts: Vec::new(), amounts: Vec::new(), masses: Vec::new(), most };
        for pair in pairs.chunks_exact(2) {
            let Kind::Name(symbol) = &pair[0].kind else { return Err((pair[0].at, wrong.1)) };
            let material = self.material(symbol).map_err(|p| (pair[0].at, p))?;
            let mass = self.molar_mass(material).map_err(|p| (pair[0].at, p))?;
            let amount = self.expression(&pair[1])?;
            if amount.dimension != Dimension::AMOUNT || amount.repeats.is_some() {
                return Err((pair[1].at, wrong.1));
            }
            search.parts.push(material.formula.as_ref().map_or(symbol.as_str(), Formula::typed).to_owned());
            search.amounts.push(amount.first);
            search.masses.push(mass.first);
        }
        self.program.nodes.push(Node::Formula(search));
        Ok(Operand { first: self.program.nodes.len() - 1, dimension: Dimension::MOLAR_MASS, repeats: None })
    }

    /// The argument of `M(…)`, where that is a formula which the sheet itself has found.
    fn found_formula(&self, arguments: &[Expression]) -> Option<Operand> {
        let [Expression { kind: Kind::Name(name), .. }] = arguments else { return None };
        if self.material(name).is_ok() {
            return None;
        }
        let definition = self.program.definition(name).filter(|d| self.program.is_formula(d))?;
        Some(Operand { first: definition.root, dimension: definition.dimension, repeats: None })
    }

    fn material(&self, symbol: &str) -> Result<&'a Material, SheetProblem> {
        self.vocabulary.materials.iter().find(|m| m.symbol == symbol).ok_or_else(|| SheetProblem::UnknownMaterial {
            name: symbol.to_owned(),
            near: nearest(symbol, self.vocabulary.materials.iter().map(|m| m.symbol.as_str())),
        })
    }

    fn molar_mass(&mut self, material: &Material) -> Result<Operand, SheetProblem> {
        let missing =
            || SheetProblem::NotStated { material: material.symbol.clone(), property: "formula with a molar mass" };
        let formula = material.formula.as_ref().ok_or_else(missing)?;
        let mass = formula.molar_mass(&self.vocabulary.masses).map_err(|_| missing())?;
        // The table's digits: sums of five-figure masses are shown to the thousandth.
        let shown = rounding::decimal_of(mass.value).ok_or_else(missing)?;
        let shown = rounding::to_place(shown, -3, rounding::Ties::HalfUp);
        let contributions = mass
            .contributions
            .iter()
            .filter(|_| !self.vocabulary.masses_exact)
            .map(|(symbol, u)| Contribution {
                source: Source::AtomicMass((*symbol).to_owned()),
                standard_uncertainty: *u,
                distribution: Distribution::Rectangular,
            })
            .collect();
        let unit = Unit::parse("g/mol")?;
        let given = Given {
            value: mass.value,
            contributions,
            precision: Precision::Exact,
            written: shown.to_string(),
            unit,
            half_division: 0.0,
        };
        Ok(self.input(Leaf::MolarMass(material.symbol.clone()), Dimension::MOLAR_MASS, Some(given)))
    }

    fn coefficient(&mut self, material: &Material) -> Result<Operand, SheetProblem> {
        let given = Given::ratio(coefficient_of(material)?);
        Ok(self.input(Leaf::Coefficient(material.symbol.clone()), Dimension::ONE, Some(given)))
    }

    fn ratio(&mut self, of: &Material, per: &Material) -> Result<Operand, SheetProblem> {
        let (above, below) = (coefficient_of(of)?, coefficient_of(per)?);
        let given = Given::ratio(above / below);
        Ok(self.input(Leaf::Ratio(of.symbol.clone(), per.symbol.clone()), Dimension::ONE, Some(given)))
    }

    fn stated(
        &mut self,
        material: &Material,
        property: &'static str,
        quantity: Option<&Quantity>,
        leaf: Leaf,
    ) -> Result<Operand, SheetProblem> {
        let quantity =
            quantity.ok_or_else(|| SheetProblem::NotStated { material: material.symbol.clone(), property })?;
        let given = Given::stated(format!("{property} of {}", material.symbol), quantity);
        Ok(self.input(leaf, quantity.unit.dimension(), Some(given)))
    }
}

const FOLDS: &[&str] = &["mean", "sum", "range", "sd", "smallest", "largest", "concordant_mean"];

/// Values can be calculated with together when they repeat along one axis, or not at all.
fn together(operands: &[&Operand]) -> Result<(), SheetProblem> {
    let mut axes = operands.iter().filter_map(|o| o.repeats.as_ref());
    let Some(first) = axes.next() else { return Ok(()) };
    match axes.find(|r| *r != first) {
        Some(other) => Err(SheetProblem::Axes { left: first.axis.clone(), right: other.axis.clone() }),
        None => Ok(()),
    }
}

const LEAF_FUNCTIONS: &[&str] = &["M", "coefficient", "ratio", "concentration", "purity", "density"];

fn coefficient_of(material: &Material) -> Result<Coefficient, SheetProblem> {
    let property = "place in the reaction";
    material.coefficient.ok_or_else(|| SheetProblem::NotStated { material: material.symbol.clone(), property })
}

fn mathematical(name: &str) -> Option<Function> {
    Some(match name {
        "sqrt" => Function::SquareRoot,
        "ln" => Function::NaturalLog,
        "log10" => Function::CommonLog,
        "exp10" => Function::PowerOfTen,
        "exp" => Function::Exponential,
        "abs" => Function::Absolute,
        _ => return None,
    })
}

/// The unit in which a quantity of this dimension is usually shown.
fn usual_unit(dimension: Dimension) -> Unit {
    let usual = ["1", "g", "mL", "mmol", "mol/L", "g/mol", "g/mL", "s", "K"];
    let base = ["1", "g", "L", "mol", "s", "K"];
    usual
        .iter()
        .chain(&base)
        .filter_map(|u| Unit::parse(u).ok())
        .find(|u| u.dimension() == dimension)
        .unwrap_or_else(|| Unit::in_base(dimension))
}
