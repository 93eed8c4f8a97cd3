//! The lab through its public items: a practical at work, the door question by question, statistics, laws.

// A question is written where it is asked.
#![allow(clippy::needless_pass_by_value)]

mod agreement;
mod bench;
mod bounds;
mod catalogue;
mod class;
mod door;
mod effects;
mod entries;
mod epsom_salt;
mod judgement;
mod library;
mod methods;
mod planning;
mod practical_file;
mod record;
mod roles;
mod several_visits;
mod sheets;
mod statistics;
mod students;
mod sums;
