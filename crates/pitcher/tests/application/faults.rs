//! What goes wrong around the application: disks that fill up, files that are locked, damaged or can't
//! be written to, power cuts, clients that stop in the middle of a sentence. Nothing that was answered is
//! lost, and each is told by its own name.

use std::io::{Read, Write};
use std::net::TcpStream;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

use rusqlite::Connection;
use serde_json::{Value, json};

use crate::support::{Application, binary, dearest, limeade, put_on_shelf, root};

fn shelf_of(app: &Application) -> PathBuf {
    app.folder.path().join("keen-pitcher.db")
}

fn path_of(made: &Value) -> String {
    format!("/api/drinks/{}", made["id"].as_str().unwrap())
}

/// A change of a drink, to be saved on top of a version.
fn change(made: &Value, version: i64, note: &str) -> Value {
    let mut drink = made["drink"].clone();
    drink["note"] = json!(note);
    json!({ "version": version, "drink": drink })
}

/// A file system of its own, as small as is wanted; taken away when dropped.
struct SmallDisk(PathBuf);

impl SmallDisk {
    fn new(folder: &Path, kilobytes: u32) -> Self {
        let disk = Self(folder.join("disk"));
        std::fs::create_dir(&disk.0).unwrap();
        let size = format!("size={kilobytes}k,mode=0700");
        mount(&["-t", "tmpfs", "-o", &size, "tmpfs", disk.0.to_str().unwrap()]);
        disk
    }

    fn again(&self, options: &str) {
        mount(&["-o", &format!("remount,{options}"), self.0.to_str().unwrap()]);
    }
}

/// Mounts, as the administrator that this takes (the set-up of the tests is one too).
fn mount(args: &[&str]) {
    let administrator = Command::new("id").arg("-u").output().unwrap().stdout == b"0\n";
    let mut command = Command::new(if administrator { "mount" } else { "sudo" });
    if !administrator {
        command.args(["-n", "mount"]);
    }
    assert!(command.args(args).status().unwrap().success(), "mount {args:?}");
}

impl Drop for SmallDisk {
    fn drop(&mut self) {
        let _ = Command::new("umount").arg("-l").arg(&self.0).status();
    }
}

#[test]
fn a_full_disk_is_told_and_loses_nothing_that_was_answered() {
    let folder = tempfile::tempdir().unwrap();
    let disk = SmallDisk::new(folder.path(), 1500);
    let app = Application::start_at("serve", &disk.0);
    // Today's backup is made first, so that nothing else takes or makes room meanwhile.
    for _ in 0..100 {
        if app.get("/api/house/backups").json() != json!({ "backups": [] }) {
            break;
        }
        std::thread::sleep(Duration::from_millis(50));
    }
    let first = put_on_shelf(&app, "First");
    let mut drink = limeade();
    drink["note"] = json!("x".repeat(1900));
    let (mut answered, mut refused) = (Vec::new(), 0);
    for i in 0..300 {
        drink["name"] = json!(format!("Drink {i}"));
        let answer = app.post("/api/drinks", &drink);
        if answer.status == 201 {
            answered.push(answer.json());
        } else {
            let problem = answer.problem(507);
            assert_eq!(problem["type"], "disk-full");
            assert!(problem["detail"].as_str().unwrap().contains("Make room"));
            refused += 1;
        }
    }
    assert!(answered.len() > 5 && refused > 50, "{} kept, {refused} refused", answered.len());
    // What no new drink fits into may still hold a change or two, until it holds none.
    let mut latest = first.clone();
    let refused = (0..60).any(|n| {
        let version = latest["version"].as_i64().unwrap();
        let note = format!("{n} {}", "y".repeat(1900));
        let answer = app.put(&path_of(&first), &change(&latest, version, &note));
        if answer.status == 200 {
            latest = answer.json();
            return false;
        }
        answer.problem(507);
        true
    });
    assert!(refused, "sixty changes fitted onto a full disk");
    let own: Vec<Value> = (0..180)
        .map(|i| json!({ "id": format!("own_{i}"), "name": "x".repeat(70), "kind": "juice", "form": "liquid" }))
        .collect();
    let kitchen = json!({ "version": 0, "kitchen": { "ingredients": own } });
    app.put("/api/kitchen", &kitchen).problem(507);
    let app = app.cut_and_restart_at(&disk.0);
    assert_eq!(app.get("/api/drinks?limit=500").json()["total"], answered.len() + 1);
    for made in &answered {
        assert_eq!(&app.get(&path_of(made)).json(), made);
    }
    assert_eq!(app.get(&path_of(&first)).json(), latest);
    assert_eq!(app.get("/api/kitchen").json()["version"], 0);
    // With room again, saving goes on.
    disk.again("size=20m");
    let version = latest["version"].as_i64().unwrap();
    app.put(&path_of(&first), &change(&latest, version, "now it fits")).json();
    drop(app);
}

