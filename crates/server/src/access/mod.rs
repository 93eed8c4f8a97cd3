//! Who may do what: sessions, passphrases, tokens, limits, and the guard that every request passes.

mod asker;
mod connections;
mod guard;
mod guesses;
mod limits;
mod passphrase;
mod session;
mod token;

pub use asker::{Asker, address_of, asker_of, from_this_machine, host_of, is_secure, written_address};
pub use connections::Connections;
pub use guard::{HEAD_TAKES, guard, security_headers};
pub use guesses::{Guesses, WrongPins};
pub use limits::{Allowance, Limit, Limits};
pub use passphrase::{Passphrases, hash_passphrase};
pub use session::{Bench, Desk, DeskRun, Practising, Role, Staff, StaffRun, cookie, ended, token_of};
pub use token::{Token, fresh_pin, pick};
