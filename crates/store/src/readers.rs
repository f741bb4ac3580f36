//! The connections that only read.
//!
//! SQLite lets any number of readers work beside the one writer. A few are enough, and opening one costs a
//! look at the whole list of tables; so who has read gives the connection back for the next.

use std::ops::Deref;
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant};

use parking_lot::{Condvar, Mutex};
use rusqlite::{Connection, OpenFlags};

use crate::error::{Result, StoreError};
use crate::opening::BUSY;

/// Readers at once; more than there are cores to serve them.
const READERS: usize = 4;

/// Connections to one file that are handed out and come back.
#[derive(Debug)]
pub(crate) struct Readers {
    /// How long one is waited for.
    patience: Duration,
    state: Mutex<State>,
    came_back: Condvar,
}

#[derive(Debug, Default)]
struct State {
    path: PathBuf,
    /// How often they were started anew: what was handed out before that isn't handed out again.
    round: usize,
    idle: Vec<Connection>,
    /// Handed out at present.
    out: usize,
}

impl Readers {
    /// Readers of a file.
    ///
    /// # Errors
    /// If not even one can be opened.
    pub(crate) fn of(path: &Path, patience: Duration) -> Result<Self> {
        let readers = Self {
            patience,
            state: Mutex::new(State { path: path.to_owned(), ..State::default() }),
            came_back: Condvar::new(),
        };
        // What keeps the first from opening is told at once, not at the first question. A damaged file
        // tells it when it is read: what can be had of it is still had.
        let first = open(path)?;
        readers.state.lock().idle.push(first);
        Ok(readers)
    }

    /// From here on they read another file.
    pub(crate) fn begin_anew(&self, path: &Path) {
        let mut state = self.state.lock();
        state.path = path.to_owned();
        state.round += 1;
        state.idle.clear();
    }

    /// One of them, for as long as it is held.
    ///
    /// # Errors
    /// [`StoreError::Locked`] if all are held for too long.
    pub(crate) fn take(&self) -> Result<Reader<'_>> {
        let until = Instant::now() + self.patience;
        let mut state = self.state.lock();
        loop {
            if let Some(connection) = state.idle.pop() {
                state.out += 1;
                let round = state.round;
                return Ok(Reader { connection: Some(connection), round, home: self });
            }
            if state.out < READERS {
                state.out += 1;
                let (path, round) = (state.path.clone(), state.round);
                drop(state);
                match open(&path) {
                    Ok(connection) => {
                        return Ok(Reader { connection: Some(connection), round, home: self });
                    }
                    Err(error) => {
                        self.give_back(None, round);
                        state = self.state.lock();
                        // Of a file that was moved away those that are open already still read.
                        if state.out == 0 && state.idle.is_empty() {
                            return Err(error);
                        }
                        if !state.idle.is_empty() {
                            continue;
                        }
                    }
                }
            }
            if self.came_back.wait_until(&mut state, until).timed_out() {
                return Err(StoreError::Locked);
            }
        }
    }

    fn give_back(&self, connection: Option<Connection>, round: usize) {
        let mut state = self.state.lock();
        state.out -= 1;
        if state.round == round {
            state.idle.extend(connection);
        }
        drop(state);
        self.came_back.notify_one();
    }
}

/// A connection that goes back when it is let go.
#[derive(Debug)]
pub(crate) struct Reader<'a> {
    connection: Option<Connection>,
    /// When it was opened.
    round: usize,
    home: &'a Readers,
}

impl Deref for Reader<'_> {
    type Target = Connection;

    fn deref(&self) -> &Connection {
        self.connection.as_ref().expect("held until it is let go")
    }
}

impl Drop for Reader<'_> {
    fn drop(&mut self) {
        // What was left in the middle of something is of no use to the next.
        let whole = self.connection.take().filter(Connection::is_autocommit);
        self.home.give_back(whole, self.round);
    }
}

fn open(path: &Path) -> Result<Connection> {
    let flags = OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_NO_MUTEX;
    let connection = Connection::open_with_flags(path, flags)?;
    connection.busy_timeout(BUSY)?;
    // Where the list of tables can't be read there is no way to anything.
    connection.query_row("SELECT count(*) FROM sqlite_schema", [], |_| Ok(()))?;
    Ok(connection)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn a_file() -> (tempfile::TempDir, PathBuf) {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("shelf.db");
        Connection::open(&path)
            .unwrap()
            .execute_batch("CREATE TABLE t (x); INSERT INTO t VALUES (7)")
            .unwrap();
        (folder, path)
    }

    #[test]
    fn no_more_are_out_than_there_are_and_one_that_comes_back_serves_the_next() {
        let (_folder, path) = a_file();
        let readers = Readers::of(&path, Duration::from_millis(20)).unwrap();
        let mut held: Vec<Reader<'_>> = (0..READERS).map(|_| readers.take().unwrap()).collect();
        assert!(matches!(readers.take(), Err(StoreError::Locked)));
        std::thread::scope(|threads| {
            let waits = threads.spawn(|| {
                let patient = Instant::now() + Duration::from_secs(10);
                loop {
                    match readers.take() {
                        Ok(reader) => {
                            break reader
                                .query_row("SELECT x FROM t", [], |row| row.get::<_, i64>(0));
                        }
                        Err(_) => assert!(Instant::now() < patient, "none ever came back"),
                    }
                }
            });
            drop(held.pop());
            assert_eq!(waits.join().unwrap(), Ok(7));
        });
    }

    #[test]
    fn one_that_was_left_in_a_transaction_is_not_handed_on() {
        let (_folder, path) = a_file();
        let readers = Readers::of(&path, BUSY).unwrap();
        readers.take().unwrap().execute_batch("BEGIN; SELECT x FROM t").unwrap();
        assert!(readers.take().unwrap().is_autocommit());
    }

    #[test]
    fn a_reader_writes_nothing_and_a_file_that_is_not_there_is_told() {
        let (folder, path) = a_file();
        let readers = Readers::of(&path, BUSY).unwrap();
        assert!(readers.take().unwrap().execute("INSERT INTO t VALUES (8)", []).is_err());
        assert!(Readers::of(&folder.path().join("none.db"), BUSY).is_err());
    }
}
