use rusqlite_migration::{M, Migrations};

/// Every change of the tables, oldest first. Only ever append.
const STEPS: &[M<'static>] = &[
    M::up(
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
    ),
    // Documents count their changes and keep earlier states as drinks do; what can't be read is set
    // aside; a save said twice is known by its key.
    M::up(
        "CREATE TABLE documents (
            key        TEXT PRIMARY KEY,
            version    INTEGER NOT NULL,
            body       TEXT NOT NULL,
            changed_at TEXT NOT NULL
        ) STRICT;
        INSERT INTO documents (key, version, body, changed_at)
            SELECT key, CASE WHEN json_valid(value)
                             THEN coalesce(CAST(json_extract(value, '$.version') AS INTEGER), 1)
                             ELSE 1 END,
                   value, '1970-01-01T00:00:00Z'
            FROM settings;
        DROP TABLE settings;
        CREATE TABLE earlier_documents (
            key        TEXT NOT NULL,
            version    INTEGER NOT NULL,
            body       TEXT NOT NULL,
            changed_at TEXT NOT NULL,
            PRIMARY KEY (key, version)
        ) STRICT;
        CREATE TABLE set_aside (
            id     INTEGER PRIMARY KEY,
            what   TEXT NOT NULL,
            body   TEXT NOT NULL,
            why    TEXT NOT NULL,
            at     TEXT NOT NULL
        ) STRICT;
        CREATE TABLE said (
            key      TEXT PRIMARY KEY,
            of       TEXT NOT NULL,
            version  INTEGER NOT NULL,
            at       TEXT NOT NULL
        ) STRICT;
        CREATE INDEX drinks_by_removal ON drinks (deleted_at) WHERE deleted_at IS NOT NULL;",
    ),
];

pub(crate) const ALL: Migrations<'static> = Migrations::from_slice(STEPS);
/// How many there are.
pub(crate) const COUNT: i64 = STEPS.len() as i64;
