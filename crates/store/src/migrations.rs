use rusqlite_migration::{M, Migrations};

/// Every change of the tables, oldest first. Only ever append.
const STEPS: &[M<'static>] = &[M::up(
    "CREATE TABLE drinks (
        id         TEXT PRIMARY KEY,
        version    INTEGER NOT NULL,
        name       TEXT NOT NULL,
        body       TEXT NOT NULL,
        created_at TEXT NOT NULL,
        changed_at TEXT NOT NULL,
        deleted_at TEXT
    ) STRICT;
    CREATE INDEX drinks_by_change ON drinks (changed_at DESC) WHERE deleted_at IS NULL;
    CREATE TABLE earlier_versions (
        drink_id   TEXT NOT NULL REFERENCES drinks (id) ON DELETE CASCADE,
        version    INTEGER NOT NULL,
        body       TEXT NOT NULL,
        changed_at TEXT NOT NULL,
        PRIMARY KEY (drink_id, version)
    ) STRICT;
    CREATE TABLE settings (
        key   TEXT PRIMARY KEY,
        value TEXT NOT NULL
    ) STRICT;",
)];

pub(crate) const ALL: Migrations<'static> = Migrations::from_slice(STEPS);
/// How many there are.
pub(crate) const COUNT: i64 = STEPS.len() as i64;
