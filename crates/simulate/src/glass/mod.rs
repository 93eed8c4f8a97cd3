//! Instruments under somebody's hands: what was done to one, and what it shows then.
//!
//! Each is a fold over acts: the same acts on the same thing show the same. Volumes in mL, masses in g, times in s.

mod balance;
mod scale;
mod titration;

pub use balance::{BalanceAct, Pan, Shown, Weighing};
pub use scale::{MeniscusTask, ScaleKind, Scatter, judged, menisci};
pub use titration::{Flask, Seen, Titrating, TitrationAct, TitreTold};
