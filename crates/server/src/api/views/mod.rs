//! What pages are shown, where several handlers show the same.

mod at_work;
mod people;
mod run;
mod sheets;
mod specs;

pub use at_work::{ClockView, GroupAtWork, Row, at_work, clocks, groups_at_work, rows};
pub use people::{PersonView, name_of, seated_at};
pub use run::{RunHead, VisitView, address, join_address, run_head, run_line, visits};
pub use sheets::{Reviews, SheetView, marks_shown, sheet_key, sheet_name, sheets};
pub use specs::{Named, ReadingSpec, ResultSpec, named_materials, reagents, result_specs};
