//! Keeping the record: backups made by themselves, each tried by restoring it; which are kept how long; putting one back.

mod backup;
mod restore;
mod turns;

use backup::make;
pub use backup::{Backup, faults_of, is_backup, write_to};
pub use restore::{into_folder, into_running};
pub use turns::day_of;

use crate::clock::Clock;
use std::path::{Path, PathBuf};
use std::sync::{Mutex, MutexGuard};
use store::Store;

/// Name of the record in its folder.
pub const RECORD: &str = "record.db";

/// Where backups lie, and how the last one went.
#[derive(Debug)]
pub struct Keeping {
    /// The folder of the record.
    pub data: PathBuf,
    /// Where each backup is written: the first beside the record, others where the school said.
    pub folders: Vec<PathBuf>,
    state: Mutex<State>,
}

/// How keeping goes.
#[derive(Debug, Default, Clone)]
pub struct State {
    /// Why the last backup is none, and when it was tried, in ms.
    pub failed: Option<(i64, String)>,
}

impl Keeping {
    /// Of the record in `data`, in a folder beside it and in `others`.
    pub fn of(data: &Path, others: &[PathBuf]) -> Keeping {
        let folders = [data.join("backups")].into_iter().chain(others.iter().cloned()).collect();
        Keeping { data: data.to_owned(), folders, state: Mutex::default() }
    }

    /// How it goes.
    pub fn state(&self) -> State {
        self.lock().clone()
    }

    /// Makes a backup in every folder now, one at a time; what is no longer kept goes. The failure is remembered.
    ///
    /// # Errors
    /// What the disk says, in words.
    pub fn back_up(&self, store: &Store, clock: Clock) -> anyhow::Result<()> {
        let mut state = self.lock();
        let now = clock.now();
        let done = self.folders.iter().try_for_each(|folder| {
            make(store, &self.data, folder, now)?;
            turns::drop_old(folder, now)
        });
        state.failed = done.as_ref().err().map(|why| (now, format!("{why:#}")));
        done
    }

    /// The backups in the first folder, the newest first; those in the others are copies of them.
    pub fn backups(&self) -> Vec<Backup> {
        self.folders.iter().flat_map(|folder| backup::in_folder(folder)).collect()
    }

    fn lock(&self) -> MutexGuard<'_, State> {
        // A panic while one is made leaves nothing half changed here.
        self.state.lock().unwrap_or_else(std::sync::PoisonError::into_inner)
    }
}
