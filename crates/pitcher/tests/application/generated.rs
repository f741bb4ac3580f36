//! Files that are made from the code are as the code makes them now.

use std::fs::read_to_string;
use std::process::Command;

use crate::support::{binary, root};

const HOW: &str = "run `cargo xtask generate`";

#[test]
fn what_the_program_prints_of_itself_is_as_it_is_kept() {
    for (command, file) in [
        ("openapi", "docs/openapi.json"),
        ("schema", "docs/drink.schema.json"),
        ("demo-batches", "demo/batches.json"),
    ] {
        let made = binary().arg(command).output().unwrap();
        assert!(made.status.success(), "{command}");
        let kept = read_to_string(root().join(file)).unwrap();
        assert!(kept == String::from_utf8(made.stdout).unwrap(), "{file} is stale: {HOW}");
    }
}

#[test]
fn the_front_ends_types_are_those_of_the_api() {
    let web = root().join("web");
    let fresh = tempfile::tempdir().unwrap();
    let made = fresh.path().join("schema.ts");
    let status = Command::new("node")
        .args(["node_modules/openapi-typescript/bin/cli.js", "../docs/openapi.json"])
        .args(["--default-non-nullable", "false", "-o"])
        .arg(&made)
        .current_dir(&web)
        .output()
        .unwrap();
    assert!(status.status.success(), "{}", String::from_utf8_lossy(&status.stderr));
    let kept = read_to_string(web.join("src/api/schema.ts")).unwrap();
    assert!(kept == read_to_string(made).unwrap(), "web/src/api/schema.ts is stale: {HOW}");
}
