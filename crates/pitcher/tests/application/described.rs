//! Every answer that a test hears is held against the description of the API, whatever the test is about.

use std::collections::HashMap;
use std::sync::LazyLock;

use boon::{Compiler, SchemaIndex, Schemas};
use serde_json::{Value, json};

use crate::support::{Application, limeade, root};

static DESCRIPTION: LazyLock<Value> = LazyLock::new(|| {
    let text = std::fs::read_to_string(root().join("docs/openapi.json")).unwrap();
    serde_json::from_str(&text).unwrap()
});

/// What the description is called where its parts refer to each other.
const NAME: &str = "http://keen.invalid/openapi.json";

/// What is expected of answers.
struct Expected {
    schemas: Schemas,
    /// By where it is described.
    known: HashMap<String, SchemaIndex>,
}

static EXPECTED: LazyLock<Expected> = LazyLock::new(|| {
    let mut compiler = Compiler::new();
    compiler.add_resource(NAME, DESCRIPTION.clone()).unwrap();
    let mut all = Expected { schemas: Schemas::new(), known: HashMap::new() };
    let under = |of: &'static Value| of.as_object().into_iter().flatten();
    for (path, item) in under(&DESCRIPTION["paths"]) {
        for (method, operation) in under(item) {
            for (code, answer) in under(&operation["responses"]) {
                for (kind, _) in under(&answer["content"]) {
                    let at = place(&[path, method, code, kind]);
                    let made = compiler.compile(&format!("{NAME}#{at}"), &mut all.schemas);
                    all.known.insert(at, made.unwrap());
                }
            }
        }
    }
    all
});

/// Where in the description it is told what an operation answers, by path, method, status and kind.
fn place([path, method, code, kind]: &[&str; 4]) -> String {
    let all = ["paths", path, method, "responses", code, "content", kind, "schema"];
    let escaped = all.map(|name| name.replace('~', "~0").replace('/', "~1"));
    escaped.map(|name| format!("/{}", name.replace('{', "%7B").replace('}', "%7D"))).concat()
}

/// The operation that a call is, and its description.
fn operation(method: &str, path: &str) -> Option<(&'static str, &'static Value)> {
    let path = path.split('?').next()?;
    let parts: Vec<&str> = path.split('/').collect();
    let fits = |template: &str| {
        let wanted: Vec<&str> = template.split('/').collect();
        wanted.len() == parts.len()
            && wanted.iter().zip(&parts).all(|(w, is)| w.starts_with('{') || w == is)
    };
    let all = DESCRIPTION["paths"].as_object()?;
    // `/api/kept/calendar.ics` is meant before `/api/kept/{id}`.
    let found = all.get_key_value(path).or_else(|| all.iter().find(|(t, _)| fits(t)))?;
    Some((found.0, found.1.get(method.to_ascii_lowercase())?))
}

fn name_of(operation: &Value) -> &str {
    operation["operationId"].as_str().unwrap()
}

/// Fails unless an answer is as the description of the API says.
pub fn as_described(method: &str, path: &str, status: u16, kind: &str, text: &str) {
    let Some((template, operation)) = operation(method, path) else {
        // What isn't described isn't there, but for the description itself and the page that shows it.
        let known = ["/api/openapi.json", "/api/docs"].iter().any(|own| path.starts_with(own));
        let there = path.starts_with("/api/") && !known && !(400..500).contains(&status);
        assert!(!there, "{method} {path} isn't described");
        return;
    };
    let name = name_of(operation);
    keep(name, status);
    let told = &operation["responses"];
    let codes = [status.to_string(), format!("{}XX", status / 100)];
    let code = codes.iter().find(|code| told.get(code).is_some());
    let code = code.unwrap_or_else(|| panic!("{name}: {status} isn't described"));
    let Some(content) = told[code].get("content").and_then(Value::as_object) else {
        assert!(text.is_empty(), "{name} {status}: nothing is described, and there is {text:.80}");
        return;
    };
    let plain = kind.split(';').next().unwrap_or_default().trim();
    let told =
        content.get(plain).unwrap_or_else(|| panic!("{name} {status}: {kind} isn't described"));
    if !plain.ends_with("json") || told["schema"] == json!({ "type": "string" }) {
        return;
    }
    let answer: Value = serde_json::from_str(text)
        .unwrap_or_else(|error| panic!("{name} {status}: {error} in {text:.200}"));
    let wanted = place(&[template, &method.to_ascii_lowercase(), code, plain]);
    if let Err(wrong) = EXPECTED.schemas.validate(&answer, EXPECTED.known[&wanted]) {
        panic!("{name} {status}: {wrong:.600}");
    }
}

/// Notes a call whose answer is looked at elsewhere: a file, or a stream.
pub fn note(method: &str, path: &str, status: u16) {
    if let Some((_, operation)) = operation(method, path) {
        keep(name_of(operation), status);
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
    for path in [
        "tags",
        "labels",
        "produce",
        "starting-points",
        "step-forms",
        "kept?limit=1",
        "bin?after=2",
    ] {
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
