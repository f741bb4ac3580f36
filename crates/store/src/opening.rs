//! What is done to a file before it is a shelf: made for its owner alone, locked against a second
//! server, looked over, and brought up to date.

use std::fs::{File, OpenOptions, TryLockError};
use std::io;
use std::path::{Path, PathBuf};
use std::time::Duration;

use rusqlite::Connection;

use crate::error::{Result, StoreError};
use crate::migrations;

/// How long the writer waits for another program, and a reader for a checkpoint. Whoever saves waits for
/// an answer, so it is short; a checkpoint takes some hundredths of a second.
pub(crate) const BUSY: Duration = Duration::from_millis(800);

/// Makes the folder and the file, for their owner alone.
pub(crate) fn make(path: &Path) -> io::Result<()> {
    if let Some(folder) = path.parent().filter(|f| !f.as_os_str().is_empty()) {
        let ours = !folder.exists() || path.exists();
        private_folder(folder, ours)?;
    }
    private_file(path)
}

#[cfg(unix)]
fn private_folder(folder: &Path, ours: bool) -> io::Result<()> {
    use std::os::unix::fs::{DirBuilderExt, PermissionsExt};
    std::fs::DirBuilder::new().recursive(true).mode(0o700).create(folder)?;
    // A folder that was there for other things is left as its owner has it.
    if ours && std::fs::metadata(folder)?.permissions().mode() & 0o077 != 0 {
        // Whoever may not change it may still use it.
        let _ = std::fs::set_permissions(folder, std::fs::Permissions::from_mode(0o700));
    }
    Ok(())
}

#[cfg(unix)]
pub(crate) fn private_file(path: &Path) -> io::Result<()> {
    use std::os::unix::fs::{OpenOptionsExt, PermissionsExt};
    let file = OpenOptions::new().append(true).create(true).mode(0o600).open(path)?;
    if file.metadata()?.permissions().mode() & 0o077 != 0 {
        let _ = file.set_permissions(std::fs::Permissions::from_mode(0o600));
    }
    Ok(())
}

#[cfg(not(unix))]
fn private_folder(folder: &Path, _ours: bool) -> io::Result<()> {
    std::fs::create_dir_all(folder)
}

#[cfg(not(unix))]
pub(crate) fn private_file(path: &Path) -> io::Result<()> {
    OpenOptions::new().append(true).create(true).open(path).map(drop)
}

/// Locks the folder for one server. The lock goes with the process, however that ends.
pub(crate) fn lock(path: &Path) -> Result<File> {
    let beside = path.with_extension("lock");
    let told = |source| StoreError::File { path: beside.clone(), source };
    private_file(&beside).map_err(told)?;
    let file = File::open(&beside).map_err(told)?;
    match file.try_lock() {
        Ok(()) => Ok(file),
        Err(TryLockError::WouldBlock) => Err(StoreError::AlreadyServed(folder_of(path))),
        Err(TryLockError::Error(source)) => Err(told(source)),
    }
}

/// What a file is called while it is written.
const UNFINISHED: (&str, &str) = (".keen-pitcher-", ".part");

/// A file in a folder that nobody else reads, which is gone when it isn't needed any more: when the program ends in the
/// middle of it, the next one that serves the folder takes it away.
///
/// # Errors
/// If it can't be made there.
pub fn unfinished(folder: &Path) -> io::Result<tempfile::NamedTempFile> {
    tempfile::Builder::new().prefix(UNFINISHED.0).suffix(UNFINISHED.1).tempfile_in(folder)
}

/// Takes away what was being written when a program ended in the middle of it. Only who holds the lock does that.
pub(crate) fn sweep(folder: &Path) {
    let (begin, end) = UNFINISHED;
    for folder in [folder, &folder.join("backups")] {
        let Ok(files) = std::fs::read_dir(folder) else { continue };
        for file in files.flatten() {
            let name = file.file_name().to_string_lossy().into_owned();
            if name.starts_with(begin) && name.contains(end) {
                // What can't be taken away now is tried again next time.
                let _ = std::fs::remove_file(file.path());
            }
        }
    }
}

/// Whether a file is empty that once held something: there are backups of it.
pub(crate) fn was_emptied(path: &Path) -> bool {
    let is_empty = |path: &Path| std::fs::metadata(path).is_ok_and(|file| file.len() == 0);
    let log = PathBuf::from(format!("{}-wal", path.display()));
    let backups = std::fs::read_dir(folder_of(path).join("backups"));
    is_empty(path)
        && (!log.exists() || is_empty(&log))
        && backups.is_ok_and(|mut all| all.next().is_some())
}

/// Sets a file and its log aside under another name. The file itself stays where it is until another one takes its
/// place, so that there is always one.
pub(crate) fn set_aside(path: &Path, aside: &Path) -> io::Result<()> {
    let beside = |path: &Path, what: &str| PathBuf::from(format!("{}{what}", path.display()));
    if path.exists() {
        std::fs::hard_link(path, aside).or_else(|_| std::fs::copy(path, aside).map(drop))?;
    }
    for log in ["-wal", "-shm"] {
        let log_of = beside(path, log);
        if log_of.exists() {
            std::fs::rename(log_of, beside(aside, log))?;
        }
    }
    Ok(())
}

pub(crate) fn folder_of(path: &Path) -> PathBuf {
    path.parent().map_or_else(PathBuf::new, Path::to_path_buf)
}

pub(crate) fn prepare(connection: &Connection) -> rusqlite::Result<()> {
    connection.busy_timeout(BUSY)?;
    connection.pragma_update(None, "journal_mode", "WAL")?;
    connection.pragma_update(None, "synchronous", "FULL")?;
    // What is deleted is overwritten: who asks to be forgotten is.
    connection.pragma_update_and_check(None, "secure_delete", "ON", |_| Ok(()))?;
    connection.pragma_update(None, "foreign_keys", "ON")
}

/// What a quick look over all pages finds wrong; `None` if nothing is.
pub(crate) fn damage(connection: &Connection) -> Option<String> {
    let found: rusqlite::Result<String> =
        connection.query_row("PRAGMA quick_check(1)", [], |row| row.get(0));
    match found {
        Ok(fine) if fine == "ok" => None,
        Ok(fault) => Some(fault.lines().last().unwrap_or_default().to_owned()),
        Err(error) => Some(error.to_string()),
    }
}

/// Brings the tables up to date. A copy of the file is set aside first.
pub(crate) fn upgrade(writer: &mut Connection, path: &Path) -> Result<()> {
    let version: i64 = writer.pragma_query_value(None, "user_version", |row| row.get(0))?;
    if version > migrations::COUNT {
        return Err(StoreError::TooNew(path.to_owned()));
    }
    if (1..migrations::COUNT).contains(&version) {
        let aside = path.with_extension(format!("before-{}.db", migrations::COUNT));
        private_file(&aside).map_err(|source| StoreError::File { path: aside.clone(), source })?;
        writer.backup("main", &aside, None)?;
        tracing::info!(copy = %aside.display(), "set a copy aside before changing the tables");
    }
    migrations::ALL.to_latest(writer)?;
    Ok(())
}
