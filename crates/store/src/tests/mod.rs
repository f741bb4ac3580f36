mod backup;
mod record;

use std::path::{Path, PathBuf};

use rusqlite::Connection;

use super::*;

fn shelf() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("deep/kitchen.db")).unwrap();
    (folder, store)
}

fn draft<'a>(name: &'a str, body: &'a str, now: &'a str) -> Draft<'a> {
    Draft { name, body, now, key: None }
}

const TEN: &str = "2030-01-01T10:00:00Z";

fn earlier(store: &Store) -> Vec<String> {
    let reader = store.reader().unwrap();
    let mut query = reader.prepare("SELECT body FROM earlier_versions ORDER BY version").unwrap();
    query.query_map([], |row| row.get(0)).unwrap().map(|b| b.unwrap()).collect()
}

/// Saves one body after the other, each at its time.
fn save_all(store: &Store, changes: &[(&str, &str)]) {
    let mut version =
        store.drinks().create("a", draft("Lime", changes[0].0, changes[0].1)).unwrap().version;
    for (body, now) in &changes[1..] {
        version = store.drinks().save("a", version, draft("Lime", body, now)).unwrap().version;
    }
}

#[test]
fn a_stale_write_is_refused_and_shows_the_newer() {
    let (_folder, store) = shelf();
    store.drinks().create("a", draft("Lime", "one", TEN)).unwrap();
    let second = store.drinks().save("a", 1, draft("Lime", "two", "2030-01-01T10:01:00Z")).unwrap();
    assert_eq!(second.version, 2);
    match store.drinks().save("a", 1, draft("Lime", "three", "2030-01-01T10:02:00Z")).unwrap_err() {
        StoreError::Stale(current) => assert_eq!(*current, second),
        other => panic!("{other}"),
    }
    assert_eq!(store.drinks().read("a").unwrap().body, "two");
}

#[test]
fn saving_the_same_again_changes_nothing() {
    let (_folder, store) = shelf();
    let first = store.drinks().create("a", draft("Lime", "one", TEN)).unwrap();
    let again = store.drinks().save("a", 1, draft("Lime", "one", "2030-01-01T11:00:00Z")).unwrap();
    assert_eq!(first, again);
}

#[test]
fn a_change_said_twice_is_made_once() {
    let (_folder, store) = shelf();
    let keyed = |body, key| Draft { key: Some(key), ..draft("Lime", body, TEN) };
    let made = store.drinks().create("a", keyed("one", "k1")).unwrap();
    // The answer was lost, and the maker's screen asks again under another id.
    assert_eq!(store.drinks().create("b", keyed("one", "k1")).unwrap(), made);
    assert_eq!(store.drinks().list("", 9).unwrap().0, 1);
    let saved = store.drinks().save("a", 1, keyed("two", "k2")).unwrap();
    assert_eq!(store.drinks().save("a", 1, keyed("two", "k2")).unwrap(), saved);
    // Someone else has saved in between: it is still this change's own answer.
    store.drinks().save("a", 2, draft("Lime", "theirs", TEN)).unwrap();
    let told = store.drinks().save("a", 1, keyed("two", "k2")).unwrap();
    assert_eq!((told.version, told.body.as_str()), (2, "two"));
    assert_eq!(store.drinks().read("a").unwrap().body, "theirs");
}

#[test]
fn states_that_stood_are_kept_and_those_of_a_burst_are_not() {
    let (_folder, store) = shelf();
    save_all(
        &store,
        &[
            ("v1", "2030-01-01T10:00:00Z"),
            ("v2", "2030-01-01T10:00:30Z"),
            ("v3", "2030-01-01T10:01:00Z"),
            ("v4", "2030-01-01T10:30:00Z"),
            ("v5", "2030-01-01T11:00:00Z"),
        ],
    );
    assert_eq!(earlier(&store), ["v3", "v4"]);
}

#[test]
fn a_clock_that_ran_ahead_spoils_no_later_state() {
    let (_folder, store) = shelf();
    save_all(
        &store,
        &[
            ("v1", "2030-01-01T10:00:00Z"),
            ("ahead", "2031-01-01T10:00:00Z"),
            ("v3", "2030-01-01T10:10:00Z"),
            ("v4", "2030-01-01T10:20:00Z"),
            ("v5", "2030-01-01T10:30:00Z"),
        ],
    );
    assert_eq!(earlier(&store), ["v1", "ahead", "v3", "v4"]);
}

