//! How truly a builder turns pieces to their lines and reads a gauge, as short drills show it.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

/// What was read at drills, try by try.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "Parts", into = "Parts")]
pub struct Drills {
    /// Pieces turned away and back to their lines and tacked: how far the lines were apart round the girth then, in mm, either way.
    #[schema(required = false)]
    clocks: Vec<f64>,
    /// One angle read again and again, the gauge taken off in between, in degrees.
    #[schema(required = false)]
    angles: Vec<f64>,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct Parts {
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    clocks: Vec<f64>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    angles: Vec<f64>,
}

/// What no drill shows.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum DrillsError {
    /// More tries than anybody makes.
    #[error("a drill has at most {} tries; this one has {count}", Drills::MOST)]
    TooMany {
        /// How many.
        count: usize,
    },
    /// Lines that belong to another piece.
    #[error("lines {mm} mm apart are not each other's: within {} they may be", Drills::MOST_APART)]
    Apart {
        /// How far apart.
        mm: f64,
    },
    /// No angle that a gauge shows.
    #[error("a gauge shows 0 to 180 degrees, not {degrees}")]
    Angle {
        /// What was said.
        degrees: f64,
    },
}

/// What is usual counts as so many tries: with few of his own a builder is taken to be as others are. Source: handbook, "Fit, weld,
/// prove", Record.
const PRIOR: f64 = 3.0;

impl Drills {
    /// Most tries of each.
    pub const MOST: usize = 50;
    /// Most mm that lines are apart.
    pub const MOST_APART: f64 = 30.0;

    /// From what was read.
    ///
    /// # Errors
    /// [`DrillsError`] as its variants say.
    pub fn new(clocks: Vec<f64>, angles: Vec<f64>) -> Result<Self, DrillsError> {
        if let Some(count) = [clocks.len(), angles.len()].into_iter().find(|count| *count > Self::MOST) {
            return Err(DrillsError::TooMany { count });
        }
        // What is no number is within nothing.
        if let Some(mm) = clocks.iter().find(|mm| !(0.0..=Self::MOST_APART).contains(&mm.abs())) {
            return Err(DrillsError::Apart { mm: *mm });
        }
        if let Some(degrees) = angles.iter().find(|degrees| !(0.0..=180.0).contains(*degrees)) {
            return Err(DrillsError::Angle { degrees: *degrees });
        }
        Ok(Self { clocks, angles })
    }

    /// Whether nothing was practised.
    #[must_use]
    pub const fn is_empty(&self) -> bool {
        self.clocks.is_empty() && self.angles.is_empty()
    }

    /// One standard deviation of a clock at a tack, in mm round the girth, where that of a builder of whom nothing is known is `usual`.
    #[must_use]
    pub fn clock_round(&self, usual: f64) -> f64 {
        let squares = self.clocks.iter().map(|mm| mm * mm).sum::<f64>();
        blended(usual, squares, self.clocks.len())
    }

    /// One standard deviation of a gauge's reading, in degrees, where that of a builder of whom nothing is known is `usual`.
    #[must_use]
    pub fn gauge(&self, usual: f64) -> f64 {
        // What the angle truly is is not known: one try is spent on it.
        let Some(free) = self.angles.len().checked_sub(1) else { return usual };
        let mean = self.angles.iter().sum::<f64>() / count(self.angles.len());
        let squares = self.angles.iter().map(|degrees| (degrees - mean) * (degrees - mean)).sum::<f64>();
        blended(usual, squares, free)
    }
}

/// The spread of `tries` whose squares sum to `squares`, and of as many usual ones as count beside them.
fn blended(usual: f64, squares: f64, tries: usize) -> f64 {
    ((PRIOR * usual * usual + squares) / (PRIOR + count(tries))).sqrt()
}

fn count(tries: usize) -> f64 {
    u32::try_from(tries).map_or(f64::INFINITY, f64::from)
}

impl TryFrom<Parts> for Drills {
    type Error = DrillsError;
    fn try_from(parts: Parts) -> Result<Self, DrillsError> {
        Self::new(parts.clocks, parts.angles)
    }
}

impl From<Drills> for Parts {
    fn from(drills: Drills) -> Self {
        Self { clocks: drills.clocks, angles: drills.angles }
    }
}
