//! The record and the bottles: history, kept, labels, pasted recipes, and the whole house in and out.

use std::process::{Command, Stdio};

use serde_json::{Value, json};

use crate::batches::{begin, done, hibiscus, say};
use crate::support::{Application, binary, fetch, limeade, send, send_by};

/// A syrup that is put into bottles.
fn syrup() -> Value {
    json!({
        "name": "Mint syrup", "family": "syrup",
        "vessels": [{ "id": "pot", "kind": "pot" }, { "id": "sieve", "kind": "sieve" }, { "id": "bottle", "kind": "bottle" }],
        "steps": [
            { "id": "water", "do": { "add": { "into": "pot", "ingredient": "water", "amount": "500 ml" } } },
            { "id": "sugar", "do": { "add": { "into": "pot", "ingredient": "white_sugar", "amount": "500 g" } } },
            { "id": "mint", "do": { "add": { "into": "pot", "ingredient": "mint", "amount": "20 g" } } },
            { "id": "heat", "do": { "heat": { "vessel": "pot", "to_c": 85, "minutes": 10 } } },
            { "id": "strain", "do": { "strain": { "from": "pot", "through": "sieve", "into": "bottle" } } }
        ]
    })
}

fn finish(app: &Application, path: &str, steps: &[&str]) {
    for step in steps {
        say(app, path, done(step));
    }
    say(app, path, json!({ "finished": { "place": "refrigerator", "note": "best so far" } }));
}

/// Puts bottles of a drink that is made step by step, and answers the first.
fn bottled(app: &Application, ml: &[f64]) -> (String, Value) {
    let (path, batch) = begin(app, syrup());
    finish(app, &path, &["water", "sugar", "mint", "heat", "strain"]);
    let bottles: Vec<Value> = ml.iter().map(|ml| json!({ "ml": ml })).collect();
    let kept = app.post("/api/kept", &json!({ "batch": batch["id"], "bottles": bottles })).json();
    assert_eq!(kept["bottles"].as_array().unwrap().len(), ml.len());
    (path, kept["bottles"][0].clone())
}

fn moves(app: &Application, bottle: &Value, what: Value) -> Value {
    let path = format!("/api/kept/{}/moves", bottle["id"].as_str().unwrap());
    app.post(&path, &json!({ "what": what })).json()
}

/// What an older program had worked out for a drink is in the data file; this one's tables say otherwise.
#[test]
fn that_better_tables_changed_an_old_drink_is_told_once() {
    let app = Application::start("serve");
    let made = app.post("/api/drinks", &limeade()).json();
    let id = made["id"].as_str().unwrap().to_owned();
    app.get("/api/drinks");
    let history = |app: &Application| app.get(&format!("/api/drinks/{id}/history")).json();
    assert_eq!(history(&app)["figures_changed"], Value::Null, "nothing changed");
    let ended = app.stop();
    let file = ended.folder.path().join("keen-pitcher.db");
    let older = "UPDATE figures SET made_by = 'older', body = json_set(body, '$.sweetness', 2.0)";
    assert_eq!(rusqlite::Connection::open(file).unwrap().execute(older, []).unwrap(), 1);
    let app = ended.start_again_here("serve");
    let told = history(&app)["figures_changed"].as_str().unwrap().to_owned();
    assert!(told.contains("instead of 2.0"), "{told}");
    assert_eq!(history(&app)["figures_changed"], json!(told), "until it was read");
    let read = app.call("DELETE", &format!("/api/drinks/{id}/figures-changed"), None);
    assert_eq!(read.status, 204);
    assert_eq!(history(&app)["figures_changed"], Value::Null);
}

