//! Phones in the kitchen: what is answered at the second door, and to whom.

use std::io::{Read, Write};
use std::net::TcpStream;
use std::time::Duration;

use serde_json::{Value, json};

use crate::batches::{begin, say};
use crate::described::note;
use crate::support::{Application, limeade};

/// An answer at the second door, as it came.
struct Heard {
    status: u16,
    head: String,
    body: String,
}

/// Asks at the second door, as a phone would.
fn ask(at: &str, method: &str, path: &str, headers: &[(&str, &str)], body: &str) -> Heard {
    let mut stream = TcpStream::connect(at).unwrap();
    stream.set_read_timeout(Some(Duration::from_secs(20))).unwrap();
    let mut text = format!("{method} {path} HTTP/1.1\r\nconnection: close\r\n");
    if !headers.iter().any(|(name, _)| *name == "host") {
        text += &format!("host: {at}\r\n");
    }
    for (name, value) in headers {
        text += &format!("{name}: {value}\r\n");
    }
    if !body.is_empty() {
        text += &format!("content-type: application/json\r\ncontent-length: {}\r\n", body.len());
    }
    stream.write_all(format!("{text}\r\n{body}").as_bytes()).unwrap();
    let mut all = Vec::new();
    stream.read_to_end(&mut all).unwrap();
    let all = String::from_utf8_lossy(&all).into_owned();
    let (head, body) = all.split_once("\r\n\r\n").unwrap();
    let status = head.split(' ').nth(1).unwrap().parse().unwrap();
    note(method, path, status);
    Heard { status, head: head.to_ascii_lowercase(), body: body.to_owned() }
}

struct Kitchen {
    app: Application,
    at: String,
}

impl Kitchen {
    fn open() -> Self {
        let app = Application::start_told(&["--kitchen=127.0.0.2:0"]);
        let began = std::time::Instant::now();
        let at = loop {
            let door = app.get("/api/phones").json();
            if let Some(at) = door["addresses"][0].as_str() {
                break at.trim_start_matches("http://").to_owned();
            }
            assert!(began.elapsed() < Duration::from_secs(10), "the door never opens");
            std::thread::sleep(Duration::from_millis(30));
        };
        assert!(at.starts_with("127.0.0.2:"), "{at}");
        Self { app, at }
    }

    fn code(&self) -> String {
        self.app.get("/api/phones").json()["code"].as_str().unwrap().to_owned()
    }

    fn sign_in(&self, code: &str, name: &str) -> Heard {
        let body = json!({ "code": code, "name": name }).to_string();
        ask(&self.at, "POST", "/api/phones/sign-in", &[], &body)
    }

    /// Lets a phone in; its cookie.
    fn phone(&self, name: &str) -> String {
        let heard = self.sign_in(&self.code(), name);
        assert_eq!(heard.status, 204, "{}", heard.body);
        let cookie = heard.head.lines().find(|l| l.starts_with("set-cookie:")).unwrap().to_owned();
        for word in ["httponly", "samesite=strict", "path=/", "max-age=2592000"] {
            assert!(cookie.contains(word), "{cookie}");
        }
        cookie["set-cookie:".len()..].split(';').next().unwrap().trim().to_owned()
    }

    fn get(&self, path: &str, cookie: &str) -> Heard {
        ask(&self.at, "GET", path, &[("cookie", cookie)], "")
    }
}

