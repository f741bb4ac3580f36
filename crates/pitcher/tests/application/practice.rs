//! The practice kitchen, the instruments, what is on the go and what a batch teaches, through the API.

use std::io::{BufRead, BufReader, Write};
use std::net::TcpStream;
use std::process::{Child, Stdio};
use std::time::{Duration, Instant};

use serde_json::{Value, json};

use crate::batches::{begin, done, hibiscus, say, state};
use crate::support::{Application, binary, limeade};

/// Waits until something has come.
fn until<T>(what: &str, mut found: impl FnMut() -> Option<T>) -> T {
    let began = Instant::now();
    loop {
        if let Some(found) = found() {
            return found;
        }
        assert!(began.elapsed() < Duration::from_secs(30), "{what} never came");
        std::thread::sleep(Duration::from_millis(50));
    }
}

fn practice(app: &Application, drink: Value) -> (String, Value) {
    let kept = app.post("/api/drinks", &drink).json();
    let body = json!({ "of": kept["id"], "drink": kept["drink"], "practice": true });
    let batch = app.post("/api/batches", &body).json();
    (format!("/api/batches/{}", batch["id"].as_str().unwrap()), batch)
}

/// What an instrument shows once it has settled.
fn settled(app: &Application, id: &str, practice: bool) -> Value {
    until(id, || {
        let all = app.get(&format!("/api/instruments?practice={practice}")).json();
        let all = all["instruments"].as_array().unwrap().clone();
        all.into_iter().find(|i| i["id"] == id && i["stable"] == true && !i["value"].is_null())
    })
}

#[test]
fn a_practice_run_is_measured_put_right_and_shown_the_truth_and_teaches_nothing() {
    let app = Application::start("serve");
    let (path, batch) = practice(&app, limeade());
    assert_eq!(batch["practice"], true);
    assert!(!batch.to_string().contains("seed"), "nobody may see what dealt the luck");
    let step = |i: usize| batch["stands"]["steps"][i]["id"].as_str().unwrap().to_owned();
    // Nothing can be dipped into what is empty, and nothing seen.
    let nothing = json!({ "vessel": "jug", "instrument": "practice.refractometer-1" });
    until("the stand-ins", || {
        let all = app.get("/api/instruments?practice=true").json();
        (all["instruments"].as_array().unwrap().len() == 6).then_some(())
    });
    app.post(&format!("{path}/put"), &nothing).problem(422);
    app.post(&format!("{path}/look"), &json!({ "sip": "jug" })).problem(422);
    say(&app, &path, done(&step(0)));
    let gave = app.post(&format!("{path}/look"), &json!({ "gave": step(0) })).json();
    let ml = gave["value"].as_f64().unwrap();
    assert!((40.0..220.0).contains(&ml) && gave["unit"] == "ml", "{gave}");
    let again = app.post(&format!("{path}/look"), &json!({ "gave": step(0) })).json();
    assert_eq!(again, gave, "who looks again sees the same");
    let out = json!({ "came_out": { "step": step(0), "amount": format!("{ml} ml") } });
    say(&app, &path, out);
    say(&app, &path, done(&step(1)));
    say(&app, &path, done(&step(2)));
    // By drops, one after the other, until the colour stays.
    let kit = "practice.acid-kit-1";
    app.post(&format!("{path}/put"), &json!({ "vessel": "jug", "instrument": kit }));
    let drop = json!({ "do": "drop", "count": 2 });
    let acid = until("the colour", || {
        assert_eq!(app.post(&format!("/api/instruments/{kit}"), &drop).status, 204);
        std::thread::sleep(Duration::from_millis(150));
        let all = app.get("/api/instruments?practice=true").json();
        let kit = all["instruments"].as_array().unwrap().iter().find(|i| i["id"] == kit).cloned();
        kit.and_then(|k| k["value"].as_f64())
    });
    let reading = json!({ "reading": { "vessel": "jug", "quantity": "acidity", "value": acid } });
    let read =
        app.post(&format!("{path}/happenings"), &json!({ "what": reading, "sure": true })).json();
    let ways = app.post(&format!("{path}/ways"), &json!({})).json();
    for what in ways["ways"][0]["does"].as_array().into_iter().flatten() {
        say(&app, &path, what.clone());
    }
    app.post(&format!("{path}/look"), &json!({ "sip": "jug" })).json();
    assert_eq!(read["truth"], Value::Null, "the truth comes at the end");
    say(&app, &path, done(&step(3)));
    let end = say(&app, &path, json!({ "finished": {} }));
    let truth = &end["truth"];
    assert!(truth["end"]["acidity"].as_f64().unwrap() > 0.1, "{truth}");
    assert!(truth["from_target"].as_f64().unwrap() < 1.6, "it was put right: {truth}");
    // What is believed of how much there is, and how much there really is, count the same.
    let (really, believed) =
        (&truth["volume_ml"], &end["stands"]["report"]["profile"]["volume_ml"]);
    let (really, believed) = (really.as_f64().unwrap(), believed.as_f64().unwrap());
    assert!((really / believed - 1.0).abs() < 0.1, "{really} and {believed}");
    // What turned out otherwise than usual is told where it mattered, the most telling first.
    let luck = truth["luck"].as_array().unwrap();
    let told = |what: &str| what.ends_with("lime juice") || what.contains("measured out in step");
    assert!(luck.iter().all(|l| told(l["what"].as_str().unwrap())), "{truth}");
    assert!(luck.is_sorted_by_key(|l| -l["moves"].as_f64().unwrap()), "{truth}");
    assert!(truth["most_telling"].as_str().unwrap().contains("Best thing to measure"), "{truth}");
    // It teaches nothing and is counted nowhere.
    assert_eq!(end["teaches"], json!([]));
    app.post(&format!("{path}/teach"), &json!({ "learn": true })).problem(422);
    let list = app.get("/api/batches").json();
    assert_eq!((&list["readings"], &list["batches"][0]["practice"]), (&json!(0), &json!(true)));
}

