//! What stands on the trolley, and whether it fits the lesson.
//!
//! Pure: a practical, a class and a room in; amounts, things and a timetable out. Ticks, bottles and people are the store's.

pub mod amounts;
pub mod schedule;
