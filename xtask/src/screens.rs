//! The application with the demo's drinks on a shelf that is thrown away afterwards.

use std::io::{BufRead, BufReader};
use std::process::{Child, Command, Stdio};

use anyhow::{Context, Result};

use crate::shell::run;
use crate::{building, setup};

/// Makes the pictures in docs/screenshots.
pub(crate) fn take() -> Result<()> {
    setup::browser()?;
    building::program("demo")?;
    with_demo("target/demo/keen-pitcher", |address| {
        run("node", &["e2e/screenshots.mjs", address, "docs/screenshots"])
    })
}

/// Ends the server when done with, also after a failure.
struct Server(Child);

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// Serves the demo from a build of the program while something is done with it.
pub(crate) fn with_demo(program: &str, work: impl FnOnce(&str) -> Result<()>) -> Result<()> {
    let data = std::path::Path::new("target/demo-shelf");
    if data.exists() {
        std::fs::remove_dir_all(data)?;
    }
    let mut server = Server(
        Command::new(program)
            .args(["demo", "--port", "0", "--luck", "7", "--data"])
            .arg(data)
            .stdout(Stdio::piped())
            .spawn()
            .context("the application won't start")?,
    );
    let out = server.0.stdout.take().context("the application prints nothing")?;
    let line = BufReader::new(out).lines().next().context("the application says no address")??;
    let address = line.rsplit(' ').next().unwrap_or_default();
    work(address)
}
