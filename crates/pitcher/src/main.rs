//! Keen Pitcher: the application. The server with its screens in one program.

use std::process::ExitCode;

use include_dir::{Dir, include_dir};
use keen_server::Screens;

static SCREENS: Dir<'_> = include_dir!("$CARGO_MANIFEST_DIR/../../web/dist");

fn main() -> ExitCode {
    keen_server::main(Screens(&SCREENS))
}
