//! What is measured of a pipe as it is built, and as it is tried on.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::cut::PieceId;
use crate::measure::{End, KeepOutId};
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
    /// Straight across from a mark on the rim of the pipe's end at A to one on that of its end at B.
    EndToEnd {
        /// Where round the end at A.
        from: f64,
        /// Where round the end at B, in the frame of travel there.
        to: f64,
        /// What the tape says.
        mm: f64,
    },
    /// Outside diameters of a sawn end, across two ways square to each other: whether it is still round.
    TwoWays {
        /// Of which piece.
        piece: PieceId,
        /// Its end towards which end of the pipe.
        end: End,
        /// Across one way.
        one: f64,
        /// Across the other.
        other: f64,
    },
    /// What the pipe touches, put on at A, though by its plan there is air between them.
    Touches {
        /// Which thing.
        keep_out: KeepOutId,
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
            Self::EndToEnd { from, to, mm } => {
                [from, to].into_iter().all(|clock| clock.abs() <= 360.0) && (0.0..=50_000.0).contains(&mm)
            }
            Self::TwoWays { one, other, .. } => [one, other].into_iter().all(|mm| (1.0..=400.0).contains(&mm)),
            Self::Touches { .. } => true,
            Self::Angle { degrees, .. } => (0.0..=360.0).contains(&degrees),
            Self::Lines { mm, .. } | Self::SeamGap { mm, .. } => off(mm),
            Self::MouthGap { clock, mm } | Self::MouthStep { clock, mm } => clock.abs() <= 360.0 && off(mm),
            Self::Rough { low, left, long } => [low, left, long].into_iter().all(off),
        }
    }

    /// The same reading of another figure; of what has none, or three, as it is.
    #[must_use]
    pub const fn with_figure(self, figure: f64) -> Self {
        match self {
            Self::Length { piece, .. } => Self::Length { piece, mm: figure },
            Self::Angle { bend, .. } => Self::Angle { bend, degrees: figure },
            Self::Lines { piece, .. } => Self::Lines { piece, mm: figure },
            Self::SeamGap { piece, .. } => Self::SeamGap { piece, mm: figure },
            Self::MouthGap { clock, .. } => Self::MouthGap { clock, mm: figure },
            Self::MouthStep { clock, .. } => Self::MouthStep { clock, mm: figure },
            Self::EndToEnd { from, to, .. } => Self::EndToEnd { from, to, mm: figure },
            Self::TwoWays { .. } | Self::Touches { .. } | Self::Rough { .. } => self,
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
            (Self::EndToEnd { from, to, .. }, Self::EndToEnd { from: its_from, to: its_to, .. }) => {
                (from - its_from).abs() < 1.0 && (to - its_to).abs() < 1.0
            }
            (Self::TwoWays { piece, end, .. }, Self::TwoWays { piece: its, end: other, .. }) => {
                piece == its && end == other
            }
            (Self::Touches { keep_out }, Self::Touches { keep_out: its }) => keep_out == its,
            (Self::Rough { .. }, Self::Rough { .. }) => true,
            _ => false,
        }
    }

    /// One standard deviation where nobody says another, in mm or degrees. Source: handbook, "Fit, weld, prove", Where errors come from
    /// and Reading a test fit; of what it touches ours, as where a thing's skin is is measured no better.
    #[must_use]
    pub const fn usual_spread(&self) -> f64 {
        match self {
            Self::Length { .. }
            | Self::MouthGap { .. }
            | Self::MouthStep { .. }
            | Self::Lines { .. }
            | Self::EndToEnd { .. } => 0.5,
            Self::Touches { .. } => 2.0,
            Self::Angle { .. } => 0.3,
            Self::SeamGap { .. } | Self::TwoWays { .. } => 0.1,
            Self::Rough { .. } => 3.0,
        }
    }
}
