//! How long a builder's own work takes beside what is usual: the handbook's figures, blended with his record by how much there is of it.
//! Source: handbook, "Fit, weld, prove", Record.

use std::collections::BTreeMap;

use crate::labour::StepMinutes;
use crate::record::Worked;
use crate::work_step::WorkStep;

/// What is usual counts as so many runs.
const PRIOR: f64 = 3.0;
/// How far from what is usual, as a share of it, a builder of whom nothing is known is: one standard deviation. Ours.
const UNKNOWN: f64 = 0.3;

/// How long each step takes beside what is planned by the handbook.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Rates {
    /// Of each step the shares that runs took of what was planned.
    shares: BTreeMap<WorkStep, Vec<f64>>,
    /// How many runs they are from.
    runs: usize,
}

impl Hours {
    /// Between which it likely is: one standard deviation to either side, and not below nothing.
    #[must_use]
    pub fn range(&self) -> [f64; 2] {
        [(self.mean - self.spread).max(0.0), self.mean + self.spread]
    }
}

/// What work is likely to take.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hours {
    /// On the mean.
    pub mean: f64,
    /// One standard deviation.
    pub spread: f64,
}

impl Rates {
    /// From what was noted, each with the run it is of: all of a step of a run together is one figure.
    #[must_use]
    pub fn of<K: Ord + Copy>(worked: impl IntoIterator<Item = (K, Worked)>) -> Self {
        let mut sums: BTreeMap<(K, WorkStep), (f64, f64)> = BTreeMap::new();
        for (run, one) in worked {
            let sum = sums.entry((run, one.step)).or_default();
            // What was planned is as it was when it was noted last.
            *sum = (sum.0 + one.minutes, one.planned);
        }
        let mut rates = Self::default();
        let mut runs: Vec<K> = Vec::new();
        for ((run, step), (minutes, planned)) in sums {
            if planned > 0.0 && minutes > 0.0 {
                rates.shares.entry(step).or_default().push(minutes / planned);
                runs.push(run);
            }
        }
        runs.sort_unstable();
        runs.dedup();
        rates.runs = runs.len();
        rates
    }

    /// How many runs it is from.
    #[must_use]
    pub const fn runs(&self) -> usize {
        self.runs
    }

    /// How long a step takes beside what is planned: on the mean, and one standard deviation from run to run.
    #[must_use]
    pub fn share(&self, step: WorkStep) -> (f64, f64) {
        let own = self.shares.get(&step).map_or(&[][..], Vec::as_slice);
        let count = u32::try_from(own.len()).map_or(f64::INFINITY, f64::from);
        let mean = (PRIOR + own.iter().sum::<f64>()) / (PRIOR + count);
        let squares: f64 = own.iter().map(|share| (share - mean) * (share - mean)).sum();
        let usual = UNKNOWN * UNKNOWN + (1.0 - mean) * (1.0 - mean);
        let variance = (PRIOR * usual + squares) / (PRIOR + count);
        (mean, variance.sqrt())
    }

    /// How well the mean of a step is known, as a share of the spread of one run.
    fn known(&self, step: WorkStep) -> f64 {
        let count = u32::try_from(self.shares.get(&step).map_or(0, Vec::len)).map_or(f64::INFINITY, f64::from);
        1.0 / (PRIOR + count).sqrt()
    }

    /// What work is likely to take. Runs differ each for itself; that the mean of a step is known only so well is common to all of them.
    #[must_use]
    pub fn hours(&self, labour: &[StepMinutes]) -> Hours {
        let (mut mean, mut squares) = (0.0, 0.0);
        for step in WorkStep::ALL {
            let minutes = || labour.iter().filter(|one| one.step == step).map(|one| one.minutes);
            let (share, spread) = self.share(step);
            let all: f64 = minutes().sum();
            mean += all * share;
            let each: f64 = minutes().map(|minutes| (minutes * spread).powi(2)).sum();
            squares += each + (all * spread * self.known(step)).powi(2);
        }
        Hours { mean: mean / 60.0, spread: squares.sqrt() / 60.0 }
    }
}
