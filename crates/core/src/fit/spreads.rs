//! How well things are made, before anything is measured.

use crate::job::Job;

/// One standard deviation each: mm, and degrees. Source: handbook, "Fit, weld, prove", Where errors come from.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spreads {
    /// Length of a cut piece.
    pub piece: f64,
    /// What a saw cuts beside its setting, common to all its cuts.
    pub saw_common: f64,
    /// How one cut differs from the next.
    pub saw_cut: f64,
    /// Angle of a bend that is trued after tacking, or is bought or drawn.
    pub bend: f64,
    /// Clock at a tack, as an arc round the girth.
    pub clock_round: f64,
    /// Gap pulled in at a tacked seam.
    pub seam_gap: f64,
    /// Tilt that the weld of a seam pulls, welded in opposite quarters.
    pub pull: f64,
    /// What that weld shrinks along the tube.
    pub shrink: f64,
    /// Rounding of tape and marker.
    pub tape: f64,
}

impl Spreads {
    /// Of a builder of whom nothing is known.
    pub const USUAL: Self = Self {
        piece: 0.5,
        saw_common: 0.3,
        saw_cut: 0.15,
        bend: 0.3,
        clock_round: 1.0,
        seam_gap: 0.3,
        pull: 0.06,
        shrink: 0.15,
        tape: 0.5,
    };
    /// Of what a saw's error is known to when a coupon was sawn and nobody kept how its pairs differed: that of two pairs.
    pub const COUPON: f64 = 0.075;
    /// Tilt that a weld pulls that goes round from one side.
    pub const PULL_ONE_SIDE: f64 = 0.25;

    /// Of a job: with its saw, which may have been measured, and by the hand of a builder who may have practised.
    #[must_use]
    pub fn of(job: &Job) -> Self {
        let usual = Self::USUAL;
        Self {
            saw_common: if job.saw().bias.is_some() { Self::COUPON } else { usual.saw_common },
            clock_round: job.drills().clock_round(usual.clock_round),
            bend: job.drills().gauge(usual.bend),
            ..usual
        }
    }
}
