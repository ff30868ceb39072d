//! Pipes that are each other's image.

use super::EditError;
use super::lookup::index_of;
use crate::job::Job;
use crate::measure::RunId;
use crate::route::{Joint, JointId};

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
    let (way, radius, next) = (run.way().map(crate::route::Route::mirrored), run.radius, run.next_part);
    let hose = run.hose;
    let Some(twin) = run.twin.and_then(|twin| job.runs.iter_mut().find(|other| other.id == twin)) else { return };
    if let Some(way) = way {
        twin.next_part = twin.next_part.max(next);
        let along: Vec<Joint> = way.joints().iter().filter(|joint| joint.end().is_none()).cloned().collect();
        let taken = |id: u32| {
            let supports = way.supports().iter().map(|support| support.id.0);
            let branches = way.branches().iter().map(|branch| branch.id.0);
            let supports = supports.chain(branches);
            let bends = way.bends().iter().map(|bend| bend.id.0);
            along.iter().map(|joint| joint.id.0).chain(bends).chain(supports).any(|other| other == id)
        };
        // Its ends are its own: they meet other ports. Only what was numbered by hand can clash.
        let mut joints: Vec<Joint> =
            twin.route.joints().iter().filter(|joint| joint.end().is_some()).cloned().collect();
        for joint in joints.iter_mut().filter(|joint| taken(joint.id.0)) {
            joint.id = JointId(twin.next_part);
            twin.next_part = twin.next_part.saturating_add(1);
        }
        joints.extend(along);
        twin.route = way.with_joints(joints);
        twin.radius = radius;
        // Hoses of one size have each other's fittings.
        if let (Some(own), Some(of)) = (twin.hose, hose)
            && own.fittings().map(|own| own.0) == of.fittings().map(|of| of.0)
            && own.word() == of.word()
        {
            twin.hose = Some(of.mirrored());
        }
    }
}
