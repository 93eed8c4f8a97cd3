//! From expressions to a flat program, with every dimension checked.
//!
//! A [`Program`] is a list of nodes in which each uses earlier ones only; a definition is the number of its root node.
//! A definition that is used again is not computed again. Everything that does not depend on a group (molar masses,
//! coefficients, stated strengths) is fixed here, with its uncertainty; readings are filled in at evaluation.

use crate::error::{SheetError, SheetProblem, nearest};
use crate::expression::{Expression, Kind, Leaf, Operator};
use crate::parser::parse_expression;
use crate::vocabulary::{Given, Material, Quantity, Vocabulary};
use crate::{Precision, Written};
use measure::{Contribution, Decimal, Dimension, Source, Unit, rounding};

const MAX_DEFINITIONS: usize = 200;

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
    pub(crate) root: usize,
    pub(crate) expression: Expression,
}

/// A checked and compiled sheet.
#[derive(Debug, Clone, PartialEq)]
pub struct Program {
    pub(crate) nodes: Vec<Node>,
    pub(crate) inputs: Vec<Input>,
    pub(crate) definitions: Vec<Definition>,
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
    Function(Function, usize),
    /// The smallest of some extents.
    Limiting(Vec<usize>),
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

impl Program {
    /// The program of `drafts`, in their order, over the names of `vocabulary`.
    ///
    /// # Errors
    /// [`SheetError`] for the first definition that cannot be understood or whose dimensions do not fit.
    pub fn compile(drafts: &[Draft], vocabulary: &Vocabulary) -> Result<Program, SheetError> {
        let program = Program { nodes: Vec::new(), inputs: Vec::new(), definitions: Vec::new() };
        let mut compiler = Compiler { vocabulary, program, dimensions: Vec::new() };
        for draft in drafts {
            compiler.definition(draft).map_err(|(at, problem)| SheetError {
                definition: draft.name.chars().take(60).collect(),
                line: draft.line,
                column: at + 1,
                problem,
            })?;
        }
        Ok(compiler.program)
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
        self.reachable(definition.root)
            .iter()
            .filter_map(|i| match &self.nodes[*i] {
                Node::Input(input) => match &self.inputs[*input].leaf {
                    Leaf::Reading(symbol) => Some(symbol.as_str()),
                    _ => None,
                },
                _ => None,
            })
            .collect()
    }

    /// Names of the definitions that stand in the expression of `definition`, in the order of first use.
    #[must_use]
    pub fn definitions_in(&self, definition: &Definition) -> Vec<&Definition> {
        let mut names = Vec::new();
        names_in(&definition.expression, &mut names);
        names.into_iter().filter_map(|n| self.definition(n)).collect()
    }

    /// Nodes that `root` hangs on, itself included, earliest first.
    pub(crate) fn reachable(&self, root: usize) -> Vec<usize> {
        let mut needed = vec![false; root + 1];
        needed[root] = true;
        for i in (0..=root).rev().filter(|i| *i < self.nodes.len()) {
            if needed[i] {
                self.nodes[i].uses().iter().for_each(|u| needed[*u] = true);
            }
        }
        (0..=root).filter(|i| needed[*i]).collect()
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
            Node::Negative(a) | Node::Power(a, _) | Node::Function(_, a) => vec![*a],
            Node::Sum(a, b) | Node::Difference(a, b) | Node::Product(a, b) | Node::Quotient(a, b) => vec![*a, *b],
            Node::Limiting(of) => of.clone(),
        }
    }
}

struct Compiler<'a> {
    vocabulary: &'a Vocabulary,
    program: Program,
    /// Of each node.
    dimensions: Vec<Dimension>,
}

