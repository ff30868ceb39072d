//! Decisions about what a pipe is joined and held by.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::lookup::{find_first_way, index_of, sound, take_part};
use super::route_edit::place_of;
use super::twins::twin_follows;
use super::{BranchChange, EditError, JointChange, Made, SupportChange};
use crate::assembly::Assembly;
use crate::job::Job;
use crate::join::{BranchKind, JointKind};
use crate::measure::{RunId, Side};
use crate::route::{
    AlongAnchor, BendId, Branch, BranchId, Joint, JointAnchor, JointId, Support, SupportDraft, SupportId,
};
use crate::survey::Survey;
use nook_geometry::clearance::Rides;

/// A decision about what a pipe is joined and held by.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
pub enum JoinEdit {
    /// Puts a joint between the ends of a pipe.
    AddJoint {
        /// Which pipe.
        run: RunId,
        /// Where its middle is to be.
        at: AlongAnchor,
        /// What it is.
        kind: JointKind,
    },
    /// Makes a bend of a moulded hose over both tube ends, in place of tube.
    AddElbow {
        /// Which pipe.
        run: RunId,
        /// Which bend.
        bend: BendId,
    },
    /// Changes one thing about a joint, at an end or between them.
    ChangeJoint {
        /// Which pipe.
        run: RunId,
        /// Which joint.
        joint: JointId,
        /// What is changed.
        to: JointChange,
    },
    /// Takes a joint between the ends out: the tubes beside it are one again, and a bend is of tube.
    RemoveJoint {
        /// Which pipe.
        run: RunId,
        /// Which joint.
        joint: JointId,
    },
    /// Puts a support on a pipe.
    AddSupport {
        /// Which pipe.
        run: RunId,
        /// What and where.
        support: SupportDraft,
    },
    /// Changes one thing about a support.
    ChangeSupport {
        /// Which pipe.
        run: RunId,
        /// Which support.
        support: SupportId,
        /// What is changed.
        to: SupportChange,
    },
    /// Takes a support off a pipe.
    RemoveSupport {
        /// Which pipe.
        run: RunId,
        /// Which support.
        support: SupportId,
    },
    /// Lets something into a pipe, of its kind's usual size.
    AddBranch {
        /// Which pipe.
        run: RunId,
        /// Where its axis pierces the tube's skin.
        at: AlongAnchor,
        /// What it is for.
        kind: BranchKind,
    },
    /// Changes one thing about a branch.
    ChangeBranch {
        /// Which pipe.
        run: RunId,
        /// Which branch.
        branch: BranchId,
        /// What is changed.
        to: BranchChange,
    },
    /// Takes a branch out of a pipe.
    RemoveBranch {
        /// Which pipe.
        run: RunId,
        /// Which branch.
        branch: BranchId,
    },
}

