//! Keeping the record: backups made by themselves, each tried by restoring it; which are kept how long; putting one back.

mod backup;
mod restore;
mod turns;

pub use backup::{Backup, file_faults, is_backup, write_to};
pub use restore::{into_folder, into_running};

use crate::clock::Clock;
use backup::{Why, in_folder, make};
use std::cmp::Reverse;
use std::path::{Path, PathBuf};
use std::sync::{Mutex, MutexGuard, PoisonError};
use store::Store;
use turns::{day_of, drop_old};

/// Name of the record in its folder.
pub const RECORD: &str = "record.db";

/// Where backups lie, and how the last one went.
#[derive(Debug)]
pub struct Keeping {
    /// The folder of the record.
    data: PathBuf,
    /// Where each backup is written: the first beside the record, others where the school said.
    pub folders: Vec<PathBuf>,
    /// One at a time is made.
    making: Mutex<()>,
    /// Why the last one that was tried is none, and when that was, in ms.
    failed: Mutex<Option<(i64, String)>>,
}

impl Keeping {
    /// Of the record in `data`, in a folder beside it and in `others`.
    pub fn of(data: &Path, others: &[PathBuf]) -> Keeping {
        let folders = [data.join("backups")].into_iter().chain(others.iter().cloned()).collect();
        Keeping { data: data.to_owned(), folders, making: Mutex::default(), failed: Mutex::default() }
    }

    /// The folder of the record.
    pub fn data(&self) -> &Path {
        &self.data
    }

    /// When the newest backup was made, in ms.
    pub fn newest(&self) -> Option<i64> {
        self.folders.iter().flat_map(|folder| in_folder(folder)).map(|b| b.manifest.made_ms).max()
    }

    /// Why the last backup that was tried is none, and when that was, in ms.
    pub fn failed(&self) -> Option<(i64, String)> {
        held(&self.failed).clone()
    }

    /// Makes a backup in every folder now; what is no longer kept goes. One folder that fails keeps the others from nothing;
    /// the failure is remembered.
    pub fn back_up(&self, store: &Store, clock: Clock) {
        self.back_up_to(self.folders.iter(), store, clock);
    }

    /// The same in those folders that have none of today.
    pub fn back_up_today(&self, store: &Store, clock: Clock) {
        let today = day_of(clock.now()).ok();
        let has = |folder: &Path| in_folder(folder).iter().any(|b| day_of(b.manifest.made_ms).ok() == today);
        self.back_up_to(self.folders.iter().filter(|folder| !has(folder)), store, clock);
    }

    fn back_up_to<'a>(&self, folders: impl Iterator<Item = &'a PathBuf>, store: &Store, clock: Clock) {
        let _making = held(&self.making);
        let mut tried = folders.peekable();
        if tried.peek().is_none() {
            return;
        }
        let now = clock.now();
        let made = tried.map(|folder| {
            make(store, &self.data, folder, now, Why::ToKeep)?;
            drop_old(folder, now)
        });
        // All are tried before the first failure is looked at.
        let made: Vec<anyhow::Result<()>> = made.collect();
        *held(&self.failed) = made.into_iter().find_map(Result::err).map(|why| (now, format!("{why:#}")));
    }

    /// The backups in all folders, the newest first.
    pub fn backups(&self) -> Vec<Backup> {
        let mut all: Vec<Backup> = self.folders.iter().flat_map(|folder| in_folder(folder)).collect();
        all.sort_by_key(|b| Reverse((b.manifest.made_ms, b.folder.clone())));
        all
    }

    /// Takes away what a server that was killed has left half written. Nobody else writes there.
    ///
    /// # Errors
    /// What the disk says.
    pub fn sweep(&self) -> anyhow::Result<()> {
        self.folders.iter().try_for_each(|folder| backup::sweep(folder))
    }
}

/// What a lock holds; a panic of an earlier holder leaves nothing half changed here.
fn held<T>(lock: &Mutex<T>) -> MutexGuard<'_, T> {
    lock.lock().unwrap_or_else(PoisonError::into_inner)
}
