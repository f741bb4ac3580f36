use rusqlite::{Connection, OptionalExtension, Row, Transaction, params};

use crate::earlier::{self, Replaced};
use crate::error::{Result, StoreError};
use crate::said::{remember_said, said};
use crate::store::Store;
use crate::versions::{KeptVersion, put_versions};

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
    /// The permanent id.
    pub id: String,
    /// Counts its changes from 1.
    pub version: i64,
    /// Its name, for finding it, and for showing it when the drink itself can't be read.
    pub name: String,
    /// Its text, in the open format.
    pub body: String,
    /// When it was saved first, RFC 3339.
    pub created_at: String,
    /// When it was last changed, RFC 3339.
    pub changed_at: String,
}

/// What is known of a drink beside what it is.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Facts {
    /// Its tags.
    pub tags: Vec<String>,
    /// How many times it was made.
    pub made: i64,
    /// When it was last made, RFC 3339.
    pub last_made: Option<String>,
    /// The median rating of its batches, 1 to 5.
    pub rating: Option<f64>,
}

/// The order of a list.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Order {
    /// The last changed first.
    #[default]
    Changed,
    /// By name.
    Name,
    /// The last made first.
    Made,
    /// The best liked first.
    Rating,
}

/// Which are looked for.
#[derive(Debug, Clone, Copy, Default)]
pub struct Sought<'a> {
    /// Part of a name.
    pub name_has: &'a str,
    /// What they are filed under.
    pub tag: Option<&'a str>,
    /// The ids of ingredients that all of them have in them.
    pub ingredients: &'a [String],
    /// The order.
    pub order: Order,
    /// How many to skip.
    pub after: usize,
    /// How many at most.
    pub most: usize,
}

/// A page of a list.
#[derive(Debug, Clone, PartialEq)]
pub struct Found {
    /// The total number.
    pub total: usize,
    /// Those of the page.
    pub first: Vec<(Kept, Facts)>,
}

/// Tags of a drink, and letters of a tag.
const MOST_TAGS: usize = 12;

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
const FACTS: &str = "tags, made, last_made, rating";

fn facts_of(row: &Row<'_>) -> rusqlite::Result<Facts> {
    let tags: Option<String> = row.get(6)?;
    Ok(Facts {
        tags: tags.and_then(|t| serde_json::from_str(&t).ok()).unwrap_or_default(),
        made: row.get(7)?,
        last_made: row.get(8)?,
        rating: row.get(9)?,
    })
}

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

impl Store {
    /// What a drink is filed under, and how often it was made.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such drink.
    pub fn facts(&self, id: &str) -> Result<Facts> {
        let reader = self.reader()?;
        let sql =
            format!("SELECT {COLUMNS}, {FACTS} FROM drinks WHERE id = ?1 AND deleted_at IS NULL");
        let found = reader.prepare_cached(&sql)?.query_row([id], facts_of).optional()?;
        found.ok_or(StoreError::NotFound)
    }

    /// Files a drink under some words.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such drink.
    pub fn set_tags(&self, id: &str, tags: &[String]) -> Result<()> {
        let mut tags: Vec<&str> = tags.iter().map(|t| t.trim()).filter(|t| !t.is_empty()).collect();
        tags.dedup();
        tags.truncate(MOST_TAGS);
        let text = serde_json::to_string(&tags).unwrap_or_else(|_| "[]".into());
        self.write(|work| {
            let sql = "UPDATE drinks SET tags = ?2 WHERE id = ?1 AND deleted_at IS NULL";
            match work.execute(sql, params![id, text])? {
                0 => Err(StoreError::NotFound),
                _ => Ok(()),
            }
        })
    }

