//! Everything a person can point at, by a name that never changes.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::cut::PieceId;
use crate::measure::{ComponentId, DatumId, End, KeepOutId, MountId, OpeningId, RunId};
use crate::route::{BendId, BranchId, JointId, LegId, SupportId};

/// A part of a job: what findings are about, what is selected, what an edit made, what a deed was done to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(tag = "part", rename_all = "snake_case", deny_unknown_fields)]
pub enum PartRef {
    /// A whole run.
    Run {
        /// Which.
        run: RunId,
    },
    /// One end of a run: its mouth and its joint.
    End {
        /// Of which run.
        run: RunId,
        /// Which end.
        end: End,
    },
    /// A straight of a run.
    Straight {
        /// Of which run.
        run: RunId,
        /// On which leg.
        straight: LegId,
    },
    /// A bend of a run.
    Bend {
        /// Of which run.
        run: RunId,
        /// Which.
        bend: BendId,
    },
    /// A joint of a run; those at its ends are pointed at as ends.
    Joint {
        /// Of which run.
        run: RunId,
        /// Which.
        joint: JointId,
    },
    /// A support of a run.
    Support {
        /// Of which run.
        run: RunId,
        /// Which.
        support: SupportId,
    },
    /// A branch let into a run.
    Branch {
        /// Of which run.
        run: RunId,
        /// Which.
        branch: BranchId,
    },
    /// A piece of tube.
    Piece {
        /// Of which run.
        run: RunId,
        /// Which.
        piece: PieceId,
    },
    /// A datum point.
    Datum {
        /// Which.
        datum: DatumId,
    },
    /// A keep-out.
    KeepOut {
        /// Which.
        keep_out: KeepOutId,
    },
    /// A component.
    Component {
        /// Which.
        component: ComponentId,
    },
    /// A mounting point of a component, with what holds it.
    Mount {
        /// Of which component.
        component: ComponentId,
        /// Which.
        mount: MountId,
    },
    /// An opening.
    Opening {
        /// Which.
        opening: OpeningId,
    },
}

impl PartRef {
    /// What is pointed at to mean a joint of a run, at an end or between them.
    #[must_use]
    pub const fn of_joint(run: RunId, joint: JointId, end: Option<End>) -> Self {
        match end {
            Some(end) => Self::End { run, end },
            None => Self::Joint { run, joint },
        }
    }
}
