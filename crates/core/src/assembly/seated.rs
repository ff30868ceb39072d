//! Joints seated on the straights of a path.

use nalgebra::Point3;

use crate::join::{JointKind, JointSpec};
use crate::measure::End;
use crate::part_ref::PartRef;
use crate::route::{JointId, Needs, ResolvedRun};
use nook_geometry::units::Rotation;
use nook_geometry::{Direction, Path};

/// A joint of a route, where it stands.
#[derive(Debug, Clone, PartialEq)]
pub struct SeatedJoint {
    /// Which.
    pub id: JointId,
    /// What it is.
    pub kind: JointKind,
    /// What that gives and takes on this tube.
    pub spec: JointSpec,
    /// The clock at which its screw, bolt or latch is held, in degrees; `None` where it may turn.
    pub held: Option<f64>,
    /// The clock at which it stands, in degrees: held, or where it was found to be reached; `None` while it may be any.
    pub clock: Option<f64>,
    /// The direction of travel there, from A to B.
    pub along: Direction,
    /// At which end; `None` between them.
    pub end: Option<End>,
    /// On which leg, 0 being the one from A.
    pub leg: usize,
    /// Station at which that leg's straight of tube begins, from A's mouth, in mm.
    pub start: f64,
    /// Station of the middle of its gap, from A's mouth, in mm.
    pub middle: f64,
    /// Where that is, in mm, vehicle axes.
    pub place: Point3<f64>,
    /// Its gap and its seats.
    pub needs: Needs,
    /// The larger outside diameter of what it joins, in mm.
    pub widest: f64,
    /// By how much in mm the straight is too short for all that is seated between the ends on it; 0 where it is not.
    pub short: f64,
}

impl SeatedJoint {
    /// The joint at an end of a pipe, on a leg whose straight of tube begins at a station.
    pub(super) fn at_end(run: &ResolvedRun, end: End, whole: &Path, (leg, start): (usize, f64)) -> Self {
        let (joint, needs, port) = (run.joint(end), run.needs(end), run.port(end));
        let half = needs.gap / 2.0;
        let middle = match end {
            End::A => half,
            End::B => whole.length() - half,
        };
        Self {
            id: joint.id,
            kind: joint.kind,
            spec: joint.spec(run.tube.od()),
            held: joint.clock.map(Rotation::get),
            clock: joint.clock.map(Rotation::get),
            along: if end == End::A { port.out } else { port.out.reversed() },
            end: Some(end),
            leg,
            start,
            middle,
            place: port.at.inner() + port.out.vector() * half,
            needs,
            widest: run.tube.od().max(port.od.get()),
            short: 0.0,
        }
    }

    /// What is pointed at to mean it.
    #[must_use]
    pub fn part(&self, run: &ResolvedRun) -> PartRef {
        PartRef::of_joint(run.id, self.id, self.end)
    }

    /// Stations of the two tube ends, or of port and tube, in mm.
    #[must_use]
    pub fn gap(&self) -> [f64; 2] {
        [self.middle - self.needs.gap / 2.0, self.middle + self.needs.gap / 2.0]
    }

    /// Stations between which the straight must be tube or gap; what a hose covers of a port lies beyond the mouth and is
    /// not counted.
    #[must_use]
    pub fn reach(&self) -> [f64; 2] {
        let ([from, to], [before, after]) = (self.gap(), self.needs.straights);
        match self.end {
            None => [from - before, to + after],
            Some(End::A) => [from, to + after],
            Some(End::B) => [from - before, to],
        }
    }
}

/// What is to be seated on one straight: where its middle is meant to be, in mm along it, and what it needs.
pub(super) type Wanted = (f64, Needs);

/// Middles in mm of joints between `from` and `to` along a straight, as near to where they are wanted as the others
/// allow, in their order; and by how much in mm there is too little room for all, 0 where there is enough. Where there is
/// too little, they stand in their order, closer than they can be built.
pub(super) fn seat([from, to]: [f64; 2], wanted: &[Wanted]) -> (Vec<f64>, f64) {
    let total: f64 = wanted.iter().map(|(_, needs)| 2.0 * needs.half()).sum();
    let short = (total - (to - from)).max(0.0);
    // Closer than they can be built by one share each.
    let share = if total > 0.0 { ((to - from) / total).clamp(0.0, 1.0) } else { 1.0 };
    let half = |needs: &Needs| needs.half() * share;
    let mut middles: Vec<f64> = Vec::with_capacity(wanted.len());
    let mut free = from;
    for (want, needs) in wanted {
        let middle = want.max(free + half(needs));
        middles.push(middle);
        free = middle + half(needs);
    }
    let mut free = to;
    for (middle, (_, needs)) in middles.iter_mut().zip(wanted).rev() {
        *middle = middle.min(free - half(needs));
        free = *middle - half(needs);
    }
    (middles, short)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::join::GapReason;

    const NEEDS: Needs = Needs { gap: 10.0, reason: GapReason::Chosen, seats: [34.0; 2], straights: [40.0; 2] };

    #[test]
    fn a_joint_with_room_stands_where_it_is_wanted_and_else_as_near_as_it_can() {
        assert_eq!(seat([0.0, 300.0], &[(120.0, NEEDS)]), (vec![120.0], 0.0));
        assert_eq!(seat([0.0, 300.0], &[(10.0, NEEDS)]), (vec![45.0], 0.0));
        assert_eq!(seat([0.0, 300.0], &[(900.0, NEEDS)]), (vec![255.0], 0.0));
    }

    #[test]
    fn two_make_room_for_each_other_and_keep_their_order() {
        assert_eq!(seat([0.0, 300.0], &[(100.0, NEEDS), (110.0, NEEDS)]), (vec![100.0, 190.0], 0.0));
        assert_eq!(seat([0.0, 200.0], &[(180.0, NEEDS), (190.0, NEEDS)]), (vec![65.0, 155.0], 0.0));
    }

    #[test]
    fn too_little_room_is_told() {
        let (middles, short) = seat([0.0, 150.0], &[(0.0, NEEDS), (150.0, NEEDS)]);
        assert_eq!((middles, short), (vec![37.5, 112.5], 30.0));
    }
}
