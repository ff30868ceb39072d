//! A stretch of centre line, and how a place on it can move against what is beside it.

use nalgebra::{Isometry3, Point3, Unit};

use crate::geometry::{Travel, Vector};
use crate::measure::{End, Side};

/// A straight or an arc in space, walked by its length in mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Span {
    from: Point3<f64>,
    along: Vector,
    /// Towards the centre; no meaning on a straight.
    inward: Vector,
    /// One over the radius in mm; 0 on a straight.
    curvature: f64,
    length: f64,
}

impl Span {
    /// A straight of `length` mm from where `travel` stands. A length below 0 is none.
    #[must_use]
    pub fn straight(travel: &Travel, length: f64) -> Self {
        let inward = travel.clock().into_inner();
        Self { from: travel.at, along: travel.along.vector(), inward, curvature: 0.0, length: length.max(0.0) }
    }

    /// A straight between two points.
    #[must_use]
    pub fn between(from: Point3<f64>, to: Point3<f64>) -> Self {
        let way = to - from;
        let length = way.norm();
        let along = if length > 0.0 { way / length } else { Vector::x() };
        Self { from, along, inward: Vector::zeros(), curvature: 0.0, length }
    }

    /// An arc of `radius` mm through `angle` radians towards the clock of `travel`.
    #[must_use]
    pub fn arc(travel: &Travel, radius: f64, angle: f64) -> Self {
        let (along, inward) = (travel.along.vector(), travel.clock().into_inner());
        Self { from: travel.at, along, inward, curvature: 1.0 / radius, length: radius * angle }
    }

    /// Its length in mm.
    #[must_use]
    pub const fn length(&self) -> f64 {
        self.length
    }

    /// One over its radius in mm; 0 on a straight.
    #[must_use]
    pub const fn curvature(&self) -> f64 {
        self.curvature
    }

    /// The place `s` mm along it, the direction of travel there and the direction it bends in.
    #[must_use]
    pub fn at(&self, s: f64) -> (Point3<f64>, Vector, Vector) {
        if self.curvature == 0.0 {
            return (self.from + self.along * s, self.along, self.inward);
        }
        let (sin, cos) = (s * self.curvature).sin_cos();
        let radius = 1.0 / self.curvature;
        let at = self.from + self.along * (sin * radius) + self.inward * ((1.0 - cos) * radius);
        (at, self.along * cos + self.inward * sin, self.inward * cos - self.along * sin)
    }

    /// The same stretch elsewhere.
    #[must_use]
    pub fn carried(&self, by: &Isometry3<f64>) -> Self {
        Self { from: by * self.from, along: by * self.along, inward: by * self.inward, ..*self }
    }
}

/// A turn about an axis by anything between two angles.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Turning {
    /// A point on the axis.
    pub pivot: Point3<f64>,
    /// The axis.
    pub axis: Unit<Vector>,
    /// Least turn in radians.
    pub from: f64,
    /// Most turn in radians.
    pub to: f64,
}

impl Turning {
    /// Where a place goes by one of its turns, in radians.
    #[must_use]
    pub fn of(&self, place: Point3<f64>, angle: f64) -> Point3<f64> {
        let (axis, arm) = (self.axis.into_inner(), place - self.pivot);
        let (sin, cos) = angle.sin_cos();
        self.pivot + arm * cos + axis.cross(&arm) * sin + axis * (axis.dot(&arm) * (1.0 - cos))
    }

    /// The other way round.
    #[must_use]
    pub fn reversed(self) -> Self {
        Self { from: -self.to, to: -self.from, ..self }
    }

    /// The same turn seen from other axes.
    #[must_use]
    pub fn carried(&self, by: &Isometry3<f64>) -> Self {
        Self { pivot: by * self.pivot, axis: Unit::new_unchecked(by * self.axis.into_inner()), ..*self }
    }
}

/// A stretch of pipe: where it runs, how thick it is there and what it rides on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Stretch {
    /// Its centre line.
    pub span: Span,
    /// Half its thickness in mm, with what is on it.
    pub radius: f64,
    /// What it rides on.
    pub rides: Side,
    /// Stations of its start and end from A's mouth in mm.
    pub stations: [f64; 2],
    /// The end whose joint it is part of: its hose, and the straight that hose needs.
    pub joint: Option<End>,
}

impl Stretch {
    /// The station `s` mm along its span.
    #[must_use]
    pub fn station(&self, s: f64) -> f64 {
        let [from, to] = self.stations;
        if self.span.length() > 0.0 { from + (to - from) * s / self.span.length() } else { from }
    }
}
