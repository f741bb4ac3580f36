use rusqlite::{Connection, OptionalExtension, Row, Transaction, params};

use crate::earlier::{self, Replaced};
use crate::error::{Result, StoreError};
use crate::store::Store;

/// One sort of kept thing: drinks, or plans. They are kept alike.
#[derive(Debug, Clone, Copy)]
pub struct Rack<'a> {
    pub(crate) store: &'a Store,
    pub(crate) sort: Sort,
}

/// What a rack holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Sort {
    Drinks,
    Plans,
}

impl Sort {
    pub(crate) fn table(self) -> &'static str {
        match self {
            Self::Drinks => "drinks",
            Self::Plans => "plans",
        }
    }

    fn earlier(self) -> earlier::Place {
        match self {
            Self::Drinks => earlier::OF_DRINKS,
            Self::Plans => earlier::OF_PLANS,
        }
    }
}

/// A drink or plan as it is kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Kept {
    /// Names it for ever.
    pub id: String,
    /// Counts its changes from 1.
    pub version: i64,
    /// What it is called, for finding it, and for showing it when the drink itself can't be read.
    pub name: String,
    /// Its text, in the open format.
    pub body: String,
    /// When it was put on the shelf, RFC 3339.
    pub created_at: String,
    /// When it was last changed, RFC 3339.
    pub changed_at: String,
}

/// A drink or plan to be kept.
#[derive(Debug, Clone, Copy)]
pub struct Draft<'a> {
    /// Its name, for finding it.
    pub name: &'a str,
    /// Its text, in the open format.
    pub body: &'a str,
    /// The time, RFC 3339 in UTC.
    pub now: &'a str,
    /// A key of this change's own: the same one said again is not done again.
    pub key: Option<&'a str>,
}

pub(crate) const COLUMNS: &str = "id, version, name, body, created_at, changed_at";

pub(crate) fn kept(row: &Row<'_>) -> rusqlite::Result<Kept> {
    Ok(Kept {
        id: row.get(0)?,
        version: row.get(1)?,
        name: row.get(2)?,
        body: row.get(3)?,
        created_at: row.get(4)?,
        changed_at: row.get(5)?,
    })
}

fn find(connection: &Connection, sort: Sort, id: &str) -> Result<Option<Kept>> {
    let table = sort.table();
    Ok(connection
        .prepare_cached(&format!(
            "SELECT {COLUMNS} FROM {table} WHERE id = ?1 AND deleted_at IS NULL"
        ))?
        .query_row([id], kept)
        .optional()?)
}

fn insert(work: &Transaction<'_>, sort: Sort, id: &str, draft: Draft<'_>) -> Result<()> {
    let table = sort.table();
    work.prepare_cached(&format!(
        "INSERT INTO {table} (id, version, name, body, created_at, changed_at)
         VALUES (?1, 1, ?2, ?3, ?4, ?4)"
    ))?
    .execute(params![id, draft.name, draft.body, draft.now])?;
    Ok(())
}

/// Of which drink a change was said under that key, and which version it made.
fn said(work: &Transaction<'_>, key: Option<&str>) -> Result<Option<(String, i64)>> {
    let Some(key) = key else { return Ok(None) };
    Ok(work
        .query_row("SELECT of, version FROM said WHERE key = ?1", [key], |row| {
            Ok((row.get(0)?, row.get(1)?))
        })
        .optional()?)
}

fn remember_said(work: &Transaction<'_>, draft: Draft<'_>, of: &str, version: i64) -> Result<()> {
    if let Some(key) = draft.key {
        work.execute(
            "INSERT INTO said (key, of, version, at) VALUES (?1, ?2, ?3, ?4)",
            params![key, of, version, draft.now],
        )?;
    }
    Ok(())
}

impl Store {
    /// The drinks.
    #[must_use]
    pub fn drinks(&self) -> Rack<'_> {
        Rack { store: self, sort: Sort::Drinks }
    }

    /// The plans.
    #[must_use]
    pub fn plans(&self) -> Rack<'_> {
        Rack { store: self, sort: Sort::Plans }
    }
}

