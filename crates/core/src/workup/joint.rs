//! What follows for each joint between the ends.

use serde::Serialize;
use utoipa::ToSchema;

use super::JointFigures;
use super::end::reason_words;
use crate::assembly::SeatedJoint;
use crate::join::{HOSE, JointKind};
use crate::route::{BendId, JointId, LegId, ResolvedRun};
use crate::stock::nearest_moulded;
use nook_geometry::units::{DualUnitText, Measure};
use nook_geometry::{Arc, Path};

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
    /// The moulded elbow it is; nothing of other kinds.
    pub elbow: Option<ElbowWorkup>,
    /// What it gives and takes, and how it is reached and held.
    pub figures: JointFigures,
}

/// A moulded elbow in place of a bend of the tube.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ElbowWorkup {
    /// Which bend.
    pub bend: BendId,
    /// What it is moulded to, in degrees.
    pub moulded: f64,
    /// By how many degrees it is pulled from that: above 0 it turns further.
    pub pulled: f64,
    /// Its radius on the centre line.
    pub radius: Measure,
    /// What each of its legs is cut to, from where its bend ends.
    pub leg: Measure,
}

impl ElbowWorkup {
    fn of(run: &ResolvedRun, joint: &SeatedJoint, arc: Option<&Arc>) -> Option<Self> {
        let arc = arc.filter(|_| joint.in_bend)?;
        let degrees = arc.angle.to_degrees();
        let moulded = nearest_moulded(degrees);
        Some(Self {
            bend: run.route.bend_id(joint.leg),
            moulded,
            pulled: degrees - moulded,
            radius: Measure(arc.radius),
            leg: Measure(joint.needs.seats[0] + (joint.needs.gap - arc.length()) / 2.0),
        })
    }
}

impl JointWorkup {
    /// `tube` is the pipe from tube end to tube end, and `begin` the station in mm at which that begins, from A's mouth.
    pub(super) fn of(run: &ResolvedRun, joint: &SeatedJoint, tube: &Path, begin: f64, figures: JointFigures) -> Self {
        let length = tube.straights().nth(joint.leg).unwrap_or(0.0);
        let arc = tube.legs().get(joint.leg).map(|step| step.bend);
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
            elbow: ElbowWorkup::of(run, joint, arc.as_ref()),
            figures,
        }
    }
}
