//! Decisions about what is sawn and how.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::EditError;
use super::lookup::index_of;
use super::route_edit::place_of;
use super::twins::twin_follows;
use crate::job::Job;
use crate::measure::RunId;
use crate::route::{BendId, BendMake, Making};
use crate::workshop::{Drills, PinnedSaw};
use nook_geometry::units::LongestStick;

/// A decision about what is sawn and how.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
pub enum CutEdit {
    /// The job is made with this saw, as it is now.
    PinSaw {
        /// The saw.
        saw: PinnedSaw,
    },
    /// The job goes by what drills showed of how truly its builder works.
    PinDrills {
        /// What they showed.
        drills: Drills,
    },
    /// Says how a bend is made of tube; nothing returns to what is usual for the tube. A moulded elbow in its place goes.
    SetMake {
        /// Which pipe.
        run: RunId,
        /// Which bend.
        bend: BendId,
        /// Pies, and how many of which sort, or drawn.
        make: Option<BendMake>,
    },
    /// Says how long the longest stick of a pipe's tube is that is to be had, so that longer pieces are spliced; nothing where there is
    /// one for every piece.
    SetLongest {
        /// Which pipe.
        run: RunId,
        /// In mm.
        longest: Option<LongestStick>,
    },
    /// Says how a pipe is made, as far as that decides whether it lands.
    SetMaking {
        /// Which pipe.
        run: RunId,
        /// How.
        making: Making,
    },
}

impl CutEdit {
    pub(super) fn apply(&self, job: &mut Job) -> Result<(), EditError> {
        match self {
            Self::PinSaw { saw } => job.saw = saw.clone(),
            Self::PinDrills { drills } => job.drills = drills.clone(),
            Self::SetMake { run, bend, make } => {
                let index = index_of(job, *run)?;
                let run = &mut job.runs[index];
                let place = place_of(run, *bend)?;
                if let Some(spec) = run.route.bend_mut(place) {
                    spec.make = *make;
                }
                run.route.joints_mut().retain(|joint| joint.bend() != Some(*bend));
                twin_follows(job, index);
            }
            Self::SetLongest { run, longest } => {
                let index = index_of(job, *run)?;
                job.runs[index].longest = *longest;
            }
            Self::SetMaking { run, making } => {
                let index = index_of(job, *run)?;
                job.runs[index].making = *making;
            }
        }
        Ok(())
    }
}
