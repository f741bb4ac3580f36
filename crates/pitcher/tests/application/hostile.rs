//! Bad input: a plain answer that names the field, or a notice; never a failure of the program.

use proptest::prelude::*;
use serde_json::{Value, json};

use crate::support::{Application, limeade};

#[test]
fn what_can_not_be_read_is_told() {
    let app = Application::start("serve");
    for text in ["", "{", "[1, 2", "\u{feff}{}", "{\"name\": \"\u{1}\"}", "nul"] {
        app.call("POST", "/api/compute/trace", Some(text)).problem(400);
        app.call("POST", "/api/drinks", Some(text)).problem(400);
    }
    for text in ["{}", "[]", "null", "3", "\"drink\"", "{\"name\":3}"] {
        app.call("POST", "/api/compute/trace", Some(text)).problem(422);
    }
    app.call("PUT", "/api/drinks/none", Some("{}")).problem(422);
    for question in ["size", "solve", "correct", "swap", "spread", "steeping", "measured", "syrup"]
    {
        let path = format!("/api/compute/{question}");
        for text in ["{}", "[]", "3", "{\"drink\":{}}", "{\"drink\":null,\"aim\":3}"] {
            app.call("POST", &path, Some(text)).problem(422);
        }
        app.call("POST", &path, Some("{")).problem(400);
    }
    app.call("PUT", "/api/kitchen", Some("{\"version\":0,\"kitchen\":{\"pots\":3}}")).problem(422);
    app.call("PUT", "/api/settings", Some("{\"units\":\"furlongs\"}")).problem(422);
    app.get("/api/nothing-here").problem(404);
    app.get("/api/drinks/none").problem(404);
    app.call("DELETE", "/api/drinks/none", None).problem(404);
}

#[test]
fn each_fault_names_its_field() {
    let app = Application::start("serve");
    let amount = "/steps/0/do/squeeze/amount";
    for (at, value, field) in [
        (amount, json!("-3 limes"), "steps[0].do.squeeze.amount"),
        (amount, json!("0"), "steps[0].do.squeeze.amount"),
        (amount, json!("NaN"), "steps[0].do.squeeze.amount"),
        (amount, json!("1000000000 g"), "steps[0].do.squeeze.amount"),
        (amount, json!(""), "steps[0].do.squeeze.amount"),
        (amount, json!(3), "steps[0].do.squeeze.amount"),
        ("/steps/0/do/squeeze/ingredient", json!("moondust"), "steps[0].do.squeeze.ingredient"),
        ("/steps/0/do/squeeze/ingredient", json!("white_sugar"), "steps[0].do.squeeze.ingredient"),
        ("/steps/0/do/squeeze/into", json!("bathtub"), "steps[0].do.squeeze.into"),
        ("/steps/2/do/top_up/to", json!("3 limes"), "steps[2].do.top_up.to"),
        ("/steps/3/do/serve/glasses", json!(0), "steps[3].do.serve.glasses"),
        ("/steps/3/do/serve/glasses", json!(-1), "steps[3].do.serve.glasses"),
        ("/steps/3/do/serve/glass", json!("jug"), "steps[3].do.serve.glass"),
        ("/name", json!(" "), "name"),
        ("/name", json!("x".repeat(121)), "name"),
        ("/family", json!("wine"), "family"),
        ("/vessels/0/capacity", json!("2 kg"), "vessels[0].capacity"),
        ("/vessels/1/id", json!("jug"), "vessels[1].id"),
        ("/vessels/0/kind", json!("cauldron"), "vessels[0].kind"),
    ] {
        let mut drink = limeade();
        match drink.pointer_mut(at) {
            Some(place) => *place = value.clone(),
            None => drink["vessels"][0]["capacity"] = value.clone(),
        }
        let problem = app.post("/api/compute/trace", &drink).problem(422);
        let named: Vec<&str> = problem["errors"]
            .as_array()
            .unwrap()
            .iter()
            .filter_map(|e| e["field"].as_str())
            .collect();
        assert!(named.contains(&field), "{at} {value}: {named:?}");
    }
}

