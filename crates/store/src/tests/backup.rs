//! Copies of the whole shelf, and putting them back.

use std::sync::atomic::{AtomicBool, Ordering};

use super::*;

fn names(store: &Store) -> Vec<String> {
    let (_, mut all) = store.drinks().list("", 9999).unwrap();
    all.sort_by(|a, b| a.name.cmp(&b.name));
    all.into_iter().map(|k| k.name).collect()
}

fn with(drinks: &[&str]) -> (tempfile::TempDir, Store) {
    let (folder, store) = shelf();
    for (n, name) in drinks.iter().enumerate() {
        store.drinks().create(&format!("{name}{n}"), draft(name, "{}", TEN)).unwrap();
    }
    (folder, store)
}

#[test]
fn a_copy_that_is_put_back_is_the_shelf_as_it_was() {
    let (folder, store) = with(&["Lime", "Mint"]);
    let copy = folder.path().join("copy.db");
    store.copy_to(&copy).unwrap();
    assert_eq!(Store::look_over(&copy).unwrap(), (2, 0));
    store.drinks().create("new", draft("Quince", "{}", TEN)).unwrap();
    let aside = store.replace_with(&copy, TEN).unwrap();
    assert_eq!(names(&store), ["Lime", "Mint"]);
    // What was there before lies beside it, and can be put back too.
    assert_eq!(Store::look_over(&aside).unwrap().0, 3);
    store.replace_with(&aside, TEN).unwrap();
    assert_eq!(names(&store), ["Lime", "Mint", "Quince"]);
    // It goes on as a shelf does, and is found so when it is opened again.
    store.drinks().create("later", draft("Yuzu", "{}", TEN)).unwrap();
    let path = store.path().to_owned();
    drop(store);
    assert_eq!(names(&Store::open(&path).unwrap()), ["Lime", "Mint", "Quince", "Yuzu"]);
}

/// Pairs are saved in one transaction each; no copy ever has half a pair.
#[test]
fn a_copy_under_load_is_a_state_that_really_was() {
    let (folder, store) = shelf();
    let (over, store) = (AtomicBool::new(false), &store);
    std::thread::scope(|threads| {
        threads.spawn(|| {
            for n in 0.. {
                if over.load(Ordering::Relaxed) {
                    break;
                }
                let pair = [
                    (format!("a{n}"), draft("left", "{}", TEN)),
                    (format!("b{n}"), draft("right", "{}", TEN)),
                ];
                store.drinks().fill(&pair).unwrap();
            }
        });
        // Told to stop whatever becomes of the copies, so that a failing test ends.
        struct Stop<'a>(&'a AtomicBool);
        impl Drop for Stop<'_> {
            fn drop(&mut self) {
                self.0.store(true, Ordering::Relaxed);
            }
        }
        let _stop = Stop(&over);
        let mut most = 0;
        for n in 0..12 {
            let copy = folder.path().join(format!("{n}.db"));
            store.copy_to(&copy).unwrap();
            let (drinks, _) = Store::look_over(&copy).unwrap();
            assert_eq!(drinks % 2, 0, "half a pair");
            assert!(drinks >= most, "a copy is older than the one before");
            most = drinks;
        }
        assert!(most > 0);
    });
}

