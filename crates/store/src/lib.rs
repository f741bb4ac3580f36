//! The shelf on disk.
//!
//! SQLite with a write-ahead log, `synchronous=FULL`, and exactly one writer: several would wait on
//! each other. A call that returns has committed; nothing that was answered is lost when the power
//! goes. Drinks are kept as the text of the open format, so that the store knows nothing of the model.
//!
//! ```
//! let folder = tempfile::tempdir().unwrap();
//! let store = keen_store::Store::open(&folder.path().join("kitchen.db")).unwrap();
//! let new = keen_store::Draft { name: "Limeade", body: "{}", now: "2030-06-21T12:00:00Z" };
//! let kept = store.create("a", new).unwrap();
//! assert_eq!(kept.version, 1);
//! assert_eq!(store.read("a").unwrap(), kept);
//! ```

#![warn(missing_docs)]

mod migrations;
mod store;

pub use store::{Draft, Kept, Store, StoreError};
