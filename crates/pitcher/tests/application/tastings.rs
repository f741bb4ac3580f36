//! Tasting through the API.

use serde_json::{Value, json};

use crate::support::{Application, limeade};

fn taster(app: &Application, name: &str, more: Value) -> String {
    let mut body = json!({ "name": name });
    body.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
    let kept = app.post("/api/tasters", &body).json();
    kept["id"].as_str().unwrap().to_owned()
}

fn row(drink: Value, moves: Value) -> Value {
    json!({
        "drink": drink, "moves": moves, "glasses": 5, "step": 1.25, "sample_ml": 60.0, "tasters": 1
    })
}

fn set_up(app: &Application, what: Value, tasters: &[&str], blind: bool) -> Value {
    let body = json!({ "name": "A tasting", "what": what, "tasters": tasters, "blind": blind });
    app.post("/api/tastings", &body).json()
}

fn path(tasting: &Value) -> String {
    format!("/api/tastings/{}", tasting["id"].as_str().unwrap())
}

fn utter(app: &Application, tasting: &Value, word: Value) -> Value {
    app.post(&format!("{}/words", path(tasting)), &json!({ "word": word })).json()
}

fn refused(app: &Application, tasting: &Value, word: Value, field: &str) -> String {
    let answer = app.post(&format!("{}/words", path(tasting)), &json!({ "word": word }));
    let problem = answer.problem(422);
    assert_eq!(problem["errors"][0]["field"], field, "{problem}");
    problem["errors"][0]["message"].as_str().unwrap().to_owned()
}

fn codes(tasting: &Value, seat: usize) -> Vec<String> {
    let glasses = tasting["seats"][seat]["glasses"].as_array().unwrap();
    glasses.iter().map(|g| g["code"].as_str().unwrap().to_owned()).collect()
}

#[test]
fn a_blind_row_stays_sealed_until_its_key_is_broken() {
    let app = Application::start("serve");
    let (bee, gate) = (taster(&app, "The beekeeper", json!({})), taster(&app, "门卫", json!({})));
    let tasting =
        set_up(&app, json!({ "ladder": row(limeade(), json!("sugar")) }), &[&bee, &gate], true);
    assert_eq!(tasting["stage"], "pouring");
    let answer = |who: &str, code: &str, felt: &str| json!({ "answered": { "taster": who, "code": code, "felt": felt, "liked": 6 } });
    let sheet = app.get(&format!("{}/sheet", path(&tasting))).json();
    assert_eq!(sheet["ladder"]["glasses"].as_array().unwrap().len(), 5);
    assert_eq!(sheet["key"].as_array().unwrap().len(), 5);
    let first = codes(&tasting, 0)[0].clone();
    refused(&app, &tasting, answer(&bee, &first, "right"), "word");

    let sealed = utter(&app, &tasting, json!("poured"));
    assert_eq!(sealed["stage"], "sealed");
    // Neither by the view, nor by the sheet, nor by a file does anything get out.
    let nothing_leaks = |view: &Value| {
        assert_eq!(view["key"], json!([]));
        assert_eq!(view["glasses"], json!([]));
        assert_eq!(view["tells"]["ideals"], json!([]));
        assert_eq!(view["tells"]["liked"], json!([]));
        assert!(!view.to_string().contains("seed"));
    };
    nothing_leaks(&sealed);
    for file in ["sheet", "file"] {
        let problem = app.get(&format!("{}/{file}", path(&tasting))).problem(409);
        assert!(problem["type"].as_str().unwrap().ends_with("sealed"), "{problem}");
    }
    assert_ne!(codes(&sealed, 0), codes(&sealed, 1), "each has an order of their own");
    refused(&app, &tasting, answer(&bee, "000", "right"), "word.code");
    refused(&app, &tasting, answer("nobody", &first, "right"), "word.taster");
    let said = utter(&app, &tasting, answer(&bee, &first, "far_low"));
    nothing_leaks(&said);
    assert_eq!(said["seats"][0]["glasses"][0]["felt"], "far_low");
    assert_eq!(said["seats"][1]["done"], 0);
    // Said again, the last counts.
    let again = utter(&app, &tasting, answer(&bee, &first, "low"));
    assert_eq!(
        (&again["seats"][0]["glasses"][0]["felt"], &again["seats"][0]["done"]),
        (&json!("low"), &json!(1))
    );

    // The sealed sitting is there after a power cut, and goes on.
    let app = app.cut_and_restart();
    let back = app.get(&path(&tasting)).json();
    assert_eq!(back["seats"], again["seats"]);
    let felt = ["far_low", "low", "right", "high", "far_high"];
    for who in [&bee, &gate] {
        for line in sheet["key"].as_array().unwrap() {
            let glass = line["glass"].as_u64().unwrap() as usize;
            utter(&app, &tasting, answer(who, line["code"].as_str().unwrap(), felt[glass]));
        }
    }
    let over = utter(&app, &tasting, json!("broken"));
    assert_eq!(over["stage"], "over");
    assert_eq!(over["key"], sheet["key"]);
    let middle = over["glasses"][2]["ratio"].as_f64().unwrap();
    for ideal in over["tells"]["ideals"].as_array().unwrap() {
        let (low, high) = (ideal["low"].as_f64().unwrap(), ideal["high"].as_f64().unwrap());
        assert!(low < middle && middle < high, "{ideal}");
        assert!(ideal["words"].as_str().unwrap().contains("to 1"), "{ideal}");
    }
    let late = refused(&app, &tasting, answer(&bee, &first, "right"), "word");
    assert!(late.contains("revealed"), "{late}");
    let file = app.get(&format!("{}/file", path(&tasting))).json();
    assert_eq!(file["tasters"][&gate], "门卫");
    // It is what the maps show, and what lists tell.
    let rings = app.get("/api/tasters?family=lemonade").json();
    assert_eq!(rings["tasters"][1]["ideals"][0]["glasses"], 5);
    let list = app.get("/api/tastings").json();
    assert_eq!(
        (&list["tastings"][0]["stage"], &list["tastings"][0]["done"]),
        (&json!("over"), &json!(10))
    );
}

