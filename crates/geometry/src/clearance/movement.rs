//! What moves against what.

use nalgebra::Point3;

use super::{Floating, Turning};

/// How one thing moves as seen from another: a turn about an axis by anything between two angles, and beside it a shift any
/// way.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Movement {
    /// Its turn; 0 is among its turns. For the engine, its roll.
    pub roll: Turning,
    /// Its shift, any way, in mm.
    pub shift: f64,
    /// How much the engine is rolled for each radian of the turn: 1 for the engine itself.
    pub roll_per_turn: f64,
}

impl Movement {
    /// The engine's own movement: its roll, and a shift any way in mm.
    #[must_use]
    pub const fn of_engine(roll: Turning, shift: f64) -> Self {
        Self { roll, shift, roll_per_turn: 1.0 }
    }

    /// How what rides on `mover` moves as seen from what rides on `seen_from`, where this is how the engine moves; `None`
    /// where they move together. What hangs between may take any share of the roll, so that two such differ by as much
    /// either way. What floats brings its own movement; two that float may each be wherever theirs takes them.
    #[must_use]
    pub fn against(&self, mover: Rides, seen_from: Rides) -> Option<Self> {
        let roll = match (mover, seen_from) {
            (Rides::Body, Rides::Body) | (Rides::Engine, Rides::Engine) => return None,
            (Rides::Floats(one), Rides::Floats(other)) => return (one != other).then(|| one.against(&other)),
            (Rides::Floats(one), Rides::Body) => return Some(one.from_body),
            (Rides::Floats(one), Rides::Engine) => return Some(one.from_engine),
            (Rides::Body, Rides::Floats(other)) => return Some(other.from_body.reversed()),
            (Rides::Engine, Rides::Floats(other)) => return Some(other.from_engine.reversed()),
            (Rides::Between, Rides::Floats(other)) => {
                return Some(Self { shift: self.shift + other.reach[0], ..*self });
            }
            (Rides::Floats(one), Rides::Between) => {
                return Some(Self { shift: self.shift + one.reach[0], ..self.reversed() });
            }
            (Rides::Engine, _) | (Rides::Between, Rides::Body) => self.roll,
            (Rides::Body, _) | (Rides::Between, Rides::Engine) => self.roll.reversed(),
            (Rides::Between, Rides::Between) => {
                let most = self.roll.from.abs().max(self.roll.to.abs());
                Turning { from: -most, to: most, ..self.roll }
            }
        };
        Some(Self { roll, ..*self })
    }

    /// How what it is seen from moves as seen from what moves.
    #[must_use]
    pub fn reversed(self) -> Self {
        Self { roll: self.roll.reversed(), roll_per_turn: -self.roll_per_turn, ..self }
    }

    /// How far in mm it takes any place of a ball, at most.
    #[must_use]
    pub fn travel(&self, (at, radius): &(Point3<f64>, f64)) -> f64 {
        let arm = self.roll.axis.cross(&(at - self.roll.pivot)).norm() + radius;
        arm * self.roll.to.abs().max(self.roll.from.abs()) + self.shift
    }
}

/// What a part of a pipe, or a thing, moves with.
#[derive(Debug, Clone, Copy, PartialEq)]
#[expect(
    clippy::large_enum_variant,
    reason = "it is copied with the few parts of a pipe it belongs to, and no list is long"
)]
pub enum Rides {
    /// The body.
    Body,
    /// The engine.
    Engine,
    /// Neither, and how is not worked out: it hangs between two joints that give and may take any share of the engine's
    /// movement.
    Between,
    /// Neither: it hangs between two joints that give, and moves like this.
    Floats(Floating),
}

impl Rides {
    /// Whether this moves against what rides on `other`. Two things that hang between move against each other, since each
    /// may take a share of its own: any two shares differ by at most the whole movement, either way.
    #[must_use]
    pub fn moves_against(self, other: Self) -> bool {
        self != other || self == Self::Between
    }
}
