use serde_json::json;

use crate::support::{Application, limeade};

#[test]
fn a_drink_is_kept_changed_and_found_again() {
    let app = Application::start("serve");
    assert_eq!(app.get("/api/drinks").json()["total"], 0);
    let made = app.post("/api/drinks", &limeade()).json();
    assert_eq!(made["version"], 1);
    let path = format!("/api/drinks/{}", made["id"].as_str().unwrap());
    let mut drink = made["drink"].clone();
    assert!(drink["steps"][0]["id"].as_str().is_some_and(|id| !id.is_empty()));
    drink["name"] = json!("Limeade, sharper");
    let saved = app.put(&path, &json!({ "version": 1, "drink": drink })).json();
    assert_eq!(saved["version"], 2);
    let shelf = app.get("/api/drinks?find=SHARPER").json();
    assert_eq!(shelf["drinks"][0]["name"], "Limeade, sharper");
    assert_eq!(shelf["drinks"][0]["stands_in"], "jug");
    assert!(shelf["drinks"][0]["colour"].as_str().unwrap().starts_with('#'));
    assert_eq!(app.get("/api/drinks?find=punch").json()["total"], 0);
}

#[test]
fn two_windows_do_not_lose_each_others_change() {
    let app = Application::start("serve");
    let made = app.post("/api/drinks", &limeade()).json();
    let path = format!("/api/drinks/{}", made["id"].as_str().unwrap());
    let with_note = |note: &str| {
        let mut drink = made["drink"].clone();
        drink["note"] = json!(note);
        json!({ "version": 1, "drink": drink })
    };
    app.put(&path, &with_note("first")).json();
    let refused = app.put(&path, &with_note("second")).problem(409);
    assert_eq!(refused["current"]["version"], 2);
    assert_eq!(refused["current"]["drink"]["note"], "first");
    assert_eq!(app.get(&path).json()["drink"]["note"], "first");
}

#[test]
fn what_was_saved_survives_a_power_cut() {
    let app = Application::start("serve");
    let made = app.post("/api/drinks", &limeade()).json();
    app.put("/api/settings", &json!({ "units": "us", "theme": "dark" })).json();
    let app = app.cut_and_restart();
    let path = format!("/api/drinks/{}", made["id"].as_str().unwrap());
    assert_eq!(app.get(&path).json(), made);
    assert_eq!(app.get("/api/settings").json()["units"], "us");
}

#[test]
fn taken_off_the_shelf_and_put_back() {
    let app = Application::start("serve");
    let made = app.post("/api/drinks", &limeade()).json();
    let path = format!("/api/drinks/{}", made["id"].as_str().unwrap());
    assert_eq!(app.call("DELETE", &path, None).status, 204);
    app.get(&path).problem(404);
    app.put(&path, &json!({ "version": 1, "drink": limeade() })).problem(404);
    assert_eq!(app.call("POST", &format!("{path}/restore"), None).json()["id"], made["id"]);
    assert_eq!(app.get(&path).json()["version"], 1);
}

#[test]
fn a_file_of_the_open_format_goes_out_and_comes_in() {
    let app = Application::start("demo");
    let shelf = app.get("/api/drinks").json();
    assert!(shelf["total"].as_u64().unwrap() >= 4);
    for entry in shelf["drinks"].as_array().unwrap() {
        let id = entry["id"].as_str().unwrap();
        let file = app.get(&format!("/api/drinks/{id}/file"));
        assert!(file.text.contains("\"format\": \"keen-pitcher/drink\""));
        let made = app.call("POST", "/api/drinks", Some(&file.text)).json();
        assert_eq!(made["drink"], app.get(&format!("/api/drinks/{id}")).json()["drink"]);
    }
}

