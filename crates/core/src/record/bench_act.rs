//! What is done at the bench besides cutting pieces.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::cut::PieceId;
use crate::measure::End;
use crate::route::BendId;
use crate::weld::SeamId;

/// Something done at the bench on a run's pipe that leaves no piece: named by the piece or the bend it is about, so that it is the same
/// whatever else changes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(tag = "act", rename_all = "snake_case", deny_unknown_fields)]
pub enum BenchAct {
    /// The lines are scribed along the stick.
    Scribe,
    /// The wedge of waste before a piece is off.
    Wedge {
        /// The piece that comes off next.
        piece: PieceId,
    },
    /// A bead is rolled on a piece.
    Bead {
        /// Which piece.
        piece: PieceId,
        /// At its end towards which end of the pipe.
        end: End,
    },
    /// A piece is put to the next one towards B and tacked, or joined.
    Meet {
        /// The one nearer A.
        piece: PieceId,
    },
    /// The clock of a bend was seen to be right.
    Check {
        /// Which bend.
        bend: BendId,
    },
    /// A seam is welded all along.
    Weld {
        /// Which.
        seam: SeamId,
    },
}
