//! Plans through the API.

use serde_json::{Value, json};

use crate::support::{Application, binary, limeade};

fn keep(app: &Application) -> (String, Value) {
    let drink = app.post("/api/drinks", &limeade()).json();
    let plan = json!({
        "name": "Party", "serving": "2030-06-22T15:00",
        "drinks": [{ "id": "a", "drink": drink["id"], "name": "Limeade" }],
        "night": { "from": "22:00", "to": "07:00" }
    });
    let kept = app.post("/api/plans", &plan).json();
    (format!("/api/plans/{}", kept["id"].as_str().unwrap()), kept)
}

fn work_out(app: &Application, plan: &Value) -> Value {
    app.post("/api/compute/plan", &json!({ "plan": plan, "help": true })).json()
}

#[test]
fn a_plan_is_kept_found_changed_and_put_back() {
    let app = Application::start("serve");
    let (path, kept) = keep(&app);
    let found = app.get("/api/plans?find=part").json();
    assert_eq!(
        (&found["total"], &found["plans"][0]["drinks"][0]["name"]),
        (&json!(1), &json!("Limeade"))
    );
    assert_eq!(app.get("/api/plans?find=wedding").json()["total"], 0);

    let mut plan = kept["plan"].clone();
    plan["name"] = json!("Wedding");
    let saved = app.put(&path, &json!({ "version": 1, "plan": plan })).json();
    assert_eq!((&saved["version"], &saved["plan"]["name"]), (&json!(2), &json!("Wedding")));
    let refused = app.put(&path, &json!({ "version": 1, "plan": kept["plan"] })).problem(409);
    assert!(refused["detail"].as_str().unwrap().contains("plan"), "{refused}");

    assert_eq!(app.call("DELETE", &path, None).status, 204);
    app.get(&path).problem(404);
    assert_eq!(
        app.call("POST", &format!("{path}/restore"), None).json()["plan"]["name"],
        "Wedding"
    );
    let again = app.cut_and_restart();
    assert_eq!(again.get(&path).json()["plan"]["name"], "Wedding");
}

#[test]
fn a_plan_is_worked_out_on_the_drink_as_it_is_now() {
    let app = Application::start("serve");
    let (_, kept) = keep(&app);
    let answer = work_out(&app, &kept["plan"]);
    let before = answer["plan"]["begins"].as_f64().unwrap();
    assert!((-60.0..-3.0).contains(&before), "{before}");
    assert_eq!(answer["plan"]["troubles"], json!([]));
    let list = answer["list"].as_str().unwrap();
    assert!(list.contains("Limeade: "), "{list}");
    // One can cook from it: every sentence that has an amount is in it.
    for task in answer["plan"]["tasks"].as_array().unwrap() {
        assert!(list.contains(task["sentence"].as_str().unwrap()), "{task} isn't in {list}");
    }
    assert!(answer["drinks"][0]["colour"].as_str().unwrap().starts_with('#'));

    // The drink is to be chilled: that takes hours, in its plans as well.
    let drink = &kept["plan"]["drinks"][0]["drink"];
    let path = format!("/api/drinks/{}", drink.as_str().unwrap());
    let mut body = app.get(&path).json();
    let chill =
        json!({ "do": { "cool": { "vessel": "jug", "to_c": 6, "place": "refrigerator" } } });
    body["drink"]["steps"].as_array_mut().unwrap().insert(3, chill);
    app.put(&path, &json!({ "version": 1, "drink": body["drink"] })).json();
    let after = work_out(&app, &kept["plan"])["plan"]["begins"].as_f64().unwrap();
    assert!(after < before - 60.0, "{after} {before}");

    // It is taken off the shelf: the plan says so, and the rest of it goes on.
    assert_eq!(app.call("DELETE", &path, None).status, 204);
    let gone = work_out(&app, &kept["plan"]);
    assert_eq!(gone["plan"], Value::Null);
    assert_eq!(gone["drinks"][0]["name"], "Limeade");
    assert!(gone["drinks"][0]["missing"].as_str().unwrap().contains("deleted"), "{gone}");
    assert_eq!(app.get("/api/plans").json()["plans"][0]["drinks"][0]["colour"], Value::Null);
}

