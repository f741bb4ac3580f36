use std::fs::File;
use std::path::{Path, PathBuf};
use std::time::Duration;

use parking_lot::{Mutex, MutexGuard, RwLock};
use rusqlite::{Connection, Transaction, TransactionBehavior};

use crate::error::{Result, StoreError};
use crate::opening::{self, BUSY};
use crate::readers::{Reader, Readers};

/// How long a save waits for the one before it.
const PATIENCE: Duration = Duration::from_secs(2);

/// How long a connection to a damaged file is waited for: what can be had is had at once.
const HOPELESS: Duration = Duration::from_millis(50);

/// How the shelf is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Condition {
    /// As it should be.
    Sound,
    /// It can be read, not written.
    ReadOnly,
    /// Parts of the file can't be read; nothing is written to it any more. Says what was found.
    Damaged(String),
}

/// The shelf: one writer, a few readers.
#[derive(Debug)]
pub struct Store {
    path: PathBuf,
    condition: RwLock<Condition>,
    /// Taken out when it closes, before the writer folds the log in: readers keep it from that.
    readers: Option<Readers>,
    writer: Option<Mutex<Connection>>,
    /// Held as long as a server runs on it.
    _lock: Option<File>,
    /// Held while another shelf is put in the place of this one.
    pub(crate) restoring: Mutex<()>,
    /// Of a shelf that can't be written to, what is read is a copy.
    _copy: Option<tempfile::TempDir>,
}

impl Store {
    /// Opens the shelf in a file, making it and its folder if need be. Before its tables are changed
    /// by a newer program, a copy of the file is set aside next to it.
    ///
    /// # Errors
    /// If the file can't be used or was written by a newer program.
    pub fn open(path: &Path) -> Result<Self> {
        Self::open_with(path, false)
    }

    /// As [`Self::open`], for a server: a second one on the same folder is refused.
    ///
    /// # Errors
    /// Also [`StoreError::AlreadyServed`].
    pub fn open_to_serve(path: &Path) -> Result<Self> {
        Self::open_with(path, true)
    }

    fn open_with(path: &Path, to_serve: bool) -> Result<Self> {
        if let Err(source) = opening::make(path) {
            let cant_write = matches!(
                source.kind(),
                std::io::ErrorKind::PermissionDenied | std::io::ErrorKind::ReadOnlyFilesystem
            );
            return match cant_write && path.exists() {
                true => Self::open_copy(path),
                false => Err(StoreError::File { path: path.to_owned(), source }),
            };
        }
        let lock = to_serve.then(|| opening::lock(path)).transpose()?;
        let named = |error: rusqlite::Error| match StoreError::from(error) {
            StoreError::NotAShelf(_) => StoreError::NotAShelf(path.to_owned()),
            StoreError::ReadOnly(_) => StoreError::ReadOnly(opening::folder_of(path)),
            other => other,
        };
        let mut writer = Connection::open(path).map_err(named)?;
        let begun = opening::prepare(&writer).map_err(named);
        if let Err(StoreError::ReadOnly(_)) = begun {
            drop(writer);
            return Self::open_copy(path);
        }
        let found = match begun {
            Err(StoreError::Damaged(what)) => Some(what),
            Err(other) => return Err(other),
            Ok(()) => opening::damage(&writer),
        };
        let condition = match found {
            Some(what) => Condition::Damaged(what),
            None => {
                opening::upgrade(&mut writer, path)?;
                Condition::Sound
            }
        };
        let store = Self::with(path, writer, condition, lock, None)?;
        // Where the list of tables itself is damaged there is no way to anything.
        if let Condition::Damaged(what) = store.condition()
            && store.reader().is_err()
        {
            return Err(StoreError::Damaged(what));
        }
        Ok(store)
    }