#[test]
fn earlier_states_thin_out_with_age() {
    let (_folder, store) = shelf();
    let mut changes = Vec::new();
    // A change each ten minutes for two hours, on three days of one month.
    for day in ["2030-01-01", "2030-01-25", "2030-01-31"] {
        for minute in (0..120).step_by(10) {
            let now = format!("{day}T{:02}:{:02}:00Z", 10 + minute / 60, minute % 60);
            changes.push((format!("{day} {minute}"), now));
        }
    }
    let changes: Vec<(&str, &str)> =
        changes.iter().map(|(b, n)| (b.as_str(), n.as_str())).collect();
    save_all(&store, &changes);
    let kept = earlier(&store);
    let of = |day: &str| kept.iter().filter(|b| b.starts_with(day)).count();
    assert_eq!((of("2030-01-01"), of("2030-01-25"), of("2030-01-31")), (1, 2, 11), "{kept:?}");
    // Of an hour, or a day, the last that stood.
    assert!(
        kept.contains(&"2030-01-01 110".to_owned()) && kept.contains(&"2030-01-25 50".to_owned())
    );
}

#[test]
fn documents_count_their_changes_and_keep_earlier_states() {
    let (_folder, store) = shelf();
    assert_eq!(store.document("kitchen").unwrap(), None);
    let first = store.write_document("kitchen", 0, "one", TEN).unwrap();
    assert_eq!(first.version, 1);
    // Said twice is once; said on an older state is refused.
    assert_eq!(store.write_document("kitchen", 0, "one", TEN).unwrap(), first);
    let late = "2030-01-01T11:00:00Z";
    store.write_document("kitchen", 1, "two", late).unwrap();
    let refused = store.write_document("kitchen", 1, "three", late).unwrap_err();
    assert!(matches!(refused, StoreError::StaleDocument(now) if now.body == "two"));
    let kept: String = store
        .reader()
        .unwrap()
        .query_row("SELECT body FROM earlier_documents", [], |row| row.get(0))
        .unwrap();
    assert_eq!(kept, "one");
}

#[test]
fn what_can_not_be_read_is_put_aside_as_it_is() {
    let (_folder, store) = shelf();
    store.write_document("kitchen", 0, "gibberish", TEN).unwrap();
    store.set_aside("kitchen", "It is no kitchen.", "fresh", TEN).unwrap();
    let aside = store.all_set_aside().unwrap();
    assert_eq!((aside.len(), aside[0].body.as_str()), (1, "gibberish"));
    let now = store.document("kitchen").unwrap().unwrap();
    assert_eq!((now.version, now.body.as_str()), (2, "fresh"));
    store.let_go(aside[0].id).unwrap();
    assert!(matches!(store.let_go(aside[0].id), Err(StoreError::NotFound)));
}

#[test]
fn removed_drinks_lie_in_the_bin_for_thirty_days() {
    let (_folder, store) = shelf();
    store.drinks().create("a", draft("Lime", "one", TEN)).unwrap();
    store.drinks().delete("a", TEN).unwrap();
    assert!(matches!(store.drinks().read("a"), Err(StoreError::NotFound)));
    assert!(matches!(store.drinks().delete("a", TEN), Err(StoreError::NotFound)));
    assert_eq!(store.drinks().list("", 9).unwrap(), (0, vec![]));
    store.tidy("2030-01-30T10:00:00Z").unwrap();
    let bin = store.bin().unwrap();
    assert_eq!(
        (bin.len(), bin[0].drink.name.as_str(), bin[0].removed_at.as_str()),
        (1, "Lime", TEN)
    );
    assert_eq!(store.drinks().restore("a").unwrap().body, "one");
    assert!(matches!(store.drinks().restore("b"), Err(StoreError::NotFound)));
    store.drinks().delete("a", TEN).unwrap();
    store.tidy("2030-02-01T10:00:00Z").unwrap();
    assert!(matches!(store.drinks().restore("a"), Err(StoreError::NotFound)));
}

