//! Directions in the vehicle.

use nalgebra::Unit;
use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use super::{Triple, Vector};

/// A direction: a unit vector in vehicle axes. It is written as its components, and read from components of any
/// length or from an angle gauge.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "Said", into = "[f64; 3]")]
#[schema(value_type = Said)]
pub struct Direction(Unit<Vector>);

/// A direction as it may be said.
#[derive(Deserialize, ToSchema)]
#[serde(untagged)]
#[schema(as = SaidDirection)]
enum Said {
    /// Forward, left and up.
    Components(Triple),
    /// From an angle gauge.
    Gauge {
        /// Degrees from forward, positive to the left.
        heading: f64,
        /// Degrees above level.
        pitch: f64,
    },
}

/// The numbers point nowhere.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error, Serialize)]
#[error("a direction needs three finite numbers that are not all zero")]
pub struct NoDirection;

/// Shorter vectors have lost their direction to rounding.
const SHORTEST: f64 = 1e-9;

impl Direction {
    /// The direction of a vector of any length.
    ///
    /// # Errors
    /// [`NoDirection`] when a component is not finite or every one is smaller than 1e-9.
    pub fn new(x: f64, y: f64, z: f64) -> Result<Self, NoDirection> {
        Self::of(Vector::new(x, y, z))
    }

    /// The direction of `vector`.
    ///
    /// # Errors
    /// As [`Direction::new`].
    pub fn of(vector: Vector) -> Result<Self, NoDirection> {
        if !vector.iter().all(|c| c.is_finite()) {
            return Err(NoDirection);
        }
        // A vector that is a unit already is kept to the bit, so that a saved job reads back the same.
        if (vector.norm_squared() - 1.0).abs() < 1e-15 {
            return Ok(Self(Unit::new_unchecked(vector)));
        }
        // Scaled first: the square of 1e155 is more than a number holds.
        let largest = vector.amax();
        if largest < SHORTEST {
            return Err(NoDirection);
        }
        Unit::try_new(vector / largest, SHORTEST).map(Self).ok_or(NoDirection)
    }

    /// From an angle gauge: `heading` degrees from forward, positive to the left, and `pitch` degrees above
    /// level.
    ///
    /// # Errors
    /// [`NoDirection`] when an angle is not finite.
    pub fn from_gauge(heading: f64, pitch: f64) -> Result<Self, NoDirection> {
        let (heading, pitch) = (heading.to_radians(), pitch.to_radians());
        Self::new(pitch.cos() * heading.cos(), pitch.cos() * heading.sin(), pitch.sin())
    }

    /// Heading in degrees, -180 to 180; 0 where the direction is plumb and has none.
    #[must_use]
    pub fn heading(self) -> f64 {
        if self.0.x.hypot(self.0.y) < SHORTEST { 0.0 } else { self.0.y.atan2(self.0.x).to_degrees() }
    }

    /// Pitch above level in degrees, -90 to 90.
    #[must_use]
    pub fn pitch(self) -> f64 {
        self.0.z.atan2(self.0.x.hypot(self.0.y)).to_degrees()
    }

    /// The unit vector.
    #[must_use]
    pub fn vector(self) -> Vector {
        self.0.into_inner()
    }

    /// As nalgebra has it.
    pub fn unit(self) -> Unit<Vector> {
        self.0
    }

    /// Its image in the vehicle's middle plane.
    #[must_use]
    pub fn mirrored(self) -> Self {
        let way = self.0.into_inner();
        Self(Unit::new_unchecked(Vector::new(way.x, 0.0 - way.y, way.z)))
    }

    /// The opposite direction.
    #[must_use]
    pub fn reversed(self) -> Self {
        Self(-self.0)
    }

    /// Angle to `other` in radians, 0 to pi.
    #[must_use]
    pub fn angle(self, other: Self) -> f64 {
        // atan2 stays exact near 0 and pi, where the arc cosine does not.
        self.0.cross(&other.0).norm().atan2(self.0.dot(&other.0))
    }

    /// The components.
    #[must_use]
    pub fn to_array(self) -> [f64; 3] {
        self.vector().into()
    }
}

impl TryFrom<Said> for Direction {
    type Error = NoDirection;
    fn try_from(said: Said) -> Result<Self, NoDirection> {
        match said {
            Said::Components(Triple(components)) => components.try_into(),
            Said::Gauge { heading, pitch } => Self::from_gauge(heading, pitch),
        }
    }
}

impl TryFrom<[f64; 3]> for Direction {
    type Error = NoDirection;
    fn try_from([x, y, z]: [f64; 3]) -> Result<Self, NoDirection> {
        Self::new(x, y, z)
    }
}

impl From<Direction> for [f64; 3] {
    fn from(direction: Direction) -> Self {
        direction.to_array()
    }
}
