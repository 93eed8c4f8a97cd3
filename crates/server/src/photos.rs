//! Photos taken at the benches: small, without anything that the camera wrote beside the picture, named for their content.
//!
//! A picture is read whole and written anew, so that nothing but its pixels is kept: no place, no time, no name of a
//! phone. It is on disk, synced, before the event that speaks of it. Its name is the SHA-256 of the file.

use crate::invalid::Invalid;
use crate::problem::ApiError;
use anyhow::Context;
use image::{DynamicImage, ImageDecoder, ImageError, ImageFormat, ImageReader, Limits};
use sha2::{Digest, Sha256};
use std::collections::BTreeSet;
use std::fs::{self, File};
use std::io::{Cursor, Write};
use std::path::PathBuf;
use std::sync::{Mutex, MutexGuard, PoisonError};

/// Largest picture that is taken in.
pub const MOST_BYTES: usize = 8 * 1024 * 1024;
/// Longer side of a picture as it is kept.
const LONGER_SIDE: u32 = 1600;
/// Longest side that is read: what claims to be larger is no photo of a bench.
const LONGEST_SIDE: u32 = 12_000;
/// Pixels that are read: three bytes each while it is looked at.
const MOST_PIXELS: u64 = 50_000_000;

/// The folder of photos.
#[derive(Debug)]
pub struct Photos {
    folder: PathBuf,
    turn: Mutex<()>,
}

impl Photos {
    /// The photos in `folder`, which is made with the first of them.
    pub fn in_folder(folder: PathBuf) -> Photos {
        Photos { folder, turn: Mutex::default() }
    }

    /// One at a time keeps, or takes away, a picture together with what the record says of it: so no other group's goes, and
    /// no two large ones are in memory at once.
    pub fn turn(&self) -> MutexGuard<'_, ()> {
        // Nothing is half changed after a panic: the file and the record are each whole.
        self.turn.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Takes away what nothing speaks of: a picture whose sending was broken off, or whose entry never came.
    ///
    /// # Errors
    /// What the disk says.
    pub fn sweep(&self, kept: &BTreeSet<String>) -> std::io::Result<()> {
        let Ok(files) = fs::read_dir(&self.folder) else { return Ok(()) };
        for file in files {
            let path = file?.path();
            let name = path.file_stem().map(|s| s.to_string_lossy().into_owned()).unwrap_or_default();
            let ours = path.extension().is_some_and(|e| e == "jpg" || e == "part") && is_name(&name);
            if ours && !(kept.contains(&name) && path.extension().is_some_and(|e| e == "jpg")) {
                fs::remove_file(path)?;
            }
        }
        Ok(())
    }

    /// Pictures that are not what they were when they got their names, each in words.
    ///
    /// # Errors
    /// What the disk says.
    pub fn damaged(&self) -> std::io::Result<Vec<String>> {
        let Ok(files) = fs::read_dir(&self.folder) else { return Ok(Vec::new()) };
        let mut out = Vec::new();
        for file in files {
            let path = file?.path();
            let name = path.file_stem().map(|s| s.to_string_lossy().into_owned()).unwrap_or_default();
            if is_name(&name) && path.extension().is_some_and(|e| e == "jpg") && name_of(&fs::read(&path)?) != name {
                out.push(format!("the photo {name} is damaged"));
            }
        }
        Ok(out)
    }

    /// Keeps a picture; its name.
    ///
    /// # Errors
    /// [`ApiError::Invalid`] for what is no picture, or one beyond any use.
    pub fn keep(&self, bytes: &[u8]) -> Result<String, ApiError> {
        let jpeg = cleaned(bytes)?;
        let name = name_of(&jpeg);
        self.write(&name, &jpeg).map_err(ApiError::Internal)?;
        Ok(name)
    }

    /// Keeps a picture that another server has cleaned, under the name that it has there.
    ///
    /// # Errors
    /// [`ApiError::Invalid`] for what is no picture of ours: another name, another kind, too many pixels.
    pub fn keep_as_it_came(&self, name: &str, jpeg: &[u8]) -> Result<(), ApiError> {
        let ours = is_name(name) && name_of(jpeg) == name;
        if !ours || image::guess_format(jpeg).ok() != Some(ImageFormat::Jpeg) {
            return Err(Invalid::NoPicture.into());
        }
        cleaned(jpeg)?;
        self.write(name, jpeg).map_err(ApiError::Internal)
    }

