//! Convex rooms and the signed distance to them.
//!
//! The signed distance to a convex set is a convex function of the place, inside as outside, so a tangent plane never
//! lies above it. Every bound in this module's neighbours rests on that.

use nalgebra::{Isometry3, Point3};
use parry3d_f64::math::Vector as Real3;
use parry3d_f64::query::PointQuery;
use parry3d_f64::shape::Triangle;

use crate::Vector;

/// A convex room in mm.
#[derive(Debug, Clone, Copy)]
pub enum Convex {
    /// A ball.
    Ball {
        /// Its centre.
        centre: Point3<f64>,
        /// Its radius.
        radius: f64,
    },
    /// A bar with round ends.
    Bar {
        /// Where its core begins.
        from: Point3<f64>,
        /// From there to where its core ends.
        way: Vector,
        /// Its radius.
        radius: f64,
    },
    /// A cylinder with flat ends.
    Drum {
        /// Its middle.
        middle: Point3<f64>,
        /// Its axis, of length 1.
        axis: Vector,
        /// Half its length.
        half: f64,
        /// Its radius.
        radius: f64,
    },
    /// A box.
    Block {
        /// From the vehicle's axes to its own, its middle at zero.
        inward: Isometry3<f64>,
        /// Half its sides.
        half: Vector,
    },
    /// A triangle without thickness.
    Facet(Triangle),
}

impl Convex {
    /// Signed distance in mm from the room's surface to `at`, negative inside (never for a triangle), and a
    /// subgradient of it: of length 1, or 0 on a triangle.
    #[must_use]
    pub fn distance(&self, at: &Point3<f64>) -> (f64, Vector) {
        match self {
            Self::Ball { centre, radius } => off(at - centre, *radius),
            Self::Bar { from, way, radius } => {
                let along = (at - from).dot(way) / way.norm_squared().max(f64::MIN_POSITIVE);
                off(at - (from + way * along.clamp(0.0, 1.0)), *radius)
            }
            Self::Drum { middle, axis, half, radius } => {
                let from_middle = at - middle;
                let along = from_middle.dot(axis);
                let aside = from_middle - axis * along;
                let round = aside.norm();
                let outward = if round > 0.0 { aside / round } else { square_to(axis) };
                let (distance, [by_end, by_side]) = corner([along.abs() - half, round - radius]);
                (distance, axis * (by_end * along.signum()) + outward * by_side)
            }
            Self::Block { inward, half } => {
                let own = inward * at;
                let (distance, by) = corner::<3>([0, 1, 2].map(|i| own[i].abs() - half[i]));
                let slope = Vector::from_fn(|i, _| by[i] * own[i].signum());
                (distance, inward.rotation.inverse() * slope)
            }
            Self::Facet(triangle) => {
                let nearest = triangle.project_local_point(Real3::new(at.x, at.y, at.z), false).point;
                off(Vector::new(at.x - nearest.x, at.y - nearest.y, at.z - nearest.z), 0.0)
            }
        }
    }

    /// A ball that holds it: its centre and radius in mm.
    #[must_use]
    pub fn ball(&self) -> (Point3<f64>, f64) {
        match self {
            Self::Ball { centre, radius } => (*centre, *radius),
            Self::Bar { from, way, radius } => (from + way / 2.0, way.norm() / 2.0 + radius),
            Self::Drum { middle, half, radius, .. } => (*middle, half.hypot(*radius)),
            Self::Block { inward, half } => (inward.inverse() * Point3::origin(), half.norm()),
            Self::Facet(triangle) => {
                let corners = [triangle.a, triangle.b, triangle.c].map(|c| Point3::new(c.x, c.y, c.z));
                let middle = Point3::from((corners[0].coords + corners[1].coords + corners[2].coords) / 3.0);
                (middle, corners.iter().map(|corner| (corner - middle).norm()).fold(0.0, f64::max))
            }
        }
    }

    /// Its support function: the most that any place of it goes along `way`, in mm times its length.
    #[must_use]
    pub fn support(&self, way: &Vector) -> f64 {
        match self {
            Self::Ball { centre, radius } => way.dot(&centre.coords) + radius * way.norm(),
            Self::Bar { from, way: core, radius } => {
                way.dot(&from.coords) + way.dot(core).max(0.0) + radius * way.norm()
            }
            Self::Drum { middle, axis, half, radius } => {
                let along = way.dot(axis);
                let aside = (way - axis * along).norm();
                way.dot(&middle.coords) + half * along.abs() + radius * aside
            }
            Self::Block { inward, half } => {
                let middle = inward.inverse() * Point3::origin();
                let own = inward.rotation * way;
                way.dot(&middle.coords) + half.dot(&own.abs())
            }
            Self::Facet(triangle) => {
                let along = |corner: Real3| way.dot(&Vector::new(corner.x, corner.y, corner.z));
                along(triangle.a).max(along(triangle.b)).max(along(triangle.c))
            }
        }
    }

    /// The same room elsewhere.
    #[must_use]
    pub fn carried(&self, by: &Isometry3<f64>) -> Self {
        match *self {
            Self::Ball { centre, radius } => Self::Ball { centre: by * centre, radius },
            Self::Bar { from, way, radius } => Self::Bar { from: by * from, way: by * way, radius },
            Self::Drum { middle, axis, half, radius } => {
                Self::Drum { middle: by * middle, axis: by * axis, half, radius }
            }
            Self::Block { inward, half } => Self::Block { inward: inward * by.inverse(), half },
            Self::Facet(triangle) => Self::Facet(Triangle::from([triangle.a, triangle.b, triangle.c].map(|corner| {
                let there = by * Point3::new(corner.x, corner.y, corner.z);
                Real3::new(there.x, there.y, there.z)
            }))),
        }
    }
}

fn off(from: Vector, radius: f64) -> (f64, Vector) {
    let far = from.norm();
    let slope = if far > 0.0 { from / far } else { Vector::zeros() };
    (far - radius, slope)
}

/// Signed distance to a corner whose faces are `over` mm behind, and its slope along each.
fn corner<const N: usize>(over: [f64; N]) -> (f64, [f64; N]) {
    let outside = over.map(|o| o.max(0.0));
    let far = outside.iter().map(|o| o * o).sum::<f64>().sqrt();
    if far > 0.0 {
        return (far, outside.map(|o| o / far));
    }
    let deepest = over.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    let mut taken = false;
    // One face only, even where two are as near.
    let slope = over.map(|o| {
        let this = !taken && o >= deepest;
        taken |= this;
        f64::from(u8::from(this))
    });
    (deepest, slope)
}

fn square_to(axis: &Vector) -> Vector {
    let least = axis.iamin();
    Vector::ith(least, 1.0).cross(axis).normalize()
}
