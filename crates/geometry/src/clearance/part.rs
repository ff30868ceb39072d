//! Parts of what is in the way: the room each takes, and how it moves.

use std::sync::Arc;

use nalgebra::{Isometry3, Point3};

use super::{Convex, Rides, Turning};
use crate::{Mesh, Vector};

/// A room a thing takes.
#[derive(Debug, Clone)]
pub enum Solid {
    /// A convex room.
    Convex(Convex),
    /// A surface of triangles that stands in the vehicle as the pose says. It has no inside.
    Mesh(Arc<Mesh>, Isometry3<f64>),
}

/// A part of an obstacle, what it rides on and, where it opens or sweeps, how it turns.
#[derive(Debug, Clone)]
pub struct Part {
    pub(super) solid: Solid,
    pub(super) swing: Option<Turning>,
    pub(super) rides: Rides,
    /// Which that is of those its obstacle's parts ride on.
    pub(super) rides_on: usize,
    /// A ball that holds it however it swings.
    pub(super) ball: (Point3<f64>, f64),
    /// A box that holds it as it stands, where it has no convex room of its own.
    pub(super) hull: Option<Convex>,
}

impl Part {
    /// A part that takes `solid` as it stands, turns about a hinge as `swing` says and moves with `rides`.
    #[must_use]
    pub fn new(solid: Solid, swing: Option<Turning>, rides: Rides) -> Self {
        let hull = match &solid {
            Solid::Convex(_) => None,
            Solid::Mesh(mesh, pose) => Some(block(mesh.bounds()).carried(pose)),
        };
        let (at, radius) = ball_of(&solid, hull.as_ref());
        let ball = swing.as_ref().map_or((at, radius), |swing| {
            let axis = swing.axis.into_inner();
            let on_axis = swing.pivot + axis * axis.dot(&(at - swing.pivot));
            (on_axis, (at - on_axis).norm() + radius)
        });
        Self { solid, swing, rides, rides_on: 0, ball, hull }
    }

    /// A ball that holds it as it stands.
    pub(super) fn at_rest(&self) -> (Point3<f64>, f64) {
        ball_of(&self.solid, self.hull.as_ref())
    }
}

fn ball_of(solid: &Solid, hull: Option<&Convex>) -> (Point3<f64>, f64) {
    match (solid, hull) {
        (Solid::Convex(room), _) | (_, Some(room)) => room.ball(),
        (Solid::Mesh(_, pose), None) => (pose * Point3::origin(), Mesh::FARTHEST),
    }
}

fn block([low, high]: [[f64; 3]; 2]) -> Convex {
    let (low, high) = (Vector::from(low), Vector::from(high));
    let middle = (low + high) / 2.0;
    Convex::Block { inward: Isometry3::translation(-middle.x, -middle.y, -middle.z), half: (high - low) / 2.0 }
}
