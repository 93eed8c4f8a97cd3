//! Zip archives: written whole, read against a limit.

use crate::invalid::Invalid;
use std::collections::BTreeMap;
use std::io::{self, Cursor, Read, Write};
use zip::write::SimpleFileOptions;
use zip::{ZipArchive, ZipWriter};

/// Most that an archive may be unpacked, and most parts that it has.
const MOST_UNPACKED: u64 = 128 * 1024 * 1024;
const MOST_PARTS: usize = 2000;

/// An archive of named parts.
pub fn zipped(parts: &[(String, Vec<u8>)]) -> anyhow::Result<Vec<u8>> {
    let mut zip = ZipWriter::new(Cursor::new(Vec::new()));
    for (name, bytes) in parts {
        zip.start_file(name.as_str(), SimpleFileOptions::default())?;
        zip.write_all(bytes)?;
    }
    Ok(zip.finish()?.into_inner())
}

/// The parts of an archive, by name; what it says of its own size is not believed.
///
/// # Errors
/// [`Invalid::RunFile`] for what is none, or unpacks beyond any run.
pub fn unzipped(bytes: &[u8]) -> Result<BTreeMap<String, Vec<u8>>, Invalid> {
    let broken = |e: &dyn std::fmt::Display| Invalid::RunFile(e.to_string());
    let mut zip = ZipArchive::new(Cursor::new(bytes)).map_err(|e| broken(&e))?;
    if zip.len() > MOST_PARTS {
        return Err(Invalid::RunFile(format!("it has more than {MOST_PARTS} parts")));
    }
    let (mut parts, mut left) = (BTreeMap::new(), MOST_UNPACKED);
    for i in 0..zip.len() {
        let part = zip.by_index(i).map_err(|e| broken(&e))?;
        let name = part.name().map_err(|e| broken(&e))?.into_owned();
        let mut read = Vec::new();
        let size = io::copy(&mut part.take(left + 1), &mut read).map_err(|e| broken(&e))?;
        let too_large = || Invalid::RunFile(format!("it unpacks to more than {} MB", MOST_UNPACKED / 1024 / 1024));
        left = left.checked_sub(size).ok_or_else(too_large)?;
        parts.insert(name, read);
    }
    Ok(parts)
}
