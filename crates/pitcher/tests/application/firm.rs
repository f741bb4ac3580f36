//! What was attacked: the same thing sent twice, files that are too large, names that should be gone, a program that
//! is stopped before it has answered.

use std::io::{BufRead, BufReader};
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

use serde_json::{Value, json};

use crate::support::{Application, binary, fetch, limeade, put_on_shelf};

fn under(app: &Application, method: &str, path: &str, key: &str, body: &Value) -> (u16, String) {
    let answer = app.call_with(method, path, Some(&body.to_string()), &[("idempotency-key", key)]);
    (answer.status, answer.text)
}

/// One rule for every change: the same request under a key has the same answer, another one is refused.
#[test]
fn under_one_key_everything_is_done_once() {
    let app = Application::start("demo");
    let drink = app.get("/api/drinks").json()["drinks"][0].clone();
    let bottle = app.get("/api/kept").json()["bottles"][0].clone();
    let kept = format!("/api/kept/{}/moves", bottle["id"].as_str().unwrap());
    let whole = app.get(&format!("/api/drinks/{}", drink["id"].as_str().unwrap())).json();
    let save = json!({ "version": whole["version"], "drink": whole["drink"] });
    let saved = format!("/api/drinks/{}", drink["id"].as_str().unwrap());
    let mut other = whole.clone();
    other["drink"]["note"] = json!("another note");
    let other_save = json!({ "version": whole["version"], "drink": other["drink"] });
    let mut mint = limeade();
    mint["name"] = json!("Mint cooler");
    let cases: [(&str, &str, Value, Value); 4] = [
        ("POST", "/api/drinks", limeade(), mint),
        ("PUT", &saved, save, other_save),
        (
            "POST",
            &kept,
            json!({ "what": { "poured": { "ml": 20 } } }),
            json!({ "what": { "poured": { "ml": 30 } } }),
        ),
        ("POST", "/api/tasters", json!({ "name": "Ada" }), json!({ "name": "Bo" })),
    ];
    for (n, (method, path, body, another)) in cases.iter().enumerate() {
        let key = format!("a-key-of-its-own-{n}");
        let first = under(&app, method, path, &key, body);
        assert!(first.0 < 300, "{path}: {} {}", first.0, first.1);
        for _ in 0..3 {
            assert_eq!(under(&app, method, path, &key, body), first, "{path}");
        }
        let (status, text) = under(&app, method, path, &key, another);
        assert_eq!(status, 409, "{path} {text}");
        assert!(text.contains("reused-key"), "{path} {text}");
    }
    let named = |name: &str| {
        let all = app.get("/api/tasters").json();
        let all = all["tasters"].as_array().unwrap();
        all.iter().filter(|it| it["taster"]["name"] == name).count()
    };
    assert_eq!((named("Ada"), named("Bo")), (1, 0));
    // What was refused may be tried again, under the same key.
    let bad = json!({ "name": "" });
    assert_eq!(under(&app, "POST", "/api/tasters", "another-key", &bad).0, 422);
    assert_eq!(under(&app, "POST", "/api/tasters", "another-key", &json!({ "name": "Cy" })).0, 201);
}

#[test]
fn the_same_at_the_same_time_and_after_a_restart_is_done_once() {
    let app = Application::start("serve");
    let body = json!({ "name": "Ada" });
    let answers: Vec<(u16, String)> = std::thread::scope(|threads| {
        let all: Vec<_> = (0..16)
            .map(|_| {
                threads.spawn(|| under(&app, "POST", "/api/tasters", "one-key-for-all", &body))
            })
            .collect();
        all.into_iter().map(|one| one.join().unwrap()).collect()
    });
    assert!(answers.iter().all(|answer| *answer == answers[0] && answer.0 == 201), "{answers:?}");
    // It is kept beside; that takes a moment.
    std::thread::sleep(Duration::from_millis(300));
    let app = app.cut_and_restart();
    assert_eq!(under(&app, "POST", "/api/tasters", "one-key-for-all", &body), answers[0]);
    let other = under(&app, "POST", "/api/tasters", "one-key-for-all", &json!({ "name": "Bo" }));
    assert_eq!(other.0, 409);
    assert_eq!(app.get("/api/tasters").json()["tasters"].as_array().unwrap().len(), 1);
}

