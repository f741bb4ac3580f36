//! What of a damaged file can still be read.
//!
//! A scan of a table ends at the first bad page. So rows are looked for along every way that leads to
//! them (the table from both ends, and its indexes, which lie on other pages) and are then read one by
//! one; those on sound pages are all found.

use std::collections::BTreeSet;

use rusqlite::Connection;

use crate::drinks::{COLUMNS, Kept, kept};
use crate::error::Result;
use crate::store::Store;

/// Everything that could be read.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Rescued {
    /// Drinks, those in the deleted drinks left out.
    pub drinks: Vec<Kept>,
    /// Documents by key, as text.
    pub documents: Vec<(String, String)>,
    /// How many rows are known to have been there and can't be read.
    pub lost: usize,
}

/// The ways to the rows of the drinks.
const WAYS: [&str; 4] = [
    "SELECT rowid FROM drinks ORDER BY rowid",
    "SELECT rowid FROM drinks ORDER BY rowid DESC",
    "SELECT rowid FROM drinks WHERE deleted_at IS NULL ORDER BY changed_at DESC",
    "SELECT rowid FROM drinks ORDER BY id",
];

/// As far as a query gets.
fn as_far_as_it_goes<T>(
    connection: &Connection,
    sql: &str,
    mut take: impl FnMut(&rusqlite::Row<'_>) -> rusqlite::Result<T>,
) -> Vec<T> {
    let mut found = Vec::new();
    if let Ok(mut query) = connection.prepare(sql)
        && let Ok(mut rows) = query.query([])
    {
        while let Ok(Some(row)) = rows.next() {
            found.extend(take(row));
        }
    }
    found
}

impl Store {
    /// Reads what can be read.
    ///
    /// # Errors
    /// If there is no reader.
    pub fn rescue(&self) -> Result<Rescued> {
        let reader = self.reader()?;
        let rows: BTreeSet<i64> =
            WAYS.iter().flat_map(|sql| as_far_as_it_goes(&reader, sql, |row| row.get(0))).collect();
        let mut rescued = Rescued::default();
        let sql = format!("SELECT {COLUMNS}, deleted_at FROM drinks WHERE rowid = ?1");
        for row in rows {
            let read = reader.prepare_cached(&sql).and_then(|mut q| {
                q.query_row([row], |r| Ok((kept(r)?, r.get::<_, Option<String>>(6)?)))
            });
            match read {
                Ok((kept, None)) => rescued.drinks.push(kept),
                Ok((_, Some(_))) | Err(rusqlite::Error::QueryReturnedNoRows) => {}
                Err(_) => rescued.lost += 1,
            }
        }
        rescued.documents = as_far_as_it_goes(&reader, "SELECT key, body FROM documents", |row| {
            Ok((row.get(0)?, row.get(1)?))
        });
        Ok(rescued)
    }
}