#[test]
fn found_by_any_part_of_the_name_in_any_script() {
    let (_folder, store) = shelf();
    for (id, name) in [("a", "Été au jardin"), ("b", "Lime"), ("c", "شراب 🍋")] {
        store.drinks().create(id, draft(name, "", TEN)).unwrap();
    }
    let ids = |text: &str| -> Vec<String> {
        store.drinks().list(text, 9).unwrap().1.into_iter().map(|k| k.id).collect()
    };
    assert_eq!(ids("ÉTÉ"), ["a"]);
    assert_eq!(ids("🍋"), ["c"]);
    assert_eq!(ids("%"), Vec::<String>::new());
    assert_eq!(ids(" ").len(), 3);
    assert_eq!(store.drinks().list("", 2).unwrap().0, 3, "all are counted, two are shown");
    assert_eq!(store.drinks().list("", 2).unwrap().1.len(), 2);
}

#[test]
fn what_was_answered_is_there_after_the_program_is_gone() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("kitchen.db");
    let store = Store::open(&path).unwrap();
    store.drinks().create("a", draft("Lime", "one", TEN)).unwrap();
    store.write_document("choices", 0, "us", TEN).unwrap();
    // Nothing is closed or flushed on the way out, as when the power goes.
    std::mem::forget(store);
    let store = Store::open(&path).unwrap();
    assert_eq!(store.drinks().read("a").unwrap().body, "one");
    assert_eq!(store.document("choices").unwrap().unwrap().body, "us");
    assert!(!store.drinks().is_new().unwrap());
}

/// A copy of the one file, without what may lie beside it.
fn copy_of(path: &Path, folder: &Path) -> PathBuf {
    let copy = folder.join("copied.db");
    std::fs::copy(path, &copy).unwrap();
    copy
}

#[test]
fn the_one_file_holds_everything_after_closing_and_after_tidying() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("kitchen.db");
    let store = Store::open(&path).unwrap();
    store.drinks().create("a", draft("Lime", "one", TEN)).unwrap();
    let _ = store.drinks().list("", 9).unwrap();
    store.tidy(TEN).unwrap();
    let copied = Store::open(&copy_of(&path, folder.path())).unwrap();
    assert_eq!(copied.drinks().read("a").unwrap().body, "one");
    drop(copied);
    store.drinks().create("b", draft("Lime", "two", TEN)).unwrap();
    drop(store);
    let copied = Store::open(&copy_of(&path, folder.path())).unwrap();
    assert_eq!(copied.drinks().read("b").unwrap().body, "two");
    assert!(!folder.path().join("kitchen.db-wal").exists(), "nothing lies beside it");
}

/// On a disk that fills up, under every kind of write: what was answered is there, and nothing else.
#[test]
fn a_full_disk_loses_nothing_that_was_answered() {
    let (folder, store) = shelf();
    let big = "x".repeat(6000);
    store.drinks().create("old", draft("Old", "before", TEN)).unwrap();
    store.drinks().create("gone", draft("Gone", "before", TEN)).unwrap();
    store.write_document("kitchen", 0, "before", TEN).unwrap();
    store.allow_pages(12);
    let mut answered = Vec::new();
    let mut refused = 0;
    for i in 0..60 {
        let id = format!("d{i}");
        match store.drinks().create(&id, draft("Drink", &big, TEN)) {
            Ok(kept) => answered.push(kept.id),
            Err(StoreError::Full) => refused += 1,
            Err(other) => panic!("{other}"),
        }
    }
    assert!(!answered.is_empty() && refused > 20, "{} answered, {refused} refused", answered.len());
    // More than what is left over from what was refused.
    let big = "x".repeat(60_000);
    let late = "2030-01-01T11:00:00Z";
    let full = |error: StoreError| assert!(matches!(error, StoreError::Full), "{error}");
    full(store.drinks().save("old", 1, draft("Old", &big, late)).unwrap_err());
    full(store.write_document("kitchen", 1, &big, late).unwrap_err());
    full(store.write_document("choices", 0, &big, late).unwrap_err());
    full(store.set_aside("kitchen", &big, "fresh", late).unwrap_err());
    full(store.drinks().fill(&[("f".into(), draft("Fill", &big, late))]).unwrap_err());
    let path = store.path().to_owned();
    drop(store);
    let store = Store::open(&path).unwrap();
    let (total, there) = store.drinks().list("Drink", 99).unwrap();
    let mut ids: Vec<String> = there.into_iter().map(|k| k.id).collect();
    ids.sort();
    answered.sort();
    assert_eq!((total, &ids), (answered.len(), &answered));
    assert_eq!(store.drinks().read("old").unwrap().body, "before");
    assert_eq!(store.document("kitchen").unwrap().unwrap().body, "before");
    assert_eq!(store.document("choices").unwrap(), None);
    assert!(store.drinks().read("f").is_err());
    drop(folder);
}

