//! What was done under a key, so that the same thing said again is not done again.

use rusqlite::{Connection, OptionalExtension, params};

use crate::error::Result;
use crate::store::Store;

/// Answers that are kept.
const MOST: i64 = 500;

/// An answer that was given under a key, to be given again.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Answer {
    /// What was asked.
    pub hash: Vec<u8>,
    /// The status that it had.
    pub status: u16,
    /// Where what was made is.
    pub location: Option<String>,
    /// The media type.
    pub kind: Option<String>,
    /// What it said.
    pub body: Vec<u8>,
    /// When it was given, RFC 3339 in UTC.
    pub at: String,
}

impl Store {
    /// The answer that was given under that key.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn answer(&self, key: &str) -> Result<Option<Answer>> {
        let reader = self.reader()?;
        let sql = "SELECT hash, status, location, kind, body, at FROM answers WHERE key = ?1";
        let found = reader.prepare_cached(sql)?.query_row([key], |row| {
            Ok(Answer {
                hash: row.get(0)?,
                status: row.get(1)?,
                location: row.get(2)?,
                kind: row.get(3)?,
                body: row.get(4)?,
                at: row.get(5)?,
            })
        });
        Ok(found.optional()?)
    }

    /// Keeps an answer, and lets go of the oldest.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn keep_answer(&self, key: &str, answer: &Answer) -> Result<()> {
        self.write(|work| {
            let Answer { hash, status, location, kind, body, at } = answer;
            work.execute(
                "INSERT OR REPLACE INTO answers (key, hash, status, location, kind, body, at)
                 VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)",
                params![key, hash, status, location, kind, body, at],
            )?;
            work.execute(
                "DELETE FROM answers WHERE at <
                 (SELECT at FROM answers ORDER BY at DESC LIMIT 1 OFFSET ?1)",
                [MOST],
            )?;
            Ok(())
        })
    }
}

/// What was made or changed under that key, and which version that made.
pub(crate) fn said(work: &Connection, key: Option<&str>) -> Result<Option<(String, i64)>> {
    let Some(key) = key else { return Ok(None) };
    Ok(work
        .query_row("SELECT of, version FROM said WHERE key = ?1", [key], |row| {
            Ok((row.get(0)?, row.get(1)?))
        })
        .optional()?)
}

/// Keeps that under that key such a version of something was made.
pub(crate) fn remember_said(
    work: &Connection,
    key: Option<&str>,
    (of, version): (&str, i64),
    at: &str,
) -> Result<()> {
    if let Some(key) = key {
        work.execute(
            "INSERT INTO said (key, of, version, at) VALUES (?1, ?2, ?3, ?4)",
            params![key, of, version, at],
        )?;
    }
    Ok(())
}
