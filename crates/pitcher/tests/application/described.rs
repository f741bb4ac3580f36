//! Every answer that a test hears is held against the description of the API, whatever the test is about.

use std::collections::HashMap;
use std::sync::{LazyLock, Mutex};

use jsonschema::Validator;
use serde_json::{Value, json};

use crate::support::{Application, limeade, root};

static DESCRIPTION: LazyLock<Value> = LazyLock::new(|| {
    let text = std::fs::read_to_string(root().join("docs/openapi.json")).unwrap();
    serde_json::from_str(&text).unwrap()
});

/// What is expected of an operation's answers, by operation and status, made when it is first needed.
static EXPECTED: LazyLock<Mutex<HashMap<String, Validator>>> = LazyLock::new(Mutex::default);

/// The operation that a call is, and its description.
fn operation(method: &str, path: &str) -> Option<(String, &'static Value)> {
    let path = path.split('?').next()?;
    let parts: Vec<&str> = path.split('/').collect();
    let fits = |template: &str| {
        let wanted: Vec<&str> = template.split('/').collect();
        wanted.len() == parts.len()
            && wanted.iter().zip(&parts).all(|(w, is)| w.starts_with('{') || w == is)
    };
    let all = DESCRIPTION["paths"].as_object()?;
    // `/api/kept/calendar.ics` is meant before `/api/kept/{id}`.
    let found =
        all.get(path).or_else(|| all.iter().find(|(t, _)| fits(t)).map(|(_, item)| item))?;
    let operation = found.get(method.to_ascii_lowercase())?;
    Some((operation["operationId"].as_str()?.to_owned(), operation))
}

/// Fails unless an answer is as the description of the API says.
pub fn as_described(method: &str, path: &str, status: u16, kind: &str, text: &str) {
    let Some((name, operation)) = operation(method, path) else {
        // What isn't described isn't there, but for the description itself and the page that shows it.
        let known = ["/api/openapi.json", "/api/docs"].iter().any(|own| path.starts_with(own));
        let there = path.starts_with("/api/") && !known && !(400..500).contains(&status);
        assert!(!there, "{method} {path} isn't described");
        return;
    };
    keep(&name, status);
    let told = &operation["responses"];
    let range = format!("{}XX", status / 100);
    let known =
        [status.to_string().as_str(), &range].map(|s| told.get(s)).into_iter().flatten().next();
    let known = known.unwrap_or_else(|| panic!("{name}: {status} isn't described"));
    let Some(content) = known.get("content").and_then(Value::as_object) else {
        assert!(text.is_empty(), "{name} {status}: nothing is described, and there is {text:.80}");
        return;
    };
    let plain = kind.split(';').next().unwrap_or_default().trim();
    let told =
        content.get(plain).unwrap_or_else(|| panic!("{name} {status}: {kind} isn't described"));
    if !plain.ends_with("json") || told["schema"] == json!({ "type": "string" }) {
        return;
    }
    let mut expected = EXPECTED.lock().unwrap_or_else(|held| held.into_inner());
    let expected = expected.entry(format!("{name} {status} {plain}")).or_insert_with(|| {
        let mut schema = told["schema"].clone();
        schema["components"] = DESCRIPTION["components"].clone();
        jsonschema::draft202012::new(&schema).unwrap()
    });
    let answer: Value = serde_json::from_str(text)
        .unwrap_or_else(|error| panic!("{name} {status}: {error} in {text:.200}"));
    if let Some(wrong) = expected.iter_errors(&answer).next() {
        panic!("{name} {status}, {}: {}", wrong.instance_path(), wrong.masked());
    }
}

/// Notes a call whose answer is looked at elsewhere: a file, or a stream.
pub fn note(method: &str, path: &str, status: u16) {
    if let Some((name, _)) = operation(method, path) {
        keep(&name, status);
    }
}

/// Keeps that an operation was called and did what it is for; `cargo xtask test` looks whether each was.
fn keep(operation: &str, status: u16) {
    if status < 300
        && let Ok(folder) = std::env::var("KEEN_PITCHER_CALLED")
    {
        std::fs::write(std::path::Path::new(&folder).join(operation), "").unwrap();
    }
}

/// What no other test has a reason to ask.
#[test]
fn lists_versions_and_small_changes_are_answered_as_described() {
    let app = Application::start("demo");
    for path in ["tags", "labels", "produce", "starting-points", "kept?limit=1", "bin?after=2"] {
        app.get(&format!("/api/{path}")).json();
    }
    let drink = app.get("/api/drinks?limit=1").json();
    assert_eq!(drink["next"], 1, "{drink:.200}");
    let id = drink["drinks"][0]["id"].as_str().unwrap().to_owned();
    let tags = json!({ "tags": ["Sunday"] });
    assert_eq!(app.put(&format!("/api/drinks/{id}/tags"), &tags).status, 204);
    let version = &app.get(&format!("/api/drinks/{id}/versions")).json()["versions"][0]["version"];
    app.get(&format!("/api/drinks/{id}/versions/{version}")).json();
    let bottle = app.get("/api/kept").json()["bottles"][0]["id"].clone();
    app.get(&format!("/api/kept/{}", bottle.as_str().unwrap())).json();
    for of in ["kitchen", "settings"] {
        app.call("PATCH", &format!("/api/{of}"), Some("[]")).json();
    }
    let reference = json!({ "reference": { "name": "A bought one", "brix": 11.0, "ph": 2.7 } });
    app.post("/api/compute/reference", &reference).json();
    let row = json!({
        "drink": limeade(), "moves": "sugar", "glasses": 5, "step": 1.3, "sample_ml": 120.0, "tasters": 2
    });
    app.post("/api/compute/row", &row).json();
    // Everything is there, whatever the pages.
    let all = app.get("/api/drinks?limit=500").json();
    let mut seen = 0;
    let mut after = json!(0);
    while !after.is_null() {
        let page = app.get(&format!("/api/drinks?limit=5&after={after}")).json();
        seen += page["drinks"].as_array().unwrap().len();
        after = page["next"].clone();
    }
    assert_eq!(json!(seen), all["total"]);
}

#[test]
#[should_panic(expected = "read_health 200")]
fn an_answer_that_is_not_as_described_is_found() {
    as_described("GET", "/api/health", 200, "application/json", r#"{"status":5,"version":"1"}"#);
}