#[test]
fn a_shelf_that_can_only_be_read_is_read() {
    let folder = tempfile::tempdir().unwrap();
    let disk = SmallDisk::new(folder.path(), 20_000);
    let app = Application::start_at("serve", &disk.0);
    let made = put_on_shelf(&app, "Limeade");
    // Cut, so that the log still lies beside the file.
    let app = app.cut();
    disk.again("ro");
    let app = app.start_again("serve", &disk.0);
    assert_eq!(app.get(&path_of(&made)).json(), made);
    let shelf = app.get("/api/shelf").json();
    assert_eq!(shelf["condition"], "read_only");
    assert!(shelf["message"].as_str().unwrap().contains(disk.0.to_str().unwrap()), "{shelf}");
    let problem = app.put(&path_of(&made), &change(&made, 1, "a note")).problem(503);
    assert_eq!(problem["type"], "read-only");
    assert_eq!(app.get("/api/drinks").json()["total"], 1);
    drop(app);
}

#[test]
fn a_locked_file_is_told_soon_and_reading_goes_on() {
    let app = Application::start("serve");
    let made = put_on_shelf(&app, "Limeade");
    let other = Connection::open(shelf_of(&app)).unwrap();
    other.execute_batch("BEGIN IMMEDIATE").unwrap();
    let start = Instant::now();
    std::thread::scope(|scope| {
        for i in 0..6 {
            let (app, made) = (&app, &made);
            scope.spawn(move || {
                let problem =
                    app.put(&path_of(made), &change(made, 1, &format!("{i}"))).problem(503);
                assert_eq!(problem["type"], "locked");
            });
        }
    });
    assert!(start.elapsed() < Duration::from_secs(5), "{:?}", start.elapsed());
    assert_eq!(app.get(&path_of(&made)).json()["version"], 1);
    drop(other);
    assert_eq!(app.put(&path_of(&made), &change(&made, 1, "now")).json()["version"], 2);
}

#[test]
fn a_damaged_file_opens_for_reading_what_can_be_read() {
    let app = Application::start("serve");
    for i in 0..40 {
        put_on_shelf(&app, &format!("Drink {i}"));
    }
    let app = app.stop();
    let file = app.folder.path().join("keen-pitcher.db");
    let mut bytes = std::fs::read(&file).unwrap();
    // A page that holds drinks, not one of those that lead to all of them.
    let page = bytes.windows(10).position(|w| w == b"\"Drink 30\"").unwrap() / 4096;
    bytes[page * 4096..(page + 1) * 4096].fill(0xA5);
    std::fs::write(&file, &bytes).unwrap();
    let app = app.start_again_here("serve");
    let shelf = app.get("/api/shelf").json();
    assert_eq!(shelf["condition"], "damaged");
    let list = app.get("/api/drinks").json();
    let total = list["total"].as_u64().unwrap();
    assert!((25..40).contains(&total), "{total}");
    let id = list["drinks"][0]["id"].as_str().unwrap();
    app.get(&format!("/api/drinks/{id}")).json();
    assert_eq!(app.post("/api/drinks", &limeade()).problem(503)["type"], "damaged");
    // All of it as one file, from which it can be put on a new shelf.
    let rescued = app.get("/api/shelf/rescue").json();
    assert_eq!(rescued["shelf"]["drinks"].as_array().unwrap().len() as u64, total);
    let file = app.folder.path().join("rescued.json");
    std::fs::write(&file, rescued.to_string()).unwrap();
    let fresh = tempfile::tempdir().unwrap();
    let put = binary().arg("import").arg(&file).arg("--data").arg(fresh.path()).output().unwrap();
    assert!(put.status.success(), "{}", String::from_utf8_lossy(&put.stderr));
    let fresh = Application::start_in("serve", fresh);
    assert_eq!(fresh.get("/api/drinks").json()["total"].as_u64().unwrap(), total);
}

