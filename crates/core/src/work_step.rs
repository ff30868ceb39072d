//! The steps of the work.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A step of the work. Source: handbook, "The work".
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum WorkStep {
    /// Where things are.
    Measure,
    /// Which way a pipe goes.
    Route,
    /// What it is joined by and held by.
    Join,
    /// What is sawn.
    Cut,
    /// What is trimmed, turned or sanded so that it lands.
    Fit,
    /// How it is welded.
    Weld,
    /// Whether it is done.
    Prove,
}

impl WorkStep {
    /// Every step, in the order the work goes.
    pub const ALL: [Self; 7] = [Self::Measure, Self::Route, Self::Join, Self::Cut, Self::Fit, Self::Weld, Self::Prove];

    /// The step as a word in a sentence.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Measure => "measure",
            Self::Route => "route",
            Self::Join => "join",
            Self::Cut => "cut",
            Self::Fit => "fit",
            Self::Weld => "weld",
            Self::Prove => "prove",
        }
    }
}
