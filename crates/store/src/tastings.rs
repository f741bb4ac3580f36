use std::path::Path;

use rusqlite::{Connection, OpenFlags, OptionalExtension, Row, params};

use crate::error::{Result, StoreError};
use crate::said::{remember_said, said};
use crate::store::Store;

/// A taster, as they are kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KeptTaster {
    /// Their permanent id.
    pub id: String,
    /// Who they are, as text of the open format.
    pub body: String,
    /// When they were added, RFC 3339.
    pub created_at: String,
    /// When they were last changed, RFC 3339.
    pub changed_at: String,
}

/// A tasting as it is kept: what was set up.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KeptTasting {
    /// The permanent id.
    pub id: String,
    /// Its name.
    pub name: String,
    /// What was set up, as text of the open format.
    pub body: String,
    /// When it was started, RFC 3339.
    pub begun_at: String,
    /// What lists show of it, as text; it can be worked out anew.
    pub summary: String,
}

/// Something that was said at a tasting. It is only ever added to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KeptWord {
    /// Its place in the list, from 0.
    pub place: i64,
    /// When it was said, RFC 3339.
    pub at: String,
    /// What, as text of the open format.
    pub body: String,
}

/// Something to be said at a tasting.
#[derive(Debug, Clone, Copy)]
pub struct Uttering<'a> {
    /// What, as text of the open format.
    pub body: &'a str,
    /// Whose answer it is, if it is anybody's.
    pub taster: Option<&'a str>,
    /// When, RFC 3339 in UTC.
    pub at: &'a str,
    /// A key of its own: the same one said again is not said again.
    pub key: Option<&'a str>,
    /// How many things had been said when it was decided to say this.
    pub after: i64,
}

const TASTER: &str = "id, body, created_at, changed_at";
const TASTING: &str = "id, name, body, begun_at, summary";

fn taster(row: &Row<'_>) -> rusqlite::Result<KeptTaster> {
    Ok(KeptTaster {
        id: row.get(0)?,
        body: row.get(1)?,
        created_at: row.get(2)?,
        changed_at: row.get(3)?,
    })
}

fn tasting(row: &Row<'_>) -> rusqlite::Result<KeptTasting> {
    Ok(KeptTasting {
        id: row.get(0)?,
        name: row.get(1)?,
        body: row.get(2)?,
        begun_at: row.get(3)?,
        summary: row.get(4)?,
    })
}

fn word(row: &Row<'_>) -> rusqlite::Result<KeptWord> {
    Ok(KeptWord { place: row.get(0)?, at: row.get(1)?, body: row.get(2)? })
}

fn find(connection: &Connection, id: &str) -> Result<Option<KeptTasting>> {
    let sql = format!("SELECT {TASTING} FROM tastings WHERE id = ?1");
    Ok(connection.prepare_cached(&sql)?.query_row([id], tasting).optional()?)
}

fn words_of(connection: &Connection, id: &str) -> rusqlite::Result<Vec<KeptWord>> {
    let sql = "SELECT place, at, body FROM words WHERE tasting_id = ?1 ORDER BY place";
    let mut query = connection.prepare_cached(sql)?;
    let rows = query.query_map([id], word)?;
    rows.collect()
}

