//! Which piece of tube of a run.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::route::{BendId, JointId, LegId};

/// Which piece of tube of a run: by where it begins, so that it is the same piece whatever is done to others.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum PieceId {
    /// Straight tube, or tube that is bent: by the leg it begins on.
    Tube {
        /// On which leg it begins.
        leg: LegId,
        /// After which joint on that leg; nothing where it begins at the leg's start.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        after: Option<JointId>,
        /// After how many splices on that leg, counted from there.
        #[serde(default, skip_serializing_if = "is_first")]
        spliced: u8,
    },
    /// A bought elbow, by the bend it makes.
    Elbow {
        /// Which bend.
        bend: BendId,
    },
    /// A slice of a bend.
    Pie {
        /// Which bend.
        bend: BendId,
        /// Which slice of it, from 0 at A.
        pie: usize,
    },
}

#[expect(clippy::trivially_copy_pass_by_ref, reason = "serde passes what it asks about by reference")]
const fn is_first(spliced: &u8) -> bool {
    *spliced == 0
}
