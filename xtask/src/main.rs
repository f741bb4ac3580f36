//! Set-up, build, run and check: `cargo xtask demo` and `cargo xtask test` are all that a fresh
//! machine with Rust, Node and Debian's package manager needs.

mod package;
mod screens;
mod setup;
mod shell;

use std::path::Path;

use anyhow::{Context, Result, bail};
use clap::{Parser, Subcommand};

use shell::{run, say, text_of};

#[derive(Parser)]
#[command(name = "cargo xtask", about = "Set-up, build, run and check")]
struct Cli {
    #[command(subcommand)]
    task: Task,
}

#[derive(Subcommand)]
enum Task {
    /// Install what is missing, build, and serve the application with the demo's drinks.
    Demo {
        /// Port on this machine; 0 takes a free one.
        #[arg(long, default_value_t = 7340)]
        port: u16,
        /// Folder that the demo's shelf is kept in.
        #[arg(long, value_name = "DIR")]
        data: Option<String>,
        /// The optimised build (what happens anyway).
        #[arg(long, conflicts_with = "debug")]
        release: bool,
        /// The quickly built one.
        #[arg(long)]
        debug: bool,
    },
    /// Install what is missing, check format, lints and generated files, and run all tests.
    Test,
    /// Write the files that are generated from the code: API description, schema, types.
    Generate,
    /// Make the pictures in docs/screenshots from the demo's drinks.
    Screenshots,
    /// Time the drink model, and the application over loopback.
    Bench,
    /// Make what is installed on other machines: a tarball and a Debian package, in target/package.
    Package,
}

fn main() -> Result<()> {
    // All paths below are relative to the project's root.
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("..");
    std::env::set_current_dir(root).context("the project's folder can't be entered")?;
    match Cli::parse().task {
        Task::Demo { port, data, release: _, debug } => demo(port, data, debug),
        Task::Test => test(),
        Task::Generate => generate("."),
        Task::Screenshots => screens::take(),
        Task::Bench => bench(),
        Task::Package => package::make(),
    }
}

fn demo(port: u16, data: Option<String>, debug: bool) -> Result<()> {
    setup::front_end()?;
    let profile = if debug { "dev" } else { "demo" };
    say("building the application: some minutes the first time, then it is served");
    run("cargo", &["build", "--package", "keen-pitcher", "--profile", profile])?;
    let binary = format!("target/{}/keen-pitcher", if debug { "debug" } else { "demo" });
    let port = port.to_string();
    let mut args = vec!["demo", "--port", &port];
    if let Some(data) = &data {
        args.extend(["--data", data]);
    }
    run(&binary, &args)
}

fn test() -> Result<()> {
    setup::browser()?;
    setup::front_end()?;
    say("checking the format");
    run("cargo", &["fmt", "--all", "--check"])?;
    say("checking the front end");
    run("npm", &["run", "--silent", "--prefix", "web", "check"])?;
    run("npm", &["run", "--silent", "--prefix", "web", "test"])?;
    say("checking the Rust code");
    run(
        "cargo",
        &["clippy", "--quiet", "--workspace", "--all-targets", "--", "--deny", "warnings"],
    )?;
    say("checking that generated files are fresh");
    are_generated_files_fresh()?;
    say("running the tests");
    run("cargo", &["test", "--workspace", "--no-fail-fast"])
}

/// What is generated from the code, by the command that prints it.
const GENERATED: [(&str, &str); 3] = [
    ("openapi", "docs/openapi.json"),
    ("schema", "docs/drink.schema.json"),
    ("demo-batches", "demo/batches.json"),
];
const TYPES: &str = "web/src/api/schema.ts";

/// Writes the generated files under a folder.
fn generate(under: &str) -> Result<()> {
    setup::front_end()?;
    for (command, file) in GENERATED {
        let text =
            text_of("cargo", &["run", "--quiet", "--package", "keen-pitcher", "--", command])?;
        let path = Path::new(under).join(file);
        std::fs::create_dir_all(path.parent().unwrap_or(Path::new(".")))?;
        std::fs::write(&path, text)?;
    }
    let description = Path::new(under).join(GENERATED[0].1);
    let types = Path::new(under).join(TYPES);
    std::fs::create_dir_all(types.parent().unwrap_or(Path::new(".")))?;
    let (description, types) = (description.to_string_lossy(), types.to_string_lossy());
    run(
        "node",
        &[
            "web/node_modules/openapi-typescript/bin/cli.js",
            &description,
            "--default-non-nullable",
            "false",
            "-o",
            &types,
        ],
    )
}

fn are_generated_files_fresh() -> Result<()> {
    let fresh = "target/fresh";
    generate(fresh)?;
    for file in GENERATED.iter().map(|(_, file)| *file).chain([TYPES]) {
        let kept = std::fs::read_to_string(file).unwrap_or_default();
        if kept != std::fs::read_to_string(Path::new(fresh).join(file))? {
            bail!("{file} is stale: run `cargo xtask generate`");
        }
    }
    Ok(())
}

fn bench() -> Result<()> {
    setup::browser()?;
    setup::front_end()?;
    run("cargo", &["bench", "--package", "keen-bench"])?;
    run("cargo", &["build", "--release", "--quiet", "--package", "keen-pitcher"])?;
    say("opening long lists beside short ones");
    run(
        "cargo",
        &[
            "run",
            "--release",
            "--quiet",
            "--package",
            "keen-bench",
            "--bin",
            "lists",
            "--",
            "target/release/keen-pitcher",
        ],
    )?;
    say("asking the application over loopback");
    screens::with_demo(|address| {
        run(
            "cargo",
            &["run", "--release", "--quiet", "--package", "keen-bench", "--", address, "demo"],
        )?;
        say("following a drag in the browser");
        run("node", &["e2e/drag.mjs", address])
    })
}
