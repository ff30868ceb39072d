//! Joints seated on the straights of a path.

use nalgebra::Point3;

use crate::join::{JointKind, JointSpec};
use crate::measure::End;
use crate::part_ref::PartRef;
use crate::route::{Joint, JointId, Needs, ResolvedRun, joint_needs};
use crate::stock::nearest_moulded;
use nook_geometry::units::Rotation;
use nook_geometry::{Arc, Direction, Path, Travel};

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
    /// The tube ends beside its gap, or the mouth and the tube's: where, in mm, and the direction of travel there.
    pub sides: [(Point3<f64>, Direction); 2],
    /// At which end; `None` between them.
    pub end: Option<End>,
    /// Whether it takes the place of the bend after its leg.
    pub in_bend: bool,
    /// On which leg, 0 being the one from A; of one in place of a bend the leg before that.
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
    /// What a joint says of itself; where it stands is its maker's to say.
    fn unplaced(run: &ResolvedRun, joint: &Joint, needs: Needs, (leg, start): (usize, f64), along: Direction) -> Self {
        let clock = joint.clock.map(Rotation::get);
        Self {
            id: joint.id,
            kind: joint.kind,
            spec: joint.spec(run.tube.od()),
            held: clock,
            clock,
            along,
            sides: [(Point3::origin(), along); 2],
            end: None,
            in_bend: false,
            leg,
            start,
            middle: start,
            place: Point3::origin(),
            needs,
            widest: run.tube.od(),
            short: 0.0,
        }
    }

    /// The joint at an end of a pipe, on a leg whose straight of tube begins at a station.
    pub(super) fn at_end(run: &ResolvedRun, end: End, whole: &Path, on: (usize, f64)) -> Self {
        let (joint, needs, port) = (run.joint(end), run.needs(end), run.port(end));
        let half = needs.gap / 2.0;
        let middle = match end {
            End::A => half,
            End::B => whole.length() - half,
        };
        let along = if end == End::A { port.out } else { port.out.reversed() };
        let place = port.at.inner() + port.out.vector() * half;
        Self {
            sides: [-half, half].map(|by| (place + along.vector() * by, along)),
            end: Some(end),
            middle,
            place,
            widest: run.tube.od().max(port.od.get()),
            ..Self::unplaced(run, joint, needs, on, along)
        }
    }

    /// The joint with its middle so many mm along a leg whose straight of tube begins at a station, where `travel` sets out.
    pub(super) fn on_leg(
        run: &ResolvedRun,
        joint: &Joint,
        needs: Needs,
        on: (usize, f64),
        travel: &Travel,
        middle: f64,
        short: f64,
    ) -> Self {
        let half = needs.gap / 2.0;
        Self {
            sides: [-half, half].map(|by| (travel.straight(middle + by).at, travel.along)),
            middle: on.1 + middle,
            place: travel.straight(middle).at,
            short,
            ..Self::unplaced(run, joint, needs, on, travel.along)
        }
    }

    /// The joint in place of the bend after a leg of `length` mm, at whose end `setting_in` stands, clocked.
    pub(super) fn in_bend(
        run: &ResolvedRun,
        joint: &Joint,
        on: (usize, f64),
        length: f64,
        setting_in: &Travel,
        arc: &Arc,
    ) -> Self {
        let mut needs = joint_needs(run, joint);
        let beside = needs.gap / 2.0;
        needs.gap += arc.length();
        let half_way = setting_in.bend(arc.radius, arc.angle / 2.0);
        let out = setting_in.bend(arc.radius, arc.angle);
        // What its two straights lack is told of them, not as short.
        let mut seated = Self {
            sides: [(setting_in.straight(-beside).at, setting_in.along), (out.straight(beside).at, out.along)],
            in_bend: true,
            middle: on.1 + length + arc.length() / 2.0,
            place: half_way.at,
            ..Self::unplaced(run, joint, needs, on, half_way.along)
        };
        // What it is pulled from the angle it was moulded to is taken from what it gives.
        let degrees = arc.angle.to_degrees();
        let give = &mut seated.spec.give.angle;
        *give = (*give - (degrees - nearest_moulded(degrees)).abs()).max(0.0);
        seated
    }

    /// Whether any of it is on a leg: one in place of a bend is on the legs before and after.
    #[must_use]
    pub fn is_on(&self, leg: usize) -> bool {
        self.leg == leg || (self.in_bend && self.leg + 1 == leg)
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