#[test]
fn what_was_bottled_ages_is_drawn_from_and_is_an_ingredient() {
    let app = Application::start("serve");
    let (_, bottle) = bottled(&app, &[300.0, 300.0]);
    let id = bottle["ingredient"].as_str().unwrap().to_owned();
    let there = |app: &Application| {
        let kitchen = app.get("/api/kitchen").json();
        kitchen["kitchen"]["larder"][&id]["have"].as_f64().unwrap_or(0.0)
    };
    let before = there(&app);
    assert!((700.0..760.0).contains(&before), "{before} g of a syrup of 1.2 g in a millilitre");
    // A drink is made with it, and what it takes is drawn from the bottles, the second after the first.
    let with = json!({
        "name": "Mint water", "family": "lemonade", "vessels": [{ "id": "jug", "kind": "jug" }],
        "steps": [
            { "id": "syrup", "do": { "add": { "into": "jug", "ingredient": id, "amount": "400 ml" } } },
            { "id": "water", "do": { "top_up": { "vessel": "jug", "ingredient": "water", "to": "2 l" } } }
        ]
    });
    let (path, _) = begin(&app, with.clone());
    finish(&app, &path, &["syrup", "water"]);
    let kept = app.get("/api/kept").json();
    let left: Vec<f64> = kept["bottles"]
        .as_array()
        .unwrap()
        .iter()
        .map(|b| b["state"]["ml"].as_f64().unwrap())
        .collect();
    assert_eq!(left.len(), 1, "{kept}");
    assert!((left[0] - 200.0).abs() < 1.0, "{left:?}");
    assert!((there(&app) - before / 3.0).abs() < 3.0);
    // Said once more it is drawn once.
    say(&app, &path, json!({ "note": { "text": "good" } }));
    assert_eq!(app.get("/api/kept").json()["bottles"].as_array().unwrap().len(), 1);
    // The last of it goes, and the drink can still be looked at.
    let last = kept["bottles"][0].clone();
    let opened = moves(&app, &last, json!("opened"));
    assert!(
        opened["state"]["days_left"].as_f64().unwrap()
            < last["state"]["days_left"].as_f64().unwrap() + 0.1
    );
    moves(&app, &last, json!({ "tipped": { "why": "spilt" } }));
    let path = format!("/api/kept/{}/moves", last["id"].as_str().unwrap());
    let problem = app.post(&path, &json!({ "what": "opened" })).problem(422);
    assert_eq!(problem["errors"][0]["field"], "what");
    assert_eq!(app.post("/api/compute/trace", &with).status, 200);
    assert_eq!(app.get("/api/kept").json()["bottles"], json!([]));
    // Taken back, it stands there again.
    moves(&app, &last, json!({ "taken_back": { "of": 2 } }));
    assert_eq!(app.get("/api/kept").json()["bottles"].as_array().unwrap().len(), 1);
}

#[test]
fn two_steps_that_draw_on_one_bottle_are_two_draws_and_each_counts_once() {
    let app = Application::start("serve");
    let (_, bottle) = bottled(&app, &[700.0]);
    let id = &bottle["ingredient"];
    let with = json!({
        "name": "Twice from one bottle", "family": "lemonade",
        "vessels": [{ "id": "jug", "kind": "jug" }, { "id": "pitcher", "kind": "pitcher" }],
        "steps": [
            { "id": "first", "do": { "add": { "into": "jug", "ingredient": id, "amount": "200 ml" } } },
            { "id": "second", "do": { "add": { "into": "pitcher", "ingredient": id, "amount": "100 ml" } } }
        ]
    });
    let (path, _) = begin(&app, with);
    finish(&app, &path, &["first", "second"]);
    let left = || app.get("/api/kept").json()["bottles"][0]["state"]["ml"].as_f64().unwrap();
    assert!((left() - 400.0).abs() < 2.0, "{} ml are left of 700", left());
    // Undone and finished again, nothing is drawn twice.
    let said = app.get(&path).json()["said"].as_array().unwrap().len();
    say(&app, &path, json!({ "taken_back": { "of": said - 1 } }));
    say(&app, &path, json!({ "finished": { "place": "shelf" } }));
    assert!((left() - 400.0).abs() < 2.0, "{} ml are left of 700", left());
}

#[test]
fn many_entries_at_once_are_all_kept_or_refused() {
    let app = Application::start("serve");
    let (path, _) = begin(&app, crate::support::limeade());
    let words = format!("{path}/happenings");
    let answers: Vec<u16> = std::thread::scope(|threads| {
        let all: Vec<_> = (0..48)
            .map(|nth| {
                let (app, words) = (&app, &words);
                threads.spawn(move || {
                    app.post(
                        words,
                        &json!({ "what": { "note": { "text": format!("note {nth}") } } }),
                    )
                    .status
                })
            })
            .collect();
        all.into_iter().map(|one| one.join().unwrap()).collect()
    });
    let kept = answers.iter().filter(|status| (200..300).contains(*status)).count();
    let notes = app.get(&path).json()["said"]
        .as_array()
        .unwrap()
        .iter()
        .filter(|said| said["what"]["note"].is_object())
        .count();
    assert_eq!(notes, kept, "what was answered is on disk, and nothing else: {answers:?}");
    assert!(answers.iter().all(|status| [200, 503].contains(status)), "{answers:?}");
}

