//! What was measured of a run's pipe as it was built, and what was done to mend it, in the order of both.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{DeedId, FitAct, FitReading};

/// One thing that was measured or done.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "fit", rename_all = "snake_case", deny_unknown_fields)]
pub enum FitStep {
    /// Something was measured.
    Read {
        /// What.
        reading: FitReading,
        /// One standard deviation in mm or degrees; as is usual where nobody says.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        spread: Option<f64>,
    },
    /// Something was done.
    Acted {
        /// What.
        act: FitAct,
    },
}

impl FitStep {
    /// Most steps of one run.
    pub const MOST: usize = 200;

    /// Whether every figure is a number that may be read or done.
    #[must_use]
    pub fn is_sound(&self) -> bool {
        match self {
            Self::Read { reading, spread } => {
                reading.is_sound() && spread.is_none_or(|spread| (0.01..=20.0).contains(&spread))
            }
            Self::Acted { act } => act.is_sound(),
        }
    }
}

/// A step with the deed that noted it.
#[derive(Debug, Clone, PartialEq)]
pub struct FitEntry {
    /// Which deed.
    pub deed: DeedId,
    /// What it notes.
    pub step: FitStep,
}
