//! The front end is built by `cargo xtask` into `web/dist` and becomes part of the program. Without
//! it the program still compiles, and says what is missing.

use std::path::Path;

fn main() {
    let dist = Path::new("../../web/dist");
    println!("cargo::rerun-if-changed={}", dist.display());
    let page = dist.join("index.html");
    if !page.exists() {
        std::fs::create_dir_all(dist).expect("web/dist can be made");
        std::fs::write(
            page,
            "<!doctype html><title>Keen Pitcher</title><p>The screens are not \
            built yet: run <code>cargo xtask demo</code>.</p>",
        )
        .expect("web/dist can be written");
    }
}
