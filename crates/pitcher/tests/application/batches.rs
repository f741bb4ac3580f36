//! Batches through the API.

use serde_json::{Value, json};

use crate::support::{Application, dearest, limeade};

/// Calyces steeped in a pot, strained into a jug.
pub fn hibiscus() -> Value {
    json!({
        "name": "Hibiscus", "family": "infusion",
        "vessels": [
            { "id": "pot", "kind": "pot" }, { "id": "sieve", "kind": "sieve" },
            { "id": "jug", "kind": "jug" }
        ],
        "steps": [
            { "id": "water", "do": { "add": { "into": "pot", "ingredient": "water", "amount": "1 l", "warmth": "boiling" } } },
            { "id": "calyces", "do": { "add": { "into": "pot", "ingredient": "hibiscus_dried", "amount": "40 g" } } },
            { "id": "steep", "do": { "infuse": { "vessel": "pot", "minutes": 20 } } },
            { "id": "strain", "do": { "strain": { "from": "pot", "through": "sieve", "into": "jug" } } },
            { "id": "sugar", "do": { "add": { "into": "jug", "ingredient": "white_sugar", "amount": "120 g" } } }
        ]
    })
}

pub fn begin(app: &Application, drink: Value) -> (String, Value) {
    let kept = app.post("/api/drinks", &drink).json();
    let body = json!({ "of": kept["id"], "drink": kept["drink"] });
    let batch = app.post("/api/batches", &body).json();
    (format!("/api/batches/{}", batch["id"].as_str().unwrap()), batch)
}

pub fn say(app: &Application, path: &str, what: Value) -> Value {
    app.post(&format!("{path}/happenings"), &json!({ "what": what })).json()
}

pub fn done(step: &str) -> Value {
    json!({ "done": { "step": step } })
}

pub fn state<'a>(batch: &'a Value, step: &str) -> &'a Value {
    let steps = batch["stands"]["steps"].as_array().unwrap();
    steps.iter().find(|s| s["id"] == step).unwrap()
}

#[test]
fn a_batch_is_made_measured_and_finished() {
    let app = Application::start("serve");
    let (path, batch) = begin(&app, hibiscus());
    assert_eq!(batch["stands"]["next"], "water");
    say(&app, &path, done("water"));
    let used = json!({ "used": { "step": "calyces", "amount": "60 g" } });
    let sharper = say(&app, &path, used);
    let acid = |b: &Value| b["stands"]["report"]["map"]["point"]["acidity"].as_f64().unwrap();
    assert!(acid(&sharper) > 1.2 * acid(&batch), "{} {}", acid(&sharper), acid(&batch));
    for step in ["calyces", "steep", "strain"] {
        say(&app, &path, done(step));
    }
    let reading = json!({ "reading": { "vessel": "jug", "quantity": "volume", "value": 640 } });
    let read = say(&app, &path, reading);
    assert_eq!(read["stands"]["readings"][0]["value"], 640.0);
    say(&app, &path, done("sugar"));
    let end = say(&app, &path, json!({ "finished": { "place": "upper shelf", "note": "" } }));
    assert!(end["finished_at"].is_string());
    let refused = json!({ "what": done("sugar") });
    app.post(&format!("{path}/happenings"), &refused).problem(422);
    let list = app.get(&format!("/api/batches?drink={}", batch["drink"].as_str().unwrap())).json();
    assert_eq!(list["batches"][0]["id"], batch["id"]);
    // It goes on after all.
    let of = end["said"].as_array().unwrap().len() - 1;
    let back = say(&app, &path, json!({ "taken_back": { "of": of } }));
    assert_eq!(back["finished_at"], Value::Null);
}