#[test]
fn a_balance_that_was_found_with_limes_makes_a_limeade() {
    let app = Application::start("serve");
    let who = taster(&app, "Someone", json!({}));
    let tasting = set_up(&app, json!({ "find": { "sour": "lime_juice" } }), &[&who], false);
    let lemonade = format!("{}/lemonade", path(&tasting));
    let made = app.post(&lemonade, &json!({ "taster": who })).json();
    assert_eq!(made["drink"]["steps"][0]["do"]["squeeze"]["ingredient"], "lime_juice", "{made}");
    let problem = app.post(&lemonade, &json!({ "taster": "nobody" })).problem(422);
    assert_eq!(problem["errors"][0]["field"], "taster");
}

#[test]
fn finding_a_balance_leads_from_glass_to_glass() {
    let app = Application::start("serve");
    let who = taster(&app, "Someone", json!({}));
    let what = json!({ "find": { "sour": "lemon_juice" } });
    let tasting = set_up(&app, what, &[&who], false);
    assert_eq!(tasting["stage"], "open");
    assert_eq!(tasting["about"]["find"]["jugs"]["jugs"].as_array().unwrap().len(), 3);
    // A tongue whose ideal is 22 to 1.
    let (mut glasses, mut ratios) = (0, Vec::new());
    loop {
        let next = app.post(&format!("{}/next", path(&tasting)), &json!({ "taster": who })).json();
        if next["more"] == 0 || glasses == 14 {
            break;
        }
        let glass = &next["mixed"]["glass"];
        let x = glass["x"].as_f64().unwrap();
        ratios.push(x.exp());
        let probits = 4.0 * (x - 22_f64.ln());
        let felt = match probits {
            p if p < -1.5 => "far_low",
            p if p < -0.5 => "low",
            p if p < 0.5 => "right",
            p if p < 1.5 => "high",
            _ => "far_high",
        };
        let spoons = &next["mixed"]["spoons"];
        utter(
            &app,
            &tasting,
            json!({ "mixed": { "taster": who, "spoons": spoons, "felt": felt } }),
        );
        glasses += 1;
    }
    let end = app.get(&path(&tasting)).json();
    let ideal = &end["tells"]["ideals"][0];
    let middle = ideal["middle"].as_f64().unwrap();
    assert!((middle / 22.0 - 1.0).abs() < 0.12, "{ideal} after {ratios:?}");
    assert!((4..=14).contains(&glasses), "{glasses}");
    // A lemonade of that balance is made of whole lemons, and can be saved as it is.
    let made = app.post(&format!("{}/lemonade", path(&tasting)), &json!({ "taster": who })).json();
    let report = app.post("/api/compute/trace", &made["drink"]).json();
    let ratio = report["profile"]["ratio"].as_f64().unwrap();
    assert!((ratio / middle - 1.0).abs() < 0.06, "{ratio}, wanted {middle}");
    let squeezed = made["drink"]["steps"][0]["do"]["squeeze"]["amount"].as_str().unwrap();
    assert!(squeezed.ends_with("lemons"), "{squeezed}");
    let word = json!({ "mixed": { "taster": who, "spoons": [30, 0, 0], "felt": "right" } });
    refused(&app, &tasting, word, "word.spoons");
    let word = json!({ "mixed": { "taster": who, "spoons": [12, 0, 12], "felt": "right" } });
    refused(&app, &tasting, word, "word.spoons");
}

