use rusqlite::{OptionalExtension, Row, params};

use crate::error::{Result, StoreError};
use crate::store::Store;

/// A connected phone.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KeptPhone {
    /// The permanent id.
    pub id: String,
    /// Its name.
    pub name: String,
    /// When it was connected, RFC 3339.
    pub let_in_at: String,
    /// When it was last seen, RFC 3339.
    pub last_seen: String,
    /// Until when it may come in, RFC 3339.
    pub until: String,
}

/// Phones that may be in at once.
const MOST: i64 = 40;

fn phone(row: &Row<'_>) -> rusqlite::Result<KeptPhone> {
    Ok(KeptPhone {
        id: row.get(0)?,
        name: row.get(1)?,
        let_in_at: row.get(2)?,
        last_seen: row.get(3)?,
        until: row.get(4)?,
    })
}

const COLUMNS: &str = "id, name, let_in_at, last_seen, until";

impl Store {
    /// Lets a phone in, known by the hash of its token. With too many of them the one that was seen longest ago
    /// is put out.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn let_in(&self, new: &KeptPhone, hash: &[u8]) -> Result<()> {
        self.write(|work| {
            work.execute(
                "INSERT INTO phones (id, name, hash, let_in_at, last_seen, until)
                 VALUES (?1, ?2, ?3, ?4, ?5, ?6)",
                params![new.id, new.name, hash, new.let_in_at, new.last_seen, new.until],
            )?;
            work.execute(
                "DELETE FROM phones WHERE id NOT IN
                 (SELECT id FROM phones ORDER BY last_seen DESC, id DESC LIMIT ?1)",
                [MOST],
            )?;
            Ok(())
        })
    }

    /// The phone that a token's hash belongs to, if it may still come in.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn phone(&self, hash: &[u8], now: &str) -> Result<Option<KeptPhone>> {
        let reader = self.reader()?;
        let sql = format!("SELECT {COLUMNS} FROM phones WHERE hash = ?1 AND until > ?2");
        Ok(reader.prepare_cached(&sql)?.query_row(params![hash, now], phone).optional()?)
    }

    /// The phones that may come in, the last seen first.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn phones(&self, now: &str) -> Result<Vec<KeptPhone>> {
        let reader = self.reader()?;
        let sql =
            format!("SELECT {COLUMNS} FROM phones WHERE until > ?1 ORDER BY last_seen DESC, id");
        let mut query = reader.prepare_cached(&sql)?;
        let rows = query.query_map([now], phone)?;
        Ok(rows.collect::<rusqlite::Result<_>>()?)
    }

    /// A phone was seen.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn phone_seen(&self, id: &str, now: &str) -> Result<()> {
        self.write(|work| {
            work.execute("UPDATE phones SET last_seen = ?2 WHERE id = ?1", params![id, now])?;
            Ok(())
        })
    }

    /// Puts a phone out.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such phone.
    pub fn put_out(&self, id: &str) -> Result<()> {
        self.write(|work| match work.execute("DELETE FROM phones WHERE id = ?1", [id])? {
            0 => Err(StoreError::NotFound),
            _ => Ok(()),
        })
    }

    /// Puts all phones out.
    ///
    /// # Errors
    /// If the database refuses.
    pub fn put_all_out(&self) -> Result<()> {
        self.write(|work| {
            work.execute("DELETE FROM phones", [])?;
            Ok(())
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn kept(n: i64) -> KeptPhone {
        KeptPhone {
            id: format!("p{n}"),
            name: "phone at the stove".into(),
            let_in_at: "2030-06-01T10:00:00Z".into(),
            last_seen: format!("2030-06-01T10:{n:02}:00Z"),
            until: "2030-07-01T10:00:00Z".into(),
        }
    }

    #[test]
    fn a_phone_is_known_by_its_hash_until_its_time_is_up_or_it_is_put_out() {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(&folder.path().join("k.db")).unwrap();
        let now = "2030-06-02T00:00:00Z";
        store.let_in(&kept(1), b"one").unwrap();
        assert_eq!(store.phone(b"one", now).unwrap(), Some(kept(1)));
        assert_eq!(store.phone(b"two", now).unwrap(), None);
        assert_eq!(store.phone(b"one", "2030-07-02T00:00:00Z").unwrap(), None);
        store.phone_seen("p1", now).unwrap();
        assert_eq!(store.phones(now).unwrap()[0].last_seen, now);
        store.put_out("p1").unwrap();
        assert_eq!(store.phone(b"one", now).unwrap(), None);
        assert!(store.put_out("p1").is_err());
    }

    #[test]
    fn with_too_many_the_one_seen_longest_ago_goes() {
        let folder = tempfile::tempdir().unwrap();
        let store = Store::open(&folder.path().join("k.db")).unwrap();
        for n in 0..=MOST {
            store.let_in(&kept(n), format!("{n}").as_bytes()).unwrap();
        }
        let all = store.phones("2030-06-02T00:00:00Z").unwrap();
        assert_eq!(all.len() as i64, MOST);
        assert!(all.iter().all(|p| p.id != "p0"));
        store.put_all_out().unwrap();
        assert_eq!(store.phones("2030-06-02T00:00:00Z").unwrap(), []);
    }
}
