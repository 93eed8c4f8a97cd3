//! Passphrases are kept as argon2id hashes with the library's recommended cost.

use crate::problem::ApiError;
use anyhow::anyhow;
use argon2::Argon2;
use argon2::password_hash::{PasswordHasher, PasswordVerifier, phc::PasswordHash};
use std::sync::{Mutex, MutexGuard, PoisonError};

/// One at a time: each takes twenty megabytes while it is worked on, and tries come in dozens.
static TURN: Mutex<()> = Mutex::new(());

fn turn() -> MutexGuard<'static, ()> {
    // Nothing is kept behind it that a panic could leave half done.
    TURN.lock().unwrap_or_else(PoisonError::into_inner)
}

/// The hash to keep. Slow on purpose: call it off the async threads.
pub fn hash_passphrase(passphrase: &str) -> Result<String, ApiError> {
    let _turn = turn();
    let hash = Argon2::default().hash_password(passphrase.as_bytes());
    Ok(hash.map_err(|e| ApiError::Internal(anyhow!("argon2: {e}")))?.to_string())
}

/// Whether a kept hash is of this passphrase. Slow on purpose: call it off the async threads.
pub fn passphrase_is_right(passphrase: &str, kept: &str) -> bool {
    let _turn = turn();
    PasswordHash::new(kept).is_ok_and(|hash| Argon2::default().verify_password(passphrase.as_bytes(), &hash).is_ok())
}