#[test]
fn the_practice_clock_is_hurried_to_the_end_of_a_wait_and_keeps_its_time_over_a_power_cut() {
    let app = Application::start("serve");
    let (path, _) = practice(&app, hibiscus());
    let clock = format!("{path}/clock");
    app.post(&clock, &json!({ "do": "to_next" })).problem(422);
    app.post(&clock, &json!({ "do": "rate", "times": 1e6 })).problem(422);
    say(&app, &path, done("water"));
    say(&app, &path, done("calyces"));
    let began = say(&app, &path, json!({ "began": { "step": "steep" } }));
    let ends = state(&began, "steep")["until"].as_f64().unwrap();
    let jumped = app.post(&clock, &json!({ "do": "to_next" })).json();
    assert!((jumped["now"].as_f64().unwrap() - ends).abs() < 0.2, "{} {ends}", jumped["now"]);
    let app = app.cut_and_restart();
    let after = app.get(&path).json();
    assert!(after["now"].as_f64().unwrap() >= ends - 0.01);
    // What is said is said at that time.
    let said = say(&app, &path, done("steep"));
    let at = said["said"].as_array().unwrap().last().unwrap()["at"].as_f64().unwrap();
    assert!(at >= ends - 0.01, "{at}");
    // Other batches have the clock on the wall.
    let (other, _) = begin(&app, limeade());
    app.post(&format!("{other}/clock"), &json!({ "do": "to_next" })).problem(422);
    app.post(&format!("{other}/look"), &json!({ "sip": "jug" })).problem(422);
}

/// Stand-ins as a process of their own.
struct Bridge {
    process: Child,
    address: String,
}

impl Bridge {
    fn start() -> Self {
        let mut process =
            binary().args(["instruments", "--port", "0"]).stdout(Stdio::piped()).spawn().unwrap();
        let mut lines = BufReader::new(process.stdout.take().unwrap()).lines();
        let line = lines.next().unwrap().unwrap();
        Self { process, address: line.rsplit(' ').next().unwrap().to_owned() }
    }
}

impl Drop for Bridge {
    fn drop(&mut self) {
        let _ = self.process.kill();
        let _ = self.process.wait();
    }
}

