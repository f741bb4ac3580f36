use serde_json::json;

use crate::support::{Application, binary, fetch, limeade, send};

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
    assert!((profile["acidity_g_per_l"].as_f64().unwrap() - 5.8).abs() < 0.2, "{profile}");
    assert_eq!(report["map"]["point"]["band"], "bright");
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
fn amounts_are_worked_out_from_a_target() {
    let app = Application::start("serve");
    let target = json!({ "sweetness": 11.0, "acidity": 0.7 });
    let solved = app
        .post("/api/compute/solve", &json!({ "drink": limeade(), "aim": { "target": target } }))
        .json();
    assert_eq!(solved["reached"], true, "{}", solved["stops"]);
    let report = app.post("/api/compute/trace", &solved["drink"]).json();
    let point = &report["map"]["point"];
    assert!((point["sweetness"].as_f64().unwrap() - 11.0).abs() < 0.055, "{point}");
    assert!((point["acidity"].as_f64().unwrap() - 0.7).abs() < 0.0035, "{point}");
    assert!(solved["moved"].as_array().unwrap().iter().any(|m| m["name"] == "Lime juice"));
    let step = solved["drink"]["steps"][0]["id"].clone();
    let bounds = json!([{ "step": step, "most": "5 limes" }]);
    let aim = json!({ "target": { "sweetness": 11.0, "acidity": 1.2 }, "bounds": bounds });
    let mut drink = limeade();
    drink["steps"] = solved["drink"]["steps"].clone();
    let nearest = app.post("/api/compute/solve", &json!({ "drink": drink, "aim": aim })).json();
    assert_eq!(nearest["reached"], false);
    assert!(nearest["stops"].to_string().contains("limited to 5 limes"), "{nearest}");
}

#[test]
fn a_pitcher_is_put_right_and_an_ingredient_swapped() {
    let app = Application::start("serve");
    let read = json!({ "read": { "volume": "1.5 l", "capacity": "2 l", "brix": 9.0, "ph": 2.5 } });
    let asked = json!({ "pitcher": read, "words": [{ "too": "sharp", "how": "clearly" }] });
    let found = app.post("/api/compute/correct", &asked).json();
    let ways = found["ways"].as_array().unwrap();
    assert!(!ways.is_empty() && ways.iter().all(|w| w["volume_ml"].as_f64().unwrap() <= 2000.0));
    let traced = json!({ "traced": { "drink": limeade(), "vessel": "jug", "step": null } });
    let asked = json!({ "pitcher": traced, "words": [] });
    app.post("/api/compute/correct", &asked).problem(422);
    let made = app.post("/api/drinks", &limeade()).json();
    let swap = json!({
        "drink": made["drink"], "step": made["drink"]["steps"][1]["id"], "ingredient": "honey"
    });
    let swapped = app.post("/api/compute/swap", &swap).json();
    let (before, after) = (&swapped["before"], &swapped["after"]);
    let sweet = |p: &serde_json::Value| p["sweetness_percent"].as_f64().unwrap();
    assert!((sweet(after) / sweet(before) - 1.0).abs() < 0.03, "{swapped}");
}

#[test]
fn the_fruits_cloud_is_the_same_for_the_same_drink() {
    let app = Application::start("serve");
    let ask = || app.post("/api/compute/spread", &json!({ "drink": limeade() })).json();
    let spread = ask();
    assert_eq!(spread, ask());
    let acidity = &spread["acidity"];
    assert!(acidity["low"].as_f64().unwrap() < 0.9 * acidity["high"].as_f64().unwrap());
    assert!(spread["cloud"]["long"]["acidity"].as_f64().is_some());
}