/// Whether some bytes stand in a file; an archive is unpacked first.
fn holds(path: &std::path::Path, text: &str) -> bool {
    let stands_in = |bytes: &[u8]| bytes.windows(text.len()).any(|part| part == text.as_bytes());
    if path.extension().is_some_and(|kind| kind == "zip") {
        let mut shelf = Vec::new();
        keen_formats::read_house(std::fs::File::open(path).unwrap(), &mut shelf).unwrap();
        return stands_in(&shelf);
    }
    stands_in(&std::fs::read(path).unwrap())
}

#[test]
fn who_is_deleted_is_in_no_backup_and_says_nothing_more() {
    let app = Application::start("serve");
    let name = "Wilhelmina of the long name";
    let ada = app.post("/api/tasters", &json!({ "name": name })).json();
    put_on_shelf(&app, "Limeade");
    app.post("/api/house/backups", &json!({})).json();
    let house = fetch(&app, "/api/house");
    crate::support::send(&app, "/api/house", &house);
    let files = || {
        let folders = [app.folder.path().to_owned(), app.folder.path().join("backups")];
        let all = folders.iter().flat_map(|folder| std::fs::read_dir(folder).unwrap());
        let all = all.map(|file| file.unwrap().path());
        all.filter(|path| path.extension().is_some_and(|kind| kind == "db" || kind == "zip"))
            .collect::<Vec<_>>()
    };
    let with_name = || files().iter().filter(|path| holds(path, name)).count();
    assert!(with_name() >= 2, "{:?}", files());
    // A backup that is damaged can't be rewritten: it is named, and can be deleted.
    let broken = app.folder.path().join("backups/keen-pitcher-2020-01-01.zip");
    std::fs::write(&broken, format!("no archive, and yet {name}")).unwrap();
    // So is a damaged data file that a backup took the place of.
    let damaged = app.folder.path().join("keen-pitcher.damaged-20200101.db");
    std::fs::write(&damaged, format!("no data file, and yet {name}")).unwrap();
    let path = format!("/api/tasters/{}", ada["id"].as_str().unwrap());
    let left = app.call("DELETE", &path, None).json();
    let broken = ["keen-pitcher.damaged-20200101.db", "keen-pitcher-2020-01-01.zip"];
    assert_eq!(left["still_in"], json!(broken));
    for file in broken {
        let deleted = app.call("DELETE", &format!("/api/house/backups/{file}"), None).status;
        assert_eq!(deleted, 204, "{file}");
    }
    assert_eq!(with_name(), 0);
    // The others are as they were, and can be restored.
    let listed = app.get("/api/house/backups").json()["backups"].clone();
    let manual = listed.as_array().unwrap().iter().find(|it| it["kind"] == "manual").unwrap();
    let restored = format!("/api/house/backups/{}", manual["name"].as_str().unwrap());
    app.post(&restored, &json!({})).json();
    assert_eq!(app.get("/api/drinks").json()["total"], 1);
    assert_eq!(app.get("/api/tasters").json()["tasters"], json!([]));
}

