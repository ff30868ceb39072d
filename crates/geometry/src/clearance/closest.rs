//! The two places at which two things come nearest to each other as they stand.

use std::sync::Arc;

use nalgebra::{Isometry3, Point3};
use parry3d_f64::math::{Pose, Rotation, Vector as Real3};
use parry3d_f64::query::{ClosestPoints, closest_points, contact, distance};
use parry3d_f64::shape::{Ball, Capsule, Cuboid, Cylinder, Shape, Triangle};

use super::part::{Part, Solid};
use super::{Convex, Obstacle};
use crate::{Mesh, Vector};

/// Two things at their nearest.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Closest {
    /// The distance in mm, at most [`super::TOLERANCE`] above the truth; below zero, how deep they stand in each other.
    pub gap: f64,
    /// The place on the first and that on the second.
    pub at: [Point3<f64>; 2],
}

impl Obstacle {
    /// Where this and `other` come nearest to each other, both as they stand; `None` where one of them takes no room,
    /// or both are surfaces of triangles.
    #[must_use]
    pub fn closest(&self, other: &Self) -> Option<Closest> {
        let mut pairs: Vec<(f64, &Part, &Part)> = Vec::with_capacity(self.parts().len() * other.parts().len());
        for one in self.parts() {
            let ball = one.at_rest();
            pairs.extend(other.parts().iter().map(|two| {
                let (at, radius) = two.at_rest();
                ((at - ball.0).norm() - ball.1 - radius, one, two)
            }));
        }
        pairs.sort_unstable_by(|p, q| p.0.total_cmp(&q.0));
        let mut best: Option<Closest> = None;
        for (least, one, two) in pairs {
            if best.is_some_and(|best| best.gap <= least) {
                break;
            }
            if let Some(found) = between(one, two)
                && best.is_none_or(|best| found.gap < best.gap)
            {
                best = Some(found);
            }
        }
        best
    }
}

/// A room as the geometry library has it.
enum Body {
    Ball(Ball),
    Capsule(Capsule),
    Cylinder(Cylinder),
    Cuboid(Cuboid),
    Triangle(Triangle),
}

impl Body {
    fn of(room: &Convex) -> (Pose, Self) {
        let still = Pose::IDENTITY;
        match room {
            Convex::Ball { centre, radius } => {
                (Pose::from_parts(real(centre), Rotation::IDENTITY), Self::Ball(Ball::new(*radius)))
            }
            Convex::Bar { from, way, radius } => {
                (still, Self::Capsule(Capsule::new(real(from), real(&(from + way)), *radius)))
            }
            Convex::Drum { middle, axis, half, radius } => {
                let turn = Rotation::from_rotation_arc(Real3::Y, Real3::new(axis.x, axis.y, axis.z));
                (Pose::from_parts(real(middle), turn), Self::Cylinder(Cylinder::new(*half, *radius)))
            }
            Convex::Block { inward, half } => {
                (posed(&inward.inverse()), Self::Cuboid(Cuboid::new(Real3::new(half.x, half.y, half.z))))
            }
            Convex::Facet(triangle) => (still, Self::Triangle(*triangle)),
        }
    }

    fn shape(&self) -> &dyn Shape {
        match self {
            Self::Ball(shape) => shape,
            Self::Capsule(shape) => shape,
            Self::Cylinder(shape) => shape,
            Self::Cuboid(shape) => shape,
            Self::Triangle(shape) => shape,
        }
    }
}

/// The same with each part carried as a rigid body.
pub(super) fn between_at(one: &Part, first: &Isometry3<f64>, two: &Part, second: &Isometry3<f64>) -> Option<Closest> {
    let carried = |part: &Part, by: &Isometry3<f64>| match &part.solid {
        Solid::Convex(room) => Solid::Convex(room.carried(by)),
        Solid::Mesh(mesh, pose) => Solid::Mesh(Arc::clone(mesh), by * pose),
    };
    between_solids(&carried(one, first), &carried(two, second))
}

pub(super) fn between(one: &Part, two: &Part) -> Option<Closest> {
    between_solids(&one.solid, &two.solid)
}

