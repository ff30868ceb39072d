//! Decisions about what a pipe is: what it carries, its tube, its pressure, what flows.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::EditError;
use super::lookup::{find_first_way, index_of, sound};
use crate::flow::FlowGiven;
use crate::job::Job;
use crate::measure::RunId;
use crate::route::Stretch;
use crate::stock::{Duty, Tube};
use nook_geometry::units::{Insulation, Pressure};

/// A decision about what a pipe is.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
pub enum SpecEdit {
    /// Says what a pipe carries.
    SetDuty {
        /// Which pipe.
        run: RunId,
        /// What it carries.
        duty: Duty,
    },
    /// Chooses the tube.
    SetTube {
        /// Which pipe.
        run: RunId,
        /// What it is made of.
        tube: Tube,
    },
    /// Says the working pressure; nothing returns to the duty's usual one.
    SetPressure {
        /// Which pipe.
        run: RunId,
        /// In bar.
        pressure: Option<Pressure>,
    },
    /// Says how thick the wrapping round a pipe is; nothing where it is bare.
    SetInsulation {
        /// Which pipe.
        run: RunId,
        /// In mm.
        insulation: Option<Insulation>,
    },
    /// Says how thick the wrapping round one stretch of a pipe is, 0 where that is bare; nothing makes it as the run is.
    WrapStretch {
        /// Which pipe.
        run: RunId,
        /// Which straight or bend of it.
        stretch: Stretch,
        /// In mm.
        insulation: Option<Insulation>,
    },
    /// Says what flows through a pipe.
    SetFlow {
        /// Which pipe.
        run: RunId,
        /// How much, how hot.
        flow: FlowGiven,
    },
}

impl SpecEdit {
    pub(super) fn apply(&self, job: &mut Job) -> Result<(), EditError> {
        let index = index_of(job, self.run())?;
        let run = &mut job.runs[index];
        match self {
            Self::SetDuty { duty, .. } => run.duty = *duty,
            Self::SetTube { tube, .. } => run.tube = *tube,
            Self::SetPressure { pressure, .. } => run.pressure = *pressure,
            Self::SetInsulation { insulation, .. } => run.insulation = *insulation,
            Self::WrapStretch { stretch, insulation, .. } => {
                if !run.route.wrap(*stretch, *insulation) {
                    return Err(EditError::NoSuchStretch);
                }
            }
            Self::SetFlow { flow, .. } => run.flow = *flow,
        }
        sound(job)?;
        find_first_way(job, index)?;
        super::twins::twin_follows(job, index);
        Ok(())
    }

    const fn run(&self) -> RunId {
        match self {
            Self::SetDuty { run, .. }
            | Self::SetTube { run, .. }
            | Self::SetPressure { run, .. }
            | Self::SetInsulation { run, .. }
            | Self::WrapStretch { run, .. }
            | Self::SetFlow { run, .. } => *run,
        }
    }
}