#[test]
fn what_can_not_be_read_is_shown_and_never_written_over() {
    let app = Application::start("serve");
    let made = put_on_shelf(&app, "Spoilt");
    put_on_shelf(&app, "Sound");
    app.put("/api/kitchen", &json!({ "version": 0, "kitchen": { "boil_off": 1.3 } })).json();
    app.put("/api/settings", &json!({ "units": "us" })).json();
    let app = app.stop();
    let file = app.folder.path().join("keen-pitcher.db");
    let shelf = Connection::open(&file).unwrap();
    let spoil = "UPDATE drinks SET body = '{\"name\": gibberish' WHERE name = 'Spoilt';
                 UPDATE documents SET body = 'the kitchen of a madman' WHERE key = 'kitchen';
                 UPDATE documents SET body = '{\"units\": 7}' WHERE key = 'choices';";
    shelf.execute_batch(spoil).unwrap();
    drop(shelf);
    let app = app.start_again_here("serve");
    let list = app.get("/api/drinks").json();
    assert_eq!((list["total"].as_u64(), list["drinks"].as_array().unwrap().len()), (Some(2), 1));
    assert_eq!(list["damaged"][0]["name"], "Spoilt");
    assert_eq!(app.get(&path_of(&made)).problem(422)["type"], "damaged-drink");
    let text = app.get(&format!("{}/file", path_of(&made))).text;
    assert_eq!(text, "{\"name\": gibberish");
    let aside = app.get("/api/shelf").json()["set_aside"].clone();
    let of = |what: &str| aside.as_array().unwrap().iter().find(|it| it["what"] == what).cloned();
    let id = of("kitchen").unwrap()["id"].clone();
    assert_eq!(app.get(&format!("/api/shelf/set-aside/{id}")).text, "the kitchen of a madman");
    assert!(of("choices").is_some());
    // The kitchen begins anew, and its count goes on: an old window can't write over it.
    let version = app.get("/api/kitchen").json()["version"].as_i64().unwrap();
    assert_eq!(version, 2);
    app.put("/api/kitchen", &json!({ "version": 0, "kitchen": { "boil_off": 1.1 } })).problem(409);
    app.put("/api/kitchen", &json!({ "version": 2, "kitchen": { "boil_off": 1.1 } })).json();
    assert_eq!(app.call("DELETE", &format!("/api/shelf/set-aside/{id}"), None).status, 204);
    // What is damaged can be removed like any other.
    assert_eq!(app.call("DELETE", &path_of(&made), None).status, 204);
    assert_eq!(app.get("/api/bin").json()["drinks"][0]["name"], "Spoilt");
}

#[test]
fn a_second_server_is_refused_and_a_taken_port_is_told() {
    let app = Application::start("serve");
    let second = |args: &[&str]| {
        let out = binary().args(args).output().unwrap();
        assert!(!out.status.success());
        String::from_utf8(out.stderr).unwrap()
    };
    let folder = app.folder.path().to_str().unwrap();
    let told = second(&["serve", "--port", "0", "--data", folder]);
    assert!(told.contains("already running") && told.contains(folder), "{told}");
    let port = app.address.rsplit(':').next().unwrap();
    let elsewhere = tempfile::tempdir().unwrap();
    let told = second(&["serve", "--port", port, "--data", elsewhere.path().to_str().unwrap()]);
    assert!(told.contains(&format!("Port {port} is taken")) && told.contains("--port"), "{told}");
}

#[test]
fn after_a_clean_stop_the_one_file_holds_everything() {
    let app = Application::start("serve");
    let made = put_on_shelf(&app, "Limeade");
    app.get("/api/drinks").json();
    let app = app.stop();
    let alone = tempfile::tempdir().unwrap();
    std::fs::copy(app.folder.path().join("keen-pitcher.db"), alone.path().join("keen-pitcher.db"))
        .unwrap();
    let copy = Application::start_in("serve", alone);
    assert_eq!(copy.get(&path_of(&made)).json(), made);
}

