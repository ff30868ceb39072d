//! A stretch of centre line, and how a place on it can move against what is beside it.

use nalgebra::{Isometry3, Point3, Unit, UnitQuaternion};

use super::Rides;
use crate::{Travel, Vector};

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

    /// An arc of `radius` mm through `angle` radians from `from`, setting out `along` and bending `inward`, which are of
    /// length 1 and square to each other.
    #[must_use]
    pub fn bent(from: Point3<f64>, along: Vector, inward: Vector, radius: f64, angle: f64) -> Self {
        Self { from, along, inward, curvature: 1.0 / radius, length: radius * angle }
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

    /// What of it lies from `from` to `to` mm along it.
    #[must_use]
    pub fn part(&self, [from, to]: [f64; 2]) -> Self {
        let (at, along, inward) = self.at(from);
        Self { from: at, along, inward, curvature: self.curvature, length: (to - from).max(0.0) }
    }

    /// Distance in mm from a place to the nearest point of it.
    #[must_use]
    pub fn nearest(&self, place: &Point3<f64>) -> f64 {
        let s = if self.curvature == 0.0 {
            (place - self.from).dot(&self.along)
        } else {
            let centre = self.from + self.inward / self.curvature;
            let out = place - centre;
            // Angles just short of the start count as before it, not as nearly all the way round.
            let turned = out.dot(&self.along).atan2(-out.dot(&self.inward));
            let middle = self.length * self.curvature / 2.0;
            let from_middle = (turned - middle + std::f64::consts::PI).rem_euclid(std::f64::consts::TAU);
            (from_middle - std::f64::consts::PI + middle) / self.curvature
        };
        (self.at(s.clamp(0.0, self.length)).0 - place).norm()
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
        self.pivot + self.way(place - self.pivot, angle)
    }

    /// One of its turns, in radians, as a motion.
    #[must_use]
    pub fn at(&self, angle: f64) -> Isometry3<f64> {
        let turn = UnitQuaternion::from_axis_angle(&self.axis, angle);
        Isometry3::rotation_wrt_point(turn, self.pivot)
    }

    /// The same turn of a displacement.
    #[must_use]
    pub fn way(&self, way: Vector, angle: f64) -> Vector {
        let axis = self.axis.into_inner();
        let (sin, cos) = angle.sin_cos();
        way * cos + axis.cross(&way) * sin + axis * (axis.dot(&way) * (1.0 - cos))
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
pub struct EnvelopePart {
    /// Its centre line.
    pub span: Span,
    /// Half its thickness in mm, with what is on it.
    pub radius: f64,
    /// What it rides on.
    pub rides: Rides,
    /// Stations of its start and end from A's mouth in mm.
    pub stations: [f64; 2],
    /// Whether it is cut square at its start and at its end; elsewhere half a ball stands out, which is hidden in the pipe
    /// that goes on.
    pub square: [bool; 2],
}

impl EnvelopePart {
    /// The station `s` mm along its span.
    #[must_use]
    pub fn station(&self, s: f64) -> f64 {
        let [from, to] = self.stations;
        if self.span.length() > 0.0 { from + (to - from) * s / self.span.length() } else { from }
    }

    /// What of it lies between two stations, cut square there; `None` where nothing does. Its other ends are square as
    /// well where the cut is nearer than its half ball reaches.
    #[must_use]
    pub fn between(&self, [low, high]: [f64; 2]) -> Option<Self> {
        let [from, to] = self.stations;
        let (length, whole) = (self.span.length(), to - from);
        if to <= low || from >= high {
            return None;
        }
        let s = |station: f64| if whole > 0.0 { ((station - from) / whole).clamp(0.0, 1.0) * length } else { 0.0 };
        let (start, end) = (s(low), if whole > 0.0 { s(high) } else { length });
        let span = if start > 0.0 || end < length { self.span.part([start, end]) } else { self.span };
        let stations = [from.max(low), to.min(high)];
        let square =
            [self.square[0] || stations[0] - low < self.radius, self.square[1] || high - stations[1] < self.radius];
        Some(Self { span, stations, square, ..*self })
    }
}
