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
