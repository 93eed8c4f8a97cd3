//! From expressions to a flat program, with every dimension checked.

mod calls;

use crate::error::{SheetError, SheetProblem, nearest};
use crate::expression::{Expression, Kind, Leaf, Operator};
use crate::parser::parse_expression;
use crate::program::{Definition, Draft, Input, Node, Place, Program, length, steps};
use crate::vocabulary::{Given, Repeats, Vocabulary};
use measure::{Dimension, Unit};

const MAX_DEFINITIONS: usize = 200;

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
            spans: Vec::new(),
            writing: vocabulary.writing,
        };
        let mut compiler = Compiler { vocabulary, program, ahead: drafts };
        for (i, draft) in drafts.iter().enumerate() {
            compiler.ahead = &drafts[i..];
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
}

/// A program in the making.
struct Compiler<'a> {
    vocabulary: &'a Vocabulary,
    program: Program,
    /// The definition in hand and those after it.
    ahead: &'a [Draft],
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

impl Compiler<'_> {
    fn definition(&mut self, draft: &Draft) -> Result<(), (usize, SheetProblem)> {
        let name = &draft.name;
        if self.program.definitions.len() >= MAX_DEFINITIONS {
            return Err((0, SheetProblem::TooMuch("200 definitions")));
        }
        let starts_well = name.starts_with(|c: char| c.is_alphabetic());
        let plain = name.chars().all(|c| c.is_alphanumeric() || c == '_') && name.chars().count() <= 40;
        if !starts_well || !plain || Unit::is_one(name) {
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
        self.program.spans.push(Place::of(first, length(repeats.as_ref())));
        Operand { first, dimension, repeats }
    }

    /// A node that is there once, whatever repeats.
    fn alone(&mut self, node: Node) -> usize {
        self.program.nodes.push(node);
        let first = self.program.nodes.len() - 1;
        self.program.spans.push(Place::of(first, 1));
        first
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
        once(self.alone(Node::Input(self.program.inputs.len() - 1)))
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
            self.program.spans.push(Place::of(first, repeats.most));
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
        if self.ahead.iter().any(|d| d.name == name) {
            return Err(self.too_early(name));
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

    /// Why a name that stands further down cannot be used here: it comes later, or it needs what uses it.
    fn too_early(&self, name: &str) -> SheetProblem {
        let here = self.ahead[0].name.as_str();
        let needs = |name: &str| -> Vec<&str> {
            let draft = self.ahead.iter().find(|d| d.name == name);
            let expression = draft.and_then(|d| parse_expression(&d.expression).ok());
            let ahead = self.ahead.iter().map(|d| d.name.as_str());
            ahead.filter(|n| expression.as_ref().is_some_and(|e| mentions(e, n))).collect()
        };
        // Every way onward, the shortest first; no name twice.
        let mut ways = vec![vec![name]];
        let mut next = 0;
        while next < ways.len() {
            let way = ways[next].clone();
            let last = way[way.len() - 1];
            if last == here {
                let circle = std::iter::once(here).chain(way).map(str::to_owned).collect();
                return SheetProblem::Circle(circle);
            }
            for onward in needs(last) {
                if !ways.iter().any(|w| w.contains(&onward)) {
                    ways.push([&way[..], &[onward]].concat());
                }
            }
            next += 1;
        }
        SheetProblem::Later(name.to_owned())
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
}

/// Whether a name stands anywhere in an expression.
fn mentions(expression: &Expression, name: &str) -> bool {
    match &expression.kind {
        Kind::Name(n) => n == name,
        Kind::Number { .. } => false,
        Kind::Call { arguments, .. } => arguments.iter().any(|a| mentions(a, name)),
        Kind::Negative(inner) => mentions(inner, name),
        Kind::Binary { left, right, .. } => mentions(left, name) || mentions(right, name),
    }
}

/// Values can be calculated with together when they repeat along one axis, or not at all.
fn together(operands: &[&Operand]) -> Result<(), SheetProblem> {
    let mut axes = operands.iter().filter_map(|o| o.repeats.as_ref());
    let Some(first) = axes.next() else { return Ok(()) };
    match axes.find(|r| *r != first) {
        Some(other) => Err(SheetProblem::Axes { left: first.axis.clone(), right: other.axis.clone() }),
        None => Ok(()),
    }
}

/// The unit in which a quantity of this dimension is usually shown.
fn usual_unit(dimension: Dimension) -> Unit {
    let usual = [
        "1", "g", "mL", "mmol", "mol/L", "g/mol", "g/mL", "s", "K", "J", "kJ/mol", "kPa", "C", "V", "A", "J/K",
        "J/(g K)", "L/mol",
    ];
    let base = ["1", "g", "L", "mol", "s", "K"];
    usual
        .iter()
        .chain(&base)
        .filter_map(|u| Unit::parse(u).ok())
        .find(|u| u.dimension() == dimension)
        .unwrap_or_else(|| Unit::in_base(dimension))
}
