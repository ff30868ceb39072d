//! Round tube.

use std::f64::consts::PI;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use super::Material;
use nook_geometry::units::{OutsideDiameter, Wall};

/// A round tube. Its wall is always thinner than its radius.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "TubeParts", into = "TubeParts")]
#[schema(as = Tube)]
pub struct Tube {
    #[schema(inline)]
    material: Material,
    od: OutsideDiameter,
    wall: Wall,
}

/// The wall leaves no bore.
#[derive(Debug, Clone, Copy, PartialEq, Error, Serialize)]
#[error("a wall of {wall} mm leaves no bore in {od} mm tube: it must be under half the diameter, {} mm", od / 2.0)]
pub struct TubeError {
    /// The wall in mm.
    pub wall: f64,
    /// The outside diameter in mm.
    pub od: f64,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct TubeParts {
    material: Material,
    od: OutsideDiameter,
    wall: Wall,
}

impl Tube {
    /// Checks that the wall leaves a bore.
    ///
    /// # Errors
    /// [`TubeError`] when the wall is half the outside diameter or more.
    pub fn new(material: Material, od: OutsideDiameter, wall: Wall) -> Result<Self, TubeError> {
        if wall.get() * 2.0 < od.get() {
            Ok(Self { material, od, wall })
        } else {
            Err(TubeError { wall: wall.get(), od: od.get() })
        }
    }

    /// Tube of the same stuff and wall in another size.
    ///
    /// # Errors
    /// As [`Tube::new`].
    pub fn with_od(self, od: OutsideDiameter) -> Result<Self, TubeError> {
        Self::new(self.material, od, self.wall)
    }

    /// What it is made of.
    #[must_use]
    pub const fn material(self) -> Material {
        self.material
    }

    /// Outside diameter in mm.
    #[must_use]
    pub const fn od(self) -> f64 {
        self.od.get()
    }

    /// Wall in mm.
    #[must_use]
    pub const fn wall(self) -> f64 {
        self.wall.get()
    }

    /// Inside diameter in mm.
    #[must_use]
    pub fn bore(self) -> f64 {
        self.od() - 2.0 * self.wall()
    }

    /// Girth in mm: the outside circumference.
    #[must_use]
    pub fn girth(self) -> f64 {
        PI * self.od()
    }

    /// Mass in kg of `length` mm of it, measured on the centre line.
    #[must_use]
    pub fn mass(self, length: f64) -> f64 {
        let section = PI / 4.0 * (self.od() * self.od() - self.bore() * self.bore());
        section * length * 1e-9 * self.material.density()
    }
}

impl TryFrom<TubeParts> for Tube {
    type Error = TubeError;
    fn try_from(parts: TubeParts) -> Result<Self, TubeError> {
        Self::new(parts.material, parts.od, parts.wall)
    }
}

impl From<Tube> for TubeParts {
    fn from(tube: Tube) -> Self {
        Self { material: tube.material, od: tube.od, wall: tube.wall }
    }
}
