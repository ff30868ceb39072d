//! What is done to a pipe that does not land yet.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::FitReading;
use crate::cut::PieceId;
use crate::measure::End;

/// Something done to a pipe that is tacked: lengths in mm, angles in degrees. Clocks are from up, clockwise seen from A.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "act", rename_all = "snake_case", deny_unknown_fields)]
pub enum FitAct {
    /// A piece's free end is sawn shorter, square.
    Trim {
        /// Which piece.
        piece: PieceId,
        /// At its end towards which end of the pipe.
        end: End,
        /// How much comes off; more than nothing.
        mm: f64,
    },
    /// A tack is broken, and the face after a piece sanded to a wedge: so much off at a clock, falling to nothing across.
    Sand {
        /// The piece before the seam.
        piece: PieceId,
        /// Where it comes off.
        clock: f64,
        /// How much comes off there; more than nothing.
        mm: f64,
    },
    /// A tack is broken, and what is beyond it turned about the tube; positive clockwise seen from A.
    Turn {
        /// The piece before the seam.
        piece: PieceId,
        /// By how much.
        degrees: f64,
    },
    /// A tack is broken, and what is beyond it bent towards a clock.
    Bend {
        /// The piece before the seam.
        piece: PieceId,
        /// Towards where.
        clock: f64,
        /// By how much; more than nothing.
        degrees: f64,
    },
    /// A piece that is not cut yet is cut longer than its list says, or shorter where less than nothing.
    CutOtherwise {
        /// Which piece.
        piece: PieceId,
        /// By how much.
        mm: f64,
    },
    /// A new piece in place of one that is tacked, longer than that, or shorter where less than nothing.
    Renew {
        /// Which piece.
        piece: PieceId,
        /// By how much.
        mm: f64,
    },
}

impl FitAct {
    /// Whether every figure is a number that may be done.
    #[must_use]
    pub fn is_sound(&self) -> bool {
        let off = |mm: f64| (0.0..=FitReading::MOST_OFF).contains(&mm);
        let turn = |degrees: f64| degrees.abs() <= 360.0;
        match *self {
            Self::Trim { mm, .. } => off(mm),
            Self::Sand { clock, mm, .. } => turn(clock) && off(mm),
            Self::Turn { degrees, .. } => turn(degrees),
            Self::Bend { clock, degrees, .. } => turn(clock) && (0.0..=90.0).contains(&degrees),
            Self::CutOtherwise { mm, .. } | Self::Renew { mm, .. } => off(mm.abs()),
        }
    }
}