#[test]
fn a_locked_file_is_told_soon() {
    let (_folder, store) = shelf();
    store.drinks().create("a", draft("Lime", "one", TEN)).unwrap();
    let other = Connection::open(store.path()).unwrap();
    other.execute_batch("BEGIN IMMEDIATE").unwrap();
    let start = std::time::Instant::now();
    std::thread::scope(|scope| {
        for i in 0..8 {
            let store = &store;
            scope.spawn(move || {
                let error =
                    store.drinks().create(&format!("x{i}"), draft("Lime", "x", TEN)).unwrap_err();
                assert!(matches!(error, StoreError::Locked), "{error}");
            });
        }
    });
    assert!(start.elapsed().as_secs_f64() < 4.0, "eight saves waited {:?}", start.elapsed());
    assert_eq!(store.drinks().read("a").unwrap().body, "one", "reading goes on");
    drop(other);
    store.drinks().create("b", draft("Lime", "two", TEN)).unwrap();
}

#[test]
fn one_server_a_folder() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("kitchen.db");
    let first = Store::open_to_serve(&path).unwrap();
    let error = Store::open_to_serve(&path).unwrap_err();
    assert!(matches!(error, StoreError::AlreadyServed(_)), "{error}");
    assert!(error.to_string().contains(folder.path().to_str().unwrap()));
    // Who only puts a drink in or takes one out may.
    Store::open(&path).unwrap();
    drop(first);
    Store::open_to_serve(&path).unwrap();
}

#[cfg(unix)]
#[test]
fn what_is_kept_is_its_owners_alone() {
    use std::os::unix::fs::PermissionsExt;
    let (_folder, store) = shelf();
    store.drinks().create("a", draft("Lime", "one", TEN)).unwrap();
    let mode = |path: &Path| std::fs::metadata(path).unwrap().permissions().mode() & 0o777;
    let folder = store.path().parent().unwrap();
    assert_eq!(mode(folder), 0o700);
    for file in std::fs::read_dir(folder).unwrap() {
        let path = file.unwrap().path();
        assert_eq!(mode(&path), 0o600, "{}", path.display());
    }
    // A folder of one's own that holds other things stays as it was.
    let shared = tempfile::tempdir().unwrap();
    std::fs::set_permissions(shared.path(), std::fs::Permissions::from_mode(0o755)).unwrap();
    Store::open(&shared.path().join("kitchen.db")).unwrap();
    assert_eq!(mode(shared.path()), 0o755);
}

#[test]
fn a_shelf_of_a_newer_program_is_left_alone() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("kitchen.db");
    drop(Store::open(&path).unwrap());
    Connection::open(&path).unwrap().pragma_update(None, "user_version", 99).unwrap();
    assert!(matches!(Store::open(&path), Err(StoreError::TooNew(_))));
}

#[test]
fn what_is_no_shelf_is_left_alone() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("kitchen.db");
    let text = "This is a letter to my aunt.\n".repeat(200);
    std::fs::write(&path, &text).unwrap();
    let error = Store::open(&path).unwrap_err();
    assert!(matches!(&error, StoreError::NotAShelf(p) if *p == path), "{error}");
    assert_eq!(std::fs::read_to_string(&path).unwrap(), text);
}

