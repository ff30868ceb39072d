//! The sheets that can be printed.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A sheet that can be printed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SheetKind {
    /// A run's figures and its pipe from three sides and a corner.
    Run,
    /// A run's cuts in order, and how its pieces are put together.
    Cuts,
    /// The bender's table, where tube is bent.
    Bending,
    /// What a welder has to know of a run who has never seen it.
    Welding,
    /// Joints, supports and what is let in, along the tube.
    Joints,
    /// Wrap templates, holes, copes and turned necks at true scale.
    Templates,
    /// Flange plates and tabs at true scale.
    Plates,
    /// The run's points, set out on the car by readings.
    SetOut,
    /// Two posts on a board that hold the mouths as the car does, at true scale.
    Jig,
    /// What is sawn from which stick, for the whole vehicle.
    Sticks,
    /// What is bought for the whole vehicle.
    Buying,
}

impl SheetKind {
    /// All of them.
    pub const ALL: [Self; 11] = [
        Self::Run,
        Self::Cuts,
        Self::Bending,
        Self::Welding,
        Self::Joints,
        Self::Templates,
        Self::Plates,
        Self::SetOut,
        Self::Jig,
        Self::Sticks,
        Self::Buying,
    ];

    /// How it is named in an address or on a command line.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Run => "run",
            Self::Cuts => "cuts",
            Self::Bending => "bending",
            Self::Welding => "welding",
            Self::Joints => "joints",
            Self::Templates => "templates",
            Self::Plates => "plates",
            Self::SetOut => "set_out",
            Self::Jig => "jig",
            Self::Sticks => "sticks",
            Self::Buying => "buying",
        }
    }

    /// Those of a run, in their order.
    pub const OF_RUN: [Self; 9] = [
        Self::Run,
        Self::Cuts,
        Self::Bending,
        Self::Welding,
        Self::Joints,
        Self::Templates,
        Self::Plates,
        Self::SetOut,
        Self::Jig,
    ];
    /// Those that are printed where nobody chose: a jig at true scale takes many pages.
    pub const USUAL: [Self; 10] = [
        Self::Sticks,
        Self::Buying,
        Self::Run,
        Self::Cuts,
        Self::Bending,
        Self::Welding,
        Self::Joints,
        Self::Templates,
        Self::Plates,
        Self::SetOut,
    ];
}
