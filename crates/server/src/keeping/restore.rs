//! Putting a backup back: into an empty folder from the console, or under a server that runs.

use super::backup::{Why, file_faults, make, manifest_of};
use super::{Keeping, RECORD};
use anyhow::{Context, bail};
use std::fs;
use std::path::Path;
use store::{Look, Store, examine};

/// Puts a backup into a folder without a record, and signs everybody out who was signed in when it was made. With `replace`
/// a record that is there is put aside under another name first.
///
/// # Errors
/// A backup that is not whole, a record that is there, what the disk says: the folder is then as it was.
pub fn into_folder(data: &Path, from: &Path, replace: bool, now: i64) -> anyhow::Result<()> {
    is_sound(from)?;
    fs::create_dir_all(data)?;
    let record = data.join(RECORD);
    if record.exists() && !replace {
        bail!(
            "there is a record in {} already: choose another folder, or say --replace to put it aside",
            data.display()
        );
    }
    let fresh = data.join(format!("{RECORD}.part"));
    let copied = copy_record(from, &fresh).and_then(|()| copy_photos(from, data));
    if copied.is_err() {
        // A disk that is full may not even delete.
        let _ = fs::remove_file(&fresh);
    }
    copied.with_context(|| format!("copying to {}", data.display()))?;
    if record.exists() {
        for end in ["", "-wal", "-shm"] {
            let old = data.join(format!("{RECORD}{end}"));
            if old.exists() {
                fs::rename(&old, data.join(format!("before-restore-{now}-{RECORD}{end}")))?;
            }
        }
    }
    fs::rename(&fresh, &record)?;
    fs::File::open(data)?.sync_all()?;
    Ok(())
}

/// The record of a backup, nobody signed in, on disk.
fn copy_record(from: &Path, to: &Path) -> anyhow::Result<()> {
    fs::copy(from.join(RECORD), to)?;
    Store::open(to)?.sign_out_everybody()?;
    Ok(fs::File::open(to)?.sync_all()?)
}

/// Puts a backup in the place of the record of a running school; what is there now is backed up first. Everybody is signed
/// out, and whoever kept something in memory forgets it.
///
/// # Errors
/// As [`into_folder`].
pub fn into_running(store: &Store, keeping: &Keeping, from: &Path, now: i64) -> anyhow::Result<()> {
    is_sound(from)?;
    let folder = keeping.folders.first().context("there is a folder for backups")?;
    make(store, &keeping.data, folder, now, Why::BeforeRestore).context("nothing was restored")?;
    copy_photos(from, &keeping.data)?;
    Ok(store.replace_by(&from.join(RECORD))?)
}

fn is_sound(from: &Path) -> anyhow::Result<()> {
    if let Some(fault) = file_faults(from).into_iter().next() {
        return Err(fault).context("nothing was restored");
    }
    match examine(&from.join(RECORD), Look::Whole).faults.first() {
        Some(fault) => bail!("the record in this backup: {fault}; nothing was restored"),
        None => Ok(()),
    }
}

/// Photos of the backup that are not there; none is taken away. A name that is none of ours leads nowhere.
fn copy_photos(from: &Path, data: &Path) -> anyhow::Result<()> {
    fs::create_dir_all(data.join("photos"))?;
    for name in manifest_of(from)?.files.keys() {
        let plain =
            name.strip_prefix("photos/").is_some_and(|n| n.bytes().all(|b| b.is_ascii_alphanumeric() || b == b'.'));
        if plain && !data.join(name).exists() {
            fs::copy(from.join(name), data.join(name))?;
        }
    }
    Ok(())
}
