//! The workshop as a file to keep, or to take to another computer.

use nook_core::Workshop;

use crate::document::{Document, DocumentError};

const WORKSHOP: Document = Document { what: "workshop", version: Workshop::VERSION };

/// The workshop as a file, readable by people, with a line break at its end.
///
/// # Errors
/// [`serde_json::Error`] never occurs for a [`Workshop`]; the type is kept so that no caller has to believe it.
pub fn write_workshop(workshop: &Workshop) -> Result<String, serde_json::Error> {
    WORKSHOP.write(workshop)
}

/// Reads a workshop file.
///
/// # Errors
/// [`DocumentError`] as its variants say.
pub fn read_workshop(bytes: &[u8]) -> Result<Workshop, DocumentError> {
    // What each version lacks may be left out.
    WORKSHOP.read(bytes, |_, workshop| workshop)
}