#[test]
fn what_can_not_happen_to_a_bottle_is_refused_with_the_field() {
    let app = Application::start("serve");
    let (_, bottle) = bottled(&app, &[300.0]);
    let path = format!("/api/kept/{}/moves", bottle["id"].as_str().unwrap());
    for (what, field) in [
        (json!({ "poured": { "ml": 900 } }), "what.ml"),
        (json!({ "poured": { "ml": -3 } }), "what.ml"),
        (json!({ "poured": { "ml": 0 } }), "what.ml"),
        (json!({ "moved": { "to": "refrigerator" } }), "what.to"),
        (json!({ "moved": { "to": "attic" } }), "what.moved.to"),
        (json!({ "taken_back": { "of": 0 } }), "what.of"),
        (json!("drunk"), "what"),
    ] {
        let problem = app.post(&path, &json!({ "what": what })).problem(422);
        assert_eq!(problem["errors"][0]["field"], field, "{problem}");
    }
    for (body, field) in [
        (json!({ "bottles": [{ "ml": 700 }] }), "batch"),
        (json!({ "batch": "x", "bottles": [] }), "bottles"),
        (json!({ "batch": "x", "bottles": [{ "ml": 0 }] }), "bottles[0].ml"),
        (json!({ "batch": "x", "bottles": [{ "ml": 7, "vessel": "cloth" }] }), "bottles[0].vessel"),
    ] {
        let problem = app.post("/api/kept", &body).problem(422);
        assert_eq!(problem["errors"][0]["field"], field, "{problem}");
    }
    assert_eq!(
        app.post("/api/kept", &json!({ "drink": "x", "bottles": [{ "ml": 7 }] })).status,
        404
    );
    assert_eq!(app.get("/api/kept/nobody").status, 404);
}

#[test]
fn labels_are_drawn_for_chosen_bottles() {
    let app = Application::start("serve");
    let (_, bottle) = bottled(&app, &[300.0, 200.0]);
    let ids = [&bottle["id"], &bottle["id"]];
    let drawn = app
        .post("/api/compute/labels", &json!({ "bottles": ids, "format": "a4_24", "start_at": 23 }))
        .json();
    let pages = drawn["pages"].as_array().unwrap();
    assert_eq!(pages.len(), 2, "the second goes on to another page");
    assert!(pages[0].as_str().unwrap().contains(">Mint syrup</text>"));
    let problem =
        app.post("/api/compute/labels", &json!({ "bottles": ids, "format": "wall" })).problem(422);
    assert_eq!(problem["errors"][0]["field"], "format");
    assert_eq!(
        app.post("/api/compute/labels", &json!({ "bottles": ["x"], "format": "tag" })).status,
        404
    );
    let calendar = app.get("/api/kept/calendar.ics").text;
    assert_eq!(calendar.matches("BEGIN:VEVENT").count(), 2, "{calendar}");
    assert!(
        calendar.contains("SUMMARY:Use up: Mint syrup") && calendar.contains("TRIGGER"),
        "{calendar}"
    );
    // Or with the whole drink in the picture code, where that can be printed.
    let asked = |format: &str| json!({ "bottles": ids[..1], "format": format, "code": "drink" });
    let tag = app.post("/api/compute/labels", &asked("tag")).json();
    let linked =
        app.post("/api/compute/labels", &json!({ "bottles": ids[..1], "format": "tag" })).json();
    let length = |view: &serde_json::Value| view["pages"][0].as_str().unwrap().len();
    assert!(length(&tag) > 2 * length(&linked), "{} for {}", length(&tag), length(&linked));
    let small = app.post("/api/compute/labels", &asked("a4_65")).problem(422);
    assert_eq!(small["errors"][0]["field"], "code");
}

