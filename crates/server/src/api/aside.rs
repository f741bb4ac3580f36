//! Documents of the data file that can't be read are set aside, unchanged, and an empty one takes their place.

use keen_formats::Format;
use keen_store::{Store, StoreError};
use serde::Serialize;

use super::now;

/// Puts a document that can't be read aside and begins it anew. On a shelf that can't be written to it
/// stays where it is.
pub(super) fn set_aside<T: Default + Serialize + serde::de::DeserializeOwned>(
    store: &Store,
    key: &str,
    format: &Format,
) -> Result<(), StoreError> {
    let Some(document) = store.document(key)? else { return Ok(()) };
    let Err(why) = format.read::<T>(&document.body) else { return Ok(()) };
    tracing::error!(key, %why, "a document can't be read and is set aside");
    match store.set_aside(key, &why.to_string(), &format.write(&T::default()), &now()) {
        Err(StoreError::ReadOnly(_) | StoreError::Damaged(_)) => Ok(()),
        done => done,
    }
}
