//! The record: what happened in a class, kept so that it cannot be quietly rewritten.
//!
//! One SQLite file. Events of a run are appended, never updated or deleted; what stands now is folded from them in the
//! same transaction, and can be rebuilt. Acknowledged means on disk: `synchronous=FULL`, one writer thread that
//! commits many waiting jobs at once, readers beside it.
//!
//! Functions here block; a server calls them off its async threads. Times are milliseconds since 1970 (UTC) and always
//! come from the caller: nothing here reads a clock.

mod chain;
mod classes;
mod drafts;
mod error;
mod event;
mod fold;
mod people;
mod practicals;
mod room;
mod runs;
mod visits;
mod writer;

pub use chain::{Head, Verified};
pub use classes::{Class, Enrolled};
pub use drafts::{Draft, DraftChange};
pub use error::StoreError;
pub use event::{
    Actor, Appended, BenchEntry, Message, NewEvent, Release, Review, Reviewed, Ruling, RunStatement, Said, Statement,
};
pub use fold::{BenchState, Entry};
pub use people::{Holder, Person, Session};
pub use practicals::{LIBRARY, PracticalVersion};
pub use runs::{Group, NewGroup, NewRun, OfClass, Run};
pub use visits::{Seat, Visit};
pub use writer::Store;
