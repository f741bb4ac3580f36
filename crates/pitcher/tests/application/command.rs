use std::io::Write;
use std::process::Stdio;

use keen_core::cupboard::Cupboard;

use crate::support::{binary, limeade, root};

#[test]
fn a_drink_is_run_on_the_command_line() {
    let file = root().join("demo/lemon-verbena-lemonade.json");
    let output = binary().arg("trace").arg(&file).output().unwrap();
    assert!(output.status.success());
    let text = String::from_utf8(output.stdout).unwrap();
    assert!(text.contains("Squeeze 6 lemons into the jug."), "{text}");
    assert!(text.contains("(bright)"), "{text}");
    let output = binary().arg("trace").arg(&file).arg("--json").output().unwrap();
    let report: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap();
    assert_eq!(report["frames"].as_array().unwrap().len(), 12);
}

#[test]
fn a_drink_comes_from_standard_input() {
    let mut child =
        binary().args(["trace", "-"]).stdin(Stdio::piped()).stdout(Stdio::piped()).spawn().unwrap();
    child.stdin.take().unwrap().write_all(limeade().to_string().as_bytes()).unwrap();
    let output = child.wait_with_output().unwrap();
    assert!(String::from_utf8(output.stdout).unwrap().starts_with("Limeade\n"));
}

#[test]
fn what_is_no_drink_is_refused_with_the_field() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("drink.json");
    let mut drink = limeade();
    drink["steps"][1]["do"]["add"]["amount"] = "some".into();
    std::fs::write(&file, drink.to_string()).unwrap();
    let output = binary().arg("trace").arg(&file).output().unwrap();
    assert!(!output.status.success());
    let text = String::from_utf8(output.stderr).unwrap();
    assert!(text.contains("steps[1].do.add.amount") && text.contains("no number"), "{text}");
}

#[test]
fn files_go_onto_a_shelf_all_or_none() {
    let folder = tempfile::tempdir().unwrap();
    let good = folder.path().join("good.json");
    let bad = folder.path().join("bad.json");
    std::fs::write(&good, limeade().to_string()).unwrap();
    std::fs::write(&bad, "{}").unwrap();
    let shelf = folder.path().join("shelf");
    let import = |files: &[&std::path::Path]| {
        binary().arg("import").args(files).arg("--data").arg(&shelf).output().unwrap()
    };
    let export = || binary().args(["export", "Limeade", "--data"]).arg(&shelf).output().unwrap();
    assert!(!import(&[&good, &bad]).status.success());
    assert!(!export().status.success(), "nothing of a failed import is kept");
    assert!(import(&[&good]).status.success());
    let file = export().stdout;
    let read = |text: &[u8]| keen_formats::read_drink(text, Cupboard::builtin()).unwrap();
    assert_eq!(read(&file), read(limeade().to_string().as_bytes()));
}