#[test]
fn a_drinks_past_is_told_named_and_brought_back() {
    let app = Application::start("serve");
    let (path, batch) = begin(&app, hibiscus());
    finish(&app, &path, &["water", "calyces", "steep", "strain", "sugar"]);
    let drink = format!("/api/drinks/{}", batch["drink"].as_str().unwrap());
    app.put(&format!("{path}/rating"), &json!({ "rating": 4 }));
    let mut less = app.get(&drink).json();
    less["drink"]["steps"][4]["do"]["add"]["amount"] = "90 g".into();
    let saved =
        app.put(&drink, &json!({ "version": less["version"], "drink": less["drink"] })).json();
    // What was made is kept, however short it stood.
    let versions = app.get(&format!("{drink}/versions")).json()["versions"].clone();
    assert_eq!(versions.as_array().unwrap().len(), 2, "{versions}");
    assert_eq!(versions[0]["changes"], json!(["white sugar 120 g → 90 g"]));
    assert_eq!((&versions[1]["made"], &versions[1]["now"]), (&json!(1), &json!(false)));
    let before = versions[1]["version"].as_i64().unwrap();
    app.put(&format!("{drink}/versions/{before}/name"), &json!({ "name": "for the fête" }));
    assert_eq!(app.put(&format!("{drink}/versions/77/name"), &json!({ "name": "x" })).status, 404);
    let long = app
        .put(&format!("{drink}/versions/{before}/name"), &json!({ "name": "x".repeat(99) }))
        .problem(422);
    assert_eq!(long["errors"][0]["field"], "name");
    let back = app.post(&format!("{drink}/versions/{before}/back"), &json!({})).json();
    assert_eq!(back["version"].as_i64().unwrap(), saved["version"].as_i64().unwrap() + 1);
    assert_eq!(back["drink"]["steps"][4]["do"]["add"]["amount"], "120 g");
    let versions = app.get(&format!("{drink}/versions")).json()["versions"].clone();
    let names: Vec<&str> =
        versions.as_array().unwrap().iter().map(|v| v["name"].as_str().unwrap()).collect();
    assert_eq!(names, ["", "", "for the fête"], "what was replaced is kept beside the others");
    // Its batches stand beside what is written.
    let history = app.get(&format!("{drink}/history")).json();
    assert_eq!(history["total"], 1);
    assert_eq!(history["batches"][0]["rating"], 4);
    assert_eq!(history["batches"][0]["said"], json!(["best so far"]));
    assert_eq!(history["says"], json!([]), "nothing is said from one batch");
    // The file has all of it, and another shelf reads it again.
    let file = app.get(&format!("{drink}/file")).json();
    assert_eq!(file["earlier"].as_array().unwrap().len(), 2);
    let other = Application::start("serve");
    let made = other.post("/api/drinks", &file).json();
    let there = other.get(&format!("/api/drinks/{}/versions", made["id"].as_str().unwrap()));
    let there = there.json()["versions"].clone();
    assert_eq!(there.as_array().unwrap().len(), 3, "{there}");
    assert_eq!(there[2]["name"], "for the fête");
    for style in ["text", "markdown", "json_ld"] {
        let card = app.get(&format!("{drink}/card?style={style}"));
        assert!(card.status == 200 && card.text.contains("Hibiscus"), "{style}");
    }
}

#[test]
fn a_pasted_text_is_read_and_any_text_can_be() {
    let app = Application::start("serve");
    let ask = |text: &str| app.post("/api/compute/paste", &json!({ "text": text })).json();
    let read = ask("Limeade\n5 limes, juiced\n100 g sugar\nwater to make 1 litre");
    assert_eq!(read["drink"]["name"], "Limeade");
    assert!(read["report"]["map"]["point"]["acidity"].as_f64().unwrap() > 0.3);
    assert_eq!(app.post("/api/drinks", &read["drink"]).status, 201);
    let page = "<html><script type=\"application/ld+json\">{\"@type\":\"Recipe\",\"name\":\"From a page\",\
                \"recipeIngredient\":[\"3 lemons\",\"1 l water\"]}</script></html>";
    assert_eq!(ask(page)["drink"]["name"], "From a page");
    for text in ["", "🍋🍋", "Man nehme Zitronen.", &"a long walk, nothing else. ".repeat(3000)]
    {
        assert!(ask(text)["drink"]["steps"].is_array());
    }
    let problem = app.post("/api/compute/paste", &json!({ "text": 5 })).problem(422);
    assert_eq!(problem["errors"][0]["field"], "text");
}

