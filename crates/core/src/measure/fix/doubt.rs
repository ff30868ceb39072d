//! Which reading looks wrong. A robust test, not a guess: a reading is named only when leaving it out, and no other,
//! brings the rest together.

use nalgebra::DMatrix;
use statrs::distribution::{ChiSquared, ContinuousCDF};

use super::sight::{Kind, Pose, Row, Sight};
use super::solve::{Solved, solve};

/// What does not agree.
#[derive(Debug, Clone, PartialEq)]
pub enum Doubt {
    /// Nothing: the readings agree, or there are none to spare.
    Nothing,
    /// One reading stands against all others.
    Reading {
        /// Which.
        index: usize,
        /// What it reads beyond what the others say, in mm or radians.
        by: f64,
        /// Whether `by` is an angle.
        angle: bool,
    },
    /// They do not agree, and any of these could be the wrong one.
    OneOf {
        /// Which, the likeliest first.
        indices: Vec<usize>,
    },
    /// They do not agree, and leaving out any one of them does not mend it.
    Many,
}

/// Trust put in a test before it accuses: one false alarm in a thousand. Source for the test on one reading: Baarda,
/// "A testing procedure for use in geodetic networks" (1968).
const TRUST: f64 = 0.999;
/// The same for a single normalised residual.
const NORMALISED: f64 = 3.29;
/// How much more than foretold leaving a reading out may bring: far off, the sum is not straight.
const FAR_FROM: f64 = 2.0;
/// A reading that the others check by less than this share is not checked at all.
pub(super) const CHECKED: f64 = 1e-6;

/// A row's residual in standard deviations of itself, and how much the other rows check it (its redundancy number).
pub(super) fn normalised(solved: &Solved, covariance: &DMatrix<f64>, row: &Row) -> (f64, f64) {
    let slopes = solved.slopes(row);
    let checked = 1.0 - (slopes.transpose() * covariance * &slopes)[0] / row.sigma.powi(2);
    if checked > CHECKED { (row.residual / row.sigma / checked.sqrt(), checked) } else { (0.0, 0.0) }
}

fn disagree(solved: &Solved) -> bool {
    let spare = solved.spare();
    if spare == 0 {
        return false;
    }
    solved.squares > limit(spare)
        || solved.covariance().is_some_and(|covariance| {
            solved.rows.iter().any(|row| normalised(solved, &covariance, row).0.abs() > NORMALISED)
        })
}

/// Largest sum of squares that chance explains with so many equations to spare.
fn limit(spare: usize) -> f64 {
    let freedom = f64::from(u32::try_from(spare).unwrap_or(u32::MAX));
    ChiSquared::new(freedom).map_or(f64::INFINITY, |chi| chi.inverse_cdf(TRUST))
}

pub(super) fn doubt(solved: &Solved, sights: &[Sight]) -> Doubt {
    if !disagree(solved) {
        return Doubt::Nothing;
    }
    let counting = |index: usize| sights.iter().any(|sight| sight.index == index && sight.counts);
    let mut mended: Vec<(f64, usize, Pose)> = Vec::new();
    let mut untold = Vec::new();
    let covariance = solved.covariance();
    let spare = solved.spare();
    for sight in sights.iter().filter(|sight| counting(sight.index)) {
        // Leaving a reading out takes about this much off the sum of squares. Where that is far from enough, no fit is
        // needed to tell that it mends nothing.
        let taken_off: f64 = covariance
            .iter()
            .flat_map(|covariance| {
                let own = solved.rows.iter().filter(|row| row.index == sight.index);
                own.map(|row| normalised(solved, covariance, row).0.powi(2))
            })
            .sum();
        if spare > 1 && solved.squares - FAR_FROM * taken_off > limit(spare) {
            continue;
        }
        let rest: Vec<Sight> = sights.iter().filter(|other| other.index != sight.index).copied().collect();
        let Some(without) = solve(&rest, solved.pose, solved.free).filter(Solved::fixed) else { continue };
        // With nothing to spare the rest agree whatever they say.
        if without.spare() == 0 {
            untold.push((without.squares, sight.index));
        } else if without.squares <= limit(without.spare()) && !disagree(&without) {
            mended.push((without.squares, sight.index, without.pose));
        }
    }
    mended.sort_by(|p, q| p.0.total_cmp(&q.0));
    match mended.as_slice() {
        [] if untold.is_empty() => Doubt::Many,
        [] => Doubt::OneOf { indices: untold.into_iter().map(|(_, index)| index).collect() },
        [(best, index, pose), rest @ ..] if rest.iter().all(|next| next.0 - best > NORMALISED.powi(2)) => {
            let (by, angle) = beyond(sights, *index, pose);
            Doubt::Reading { index: *index, by, angle }
        }
        several => Doubt::OneOf { indices: several.iter().map(|(_, index, _)| *index).collect() },
    }
}

/// What a reading says beyond what `pose` gives.
fn beyond(sights: &[Sight], index: usize, pose: &Pose) -> (f64, bool) {
    let mut rows = Vec::new();
    sights.iter().filter(|sight| sight.index == index).for_each(|sight| sight.rows(pose, &mut rows));
    match (rows.as_slice(), sights.iter().find(|sight| sight.index == index).map(|sight| sight.kind)) {
        ([row], _) => (-row.residual, row.angle),
        (rows, Some(Kind::Image { .. })) => {
            (rows.iter().filter(|row| !row.angle).map(|row| row.residual.powi(2)).sum::<f64>().sqrt(), false)
        }
        (rows, _) => (rows.iter().map(|row| row.residual.powi(2)).sum::<f64>().sqrt(), true),
    }
}
