//! Finding what an edit names.

use super::EditError;
use crate::job::Job;
use crate::measure::RunId;

/// A number that nothing in the job has had.
///
/// # Errors
/// [`EditError::NumbersUsedUp`] after four thousand million of them; only a file that was tampered with comes near.
pub(super) fn take_id(job: &mut Job) -> Result<u32, EditError> {
    let id = job.next_id;
    job.next_id = id.checked_add(1).ok_or(EditError::NumbersUsedUp)?;
    Ok(id)
}

pub(super) fn index_of(job: &Job, run: RunId) -> Result<usize, EditError> {
    job.runs.iter().position(|one| one.id == run).ok_or(EditError::NoSuchRun { run })
}
