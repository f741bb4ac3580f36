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
    // Who tastes, and what was said at tastings: added to, and wiped out only with who said it.
    M::up(
        "CREATE TABLE tasters (
            id         TEXT PRIMARY KEY,
            body       TEXT NOT NULL,
            created_at TEXT NOT NULL,
            changed_at TEXT NOT NULL
        ) STRICT;
        CREATE TABLE tastings (
            id       TEXT PRIMARY KEY,
            name     TEXT NOT NULL,
            body     TEXT NOT NULL,
            begun_at TEXT NOT NULL,
            summary  TEXT NOT NULL
        ) STRICT;
        CREATE INDEX tastings_by_time ON tastings (begun_at DESC);
        CREATE TABLE words (
            tasting_id TEXT NOT NULL REFERENCES tastings (id) ON DELETE CASCADE,
            place      INTEGER NOT NULL,
            at         TEXT NOT NULL,
            taster     TEXT,
            body       TEXT NOT NULL,
            key        TEXT,
            PRIMARY KEY (tasting_id, place)
        ) STRICT;
        CREATE UNIQUE INDEX words_by_key ON words (tasting_id, key) WHERE key IS NOT NULL;
        CREATE INDEX words_by_taster ON words (taster) WHERE taster IS NOT NULL;",
    ),
    // What is looked for in long lists stands beside what is kept, and follows it by itself: which ingredients
    // are in a drink, how often and when it was made and how it was liked, what was said of a batch, and how
    // well readings were predicted (over all under no drink's id). Named versions and those that were made are never thinned out. Bottles are
    // kept as batches are.
    M::up(
        "ALTER TABLE drinks ADD COLUMN tags TEXT NOT NULL DEFAULT '[]';
        ALTER TABLE drinks ADD COLUMN made INTEGER NOT NULL DEFAULT 0;
        ALTER TABLE drinks ADD COLUMN last_made TEXT;
        ALTER TABLE drinks ADD COLUMN rating REAL;
        ALTER TABLE batches ADD COLUMN words TEXT NOT NULL DEFAULT '';
        ALTER TABLE batches ADD COLUMN rating INTEGER;
        CREATE INDEX drinks_by_name ON drinks (name, id) WHERE deleted_at IS NULL;
        CREATE INDEX drinks_by_making ON drinks (last_made DESC, id DESC) WHERE deleted_at IS NULL;
        CREATE INDEX drinks_by_rating ON drinks (rating DESC, id DESC) WHERE deleted_at IS NULL;
        CREATE TABLE drink_ingredients (
            drink_id   TEXT NOT NULL REFERENCES drinks (id) ON DELETE CASCADE,
            ingredient TEXT NOT NULL,
            PRIMARY KEY (drink_id, ingredient)
        ) STRICT;
        CREATE INDEX drinks_by_ingredient ON drink_ingredients (ingredient, drink_id);
        INSERT INTO drink_ingredients
            SELECT DISTINCT drinks.id, tree.value FROM drinks, json_tree(drinks.body) AS tree
            WHERE json_valid(drinks.body) AND tree.key = 'ingredient' AND tree.type = 'text';
        CREATE TRIGGER drinks_begun AFTER INSERT ON drinks WHEN json_valid(NEW.body) BEGIN
            INSERT OR IGNORE INTO drink_ingredients
                SELECT DISTINCT NEW.id, tree.value FROM json_tree(NEW.body) AS tree
                WHERE tree.key = 'ingredient' AND tree.type = 'text';
        END;
        CREATE TRIGGER drinks_changed AFTER UPDATE OF body ON drinks WHEN json_valid(NEW.body) BEGIN
            DELETE FROM drink_ingredients WHERE drink_id = NEW.id;
            INSERT OR IGNORE INTO drink_ingredients
                SELECT DISTINCT NEW.id, tree.value FROM json_tree(NEW.body) AS tree
                WHERE tree.key = 'ingredient' AND tree.type = 'text';
        END;
        CREATE TABLE marked_versions (
            drink_id TEXT NOT NULL REFERENCES drinks (id) ON DELETE CASCADE,
            version  INTEGER NOT NULL,
            name     TEXT NOT NULL DEFAULT '',
            made     INTEGER NOT NULL DEFAULT 0,
            PRIMARY KEY (drink_id, version)
        ) STRICT;
        CREATE TABLE predicted (
            drink_id TEXT PRIMARY KEY,
            readings INTEGER NOT NULL,
            inside   INTEGER NOT NULL
        ) STRICT;
        INSERT INTO predicted
            SELECT drink_id, coalesce(sum(json_extract(ending, '$.readings')), 0),
                   coalesce(sum(json_extract(ending, '$.inside')), 0)
            FROM batches WHERE NOT practice AND json_valid(ending) GROUP BY drink_id;
        INSERT INTO predicted SELECT '', coalesce(sum(readings), 0), coalesce(sum(inside), 0) FROM predicted;
        CREATE TABLE on_shelf (drinks INTEGER NOT NULL) STRICT;
        INSERT INTO on_shelf SELECT count(*) FROM drinks WHERE deleted_at IS NULL;
        CREATE TRIGGER drinks_put AFTER INSERT ON drinks WHEN NEW.deleted_at IS NULL BEGIN
            UPDATE on_shelf SET drinks = drinks + 1;
        END;
        CREATE TRIGGER drinks_taken AFTER DELETE ON drinks WHEN OLD.deleted_at IS NULL BEGIN
            UPDATE on_shelf SET drinks = drinks - 1;
        END;
        CREATE TRIGGER drinks_binned AFTER UPDATE OF deleted_at ON drinks
        WHEN (OLD.deleted_at IS NULL) <> (NEW.deleted_at IS NULL) BEGIN
            UPDATE on_shelf SET drinks = drinks + CASE WHEN NEW.deleted_at IS NULL THEN 1 ELSE -1 END;
        END;
        UPDATE batches SET words = name || char(10) || coalesce((
            SELECT group_concat(
                coalesce(json_extract(body, '$.happening.note.text'), '') || ' ' ||
                coalesce(json_extract(body, '$.happening.note.by'), '') || ' ' ||
                coalesce(json_extract(body, '$.happening.finished.note'), '') || ' ' ||
                coalesce(json_extract(body, '$.happening.finished.place'), ''), char(10))
            FROM happenings WHERE batch_id = batches.id AND json_valid(body)
              AND (body LIKE '%note%' OR body LIKE '%finished%')), '');
        UPDATE drinks SET
            made = (SELECT count(*) FROM batches b WHERE b.drink_id = drinks.id
                    AND b.finished_at IS NOT NULL AND NOT b.practice),
            last_made = (SELECT max(begun_at) FROM batches b WHERE b.drink_id = drinks.id
                    AND b.finished_at IS NOT NULL AND NOT b.practice);
        CREATE INDEX batches_in_order ON batches (finished_at IS NOT NULL, begun_at DESC, id DESC);
        CREATE INDEX batches_of_drink_in_order
            ON batches (drink_id, finished_at IS NOT NULL, begun_at DESC, id DESC);
        CREATE INDEX batches_made ON batches (begun_at DESC, id DESC)
            WHERE finished_at IS NOT NULL AND NOT practice;
        CREATE INDEX batches_made_of_drink ON batches (drink_id, begun_at DESC, id DESC)
            WHERE finished_at IS NOT NULL AND NOT practice;
        CREATE TRIGGER batches_begun AFTER INSERT ON batches BEGIN
            UPDATE batches SET words = NEW.name WHERE id = NEW.id;
        END;
        CREATE TRIGGER batches_told AFTER INSERT ON happenings
        WHEN json_valid(NEW.body) AND (NEW.body LIKE '%note%' OR NEW.body LIKE '%finished%') BEGIN
            UPDATE batches SET words = words || char(10) ||
                coalesce(json_extract(NEW.body, '$.happening.note.text'), '') || ' ' ||
                coalesce(json_extract(NEW.body, '$.happening.note.by'), '') || ' ' ||
                coalesce(json_extract(NEW.body, '$.happening.finished.note'), '') || ' ' ||
                coalesce(json_extract(NEW.body, '$.happening.finished.place'), '')
            WHERE id = NEW.batch_id;
        END;
        CREATE TRIGGER batches_ended AFTER UPDATE OF ending ON batches
        WHEN NOT NEW.practice AND OLD.ending IS NOT NEW.ending BEGIN
            INSERT INTO predicted VALUES (NEW.drink_id, 0, 0) ON CONFLICT (drink_id) DO NOTHING;
            UPDATE predicted SET
                readings = readings
                    + CASE WHEN json_valid(NEW.ending) THEN coalesce(json_extract(NEW.ending, '$.readings'), 0) ELSE 0 END
                    - CASE WHEN json_valid(OLD.ending) THEN coalesce(json_extract(OLD.ending, '$.readings'), 0) ELSE 0 END,
                inside = inside
                    + CASE WHEN json_valid(NEW.ending) THEN coalesce(json_extract(NEW.ending, '$.inside'), 0) ELSE 0 END
                    - CASE WHEN json_valid(OLD.ending) THEN coalesce(json_extract(OLD.ending, '$.inside'), 0) ELSE 0 END
            WHERE drink_id IN (NEW.drink_id, '');
        END;
        CREATE TRIGGER batches_finished AFTER UPDATE OF finished_at ON batches
        WHEN NOT NEW.practice AND (OLD.finished_at IS NULL) <> (NEW.finished_at IS NULL) BEGIN
            UPDATE drinks SET
                made = made + CASE WHEN NEW.finished_at IS NULL THEN -1 ELSE 1 END,
                last_made = CASE
                    WHEN NEW.finished_at IS NOT NULL THEN max(coalesce(last_made, ''), NEW.begun_at)
                    ELSE (SELECT max(b.begun_at) FROM batches b WHERE b.drink_id = NEW.drink_id
                          AND b.finished_at IS NOT NULL AND NOT b.practice) END
            WHERE id = NEW.drink_id;
        END;
        CREATE TRIGGER batches_rated AFTER UPDATE OF rating ON batches WHEN NOT NEW.practice BEGIN
            UPDATE drinks SET rating = (
                SELECT avg(b.rating) FROM batches b WHERE b.drink_id = NEW.drink_id AND b.rating IS NOT NULL
                AND NOT b.practice) WHERE id = NEW.drink_id;
        END;
        CREATE TABLE bottles (
            id       TEXT PRIMARY KEY,
            batch_id TEXT,
            drink_id TEXT,
            name     TEXT NOT NULL,
            body     TEXT NOT NULL,
            put_at   TEXT NOT NULL,
            gone_at  TEXT
        ) STRICT;
        CREATE INDEX bottles_standing ON bottles (put_at) WHERE gone_at IS NULL;
        CREATE INDEX bottles_by_drink ON bottles (drink_id, put_at DESC);
        CREATE INDEX bottles_by_batch ON bottles (batch_id);
        CREATE TABLE bottle_moves (
            bottle_id TEXT NOT NULL REFERENCES bottles (id) ON DELETE CASCADE,
            place     INTEGER NOT NULL,
            at        TEXT NOT NULL,
            body      TEXT NOT NULL,
            key       TEXT,
            PRIMARY KEY (bottle_id, place)
        ) STRICT;
        CREATE UNIQUE INDEX bottle_moves_by_key ON bottle_moves (bottle_id, key) WHERE key IS NOT NULL;",
    ),
    M::up(
        "CREATE TABLE pictures (
            batch_id TEXT PRIMARY KEY REFERENCES batches (id) ON DELETE CASCADE,
            put_at   TEXT NOT NULL,
            kind     TEXT NOT NULL,
            bytes    BLOB NOT NULL
        ) STRICT;",
    ),
    // What was answered under a key, to be answered again.
    M::up(
        "CREATE TABLE answers (
            key      TEXT PRIMARY KEY,
            hash     BLOB NOT NULL,
            status   INTEGER NOT NULL,
            location TEXT,
            kind     TEXT,
            body     BLOB NOT NULL,
            at       TEXT NOT NULL
        ) STRICT;
        CREATE INDEX answers_in_order ON answers (at DESC);",
    ),
    // The figures of each drink as they were last worked out, so that a change of tables can be told.
    M::up(
        "CREATE TABLE figures (
            drink_id TEXT PRIMARY KEY REFERENCES drinks (id) ON DELETE CASCADE,
            version  INTEGER NOT NULL,
            made_by  TEXT NOT NULL,
            body     TEXT NOT NULL,
            told     TEXT
        ) STRICT;",
    ),
];

pub(crate) const ALL: Migrations<'static> = Migrations::from_slice(STEPS);
/// The number of steps.
pub(crate) const COUNT: i64 = STEPS.len() as i64;