#[test]
fn a_scale_on_a_bridge_is_read_tared_and_missed_when_it_goes_away() {
    let bridge = Bridge::start();
    let app = Application::start_told(&["--instruments", &bridge.address]);
    let scale = "kitchen1.scale-1";
    assert_eq!(settled(&app, scale, false)["value"], 0.0);
    let mut hand = TcpStream::connect(&bridge.address).unwrap();
    hand.write_all(b"{\"do\":\"pour\",\"grams\":180}\n").unwrap();
    until("the sugar", || (settled(&app, scale, false)["value"] == 180.0).then_some(()));
    assert_eq!(
        app.post(&format!("/api/instruments/{scale}"), &json!({ "do": "tare" })).status,
        204
    );
    until("nothing", || (settled(&app, scale, false)["value"] == 0.0).then_some(()));
    app.post("/api/instruments/kitchen1.oven", &json!({ "do": "tare" })).problem(422);
    app.post(&format!("/api/instruments/{scale}"), &json!({ "do": "pour", "grams": 1e9 }))
        .problem(422);
    drop(bridge);
    until("word that it is gone", || {
        let all = app.get("/api/instruments").json();
        all.to_string().contains("\"gone\"").then_some(())
    });
    app.post(&format!("/api/instruments/{scale}"), &json!({ "do": "tare" })).problem(422);
}

#[test]
fn a_bridge_elsewhere_is_not_spoken_to() {
    let refused = binary().args(["--instruments", "192.0.2.7:7350"]).output().unwrap();
    assert!(!refused.status.success());
    assert!(String::from_utf8_lossy(&refused.stderr).contains("on this computer: 127.0.0.1"));
}

#[test]
fn a_finished_batch_teaches_the_kitchen_and_what_was_taught_is_taken_back() {
    let app = Application::start("serve");
    let (path, batch) = begin(&app, limeade());
    let step = |i: usize| batch["stands"]["steps"][i]["id"].as_str().unwrap().to_owned();
    let teach = format!("{path}/teach");
    app.post(&teach, &json!({ "learn": true })).problem(422);
    for i in 0..3 {
        say(&app, &path, done(&step(i)));
    }
    say(&app, &path, json!({ "came_out": { "step": step(0), "amount": "160 ml" } }));
    say(&app, &path, done(&step(3)));
    let end = say(
        &app,
        &path,
        json!({ "finished": { "place": "upper shelf", "bottles": 2, "volume": "1 l" } }),
    );
    let taught = end["teaches"].as_array().unwrap();
    assert!(
        taught.iter().any(|t| t["message"].as_str().unwrap().contains("gave 160 ml")),
        "{taught:?}"
    );
    assert_eq!(end["learned"], Value::Null);
    let learned = app.post(&teach, &json!({ "learn": true })).json();
    assert_eq!(learned["learned"], true);
    let kitchen = || app.get("/api/kitchen").json()["kitchen"].clone();
    assert_eq!(kitchen()["readings"][0]["juice_ml"], 160.0);
    // Said again it counts once.
    app.post(&teach, &json!({ "learn": true })).json();
    assert_eq!(kitchen()["readings"].as_array().unwrap().len(), 1);
    let left = app.post(&teach, &json!({ "learn": false })).json();
    assert_eq!(left["learned"], false);
    assert_eq!(kitchen().get("readings"), None);
    // It stands in the list with what was written beside what was made.
    let list = app.get(&format!("/api/batches?drink={}", batch["drink"].as_str().unwrap())).json();
    let ending = &list["batches"][0]["ending"];
    assert_eq!((&ending["place"], &ending["bottles"]), (&json!("upper shelf"), &json!(2)));
    let acid = |of: &str| ending[of]["acidity"].as_f64().unwrap();
    assert!(acid("made") > acid("written") * 1.1, "there was more juice: {ending}");
    for (what, field) in [
        (json!({ "finished": { "bottles": 0 } }), "what"),
        (json!({ "taught": { "learned": true } }), "what"),
    ] {
        let problem =
            app.post(&format!("{path}/happenings"), &json!({ "what": what })).problem(422);
        assert!(problem["errors"].to_string().contains(field), "{problem}");
    }
}

#[test]
fn how_to_go_on_is_asked_with_words_and_without() {
    let app = Application::start("serve");
    let (path, batch) = begin(&app, limeade());
    let step = |i: usize| batch["stands"]["steps"][i]["id"].as_str().unwrap().to_owned();
    say(&app, &path, done(&step(0)));
    let ways = format!("{path}/ways");
    assert_eq!(app.post(&ways, &json!({})).json()["ways"], json!([]), "it goes as written");
    say(&app, &path, json!({ "came_out": { "step": step(0), "amount": "190 ml" } }));
    let found = app.post(&ways, &json!({})).json();
    assert!(found["ways"][0]["words"][0].as_str().unwrap().len() > 5, "{found}");
    let words = json!({ "words": [{ "too": "sharp", "how": "clearly" }] });
    assert!(!app.post(&ways, &words).json()["ways"].as_array().unwrap().is_empty());
    let many: Vec<Value> = (0..40).map(|_| words["words"][0].clone()).collect();
    app.post(&ways, &json!({ "words": many })).problem(422);
    app.post(&ways, &json!({ "words": [{ "too": "blue", "how": "far" }] })).problem(422);
    app.post("/api/batches/none/ways", &json!({})).problem(404);
}

