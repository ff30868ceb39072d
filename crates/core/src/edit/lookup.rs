//! Finding what an edit names, giving numbers, and what holds after every edit.

use super::EditError;
use crate::job::Job;
use crate::measure::{Component, ComponentId, RunId};
use crate::route::{Run, ways, with_parts_of};
use crate::survey::Survey;

/// A number that nothing in the job has had.
///
/// # Errors
/// [`EditError::NumbersUsedUp`] after four thousand million of them; only a file that was tampered with comes near.
pub(super) fn take_id(job: &mut Job) -> Result<u32, EditError> {
    let id = job.next_id;
    job.next_id = id.checked_add(1).ok_or(EditError::NumbersUsedUp)?;
    Ok(id)
}

/// A number that no bend or joint of the run has had.
///
/// # Errors
/// [`EditError::NumbersUsedUp`] likewise.
pub(super) fn take_part(run: &mut Run) -> Result<u32, EditError> {
    let id = run.next_part;
    run.next_part = id.checked_add(1).filter(|next| *next <= Run::MOST_PARTS).ok_or(EditError::NumbersUsedUp)?;
    Ok(id)
}

pub(super) fn component_mut(job: &mut Job, component: ComponentId) -> Result<&mut Component, EditError> {
    job.components.iter_mut().find(|one| one.id == component).ok_or(EditError::NoSuchComponent { component })
}

pub(super) fn index_of(job: &Job, run: RunId) -> Result<usize, EditError> {
    job.runs.iter().position(|one| one.id == run).ok_or(EditError::NoSuchRun { run })
}

pub(super) fn sound(job: &Job) -> Result<(), EditError> {
    job.check().map_err(|problem| EditError::Invalid { problem })
}

/// A run whose ends have changed takes the best way there is between them, and keeps its own where there is none.
pub(super) fn find_way_anew(job: &mut Job, index: usize) -> Result<(), EditError> {
    if job.runs[index].way().is_some() { take_best_way(job, index) } else { Ok(()) }
}

/// A run without a way takes the best there is, so that a pipe is there at once.
pub(super) fn find_first_way(job: &mut Job, index: usize) -> Result<(), EditError> {
    if job.runs[index].way().is_none() { take_best_way(job, index) } else { Ok(()) }
}

fn take_best_way(job: &mut Job, index: usize) -> Result<(), EditError> {
    let settled = Survey::new(job).settle(&job.runs[index]);
    if settled.a.at.distance(settled.b.at) < Job::LEAST_APART {
        return Ok(());
    }
    if let Some(best) = ways(&settled).ways.into_iter().next() {
        let run = &mut job.runs[index];
        let way = best.way.numbered(&run.route.clone(), || take_part(run))?;
        job.runs[index].route = with_parts_of(&settled, &way);
    }
    Ok(())
}