/// What is asked of a drink, a pitcher or a syrup is refused as plainly as a drink is.
#[test]
fn each_question_names_what_is_wrong_with_it() {
    let app = Application::start("serve");
    let mut drink = limeade();
    for (i, step) in drink["steps"].as_array_mut().unwrap().iter_mut().enumerate() {
        step["id"] = json!(format!("s{i}"));
    }
    let of_drink = |more: Value| {
        let mut body = json!({ "drink": drink });
        body.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        body
    };
    let read = |key: &str, value: Value| {
        let mut read = json!({ "volume": "1 l", "capacity": "2 l" });
        read[key] = value;
        json!({ "pitcher": { "read": read } })
    };
    let boiled = |key: &str, value: Value| {
        let mut syrup = json!({ "amount": "500 g", "proportion": { "by_weight": 1.0 } });
        syrup[key] = value;
        syrup
    };
    let size = |size: Value| of_drink(json!({ "size": size }));
    let aim = |aim: Value| of_drink(json!({ "aim": aim }));
    let none =
        json!([{ "name": "none", "size": { "glasses": { "glasses": 0, "size": "250 ml" } } }]);
    let bound = json!([{ "step": "s1", "most": "2 limes" }]);
    let swap = |step: &str, other: &str| of_drink(json!({ "step": step, "ingredient": other }));
    for (question, body, field) in [
        ("size", size(json!({ "volume": "3 limes" })), "size.volume"),
        ("size", size(json!({ "factor": 0 })), "size.factor"),
        ("size", size(json!({ "factor": 1e9 })), "size.factor"),
        (
            "size",
            size(json!({ "as_much_as": { "step": "z", "amount": "1 l" } })),
            "size.as_much_as",
        ),
        ("sheet", of_drink(json!({ "sizes": none })), "sizes[0].size.glasses.glasses"),
        ("sheet", of_drink(json!({ "sizes": [] })), "sizes"),
        ("solve", aim(json!({ "target": { "sweetness": -1 } })), "aim.target.sweetness"),
        ("solve", aim(json!({ "target": { "brix": 99 } })), "aim.target.brix"),
        ("solve", aim(json!({ "target": {}, "bounds": bound })), "aim.bounds[0].most"),
        ("correct", read("volume", json!("3 kg")), "pitcher.read.volume"),
        ("correct", read("capacity", json!("500 ml")), "pitcher.read.capacity"),
        ("correct", read("ph", json!(17)), "pitcher.read.ph"),
        ("correct", read("brix", json!(-3)), "pitcher.read.brix"),
        ("swap", swap("z", "honey"), "step"),
        ("swap", swap("s1", "moondust"), "ingredient"),
        ("swap", swap("s3", "honey"), "step"),
        ("syrup", boiled("amount", json!("0 g")), "amount"),
        ("syrup", boiled("proportion", json!({ "by_weight": 0.0 })), "proportion"),
        ("syrup", boiled("sugar", json!("water")), "sugar"),
        ("syrup", boiled("reduce_to", json!(120)), "reduce_to"),
        ("syrup", boiled("pot_mm", json!(2)), "pot_mm"),
        ("shopping", json!({ "drinks": [] }), "drinks"),
        ("shopping", json!({ "drinks": [drink], "how": { "chance": 7 } }), "how.chance"),
        ("glass", of_drink(json!({ "spoons": 1 })), "spoons"),
    ] {
        let problem = app.post(&format!("/api/compute/{question}"), &body).problem(422);
        assert_eq!(problem["errors"][0]["field"], field, "{question} {body}");
        let message = problem["errors"][0]["message"].as_str().unwrap();
        assert!(message.ends_with('.') && message.len() < 140, "{message}");
    }
}

#[test]
fn too_much_is_too_much() {
    let app = Application::start("serve");
    let mut drink = limeade();
    let step = drink["steps"][1].clone();
    drink["steps"] = Value::Array(vec![step; 10_000]);
    let many = app.post("/api/compute/trace", &drink);
    assert!([413, 422].contains(&many.status), "{}", many.status);
    let mut drink = limeade();
    drink["steps"] = Value::Array(vec![drink["steps"][1].clone(); 201]);
    app.post("/api/compute/trace", &drink).problem(422);
    let mut drink = limeade();
    drink["note"] = json!("x".repeat(1_000_000));
    app.post("/api/compute/trace", &drink).problem(413);
    app.post("/api/drinks", &drink).problem(413);
    let deep = "[".repeat(100_000);
    app.call("POST", "/api/compute/trace", Some(&deep)).problem(400);
}