/// Twenty times the power goes in the middle of saving.
#[test]
fn twenty_power_cuts_lose_nothing_that_was_answered() {
    let mut app = Application::start("serve");
    let made = put_on_shelf(&app, "Limeade");
    let path = path_of(&made);
    let mut version = 1;
    for cut in 0..20 {
        let address = app.address.clone();
        let (going, stop) = (AtomicBool::new(false), AtomicBool::new(false));
        let last = std::thread::scope(|scope| {
            let saving = scope.spawn(|| {
                let agent: ureq::Agent =
                    ureq::Agent::config_builder().http_status_as_error(false).build().into();
                let mut saved = version;
                while !stop.load(Ordering::Relaxed) {
                    let body = change(&made, saved, &format!("{cut}.{saved}")).to_string();
                    let asked = agent
                        .put(format!("{address}{path}"))
                        .header("content-type", "application/json")
                        .send(body);
                    match asked {
                        Ok(answer) if answer.status() == 200 => {
                            saved += 1;
                            going.store(true, Ordering::Relaxed);
                        }
                        _ => break,
                    }
                }
                saved
            });
            // The cut falls in the middle of the saving, however slow the machine.
            let since = Instant::now();
            while !going.load(Ordering::Relaxed) && since.elapsed() < Duration::from_secs(20) {
                std::thread::sleep(Duration::from_millis(2));
            }
            std::thread::sleep(Duration::from_millis(20 + 17 * cut % 90));
            app.kill();
            stop.store(true, Ordering::Relaxed);
            saving.join().unwrap()
        });
        app = app.cut_and_restart();
        let kept = app.get(&path).json();
        let there = kept["version"].as_i64().unwrap();
        // What was answered is there; the one that was under way may be.
        assert!(there == last || there == last + 1, "{there} is kept, {last} was answered");
        assert!(last > version, "nothing was saved before cut {cut}");
        assert_eq!(kept["drink"]["note"], format!("{cut}.{}", there - 1));
        version = there;
    }
}

#[test]
fn a_save_whose_answer_was_lost_is_made_once() {
    let app = Application::start("serve");
    let keyed = |method: &str, path: &str, body: &Value, key: &str| {
        app.call_with(method, path, Some(&body.to_string()), &[("idempotency-key", key)])
    };
    let made = keyed("POST", "/api/drinks", &limeade(), "key-of-the-drink").json();
    assert_eq!(keyed("POST", "/api/drinks", &limeade(), "key-of-the-drink").json(), made);
    assert_eq!(app.get("/api/drinks").json()["total"], 1);
    let changed = change(&made, 1, "sharper");
    let saved = keyed("PUT", &path_of(&made), &changed, "key-of-the-change").json();
    assert_eq!(keyed("PUT", &path_of(&made), &changed, "key-of-the-change").json(), saved);
    assert_eq!(saved["version"], 2);
    // Without its key it is another change, on an old version.
    app.put(&path_of(&made), &change(&made, 1, "sweeter")).problem(409);
    assert_eq!(keyed("POST", "/api/drinks", &limeade(), "short").problem(400)["type"], "bad-key");
}