/// Spoils one page of a table after the other: whatever page it is, the shelf opens for reading, says
/// so, and all drinks are shown but those of that page.
#[test]
fn a_bad_page_hides_only_what_lies_on_it() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("kitchen.db");
    let store = Store::open(&path).unwrap();
    let body = "{}".repeat(300);
    for i in 0..60 {
        store
            .drinks()
            .create(&format!("d{i:02}"), draft(&format!("Drink {i}"), &body, TEN))
            .unwrap();
    }
    drop(store);
    let whole = std::fs::read(&path).unwrap();
    // The first page says where everything is, and the second leads to all drinks: without those
    // nothing is found. All others are tried.
    let mut damaged = 0;
    for page in 2..whole.len() / 4096 {
        let mut bytes = whole.clone();
        let at = page * 4096;
        bytes[at..at + 4096].fill(0xA5);
        let bad = folder.path().join("bad.db");
        std::fs::write(&bad, &bytes).unwrap();
        let store = match Store::open(&bad) {
            Ok(store) => store,
            Err(StoreError::NotAShelf(_) | StoreError::Damaged(_)) => continue,
            Err(other) => panic!("page {page}: {other}"),
        };
        assert!(matches!(store.condition(), Condition::Damaged(_)), "page {page}");
        let (total, shown) = store.drinks().list("", 99).unwrap();
        assert_eq!(total, shown.len());
        assert!(total >= 40, "page {page}: {total} of 60 are shown");
        for kept in &shown {
            assert_eq!(
                (&kept.body, store.drinks().read(&kept.id).unwrap().body),
                (&body, body.clone())
            );
        }
        let refused = store.drinks().create("new", draft("New", "x", TEN)).unwrap_err();
        assert!(matches!(refused, StoreError::Damaged(_)), "{refused}");
        let rescued = store.rescue().unwrap();
        assert_eq!(rescued.drinks.len(), total);
        damaged += 1;
    }
    assert!(damaged >= 5, "{damaged} pages were tried");
}

#[test]
fn documents_of_the_first_tables_are_taken_over() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("kitchen.db");
    let first = Connection::open(&path).unwrap();
    first.execute_batch(include_str!("../../tests/shelf-1.sql")).unwrap();
    drop(first);
    let store = Store::open(&path).unwrap();
    let kitchen = store.document("kitchen").unwrap().unwrap();
    assert_eq!(kitchen.version, 3);
    assert!(kitchen.body.contains("boil_off"));
    assert_eq!(store.document("choices").unwrap().unwrap().version, 1);
    assert_eq!(store.drinks().list("", 9).unwrap().0, 2);
    assert_eq!(store.bin().unwrap().len(), 1);
    let aside = format!("kitchen.before-{}.db", crate::migrations::COUNT);
    assert!(folder.path().join(aside).exists(), "a copy was set aside");
}

