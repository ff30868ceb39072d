//! Jobs and their revisions in SQLite. Every change is a new revision holding the edit and the document it
//! led to, written in one transaction; nothing that was acknowledged is ever rewritten.

mod error;
mod revision;
mod store;

pub use error::StoreError;
pub use revision::{JobId, Revision, Step, Summary};
pub use store::Store;
