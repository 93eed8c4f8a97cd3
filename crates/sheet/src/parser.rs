//! From the lines of a sheet to expressions.
//!
//! Precedence, loosest first: `+ −`, `× ÷`, a leading minus, `^`. A name after a number is its unit (`25.0 mL`,
//! `1.00 mol/L`): there is no multiplication without a sign.

use crate::error::{SheetError, SheetProblem};
use crate::expression::{Expression, Kind, Operator};
use crate::lexer::{Word, words};
use measure::{Decimal, Unit};

const MAX_LINES: usize = 400;
const MAX_LINE: usize = 400;
const MAX_DEPTH: usize = 40;

/// One definition as written in a sheet's text.
#[derive(Debug, Clone, PartialEq)]
pub struct Written {
    /// Left of the `=`.
    pub name: String,
    /// Right of the `=`, blanks and comment kept, padded so that columns are those of the line.
    pub expression: String,
    /// From 1.
    pub line: usize,
}

/// The definitions of a sheet's text, one a line; empty lines and `#` comments do not count.
///
/// # Errors
/// [`SheetError`] for a line that is no definition, or a text beyond bounds.
pub fn read_definitions(text: &str) -> Result<Vec<Written>, SheetError> {
    let mut out = Vec::new();
    for (i, line) in text.lines().enumerate() {
        let fail =
            |problem| Err(SheetError { definition: line.chars().take(40).collect(), line: i + 1, column: 1, problem });
        if i >= MAX_LINES {
            return fail(SheetProblem::TooMuch("400 lines"));
        }
        if line.chars().take(MAX_LINE + 1).count() > MAX_LINE {
            return fail(SheetProblem::TooMuch("400 characters in a line"));
        }
        let code = line.split('#').next().unwrap_or_default();
        if code.trim().is_empty() {
            continue;
        }
        let Some((name, expression)) = code.split_once('=') else { return fail(SheetProblem::NoDefinition) };
        let padding = " ".repeat(name.chars().count() + 1);
        out.push(Written { name: name.trim().to_owned(), expression: padding + expression, line: i + 1 });
    }
    Ok(out)
}

pub(crate) fn parse_expression(text: &str) -> Result<Expression, (usize, SheetProblem)> {
    if text.chars().take(MAX_LINE * 2 + 1).count() > MAX_LINE * 2 {
        return Err((0, SheetProblem::TooMuch("400 characters in a line")));
    }
    let mut parser = Parser { words: words(text)?, at: 0, end: text.chars().count(), depth: 0 };
    let expression = parser.sum()?;
    match parser.words.get(parser.at) {
        None => Ok(expression),
        Some((at, word)) => Err((*at, SheetProblem::Unexpected(shown(word)))),
    }
}

struct Parser {
    words: Vec<(usize, Word)>,
    at: usize,
    end: usize,
    depth: usize,
}

type Parsed = Result<Expression, (usize, SheetProblem)>;

impl Parser {
    fn place(&self) -> usize {
        self.words.get(self.at).map_or(self.end, |(at, _)| *at)
    }

    fn sign(&self, ahead: usize) -> Option<char> {
        match self.words.get(self.at + ahead) {
            Some((_, Word::Sign(c))) => Some(*c),
            _ => None,
        }
    }

    fn name(&self, ahead: usize) -> Option<&str> {
        match self.words.get(self.at + ahead) {
            Some((_, Word::Name(n))) => Some(n),
            _ => None,
        }
    }

    fn deeper(&mut self, inner: impl FnOnce(&mut Self) -> Parsed) -> Parsed {
        self.depth += 1;
        if self.depth > MAX_DEPTH {
            return Err((self.place(), SheetProblem::TooDeep));
        }
        let parsed = inner(self);
        self.depth -= 1;
        parsed
    }

    fn sum(&mut self) -> Parsed {
        self.chain(&[('+', Operator::Plus), ('-', Operator::Minus)], Self::product)
    }

    fn product(&mut self) -> Parsed {
        self.chain(&[('*', Operator::Times), ('/', Operator::Over)], Self::signed)
    }

    fn chain(&mut self, operators: &[(char, Operator)], next: fn(&mut Self) -> Parsed) -> Parsed {
        let mut left = next(self)?;
        while let Some(&(_, operator)) = operators.iter().find(|(c, _)| self.sign(0) == Some(*c)) {
            let at = self.place();
            self.at += 1;
            let right = next(self)?;
            left = Expression { at, kind: Kind::Binary { operator, left: Box::new(left), right: Box::new(right) } };
        }
        Ok(left)
    }

    fn signed(&mut self) -> Parsed {
        let at = self.place();
        if self.sign(0) == Some('-') {
            self.at += 1;
            let inner = self.deeper(Self::signed)?;
            return Ok(Expression { at, kind: Kind::Negative(Box::new(inner)) });
        }
        let base = self.atom()?;
        if self.sign(0) != Some('^') {
            return Ok(base);
        }
        let at = self.place();
        self.at += 1;
        let right = self.deeper(Self::signed)?;
        Ok(Expression {
            at,
            kind: Kind::Binary { operator: Operator::Power, left: Box::new(base), right: Box::new(right) },
        })
    }

    fn atom(&mut self) -> Parsed {
        let at = self.place();
        let Some((_, word)) = self.words.get(self.at).cloned() else { return Err((at, SheetProblem::Ended)) };
        self.at += 1;
        match word {
            Word::Number(text) => {
                let value = Decimal::parse(&text).map_err(|e| (at, SheetProblem::Number(e.to_string())))?;
                let unit = self.unit().map_err(|e| (at, e))?;
                Ok(Expression { at, kind: Kind::Number { value, unit } })
            }
            Word::Name(function) if self.sign(0) == Some('(') => {
                self.at += 1;
                let mut arguments = vec![self.deeper(Self::sum)?];
                while self.sign(0) == Some(',') {
                    self.at += 1;
                    arguments.push(self.deeper(Self::sum)?);
                }
                self.closing()?;
                Ok(Expression { at, kind: Kind::Call { function, arguments } })
            }
            Word::Name(name) => Ok(Expression { at, kind: Kind::Name(name) }),
            Word::Sign('(') => {
                let inner = self.deeper(Self::sum)?;
                self.closing()?;
                Ok(inner)
            }
            Word::Sign(_) => Err((at, SheetProblem::Unexpected(shown(&word)))),
        }
    }

    fn closing(&mut self) -> Result<(), (usize, SheetProblem)> {
        if self.sign(0) == Some(')') {
            self.at += 1;
            return Ok(());
        }
        let at = self.place();
        Err((at, self.words.get(self.at).map_or(SheetProblem::Ended, |(_, w)| SheetProblem::Unexpected(shown(w)))))
    }

    /// The unit after a number: `%`, `mL`, `mol/L`. A slash goes on with the unit only where a unit follows it.
    fn unit(&mut self) -> Result<Unit, SheetProblem> {
        if self.sign(0) == Some('%') {
            self.at += 1;
            return Ok(Unit::parse("%")?);
        }
        let Some(name) = self.name(0) else { return Ok(Unit::one()) };
        let mut written = name.to_owned();
        self.at += 1;
        while self.sign(0) == Some('/') && self.sign(2) != Some('(') {
            match self.name(1).filter(|n| Unit::is_one(n)) {
                Some(below) => written = format!("{written}/{below}"),
                None => break,
            }
            self.at += 2;
        }
        Ok(Unit::parse(&written)?)
    }
}

fn shown(word: &Word) -> String {
    match word {
        Word::Name(text) | Word::Number(text) => text.chars().take(20).collect(),
        Word::Sign(c) => c.to_string(),
    }
}
