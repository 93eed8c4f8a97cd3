//! What a group says at its bench, and what stands there once it has been said.
//!
//! An [`Entry`] is one thing said: a reading as typed, something seen, a clock started, a departure from the plan, a
//! call for help. [`accepted`] holds it against the practical and the room: it names something that is there, and could
//! be so. Everything that a student types comes through that door. A [`Record`] is everything said at one bench, in order;
//! [`Entries`] is what stands when all has been said.

mod accept;
mod answer;
mod choosing;
mod departure;
mod entries;
mod entry;
mod place;
mod possible;
mod record;
mod refusal;
mod replacing;
mod room;

pub use accept::accepted;
pub use answer::{Answer, Said, UnitGiven};
pub use choosing::{Choosable, StepClock, choosable};
pub use departure::{Departure, Deviation};
pub use entries::{Circumstances, Clock, Entries};
pub use entry::{Entry, EntryKind, Flag, PlaceKind, Taken};
pub use place::{Place, answer_place};
pub use possible::possible;
pub use record::{Actor, Entered, Filed, Record, Standing, Struck, UnknownActor};
pub use refusal::{Impossible, NoAnswer, Refusal, Unsound};
pub use replacing::{StandsAlready, may_replace};
pub use room::{Bottle, BottleMade, Room, RoomItem, Standardised, TaggedVessel};