#[test]
fn without_a_session_nothing_but_the_page_that_asks_for_the_code_is_answered() {
    let kitchen = Kitchen::open();
    kitchen.app.post("/api/drinks", &limeade());
    let document = kitchen.app.get("/api/openapi.json").json();
    for (path, calls) in document["paths"].as_object().unwrap() {
        for method in calls.as_object().unwrap().keys() {
            if path == "/api/phones/sign-in" {
                continue;
            }
            let path = path.replace("{id}", "x");
            let heard = ask(&kitchen.at, &method.to_uppercase(), &path, &[], "{}");
            assert_eq!(heard.status, 401, "{method} {path}: {}", heard.body);
            assert!(!heard.body.contains("Limeade"));
        }
    }
    for path in ["/api/openapi.json", "/api/docs/", "/api/nothing"] {
        assert_eq!(kitchen.get(path, "").status, 401, "{path}");
    }
    // Nor by a way round: other letters, another case, dots, or a second slash.
    for path in [
        "/%61pi/drinks",
        "/a%70i/drinks",
        "/api%2fdrinks",
        "//api/drinks",
        "/./api/drinks",
        "/x/../api/drinks",
        "/assets/../api/drinks",
        "/assets/..%2fapi/drinks",
        "/API/drinks",
    ] {
        let heard = kitchen.get(path, "");
        assert!([303, 401, 404].contains(&heard.status), "{path}: {} {}", heard.status, heard.body);
        assert!(!heard.body.contains("Limeade"), "{path}");
    }
    let screen = kitchen.get("/drinks/x", "");
    assert_eq!(screen.status, 303, "a screen leads to where the code goes");
    assert!(screen.head.contains("location: /join"), "{}", screen.head);
    let page = kitchen.get("/", "");
    assert_eq!(page.status, 200);
    assert!(!page.body.contains("Limeade"));
    // A cookie that somebody made up, or that is no token at all.
    let made_up = format!("keen-pitcher-phone={}", "a".repeat(64));
    for cookie in [made_up.as_str(), "keen-pitcher-phone=", "keen-pitcher-phone=%00"] {
        assert_eq!(kitchen.get("/api/drinks", cookie).status, 401);
    }
}

