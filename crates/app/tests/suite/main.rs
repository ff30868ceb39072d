//! The server and the command line from outside. One program for all, since each more is linked and started by itself.

#[path = "../support/mod.rs"]
mod support;

mod command_line;
mod fit;
mod hostile_instruments;
mod measuring;
mod one_bad_thing;
mod pairing;
mod proof;
mod rack;
mod record;
mod server;
mod shelf;
mod ways;
