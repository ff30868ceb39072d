//! Shaping a way by hand: one thing is given a value or dragged, both ends stay on their ports, what is locked stays
//! as it is, and the rest follows by the smallest change.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use super::route_geometry::{RouteEnds, free_of};
use super::solver::{CLOSE, RouteSolver};
use super::{LayError, LegDirection, Route};
use crate::geometry::{Point, Triple};
use crate::measure::End;
use crate::route::ResolvedRun;
use crate::units::{BendAngle, Rotation, Straight};

/// One thing of a way and what it shall be. Straights, legs and bends are counted from 0 at A.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "figure", rename_all = "snake_case", deny_unknown_fields)]
pub enum Target {
    /// Length of a straight of tube, from tube end or tangent point to tangent point or tube end, in mm.
    Straight {
        /// Which straight.
        straight: usize,
        /// Its length in mm.
        length: Straight,
    },
    /// Angle of a bend in degrees.
    Angle {
        /// Which bend.
        bend: usize,
        /// Its angle in degrees.
        angle: BendAngle,
    },
    /// Turn of a bend's plane from the one before, in degrees.
    Rotation {
        /// Which bend.
        bend: usize,
        /// Its rotation in degrees.
        rotation: Rotation,
    },
    /// A bend's vertex is dragged to a place; it goes as near as it can.
    Vertex {
        /// Which bend.
        bend: usize,
        /// Where to.
        at: Point,
    },
    /// A leg between two bends is dragged aside; it goes as far as it can.
    Leg {
        /// Which leg: 1 is the one after the first bend.
        leg: usize,
        /// How far, in mm.
        #[schema(value_type = Triple)]
        by: [f64; 3],
    },
    /// A leg between two bends runs a certain way.
    LegWay {
        /// Which leg.
        leg: usize,
        /// Which way.
        way: LegDirection,
    },
}

/// What angles a dragged way snaps to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Snap {
    /// Whole degrees.
    Degrees,
    /// Angles that whole elbows are sold in, where one is near.
    Elbows,
    /// Legs that are nearly level or plumb are brought to it.
    True,
}

/// What held a drag back.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
#[serde(tag = "by", rename_all = "snake_case")]
pub enum HeldBy {
    /// A lock.
    Lock {
        /// Which, as it is counted on the way.
        lock: usize,
    },
    /// A straight at its least.
    Straight {
        /// Which.
        straight: usize,
        /// The least in mm.
        least: f64,
    },
    /// A bend at the most it can turn.
    Angle {
        /// Which.
        bend: usize,
    },
    /// The port's axis: the first and the last vertex stay on it.
    Axis {
        /// Whose.
        end: End,
    },
}

/// Why a figure cannot have that value.
#[derive(Debug, Clone, Copy, PartialEq, Error, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum ReshapeError {
    /// The way has no such straight, leg or bend.
    #[error("there is no such straight or bend in this way")]
    NoSuchFigure,
    /// No bend, or one: everything follows from the ports and the radius.
    #[error(
        "this way has no freedom: with fewer than two bends every length and angle follows from the ports and the radius. Change the radius, move a port, or take a way with two bends"
    )]
    NoFreedom,
    /// As it is, the way does not join the ports.
    #[error("{0}; mend that first")]
    NotLaid(LayError),
    /// With both ends on their ports the figure cannot have this value.
    #[error("with both ends kept on their ports{} this cannot be reached; the nearest found is {nearest:.1}", if *.locked { " and the locks kept" } else { "" })]
    OutOfReach {
        /// The nearest value found, in mm or degrees.
        nearest: f64,
        /// Whether the way has locks.
        locked: bool,
    },
}

/// A way that was shaped by hand, and what held it back.
#[derive(Debug, Clone, PartialEq)]
pub struct Shaped {
    /// The way.
    pub way: Route,
    /// What held it, where it did not get all the way.
    pub held: Option<HeldBy>,
}

/// A drag that stops this far short, in mm, was held back.
const SHORT: f64 = 0.5;

/// The course of `way` changed as little as can be so that the `target` and the locks hold.
///
/// # Errors
/// [`ReshapeError`] as its variants say; the way given is not changed.
pub fn reshape(run: &ResolvedRun, way: &Route, target: Target) -> Result<Route, ReshapeError> {
    let mut shaper = RouteSolver::new(run, way, target)?;
    // What was typed is done: where it leaves too little straight, a finding says so.
    shaper.least.fill(f64::NEG_INFINITY);
    let exact = shaper.wanted(target);
    let (found, off) = shaper.solve(target, &exact);
    if exact.is_empty() || off < CLOSE {
        return shaper.way_of(&found.free).ok_or_else(|| shaper.out_of_reach(target, &found.free));
    }
    Err(shaper.out_of_reach(target, &found.free))
}

/// Drags: as [`reshape`], but where the value cannot be reached goes as far towards it as it can and says what held it.
///
/// # Errors
/// [`ReshapeError`] when the way has no such figure, no freedom, or does not join its ports.
pub fn drag(run: &ResolvedRun, way: &Route, target: Target, snap: Option<Snap>) -> Result<Shaped, ReshapeError> {
    let shaper = RouteSolver::new(run, way, target)?;
    let exact = shaper.wanted(target);
    let (mut found, off) = shaper.solve(target, &exact);
    let mut held = found.held;
    if !exact.is_empty() && off >= CLOSE {
        // As far as it goes: halve the way towards the value.
        let (mut near, mut far) = (0.0, 1.0);
        let mut best = shaper.start.clone();
        for _ in 0..14 {
            let share = f64::midpoint(near, far);
            let part = shaper.part(&exact, share);
            let (tried, off) = shaper.solve(target, &part);
            if off < CLOSE {
                (near, best, held) = (share, tried.free, tried.held.or(held));
            } else {
                (far, held) = (share, tried.held.or(held));
            }
        }
        found.free = best;
    }
    if let Some(snapped) = snap.and_then(|snap| shaper.snapped(&found.free, snap)) {
        found.free = snapped;
    }
    let far = shaper.short_of(target, &found.free);
    let way = shaper.way_of(&found.free).ok_or_else(|| shaper.out_of_reach(target, &found.free))?;
    Ok(Shaped { way, held: held.filter(|_| far > SHORT) })
}

/// The way with its locks holding again, by the smallest change.
///
/// # Errors
/// [`ReshapeError`] when that cannot be.
pub fn hold_locks(run: &ResolvedRun, way: &Route) -> Result<Route, ReshapeError> {
    let free = free_of(way).ok_or(ReshapeError::NoFreedom)?;
    let first = RouteEnds::of_way(run, way).vertices(&free).first().and_then(|v| Point::new(v.x, v.y, v.z).ok());
    let at = first.ok_or(ReshapeError::NoFreedom)?;
    reshape(run, way, Target::Vertex { bend: 0, at })
}
