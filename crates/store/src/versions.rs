use rusqlite::{Connection, OptionalExtension, params};

use crate::error::{Result, StoreError};
use crate::store::Store;

/// A saved state of a drink.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KeptVersion {
    /// Its version.
    pub version: i64,
    /// Its text, in the open format.
    pub body: String,
    /// When it was saved, RFC 3339.
    pub since: String,
    /// The name of the version; empty if it has none.
    pub name: String,
    /// How many batches were started on it.
    pub made: i64,
    /// Whether this is the present state.
    pub now: bool,
}

impl Store {
    /// The states of a drink that are kept, the present one first.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such drink.
    pub fn versions(&self, drink: &str) -> Result<Vec<KeptVersion>> {
        let reader = self.reader()?;
        let mut query = reader.prepare_cached(
            "SELECT s.version, s.body, s.changed_at, coalesce(m.name, ''), coalesce(m.made, 0), s.now FROM (
                 SELECT version, body, changed_at, 1 AS now FROM drinks WHERE id = ?1 AND deleted_at IS NULL
                 UNION ALL
                 SELECT version, body, changed_at, 0 FROM earlier_versions WHERE drink_id = ?1
                     AND version NOT IN (SELECT version FROM drinks WHERE id = ?1)
             ) AS s LEFT JOIN marked_versions AS m ON m.drink_id = ?1 AND m.version = s.version
             ORDER BY s.now DESC, s.version DESC",
        )?;
        let rows = query.query_map([drink], |row| {
            Ok(KeptVersion {
                version: row.get(0)?,
                body: row.get(1)?,
                since: row.get(2)?,
                name: row.get(3)?,
                made: row.get(4)?,
                now: row.get(5)?,
            })
        })?;
        let all: Vec<KeptVersion> = rows.collect::<rusqlite::Result<_>>()?;
        if all.first().is_some_and(|first| first.now) { Ok(all) } else { Err(StoreError::NotFound) }
    }

    /// Calls a version by a name, so that it is never thinned out; an empty one takes the name away.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such version.
    pub fn name_version(&self, drink: &str, version: i64, name: &str) -> Result<()> {
        self.write(|work| {
            let there: Option<i64> = work
                .query_row(
                    "SELECT version FROM drinks WHERE id = ?1 AND version = ?2 AND deleted_at IS NULL
                     UNION SELECT version FROM earlier_versions WHERE drink_id = ?1 AND version = ?2",
                    params![drink, version],
                    |row| row.get(0),
                )
                .optional()?;
            there.ok_or(StoreError::NotFound)?;
            work.execute(
                "INSERT INTO marked_versions (drink_id, version, name) VALUES (?1, ?2, ?3)
                 ON CONFLICT (drink_id, version) DO UPDATE SET name = ?3",
                params![drink, version, name],
            )?;
            work.execute("DELETE FROM marked_versions WHERE name = '' AND made = 0", [])?;
            Ok(())
        })
    }

    /// Notes that a batch was started on the drink as it stands, so that this state is kept.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn mark_made(&self, drink: &str) -> Result<()> {
        self.write(|work| {
            work.execute(
                "INSERT INTO marked_versions (drink_id, version, made)
                 SELECT id, version, 1 FROM drinks WHERE id = ?1
                 ON CONFLICT (drink_id, version) DO UPDATE SET made = made + 1",
                [drink],
            )?;
            Ok(())
        })
    }

    /// Keeps the present state of a drink among its earlier ones, however short it stood.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn keep_now(&self, drink: &str) -> Result<()> {
        self.write(|work| {
            work.execute(
                "INSERT OR REPLACE INTO earlier_versions (drink_id, version, body, changed_at)
                 SELECT id, version, body, changed_at FROM drinks WHERE id = ?1",
                [drink],
            )?;
            Ok(())
        })
    }

    /// Puts earlier states of a drink beside it that come from its file. Those that are there already stay.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn add_versions(&self, drink: &str, versions: &[KeptVersion]) -> Result<()> {
        self.write(|work| put_versions(work, drink, versions))
    }
}

pub(crate) fn put_versions(work: &Connection, drink: &str, versions: &[KeptVersion]) -> Result<()> {
    if versions.is_empty() {
        return Ok(());
    }
    for version in versions.iter().filter(|v| !v.now) {
        work.execute(
            "INSERT OR IGNORE INTO earlier_versions (drink_id, version, body, changed_at)
                     VALUES (?1, ?2, ?3, ?4)",
            params![drink, version.version, version.body, version.since],
        )?;
    }
    for version in versions.iter().filter(|v| !v.name.is_empty() || v.made > 0) {
        work.execute(
                    "INSERT OR IGNORE INTO marked_versions (drink_id, version, name, made) VALUES (?1, ?2, ?3, ?4)",
                    params![drink, version.version, version.name, version.made],
                )?;
    }
    // The present one comes after all that were.
    let last = versions.iter().map(|v| v.version).max().unwrap_or(0);
    let sql = "UPDATE drinks SET version = max(version, ?2 + 1) WHERE id = ?1";
    work.execute(sql, params![drink, last])?;
    Ok(())
}