#[test]
fn a_triangle_comes_to_its_verdict_and_its_key_is_of_the_pourer() {
    let app = Application::start("serve");
    let six: Vec<String> =
        (1..=6).map(|i| taster(&app, &format!("Taster {i}"), json!({}))).collect();
    let ids: Vec<&str> = six.iter().map(String::as_str).collect();
    let compare = json!({
        "method": "triangle", "first": { "name": "This year's" }, "second": { "name": "Last year's" },
        "times": 1, "sample_ml": 60.0
    });
    let tasting = set_up(&app, json!({ "compare": compare }), &ids, true);
    assert_eq!(tasting["about"]["compare"]["prospect"]["fewest_right"], 5);
    let sheet = app.get(&format!("{}/sheet", path(&tasting))).json();
    let key = sheet["key"].as_array().unwrap();
    assert_eq!(key.len(), 18);
    utter(&app, &tasting, json!("poured"));
    let mut told = json!(null);
    for (i, who) in six.iter().enumerate() {
        let mine: Vec<&Value> = key.iter().filter(|line| line["taster"] == json!(who)).collect();
        let odd = |line: &&Value| mine.iter().filter(|l| l["glass"] == line["glass"]).count() == 1;
        // Five find it, one doesn't.
        let line = mine.iter().find(|l| odd(l) == (i < 5)).unwrap();
        told = utter(&app, &tasting, json!({ "chose": { "taster": who, "code": line["code"] } }));
        assert_eq!(told["tells"]["verdict"], json!(null), "nothing is told while it is sealed");
    }
    assert!(told["seats"].as_array().unwrap().iter().all(|s| s["finished"] == true));
    let code = &key[0]["code"];
    refused(&app, &tasting, json!({ "chose": { "taster": six[0], "code": code } }), "word");
    let over = utter(&app, &tasting, json!("broken"));
    let verdict = &over["tells"]["verdict"];
    assert_eq!((&verdict["right"], &verdict["finding"]), (&json!(5), &json!("different")));
    assert!(verdict["words"].as_str().unwrap().contains("once in 56"), "{verdict}");
}

