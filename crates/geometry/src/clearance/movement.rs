//! What moves against what.

use serde::Serialize;

use super::Turning;

/// How the engine moves against the body.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Movement {
    /// Its roll; 0 is among its turns.
    pub roll: Turning,
    /// Its shift, any way, in mm.
    pub shift: f64,
}

impl Movement {
    /// How what rides on `mover` moves as seen from what rides on `seen_from`; `None` where they move together. What
    /// hangs between may take any share of the roll, so that two such differ by as much either way.
    #[must_use]
    pub fn against(&self, mover: Rides, seen_from: Rides) -> Option<Self> {
        let roll = match (mover, seen_from) {
            (Rides::Body, Rides::Body) | (Rides::Engine, Rides::Engine) => return None,
            (Rides::Engine, _) | (Rides::Between, Rides::Body) => self.roll,
            (Rides::Body, _) | (Rides::Between, Rides::Engine) => self.roll.reversed(),
            (Rides::Between, Rides::Between) => {
                let most = self.roll.from.abs().max(self.roll.to.abs());
                Turning { from: -most, to: most, ..self.roll }
            }
        };
        Some(Self { roll, ..*self })
    }
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
