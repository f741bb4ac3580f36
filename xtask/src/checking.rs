//! All checks and tests, the front end's beside the Rust build.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::sync::mpsc;
use std::time::SystemTime;

use anyhow::{Context, Result, bail};

use crate::building::{CHECKED, Progress, cargo};
use crate::setup;
use crate::shell::{say, text_of};
use crate::words;

/// Tests that need a browser.
const JOURNEYS: &str = "browser::";
/// Tests that break things on purpose, and those that take longest.
const LONG: [&str; 14] = [
    "faults::",
    "hostile::",
    "dearest",
    "lands_at_most_half_as_far_off",
    "plan::tests",
    "whatever_is_asked_for_is_planned_or_told",
    "an_average_kitchen_is_told_next_to_nothing",
    "however_the_photo_was_taken",
    "in_one_photo",
    "the_same_seed_the_same",
    "bounds::",
    "what_the_program_prints_of_itself",
    "forty_tasters",
    "every_gram",
];

/// Checks format, lints, types and generated files, and runs all tests; all but the longest if `quick`.
///
/// The journeys wait more than they work. So what they need is compiled first, and they are walked beside everything
/// that comes after it: the rest of the compiling, the checks of the screens' code, and all other tests.
pub(crate) fn test(quick: bool) -> Result<()> {
    text_of("cargo", &["fmt", "--all", "--check"])?;
    words::check()?;
    let started = SystemTime::now();
    let progress = Progress::new();
    let (tell_there, there) = mpsc::channel();
    std::thread::scope(|side| {
        let screens = side.spawn(|| front_end(&progress, quick, tell_there));
        let compile = |what: &str, targets: &[&str]| {
            let all = [&["build", "--workspace"], targets].concat();
            cargo(&progress, what, &all, &CHECKED)
        };
        // Everything that is compiled at all is compiled once: tests run what was linted.
        let needed = ["--bins", "--test", "application"];
        let mut warnings = compile("compiling and linting the application", &needed)?;
        let shown = there.recv().is_ok();
        let walked = if shown && !quick {
            let walked = walker()?;
            Some(side.spawn(move || journeys(&walked)))
        } else {
            None
        };
        warnings += compile("compiling and linting the rest", &["--all-targets"])?;
        say("running the tests");
        progress.rust("running the tests".into());
        let others = if shown { others(quick) } else { Ok(false) };
        let screens = screens.join().unwrap_or_else(|_| bail!("the front end's checks broke off"));
        progress.end();
        let walked = walked.map_or(Ok(true), |walked| {
            walked.join().unwrap_or_else(|_| bail!("the journeys broke off"))
        });
        screens?;
        let twice = compiled_twice(Path::new("target/debug/.fingerprint"), started)?;
        if !twice.is_empty() {
            bail!("compiled twice, for settings that differ between two builds: {twice:?}");
        }
        if warnings > 0 {
            bail!("{warnings} warnings, see above");
        }
        if others? & walked? { Ok(()) } else { bail!("a test failed, see above") }
    })
}

/// What of ours was compiled more than once since then. The builds of one run must share what they compile: where one
/// crate's settings differ between them, all that rests on it is compiled again, which took a quarter of the whole run.
fn compiled_twice(kept: &Path, since: SystemTime) -> Result<Vec<String>> {
    let mut times = BTreeMap::<String, usize>::new();
    for folder in kept.read_dir().context("nothing was compiled")?.flatten() {
        let fresh = folder
            .path()
            .join("invoked.timestamp")
            .metadata()
            .and_then(|timestamp| timestamp.modified())
            .is_ok_and(|compiled| compiled >= since);
        let name = folder.file_name().to_string_lossy().into_owned();
        let Some((package, _)) = name.rsplit_once('-') else { continue };
        if !fresh || !package.starts_with("keen-") {
            continue;
        }
        for file in folder.path().read_dir()?.flatten() {
            if let Some(target) = file.file_name().to_string_lossy().strip_suffix(".json") {
                *times.entry(format!("{package} {target}")).or_default() += 1;
            }
        }
    }
    Ok(times.into_iter().filter(|(_, times)| *times > 1).map(|(what, _)| what).collect())
}

/// Cargo's test runner, with what the checked build left. Anew, should the screens have been built after the
/// program was.
fn tests() -> Command {
    let mut tests = Command::new("cargo");
    tests.envs(CHECKED).args(["test", "--workspace", "--no-fail-fast", "--quiet"]);
    tests
}

