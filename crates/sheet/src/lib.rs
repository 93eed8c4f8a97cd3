//! The calculation sheet: every result asked of a group comes out of one.
//!
//! A sheet is an ordered list of named definitions over named readings. Its leaves have chemical meaning (a molar mass
//! of a material, a coefficient, the strength of a solution), so that it knows what each number *is*. It is checked for
//! dimensions once, compiled to a flat [`Program`], and then evaluated with values, sensitivities, standard
//! uncertainty and digits together, explained in words of symbols and numbers, and evaluated again with a student's
//! own earlier value put in.
//!
//! A sheet always ends: there are no loops, no recursion, and a definition sees only what stands before it.

mod candidates;
mod compile;
mod digits;
mod error;
mod evaluate;
mod explain;
mod expression;
mod inputs;
mod kernel;
mod lexer;
mod line;
mod monte_carlo;
mod parser;
mod program;
mod rewrite;
mod vocabulary;

pub use candidates::{Candidate, Candidates};
pub use digits::Precision;
pub use error::{SheetError, SheetProblem, nearest};
pub use evaluate::{Evaluation, Failure, Outcome, Share, Value, trial_name};
pub use explain::{Line, Token, TokenKind};
pub use expression::Leaf;
pub use inputs::{Inputs, Substitute};
pub use kernel::Runner;
pub use monte_carlo::{Drawn, monte_carlo};
pub use parser::{Written, read_definitions};
pub use program::{Definition, Draft, Place, Program};
pub use rewrite::{Act, Change, Gathered, Otherwise, Work};
pub use vocabulary::{Given, Material, Quantity, ReadingName, Repeats, Vocabulary, Writing};
