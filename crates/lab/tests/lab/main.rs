//! The lab through its public items: a practical at work, the door question by question, statistics, laws.

mod bounds;
mod door;
mod epsom_salt;
mod statistics;
