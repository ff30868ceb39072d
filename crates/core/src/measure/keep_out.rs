//! What is in the way.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::Side;
use crate::geometry::{Direction, Pair, Point, Triple};
use crate::units::{OutOfRange, OutsideDiameter};

/// Names one keep-out within its job.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[schema(value_type = u32)]
pub struct KeepOutId(pub u32);

/// What a keep-out is, which sets how much air a pipe leaves it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum KeepOutKind {
    /// Metal that stands still.
    StillMetal,
    /// A hose or a wire.
    HoseOrWire,
    /// The closed bonnet.
    Bonnet,
    /// The ground.
    Ground,
    /// A belt or a pulley.
    BeltOrPulley,
    /// What steering or suspension sweeps.
    Sweep,
    /// A live terminal.
    LiveTerminal,
    /// A turbine or exhaust.
    Hot,
}

impl KeepOutKind {
    /// Gap a pipe leaves it, in mm. Source: handbook, "The sums", Default gaps; the ground is held like a
    /// bonnet, as a flat thing the whole car may sink towards.
    #[must_use]
    pub const fn default_gap(self) -> f64 {
        match self {
            Self::StillMetal | Self::HoseOrWire => 10.0,
            Self::Bonnet | Self::Ground => 12.0,
            Self::BeltOrPulley => 20.0,
            Self::Sweep => 15.0,
            Self::LiveTerminal => 25.0,
            Self::Hot => 50.0,
        }
    }
}

/// The room a keep-out takes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "shape", rename_all = "snake_case", deny_unknown_fields)]
pub enum KeepOutShape {
    /// A box, turned about the vertical.
    Box {
        /// Its centre.
        centre: Point,
        /// Full lengths along its own axes in mm, each above 0.
        #[schema(value_type = Triple)]
        size: [f64; 3],
        /// Degrees its own x axis is turned to the left from forward.
        heading: f64,
    },
    /// A cylinder between two points.
    Cylinder {
        /// Centre of one end.
        from: Point,
        /// Centre of the other end.
        to: Point,
        /// Diameter in mm.
        diameter: OutsideDiameter,
    },
    /// A flat sheet with a rectangular outline, such as a bonnet.
    Plane {
        /// The middle of the sheet.
        centre: Point,
        /// The side that is kept clear.
        normal: Direction,
        /// Length and width in mm, each above 0.
        #[schema(value_type = Pair)]
        size: [f64; 2],
    },
}

impl KeepOutShape {
    /// Checks what the fields alone do not: that the shape has a size.
    ///
    /// # Errors
    /// [`OutOfRange`] naming the size that is not between 1 mm and 20 m.
    pub fn check(&self) -> Result<(), OutOfRange> {
        let (min, max) = (1.0, 20_000.0);
        let sized = |what, value: f64| {
            if (min..=max).contains(&value) { Ok(()) } else { Err(OutOfRange { what, value, min, max, unit: "mm" }) }
        };
        match self {
            Self::Box { size, heading, .. } => {
                if !(-360.0..=360.0).contains(heading) {
                    let what = "a box's heading";
                    return Err(OutOfRange { what, value: *heading, min: -360.0, max: 360.0, unit: "degrees" });
                }
                size.iter().try_for_each(|&s| sized("a box's side", s))
            }
            Self::Cylinder { from, to, .. } => sized("a cylinder's length", from.distance(*to)),
            Self::Plane { size, .. } => size.iter().try_for_each(|&s| sized("a sheet's side", s)),
        }
    }
}

/// Something a pipe must not touch.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct KeepOut {
    /// Which one.
    pub id: KeepOutId,
    /// What it is, such as `alternator`.
    pub name: String,
    /// What sort of thing it is.
    pub kind: KeepOutKind,
    /// What it rides on.
    pub rides: Side,
    /// The room it takes.
    pub shape: KeepOutShape,
}
