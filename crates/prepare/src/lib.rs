//! What stands on the trolley, and whether it fits the lesson.

pub mod schedule;
