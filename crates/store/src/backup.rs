//! A copy of the whole shelf, and another one in its place.
//!
//! A copy is made by SQLite's online backup in one step, so it is a state that really was, however much is being
//! saved meanwhile. Putting one back goes the same way: its pages are written into the shelf's own file as **one
//! transaction**. Whatever happens in the middle of it, a full disk or a power cut, the shelf is the old one or
//! the new one. Before that the copy is looked over as a whole: whether its pages are sound, whether this program
//! knows its tables, and whether there is anything in it that no Keen Pitcher puts there; and the present state is
//! set aside beside the shelf.

use std::path::{Path, PathBuf};
use std::time::{Duration, Instant};

use rusqlite::backup::{Backup, StepResult};
use rusqlite::limits::Limit;
use rusqlite::{Connection, ErrorCode, OpenFlags};

use crate::error::{Result, StoreError};
use crate::migrations;
use crate::opening::{self, private_file};
use crate::store::{Condition, Store};

/// How long a copy may take to be looked through.
const LONGEST_LOOK: Duration = Duration::from_secs(30);
/// The largest value in a copy, bytes: a picture is a tenth of it.
const MOST_VALUE: i32 = 64 * 1024 * 1024;

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
        "SELECT type, name, coalesce(sql, '') FROM sqlite_master WHERE name NOT GLOB 'sqlite_*' ORDER BY 1, 2",
    )?;
    let rows = query.query_map([], |row| Ok((row.get(0)?, row.get(1)?, row.get(2)?)))?;
    rows.collect()
}

/// Looks a copy over, and brings it up to date where it is older.
fn look_over(path: &Path) -> Result<Connection> {
    let no_copy = |why: String| StoreError::NoCopy(why);
    let flags = OpenFlags::SQLITE_OPEN_READ_WRITE | OpenFlags::SQLITE_OPEN_NO_MUTEX;
    let mut found = Connection::open_with_flags(path, flags)?;
    // Nothing in it is run before it is known to be ours, and nothing takes longer or more room than a shelf would.
    found.pragma_update(None, "trusted_schema", "OFF")?;
    found.pragma_update(None, "cell_size_check", "ON")?;
    found.set_limit(Limit::SQLITE_LIMIT_LENGTH, MOST_VALUE)?;
    let until = Instant::now() + LONGEST_LOOK;
    found.progress_handler(10_000, Some(move || Instant::now() > until))?;
    let unreadable = |error: rusqlite::Error| match error.sqlite_error_code() {
        Some(ErrorCode::OperationInterrupted) => no_copy("it takes too long to read".into()),
        _ => no_copy(format!("it can't be read ({error})")),
    };
    let version: i64 =
        found.pragma_query_value(None, "user_version", |row| row.get(0)).map_err(unreadable)?;
    if version > migrations::COUNT {
        return Err(StoreError::TooNew(path.to_owned()));
    }
    if version < 1 {
        return Err(no_copy("there is no data file in it".into()));
    }
    // What older programs made is what this one makes when it is told to stop there.
    let mut pattern = Connection::open_in_memory()?;
    migrations::ALL.to_version(&mut pattern, usize::try_from(version).unwrap_or(0))?;
    if made_of(&pattern)? != made_of(&found).map_err(unreadable)? {
        return Err(no_copy("it holds things that Keen Pitcher didn't put there".into()));
    }
    let sound: String =
        found.query_row("PRAGMA integrity_check(1)", [], |row| row.get(0)).map_err(unreadable)?;
    if sound != "ok" {
        return Err(no_copy(format!(
            "it is damaged ({})",
            sound.lines().last().unwrap_or_default()
        )));
    }
    migrations::ALL.to_latest(&mut found)?;
    // Phones are let in here, not by a file; and what was answered elsewhere was not answered here.
    found
        .execute_batch("DELETE FROM phones; DELETE FROM said; DELETE FROM answers;")
        .map_err(unreadable)?;
    Ok(found)
}