#[test]
fn who_may_not_have_it_is_refused_before_it_is_poured() {
    let app = Application::start("serve");
    let (child, adult) =
        (taster(&app, "A child", json!({ "child": true })), taster(&app, "Grown", json!({})));
    let no_honey = taster(&app, "No honey", json!({ "avoids": ["honey"] }));
    let mut drink = limeade();
    let strong = json!({ "id": "spirit", "do": { "add": { "into": "jug", "ingredient": "spirit_40abv", "amount": "80 ml" } } });
    drink["steps"].as_array_mut().unwrap().push(strong);
    let body =
        |tasters: &[&str], what: Value| json!({ "name": "x", "what": what, "tasters": tasters });
    let spirits = json!({ "ladder": row(drink.clone(), json!("spirit")) });
    let problem = app.post("/api/tastings", &body(&[&adult, &child], spirits.clone())).problem(422);
    assert_eq!(problem["errors"][0]["field"], "tasters");
    assert!(problem["errors"][0]["message"].as_str().unwrap().contains("is a child"), "{problem}");
    app.post("/api/tastings", &body(&[&adult], spirits)).json();
    // Whatever moves: there is alcohol in it.
    let sugar = json!({ "ladder": row(drink, json!("sugar")) });
    app.post("/api/tastings", &body(&[&child], sugar)).problem(422);
    let honey =
        json!({ "ladder": row(limeade(), json!({ "sweetener": ["white_sugar", "honey"] })) });
    let problem = app.post("/api/tastings", &body(&[&no_honey], honey)).problem(422);
    assert!(problem["errors"][0]["message"].as_str().unwrap().contains("honey"), "{problem}");
    for (what, tasters, field) in [
        (
            json!({ "ladder": { "drink": limeade(), "moves": "sugar", "glasses": 1, "step": 1.25, "sample_ml": 60.0, "tasters": 1 } }),
            vec![adult.as_str()],
            "what.ladder.glasses",
        ),
        (json!({ "find": { "sour": "honey" } }), vec![adult.as_str()], "what.find.sour"),
        (json!({ "find": { "sour": "lemon_juice" } }), vec![], "tasters"),
        (json!({ "find": { "sour": "lemon_juice" } }), vec!["nobody"], "tasters"),
        (
            json!({ "find": { "sour": "lemon_juice" } }),
            vec![adult.as_str(), adult.as_str()],
            "tasters",
        ),
    ] {
        let problem = app.post("/api/tastings", &body(&tasters, what)).problem(422);
        assert_eq!(problem["errors"][0]["field"], field, "{problem}");
    }
    app.post("/api/tasters", &json!({ "name": "  " })).problem(422);
    app.post("/api/tasters", &json!({ "name": "x".repeat(61) })).problem(422);
}

#[test]
fn who_is_deleted_is_gone_from_the_file_and_others_keep_their_answers() {
    let app = Application::start("serve");
    let (one, two) =
        (taster(&app, "Someone to be forgotten", json!({})), taster(&app, "Other", json!({})));
    let tasting =
        set_up(&app, json!({ "ladder": row(limeade(), json!("sugar")) }), &[&one, &two], false);
    utter(&app, &tasting, json!("poured"));
    for (who, seat) in [(&one, 0), (&two, 1)] {
        for code in codes(&tasting, seat) {
            utter(
                &app,
                &tasting,
                json!({ "answered": { "taster": who, "code": code, "felt": "right" } }),
            );
        }
    }
    utter(
        &app,
        &tasting,
        json!({ "remark": { "taster": one, "text": "quite unmistakable words" } }),
    );
    let file = app.get(&format!("/api/tasters/{one}/file")).json();
    assert_eq!(file["said"].as_array().unwrap().len(), 6);
    let deleted = app.call("DELETE", &format!("/api/tasters/{one}"), None).json();
    assert_eq!(deleted["still_in"], json!([]));
    // A page that is still open says nothing more.
    let word = json!({ "word": { "remark": { "taster": one, "text": "after all" } } });
    let said = app.post(&format!("{}/words", path(&tasting)), &word);
    assert!((400..500).contains(&said.status), "{}", said.text);
    app.get(&format!("/api/tasters/{one}/file")).problem(404);
    let left = app.get(&path(&tasting)).json();
    assert_eq!((&left["seats"][0]["done"], &left["seats"][1]["done"]), (&json!(0), &json!(5)));
    assert_eq!(left["tasters"].as_array().unwrap().len(), 1);
    let everybody = app.get("/api/tasters").json();
    assert_eq!(everybody["tasters"][0]["ideals"][0]["glasses"], 5);
    // Not even in the free pages of the file, or in its log.
    let ended = app.stop();
    for entry in std::fs::read_dir(ended.folder.path()).unwrap() {
        let file = entry.unwrap().path();
        if file.is_file() {
            let bytes = std::fs::read(&file).unwrap();
            for words in ["Someone to be forgotten", "quite unmistakable words"] {
                let there = bytes.windows(words.len()).any(|w| w == words.as_bytes());
                assert!(!there, "“{words}” is still in {}", file.display());
            }
        }
    }
}