/// A drink's file may be small and hold earlier states without measure.
#[test]
fn earlier_states_are_held_to_the_limits_of_a_drink() {
    let app = Application::start("serve");
    let mut large = limeade();
    let step = large["steps"][0].clone();
    large["steps"] = (0..6500).map(|_| step.clone()).collect();
    let earlier = |version: Value, drink: &Value| json!({ "version": version, "since": "2030-06-01T10:00:00Z", "drink": drink });
    let file = |earlier: Value| json!({ "format": "keen-pitcher/drink", "version": app_version(&app), "drink": limeade(), "earlier": earlier });
    for (what, earlier) in [
        ("too many steps", json!([earlier(json!(1), &large)])),
        ("a version beyond all", json!([earlier(json!(i64::MAX), &limeade())])),
        ("a version before all", json!([earlier(json!(-1), &limeade())])),
    ] {
        let answer = app.post("/api/drinks", &file(earlier));
        let made = answer.json();
        assert_eq!(answer.status, 201, "{what}");
        let path = format!("/api/drinks/{}", made["id"].as_str().unwrap());
        assert_eq!(made["version"], 1, "{what}");
        // It goes on as any other drink does.
        let save = json!({ "version": 1, "drink": made["drink"] });
        assert_eq!(app.put(&path, &save).status, 200, "{what}");
    }
    let kept = app.post("/api/drinks", &file(json!([earlier(json!(4), &limeade())]))).json();
    assert_eq!(kept["version"], 5, "what may stand is kept");
}

fn app_version(app: &Application) -> Value {
    let made = put_on_shelf(app, "Pattern");
    let path = format!("/api/drinks/{}/file", made["id"].as_str().unwrap());
    let file: Value = serde_json::from_slice(&fetch(app, &path)).unwrap();
    file["version"].clone()
}

/// The signal's number.
const SIGTERM: u32 = 15;

/// Whether a program has said to the system that it hears SIGTERM.
fn hears_the_end(process: &Child) -> bool {
    let status = std::fs::read_to_string(format!("/proc/{}/status", process.id())).unwrap();
    let caught = status.lines().find_map(|line| line.strip_prefix("SigCgt:")).unwrap().trim();
    u64::from_str_radix(caught, 16).unwrap() & (1 << (SIGTERM - 1)) != 0
}

/// From the moment that it hears it ends by itself, whatever it is doing. Before, nothing is there to be lost.
#[test]
fn a_program_that_is_stopped_before_its_first_answer_ends_as_it_should() {
    let folder = tempfile::tempdir().unwrap();
    for wait in [0, 40, 120, 250, 500, 900] {
        let mut process = binary()
            .args(["demo", "--port", "0", "--data", folder.path().to_str().unwrap()])
            .stdout(Stdio::null())
            .spawn()
            .unwrap();
        let since = Instant::now();
        // How long it takes to hear is the machine's affair; the waits count from there, but for the first.
        while wait > 0 && !hears_the_end(&process) {
            assert!(since.elapsed() < Duration::from_secs(20), "it never hears");
            std::thread::sleep(Duration::from_millis(2));
        }
        std::thread::sleep(Duration::from_millis(wait));
        let stopped = Command::new("kill").args(["-TERM", &process.id().to_string()]).status();
        assert!(stopped.unwrap().success());
        let since = Instant::now();
        let ended = loop {
            if let Some(ended) = process.try_wait().unwrap() {
                break ended;
            }
            assert!(since.elapsed() < Duration::from_secs(20), "it doesn't end");
            std::thread::sleep(Duration::from_millis(10));
        };
        assert!(ended.success() || wait == 0, "{wait} ms after it heard: {ended}");
    }
}

#[test]
fn an_option_before_a_command_is_refused_and_never_ignored() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().to_str().unwrap();
    let out = binary().args(["--data", data, "--port", "0", "serve"]).output().unwrap();
    assert!(!out.status.success());
    let told = String::from_utf8(out.stderr).unwrap();
    assert!(told.contains("--data") && told.contains("serve"), "{told}");
    assert!(!folder.path().join("keen-pitcher.db").exists());
    // Without a command they mean what they say.
    let mut process =
        binary().args(["--data", data, "--port", "0"]).stdout(Stdio::piped()).spawn().unwrap();
    let mut line = String::new();
    BufReader::new(process.stdout.take().unwrap()).read_line(&mut line).unwrap();
    assert!(line.contains("http://127.0.0.1:"), "{line}");
    assert!(folder.path().join("keen-pitcher.db").exists());
    process.kill().unwrap();
    process.wait().unwrap();
}
