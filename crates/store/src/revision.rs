//! One state of one job, and who made it.

use std::fmt;

use nook_core::{Job, PartRef};
use thiserror::Error;

/// Names one job in the store.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct JobId(pub i64);

impl fmt::Display for JobId {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        self.0.fmt(f)
    }
}

/// Who makes a change: a browser or a program, by a name it chose for itself. Each has an undo of its own; what nobody
/// in particular made, everybody can undo.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Default)]
pub struct Author(String);

/// The text names no author.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
#[error("an author is named by 1 to {} letters, digits and hyphens", Author::LONGEST)]
pub struct NoAuthor;

impl Author {
    /// Most characters.
    pub const LONGEST: usize = 64;

    /// Checks a name.
    ///
    /// # Errors
    /// [`NoAuthor`] when it is empty, longer than 64 or holds anything but ASCII letters, digits and hyphens.
    pub fn new(name: &str) -> Result<Self, NoAuthor> {
        let plain = name.bytes().all(|byte| byte.is_ascii_alphanumeric() || byte == b'-');
        if plain && (1..=Self::LONGEST).contains(&name.len()) { Ok(Self(name.to_owned())) } else { Err(NoAuthor) }
    }

    /// Nobody in particular.
    #[must_use]
    pub fn nobody() -> Self {
        Self::default()
    }

    pub(crate) fn as_str(&self) -> &str {
        &self.0
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
    /// Whether the author who asked has something to undo.
    pub can_undo: bool,
    /// Whether the author who asked has something to redo.
    pub can_redo: bool,
    /// What his undo would take back, in a few words; nothing where there is nothing or it cannot be said.
    pub undo: Option<String>,
    /// What his redo would do again, likewise.
    pub redo: Option<String>,
    /// What the edit made that led here, in order; empty where none was just kept.
    pub made: Vec<PartRef>,
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
    /// Why it cannot be opened, where it cannot.
    pub unreadable: Option<crate::Unreadable>,
}

/// News of a change, for whoever has the job open.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Changed {
    /// Which job.
    pub id: JobId,
    /// Its revision now; nothing when it was deleted.
    pub seq: Option<i64>,
    /// Who did it.
    pub author: Author,
    /// Whether it is a deed that was done, which makes no revision.
    pub deed: bool,
    /// What was changed, in a few words, where it can be said.
    pub what: Option<String>,
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
