//! Edits of joints between the ends of a pipe.

use super::lookup::take_id;
use super::{Edit, EditError, JointChange};
use crate::job::Job;
use crate::route::{Joint, JointId};

pub(super) fn change_joints(job: &mut Job, index: usize, edit: &Edit) -> Result<(), EditError> {
    let way = job.runs[index].way.clone().ok_or(EditError::NoWayYet)?;
    let mut joints = way.joints().to_vec();
    let place = |joints: &[Joint], id: JointId| {
        joints.iter().position(|joint| joint.id == id).ok_or(EditError::NoSuchJoint { joint: id })
    };
    match edit {
        Edit::AddJoint { at, kind, .. } => {
            let id = JointId(take_id(job)?);
            joints.push(Joint { id, at: *at, kind: *kind, gap: None, seat: None });
        }
        Edit::ChangeJoint { joint, to, .. } => {
            let index = place(&joints, *joint)?;
            let joint = &mut joints[index];
            match *to {
                JointChange::Place { at } => joint.at = at,
                JointChange::Gap { gap } => joint.gap = gap,
                JointChange::Seat { seat } => joint.seat = seat,
            }
        }
        Edit::RemoveJoint { joint, .. } => {
            let index = place(&joints, *joint)?;
            joints.remove(index);
        }
        _ => unreachable!("not an edit of joints"),
    }
    job.runs[index].way = Some(way.with_joints(joints));
    Ok(())
}
