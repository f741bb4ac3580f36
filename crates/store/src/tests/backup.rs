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
    assert!(refused("empty.db").contains("no shelf"));
    // Somebody else's database.
    let other = Connection::open(path("other.db")).unwrap();
    other.execute_batch("CREATE TABLE drinks (id TEXT); PRAGMA user_version = 3;").unwrap();
    assert!(refused("other.db").contains("doesn't put there"));
    // A shelf that does something by itself.
    store.copy_to(&path("trap.db")).unwrap();
    let trap = Connection::open(path("trap.db")).unwrap();
    trap.execute_batch("CREATE TRIGGER t AFTER INSERT ON drinks BEGIN DELETE FROM drinks; END;")
        .unwrap();
    drop(trap);
    assert!(refused("trap.db").contains("doesn't put there"));
    // From a newer program.
    store.copy_to(&path("newer.db")).unwrap();
    let newer = Connection::open(path("newer.db")).unwrap();
    newer.pragma_update(None, "user_version", crate::migrations::COUNT + 1).unwrap();
    drop(newer);
    assert!(refused("newer.db").contains("newer version"));
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
