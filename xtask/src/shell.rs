use std::process::{Command, Stdio};

use anyhow::{Context, Result, bail};

/// Tells what is going on.
pub(crate) fn say(text: &str) {
    eprintln!("==> {text}");
}

/// Runs a program and fails with it.
pub(crate) fn run(program: &str, args: &[&str]) -> Result<()> {
    let status = Command::new(program)
        .args(args)
        .status()
        .with_context(|| format!("{program} won't start"))?;
    if !status.success() {
        bail!("`{program} {}` failed", args.join(" "));
    }
    Ok(())
}

/// What a program prints.
pub(crate) fn text_of(program: &str, args: &[&str]) -> Result<String> {
    let output = Command::new(program)
        .args(args)
        .stderr(Stdio::inherit())
        .output()
        .with_context(|| format!("{program} won't start"))?;
    if !output.status.success() {
        // What it found is often told there.
        eprint!("{}", String::from_utf8_lossy(&output.stdout));
        bail!("`{program} {}` failed", args.join(" "));
    }
    Ok(String::from_utf8(output.stdout)?)
}