#[test]
fn a_batch_has_its_picture_and_takes_it_along() {
    let app = Application::start("serve");
    let (path, _) = bottled(&app, &[300.0]);
    let picture = format!("{path}/picture");
    let drink = app.get(&path).json()["drink"].as_str().unwrap().to_owned();
    assert_eq!(app.get(&path).json()["picture"], Value::Null);
    assert_eq!(app.get(&picture).status, 404);
    // What is no picture, what could run, what is too large, and whose batch there isn't.
    let jpeg = [&[0xff, 0xd8, 0xff, 0xe0][..], &[1; 2000]].concat();
    let large = [&jpeg[..], &vec![0; 3 * 1024 * 1024]].concat();
    for wrong in [&b""[..], b"<svg xmlns='http://www.w3.org/2000/svg'/>", b"GIF89a", &large] {
        let (status, problem) = send_by("PUT", &app, &picture, wrong);
        assert_eq!((status, &problem["errors"][0]["field"]), (422, &json!("picture")), "{problem}");
    }
    assert_eq!(send_by("PUT", &app, "/api/batches/none/picture", &jpeg).0, 404);
    assert_eq!(app.get(&path).json()["picture"], Value::Null);
    // One that is kept, in History and in the whole house as well.
    assert_eq!(send_by("PUT", &app, &picture, &jpeg).0, 204);
    assert_eq!(fetch(&app, &picture), jpeg);
    let since = app.get(&path).json()["picture"].clone();
    assert!(since.is_string(), "{since}");
    let history = app.get(&format!("/api/drinks/{drink}/history")).json();
    assert_eq!(history["batches"][0]["picture"], since);
    let other = Application::start("serve");
    assert_eq!(send(&other, "/api/house", &fetch(&app, "/api/house")).0, 200);
    assert_eq!(fetch(&other, &picture), jpeg);
    // Taken away it is gone; taken away once more, too.
    for _ in 0..2 {
        assert_eq!(app.call("DELETE", &picture, None).status, 204);
        assert_eq!(app.get(&picture).status, 404);
    }
}

#[test]
fn the_whole_house_goes_out_and_comes_in_on_another_machine() {
    let app = Application::start("serve");
    let (path, bottle) = bottled(&app, &[300.0]);
    let house = fetch(&app, "/api/house");
    let other = Application::start("serve");
    other.post("/api/drinks", &limeade());
    let (status, said) = send(&other, "/api/house", &house);
    assert_eq!(status, 200, "{said}");
    assert_eq!(other.get("/api/drinks").json()["drinks"][0]["name"], "Mint syrup");
    assert_eq!(other.get(&path).json()["name"], "Mint syrup");
    assert_eq!(other.get("/api/kept").json()["bottles"][0]["id"], bottle["id"]);
    // What is an ingredient there is one here.
    assert!(other.get("/api/ingredients").text.contains(bottle["ingredient"].as_str().unwrap()));
    // What was there before lies beside it.
    let aside = other.folder.path().join(said["aside"].as_str().unwrap());
    assert!(aside.exists());
    // It goes on after a restart.
    let other = other.cut_and_restart();
    assert_eq!(other.get("/api/kept").json()["bottles"][0]["id"], bottle["id"]);
}

