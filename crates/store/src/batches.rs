use rusqlite::{Connection, OptionalExtension, Row, params};

use crate::error::{Result, StoreError};
use crate::said::{remember_said, said};
use crate::store::Store;

/// A batch as it is kept: what was to be made, and what happened since.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KeptBatch {
    /// The permanent id.
    pub id: String,
    /// The drink on the shelf that it is a making of.
    pub drink: String,
    /// What the drink was called.
    pub name: String,
    /// The drink and the kitchen as they were, as text of the open format.
    pub body: String,
    /// When it was started, RFC 3339.
    pub begun_at: String,
    /// When it was finished, RFC 3339, if it was.
    pub finished_at: Option<String>,
    /// Whether it is a practice batch; such a one is never counted among the others.
    pub practice: bool,
    /// Its own clock, as text, if it has one.
    pub clock: Option<String>,
    /// How it ended, as text, if it has.
    pub ending: Option<String>,
    /// Its rating, 1 to 5, if that was said.
    pub rating: Option<i64>,
    /// When its picture was added, RFC 3339.
    pub picture: Option<String>,
}

/// Which batches are looked for.
#[derive(Debug, Clone, Default)]
pub struct Wanted<'a> {
    /// Those of one drink on the shelf.
    pub drink: Option<&'a str>,
    /// Only those that go on.
    pub going: bool,
    /// Only finished batches, without practice batches.
    pub made: bool,
    /// Words that stand in its name or in what was said of it.
    pub words: &'a str,
    /// Started on that day or later, RFC 3339.
    pub from: Option<&'a str>,
    /// Started before that, RFC 3339.
    pub before: Option<&'a str>,
    /// The lowest rating, 1 to 5.
    pub rating: Option<i64>,
    /// How many to skip.
    pub after: usize,
}

/// How well predicted readings were, over batches.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Predicted {
    /// Readings in all.
    pub readings: i64,
    /// Those inside what had been predicted as nine in ten.
    pub inside: i64,
}

/// Something that was said of a batch. It is only ever added to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KeptHappening {
    /// Its place in the list, from 0.
    pub place: i64,
    /// When it was said, RFC 3339.
    pub at: String,
    /// What, as text of the open format.
    pub body: String,
}

/// A finished batch, and the one thing that is known of it: how it ended.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WholeBatch {
    /// The batch.
    pub batch: KeptBatch,
    /// That it was finished.
    pub happening: KeptHappening,
}

/// Something to be said of a batch.
#[derive(Debug, Clone, Copy)]
pub struct Saying<'a> {
    /// What, as text of the open format.
    pub body: &'a str,
    /// When, RFC 3339 in UTC.
    pub at: &'a str,
    /// A key of its own: the same one said again is not said again.
    pub key: Option<&'a str>,
    /// How many things had been said when it was decided to say this; another one in between is heard first.
    pub after: i64,
    /// Whether the batch is finished with it (`Some(true)`), or goes on after all.
    pub finishes: Option<bool>,
}

const COLUMNS: &str =
    "id, drink_id, name, body, begun_at, finished_at, practice, clock, ending, rating,
     (SELECT put_at FROM pictures WHERE batch_id = batches.id)";

fn batch(row: &Row<'_>) -> rusqlite::Result<KeptBatch> {
    Ok(KeptBatch {
        id: row.get(0)?,
        drink: row.get(1)?,
        name: row.get(2)?,
        body: row.get(3)?,
        begun_at: row.get(4)?,
        finished_at: row.get(5)?,
        practice: row.get(6)?,
        clock: row.get(7)?,
        ending: row.get(8)?,
        rating: row.get(9)?,
        picture: row.get(10)?,
    })
}

fn find(connection: &Connection, id: &str) -> Result<Option<KeptBatch>> {
    let sql = format!("SELECT {COLUMNS} FROM batches WHERE id = ?1");
    Ok(connection.prepare_cached(&sql)?.query_row([id], batch).optional()?)
}

