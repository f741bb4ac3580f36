//! What is installed on other machines: the one binary with its icon, desktop entry and manual page, as a tarball
//! and as a Debian package.

use std::fs;
use std::path::{Path, PathBuf};

use anyhow::{Context, Result};

use crate::building;
use crate::shell::{run, say, text_of};

const OUT: &str = "target/package";
const NAME: &str = "keen-pitcher";
const BINARY: &str = "target/release/keen-pitcher";

const DESKTOP: &str = "[Desktop Entry]
Type=Application
Name=Keen Pitcher
Comment=Measure, run and keep the drinks that you make at home
Exec=keen-pitcher --open
Icon=keen-pitcher
Terminal=false
Categories=Utility;
";

/// The first words of the version that the binary says.
fn version() -> Result<String> {
    let said = text_of(BINARY, &["--version"])?;
    Ok(said.split_whitespace().last().unwrap_or("0").to_owned())
}

/// Puts a file where it is installed, with its rights.
fn put(root: &Path, at: &str, from: impl AsRef<[u8]>, rights: u32) -> Result<PathBuf> {
    let path = root.join(at);
    fs::create_dir_all(path.parent().context("no folder")?)?;
    fs::write(&path, from)?;
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        fs::set_permissions(&path, fs::Permissions::from_mode(rights))?;
    }
    Ok(path)
}

/// Everything that is installed, under a root.
fn lay_out(root: &Path) -> Result<()> {
    let _ = fs::remove_dir_all(root);
    put(root, "usr/bin/keen-pitcher", fs::read(BINARY)?, 0o755)?;
    // What helps to look into a crash is three times the program; where there is no `strip` it stays in.
    let _ = run("strip", &[&root.join("usr/bin/keen-pitcher").to_string_lossy()]);
    let icon = fs::read("web/public/pitcher.svg").context("there is no icon")?;
    put(root, "usr/share/icons/hicolor/scalable/apps/keen-pitcher.svg", icon, 0o644)?;
    put(root, "usr/share/applications/keen-pitcher.desktop", DESKTOP, 0o644)?;
    let manual = text_of(BINARY, &["manual"])?;
    put(root, "usr/share/man/man1/keen-pitcher.1", manual, 0o644)?;
    put(root, "usr/share/doc/keen-pitcher/README.md", fs::read("README.md")?, 0o644)?;
    Ok(())
}

/// Makes both.
pub fn make() -> Result<()> {
    building::program("release")?;
    let version = version()?;
    let machine = std::env::consts::ARCH;
    let root = Path::new(OUT).join("root");
    lay_out(&root)?;

    let tarball = format!("{OUT}/{NAME}-{version}-{machine}.tar.gz");
    let tree = root.to_string_lossy();
    run("tar", &["--owner=0", "--group=0", "-czf", &tarball, "-C", &tree, "usr"])?;

    let debian = match machine {
        "x86_64" => "amd64",
        "aarch64" => "arm64",
        other => other,
    };
    let size: u64 = fs::metadata(root.join("usr/bin/keen-pitcher"))?.len() / 1024;
    let control = format!(
        "Package: {NAME}\nVersion: {version}\nArchitecture: {debian}\nMaintainer: Keen Pitcher <nobody@localhost>\n\
         Installed-Size: {size}\nDepends: libc6, libgcc-s1\nSection: misc\nPriority: optional\n\
         Description: Measure, run and keep the drinks that you make at home\n \
         Serves its screens on this machine; the browser opens with keen-pitcher --open.\n"
    );
    put(&root, "DEBIAN/control", control, 0o644)?;
    let package = format!("{OUT}/{NAME}_{version}_{debian}.deb");
    run("dpkg-deb", &["--root-owner-group", "--build", &tree, &package])?;
    say(&format!("{tarball} and {package} are there"));
    Ok(())
}