#[test]
fn names_in_any_script_are_kept_as_they_are() {
    let app = Application::start("serve");
    for name in
        ["🍋 limonade", "شراب الكركديه", "水 と 檸檬", "<b>&amp;</b>", "'; DROP TABLE drinks;--"]
    {
        let mut drink = limeade();
        drink["name"] = json!(name);
        let made = app.post("/api/drinks", &drink).json();
        assert_eq!(made["drink"]["name"], name);
    }
    assert_eq!(app.get("/api/drinks?find=%27;%20DROP").json()["total"], 1);
    assert_eq!(app.get("/api/drinks").json()["total"], 5);
}

#[test]
fn what_is_only_unwise_runs_with_a_notice() {
    let app = Application::start("serve");
    let vessels = json!([{ "id": "jug", "kind": "jug" }, { "id": "bowl", "kind": "bowl" }]);
    let pour = |from: &str, into: &str| json!({ "do": { "pour": { "from": from, "into": into } } });
    for (steps, kind) in [
        (json!([pour("jug", "bowl")]), "nothing_there"),
        (json!([pour("jug", "bowl"), pour("bowl", "jug"), pour("jug", "bowl")]), "nothing_there"),
        (
            json!([{ "do": { "add": { "into": "jug", "ingredient": "water", "amount": "3 glugs" } } }]),
            "unknown_measure",
        ),
        (
            json!([{ "do": { "add": { "into": "jug", "ingredient": "water", "amount": "40 l" } } }]),
            "over_brim",
        ),
    ] {
        let drink =
            json!({ "name": "Try", "family": "lemonade", "vessels": vessels, "steps": steps });
        let report = app.post("/api/compute/trace", &drink).json();
        assert_eq!(report["frames"][0]["notices"][0]["kind"], kind, "{steps}");
    }
}

#[test]
fn strangers_are_turned_away() {
    let app = Application::start("serve");
    let agent: ureq::Agent =
        ureq::Agent::config_builder().http_status_as_error(false).build().into();
    for (name, value) in
        [("host", "kitchen.example"), ("origin", "http://kitchen.example"), ("origin", "null")]
    {
        let url = format!("{}/api/drinks", app.address);
        let response = agent.get(&url).header(name, value).call().unwrap();
        assert_eq!(response.status().as_u16(), 403, "{name}: {value}");
    }
}

/// A value that may stand anywhere in a drink.
fn any_value() -> impl Strategy<Value = Value> {
    prop_oneof![
        Just(Value::Null),
        any::<bool>().prop_map(Value::from),
        any::<i64>().prop_map(Value::from),
        any::<f64>().prop_map(Value::from),
        "\\PC{0,30}".prop_map(Value::from),
        "[0-9]{1,12}([.,/ ][0-9]{1,4})? ?(g|kg|ml|l|cups|tbsp|pinch|limes|large lemons|glugs)?"
            .prop_map(Value::from),
        prop::sample::select(vec![
            "jug",
            "pot",
            "sieve",
            "glass",
            "water",
            "ice",
            "lime_juice",
            "hibiscus_dried",
            "all",
        ])
        .prop_map(Value::from),
        prop::collection::vec(any::<i32>(), 0..3).prop_map(Value::from),
    ]
}

