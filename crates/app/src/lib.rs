//! Nook Bend: the server and the command line. The binary brings the front end, so that this is compiled beside it.

mod built_in;
mod cli;
mod server;
mod time_limit;

use std::borrow::Cow;
use std::process::ExitCode;

/// Gives a file of the front end by its path below the page, such as `index.html`.
pub type FrontEnd = fn(&str) -> Option<Cow<'static, [u8]>>;

/// Does what the command line says.
#[must_use]
pub fn run(front_end: FrontEnd) -> ExitCode {
    cli::run(front_end)
}
