//! What of a way stays as it is while the rest is changed.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{BendId, LegId, Route};
use nook_geometry::Direction;

/// Something of a way that stays as it is while the rest is changed.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "hold", rename_all = "snake_case", deny_unknown_fields)]
pub enum Lock {
    /// The length of a straight of tube.
    Straight {
        /// Which straight.
        straight: LegId,
        /// Its length in mm.
        length: f64,
    },
    /// The angle of a bend.
    Angle {
        /// Which bend.
        bend: BendId,
        /// In degrees.
        angle: f64,
    },
    /// The rotation of a bend.
    Rotation {
        /// Which bend.
        bend: BendId,
        /// In degrees.
        rotation: f64,
    },
    /// The direction of a leg between two bends.
    Leg {
        /// Which leg.
        leg: LegId,
        /// The direction.
        direction: Direction,
        /// Whether only its height is held: level, whatever its heading.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        level_only: bool,
    },
}

impl Lock {
    /// Whether both are about one thing.
    #[must_use]
    pub fn is_of(&self, other: &Self) -> bool {
        match (self, other) {
            (Self::Straight { straight: p, .. }, Self::Straight { straight: q, .. }) => p == q,
            (Self::Angle { bend: p, .. }, Self::Angle { bend: q, .. })
            | (Self::Rotation { bend: p, .. }, Self::Rotation { bend: q, .. }) => p == q,
            (Self::Leg { leg: p, .. }, Self::Leg { leg: q, .. }) => p == q,
            _ => false,
        }
    }

    /// Whether `way` has what this is about, and its figure is a number.
    pub(crate) fn is_sound(&self, way: &Route) -> bool {
        match *self {
            Self::Straight { straight, length } => way.leg_index(straight).is_some() && length.abs() <= 20_000.0,
            Self::Angle { bend, angle } => way.bend_index(bend).is_some() && (0.0..180.0).contains(&angle),
            Self::Rotation { bend, rotation } => way.bend_index(bend).is_some() && rotation.abs() <= 360.0,
            Self::Leg { leg, .. } => way.leg_index(leg).is_some_and(|leg| leg >= 1 && leg < way.course().corners()),
        }
    }

    /// Whether it is about a bend.
    pub(super) fn is_of_bend(&self, id: BendId) -> bool {
        match *self {
            Self::Angle { bend, .. } | Self::Rotation { bend, .. } => bend == id,
            Self::Straight { .. } | Self::Leg { .. } => false,
        }
    }

    /// Whether it is about a leg.
    pub(super) fn is_of_leg(&self, id: LegId) -> bool {
        match *self {
            Self::Straight { straight: leg, .. } | Self::Leg { leg, .. } => leg == id,
            Self::Angle { .. } | Self::Rotation { .. } => false,
        }
    }

    /// The same of a way whose bends were numbered anew.
    pub(super) fn renumbered(self, bend_of: impl Fn(BendId) -> BendId, leg_of: impl Fn(LegId) -> LegId) -> Self {
        match self {
            Self::Straight { straight, length } => Self::Straight { straight: leg_of(straight), length },
            Self::Angle { bend, angle } => Self::Angle { bend: bend_of(bend), angle },
            Self::Rotation { bend, rotation } => Self::Rotation { bend: bend_of(bend), rotation },
            Self::Leg { leg, direction, level_only } => Self::Leg { leg: leg_of(leg), direction, level_only },
        }
    }

    /// The same of the way's image in the vehicle's middle plane.
    pub(super) fn mirrored(self) -> Self {
        match self {
            Self::Rotation { bend, rotation } => Self::Rotation { bend, rotation: -rotation },
            Self::Leg { leg, direction, level_only } => {
                let [x, y, z] = direction.to_array();
                Self::Leg { leg, direction: Direction::new(x, -y, z).unwrap_or(direction), level_only }
            }
            Self::Straight { .. } | Self::Angle { .. } => self,
        }
    }
}
