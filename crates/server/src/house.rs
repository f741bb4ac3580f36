//! The whole house in one file, made and put back, and the copy that is made by itself each day.

use std::fs::{self, File};
use std::io::{BufReader, BufWriter, Seek, SeekFrom};
use std::path::{Path, PathBuf};

use anyhow::{Context, Result};
use keen_formats::{HouseError, Manifest, read_house, write_house};
use keen_store::{Store, StoreError};

/// So many daily copies are kept.
const KEPT: usize = 7;

/// Why a house can't be put back.
#[derive(Debug, thiserror::Error)]
pub(crate) enum NotPutBack {
    #[error(transparent)]
    House(#[from] HouseError),
    #[error(transparent)]
    Store(#[from] StoreError),
    #[error("{0}")]
    Io(#[from] std::io::Error),
}

/// A file in a folder that nobody else reads, which is gone when it isn't needed any more.
fn scratch(folder: &Path) -> std::io::Result<tempfile::NamedTempFile> {
    tempfile::Builder::new().prefix(".keen-pitcher-").suffix(".part").tempfile_in(folder)
}

/// Writes the whole house to a file. It is written beside it and takes its place when all of it is on the disk, so
/// that there is the old one or the new one, whatever happens.
pub(crate) fn save(store: &Store, to: &Path) -> Result<Manifest> {
    let folder = match to.parent() {
        Some(folder) if !folder.as_os_str().is_empty() => folder,
        _ => Path::new("."),
    };
    let told = || format!("the backup can't be written to {}", to.display());
    let shelf = scratch(folder).with_context(told)?;
    store.copy_to(shelf.path())?;
    let mut drinks = Vec::new();
    let (_, all) = store.drinks().list("", 10_000)?;
    for kept in all {
        let versions = store.versions(&kept.id).unwrap_or_default();
        let text = crate::api::whole_file(&versions).unwrap_or(kept.body);
        drinks.push((kept.name, text));
    }
    let mut out = scratch(folder).with_context(told)?;
    let now = jiff::Timestamp::now().to_string();
    let from = BufReader::new(File::open(shelf.path())?);
    let manifest =
        write_house(BufWriter::new(out.as_file_mut()), &now, from, drinks).with_context(told)?;
    out.as_file().sync_all().with_context(told)?;
    // What was written is read once more: a copy that can't be put back is none.
    out.as_file_mut().seek(SeekFrom::Start(0))?;
    read_house(BufReader::new(out.as_file()), std::io::sink()).with_context(told)?;
    out.persist(to).map_err(|error| error.error).with_context(told)?;
    if let Ok(folder) = File::open(folder) {
        let _ = folder.sync_all();
    }
    Ok(manifest)
}

/// Checks a house, and puts it in the place of what is there; where that lies now is answered.
pub(crate) fn put_back(store: &Store, from: &Path) -> Result<PathBuf, NotPutBack> {
    let folder = store.path().parent().unwrap_or(Path::new(".")).to_owned();
    let mut shelf = scratch(&folder)?;
    read_house(BufReader::new(File::open(from)?), BufWriter::new(shelf.as_file_mut()))?;
    let aside = store.replace_with(shelf.path(), &jiff::Timestamp::now().to_string())?;
    Ok(aside)
}

/// Where the daily copies lie.
pub(crate) fn folder(store: &Store) -> PathBuf {
    store.path().parent().unwrap_or(Path::new(".")).join("backups")
}

/// The copies that are kept, the newest first, with their sizes.
pub(crate) fn kept(store: &Store) -> Vec<(String, u64)> {
    let Ok(files) = fs::read_dir(folder(store)) else { return Vec::new() };
    let mut all: Vec<(String, u64)> = files
        .filter_map(|file| {
            let file = file.ok()?;
            let name = file.file_name().into_string().ok()?;
            let ours = name.starts_with("keen-pitcher-") && name.ends_with(".zip");
            ours.then_some((name, file.metadata().ok()?.len()))
        })
        .collect();
    all.sort_by(|a, b| b.0.cmp(&a.0));
    all
}

/// Makes a copy for today, if there is none yet or one is asked for, and lets go of the oldest.
pub(crate) fn daily(store: &Store, asked: bool) -> Result<Option<String>> {
    let folder = folder(store);
    let today = jiff::Zoned::now();
    let day = format!("keen-pitcher-{}", today.strftime("%Y-%m-%d"));
    if !asked && kept(store).iter().any(|(name, _)| name.starts_with(&day)) {
        return Ok(None);
    }
    make_folder(&folder)?;
    let name = if asked {
        format!("{day}-{}.zip", today.strftime("%H%M%S"))
    } else {
        format!("{day}.zip")
    };
    save(store, &folder.join(&name))?;
    for (old, _) in kept(store).into_iter().skip(KEPT) {
        if let Err(error) = fs::remove_file(folder.join(&old)) {
            tracing::warn!(%error, old, "an old backup can't be removed");
        }
    }
    Ok(Some(name))
}

#[cfg(unix)]
fn make_folder(folder: &Path) -> std::io::Result<()> {
    use std::os::unix::fs::DirBuilderExt;
    fs::DirBuilder::new().recursive(true).mode(0o700).create(folder)
}

#[cfg(not(unix))]
fn make_folder(folder: &Path) -> std::io::Result<()> {
    fs::create_dir_all(folder)
}