fn between_solids(one: &Solid, two: &Solid) -> Option<Closest> {
    match (one, two) {
        (Solid::Convex(p), Solid::Convex(q)) => between_rooms(p, q),
        (Solid::Convex(room), Solid::Mesh(mesh, pose)) => to_mesh(room, mesh, pose),
        (Solid::Mesh(mesh, pose), Solid::Convex(room)) => {
            to_mesh(room, mesh, pose).map(|found| Closest { at: [found.at[1], found.at[0]], ..found })
        }
        // Two surfaces of a million triangles each would be asked a million times a million.
        (Solid::Mesh(..), Solid::Mesh(..)) => None,
    }
}

fn between_rooms(one: &Convex, two: &Convex) -> Option<Closest> {
    let ((at_one, body_one), (at_two, body_two)) = (Body::of(one), Body::of(two));
    match closest_points(&at_one, body_one.shape(), &at_two, body_two.shape(), f64::MAX).ok()? {
        ClosestPoints::WithinMargin(p, q) => Some(polished(one, two, [point(p), point(q)])),
        ClosestPoints::Intersecting => {
            let deep = contact(&at_one, body_one.shape(), &at_two, body_two.shape(), 0.0).ok()??;
            Some(Closest { gap: deep.dist.min(0.0), at: [point(deep.point1), point(deep.point2)] })
        }
        ClosestPoints::Disjoint => None,
    }
}

/// From a room to the triangle nearest to it.
fn to_mesh(room: &Convex, mesh: &Mesh, pose: &Isometry3<f64>) -> Option<Closest> {
    let own = room.carried(&pose.inverse());
    let (index, _) = match &own {
        Convex::Bar { from, way, .. } if way.norm() > 1e-9 => {
            mesh.nearest_to_segment(real(from), real(&(from + way)))?
        }
        _ => {
            let (at, body) = Body::of(&own);
            // No place of a box is further from its middle than a corner, and a distance grows no faster than one goes.
            let least =
                |low: Real3, high: Real3, _| own.distance(&point((low + high) * 0.5)).0 - (high - low).length() * 0.5;
            let exact = |triangle: &Triangle| {
                distance(&at, body.shape(), &Pose::IDENTITY, triangle).map_or(f64::INFINITY, |far| far.distance)
            };
            mesh.nearest_triangle(least, exact)?
        }
    };
    let found = between_rooms(&own, &Convex::Facet(mesh.triangle(index)))?;
    Some(Closest { at: found.at.map(|at| pose * at), ..found })
}

/// Steps of polishing at most; each halves what is left and more.
const STEPS: usize = 30;
/// Polishing ends when it gains less than this, in mm.
const FINE: f64 = 1e-7;

/// The search stops a little short of the nearest places: from there each place is dropped onto the other room in turn.
fn polished(one: &Convex, two: &Convex, mut at: [Point3<f64>; 2]) -> Closest {
    let gap = |at: &[Point3<f64>; 2]| (at[1] - at[0]).norm();
    for _ in 0..STEPS {
        let first = dropped(one, at[1]).unwrap_or(at[0]);
        let next = [first, dropped(two, first).unwrap_or(at[1])];
        if gap(&next) >= gap(&at) - FINE {
            break;
        }
        at = next;
    }
    Closest { gap: gap(&at), at }
}

/// The place of a room that is nearest to one outside it; `None` where it has none such.
fn dropped(room: &Convex, from: Point3<f64>) -> Option<Point3<f64>> {
    let (distance, away) = room.distance(&from);
    let unit = (away.norm_squared() - 1.0).abs() < 1e-6;
    (distance > 0.0 && unit).then(|| from - away * distance)
}

fn posed(pose: &Isometry3<f64>) -> Pose {
    let turn = pose.rotation.quaternion().coords;
    let at = pose.translation.vector;
    Pose::from_parts(Real3::new(at.x, at.y, at.z), Rotation::from_xyzw(turn.x, turn.y, turn.z, turn.w))
}

fn real(at: &Point3<f64>) -> Real3 {
    Real3::new(at.x, at.y, at.z)
}

fn point(at: Real3) -> Point3<f64> {
    Point3::from(Vector::new(at.x, at.y, at.z))
}
