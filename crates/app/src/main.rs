//! Nook Bend: one binary that serves the application and works out jobs for scripts.

use std::process::ExitCode;

use rust_embed::RustEmbed;

/// The built front end. The folder is made by `cargo xtask`; without it only the API is served.
#[derive(RustEmbed)]
#[folder = "../../web/dist"]
#[allow_missing = true]
struct FrontEnd;

fn main() -> ExitCode {
    nook_bend::run(|path| FrontEnd::get(path).map(|file| file.data))
}
