//! A copy of the whole shelf, and another one in its place.
//!
//! A copy is made by SQLite's online backup in one step, so it is a state that really was, however much is being
//! saved meanwhile. Putting one back goes the same way: its pages are written into the shelf's own file as **one
//! transaction**. Whatever happens in the middle of it, a full disk or a power cut, the shelf is the old one or
//! the new one. Before that the copy is looked over as a whole: whether its pages are sound, whether this program
//! knows its tables, and whether there is anything in it that no Keen Pitcher puts there; and the present state is
//! set aside beside the shelf.

use std::path::{Path, PathBuf};
use std::time::Duration;

use rusqlite::backup::{Backup, StepResult};
use rusqlite::{Connection, OpenFlags};

use crate::error::{Result, StoreError};
use crate::migrations;
use crate::opening::{self, private_file};
use crate::store::Store;

/// Copies a whole database in one step.
fn copy(from: &Connection, to: &mut Connection) -> Result<()> {
    let copying = Backup::new(from, to)?;
    let mut patience = 200;
    loop {
        match copying.step(-1)? {
            StepResult::Done => return Ok(()),
            StepResult::Busy | StepResult::Locked if patience > 0 => {
                patience -= 1;
                std::thread::sleep(Duration::from_millis(10));
            }
            StepResult::More => {}
            _ => return Err(StoreError::Locked),
        }
    }
}

/// The tables, indexes and triggers of a database, as they were made.
fn made_of(connection: &Connection) -> rusqlite::Result<Vec<(String, String, String)>> {
    let mut query = connection.prepare(
        "SELECT type, name, coalesce(sql, '') FROM sqlite_master WHERE name NOT LIKE 'sqlite_%' ORDER BY 1, 2",
    )?;
    let rows = query.query_map([], |row| Ok((row.get(0)?, row.get(1)?, row.get(2)?)))?;
    rows.collect()
}

/// Looks a copy over, and brings it up to date where it is older.
fn look_over(path: &Path) -> Result<Connection> {
    let no_copy = |why: String| StoreError::NoCopy(why);
    let flags = OpenFlags::SQLITE_OPEN_READ_WRITE | OpenFlags::SQLITE_OPEN_NO_MUTEX;
    let mut found = Connection::open_with_flags(path, flags)?;
    // Nothing in it is run before it is known to be ours.
    found.pragma_update(None, "trusted_schema", "OFF")?;
    found.pragma_update(None, "cell_size_check", "ON")?;
    let sound: String = found
        .query_row("PRAGMA integrity_check(1)", [], |row| row.get(0))
        .map_err(|error| no_copy(format!("it can't be read ({error})")))?;
    if sound != "ok" {
        return Err(no_copy(format!(
            "it is damaged ({})",
            sound.lines().last().unwrap_or_default()
        )));
    }
    let version: i64 = found.pragma_query_value(None, "user_version", |row| row.get(0))?;
    if version > migrations::COUNT {
        return Err(StoreError::TooNew(path.to_owned()));
    }
    if version < 1 {
        return Err(no_copy("there is no shelf in it".into()));
    }
    // What older programs made is what this one makes when it is told to stop there.
    let mut pattern = Connection::open_in_memory()?;
    migrations::ALL.to_version(&mut pattern, usize::try_from(version).unwrap_or(0))?;
    if made_of(&pattern)? != made_of(&found)? {
        return Err(no_copy("there are things in it that Keen Pitcher doesn't put there".into()));
    }
    migrations::ALL.to_latest(&mut found)?;
    Ok(found)
}

impl Store {
    /// Copies the whole shelf as it is at this moment to a new file, which is for its owner alone. Phones that were
    /// let in are left out.
    ///
    /// # Errors
    /// If the file can't be written, or the shelf not be read.
    pub fn copy_to(&self, path: &Path) -> Result<()> {
        let told = |source| StoreError::File { path: path.to_owned(), source };
        private_file(path).map_err(told)?;
        let done = (|| {
            let mut to = Connection::open(path)?;
            copy(&*self.reader()?, &mut to)?;
            to.pragma_update(None, "journal_mode", "DELETE")?;
            to.execute_batch("DELETE FROM phones; DELETE FROM said; VACUUM;")?;
            to.close().map_err(|(_, error)| error)?;
            std::fs::File::open(path).and_then(|file| file.sync_all()).map_err(told)
        })();
        if done.is_err() {
            // Half a copy is none.
            let _ = std::fs::remove_file(path);
        }
        done
    }

    /// Puts the shelf of another file in the place of this one, and sets this one aside; where, is answered. The
    /// file is changed only in that it is brought up to date.
    ///
    /// # Errors
    /// [`StoreError::NoCopy`], [`StoreError::TooNew`] if it is no shelf that can be used, [`StoreError::BeingRestored`]
    /// if another one is on its way. Nothing is changed then.
    pub fn replace_with(&self, path: &Path, now: &str) -> Result<PathBuf> {
        let _alone = self.restoring.try_lock().ok_or(StoreError::BeingRestored)?;
        let found = look_over(path)?;
        let stamp: String = now.chars().filter(char::is_ascii_alphanumeric).take(15).collect();
        let aside = (0..)
            .map(|n| match n {
                0 => self.path().with_extension(format!("before-{stamp}.db")),
                n => self.path().with_extension(format!("before-{stamp}-{n}.db")),
            })
            .find(|path| !path.exists())
            .unwrap_or_default();
        self.copy_to(&aside)?;
        let put = (|| {
            let mut writer = self.writer()?;
            copy(&found, &mut writer)?;
            opening::prepare(&writer)?;
            Ok(())
        })();
        match self.note(put) {
            Ok(()) => Ok(aside),
            Err(why) => {
                let _ = std::fs::remove_file(&aside);
                Err(why)
            }
        }
    }

    /// Looks a copy over without putting it anywhere: how many drinks and batches it holds.
    ///
    /// # Errors
    /// As [`Self::replace_with`].
    pub fn look_over(path: &Path) -> Result<(i64, i64)> {
        let found = look_over(path)?;
        let count = |sql: &str| found.query_row(sql, [], |row| row.get(0));
        Ok((
            count("SELECT count(*) FROM drinks WHERE deleted_at IS NULL")?,
            count("SELECT count(*) FROM batches")?,
        ))
    }
}