#[test]
fn one_pitcher_for_all_and_a_drink_that_is_matched() {
    let app = Application::start("serve");
    let (one, child) =
        (taster(&app, "One", json!({})), taster(&app, "Two", json!({ "child": true })));
    let asked = json!({ "drink": limeade(), "tasters": [one, child] });
    let found = app.post("/api/compute/pitchers", &asked).json();
    assert_eq!(found["shares"].as_array().unwrap().len(), 1, "limeade suits children");
    assert!(found["shares"][0]["least_sum"]["ratio"].as_f64().unwrap() > 10.0);
    app.post("/api/compute/pitchers", &json!({ "drink": limeade(), "tasters": [] })).problem(422);
    let glass = app.post("/api/compute/for-whom", &asked).json();
    assert_eq!((&glass["guests"][1]["name"], &glass["without"][1]), (&json!("Two"), &json!([])));
    let what = json!({ "match": {
        "drink": limeade(), "reference": { "name": "A bought one", "brix": 11.0, "ph": 2.7 } } });
    let tasting = set_up(&app, what, &[&one], false);
    let likely = &tasting["about"]["match"]["likely"];
    let wide = |likely: &Value| {
        likely["acidity"]["high"].as_f64().unwrap() / likely["acidity"]["low"].as_f64().unwrap()
    };
    let before = wide(likely);
    let round = json!({ "round": {
        "ours": { "sweetness": 10.0, "acidity": 0.6 }, "beside": [{ "too": "sharp", "how": "touch" }] } });
    let after = utter(&app, &tasting, round);
    assert!(
        wide(&after["about"]["match"]["likely"]) < before,
        "tasting beside it narrows what pH leaves open"
    );
    assert_eq!(after["about"]["match"]["rounds"].as_array().unwrap().len(), 1);
    let prospect =
        app.post("/api/compute/prospect", &json!({ "method": "triangle", "tastings": 23 })).json();
    assert!((prospect["finds"].as_f64().unwrap() - 2.0).abs() < 0.2);
}

#[test]
fn forty_tasters_and_seven_glasses() {
    let app = Application::start("serve");
    let all: Vec<String> =
        (0..40).map(|i| taster(&app, &format!("Taster {i}"), json!({}))).collect();
    let ids: Vec<&str> = all.iter().map(String::as_str).collect();
    let mut wanted = row(limeade(), json!("sugar"));
    wanted["glasses"] = json!(7);
    let tasting = set_up(&app, json!({ "ladder": wanted }), &ids, true);
    assert_eq!(tasting["seats"].as_array().unwrap().len(), 40);
    utter(&app, &tasting, json!("poured"));
    // All say the same of everything: nothing can be told, and nothing breaks.
    for (seat, who) in all.iter().enumerate() {
        for code in codes(&tasting, seat).iter().take(2) {
            utter(
                &app,
                &tasting,
                json!({ "answered": { "taster": who, "code": code, "felt": "right", "liked": 5 } }),
            );
        }
    }
    let over = utter(&app, &tasting, json!("broken"));
    assert_eq!(over["tells"]["ideals"].as_array().unwrap().len(), 40);
    let one_more = taster(&app, "One too many", json!({}));
    let mut too_many = ids.clone();
    too_many.push(&one_more);
    let body =
        json!({ "name": "x", "what": { "find": { "sour": "lemon_juice" } }, "tasters": too_many });
    app.post("/api/tastings", &body).problem(422);
}

