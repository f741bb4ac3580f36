use std::path::PathBuf;

use rusqlite::ErrorCode;
use rusqlite::ffi::SQLITE_IOERR_SHMSIZE;

use crate::{Document, Kept};

/// Why the store could not do it, in a sentence that says what to do.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// There is no such thing on the shelf.
    #[error("This drink isn't on your list. It may have been deleted.")]
    NotFound,
    /// They were deleted.
    #[error("This taster was deleted.")]
    TasterDeleted,
    /// Someone else has changed the drink since; this is how it stands now.
    #[error("The drink was changed in another window since you opened it.")]
    Stale(Box<Kept>),
    /// Someone else has changed the document since.
    #[error("It was changed in another window since you opened it.")]
    StaleDocument(Box<Document>),
    /// No room is left.
    #[error("The disk is full, so nothing was saved. Make room on it, then save again.")]
    Full,
    /// The file or its folder can't be written to.
    #[error(
        "The data file can be read but not written to, so nothing was saved. Check that you may write to {0} \
         and that the disk isn't write-protected, then start Keen Pitcher again."
    )]
    ReadOnly(PathBuf),
    /// Another program holds the file.
    #[error(
        "Another program has locked the data file, so nothing was saved. Close the program that has it open \
         (a backup, a database viewer), then save again."
    )]
    Locked,
    /// Another Keen Pitcher serves this folder.
    #[error(
        "Keen Pitcher is already running on {0}. Use the window that is open, stop the other one, or \
         choose another folder with --data."
    )]
    AlreadyServed(PathBuf),
    /// The file is damaged.
    #[error(
        "The data file can't be used any more: {0}. We don't write to it. We show what can be read, and you \
         can save it as one file."
    )]
    Damaged(String),
    /// The file is none of ours, or damaged from its first page.
    #[error(
        "{0} isn't a data file of Keen Pitcher, or its beginning is damaged. We left it as it was. Start Keen Pitcher \
         on its folder to restore a backup, or move the file away to start empty."
    )]
    NotAShelf(PathBuf),
    /// A newer program has been at work on this shelf.
    #[error(
        "The data file at {0} was written by a newer Keen Pitcher, so we left it alone. Use that \
         version, or choose another folder with --data."
    )]
    TooNew(PathBuf),
    /// The folder or file can't be used at all.
    #[error("{path} can't be used: {source}. Choose another folder with --data.")]
    File {
        /// The path.
        path: PathBuf,
        /// The reason.
        source: std::io::Error,
    },
    /// The disk reports a fault.
    #[error("The disk reports a fault while {0}. Check that it is connected and works.")]
    Disk(String),
    /// The database refuses for a reason that should not arise.
    #[error("The data file couldn't be used: {0}")]
    Database(rusqlite::Error),
    /// A copy that is to be put in the shelf's place is none.
    #[error("This isn't a copy of a data file: {0}. Nothing was changed.")]
    NoCopy(String),
    /// Another one is being put in the shelf's place.
    #[error("A backup is being restored already. Wait until it is done.")]
    BeingRestored,
    /// The tables could not be brought up to date.
    #[error("The data file can't be brought up to date: {0}. We left it as it was.")]
    Migration(#[from] rusqlite_migration::Error),
}

pub(crate) type Result<T> = std::result::Result<T, StoreError>;

impl From<rusqlite::Error> for StoreError {
    fn from(error: rusqlite::Error) -> Self {
        let extended = error.sqlite_error().map_or(0, |e| e.extended_code);
        match error.sqlite_error_code() {
            Some(ErrorCode::DiskFull) => Self::Full,
            // The index of the log can't grow either when there is no room.
            Some(ErrorCode::SystemIoFailure) if extended == SQLITE_IOERR_SHMSIZE => Self::Full,
            Some(ErrorCode::DatabaseBusy | ErrorCode::DatabaseLocked) => Self::Locked,
            Some(ErrorCode::ReadOnly | ErrorCode::PermissionDenied | ErrorCode::CannotOpen) => {
                Self::ReadOnly(PathBuf::from("its folder"))
            }
            Some(ErrorCode::DatabaseCorrupt) => Self::Damaged(error.to_string()),
            Some(ErrorCode::NotADatabase) => Self::NotAShelf(PathBuf::from("This file")),
            Some(ErrorCode::SystemIoFailure) => Self::Disk(error.to_string()),
            _ => Self::Database(error),
        }
    }
}
