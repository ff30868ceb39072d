//! The kinds of support there are. Source: handbook, "Joints, fittings, hoses and supports", Supports.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What holds a pipe between its joints.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SupportKind {
    /// A tab welded to the tube and bolted to engine or body.
    Tab,
    /// Two cushioned clamps from two sides, on stand-offs.
    Clamps,
    /// A grommet in a hole: it holds, but gives.
    Grommet,
    /// A rod hung in rubber, for exhausts.
    Hanger,
}

impl SupportKind {
    /// Every kind, in the order they are offered.
    pub const ALL: [Self; 4] = [Self::Clamps, Self::Tab, Self::Grommet, Self::Hanger];

    /// Whether the tube is one with what it is fixed to there: it then rides on that. Rubber in a grommet or a hanger gives.
    #[must_use]
    pub const fn fixes(self) -> bool {
        matches!(self, Self::Tab | Self::Clamps)
    }

    /// Whether nothing of it lets the tube slide along as it grows: cushions do.
    #[must_use]
    pub const fn holds_along(self) -> bool {
        matches!(self, Self::Tab)
    }

    /// How far in mm the tube may move in it; `None` where it is to be one with it. Ours: the rubber of a grommet, the swing
    /// of a hanger.
    #[must_use]
    pub const fn gives(self) -> Option<f64> {
        match self {
            Self::Tab | Self::Clamps => None,
            Self::Grommet => Some(2.0),
            Self::Hanger => Some(15.0),
        }
    }

    /// How long it is along the pipe, in mm. Ours: a tab's weld, two bands side by side, a grommet, a rod.
    #[must_use]
    pub const fn long(self) -> f64 {
        match self {
            Self::Tab => 20.0,
            Self::Clamps => 30.0,
            Self::Grommet => 10.0,
            Self::Hanger => 12.0,
        }
    }

    /// How far it stands out all round beyond the tube, in mm. Ours: a weld, a cushion with its band, a grommet's lip.
    #[must_use]
    pub const fn stands_out(self) -> f64 {
        match self {
            Self::Tab | Self::Hanger => 2.0,
            Self::Clamps | Self::Grommet => 5.0,
        }
    }

    /// Directions it leaves the pipe in, as degrees beside its clock: two clamps of a pair from two sides.
    #[must_use]
    pub const fn feet(self) -> &'static [f64] {
        match self {
            Self::Clamps => &[-35.0, 35.0],
            Self::Tab | Self::Hanger => &[0.0],
            Self::Grommet => &[],
        }
    }

    /// The kind as a word in a sentence.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Tab => "welded tab",
            Self::Clamps => "pair of cushioned clamps",
            Self::Grommet => "grommet",
            Self::Hanger => "rod hanger",
        }
    }
}

/// Least distance in mm of a support from a seam, a bead or a bend's tangent point. Source: as above.
pub const CLEAR_OF_SEAMS: f64 = 15.0;
/// A stand-off is as high as what is wrapped round the pipe and so much more, in mm. Source: as above.
const BEYOND_WRAP: f64 = 5.0;
/// Least stand-off in mm. Source: as above.
const LEAST_STAND_OFF: f64 = 8.0;

/// How high in mm a stand-off is at least, for a pipe wrapped so thick. Source: as above.
#[must_use]
pub fn stand_off(insulation: f64) -> f64 {
    (insulation + BEYOND_WRAP).max(LEAST_STAND_OFF)
}