/// One of everything that can be done.
fn everything() -> Value {
    json!({
        "name": "Everything", "family": "infusion",
        "vessels": [
            { "id": "pot", "kind": "pot", "capacity": "2 l", "diameter_mm": 180, "material": "steel" },
            { "id": "jug", "kind": "jug" }, { "id": "sieve", "kind": "sieve" },
            { "id": "bowl", "kind": "bowl" }, { "id": "bottle", "kind": "bottle" },
            { "id": "glass", "kind": "glass" }
        ],
        "steps": [
            { "do": { "add": { "into": "pot", "ingredient": "water", "amount": "1 l" } } },
            { "do": { "add": { "into": "pot", "ingredient": "hibiscus_dried", "amount": "30 g" } } },
            { "do": { "heat": { "vessel": "pot", "to_c": 95, "minutes": 5, "lid": true } } },
            { "do": { "infuse": { "vessel": "pot", "minutes": 10, "place": "worktop" } } },
            { "do": { "blend": { "vessel": "pot", "seconds": 10 } } },
            { "do": { "strain": { "from": "pot", "through": "sieve", "into": "jug", "press": "wrung" } } },
            { "do": { "pour": { "from": "jug", "into": "pot", "portion": { "share": 0.5 } } } },
            { "do": { "squeeze": { "into": "jug", "ingredient": "lime_juice", "amount": "2 limes" } } },
            { "do": { "top_up": { "vessel": "jug", "ingredient": "ice", "to": "1 l" } } },
            { "do": { "cool": { "vessel": "jug", "to_c": 8, "place": "refrigerator" } } },
            { "do": { "prepare": { "ingredient": "mint", "how": "wash", "minutes": 2 } } },
            { "do": { "macerate": { "vessel": "pot", "minutes": 60, "how": "left", "place": "worktop" } } },
            { "do": { "dissolve": { "vessel": "jug", "how": "microwave" } } },
            { "do": { "boil": { "vessel": "pot", "minutes": 12, "how": "gentle", "lid": false } } },
            { "do": { "reduce": { "vessel": "pot", "to": { "brix": 50 }, "how": "boil" } } },
            { "do": { "lift": { "from": "pot", "ingredient": "hibiscus_dried", "into": "bowl" } } },
            { "do": { "rinse": { "vessel": "sieve", "ingredient": "water", "amount": "200 ml", "into": "jug", "press": "pressed" } } },
            { "do": { "cover": { "vessel": "bowl", "ingredient": "water", "above_mm": 10 } } },
            { "do": { "lengthen": { "vessel": "glass", "ingredient": "club_soda", "parts": 2.5 } } },
            { "do": { "bottle": { "from": "pot", "bottle": "bottle", "headspace": "30 ml" } } },
            { "do": { "dress": { "glass": "glass", "ingredient": "mint", "how": "garnish" } } },
            { "do": { "cool": { "vessel": "bowl", "to_c": -18, "place": "freezer" } } },
            { "do": { "serve": { "from": "jug", "glass": "glass", "glasses": 3, "size": "1 cup" } } }
        ]
    })
}

/// Every place in a value that holds no other.
fn leaves(value: &Value, at: String, found: &mut Vec<String>) {
    match value {
        Value::Object(fields) => {
            fields.iter().for_each(|(key, v)| leaves(v, format!("{at}/{key}"), found));
        }
        Value::Array(items) => {
            items.iter().enumerate().for_each(|(i, v)| leaves(v, format!("{at}/{i}"), found));
        }
        _ => found.push(at),
    }
}

/// Everything that can be asked of a drink.
fn questions(drink: &Value) -> Vec<(&'static str, Value)> {
    let target = json!({ "sweetness": 9.0, "acidity": 0.5 });
    let bounds = json!([{ "step": "s2", "least": "10 g", "most": "3 kg" }]);
    let sizes = json!([
        { "name": "party", "size": { "glasses": { "glasses": 48, "size": "200 ml" } } },
        { "name": "all the lemons", "size": { "as_much_as": { "step": "s1", "amount": "3 l" } } }
    ]);
    let pitcher = json!({ "traced": { "drink": drink, "vessel": "jug", "step": "s9" } });
    let words = json!([{ "too": "sharp", "how": "clearly" }]);
    vec![
        ("size", json!({ "drink": drink, "size": { "factor": 3.0 } })),
        ("sheet", json!({ "drink": drink, "sizes": sizes, "units": "us" })),
        (
            "solve",
            json!({ "drink": drink, "aim": { "target": target, "bounds": bounds, "hold": ["s1"] } }),
        ),
        ("swap", json!({ "drink": drink, "step": "s2", "ingredient": "honey" })),
        ("spread", json!({ "drink": drink })),
        ("steeping", json!({ "drink": drink, "step": "s4" })),
        ("measured", json!({ "of": "step", "drink": drink, "step": "s6", "volume": "700 ml" })),
        ("vessels", json!({ "drink": drink })),
        ("shopping", json!({ "drinks": [drink], "how": { "chance": 0.9 } })),
        ("glass", json!({ "drink": drink })),
        (
            "correct",
            json!({ "pitcher": pitcher, "words": words, "at_hand": ["honey", "lime_juice"] }),
        ),
        (
            "syrup",
            json!({ "amount": "500 g", "proportion": { "by_weight": 2.0 }, "reduce_to": 70 }),
        ),
        (
            "measured",
            json!({ "of": "fruit", "produce": "lime/medium", "pieces": 5, "juice_ml": 140 }),
        ),
    ]
}