#[test]
fn own_figures_change_drinks_from_then_on_and_survive() {
    let app = Application::start("serve");
    let made = app.post("/api/drinks", &limeade()).json();
    let acidity = |app: &Application| {
        let report = app.post("/api/compute/trace", &limeade()).json();
        report["profile"]["acidity_percent"].as_f64().unwrap()
    };
    let before = acidity(&app);
    assert_eq!(app.get("/api/kitchen").json()["version"], 0);
    let own = json!({
        "version": 0,
        "kitchen": {
            "figures": { "lime_juice": { "acid": 6.5 } },
            "produce": { "lime/medium": { "juice_ml": 30.0 } },
            "ingredients": [{
                "id": "own_plum_juice", "name": "Plum juice", "kind": "juice", "form": "liquid",
                "sugar": 11.0, "acid": 1.1
            }],
            "vessels": [{ "name": "Big pot", "kind": "pot", "capacity": "8 l", "material": "copper" }]
        }
    });
    assert_eq!(app.put("/api/kitchen", &own).json()["version"], 1);
    // 5.2 g to 6.5 g in 100 g, and 27 ml to 30 ml from each.
    let after = acidity(&app);
    assert!((after / before - 6.5 / 5.19 * 30.0 / 27.0).abs() < 0.05, "{before} to {after}");
    // The same once more is the same; another change on the old state is refused.
    assert_eq!(app.put("/api/kitchen", &own).json()["version"], 1);
    app.put("/api/kitchen", &json!({ "version": 0, "kitchen": {} })).problem(409);
    let app = app.cut_and_restart();
    assert!((acidity(&app) - after).abs() < 1e-9);
    let all = app.get("/api/ingredients").json()["ingredients"].clone();
    let find = |id: &str| all.as_array().unwrap().iter().find(|it| it["id"] == id).cloned();
    assert_eq!(find("own_plum_juice").unwrap()["evidence"], "measured");
    assert_eq!(find("lime_juice").unwrap()["own"], true);
    let mut drink = limeade();
    drink["steps"][1]["do"]["add"]["ingredient"] = json!("own_plum_juice");
    app.post("/api/drinks", &drink).json();
    let file = app.get(&format!("/api/drinks/{}/file", made["id"].as_str().unwrap()));
    assert_eq!(file.status, 200);
    let wrong = json!({ "version": 1, "kitchen": { "figures": { "lime_juice": { "acid": -3 } } } });
    let problem = app.put("/api/kitchen", &wrong).problem(422);
    assert_eq!(problem["errors"][0]["field"], "figures.lime_juice.acid");
}

#[test]
fn steeping_measuring_and_syrup_are_answered() {
    let app = Application::start("demo");
    let shelf = app.get("/api/drinks?find=hibiscus").json();
    let id = shelf["drinks"][0]["id"].as_str().unwrap().to_owned();
    let drink = app.get(&format!("/api/drinks/{id}")).json()["drink"].clone();
    let step = |name: &str| {
        let steps = drink["steps"].as_array().unwrap();
        steps.iter().find(|s| s["do"][name].is_object()).unwrap()["id"].clone()
    };
    let steep = app
        .post("/api/compute/steeping", &json!({ "drink": drink, "step": step("infuse") }))
        .json();
    assert!(steep["enough_after"].as_f64().unwrap() > 3.0);
    let measured =
        json!({ "of": "step", "drink": drink, "step": step("strain"), "volume": "0.95 l" });
    let lesson = app.post("/api/compute/measured", &measured).json();
    assert_eq!(lesson["learned"].as_array().unwrap().len(), 1, "{lesson}");
    assert_eq!(lesson["learned"][0]["figure"]["keeps"], "hibiscus_dried");
    let wrong =
        json!({ "of": "step", "drink": drink, "step": step("strain"), "volume": "3 limes" });
    assert_eq!(
        app.post("/api/compute/measured", &wrong).problem(422)["errors"][0]["field"],
        "volume"
    );
    let syrup = json!({ "amount": "500 g", "proportion": { "by_weight": 2.0 } });
    let found = app.post("/api/compute/syrup", &syrup).json();
    assert!((found["brix"].as_f64().unwrap() - 66.6).abs() < 0.5, "{found}");
    let none = json!({ "amount": "500 g", "proportion": { "by_weight": 0 } });
    assert_eq!(
        app.post("/api/compute/syrup", &none).problem(422)["errors"][0]["field"],
        "proportion"
    );
}

