//! The figures of each drink as they were last worked out, and what is to be told of a change.

use rusqlite::{OptionalExtension, params};

use crate::error::Result;
use crate::store::Store;

/// The figures of a drink at one of its versions.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KnownFigures {
    /// The drink's id.
    pub drink: String,
    /// Its version.
    pub version: i64,
    /// By which state of tables and laws they were worked out.
    pub by: String,
    /// The figures, as text.
    pub body: String,
    /// What is told of a change that nobody has read yet.
    pub told: Option<String>,
}

impl Store {
    /// The figures of a drink that are known.
    ///
    /// # Errors
    /// Where the data file can't be read.
    pub fn known_figures(&self, drink: &str) -> Result<Option<KnownFigures>> {
        let reader = self.reader()?;
        let sql = "SELECT version, made_by, body, told FROM figures WHERE drink_id = ?1";
        let found = reader.prepare_cached(sql)?.query_row([drink], |row| {
            Ok(KnownFigures {
                drink: drink.to_owned(),
                version: row.get(0)?,
                by: row.get(1)?,
                body: row.get(2)?,
                told: row.get(3)?,
            })
        });
        Ok(found.optional()?)
    }

    /// Notes figures; a drink that is gone in the meantime is passed over.
    ///
    /// # Errors
    /// Where the data file can't be written to.
    pub fn note_figures(&self, all: &[KnownFigures]) -> Result<()> {
        self.write(|work| {
            let mut note = work.prepare_cached(
                "INSERT INTO figures (drink_id, version, made_by, body, told)
                 SELECT ?1, ?2, ?3, ?4, ?5 WHERE EXISTS (SELECT 1 FROM drinks WHERE id = ?1)
                 ON CONFLICT (drink_id) DO UPDATE SET version = ?2, made_by = ?3, body = ?4, told = ?5",
            )?;
            for it in all {
                note.execute(params![it.drink, it.version, it.by, it.body, it.told])?;
            }
            Ok(())
        })
    }

    /// What was told of a drink's figures has been read.
    ///
    /// # Errors
    /// Where the data file can't be written to.
    pub fn figures_read(&self, drink: &str) -> Result<()> {
        self.write(|work| {
            work.execute("UPDATE figures SET told = NULL WHERE drink_id = ?1", [drink])?;
            Ok(())
        })
    }
}