/// How often the application is asked what nobody asks.
const QUESTIONS: usize = 1000;

/// Changes any few places of a drink, and of what is asked of it, to anything, shuffles its steps and
/// says some of them again: the answer is figures, or a problem that names a field.
#[test]
fn no_question_breaks_the_application() {
    let app = Application::start("serve");
    let mut places = Vec::new();
    leaves(&everything(), String::new(), &mut places);
    let change = (prop::sample::select(places), any_value());
    let all = everything()["steps"].as_array().unwrap().len();
    let order = prop::collection::vec(0..all, 1..60);
    let asked = (0..questions(&Value::Null).len(), any::<prop::sample::Index>(), any_value());
    let drinks = (prop::collection::vec(change, 0..3), order, prop::collection::vec(asked, 1..4));
    let (many, answered) = (std::cell::Cell::new(0), std::cell::Cell::new(0));
    while many.get() < QUESTIONS {
        let mut runner = proptest::test_runner::TestRunner::new(ProptestConfig {
            cases: 20,
            failure_persistence: None,
            ..ProptestConfig::default()
        });
        let run = runner.run(&drinks, |(changes, order, asked)| {
            let mut drink = everything();
            for (place, value) in changes {
                *drink.pointer_mut(&place).unwrap() = value;
            }
            let steps: Vec<Value> = order.iter().map(|i| drink["steps"][*i].clone()).collect();
            drink["steps"] = Value::Array(steps);
            let answer = app.post("/api/compute/trace", &drink);
            // Half of the questions are asked as they are meant, half with one thing in them changed.
            for (question, place, value) in asked {
                let (path, mut body) = questions(&drink).swap_remove(question);
                let mut places = Vec::new();
                leaves(&body, String::new(), &mut places);
                let place = place.get(&places).clone();
                if place.len().is_multiple_of(2) {
                    *body.pointer_mut(&place).unwrap() = value;
                }
                let answer = app.post(&format!("/api/compute/{path}"), &body);
                prop_assert!(matches!(answer.status, 200 | 422), "{path} {}", answer.text);
                prop_assert!(answer.text.len() < 8_000_000, "{path}: {} bytes", answer.text.len());
                many.set(many.get() + 1);
                if answer.status == 200 {
                    answered.set(answered.get() + 1);
                    // A drink that is handed out can be taken in again.
                    let found = answer.json();
                    for at in
                        ["/drink", "/rounded", "/batch", "/columns/0/drink", "/solution/rounded"]
                    {
                        if let Some(drink) = found.pointer(at).filter(|d| d["steps"].is_array()) {
                            let again = app.post("/api/compute/trace", drink);
                            prop_assert!(again.status == 200, "{path}{at} {}", again.text);
                        }
                    }
                } else {
                    answer.problem(422);
                }
            }
            if answer.status == 200 {
                // JSON has no NaN: it would stand there as null, which no figure of a state may be.
                let report = answer.json();
                for frame in report["frames"].as_array().unwrap() {
                    for state in frame["states"].as_array().unwrap() {
                        for figure in
                            ["mass_g", "level_ml", "brix", "acidity_percent", "bitterness_per_l"]
                        {
                            let figure = state[figure].as_f64();
                            prop_assert!(figure.is_some_and(|f| f >= -0.01), "{state}");
                        }
                        let t = state["temperature_c"].as_f64();
                        prop_assert!(t.is_some_and(|t| (-18.01..131.0).contains(&t)), "{state}");
                    }
                }
            } else {
                answer.problem(422);
            }
            Ok(())
        });
        run.unwrap();
    }
    let (many, answered) = (many.get(), answered.get());
    assert!(answered > many / 10, "{answered} of {many} questions were answered with figures");
}
