//! Which readings look wrong. A robust test, not a guess: a reading, or a pair, is named only when leaving it out, and
//! no other, brings the rest together.

use nalgebra::{DMatrix, DVector, Matrix2, Matrix3};
use statrs::distribution::{ChiSquared, ContinuousCDF};

use super::instruments::Instruments;
use super::observation::{Kind, Observation, Pose};
use super::solve::{Solved, solve};
use super::starts::answers;

/// What does not agree.
#[derive(Debug, Clone, PartialEq)]
pub enum OutlierTest {
    /// Nothing: the readings agree, or there are none to spare.
    Nothing,
    /// These stand against all others: one reading, or two.
    Readings {
        /// Which, and by how much.
        wrong: Vec<Outlier>,
        /// What the others say without them.
        without: Without,
    },
    /// They do not agree, and any of these could be the wrong one.
    OneOf {
        /// Which, the likeliest first.
        indices: Vec<usize>,
    },
    /// They do not agree, and leaving out any two of them does not mend it.
    Many,
}

/// A reading that looks wrong.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Outlier {
    /// Which.
    pub index: usize,
    /// What it reads beyond what the others say, in mm or radians.
    pub by: f64,
    /// Whether `by` is an angle.
    pub angle: bool,
}

/// The answer without the readings that look wrong.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Without {
    /// Where the thing is then.
    pub pose: Pose,
    /// The place's covariance in mm2.
    pub spread: Matrix3<f64>,
    /// The direction's covariance in rad2.
    pub aim_spread: Matrix2<f64>,
}

/// Trust put in a test before it accuses: one false alarm in a thousand. Source for the test on one reading: Baarda,
/// "A testing procedure for use in geodetic networks" (1968).
const TRUST: f64 = 0.999;
/// The same for a single normalised residual.
const NORMALISED: f64 = 3.29;
/// How much more than foretold leaving readings out may bring: far off, the sum is not straight.
const FAR_FROM: f64 = 2.0;
/// Pairs that are fitted without, those that are foretold to mend most.
const PAIRS: usize = 16;

fn disagree(solved: &Solved) -> bool {
    let spare = solved.spare();
    if spare == 0 {
        return false;
    }
    solved.squares > limit(spare) || solved.checks().iter().any(|check| check.normalised().abs() > NORMALISED)
}

/// Largest sum of squares that chance explains with so many equations to spare.
fn limit(spare: usize) -> f64 {
    let freedom = f64::from(u32::try_from(spare).unwrap_or(u32::MAX));
    ChiSquared::new(freedom).map_or(f64::INFINITY, |chi| chi.inverse_cdf(TRUST))
}

/// A fit without some of the readings.
struct Left {
    out: Vec<usize>,
    rest: Solved,
}