/// All tests but the journeys; whether they pass. If `quick`, all but the longest.
fn others(quick: bool) -> Result<bool> {
    let called = called()?;
    let mut tests = tests();
    tests.env("KEEN_PITCHER_CALLED", &called);
    if quick {
        tests.args(["--lib", "--bins", "--tests"]);
    }
    tests.args(["--", "--skip", JOURNEYS]);
    if quick {
        tests.args(LONG.iter().flat_map(|part| ["--skip", part]));
    }
    let passed = tests.status().context("cargo won't start")?.success();
    Ok(passed && (quick || every_operation_was_called(&called)?))
}

/// An empty folder in which the tests note the operations of the API that they called.
fn called() -> Result<PathBuf> {
    let folder = std::env::current_dir()?.join("target/called");
    if folder.exists() {
        std::fs::remove_dir_all(&folder)?;
    }
    std::fs::create_dir_all(&folder)?;
    Ok(folder)
}

/// Whether each operation that is described was called by some test, and did what it is for.
fn every_operation_was_called(called: &Path) -> Result<bool> {
    let described = std::fs::read_to_string("docs/openapi.json")?;
    let operations = described
        .lines()
        .filter_map(|line| line.trim().strip_prefix("\"operationId\": \"")?.strip_suffix("\","));
    let missed: Vec<&str> = operations.filter(|name| !called.join(name).exists()).collect();
    if !missed.is_empty() {
        say(&format!("no test has called these operations of the API: {}", missed.join(", ")));
    }
    Ok(missed.is_empty())
}

/// The program that walks the journeys, which is a test; with the screens as they are now.
fn walker() -> Result<PathBuf> {
    let mut walker = tests();
    walker.args(["--no-run", "--test", "application", "--message-format", "json"]);
    let told = walker.output().context("cargo won't start")?;
    let told = String::from_utf8_lossy(&told.stdout).into_owned();
    let path = told.lines().find_map(|line| {
        let (_, path) = line.split_once("\"executable\":\"")?;
        let (path, _) = path.split_once('"')?;
        path.contains("/application-").then(|| PathBuf::from(path))
    });
    path.context("the tests of the application weren't built")
}

/// The journeys alone; whether they pass. What they say is told when they are over, in one piece.
fn journeys(walker: &Path) -> Result<bool> {
    let walker = std::env::current_dir()?.join(walker);
    let said = Command::new(walker).arg(JOURNEYS).output().context("the journeys won't start")?;
    say("the journeys through the screens");
    print!("{}", String::from_utf8_lossy(&said.stdout));
    eprint!("{}", String::from_utf8_lossy(&said.stderr));
    Ok(said.status.success())
}

/// The browser, and the screens: built, which is told, and then checked and tested by themselves.
fn front_end(progress: &Progress, quick: bool, built: mpsc::Sender<()>) -> Result<()> {
    let tell = |what: &str| progress.beside(what);
    if !quick {
        tell("looking for the browser");
        setup::browser()?;
    }
    setup::front_end(&tell)?;
    // Who listens no more has failed, and says so.
    let _ = built.send(());
    for (task, what) in
        [("check", "checking the screens' code"), ("test", "testing the screens' pieces")]
    {
        tell(what);
        text_of("npm", &["run", "--silent", "--prefix", "web", task])?;
    }
    tell("the screens are checked");
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_compiled_twice_is_found() {
        let kept = tempfile::tempdir().unwrap();
        let since = SystemTime::now() - std::time::Duration::from_secs(1);
        let compile = |folder: &str, target: &str| {
            let folder = kept.path().join(folder);
            std::fs::create_dir_all(&folder).unwrap();
            std::fs::write(folder.join("invoked.timestamp"), "").unwrap();
            std::fs::write(folder.join(format!("{target}.json")), "{}").unwrap();
        };
        compile("keen-core-1a", "lib-keen_core");
        compile("keen-core-2b", "test-lib-keen_core");
        compile("serde-1a", "lib-serde");
        compile("serde-2b", "lib-serde");
        assert_eq!(compiled_twice(kept.path(), since).unwrap(), [""; 0]);
        compile("keen-core-3c", "lib-keen_core");
        assert_eq!(compiled_twice(kept.path(), since).unwrap(), ["keen-core lib-keen_core"]);
        let later = SystemTime::now() + std::time::Duration::from_secs(60);
        assert_eq!(compiled_twice(kept.path(), later).unwrap(), [""; 0]);
    }
}
