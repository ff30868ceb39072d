//! Edits that shape a way by hand, keep several, or make twins.

use super::EditError;
use super::lookup::index_of;
use crate::edit::Edit;
use crate::job::Job;
use crate::measure::RunId;
use crate::route::{KeptRoute, Run, add_bend, hold_locks, merge_bends, remove_bend, split_bend};
use crate::survey::Survey;

pub(super) fn shape_by_hand(job: &mut Job, index: usize, edit: &Edit) -> Result<(), EditError> {
    let run = Survey::new(job).settle(&job.runs[index]);
    let way = run.way.as_ref().ok_or(EditError::NoWayYet);
    let bends = |problem| EditError::Bends { problem };
    let shaped = match edit {
        Edit::AddBend { leg, at, .. } => add_bend(&run, way?, *leg, *at).map_err(bends)?,
        Edit::RemoveBend { bend, .. } => remove_bend(&run, way?, *bend).map_err(bends)?,
        Edit::SplitBend { bend, .. } => split_bend(&run, way?, *bend).map_err(bends)?,
        Edit::MergeBends { bend, .. } => merge_bends(&run, way?, *bend).map_err(bends)?,
        Edit::HoldLocks { .. } => hold_locks(&run, way?).map_err(|problem| EditError::Reshape { problem })?,
        Edit::SetLock { lock, on, .. } => {
            let way = way?.clone();
            if *on { way.locked(*lock) } else { way.unlocked(lock) }
        }
        kept => return keep(&mut job.runs[index], kept),
    };
    job.runs[index].way = Some(shaped);
    Ok(())
}

fn keep(run: &mut Run, edit: &Edit) -> Result<(), EditError> {
    let none = |index: usize, kept: usize| EditError::NoSuchKept { kept, index };
    match edit {
        Edit::KeepWay { name, .. } => {
            let way = run.way.clone().ok_or(EditError::NoWayYet)?;
            if run.kept.len() >= Run::MOST_KEPT {
                return Err(EditError::EnoughKept { most: Run::MOST_KEPT });
            }
            run.kept.push(KeptRoute { name: name.clone(), way });
        }
        Edit::TakeKept { index, .. } => {
            let count = run.kept.len();
            let kept = run.kept.get_mut(*index).ok_or_else(|| none(*index, count))?;
            match &mut run.way {
                Some(way) => std::mem::swap(way, &mut kept.way),
                none => *none = Some(kept.way.clone()),
            }
        }
        Edit::DropKept { index, .. } => {
            if *index >= run.kept.len() {
                return Err(none(*index, run.kept.len()));
            }
            run.kept.remove(*index);
        }
        _ => {}
    }
    Ok(())
}

/// Makes two runs twins, or unlinks them.
pub(super) fn set_twin(job: &mut Job, run: RunId, twin: Option<RunId>) -> Result<(), EditError> {
    let index = index_of(job, run)?;
    if twin == Some(run) {
        return Err(EditError::OwnTwin);
    }
    let other = twin.map(|twin| index_of(job, twin)).transpose()?;
    // Whoever was linked to either is left alone.
    for one in &mut job.runs {
        if one.twin == Some(run) || (twin.is_some() && one.twin == twin) {
            one.twin = None;
        }
    }
    job.runs[index].twin = twin;
    if let Some(other) = other {
        job.runs[other].twin = Some(run);
        twin_follows(job, index);
    }
    Ok(())
}

/// The twin of run `index`, if it has one, takes the image of its way.
pub(super) fn twin_follows(job: &mut Job, index: usize) {
    let run = &job.runs[index];
    let (way, radius) = (run.way.as_ref().map(crate::route::Route::mirrored), run.radius);
    let Some(twin) = run.twin.and_then(|twin| job.runs.iter_mut().find(|other| other.id == twin)) else { return };
    if way.is_some() {
        twin.way = way;
        twin.radius = radius;
    }
}
