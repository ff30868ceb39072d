//! How far the two sides of a joint are from how they were fitted.

use nalgebra::{Isometry3, Point3};

use crate::Vector;

/// What a joint takes each way before it is over: angle in radians, offset and axial shift in mm. Twist about the joint's
/// axis is free unless it gives in no way at all, when the two sides are one.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Compliance {
    /// Between the two axes, in radians.
    pub angle: f64,
    /// Of one side's end beside the other's axis, in mm.
    pub offset: f64,
    /// Along the axis, in mm.
    pub axial: f64,
}

impl Compliance {
    /// Whether it gives in no way.
    #[must_use]
    pub fn is_none(&self) -> bool {
        self.angle <= 0.0 && self.offset <= 0.0 && self.axial <= 0.0
    }
}

/// How far the two sides of a joint are from how they were fitted.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct JointErrors {
    /// Between the two axes, in radians: the turn that brings the first onto the second.
    pub angle: Vector,
    /// Of the second side's end beside the axis, in mm.
    pub offset: Vector,
    /// Along the axis, in mm; positive is apart.
    pub axial: f64,
}

impl JointErrors {
    /// Sizes of the three: radians, mm, mm.
    #[must_use]
    pub fn sizes(&self) -> [f64; 3] {
        [self.angle.norm(), self.offset.norm(), self.axial.abs()]
    }

    /// The largest of the three as a share of what the joint gives; what may not move and does is over by any measure.
    #[must_use]
    pub fn share(&self, give: &Compliance) -> f64 {
        let of = |size: f64, give: f64| match give > 0.0 {
            true => size / give,
            false if size < HELD => 0.0,
            false => f64::INFINITY,
        };
        let [angle, offset, axial] = self.sizes();
        of(angle, give.angle).max(of(offset, give.offset)).max(of(axial, give.axial))
    }
}

/// What is held moves by less than this, in mm or radians: what a solver leaves.
const HELD: f64 = 1e-5;

/// Whose axis offset and axial shift are measured on.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Axis {
    /// That of the side nearer the chain's start.
    Before,
    /// That of the other.
    After,
    /// The middle between the two, so that nothing depends on which end a chain is counted from.
    Middle,
}

/// A side of a joint: how its part has moved, and where its end is on the part at rest.
pub(super) struct JointSide<'a> {
    pub(super) pose: &'a Isometry3<f64>,
    pub(super) end: Point3<f64>,
}

/// How far two sides of a joint whose axis runs `along` at rest, from the first to the second, have come apart.
pub(super) fn errors(along: &Vector, before: &JointSide<'_>, after: &JointSide<'_>, axis: Axis) -> JointErrors {
    let [first, second] = [before, after].map(|side| side.pose.rotation * along);
    let cross = first.cross(&second);
    let sine = cross.norm();
    let angle = if sine > 1e-12 { cross * (sine.atan2(first.dot(&second)) / sine) } else { cross };
    let on = match axis {
        Axis::Before => first,
        Axis::After => second,
        Axis::Middle => (first + second).normalize(),
    };
    let apart = after.pose * after.end - before.pose * before.end;
    let axial = apart.dot(&on);
    JointErrors { angle, offset: apart - on * axial, axial }
}
