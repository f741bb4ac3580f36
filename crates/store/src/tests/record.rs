//! Versions, batches, bottles, and how they are found again.

use super::*;
use crate::{
    Facts, KeptBatch, KeptBottle, KeptMove, KeptPicture, Order, Predicted, Saying, Sought, Wanted,
};

fn made(store: &Store, id: &str, drink: &str, at: &str, note: &str) {
    let new = KeptBatch {
        id: id.into(),
        drink: drink.into(),
        name: "Limeade".into(),
        body: "{}".into(),
        begun_at: at.into(),
        finished_at: None,
        practice: false,
        clock: None,
        ending: None,
        rating: None,
        picture: None,
    };
    store.begin_batch(&new, None).unwrap();
    let body =
        format!(r#"{{"happening":{{"finished":{{"note":"{note}","place":"refrigerator"}}}}}}"#);
    let saying = Saying { body: &body, at, key: None, after: 0, finishes: Some(true) };
    store.say(id, saying).unwrap();
}

#[test]
fn versions_with_a_name_and_those_that_were_made_are_kept_for_ever() {
    let (_folder, store) = shelf();
    let now = |n: i64| format!("2030-01-01T10:{:02}:{:02}Z", n / 60, n % 60);
    let mut version = store.drinks().create("a", draft("Lime", "0", &now(0))).unwrap().version;
    for n in 1..8 {
        match n {
            3 => store.name_version("a", version, "for the fête").unwrap(),
            5 => store.mark_made("a").unwrap(),
            _ => {}
        }
        // None of them stands for more than some seconds.
        version = store
            .drinks()
            .save("a", version, draft("Lime", &n.to_string(), &now(n)))
            .unwrap()
            .version;
    }
    // A year later all but one of a day would have gone.
    store.drinks().save("a", version, draft("Lime", "last", "2031-01-01T10:00:00Z")).unwrap();
    let kept: Vec<_> =
        store.versions("a").unwrap().into_iter().map(|v| (v.body, v.name, v.made, v.now)).collect();
    let told = |body: &str, name: &str, made, now| (body.to_owned(), name.to_owned(), made, now);
    assert_eq!(
        kept,
        [
            told("last", "", 0, true),
            told("7", "", 0, false),
            told("4", "", 1, false),
            told("2", "for the fête", 0, false),
        ]
    );
    store.name_version("a", 3, "").unwrap();
    assert_eq!(store.versions("a").unwrap()[3].name, "");
    assert!(matches!(store.name_version("a", 99, "x"), Err(StoreError::NotFound)));
    assert!(matches!(store.versions("nobody"), Err(StoreError::NotFound)));
}

#[test]
fn drinks_are_sorted_filed_and_found_by_what_is_in_them() {
    let (_folder, store) = shelf();
    let with = |ingredients: &[&str]| {
        let steps: Vec<String> = ingredients
            .iter()
            .map(|i| format!(r#"{{"do":{{"add":{{"ingredient":"{i}"}}}}}}"#))
            .collect();
        format!(r#"{{"drink":{{"steps":[{}]}}}}"#, steps.join(","))
    };
    let put = |id: &str, name: &str, ingredients: &[&str], now: &str| {
        let body = with(ingredients);
        store.drinks().create(id, draft(name, &body, now)).unwrap();
    };
    put("a", "Éclair", &["lemon_juice", "water"], "2030-01-01T10:00:00Z");
    put("b", "Basil", &["lemon_juice", "basil"], "2030-01-02T10:00:00Z");
    put("c", "Cider", &["apple_juice"], "2030-01-03T10:00:00Z");
    let ids = |sought: &Sought<'_>| -> Vec<String> {
        let found = store.drinks().search(sought).unwrap();
        found.first.into_iter().map(|(kept, _)| kept.id).collect()
    };
    let all = Sought { most: 9, ..Sought::default() };
    assert_eq!(ids(&all), ["c", "b", "a"]);
    assert_eq!(ids(&Sought { order: Order::Name, ..all }), ["b", "c", "a"]);
    let lemon = ["lemon_juice".to_owned()];
    let both = ["lemon_juice".to_owned(), "basil".to_owned()];
    assert_eq!(ids(&Sought { ingredients: &lemon, ..all }), ["b", "a"]);
    assert_eq!(ids(&Sought { ingredients: &both, ..all }), ["b"]);
    assert_eq!(ids(&Sought { name_has: "é", ingredients: &lemon, ..all }), ["a"]);
    // What is changed is found by what is in it now.
    store.drinks().save("c", 1, draft("Cider", &with(&["basil"]), "2030-01-04T10:00:00Z")).unwrap();
    assert_eq!(ids(&Sought { ingredients: &["apple_juice".to_owned()], ..all }), [""; 0]);
    store.set_tags("a", &["summer".into(), "  ".into(), "it's ; \"odd\"".into()]).unwrap();
    store.set_tags("b", &["summer".into()]).unwrap();
    assert_eq!(ids(&Sought { tag: Some("summer"), ..all }), ["b", "a"]);
    assert_eq!(ids(&Sought { tag: Some("' OR 1=1 --"), ..all }), [""; 0]);
    assert_eq!(store.tags().unwrap(), [("summer".to_owned(), 2), ("it's ; \"odd\"".to_owned(), 1)]);
    // Making and liking.
    made(&store, "x", "a", "2030-02-01T10:00:00Z", "");
    made(&store, "y", "a", "2030-02-02T10:00:00Z", "");
    made(&store, "z", "b", "2030-03-02T10:00:00Z", "");
    store.rate_batch("x", Some(5)).unwrap();
    store.rate_batch("y", Some(4)).unwrap();
    assert_eq!(ids(&Sought { order: Order::Made, ..all }), ["b", "a", "c"]);
    assert_eq!(ids(&Sought { order: Order::Rating, most: 1, ..all }), ["a"]);
    let facts = store.facts("a").unwrap();
    assert_eq!((facts.made, facts.rating), (2, Some(4.5)));
    assert_eq!(facts.last_made.as_deref(), Some("2030-02-02T10:00:00Z"));
    assert_eq!(store.facts("c").unwrap(), Facts::default());
    // Going on after all, it isn't made yet.
    let again = Saying { body: "{}", at: TEN, key: None, after: 1, finishes: Some(false) };
    store.say("y", again).unwrap();
    assert_eq!(store.facts("a").unwrap().last_made.as_deref(), Some("2030-02-01T10:00:00Z"));
    // Page by page.
    let page = |after| ids(&Sought { after, most: 2, ..all });
    assert_eq!([page(0), page(2), page(4)], [vec!["c", "b"], vec!["a"], vec![]]);
}

#[test]
fn batches_are_found_by_words_days_and_rating() {
    let (_folder, store) = shelf();
    for (id, at, note) in [
        ("a", "2030-01-01T10:00:00Z", "zu süß für ÄNNE"),
        ("b", "2030-02-01T10:00:00Z", "best so far"),
        ("c", "2030-03-01T10:00:00Z", "best, but thin"),
    ] {
        made(&store, id, "d", at, note);
    }
    let guest = r#"{"happening":{"note":{"text":"sour for the children","by":"The gatekeeper"}}}"#;
    store.say("a", Saying { body: guest, at: TEN, key: None, after: 1, finishes: None }).unwrap();
    store.rate_batch("b", Some(5)).unwrap();
    let ids = |wanted: &Wanted<'_>, most| -> Vec<String> {
        store.batches(wanted, most).unwrap().into_iter().map(|b| b.id).collect()
    };
    let all = || Wanted { made: true, ..Wanted::default() };
    assert_eq!(ids(&all(), 9), ["c", "b", "a"]);
    assert_eq!(ids(&Wanted { words: "best", ..all() }, 9), ["c", "b"]);
    assert_eq!(ids(&Wanted { words: "best thin", ..all() }, 9), ["c"]);
    assert_eq!(ids(&Wanted { words: "änne", ..all() }, 9), ["a"]);
    assert_eq!(ids(&Wanted { words: "gatekeeper", ..all() }, 9), ["a"]);
    assert_eq!(ids(&Wanted { rating: Some(4), ..all() }, 9), ["b"]);
    let february = Wanted { from: Some("2030-02-01"), before: Some("2030-03-01"), ..all() };
    assert_eq!(ids(&february, 9), ["b"]);
    assert_eq!(ids(&Wanted { after: 1, ..all() }, 1), ["b"]);
    assert_eq!(ids(&Wanted { words: "best", after: 1, ..all() }, 9), ["b"]);
    assert!(matches!(store.rate_batch("nobody", None), Err(StoreError::NotFound)));
}

#[test]
fn what_is_counted_beside_the_lists_follows_them() {
    let (_folder, store) = shelf();
    let shown = |store: &Store| {
        let (total, first) = store.drinks().list("", 99).unwrap();
        assert_eq!(total, first.len());
        total
    };
    for id in ["a", "b", "c"] {
        store.drinks().create(id, draft(id, "{}", TEN)).unwrap();
    }
    assert_eq!(shown(&store), 3);
    store.drinks().delete("a", TEN).unwrap();
    store.drinks().delete("b", TEN).unwrap();
    assert_eq!(shown(&store), 1);
    store.drinks().restore("b").unwrap();
    assert_eq!(shown(&store), 2);

    assert_eq!(store.predicted(None).unwrap(), Predicted::default());
    for (batch, drink, ending) in [
        ("x", "b", r#"{"readings": 3, "inside": 3}"#),
        ("y", "c", r#"{"readings": 4, "inside": 2}"#),
    ] {
        made(&store, batch, drink, TEN, "good");
        store.set_batch_ending(batch, ending).unwrap();
    }
    let told = |drink| {
        let Predicted { readings, inside } = store.predicted(drink).unwrap();
        (readings, inside)
    };
    assert_eq!((told(None), told(Some("b")), told(Some("c"))), ((7, 5), (3, 3), (4, 2)));
    // Said again after something was taken back.
    store.set_batch_ending("y", r#"{"readings": 5, "inside": 4}"#).unwrap();
    assert_eq!((told(None), told(Some("c")), told(Some("d"))), ((8, 7), (5, 4), (0, 0)));
}

#[test]
fn what_happens_to_a_bottle_is_only_ever_added_to() {
    let (_folder, store) = shelf();
    let bottle = |id: &str| KeptBottle {
        id: id.into(),
        batch: Some("x".into()),
        drink: Some("d".into()),
        name: "Ginger syrup".into(),
        body: "{}".into(),
        put_at: TEN.into(),
        gone_at: None,
    };
    store.put_bottles(&[bottle("a"), bottle("b")], Some("k")).unwrap();
    store.put_bottles(&[bottle("c")], Some("k")).unwrap();
    assert_eq!(store.standing_bottles().unwrap().len(), 2, "said twice it is done once");
    let poured = KeptMove { at: TEN.into(), body: "poured".into() };
    let say = |after, gone, key| store.move_bottle("a", &poured, (after, gone), key).unwrap();
    assert!(say(0, None, Some("m1")));
    assert!(say(0, None, Some("m1")), "said twice it counts once");
    assert!(!say(0, None, Some("m2")), "something came between");
    assert!(say(1, Some(TEN), Some("m2")));
    assert_eq!(store.bottle("a").unwrap().1.len(), 2);
    assert_eq!(store.standing_bottles().unwrap().len(), 1);
    assert!(say(2, None, None), "taken back it stands again");
    assert_eq!(store.standing_bottles().unwrap().len(), 2);
    assert_eq!(store.bottles_of("d").unwrap().len(), 2);
    assert_eq!(store.bottles_of_batch("x").unwrap().len(), 2);
    assert!(matches!(store.move_bottle("z", &poured, (0, None), None), Err(StoreError::NotFound)));
    // All or none.
    assert!(store.put_bottles(&[bottle("q"), bottle("a")], None).is_err());
    assert!(matches!(store.bottle("q"), Err(StoreError::NotFound)));
}

#[test]
fn a_batch_has_one_picture_and_says_since_when() {
    let (_folder, store) = shelf();
    store.drinks().create("a", draft("Lime", "0", "2030-01-01T10:00:00Z")).unwrap();
    for id in ["one", "two"] {
        made(&store, id, "a", "2030-01-01T11:00:00Z", "");
    }
    let since = |id: &str| store.batch(id).unwrap().0.picture;
    assert_eq!((since("one"), since("two")), (None, None));
    assert!(matches!(store.picture("one"), Err(StoreError::NotFound)));
    let picture =
        |kind: &str, bytes: &[u8]| KeptPicture { kind: kind.into(), bytes: bytes.to_vec() };
    let first = picture("image/jpeg", &[0xff, 0, 1, 2]);
    store.put_picture("one", &first, "2030-01-01T12:00:00Z").unwrap();
    assert_eq!(store.picture("one").unwrap(), first);
    // Another one takes its place, and the list knows of it without reading it.
    let second = picture("image/png", &[7; 300_000]);
    store.put_picture("one", &second, "2030-01-01T12:00:05Z").unwrap();
    assert_eq!(store.picture("one").unwrap(), second);
    let listed = store.batches(&Wanted::default(), 10).unwrap();
    let pictures: Vec<_> = listed.iter().map(|b| (b.id.as_str(), b.picture.as_deref())).collect();
    assert_eq!(pictures, [("two", None), ("one", Some("2030-01-01T12:00:05Z"))]);
    store.take_picture_away("one").unwrap();
    store.take_picture_away("one").unwrap();
    assert_eq!(since("one"), None);
    let nobody = store.put_picture("nobody", &first, "2030-01-01T12:00:00Z");
    assert!(matches!(nobody, Err(StoreError::NotFound)));
}
