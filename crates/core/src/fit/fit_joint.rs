//! A joint as it is put together: what it takes, and how far small motions bring its two sides apart.

use nalgebra::{DVector, Matrix6x1, Point3, Unit};

use super::{Body, ErrorAct, Twist};
use crate::measure::{End, estimate};
use nook_geometry::Vector;

/// What a joint may be off by when it is put together.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Takes {
    /// Between the axes of its two sides, in radians.
    pub angle: f64,
    /// Of one side's end beside the other's axis, in mm.
    pub offset: f64,
    /// Along the axis, in mm: how much closer, and how much further apart.
    pub axial: [f64; 2],
}

/// A joint that two bodies meet at.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FitJoint {
    /// Where, in mm.
    pub at: Point3<f64>,
    /// The direction of travel there, a unit vector.
    pub along: Vector,
    /// What it takes; `None` where nothing is joined, so that it takes anything.
    pub takes: Option<Takes>,
    /// Whether its two sides may be turned about its axis to each other.
    pub twists: bool,
}

/// Figures of a joint: along it, beside it twice, tilted twice, turned about it.
pub(super) const PARTS: usize = 6;
impl FitJoint {
    /// What its figures are divided by, and what is taken off first; infinity where it takes anything.
    pub(super) fn scale(&self) -> [(f64, f64); PARTS] {
        let twist = if self.twists { f64::INFINITY } else { 0.0 };
        let Some(Takes { angle, offset, axial: [closer, apart] }) = self.takes else {
            return [(f64::INFINITY, 0.0); PARTS];
        };
        let axial = (f64::midpoint(closer, apart).max(0.0), (apart - closer) / 2.0);
        [axial, (offset, 0.0), (offset, 0.0), (angle, 0.0), (angle, 0.0), (twist, 0.0)]
    }

    /// A small shift and turn as its figures.
    pub(super) fn figures(&self, shift: Vector, turn: Vector) -> Matrix6x1<f64> {
        let [up, side] = square_to(self.along);
        Matrix6x1::new(
            shift.dot(&self.along),
            shift.dot(&up),
            shift.dot(&side),
            turn.dot(&up),
            turn.dot(&side),
            turn.dot(&self.along),
        )
    }

    /// Rows of its figures that are judged together.
    pub(super) fn groups(joint: usize) -> Vec<Vec<usize>> {
        let row = joint * PARTS;
        vec![vec![row], vec![row + 1, row + 2], vec![row + 3, row + 4], vec![row + 5]]
    }
}

/// Two directions square to a unit vector and to each other.
#[must_use]
pub fn square_to(along: Vector) -> [Vector; 2] {
    estimate::square_to(Unit::new_unchecked(along))
}

/// How far the two sides of every joint come apart when a whole section makes a small motion.
pub(super) fn moved(joints: &[FitJoint], section: usize, twist: &Twist) -> DVector<f64> {
    let mut rows = DVector::zeros(joints.len() * PARTS);
    for (at, sign) in [(section, 1.0), (section + 1, -1.0)] {
        let Some(joint) = joints.get(at) else { continue };
        let figures = joint.figures(twist.at(joint.at), twist.turn) * sign;
        rows.fixed_rows_mut::<PARTS>(at * PARTS).copy_from(&figures);
    }
    rows
}

/// How far the two sides of every joint come apart by an error of one unit.
pub(super) fn off(joints: &[FitJoint], act: &ErrorAct) -> DVector<f64> {
    let mut rows = DVector::zeros(joints.len() * PARTS);
    let (at, sign) = match act.on {
        Body::Port(End::A) => (0, -1.0),
        Body::Port(End::B) => (joints.len().saturating_sub(1), 1.0),
        Body::Section(section) => (section + 1, -1.0),
    };
    if let Some(joint) = joints.get(at) {
        let figures = joint.figures(act.twist.at(joint.at), act.twist.turn) * sign;
        rows.fixed_rows_mut::<PARTS>(at * PARTS).copy_from(&figures);
    }
    rows
}
