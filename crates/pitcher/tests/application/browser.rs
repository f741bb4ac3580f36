use std::process::Command;

use crate::support::root;

/// The screens, driven in Chromium by the journeys in `e2e/journeys`.
#[test]
fn journeys_through_the_screens() {
    let folder = root().join("e2e");
    assert!(
        folder.join("node_modules").exists(),
        "the browser's driver is not installed: run `cargo xtask test`"
    );
    let status = Command::new("node")
        .args(["node_modules/@playwright/test/cli.js", "test"])
        .env("KEEN_PITCHER", env!("CARGO_BIN_EXE_keen-pitcher"))
        .current_dir(folder)
        .status()
        .expect("Node.js starts");
    assert!(status.success(), "a journey failed; it is named above");
}
