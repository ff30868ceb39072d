//! What is believed of every error, before and after something is measured.

use nalgebra::{DMatrix, DVector};
use serde::Serialize;
use utoipa::ToSchema;

/// Errors as jointly normal, each in standard deviations of what it was before anything was measured.
#[derive(Debug, Clone, PartialEq)]
pub struct Belief {
    mean: DVector<f64>,
    covariance: DMatrix<f64>,
}

/// Something measured: so much of each error adds up to it, beside what it would be with none.
#[derive(Debug, Clone, PartialEq)]
pub struct Observed {
    /// What it gains per standard deviation of each error.
    pub row: DVector<f64>,
    /// What was read, less what it would be with no error.
    pub off: f64,
    /// One standard deviation of the reading itself.
    pub spread: f64,
}

/// A reading beside what was believed before it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Innovation {
    /// By how much it was more than expected.
    pub more: f64,
    /// One standard deviation of that.
    pub spread: f64,
}

impl Belief {
    /// Before anything is measured, of so many errors.
    #[must_use]
    pub fn before(count: usize) -> Self {
        Self { mean: DVector::zeros(count), covariance: DMatrix::identity(count, count) }
    }

    /// Means of the errors.
    #[must_use]
    pub const fn mean(&self) -> &DVector<f64> {
        &self.mean
    }

    /// Their covariance.
    #[must_use]
    pub const fn covariance(&self) -> &DMatrix<f64> {
        &self.covariance
    }

    /// How far a reading is from what is believed, before it is taken in.
    #[must_use]
    pub fn innovation(&self, seen: &Observed) -> Innovation {
        let more = seen.off - seen.row.dot(&self.mean);
        let own = seen.row.dot(&(&self.covariance * &seen.row));
        Innovation { more, spread: (own + seen.spread * seen.spread).max(0.0).sqrt() }
    }

    /// Takes a reading in, as a least-squares adjustment does (Kalman's update of one scalar). One that is exactly known already, or no
    /// number, changes nothing.
    pub fn observe(&mut self, seen: &Observed) {
        let gain = &self.covariance * &seen.row;
        let Innovation { more, spread } = self.innovation(seen);
        let variance = spread * spread;
        if !(variance.is_finite() && variance > 0.0 && more.is_finite()) {
            return;
        }
        self.mean += &gain * (more / variance);
        self.covariance -= &gain * gain.transpose() / variance;
        // Rounding must not make it lopsided.
        self.covariance = (&self.covariance + self.covariance.transpose()) / 2.0;
    }

    /// Draws an error anew: what is known of it no longer holds, as of how a pipe sits once it was taken off.
    pub fn renew(&mut self, at: usize) {
        self.mean[at] = 0.0;
        self.covariance.row_mut(at).fill(0.0);
        self.covariance.column_mut(at).fill(0.0);
        self.covariance[(at, at)] = 1.0;
    }

    /// The same with further errors of these means, of which nothing else is known.
    #[must_use]
    pub fn with(&self, means: &[f64]) -> Self {
        let (old, new) = (self.mean.len(), self.mean.len() + means.len());
        let mut mean = DVector::zeros(new);
        mean.rows_mut(0, old).copy_from(&self.mean);
        mean.rows_mut(old, means.len()).copy_from_slice(means);
        let mut covariance = DMatrix::identity(new, new);
        covariance.view_mut((0, 0), (old, old)).copy_from(&self.covariance);
        Self { mean, covariance }
    }
}
