//! All checks and tests, the front end's beside the Rust build.

use std::process::Command;

use anyhow::{Context, Result, bail};

use crate::building::{CHECKED, Progress, cargo};
use crate::setup;
use crate::shell::{say, text_of};

/// Tests that need a browser, or minutes of breaking things on purpose.
const LONG: [&str; 3] = ["browser::", "faults::", "hostile::"];

/// Checks format, lints, types and generated files, and runs all tests; all but the longest if `quick`.
pub(crate) fn test(quick: bool) -> Result<()> {
    text_of("cargo", &["fmt", "--all", "--check"])?;
    let progress = Progress::new();
    std::thread::scope(|side| {
        let screens = side.spawn(|| front_end(&progress, quick));
        // Everything that is compiled at all is compiled once: tests run what was linted.
        let all = ["build", "--workspace", "--all-targets"];
        let rust = cargo(&progress, "compiling and linting", &all, &CHECKED);
        let screens = screens.join().unwrap_or_else(|_| bail!("the front end's checks broke off"));
        progress.beside("");
        match rust {
            Ok(0) => screens,
            Ok(warnings) => screens.and_then(|()| bail!("{warnings} warnings, see above")),
            Err(error) => Err(error),
        }
    })?;
    progress.end();
    say("running the tests");
    let mut tests = Command::new("cargo");
    // Anew, should the screens have been built after the program was.
    tests.envs(CHECKED).args(["test", "--workspace", "--no-fail-fast", "--quiet"]);
    if quick {
        tests
            .args(["--lib", "--bins", "--tests", "--"])
            .args(LONG.iter().flat_map(|part| ["--skip", part]));
    }
    let done = tests.status().context("cargo won't start")?;
    if done.success() { Ok(()) } else { bail!("a test failed, see above") }
}

/// The browser, and the screens: built, checked and tested by themselves.
fn front_end(progress: &Progress, quick: bool) -> Result<()> {
    let tell = |what: &str| progress.beside(what);
    if !quick {
        tell("looking for the browser");
        setup::browser()?;
    }
    setup::front_end(&tell)?;
    for (task, what) in
        [("check", "checking the screens' code"), ("test", "testing the screens' pieces")]
    {
        tell(what);
        text_of("npm", &["run", "--silent", "--prefix", "web", task])?;
    }
    tell("the screens are checked");
    Ok(())
}
