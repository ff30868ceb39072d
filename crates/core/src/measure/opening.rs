//! Openings of the car that coolers breathe through.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::KeepOutShape;
use super::shape::plane_through;
use nook_geometry::units::{Name, OutOfRange};
use nook_geometry::{Direction, Point};

/// Names one opening within its job.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[schema(value_type = u32)]
pub struct OpeningId(pub u32);

/// An opening, such as the mouth in a front bumper: air comes through square to it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Opening {
    /// Which one.
    pub id: OpeningId,
    /// What it is.
    pub name: Name,
    /// Its outline in order, 3 to 60 points, flat to 10 mm.
    pub outline: Vec<Point>,
}

impl Opening {
    /// The middle of its outline's points and the way through it; `None` where they span no plane, which
    /// [`Opening::check`] refuses.
    #[must_use]
    pub fn plane(&self) -> Option<(Point, Direction)> {
        let (middle, normal, _) = plane_through(&self.outline)?;
        Some((Point::new(middle.x, middle.y, middle.z).ok()?, normal))
    }

    /// Checks that the outline is one and is flat.
    ///
    /// # Errors
    /// As [`KeepOutShape::check`] for a sheet.
    pub fn check(&self) -> Result<(), OutOfRange> {
        KeepOutShape::Sheet { corners: self.outline.clone() }.check()
    }
}