type Compiled = Result<usize, (usize, SheetProblem)>;

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
        let root = self.expression(&expression)?;
        let dimension = self.dimensions[root];
        let unit = draft.unit.clone().unwrap_or_else(|| usual_unit(dimension));
        if unit.dimension() != dimension {
            return Err((0, SheetProblem::WrongUnit { unit: unit.written().to_owned(), found: dimension }));
        }
        // A definition that only renames another still gets a node of its own, so that it can be substituted alone.
        let shared = self.program.definitions.iter().any(|d| d.root == root);
        let root = if shared || matches!(self.program.nodes[root], Node::Input(_)) {
            self.push(Node::Power(root, 1.0), dimension)
        } else {
            root
        };
        self.program.definitions.push(Definition { name: name.clone(), dimension, unit, root, expression });
        Ok(())
    }

    fn push(&mut self, node: Node, dimension: Dimension) -> usize {
        self.program.nodes.push(node);
        self.dimensions.push(dimension);
        self.program.nodes.len() - 1
    }

    /// One node for each leaf, however often it is used: what is shared stays shared.
    fn input(&mut self, leaf: Leaf, dimension: Dimension, given: Option<Given>) -> usize {
        let again = self.program.inputs.iter().position(|i| i.leaf == leaf && leaf != Leaf::Number);
        if let Some(old) = again {
            let node = self.program.nodes.iter().position(|n| *n == Node::Input(old));
            return node.expect("every input has its node");
        }
        self.program.inputs.push(Input { leaf, given });
        let input = self.program.inputs.len() - 1;
        self.push(Node::Input(input), dimension)
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
                Ok(self.push(Node::Negative(inner), self.dimensions[inner]))
            }
            Kind::Binary { operator, left, right } => self.binary(e.at, *operator, left, right),
        }
    }

    fn name(&mut self, name: &str) -> Result<usize, SheetProblem> {
        if let Some(definition) = self.program.definition(name) {
            return Ok(definition.root);
        }
        let known = self.vocabulary.readings.iter().find(|r| r.symbol == name);
        if let Some(reading) = known {
            return Ok(self.input(Leaf::Reading(name.to_owned()), reading.unit.dimension(), None));
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
        let (da, db) = (self.dimensions[a], self.dimensions[b]);
        let differ = |action| Err((at, SheetProblem::Dimensions { left: db, action, right: da }));
        let too_far = (at, SheetProblem::BadPower);
        match operator {
            Operator::Plus if da != db => differ("added to"),
            Operator::Minus if da != db => differ("subtracted from"),
            Operator::Plus => Ok(self.push(Node::Sum(a, b), da)),
            Operator::Minus => Ok(self.push(Node::Difference(a, b), da)),
            Operator::Times => {
                let dimension = da.times(db).ok_or(too_far)?;
                Ok(self.push(Node::Product(a, b), dimension))
            }
            Operator::Over => {
                let dimension = db.power(-1).and_then(|d| da.times(d)).ok_or(too_far)?;
                Ok(self.push(Node::Quotient(a, b), dimension))
            }
            Operator::Power => self.power(at, left, right),
        }
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
        let dimension = if self.dimensions[base] == Dimension::ONE {
            Dimension::ONE
        } else {
            let whole = [-3i8, -2, -1, 1, 2, 3].into_iter().find(|w| f64::from(*w) == number);
            whole.and_then(|w| self.dimensions[base].power(w)).ok_or((at, SheetProblem::BadPower))?
        };
        Ok(self.push(Node::Power(base, number), dimension))
    }

    fn call(&mut self, at: usize, function: &str, arguments: &[Expression]) -> Compiled {
        let wrong = |wanted| (at, SheetProblem::Arguments { function: function.to_owned(), wanted });
        if function == "limiting" {
            return self.limiting(at, arguments);
        }
        if let Some(f) = mathematical(function) {
            let [argument] = arguments else { return Err(wrong("one value")) };
            let inner = self.expression(argument)?;
            let dimension = match (f, self.dimensions[inner]) {
                (Function::Absolute, d) => d,
                (_, Dimension::ONE) => Dimension::ONE,
                (_, found) => return Err((at, SheetProblem::NeedsNumber { function: function.to_owned(), found })),
            };
            return Ok(self.push(Node::Function(f, inner), dimension));
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

    fn limiting(&mut self, at: usize, extents: &[Expression]) -> Compiled {
        if extents.len() < 2 {
            let wanted = "the extents of two or more reagents";
            return Err((at, SheetProblem::Arguments { function: "limiting".into(), wanted }));
        }
        let nodes: Vec<usize> = extents.iter().map(|e| self.expression(e)).collect::<Result<_, _>>()?;
        let dimension = self.dimensions[nodes[0]];
        if let Some(other) = nodes.iter().map(|n| self.dimensions[*n]).find(|d| *d != dimension) {
            return Err((at, SheetProblem::Dimensions { left: other, action: "compared with", right: dimension }));
        }
        Ok(self.push(Node::Limiting(nodes), dimension))
    }

    fn material(&self, symbol: &str) -> Result<&'a Material, SheetProblem> {
        self.vocabulary.materials.iter().find(|m| m.symbol == symbol).ok_or_else(|| SheetProblem::UnknownMaterial {
            name: symbol.to_owned(),
            near: nearest(symbol, self.vocabulary.materials.iter().map(|m| m.symbol.as_str())),
        })
    }

    fn molar_mass(&mut self, material: &Material) -> Result<usize, SheetProblem> {
        let missing =
            || SheetProblem::NotStated { material: material.symbol.clone(), property: "formula with a molar mass" };
        let formula = material.formula.as_ref().ok_or_else(missing)?;
        let mass = formula.molar_mass(self.vocabulary.masses).map_err(|_| missing())?;
        // The table's digits: sums of five-figure masses are shown to the thousandth.
        let shown = rounding::decimal_of(mass.value).ok_or_else(missing)?;
        let shown = rounding::to_place(shown, -3, rounding::Ties::HalfUp);
        let contributions = mass
            .contributions
            .iter()
            .map(|(symbol, u)| Contribution {
                source: Source::AtomicMass((*symbol).to_owned()),
                standard_uncertainty: *u,
            })
            .collect();
        let unit = Unit::parse("g/mol")?;
        let given =
            Given { value: mass.value, contributions, precision: Precision::Exact, written: shown.to_string(), unit };
        Ok(self.input(Leaf::MolarMass(material.symbol.clone()), Dimension::MOLAR_MASS, Some(given)))
    }

    fn coefficient(&mut self, material: &Material) -> Result<usize, SheetProblem> {
        let given = Given::exact_digits(Decimal::new(i128::from(coefficient_of(material)?), 0), &Unit::one());
        Ok(self.input(Leaf::Coefficient(material.symbol.clone()), Dimension::ONE, Some(given)))
    }

    fn ratio(&mut self, of: &Material, per: &Material) -> Result<usize, SheetProblem> {
        let (above, below) = (coefficient_of(of)?, coefficient_of(per)?);
        let mut given = Given::exact_digits(Decimal::new(i128::from(above), 0), &Unit::one());
        given.value = f64::from(above) / f64::from(below);
        given.written = if below == 1 { above.to_string() } else { format!("{above}/{below}") };
        Ok(self.input(Leaf::Ratio(of.symbol.clone(), per.symbol.clone()), Dimension::ONE, Some(given)))
    }

    fn stated(
        &mut self,
        material: &Material,
        property: &'static str,
        quantity: Option<&Quantity>,
        leaf: Leaf,
    ) -> Result<usize, SheetProblem> {
        let quantity =
            quantity.ok_or_else(|| SheetProblem::NotStated { material: material.symbol.clone(), property })?;
        let given = Given::stated(format!("{property} of {}", material.symbol), quantity);
        Ok(self.input(leaf, quantity.unit.dimension(), Some(given)))
    }
}

const LEAF_FUNCTIONS: &[&str] = &["M", "coefficient", "ratio", "concentration", "purity", "density"];

fn coefficient_of(material: &Material) -> Result<u32, SheetProblem> {
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
