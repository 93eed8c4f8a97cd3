//! The program as it runs: a real process, a real record, real requests; and the interface in a real browser.

mod access;
mod bad_input;
mod bench;
mod calendar;
mod checking;
mod class;
mod commands;
mod exporting;
mod hostile;
mod importing;
mod instruments;
mod interface;
mod keeping;
mod matrix;
mod planning;
mod practising;
mod preparing;
mod process;
mod recording;
mod several_visits;
mod survives;
mod taking_along;
