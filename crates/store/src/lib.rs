//! The shelf on disk.
//!
//! SQLite with a write-ahead log, `synchronous=FULL`, and exactly one writer: several would wait on
//! each other. Four promises:
//!
//! - **What is answered is on disk.** Every write is a transaction that has been committed before the
//!   call returns. A write said twice under one key counts once, so that who lost the answer may ask
//!   again.
//! - **What is kept is never overwritten unread.** A document that can't be read is set aside as it is;
//!   earlier states of drinks and documents are kept and thinned out with age; what is removed lies in a
//!   bin for thirty days.
//! - **One file holds everything** once the store is closed, and every now and then before.
//! - **A fault is named.** A full disk, a locked, damaged or newer file and a folder that can't be written
//!   to are told apart; a damaged or read-only shelf still opens for reading what can be read.
//!
//! Drinks, plans and documents are kept as text of the open formats, so that the store knows nothing of the
//! model.
//!
//! ```
//! let folder = tempfile::tempdir().unwrap();
//! let store = keen_store::Store::open(&folder.path().join("kitchen.db")).unwrap();
//! let new = keen_store::Draft { name: "Limeade", body: "{}", now: "2030-06-21T12:00:00Z", key: None };
//! let kept = store.drinks().create("a", new).unwrap();
//! assert_eq!(kept.version, 1);
//! assert_eq!(store.drinks().read("a").unwrap(), kept);
//! ```

#![warn(missing_docs)]

mod backup;
mod batches;
mod bin;
mod bottles;
mod documents;
mod drinks;
mod earlier;
mod error;
mod figures;
mod migrations;
mod opening;
mod phones;
mod pictures;
mod place;
mod readers;
mod rescue;
mod said;
mod store;
mod tastings;
#[cfg(test)]
mod tests;
mod versions;

pub use batches::{KeptBatch, KeptHappening, Predicted, Saying, Wanted, WholeBatch};
pub use bin::{BIN_DAYS, Binned};
pub use bottles::{KeptBottle, KeptMove, WholeBottle};
pub use documents::{Document, SetAside};
pub use drinks::{Draft, Facts, Found, Kept, Order, Rack, Sought};
pub use error::StoreError;
pub use figures::KnownFigures;
pub use opening::unfinished;
pub use phones::KeptPhone;
pub use pictures::KeptPicture;
pub use place::is_data_file;
pub use rescue::Rescued;
pub use said::Answer;
pub use store::{Condition, Store};
pub use tastings::{KeptTaster, KeptTasting, KeptWord, Uttering};
pub use versions::KeptVersion;
