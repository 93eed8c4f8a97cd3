//! Quantities of the practical: what a number on the bench means.
//!
//! A *reading* is decimal text as typed, with a unit and an instrument. This crate keeps its digits ([`Decimal`]),
//! gives it a dimension ([`Unit`], [`Dimension`]), says how sure it is ([`Instrument`]) and how it is written
//! ([`rounding`]). It knows no chemistry.

mod concordance;
mod decimal;
mod dimension;
mod glassware;
mod instrument;
mod numeral;
mod outlier;
pub mod rounding;
mod uncertainty;
mod unit;
mod written;

pub use concordance::{Concordance, concordance};
pub use decimal::{Decimal, DecimalError, DecimalProblem, MAX_TYPED_CHARACTERS};
pub use dimension::Dimension;
pub use glassware::{Class, GLASSWARE, Glassware, glassware};
pub use instrument::{Contribution, Distribution, Instrument, InstrumentKind, Source, Tolerances, rectangular};
pub use outlier::{Grubbs, grubbs};
pub use uncertainty::{Component, combined};
pub use unit::{Unit, UnitError};
pub use written::{Written, WrittenError};
