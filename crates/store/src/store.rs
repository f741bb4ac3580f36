use std::path::{Path, PathBuf};
use std::sync::{Mutex, MutexGuard, PoisonError};
use std::time::Duration;

use r2d2_sqlite::SqliteConnectionManager;
use rusqlite::{Connection, OpenFlags, OptionalExtension, Row, TransactionBehavior, params};

use crate::migrations;

/// How long a reader waits for a checkpoint, and the writer for another program.
const BUSY: Duration = Duration::from_secs(5);
/// Readers at once; more than there are cores to serve them.
const READERS: u32 = 4;

/// The shelf: one writer, a few readers.
#[derive(Debug)]
pub struct Store {
    writer: Mutex<Connection>,
    readers: r2d2::Pool<SqliteConnectionManager>,
}

/// A drink as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Kept {
    /// Names it for ever.
    pub id: String,
    /// Counts its changes from 1.
    pub version: i64,
    /// The drink as text of the open format.
    pub body: String,
    /// When it was put on the shelf, RFC 3339.
    pub created_at: String,
    /// When it was last changed, RFC 3339.
    pub changed_at: String,
}

/// A drink to be kept.
#[derive(Debug, Clone, Copy)]
pub struct Draft<'a> {
    /// Its name, for finding it.
    pub name: &'a str,
    /// The drink as text of the open format.
    pub body: &'a str,
    /// The time, RFC 3339 in UTC.
    pub now: &'a str,
}

