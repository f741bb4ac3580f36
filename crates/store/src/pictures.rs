//! The picture of a batch: one each, as the browser made it small.

use rusqlite::{OptionalExtension, params};

use crate::error::{Result, StoreError};
use crate::store::Store;

/// A picture as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KeptPicture {
    /// Its media type: `image/jpeg`.
    pub kind: String,
    /// The picture's file.
    pub bytes: Vec<u8>,
}

impl Store {
    /// Keeps a batch's picture, in the place of the one before.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such batch.
    pub fn put_picture(&self, batch: &str, picture: &KeptPicture, now: &str) -> Result<()> {
        self.write(|work| {
            let there = "SELECT EXISTS (SELECT 1 FROM batches WHERE id = ?1)";
            if !work.query_row(there, [batch], |row| row.get::<_, bool>(0))? {
                return Err(StoreError::NotFound);
            }
            work.execute(
                "INSERT INTO pictures (batch_id, put_at, kind, bytes) VALUES (?1, ?2, ?3, ?4)
                 ON CONFLICT (batch_id) DO UPDATE SET
                 put_at = excluded.put_at, kind = excluded.kind, bytes = excluded.bytes",
                params![batch, now, picture.kind, picture.bytes],
            )?;
            Ok(())
        })
    }

    /// A batch's picture.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if it has none.
    pub fn picture(&self, batch: &str) -> Result<KeptPicture> {
        let reader = self.reader()?;
        let sql = "SELECT kind, bytes FROM pictures WHERE batch_id = ?1";
        let found = reader.query_row(sql, [batch], |row| {
            Ok(KeptPicture { kind: row.get(0)?, bytes: row.get(1)? })
        });
        self.note(found.optional().map_err(Into::into))?.ok_or(StoreError::NotFound)
    }

    /// Takes a batch's picture away; nothing happens where there is none.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn take_picture_away(&self, batch: &str) -> Result<()> {
        self.write(|work| {
            work.execute("DELETE FROM pictures WHERE batch_id = ?1", [batch])?;
            Ok(())
        })
    }
}
