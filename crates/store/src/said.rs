//! What was done under a key, so that the same thing said again is not done again.

use rusqlite::{Connection, OptionalExtension, params};

use crate::error::Result;

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