impl Store {
    /// Begins a batch. Said twice under one key it is started once.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn begin_batch(&self, new: &KeptBatch, key: Option<&str>) -> Result<KeptBatch> {
        self.write(|work| {
            if let Some((before, _)) = said(work, key)? {
                return find(work, &before)?.ok_or(StoreError::NotFound);
            }
            remember_said(work, key, (&new.id, 1), &new.begun_at)?;
            work.execute(
                "INSERT INTO batches (id, drink_id, name, body, begun_at, practice, clock)
                 VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)",
                params![
                    new.id,
                    new.drink,
                    new.name,
                    new.body,
                    new.begun_at,
                    new.practice,
                    new.clock
                ],
            )?;
            find(work, &new.id)?.ok_or(StoreError::NotFound)
        })
    }

    /// Keeps finished batches that come from a table, each with how it ended: all of them, or none.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn fill_batches(&self, all: &[WholeBatch]) -> Result<()> {
        self.write(|work| {
            let mut batch = work.prepare(
                "INSERT INTO batches (id, drink_id, name, body, begun_at, practice, rating)
                 VALUES (?1, ?2, ?3, ?4, ?5, 0, ?6)",
            )?;
            let mut happening = work.prepare(
                "INSERT INTO happenings (batch_id, place, at, body) VALUES (?1, 0, ?2, ?3)",
            )?;
            let mut ending =
                work.prepare("UPDATE batches SET finished_at = ?2, ending = ?3 WHERE id = ?1")?;
            let mut last = std::collections::BTreeMap::new();
            for WholeBatch { batch: it, happening: said } in all {
                batch.execute(params![
                    it.id,
                    it.drink,
                    it.name,
                    it.body,
                    it.begun_at,
                    it.rating
                ])?;
                happening.execute(params![it.id, said.at, said.body])?;
                ending.execute(params![it.id, it.finished_at, it.ending])?;
                last.insert(&it.drink, &it.id);
            }
            // How a drink is liked on the whole is worked out once for each, not once for each batch.
            for id in last.values() {
                work.execute("UPDATE batches SET rating = rating WHERE id = ?1", [id])?;
            }
            Ok(())
        })
    }

    /// What every finished batch was called and when it was started, practice left out.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn batch_names(&self) -> Result<Vec<(String, String)>> {
        let reader = self.reader()?;
        let mut query = reader.prepare_cached(
            "SELECT name, begun_at FROM batches WHERE finished_at IS NOT NULL AND NOT practice",
        )?;
        let rows = query.query_map([], |row| Ok((row.get(0)?, row.get(1)?)))?;
        Ok(rows.collect::<rusqlite::Result<_>>()?)
    }

    /// A batch, and everything that was said of it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such batch.
    pub fn batch(&self, id: &str) -> Result<(KeptBatch, Vec<KeptHappening>)> {
        let reader = self.reader()?;
        let found = self.note(find(&reader, id))?.ok_or(StoreError::NotFound)?;
        let mut query = reader.prepare_cached(
            "SELECT place, at, body FROM happenings WHERE batch_id = ?1 ORDER BY place",
        )?;
        let rows = query.query_map([id], |row| {
            Ok(KeptHappening { place: row.get(0)?, at: row.get(1)?, body: row.get(2)? })
        })?;
        Ok((found, rows.collect::<rusqlite::Result<_>>()?))
    }

    /// The batches that are wanted; those that go on first, then the last begun.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn batches(&self, wanted: &Wanted<'_>, most: usize) -> Result<Vec<KeptBatch>> {
        let reader = self.reader()?;
        let (mut narrowed, mut values): (Vec<String>, Vec<&dyn rusqlite::ToSql>) =
            Default::default();
        let mut narrow = |sql: &str, value| {
            values.push(value);
            narrowed.push(sql.replace('?', &format!("?{}", values.len())));
        };
        if let Some(drink) = &wanted.drink {
            narrow("drink_id = ?", drink);
        }
        if let Some(from) = &wanted.from {
            narrow("begun_at >= ?", from);
        }
        if let Some(before) = &wanted.before {
            narrow("begun_at < ?", before);
        }
        if let Some(rating) = &wanted.rating {
            narrow("rating >= ?", rating);
        }
        if wanted.going {
            narrowed.push("finished_at IS NULL".into());
        }
        if wanted.made {
            narrowed.push("finished_at IS NOT NULL AND NOT practice".into());
        }
        // Where none goes on, the order by time alone is the same, and an index has it.
        let order = match wanted.made {
            true => "begun_at DESC, id DESC",
            false => "finished_at IS NOT NULL, begun_at DESC, id DESC",
        };
        let narrowed = if narrowed.is_empty() { "true".to_owned() } else { narrowed.join(" AND ") };
        let words: Vec<String> = wanted.words.split_whitespace().map(str::to_lowercase).collect();
        // Of words SQLite folds those of ASCII only; they are looked for here.
        let page = match words.is_empty() {
            true => format!("LIMIT {most} OFFSET {}", wanted.after),
            false => String::new(),
        };
        let sql = format!(
            "SELECT {COLUMNS}, words FROM batches WHERE {narrowed}
             ORDER BY {order} {page}"
        );
        let mut query = reader.prepare_cached(&sql)?;
        let mut rows = query.query(rusqlite::params_from_iter(values))?;
        let (mut all, mut passed) = (Vec::new(), 0);
        while let Some(row) = rows.next()? {
            if !words.is_empty() {
                let text = row.get_ref("words")?.as_str().unwrap_or_default().to_lowercase();
                if !words.iter().all(|word| text.contains(word)) {
                    continue;
                }
                passed += 1;
                if passed <= wanted.after {
                    continue;
                }
            }
            all.push(batch(row)?);
            if all.len() >= most {
                break;
            }
        }
        Ok(all)
    }

    /// Keeps how a batch was liked, 1 to 5; `None` takes it back.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such batch.
    pub fn rate_batch(&self, id: &str, rating: Option<i64>) -> Result<()> {
        self.write(|work| {
            match work
                .execute("UPDATE batches SET rating = ?2 WHERE id = ?1", params![id, rating])?
            {
                0 => Err(StoreError::NotFound),
                _ => Ok(()),
            }
        })
    }

    /// How well readings were predicted over all finished batches of a drink, or of all. Practice isn't
    /// counted.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn predicted(&self, drink: Option<&str>) -> Result<Predicted> {
        let reader = self.reader()?;
        let sql = "SELECT readings, inside FROM predicted WHERE drink_id = ?1";
        let found = reader.query_row(sql, [drink.unwrap_or_default()], |row| {
            Ok(Predicted { readings: row.get(0)?, inside: row.get(1)? })
        });
        Ok(found.optional()?.unwrap_or_default())
    }

    /// Sets a batch's own clock.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such batch.
    pub fn set_batch_clock(&self, id: &str, clock: &str) -> Result<()> {
        self.write(|work| {
            let sql = "UPDATE batches SET clock = ?2 WHERE id = ?1 AND practice";
            match work.execute(sql, params![id, clock])? {
                0 => Err(StoreError::NotFound),
                _ => Ok(()),
            }
        })
    }

    /// Keeps how a finished batch ended.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn set_batch_ending(&self, id: &str, ending: &str) -> Result<()> {
        self.write(|work| {
            let sql = "UPDATE batches SET ending = ?2 WHERE id = ?1 AND finished_at IS NOT NULL";
            work.execute(sql, params![id, ending])?;
            Ok(())
        })
    }

    /// Whether something was said of a batch under that key already.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn was_said(&self, id: &str, key: &str) -> Result<bool> {
        let reader = self.reader()?;
        let sql = "SELECT EXISTS (SELECT 1 FROM happenings WHERE batch_id = ?1 AND key = ?2)";
        Ok(reader.query_row(sql, [id, key], |row| row.get(0))?)
    }

    /// Says something of a batch; when this returns it is on disk. Said twice under one key it counts once.
    /// `None` where something else has been said meanwhile: what was to be said has to be thought over.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such batch.
    pub fn say(&self, id: &str, saying: Saying<'_>) -> Result<Option<i64>> {
        self.write(|work| {
            if find(work, id)?.is_none() {
                return Err(StoreError::NotFound);
            }
            let said: Option<i64> = work
                .query_row(
                    "SELECT place FROM happenings WHERE batch_id = ?1 AND key = ?2",
                    params![id, saying.key],
                    |row| row.get(0),
                )
                .optional()?;
            if said.is_some() {
                return Ok(said);
            }
            let count: i64 = work.query_row(
                "SELECT count(*) FROM happenings WHERE batch_id = ?1",
                [id],
                |row| row.get(0),
            )?;
            if count != saying.after {
                return Ok(None);
            }
            work.execute(
                "INSERT INTO happenings (batch_id, place, at, body, key) VALUES (?1, ?2, ?3, ?4, ?5)",
                params![id, count, saying.at, saying.body, saying.key],
            )?;
            if let Some(finishes) = saying.finishes {
                let at = finishes.then_some(saying.at);
                let sql = "UPDATE batches SET finished_at = ?2, ending = NULL WHERE id = ?1";
                work.execute(sql, params![id, at])?;
            }
            Ok(Some(count))
        })
    }
}