impl Store {
    /// All tasters, in the order in which they came.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn tasters(&self) -> Result<Vec<KeptTaster>> {
        let reader = self.reader()?;
        let sql = format!("SELECT {TASTER} FROM tasters ORDER BY created_at, id");
        let mut query = reader.prepare_cached(&sql)?;
        let rows = query.query_map([], taster)?;
        Ok(rows.collect::<rusqlite::Result<_>>()?)
    }

    /// Puts somebody down who tastes. Said twice under one key they are put down once.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn add_taster(&self, new: &KeptTaster, key: Option<&str>) -> Result<String> {
        self.write(|work| {
            if let Some((before, _)) = said(work, key)? {
                return Ok(before);
            }
            remember_said(work, key, (&new.id, 1), &new.created_at)?;
            let sql = format!("INSERT INTO tasters ({TASTER}) VALUES (?1, ?2, ?3, ?4)");
            work.execute(&sql, params![new.id, new.body, new.created_at, new.changed_at])?;
            Ok(new.id.clone())
        })
    }

    /// Changes who somebody is.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is nobody of that id.
    pub fn change_taster(&self, id: &str, body: &str, now: &str) -> Result<()> {
        self.write(|work| {
            let sql = "UPDATE tasters SET body = ?2, changed_at = ?3 WHERE id = ?1";
            match work.execute(sql, params![id, body, now])? {
                0 => Err(StoreError::NotFound),
                _ => Ok(()),
            }
        })
    }

    /// Deletes somebody for good, with everything that they said: `gone` stands in its place, so that what
    /// others said keeps its own. What is deleted is overwritten in the file, and in the log beside it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is nobody of that id.
    pub fn delete_taster(&self, id: &str, gone: &str) -> Result<Vec<String>> {
        let touched = self.write(|work| {
            let mut query =
                work.prepare("SELECT DISTINCT tasting_id FROM words WHERE taster = ?1")?;
            let rows = query.query_map([id], |row| row.get(0))?;
            let touched = rows.collect::<rusqlite::Result<Vec<String>>>()?;
            let sql = "UPDATE words SET body = ?2, taster = NULL, key = NULL WHERE taster = ?1";
            work.execute(sql, params![id, gone])?;
            match work.execute("DELETE FROM tasters WHERE id = ?1", [id])? {
                0 => Err(StoreError::NotFound),
                _ => Ok(touched),
            }
        })?;
        self.fold()?;
        Ok(touched)
    }

    /// Wipes somebody out of another data file, a copy of this one; whether they were in it.
    ///
    /// # Errors
    /// If it is no data file, or can't be written to.
    pub fn wipe_out_of(path: &Path, id: &str, gone: &str) -> Result<bool> {
        let copy = Connection::open_with_flags(path, OpenFlags::SQLITE_OPEN_READ_WRITE)?;
        copy.pragma_update(None, "trusted_schema", "OFF")?;
        copy.pragma_update_and_check(None, "secure_delete", "ON", |_| Ok(()))?;
        // Older ones knew no tasters.
        let known =
            "SELECT EXISTS (SELECT 1 FROM sqlite_schema WHERE name = 'tasters' AND type = 'table')";
        if !copy.query_row(known, [], |row| row.get::<_, bool>(0))? {
            return Ok(false);
        }
        copy.execute(
            "UPDATE words SET body = ?2, taster = NULL, key = NULL WHERE taster = ?1",
            params![id, gone],
        )?;
        let there = copy.execute("DELETE FROM tasters WHERE id = ?1", [id])? > 0;
        if there {
            copy.execute_batch("VACUUM")?;
        }
        copy.close().map_err(|(_, error)| error)?;
        Ok(there)
    }

    /// Changes the texts of tastings in a copy of a data file that this program has just written. `change` is given
    /// each tasting with what was said at it, and answers its new text, or none to leave it.
    ///
    /// # Errors
    /// If the copy can't be read or written.
    pub fn change_tastings_of(
        path: &Path,
        mut change: impl FnMut((KeptTasting, Vec<KeptWord>)) -> Option<String>,
    ) -> Result<()> {
        let copy = Connection::open_with_flags(path, OpenFlags::SQLITE_OPEN_READ_WRITE)?;
        // What was there is overwritten, not only let go.
        copy.pragma_update_and_check(None, "secure_delete", "ON", |_| Ok(()))?;
        let ids: Vec<String> = {
            let mut query = copy.prepare("SELECT id FROM tastings ORDER BY id")?;
            let rows = query.query_map([], |row| row.get(0))?;
            rows.collect::<rusqlite::Result<_>>()?
        };
        for id in ids {
            let Some(tasting) = find(&copy, &id)? else { continue };
            let words = words_of(&copy, &id)?;
            if let Some(body) = change((tasting, words)) {
                copy.execute("UPDATE tastings SET body = ?2 WHERE id = ?1", params![id, body])?;
            }
        }
        copy.close().map_err(|(_, error)| error)?;
        Ok(())
    }

    /// Begins a tasting. Said twice under one key it is started once.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn begin_tasting(&self, new: &KeptTasting, key: Option<&str>) -> Result<String> {
        self.write(|work| {
            if let Some((before, _)) = said(work, key)? {
                return Ok(before);
            }
            remember_said(work, key, (&new.id, 1), &new.begun_at)?;
            let sql = format!("INSERT INTO tastings ({TASTING}) VALUES (?1, ?2, ?3, ?4, ?5)");
            work.execute(&sql, params![new.id, new.name, new.body, new.begun_at, new.summary])?;
            Ok(new.id.clone())
        })
    }

    /// A tasting, and everything that was said at it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such tasting.
    pub fn tasting(&self, id: &str) -> Result<(KeptTasting, Vec<KeptWord>)> {
        let reader = self.reader()?;
        let found = self.note(find(&reader, id))?.ok_or(StoreError::NotFound)?;
        Ok((found, words_of(&reader, id)?))
    }

    /// Tastings, the newest first.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn tastings(&self, after: usize, most: usize) -> Result<Vec<KeptTasting>> {
        let reader = self.reader()?;
        // What was set up is large, and lists don't show it.
        let sql = "SELECT id, name, '', begun_at, summary FROM tastings
                   ORDER BY begun_at DESC, id DESC LIMIT ?1 OFFSET ?2";
        let mut query = reader.prepare_cached(sql)?;
        let [most, after] = [most, after].map(|n| i64::try_from(n).unwrap_or(i64::MAX));
        let rows = query.query_map([most, after], tasting)?;
        Ok(rows.collect::<rusqlite::Result<_>>()?)
    }

    /// The ids of tastings in whose text there is a field of that name.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn tastings_with(&self, field: &str) -> Result<Vec<String>> {
        let reader = self.reader()?;
        let sql = "SELECT id FROM tastings WHERE instr(body, '\"' || ?1 || '\":') > 0 ORDER BY id";
        let mut query = reader.prepare_cached(sql)?;
        let rows = query.query_map([field], |row| row.get(0))?;
        Ok(rows.collect::<rusqlite::Result<_>>()?)
    }

    /// The ids of tastings whose codes and orders are not kept with them.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn tastings_not_dealt(&self) -> Result<Vec<String>> {
        let reader = self.reader()?;
        let sql = "SELECT id FROM tastings WHERE instr(body, '\"dealt\"') = 0 ORDER BY id";
        let mut query = reader.prepare_cached(sql)?;
        let rows = query.query_map([], |row| row.get(0))?;
        Ok(rows.collect::<rusqlite::Result<_>>()?)
    }

    /// Keeps a tasting with its codes and orders, and words with what was worked out of them, by their places.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn keep_dealt(&self, id: &str, body: &str, words: &[(usize, String)]) -> Result<()> {
        self.write(|work| {
            work.execute("UPDATE tastings SET body = ?2 WHERE id = ?1", params![id, body])?;
            for (place, body) in words {
                let sql = "UPDATE words SET body = ?3 WHERE tasting_id = ?1 AND place = ?2";
                work.execute(sql, params![id, i64::try_from(*place).unwrap_or(-1), body])?;
            }
            Ok(())
        })
    }

    /// Says something at a tasting; when this returns it is on disk. Said twice under one key it counts once.
    /// `None` where something else has been said meanwhile.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such tasting.
    pub fn utter(&self, id: &str, saying: Uttering<'_>) -> Result<Option<i64>> {
        self.write(|work| {
            if find(work, id)?.is_none() {
                return Err(StoreError::NotFound);
            }
            // Looked at in the same transaction: who is deleted says nothing more, however fast.
            let there = "SELECT EXISTS (SELECT 1 FROM tasters WHERE id = ?1)";
            if let Some(taster) = saying.taster
                && !work.query_row(there, [taster], |row| row.get::<_, bool>(0))?
            {
                return Err(StoreError::TasterDeleted);
            }
            let sql = "SELECT place FROM words WHERE tasting_id = ?1 AND key = ?2";
            let before: Option<i64> =
                work.query_row(sql, params![id, saying.key], |row| row.get(0)).optional()?;
            if before.is_some() {
                return Ok(before);
            }
            let sql = "SELECT count(*) FROM words WHERE tasting_id = ?1";
            let count: i64 = work.query_row(sql, [id], |row| row.get(0))?;
            if count != saying.after {
                return Ok(None);
            }
            let Uttering { body, taster, at, key, .. } = saying;
            work.execute(
                "INSERT INTO words (tasting_id, place, at, taster, body, key)
                 VALUES (?1, ?2, ?3, ?4, ?5, ?6)",
                params![id, count, at, taster, body, key],
            )?;
            Ok(Some(count))
        })
    }

    /// Whether something was said at a tasting under that key already.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn was_uttered(&self, id: &str, key: &str) -> Result<bool> {
        let reader = self.reader()?;
        let sql = "SELECT EXISTS (SELECT 1 FROM words WHERE tasting_id = ?1 AND key = ?2)";
        Ok(reader.query_row(sql, [id, key], |row| row.get(0))?)
    }

    /// Keeps what lists show of a tasting, worked out when `said` things had been said. If more have been said
    /// since, it stays as it is: whoever said them keeps a newer one.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn set_tasting_summary(&self, id: &str, summary: &str, said: i64) -> Result<()> {
        self.write(|work| {
            let sql = "UPDATE tastings SET summary = ?2
                       WHERE id = ?1 AND ?3 = (SELECT count(*) FROM words WHERE tasting_id = ?1)";
            work.execute(sql, params![id, summary, said])?;
            Ok(())
        })
    }

    /// What somebody said, over all tastings: the tasting's name, when, and the words.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn words_of(&self, taster: &str) -> Result<Vec<(String, KeptWord)>> {
        let reader = self.reader()?;
        let sql = "SELECT words.place, words.at, words.body, tastings.name
                   FROM words JOIN tastings ON tastings.id = words.tasting_id
                   WHERE words.taster = ?1 ORDER BY words.at, words.place";
        let mut query = reader.prepare_cached(sql)?;
        let rows = query.query_map([taster], |row| Ok((row.get(3)?, word(row)?)))?;
        Ok(rows.collect::<rusqlite::Result<_>>()?)
    }

    /// Removes a tasting with all that was said at it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such tasting.
    pub fn remove_tasting(&self, id: &str) -> Result<()> {
        self.write(|work| match work.execute("DELETE FROM tastings WHERE id = ?1", [id])? {
            0 => Err(StoreError::NotFound),
            _ => Ok(()),
        })
    }
}
