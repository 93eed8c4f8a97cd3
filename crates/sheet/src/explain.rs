//! The worked solution: each definition as symbols, as numbers with units, and its result.
//!
//! The lines come from the same expressions that are evaluated, so that a worked answer and a mark cannot disagree.
//! A token knows the reading it shows, so that a number on screen leads back to who read it and when.

use crate::evaluate::Evaluation;
use crate::expression::{Expression, Kind, Leaf, Operator};
use crate::program::Definition;
use crate::trial_name;
use measure::rounding::{Ties, decimal_of, to_place};
use serde::Serialize;

/// One line of a worked solution.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Line {
    /// Name of the definition.
    pub name: String,
    /// The expression in symbols.
    pub symbols: Vec<Token>,
    /// The same with numbers and units; empty while readings are missing.
    pub numbers: Vec<Token>,
    /// The result in its unit with the digits it has earned; none while readings are missing.
    pub result: Option<String>,
    /// Unit of the result.
    pub unit: String,
}

/// A piece of an expression.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Token {
    /// What it is, for setting.
    pub kind: TokenKind,
    /// Its characters.
    pub text: String,
    /// The reading that this number is, if it is one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub reading: Option<String>,
}

/// How a piece is set.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum TokenKind {
    /// A name of the sheet, set as a quantity symbol.
    Symbol,
    /// A function or property, set upright.
    Word,
    /// Digits.
    Number,
    /// Upright, after a thin space.
    Unit,
    /// Signs and brackets.
    Sign,
}

impl Evaluation<'_> {
    /// The worked solution of the definition called `name`: every definition that it hangs on, in order, itself last.
    #[must_use]
    pub fn worked(&self, name: &str) -> Vec<Line> {
        let Some(target) = self.program().definition(name) else { return Vec::new() };
        let mut wanted = vec![target];
        let mut next = 0;
        while next < wanted.len() {
            for used in self.program().definitions_in(wanted[next]) {
                if !wanted.contains(&used) {
                    wanted.push(used);
                }
            }
            next += 1;
        }
        self.lines(self.program().definitions().iter().filter(|d| wanted.contains(d)))
    }

    /// Every definition of the sheet worked out, in order.
    #[must_use]
    pub fn all_worked(&self) -> Vec<Line> {
        self.lines(self.program().definitions().iter())
    }

    fn lines<'d>(&self, definitions: impl Iterator<Item = &'d Definition>) -> Vec<Line> {
        definitions
            .flat_map(|d| match &d.repeats {
                // Trials that have not begun are not shown.
                Some(repeats) => (0..repeats.most)
                    .filter(|t| self.number_at(d.root + t).is_some())
                    .map(|t| self.line(d, Some(t)))
                    .collect::<Vec<_>>(),
                None => vec![self.line(d, None)],
            })
            .collect()
    }

    /// The result of the definition called `name`, in its unit, to the figures it has earned by the school rule.
    #[must_use]
    pub fn shown(&self, name: &str) -> Option<String> {
        let definition = self.program().definition(name).filter(|d| d.repeats.is_none())?;
        self.shown_node(definition, definition.root)
    }

    fn shown_node(&self, definition: &Definition, node: usize) -> Option<String> {
        if self.program().is_formula(definition) {
            return self.formula(definition).or_else(|| self.molar_mass(definition));
        }
        let unit = &definition.unit;
        let exact = decimal_of(unit.from_base(self.number_at(node)?))?;
        Some(self.precision(node).rounded(exact, unit, self.program().writing().fives).to_string())
    }

    /// Molar mass of a formula that the sheet has found, with the table's digits.
    fn molar_mass(&self, formula: &Definition) -> Option<String> {
        let mass = decimal_of(self.number_at(formula.root)?)?;
        Some(to_place(mass, -3, Ties::HalfUp).to_string())
    }

    fn line(&self, definition: &Definition, trial: Option<usize>) -> Line {
        let result = self.shown_node(definition, definition.root + trial.unwrap_or(0));
        let writer = Writer { numbers: result.is_some().then_some(self), trial };
        Line {
            name: trial.map_or_else(|| definition.name.clone(), |t| trial_name(&definition.name, t)),
            symbols: Writer { numbers: None, trial }.write(&definition.expression),
            numbers: if result.is_some() { writer.write(&definition.expression) } else { Vec::new() },
            result,
            unit: if self.formula(definition).is_some() { "1" } else { definition.unit.written() }.to_owned(),
        }
    }
}

/// Writes an expression in symbols, or with the numbers of an evaluation.
struct Writer<'a, 'p> {
    numbers: Option<&'a Evaluation<'p>>,
    /// Which trial, where the definition has one value for each.
    trial: Option<usize>,
}

impl Writer<'_, '_> {
    fn write(&self, expression: &Expression) -> Vec<Token> {
        let mut out = Vec::new();
        self.part(expression, 0, &mut out);
        out
    }

