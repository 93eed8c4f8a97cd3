//! Secrets that are handed out: session tokens, PINs, join codes.

use crate::problem::ApiError;
use anyhow::anyhow;
use sha2::{Digest, Sha256};

/// A session's secret: 256 random bits, as the cookie carries them.
pub struct Token(pub String);

impl Token {
    /// A fresh one.
    pub fn fresh() -> Result<Token, ApiError> {
        let mut bytes = [0u8; 32];
        fill(&mut bytes)?;
        Ok(Token(bytes.iter().map(|b| format!("{b:02x}")).collect()))
    }

    /// What the record keeps of it.
    pub fn hash(text: &str) -> [u8; 32] {
        Sha256::digest(text).into()
    }
}

/// A fresh PIN of a group: six digits.
pub fn fresh_pin() -> Result<String, ApiError> {
    (0..6).map(|_| Ok(char::from(b'0' + u8::try_from(pick(10)?).expect("below ten")))).collect()
}

/// A random index below `below`, each equally likely.
pub fn pick(below: usize) -> Result<usize, ApiError> {
    let mut bytes = [0u8; 8];
    fill(&mut bytes)?;
    // 64 random bits over a few thousand choices: the bias is below 1e-15.
    Ok(usize::try_from(u64::from_le_bytes(bytes) % below.max(1) as u64).expect("below a usize"))
}

fn fill(bytes: &mut [u8]) -> Result<(), ApiError> {
    getrandom::fill(bytes).map_err(|e| ApiError::Internal(anyhow!("no randomness: {e}")))
}
