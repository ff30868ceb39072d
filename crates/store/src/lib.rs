//! Jobs and their revisions, what was done on them, the workshop, scans and the instruments' raw log in SQLite. Every change is a new revision holding the
//! edit and the document it led to, written in one transaction and read back before; nothing that was acknowledged is
//! ever rewritten, and nothing is acknowledged that does not last.
//!
//! History is never pruned: a revision takes about a quarter of its document, so ten thousand edits of a job of 20 kB are
//! 50 MB (docs/performance.md), and undo stays whole. A deleted job gives its room to the next.

mod change;
mod document;
mod edit_words;
mod error;
mod folder;
mod instrument_log;
mod open;
mod pictures;
mod record;
mod revision;
mod scans;
mod sessions;
mod stacks;
mod store;
mod undo;
mod upgrade;
mod workshop;

pub use change::MOST_JOBS;
pub use document::Unreadable;
pub use error::StoreError;
pub use instrument_log::{LineOutcome, LoggedLine};
pub use pictures::PictureForm;
pub use record::{KeptDeed, MOST_DEEDS, Record};
pub use revision::{Author, Changed, JobId, NoAuthor, Revision, Step, Summary};
pub use scans::{KeptScan, ScanLine};
pub use sessions::{MOST_SESSIONS, Session, TokenDigest};
pub use store::Store;
pub use workshop::WorkshopRevision;