    /// All words that drinks are filed under, and how many of them.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn tags(&self) -> Result<Vec<(String, i64)>> {
        let reader = self.reader()?;
        let sql = "SELECT value, count(*) FROM drinks, json_each(drinks.tags)
                   WHERE deleted_at IS NULL AND tags <> '[]' GROUP BY value ORDER BY count(*) DESC, value LIMIT 200";
        let mut query = reader.prepare_cached(sql)?;
        let rows = query.query_map([], |row| Ok((row.get(0)?, row.get(1)?)))?;
        Ok(rows.collect::<rusqlite::Result<_>>()?)
    }

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
        self.create_with(id, draft, &[])
    }

    /// As [`Self::create`], with earlier states that come from a file: all of it, or nothing.
    ///
    /// # Errors
    /// If the database refuses, also when the id is taken.
    pub fn create_with(&self, id: &str, draft: Draft<'_>, earlier: &[KeptVersion]) -> Result<Kept> {
        self.store.write(|work| {
            if let Some((before, _)) = said(work, draft.key)? {
                return find(work, self.sort, &before)?.ok_or(StoreError::NotFound);
            }
            insert(work, self.sort, id, draft)?;
            remember_said(work, draft.key, (id, 1), draft.now)?;
            put_versions(work, id, earlier)?;
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
    ///
    /// # Errors
    /// If the database refuses.
    pub fn list(&self, name_has: &str, most: usize) -> Result<(usize, Vec<Kept>)> {
        let Found { total, first } =
            self.search(&Sought { name_has, most, ..Sought::default() })?;
        Ok((total, first.into_iter().map(|(kept, _)| kept).collect()))
    }

    /// Those that are wanted, and how many there are in all. On a damaged shelf: those that can be read.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn search(&self, wanted: &Sought<'_>) -> Result<Found> {
        match self.store.note(self.search_quickly(wanted)) {
            Err(StoreError::Damaged(_)) if self.sort == Sort::Drinks => {
                let name = wanted.name_has.trim().to_lowercase();
                let mut found = self.store.rescue()?.drinks;
                found.retain(|kept| kept.name.to_lowercase().contains(&name));
                found.sort_by(|a, b| b.changed_at.cmp(&a.changed_at));
                let total = found.len();
                let page = found.into_iter().skip(wanted.after).take(wanted.most);
                let first = page.map(|kept| (kept, Facts::default())).collect();
                Ok(Found { total, first })
            }
            found => found,
        }
    }

    fn search_quickly(&self, wanted: &Sought<'_>) -> Result<Found> {
        let (reader, table) = (self.store.reader()?, self.sort.table());
        let drinks = self.sort == Sort::Drinks;
        let (facts, order) = match (drinks, wanted.order) {
            (true, Order::Name) => (FACTS, "name, id"),
            (true, Order::Made) => (FACTS, "last_made DESC, id DESC"),
            (true, Order::Rating) => (FACTS, "rating DESC, id DESC"),
            (true, Order::Changed) => (FACTS, "changed_at DESC, id DESC"),
            (false, _) => ("NULL, 0, NULL, NULL", "changed_at DESC, id DESC"),
        };
        let mut narrowed = String::new();
        let mut values: Vec<&str> = Vec::new();
        if drinks {
            if let Some(tag) = wanted.tag {
                values.push(tag);
                narrowed += &format!(
                    " AND EXISTS (SELECT 1 FROM json_each(tags) WHERE value = ?{})",
                    values.len()
                );
            }
            for ingredient in wanted.ingredients {
                values.push(ingredient);
                narrowed += &format!(
                    " AND id IN (SELECT drink_id FROM drink_ingredients WHERE ingredient = ?{})",
                    values.len()
                );
            }
        }
        let select = format!(
            "SELECT {COLUMNS}, {facts} FROM {table} WHERE deleted_at IS NULL{narrowed} ORDER BY {order}"
        );
        let values = || rusqlite::params_from_iter(values.iter());
        let name = wanted.name_has.trim().to_lowercase();
        if name.is_empty() {
            let count = match drinks && narrowed.is_empty() {
                true => "SELECT drinks FROM on_shelf".to_owned(),
                false => {
                    format!("SELECT count(*) FROM {table} WHERE deleted_at IS NULL{narrowed}")
                }
            };
            let total: i64 =
                reader.prepare_cached(&count)?.query_row(values(), |row| row.get(0))?;
            let page = format!("{select} LIMIT {} OFFSET {}", wanted.most, wanted.after);
            let mut query = reader.prepare_cached(&page)?;
            let rows = query.query_map(values(), |row| Ok((kept(row)?, facts_of(row)?)))?;
            let first = rows.collect::<rusqlite::Result<_>>()?;
            return Ok(Found { total: usize::try_from(total).unwrap_or(0), first });
        }
        // SQLite folds case for ASCII only; names may be written in any script.
        let mut query = reader.prepare_cached(&select)?;
        let mut rows = query.query(values())?;
        let (mut total, mut first) = (0, Vec::new());
        while let Some(row) = rows.next()? {
            if row.get_ref(2)?.as_str().is_ok_and(|text| text.to_lowercase().contains(&name)) {
                total += 1;
                if total > wanted.after && first.len() < wanted.most {
                    first.push((kept(row)?, facts_of(row)?));
                }
            }
        }
        Ok(Found { total, first })
    }

    /// Does something with the text of every one, those in the deleted drinks as well.
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
            remember_said(work, draft.key, (id, version + 1), draft.now)?;
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

    /// As [`Self::fill`], each with the earlier states that came in its file.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn fill_with(&self, drinks: &[(String, Draft<'_>, &[KeptVersion])]) -> Result<()> {
        self.store.write(|work| {
            drinks.iter().try_for_each(|(id, draft, earlier)| {
                insert(work, self.sort, id, *draft)?;
                put_versions(work, id, earlier)
            })
        })
    }
}