#[test]
fn a_drink_is_run_and_nothing_is_kept() {
    let app = Application::start("serve");
    let report = app.post("/api/compute/trace", &limeade()).json();
    assert_eq!(report["frames"].as_array().unwrap().len(), 4);
    let profile = &report["profile"];
    // Four limes of 27 ml and 100 g sugar in a litre.
    assert!((profile["sugar_g_per_l"].as_f64().unwrap() - 101.0).abs() < 1.5, "{profile}");
    assert!((profile["acidity_g_per_l"].as_f64().unwrap() - 5.1).abs() < 0.2, "{profile}");
    assert_eq!(report["map"]["point"]["band"], "round");
    assert_eq!(report["lines"][0]["text"], "4 limes");
    assert_eq!(report["lines"][0]["also"], "110 ml");
    assert_eq!(app.get("/api/drinks").json()["total"], 0);
}

#[test]
fn a_glass_becomes_a_pitcher() {
    let app = Application::start("serve");
    let size = json!({ "glasses": { "glasses": 12, "size": "1 cup" } });
    let scaled = app.post("/api/compute/size", &json!({ "drink": limeade(), "size": size })).json();
    let steps = &scaled["drink"]["steps"];
    assert_eq!(steps[3]["do"]["serve"]["glasses"], 12);
    let volume = scaled["report"]["profile"]["volume_ml"].as_f64().unwrap();
    assert!((volume - 12.0 * 236.588).abs() < 2.0, "{volume}");
    assert_eq!(scaled["report"]["lines"][0]["text"], "11 limes");
    let vessels = scaled["report"]["vessels"].as_array().unwrap();
    let jug = vessels.iter().find(|v| v["id"] == "jug").unwrap();
    assert!(jug["over_ml"].as_f64().unwrap() > 1000.0, "the jug of 1.5 l is far too small");
}

#[test]
fn the_cupboard_tells_its_sources() {
    let app = Application::start("serve");
    let all = app.get("/api/ingredients").json();
    let all = all.as_array().unwrap();
    assert!(all.len() >= 60);
    for it in all {
        assert!(!it["sources"].as_array().unwrap().is_empty(), "{it}");
        // The amount to begin with must be one that can be put in.
        let kind = if it["can_be_squeezed"] == true { "squeeze" } else { "add" };
        let mut drink = limeade();
        drink["steps"] = json!([{ "do": { kind: {
            "into": "jug", "ingredient": it["id"], "amount": it["usual_amount"]
        } } }]);
        let report = app.post("/api/compute/trace", &drink).json();
        assert_eq!(report["frames"][0]["notices"], json!([]), "{it}");
        assert!(report["lines"][0]["grams"].as_f64().unwrap() > 0.0, "{it}");
    }
}

#[test]
fn the_description_names_every_call() {
    let app = Application::start("serve");
    let document = app.get("/api/openapi.json").json();
    for (path, method) in [
        ("/api/drinks", "get"),
        ("/api/drinks", "post"),
        ("/api/drinks/{id}", "get"),
        ("/api/drinks/{id}", "put"),
        ("/api/drinks/{id}", "delete"),
        ("/api/drinks/{id}/restore", "post"),
        ("/api/compute/trace", "post"),
        ("/api/health", "get"),
    ] {
        assert!(document["paths"][path][method].is_object(), "{method} {path}");
    }
    let page = app.get("/api/docs/");
    assert_eq!(page.status, 200);
    assert!(page.kind.starts_with("text/html"));
    assert_eq!(app.get("/api/health").json()["status"], "ok");
}

#[test]
fn a_page_may_load_nothing_from_elsewhere() {
    let app = Application::start("serve");
    for path in ["/", "/drinks/any", "/api/health"] {
        let answer = app.get(path);
        assert_eq!(answer.status, 200, "{path}");
        assert!(answer.policy.contains("default-src 'none'"), "{}", answer.policy);
        assert!(answer.policy.contains("script-src 'self';"), "{}", answer.policy);
        assert!(!answer.policy.contains("unsafe"), "{}", answer.policy);
    }
    let page = app.get("/");
    let nonce = page.policy.split("'nonce-").nth(1).unwrap().split('\'').next().unwrap();
    assert!(page.text.contains(nonce), "the page carries the nonce of its answer");
    assert!(!page.text.contains("<script>"), "no script stands in the page itself");
}
