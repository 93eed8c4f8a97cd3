//! An equation: whether it balances as typed, and how it would.

use super::ComputeError;
use chem::{Balance, Equation, Run};
use serde::{Deserialize, Serialize};

/// A question about an equation.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct EquationQuestion {
    /// As typed.
    pub equation: String,
}

/// What is known about an equation.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EquationAnswer {
    /// For setting, as typed.
    pub runs: Vec<Run>,
    /// Whether it balances with the coefficients typed.
    pub balanced_as_typed: bool,
    /// What differs as typed.
    pub differences: Vec<Difference>,
    /// Independent ways that conserve everything, signs aside: 1 for an equation that balances in one way.
    pub dimension: usize,
    /// How it balances.
    pub balance: Balanced,
}

/// An element, or charge, that is not conserved.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Difference {
    /// Symbol, or `charge`.
    pub what: String,
    /// On the left.
    pub left: f64,
    /// On the right.
    pub right: f64,
}

/// How an equation balances.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "status", rename_all = "kebab-case")]
pub enum Balanced {
    /// One way.
    Unique {
        /// Smallest whole coefficients, in the order typed.
        reactants: Vec<String>,
        /// The same of the products.
        products: Vec<String>,
        /// For setting, balanced.
        runs: Vec<Run>,
    },
    /// No way.
    Impossible {
        /// In words.
        reason: String,
    },
    /// Several independent reactions written as one.
    Underdetermined {
        /// One way of many: reactants, then products.
        example: Vec<String>,
    },
}

pub(super) fn answer(question: &EquationQuestion) -> Result<EquationAnswer, ComputeError> {
    let equation = Equation::parse(&question.equation)?;
    let words = |v: &[_]| v.iter().map(ToString::to_string).collect::<Vec<String>>();
    let (dimension, balance) = match equation.balance() {
        Balance::Unique { reactants, products } => {
            let runs = equation.with_coefficients(&reactants, &products).map(|e| e.runs()).unwrap_or_default();
            (1, Balanced::Unique { reactants: words(&reactants), products: words(&products), runs })
        }
        Balance::Impossible { why, dimension } => (dimension, Balanced::Impossible { reason: why.to_string() }),
        Balance::Underdetermined { dimension, example } => {
            (dimension, Balanced::Underdetermined { example: words(&example) })
        }
    };
    let differing = equation.check().err().map(|i| i.differences).unwrap_or_default();
    let differences: Vec<Difference> =
        differing.into_iter().map(|(what, left, right)| Difference { what, left, right }).collect();
    Ok(EquationAnswer {
        runs: equation.runs(),
        balanced_as_typed: differences.is_empty(),
        differences,
        dimension,
        balance,
    })
}
