//! What is printed, read back from the PDF.

#![allow(clippy::unwrap_used, clippy::panic, clippy::indexing_slicing, reason = "a test fails by panicking")]

mod packets;
mod read_back;
mod templates;
