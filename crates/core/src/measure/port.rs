//! The mouths a pipe joins.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{InstallState, Neck, Reading};
use crate::stock::Material;
use nook_geometry::units::OutsideDiameter;
use nook_geometry::{Direction, Point};

/// How a mouth ends.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum EndForm {
    /// Plain tube.
    Plain,
    /// Tube with a raised bead.
    Beaded,
    /// A barb for a hose.
    Barbed,
    /// A bolted flange.
    Flanged,
    /// A thread.
    Threaded,
}

impl EndForm {
    /// Whether a hose can be pushed on and clamped.
    #[must_use]
    pub const fn takes_hose(self) -> bool {
        match self {
            Self::Plain | Self::Beaded | Self::Barbed => true,
            Self::Flanged | Self::Threaded => false,
        }
    }

    /// The form as a word in a sentence.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Plain => "plain",
            Self::Beaded => "beaded",
            Self::Barbed => "barbed",
            Self::Flanged => "flanged",
            Self::Threaded => "threaded",
        }
    }
}

/// What a thing is bolted to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Side {
    /// Moves with the engine on its mounts.
    Engine,
    /// Stands still with the body.
    Body,
}

impl Side {
    /// The side as a word in a sentence.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Engine => "engine",
            Self::Body => "body",
        }
    }

    /// The other one.
    #[must_use]
    pub const fn other(self) -> Self {
        match self {
            Self::Engine => Self::Body,
            Self::Body => Self::Engine,
        }
    }
}

/// One end of a run.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum End {
    /// Where the pipe leaves.
    A,
    /// Where it arrives.
    B,
}

impl End {
    /// The letter.
    #[must_use]
    pub const fn letter(self) -> char {
        match self {
            Self::A => 'A',
            Self::B => 'B',
        }
    }

    /// The other one.
    #[must_use]
    pub const fn other(self) -> Self {
        match self {
            Self::A => Self::B,
            Self::B => Self::A,
        }
    }
}

/// Names one run within its job.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[schema(value_type = u32)]
pub struct RunId(pub u32);

/// Names one port: an end of a run.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PortRef {
    /// Whose.
    pub run: RunId,
    /// Which end.
    pub end: End,
}

/// A mouth that a pipe joins. Where readings fix its place, direction or size, they decide; what was typed says
/// which of two answers is meant, and holds for whatever they leave open.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Port {
    /// What it is, such as `compressor outlet`.
    pub name: String,
    /// The centre of the mouth.
    pub at: Point,
    /// The direction out of the component.
    pub out: Direction,
    /// Outside diameter in mm.
    pub od: OutsideDiameter,
    /// How it ends.
    pub form: EndForm,
    /// What it is made of, where that is known: what does not fuse with the tube is not welded to it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub metal: Option<Material>,
    /// The neck it ends, and what is done to that; nothing where it is taken as it stands.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub neck: Option<Box<Neck>>,
    /// What it rides on.
    pub rides: Side,
    /// Whether it was there when it was measured.
    #[serde(default, skip_serializing_if = "InstallState::is_in_place")]
    pub standing: InstallState,
    /// What was measured of it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub readings: Vec<Reading>,
}
