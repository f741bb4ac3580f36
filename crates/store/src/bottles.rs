use rusqlite::{Connection, OptionalExtension, Row, params};

use crate::error::{Result, StoreError};
use crate::said::{remember_said, said};
use crate::store::Store;

/// A bottle as it is kept: what it is, as it was put there.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KeptBottle {
    /// The permanent id.
    pub id: String,
    /// The batch that it is from.
    pub batch: Option<String>,
    /// The drink on the shelf that it is of.
    pub drink: Option<String>,
    /// Its name.
    pub name: String,
    /// What it is, as text of the open format.
    pub body: String,
    /// When it was added, RFC 3339.
    pub put_at: String,
    /// When it was empty, RFC 3339, if it is.
    pub gone_at: Option<String>,
}

/// Something that happened to a bottle. It is only ever added to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KeptMove {
    /// When, RFC 3339.
    pub at: String,
    /// What, as text of the open format.
    pub body: String,
}

/// A bottle with all that happened to it.
pub type WholeBottle = (KeptBottle, Vec<KeptMove>);

const COLUMNS: &str = "id, batch_id, drink_id, name, body, put_at, gone_at";

fn bottle(row: &Row<'_>) -> rusqlite::Result<KeptBottle> {
    Ok(KeptBottle {
        id: row.get(0)?,
        batch: row.get(1)?,
        drink: row.get(2)?,
        name: row.get(3)?,
        body: row.get(4)?,
        put_at: row.get(5)?,
        gone_at: row.get(6)?,
    })
}

fn moves(connection: &Connection, id: &str) -> Result<Vec<KeptMove>> {
    let mut query = connection
        .prepare_cached("SELECT at, body FROM bottle_moves WHERE bottle_id = ?1 ORDER BY place")?;
    let rows = query.query_map([id], |row| Ok(KeptMove { at: row.get(0)?, body: row.get(1)? }))?;
    Ok(rows.collect::<rusqlite::Result<_>>()?)
}

fn find(connection: &Connection, id: &str) -> Result<Option<WholeBottle>> {
    let sql = format!("SELECT {COLUMNS} FROM bottles WHERE id = ?1");
    let found = connection.prepare_cached(&sql)?.query_row([id], bottle).optional()?;
    found
        .map(|kept| Ok((moves(connection, &kept.id)?, kept)))
        .transpose()
        .map(|it| it.map(|(m, k)| (k, m)))
}

impl Store {
    /// Puts bottles there, all or none. Said twice under one key they are put there once.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn put_bottles(&self, new: &[KeptBottle], key: Option<&str>) -> Result<()> {
        self.write(|work| {
            let Some(first) = new.first() else { return Ok(()) };
            if said(work, key)?.is_some() {
                return Ok(());
            }
            remember_said(work, key, (&first.id, 1), &first.put_at)?;
            for it in new {
                let sql =
                    format!("INSERT INTO bottles ({COLUMNS}) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)");
                work.execute(
                    &sql,
                    params![it.id, it.batch, it.drink, it.name, it.body, it.put_at, it.gone_at],
                )?;
            }
            Ok(())
        })
    }

    /// A bottle, and everything that happened to it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such bottle.
    pub fn bottle(&self, id: &str) -> Result<WholeBottle> {
        find(&*self.reader()?, id)?.ok_or(StoreError::NotFound)
    }

    /// Everything that stands there, the first that was put there first.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn standing_bottles(&self) -> Result<Vec<WholeBottle>> {
        self.bottles_where("gone_at IS NULL ORDER BY put_at, id LIMIT 1000", "")
    }

    /// The bottles of a drink, those that are gone as well, the last put there first.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn bottles_of(&self, drink: &str) -> Result<Vec<WholeBottle>> {
        self.bottles_where("drink_id = ?1 ORDER BY put_at DESC, id DESC LIMIT 200", drink)
    }

    /// The bottles of a batch.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn bottles_of_batch(&self, batch: &str) -> Result<Vec<WholeBottle>> {
        self.bottles_where("batch_id = ?1 ORDER BY put_at, id LIMIT 200", batch)
    }

    fn bottles_where(&self, narrowed: &str, value: &str) -> Result<Vec<WholeBottle>> {
        let reader = self.reader()?;
        let mut query =
            reader.prepare_cached(&format!("SELECT {COLUMNS} FROM bottles WHERE {narrowed}"))?;
        let asks = query.parameter_count();
        let rows = match asks {
            0 => query.query_map([], bottle)?,
            _ => query.query_map([value], bottle)?,
        };
        let all: Vec<KeptBottle> = rows.collect::<rusqlite::Result<_>>()?;
        all.into_iter()
            .map(|kept| Ok((moves(&reader, &kept.id)?, kept)))
            .map(|it: Result<_>| it.map(|(m, k)| (k, m)))
            .collect()
    }

    /// What was said of any bottles under keys that begin and end so.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn moves_under(&self, begins: &str, ends: &str) -> Result<Vec<String>> {
        let reader = self.reader()?;
        let mut query = reader.prepare_cached(
            "SELECT body FROM bottle_moves WHERE substr(key, 1, length(?1)) = ?1 \
             AND length(key) > length(?1) + length(?2) AND substr(key, -length(?2)) = ?2",
        )?;
        let rows = query.query_map([begins, ends], |row| row.get(0))?;
        Ok(rows.collect::<rusqlite::Result<_>>()?)
    }

    /// Says that something happened to a bottle, after `after` things that happened before. `gone` says when it
    /// was empty, if it is from now on. Said twice under one key it counts once. Answers `false` where something
    /// else happened meanwhile: what is to be said has to be thought over.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such bottle.
    pub fn move_bottle(
        &self,
        id: &str,
        what: &KeptMove,
        (after, gone): (usize, Option<&str>),
        key: Option<&str>,
    ) -> Result<bool> {
        self.write(|work| {
            if find(work, id)?.is_none() {
                return Err(StoreError::NotFound);
            }
            let before: Option<i64> = work
                .query_row(
                    "SELECT place FROM bottle_moves WHERE bottle_id = ?1 AND key = ?2",
                    params![id, key],
                    |row| row.get(0),
                )
                .optional()?;
            if before.is_some() {
                return Ok(true);
            }
            let sql = "SELECT count(*) FROM bottle_moves WHERE bottle_id = ?1";
            let count: i64 = work.query_row(sql, [id], |row| row.get(0))?;
            if usize::try_from(count) != Ok(after) {
                return Ok(false);
            }
            work.execute(
                "INSERT INTO bottle_moves (bottle_id, place, at, body, key) VALUES (?1, ?2, ?3, ?4, ?5)",
                params![id, count, what.at, what.body, key],
            )?;
            work.execute("UPDATE bottles SET gone_at = ?2 WHERE id = ?1", params![id, gone])?;
            Ok(true)
        })
    }
}