pub(super) fn doubt(solved: &Solved, sights: &[Observation], instruments: &Instruments, rough: Pose) -> OutlierTest {
    if !disagree(solved) {
        return OutlierTest::Nothing;
    }
    let known = solved.known();
    let pulled = &solved.weights * DVector::from_iterator(solved.rows.len(), solved.rows.iter().map(|r| r.residual));
    // What leaving rows out takes off the sum of squares, as far as the sum is straight.
    let foretold = |out: &[usize]| {
        let rows: Vec<usize> = (0..solved.rows.len()).filter(|row| out.contains(&solved.rows[*row].index)).collect();
        let own = DMatrix::from_fn(rows.len(), rows.len(), |i, j| known[(rows[i], rows[j])]);
        let pull = DVector::from_iterator(rows.len(), rows.iter().map(|row| pulled[*row]));
        own.cholesky().map_or(0.0, |factor| pull.dot(&factor.solve(&pull)))
    };
    let without = |out: &[usize]| {
        let rest: Vec<Observation> = sights.iter().filter(|other| !out.contains(&other.index)).copied().collect();
        // Near the answer first; what is far out may have pulled it into another hollow.
        let near = solve(&rest, instruments, solved.pose, solved.free).filter(Solved::fixed);
        let best = near.filter(|near| !disagree(near));
        best.or_else(|| {
            let all = answers(&rest, instruments, rough, solved.free, false);
            all.into_iter().find(|answer| answer.free == solved.free)
        })
    };
    let counting: Vec<usize> = sights.iter().filter(|sight| sight.counts).map(|sight| sight.index).collect();
    let (mut mended, mut untold) = (Vec::new(), Vec::new());
    let spare = solved.spare();
    for index in &counting {
        let out = vec![*index];
        if spare > 1 && solved.squares - FAR_FROM * foretold(&out) > limit(spare) && spare > 2 {
            continue;
        }
        let Some(rest) = without(&out) else { continue };
        // With nothing to spare the rest agree whatever they say.
        if rest.spare() == 0 {
            untold.push((rest.squares, *index));
        } else if !disagree(&rest) {
            mended.push(Left { out, rest });
        }
    }
    if mended.is_empty() && !untold.is_empty() {
        return OutlierTest::OneOf { indices: untold.into_iter().map(|(_, index)| index).collect() };
    }
    if mended.is_empty() {
        mended = pairs(&counting, foretold, without);
    }
    mended.sort_by(|p, q| p.rest.squares.total_cmp(&q.rest.squares));
    match mended.as_slice() {
        [] => OutlierTest::Many,
        [best, others @ ..]
            if others.iter().all(|other| other.rest.squares - best.rest.squares > NORMALISED.powi(2)) =>
        {
            let (spread, aim_spread) = best.rest.spreads();
            let wrong = best.out.iter().map(|index| beyond(sights, instruments, *index, &best.rest.pose)).collect();
            OutlierTest::Readings { wrong, without: Without { pose: best.rest.pose, spread, aim_spread } }
        }
        several => {
            let mut indices = Vec::new();
            for index in several.iter().flat_map(|left| left.out.iter().copied()) {
                if !indices.contains(&index) {
                    indices.push(index);
                }
            }
            OutlierTest::OneOf { indices }
        }
    }
}

/// The pairs without which the rest agree. Two more must be left to check the rest by, or any would do.
fn pairs(
    counting: &[usize],
    foretold: impl Fn(&[usize]) -> f64,
    without: impl Fn(&[usize]) -> Option<Solved>,
) -> Vec<Left> {
    let every = counting.iter().enumerate().flat_map(|(i, one)| counting[..i].iter().map(|other| vec![*other, *one]));
    let mut every: Vec<(f64, Vec<usize>)> = every.map(|out| (foretold(&out), out)).collect();
    every.sort_by(|p, q| q.0.total_cmp(&p.0));
    let fitted = every.into_iter().take(PAIRS).filter_map(|(_, out)| Some(Left { rest: without(&out)?, out }));
    fitted.filter(|left| left.rest.spare() >= 2 && !disagree(&left.rest)).collect()
}

/// What a reading says beyond what `pose` gives.
fn beyond(sights: &[Observation], instruments: &Instruments, index: usize, pose: &Pose) -> Outlier {
    let mut rows = Vec::new();
    let own = sights.iter().filter(|sight| sight.index == index);
    own.clone().for_each(|sight| sight.rows(pose, instruments, &mut rows));
    let length = |angle: Option<bool>| {
        rows.iter()
            .filter(|row| angle.is_none_or(|angle| row.angle == angle))
            .map(|row| row.residual.powi(2))
            .sum::<f64>()
    };
    let image = own.clone().any(|sight| matches!(sight.kind, Kind::Image { .. }));
    match (rows.as_slice(), image) {
        ([row], _) => Outlier { index, by: -row.residual, angle: row.angle },
        (_, true) => Outlier { index, by: length(Some(false)).sqrt(), angle: false },
        (_, false) => Outlier { index, by: length(None).sqrt(), angle: true },
    }
}
