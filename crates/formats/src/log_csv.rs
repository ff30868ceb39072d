//! What was done on a job, as a table.

use nook_core::work_step::WorkStep;

use crate::table::{cell, text_of, writer};

/// A line of the log.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct LogEntry {
    /// When it came, UTC, ISO 8601.
    pub at: String,
    /// Who did it.
    pub who: String,
    /// Of which step.
    pub step: WorkStep,
    /// What was done.
    pub words: String,
}

/// The log as CSV (RFC 4180), a header first.
///
/// # Errors
/// [`csv::Error`] cannot occur when writing to memory; the type is kept so that no caller has to believe it.
pub fn log_csv(entries: &[LogEntry]) -> Result<String, csv::Error> {
    let mut out = writer();
    out.write_record(["at", "who", "step", "what"])?;
    for entry in entries {
        out.write_record([entry.at.clone(), cell(&entry.who), entry.step.word().to_owned(), cell(&entry.words)])?;
    }
    text_of(out)
}