#[test]
fn a_wait_goes_on_through_a_power_cut_and_nothing_counts_twice() {
    let app = Application::start("serve");
    let (path, _) = begin(&app, hibiscus());
    say(&app, &path, done("water"));
    say(&app, &path, done("calyces"));
    let began = say(&app, &path, json!({ "began": { "step": "steep" } }));
    let until = state(&began, "steep")["until"].as_f64().unwrap();
    let app = app.cut_and_restart();
    let after = app.get(&path).json();
    assert_eq!(state(&after, "steep")["state"], "running");
    assert!((state(&after, "steep")["until"].as_f64().unwrap() - until).abs() < 1e-6);
    // An answer was lost, and it is said again under the same key.
    let body = json!({ "what": { "note": { "text": "smells of bay" } } }).to_string();
    let key = [("idempotency-key", "once-and-for-all")];
    for _ in 0..3 {
        let said = app.call_with("POST", &format!("{path}/happenings"), Some(&body), &key).json();
        assert_eq!(said["said"].as_array().unwrap().len(), 4);
    }
}

#[test]
fn a_reading_out_of_all_likelihood_is_asked_about_first() {
    let app = Application::start("serve");
    let (path, _) = begin(&app, limeade());
    let steps = app.get(&path).json()["stands"]["steps"].clone();
    for step in steps.as_array().unwrap().iter().take(3) {
        say(&app, &path, done(step["id"].as_str().unwrap()));
    }
    let reading = json!({ "reading": { "vessel": "jug", "quantity": "brix", "value": 40 } });
    let call = format!("{path}/happenings");
    let asked = app.post(&call, &json!({ "what": reading })).problem(409);
    assert_eq!(asked["type"], "doubtful");
    assert!(asked["detail"].as_str().unwrap().contains("expected"), "{asked}");
    assert_eq!(app.get(&path).json()["said"].as_array().unwrap().len(), 3, "it isn't believed");
    let sure = app.post(&call, &json!({ "what": reading, "sure": true })).json();
    assert_eq!(sure["stands"]["readings"].as_array().unwrap().len(), 1);
}

#[test]
fn what_cannot_have_happened_is_refused() {
    let app = Application::start("serve");
    let (path, _) = begin(&app, hibiscus());
    let call = format!("{path}/happenings");
    for (what, status, field) in [
        (done("moon"), 422, "what.step"),
        (done("strain"), 422, "what.step"),
        (
            json!({ "reading": { "vessel": "jug", "quantity": "brix", "value": 10 } }),
            422,
            "what.vessel",
        ),
        (
            json!({ "reading": { "vessel": "pot", "quantity": "brix", "value": 900 } }),
            422,
            "what.value",
        ),
        (json!({ "reading": { "vessel": "pot", "quantity": "smell", "value": 9 } }), 422, "what"),
        (json!({ "used": { "step": "calyces", "amount": "some" } }), 422, "what"),
        (json!({ "taken_back": { "of": 99 } }), 422, "what.of"),
        (json!({ "exploded": {} }), 422, "what"),
    ] {
        let problem = app.post(&call, &json!({ "what": what })).problem(status);
        let errors = problem["errors"].to_string();
        assert!(errors.contains(field), "{what}: {errors}");
    }
    assert_eq!(app.get(&path).json()["said"], json!([]));
    app.get("/api/batches/none").problem(404);
    app.post("/api/batches/none/happenings", &json!({ "what": done("a") })).problem(404);
    let empty = json!({ "name": "A", "family": "lemonade", "vessels": [], "steps": [] });
    app.post("/api/batches", &json!({ "of": "x", "drink": empty })).problem(422);
}

#[test]
fn the_largest_drink_is_made_without_keeping_anyone_waiting() {
    let app = Application::start("serve");
    let began = std::time::Instant::now();
    let body = json!({ "of": "x", "drink": dearest() });
    let batch = app.post("/api/batches", &body).json();
    let path = format!("/api/batches/{}", batch["id"].as_str().unwrap());
    let first = batch["stands"]["next"].as_str().unwrap().to_owned();
    say(&app, &path, done(&first));
    assert!(began.elapsed().as_secs() < 20, "{:?}", began.elapsed());
    // Nothing is claimed of it that was not worked out.
    assert_eq!(batch["stands"]["measure"], Value::Null);
}
