//! The whole house in one file: an archive (ZIP) of everything, versioned, each part with its checksum.
//!
//! In it stand `manifest.json`, which names every other part with its size and SHA-256; `shelf.db`, the shelf as
//! it is kept, from which all is put back; and `drinks/`, each drink in the open format, so that what matters can
//! be read without Keen Pitcher.
//!
//! An archive comes from anywhere: it may be cut off, changed, or made to do harm. Nothing of it is unpacked but
//! the shelf, into a place that the caller gives; names are compared, never used as paths; no part is read beyond
//! the size that the manifest says, and that has a limit; and all of it is checked before anything is done.

use std::io::{Read, Seek, Write};

use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipArchive, ZipWriter};

/// Its name, as it stands in the manifest.
const FORMAT: &str = "keen-pitcher/house";
/// The version that is written. Older ones are read for ever.
const VERSION: u32 = 1;
/// The part that all is put back from.
pub const SHELF_PART: &str = "shelf.db";
const MANIFEST: &str = "manifest.json";

/// Parts of an archive.
const MOST_PARTS: usize = 20_001;
const MOST_MANIFEST: u64 = 8 * 1024 * 1024;
/// The largest shelf: fifty thousand batches take about 300 MB.
const MOST_SHELF: u64 = 2 * 1024 * 1024 * 1024;
/// The largest of the other parts.
const MOST_PART: u64 = 4 * 1024 * 1024;

/// What an archive holds.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Manifest {
    /// The name of the format.
    format: String,
    /// Its version.
    version: u32,
    /// When it was made, RFC 3339.
    pub made_at: String,
    /// Everything in it.
    pub parts: Vec<Part>,
}

/// A part of an archive.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Part {
    /// Its name.
    pub name: String,
    /// The size of the file, bytes.
    pub bytes: u64,
    /// Its SHA-256, in hexadecimal.
    pub sha256: String,
}

/// Why an archive can't be used.
#[derive(Debug, thiserror::Error)]
pub enum HouseError {
    /// It is no archive at all, or its end is missing.
    #[error("This isn't a Keen Pitcher backup: {0}. Nothing was changed.")]
    NoArchive(String),
    /// A newer program made it.
    #[error(
        "This backup needs a newer Keen Pitcher (format {0}; this one reads up to {VERSION}). Nothing was changed."
    )]
    TooNew(u32),
    /// A part of it isn't as it was when it was made.
    #[error("This backup is damaged: {part} {why}. Nothing was changed. Choose another backup.")]
    Damaged {
        /// Which part.
        part: String,
        /// What is wrong with it.
        why: String,
    },
    /// The file can't be read, or what is unpacked not be written.
    #[error("{0}. Nothing was changed.")]
    Io(#[from] std::io::Error),
}

fn no_archive(error: impl std::fmt::Display) -> HouseError {
    HouseError::NoArchive(error.to_string())
}

fn damaged(part: &str, why: &str) -> HouseError {
    // What a stranger called a part is told, but not at any length.
    let part: String = part.chars().filter(|c| !c.is_control()).take(60).collect();
    HouseError::Damaged { part, why: why.to_owned() }
}

fn hex(digest: &[u8]) -> String {
    digest.iter().map(|byte| format!("{byte:02x}")).collect()
}

/// Copies as it takes the checksum.
fn copy(from: &mut impl Read, to: &mut impl Write) -> std::io::Result<(u64, String)> {
    let (mut digest, mut bytes, mut buffer) = (Sha256::new(), 0, vec![0; 64 * 1024]);
    loop {
        let n = match from.read(&mut buffer) {
            Ok(0) => return Ok((bytes, hex(&digest.finalize()))),
            Ok(n) => n,
            Err(error) if error.kind() == std::io::ErrorKind::Interrupted => continue,
            Err(error) => return Err(error),
        };
        digest.update(&buffer[..n]);
        to.write_all(&buffer[..n])?;
        bytes += n as u64;
    }
}

/// Writes an archive: the shelf, and drinks by a name for each.
///
/// # Errors
/// If what is to be written can't be.
pub fn write_house(
    out: impl Write + Seek,
    made_at: &str,
    mut shelf: impl Read,
    drinks: impl IntoIterator<Item = (String, String)>,
) -> Result<Manifest, HouseError> {
    let io = |error: zip::result::ZipError| HouseError::Io(error.into());
    let options = SimpleFileOptions::default()
        .compression_method(CompressionMethod::Deflated)
        .large_file(true)
        .unix_permissions(0o600);
    let mut zip = ZipWriter::new(out);
    let mut parts = Vec::new();
    let mut put = |zip: &mut ZipWriter<_>, name: String, from: &mut dyn Read| {
        zip.start_file(name.as_str(), options).map_err(io)?;
        let (bytes, sha256) = copy(&mut { from }, zip)?;
        parts.push(Part { name, bytes, sha256 });
        Ok::<(), HouseError>(())
    };
    put(&mut zip, SHELF_PART.into(), &mut shelf)?;
    for (n, (name, text)) in drinks.into_iter().take(MOST_PARTS - 1).enumerate() {
        let plain: String = name
            .chars()
            .map(|c| if c.is_alphanumeric() { c.to_ascii_lowercase() } else { '-' })
            .take(40)
            .collect();
        put(&mut zip, format!("drinks/{:05}-{plain}.json", n + 1), &mut text.as_bytes())?;
    }
    let manifest =
        Manifest { format: FORMAT.into(), version: VERSION, made_at: made_at.into(), parts };
    zip.start_file(MANIFEST, options).map_err(io)?;
    let text = serde_json::to_string_pretty(&manifest).map_err(no_archive)?;
    zip.write_all(text.as_bytes())?;
    zip.finish().map_err(io)?;
    Ok(manifest)
}

