//! Something in the way, with how it moves, and how near a stretch of pipe comes to it.

use std::sync::Arc;

use nalgebra::{Isometry3, Point3};
use parry3d_f64::shape::Triangle;
use serde::Serialize;
use smallvec::SmallVec;
use utoipa::ToSchema;

use super::least::{Cell, Near, at_least, least};
use super::{Convex, Stretch, Turning};
use crate::geometry::{Mesh, Vector};
use crate::measure::{KeepOutId, RunId, Side};
use crate::units::Name;

/// What a pipe may come too near to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, ToSchema)]
#[serde(tag = "is", rename_all = "snake_case")]
pub enum Thing {
    /// A keep-out.
    KeepOut {
        /// Which.
        keep_out: KeepOutId,
    },
    /// Another pipe of the job.
    Run {
        /// Which.
        run: RunId,
    },
}

/// A room a thing takes.
#[derive(Debug, Clone)]
pub enum Solid {
    /// A convex room.
    Convex(Convex),
    /// A surface of triangles that stands in the vehicle as the pose says. It has no inside.
    Mesh(Arc<Mesh>, Isometry3<f64>),
}

/// A part of an obstacle and, where it opens or sweeps, how it turns.
#[derive(Debug, Clone)]
pub struct Part {
    /// Its room as it stands.
    pub solid: Solid,
    /// How it turns about its hinge.
    pub swing: Option<Turning>,
}

/// Something in the way.
#[derive(Debug, Clone)]
pub struct Obstacle {
    /// What it is.
    pub thing: Thing,
    /// What it is called.
    pub name: Name,
    /// The gap it asks for, in mm.
    pub gap: f64,
    /// What it rides on.
    pub rides: Side,
    /// The rooms it takes; their union is kept out.
    pub parts: Vec<Part>,
    /// A room that holds all the parts as they stand, where there are so many that it pays to ask it first.
    pub hull: Option<Convex>,
}

/// How the engine moves against the body.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Movement {
    /// Its roll, as much one way as the other.
    pub roll: Turning,
    /// Its shift, any way, in mm.
    pub shift: f64,
}

/// Where a stretch of pipe comes nearest to something.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Nearest {
    /// The gap in mm between the pipe's skin and the thing, at most [`super::TOLERANCE`] above the truth; negative
    /// where they overlap.
    pub gap: f64,
    /// Station from A's mouth in mm.
    pub station: f64,
    /// The place on the centre line as it is at rest.
    pub at: Point3<f64>,
    /// The engine's roll it was found at, in radians.
    pub roll: f64,
    /// The way from the thing towards the pipe's centre line at rest; zero where it has none.
    pub away: Vector,
}

type Turns = SmallVec<[Turning; 2]>;

impl Obstacle {
    /// The least gap in mm between the skin of `stretch`, from `from` to `to` mm along it, and this obstacle, over all
    /// their movement; `None` where it is not below `beyond`.
    #[must_use]
    pub fn gap_to(
        &self,
        stretch: &Stretch,
        [from, to]: [f64; 2],
        movement: Option<&Movement>,
        beyond: f64,
    ) -> Option<Nearest> {
        let moving = movement.filter(|_| stretch.rides != self.rides);
        let skin = stretch.radius + moving.map_or(0.0, |m| m.shift);
        let mut ceiling = beyond + skin;
        let roll: Turns = moving.iter().map(|m| m.roll).filter(|roll| roll.to > roll.from).collect();
        let ends = [from, to];
        if let Some(hull) = &self.hull {
            let cell = Cell::whole(from, to, &roll);
            if at_least(hull, &stretch.span, &roll, cell, ceiling, 6) >= ceiling {
                return None;
            }
        }
        let mut best: Option<Near> = None;
        for part in &self.parts {
            let turns: Turns = roll.iter().copied().chain(part.swing.map(Turning::reversed)).collect();
            let near = match &part.solid {
                Solid::Convex(room) => least(room, &stretch.span, &turns, Cell::whole(from, to, &turns), ceiling),
                Solid::Mesh(mesh, pose) => nearest_of_mesh(mesh, pose, stretch, ends, &turns, ceiling),
            };
            if let Some(near) = near.filter(|near| near.distance < ceiling) {
                ceiling = near.distance;
                best = Some(near);
            }
        }
        best.map(|near| Nearest {
            gap: near.distance - skin,
            station: stretch.station(near.s),
            at: stretch.span.at(near.s).0,
            roll: if roll.is_empty() { 0.0 } else { near.turns[0] },
            away: self.away_from(&stretch.span.at(near.s).0),
        })
    }

    /// Whether `stretch`, from `from` to `to` mm along it, certainly keeps `beyond` mm from this; quick, and `false`
    /// where it cannot tell.
    #[must_use]
    pub fn out_of_reach(
        &self,
        stretch: &Stretch,
        [from, to]: [f64; 2],
        movement: Option<&Movement>,
        beyond: f64,
    ) -> bool {
        let moving = movement.filter(|_| stretch.rides != self.rides);
        let ceiling = beyond + stretch.radius + moving.map_or(0.0, |m| m.shift);
        let roll: Turns = moving.iter().map(|m| m.roll).filter(|roll| roll.to > roll.from).collect();
        let far = |room: &Convex, turns: &[Turning]| {
            at_least(room, &stretch.span, turns, Cell::whole(from, to, turns), ceiling, LOOKS) >= ceiling
        };
        if self.hull.as_ref().is_some_and(|hull| far(hull, &roll)) {
            return true;
        }
        self.parts.iter().all(|part| match &part.solid {
            Solid::Convex(room) => {
                let turns: Turns = roll.iter().copied().chain(part.swing.map(Turning::reversed)).collect();
                far(room, &turns)
            }
            Solid::Mesh(..) => false,
        })
    }

    /// The direction in which the distance to this grows, from a place.
    fn away_from(&self, at: &Point3<f64>) -> Vector {
        let each = self.parts.iter().map(|part| match &part.solid {
            Solid::Convex(room) => room.distance(at),
            Solid::Mesh(mesh, pose) => {
                let way = pose * (mesh.away_from(&(pose.inverse() * at)));
                (way.norm(), way.try_normalize(1e-12).unwrap_or_else(Vector::zeros))
            }
        });
        each.min_by(|p, q| p.0.total_cmp(&q.0)).map_or_else(Vector::zeros, |nearest| nearest.1)
    }
}

/// Looks spent on a box of the mesh's tree before its triangles are asked: more cost more than they rule out.
const LOOKS: u32 = 3;

fn nearest_of_mesh(
    mesh: &Mesh,
    pose: &Isometry3<f64>,
    stretch: &Stretch,
    [from, to]: [f64; 2],
    turns: &[Turning],
    ceiling: f64,
) -> Option<Near> {
    let home = pose.inverse();
    let span = stretch.span.carried(&home);
    let turns: Turns = turns.iter().map(|turn| turn.carried(&home)).collect();
    let cell = Cell::whole(from, to, &turns);
    let boxed = |low: [f64; 3], high: [f64; 3], best: f64| {
        let (low, high) = (Vector::from(low), Vector::from(high));
        let middle = Point3::from((low + high) / 2.0);
        let room =
            Convex::Block { inward: Isometry3::translation(-middle.x, -middle.y, -middle.z), half: (high - low) / 2.0 };
        at_least(&room, &span, &turns, cell, best, LOOKS)
    };
    let facet = |triangle: Triangle, best: f64| least(&Convex::Facet(triangle), &span, &turns, cell, best);
    mesh.nearest(ceiling, boxed, facet)
}