#[test]
fn a_tongue_walks_the_stairs_and_the_row_is_put_in_order() {
    let app = Application::start("serve");
    let who = taster(&app, "Someone", json!({}));
    let what = json!({ "tongue": { "quality": "sweetness", "method": "pairs" } });
    let tasting = set_up(&app, what, &[&who], true);
    utter(&app, &tasting, json!("poured"));
    // Tastes every difference from a tenth on, and guesses the left one below.
    let mut last = json!(null);
    for _ in 0..40 {
        let sheet = app.get(&format!("{}/sheet", path(&tasting))).json();
        let Some(stairs) = sheet["stairs"].get(0) else { break };
        let of = |glass: &str| stairs[glass]["sweetness"].as_f64().unwrap();
        let part = of("stronger") / of("plain") - 1.0;
        let key = sheet["key"].as_array().unwrap();
        let right = key.iter().find(|l| l["glass"] == 1).unwrap();
        let chosen = if part > 0.1 { right } else { &key[0] };
        last = utter(&app, &tasting, json!({ "chose": { "taster": who, "code": chosen["code"] } }));
        assert_eq!(last["tells"]["notices"], json!(null));
    }
    assert_eq!(last["seats"][0]["finished"], true);
    let over = utter(&app, &tasting, json!("broken"));
    let part = over["tells"]["notices"]["part"].as_f64().unwrap();
    assert!((0.05..0.16).contains(&part), "{part}");
    let notices = &over["tells"]["notices"];
    let kept = json!({ "name": "Someone", "notices_sweet": notices });
    let changed = app.call("PUT", &format!("/api/tasters/{who}"), Some(&kept.to_string())).json();
    assert_eq!(changed["taster"]["notices_sweet"], *notices);

    let tasting = set_up(&app, json!({ "order": row(limeade(), json!("sugar")) }), &[&who], true);
    let sheet = app.get(&format!("{}/sheet", path(&tasting))).json();
    let mut codes: Vec<Value> =
        sheet["key"].as_array().unwrap().iter().map(|l| l["code"].clone()).collect();
    utter(&app, &tasting, json!("poured"));
    codes.swap(1, 2);
    refused(
        &app,
        &tasting,
        json!({ "ordered": { "taster": who, "codes": &codes[1..] } }),
        "word.codes",
    );
    utter(&app, &tasting, json!({ "ordered": { "taster": who, "codes": codes } }));
    let over = utter(&app, &tasting, json!("broken"));
    assert_eq!(over["tells"]["in_order"][0], json!({ "taster": who, "right": 9, "of": 10 }));
}

#[test]
fn a_glass_is_guessed_and_then_seen() {
    let app = Application::start("serve");
    let who = taster(&app, "Someone", json!({}));
    let tasting = set_up(&app, json!({ "guess": { "sour": "citric_acid" } }), &[&who], false);
    utter(&app, &tasting, json!("poured"));
    let mut poured = Vec::new();
    for ratio in [16.0, 12.0] {
        let sheet = app.get(&format!("{}/sheet", path(&tasting))).json();
        poured.push(sheet["guess"]["glass"]["ratio"].as_f64().unwrap());
        let told = utter(
            &app,
            &tasting,
            json!({ "guessed": { "taster": who, "ratio": ratio, "is": 1.0 } }),
        );
        assert_eq!(told["tells"]["guesses"].as_array().unwrap().len(), poured.len(), "at once");
    }
    assert!((poured[0] / poured[1]).ln().abs() > 1e-3, "each is another glass: {poured:?}");
    refused(&app, &tasting, json!({ "guessed": { "taster": who, "ratio": 0.0 } }), "word.ratio");
    let over = utter(&app, &tasting, json!("broken"));
    let guesses = over["tells"]["guesses"].as_array().unwrap();
    assert_eq!(guesses.len(), 2);
    for (guess, poured) in guesses.iter().zip(poured) {
        let is = guess["is"].as_f64().unwrap();
        assert!(
            (is / poured - 1.0).abs() < 1e-6,
            "what it is isn't for the one who guesses to say"
        );
    }
}