#[test]
fn a_house_that_is_none_is_refused_and_nothing_is_lost() {
    let app = Application::start("serve");
    app.post("/api/drinks", &limeade());
    let house = fetch(&app, "/api/house");
    let mut cut = house.clone();
    cut.truncate(house.len() / 2);
    let mut changed = house.clone();
    let at = house.len() / 3;
    changed[at..at + 40].fill(0);
    let large = vec![b'x'; 50 * 1024 * 1024];
    for bytes in [&b""[..], b"no archive", &cut, &changed, &large] {
        let (status, problem) = send(&app, "/api/house", bytes);
        assert_eq!(status, 422, "{problem}");
        assert!(problem["detail"].as_str().unwrap().contains("Nothing was changed"), "{problem}");
        assert_eq!(app.get("/api/drinks").json()["total"], 1);
    }
    // Nothing half done lies about.
    let left: Vec<String> = std::fs::read_dir(app.folder.path())
        .unwrap()
        .map(|f| f.unwrap().file_name().into_string().unwrap())
        .filter(|n| n.contains(".part") || n.starts_with(".tmp") || n.contains("before"))
        .collect();
    assert_eq!(left, [""; 0]);
    for name in ["..%2f..%2fetc%2fpasswd", "nobody.zip", "keen-pitcher-x.zip"] {
        assert_eq!(
            app.post(&format!("/api/house/backups/{name}"), &json!({})).status,
            404,
            "{name}"
        );
    }
}

#[test]
fn two_houses_at_once_are_put_back_one_after_the_other_or_refused() {
    let app = Application::start("serve");
    app.post("/api/drinks", &limeade());
    let house = fetch(&app, "/api/house");
    std::thread::scope(|threads| {
        let all: Vec<_> =
            (0..4).map(|_| threads.spawn(|| send(&app, "/api/house", &house))).collect();
        let mut went = 0;
        for one in all {
            let (status, said) = one.join().unwrap();
            assert!(
                status == 200 || status >= 400 && said["detail"].is_string(),
                "{status} {said}"
            );
            assert_ne!(status, 500);
            went += usize::from(status == 200);
        }
        assert!(went >= 1);
    });
    assert_eq!(app.get("/api/drinks").json()["total"], 1);
}

/// Killed at any moment, the shelf is the old or the new one.
#[test]
fn a_power_cut_in_the_middle_leaves_the_old_shelf_or_the_new_one() {
    let full = Application::start("demo");
    let house = fetch(&full, "/api/house");
    for wait in [0, 5, 15, 30, 60, 120, 250] {
        let app = Application::start("serve");
        app.post("/api/drinks", &limeade());
        let address = app.address.trim_start_matches("http://").to_owned();
        let bytes = house.clone();
        let sent = std::thread::spawn(move || {
            let _ = ureq::post(&format!("http://{address}/api/house")).send(&bytes[..]);
        });
        std::thread::sleep(std::time::Duration::from_millis(wait));
        let app = app.cut().start_again_here("serve");
        let _ = sent.join();
        let total = app.get("/api/drinks").json()["total"].as_u64().unwrap();
        assert!(total == 1 || total == 10, "after {wait} ms there are {total}");
    }
}

#[test]
fn tables_go_out_and_come_in() {
    let app = Application::start("demo");
    for of in ["batches", "readings", "ingredients"] {
        let table = fetch(&app, &format!("/api/house/tables/{of}"));
        let (status, said) = send(&app, &format!("/api/house/tables/{of}"), &table);
        assert_eq!((status, &said["added"]), (200, &json!(0)), "{of}: {said}");
    }
    let batches = String::from_utf8(fetch(&app, "/api/house/tables/batches")).unwrap();
    assert_eq!(batches.lines().count(), 15, "{batches}");
    let mine = "drink,begun_at,ml,rating,note\nMandarin fizz,2025-06-21,1500,5,=1+1\n";
    assert_eq!(send(&app, "/api/house/tables/batches", mine.as_bytes()).1["added"], 1);
    let back = String::from_utf8(fetch(&app, "/api/house/tables/batches")).unwrap();
    assert!(back.contains("'=1+1"), "no cell is a formula: {back}");
    let odd = "drink,begun_at\nMandarin fizz,2025-06-22\nNobody's,2025-06-22\n";
    let (status, problem) = send(&app, "/api/house/tables/batches", odd.as_bytes());
    assert_eq!((status, problem["errors"][0]["field"].as_str()), (422, Some("row 3, drink")));
    let again = String::from_utf8(fetch(&app, "/api/house/tables/batches")).unwrap();
    assert_eq!(again, back, "all or none");
    let own = "name,kind,form,sugar\nWoodruff syrup,syrup,liquid,60\n";
    assert_eq!(send(&app, "/api/house/tables/ingredients", own.as_bytes()).1["added"], 1);
    assert!(app.get("/api/ingredients").text.contains("own_woodruff_syrup"));
    let sour = "name,kind,form,sugar\nToo much,syrup,liquid,600\n";
    assert_eq!(send(&app, "/api/house/tables/ingredients", sour.as_bytes()).0, 422);
}

