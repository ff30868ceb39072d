//! One state of one job.

use std::fmt;

use nook_core::Job;

/// Names one job in the store.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct JobId(pub i64);

impl fmt::Display for JobId {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        self.0.fmt(f)
    }
}

/// A job as it is now.
#[derive(Debug, Clone, PartialEq)]
pub struct Revision {
    /// Which job.
    pub id: JobId,
    /// Counts the changes, undo and redo included.
    pub seq: i64,
    /// The document.
    pub job: Job,
    /// Whether there is something to undo.
    pub can_undo: bool,
    /// Whether there is something to redo.
    pub can_redo: bool,
}

/// A job in the list of jobs.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Summary {
    /// Which job.
    pub id: JobId,
    /// What it is called.
    pub name: String,
    /// How many runs it has.
    pub runs: usize,
    /// When it was last changed, UTC, ISO 8601.
    pub changed: String,
}

/// A way through the revisions.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Step {
    /// Back.
    Undo,
    /// Forward again.
    Redo,
}

impl Step {
    pub(crate) const fn word(self) -> &'static str {
        match self {
            Self::Undo => "undo",
            Self::Redo => "redo",
        }
    }
}
