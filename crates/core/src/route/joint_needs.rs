//! What a joint of a run needs: its gap, and tube for hose and bead, or for ferrule and flange, on each side of it.

use super::{Joint, Run};
use crate::join::{BEAD_FROM_END, GapReason, JointKind, LEAST_HUMP, taper, usual_gap, usual_seat};
use crate::measure::End;
use crate::stock::{HoseBuild, LEAST_LEG};
use nook_geometry::units::{Gap, Seat};

/// What a joint needs, in mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Needs {
    /// Gap between the tube ends.
    pub gap: f64,
    /// Why.
    pub reason: GapReason,
    /// How far a hose sits on what is before it, seen from A, and on what is after; 0 for metal.
    pub seats: [f64; 2],
    /// Straight tube wanted before and after the gap: seat and bead where there is a hose, ferrule or flange else.
    pub straights: [f64; 2],
}

impl Needs {
    /// From the gap's middle to where the straight is free again; of a joint between the ends, which is alike on both
    /// sides.
    #[must_use]
    pub fn half(&self) -> f64 {
        self.gap / 2.0 + self.straights[0]
    }

    /// What its hose is cut to: the gap and a seat on each side; `None` for metal, and for a hose's own end.
    #[must_use]
    pub fn hose(&self) -> Option<f64> {
        (self.seats[0] > 0.0 && self.reason != GapReason::Hose).then(|| self.gap + self.seats[0] + self.seats[1])
    }
}

/// What a joint of `run` needs; in place of a bend, that bend's arc is not counted in its gap.
#[must_use]
pub fn joint_needs(run: &Run, joint: &Joint) -> Needs {
    let od = run.tube.od();
    let spec = joint.spec(od);
    let (mut gap, reason) = gap(run, joint, spec.takes);
    let own = joint.seat.map_or_else(|| usual_seat(run.duty, od), Seat::get);
    let seats = match (joint.kind.has_hose(), joint.end()) {
        (false, _) => [0.0; 2],
        (true, None) => [own; 2],
        (true, Some(end)) => {
            let ports = usual_seat(run.duty, run.port(end).od.get());
            if end == End::A { [ports, own] } else { [own, ports] }
        }
    };
    if let (JointKind::HoseEnd, Some(hose), Some(end)) = (joint.kind, run.hose, joint.end()) {
        return hose_end(run, hose, end);
    }
    if joint.kind == JointKind::Elbow {
        // Its legs reach past the seats where those are shorter than a leg may be cut.
        gap = seats.map(|seat| (LEAST_LEG - seat).max(0.0)).iter().sum();
    }
    let straights = if joint.kind.has_hose() { seats.map(|seat| seat + BEAD_FROM_END) } else { [spec.straight; 2] };
    Needs { gap, reason, seats, straights }
}

/// A hose's own end: in its fitting, or pushed over the mouth by a seat.
fn hose_end(run: &Run, hose: HoseBuild, end: End) -> Needs {
    let seat = if run.is_threaded() { 0.0 } else { usual_seat(run.duty, run.port(end).od.get()) };
    let straight = hose.straight_out(seat);
    let (seats, straights) =
        if end == End::A { ([seat, 0.0], [0.0, straight]) } else { ([0.0, seat], [straight, 0.0]) };
    Needs { gap: 0.0, reason: GapReason::Hose, seats, straights }
}

fn gap(run: &Run, joint: &Joint, takes: Option<f64>) -> (f64, GapReason) {
    let kind = joint.kind;
    if kind == JointKind::Elbow {
        return (0.0, GapReason::Elbow);
    }
    if matches!(kind, JointKind::Metal | JointKind::HoseEnd) {
        return (0.0, GapReason::Metal);
    }
    if kind == JointKind::Open {
        return (0.0, GapReason::Open);
    }
    let chosen = joint.gap.map(Gap::get).filter(|_| kind.has_hose() || kind == JointKind::Bellows);
    if let Some(gap) = chosen {
        return (gap, GapReason::Chosen);
    }
    if let Some(takes) = takes {
        let of_part = joint.part.as_ref().is_some_and(|part| part.kind == kind && part.gap.is_some());
        return (takes, if of_part { GapReason::Part } else { GapReason::Kind });
    }
    let across = run.a.rides != run.b.rides;
    let usual = usual_gap(across);
    let steps = joint.end().map_or(0.0, |end| taper(kind, run.port(end).od.get(), run.tube.od()));
    if steps > usual {
        (steps, GapReason::Taper)
    } else if kind == JointKind::Hump && usual < LEAST_HUMP {
        (LEAST_HUMP, GapReason::Kind)
    } else {
        (usual, if across { GapReason::AcrossMounts } else { GapReason::OneBody })
    }
}
