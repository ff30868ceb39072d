//! Parts of a run by their place, for tests that build a run and know what it looks like.

#![allow(dead_code, unreachable_pub, clippy::unwrap_used, reason = "each test target uses its own part of this module")]

use nook_core::edit::JointChange;
use nook_core::join::JointKind;
use nook_core::measure::End;
use nook_core::route::{BendId, BendMake, JointId, LegId, PieEnds};
use nook_core::{CutEdit, Edit, Job, JoinEdit, RunId};
use nook_geometry::units::SeamCount;

/// The bend in a place of the way a run takes, from 0 at A.
pub fn bend(job: &Job, run: RunId, index: usize) -> BendId {
    job.run(run).unwrap().route.bend_id(index)
}

/// The leg in a place, 0 being the one from A.
pub fn leg(job: &Job, run: RunId, index: usize) -> LegId {
    job.run(run).unwrap().route.leg_id(index)
}

/// The joint at an end.
pub fn joint(job: &Job, run: RunId, end: End) -> JointId {
    job.run(run).unwrap().joint(end).id
}

/// Changes the joint at an end.
pub fn change(job: &Job, run: RunId, end: End, to: JointChange) -> Edit {
    JoinEdit::ChangeJoint { run, joint: joint(job, run, end), to }.into()
}

/// Makes the joint at an end another kind.
pub fn kind(job: &Job, run: RunId, end: End, kind: JointKind) -> Edit {
    change(job, run, end, JointChange::Kind { kind })
}

/// Makes a bend of pies.
pub fn pies(job: &Job, run: RunId, index: usize, seams: Option<u8>, ends: PieEnds) -> Edit {
    let seams = seams.map(|seams| SeamCount::new(seams).unwrap());
    CutEdit::SetMake { run, bend: bend(job, run, index), make: Some(BendMake::Pies { seams, ends }) }.into()
}
