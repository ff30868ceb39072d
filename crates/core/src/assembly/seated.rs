//! Joints seated on the straights of a path.

use nalgebra::Point3;

use crate::join::{BEAD_FROM_END, GapReason, JointKind};
use crate::route::{JointAnchor, JointId, Needs};

/// A joint along a route, where it stands.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SeatedJoint {
    /// Which.
    pub id: JointId,
    /// What it is.
    pub kind: JointKind,
    /// Where it was meant to be.
    pub meant: JointAnchor,
    /// On which leg, 0 being the one from A.
    pub leg: usize,
    /// Station at which that leg's straight of tube begins, from A's mouth, in mm.
    pub start: f64,
    /// Station of its middle, from A's mouth, in mm.
    pub middle: f64,
    /// Where that is, in mm, vehicle axes.
    pub place: Point3<f64>,
    /// The gap between the tube ends, and what each needs of straight tube for seat and bead, in mm.
    pub needs: Needs,
    /// Why its gap is what it is.
    pub reason: GapReason,
    /// By how much in mm the straight is too short for all that is seated on it; 0 where it is not.
    pub short: f64,
}

impl SeatedJoint {
    /// Stations of the two tube ends in mm.
    #[must_use]
    pub fn gap(&self) -> [f64; 2] {
        [self.middle - self.needs.gap / 2.0, self.middle + self.needs.gap / 2.0]
    }

    /// Length in mm that its hose is cut to: the gap and a seat on each side.
    #[must_use]
    pub fn hose(&self) -> f64 {
        self.needs.gap + 2.0 * (self.needs.side - BEAD_FROM_END)
    }

    /// Stations between which the straight must be tube or gap.
    #[must_use]
    pub fn reach(&self) -> [f64; 2] {
        [self.middle - self.needs.half(), self.middle + self.needs.half()]
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

    const NEEDS: Needs = Needs { gap: 10.0, side: 40.0 };

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
