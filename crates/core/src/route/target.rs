//! What a way is shaped to by hand, and what may hold it.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use super::{BendId, LayError, LegDirection, LegId, Lock};
use crate::measure::End;
use nook_geometry::units::{BendAngle, Rotation, Straight};
use nook_geometry::{Point, Triple};

/// One thing of a way and what it shall be.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "figure", rename_all = "snake_case", deny_unknown_fields)]
pub enum Target {
    /// Length of a straight of tube, from tube end or tangent point to tangent point or tube end, in mm.
    Straight {
        /// Which straight.
        straight: LegId,
        /// Its length in mm.
        length: Straight,
    },
    /// Angle of a bend in degrees.
    Angle {
        /// Which bend.
        bend: BendId,
        /// Its angle in degrees.
        angle: BendAngle,
    },
    /// Turn of a bend's plane from the one before, in degrees.
    Rotation {
        /// Which bend.
        bend: BendId,
        /// Its rotation in degrees.
        rotation: Rotation,
    },
    /// A bend's vertex is dragged to a place; it goes as near as it can.
    Vertex {
        /// Which bend.
        bend: BendId,
        /// Where to.
        at: Point,
    },
    /// A leg between two bends is dragged aside; it goes as far as it can.
    Leg {
        /// Which leg.
        leg: LegId,
        /// How far, in mm.
        #[schema(value_type = Triple)]
        by: [f64; 3],
    },
    /// A leg between two bends runs a certain way.
    LegWay {
        /// Which leg.
        leg: LegId,
        /// Which way.
        way: LegDirection,
    },
}

/// Whether a figure must have the value asked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Reach {
    /// It must: what was typed is done, or refused. Where that leaves too little straight, a finding says so.
    #[default]
    Exactly,
    /// It goes as far towards it as straights and locks allow: what was dragged.
    AsFarAsItGoes,
}

impl Reach {
    /// Whether it must get there.
    #[must_use]
    pub const fn is_exact(&self) -> bool {
        matches!(self, Self::Exactly)
    }
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
        /// Which.
        lock: Lock,
    },
    /// A straight at its least.
    Straight {
        /// Which.
        straight: LegId,
        /// The least in mm.
        least: f64,
    },
    /// A bend at the most it can turn.
    Angle {
        /// Which.
        bend: BendId,
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
