//! A group's own answers: judged on value, unit and digits apart, carried forward, and explained.
//!
//! *Error carried forward*: a wrong answer that is right with the student's own earlier answers put in costs nothing here;
//! the mark is lost once, where it went wrong. *Diagnosis*: a wrong answer that nothing earlier explains is compared with
//! what every slip of the catalogue would have made of the group's own readings; a slip is named only when it has a clear
//! lead over the others and over "some other number".
//!
//! What must stay true: a student is never blamed for what the evidence does not show. Where it is not clear, the verdict
//! says that it is wrong and stays silent about why.

mod at_leaves;
mod at_measured;
mod at_molar_masses;
mod at_nodes;
mod at_parts;
mod at_readings;
mod at_volumes;
mod carried;
mod could;
mod diagnosis;
mod formulas;
mod in_formulas;
mod in_writing;
mod judge;
mod on_the_way;
mod reach;
mod smallest;
mod sums;
mod verdict;

pub use could::{Could, SlipMade};
pub(crate) use judge::precision_by;
pub use verdict::{
    Comparison, Diagnosis, DigitsVerdict, Explanation, Labelled, SlipPlace, Stands, UnitVerdict, ValueVerdict, Verdict,
    WrittenBy,
};
