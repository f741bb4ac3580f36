//! Whether a file is still the one that it was.
//!
//! A connection goes on writing to a file that somebody has moved, deleted or replaced, and says that all is well;
//! nobody would find again what it writes. So before and after each transaction it is looked at: the same file
//! under its name, with the head of a database, no shorter than it was, and its log beside it.

use std::fs::{File, Metadata};
use std::io::Read;
use std::path::{Path, PathBuf};

/// The file and its log, as they were found last.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Place {
    file: Option<(u64, u64)>,
    log: Option<(u64, u64)>,
    bytes: u64,
}

/// What a database begins with.
const HEAD: &[u8; 16] = b"SQLite format 3\0";

/// Whether something begins as a data file does.
#[must_use]
pub fn is_data_file(begins: &[u8]) -> bool {
    begins.starts_with(HEAD)
}

#[cfg(unix)]
fn identity(of: &Metadata) -> Option<(u64, u64)> {
    use std::os::unix::fs::MetadataExt;
    Some((of.dev(), of.ino()))
}

#[cfg(not(unix))]
fn identity(_of: &Metadata) -> Option<(u64, u64)> {
    None
}

impl Place {
    /// Says what is wrong, if something is. What is looked at first is what it has to stay.
    pub(crate) fn check(path: &Path, known: &mut Option<Self>) -> Result<(), String> {
        let gone = |_| {
            "it was moved or deleted by another program while Keen Pitcher was running".to_owned()
        };
        let mut file = File::open(path).map_err(gone)?;
        let found = file.metadata().map_err(gone)?;
        let mut head = [0; 100];
        let whole = file.read_exact(&mut head).is_ok() && head.starts_with(HEAD);
        if !whole {
            return Err("it was written over by another program".into());
        }
        let log = PathBuf::from(format!("{}-wal", path.display()));
        let log = std::fs::metadata(log).ok();
        let now = Self {
            file: identity(&found),
            log: log.as_ref().and_then(identity),
            bytes: found.len(),
        };
        if let Some(before) = known {
            // The log is made with the first save, and stays.
            if before.file != now.file || (before.log.is_some() && before.log != now.log) {
                let why = "another file was put in its place while Keen Pitcher was running";
                return Err(why.into());
            }
            // Nothing of ours makes it shorter, but a restore; what is known of the file ends there.
            if now.bytes < before.bytes {
                return Err("it was cut short by another program".into());
            }
        }
        *known = Some(now);
        Ok(())
    }
}