/// Why the store could not do it.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// There is no such drink on the shelf.
    #[error("there is no such drink")]
    NotFound,
    /// Someone else has changed it since; this is how it stands now.
    #[error("the drink has been changed since version {}", .0.version)]
    Stale(Box<Kept>),
    /// A newer program has been at work on this shelf.
    #[error("the shelf at {0} was written by a newer version of this program")]
    TooNew(PathBuf),
    /// The folder or file can't be used.
    #[error("{path} can't be used: {source}")]
    File {
        /// Which.
        path: PathBuf,
        /// Why.
        source: std::io::Error,
    },
    /// The database refuses.
    #[error("the database refuses: {0}")]
    Database(#[from] rusqlite::Error),
    /// The tables could not be brought up to date.
    #[error("the tables can't be brought up to date: {0}")]
    Migration(#[from] rusqlite_migration::Error),
    /// All readers are busy.
    #[error("all readers are busy: {0}")]
    Readers(#[from] r2d2::Error),
}

type Result<T> = std::result::Result<T, StoreError>;

const COLUMNS: &str = "id, version, body, created_at, changed_at";

fn kept(row: &Row<'_>) -> rusqlite::Result<Kept> {
    Ok(Kept {
        id: row.get(0)?,
        version: row.get(1)?,
        body: row.get(2)?,
        created_at: row.get(3)?,
        changed_at: row.get(4)?,
    })
}

fn prepare(connection: &Connection) -> rusqlite::Result<()> {
    connection.busy_timeout(BUSY)?;
    connection.pragma_update(None, "journal_mode", "WAL")?;
    connection.pragma_update(None, "synchronous", "FULL")?;
    connection.pragma_update(None, "foreign_keys", "ON")
}

impl Store {
    /// Opens the shelf in a file, making it and its folder if need be. Before its tables are changed
    /// by a newer program, a copy of the file is set aside next to it.
    ///
    /// # Errors
    /// If the file can't be used or was written by a newer program.
    pub fn open(path: &Path) -> Result<Self> {
        if let Some(folder) = path.parent() {
            std::fs::create_dir_all(folder)
                .map_err(|source| StoreError::File { path: folder.to_owned(), source })?;
        }
        let mut writer = Connection::open(path)?;
        prepare(&writer)?;
        let version: i64 = writer.pragma_query_value(None, "user_version", |row| row.get(0))?;
        if version > migrations::COUNT {
            return Err(StoreError::TooNew(path.to_owned()));
        }
        if (1..migrations::COUNT).contains(&version) {
            let aside = path.with_extension(format!("before-{}.db", migrations::COUNT));
            writer.backup("main", &aside, None)?;
            tracing::info!(copy = %aside.display(), "set a copy aside before changing the tables");
        }
        migrations::ALL.to_latest(&mut writer)?;
        let manager = SqliteConnectionManager::file(path)
            .with_flags(OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_NO_MUTEX)
            .with_init(|connection| connection.busy_timeout(BUSY));
        let readers = r2d2::Pool::builder()
            .max_size(READERS)
            .min_idle(Some(1))
            .connection_timeout(BUSY)
            .build(manager)?;
        Ok(Self { writer: Mutex::new(writer), readers })
    }

    /// The writer. A thread that panicked while it held it left a rolled-back transaction, so the
    /// connection is as good as before.
    fn writer(&self) -> MutexGuard<'_, Connection> {
        self.writer.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Puts a new drink on the shelf.
    ///
    /// # Errors
    /// If the database refuses, also when the id is taken.
    pub fn create(&self, id: &str, draft: Draft<'_>) -> Result<Kept> {
        let made = self.writer().query_row(
            &format!(
                "INSERT INTO drinks (id, version, name, body, created_at, changed_at)
                 VALUES (?1, 1, ?2, ?3, ?4, ?4) RETURNING {COLUMNS}"
            ),
            params![id, draft.name, draft.body, draft.now],
            kept,
        )?;
        Ok(made)
    }

    /// A drink on the shelf.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if it isn't there or was taken off.
    pub fn read(&self, id: &str) -> Result<Kept> {
        find(&*self.readers.get()?, id)?.ok_or(StoreError::NotFound)
    }

    /// The first drinks whose name holds the text, last changed first, and how many there are in all.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn list(&self, name_has: &str, most: usize) -> Result<(usize, Vec<Kept>)> {
        let reader = self.readers.get()?;
        let mut query = reader.prepare_cached(&format!(
            "SELECT {COLUMNS}, name FROM drinks WHERE deleted_at IS NULL
             ORDER BY changed_at DESC, id DESC"
        ))?;
        // SQLite folds case for ASCII only; names may be written in any script.
        let wanted = name_has.trim().to_lowercase();
        let mut rows = query.query([])?;
        let (mut total, mut first) = (0, Vec::new());
        while let Some(row) = rows.next()? {
            let fits = |name: &str| name.to_lowercase().contains(&wanted);
            if wanted.is_empty() || row.get_ref(5)?.as_str().is_ok_and(fits) {
                total += 1;
                if first.len() < most {
                    first.push(kept(row)?);
                }
            }
        }
        Ok((total, first))
    }

    /// Saves a change made on top of `version`, and keeps what it replaces.
    ///
    /// Changes that follow one another within five minutes count as one earlier version, since every
    /// nudge of an amount is saved.
    ///
    /// # Errors
    /// [`StoreError::Stale`] with the newer one if someone else was faster.
    pub fn save(&self, id: &str, version: i64, draft: Draft<'_>) -> Result<Kept> {
        let mut writer = self.writer();
        let work = writer.transaction_with_behavior(TransactionBehavior::Immediate)?;
        let current = find(&work, id)?.ok_or(StoreError::NotFound)?;
        if current.version != version {
            return Err(StoreError::Stale(Box::new(current)));
        }
        if current.body == draft.body {
            return Ok(current);
        }
        work.execute(
            "INSERT INTO earlier_versions (drink_id, version, body, changed_at)
             SELECT ?1, ?2, ?3, ?4 WHERE NOT EXISTS (
                 SELECT 1 FROM earlier_versions
                 WHERE drink_id = ?1 AND unixepoch(?4) - unixepoch(changed_at) < 300
             )",
            params![id, current.version, current.body, current.changed_at],
        )?;
        let saved = work.query_row(
            &format!(
                "UPDATE drinks SET version = version + 1, name = ?2, body = ?3, changed_at = ?4
                 WHERE id = ?1 RETURNING {COLUMNS}"
            ),
            params![id, draft.name, draft.body, draft.now],
            kept,
        )?;
        work.commit()?;
        Ok(saved)
    }

    /// Takes a drink off the shelf; it can be put back.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if it isn't there.
    pub fn delete(&self, id: &str, now: &str) -> Result<()> {
        let gone = self.writer().execute(
            "UPDATE drinks SET deleted_at = ?2 WHERE id = ?1 AND deleted_at IS NULL",
            params![id, now],
        )?;
        if gone == 0 { Err(StoreError::NotFound) } else { Ok(()) }
    }

    /// Puts a drink back that was taken off.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there never was one.
    pub fn restore(&self, id: &str) -> Result<Kept> {
        let writer = self.writer();
        writer.execute("UPDATE drinks SET deleted_at = NULL WHERE id = ?1", [id])?;
        find(&writer, id)?.ok_or(StoreError::NotFound)
    }

    /// Whether no drink was ever kept.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn is_new(&self) -> Result<bool> {
        let reader = self.readers.get()?;
        Ok(!reader.query_row("SELECT EXISTS (SELECT 1 FROM drinks)", [], |row| row.get(0))?)
    }

    /// Puts many drinks on an empty shelf, all or none.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn fill(&self, drinks: &[(String, Draft<'_>)]) -> Result<()> {
        let mut writer = self.writer();
        let work = writer.transaction()?;
        for (id, draft) in drinks {
            work.execute(
                "INSERT INTO drinks (id, version, name, body, created_at, changed_at)
                 VALUES (?1, 1, ?2, ?3, ?4, ?4)",
                params![id, draft.name, draft.body, draft.now],
            )?;
        }
        work.commit()?;
        Ok(())
    }

    /// Remembers a choice in place of one that is still as expected; says whether it did.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn replace_setting(
        &self,
        key: &str,
        value: &str,
        expected: impl FnOnce(Option<&str>) -> bool,
    ) -> Result<bool> {
        let mut writer = self.writer();
        let work = writer.transaction_with_behavior(TransactionBehavior::Immediate)?;
        let kept: Option<String> = work
            .query_row("SELECT value FROM settings WHERE key = ?1", [key], |row| row.get(0))
            .optional()?;
        if !expected(kept.as_deref()) {
            return Ok(false);
        }
        work.execute(
            "INSERT INTO settings (key, value) VALUES (?1, ?2)
             ON CONFLICT (key) DO UPDATE SET value = excluded.value",
            params![key, value],
        )?;
        work.commit()?;
        Ok(true)
    }

    /// A remembered choice.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn setting(&self, key: &str) -> Result<Option<String>> {
        let reader = self.readers.get()?;
        Ok(reader
            .query_row("SELECT value FROM settings WHERE key = ?1", [key], |row| row.get(0))
            .optional()?)
    }

    /// Remembers a choice.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn remember(&self, key: &str, value: &str) -> Result<()> {
        self.writer().execute(
            "INSERT INTO settings (key, value) VALUES (?1, ?2)
             ON CONFLICT (key) DO UPDATE SET value = excluded.value",
            params![key, value],
        )?;
        Ok(())
    }
}

