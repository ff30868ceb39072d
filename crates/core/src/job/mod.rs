//! The job: what the builder measured and decided about one vehicle, and nothing that can be worked out.

mod document;
mod run;

pub use document::{Invalid, Job, Name, NameError};
pub use run::{Duty, End, Run, RunDraft, RunId};
