//! What is let into the tube of a route.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{AlongAnchor, Route};
use crate::join::BranchKind;
use nook_geometry::units::{BranchAngle, BranchOffset, BranchReach, OutsideDiameter, Rotation};

/// Which branch of a route; the number never changes, and is of this run.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct BranchId(pub u32);

/// A bung or a stub let into a tube.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Branch {
    /// Which.
    pub id: BranchId,
    /// Where along the tube its axis pierces the tube's skin.
    pub at: AlongAnchor,
    /// What it is for.
    pub kind: BranchKind,
    /// At which clock it leaves the pipe, in degrees from up, right-handed about the direction of travel; by default as is
    /// usual for its kind.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub clock: Option<Rotation>,
    /// Its outside diameter in mm; by default likewise.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub od: Option<OutsideDiameter>,
    /// How far it stands out of the tube's skin along its own axis, in mm; by default likewise.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub reach: Option<BranchReach>,
    /// Degrees between its axis and the direction of travel; by default square to it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub angle: Option<BranchAngle>,
    /// How far its axis passes beside the tube's, in mm, to the left for who travels with the branch upwards; by default it
    /// meets it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub offset: Option<BranchOffset>,
}

impl Branch {
    /// One of a kind, of its usual size.
    #[must_use]
    pub const fn usual(id: BranchId, at: AlongAnchor, kind: BranchKind) -> Self {
        Self { id, at, kind, clock: None, od: None, reach: None, angle: None, offset: None }
    }

    /// The clock it leaves the pipe at, in degrees from up.
    #[must_use]
    pub fn clock(&self) -> f64 {
        self.clock.map_or_else(|| self.kind.usual_clock(), Rotation::get)
    }

    /// Its outside diameter in mm.
    #[must_use]
    pub fn od(&self) -> f64 {
        self.od.map_or_else(|| self.kind.usual_od(), OutsideDiameter::get)
    }

    /// How far it stands out of the tube's skin along its own axis, in mm.
    #[must_use]
    pub fn reach(&self) -> f64 {
        self.reach.map_or_else(|| self.kind.usual_reach(), BranchReach::get)
    }

    /// Degrees between its axis and the direction of travel.
    #[must_use]
    pub fn angle(&self) -> f64 {
        self.angle.map_or(90.0, BranchAngle::get)
    }

    /// How far its axis passes beside the tube's, in mm, to the left for who travels with the branch upwards.
    #[must_use]
    pub fn offset(&self) -> f64 {
        self.offset.map_or(0.0, BranchOffset::get)
    }

    /// The same on `way`, on its last leg where it has no such leg.
    #[must_use]
    pub(super) fn on_one_of(mut self, way: &Route) -> Self {
        if way.leg_index(self.at.leg).is_none() {
            self.at.leg = way.leg_id(way.course().corners());
        }
        self
    }

    /// The same on a pipe that is this one's mirror image.
    #[must_use]
    pub(crate) fn mirrored(mut self) -> Self {
        // A usual clock that is neither up nor down has to be said to be mirrored.
        self.clock = Rotation::new(0.0 - self.clock()).ok();
        self.offset = self.offset.and_then(|offset| BranchOffset::new(0.0 - offset.get()).ok());
        self
    }
}