#[test]
fn remarks_and_names_are_bounded_and_a_tasting_is_removed_for_good() {
    let app = Application::start("serve");
    let who = taster(&app, "Someone", json!({}));
    let tasting = set_up(&app, json!({ "find": { "sour": "lemon_juice" } }), &[&who], false);
    let long = "x".repeat(501);
    refused(&app, &tasting, json!({ "remark": { "taster": who, "text": long } }), "word.text");
    refused(&app, &tasting, json!({ "chose": { "taster": who, "code": "123" } }), "word");
    refused(&app, &tasting, json!({ "taken_back": { "of": 7 } }), "word.of");
    let said = utter(&app, &tasting, json!({ "remark": { "taster": who, "text": "لذيذ 🍋" } }));
    assert_eq!(said["seats"][0]["remarks"], json!(["لذيذ 🍋"]));
    assert_eq!(app.call("DELETE", &path(&tasting), None).status, 204);
    app.get(&path(&tasting)).problem(404);
    assert_eq!(app.get("/api/tastings").json()["tastings"], json!([]));
}

#[test]
fn two_who_answer_at_once_both_stand_in_the_list() {
    let app = Application::start("serve");
    let all: Vec<String> =
        (0..6).map(|i| taster(&app, &format!("Taster {i}"), json!({}))).collect();
    let ids: Vec<&str> = all.iter().map(String::as_str).collect();
    let tasting = set_up(&app, json!({ "ladder": row(limeade(), json!("sugar")) }), &ids, true);
    utter(&app, &tasting, json!("poured"));
    std::thread::scope(|threads| {
        for (seat, who) in all.iter().enumerate() {
            let (app, tasting) = (&app, &tasting);
            threads.spawn(move || {
                for code in codes(tasting, seat) {
                    let word =
                        json!({ "answered": { "taster": who, "code": code, "felt": "right" } });
                    utter(app, tasting, word);
                }
            });
        }
    });
    let list = app.get("/api/tastings").json();
    assert_eq!(list["tastings"][0]["done"], 30);
}

#[test]
fn a_backup_of_a_blind_tasting_tells_nobody_what_is_in_the_glasses() {
    let app = Application::start("serve");
    let who = [taster(&app, "The beekeeper", json!({})), taster(&app, "The miller", json!({}))];
    let ids: Vec<&str> = who.iter().map(String::as_str).collect();
    let tasting = set_up(&app, json!({ "ladder": row(limeade(), json!("sugar")) }), &ids, true);
    let sheet = app.get(&format!("{}/sheet", path(&tasting))).json();
    utter(&app, &tasting, json!("poured"));
    let kept: Value = {
        let shelf = rusqlite::Connection::open(app.folder.path().join("keen-pitcher.db")).unwrap();
        let body: String =
            shelf.query_row("SELECT body FROM tastings", [], |row| row.get(0)).unwrap();
        serde_json::from_str(&body).unwrap()
    };
    let backup = crate::support::fetch(&app, "/api/house");
    let mut shelf = Vec::new();
    keen_formats::read_house(std::io::Cursor::new(&backup), &mut shelf).unwrap();
    let holds = |bytes: &str| shelf.windows(bytes.len()).any(|at| at == bytes.as_bytes());
    assert!(holds(ids[0]), "who tastes is in it");
    assert!(!holds(&format!("\"seed\":{}", kept["tasting"]["seed"])));
    assert!(!holds("\"orders\":") && !holds(&kept["tasting"]["dealt"]["codes"].to_string()));

    // On this computer it is restored with everything.
    assert_eq!(crate::support::send(&app, "/api/house", &backup).0, 200);
    let over = utter(&app, &tasting, json!("broken"));
    assert_eq!(over["key"], sheet["key"]);

    // Elsewhere it is said why it can't be opened; with the key it can.
    let other = Application::start("serve");
    assert_eq!(crate::support::send(&other, "/api/house", &backup).0, 200);
    let problem = other.get(&path(&tasting)).problem(409);
    assert_eq!(problem["type"], "sealed-elsewhere");
    assert_eq!(other.get("/api/tastings").json()["tastings"].as_array().unwrap().len(), 1);
    let key = "sealing.key";
    let other = other.stop();
    std::fs::copy(app.folder.path().join(key), other.folder.path().join(key)).unwrap();
    let other = other.start_again_here("serve");
    assert_eq!(other.get(&path(&tasting)).json()["stage"], "sealed");
    assert_eq!(utter(&other, &tasting, json!("broken"))["key"], sheet["key"]);
}
