//! What can go wrong, as the rest of the product needs to tell it apart.

use nook_core::Refusal;
use thiserror::Error;

use crate::revision::JobId;

/// Why the store did not do what was asked. The job is as it was before.
#[derive(Debug, Error)]
pub enum StoreError {
    /// There is no such job.
    #[error("there is no job {0}; it may have been deleted")]
    NoSuchJob(JobId),
    /// There is no such scan.
    #[error("that scan is not here; bring its file in again")]
    NoSuchScan,
    /// Somebody else changed the job first.
    #[error("the job has moved on to revision {now} since revision {seen} was read")]
    MovedOn {
        /// The revision the change was based on.
        seen: i64,
        /// The revision it has now.
        now: i64,
    },
    /// There is nothing to undo or redo.
    #[error("there is nothing to {0}")]
    NothingTo(&'static str),
    /// The core refuses the edit.
    #[error(transparent)]
    Refused(#[from] Refusal),
    /// A document in the database is not one: the file was changed by something else, or is damaged.
    #[error("a stored document cannot be read: {0}")]
    Damaged(#[from] serde_json::Error),
    /// The database itself.
    #[error("the database failed: {0}")]
    Database(#[from] sqlx::Error),
    /// The database could not be brought to this version.
    #[error("the database could not be brought up to date: {0}")]
    Migration(#[from] sqlx::migrate::MigrateError),
}
