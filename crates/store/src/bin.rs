use rusqlite::params;

use crate::drinks::{COLUMNS, Kept, Rack, Sort, kept};
use crate::error::{Result, StoreError};
use crate::store::Store;

/// For so many days a removed drink can be put back.
pub const BIN_DAYS: i64 = 30;

/// A deleted drink.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Binned {
    /// The drink.
    pub drink: Kept,
    /// When it was deleted, RFC 3339.
    pub removed_at: String,
}

impl Rack<'_> {
    /// Removes one; for [`BIN_DAYS`] it can be put back.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if it isn't there.
    pub fn delete(&self, id: &str, now: &str) -> Result<()> {
        self.store.write(|work| {
            let table = self.sort.table();
            let gone = work.execute(
                &format!("UPDATE {table} SET deleted_at = ?2 WHERE id = ?1 AND deleted_at IS NULL"),
                params![id, now],
            )?;
            if gone == 0 { Err(StoreError::NotFound) } else { Ok(()) }
        })
    }

    /// Puts one back that was removed.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none, or it is too long ago.
    pub fn restore(&self, id: &str) -> Result<Kept> {
        self.store.write(|work| {
            let table = self.sort.table();
            work.execute(&format!("UPDATE {table} SET deleted_at = NULL WHERE id = ?1"), [id])?;
            let sql = format!("SELECT {COLUMNS} FROM {table} WHERE id = ?1");
            match work.query_row(&sql, [id], kept) {
                Err(rusqlite::Error::QueryReturnedNoRows) => Err(StoreError::NotFound),
                found => Ok(found?),
            }
        })
    }
}

impl Store {
    /// The drinks in the deleted drinks, the last removed first.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn bin(&self) -> Result<Vec<Binned>> {
        let reader = self.reader()?;
        let mut query = reader.prepare_cached(&format!(
            "SELECT {COLUMNS}, deleted_at FROM drinks WHERE deleted_at IS NOT NULL
             ORDER BY deleted_at DESC, id DESC LIMIT 500"
        ))?;
        let rows =
            query.query_map([], |row| Ok(Binned { drink: kept(row)?, removed_at: row.get(6)? }))?;
        Ok(rows.collect::<rusqlite::Result<Vec<_>>>()?)
    }

    /// Empties the deleted drinks of what has lain in it for long, forgets keys that nobody will say again, and
    /// folds the log into the file.
    ///
    /// # Errors
    /// If the shelf can't be written to.
    pub fn tidy(&self, now: &str) -> Result<()> {
        self.write(|work| {
            for table in [Sort::Drinks.table(), Sort::Plans.table()] {
                let old = "unixepoch(?1) - unixepoch(deleted_at) > ?2 * 86400";
                work.execute(&format!("DELETE FROM {table} WHERE {old}"), params![now, BIN_DAYS])?;
            }
            for table in ["said", "answers"] {
                let old = "unixepoch(?1) - unixepoch(at) > 86400";
                work.execute(&format!("DELETE FROM {table} WHERE {old}"), [now])?;
            }
            Ok(())
        })?;
        self.fold()
    }
}