#[test]
fn one_backup_is_made_each_day_and_more_when_asked() {
    let app = Application::start("demo");
    let mut kept = json!([]);
    for _ in 0..100 {
        kept = app.get("/api/house/backups").json()["backups"].clone();
        if kept != json!([]) {
            break;
        }
        std::thread::sleep(std::time::Duration::from_millis(100));
    }
    assert_eq!(kept.as_array().unwrap().len(), 1, "one by itself");
    let more = app.post("/api/house/backups", &json!({})).json()["backups"].clone();
    assert_eq!(more.as_array().unwrap().len(), 2);
    let name = kept[0]["name"].as_str().unwrap();
    let drinks = app.get("/api/drinks").json();
    app.call(
        "DELETE",
        &format!("/api/drinks/{}", drinks["drinks"][0]["id"].as_str().unwrap()),
        None,
    );
    app.post(&format!("/api/house/backups/{name}"), &json!({})).json();
    assert_eq!(app.get("/api/drinks").json()["total"], drinks["total"]);
}

#[test]
fn the_command_line_saves_puts_back_imports_and_exports() {
    let folder = tempfile::tempdir().unwrap();
    let (shelf, file) = (folder.path().join("shelf"), folder.path().join("house.zip"));
    let run = |args: &[&std::ffi::OsStr]| {
        let mut command: Command = binary();
        command.args(args).arg("--data").arg(&shelf).stdin(Stdio::null());
        let output = command.output().unwrap();
        (
            output.status.success(),
            String::from_utf8_lossy(&[output.stdout, output.stderr].concat()).into_owned(),
        )
    };
    let os = std::ffi::OsStr::new;
    let recipe = folder.path().join("limeade.txt");
    std::fs::write(&recipe, "Limeade\n5 limes, juiced\nabout 100 g sugar\n1 l water\n").unwrap();
    let (fine, said) = run(&[os("import"), recipe.as_os_str()]);
    assert!(fine && said.contains("Limeade") && said.contains("only a rough amount"), "{said}");
    for (style, part) in [
        ("json", "\"keen-pitcher/drink\""),
        ("text", "- 5 limes lime juice"),
        ("markdown", "# Limeade"),
        ("json-ld", "\"Recipe\""),
    ] {
        let (fine, said) = run(&[os("export"), os("Limeade"), os("--as"), os(style)]);
        assert!(fine && said.contains(part), "{style}: {said}");
    }
    let (fine, said) = run(&[os("backup"), file.as_os_str()]);
    assert!(fine && said.contains("1 drinks"), "{said}");
    let table = folder.path().join("batches.csv");
    std::fs::write(&table, "drink,begun_at,ml\nLimeade,2030-06-21,1200\n").unwrap();
    assert!(run(&[os("import"), table.as_os_str()]).0);
    let (_, said) = run(&[os("export"), os("batches"), os("--as"), os("csv")]);
    assert!(said.contains("Limeade,2030-06-21T12:00:00Z"), "{said}");
    let (fine, said) = run(&[os("restore"), file.as_os_str()]);
    assert!(fine && said.contains("before"), "{said}");
    let (_, said) = run(&[os("export"), os("batches"), os("--as"), os("csv")]);
    assert!(!said.contains("2030-06-21"), "{said}");
    std::fs::write(&file, "no house").unwrap();
    let (fine, said) = run(&[os("restore"), file.as_os_str()]);
    assert!(!fine && said.contains("Nothing was changed"), "{said}");
    let (fine, said) = run(&[os("import"), file.as_os_str()]);
    assert!(!fine, "{said}");
    // While it is served, a backup can be made; putting back is for the window.
    let app = Application::start_at("serve", &shelf);
    assert!(run(&[os("backup"), folder.path().join("running.zip").as_os_str()]).0);
    let (fine, said) = run(&[os("restore"), folder.path().join("running.zip").as_os_str()]);
    assert!(!fine && said.contains("window"), "{said}");
    drop(app);
}
