//! One decision, as data, and what it makes of a job. Decisions are grouped by the step they belong to; each group has a
//! file of its own with what it does.

mod apply;
mod change;
mod component_change;
mod copied;
mod cut_edit;
mod edit_error;
mod job_edit;
mod join_edit;
mod lookup;
mod made;
mod measure_edit;
mod merge;
mod place_edit;
mod route_edit;
mod spec_edit;
mod swapped;
mod twins;

pub use apply::{Applied, apply};
pub use change::{BranchChange, JointChange, KeepOutChange, SupportChange};
pub use component_change::ComponentChange;
pub use cut_edit::CutEdit;
pub use edit_error::EditError;
pub use job_edit::JobEdit;
pub use join_edit::JoinEdit;
pub use measure_edit::MeasureEdit;
pub use merge::merge;
pub use place_edit::PlaceEdit;
pub use route_edit::RouteEdit;
pub use spec_edit::SpecEdit;

use made::Made;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One decision.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "step", rename_all = "snake_case", deny_unknown_fields)]
pub enum Edit {
    /// Several decisions as one, such as a table of readings: all of them or none.
    Together {
        /// One after the other.
        #[schema(no_recursion)]
        edits: Vec<Edit>,
    },
    /// The job as a whole: its name, its runs.
    Job(JobEdit),
    /// What a pipe is: what it carries, its tube.
    Spec(SpecEdit),
    /// Where things are.
    Measure(MeasureEdit),
    /// Where the big things stand, what they breathe and how they are held.
    Place(PlaceEdit),
    /// Which way a pipe goes.
    Route(RouteEdit),
    /// What it is joined by.
    Join(JoinEdit),
    /// What is sawn, and how.
    Cut(CutEdit),
}

impl Edit {
    /// Whether it may move, add or take away what is drawn in the bay beside the pipes' own ways.
    #[must_use]
    pub fn moves_things(&self) -> bool {
        match self {
            Self::Together { edits } => edits.iter().any(Self::moves_things),
            Self::Job(_) | Self::Spec(_) | Self::Measure(_) | Self::Place(_) => true,
            Self::Route(_) | Self::Join(_) | Self::Cut(_) => false,
        }
    }
}

macro_rules! from_group {
    ($($group:ident($edit:ident)),*) => {
        $(impl From<$edit> for Edit {
            fn from(edit: $edit) -> Self {
                Self::$group(edit)
            }
        })*
    };
}

from_group!(
    Job(JobEdit),
    Spec(SpecEdit),
    Measure(MeasureEdit),
    Place(PlaceEdit),
    Route(RouteEdit),
    Join(JoinEdit),
    Cut(CutEdit)
);
