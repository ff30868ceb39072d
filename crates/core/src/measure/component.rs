//! The big things of a bay, each as one: body, ports, mounting points, what it breathes and what it may be moved by.

use nalgebra::{Isometry3, Translation3};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{Freedom, InstallState, KeepOutId, MountPoint, OpeningId, PortRef};
use nook_geometry::Direction;
use nook_geometry::units::{Gap, Mass, MountHeight, Name, OutOfRange, PitchAngle, Share};

/// Names one component within its job.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[schema(value_type = u32)]
pub struct ComponentId(pub u32);

/// A face of a box, in its own axes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum BoxFace {
    /// Forward.
    Front,
    /// Towards the back.
    Back,
    /// Left.
    Left,
    /// Right.
    Right,
    /// Up.
    Top,
    /// Down.
    Bottom,
}

impl BoxFace {
    /// Its outward normal in the box's own axes: forward, left, up.
    #[must_use]
    pub const fn normal(self) -> [i8; 3] {
        match self {
            Self::Front => [1, 0, 0],
            Self::Back => [-1, 0, 0],
            Self::Left => [0, 1, 0],
            Self::Right => [0, -1, 0],
            Self::Top => [0, 0, 1],
            Self::Bottom => [0, 0, -1],
        }
    }

    /// The face across.
    #[must_use]
    pub const fn opposite(self) -> Self {
        match self {
            Self::Front => Self::Back,
            Self::Back => Self::Front,
            Self::Left => Self::Right,
            Self::Right => Self::Left,
            Self::Top => Self::Bottom,
            Self::Bottom => Self::Top,
        }
    }
}

/// What a component breathes through: the face of its body that air enters by, and the opening of the car that it comes
/// through.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Breathing {
    /// The box of its body that has the face.
    pub body: KeepOutId,
    /// Which face.
    pub face: BoxFace,
    /// The opening, once somebody said which.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub through: Option<OpeningId>,
}

/// What is wished of a component's place. What is not said is not asked.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PlacingWishes {
    /// Least share of the breathing face that the opening shows.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub share: Option<Share>,
    /// How far in mm the middle of the breathing face may lie beside the opening's, side to side.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub centred: Option<Gap>,
    /// How many degrees it may hang out of level, side to side.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub level: Option<PitchAngle>,
    /// Most room in mm between its breathing face and the core ahead of it, lest the air go round.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub duct: Option<Gap>,
    /// Room for a hand before one of its faces.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub hand: Option<HandRoom>,
}

/// Room for a hand before a face.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct HandRoom {
    /// The box of its body that has the face.
    pub body: KeepOutId,
    /// Which face.
    pub face: BoxFace,
    /// How deep in mm; by default [`HandRoom::USUAL`].
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub depth: Option<Gap>,
}

impl HandRoom {
    /// Depth in mm that a hand wants. Source: handbook, "The sums", Default gaps: hand room at a clamp.
    pub const USUAL: f64 = 60.0;

    /// The depth in mm.
    #[must_use]
    pub fn depth(&self) -> f64 {
        self.depth.map_or(Self::USUAL, Gap::get)
    }
}

impl PlacingWishes {
    /// Whether nothing is asked.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        *self == Self::default()
    }
}

/// A radiator, a cooler, a turbo, a filter, a compressor housing: a thing whose body and ports are moved as one. Its body
/// and ports stand in the job where they were measured; its freedoms and the height of its mounts carry them from there.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Component {
    /// Which one.
    pub id: ComponentId,
    /// What it is.
    pub name: Name,
    /// The keep-outs that are its body.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub body: Vec<KeepOutId>,
    /// The ports on it.
    pub ports: Vec<PortRef>,
    /// What it may be moved by, the one nearest to the car first: each carries those after it.
    #[serde(default)]
    pub freedoms: Vec<Freedom>,
    /// How much higher it stands on its mounts than when it was measured; nothing where it was measured on them.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub raised: Option<MountHeight>,
    /// Whether it was there when it was measured.
    #[serde(default, skip_serializing_if = "InstallState::is_in_place")]
    pub standing: InstallState,
    /// Its mass with what is in it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub mass: Option<Mass>,
    /// What it breathes.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub breathing: Option<Breathing>,
    /// What is wished of its place.
    #[serde(default, skip_serializing_if = "PlacingWishes::is_empty")]
    pub wishes: PlacingWishes,
    /// Where it is held.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub mounts: Vec<MountPoint>,
    /// Why this one, such as where its spares come from.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<Name>,
}

impl Component {
    /// Most freedoms: a rigid body has six, and one may be reached in two ways.
    pub const MOST_FREEDOMS: usize = 8;
    /// Most mounting points.
    pub const MOST_MOUNTS: usize = 12;

    /// A component of a body and ports that may be moved by nothing yet.
    #[must_use]
    pub const fn new(id: ComponentId, name: Name, body: Vec<KeepOutId>, ports: Vec<PortRef>) -> Self {
        Self {
            id,
            name,
            body,
            ports,
            freedoms: Vec::new(),
            raised: None,
            standing: InstallState::InPlace,
            mass: None,
            breathing: None,
            wishes: PlacingWishes { share: None, centred: None, level: None, duct: None, hand: None },
            mounts: Vec::new(),
            note: None,
        }
    }

    /// Where it goes from where it was measured: the product of exponentials of its freedoms as they are set, lifted by its
    /// mounts. Source: Lynch and Park, Modern Robotics, Product of Exponentials Formula, space form.
    #[must_use]
    pub fn displacement(&self) -> Isometry3<f64> {
        let lift = Translation3::new(0.0, 0.0, self.raised.map_or(0.0, MountHeight::get));
        let settled = self.freedoms.iter().map(Freedom::displacement).fold(Isometry3::identity(), |all, one| all * one);
        lift * settled
    }

    /// Whether it stands elsewhere than where it was measured.
    #[must_use]
    pub fn is_moved(&self) -> bool {
        self.raised.is_some_and(|raised| raised.get() > 0.0) || self.freedoms.iter().any(|one| one.setting() != 0.0)
    }

    /// The first freedom whose setting is none of its steps, and the nearest that is.
    #[must_use]
    pub fn off_its_steps(&self) -> Option<(f64, f64)> {
        let off = self.freedoms.iter().find(|one| !one.takes(one.setting()))?;
        Some((off.setting(), off.nearest(off.setting())))
    }

    /// A direction of it as it was measured, where it stands now; as measured where turning loses it to rounding.
    #[must_use]
    pub fn carried(&self, direction: Direction) -> Direction {
        Direction::of(self.displacement() * direction.vector()).unwrap_or(direction)
    }

    /// Checks what the fields alone do not: every freedom's range and setting.
    ///
    /// # Errors
    /// [`OutOfRange`] naming what is out of range.
    pub fn check(&self) -> Result<(), OutOfRange> {
        self.freedoms.iter().try_for_each(Freedom::check)
    }
}