#[test]
fn what_is_no_copy_is_refused_as_a_whole() {
    let (folder, store) = with(&["Lime"]);
    let path = |name: &str| folder.path().join(name);
    let refused = |name: &str| {
        let error = store.replace_with(&path(name), TEN).unwrap_err();
        assert_eq!(names(&store), ["Lime"], "{name}");
        error.to_string()
    };
    std::fs::write(
        path("text.db"),
        "no database at all, but long enough to be looked at".repeat(90),
    )
    .unwrap();
    refused("text.db");
    std::fs::write(path("empty.db"), "").unwrap();
    assert!(refused("empty.db").contains("no data file in it"));
    // Somebody else's database.
    let other = Connection::open(path("other.db")).unwrap();
    other.execute_batch("CREATE TABLE drinks (id TEXT); PRAGMA user_version = 3;").unwrap();
    assert!(refused("other.db").contains("didn't put there"));
    // A shelf that does something by itself.
    store.copy_to(&path("trap.db")).unwrap();
    let trap = Connection::open(path("trap.db")).unwrap();
    trap.execute_batch("CREATE TRIGGER t AFTER INSERT ON drinks BEGIN DELETE FROM drinks; END;")
        .unwrap();
    drop(trap);
    assert!(refused("trap.db").contains("didn't put there"));
    // From a newer program.
    store.copy_to(&path("newer.db")).unwrap();
    let newer = Connection::open(path("newer.db")).unwrap();
    newer.pragma_update(None, "user_version", crate::migrations::COUNT + 1).unwrap();
    drop(newer);
    assert!(refused("newer.db").contains("newer Keen Pitcher"));
    // Damaged in the middle.
    for n in 0..200 {
        store.drinks().create(&format!("x{n}"), draft("Lime", &"x".repeat(900), TEN)).unwrap();
    }
    store.copy_to(&path("damaged.db")).unwrap();
    let mut bytes = std::fs::read(path("damaged.db")).unwrap();
    let middle = bytes.len() / 2;
    bytes[middle..middle + 9000].fill(0xAB);
    std::fs::write(path("damaged.db"), bytes).unwrap();
    let before = names(&store).len();
    let error = store.replace_with(&path("damaged.db"), TEN).unwrap_err();
    assert!(matches!(error, StoreError::NoCopy(_)), "{error}");
    assert_eq!(names(&store).len(), before);
}

/// A copy of every older version is brought up to date on its way.
#[test]
fn older_copies_are_put_back_for_ever() {
    for version in 1..=usize::try_from(crate::migrations::COUNT).unwrap() {
        let (folder, store) = with(&["Lime"]);
        let path = folder.path().join("old.db");
        let mut old = Connection::open(&path).unwrap();
        crate::migrations::ALL.to_version(&mut old, version).unwrap();
        old.execute_batch(
            "INSERT INTO drinks (id, version, name, body, created_at, changed_at)
             VALUES ('o', 1, 'Old', '{}', '2020-01-01T10:00:00Z', '2020-01-01T10:00:00Z')",
        )
        .unwrap();
        drop(old);
        store.replace_with(&path, TEN).unwrap();
        assert_eq!(names(&store), ["Old"], "version {version}");
        store.drinks().save("o", 1, draft("New", "{ }", TEN)).unwrap();
    }
}

#[test]
fn a_full_disk_in_the_middle_leaves_the_shelf_as_it_was() {
    let (big_folder, big) = shelf();
    for n in 0..300 {
        big.drinks().create(&format!("x{n}"), draft("Big", &"x".repeat(4000), TEN)).unwrap();
    }
    let copy = big_folder.path().join("big.db");
    big.copy_to(&copy).unwrap();
    let (_folder, store) = with(&["Lime"]);
    store.allow_pages(20);
    let error = store.replace_with(&copy, TEN).unwrap_err();
    assert!(matches!(error, StoreError::Full), "{error}");
    assert_eq!(names(&store), ["Lime"]);
    let left: Vec<_> = std::fs::read_dir(store.path().parent().unwrap())
        .unwrap()
        .map(|f| f.unwrap().file_name().into_string().unwrap())
        .filter(|name| name.contains("before"))
        .collect();
    assert_eq!(left, [""; 0], "nothing half done is left about");
}

#[test]
fn of_two_at_once_one_is_told_to_wait() {
    let (folder, store) = with(&["Lime"]);
    let copy = folder.path().join("copy.db");
    store.copy_to(&copy).unwrap();
    let held = store.restoring.lock();
    assert!(matches!(store.replace_with(&copy, TEN), Err(StoreError::BeingRestored)));
    drop(held);
    store.replace_with(&copy, TEN).unwrap();
}

/// Breaks a file in a way, as disks and people do.
type Breaks = fn(&mut Vec<u8>);
/// Does something to a file that is in use.
type Does = fn(&std::path::Path);

const DAMAGE: [(&str, Breaks); 6] = [
    ("one page", |bytes| bytes[8192..12_288].fill(0xAB)),
    ("every fourth page", |bytes| {
        for page in bytes.chunks_mut(4096).skip(3).step_by(4) {
            page.fill(0xAB);
        }
    }),
    ("cut in half", |bytes| bytes.truncate(bytes.len() / 2)),
    ("nothing left", Vec::clear),
    ("its beginning written over", |bytes| bytes[..100].fill(b'x')),
    ("all of it written over", |bytes| bytes.fill(0)),
];