#[test]
fn an_ingredient_stays_as_long_as_a_drink_needs_it() {
    let app = Application::start("serve");
    let plum = json!({ "id": "own_plum", "name": "Plum juice", "kind": "juice", "form": "liquid", "sugar": 11.0 });
    let quince =
        json!({ "id": "own_quince", "name": "Quince juice", "kind": "juice", "form": "liquid" });
    let kitchen =
        |version: i64, own: Value| json!({ "version": version, "kitchen": { "ingredients": own } });
    app.put("/api/kitchen", &kitchen(0, json!([plum, quince]))).json();
    let mut drink = limeade();
    drink["steps"][0] =
        json!({ "do": { "add": { "into": "jug", "ingredient": "own_plum", "amount": "1 cup" } } });
    let made = app.post("/api/drinks", &drink).json();
    let kept = app.put("/api/kitchen", &kitchen(1, json!([]))).json();
    let own = kept["kitchen"]["ingredients"].as_array().unwrap();
    assert_eq!(
        (own.len(), &own[0]["id"], &own[0]["kept_for_drinks"]),
        (1, &json!("own_plum"), &json!(true))
    );
    app.put(&path_of(&made), &change(&made, 1, "it can still be saved")).json();
    app.post("/api/compute/trace", &drink).json();
    let all = app.get("/api/ingredients").json()["ingredients"].clone();
    let shown = all.as_array().unwrap().iter().find(|it| it["id"] == "own_plum").unwrap();
    assert_eq!(shown["kept_for_drinks"], true);
    // In the bin it is still needed; when no drink has it any more it goes with the next change.
    assert_eq!(app.call("DELETE", &path_of(&made), None).status, 204);
    let kept = app
        .put(
            "/api/kitchen",
            &json!({ "version": 2, "kitchen": { "ingredients": own, "boil_off": 1.1 } }),
        )
        .json();
    assert_eq!(kept["kitchen"]["ingredients"].as_array().unwrap().len(), 1);
    let shelf = Connection::open(shelf_of(&app)).unwrap();
    shelf.execute_batch("DELETE FROM drinks").unwrap();
    drop(shelf);
    let kept =
        app.put("/api/kitchen", &json!({ "version": 3, "kitchen": { "ingredients": own } })).json();
    assert_eq!(kept["kitchen"]["ingredients"], json!([]));
}

#[test]
fn a_shelf_of_each_version_is_read_for_ever() {
    for (version, dump) in [
        (1, include_str!("../../../store/tests/shelf-1.sql")),
        (2, include_str!("../../../store/tests/shelf-2.sql")),
    ] {
        let folder = tempfile::tempdir().unwrap();
        let file = folder.path().join("keen-pitcher.db");
        Connection::open(&file).unwrap().execute_batch(dump).unwrap();
        let app = Application::start_in("serve", folder);
        let list = app.get("/api/drinks").json();
        assert_eq!(
            (&list["total"], &list["damaged"]),
            (&json!(2), &json!([])),
            "version {version}"
        );
        for entry in list["drinks"].as_array().unwrap() {
            let path = format!("/api/drinks/{}", entry["id"].as_str().unwrap());
            let kept = app.get(&path).json();
            app.post("/api/compute/trace", &kept["drink"]).json();
            let next = change(&kept, kept["version"].as_i64().unwrap(), "still good");
            app.put(&path, &next).json();
        }
        let kitchen = app.get("/api/kitchen").json();
        assert_eq!(
            (&kitchen["version"], &kitchen["kitchen"]["boil_off"]),
            (&json!(3), &json!(1.2))
        );
        assert_eq!(app.get("/api/settings").json()["units"], "us");
        assert_eq!(app.get("/api/bin").json()["drinks"][0]["name"], "Mint and cucumber water");
        assert_eq!(app.get("/api/shelf").json()["set_aside"], json!([]), "version {version}");
    }
}

/// Whether two answers say the same, but for the digits that a search for a root leaves open.
fn same(is: &Value, was: &Value) -> bool {
    same_within(is, was, 1e-4)
}

/// The same, where figures may be so much of themselves apart.
fn same_within(is: &Value, was: &Value, apart: f64) -> bool {
    match (is, was) {
        (Value::Number(is), Value::Number(was)) => {
            let (is, was) = (is.as_f64().unwrap(), was.as_f64().unwrap());
            (is - was).abs() <= apart * was.abs().max(1e-6)
        }
        (Value::Array(is), Value::Array(was)) => {
            is.len() == was.len() && is.iter().zip(was).all(|(is, was)| same_within(is, was, apart))
        }
        // What is new is no difference; what was told is still told.
        (Value::Object(is), Value::Object(was)) => was
            .iter()
            .all(|(key, was)| same_within(is.get(key).unwrap_or(&Value::Null), was, apart)),
        // How a thing is said may change; that it is said may not.
        (Value::String(is), Value::String(was)) if was.contains(' ') => !is.is_empty(),
        (is, was) => is == was,
    }
}

