//! Positions in the vehicle.

use nalgebra::Point3;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{Triple, Vector};
use crate::units::{Coordinate, LengthInput, OutOfRange};

/// A position in mm, vehicle axes: x forward, y left, z up. Always finite and within fifty metres. The default is
/// the vehicle's zero.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "[LengthInput; 3]", into = "[f64; 3]")]
#[schema(value_type = Triple)]
pub struct Point(Point3<f64>);

impl Point {
    /// A point from its coordinates in mm.
    ///
    /// # Errors
    /// [`OutOfRange`] when a coordinate is not a number or beyond fifty metres.
    pub fn new(x: f64, y: f64, z: f64) -> Result<Self, OutOfRange> {
        for value in [x, y, z] {
            Coordinate::new(value)?;
        }
        Ok(Self(Point3::new(x, y, z)))
    }

    /// The coordinates in mm.
    #[must_use]
    pub fn to_array(self) -> [f64; 3] {
        self.0.coords.into()
    }

    /// As nalgebra has it.
    pub const fn inner(self) -> Point3<f64> {
        self.0
    }

    /// Its image in the vehicle's middle plane.
    #[must_use]
    pub fn mirrored(self) -> Self {
        Self(Point3::new(self.0.x, -self.0.y, self.0.z))
    }

    /// Distance to `other` in mm.
    #[must_use]
    pub fn distance(self, other: Self) -> f64 {
        (other.0 - self.0).norm()
    }

    /// The displacement from here to `other` in mm.
    #[must_use]
    pub fn to(self, other: Self) -> Vector {
        other.0 - self.0
    }

    /// The point `by` mm away.
    ///
    /// # Errors
    /// [`OutOfRange`] when that lies beyond fifty metres or is not a number.
    pub fn moved(self, by: Vector) -> Result<Self, OutOfRange> {
        let p = self.0 + by;
        Self::new(p.x, p.y, p.z)
    }
}

impl TryFrom<[LengthInput; 3]> for Point {
    type Error = OutOfRange;
    fn try_from(at: [LengthInput; 3]) -> Result<Self, OutOfRange> {
        Self::try_from(at.map(|one| one.0))
    }
}

impl TryFrom<[f64; 3]> for Point {
    type Error = OutOfRange;
    fn try_from([x, y, z]: [f64; 3]) -> Result<Self, OutOfRange> {
        Self::new(x, y, z)
    }
}

impl From<Point> for [f64; 3] {
    fn from(point: Point) -> Self {
        point.to_array()
    }
}
