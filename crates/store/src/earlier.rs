//! Earlier states: which are kept, and for how long.
//!
//! Every nudge of an amount is saved, so most states of a drink stand for a second and nobody wants
//! them back. What is kept is a state that **stood**: for five minutes or more before it was replaced.
//! A state of a drink that was given a name, or was made, is kept whether it stood or not, and never thinned out.
//! With age the others thin out: all of the last day, one an hour of the last week, one a day of all before.
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

/// Whether a state was given a name, or was made.
fn is_marked(work: &Transaction<'_>, replaced: &Replaced<'_>) -> Result<bool> {
    let sql = "SELECT EXISTS (SELECT 1 FROM marked_versions WHERE drink_id = ?1 AND version = ?2)";
    Ok(work.query_row(sql, params![replaced.of, replaced.version], |row| row.get(0))?)
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
              FROM TABLE WHERE OWNER = ?1 AND version NOT IN (
                  SELECT version FROM marked_versions WHERE MARKED AND drink_id = ?1))
    ) WHERE nth > 1";

fn thin(
    work: &Transaction<'_>,
    Place { table, owner, marks }: Place,
    of: &str,
    now: &str,
) -> Result<()> {
    let marked = if marks { "true" } else { "false" };
    let thinned = THINNED.replace("TABLE", table).replace("OWNER", owner).replace("MARKED", marked);
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
    /// Whether single states of it can be marked.
    marks: bool,
}

pub(crate) const OF_DRINKS: Place =
    Place { table: "earlier_versions", owner: "drink_id", marks: true };
pub(crate) const OF_PLANS: Place = Place { table: "earlier_plans", owner: "plan_id", marks: false };
pub(crate) const OF_DOCUMENTS: Place =
    Place { table: "earlier_documents", owner: "key", marks: false };

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
    let Place { table, owner, marks } = place;
    let marked = marks && is_marked(work, replaced)?;
    if marked || has_stood(work, replaced.since, now)? {
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
