//! What follows for each joint between the ends.

use serde::Serialize;
use utoipa::ToSchema;

use super::JointFigures;
use super::end::reason_words;
use crate::assembly::SeatedJoint;
use crate::join::{HOSE, JointKind};
use crate::route::{JointId, LegId, ResolvedRun};
use nook_geometry::units::{DualUnitText, Measure};

/// A joint between the ends. Stations in mm along the tube's centre line, from the tube's end at A.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct JointWorkup {
    /// Which.
    pub joint: JointId,
    /// What it is called.
    pub name: String,
    /// What it is.
    pub kind: JointKind,
    /// On which straight it stands.
    pub straight: LegId,
    /// From the start of its straight to its middle.
    pub from_start: Measure,
    /// From its middle to the end of its straight.
    pub from_end: Measure,
    /// Station of its middle, where it stands.
    pub at: Measure,
    /// Station where the tube before it ends.
    pub from: Measure,
    /// Station where the tube after it begins.
    pub to: Measure,
    /// The gap between the two.
    pub gap: Measure,
    /// Why that gap.
    pub gap_reason: DualUnitText,
    /// How far the hose sits on each side.
    pub seat: Measure,
    /// Straight tube needed on each side for seat and bead.
    pub straight_needed: Measure,
    /// What the hose is cut to; nothing where none makes the joint.
    pub hose: Option<Measure>,
    /// Outside diameter of the hose, or of what stands furthest out.
    pub hose_od: Measure,
    /// By how much the straight is too short for all that is on it; 0 where it is not.
    pub short: Measure,
    /// What it gives and takes, and how it is reached and held.
    pub figures: JointFigures,
}

impl JointWorkup {
    /// `begin` is the station of the tube's end at A from A's mouth, and `length` that of the joint's straight, in mm.
    pub(super) fn of(run: &ResolvedRun, joint: &SeatedJoint, begin: f64, length: f64, figures: JointFigures) -> Self {
        let [from, to] = joint.gap();
        Self {
            joint: joint.id,
            name: run.joint_name(joint.id),
            kind: joint.kind,
            straight: run.route.leg_id(joint.leg),
            from_start: Measure(joint.middle - joint.start),
            from_end: Measure(length - (joint.middle - joint.start)),
            at: Measure(joint.middle - begin),
            from: Measure(from - begin),
            to: Measure(to - begin),
            gap: Measure(joint.needs.gap),
            gap_reason: reason_words(joint.needs.reason),
            seat: Measure(joint.needs.seats[0]),
            straight_needed: Measure(joint.needs.straights[0]),
            hose: joint.needs.hose().map(Measure),
            hose_od: Measure(
                run.tube.od() + 2.0 * if joint.kind.has_hose() { HOSE } else { joint.spec.stands_out(joint.kind) },
            ),
            short: Measure(joint.short),
            figures,
        }
    }
}
