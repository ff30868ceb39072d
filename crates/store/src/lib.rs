//! Jobs and their revisions, scans and the instruments' raw log in SQLite. Every change is a new revision holding the edit and the document it
//! led to, written in one transaction; nothing that was acknowledged is ever rewritten.

mod error;
mod instrument_log;
mod revision;
mod scans;
mod store;

pub use error::StoreError;
pub use instrument_log::{LineOutcome, LoggedLine};
pub use revision::{JobId, Revision, Step, Summary};
pub use scans::{KeptScan, ScanLine};
pub use store::Store;
