//! What an edit makes of a job.

use super::lookup::sound;
use super::made::Made;
use super::{Edit, EditError};
use crate::job::Job;
use crate::part_ref::PartRef;
use crate::route::HeldBy;

/// What came of an edit.
#[derive(Debug, Clone, PartialEq)]
pub struct Applied {
    /// The next job.
    pub job: Job,
    /// What the edit made, in order.
    pub made: Vec<PartRef>,
    /// What held an edit that goes as far as it can, where it did not get all the way.
    pub held: Option<HeldBy>,
}

/// The job after one more decision; `job` itself is not touched.
///
/// # Errors
/// [`EditError`] when the edit names something that is not there, asks for what cannot be, or would break what
/// [`Job::check`] holds.
pub fn apply(job: &Job, edit: &Edit) -> Result<Applied, EditError> {
    let mut next = job.clone();
    let mut made = Made::default();
    let mut held = None;
    match edit {
        Edit::Together { edits } => {
            if edits.len() > MOST_TOGETHER {
                return Err(EditError::TooManyTogether { count: edits.len(), most: MOST_TOGETHER });
            }
            if let Some(index) = edits.iter().position(|edit| matches!(edit, Edit::Together { .. })) {
                return Err(EditError::TogetherTwice { index });
            }
            let mut checked = true;
            for edit in edits {
                // Whatever works something out does so only on a sound job; a table of readings is checked once.
                if !checked && !only_notes(edit) {
                    sound(&next)?;
                }
                held = change(&mut next, edit, &mut made)?.or(held);
                checked = false;
            }
        }
        single => held = change(&mut next, single, &mut made)?,
    }
    sound(&next)?;
    Ok(Applied { job: next, made: made.0, held })
}

/// Whether an edit only writes down what it is told, and works nothing out from what is there.
const fn only_notes(edit: &Edit) -> bool {
    matches!(edit, Edit::Measure(measure) if measure.only_notes())
}

/// Makes one change. What it leaves is checked by whoever asked for it, once for all of several.
fn change(next: &mut Job, edit: &Edit, made: &mut Made) -> Result<Option<HeldBy>, EditError> {
    match edit {
        Edit::Together { .. } => Err(EditError::TogetherTwice { index: 0 }),
        Edit::Job(edit) => edit.apply(next, made).map(|()| None),
        Edit::Spec(edit) => edit.apply(next).map(|()| None),
        Edit::Measure(edit) => edit.apply(next, made).map(|()| None),
        Edit::Place(edit) => edit.apply(next, made).map(|()| None),
        Edit::Route(edit) => edit.apply(next, made),
        Edit::Join(edit) => edit.apply(next, made).map(|()| None),
        Edit::Cut(edit) => edit.apply(next).map(|()| None),
    }
}

/// Most edits that are made as one: a table of readings of a whole bay.
const MOST_TOGETHER: usize = 2000;
