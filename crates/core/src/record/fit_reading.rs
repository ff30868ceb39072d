//! What is measured of a pipe as it is built, and as it is tried on.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::cut::PieceId;
use crate::route::BendId;

/// Something measured of a pipe that is being built: lengths in mm, angles in degrees. Clocks are from up, clockwise seen from A.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "reads", rename_all = "snake_case", deny_unknown_fields)]
pub enum FitReading {
    /// Length of a piece on its centre line.
    Length {
        /// Which piece.
        piece: PieceId,
        /// What the tape says.
        mm: f64,
    },
    /// Angle that a bend turns, by a gauge along the straights beside it.
    Angle {
        /// Which bend.
        bend: BendId,
        /// What the gauge says.
        degrees: f64,
    },
    /// How far the line of the piece after a seam is from that of the piece before it, round the girth; positive clockwise seen from A.
    Lines {
        /// The piece before the seam.
        piece: PieceId,
        /// Along the girth.
        mm: f64,
    },
    /// The gap left open at a seam when it was tacked.
    SeamGap {
        /// The piece before the seam.
        piece: PieceId,
        /// What the feeler says.
        mm: f64,
    },
    /// From the tube's end to the mouth at B at one clock, the pipe put on at A.
    MouthGap {
        /// Where round the mouth.
        clock: f64,
        /// What the rule says; less than nothing where the tube reaches past the mouth beside it.
        mm: f64,
    },
    /// How far the tube's outside stands beyond the mouth's at one clock, the pipe put on at A.
    MouthStep {
        /// Where round the mouth.
        clock: f64,
        /// What the straight edge shows; less than nothing where it stands below it.
        mm: f64,
    },
    /// How the tube's end at B lies beside its mouth, as it is seen, the pipe put on at A.
    Rough {
        /// Below it.
        low: f64,
        /// To the vehicle's left of it.
        left: f64,
        /// Further than it should reach.
        long: f64,
    },
}

impl FitReading {
    /// Most mm that anything is off by; more is another pipe.
    pub const MOST_OFF: f64 = 200.0;

    /// Whether every figure is a number that may be read.
    #[must_use]
    pub fn is_sound(&self) -> bool {
        let off = |mm: f64| mm.abs() <= Self::MOST_OFF;
        match *self {
            Self::Length { mm, .. } => (0.0..=50_000.0).contains(&mm),
            Self::Angle { degrees, .. } => (0.0..=360.0).contains(&degrees),
            Self::Lines { mm, .. } | Self::SeamGap { mm, .. } => off(mm),
            Self::MouthGap { clock, mm } | Self::MouthStep { clock, mm } => clock.abs() <= 360.0 && off(mm),
            Self::Rough { low, left, long } => [low, left, long].into_iter().all(off),
        }
    }

    /// Whether two readings are of one figure, whatever they read.
    #[must_use]
    pub fn is_of_the_same(&self, other: &Self) -> bool {
        match (self, other) {
            (Self::Length { piece, .. }, Self::Length { piece: its, .. })
            | (Self::Lines { piece, .. }, Self::Lines { piece: its, .. })
            | (Self::SeamGap { piece, .. }, Self::SeamGap { piece: its, .. }) => piece == its,
            (Self::Angle { bend, .. }, Self::Angle { bend: its, .. }) => bend == its,
            (Self::MouthGap { clock, .. }, Self::MouthGap { clock: its, .. })
            | (Self::MouthStep { clock, .. }, Self::MouthStep { clock: its, .. }) => (clock - its).abs() < 1.0,
            (Self::Rough { .. }, Self::Rough { .. }) => true,
            _ => false,
        }
    }

    /// One standard deviation where nobody says another, in mm or degrees. Source: handbook, "Fit, weld, prove", Where errors come from
    /// and Reading a test fit.
    #[must_use]
    pub const fn usual_spread(&self) -> f64 {
        match self {
            Self::Length { .. } | Self::MouthGap { .. } | Self::MouthStep { .. } | Self::Lines { .. } => 0.5,
            Self::Angle { .. } => 0.3,
            Self::SeamGap { .. } => 0.1,
            Self::Rough { .. } => 3.0,
        }
    }
}