    /// `binds`: how tightly the surroundings bind; an expression that binds less gets brackets.
    fn part(&self, expression: &Expression, binds: u8, out: &mut Vec<Token>) {
        match &expression.kind {
            Kind::Number { value, unit } => quantity(&value.to_string(), unit.written(), None, out),
            Kind::Name(name) => {
                let begins = out.len();
                self.name(name, out);
                // 1 − (−813 kJ/mol): a number below zero stands in brackets beside a sign.
                let below_zero = |t: &Token| t.kind == TokenKind::Number && t.text.starts_with(['-', '\u{2212}']);
                if binds > 0 && out.get(begins).is_some_and(below_zero) {
                    out.insert(begins, token(TokenKind::Sign, "("));
                    sign(")", out);
                }
            }
            Kind::Call { function, arguments } => self.call(function, arguments, out),
            Kind::Negative(inner) => {
                sign("\u{2212}", out);
                self.part(inner, 3, out);
            }
            Kind::Binary { operator, left, right } => {
                let (own, shown) = operator.shown();
                let brackets = own < binds;
                if brackets {
                    sign("(", out);
                }
                self.part(left, own, out);
                sign(shown, out);
                // a − (b + c) and a ÷ (b × c) need their brackets.
                let tighter = matches!(operator, Operator::Minus | Operator::Over | Operator::Power);
                self.part(right, own + u8::from(tighter), out);
                if brackets {
                    sign(")", out);
                }
            }
        }
    }

    fn name(&self, name: &str, out: &mut Vec<Token>) {
        let Some(evaluation) = self.numbers else {
            out.push(token(TokenKind::Symbol, name));
            return;
        };
        let repeats = evaluation.program().repeats_of(name);
        let trials: Vec<usize> = match (repeats, self.trial) {
            (None, _) => vec![0],
            (Some(_), Some(trial)) => vec![trial],
            // Inside a fold: every value that takes part, one after the other.
            (Some(r), None) => (r.rough..r.most).collect(),
        };
        let mut first = true;
        for trial in trials {
            let (number, unit, reading) = if let Some(definition) = evaluation.program().definition(name) {
                match evaluation.shown_node(definition, definition.root + trial) {
                    Some(number) => (number, definition.unit.written().to_owned(), None),
                    None => continue,
                }
            } else {
                let leaf = match repeats {
                    Some(_) => Leaf::Trial(name.to_owned(), trial),
                    None => Leaf::Reading(name.to_owned()),
                };
                match evaluation.given_of(&leaf) {
                    Some(given) => (given.written.clone(), given.unit.written().to_owned(), Some(name)),
                    None => continue,
                }
            };
            if !first {
                sign(",", out);
            }
            first = false;
            quantity(&number, &unit, reading, out);
        }
    }

    fn call(&self, function: &str, arguments: &[Expression], out: &mut Vec<Token>) {
        let names: Vec<&str> = arguments
            .iter()
            .filter_map(|a| match &a.kind {
                Kind::Name(n) => Some(n.as_str()),
                _ => None,
            })
            .collect();
        let leaf = match (function, &names[..]) {
            ("M", [m]) => Some(Leaf::MolarMass((*m).to_owned())),
            ("coefficient", [m]) => Some(Leaf::Coefficient((*m).to_owned())),
            ("ratio", [of, per]) => Some(Leaf::Ratio((*of).to_owned(), (*per).to_owned())),
            ("concentration", [m]) => Some(Leaf::Concentration((*m).to_owned())),
            ("purity", [m]) => Some(Leaf::Purity((*m).to_owned())),
            ("density", [m]) => Some(Leaf::Density((*m).to_owned())),
            ("mass_concentration", [m]) => Some(Leaf::MassConcentration((*m).to_owned())),
            _ => None,
        };
        if let Some(given) = leaf.as_ref().and_then(|l| self.numbers.and_then(|e| e.given_of(l))) {
            quantity(&given.written, given.unit.written(), None, out);
            return;
        }
        if let (Some(evaluation), "M", [name]) = (self.numbers, function, &names[..])
            && let Some(found) = evaluation.program().definition(name)
            && let Some(mass) = evaluation.molar_mass(found)
        {
            quantity(&mass, "g/mol", None, out);
            return;
        }
        out.push(token(TokenKind::Word, spoken(function)));
        sign("(", out);
        if function == "formula" {
            // The ratio of the amounts says it all.
            let named = |pair: &&[Expression]| matches!(pair[0].kind, Kind::Name(_));
            for (i, pair) in arguments.chunks_exact(2).take_while(named).enumerate() {
                if i > 0 {
                    sign(":", out);
                }
                self.part(&pair[1], 0, out);
            }
            sign(")", out);
            return;
        }
        for (i, argument) in arguments.iter().enumerate() {
            if i > 0 {
                sign(",", out);
            }
            match names.get(i).filter(|_| leaf.is_some()) {
                // A material is named, it is no quantity.
                Some(material) => out.push(token(TokenKind::Word, &material.replace('_', " "))),
                None => self.part(argument, 0, out),
            }
        }
        sign(")", out);
    }
}

/// A function in the words of a worked solution.
fn spoken(function: &str) -> &str {
    match function {
        "limiting" => "smallest of",
        "concordant_mean" => "mean of the concordant",
        "mean_without_outlier" => "mean without the outlier of",
        "last_agreeing" => "last of those that agree of",
        "mean" => "mean of",
        "formula" => "whole numbers for",
        "acid_pH" | "base_pH" => "pH",
        other => other,
    }
}

fn token(kind: TokenKind, text: &str) -> Token {
    Token { kind, text: text.to_owned(), reading: None }
}

fn sign(text: &str, out: &mut Vec<Token>) {
    out.push(token(TokenKind::Sign, text));
}

fn quantity(number: &str, unit: &str, reading: Option<&str>, out: &mut Vec<Token>) {
    out.push(Token { reading: reading.map(str::to_owned), ..token(TokenKind::Number, number) });
    if unit != "1" {
        out.push(token(TokenKind::Unit, unit));
    }
}