#[test]
fn a_party_is_sized_fitted_and_bought() {
    let app = Application::start("demo");
    let shelf = app.get("/api/drinks?find=hibiscus").json();
    let id = shelf["drinks"][0]["id"].as_str().unwrap().to_owned();
    let drink = app.get(&format!("/api/drinks/{id}")).json()["drink"].clone();
    let size = json!({ "glasses": { "glasses": 48, "size": "200 ml" } });
    let sizes = json!([{ "name": "open day", "size": size }]);
    let ask = json!({ "drink": drink, "sizes": sizes, "units": "us" });
    let sheet = app.post("/api/compute/sheet", &ask).json();
    let column = &sheet["columns"][0];
    assert_eq!((&column["glasses"], &column["noticeable"]), (&json!(48.0), &json!(false)));
    let party = &column["drink"];
    let plan = app.post("/api/compute/vessels", &json!({ "drink": party })).json();
    assert_eq!((&plan["possible"], &plan["batches"]), (&json!(true), &json!(2)), "{plan}");
    let ask = json!({ "drinks": [party, limeade()], "how": { "chance": 0.9 } });
    let bought = app.post("/api/compute/shopping", &ask).json();
    let items = bought["list"]["items"].as_array().unwrap();
    assert!(
        items.iter().any(|i| i["id"] == "orange/medium" && i["count"].as_f64().unwrap() >= 5.0)
    );
    assert!(bought["csv"].as_str().unwrap().contains("oranges"));
    let glass = app.post("/api/compute/glass", &json!({ "drink": party })).json();
    assert_eq!(glass["card"]["standing"].as_array().unwrap().len(), 5);
    assert!(glass["facts"]["ingredients"].to_string().contains("dried hibiscus"));
    for (path, body, field) in [
        ("sheet", json!({ "drink": drink, "sizes": [] }), "sizes"),
        ("shopping", json!({ "drinks": [] }), "drinks"),
        ("shopping", json!({ "drinks": [drink], "how": { "chance": 7 } }), "how.chance"),
        (
            "measured",
            json!({ "of": "fruit", "produce": "lime/medium", "pieces": 0, "juice_ml": 20 }),
            "readings[0].pieces",
        ),
        (
            "measured",
            json!({ "of": "fruit", "produce": "mint/leaf", "pieces": 3, "juice_ml": 20 }),
            "readings[0].produce",
        ),
    ] {
        let problem = app.post(&format!("/api/compute/{path}"), &body).problem(422);
        assert_eq!(problem["errors"][0]["field"], field, "{problem}");
    }
    let odd = json!({ "of": "fruit", "produce": "lime/medium", "pieces": 5, "juice_ml": 600 });
    assert_eq!(app.post("/api/compute/measured", &odd).json()["doubtful"], true);
}