/// Reads an archive, checks all of it, and writes its shelf where it is told to.
///
/// # Errors
/// [`HouseError`], which names the part that is at fault.
pub fn read_house(file: impl Read + Seek, mut shelf: impl Write) -> Result<Manifest, HouseError> {
    let mut zip = ZipArchive::new(file).map_err(no_archive)?;
    if zip.len() > MOST_PARTS + 1 {
        return Err(no_archive("there are too many parts in it"));
    }
    let manifest = manifest_of(&mut zip)?;
    let known =
        |name: &str| name == MANIFEST || manifest.parts.iter().any(|part| part.name == name);
    for name in zip.file_names() {
        let name = name.map_err(|_| damaged("a part", "has a name that can't be read"))?;
        if !known(&name) {
            return Err(damaged(&name, "doesn't belong in it"));
        }
    }
    if zip.len() != manifest.parts.len() + 1 {
        return Err(damaged(MANIFEST, "lists a part twice or leaves one out"));
    }
    if !manifest.parts.iter().any(|part| part.name == SHELF_PART) {
        return Err(damaged(SHELF_PART, "is missing"));
    }
    for part in &manifest.parts {
        let most = if part.name == SHELF_PART { MOST_SHELF } else { MOST_PART };
        if part.bytes > most {
            return Err(damaged(&part.name, "is too large"));
        }
        let found = zip.by_name(&part.name).map_err(|_| damaged(&part.name, "is missing"))?;
        // Never more than was said, whatever it unpacks to.
        let mut found = found.take(part.bytes + 1);
        let copied = match part.name == SHELF_PART {
            true => copy(&mut found, &mut shelf),
            false => copy(&mut found, &mut std::io::sink()),
        };
        let (bytes, sha256) = copied.map_err(|error| match error.kind() {
            std::io::ErrorKind::StorageFull => HouseError::Io(error),
            _ => damaged(&part.name, "can't be unpacked"),
        })?;
        if bytes != part.bytes || sha256 != part.sha256 {
            return Err(damaged(&part.name, "has changed since the backup was made"));
        }
    }
    shelf.flush()?;
    Ok(manifest)
}

/// Writes an archive anew with another shelf in it, and all else as it was.
///
/// # Errors
/// If it can't be read, or the new one not be written.
pub fn rewrite_house(
    from: impl Read + Seek,
    out: impl Write + Seek,
    shelf: impl Read,
) -> Result<Manifest, HouseError> {
    let mut zip = ZipArchive::new(from).map_err(no_archive)?;
    let manifest = manifest_of(&mut zip)?;
    let mut drinks = Vec::new();
    for part in manifest.parts.iter().filter(|part| part.name != SHELF_PART) {
        let found = zip.by_name(&part.name).map_err(|_| damaged(&part.name, "is missing"))?;
        let mut text = String::new();
        found.take(MOST_PART).read_to_string(&mut text)?;
        // As it was named: `drinks/00001-limeade.json`.
        let name = part.name.split_once('-').map_or("", |(_, name)| name.trim_end_matches(".json"));
        drinks.push((name.to_owned(), text));
    }
    write_house(out, &manifest.made_at, shelf, drinks)
}

/// Reads when an archive was made, and looks at nothing else of it.
///
/// # Errors
/// [`HouseError`] if it is none.
pub fn made_at(file: impl Read + Seek) -> Result<String, HouseError> {
    let mut zip = ZipArchive::new(file).map_err(no_archive)?;
    Ok(manifest_of(&mut zip)?.made_at)
}

fn manifest_of<R: Read + Seek>(zip: &mut ZipArchive<R>) -> Result<Manifest, HouseError> {
    /// What every version has said of itself.
    #[derive(Deserialize)]
    struct Head {
        format: String,
        version: u32,
    }
    let found = zip.by_name(MANIFEST).map_err(|_| no_archive("it has no table of contents"))?;
    let mut text = String::new();
    let read = found.take(MOST_MANIFEST + 1).read_to_string(&mut text);
    if read.is_err() || text.len() as u64 > MOST_MANIFEST {
        return Err(damaged(MANIFEST, "can't be read"));
    }
    let head: Head = serde_json::from_str(&text).map_err(|_| damaged(MANIFEST, "can't be read"))?;
    if head.format != FORMAT {
        return Err(no_archive("it is another kind of file"));
    }
    if head.version > VERSION {
        return Err(HouseError::TooNew(head.version));
    }
    serde_json::from_str(&text).map_err(|_| damaged(MANIFEST, "can't be read"))
}