    /// The picture of this name.
    ///
    /// # Errors
    /// [`ApiError::NotFound`] when there is none.
    pub fn read(&self, name: &str) -> Result<Vec<u8>, ApiError> {
        fs::read(self.path(name)?).map_err(|_| ApiError::NotFound("photo"))
    }

    /// Deletes the picture of this name, if it is there.
    ///
    /// # Errors
    /// [`ApiError::Internal`] when the disk says no.
    pub fn delete(&self, name: &str) -> Result<(), ApiError> {
        match fs::remove_file(self.path(name)?) {
            Err(error) if error.kind() != std::io::ErrorKind::NotFound => Err(ApiError::Internal(error.into())),
            _ => Ok(()),
        }
    }

    fn write(&self, name: &str, jpeg: &[u8]) -> anyhow::Result<()> {
        let path = self.folder.join(format!("{name}.jpg"));
        if path.exists() {
            return Ok(());
        }
        fs::create_dir_all(&self.folder)?;
        let half = self.folder.join(format!("{name}.part"));
        let mut file = File::create(&half).with_context(|| format!("writing {}", half.display()))?;
        file.write_all(jpeg)?;
        file.sync_all()?;
        fs::rename(&half, &path)?;
        // The new name is on disk when its folder is.
        File::open(&self.folder)?.sync_all()?;
        Ok(())
    }

    /// Where a photo lies; a name is hexadecimal and nothing else, so that it leads nowhere but here.
    fn path(&self, name: &str) -> Result<PathBuf, ApiError> {
        if is_name(name) { Ok(self.folder.join(format!("{name}.jpg"))) } else { Err(ApiError::NotFound("photo")) }
    }
}

/// A picture's name is the hash of its file.
fn name_of(jpeg: &[u8]) -> String {
    Sha256::digest(jpeg).iter().map(|b| format!("{b:02x}")).collect()
}

fn is_name(name: &str) -> bool {
    name.len() == 64 && name.bytes().all(|b| b.is_ascii_hexdigit())
}

