//! The record: what happened in a class, kept so that it cannot be quietly rewritten.
//!
//! One SQLite file. Events of a run are appended, never updated or deleted; what stands now is folded from them by the core
//! when it is asked for, and kept nowhere. Acknowledged means on disk: `synchronous=FULL`, one writer thread that
//! commits many waiting jobs at once, readers beside it.
//!
//! Functions here block; a server calls them off its async threads. Times are milliseconds since 1970 (UTC) and always
//! come from the caller: nothing here reads a clock.

mod bench;
mod calendar;
mod chain;
mod classes;
mod db;
mod devices;
mod drafts;
mod error;
mod event;
mod examine;
mod people;
mod practicals;
mod preparations;
mod room;
mod runs;
mod said;
mod school;
mod seal;
mod signed;
mod stock;
mod visits;
mod whole;

pub use chain::Head;
pub use classes::{Class, Enrolled};
pub use db::{Erasure, Store};
pub use devices::Device;
pub use drafts::{Draft, DraftChange};
pub use error::{CannotKeep, StoreError};
pub use event::{Appended, Message};
pub use examine::{Examined, Fault, Look, MOST_FAULTS, examine};
pub use people::{Holder, Person, Session, SignedIn};
pub use practicals::{LIBRARY, PracticalVersion};
pub use preparations::Tick;
pub use runs::{Group, NewGroup, NewRun, OfClass, Rehearsal, Run};
pub use said::{NewEvent, Release, Review, Reviewed, RunKind, RunStatement, Said, Statement};
pub use school::Chosen;
pub use signed::{NextTime, ProductKept, SignOff};
pub use stock::InStock;
pub use whole::{Lesson, WHOLE_FORMAT, WholeEvent, WholeGroup, WholeRun, WholeSeat};
