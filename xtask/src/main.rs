//! Set-up, build, run and check: `cargo xtask demo` and `cargo xtask test` are all that a fresh
//! machine with Rust, Node and Debian's package manager needs.

mod building;
mod checking;
mod package;
mod screens;
mod setup;
mod shell;
mod words;

use std::path::Path;
use std::process::ExitCode;

use anyhow::{Context, Result, bail};
use lexopt::prelude::*;

use shell::{run, say, text_of};

const HELP: &str = "\
Set-up, build, run and check.

cargo xtask demo         install what is missing, build, and serve the application with the demo's drinks
    --port N             the port on this machine; 0 takes a free one (7340)
    --data DIR           the folder for the demo's data
    --debug              the build that is quick to repeat, in place of the one that is quick to run
cargo xtask test         install what is missing, check format, lints and generated files, run all tests
    --quick              without the browser and without the runs that break things on purpose
cargo xtask generate     write the files that are generated from the code: API description, schema, types
cargo xtask screenshots  take the pictures in docs/screenshots from the demo's drinks
cargo xtask bench        time the drink model, and the application over loopback
cargo xtask words        print every string that a person reads, with where it stands
cargo xtask package      make what is installed on other machines, in target/package
";

/// What is asked for, and how.
#[derive(Debug, Default, PartialEq)]
struct Asked {
    task: String,
    port: Option<u16>,
    data: Option<String>,
    debug: bool,
    quick: bool,
    help: bool,
}

fn asked(mut words: lexopt::Parser) -> Result<Asked> {
    let mut asked = Asked::default();
    while let Some(word) = words.next()? {
        match word {
            Long("port") => asked.port = Some(words.value()?.parse()?),
            Long("data") => asked.data = Some(words.value()?.string()?),
            Long("debug") => asked.debug = true,
            Long("quick") => asked.quick = true,
            Short('h') | Long("help") => asked.help = true,
            Value(task) if asked.task.is_empty() => asked.task = task.string()?,
            other => return Err(other.unexpected().into()),
        }
    }
    let belongs = |said: bool, to: &str| !said || asked.task == to;
    if !belongs(asked.port.is_some() || asked.data.is_some() || asked.debug, "demo") {
        bail!("--port, --data and --debug belong to `cargo xtask demo`");
    }
    if !belongs(asked.quick, "test") {
        bail!("--quick belongs to `cargo xtask test`");
    }
    Ok(asked)
}

fn main() -> ExitCode {
    match work() {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("{error:#}");
            ExitCode::FAILURE
        }
    }
}

fn work() -> Result<()> {
    // All paths below are relative to the project's root.
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("..");
    std::env::set_current_dir(root).context("the project's folder can't be entered")?;
    let asked = asked(lexopt::Parser::from_env())?;
    match asked.task.as_str() {
        _ if asked.help => print!("{HELP}"),
        "demo" => demo(&asked)?,
        "test" => checking::test(asked.quick)?,
        "generate" => generate()?,
        "screenshots" => screens::take()?,
        "bench" => bench()?,
        "words" => words::print()?,
        "package" => package::make()?,
        "" => bail!("say what to do\n\n{HELP}"),
        other => bail!("there is no task {other:?}\n\n{HELP}"),
    }
    Ok(())
}

fn demo(asked: &Asked) -> Result<()> {
    let profile = if asked.debug { "dev" } else { "demo" };
    building::program(profile)?;
    let binary = format!("target/{}/keen-pitcher", if asked.debug { "debug" } else { "demo" });
    let port = asked.port.unwrap_or(7340).to_string();
    let mut args = vec!["demo", "--port", &port];
    if let Some(data) = &asked.data {
        args.extend(["--data", data]);
    }
    run(&binary, &args)
}

/// What is generated from the code, by the command that prints it.
const GENERATED: [(&str, &str); 3] = [
    ("openapi", "docs/openapi.json"),
    ("schema", "docs/drink.schema.json"),
    ("demo-batches", "demo/batches.json"),
];

/// Writes the generated files. That they are fresh is one of the tests.
fn generate() -> Result<()> {
    building::program("dev")?;
    for (command, file) in GENERATED {
        std::fs::write(file, text_of("target/debug/keen-pitcher", &[command])?)?;
    }
    run("npm", &["run", "--silent", "--prefix", "web", "types"])
}

fn bench() -> Result<()> {
    setup::browser()?;
    building::program("release")?;
    run("cargo", &["bench", "--package", "keen-bench"])?;
    let timing = |args: &[&str]| {
        let before = ["run", "--release", "--quiet", "--package", "keen-bench"];
        run("cargo", &[&before, args].concat())
    };
    say("opening long lists beside short ones");
    timing(&["--bin", "lists", "--", "target/release/keen-pitcher"])?;
    say("asking the application over loopback");
    screens::with_demo("target/release/keen-pitcher", |address| {
        timing(&["--", address, "demo"])?;
        say("following a drag in the browser");
        run("node", &["e2e/drag.mjs", address])
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn said(words: &[&str]) -> Result<Asked> {
        asked(lexopt::Parser::from_args(words))
    }

    #[test]
    fn what_belongs_to_another_task_is_refused() {
        let demo = said(&["demo", "--port", "0", "--data", "here"]).unwrap();
        assert_eq!(
            (demo.task.as_str(), demo.port, demo.data.as_deref()),
            ("demo", Some(0), Some("here"))
        );
        assert!(said(&["test", "--quick"]).unwrap().quick);
        for words in [
            &["test", "--port", "1"][..],
            &["demo", "--quick"],
            &["demo", "--port", "x"],
            &["demo", "twice"],
        ] {
            assert!(said(words).is_err(), "{words:?}");
        }
    }
}
