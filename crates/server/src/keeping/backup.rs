//! A backup: a folder with the record, its photos, and what they are. It has its name only once it was restored for trial.

use super::RECORD;
use crate::clock::written;
use anyhow::{Context, bail};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use std::collections::BTreeMap;
use std::fs::{self, File};
use std::io::{self, Read};
use std::path::{Path, PathBuf};
use store::{Examined, Store};

/// What a backup says of itself.
pub const MANIFEST: &str = "backup.json";
/// What is being written ends with it.
const PART: &str = ".part";
/// Photos of a record, beside it.
const PHOTOS: &str = "photos";

/// What a backup says of itself.
#[derive(Debug, Clone, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Manifest {
    /// When it was made, with the offset from UTC.
    pub made_at: String,
    /// The same in ms.
    pub made_ms: i64,
    /// The program that made it.
    pub program: String,
    /// Events in the record.
    pub events: i64,
    /// The end of the chain, its first eight digits.
    pub head: String,
    /// It is what was there before another backup was put back: no turn takes it away.
    #[serde(default)]
    pub before_restore: bool,
    /// SHA-256 of every file, by its path.
    pub files: BTreeMap<String, String>,
}

/// Why a backup is made.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Why {
    /// As every day.
    ToKeep,
    /// Another one is put back.
    BeforeRestore,
}

/// A finished backup.
#[derive(Debug, Clone)]
pub struct Backup {
    /// Where it lies.
    pub folder: PathBuf,
    /// What it says of itself.
    pub manifest: Manifest,
    /// Of all its files.
    pub bytes: u64,
}

/// What is wrong with a backup.
#[derive(Debug, thiserror::Error)]
pub enum BackupFault {
    /// Writing it was broken off.
    #[error("this backup was never finished: it is of no use")]
    Unfinished,
    /// It says nothing of itself.
    #[error("there is no backup in this folder ({MANIFEST} is missing or cannot be read)")]
    NoBackup,
    /// A file that is gone.
    #[error("the file '{0}' of this backup is missing")]
    Missing(String),
    /// A file that is not what was written.
    #[error("the file '{0}' of this backup is not what was written")]
    Changed(String),
}

/// Whether a folder is one, finished or not.
pub fn is_backup(folder: &Path) -> bool {
    folder.join(MANIFEST).exists() || is_part(folder)
}

fn is_part(folder: &Path) -> bool {
    folder.file_name().is_some_and(|name| name.to_string_lossy().ends_with(PART))
}

/// Writes a backup of `store` and the photos in `data` into a new folder in `into`: under another name first, all of it on
/// disk, restored for trial and looked at; only then does it get its name.
///
/// # Errors
/// What the disk says; a record that is not whole makes no backup.
pub fn make(store: &Store, data: &Path, into: &Path, now: i64, why: Why) -> anyhow::Result<()> {
    fs::create_dir_all(into).with_context(|| format!("making {}", into.display()))?;
    let name = Timestamp::from_millisecond(now)?.strftime("%Y-%m-%d-%H%M%S").to_string();
    let to = (1..).map(|n| into.join(if n == 1 { name.clone() } else { format!("{name}-{n}") }));
    let to = to.take(1000).find(|to| !to.exists()).context("a thousand backups in one second")?;
    write(store, data, &to, now, why)
}

/// Writes a backup to this very folder, which must not exist.
///
/// # Errors
/// As [`make`].
pub fn write_to(store: &Store, data: &Path, to: &Path, now: i64) -> anyhow::Result<()> {
    write(store, data, to, now, Why::ToKeep)
}

fn write(store: &Store, data: &Path, to: &Path, now: i64, why: Why) -> anyhow::Result<()> {
    if to.exists() {
        bail!("{} exists already; nothing was written", to.display());
    }
    let mut part = to.as_os_str().to_owned();
    part.push(PART);
    let part = PathBuf::from(part);
    if part.exists() {
        fs::remove_dir_all(&part).with_context(|| format!("taking {} away", part.display()))?;
    }
    let done = write_part(store, data, &part, now, why).and_then(|()| Ok(fs::rename(&part, to)?));
    if done.is_err() {
        // What is half written says so by its name; a disk that is full may not even delete.
        let _ = fs::remove_dir_all(&part);
    }
    done.with_context(|| format!("the backup to {}", to.display()))?;
    if let Some(folder) = to.parent().filter(|p| !p.as_os_str().is_empty()) {
        File::open(folder)?.sync_all()?;
    }
    Ok(())
}

