//! Quantities of the practical: what a number on the bench means.
//!
//! A *reading* is decimal text as typed, with a unit and an instrument. This crate keeps its digits ([`Decimal`]),
//! gives it a dimension ([`Unit`], [`Dimension`]), says how sure it is ([`Instrument`]) and how it is written
//! ([`rounding`]). It knows no chemistry.

mod decimal;
mod dimension;
mod instrument;
pub mod rounding;
mod unit;

pub use decimal::{Decimal, DecimalError, DecimalProblem, MAX_TYPED_CHARACTERS};
pub use dimension::Dimension;
pub use instrument::{Contribution, Instrument, InstrumentKind, Source, rectangular};
pub use unit::{Unit, UnitError};
