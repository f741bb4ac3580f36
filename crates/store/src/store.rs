use std::fs::File;
use std::path::{Path, PathBuf};
use std::time::Duration;

use parking_lot::{Mutex, MutexGuard, RwLock};
use rusqlite::{Connection, Transaction, TransactionBehavior};

use crate::error::{Result, StoreError};
use crate::migrations;
use crate::opening::{self, BUSY};
use crate::place::Place;
use crate::readers::{Reader, Readers};

/// How long a save waits for the one before it.
const PATIENCE: Duration = Duration::from_secs(2);

/// How long a connection to a damaged file is waited for: what can be had is had at once.
const HOPELESS: Duration = Duration::from_millis(50);

/// The condition of the data file.
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
    /// Which file it is that is written to; none before the first save.
    place: Mutex<Option<Place>>,
    /// Of a shelf that can't be written to, what is read is a copy; of one of which nothing can be read, an empty
    /// one.
    _copy: Option<tempfile::TempDir>,
}

impl Store {
    /// Opens the shelf in a file, making it and its folder if need be. Before its tables are changed
    /// by a newer program, a copy of the file is set aside next to it.
    ///
    /// # Errors
    /// If the file can't be used or was written by a newer program.
    pub fn open(path: &Path) -> Result<Self> {
        Self::opened(path, &mut None)
    }

    /// As [`Self::open`], for a server: a second one on the same folder is refused. Of a file of which nothing can
    /// be read an empty shelf is shown, so that a backup can be put in its place; the file itself stays as it is.
    ///
    /// # Errors
    /// Also [`StoreError::AlreadyServed`].
    pub fn open_to_serve(path: &Path) -> Result<Self> {
        let emptied = opening::was_emptied(path);
        let lock = match opening::make(path) {
            Ok(()) => Some(opening::lock(path)?),
            Err(_) => None,
        };
        if emptied {
            return Self::open_empty(
                path,
                "the file is empty, though there are backups".into(),
                lock,
            );
        }
        match Self::open_with(path, lock) {
            Err((StoreError::Damaged(what), lock)) => Self::open_empty(path, what, lock),
            Err((StoreError::NotAShelf(_), lock)) => {
                Self::open_empty(path, "it doesn't begin as a data file does".into(), lock)
            }
            other => other.map_err(|(error, _)| error),
        }
    }

    fn open_with(
        path: &Path,
        lock: Option<File>,
    ) -> std::result::Result<Self, (StoreError, Option<File>)> {
        let mut lock = lock;
        Self::opened(path, &mut lock).map_err(|error| (error, lock))
    }

    fn opened(path: &Path, lock: &mut Option<File>) -> Result<Self> {
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
        let named = |error: StoreError| match error {
            StoreError::NotAShelf(_) => StoreError::NotAShelf(path.to_owned()),
            StoreError::ReadOnly(_) => StoreError::ReadOnly(opening::folder_of(path)),
            other => other,
        };
        let mut writer = Connection::open(path).map_err(|error| named(error.into()))?;
        let begun = opening::prepare(&writer).map_err(|error| named(error.into()));
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
        let found = match &condition {
            Condition::Damaged(what) => Some(what.clone()),
            _ => None,
        };
        let mut store = Self::with(path, writer, condition, None).map_err(named)?;
        // Where the list of tables itself is damaged there is no way to anything.
        if let Some(what) = found
            && store.reader().is_err()
        {
            return Err(StoreError::Damaged(what));
        }
        // Beside a running server nobody else sweeps: what it is writing is unfinished too.
        if store.condition() == Condition::Sound && lock.is_some() {
            opening::sweep(&opening::folder_of(path));
        }
        store._lock = lock.take();
        Ok(store)
    }

    /// Stands in for a file of which nothing can be read: an empty shelf that is never written to.
    fn open_empty(path: &Path, what: String, lock: Option<File>) -> Result<Self> {
        let told = |source| StoreError::File { path: path.to_owned(), source };
        let folder = tempfile::tempdir().map_err(told)?;
        let empty = folder.path().join("empty.db");
        let mut writer = Connection::open(&empty)?;
        opening::prepare(&writer)?;
        migrations::ALL.to_latest(&mut writer)?;
        let mut store = Self::with(&empty, writer, Condition::Damaged(what), Some(folder))?;
        store.path = path.to_owned();
        store._lock = lock;
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
        let mut store = Self::with(&copy, writer, Condition::ReadOnly, Some(folder))?;
        store.path = path.to_owned();
        Ok(store)
    }

    fn with(
        path: &Path,
        writer: Connection,
        condition: Condition,
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
            _lock: None,
            restoring: Mutex::default(),
            place: Mutex::default(),
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

    /// The folder that it is in, with the backups and what was set aside.
    #[must_use]
    pub fn folder(&self) -> PathBuf {
        opening::folder_of(&self.path)
    }

    /// Notes damage that is met on the way: from then on nothing is written.
    pub(crate) fn note<T>(&self, result: Result<T>) -> Result<T> {
        if let Err(StoreError::Damaged(what)) = &result
            && self.condition() == Condition::Sound
        {
            tracing::error!(path = %self.path.display(), what, "the data file is damaged");
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
        writer.try_lock_for(PATIENCE).ok_or_else(|| match self.restoring.is_locked() {
            true => StoreError::BeingRestored,
            false => StoreError::Locked,
        })
    }

    /// Whether what is written goes to the file that is found under its name: another program may have moved it,
    /// put another one there, or cut it short, and then nothing that is saved would be found again.
    fn look_where_it_is(&self) -> Result<()> {
        Place::check(&self.path, &mut self.place.lock()).map_err(StoreError::Damaged)
    }

    /// What is known of the file ends here: another content was put into it.
    pub(crate) fn is_another(&self) {
        *self.place.lock() = None;
    }

    /// Puts another file in the place of this one, which is damaged or gone; where the old one lies now is answered.
    pub(crate) fn put_in_place(&self, new: &Path, aside: &Path) -> Result<()> {
        let told = |source| StoreError::File { path: self.path.clone(), source };
        let writer = self.writer.as_ref().ok_or(StoreError::Locked)?;
        let mut writer = writer.try_lock_for(PATIENCE).ok_or(StoreError::Locked)?;
        let readers = self.readers.as_ref().ok_or(StoreError::Locked)?;
        File::open(new).and_then(|file| file.sync_all()).map_err(told)?;
        // Nothing of the old one may be folded into the new one.
        *writer = Connection::open_in_memory()?;
        opening::set_aside(&self.path, aside).map_err(told)?;
        std::fs::rename(new, &self.path).map_err(told)?;
        if let Ok(folder) = File::open(opening::folder_of(&self.path)) {
            let _ = folder.sync_all();
        }
        *writer = Connection::open(&self.path)?;
        opening::prepare(&writer)?;
        readers.begin_anew(&self.path);
        self.is_another();
        *self.condition.write() = Condition::Sound;
        Ok(())
    }

    /// Does something in one transaction, which is committed before this returns. All writing goes
    /// through here.
    pub(crate) fn write<T>(&self, work: impl FnOnce(&Transaction<'_>) -> Result<T>) -> Result<T> {
        let done = (|| {
            let mut writer = self.writer()?;
            self.look_where_it_is()?;
            let transaction = writer.transaction_with_behavior(TransactionBehavior::Immediate)?;
            let done = work(&transaction)?;
            transaction.commit()?;
            self.look_where_it_is()?;
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
            && self.look_where_it_is().is_ok()
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
