//! What must be on the machine, fetched once.

use std::path::Path;
use std::time::SystemTime;

use anyhow::{Context, Result, bail};

use crate::shell::{run, say, text_of};

/// Chromium as Debian packages it: without windows, which starts and draws faster, or whole.
const CHROMIUM: [&str; 2] = ["/usr/bin/chromium-headless-shell", "/usr/bin/chromium"];

/// The front end, built if its sources are newer than what was built. `tell` hears what is going on.
pub(crate) fn front_end(tell: &(dyn Fn(&str) + Sync)) -> Result<()> {
    node()?;
    packages("web", tell)?;
    let built = changed(Path::new("web/dist/assets"));
    let sources =
        ["web/src", "web/public", "web/index.html", "web/vite.config.ts", "web/package.json"];
    if sources.iter().map(|s| changed(Path::new(s))).max() >= Some(built) {
        tell("building the screens");
        text_of("npm", &["run", "--silent", "--prefix", "web", "build"])?;
    }
    tell("the screens are built");
    Ok(())
}

/// The browser and what drives it.
pub(crate) fn browser() -> Result<()> {
    node()?;
    packages("e2e", &say)?;
    let installed = || CHROMIUM.iter().any(|browser| Path::new(browser).exists());
    if installed() || std::env::var_os("CHROMIUM").is_some() {
        return Ok(());
    }
    say("installing Chromium from Debian's packages");
    let root = text_of("id", &["-u"])?.trim() == "0";
    let apt = |args: &[&str]| {
        let quiet = ["DEBIAN_FRONTEND=noninteractive", "apt-get", "-qq"];
        let all: Vec<&str> = quiet.iter().chain(args).copied().collect();
        if root { run("env", &all) } else { run("sudo", &[&["env"], all.as_slice()].concat()) }
    };
    apt(&["update"])?;
    apt(&["install", "--yes", "--no-install-recommends", "chromium-headless-shell"])?;
    if !installed() {
        bail!("Chromium did not install to {}", CHROMIUM[0]);
    }
    Ok(())
}

fn node() -> Result<()> {
    text_of("node", &["--version"]).context("Node.js is needed; install version 20 or newer")?;
    Ok(())
}

/// Installs a folder's npm packages when its lock file is newer than what is there.
fn packages(folder: &str, tell: &(dyn Fn(&str) + Sync)) -> Result<()> {
    let installed = Path::new(folder).join("node_modules/.package-lock.json");
    let lock = Path::new(folder).join("package-lock.json");
    if installed.exists() && changed(&installed) >= changed(&lock) {
        return Ok(());
    }
    tell(&format!("installing the packages of {folder}"));
    run("npm", &["ci", "--silent", "--prefix", folder])
}

/// When a file, or the newest file under a folder, was changed; the beginning of time if there is none.
fn changed(path: &Path) -> SystemTime {
    let own = path.metadata().and_then(|m| m.modified()).unwrap_or(SystemTime::UNIX_EPOCH);
    let Ok(entries) = path.read_dir() else { return own };
    entries.flatten().map(|entry| changed(&entry.path())).max().unwrap_or(own)
}
