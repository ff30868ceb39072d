//! Decisions about what is sawn and how.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::EditError;
use super::lookup::index_of;
use super::route_edit::place_of;
use super::twins::twin_follows;
use crate::job::Job;
use crate::measure::RunId;
use crate::route::{BendId, BendMake};
use crate::workshop::PinnedSaw;

/// A decision about what is sawn and how.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
pub enum CutEdit {
    /// The job is made with this saw, as it is now.
    PinSaw {
        /// The saw.
        saw: PinnedSaw,
    },
    /// Says how a bend is made; nothing returns to what is usual for the tube.
    SetMake {
        /// Which pipe.
        run: RunId,
        /// Which bend.
        bend: BendId,
        /// Pies, and how many of which sort, or drawn.
        make: Option<BendMake>,
    },
}

impl CutEdit {
    pub(super) fn apply(&self, job: &mut Job) -> Result<(), EditError> {
        match self {
            Self::PinSaw { saw } => job.saw = saw.clone(),
            Self::SetMake { run, bend, make } => {
                let index = index_of(job, *run)?;
                let run = &mut job.runs[index];
                let place = place_of(run, *bend)?;
                if let Some(spec) = run.route.bend_mut(place) {
                    spec.make = *make;
                }
                twin_follows(job, index);
            }
        }
        Ok(())
    }
}
