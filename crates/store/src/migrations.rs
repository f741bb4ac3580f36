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
    // Plans are kept as drinks are.
    M::up(
        "CREATE TABLE plans (
            id         TEXT PRIMARY KEY,
            version    INTEGER NOT NULL,
            name       TEXT NOT NULL,
            body       TEXT NOT NULL,
            created_at TEXT NOT NULL,
            changed_at TEXT NOT NULL,
            deleted_at TEXT
        ) STRICT;
        CREATE INDEX plans_by_change ON plans (changed_at DESC) WHERE deleted_at IS NULL;
        CREATE TABLE earlier_plans (
            plan_id    TEXT NOT NULL REFERENCES plans (id) ON DELETE CASCADE,
            version    INTEGER NOT NULL,
            body       TEXT NOT NULL,
            changed_at TEXT NOT NULL,
            PRIMARY KEY (plan_id, version)
        ) STRICT;",
    ),
    // What happened while drinks were made is only ever added to.
    M::up(
        "CREATE TABLE batches (
            id          TEXT PRIMARY KEY,
            drink_id    TEXT NOT NULL,
            name        TEXT NOT NULL,
            body        TEXT NOT NULL,
            practice    INTEGER NOT NULL,
            begun_at    TEXT NOT NULL,
            finished_at TEXT,
            clock       TEXT,
            ending      TEXT
        ) STRICT;
        CREATE INDEX batches_by_drink ON batches (drink_id, begun_at DESC);
        CREATE INDEX batches_going ON batches (begun_at DESC) WHERE finished_at IS NULL;
        CREATE TABLE happenings (
            batch_id TEXT NOT NULL REFERENCES batches (id) ON DELETE CASCADE,
            place    INTEGER NOT NULL,
            at       TEXT NOT NULL,
            body     TEXT NOT NULL,
            key      TEXT,
            PRIMARY KEY (batch_id, place)
        ) STRICT;
        CREATE UNIQUE INDEX happenings_by_key ON happenings (batch_id, key) WHERE key IS NOT NULL;",
    ),
    // Phones that were let in; of their tokens only what can't be turned back.
    M::up(
        "CREATE TABLE phones (
            id         TEXT PRIMARY KEY,
            name       TEXT NOT NULL,
            hash       BLOB NOT NULL UNIQUE,
            let_in_at  TEXT NOT NULL,
            last_seen  TEXT NOT NULL,
            until      TEXT NOT NULL
        ) STRICT;",
    ),
];

pub(crate) const ALL: Migrations<'static> = Migrations::from_slice(STEPS);
/// How many there are.
pub(crate) const COUNT: i64 = STEPS.len() as i64;