/// Copies a shelf to a new file, without its phones.
fn write_copy(from: &Connection, path: &Path) -> Result<()> {
    let told = |source| StoreError::File { path: path.to_owned(), source };
    private_file(path).map_err(told)?;
    let done = (|| {
        let mut to = Connection::open(path)?;
        copy(from, &mut to)?;
        to.pragma_update(None, "journal_mode", "DELETE")?;
        to.execute_batch("DELETE FROM phones; DELETE FROM said; DELETE FROM answers; VACUUM;")?;
        to.close().map_err(|(_, error)| error)?;
        std::fs::File::open(path).and_then(|file| file.sync_all()).map_err(told)
    })();
    if done.is_err() {
        // Half a copy is none.
        let _ = std::fs::remove_file(path);
    }
    done
}

/// The phones that were let in here stay in.
fn keep_phones(here: &Connection, there: &Connection) -> rusqlite::Result<()> {
    let columns = "id, name, hash, let_in_at, last_seen, until";
    let mut query = here.prepare(&format!("SELECT {columns} FROM phones"))?;
    let mut rows = query.query([])?;
    let put = format!("INSERT INTO phones ({columns}) VALUES (?1, ?2, ?3, ?4, ?5, ?6)");
    while let Some(row) = rows.next()? {
        let values = (0..6)
            .map(|i| row.get(i))
            .collect::<rusqlite::Result<Vec<rusqlite::types::Value>>>()?;
        there.execute(&put, rusqlite::params_from_iter(values))?;
    }
    Ok(())
}

impl Store {
    /// Copies the whole shelf as it is at this moment to a new file, which is for its owner alone. Phones that were
    /// let in are left out.
    ///
    /// # Errors
    /// If the file can't be written, or the shelf not be read.
    pub fn copy_to(&self, path: &Path) -> Result<()> {
        write_copy(&*self.reader()?, path)
    }

    /// Puts the shelf of another file in the place of this one, and sets this one aside; where, is answered. What is
    /// being saved meanwhile waits: it is in neither. Of a damaged shelf the file itself is set aside as it is, and
    /// the other file takes its place; otherwise that is changed only in that it is brought up to date.
    ///
    /// # Errors
    /// [`StoreError::NoCopy`], [`StoreError::TooNew`] if it is no shelf that can be used, [`StoreError::BeingRestored`]
    /// if another one is on its way. Nothing is changed then.
    pub fn replace_with(&self, path: &Path, now: &str) -> Result<PathBuf> {
        let _alone = self.restoring.try_lock().ok_or(StoreError::BeingRestored)?;
        let found = look_over(path)?;
        if let Condition::Damaged(_) = self.condition() {
            found.pragma_update(None, "journal_mode", "DELETE")?;
            found.close().map_err(|(_, error)| error)?;
            let aside = self.name_aside("damaged", now);
            self.put_in_place(path, &aside)?;
            return Ok(aside);
        }
        let aside = self.name_aside("before", now);
        let unfinished = opening::unfinished(&self.folder())
            .map_err(|source| StoreError::File { path: aside.clone(), source })?;
        let put = (|| {
            let mut writer = self.writer()?;
            write_copy(&writer, unfinished.path())?;
            keep_phones(&writer, &found)?;
            unfinished
                .persist_noclobber(&aside)
                .map_err(|error| StoreError::File { path: aside.clone(), source: error.error })?;
            copy(&found, &mut writer)?;
            opening::prepare(&writer)?;
            self.is_another();
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

    /// A name beside the shelf that nothing has yet.
    fn name_aside(&self, what: &str, now: &str) -> PathBuf {
        let stamp: String = now.chars().filter(char::is_ascii_alphanumeric).take(15).collect();
        let name = |n: usize| match n {
            0 => self.path().with_extension(format!("{what}-{stamp}.db")),
            n => self.path().with_extension(format!("{what}-{stamp}-{n}.db")),
        };
        (0..).map(name).find(|path| !path.exists()).unwrap_or_default()
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
