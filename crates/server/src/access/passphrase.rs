//! Passphrases are kept as argon2id hashes with the library's recommended cost.

use crate::problem::ApiError;
use anyhow::anyhow;
use argon2::Argon2;
use argon2::password_hash::{PasswordHasher, PasswordVerifier, phc::PasswordHash};
use std::sync::mpsc::{SyncSender, TrySendError, sync_channel};
use tokio::sync::oneshot;

/// Tries that wait for their turn; whoever comes then is told to come again.
const MOST_WAITING: usize = 32;
/// How soon, s.
const COME_AGAIN: u64 = 3;

type Job = Box<dyn FnOnce() + Send>;

/// Hashes passphrases, one at a time and on a thread of its own: each takes twenty megabytes and a core while it is worked
/// on, tries come in dozens, and the threads that serve the class neither wait for them nor keep their memory.
#[derive(Debug)]
pub struct Passphrases {
    jobs: SyncSender<Job>,
}

impl Default for Passphrases {
    fn default() -> Passphrases {
        let (jobs, waiting) = sync_channel::<Job>(MOST_WAITING);
        std::thread::spawn(move || waiting.into_iter().for_each(|job| job()));
        Passphrases { jobs }
    }
}

impl Passphrases {
    /// The hash to keep.
    ///
    /// # Errors
    /// [`ApiError::TooMany`] when too many wait already.
    pub async fn hash(&self, passphrase: String) -> Result<String, ApiError> {
        self.in_turn(move || hash_passphrase(&passphrase)).await?
    }

    /// Whether a kept hash is of this passphrase. Where there is none it takes as long, so that time tells nobody who has
    /// an account.
    ///
    /// # Errors
    /// [`ApiError::TooMany`] when too many wait already.
    pub async fn is_right(&self, passphrase: String, kept: Option<String>) -> Result<bool, ApiError> {
        self.in_turn(move || match kept {
            Some(kept) => is_of(&passphrase, &kept),
            // What comes out is thrown away.
            None => hash_passphrase(&passphrase).is_err(),
        })
        .await
    }

    async fn in_turn<T: Send + 'static>(&self, work: impl FnOnce() -> T + Send + 'static) -> Result<T, ApiError> {
        let (done, result) = oneshot::channel();
        let job = Box::new(move || {
            // Whoever asked may have gone.
            let _ = done.send(work());
        });
        self.jobs.try_send(job).map_err(|full| match full {
            TrySendError::Full(_) => ApiError::TooMany(COME_AGAIN),
            TrySendError::Disconnected(_) => ApiError::Internal(anyhow!("nobody hashes passphrases any more")),
        })?;
        result.await.map_err(|e| ApiError::Internal(e.into()))
    }
}

/// The hash to keep, made here and now: for the console.
pub fn hash_passphrase(passphrase: &str) -> Result<String, ApiError> {
    let hash = Argon2::default().hash_password(passphrase.as_bytes());
    Ok(hash.map_err(|e| ApiError::Internal(anyhow!("argon2: {e}")))?.to_string())
}

fn is_of(passphrase: &str, kept: &str) -> bool {
    PasswordHash::new(kept).is_ok_and(|hash| Argon2::default().verify_password(passphrase.as_bytes(), &hash).is_ok())
}
