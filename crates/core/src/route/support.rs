//! What holds a pipe of a route between its joints.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{AlongAnchor, Route};
use crate::join::SupportKind;
use crate::measure::Side;
use nook_geometry::units::{Rotation, StandsOut};

/// Which support of a route; the number never changes, and is of this run.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct SupportId(pub u32);

/// A support of a route.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Support {
    /// Which.
    pub id: SupportId,
    /// Where its middle is along the tube.
    pub at: AlongAnchor,
    /// What it is.
    pub kind: SupportKind,
    /// What it is fixed to.
    pub to: Side,
    /// At which clock it leaves the pipe, in degrees from up, right-handed about the direction of travel; by default towards
    /// the nearest of what it is fixed to.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub clock: Option<Rotation>,
    /// How high its stand-off is from the tube's skin, in mm; by default as far as what it is fixed to is away.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub stand_off: Option<StandsOut>,
}

/// A support about to be put on a pipe.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SupportDraft {
    /// Where its middle is along the tube.
    pub at: AlongAnchor,
    /// What it is.
    pub kind: SupportKind,
    /// What it is fixed to; by default what the section rides on, and the body where it hangs between.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub to: Option<Side>,
}

impl Support {
    /// One of which place, kind and side are decided.
    #[must_use]
    pub const fn new(id: SupportId, draft: &SupportDraft, to: Side) -> Self {
        Self { id, at: draft.at, kind: draft.kind, to, clock: None, stand_off: None }
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
        self.clock = self.clock.and_then(|clock| Rotation::new(0.0 - clock.get()).ok());
        self
    }
}
