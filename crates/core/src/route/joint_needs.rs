//! What a joint along a run needs of its straight.

use super::{Joint, Run};
use crate::join::{BEAD_FROM_END, GapReason, usual_gap, usual_seat};
use nook_geometry::units::{Gap, Seat};

/// What a joint needs of the straight it is on, in mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Needs {
    /// Gap between the tube ends.
    pub gap: f64,
    /// Straight tube on each side: seat and bead.
    pub side: f64,
}

impl Needs {
    /// Half of what it needs in all.
    #[must_use]
    pub fn half(&self) -> f64 {
        self.gap / 2.0 + self.side
    }
}

/// What `joint` needs along `run`.
#[must_use]
pub fn joint_needs(run: &Run, joint: &Joint) -> Needs {
    let seat = joint.seat.map_or_else(|| usual_seat(run.duty, run.tube.od()), Seat::get);
    let gap = joint.gap.map_or_else(|| usual_gap(run.a.rides != run.b.rides), Gap::get);
    Needs { gap, side: seat + BEAD_FROM_END }
}

/// Why its gap is what it is.
#[must_use]
pub fn gap_reason(run: &Run, joint: &Joint) -> GapReason {
    match joint.gap {
        Some(_) => GapReason::Chosen,
        None if run.a.rides != run.b.rides => GapReason::AcrossMounts,
        None => GapReason::OneBody,
    }
}
