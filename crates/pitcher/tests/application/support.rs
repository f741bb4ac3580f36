use std::io::{BufRead, BufReader};
use std::path::Path;
use std::process::{Child, Command, Stdio};

use serde_json::{Value, json};
use tempfile::TempDir;

use crate::described::{as_described, note};

/// Calls the application; one of its own each time, as if from another window. Small buffers are enough: they are
/// cleared for every call.
fn agent() -> ureq::Agent {
    let config = ureq::Agent::config_builder().http_status_as_error(false);
    config.input_buffer_size(16 * 1024).output_buffer_size(16 * 1024).build().into()
}

/// The application, serving a shelf of its own until it is dropped.
pub struct Application {
    process: Child,
    pub address: String,
    pub folder: TempDir,
}

/// An application that has ended, and its shelf.
pub struct Ended {
    pub folder: TempDir,
}

pub fn binary() -> Command {
    Command::new(env!("CARGO_BIN_EXE_keen-pitcher"))
}

/// What deals the luck of a run: the same each time, so that what fails fails again. `KEEN_LUCK`
/// asks for another.
fn luck() -> String {
    std::env::var("KEEN_LUCK").unwrap_or_else(|_| "7".into())
}

impl Ended {
    /// Starts it on a shelf elsewhere.
    pub fn start_again(self, command: &str, folder: &Path) -> Application {
        Application::begin(command, folder, self.folder)
    }

    /// Starts it on the shelf that it had.
    pub fn start_again_here(self, command: &str) -> Application {
        Application::start_in(command, self.folder)
    }
}

impl Application {
    pub fn start(command: &str) -> Self {
        Self::start_in(command, tempfile::tempdir().unwrap())
    }

    pub fn start_in(command: &str, folder: TempDir) -> Self {
        let path = folder.path().to_owned();
        Self::begin(command, &path, folder)
    }

    /// On a shelf in a folder of someone else's.
    pub fn start_at(command: &str, folder: &Path) -> Self {
        Self::begin(command, folder, tempfile::tempdir().unwrap())
    }

    /// Served by a program that was told something more.
    pub fn start_with(program: &mut Command, folder: TempDir) -> Self {
        let shelf = folder.path().to_owned();
        Self::begin_with(program, "serve", &shelf, folder)
    }

    /// Told something more on its command line.
    pub fn start_told(more: &[&str]) -> Self {
        let folder = tempfile::tempdir().unwrap();
        let shelf = folder.path().to_owned();
        Self::begin_told(&mut binary(), ("serve", more), &shelf, folder)
    }

    fn begin(command: &str, shelf: &Path, folder: TempDir) -> Self {
        Self::begin_with(&mut binary(), command, shelf, folder)
    }

    fn begin_with(program: &mut Command, command: &str, shelf: &Path, folder: TempDir) -> Self {
        Self::begin_told(program, (command, &[]), shelf, folder)
    }

    fn begin_told(
        program: &mut Command,
        (command, more): (&str, &[&str]),
        shelf: &Path,
        folder: TempDir,
    ) -> Self {
        let mut process = program
            .args([command, "--port", "0", "--luck", &luck(), "--data"])
            .arg(shelf)
            .args(more)
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        let mut lines = BufReader::new(process.stdout.take().unwrap()).lines();
        let line = lines.next().expect("it says its address").unwrap();
        let address = line.rsplit(' ').next().unwrap().to_owned();
        Self { process, address, folder }
    }

    /// Ends it at once, as a power cut would.
    pub fn kill(&mut self) {
        self.process.kill().unwrap();
        self.process.wait().unwrap();
    }

    pub fn cut(mut self) -> Ended {
        self.kill();
        self.ended()
    }

    fn ended(mut self) -> Ended {
        Ended { folder: std::mem::replace(&mut self.folder, tempfile::tempdir().unwrap()) }
    }

    /// Stops it as one should.
    pub fn stop(mut self) -> Ended {
        let id = self.process.id().to_string();
        assert!(Command::new("kill").args(["-TERM", &id]).status().unwrap().success());
        assert!(self.process.wait().unwrap().success());
        self.ended()
    }

    /// Ends it at once and starts it again on the same shelf.
    pub fn cut_and_restart(self) -> Self {
        self.cut().start_again_here("serve")
    }

    pub fn cut_and_restart_at(self, folder: &Path) -> Self {
        self.cut().start_again("serve", folder)
    }

    pub fn call(&self, method: &str, path: &str, body: Option<&str>) -> Answer {
        self.call_with(method, path, body, &[])
    }

