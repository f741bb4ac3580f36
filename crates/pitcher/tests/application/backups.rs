//! Backups and what they are for: a damaged file, a restore, a file that goes away, everything in one file.

use std::fmt::Write;
use std::time::{Duration, Instant};

use serde_json::json;

use crate::support::{Application, binary, fetch, limeade, put_on_shelf, send};

/// A damaged data file, three ways to restore: from the window's list, from a file, from the command line.
#[test]
fn a_damaged_file_gives_way_to_its_backup_in_the_window_and_on_the_command_line() {
    for way in ["listed", "chosen", "command"] {
        let app = Application::start("serve");
        put_on_shelf(&app, "Limeade");
        let listed = app.post("/api/house/backups", &json!({})).json()["backups"].clone();
        let name =
            listed.as_array().unwrap().iter().find(|it| it["kind"] == "manual").unwrap()["name"]
                .as_str()
                .unwrap()
                .to_owned();
        let app = app.stop();
        let folder = app.folder.path().to_owned();
        let backup = folder.join("backups").join(&name);
        std::fs::write(folder.join("keen-pitcher.db"), "a letter to my aunt ".repeat(99)).unwrap();
        let restored = if way == "command" {
            let out = binary()
                .args(["restore", backup.to_str().unwrap(), "--data", folder.to_str().unwrap()])
                .output()
                .unwrap();
            assert!(out.status.success(), "{}", String::from_utf8_lossy(&out.stderr));
            app.start_again_here("serve")
        } else {
            let app = app.start_again_here("serve");
            let shelf = app.get("/api/shelf").json();
            assert_eq!(shelf["condition"], "damaged");
            // It is said which backup is the newest good one, and how it is restored.
            let message = shelf["message"].as_str().unwrap();
            assert!(message.contains("keen-pitcher restore /"), "{message}");
            assert_eq!(app.post("/api/drinks", &limeade()).problem(503)["type"], "damaged");
            let done = match way {
                "listed" => app.post(&format!("/api/house/backups/{name}"), &json!({})).json(),
                _ => {
                    let (status, said) = send(&app, "/api/house", &std::fs::read(&backup).unwrap());
                    assert_eq!(status, 200, "{said}");
                    said
                }
            };
            let aside = folder.join(done["aside"].as_str().unwrap());
            assert!(std::fs::read_to_string(aside).unwrap().starts_with("a letter"), "{way}");
            app
        };
        assert_eq!(restored.get("/api/drinks").json()["drinks"][0]["name"], "Limeade", "{way}");
        put_on_shelf(&restored, "Mint cooler");
        let again = restored.cut_and_restart();
        assert_eq!(again.get("/api/drinks").json()["total"], 2, "{way}");
    }
}

/// The copy that a restore sets aside is put back like any backup.
#[test]
fn what_a_restore_set_aside_can_be_restored_too() {
    let app = Application::start("serve");
    put_on_shelf(&app, "Limeade");
    let house = fetch(&app, "/api/house");
    put_on_shelf(&app, "Mint cooler");
    let (_, said) = send(&app, "/api/house", &house);
    assert_eq!(app.get("/api/drinks").json()["total"], 1);
    let aside = said["aside"].as_str().unwrap();
    let listed = app.get("/api/house/backups").json()["backups"].clone();
    let known = listed.as_array().unwrap().iter().find(|it| it["name"] == aside).unwrap();
    assert_eq!(known["kind"], "set_aside");
    app.post(&format!("/api/house/backups/{aside}"), &json!({})).json();
    assert_eq!(app.get("/api/drinks").json()["total"], 2);
    // As a file that somebody chooses, too.
    let bytes = std::fs::read(app.folder.path().join(aside)).unwrap();
    assert_eq!(send(&app, "/api/house", &bytes).0, 200);
    assert_eq!(app.get("/api/drinks").json()["total"], 2);
}

/// The file goes away under the running server: nothing more is answered as saved.
#[test]
fn nothing_is_answered_as_saved_when_the_file_has_gone() {
    let app = Application::start("serve");
    put_on_shelf(&app, "Limeade");
    std::fs::remove_file(app.folder.path().join("keen-pitcher.db")).unwrap();
    assert_eq!(app.post("/api/drinks", &limeade()).problem(503)["type"], "damaged");
    // What was saved before can still be taken out as one file, and put back.
    let house = fetch(&app, "/api/house");
    assert_eq!(send(&app, "/api/house", &house).0, 200);
    put_on_shelf(&app, "Mint cooler");
    let again = app.cut_and_restart();
    assert_eq!(again.get("/api/drinks").json()["total"], 2);
}

/// Many downloads of everything at once: some are told to wait, none is told that it is wrong.
#[test]
fn downloads_of_everything_take_turns() {
    let app = Application::start("demo");
    let (mut done, mut told) = (0, 0);
    std::thread::scope(|threads| {
        let download = || {
            let url = format!("http://{}/api/house", app.address.trim_start_matches("http://"));
            let agent: ureq::Agent =
                ureq::Agent::config_builder().http_status_as_error(false).build().into();
            let mut answer = agent.get(url).call().unwrap();
            answer.body_mut().read_to_vec().unwrap();
            answer.status().as_u16()
        };
        let all: Vec<_> = (0..20).map(|_| threads.spawn(download)).collect();
        for one in all {
            match one.join().unwrap() {
                200 => done += 1,
                503 => told += 1,
                other => panic!("{other}"),
            }
        }
    });
    assert!(done >= 2 && done + told == 20, "{done} were served, {told} told to wait");
}

/// Two thousand batches come in at once, in one piece; those that are there already are told.
#[test]
fn a_table_of_batches_comes_in_whole_and_quickly() {
    let app = Application::start("serve");
    put_on_shelf(&app, "Limeade");
    let mut table =
        String::from("drink,begun_at,minutes,ml,sweetness,acidity,rating,bottles,place,note\n");
    for n in 0..2000 {
        let at =
            format!("20{:02}-{:02}-{:02}T10:00:00Z", 10 + n / 336, 1 + n / 28 % 12, 1 + n % 28);
        writeln!(table, "Limeade,{at},20,1000,9,0.6,4,2,,").unwrap();
    }
    // One of them twice.
    table.push_str("limeade,2010-01-01T10:00:00Z,20,1000,9,0.6,4,2,,\n");
    let start = Instant::now();
    let (status, said) = send(&app, "/api/house/tables/batches", table.as_bytes());
    assert_eq!(status, 200, "{said}");
    assert_eq!((&said["added"], &said["known"]), (&json!(2000), &json!(1)));
    // The optimised program takes a quarter of it.
    assert!(start.elapsed() < Duration::from_secs(4), "{:?}", start.elapsed());
    let (_, said) = send(&app, "/api/house/tables/batches", table.as_bytes());
    assert_eq!((&said["added"], &said["known"]), (&json!(0), &json!(2001)));
}
