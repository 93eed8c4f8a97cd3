//! The lab through its public items: a practical at work, its sums, its class, its plan.

// A question is written where it is asked.
#![allow(clippy::needless_pass_by_value)]

mod agreement;
mod bench;
mod carried;
mod catalogue;
mod class;
mod effects;
mod entries;
mod epsom_salt;
mod judgement;
mod library;
mod measured;
mod methods;
mod planning;
mod record;
mod refusals;
mod roles;
mod schools;
mod several_visits;
mod sheets;
mod students;
mod sums;
mod tables;
