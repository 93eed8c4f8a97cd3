//! The practical and all judgement about it.
//!
//! [`practical`] reads the file that defines a practical and compiles its sheet; [`bench`] is the door for what a
//! group says there; [`evaluated`] is a bench with its sheet run once; [`judge`] looks at readings and results while there is
//! still time; [`sheets`] is what is given back of answers; [`check`] judges a group's own answers; [`plan`] says what would follow from the amounts planned; [`group`]
//! puts all of it together for one group's bench.
//!
//! Pure: no clock, no files, no network. The same entries always give the same judgement.

pub mod bench;
pub mod check;
pub mod cohort;
pub mod evaluated;
mod figure;
pub mod group;
pub mod judge;
pub mod marks;
pub mod plan;
pub mod progress;
pub mod record;
pub mod roll;
pub mod secant;
pub mod sheets;

pub use figure::Figure;