#[test]
fn a_calendar_is_given_that_moves_what_is_there() {
    let app = Application::start("serve");
    let (path, kept) = keep(&app);
    let calendar = |app: &Application| app.get(&format!("{path}/calendar"));
    let first = calendar(&app);
    assert!(first.kind.starts_with("text/calendar"), "{}", first.kind);
    let of = |text: &str, key: &str| -> Vec<String> {
        text.lines().filter(|l| l.starts_with(key)).map(str::to_owned).collect()
    };
    assert_eq!(of(&first.text, "BEGIN:VALARM").len(), of(&first.text, "BEGIN:VEVENT").len());
    assert_eq!(calendar(&app).text, first.text, "nothing has changed");
    let mut plan = kept["plan"].clone();
    plan["serving"] = json!("2030-06-22T16:00");
    app.put(&path, &json!({ "version": 1, "plan": plan })).json();
    let moved = calendar(&app).text;
    assert_eq!(of(&moved, "UID"), of(&first.text, "UID"));
    assert_ne!(of(&moved, "DTSTART"), of(&first.text, "DTSTART"));
    assert_eq!(of(&moved, "SEQUENCE")[0], "SEQUENCE:2");
}

#[test]
fn shopping_is_for_all_of_it_at_its_size() {
    let app = Application::start("serve");
    let (_, kept) = keep(&app);
    let mut plan = kept["plan"].clone();
    let limes = |plan: &Value| {
        let answer = app.post("/api/compute/shopping", &json!({ "plan": plan })).json();
        let items = answer["list"]["items"].as_array().unwrap().clone();
        let limes = items.iter().find(|i| i["id"] == "lime/medium").expect("limes are bought");
        limes["count"].as_f64().unwrap()
    };
    let once = limes(&plan);
    plan["drinks"][0]["size"] = json!({ "factor": 3.0 });
    let thrice = limes(&plan);
    assert!(thrice > 2.0 * once, "{thrice} {once}");
    let odd = json!({ "plan": plan, "how": { "chance": 2.0 } });
    let refused = app.post("/api/compute/shopping", &odd).problem(422);
    assert_eq!(refused["errors"][0]["field"], "how.chance");
}

#[test]
fn a_plan_follows_what_is_made_for_it() {
    let app = Application::start("serve");
    let (path, kept) = keep(&app);
    let id = kept["id"].as_str().unwrap();
    let ask = |plan: &Value| {
        app.post("/api/compute/plan", &json!({ "plan": plan, "help": true, "id": id })).json()
    };
    let mut plan = kept["plan"].clone();
    assert_eq!(ask(&plan)["plan"]["under_way"], false);
    let batch = app.post(&format!("{path}/make"), &json!({ "entry": "a" })).json();
    // Years too early moves nothing.
    let early = ask(&plan);
    assert_eq!(
        (&early["plan"]["under_way"], &early["plan"]["later_by"]),
        (&json!(true), &json!(null))
    );
    let step = batch["stands"]["steps"][0]["id"].as_str().unwrap();
    let happenings = format!("/api/batches/{}/happenings", batch["id"].as_str().unwrap());
    app.post(&happenings, &json!({ "what": { "done": { "step": step } } })).json();
    let followed = ask(&plan);
    let tasks = followed["plan"]["tasks"].as_array().unwrap();
    let done: Vec<&str> = tasks
        .iter()
        .filter(|t| t["state"] == "done")
        .map(|t| t["step"].as_str().unwrap())
        .collect();
    assert_eq!(done, [step]);
    let far = followed["now"].as_f64().unwrap();
    assert!((tasks[0]["to"].as_f64().unwrap() - far).abs() < 1.0, "it was done just now");
    // The plan is used again another day: what was made before says nothing.
    plan["serving"] = json!("2030-06-29T15:00");
    assert_eq!(ask(&plan)["plan"]["under_way"], false);
    // By itself the same plan knows of no batch.
    assert_eq!(work_out(&app, &kept["plan"])["plan"]["under_way"], false);
}

#[test]
fn what_stood_in_a_plan_stays_there() {
    let app = Application::start("serve");
    let (_, kept) = keep(&app);
    let mut plan = kept["plan"].clone();
    let first = |plan: &Value| {
        let answer = work_out(&app, plan);
        let task = answer["plan"]["tasks"][0].clone();
        (task["id"].as_str().unwrap().to_owned(), task["hands_from"].as_f64().unwrap())
    };
    let (id, planned) = first(&plan);
    let serving: jiff::civil::DateTime = plan["serving"].as_str().unwrap().parse().unwrap();
    let at = |minutes: f64| {
        let at = serving + jiff::Span::new().minutes(minutes.floor() as i64);
        json!([{ "task": id, "at": at.strftime("%Y-%m-%dT%H:%M").to_string() }])
    };
    // A few minutes earlier than it need be is as it stood; hours are not.
    plan["stood"] = at(planned - 6.0);
    let stood = first(&plan);
    assert_eq!(stood.0, id);
    assert!((planned - 7.1..=planned - 5.9).contains(&stood.1), "{planned} {stood:?}");
    plan["stood"] = at(planned - 600.0);
    assert_eq!(first(&plan), (id, planned));
}

