//! Where the shelf lies, and how much is put on it at once.

use std::path::{Path, PathBuf};

use anyhow::{Context, Result};
use keen_store::Store;

/// The largest body that is read: a drink of 200 steps with long notes is a fifth of it.
pub(crate) const MAX_BODY: usize = 512 * 1024;

/// The folder that the shelf is kept in.
pub(crate) fn folder(data: Option<PathBuf>, demo: bool) -> Result<PathBuf> {
    if let Some(folder) = data {
        return Ok(folder);
    }
    let dirs = directories::ProjectDirs::from("", "", "keen-pitcher")
        .context("you have no home folder; choose a folder with --data")?;
    Ok(if demo { dirs.data_dir().join("demo") } else { dirs.data_dir().to_owned() })
}

/// Where the shelf lies in that folder.
pub(crate) fn shelf_in(folder: &Path) -> PathBuf {
    folder.join("keen-pitcher.db")
}

/// Opens the shelf in that folder, beside a server that may be running on it.
pub(crate) fn open(folder: &Path) -> Result<Store> {
    Ok(Store::open(&shelf_in(folder))?)
}
