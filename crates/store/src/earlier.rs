//! Earlier states: which are kept, and for how long.
//!
//! Every nudge of an amount is saved, so most states of a drink stand for a second and nobody wants
//! them back. What is kept is a state that **stood**: for five minutes or more before it was replaced.
//! With age they thin out: all of the last day, one an hour of the last week, one a day of all before.
//!
//! A clock that once ran ahead leaves states from the future; such a state counts as one that stood, so
//! that nothing is lost by it, and the next one is judged by the right time again.

use rusqlite::{Transaction, params};

use crate::error::Result;

/// A state that stood for so many seconds is kept.
const STOOD: i64 = 300;

/// Whether what began at `since` and is replaced at `now` has stood for a while; RFC 3339 times.
fn has_stood(work: &Transaction<'_>, since: &str, now: &str) -> Result<bool> {
    let seconds: Option<i64> =
        work.query_row("SELECT unixepoch(?2) - unixepoch(?1)", params![since, now], |r| r.get(0))?;
    // Of a time that can't be read nothing is known: better one too many.
    Ok(seconds.is_none_or(|s| !(0..STOOD).contains(&s)))
}

/// Rows to be let go, oldest first by version: of an hour, or a day, all but the last.
const THINNED: &str = "SELECT version FROM (
        SELECT version, row_number() OVER (
            PARTITION BY CASE
                WHEN age < 86400 THEN 'v' || version
                WHEN age < 7 * 86400 THEN strftime('h%Y-%m-%d %H', changed_at)
                ELSE strftime('d%Y-%m-%d', changed_at)
            END ORDER BY version DESC) AS nth
        FROM (SELECT version, changed_at, unixepoch(?2) - unixepoch(changed_at) AS age
              FROM TABLE WHERE OWNER = ?1)
    ) WHERE nth > 1";

fn thin(work: &Transaction<'_>, Place { table, owner }: Place, of: &str, now: &str) -> Result<()> {
    let thinned = THINNED.replace("TABLE", table).replace("OWNER", owner);
    work.execute(
        &format!("DELETE FROM {table} WHERE {owner} = ?1 AND version IN ({thinned})"),
        params![of, now],
    )?;
    Ok(())
}

/// Where earlier states of one sort lie.
#[derive(Clone, Copy)]
pub(crate) struct Place {
    table: &'static str,
    /// The column that says of what they are states.
    owner: &'static str,
}

pub(crate) const OF_DRINKS: Place = Place { table: "earlier_versions", owner: "drink_id" };
pub(crate) const OF_PLANS: Place = Place { table: "earlier_plans", owner: "plan_id" };
pub(crate) const OF_DOCUMENTS: Place = Place { table: "earlier_documents", owner: "key" };

/// A state that is replaced.
pub(crate) struct Replaced<'a> {
    pub(crate) of: &'a str,
    pub(crate) version: i64,
    pub(crate) body: &'a str,
    /// When it began, RFC 3339.
    pub(crate) since: &'a str,
}

/// Keeps a state that has stood, and thins out those before.
pub(crate) fn keep(
    work: &Transaction<'_>,
    place: Place,
    replaced: &Replaced<'_>,
    now: &str,
) -> Result<()> {
    let Place { table, owner } = place;
    if has_stood(work, replaced.since, now)? {
        work.execute(
            &format!(
                "INSERT OR REPLACE INTO {table} ({owner}, version, body, changed_at)
                 VALUES (?1, ?2, ?3, ?4)"
            ),
            params![replaced.of, replaced.version, replaced.body, replaced.since],
        )?;
        thin(work, place, replaced.of, now)?;
    }
    Ok(())
}
