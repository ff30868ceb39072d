//! What is changed about one thing.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::join::{BranchKind, FlangePlate, JointKind, JointPart, SupportKind};
use crate::measure::{KeepOutKind, KeepOutShape, Side, Swing};
use crate::route::AlongAnchor;
use nook_geometry::units::{
    BranchAngle, BranchOffset, BranchReach, Gap, Name, OutsideDiameter, Rotation, Seat, StandsOut,
};

/// One thing about a keep-out.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "set", rename_all = "snake_case", deny_unknown_fields)]
pub enum KeepOutChange {
    /// What it is called.
    Name {
        /// The new name.
        name: Name,
    },
    /// What sort of thing it is.
    Kind {
        /// The sort.
        kind: KeepOutKind,
    },
    /// What it rides on.
    Rides {
        /// Engine or body.
        rides: Side,
    },
    /// The room it takes.
    Shape {
        /// The shape.
        shape: KeepOutShape,
    },
    /// The gap a pipe leaves it; nothing returns to the usual one.
    Gap {
        /// In mm.
        gap: Option<Gap>,
    },
    /// Whether it is one of the big boxes.
    Big {
        /// Whether.
        big: bool,
    },
    /// Whether it may be taken off first where a pipe does not come out past it.
    ComesOff {
        /// Whether.
        comes_off: bool,
    },
    /// How it opens or sweeps; nothing where it does not.
    Swing {
        /// About what, how far.
        swing: Option<Swing>,
    },
}

/// One thing about a support.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "set", rename_all = "snake_case", deny_unknown_fields)]
pub enum SupportChange {
    /// What it is.
    Kind {
        /// The kind.
        kind: SupportKind,
    },
    /// What it is fixed to.
    To {
        /// Engine or body.
        to: Side,
    },
    /// Where it is along the tube.
    Place {
        /// Where its middle is to be.
        at: AlongAnchor,
    },
    /// Where it leaves the pipe; nothing leaves it towards the nearest of what it is fixed to.
    Clock {
        /// In degrees from up, right-handed about the direction of travel.
        clock: Option<Rotation>,
    },
    /// How high its stand-off is; nothing as far as what it is fixed to is away.
    StandOff {
        /// From the tube's skin, in mm.
        stand_off: Option<StandsOut>,
    },
}

/// One thing about a branch.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "set", rename_all = "snake_case", deny_unknown_fields)]
pub enum BranchChange {
    /// What it is for, with its usual size and clock.
    Kind {
        /// The kind.
        kind: BranchKind,
    },
    /// Where it is along the tube.
    Place {
        /// Where its axis is to pierce the tube's skin.
        at: AlongAnchor,
    },
    /// Where it leaves the pipe; nothing returns to the usual.
    Clock {
        /// In degrees from up, right-handed about the direction of travel.
        clock: Option<Rotation>,
    },
    /// How thick it is; nothing returns to the usual.
    Od {
        /// Outside diameter in mm.
        od: Option<OutsideDiameter>,
    },
    /// How far it stands out; nothing returns to the usual.
    Reach {
        /// Out of the tube's skin along its own axis, in mm.
        reach: Option<BranchReach>,
    },
    /// How it leans; nothing stands it square to the tube.
    Angle {
        /// Degrees between its axis and the direction of travel.
        angle: Option<BranchAngle>,
    },
    /// How far its axis passes beside the tube's; nothing lets them meet.
    Offset {
        /// In mm, to the left for who travels with the branch upwards.
        offset: Option<BranchOffset>,
    },
}

/// One thing about a joint.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "set", rename_all = "snake_case", deny_unknown_fields)]
pub enum JointChange {
    /// What it is.
    Kind {
        /// The kind.
        kind: JointKind,
    },
    /// Where it stands between the ends.
    Place {
        /// Where its middle is to be.
        at: AlongAnchor,
    },
    /// The gap between the tube ends; nothing returns to the usual one.
    Gap {
        /// In mm.
        gap: Option<Gap>,
    },
    /// The hose's seat on each side; nothing returns to the usual one.
    Seat {
        /// In mm.
        seat: Option<Seat>,
    },
    /// The part it is made with, which says its kind too; nothing returns to a usual one of the same kind.
    Part {
        /// From a catalogue, or of the builder's own.
        part: Option<JointPart>,
    },
    /// Whether a tie between the two sides holds it against pressure.
    Tied {
        /// Whether.
        tied: bool,
    },
    /// The flange plate that is cut for it; nothing takes it back.
    Plate {
        /// What was measured of it.
        plate: Option<FlangePlate>,
    },
    /// Where its screw, bolt or latch stands; nothing lets it stand where it is best reached.
    Clock {
        /// In degrees from up, right-handed about the direction of travel.
        clock: Option<Rotation>,
    },
}