fn find(connection: &Connection, id: &str) -> Result<Option<Kept>> {
    Ok(connection
        .prepare_cached(&format!(
            "SELECT {COLUMNS} FROM drinks WHERE id = ?1 AND deleted_at IS NULL"
        ))?
        .query_row([id], kept)
        .optional()?)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn shelf() -> (tempfile::TempDir, Store) {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(&folder.path().join("deep/kitchen.db")).unwrap();
        (folder, store)
    }

    fn draft<'a>(name: &'a str, body: &'a str, now: &'a str) -> Draft<'a> {
        Draft { name, body, now }
    }

    #[test]
    fn a_stale_write_is_refused_and_shows_the_newer() {
        let (_folder, store) = shelf();
        store.create("a", draft("Lime", "one", "2030-01-01T10:00:00Z")).unwrap();
        let second = store.save("a", 1, draft("Lime", "two", "2030-01-01T10:01:00Z")).unwrap();
        assert_eq!(second.version, 2);
        let error = store.save("a", 1, draft("Lime", "three", "2030-01-01T10:02:00Z")).unwrap_err();
        match error {
            StoreError::Stale(current) => assert_eq!(*current, second),
            other => panic!("{other}"),
        }
        assert_eq!(store.read("a").unwrap().body, "two");
    }

    #[test]
    fn saving_the_same_again_changes_nothing() {
        let (_folder, store) = shelf();
        let first = store.create("a", draft("Lime", "one", "2030-01-01T10:00:00Z")).unwrap();
        let again = store.save("a", 1, draft("Lime", "one", "2030-01-01T11:00:00Z")).unwrap();
        assert_eq!(first, again);
    }

    #[test]
    fn earlier_versions_are_kept_five_minutes_apart() {
        let (_folder, store) = shelf();
        store.create("a", draft("Lime", "v1", "2030-01-01T10:00:00Z")).unwrap();
        for (version, body, now) in [
            (1, "v2", "2030-01-01T10:00:30Z"),
            (2, "v3", "2030-01-01T10:01:00Z"),
            (3, "v4", "2030-01-01T10:30:00Z"),
            (4, "v5", "2030-01-01T11:00:00Z"),
        ] {
            store.save("a", version, draft("Lime", body, now)).unwrap();
        }
        let writer = store.writer();
        let mut query =
            writer.prepare("SELECT body FROM earlier_versions ORDER BY version").unwrap();
        let bodies: Vec<String> =
            query.query_map([], |row| row.get(0)).unwrap().map(|b| b.unwrap()).collect();
        assert_eq!(bodies, ["v1", "v4"]);
    }

    #[test]
    fn taken_off_and_put_back() {
        let (_folder, store) = shelf();
        store.create("a", draft("Lime", "one", "2030-01-01T10:00:00Z")).unwrap();
        store.delete("a", "2030-01-01T10:00:00Z").unwrap();
        assert!(matches!(store.read("a"), Err(StoreError::NotFound)));
        assert!(matches!(store.delete("a", ""), Err(StoreError::NotFound)));
        assert_eq!(store.list("", 9).unwrap(), (0, vec![]));
        assert_eq!(store.restore("a").unwrap().body, "one");
        assert!(matches!(store.restore("b"), Err(StoreError::NotFound)));
    }

    #[test]
    fn found_by_any_part_of_the_name_in_any_script() {
        let (_folder, store) = shelf();
        for (id, name) in [("a", "Été au jardin"), ("b", "Lime"), ("c", "شراب 🍋")] {
            store.create(id, draft(name, "", "2030-01-01T10:00:00Z")).unwrap();
        }
        let ids = |text: &str| -> Vec<String> {
            store.list(text, 9).unwrap().1.into_iter().map(|k| k.id).collect()
        };
        assert_eq!(ids("ÉTÉ"), ["a"]);
        assert_eq!(ids("🍋"), ["c"]);
        assert_eq!(ids("%"), Vec::<String>::new());
        assert_eq!(ids(" ").len(), 3);
        assert_eq!(store.list("", 2).unwrap().0, 3, "all are counted, two are shown");
        assert_eq!(store.list("", 2).unwrap().1.len(), 2);
    }

    #[test]
    fn what_was_answered_is_there_after_the_program_is_gone() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("kitchen.db");
        let store = Store::open(&path).unwrap();
        store.create("a", draft("Lime", "one", "2030-01-01T10:00:00Z")).unwrap();
        store.remember("units", "us").unwrap();
        // Nothing is closed or flushed on the way out, as when the power goes.
        std::mem::forget(store);
        let store = Store::open(&path).unwrap();
        assert_eq!(store.read("a").unwrap().body, "one");
        assert_eq!(store.setting("units").unwrap().as_deref(), Some("us"));
        assert!(!store.is_new().unwrap());
    }

    #[test]
    fn a_shelf_of_a_newer_program_is_left_alone() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("kitchen.db");
        drop(Store::open(&path).unwrap());
        Connection::open(&path).unwrap().pragma_update(None, "user_version", 99).unwrap();
        assert!(matches!(Store::open(&path), Err(StoreError::TooNew(_))));
    }
}
