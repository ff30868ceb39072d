//! The open files, there and back and broken. One program for all, since each more is linked and started by itself.

#[path = "../../../core/tests/support/mod.rs"]
mod support;

mod drawings;
mod files;
mod hoses;
mod hostile_files;
mod hostile_scans;
mod job_schema;
mod let_in;
mod pipe_files;
mod sawn;
mod scans;
mod shelf_files;
mod stock_sawn;
mod survey_files;
