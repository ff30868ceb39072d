//! How long work took.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::work_step::WorkStep;

/// How long somebody worked on a step of a run: by the clock, or as he says it was.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Worked {
    /// On which step.
    pub step: WorkStep,
    /// How long, in minutes.
    pub minutes: f64,
    /// What was planned for the whole step then, in minutes, by the usual rates.
    pub planned: f64,
}

impl Worked {
    /// Most minutes of one note: a long week.
    pub const MOST: f64 = 6_000.0;

    /// Whether both are times that work takes.
    #[must_use]
    pub fn is_sound(&self) -> bool {
        self.minutes > 0.0 && [self.minutes, self.planned].iter().all(|minutes| (0.0..=Self::MOST).contains(minutes))
    }
}
