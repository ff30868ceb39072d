//! Which further reading would help most.

use nalgebra::DMatrix;

use super::Fix;
use super::sight::Sight;
use super::solve::{Free, slopes_at, worst_of};

/// What a reading not yet taken would do.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Gain {
    /// Worst standard deviation now, in mm (for a direction, at the end of a 100 mm stick); two metres where it is open.
    pub now: f64,
    /// With the reading.
    pub then: f64,
}

/// So little knowledge stands in for none, so that a reading's help can be told even where others are still missing:
/// one standard deviation of two metres.
const NEXT_TO_NOTHING: f64 = 1.0 / (2000.0 * 2000.0);

impl Fix {
    /// What one more reading would do for the worst axis. Only its kind and its anchors matter, not what it reads.
    /// `None` where it would say nothing of what is sought.
    #[must_use]
    pub fn with(&self, sight: &Sight) -> Option<Gain> {
        let mut rows = Vec::new();
        sight.rows(&self.pose, &mut rows);
        // With nothing sought yet, a reading begins a place.
        let blank = self.wanted.count() == 0;
        let (free, known) = if blank { (Free::PLACE, DMatrix::zeros(3, 3)) } else { (self.wanted, self.known.clone()) };
        if rows.iter().any(|row| (row.uses_place() && !free.place) || (row.uses_aim() && !free.aim)) {
            return None;
        }
        let little = DMatrix::identity(free.count(), free.count()) * NEXT_TO_NOTHING;
        let mut then = &known + &little;
        for row in &rows {
            let slopes = slopes_at(&self.pose, free, row);
            then += &slopes * slopes.transpose() / row.sigma.powi(2);
        }
        Some(Gain { now: worst_of(&(known + little)).0, then: worst_of(&then).0 })
    }

    /// Worst standard deviation of everything the readings bear on, in mm; a direction's at the end of a 100 mm stick.
    /// Infinite where they leave something wholly open, or bear on nothing.
    #[must_use]
    pub fn worst_of_all(&self) -> f64 {
        worst_of(&self.known).0
    }
}