fn write_part(store: &Store, data: &Path, part: &Path, now: i64, why: Why) -> anyhow::Result<()> {
    fs::create_dir_all(part.join(PHOTOS))?;
    store.back_up(&part.join(RECORD))?;
    let mut files = BTreeMap::from([(RECORD.to_owned(), sha256_of(&part.join(RECORD))?)]);
    for photo in photos_in(&data.join(PHOTOS))? {
        let (from, name) = (data.join(PHOTOS).join(&photo), format!("{PHOTOS}/{photo}"));
        match fs::copy(&from, part.join(&name)) {
            // Deleted since it was listed.
            Err(error) if error.kind() == io::ErrorKind::NotFound => continue,
            copied => copied?,
        };
        File::open(part.join(&name))?.sync_all()?;
        let sum = sha256_of(&part.join(&name))?;
        files.insert(name, sum);
    }
    let examined = restored_for_trial(&part.join(RECORD))?;
    let manifest = Manifest {
        made_at: written(now),
        made_ms: now,
        program: env!("CARGO_PKG_VERSION").to_owned(),
        events: examined.head.seq,
        head: examined.head.short(),
        before_restore: why == Why::BeforeRestore,
        files,
    };
    let file = File::create(part.join(MANIFEST))?;
    serde_json::to_writer_pretty(&file, &manifest)?;
    file.sync_all()?;
    for folder in [part.join(PHOTOS), part.to_owned()] {
        File::open(folder)?.sync_all()?;
    }
    Ok(())
}

/// The copy as it is after a restore: opened like the school's own record, brought to this version, looked at from end to end.
fn restored_for_trial(copy: &Path) -> anyhow::Result<Examined> {
    let trial = tempfile::tempdir()?;
    let file = trial.path().join(RECORD);
    fs::copy(copy, &file)?;
    let examined = Store::open(&file)?.examine();
    match examined.faults.first() {
        Some(fault) => bail!("it was restored for trial, and is not whole: {fault}"),
        None => Ok(examined),
    }
}

/// Photos of a folder, by file name; none where there is no folder yet.
fn photos_in(folder: &Path) -> io::Result<Vec<String>> {
    let entries = match fs::read_dir(folder) {
        Err(error) if error.kind() == io::ErrorKind::NotFound => return Ok(Vec::new()),
        entries => entries?,
    };
    let mut names = Vec::new();
    for entry in entries {
        let path = entry?.path();
        if path.extension().is_some_and(|e| e == "jpg") {
            names.extend(path.file_name().map(|name| name.to_string_lossy().into_owned()));
        }
    }
    names.sort();
    Ok(names)
}

fn sha256_of(file: &Path) -> io::Result<String> {
    let (mut from, mut hash, mut some) = (File::open(file)?, Sha256::new(), [0; 16 * 1024]);
    loop {
        match from.read(&mut some)? {
            0 => return Ok(hash.finalize().iter().map(|b| format!("{b:02x}")).collect()),
            n => hash.update(&some[..n]),
        }
    }
}

/// What a finished backup says of itself.
///
/// # Errors
/// [`BackupFault::Unfinished`] and [`BackupFault::NoBackup`].
pub fn manifest_of(folder: &Path) -> Result<Manifest, BackupFault> {
    if is_part(folder) {
        return Err(BackupFault::Unfinished);
    }
    let text = fs::read_to_string(folder.join(MANIFEST)).map_err(|_| BackupFault::NoBackup)?;
    serde_json::from_str(&text).map_err(|_| BackupFault::NoBackup)
}

/// What is wrong with the files of a backup: whether they are those that were written.
pub fn file_faults(folder: &Path) -> Vec<BackupFault> {
    let manifest = match manifest_of(folder) {
        Ok(manifest) => manifest,
        Err(fault) => return vec![fault],
    };
    let found = manifest.files.into_iter().filter_map(|(name, sum)| match sha256_of(&folder.join(&name)) {
        Err(_) => Some(BackupFault::Missing(name)),
        Ok(found) => (found != sum).then_some(BackupFault::Changed(name)),
    });
    found.collect()
}

/// Takes away what was left half written.
///
/// # Errors
/// What the disk says.
pub fn sweep(folder: &Path) -> anyhow::Result<()> {
    let Ok(entries) = fs::read_dir(folder) else { return Ok(()) };
    for entry in entries {
        let path = entry?.path();
        if is_part(&path) && path.is_dir() {
            fs::remove_dir_all(&path).with_context(|| format!("taking {} away", path.display()))?;
        }
    }
    Ok(())
}

/// The finished backups in a folder, the newest first; what is something else is left alone.
pub fn in_folder(folder: &Path) -> Vec<Backup> {
    let Ok(entries) = fs::read_dir(folder) else { return Vec::new() };
    let folders = entries.filter_map(|e| e.ok().map(|e| e.path()));
    let mut out: Vec<Backup> = folders
        .filter_map(|folder| {
            let manifest = manifest_of(&folder).ok()?;
            let size = |name: &String| fs::metadata(folder.join(name)).map_or(0, |m| m.len());
            let bytes = manifest.files.keys().map(size).sum();
            Some(Backup { folder, manifest, bytes })
        })
        .collect();
    out.sort_by_key(|b| std::cmp::Reverse(b.manifest.made_ms));
    out
}
