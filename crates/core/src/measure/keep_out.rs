//! What is in the way.

use nalgebra::Isometry3;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{KeepOutShape, Reading, Side};
use crate::stock::Duty;
use nook_geometry::units::{Gap, Name, TurnAngle};
use nook_geometry::{Direction, Point};

/// Names one keep-out within its job.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[schema(value_type = u32)]
pub struct KeepOutId(pub u32);

/// What a keep-out is, which sets how much air a pipe leaves it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
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
    /// A turbine or exhaust behind a heat shield.
    Shielded,
}

impl KeepOutKind {
    /// All kinds, in the order they are offered.
    pub const ALL: [Self; 9] = [
        Self::StillMetal,
        Self::HoseOrWire,
        Self::Bonnet,
        Self::Ground,
        Self::BeltOrPulley,
        Self::Sweep,
        Self::LiveTerminal,
        Self::Hot,
        Self::Shielded,
    ];

    /// Gap a pipe leaves it, in mm. Source: handbook, "The sums", Default gaps; the ground is held like a
    /// bonnet, as a flat thing the whole car may sink towards.
    #[must_use]
    pub const fn default_gap(self) -> f64 {
        match self {
            Self::StillMetal | Self::HoseOrWire => 10.0,
            Self::Bonnet | Self::Ground => 12.0,
            Self::BeltOrPulley => 20.0,
            Self::Sweep => 15.0,
            Self::LiveTerminal | Self::Shielded => 25.0,
            Self::Hot => 50.0,
        }
    }

    /// Gap an exhaust pipe leaves it, in mm: what ages or burns asks for more of a hot pipe. Source: as above: rubber 100;
    /// fuel, brake, wiring and plastic 150; a shield is a keep-out of its own.
    #[must_use]
    pub const fn gap_to_exhaust(self) -> f64 {
        match self {
            Self::HoseOrWire | Self::LiveTerminal => 150.0,
            Self::BeltOrPulley => 100.0,
            Self::StillMetal | Self::Bonnet | Self::Ground | Self::Sweep | Self::Hot | Self::Shielded => {
                self.default_gap()
            }
        }
    }

    /// Gap in mm that a hose, a coupler or a soft seal leaves it; `None` where it asks for no more than metal does.
    /// Source: as above: rubber or silicone 100 off turbine or exhaust, half of that behind a shield as for metal.
    #[must_use]
    pub const fn gap_to_soft(self) -> Option<f64> {
        match self {
            Self::Hot => Some(100.0),
            Self::Shielded => Some(50.0),
            _ => None,
        }
    }

    /// Why that gap.
    #[must_use]
    pub const fn gap_reason(self) -> &'static str {
        match self {
            Self::StillMetal => "so that it neither rattles nor rubs, and a cloth goes round it",
            Self::HoseOrWire => "a hose or wire that touches wears through",
            Self::Bonnet => "a shut bonnet bows and its pad hangs down",
            Self::Ground => "the whole car sinks towards it",
            Self::BeltOrPulley => "belts whip and pulleys run out",
            Self::Sweep => "bushes give at full lock and full droop",
            Self::LiveTerminal => "metal that touches it starts a fire",
            Self::Hot => "bare turbine or exhaust, for a metal pipe; a hose near it wants 100 or a sleeve",
            Self::Shielded => "turbine or exhaust behind a shield, for a metal pipe",
        }
    }
}

/// Whether a thing is where it will be when the car is whole, the surest first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum InstallState {
    /// Bolted in.
    #[default]
    InPlace,
    /// Something of its size stands in for it.
    MockUp,
    /// Bought, but not there yet: its sizes are known, its place is planned.
    OnOrder,
    /// Not there yet: its place was measured or guessed without it.
    Missing,
}

impl InstallState {
    /// Whether nothing need be said: the thing is in place.
    #[must_use]
    pub fn is_in_place(&self) -> bool {
        *self == Self::InPlace
    }
}

/// How something opens or sweeps: about a hinge, from one angle to another. The room it sweeps is kept out too.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Swing {
    /// A point on the hinge.
    pub pivot: Point,
    /// The hinge's axis.
    pub axis: Direction,
    /// Least turn from how it stands, in degrees, right-handed about the axis.
    pub from: TurnAngle,
    /// Most turn.
    pub to: TurnAngle,
}

impl Swing {
    /// `count` turns in degrees, evenly from one end of the range to the other, both included.
    pub fn turns(&self, count: u32) -> impl Iterator<Item = f64> {
        let (from, to) = (self.from.get(), self.to.get());
        let last = f64::from(count.max(2) - 1);
        (0..count.max(2)).map(move |k| from + (to - from) * f64::from(k) / last)
    }
}

impl Swing {
    /// The same on something that is carried as a rigid body; as it was where that would be beyond fifty metres.
    #[must_use]
    pub fn carried(&self, by: &Isometry3<f64>) -> Self {
        let there = by * self.pivot.inner();
        let pivot = Point::new(there.x, there.y, there.z).unwrap_or(self.pivot);
        let axis = Direction::of(by.rotation * self.axis.vector()).unwrap_or(self.axis);
        Self { pivot, axis, ..*self }
    }
}

/// Something a pipe must not touch.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct KeepOut {
    /// Which one.
    pub id: KeepOutId,
    /// What it is, such as `alternator`.
    pub name: Name,
    /// What sort of thing it is.
    pub kind: KeepOutKind,
    /// What it rides on.
    pub rides: Side,
    /// The room it takes; where readings place it, only its size and turn are taken from here.
    pub shape: KeepOutShape,
    /// Gap a pipe leaves it in mm; by default as [`KeepOutKind::default_gap`] says.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub gap: Option<Gap>,
    /// Whether it is one of the big boxes that are placed first, since they decide everything.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub big: bool,
    /// Whether it may be taken off first where a pipe does not come out past it.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub comes_off: bool,
    /// Whether it was there when it was measured.
    #[serde(default, skip_serializing_if = "InstallState::is_in_place")]
    pub standing: InstallState,
    /// How it opens or sweeps.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub swing: Option<Swing>,
    /// What was measured of its place.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub readings: Vec<Reading>,
}

impl KeepOut {
    /// The gap a pipe leaves it, in mm, unless it is an exhaust.
    #[must_use]
    pub fn gap(&self) -> f64 {
        self.gap.map_or_else(|| self.kind.default_gap(), Gap::get)
    }

    /// The gap that a pipe of this duty leaves it, in mm.
    #[must_use]
    pub fn gap_for(&self, duty: Duty) -> f64 {
        match (self.gap, duty) {
            (None, Duty::Exhaust) => self.kind.gap_to_exhaust(),
            _ => self.gap(),
        }
    }
}
