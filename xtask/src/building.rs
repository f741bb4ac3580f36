//! Builds the program and its screens side by side, and says in one line how far that is.
//!
//! Most of the wait is Rust's. So the front end's packages are fetched and its screens built beside it;
//! the last crate, which puts the screens into the program, is small and waits for both.

use std::io::{BufReader, IsTerminal, Read, Write};
use std::process::{Command, Stdio};
use std::sync::Mutex;
use std::time::{Duration, Instant};

use anyhow::{Context, Result, bail};

use crate::setup;

/// How often a line is written where it can't be written over.
const NEWS: Duration = Duration::from_secs(15);

/// What is going on, told in one line that is written over where there is a terminal.
pub(crate) struct Progress {
    state: Mutex<State>,
    terminal: bool,
}

struct State {
    rust: String,
    beside: String,
    told: Instant,
    shown: usize,
}

impl Progress {
    pub(crate) fn new() -> Self {
        let state = State {
            rust: "starting".into(),
            beside: String::new(),
            told: Instant::now(),
            shown: 0,
        };
        Self { state: Mutex::new(state), terminal: std::io::stderr().is_terminal() }
    }

    fn change(&self, change: impl FnOnce(&mut State)) {
        let Ok(mut state) = self.state.lock() else { return };
        change(&mut state);
        let beside =
            if state.beside.is_empty() { String::new() } else { format!("; {}", state.beside) };
        let line = format!("==> {}{beside}", state.rust);
        let mut out = std::io::stderr().lock();
        let done = if self.terminal {
            let rest = state.shown.saturating_sub(line.chars().count());
            state.shown = line.chars().count();
            write!(out, "\r{line}{:rest$}", "").and_then(|()| out.flush())
        } else if state.told.elapsed() >= NEWS {
            state.told = Instant::now();
            writeln!(out, "{line}")
        } else {
            Ok(())
        };
        // Who listens no more isn't told.
        drop(done);
    }

    /// What goes on beside the Rust build.
    pub(crate) fn beside(&self, what: &str) {
        self.change(|state| state.beside = what.to_owned());
    }

    /// What goes on in Rust.
    pub(crate) fn rust(&self, what: String) {
        self.change(|state| state.rust = what);
    }

    /// Something that stays to be read.
    fn lasting(&self, line: &str) {
        let Ok(mut state) = self.state.lock() else { return };
        let clear = std::mem::take(&mut state.shown);
        if self.terminal && clear > 0 {
            eprint!("\r{:clear$}\r", "");
        }
        eprintln!("{line}");
    }

    /// The line is done with.
    pub(crate) fn end(&self) {
        let Ok(mut state) = self.state.lock() else { return };
        let clear = std::mem::take(&mut state.shown);
        if self.terminal && clear > 0 {
            eprint!("\r{:clear$}\r", "");
        }
    }
}

/// How many crates are done of how many, if a line of cargo's tells it: `Building [==>  ] 12/34: syn, quote`.
fn crates_done(line: &str) -> Option<(&str, &str)> {
    let counts = line.trim_start().strip_prefix("Building")?.split_once(']')?.1.trim_start();
    let (counts, names) = counts.split_once(':').unwrap_or((counts, ""));
    counts.contains('/').then_some((counts.trim(), names.trim()))
}

/// Whether a line of cargo's only tells that it is getting on.
fn is_news_only(line: &str) -> bool {
    const WORDS: [&str; 12] = [
        "Building",
        "Compiling",
        "Checking",
        "Finished",
        "Downloading",
        "Downloaded",
        "Updating",
        "Locking",
        "Adding",
        "Blocking",
        "Executable",
        "Fresh",
    ];
    WORDS.iter().any(|word| line.trim_start().starts_with(word)) || line.trim().is_empty()
}

/// What the checked build is compiled by: the compiler with more lints, so that linting isn't a build of
/// its own. What is kept for the next build costs a third of this one.
pub(crate) const CHECKED: [(&str, &str); 2] =
    [("RUSTC_WORKSPACE_WRAPPER", "clippy-driver"), ("CARGO_INCREMENTAL", "0")];

/// Runs cargo, says how many crates are done of all, and tells how often it was warned.
pub(crate) fn cargo(
    progress: &Progress,
    what: &str,
    args: &[&str],
    variables: &[(&str, &str)],
) -> Result<usize> {
    progress.rust(format!("{what}: looking"));
    let mut warnings = 0;
    let mut cargo = Command::new("cargo")
        .args(args)
        .envs(variables.iter().copied())
        .envs([("CARGO_TERM_PROGRESS_WHEN", "always"), ("CARGO_TERM_PROGRESS_WIDTH", "140")])
        .env("CARGO_TERM_COLOR", "never")
        .stdin(Stdio::null())
        .stderr(Stdio::piped())
        .spawn()
        .context("cargo won't start")?;
    let told = cargo.stderr.take().context("cargo says nothing")?;
    let mut line = Vec::new();
    for byte in BufReader::new(told).bytes() {
        let byte = byte?;
        if byte != b'\n' && byte != b'\r' {
            line.push(byte);
            continue;
        }
        let text = String::from_utf8_lossy(&line).into_owned();
        line.clear();
        match crates_done(&text) {
            Some((counts, names)) => {
                let (done, all) = counts.split_once('/').unwrap_or((counts, "?"));
                let name = names.split(',').next().unwrap_or_default();
                progress.rust(format!("{what}: {done} of {all} crates ({name})"));
            }
            None if is_news_only(&text) => {}
            None => {
                warnings += usize::from(text.starts_with("warning"));
                progress.lasting(&text);
            }
        }
    }
    if !cargo.wait()?.success() {
        bail!("`cargo {}` failed", args.join(" "));
    }
    Ok(warnings)
}

/// Builds the program with a profile: the screens beside the crates that don't need them, then the rest. The API's
/// description isn't made from the code: the one that is kept is served.
pub(crate) fn program(profile: &str) -> Result<()> {
    let progress = Progress::new();
    let build = |what: &str, package: &str| {
        let args = ["build", "--package", package, "--no-default-features", "--profile", profile];
        cargo(&progress, what, &args, &[])
    };
    std::thread::scope(|side| {
        let screens = side.spawn(|| setup::front_end(&|what| progress.beside(what)));
        let server = build("compiling the server", "keen-server");
        let screens = screens.join().unwrap_or_else(|_| bail!("the front end's build broke off"));
        progress.beside("");
        server.map(drop).and(screens)
    })?;
    let built = build("putting the program together", "keen-pitcher");
    progress.end();
    built.map(drop)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_cargo_says_of_its_progress_is_understood() {
        let line = "    Building [=====>              ] 71/233: tokio, syn(build)";
        assert_eq!(crates_done(line), Some(("71/233", "tokio, syn(build)")));
        assert_eq!(crates_done("   Compiling syn v2.0.1"), None);
        assert!(is_news_only("   Compiling syn v2.0.1"));
        assert!(!is_news_only("error[E0505]: cannot move out of `store`"));
        assert!(!is_news_only("warning: unused variable: `x`"));
    }
}