#[test]
fn what_is_on_the_go_comes_with_its_waits_the_one_that_needs_hands_first() {
    let app = Application::start("serve");
    let (waiting, _) = begin(&app, hibiscus());
    for step in ["water", "calyces"] {
        say(&app, &waiting, done(step));
    }
    say(&app, &waiting, json!({ "began": { "step": "steep" } }));
    let (fresh, _) = begin(&app, limeade());
    let going = app.get("/api/going").json();
    let names: Vec<&str> =
        going["batches"].as_array().unwrap().iter().map(|b| b["name"].as_str().unwrap()).collect();
    assert_eq!(names, ["Limeade", "Hibiscus"]);
    let wait = &going["batches"][1]["waits"][0];
    assert_eq!(wait["step"], "steep");
    let lasts = wait["until"].as_f64().unwrap() - wait["since"].as_f64().unwrap();
    assert!((lasts - 20.0).abs() < 0.1, "{wait}");
    say(&app, &fresh, json!({ "finished": {} }));
    assert_eq!(app.get("/api/going").json()["batches"].as_array().unwrap().len(), 1);
}

#[test]
fn a_batch_is_begun_from_a_plan_at_its_size() {
    let app = Application::start("serve");
    let kept = app.post("/api/drinks", &limeade()).json();
    let tomorrow = jiff::Zoned::now().date().tomorrow().unwrap();
    let plan = json!({
        "name": "Saturday", "serving": format!("{tomorrow}T15:00"),
        "drinks": [{ "id": "a", "drink": kept["id"], "name": "Limeade",
                     "size": { "glasses": { "glasses": 12, "size": "250 ml" } } }]
    });
    let plan = app.post("/api/plans", &plan).json();
    let make = format!("/api/plans/{}/make", plan["id"].as_str().unwrap());
    let batch = app.post(&make, &json!({ "entry": "a" })).json();
    let glasses = batch["stands"]["report"]["profile"]["glasses"].as_f64().unwrap();
    assert!((glasses - 12.0).abs() < 0.01, "{glasses}");
    assert!(batch["serve_at"].as_f64().unwrap() > 60.0, "{}", batch["serve_at"]);
    assert!(batch["stands"]["ready_at"].as_f64().unwrap() < batch["serve_at"].as_f64().unwrap());
    assert_eq!(batch["plan"]["entry"], "a");
    assert_eq!(app.get("/api/going").json()["batches"][0]["plan"]["id"], plan["id"]);
    app.post(&make, &json!({ "entry": "z" })).problem(422);
    app.post("/api/plans/none/make", &json!({ "entry": "a" })).problem(404);
}

#[test]
fn the_demo_has_three_months_of_batches_that_taught_its_kitchen() {
    let app = Application::start("demo");
    let list = app.get("/api/batches").json();
    let all = list["batches"].as_array().unwrap();
    let finished: Vec<&Value> = all.iter().filter(|b| !b["finished_at"].is_null()).collect();
    assert_eq!((finished.len(), all.len()), (14, 17));
    assert!(finished.iter().all(|b| !b["ending"].is_null()));
    let (readings, inside) = (list["readings"].as_f64().unwrap(), list["inside"].as_f64().unwrap());
    assert!(readings >= 20.0 && inside / readings > 0.7, "{inside} of {readings}");
    let kitchen = app.get("/api/kitchen").json()["kitchen"].clone();
    assert!(kitchen["lots"].as_array().unwrap().len() >= 10);
    // Any of them can be opened, and what it taught taken back.
    let path = format!("/api/batches/{}", finished[0]["id"].as_str().unwrap());
    assert_eq!(app.get(&path).json()["learned"], true);
    app.post(&format!("{path}/teach"), &json!({ "learn": false })).json();
    let taught =
        |kitchen: &Value| ["lots", "readings"].map(|of| kitchen[of].as_array().map_or(0, Vec::len));
    let fewer = taught(&app.get("/api/kitchen").json()["kitchen"]);
    assert!(fewer.iter().sum::<usize>() < taught(&kitchen).iter().sum(), "{fewer:?}");
}
