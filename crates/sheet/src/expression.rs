//! The parsed form of one definition.

use measure::{Decimal, Unit};

/// A part of an expression with its place in the line (characters from 0).
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Expression {
    pub at: usize,
    pub kind: Kind,
}

#[derive(Debug, Clone, PartialEq)]
pub(crate) enum Kind {
    Number { value: Decimal, unit: Unit },
    Name(String),
    Call { function: String, arguments: Vec<Expression> },
    Negative(Box<Expression>),
    Binary { operator: Operator, left: Box<Expression>, right: Box<Expression> },
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Operator {
    Plus,
    Minus,
    Times,
    Over,
    Power,
}

impl Operator {
    /// How tightly it binds, and its sign in a worked solution.
    pub fn shown(self) -> (u8, &'static str) {
        match self {
            Operator::Plus => (1, "+"),
            Operator::Minus => (1, "\u{2212}"),
            Operator::Times => (2, "×"),
            Operator::Over => (2, "÷"),
            Operator::Power => (4, "^"),
        }
    }
}

/// A leaf with chemical meaning.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub enum Leaf {
    /// A reading of the group.
    Reading(String),
    /// A reading that is repeated: its symbol, and which one, from 0.
    Trial(String, usize),
    /// Molar mass of a material.
    MolarMass(String),
    /// Stoichiometric coefficient of a material.
    Coefficient(String),
    /// Coefficient of the first material over that of the second.
    Ratio(String, String),
    /// Amount concentration of a solution.
    Concentration(String),
    /// Mass fraction of the substance in a material.
    Purity(String),
    /// Density of a liquid.
    Density(String),
    /// Mass of the substance in a volume of its solution.
    MassConcentration(String),
    /// A number that stands in the sheet itself.
    Number,
}
