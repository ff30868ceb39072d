//! What can go wrong, as the rest of the product needs to tell it apart.

use std::io;
use std::path::PathBuf;

use nook_core::EditError;
use nook_core::workshop::WorkshopError;
use thiserror::Error;

use crate::document::Unreadable;
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
    /// A job, or a revision of it that undo could come back to, leans on the scan.
    #[error("the scan is used by {jobs}; delete those jobs first")]
    ScanInUse {
        /// The jobs' names.
        jobs: String,
    },
    /// As much is kept as is kept at all.
    #[error("{most} {what} are kept, which is the most; delete some first")]
    Full {
        /// `jobs`, `scans` or `MB of scans`.
        what: &'static str,
        /// The limit.
        most: i64,
    },
    /// Somebody else changed the job first.
    #[error("the job has moved on to revision {now} since revision {seen} was read")]
    MovedOn {
        /// The revision the change was based on.
        seen: i64,
        /// The revision it has now.
        now: i64,
    },
    /// There is nothing of the author's own to undo or redo.
    #[error("there is nothing of your own to {0}")]
    NothingTo(&'static str),
    /// No earlier revision of the job can be read either.
    #[error("no revision of job {0} can be read")]
    NothingReadable(JobId),
    /// The core refuses the edit.
    #[error(transparent)]
    Refused(#[from] EditError),
    /// The core refuses the edit of the workshop.
    #[error(transparent)]
    RefusedByWorkshop(#[from] WorkshopError),
    /// The workshop's document cannot be read. Jobs are not touched by that: each knows the saw it is made with.
    #[error("the workshop cannot be opened: {why}")]
    UnreadableWorkshop {
        /// Why not.
        why: String,
    },
    /// Another deed has this name.
    #[error("another deed is named {id} already; give this one a name of its own")]
    AnotherDeed {
        /// The name.
        id: String,
    },
    /// What an edit led to would not be read again; nothing of it was kept.
    #[error("that would leave a job that cannot be read again ({0})")]
    WouldNotRead(String),
    /// A stored document cannot be read.
    #[error("\u{201c}{name}\u{201d} cannot be opened: {why}")]
    Unreadable {
        /// Which job.
        job: JobId,
        /// What it is called.
        name: String,
        /// Why not.
        why: Unreadable,
    },
    /// The folder cannot be made or written.
    #[error("the data folder {} cannot be used: {problem}. Make it writable, or choose another folder", folder.display())]
    Folder {
        /// The folder.
        folder: PathBuf,
        /// Why not.
        problem: io::Error,
    },
    /// Another process has the folder.
    #[error(
        "the data folder {} is in use by another Nook Bend{holder}. Stop that one, or choose another folder",
        folder.display()
    )]
    InUse {
        /// The folder.
        folder: PathBuf,
        /// ` (process 4711)`, or nothing where it did not say.
        holder: String,
    },
    /// The database has a layout of a later version.
    #[error("{} was written by a newer Nook Bend. Update Nook Bend, or choose another folder", path.display())]
    NewerDatabase {
        /// The database.
        path: PathBuf,
    },
    /// The files are no longer those that were opened.
    #[error(
        "{} was deleted, moved or emptied while Nook Bend was running, so nothing can be saved. Download open jobs as files, put the folder back or start Nook Bend again",
        path.display()
    )]
    Gone {
        /// The file.
        path: PathBuf,
    },
    /// No room on the disk.
    #[error("there is no room left on the disk for {}; make room and do it again", path.display())]
    NoRoom {
        /// The database.
        path: PathBuf,
    },
    /// The database may not be written.
    #[error("{} may not be written; make the folder and its files writable and do it again", path.display())]
    ReadOnly {
        /// The database.
        path: PathBuf,
    },
    /// Another change, or another program, holds the database.
    #[error("{} is held by another change or another program; wait a moment and do it again", path.display())]
    Busy {
        /// The database.
        path: PathBuf,
    },
    /// The database file is damaged, or no database.
    #[error(
        "{} is damaged or is no database ({problem}). Put a copy of it in its place, or move it away to begin with an empty one",
        path.display()
    )]
    Corrupt {
        /// The database.
        path: PathBuf,
        /// What the database says.
        problem: String,
    },
    /// Anything else the database reports.
    #[error("the database {} failed: {problem}", path.display())]
    Database {
        /// The database.
        path: PathBuf,
        /// What it says.
        problem: sqlx::Error,
    },
    /// The database could not be brought to this version.
    #[error("{} could not be brought up to date: {problem}", path.display())]
    Migration {
        /// The database.
        path: PathBuf,
        /// Why not.
        problem: sqlx::migrate::MigrateError,
    },
    /// Work on a document did not come to an end.
    #[error("the work broke off; the server's log says more")]
    BrokeOff,
}

/// Kinds of failure by SQLite's primary result code (sqlite.org, "Result and Error Codes").
pub(crate) fn of_sqlite(problem: sqlx::Error, path: PathBuf) -> StoreError {
    if matches!(problem, sqlx::Error::PoolTimedOut) {
        return StoreError::Busy { path };
    }
    let code = problem.as_database_error().and_then(|error| error.code()?.parse::<i32>().ok());
    // The index of the log could not be made larger (SQLITE_IOERR_SHMSIZE): seen on a disk that was full before it was opened.
    if code == Some(4874) {
        return StoreError::NoRoom { path };
    }
    match code.map(|code| code & 0xff) {
        Some(5 | 6) => StoreError::Busy { path },
        Some(8) => StoreError::ReadOnly { path },
        Some(11 | 26) => StoreError::Corrupt { path, problem: problem.to_string() },
        Some(13) => StoreError::NoRoom { path },
        // Opened long ago, and cannot be opened now.
        Some(14) => StoreError::Gone { path },
        _ => StoreError::Database { path, problem },
    }
}
