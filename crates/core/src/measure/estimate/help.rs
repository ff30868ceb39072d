//! Which further reading would help most.

use super::PoseEstimate;
use super::good::within_95;
use super::observation::Observation;
use super::solve::{STICK, Unknowns, knowledge, spreads_of, worst_of};

/// What a reading not yet taken would do.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Gain {
    /// Within how many mm the thing is known now, 95 times in 100 (a direction's at the end of a 100 mm stick); some
    /// metres where it is open.
    pub now: f64,
    /// With the reading.
    pub then: f64,
    /// The place alone in mm, now and then; 0 where it is not sought.
    pub place: [f64; 2],
    /// The direction alone in radians, now and then; 0 where it is not sought.
    pub aim: [f64; 2],
}

/// So little knowledge stands in for none, so that a reading's help can be told even where others are still missing:
/// one standard deviation of two metres.
const NEXT_TO_NOTHING: f64 = 1.0 / (2000.0 * 2000.0);

impl PoseEstimate {
    /// What one more reading would do. Only its kind and its anchors matter, not what it reads. `None` where it would
    /// say nothing of what is sought.
    #[must_use]
    pub fn with(&self, sight: &Observation) -> Option<Gain> {
        // With nothing sought yet, a reading begins a place.
        let free = if self.wanted.count() == 0 { Unknowns::PLACE } else { self.wanted };
        let further = Observation { counts: true, ..*sight };
        let mut rows = Vec::new();
        further.rows(&self.pose, &self.instruments, &mut rows);
        if rows.is_empty() || !rows.iter().all(|row| free.takes(row)) {
            return None;
        }
        let all: Vec<Observation> = self.sights.iter().copied().chain([further]).collect();
        let now = (*self.now.get_or_init(|| self.radii(&self.sights, free)))?;
        let then = self.radii(&all, free)?;
        let both = |(place, aim): (f64, f64)| place.hypot(aim * STICK);
        Some(Gain { now: both(now), then: both(then), place: [now.0, then.0], aim: [now.1, then.1] })
    }

    /// Within how many mm and radians readings fix it, 95 times in 100.
    fn radii(&self, sights: &[Observation], free: Unknowns) -> Option<(f64, f64)> {
        let mut known = knowledge(sights, &self.instruments, &self.pose, free);
        (0..free.count()).for_each(|i| known[(i, i)] += NEXT_TO_NOTHING);
        let whole = known.cholesky().map(|factor| factor.inverse())?;
        let (place, aim) = spreads_of(&whole, free);
        Some((within_95(place), within_95(aim)))
    }

    /// Worst standard deviation of everything the readings bear on, in mm; a direction's at the end of a 100 mm stick.
    /// Infinite where they leave something wholly open, or bear on nothing.
    #[must_use]
    pub fn worst_of_all(&self) -> f64 {
        worst_of(&knowledge(&self.sights, &self.instruments, &self.pose, self.wanted)).0
    }
}