impl Rack<'_> {
    /// Keeps a new one.
    ///
    /// # Errors
    /// If the database refuses, also when the id is taken.
    pub fn create(&self, id: &str, draft: Draft<'_>) -> Result<Kept> {
        self.store.write(|work| {
            if let Some((before, _)) = said(work, draft.key)? {
                return find(work, self.sort, &before)?.ok_or(StoreError::NotFound);
            }
            insert(work, self.sort, id, draft)?;
            remember_said(work, draft, id, 1)?;
            find(work, self.sort, id)?.ok_or(StoreError::NotFound)
        })
    }

    /// The one of that id.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if it isn't there or was removed.
    pub fn read(&self, id: &str) -> Result<Kept> {
        let found = self.store.reader().and_then(|reader| find(&reader, self.sort, id));
        match self.store.note(found) {
            // The way by its id may be what is damaged.
            Err(StoreError::Damaged(_)) if self.sort == Sort::Drinks => {
                let mut found = self.store.rescue()?.drinks.into_iter();
                found.find(|kept| kept.id == id).ok_or(StoreError::NotFound)
            }
            found => found?.ok_or(StoreError::NotFound),
        }
    }

    /// The first whose name holds the text, last changed first, and how many there are in all.
    /// On a damaged shelf: those that can be read.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn list(&self, name_has: &str, most: usize) -> Result<(usize, Vec<Kept>)> {
        match self.store.note(self.list_quickly(name_has, most)) {
            Err(StoreError::Damaged(_)) if self.sort == Sort::Drinks => {
                let wanted = name_has.trim().to_lowercase();
                let mut found = self.store.rescue()?.drinks;
                found.retain(|kept| kept.name.to_lowercase().contains(&wanted));
                found.sort_by(|a, b| b.changed_at.cmp(&a.changed_at));
                let total = found.len();
                found.truncate(most);
                Ok((total, found))
            }
            found => found,
        }
    }

    fn list_quickly(&self, name_has: &str, most: usize) -> Result<(usize, Vec<Kept>)> {
        let (reader, table) = (self.store.reader()?, self.sort.table());
        let mut query = reader.prepare_cached(&format!(
            "SELECT {COLUMNS} FROM {table} WHERE deleted_at IS NULL
             ORDER BY changed_at DESC, id DESC"
        ))?;
        // SQLite folds case for ASCII only; names may be written in any script.
        let wanted = name_has.trim().to_lowercase();
        let mut rows = query.query([])?;
        let (mut total, mut first) = (0, Vec::new());
        while let Some(row) = rows.next()? {
            let fits = |name: &str| name.to_lowercase().contains(&wanted);
            if wanted.is_empty() || row.get_ref(2)?.as_str().is_ok_and(fits) {
                total += 1;
                if first.len() < most {
                    first.push(kept(row)?);
                }
            }
        }
        Ok((total, first))
    }

    /// Does something with the text of every one, those in the bin as well.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn for_each_body(&self, mut see: impl FnMut(&str)) -> Result<()> {
        let (reader, table) = (self.store.reader()?, self.sort.table());
        let mut query = reader.prepare_cached(&format!("SELECT body FROM {table}"))?;
        let mut rows = query.query([])?;
        while let Some(row) = rows.next()? {
            if let Ok(body) = row.get_ref(0)?.as_str() {
                see(body);
            }
        }
        Ok(())
    }

    /// Saves a change made on top of `version`, and keeps what it replaces if that stood for a while
    /// (see [`earlier`]).
    ///
    /// # Errors
    /// [`StoreError::Stale`] with the newer one if someone else was faster.
    pub fn save(&self, id: &str, version: i64, draft: Draft<'_>) -> Result<Kept> {
        self.store.write(|work| {
            let current = find(work, self.sort, id)?.ok_or(StoreError::NotFound)?;
            if let Some((of, made)) = said(work, draft.key)?
                && of == id
            {
                // It was saved, and the answer was lost. What has come since is not this change's.
                return Ok(Kept {
                    version: made,
                    name: draft.name.into(),
                    body: draft.body.into(),
                    ..current
                });
            }
            if current.version != version {
                return Err(StoreError::Stale(Box::new(current)));
            }
            if current.body == draft.body {
                return Ok(current);
            }
            let replaced = Replaced {
                of: id,
                version: current.version,
                body: &current.body,
                since: &current.changed_at,
            };
            earlier::keep(work, self.sort.earlier(), &replaced, draft.now)?;
            work.execute(
                &format!(
                    "UPDATE {} SET version = version + 1, name = ?2, body = ?3, changed_at = ?4
                     WHERE id = ?1",
                    self.sort.table()
                ),
                params![id, draft.name, draft.body, draft.now],
            )?;
            remember_said(work, draft, id, version + 1)?;
            find(work, self.sort, id)?.ok_or(StoreError::NotFound)
        })
    }

    /// Whether none was ever kept.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn is_new(&self) -> Result<bool> {
        let (reader, table) = (self.store.reader()?, self.sort.table());
        let any = format!("SELECT EXISTS (SELECT 1 FROM {table})");
        Ok(!reader.query_row(&any, [], |row| row.get(0))?)
    }

    /// Keeps many, all or none.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn fill(&self, drinks: &[(String, Draft<'_>)]) -> Result<()> {
        self.store.write(|work| {
            drinks.iter().try_for_each(|(id, draft)| insert(work, self.sort, id, *draft))
        })
    }
}
