//! What is said on the command line.

use std::io::Write;

use anyhow::Result;

/// Prints a text; a reader that has had enough (`| head`) is no error.
pub(crate) fn print(text: &str) -> Result<()> {
    match writeln!(std::io::stdout(), "{}", text.trim_end()) {
        Err(error) if error.kind() != std::io::ErrorKind::BrokenPipe => Err(error.into()),
        _ => Ok(()),
    }
}

/// Opens the browser on an address, by whatever opens addresses here. Where nothing does, the address that is printed
/// is as good.
pub(crate) fn open_browser(address: &str) {
    let openers: &[(&str, &[&str])] = if cfg!(target_os = "macos") {
        &[("open", &[])]
    } else if cfg!(windows) {
        &[("cmd", &["/C", "start", ""])]
    } else {
        &[("xdg-open", &[]), ("gio", &["open"]), ("sensible-browser", &[])]
    };
    for (program, before) in openers {
        let mut command = std::process::Command::new(program);
        command.args(*before).arg(address);
        command
            .stdin(std::process::Stdio::null())
            .stdout(std::process::Stdio::null())
            .stderr(std::process::Stdio::null());
        if command.spawn().is_ok() {
            return;
        }
    }
}