/// A shelf of the version before keeping went by contents: batches, tastings and bottles, with what was told of them.
#[test]
fn batches_tastings_and_bottles_of_an_older_shelf_are_what_they_were() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("keen-pitcher.db");
    let dump = include_str!("../../../store/tests/shelf-3.sql");
    Connection::open(&file).unwrap().execute_batch(dump).unwrap();
    let before: Value =
        serde_json::from_str(include_str!("../../../store/tests/shelf-3-told.json")).unwrap();
    let app = Application::start_in("serve", folder);
    for (id, was) in before["batches"].as_object().unwrap() {
        let is = app.get(&format!("/api/batches/{id}")).json();
        for figure in ["said", "taken_back", "finished_at", "ending"] {
            assert!(same(&is[figure], &was[figure]), "{figure} of batch {id}");
        }
    }
    for (id, was) in before["tastings"].as_object().unwrap() {
        let is = app.get(&format!("/api/tastings/{id}")).json();
        for figure in ["key", "seats", "stage"] {
            assert!(same(&is[figure], &was[figure]), "{figure} of tasting {id}");
        }
        // How sure the answers make us is judged better by and by; what they said is what they said.
        assert!(same_within(&is["tells"], &was["tells"], 0.05), "what tasting {id} tells");
    }
    // Bottles: as many, as full and where they were; none keeps longer than it did.
    let kept = app.get("/api/kept").json();
    let bottles = kept["bottles"].as_array().unwrap();
    assert_eq!(bottles.len(), before["bottles"].as_array().unwrap().len());
    for was in before["bottles"].as_array().unwrap() {
        let is = bottles.iter().find(|is| is["id"] == was["id"]).unwrap();
        for figure in ["name", "put_at", "moves", "brix", "alcohol"] {
            assert!(same(&is[figure], &was[figure]), "{figure} of {}", was["name"]);
        }
        assert_eq!((&is["state"]["ml"], &is["state"]["place"]), (&was["ml"], &was["place"]));
        let use_by =
            |it: &Value| it["use_by"].as_str().unwrap().parse::<jiff::Timestamp>().unwrap();
        let later = use_by(is).duration_since(use_by(was)).as_secs();
        assert!(later < 120, "{} keeps {later} s longer", was["name"]);
    }
    // Codes and orders are kept with the tastings from now on.
    let dealt: i64 = Connection::open(app.folder.path().join("keen-pitcher.db"))
        .unwrap()
        .query_row("SELECT count(*) FROM tastings WHERE instr(body, '\"dealt\"') = 0", [], |row| {
            row.get(0)
        })
        .unwrap();
    assert_eq!(dealt, 0);
}

/// Sends the beginning of a request and no more.
fn half_sent(app: &Application) -> TcpStream {
    let at = app.address.trim_start_matches("http://");
    let mut stream = TcpStream::connect(at).unwrap();
    let head = format!(
        "POST /api/compute/trace HTTP/1.1\r\nhost: {at}\r\ncontent-type: application/json\r\n\
         content-length: 5000\r\n\r\n{{\"name\":"
    );
    stream.write_all(head.as_bytes()).unwrap();
    stream
}

#[test]
fn who_stops_in_the_middle_of_a_sentence_is_not_waited_for() {
    let app = Application::start("serve");
    let start = Instant::now();
    let mut streams: Vec<TcpStream> = (0..400).map(|_| half_sent(&app)).collect();
    assert_eq!(app.get("/api/health").json()["status"], "ok");
    for stream in streams.iter_mut().step_by(40) {
        stream.set_read_timeout(Some(Duration::from_secs(12))).unwrap();
        let mut answer = Vec::new();
        // The connection may be cut right after the answer.
        let _ = stream.read_to_end(&mut answer);
        let answer = String::from_utf8_lossy(&answer);
        assert!(answer.starts_with("HTTP/1.1 408") && answer.contains("too-slow"), "{answer}");
    }
    assert!(start.elapsed() < Duration::from_secs(12), "{:?}", start.elapsed());
}

