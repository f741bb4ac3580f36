use rusqlite::{Connection, OptionalExtension, Transaction, params};

use crate::earlier::{self, Replaced};
use crate::error::{Result, StoreError};
use crate::store::Store;

/// Something of which there is one: the kitchen, the remembered choices.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Document {
    /// The key.
    pub key: String,
    /// Counts its changes from 1; 0 if it was never kept.
    pub version: i64,
    /// Its text, in the open format.
    pub body: String,
    /// When it was last changed, RFC 3339.
    pub changed_at: String,
}

/// A text that could not be read and was put aside as it was.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SetAside {
    /// The id.
    pub id: i64,
    /// What it was to be: a document's key.
    pub what: String,
    /// The text.
    pub body: String,
    /// Why it can't be read.
    pub why: String,
    /// When it was set aside, RFC 3339.
    pub at: String,
}

fn find(connection: &Connection, key: &str) -> Result<Option<Document>> {
    Ok(connection
        .prepare_cached("SELECT key, version, body, changed_at FROM documents WHERE key = ?1")?
        .query_row([key], |row| {
            Ok(Document {
                key: row.get(0)?,
                version: row.get(1)?,
                body: row.get(2)?,
                changed_at: row.get(3)?,
            })
        })
        .optional()?)
}

fn put(work: &Connection, key: &str, version: i64, body: &str, now: &str) -> Result<()> {
    work.execute(
        "INSERT INTO documents (key, version, body, changed_at) VALUES (?1, ?2, ?3, ?4)
         ON CONFLICT (key) DO UPDATE SET version = ?2, body = ?3, changed_at = ?4",
        params![key, version, body, now],
    )?;
    Ok(())
}

fn keep_earlier(work: &Transaction<'_>, current: &Document, now: &str) -> Result<()> {
    let replaced = Replaced {
        of: &current.key,
        version: current.version,
        body: &current.body,
        since: &current.changed_at,
    };
    earlier::keep(work, earlier::OF_DOCUMENTS, &replaced, now)
}

impl Store {
    /// A document; none if it was never kept.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn document(&self, key: &str) -> Result<Option<Document>> {
        self.note(find(&*self.reader()?, key))
    }

    /// Keeps a document, changed on top of `version` (0 where there was none).
    ///
    /// # Errors
    /// [`StoreError::StaleDocument`] if someone else was faster.
    pub fn write_document(
        &self,
        key: &str,
        version: i64,
        body: &str,
        now: &str,
    ) -> Result<Document> {
        self.write(|work| {
            let current = find(work, key)?;
            if let Some(current) = current {
                if current.body == body {
                    return Ok(current);
                }
                if current.version != version {
                    return Err(StoreError::StaleDocument(Box::new(current)));
                }
                keep_earlier(work, &current, now)?;
            } else if version != 0 {
                return Err(StoreError::NotFound);
            }
            put(work, key, version + 1, body, now)?;
            find(work, key)?.ok_or(StoreError::NotFound)
        })
    }

    /// Changes a document, whatever it is at that moment.
    ///
    /// # Errors
    /// If the database refuses, or what `change` says.
    pub fn change_document(
        &self,
        key: &str,
        now: &str,
        change: impl FnOnce(Option<&str>) -> Result<String>,
    ) -> Result<Document> {
        self.write(|work| {
            let current = find(work, key)?;
            let body = change(current.as_ref().map(|d| d.body.as_str()))?;
            let version = match &current {
                Some(current) if current.body == body => return Ok(current.clone()),
                Some(current) => {
                    keep_earlier(work, current, now)?;
                    current.version
                }
                None => 0,
            };
            put(work, key, version + 1, &body, now)?;
            find(work, key)?.ok_or(StoreError::NotFound)
        })
    }

    /// Puts a document that can't be read aside as it is, and begins it anew with `fresh`.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn set_aside(&self, key: &str, why: &str, fresh: &str, now: &str) -> Result<()> {
        self.write(|work| {
            let Some(current) = find(work, key)? else { return Ok(()) };
            work.execute(
                "INSERT INTO set_aside (what, body, why, at) VALUES (?1, ?2, ?3, ?4)",
                params![key, current.body, why, now],
            )?;
            put(work, key, current.version + 1, fresh, now)
        })
    }

    /// What was put aside, the last first.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn all_set_aside(&self) -> Result<Vec<SetAside>> {
        let reader = self.reader()?;
        let mut query = reader
            .prepare_cached("SELECT id, what, body, why, at FROM set_aside ORDER BY id DESC")?;
        let rows = query.query_map([], |row| {
            Ok(SetAside {
                id: row.get(0)?,
                what: row.get(1)?,
                body: row.get(2)?,
                why: row.get(3)?,
                at: row.get(4)?,
            })
        })?;
        Ok(rows.collect::<rusqlite::Result<Vec<_>>>()?)
    }

    /// Lets go of something that was put aside.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such thing.
    pub fn let_go(&self, id: i64) -> Result<()> {
        self.write(|work| match work.execute("DELETE FROM set_aside WHERE id = ?1", [id])? {
            0 => Err(StoreError::NotFound),
            _ => Ok(()),
        })
    }
}
