//! Raw readings: what somebody read off a tape, a level, an angle gauge or a caliper, kept as read.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{DatumId, PortRef};
use nook_geometry::units::{
    BetweenAngle, Bore, Coordinate, FaceClock, FaceRadius, Girth, HeadingAngle, OnStick, OutsideDiameter, PitchAngle,
    Spread, TapeLength, Wall,
};

/// One of the vehicle's axes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Axis {
    /// Forward.
    X,
    /// Left.
    Y,
    /// Up.
    Z,
}

impl Axis {
    /// The three, in order.
    pub const ALL: [Self; 3] = [Self::X, Self::Y, Self::Z];

    /// Its place among coordinates: 0, 1 or 2.
    #[must_use]
    pub const fn index(self) -> usize {
        match self {
            Self::X => 0,
            Self::Y => 1,
            Self::Z => 2,
        }
    }
}

/// What a reading is taken from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(tag = "from", rename_all = "snake_case", deny_unknown_fields)]
pub enum Anchor {
    /// The vehicle's zero.
    Zero,
    /// A datum point.
    Datum {
        /// Which.
        datum: DatumId,
    },
    /// Another port's mouth.
    Port {
        /// Which.
        port: PortRef,
        /// The point of its rim a tape starts from; its centre where none is said.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        rim: Option<RimSide>,
    },
}

/// Which point of a mouth's rim a tape is held to: nobody reaches the centre of a hole.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum RimSide {
    /// The point nearest to the tape's other end.
    Near,
    /// The point farthest from it.
    Far,
}

/// Which point of the thing a reading goes to.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(tag = "spot", rename_all = "snake_case", deny_unknown_fields)]
pub enum Spot {
    /// The datum itself, the centre of a mouth, or the point a keep-out is placed by.
    #[default]
    Centre,
    /// A mark on a stick pushed into a mouth.
    Stick {
        /// From the mouth's centre outwards, in mm.
        mm: OnStick,
    },
    /// The rim of a mouth.
    Rim {
        /// Which point of it.
        side: RimSide,
    },
    /// A point on a mouth's face, such as a flange's: three of them say which way it looks.
    Face {
        /// As on a clock for who looks into the mouth; 12 is the vehicle's up, or forward where it looks up or down.
        clock: FaceClock,
        /// From the centre, in mm.
        mm: FaceRadius,
    },
    /// A corner of a box, by the sides it lies on: 1 towards the box's own forward, left or up, -1 the other way.
    Corner {
        /// Forward, left and up.
        #[schema(value_type = nook_geometry::Triple)]
        towards: [i8; 3],
    },
}

/// What a direction is held against.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "against", rename_all = "snake_case", deny_unknown_fields)]
pub enum Against {
    /// One of the vehicle's axes.
    Axis {
        /// Which.
        axis: Axis,
    },
    /// The way out of another port.
    Port {
        /// Which.
        port: PortRef,
    },
}

/// What was read.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "by", rename_all = "snake_case", deny_unknown_fields)]
pub enum Taken {
    /// A tape stretched between two points.
    Tape {
        /// From where.
        from: Anchor,
        /// To which point of the thing.
        #[serde(default)]
        to: Spot,
        /// What it reads.
        mm: TapeLength,
    },
    /// How far along one axis, by level (up) or plumb line (forward, left).
    Offset {
        /// From where; from the vehicle's zero it is a coordinate.
        from: Anchor,
        /// To which point of the thing.
        #[serde(default)]
        to: Spot,
        /// Along which axis.
        axis: Axis,
        /// How far: forward, left and up are positive.
        mm: Coordinate,
    },
    /// The angle gauge's heading along the way out.
    Heading {
        /// Degrees to the left from forward.
        degrees: HeadingAngle,
    },
    /// The angle gauge's pitch along the way out.
    Pitch {
        /// Degrees above level.
        degrees: PitchAngle,
    },
    /// A square held against it: the way out is at a right angle to something.
    Square {
        /// To what.
        to: Against,
    },
    /// The way out runs the same way as something.
    Parallel {
        /// To what.
        to: Against,
        /// Whether it runs the opposite way.
        #[serde(default)]
        opposite: bool,
    },
    /// It is the mirror image of another port across the vehicle's centre plane.
    Mirror {
        /// Of which.
        of: PortRef,
    },
    /// A caliper across the outside.
    Caliper {
        /// What it reads.
        mm: OutsideDiameter,
    },
    /// A strip round the outside.
    Girth {
        /// What it measures.
        mm: Girth,
    },
    /// A caliper inside the mouth, and its wall at the lip.
    Bore {
        /// What the caliper reads across.
        mm: Bore,
        /// The wall.
        wall: Wall,
    },
    /// The angle between the way out and that of another port.
    Between {
        /// Which port.
        port: PortRef,
        /// The angle between both ways out: 0 where they look the same way, 180 where they look at each other.
        degrees: BetweenAngle,
    },
}

