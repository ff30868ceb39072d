//! How places are strewn through the bay for rough ways, and how many of those are kept.

use super::grid::{Grid, Reach};

/// How places are strewn through the bay.
#[derive(Clone, Copy)]
pub(super) enum Sampling<'a> {
    /// Evenly through the box round the ports, half of them mirrored, so that a mirrored bay has mirrored ways.
    Even,
    /// Where a ball gets through between the mouths, other places each round.
    Guided { grid: &'a Grid, reach: &'a Reach, round: usize },
    /// Where nothing is clear: legs may run through things.
    Through,
}

impl Sampling<'_> {
    /// How much nearer than asked a rough leg may come, in mm.
    pub(super) const fn lax(&self) -> f64 {
        match self {
            Self::Even | Self::Guided { .. } => MOST_SHORT,
            Self::Through => 400.0,
        }
    }

    /// Cheapest chains kept of two to five bends.
    pub(super) const fn kept(&self) -> [usize; 4] {
        match self {
            Self::Even | Self::Through => [12, 18, 16, 10],
            Self::Guided { round: 0, .. } => [12, 24, 30, 20],
            Self::Guided { .. } => [16, 40, 50, 40],
        }
    }

    /// Ways whose free numbers all lie within this many mm of another's are that other one.
    pub(super) const fn alike(&self) -> f64 {
        match self {
            Self::Even | Self::Through => ALIKE,
            Self::Guided { .. } => ALIKE / 2.0,
        }
    }

    /// Leads tried along each port's axis, as shares of the bend radius beyond the least.
    pub(super) fn leads(&self) -> Vec<f64> {
        match self {
            Self::Even | Self::Through => LEADS.to_vec(),
            Self::Guided { .. } => (1..=28).map(|k| 0.2 * f64::from(k)).chain([6.5, 7.5, 9.0]).collect(),
        }
    }
}

/// Places strewn where a ball gets through, and how much longer than its shortest way the ways they lie on are, in each
/// round.
pub(super) const ROUNDS: [(usize, f64); 5] = [(220, 1.3), (300, 1.6), (380, 2.2), (380, 1.4), (460, 3.0)];
/// How many rounds there are.
pub(super) const MOST_ROUNDS: usize = ROUNDS.len();

/// Leads tried along each port's axis, as shares of the bend radius beyond the least.
const LEADS: [f64; 9] = [0.25, 0.5, 0.8, 1.2, 1.8, 2.6, 3.6, 5.0, 7.0];
/// A rough leg may come nearer than asked by this much in mm: what bringing the way to its best makes good.
const MOST_SHORT: f64 = 14.0;
/// Ways whose vertices all lie within this many mm of another's are that other one.
const ALIKE: f64 = 70.0;
