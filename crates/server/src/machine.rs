//! What the program asks of the machine that it runs on, and of no other module: rights of files, room on the disk.

use anyhow::Context;
use std::path::Path;

/// What this process makes from now on is read by whoever runs it, and by nobody else on the machine.
pub fn keep_files_to_oneself() {
    #[cfg(unix)]
    rustix::process::umask(rustix::fs::Mode::RWXG | rustix::fs::Mode::RWXO);
}

/// Whether others on the machine can look into a folder; nobody knows where the system has no such rights.
pub fn is_open_to_others(folder: &Path) -> anyhow::Result<bool> {
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        let rights =
            std::fs::metadata(folder).with_context(|| format!("looking at {}", folder.display()))?.permissions();
        Ok(rights.mode() & 0o077 != 0)
    }
    #[cfg(not(unix))]
    {
        let _ = folder;
        Ok(false)
    }
}

/// A folder that an earlier version left open to others is closed to them, where it is ours.
pub fn close_to_others(folder: &Path) -> anyhow::Result<()> {
    #[cfg(unix)]
    if is_open_to_others(folder)? {
        use std::os::unix::fs::{MetadataExt, PermissionsExt};
        if std::fs::metadata(folder)?.uid() == rustix::process::getuid().as_raw() {
            std::fs::set_permissions(folder, std::fs::Permissions::from_mode(0o700))
                .with_context(|| format!("closing {} to others", folder.display()))?;
        }
    }
    Ok(())
}

/// Room that is left on the disk of a folder, MB; none where the system does not tell.
pub fn room_left(folder: &Path) -> Option<u64> {
    #[cfg(unix)]
    {
        let disk = rustix::fs::statvfs(folder).ok()?;
        Some(disk.f_bavail.saturating_mul(disk.f_frsize) / 1_000_000)
    }
    #[cfg(not(unix))]
    {
        let _ = folder;
        None
    }
}