impl JoinEdit {
    pub(super) fn apply(&self, job: &mut Job, made: &mut Made) -> Result<(), EditError> {
        match self {
            Self::AddJoint { run, at, kind } => {
                let index = index_of(job, *run)?;
                let run = &mut job.runs[index];
                run.way().ok_or(EditError::NoWayYet)?;
                let id = JointId(take_part(run)?);
                run.route.joints_mut().push(Joint::new(id, (*at).into(), *kind));
                made.joint(run.id, id);
                done(job, index)
            }
            Self::AddElbow { run, bend } => {
                let index = index_of(job, *run)?;
                let run = &mut job.runs[index];
                place_of(run, *bend)?;
                if run.route.joint_at_bend(*bend).is_none() {
                    let id = JointId(take_part(run)?);
                    let elbow = Joint::new(id, JointAnchor::Bend { bend: *bend }, JointKind::Elbow);
                    run.route.joints_mut().push(elbow);
                    made.joint(run.id, id);
                }
                done(job, index)
            }
            Self::ChangeJoint { run, joint, to } => {
                let index = index_of(job, *run)?;
                let joint = joint_mut(job, index, *joint)?;
                match to {
                    JointChange::Kind { kind } => {
                        // What was chosen of another kind says nothing of this one, but for the gap between two hoses.
                        if *kind != joint.kind {
                            joint.part = None;
                            joint.gap = joint.gap.filter(|_| kind.has_hose() && joint.kind.has_hose());
                        }
                        joint.kind = *kind;
                    }
                    JointChange::Gap { gap } => joint.gap = *gap,
                    JointChange::Seat { seat } => joint.seat = *seat,
                    JointChange::Clock { clock } => joint.clock = *clock,
                    JointChange::Tied { tied } => joint.tied = *tied,
                    JointChange::Plate { plate } => joint.plate.clone_from(plate),
                    JointChange::Part { part } => {
                        if let Some(part) = part {
                            joint.kind = part.kind;
                        }
                        joint.part.clone_from(part);
                    }
                    JointChange::Place { at } => match joint.at {
                        JointAnchor::Leg { .. } => joint.at = (*at).into(),
                        JointAnchor::End { end } => return Err(EditError::StaysAtItsEnd { end }),
                        JointAnchor::Bend { .. } => return Err(EditError::StaysAtItsBend),
                    },
                }
                done(job, index)
            }
            Self::RemoveJoint { run, joint } => {
                let index = index_of(job, *run)?;
                if let Some(end) = joint_mut(job, index, *joint)?.end() {
                    return Err(EditError::StaysAtItsEnd { end });
                }
                job.runs[index].route.joints_mut().retain(|one| one.id != *joint);
                done(job, index)
            }
            Self::AddSupport { run, support } => {
                let index = index_of(job, *run)?;
                let run = &mut job.runs[index];
                run.way().ok_or(EditError::NoWayYet)?;
                let id = SupportId(take_part(run)?);
                let run = run.id;
                let to = support.to.unwrap_or_else(|| side_of(job, index, support));
                job.runs[index].route.supports_mut().push(Support::new(id, support, to));
                made.support(run, id);
                done(job, index)
            }
            Self::ChangeSupport { run, support, to } => {
                let index = index_of(job, *run)?;
                let support = support_mut(job, index, *support)?;
                match to {
                    SupportChange::Kind { kind } => support.kind = *kind,
                    SupportChange::To { to } => support.to = *to,
                    SupportChange::Place { at } => support.at = *at,
                    SupportChange::Clock { clock } => support.clock = *clock,
                    SupportChange::StandOff { stand_off } => support.stand_off = *stand_off,
                }
                done(job, index)
            }
            Self::RemoveSupport { run, support } => {
                let index = index_of(job, *run)?;
                support_mut(job, index, *support)?;
                job.runs[index].route.supports_mut().retain(|one| one.id != *support);
                done(job, index)
            }
            Self::AddBranch { run, at, kind } => {
                let index = index_of(job, *run)?;
                let run = &mut job.runs[index];
                run.way().ok_or(EditError::NoWayYet)?;
                let id = BranchId(take_part(run)?);
                run.route.branches_mut().push(Branch::usual(id, *at, *kind));
                made.branch(run.id, id);
                done(job, index)
            }
            Self::ChangeBranch { run, branch, to } => {
                let index = index_of(job, *run)?;
                change_branch(branch_mut(job, index, *branch)?, to);
                done(job, index)
            }
            Self::RemoveBranch { run, branch } => {
                let index = index_of(job, *run)?;
                branch_mut(job, index, *branch)?;
                job.runs[index].route.branches_mut().retain(|one| one.id != *branch);
                done(job, index)
            }
        }
    }
}

fn done(job: &mut Job, index: usize) -> Result<(), EditError> {
    sound(job)?;
    find_first_way(job, index)?;
    twin_follows(job, index);
    Ok(())
}

/// The side that what a support is put on rides on; the body where that hangs between, or cannot be told.
fn side_of(job: &Job, index: usize, support: &SupportDraft) -> Side {
    let run = Survey::new(job).settle(&job.runs[index]);
    let rides = Assembly::build(&run).and_then(Result::ok).and_then(|pipe| {
        let station = pipe.station_of(&run.route, support.at)?;
        let section = pipe.section_of(station)?;
        pipe.moves(&run).rides.get(section).copied()
    });
    if rides == Some(Rides::Engine) { Side::Engine } else { Side::Body }
}

fn change_branch(branch: &mut Branch, to: &BranchChange) {
    match to {
        BranchChange::Kind { kind } => *branch = Branch::usual(branch.id, branch.at, *kind),
        BranchChange::Place { at } => branch.at = *at,
        BranchChange::Clock { clock } => branch.clock = *clock,
        BranchChange::Od { od } => branch.od = *od,
        BranchChange::Reach { reach } => branch.reach = *reach,
        BranchChange::Angle { angle } => branch.angle = *angle,
        BranchChange::Offset { offset } => branch.offset = *offset,
    }
}

fn branch_mut(job: &mut Job, index: usize, branch: BranchId) -> Result<&mut Branch, EditError> {
    let mut branches = job.runs[index].route.branches_mut().iter_mut();
    branches.find(|one| one.id == branch).ok_or(EditError::NoSuchBranch { branch })
}

fn support_mut(job: &mut Job, index: usize, support: SupportId) -> Result<&mut Support, EditError> {
    let mut supports = job.runs[index].route.supports_mut().iter_mut();
    supports.find(|one| one.id == support).ok_or(EditError::NoSuchSupport { support })
}

fn joint_mut(job: &mut Job, index: usize, joint: JointId) -> Result<&mut Joint, EditError> {
    let mut joints = job.runs[index].route.joints_mut().iter_mut();
    joints.find(|one| one.id == joint).ok_or(EditError::NoSuchJoint { joint })
}
