//! Chemistry that needs no laboratory: elements, formulas, molar masses, equations.
//!
//! It knows no units beyond g/mol and no readings.

mod acid_base;
mod balance;
mod composition;
mod elements;
mod equation;
mod formula;
mod indicator;
mod molar_mass;
mod notation;
mod water;

pub use acid_base::{AcidBase, Equilibrium, Role as AcidBaseRole, Solution, Titration};
pub use balance::{Balance, Impossible};
pub use composition::{Atom, Composition};
pub use elements::{ELEMENTS, Element, element};
pub use equation::{Coefficient, Equation, EquationError, Imbalance, Term, number};
pub use formula::{DOTS, Formula, FormulaError, FormulaProblem, MAX_FORMULA_CHARACTERS};
pub use indicator::Indicator;
pub use molar_mass::{MassTable, MolarMass, NoStandardMass};
pub use notation::{Run, Script};
pub use water::vapour_pressure_of_water;