#[test]
fn whatever_happened_to_the_file_a_backup_takes_its_place() {
    for (damage, breaks) in DAMAGE {
        let (_folder, store) = with(&["Lime", "Mint"]);
        for n in 0..60 {
            store.drinks().create(&format!("x{n}"), draft("Fig", &"x".repeat(900), TEN)).unwrap();
        }
        let copy = store.path().with_file_name("backups").join("copy.db");
        std::fs::create_dir_all(copy.parent().unwrap()).unwrap();
        store.copy_to(&copy).unwrap();
        let path = store.path().to_owned();
        drop(store);
        let mut bytes = std::fs::read(&path).unwrap();
        breaks(&mut bytes);
        std::fs::write(&path, &bytes).unwrap();
        let store = Store::open_to_serve(&path).unwrap();
        assert!(matches!(store.condition(), Condition::Damaged(_)), "{damage}");
        let refused = store.drinks().create("no", draft("No", "{}", TEN));
        assert!(matches!(refused, Err(StoreError::Damaged(_))), "{damage}");
        let aside = store.replace_with(&copy, TEN).unwrap();
        assert_eq!(store.condition(), Condition::Sound, "{damage}");
        assert_eq!(names(&store).len(), 62, "{damage}");
        store.drinks().create("later", draft("Yuzu", "{}", TEN)).unwrap();
        // The damaged one is kept as it was.
        assert!(
            std::fs::read(&aside).unwrap().starts_with(&bytes[..bytes.len().min(50)]),
            "{damage}"
        );
        drop(store);
        assert_eq!(names(&Store::open(&path).unwrap()).len(), 63, "{damage}");
    }
}

#[test]
fn a_file_that_is_moved_replaced_or_cut_is_noticed_before_anything_is_answered() {
    let ways: [(&str, Does); 5] = [
        ("cut", |path| {
            let file = std::fs::OpenOptions::new().write(true).open(path).unwrap();
            file.set_len(file.metadata().unwrap().len() / 2).unwrap();
        }),
        ("deleted", |path| std::fs::remove_file(path).unwrap()),
        ("moved", |path| std::fs::rename(path, path.with_extension("old")).unwrap()),
        ("replaced", |path| {
            let bytes = std::fs::read(path).unwrap();
            std::fs::remove_file(path).unwrap();
            std::fs::write(path, bytes).unwrap();
        }),
        ("its log deleted", |path| {
            std::fs::remove_file(format!("{}-wal", path.display())).unwrap();
        }),
    ];
    for (way, does) in ways {
        let (folder, store) = with(&["Lime"]);
        let copy = folder.path().join("copy.db");
        store.copy_to(&copy).unwrap();
        does(store.path());
        let saved = store.drinks().create("new", draft("Mint", "{}", TEN));
        assert!(matches!(saved, Err(StoreError::Damaged(_))), "{way}: {saved:?}");
        assert!(matches!(store.condition(), Condition::Damaged(_)), "{way}");
        // What was saved before can still be had, and a backup goes in its place.
        if way != "cut" {
            store.copy_to(&folder.path().join("rescued.db")).unwrap();
        }
        store.replace_with(&copy, TEN).unwrap();
        store.drinks().create("new", draft("Mint", "{}", TEN)).unwrap();
        assert_eq!(names(&store), ["Lime", "Mint"], "{way}");
    }
}