#[test]
fn what_nobody_can_plan_is_refused_by_name() {
    let app = Application::start("serve");
    let (path, kept) = keep(&app);
    let whole = kept["plan"].clone();
    let with = |field: &str, value: Value| {
        let mut plan = whole.clone();
        plan[field] = value;
        plan
    };
    let many: Vec<Value> =
        (0..40).map(|i| json!({ "id": format!("d{i}"), "drink": "x" })).collect();
    for (plan, field) in [
        (with("serving", json!("soon")), "serving"),
        (with("serving", json!("")), "serving"),
        (with("drinks", json!(many)), "drinks"),
        (with("means", json!({ "cooks": 0 })), "means.cooks"),
        (with("means", json!({ "rings": -1 })), "means.rings"),
        (with("night", json!({ "from": "22:00", "to": "22:00" })), "night"),
        (with("night", json!({ "from": "dusk", "to": "dawn" })), "night.from"),
        (with("holds", json!([{ "task": "a/1/s1", "at": "2040-01-01T00:00" }])), "holds[0].at"),
        (with("stood", json!(vec![json!({ "task": "a/1/s1", "at": "" }); 601])), "stood"),
        (with("name", json!("")), "name"),
        (with("wishes", json!("good weather")), "wishes"),
    ] {
        for answer in [
            app.post("/api/compute/plan", &json!({ "plan": plan })),
            app.post("/api/plans", &plan),
            app.put(&path, &json!({ "version": 1, "plan": plan })),
        ] {
            let problem = answer.problem(422);
            let fields = problem["errors"].to_string();
            assert!(fields.contains(field), "{field}: {fields}");
        }
    }
    assert_eq!(app.get(&path).json(), kept, "nothing of it was kept");

    // No drinks, a serving long ago, a night of which an hour is left, a drink that never was, tasks that
    // aren't there: each has an answer.
    for plan in [
        with("drinks", json!([])),
        with("serving", json!("2001-01-01T12:00")),
        with("night", json!({ "from": "15:00", "to": "14:59" })),
        with("drinks", json!([{ "id": "a", "drink": "no such drink" }])),
        with(
            "drinks",
            json!([{ "id": "a", "drink": whole["drinks"][0]["drink"], "size": { "glasses": { "glasses": 2000, "size": "250 ml" } } }]),
        ),
        with("holds", json!([{ "task": "z/9/s1", "at": "2030-06-22T14:00" }])),
        with(
            "stood",
            json!([{ "task": "a/1/s1", "at": "yesterday" }, { "task": "z/9/s1", "at": "" }]),
        ),
        with("after", json!([{ "task": "a/1/s1", "after": "z/1/s1" }])),
        with("ahead", json!(["a/s99"])),
        with("means", json!({ "rings": 0, "refrigerator_l": 0 })),
    ] {
        work_out(&app, &plan);
    }
    // What comes after itself is no plan.
    let circle = with("after", json!([{ "task": "a/1/s1", "after": "a/1/s4" }]));
    let refused = app.post("/api/compute/plan", &json!({ "plan": circle })).problem(422);
    assert_eq!(refused["errors"][0]["field"], "after");
    let over = work_out(&app, &with("serving", json!("2001-01-01T12:00")));
    assert!(over["now"].as_f64().unwrap() > 0.0 && over["plan"]["later_by"].is_null());
}

#[test]
fn a_change_of_the_clocks_in_the_night_moves_no_serving() {
    // In the night to Sunday, the 31st of March 2030, two o'clock is three o'clock in that zone.
    let folder = tempfile::tempdir().unwrap();
    let app = Application::start_with(binary().env("TZ", "Europe/Berlin"), folder);
    let (_, kept) = keep(&app);
    let mut plan = kept["plan"].clone();
    plan["serving"] = json!("2030-03-31T15:00");
    plan["ahead"] = json!(["a/s3"]);
    let answer = work_out(&app, &plan);
    assert_eq!(answer["zone"], "Europe/Berlin");
    assert_eq!(answer["zero"], "2030-03-31T13:00:00Z");
    // The night from ten to seven has eight hours then: it ends eight hours before the serving, and begins
    // sixteen before.
    let night = answer["plan"]["closed"]
        .as_array()
        .unwrap()
        .iter()
        .find(|c| (-1440.0..0.0).contains(&c["from"].as_f64().unwrap()));
    let night = night.expect("there is a night before");
    assert_eq!((night["from"].as_f64(), night["to"].as_f64()), (Some(-960.0), Some(-480.0)));
    // An hour that isn't there is the one after it.
    plan["serving"] = json!("2030-03-31T02:30");
    assert_eq!(work_out(&app, &plan)["zero"], "2030-03-31T01:30:00Z");
}
