//! What one mistake would explain readings that no honest bench makes: a piece cut wrong, or a tack at another clock.

use nalgebra::{DMatrix, DVector};

use super::{ErrorOf, LandingModel, Observed};

/// One mistake that would explain what was read.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Suspect {
    /// What is wrong.
    pub of: ErrorOf,
    /// By how much, in mm or radians.
    pub by: f64,
    /// What share of what does not agree it explains, from 0 to 1.
    pub explains: f64,
}

/// Readings off by less than so many standard deviations squared, for each of them, are what a bench makes.
const HONEST: f64 = 9.0;
/// Mistakes that explain less than this share are none.
const TOLD: f64 = 0.6;
/// Mistakes that would each explain what was read, the likeliest first; none where what was read is what a bench makes. Each reading's
/// row has an entry for every source of `model`, or for fewer where later ones were not there yet. Source: Baarda 1968, "A testing
/// procedure for use in geodetic networks": the alternative that lowers the weighed sum of squares most.
#[must_use]
pub fn suspects(model: &LandingModel, readings: &[Observed]) -> Vec<Suspect> {
    let (count, sources) = (readings.len(), model.sources());
    if count == 0 {
        return Vec::new();
    }
    let mut rows = DMatrix::zeros(count, sources.len());
    for (at, seen) in readings.iter().enumerate() {
        for (column, value) in seen.row.iter().enumerate().take(sources.len()) {
            rows[(at, column)] = *value;
        }
    }
    let noise = DVector::from_iterator(count, readings.iter().map(|seen| seen.spread * seen.spread));
    let off = DVector::from_iterator(count, readings.iter().map(|seen| seen.off));
    let Some(factor) = (&rows * rows.transpose() + DMatrix::from_diagonal(&noise)).cholesky() else {
        return Vec::new();
    };
    let weighed = factor.solve(&off);
    let whole = off.dot(&weighed);
    // Of few readings a larger sum of squares is chance than of one.
    if whole < HONEST + 2.0 * readings.iter().skip(1).map(|_| 1.0).sum::<f64>() {
        return Vec::new();
    }
    let mistake = |of: ErrorOf| matches!(of, ErrorOf::Length(_) | ErrorOf::Clock(_) | ErrorOf::Bend(_));
    let each = sources.iter().enumerate().filter(|(_, source)| mistake(source.of)).filter_map(|(at, source)| {
        let row = rows.column(at).into_owned();
        let own = row.dot(&factor.solve(&row));
        if own <= 1e-12 {
            return None;
        }
        let by = row.dot(&weighed) / own;
        Some(Suspect { of: source.of, by: by * source.spread, explains: by * by * own / whole })
    });
    let mut found: Vec<Suspect> = each.filter(|one| one.explains >= TOLD).collect();
    found.sort_by(|p, q| q.explains.total_cmp(&p.explains));
    found
}