#[test]
fn a_phone_with_the_code_comes_in_and_may_not_let_others_in() {
    let kitchen = Kitchen::open();
    kitchen.app.post("/api/drinks", &limeade());
    let door = kitchen.app.get("/api/phones").json();
    assert!(door["picture"].as_str().unwrap().contains("<svg"), "{door}");
    let first = kitchen.code();
    let cookie = kitchen.phone("phone at the stove");
    assert_ne!(kitchen.code(), first, "a code lets one phone in");
    let shelf = kitchen.get("/api/drinks", &cookie);
    assert_eq!(shelf.status, 200);
    assert!(shelf.body.contains("Limeade"));
    for path in ["/api/phones", "/api/shelf", "/api/docs/"] {
        assert_eq!(kitchen.get(path, &cookie).status, 403, "{path}");
    }
    for path in ["/api/%70hones", "/%61pi/phones", "/api/shel%66"] {
        assert_eq!(kitchen.get(path, &cookie).status, 403, "{path}");
    }
    let other = ask(&kitchen.at, "PUT", "/api/phones", &[("cookie", &cookie)], r#"{"open":true}"#);
    assert_eq!(other.status, 403);
    let door = kitchen.app.get("/api/phones").json();
    assert_eq!(door["phones"][0]["name"], "phone at the stove");
    // The shelf's file has no token in it.
    let token = cookie.split('=').nth(1).unwrap();
    let found = std::fs::read_dir(kitchen.app.folder.path()).unwrap().flatten().any(|file| {
        let bytes = std::fs::read(file.path()).unwrap_or_default();
        bytes.windows(token.len()).any(|w| w == token.as_bytes())
    });
    assert!(!found, "the token lies in the folder");
}

#[test]
fn a_foreign_host_or_origin_is_turned_away_at_both_doors() {
    let kitchen = Kitchen::open();
    let cookie = kitchen.phone("phone");
    let cookie = ("cookie", cookie.as_str());
    let ask = |headers: &[(&str, &str)]| ask(&kitchen.at, "GET", "/api/drinks", headers, "").status;
    assert_eq!(ask(&[cookie]), 200);
    for host in ["kitchen.example", "127.0.0.1:7340", "localhost"] {
        assert_eq!(ask(&[cookie, ("host", host)]), 403, "{host}");
    }
    assert_eq!(ask(&[cookie, ("origin", "http://kitchen.example")]), 403);
    let own = format!("http://{}", kitchen.at);
    assert_eq!(ask(&[cookie, ("origin", &own)]), 200);
    let mine = kitchen.app.call_with("GET", "/api/drinks", None, &[("host", &kitchen.at)]);
    assert_eq!(mine.status, 403, "the first door doesn't go by the second one's name");
}

#[test]
fn wrong_codes_are_slowed_down() {
    let kitchen = Kitchen::open();
    let code = kitchen.code();
    let wrong = if code == "123456" { "654321" } else { "123456" };
    for _ in 0..5 {
        assert_eq!(kitchen.sign_in(wrong, "").status, 403);
    }
    // Who sent them waits, also with the code.
    let slowed = kitchen.sign_in(&kitchen.code(), "");
    assert_eq!(slowed.status, 429, "{}", slowed.body);
    assert!(slowed.head.contains("retry-after:"), "{}", slowed.head);
    for (body, status) in
        [(json!({ "code": 5 }), 422), (json!({ "code": "1", "name": "x".repeat(90) }), 422)]
    {
        let heard = ask(&kitchen.at, "POST", "/api/phones/sign-in", &[], &body.to_string());
        assert_eq!(heard.status, status, "{}", heard.body);
    }
}

#[test]
fn a_phone_that_is_put_out_is_out_at_once() {
    let kitchen = Kitchen::open();
    let cookie = kitchen.phone("phone");
    let other = kitchen.phone("tablet");
    // It listens, and hears.
    let mut line = TcpStream::connect(&kitchen.at).unwrap();
    line.set_read_timeout(Some(Duration::from_secs(20))).unwrap();
    let ask =
        format!("GET /api/changes HTTP/1.1\r\nhost: {}\r\ncookie: {cookie}\r\n\r\n", kitchen.at);
    line.write_all(ask.as_bytes()).unwrap();
    let mut heard = [0_u8; 4096];
    let count = line.read(&mut heard).unwrap();
    assert!(String::from_utf8_lossy(&heard[..count]).contains("200 OK"));
    note("GET", "/api/changes", 200);
    let door = kitchen.app.get("/api/phones").json();
    let phones = door["phones"].as_array().unwrap();
    let id = phones.iter().find(|p| p["name"] == "phone").unwrap()["id"].as_str().unwrap();
    let left = kitchen.app.call("DELETE", &format!("/api/phones/{id}"), None).json();
    assert_eq!(left["phones"].as_array().unwrap().len(), 1);
    assert_eq!(kitchen.get("/api/drinks", &cookie).status, 401);
    assert_eq!(kitchen.get("/api/drinks", &other).status, 200);
    // Its line ends.
    let mut rest = Vec::new();
    line.read_to_end(&mut rest).unwrap();
    kitchen.app.call("DELETE", "/api/phones/none", None).problem(404);
    // Shut, nobody comes in any more, and nobody is remembered.
    let shut = kitchen.app.put("/api/phones", &json!({ "open": false })).json();
    assert_eq!((&shut["open"], &shut["phones"]), (&json!(false), &json!([])));
    assert!(TcpStream::connect(&kitchen.at).is_err(), "the door is shut");
    let open = kitchen.app.put("/api/phones", &json!({ "open": true })).json();
    assert_eq!(open["open"], true);
}

#[test]
fn two_screens_on_one_batch_follow_each_other_within_half_a_second() {
    let kitchen = Kitchen::open();
    let cookie = kitchen.phone("phone");
    let (path, batch) = begin(&kitchen.app, limeade());
    let mut line = TcpStream::connect(&kitchen.at).unwrap();
    line.set_read_timeout(Some(Duration::from_secs(20))).unwrap();
    let ask =
        format!("GET /api/changes HTTP/1.1\r\nhost: {}\r\ncookie: {cookie}\r\n\r\n", kitchen.at);
    line.write_all(ask.as_bytes()).unwrap();
    let mut heard = [0_u8; 4096];
    let _ = line.read(&mut heard).unwrap();
    let step = batch["stands"]["next"].as_str().unwrap();
    let began = std::time::Instant::now();
    say(&kitchen.app, &path, json!({ "done": { "step": step } }));
    let id = batch["id"].as_str().unwrap();
    let mut text = String::new();
    while !text.contains(id) {
        let count = line.read(&mut heard).unwrap();
        text += &String::from_utf8_lossy(&heard[..count]);
    }
    assert!(began.elapsed() < Duration::from_millis(2500), "{:?}", began.elapsed());
    let seen = kitchen.get(&path, &cookie);
    let seen: Value =
        serde_json::from_str(seen.body.split_once('{').map(|_| &seen.body[..]).unwrap())
            .unwrap_or_else(|_| dechunked(&seen.body));
    assert_eq!(seen["stands"]["steps"][0]["state"], "done");
}

/// A body that came in chunks, put together.
fn dechunked(body: &str) -> Value {
    let mut rest = body;
    let mut whole = String::new();
    while let Some((size, after)) = rest.split_once("\r\n") {
        let size = usize::from_str_radix(size.trim(), 16).unwrap_or(0);
        if size == 0 {
            break;
        }
        whole += &after[..size];
        rest = after[size..].trim_start_matches("\r\n");
    }
    serde_json::from_str(&whole).unwrap()
}