#[test]
fn the_cupboard_tells_its_sources() {
    let app = Application::start("serve");
    let all = app.get("/api/ingredients").json()["ingredients"].clone();
    let all = all.as_array().unwrap();
    assert!(all.len() >= 110);
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

#[test]
fn it_says_what_can_be_done_next_and_how_that_begins() {
    let app = Application::start("serve");
    let next = |at: usize, vessel: &str| {
        app.post(
            "/api/compute/next-steps",
            &json!({ "drink": limeade(), "at": at, "vessel": vessel }),
        )
    };
    let names = |answer: &serde_json::Value| -> Vec<String> {
        let steps = answer["steps"].as_array().unwrap();
        steps
            .iter()
            .map(|s| s["action"].as_object().unwrap().keys().next().unwrap().clone())
            .collect()
    };
    // Before anything is in the jug there is nothing to strain or to serve.
    assert_eq!(names(&next(0, "jug").json()), ["top_up"]);
    let after = next(2, "jug").json();
    assert!(names(&after).contains(&"strain".to_owned()), "{after}");
    // What the drink hasn't got comes along: a sieve, and a pitcher to strain into.
    let strain = after["steps"].as_array().unwrap();
    let strain = strain.iter().find(|s| s["action"]["strain"].is_object()).unwrap();
    let kinds: Vec<_> = strain["vessels"].as_array().unwrap().iter().map(|v| &v["kind"]).collect();
    assert!(kinds.contains(&&json!("fine_sieve")), "{strain}");
    // One more of each kind, by the name that it would have.
    let jug = after["vessels"].as_array().unwrap().iter().find(|v| v["kind"] == "jug").unwrap();
    assert_eq!((&jug["id"], &jug["name"]), (&json!("jug_2"), &json!("Jug 2")));
    assert_eq!(next(0, "tub").problem(422)["errors"][0]["field"], "vessel");
}

#[test]
fn a_measure_that_was_weighed_says_how_dense_a_thing_is() {
    let app = Application::start("serve");
    let weigh = |measure: &str, grams: f64| {
        let cup = json!({ "of": "cup", "measure": measure, "grams": grams });
        app.post("/api/compute/measured", &cup)
    };
    let density = weigh("1 cup", 190.0).json()["density"].as_f64().unwrap();
    assert!((density - 190.0 / 236.588).abs() < 1e-6, "{density}");
    assert!((weigh("2 tbsp", 25.0).json()["density"].as_f64().unwrap() - 0.845).abs() < 0.001);
    assert_eq!(weigh("3 limes", 190.0).problem(422)["errors"][0]["field"], "measure");
    assert_eq!(weigh("1 cup", 0.0).problem(422)["errors"][0]["field"], "grams");
    assert_eq!(weigh("1 cup", -4.0).problem(422)["errors"][0]["field"], "grams");
    let other = app.post("/api/compute/measured", &json!({ "measure": "1 cup", "grams": 3 }));
    assert_eq!(other.problem(422)["errors"][0]["field"], "of");
}

#[test]
fn what_makers_say_is_kept_as_they_say_it() {
    let app = Application::start("serve");
    let drink = json!({
        "name": "Ginger, back to the mark",
        "family": "infusion",
        "part": "50 ml",
        "vessels": [
            { "id": "pot", "kind": "pot" },
            { "id": "glass", "kind": "glass", "count": 3 }
        ],
        "steps": [
            { "do": { "add": { "into": "pot", "ingredient": "water", "amount": "1 quart", "warmth": "boiling" } } },
            { "do": { "mark": { "vessel": "pot" } } },
            { "do": { "add": { "into": "pot", "ingredient": "ginger_root", "amount": "2 inches of ginger", "cut": "grated" } } },
            { "do": { "add": { "into": "pot", "ingredient": "water", "amount": "2 to 4 cups" } } },
            { "do": { "reduce": { "vessel": "pot", "to": "mark", "how": "boil" } } },
            { "do": { "stir": { "vessel": "pot", "until": "clear" } } },
            { "do": { "add": { "into": "glass", "ingredient": "simple_syrup_1_1", "amount": "2 parts" } } },
            { "do": { "pour": { "from": "pot", "into": "glass", "portion": { "share": 0.5 } } } },
            { "do": { "dress": { "glass": "glass", "ingredient": "lemon_slices", "how": "garnish", "amount": "2 slices" } } }
        ]
    });
    let made = app.post("/api/drinks", &drink).json();
    let path = format!("/api/drinks/{}", made["id"].as_str().unwrap());
    let kept = app.get(&path).json()["drink"].clone();
    assert_eq!((&kept["part"], &kept["vessels"][1]["count"]), (&json!("50 ml"), &json!(3)));
    for (step, told) in
        drink["steps"].as_array().unwrap().iter().zip(kept["steps"].as_array().unwrap())
    {
        assert_eq!(step["do"], told["do"]);
    }
    let report = app.post("/api/compute/trace", &kept).json();
    let said: Vec<&str> = report["frames"]
        .as_array()
        .unwrap()
        .iter()
        .filter_map(|f| f["sentence"].as_str())
        .collect();
    assert_eq!(said[0], "Pour 1 quart boiling water into the pot.");
    assert_eq!(said[4], "Boil the pot down, uncovered, to the mark.");
    assert_eq!(said[8], "Garnish each glass with 2 slices of lemon.");
    assert_eq!(report["profile"]["glasses"], 3.0);
    // A line that nobody marked can't be boiled back to.
    let mut unmarked = kept.clone();
    unmarked["steps"].as_array_mut().unwrap().remove(1);
    let fault = app.post("/api/compute/trace", &unmarked).problem(422);
    assert_eq!(fault["errors"][0]["field"], "steps[3].do.reduce.to");
}

#[test]
fn what_is_typed_is_read_weighed_or_asked_about() {
    let app = Application::start("serve");
    let read = |asked: serde_json::Value| app.post("/api/compute/read", &asked).json();
    let sugar =
        json!({ "kind": "amount", "text": "1 cup less 1 tbsp", "ingredient": "white_sugar" });
    let found = read(sugar);
    assert_eq!(found["read"]["text"], "15 tbsp");
    assert!(found["read"]["understood"].as_str().unwrap().contains(" g)"), "{found}");
    let more = read(json!({ "kind": "amount", "text": "30 g more", "before": "190 g" }));
    assert_eq!(more["read"]["text"], "220 g");
    assert_eq!(read(json!({ "kind": "minutes", "text": "12 h" }))["read"]["number"], 720.0);
    let asks = read(json!({ "kind": "amount", "text": "1,500 g" }));
    assert_eq!(asks["unread"]["choices"], json!(["1500 g", "1.5 g"]));
    let line = app.post("/api/compute/line", &json!({ "text": "2 cups hibiscus" })).json();
    assert_eq!(line["things"][0]["ingredient"], "hibiscus_dried");
    assert_eq!(line["things"][0]["amount"], "2 cups");
    app.post("/api/compute/line", &json!({ "words": 1 })).problem(422);
    let blank = json!({
        "name": "Typed", "family": "infusion", "steps": [],
        "vessels": [{ "id": "pot", "kind": "pot" }]
    });
    let typed = |vessel: &str| {
        let text = "1 l water; 40 g hibiscus; boil 10; strain into the jug; whistle";
        let asked = json!({ "drink": blank, "text": text, "at": 0, "vessel": vessel });
        app.post("/api/compute/typed-steps", &asked)
    };
    let steps = typed("pot").json();
    assert_eq!(steps["steps"].as_array().unwrap().len(), 4);
    assert_eq!(steps["steps"][2]["action"]["boil"]["minutes"], 10.0);
    assert_eq!((&steps["vessel"], &steps["unread"]), (&json!("jug"), &json!(["whistle"])));
    assert!(typed("kettle").problem(422).to_string().contains("no vessel “kettle”"));
}

/// A larder of limes becomes limeades, counted, and one of them is put on the shelf.
#[test]
fn what_can_be_made_from_what_is_there() {
    let app = Application::start("serve");
    let asked = json!({ "text": "8 limes going hard, a kilo of sugar; no nuts", "kept": true });
    let can = app.post("/api/compute/offers", &asked).json();
    assert_eq!(can["read"]["have"][0]["soon"], true);
    assert_eq!(can["read"]["without"], json!(["almonds"]));
    let first = &can["offers"][0];
    assert!(first["drink"]["name"].as_str().unwrap().starts_with("Limeade"), "{first}");
    assert_eq!(first["missing"], json!([]));
    assert!(first["uses"][0]["text"].as_str().unwrap().contains("8 limes"), "{first}");
    // The likeliest of a long shelf come first, and the rest when they were looked at.
    assert_eq!(can["looked_at"], can["there_are"]);
    let few = json!({ "text": "8 limes going hard, a kilo of sugar", "look_at": 5 });
    let few = app.post("/api/compute/offers", &few).json();
    assert_eq!((&few["looked_at"], &few["there_are"]), (&json!(5), &can["there_are"]));
    assert!(few["offers"][0]["uses"][0]["text"].as_str().unwrap().contains("8 limes"), "{few}");
    // "In 2 minutes": a drink that would be late says so.
    let soon = json!({ "text": "8 limes, sugar; four people in 2 minutes" });
    let soon = app.post("/api/compute/offers", &soon).json();
    let by: jiff::Timestamp = soon["by"].as_str().unwrap().parse().unwrap();
    let minutes = by.duration_since(jiff::Timestamp::now()).as_secs_f64() / 60.0;
    assert!((1.0..=2.0).contains(&minutes), "{minutes}");
    assert_eq!(soon["offers"][0]["in_time"], false);
    let put = app.post("/api/drinks", &first["drink"]).json();
    assert_eq!(put["drink"]["name"], first["drink"]["name"]);
    let wrong = json!({ "text": "limes", "glasses": 5000 });
    let body = wrong.to_string();
    let told = app.call("POST", "/api/compute/offers", Some(&body)).problem(422);
    assert!(told.to_string().contains("glasses"), "{told}");
}

/// Steps are said in the units and degrees that this kitchen wants, wherever they are read.
#[test]
fn steps_are_said_in_the_kitchens_units() {
    let app = Application::start("serve");
    let drink = json!({
        "name": "Boiled", "family": "infusion", "vessels": [{ "id": "pot", "kind": "pot" }],
        "steps": [
            { "id": "water", "do": { "add": { "into": "pot", "ingredient": "water", "amount": "475 ml" } } },
            { "id": "heat", "do": { "heat": { "vessel": "pot", "to_c": 80, "minutes": 0 } } }
        ]
    });
    let said = || {
        let report = app.post("/api/compute/trace", &json!({ "drink": drink })).json();
        let frames = report["frames"].as_array().unwrap().clone();
        frames.iter().map(|f| f["sentence"].as_str().unwrap().to_owned()).collect::<Vec<_>>()
    };
    let before = said();
    assert!(before[0].contains("475 ml") && before[1].contains("80 °C"), "{before:?}");
    let wanted = r#"[{"op":"replace","path":"/units","value":"us"},{"op":"replace","path":"/degrees","value":"fahrenheit"}]"#;
    assert_eq!(app.call("PATCH", "/api/settings", Some(wanted)).status, 200);
    let after = said();
    assert!(after[0].contains("2 cups") && after[1].contains("176 °F"), "{after:?}");
    let typed = app.post("/api/compute/read", &json!({ "kind": "celsius", "text": "175" })).json();
    assert_eq!(typed["read"]["number"], 79.4);
}

/// Hard water, from a sheet in any unit or by plain acid, makes every drink less sour, and that is told.
#[test]
fn the_kitchens_own_water_is_counted_in() {
    let app = Application::start("serve");
    let sheet = json!({ "sheet": { "unit": "german_degrees", "value": 11.5 } });
    let found = app.post("/api/compute/water", &sheet).json();
    let carbonate = found["water"]["hydrogen_carbonate"].as_f64().unwrap();
    assert!((245.0..255.0).contains(&carbonate), "{found}");
    assert!(found["message"].as_str().unwrap().contains("0.26 g"), "{found}");
    for (wrong, field) in [
        (json!({ "sheet": { "unit": "hydrogen_carbonate", "value": 9000 } }), "sheet.value"),
        (json!({ "acid": { "citric_g": 1, "ph": 1.6 } }), "acid.ph"),
    ] {
        let told = app.call("POST", "/api/compute/water", Some(&wrong.to_string())).problem(422);
        assert!(told.to_string().contains(field), "{told}");
    }
    let report = || app.post("/api/compute/trace", &json!({ "drink": limeade() })).json();
    let before = report();
    assert_eq!(before["water"], serde_json::Value::Null);
    let wanted =
        format!(r#"[{{"op":"add","path":"/water","value":{{"hydrogen_carbonate":{carbonate}}}}}]"#);
    assert_eq!(app.call("PATCH", "/api/kitchen", Some(&wanted)).status, 200);
    let after = report();
    let sour = |report: &serde_json::Value| report["profile"]["acidity_percent"].as_f64().unwrap();
    assert!(sour(&after) < sour(&before), "{} {}", sour(&after), sour(&before));
    assert!(after["water"].as_str().unwrap().contains("neutralises"), "{}", after["water"]);
}

/// The curve comes from the drink as the screen has it; what can't be asked is told with its field.
#[test]
fn less_sugar_is_worked_out_for_a_drink() {
    let app = Application::start("serve");
    let ask = |more: serde_json::Value| {
        let mut body = json!({ "drink": limeade() });
        body.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        app.call("POST", "/api/compute/less-sugar", Some(&body.to_string()))
    };
    let found = ask(json!({ "sweetener": "erythritol" })).json();
    let now = found["now_g"].as_f64().unwrap();
    assert!(found["unnoticed_g"].as_f64().unwrap() < now, "{found}");
    let ways = |way: &str| {
        let points = found["points"].as_array().unwrap();
        points.iter().filter(|p| p["way"] == way && p["sugar_g"].as_f64().unwrap() < now).count()
    };
    for way in ["tarter", "thinner", "sweetener"] {
        assert!(ways(way) >= 5, "{way}: {found}");
    }
    let told = ask(json!({ "sweetener": "honey" })).problem(422).to_string();
    assert!(told.contains("sweetener"), "{told}");
    let told = ask(json!({ "liked": { "sweetness": 9 } })).problem(422).to_string();
    assert!(told.contains("liked"), "{told}");
}

/// A printed card's code gives the drink back, through the door that a phone's photo comes in by.
#[test]
fn a_card_reads_back() {
    let app = Application::start("serve");
    let kept = app.post("/api/drinks", &limeade()).json();
    let id = kept["id"].as_str().unwrap();
    let drawn = fetch(&app, &format!("/api/drinks/{id}/code"));
    assert!(String::from_utf8(drawn).unwrap().starts_with("<svg"));
    let drink: keen_core::drink::Drink = serde_json::from_value(kept["drink"].clone()).unwrap();
    let (width, modules) = keen_formats::code_modules(&drink).unwrap().remove(0);
    // As a scanner would see it: eight pixels a module, and quiet around.
    let side = (width + 8) * 8;
    let mut greys = vec![255_u8; side * side];
    for (at, _) in modules.iter().enumerate().filter(|(_, dark)| **dark) {
        let (left, top) = ((at % width + 4) * 8, (at / width + 4) * 8);
        for row in top..top + 8 {
            greys[row * side + left..row * side + left + 8].fill(0);
        }
    }
    let mut picture = Vec::new();
    let mut encoder = png::Encoder::new(&mut picture, side as u32, side as u32);
    encoder.set_color(png::ColorType::Grayscale);
    encoder.write_header().unwrap().write_image_data(&greys).unwrap();
    let (status, read) = send(&app, "/api/compute/card", &picture);
    assert_eq!((status, &read["drink"]), (200, &kept["drink"]));
    let (status, told) = send(&app, "/api/compute/card", &picture[..60]);
    assert!(status == 422 && told.to_string().contains("picture"), "{told}");
    // The same by the command line.
    let folder = tempfile::tempdir().unwrap();
    let card = folder.path().join("card.png");
    std::fs::write(&card, &picture).unwrap();
    let put = binary().args(["import", "--data"]).arg(folder.path()).arg(&card).output().unwrap();
    assert!(
        put.status.success() && String::from_utf8_lossy(&put.stdout).contains("imeade"),
        "{put:?}"
    );
}

/// What would be past its date when it is ready isn't offered, however well its bottle would go with it.
#[test]
fn nothing_is_offered_that_is_to_be_discarded() {
    let app = Application::start("demo");
    let asked =
        json!({ "text": "8 limes going hard, a kilo of sugar, mint; six people", "kept": true });
    let found = app.post("/api/compute/offers", &asked).json();
    let offers = found["offers"].as_array().unwrap();
    assert!(!found["kept"].as_array().unwrap().is_empty() && offers.len() >= 3, "{found}");
    for offer in offers {
        assert_ne!(offer["keeps"], "discard it", "{}", offer["drink"]["name"]);
    }
}