    pub fn call_with(
        &self,
        method: &str,
        path: &str,
        body: Option<&str>,
        headers: &[(&str, &str)],
    ) -> Answer {
        let mut request =
            ureq::http::Request::builder().method(method).uri(format!("{}{path}", self.address));
        if !headers.iter().any(|(name, _)| *name == "content-type") {
            request = request.header("content-type", "application/json");
        }
        for (name, value) in headers {
            request = request.header(*name, *value);
        }
        let request = request.body(body.unwrap_or_default().to_owned()).unwrap();
        let mut response = agent().run(request).unwrap();
        let header = |name: &str| {
            response
                .headers()
                .get(name)
                .and_then(|v| v.to_str().ok())
                .unwrap_or_default()
                .to_owned()
        };
        let (kind, policy) = (header("content-type"), header("content-security-policy"));
        let status = response.status().as_u16();
        let text = response.body_mut().with_config().limit(60_000_000).read_to_string().unwrap();
        as_described(method, path, status, &kind, &text);
        Answer { status, kind, policy, text }
    }

    pub fn get(&self, path: &str) -> Answer {
        self.call("GET", path, None)
    }

    pub fn post(&self, path: &str, body: &Value) -> Answer {
        self.call("POST", path, Some(&body.to_string()))
    }

    pub fn put(&self, path: &str, body: &Value) -> Answer {
        self.call("PUT", path, Some(&body.to_string()))
    }
}

impl Drop for Application {
    fn drop(&mut self) {
        let _ = self.process.kill();
        let _ = self.process.wait();
    }
}

pub struct Answer {
    pub status: u16,
    pub kind: String,
    pub policy: String,
    pub text: String,
}

impl Answer {
    /// The body of a call that went well.
    pub fn json(&self) -> Value {
        assert!((200..300).contains(&self.status), "{} {}", self.status, self.text);
        serde_json::from_str(&self.text).unwrap()
    }

    /// The problem document of a call that did not.
    pub fn problem(&self, status: u16) -> Value {
        assert_eq!(self.status, status, "{}", self.text);
        assert_eq!(self.kind, "application/problem+json");
        let problem: Value = serde_json::from_str(&self.text).unwrap();
        assert_eq!(problem["status"], status);
        assert!(problem["detail"].as_str().is_some_and(|d| d.len() > 10), "{problem}");
        problem
    }
}

/// A limeade as a person would write it.
pub fn limeade() -> Value {
    json!({
        "name": "Limeade",
        "family": "lemonade",
        "vessels": [
            { "id": "jug", "kind": "jug" },
            { "id": "glass", "kind": "glass" }
        ],
        "steps": [
            { "do": { "squeeze": { "into": "jug", "ingredient": "lime_juice", "amount": "4 limes" } } },
            { "do": { "add": { "into": "jug", "ingredient": "white_sugar", "amount": "1/2 cup" } } },
            { "do": { "top_up": { "vessel": "jug", "ingredient": "water", "to": "1 l" } } },
            { "do": { "serve": { "from": "jug", "glass": "glass", "glasses": 4, "size": "250 ml" } } }
        ]
    })
}

/// A drink that is as dear to compute as any that can be written.
pub fn dearest() -> Value {
    serde_json::from_str(include_str!("../../../bench/dearest.json")).unwrap()
}

pub fn root() -> &'static Path {
    Path::new(concat!(env!("CARGO_MANIFEST_DIR"), "/../.."))
}

/// A limeade on the shelf, by a name.
pub fn put_on_shelf(app: &Application, name: &str) -> Value {
    let mut drink = limeade();
    drink["name"] = json!(name);
    app.post("/api/drinks", &drink).json()
}

/// Sends bytes as they are.
pub fn send(app: &Application, path: &str, body: &[u8]) -> (u16, Value) {
    send_by("POST", app, path, body)
}

pub fn send_by(method: &str, app: &Application, path: &str, body: &[u8]) -> (u16, Value) {
    let url = format!("http://{}{path}", app.address.trim_start_matches("http://"));
    let request = match method {
        "PUT" => agent().put(&url),
        _ => agent().post(&url),
    };
    let mut answer = request.header("content-type", "application/octet-stream").send(body).unwrap();
    let status = answer.status().as_u16();
    let kind = answer.headers().get("content-type").map_or("", |kind| kind.to_str().unwrap());
    let kind = kind.to_owned();
    let text = answer.body_mut().read_to_string().unwrap();
    as_described(method, path, status, &kind, &text);
    (status, serde_json::from_str(&text).unwrap_or_default())
}

/// A file as it comes.
pub fn fetch(app: &Application, path: &str) -> Vec<u8> {
    let url = format!("http://{}{path}", app.address.trim_start_matches("http://"));
    let mut answer = ureq::get(&url).call().unwrap();
    note("GET", path, answer.status().as_u16());
    answer.body_mut().read_to_vec().unwrap()
}
