//! Nook Bend: one binary that serves the application and works out jobs for scripts.

mod built_in;
mod cli;
mod server;
mod time_limit;

use std::process::ExitCode;

fn main() -> ExitCode {
    cli::run()
}