    /// Reads a copy of what can't be written to: the log beside it could not be read otherwise.
    fn open_copy(path: &Path) -> Result<Self> {
        let copied = |folder: &Path| -> std::io::Result<PathBuf> {
            let copy = folder.join("copy.db");
            std::fs::copy(path, &copy)?;
            for log in ["-wal", "-shm"] {
                let beside = |p: &Path| PathBuf::from(format!("{}{log}", p.display()));
                if beside(path).exists() {
                    std::fs::copy(beside(path), beside(&copy))?;
                }
            }
            opening::make(&copy)?;
            Ok(copy)
        };
        let told = |source| StoreError::File { path: path.to_owned(), source };
        let folder = tempfile::tempdir().map_err(told)?;
        let copy = copied(folder.path()).map_err(told)?;
        let mut writer = Connection::open(&copy)?;
        opening::prepare(&writer)?;
        opening::upgrade(&mut writer, &copy)?;
        let mut store = Self::with(&copy, writer, Condition::ReadOnly, None, Some(folder))?;
        store.path = path.to_owned();
        Ok(store)
    }

    fn with(
        path: &Path,
        writer: Connection,
        condition: Condition,
        lock: Option<File>,
        copy: Option<tempfile::TempDir>,
    ) -> Result<Self> {
        let patience = match condition {
            Condition::Damaged(_) => HOPELESS,
            _ => BUSY,
        };
        let readers = Readers::of(path, patience)?;
        Ok(Self {
            path: path.to_owned(),
            condition: RwLock::new(condition),
            readers: Some(readers),
            writer: Some(Mutex::new(writer)),
            _lock: lock,
            restoring: Mutex::default(),
            _copy: copy,
        })
    }

    /// How it is.
    #[must_use]
    pub fn condition(&self) -> Condition {
        self.condition.read().clone()
    }

    /// The file.
    #[must_use]
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// Notes damage that is met on the way: from then on nothing is written.
    pub(crate) fn note<T>(&self, result: Result<T>) -> Result<T> {
        if let Err(StoreError::Damaged(what)) = &result
            && self.condition() == Condition::Sound
        {
            tracing::error!(path = %self.path.display(), what, "the shelf's file is damaged");
            *self.condition.write() = Condition::Damaged(what.clone());
        }
        result
    }

    pub(crate) fn reader(&self) -> Result<Reader<'_>> {
        self.readers.as_ref().ok_or(StoreError::Locked)?.take()
    }

    /// The writer, if the shelf can be written to.
    pub(crate) fn writer(&self) -> Result<MutexGuard<'_, Connection>> {
        match self.condition() {
            Condition::Sound => {}
            Condition::ReadOnly => {
                return Err(StoreError::ReadOnly(opening::folder_of(&self.path)));
            }
            Condition::Damaged(what) => return Err(StoreError::Damaged(what)),
        }
        let writer = self.writer.as_ref().ok_or(StoreError::Locked)?;
        writer.try_lock_for(PATIENCE).ok_or(StoreError::Locked)
    }

    /// Does something in one transaction, which is committed before this returns. All writing goes
    /// through here.
    pub(crate) fn write<T>(&self, work: impl FnOnce(&Transaction<'_>) -> Result<T>) -> Result<T> {
        let done = (|| {
            let mut writer = self.writer()?;
            let transaction = writer.transaction_with_behavior(TransactionBehavior::Immediate)?;
            let done = work(&transaction)?;
            transaction.commit()?;
            Ok(done)
        })();
        self.note(done)
    }

    /// Folds the log into the file as far as readers let it.
    ///
    /// # Errors
    /// If the shelf can't be written to.
    pub fn fold(&self) -> Result<()> {
        let writer = self.writer()?;
        writer.query_row("PRAGMA wal_checkpoint(TRUNCATE)", [], |_| Ok(()))?;
        Ok(())
    }

    /// As on a disk that holds no more than `pages` pages.
    #[cfg(test)]
    pub(crate) fn allow_pages(&self, pages: i64) {
        let writer = self.writer().unwrap();
        let there: i64 = writer.pragma_query_value(None, "page_count", |row| row.get(0)).unwrap();
        writer.pragma_update_and_check(None, "max_page_count", there + pages, |_| Ok(())).unwrap();
    }
}

impl Drop for Store {
    fn drop(&mut self) {
        drop(self.readers.take());
        if self.condition() == Condition::Sound
            && let Some(writer) = self.writer.take()
        {
            let writer = writer.into_inner();
            let folded = writer.query_row("PRAGMA wal_checkpoint(TRUNCATE)", [], |_| Ok(()));
            if let Err(error) = folded {
                tracing::warn!(%error, "the log stays beside the file until it is opened again");
            }
        }
    }
}