#[test]
fn what_was_said_of_a_batch_is_kept_in_order_and_once() {
    use crate::{KeptBatch, Predicted, Saying, Wanted};
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("k.db");
    let store = Store::open(&path).unwrap();
    let new = KeptBatch {
        id: "b1".into(),
        drink: "a".into(),
        name: "Limeade".into(),
        body: "{}".into(),
        begun_at: "2030-06-21T12:00:00Z".into(),
        finished_at: None,
        practice: false,
        clock: None,
        ending: None,
        rating: None,
        picture: None,
    };
    let kept = store.begin_batch(&new, Some("begin-one")).unwrap();
    let again = KeptBatch { id: "b2".into(), ..new.clone() };
    assert_eq!(store.begin_batch(&again, Some("begin-one")).unwrap(), kept);
    let saying = |body, key, after| Saying {
        body,
        at: "2030-06-21T12:05:00Z",
        key: Some(key),
        after,
        finishes: None,
    };
    assert_eq!(store.say("b1", saying("one", "k1", 0)).unwrap(), Some(0));
    assert_eq!(store.say("b1", saying("one", "k1", 0)).unwrap(), Some(0), "it counts once");
    assert_eq!(store.say("b1", saying("two", "k2", 0)).unwrap(), None, "something came between");
    assert_eq!(store.say("b1", saying("two", "k2", 1)).unwrap(), Some(1));
    assert!(matches!(store.say("b9", saying("x", "k3", 0)), Err(StoreError::NotFound)));
    let end = Saying { finishes: Some(true), ..saying("end", "k4", 2) };
    assert_eq!(store.say("b1", end).unwrap(), Some(2));
    drop(store);
    let store = Store::open(&path).unwrap();
    let (batch, said) = store.batch("b1").unwrap();
    assert_eq!(batch.finished_at.as_deref(), Some("2030-06-21T12:05:00Z"));
    assert_eq!(said.iter().map(|s| s.body.as_str()).collect::<Vec<_>>(), ["one", "two", "end"]);
    store.begin_batch(&KeptBatch { id: "b3".into(), ..new }, None).unwrap();
    let open_first: Vec<String> = store
        .batches(&Wanted { drink: Some("a"), ..Wanted::default() }, 9)
        .unwrap()
        .into_iter()
        .map(|b| b.id)
        .collect();
    assert_eq!(open_first, ["b3", "b1"]);
    assert_eq!(store.batches(&Wanted { drink: Some("z"), ..Wanted::default() }, 9).unwrap(), []);
    let going = store.batches(&Wanted { going: true, ..Wanted::default() }, 9).unwrap();
    assert_eq!(going.iter().map(|b| b.id.as_str()).collect::<Vec<_>>(), ["b3"]);
    // How well it was predicted is counted over what is finished, and practice never is.
    store.set_batch_ending("b1", r#"{"readings":4,"inside":3}"#).unwrap();
    store.set_batch_ending("b3", r#"{"readings":9,"inside":0}"#).unwrap();
    let practice = KeptBatch { id: "p".into(), practice: true, ..store.batch("b1").unwrap().0 };
    store.begin_batch(&practice, None).unwrap();
    let ends = Saying {
        body: "{}",
        at: "2030-06-21T13:00:00Z",
        key: None,
        after: 0,
        finishes: Some(true),
    };
    store.say("p", ends).unwrap();
    store.set_batch_ending("p", r#"{"readings":50,"inside":0}"#).unwrap();
    assert_eq!(store.predicted(None).unwrap(), Predicted { readings: 4, inside: 3 });
    assert_eq!(store.predicted(Some("z")).unwrap(), Predicted::default());
    // Only the practice kitchen has a clock of its own.
    store.set_batch_clock("p", "{}").unwrap();
    assert!(store.set_batch_clock("b1", "{}").is_err());
}

#[test]
fn what_is_said_at_a_tasting_is_kept_once_and_wiped_out_with_who_said_it() {
    let (folder, store) = shelf();
    let taster = |id: &str, body: &str| KeptTaster {
        id: id.into(),
        body: body.into(),
        created_at: "2001-06-21T10:00:00Z".into(),
        changed_at: "2001-06-21T10:00:00Z".into(),
    };
    assert_eq!(store.add_taster(&taster("a", "a person of note"), Some("k")).unwrap(), "a");
    assert_eq!(store.add_taster(&taster("b", "twice"), Some("k")).unwrap(), "a", "said twice");
    store.add_taster(&taster("c", "other"), None).unwrap();
    let tasting = KeptTasting {
        id: "t".into(),
        name: "A row".into(),
        body: "{}".into(),
        begun_at: "2001-06-21T10:00:00Z".into(),
        summary: "{}".into(),
    };
    store.begin_tasting(&tasting, None).unwrap();
    let word = |body: &'static str, taster, key, after| Uttering {
        body,
        taster,
        at: "2001-06-21T10:01:00Z",
        key,
        after,
    };
    assert_eq!(store.utter("t", word("secret words", Some("a"), Some("w"), 0)).unwrap(), Some(0));
    assert_eq!(store.utter("t", word("secret words", Some("a"), Some("w"), 0)).unwrap(), Some(0));
    assert_eq!(store.utter("t", word("late", Some("c"), None, 0)).unwrap(), None, "thought over");
    assert_eq!(store.utter("t", word("others", Some("c"), None, 1)).unwrap(), Some(1));
    assert_eq!(store.words_of("a").unwrap().len(), 1);
    // Of two who say something at once the one who read less doesn't have the last word in lists.
    store.set_tasting_summary("t", "both", 2).unwrap();
    store.set_tasting_summary("t", "only the first", 1).unwrap();
    assert_eq!(store.tasting("t").unwrap().0.summary, "both");
    assert!(store.was_uttered("t", "w").unwrap());
    assert_eq!(store.delete_taster("a", "gone").unwrap(), ["t"]);
    assert!(matches!(store.delete_taster("a", "gone"), Err(StoreError::NotFound)));
    let (_, words) = store.tasting("t").unwrap();
    let said: Vec<&str> = words.iter().map(|w| w.body.as_str()).collect();
    assert_eq!(said, ["gone", "others"], "the others keep their places");
    assert_eq!(store.tasters().unwrap().len(), 1);
    drop(store);
    for entry in std::fs::read_dir(folder.path().join("deep")).unwrap() {
        let bytes = std::fs::read(entry.unwrap().path()).unwrap();
        for text in ["secret words", "a person of note"] {
            assert!(!bytes.windows(text.len()).any(|w| w == text.as_bytes()), "“{text}” is left");
        }
    }
}