/// What is answered while a backup is being restored is on one of the two.
#[test]
fn nothing_that_is_saved_during_a_restore_is_lost() {
    let (folder, store) = with(&["Lime"]);
    for n in 0..400 {
        store.drinks().create(&format!("x{n}"), draft("Fig", &"x".repeat(4000), TEN)).unwrap();
    }
    let copy = folder.path().join("copy.db");
    store.copy_to(&copy).unwrap();
    let over = AtomicBool::new(false);
    let (answered, aside) = std::thread::scope(|threads| {
        let saves = threads.spawn(|| {
            let mut answered = Vec::new();
            for n in 0.. {
                let id = format!("during{n}");
                if store.drinks().create(&id, draft("Saved", "{}", TEN)).is_ok() {
                    answered.push(id);
                }
                if over.load(Ordering::Relaxed) {
                    break;
                }
            }
            answered
        });
        std::thread::sleep(std::time::Duration::from_millis(30));
        let aside = store.replace_with(&copy, TEN);
        std::thread::sleep(std::time::Duration::from_millis(30));
        over.store(true, Ordering::Relaxed);
        (saves.join().unwrap(), aside.unwrap())
    });
    let before = Connection::open(&aside).unwrap();
    let in_before = |id: &String| -> bool {
        let sql = "SELECT EXISTS (SELECT 1 FROM drinks WHERE id = ?1)";
        before.query_row(sql, [id], |row| row.get(0)).unwrap()
    };
    assert!(answered.len() > 2, "{}", answered.len());
    for id in &answered {
        assert!(
            in_before(id) || store.drinks().read(id).is_ok(),
            "{id} was answered and is nowhere"
        );
    }
}

#[test]
fn phones_come_from_here_and_never_from_a_file() {
    let (folder, store) = with(&["Lime"]);
    let phone = |id: &str| KeptPhone {
        id: id.into(),
        name: id.into(),
        let_in_at: TEN.into(),
        last_seen: TEN.into(),
        until: "2099-01-01T00:00:00Z".into(),
    };
    let copy = folder.path().join("copy.db");
    store.copy_to(&copy).unwrap();
    Connection::open(&copy)
        .unwrap()
        .execute(
            "INSERT INTO phones VALUES ('theirs', 'theirs', x'01', ?1, ?1, '2099-01-01T00:00:00Z')",
            [TEN],
        )
        .unwrap();
    store.let_in(&phone("mine"), b"hash").unwrap();
    store.replace_with(&copy, TEN).unwrap();
    let all: Vec<String> = store.phones(TEN).unwrap().into_iter().map(|p| p.id).collect();
    assert_eq!(all, ["mine"]);
}

#[test]
fn a_trigger_by_any_name_and_a_table_that_checks_for_ever_are_refused_at_once() {
    let (folder, store) = with(&["Lime"]);
    for (name, sql) in [
        ("trigger", "CREATE TRIGGER sqliteX AFTER INSERT ON drinks BEGIN DELETE FROM drinks; END;"),
        (
            "check",
            "CREATE TABLE slow (x CHECK (length(randomblob(900000000)) > 0)); INSERT INTO slow VALUES (1);",
        ),
    ] {
        let path = folder.path().join(format!("{name}.db"));
        store.copy_to(&path).unwrap();
        let file = Connection::open(&path).unwrap();
        // The check itself is let pass here by what is made of it afterwards.
        let _ = file.execute_batch(&sql.replace("900000000", "9"));
        if name == "check" {
            file.execute_batch(
                "PRAGMA writable_schema = ON;
                 UPDATE sqlite_schema SET sql = replace(sql, '(9)', '(900000000)') WHERE name = 'slow';",
            )
            .unwrap();
        }
        drop(file);
        let start = std::time::Instant::now();
        let error = store.replace_with(&path, TEN).unwrap_err();
        assert!(error.to_string().contains("didn't put there"), "{name}: {error}");
        assert!(start.elapsed() < std::time::Duration::from_secs(2), "{name}");
    }
}

#[test]
fn what_a_killed_program_left_unfinished_is_swept_away() {
    let (folder, store) = with(&["Lime"]);
    let path = store.path().to_owned();
    drop(store);
    let backups = path.parent().unwrap().join("backups");
    std::fs::create_dir_all(&backups).unwrap();
    let left = [
        path.with_file_name(".keen-pitcher-a1.part"),
        backups.join(".keen-pitcher-b2.part-journal"),
    ];
    let stays = [backups.join("keen-pitcher-2030-06-21.zip"), path.with_file_name("notes.part")];
    for file in left.iter().chain(&stays) {
        std::fs::write(file, "x").unwrap();
    }
    // Whoever only looks, beside a server that may be writing, leaves them.
    drop(Store::open(&path).unwrap());
    assert!(left.iter().all(|file| file.exists()));
    drop(Store::open_to_serve(&path).unwrap());
    assert!(left.iter().all(|file| !file.exists()) && stays.iter().all(|file| file.exists()));
    drop(folder);
}
