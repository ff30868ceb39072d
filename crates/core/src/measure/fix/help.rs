//! Which further reading would help most.

use nalgebra::DMatrix;

use super::sight::Sight;
use super::solve::{Free, STICK, Solved, worst_of};
use super::{Basis, Fix};

/// What a reading not yet taken would do.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Gain {
    /// Worst standard deviation now, in mm (for a direction, at the end of a 100 mm stick); infinite where it is open.
    pub now: f64,
    /// With the reading.
    pub then: f64,
}

/// One part in this many of a mm-squared of knowledge stands in for none, so that a reading's help can be told even
/// where others are still missing: one standard deviation of two metres.
const NEXT_TO_NOTHING: f64 = 1.0 / (2000.0 * 2000.0);

impl Fix {
    /// What one more reading would do for the worst axis. Only its kind and its anchors matter, not what it reads.
    /// `None` where it would say nothing of what is sought.
    #[must_use]
    pub fn with(&self, sight: &Sight) -> Option<Gain> {
        let mut rows = Vec::new();
        sight.rows(&self.pose, &mut rows);
        let touches =
            |free: Free| rows.iter().all(|row| (free.place || !row.uses_place()) && (free.aim || !row.uses_aim()));
        let known = self.solved.as_ref().or(self.tried.as_ref()).filter(|solved| touches(solved.free));
        let (free, normal) = match known {
            Some(solved) => (solved.free, solved.normal.clone()),
            None if self.place != Basis::Fixed && rows.iter().all(|row| !row.uses_aim()) => {
                (Free::PLACE, DMatrix::zeros(3, 3))
            }
            None => return None,
        };
        let count = normal.nrows();
        let blank = DMatrix::identity(count, count) * NEXT_TO_NOTHING;
        let holder = Solved { pose: self.pose, free, rows: Vec::new(), squares: 0.0, normal: normal.clone() };
        let mut then = normal.clone();
        for row in &rows {
            let slopes = holder.slopes(row);
            then += &slopes * slopes.transpose() / row.sigma.powi(2);
        }
        let (now, then) = (worst_of(&(normal + &blank)).0, worst_of(&(then + blank)).0);
        Some(Gain { now, then })
    }

    /// Worst standard deviation of everything sought, in mm; a direction's at the end of a 100 mm stick.
    #[must_use]
    pub fn worst_of_all(&self) -> f64 {
        self.solved.as_ref().map_or(f64::INFINITY, |solved| solved.worst().0.max(self.aim_spread * STICK))
    }
}
