//! What moves against what.

use serde::Serialize;

use super::Turning;
use crate::measure::Side;

/// How the engine moves against the body.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Movement {
    /// Its roll, as much one way as the other.
    pub roll: Turning,
    /// Its shift, any way, in mm.
    pub shift: f64,
}

/// What a part of a pipe, or a thing, moves with.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize)]
pub enum Rides {
    /// The body.
    Body,
    /// The engine.
    Engine,
    /// Neither: it hangs between two joints that give and may take any share of the engine's movement.
    Between,
}

impl Rides {
    /// Whether this moves against what rides on `other`. Two things that hang between move against each other, since each
    /// may take a share of its own: any two shares differ by at most the whole movement, either way.
    #[must_use]
    pub fn moves_against(self, other: Self) -> bool {
        self != other || self == Self::Between
    }
}

impl From<Side> for Rides {
    fn from(side: Side) -> Self {
        match side {
            Side::Body => Self::Body,
            Side::Engine => Self::Engine,
        }
    }
}