#[test]
fn everything_that_is_not_understood_says_what_it_is() {
    let app = Application::start("serve");
    let gzip = [("content-encoding", "gzip")];
    let text = [("content-type", "text/plain")];
    let packed = [("content-encoding", "br")];
    let long = "x".repeat(600_000);
    let drinks = "/api/drinks";
    let trace = "/api/compute/trace";
    let none: &[(&str, &str)] = &[];
    for (method, path, body, headers, status, kind) in [
        ("POST", trace, long.as_str(), none, 413, "too-large"),
        ("POST", trace, "{\"a\":", none, 400, "malformed"),
        ("POST", trace, "{}", none, 422, "invalid"),
        ("POST", trace, "not gzip at all", &gzip, 400, "bad-coding"),
        ("POST", trace, "{}", &packed, 415, "unknown-coding"),
        ("POST", trace, "name=lime", &text, 415, "not-json"),
        ("GET", "/api/drinks?limit=many", "", none, 400, "bad-query"),
        ("GET", "/api/drinks?sorted=name", "", none, 400, "bad-query"),
        ("PUT", drinks, "{}", none, 405, "wrong-method"),
        ("DELETE", trace, "", none, 405, "wrong-method"),
        ("GET", trace, "", none, 405, "wrong-method"),
        ("GET", "/api/nothing", "", none, 404, "not-found"),
        ("GET", "/api/drinks/x/y/z", "", none, 404, "not-found"),
        ("GET", "/api/shelf/set-aside/seven", "", none, 404, "not-found"),
        ("POST", "/", "", none, 405, "wrong-method"),
        ("GET", drinks, "", &[("host", "kitchen.example")], 403, "forbidden"),
    ] {
        let answer = app.call_with(method, path, Some(body), headers);
        let problem = answer.problem(status);
        assert_eq!(problem["type"], kind, "{method} {path}");
        assert!(answer.policy.contains("default-src 'none'"), "{method} {path}");
        assert!(answer.text.len() < 2000, "{method} {path}: {} bytes", answer.text.len());
    }
    // However much was sent, little is sent back.
    let mut drink = limeade();
    drink["steps"][0]["do"]["squeeze"]["ingredient"] = json!("moon".repeat(60_000));
    let answer = app.post(trace, &drink);
    answer.problem(422);
    assert!(answer.text.len() < 2000, "{}", answer.text.len());
    let vessels: Vec<Value> =
        (0..29).map(|i| json!({ "id": "X".repeat(9000 + i), "kind": "jug" })).collect();
    drink["vessels"] = json!(vessels);
    let answer = app.post(trace, &drink);
    answer.problem(422);
    assert!(answer.text.len() < 40_000, "{}", answer.text.len());
    // And the description says so.
    let document = app.get("/api/openapi.json").json();
    for (path, item) in document["paths"].as_object().unwrap() {
        for (method, operation) in item.as_object().unwrap() {
            let refused = &operation["responses"]["4XX"]["content"]["application/problem+json"];
            assert_eq!(
                refused["schema"]["$ref"], "#/components/schemas/Problem",
                "{method} {path}"
            );
        }
    }
}

#[test]
fn lists_in_a_question_are_bounded() {
    let app = Application::start("serve");
    let many = |one: Value, times: usize| Value::Array(vec![one; times]);
    let read = json!({ "read": { "volume": "1 l", "capacity": "2 l", "brix": 9, "acidity": 0.5 } });
    let word = json!({ "too": "sharp", "how": "touch" });
    for (path, body, field) in [
        ("correct", json!({ "pitcher": read, "at_hand": many(json!("water"), 400) }), "at_hand"),
        ("correct", json!({ "pitcher": read, "words": many(word, 4000) }), "words"),
        (
            "solve",
            json!({ "drink": limeade(), "aim": { "target": {}, "hold": many(json!("s1"), 9000) } }),
            "aim.hold",
        ),
        (
            "solve",
            json!({ "drink": limeade(), "aim": { "target": {}, "bounds": many(json!({ "step": "s1" }), 9000) } }),
            "aim.bounds",
        ),
        ("shopping", json!({ "drinks": many(limeade(), 21) }), "drinks"),
    ] {
        let problem = app.post(&format!("/api/compute/{path}"), &body).problem(422);
        assert_eq!(problem["errors"][0]["field"], field);
    }
}

#[test]
fn a_table_for_spreadsheets_has_no_formula_in_it() {
    let app = Application::start("serve");
    let mut drink = limeade();
    drink["name"] = json!("=HYPERLINK(\"http://kitchen.example\")");
    let answer = app.post("/api/compute/shopping", &json!({ "drinks": [drink] })).json();
    let table = answer["csv"].as_str().unwrap();
    assert!(table.contains("'=HYPERLINK"), "{table}");
    assert!(!table.contains(",=") && !table.contains(",\"="), "{table}");
}

