//! Who may do what: sessions, passphrases, tokens, limits, and the guard that every request passes.

mod guard;
mod limits;
mod passphrase;
mod session;
mod token;

pub use guard::{guard, security_headers};
pub use limits::{Limit, Limits};
pub use passphrase::{hash_passphrase, passphrase_is_right};
pub use session::{
    Bench, Desk, DeskRun, Practising, Role, Staff, StaffRun, cookie, device_of, ended, from_this_machine, host_of,
    token_of,
};
pub use token::{Token, digits, pick};