/// One reading, kept raw so that it can be done over.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Reading {
    /// What was read.
    pub taken: Taken,
    /// Whether it counts. One that does not still shows how far it is from the others: a reading set aside, or a
    /// twin to check against.
    #[serde(default = "counts")]
    pub counts: bool,
    /// How far it may be out, one standard deviation; by default as [`Taken::usual_spread`] says.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub spread: Option<Spread>,
}

const fn counts() -> bool {
    true
}

/// What a reading's spread is measured in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SpreadUnit {
    /// Millimetres.
    Mm,
    /// Degrees.
    Degrees,
}

impl Taken {
    /// Standard deviation when nobody said, in the unit of [`Taken::spread_unit`]. The tape's is the handbook's
    /// ("The sums", Tape survey); a level carried across a bay adds a hair to it; an angle gauge holds half a
    /// degree on a stick, a square on a mouth one; twins are built alike to a few mm.
    #[must_use]
    pub const fn usual_spread(&self) -> f64 {
        match self {
            Self::Tape { .. } => 1.5,
            Self::Offset { .. } => 2.0,
            Self::Heading { .. } | Self::Pitch { .. } => 0.5,
            Self::Square { .. } | Self::Parallel { .. } | Self::Girth { .. } | Self::Between { .. } => 1.0,
            Self::Mirror { .. } => 3.0,
            Self::Caliper { .. } => 0.05,
            Self::Bore { .. } => 0.2,
        }
    }

    /// Why [`Taken::usual_spread`] is what it is.
    #[must_use]
    pub const fn spread_reason(&self) -> &'static str {
        match self {
            Self::Tape { .. } => "a tape held by hand",
            Self::Offset { .. } => "a level or plumb line and a rule",
            Self::Heading { .. } | Self::Pitch { .. } => "an angle gauge on a stick",
            Self::Square { .. } | Self::Parallel { .. } => "a square held against a mouth",
            Self::Mirror { .. } => "twins are built alike to a few mm",
            Self::Caliper { .. } => "a caliper on a tube that is not quite round",
            Self::Girth { .. } => "a paper strip and a pencil mark",
            Self::Bore { .. } => "a caliper's points and a wall measured at the lip",
            Self::Between { .. } => "a bevel gauge between two sticks",
        }
    }

    /// What its spread is measured in. A mirror image's direction is held to a third of a degree per mm.
    #[must_use]
    pub const fn spread_unit(&self) -> SpreadUnit {
        match self {
            Self::Heading { .. }
            | Self::Pitch { .. }
            | Self::Square { .. }
            | Self::Parallel { .. }
            | Self::Between { .. } => SpreadUnit::Degrees,
            _ => SpreadUnit::Mm,
        }
    }

    /// The port it leans on, if any.
    #[must_use]
    pub const fn port(&self) -> Option<PortRef> {
        match self {
            Self::Tape { from: Anchor::Port { port, .. }, .. }
            | Self::Offset { from: Anchor::Port { port, .. }, .. }
            | Self::Between { port, .. }
            | Self::Square { to: Against::Port { port } }
            | Self::Parallel { to: Against::Port { port }, .. }
            | Self::Mirror { of: port } => Some(*port),
            _ => None,
        }
    }

    /// The datum it leans on, if any.
    #[must_use]
    pub const fn datum(&self) -> Option<DatumId> {
        match self {
            Self::Tape { from: Anchor::Datum { datum }, .. } | Self::Offset { from: Anchor::Datum { datum }, .. } => {
                Some(*datum)
            }
            _ => None,
        }
    }

    /// Which point of the thing it goes to, for readings that go to a point.
    #[must_use]
    pub const fn spot(&self) -> Option<Spot> {
        match self {
            Self::Tape { to, .. } | Self::Offset { to, .. } => Some(*to),
            _ => None,
        }
    }

    /// Whether it says nothing without a direction, as only a mouth has.
    #[must_use]
    pub const fn needs_mouth(&self) -> bool {
        match self {
            Self::Tape { to, .. } | Self::Offset { to, .. } => {
                matches!(to, Spot::Stick { .. } | Spot::Rim { .. } | Spot::Face { .. })
            }
            _ => true,
        }
    }
}

impl Reading {
    /// A reading that counts, with the usual spread.
    #[must_use]
    pub const fn of(taken: Taken) -> Self {
        Self { taken, counts: true, spread: None }
    }

    /// Its standard deviation in the unit of [`Taken::spread_unit`].
    #[must_use]
    pub fn sigma(&self) -> f64 {
        self.spread.map_or_else(|| self.taken.usual_spread(), Spread::get)
    }
}