/// The picture alone, upright, at most [`LONGER_SIDE`] long, as JPEG.
fn cleaned(bytes: &[u8]) -> Result<Vec<u8>, Invalid> {
    let mut reader = ImageReader::new(Cursor::new(bytes)).with_guessed_format().map_err(ImageError::IoError)?;
    if !matches!(reader.format(), Some(ImageFormat::Jpeg | ImageFormat::Png)) {
        return Err(Invalid::NoPicture);
    }
    let mut limits = Limits::default();
    limits.max_image_width = Some(LONGEST_SIDE);
    limits.max_image_height = Some(LONGEST_SIDE);
    limits.max_alloc = Some(512 * 1024 * 1024);
    reader.limits(limits);
    let mut decoder = reader.into_decoder()?;
    // The header says how large it is; nothing is unpacked before.
    let (width, height) = decoder.dimensions();
    if u64::from(width) * u64::from(height) > MOST_PIXELS {
        return Err(Invalid::TooManyPixels(MOST_PIXELS / 1_000_000));
    }
    let upright = decoder.orientation()?;
    let mut picture = DynamicImage::from_decoder(decoder)?;
    picture.apply_orientation(upright);
    if picture.width().max(picture.height()) > LONGER_SIDE {
        picture = picture.thumbnail(LONGER_SIDE, LONGER_SIDE);
    }
    let mut out = Vec::new();
    // Pixels only: the encoder writes none of what stood beside them.
    picture.to_rgb8().write_to(&mut Cursor::new(&mut out), ImageFormat::Jpeg)?;
    Ok(out)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn photo(width: u32, height: u32) -> Vec<u8> {
        let mut out = Vec::new();
        let picture =
            image::RgbImage::from_fn(width, height, |x, _| image::Rgb([u8::try_from(x % 256).unwrap(), 90, 40]));
        picture.write_to(&mut Cursor::new(&mut out), ImageFormat::Jpeg).unwrap();
        out
    }

    /// Exif beside the picture: an APP1 segment after the first marker, as a camera writes it.
    fn with_exif(jpeg: &[u8], exif: &[u8]) -> Vec<u8> {
        let length = u16::try_from(exif.len() + 2).unwrap().to_be_bytes();
        [&jpeg[..2], &[0xFF, 0xE1], &length, exif, &jpeg[2..]].concat()
    }

    #[test]
    fn nothing_but_the_picture_is_kept_and_it_is_small() {
        let folder = tempfile::tempdir().unwrap();
        let photos = Photos::in_folder(folder.path().join("photos"));
        let exif = b"Exif\0\0II*\0\x08\0\0\0\0\0\0\0\0\0 GPS 51.4779 N, phone of somebody";
        let name = photos.keep(&with_exif(&photo(2400, 1200), exif)).unwrap();
        let kept = photos.read(&name).unwrap();
        assert!(!kept.windows(8).any(|w| w == b"somebody"), "what the camera wrote is gone");
        let picture = image::load_from_memory(&kept).unwrap();
        assert_eq!((picture.width(), picture.height()), (1600, 800));
        assert_eq!(photos.keep(&with_exif(&photo(2400, 1200), exif)).unwrap(), name, "named for its content");
        photos.delete(&name).unwrap();
        photos.delete(&name).unwrap();
        assert!(matches!(photos.read(&name), Err(ApiError::NotFound("photo"))));
    }

    #[test]
    fn what_nothing_speaks_of_is_swept_away() {
        let folder = tempfile::tempdir().unwrap();
        let photos = Photos::in_folder(folder.path().into());
        let [kept, left] = [photo(30, 20), photo(20, 30)].map(|bytes| photos.keep(&bytes).unwrap());
        fs::write(folder.path().join(format!("{}.part", "a".repeat(64))), "half").unwrap();
        fs::write(folder.path().join("readme.txt"), "not ours").unwrap();
        photos.sweep(&BTreeSet::from([kept.clone()])).unwrap();
        assert!(photos.read(&kept).is_ok() && photos.read(&left).is_err());
        assert_eq!(fs::read_dir(folder.path()).unwrap().count(), 2, "the one that is kept, and what is not ours");
    }

    #[test]
    fn a_picture_taken_sideways_stands_upright() {
        // Orientation 6: the camera was turned; a little-endian TIFF header with one entry, tag 0x0112.
        let exif = b"Exif\0\0II*\0\x08\0\0\0\x01\0\x12\x01\x03\0\x01\0\0\0\x06\0\0\0\0\0\0\0";
        let folder = tempfile::tempdir().unwrap();
        let photos = Photos::in_folder(folder.path().into());
        let kept = photos.read(&photos.keep(&with_exif(&photo(300, 200), exif)).unwrap()).unwrap();
        let picture = image::load_from_memory(&kept).unwrap();
        assert_eq!((picture.width(), picture.height()), (200, 300));
    }

    #[test]
    fn what_is_no_picture_is_told_and_leaves_nothing() {
        let folder = tempfile::tempdir().unwrap();
        let photos = Photos::in_folder(folder.path().join("photos"));
        let half = photo(800, 600)[..2000].to_vec();
        for (bytes, told) in [
            (b"<svg onload=alert(1)>".to_vec(), "no picture"),
            (b"GIF89a whatever".to_vec(), "no picture"),
            (Vec::new(), "no picture"),
            ([&photo(8, 8)[..2], &[0xFF; 400]].concat(), "cannot be read"),
        ] {
            let error = photos.keep(&bytes).unwrap_err().to_string();
            assert!(error.contains(told) && error.contains("nothing was kept"), "{error}");
        }
        // A picture that breaks off is either refused or kept as far as it goes; it never panics.
        let _ = photos.keep(&half);
        let vast = image::RgbImage::new(9000, 9000);
        let mut png = Vec::new();
        vast.write_to(&mut Cursor::new(&mut png), ImageFormat::Png).unwrap();
        assert!(matches!(photos.keep(&png), Err(ApiError::Invalid(why)) if matches!(*why, Invalid::TooManyPixels(50))));
        for name in ["../record.db", "x", &"g".repeat(64)] {
            assert!(matches!(photos.read(name), Err(ApiError::NotFound("photo"))), "{name}");
        }
    }
}