#[test]
fn what_is_poured_to_and_fro_is_kept_and_shown() {
    let app = Application::start("serve");
    let mut steps = vec![
        json!({ "do": { "add": { "into": "pot", "ingredient": "strawberry", "amount": "300 g" } } }),
        json!({ "do": { "add": { "into": "pot", "ingredient": "water", "amount": "1 l" } } }),
    ];
    for _ in 0..40 {
        steps.push(json!({ "do": { "pour": { "from": "pot", "into": "bowl", "portion": { "share": 0.5 } } } }));
        steps.push(json!({ "do": { "pour": { "from": "bowl", "into": "pot" } } }));
    }
    let drink = json!({
        "name": "To and fro", "family": "fruit_water", "steps": steps,
        "vessels": [{ "id": "pot", "kind": "pot" }, { "id": "bowl", "kind": "bowl" }]
    });
    let answer = app.post("/api/compute/trace", &drink);
    answer.json();
    assert!(answer.text.len() < 200_000, "{}", answer.text.len());
    app.post("/api/drinks", &drink).json();
    assert_eq!(app.get("/api/drinks").json()["total"], 1);
}

/// Eight of the dearest questions at once: the application still answers, and saves.
#[test]
fn the_heaviest_questions_keep_nobody_waiting() {
    let app = Application::start("serve");
    let made = put_on_shelf(&app, "Limeade");
    let heavy = json!({ "drink": dearest() });
    let done = std::sync::atomic::AtomicBool::new(false);
    let (mut health, mut saves) = (Vec::new(), Vec::new());
    std::thread::scope(|scope| {
        for _ in 0..8 {
            scope.spawn(|| {
                while !done.load(Ordering::Relaxed) {
                    for question in ["spread", "glass", "vessels"] {
                        let answer = app.post(&format!("/api/compute/{question}"), &heavy);
                        assert!(matches!(answer.status, 200 | 503), "{question}: {}", answer.text);
                    }
                }
            });
        }
        std::thread::sleep(Duration::from_millis(300));
        for i in 0..75 {
            let start = Instant::now();
            app.get("/api/health").json();
            health.push(start.elapsed());
            if i % 3 == 0 {
                let start = Instant::now();
                app.put(&path_of(&made), &change(&made, 1 + i / 3, &format!("{i}"))).json();
                saves.push(start.elapsed());
            }
        }
        done.store(true, Ordering::Relaxed);
    });
    for (name, mut times) in [("health", health), ("saves", saves)] {
        times.sort();
        let (median, p99) = (times[times.len() / 2], times[times.len() * 99 / 100]);
        eprintln!("{name} beside the heaviest questions: median {median:.1?}, p99 {p99:.1?}");
        // The optimised build is held to 50 ms by the bench; tests run beside others on two cores.
        assert!(p99 < Duration::from_millis(400), "{name}: {p99:?}");
    }
}

#[test]
fn import_checks_what_the_application_checks() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("huge.json");
    let mut drink = limeade();
    drink["note"] = json!("x".repeat(600_000));
    std::fs::write(&file, drink.to_string()).unwrap();
    let import = |stdin: bool| {
        let mut command = binary();
        command.arg("import").arg(if stdin { Path::new("-") } else { &file });
        command.arg("--data").arg(folder.path().join("shelf"));
        if stdin {
            command.stdin(Stdio::from(std::fs::File::open(&file).unwrap()));
        }
        let out = command.output().unwrap();
        assert!(!out.status.success());
        String::from_utf8(out.stderr).unwrap()
    };
    assert!(import(false).contains("too large") && import(true).contains("too large"));
    let file = root().join("demo/mandarin-fizz.json");
    let mut fizz: Value = serde_json::from_str(&std::fs::read_to_string(file).unwrap()).unwrap();
    fizz["drink"]["steps"][0]["do"]["add"]["amount"] = json!("0.0000001 g");
    let file = folder.path().join("huge.json");
    std::fs::write(file, fizz.to_string()).unwrap();
    assert!(import(false).contains("too little to measure"));
}
