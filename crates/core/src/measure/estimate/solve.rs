//! The least-squares sum itself.

use levenberg_marquardt::{LeastSquaresProblem, LevenbergMarquardt};
use nalgebra::{Cholesky, DMatrix, DVector, Dyn, Matrix2, Matrix3, Owned, Unit};

use super::instruments::Instruments;
use super::observation::{Observation, Pose, square_to};
use super::row::{Row, covariance};
use nook_geometry::{Vector, least_axis};

/// A turn of one radian moves the far end of a 100 mm stick by 100 mm: that makes place and direction comparable.
pub(super) const STICK: f64 = 100.0;
/// What a fit leaves uncertain by more than this, in mm (one standard deviation, at the end of a 100 mm stick for
/// directions), it has not fixed: it could be anywhere in the bay.
const LOOSE: f64 = 150.0;

/// What is to be found.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Unknowns {
    pub(super) place: bool,
    pub(super) aim: bool,
}

impl Unknowns {
    pub(super) const PLACE: Self = Self { place: true, aim: false };
    pub(super) const AIM: Self = Self { place: false, aim: true };
    pub(super) const BOTH: Self = Self { place: true, aim: true };

    /// Whether a row says something about what is to be found and leans on nothing else.
    pub(super) fn takes(self, row: &Row) -> bool {
        (self.place || !row.uses_place()) && (self.aim || !row.uses_aim())
    }

    pub(super) fn count(self) -> usize {
        usize::from(self.place) * 3 + usize::from(self.aim) * 2
    }
}

/// What a fit came to.
#[derive(Debug, Clone)]
pub(super) struct Solved {
    pub(super) pose: Pose,
    pub(super) free: Unknowns,
    /// The rows that counted, at the solution.
    pub(super) rows: Vec<Row>,
    /// Weighted sum of squares.
    pub(super) squares: f64,
    /// The rows' weights: the inverse of their covariance.
    pub(super) weights: DMatrix<f64>,
    /// Normal matrix of the scaled unknowns: mm, and mm at the end of the stick.
    pub(super) normal: DMatrix<f64>,
}

struct Problem<'a> {
    sights: &'a [Observation],
    instruments: &'a Instruments,
    free: Unknowns,
    base: Pose,
    sides: [Vector; 2],
    by: DVector<f64>,
    /// Each row's standard deviation.
    sigmas: Vec<f64>,
}

impl Problem<'_> {
    fn pose(&self) -> Pose {
        let mut pose = self.base;
        if self.free.place {
            pose.at += Vector::new(self.by[0], self.by[1], self.by[2]);
        }
        if let (true, Some(out)) = (self.free.aim, pose.out) {
            pose.out = Some(Unit::new_normalize(self.swung(out)));
        }
        pose
    }

    /// The way out before it is brought back to unit length.
    fn swung(&self, out: Unit<Vector>) -> Vector {
        let first = if self.free.place { 3 } else { 0 };
        out.into_inner() + (self.sides[0] * self.by[first] + self.sides[1] * self.by[first + 1]) / STICK
    }

    fn rows(&self) -> Vec<Row> {
        counting(self.sights, &self.pose(), self.instruments, self.free)
    }

    /// A row's slopes against the scaled unknowns.
    fn slopes(&self, row: &Row) -> [f64; 5] {
        let mut slopes = [0.0; 5];
        let first = if self.free.place { 3 } else { 0 };
        if self.free.place {
            slopes[..3].copy_from_slice(row.by_place.as_slice());
        }
        if let (true, Some(out)) = (self.free.aim, self.base.out) {
            let swung = self.swung(out);
            let (length, now) = (swung.norm(), swung.normalize());
            for (slope, side) in slopes[first..].iter_mut().zip(self.sides) {
                *slope = (side - now * now.dot(&side)).dot(&row.by_aim) / length / STICK;
            }
        }
        slopes
    }
}

/// The counting rows at a pose that bear on what is free and on nothing else.
pub(super) fn counting(sights: &[Observation], pose: &Pose, instruments: &Instruments, free: Unknowns) -> Vec<Row> {
    let mut rows = Vec::with_capacity(sights.len() + 4);
    for sight in sights.iter().filter(|sight| sight.counts) {
        sight.rows(pose, instruments, &mut rows);
    }
    rows.retain(|row| free.takes(row));
    rows
}

impl LeastSquaresProblem<f64, Dyn, Dyn> for Problem<'_> {
    type ParameterStorage = Owned<f64, Dyn>;
    type ResidualStorage = Owned<f64, Dyn>;
    type JacobianStorage = Owned<f64, Dyn, Dyn>;

    fn set_params(&mut self, by: &DVector<f64>) {
        self.by.copy_from(by);
    }

    fn params(&self) -> DVector<f64> {
        self.by.clone()
    }

    fn residuals(&self) -> Option<DVector<f64>> {
        let rows = self.rows();
        let off = rows.iter().zip(&self.sigmas).map(|(row, sigma)| row.residual / sigma);
        Some(DVector::from_iterator(rows.len(), off))
    }

    fn jacobian(&self) -> Option<DMatrix<f64>> {
        let rows = self.rows();
        let mut all = DMatrix::zeros(rows.len(), self.free.count());
        for (index, row) in rows.iter().enumerate() {
            let slopes = self.slopes(row);
            all.row_mut(index).iter_mut().zip(slopes).for_each(|(cell, slope)| *cell = slope / self.sigmas[index]);
        }
        Some(all)
    }
}

/// Fits what is `free`, starting at `from`. `None` where too few rows count, or the sum does not converge.
pub(super) fn solve(sights: &[Observation], instruments: &Instruments, from: Pose, free: Unknowns) -> Option<Solved> {
    settle(sights, instruments, approach(sights, instruments, from, free)?, free)
}

/// Goes from a rough pose into the hollow it lies in, with each row weighed by itself: near enough for [`settle`].
pub(super) fn approach(sights: &[Observation], instruments: &Instruments, from: Pose, free: Unknowns) -> Option<Pose> {
    let rows = counting(sights, &from, instruments, free);
    if rows.len() < free.count() || (free.aim && from.out.is_none()) {
        return None;
    }
    let sigmas = rows.iter().map(|row| row.variance(instruments).sqrt()).collect();
    let sides = from.out.map_or([Vector::zeros(); 2], square_to);
    let by = DVector::zeros(free.count());
    let problem = Problem { sights, instruments, free, base: from, sides, by, sigmas };
    let (done, report) = LevenbergMarquardt::new().with_patience(60).with_tol(ROUGHLY).minimize(problem);
    if !report.termination.was_successful() && !report.objective_function.is_finite() {
        return None;
    }
    Some(done.pose())
}

/// Relative tolerance of the approach.
const ROUGHLY: f64 = 1e-4;
/// A step in mm that ends the settling, the most steps, and the longest that is left.
const SETTLED: f64 = 1e-9;
const STEPS: usize = 40;
const UNSETTLED: f64 = 1e-4;

/// The answer near a pose: Gauss-Newton with the rows' whole covariance, which what they share correlates, worked out
/// anew at every step since it depends on the direction anchors are seen in.
pub(super) fn settle(sights: &[Observation], instruments: &Instruments, near: Pose, free: Unknowns) -> Option<Solved> {
    let mut pose = near;
    for step in 0.. {
        let rows = counting(sights, &pose, instruments, free);
        if rows.len() < free.count() {
            return None;
        }
        let factor = Cholesky::new(covariance(&rows, instruments))?;
        let off = DVector::from_iterator(rows.len(), rows.iter().map(|row| row.residual));
        let slopes = slopes_of(&rows, &pose, free);
        let weighed = factor.solve(&slopes);
        let normal = slopes.tr_mul(&weighed);
        let by = normal.clone().cholesky().map(|normal| normal.solve(&weighed.tr_mul(&off)));
        let far = by.as_ref().map_or(0.0, |by| by.amax());
        if far < SETTLED || step == STEPS {
            let squares = off.dot(&factor.solve(&off));
            let sound = far < UNSETTLED && squares.is_finite();
            return sound.then(|| Solved { pose, free, rows, squares, weights: factor.inverse(), normal });
        }
        // Far from straight, a whole step may overshoot.
        let share = (LONGEST / far).min(1.0);
        moved(&mut pose, free, by.iter().flat_map(|by| by.iter()).map(|by| -by * share));
    }
    None
}

/// Longest step in mm.
const LONGEST: f64 = 40.0;

/// Moves a pose by a step of its scaled unknowns.
pub(super) fn moved(pose: &mut Pose, free: Unknowns, mut by: impl Iterator<Item = f64>) {
    if free.place {
        (0..3).for_each(|axis| pose.at[axis] += by.next().unwrap_or(0.0));
    }
    if let (true, Some(out)) = (free.aim, pose.out) {
        let swung: Vector = square_to(out).into_iter().map(|side| side * by.next().unwrap_or(0.0)).sum();
        pose.out = Some(Unit::new_normalize(out.into_inner() + swung / STICK));
    }
}

/// How much the counting readings tell of what is `free` at `pose`: the normal matrix of the scaled unknowns.
pub(super) fn knowledge(
    sights: &[Observation],
    instruments: &Instruments,
    pose: &Pose,
    free: Unknowns,
) -> DMatrix<f64> {
    let rows = counting(sights, pose, instruments, free);
    let slopes = slopes_of(&rows, pose, free);
    let nothing = || DMatrix::zeros(free.count(), free.count());
    let Some(factor) = Cholesky::new(covariance(&rows, instruments)) else { return nothing() };
    if rows.is_empty() { nothing() } else { slopes.tr_mul(&factor.solve(&slopes)) }
}

/// The rows' slopes against the scaled unknowns at `pose`, a line for each row.
pub(super) fn slopes_of(rows: &[Row], pose: &Pose, free: Unknowns) -> DMatrix<f64> {
    let sides = pose.out.map_or([Vector::zeros(); 2], square_to);
    let mut all = DMatrix::zeros(rows.len(), free.count());
    for (index, row) in rows.iter().enumerate() {
        let place = row.by_place.iter().copied().filter(|_| free.place);
        let aim = sides.iter().map(|side| side.dot(&row.by_aim) / STICK).filter(|_| free.aim);
        all.row_mut(index).iter_mut().zip(place.chain(aim)).for_each(|(cell, slope)| *cell = slope);
    }
    all
}

impl Solved {
    /// The worst standard deviation in mm and the scaled unknowns' direction it lies in.
    pub(super) fn worst(&self) -> (f64, DVector<f64>) {
        worst_of(&self.normal)
    }

    /// Whether everything that is free has been found.
    pub(super) fn fixed(&self) -> bool {
        self.worst().0 <= LOOSE
    }

    /// The covariance of the scaled unknowns in mm2.
    pub(super) fn covariance(&self) -> Option<DMatrix<f64>> {
        self.normal.clone().cholesky().map(|factor| factor.inverse())
    }

    /// The place's covariance in mm2, zero where it was not free, and the direction's in rad2 along [`square_to`]
    /// it.
    pub(super) fn spreads(&self) -> (Matrix3<f64>, Matrix2<f64>) {
        self.covariance().map_or((Matrix3::zeros(), Matrix2::zeros()), |whole| spreads_of(&whole, self.free))
    }

    /// Equations beyond those needed.
    pub(super) fn spare(&self) -> usize {
        self.rows.len() - self.free.count()
    }

    /// How well each row is checked by the others, in the order of the rows.
    pub(super) fn checks(&self) -> Vec<Check> {
        let off = DVector::from_iterator(self.rows.len(), self.rows.iter().map(|row| row.residual));
        let pulled = &self.weights * off;
        let known = self.known();
        let each = self.rows.iter().enumerate();
        each.map(|(i, row)| Check { index: row.index, pull: pulled[i], known: known[(i, i)], sigma: row.sigma })
            .collect()
    }

    /// The weights less what the fit used up: the information by which rows check each other. Source: Baarda, "A
    /// testing procedure for use in geodetic networks" (1968), for correlated observations.
    pub(super) fn known(&self) -> DMatrix<f64> {
        let slopes = slopes_of(&self.rows, &self.pose, self.free);
        let Some(covariance) = self.covariance() else { return DMatrix::zeros(self.rows.len(), self.rows.len()) };
        let weighed = &self.weights * slopes;
        &self.weights - &weighed * covariance * weighed.transpose()
    }
}

/// The place's covariance in mm2 and the direction's in rad2, out of that of the scaled unknowns.
pub(super) fn spreads_of(whole: &DMatrix<f64>, free: Unknowns) -> (Matrix3<f64>, Matrix2<f64>) {
    let place = if free.place { whole.fixed_view::<3, 3>(0, 0).into_owned() } else { Matrix3::zeros() };
    let first = if free.place { 3 } else { 0 };
    let aim = if free.aim { whole.fixed_view::<2, 2>(first, first) / STICK.powi(2) } else { Matrix2::zeros() };
    (place, aim)
}

/// How well a row is checked by the others.
#[derive(Debug, Clone, Copy)]
pub(super) struct Check {
    /// Which reading.
    pub(super) index: usize,
    /// The weighed residual.
    pull: f64,
    /// Its variance: the information the others have of what this row should be.
    known: f64,
    sigma: f64,
}

impl Check {
    /// A row whose own error shows in its residual by less than this share is not checked at all.
    const LEAST: f64 = 1e-6;

    /// The share of the row's own error that shows in its residual (the redundancy number): 0 unchecked, 1 fully.
    pub(super) fn share(&self) -> f64 {
        self.sigma.powi(2) * self.known
    }

    /// The row's residual in standard deviations of itself; 0 where nothing checks it.
    pub(super) fn normalised(&self) -> f64 {
        if self.share() > Self::LEAST { self.pull / self.known.sqrt() } else { 0.0 }
    }

    /// What the fit takes for the row's own error, in mm or radians, with what it shares with others taken off.
    pub(super) fn own_error(&self) -> f64 {
        self.sigma.powi(2) * self.pull
    }

    /// The least error in the row that would be told, 8 times in 10, at one false alarm in a thousand; `None` where
    /// nothing checks it. Source: Baarda, as above: a non-centrality of 4.13.
    pub(super) fn least_told(&self) -> Option<f64> {
        (self.share() > Self::LEAST).then(|| 4.13 / self.known.sqrt())
    }
}

/// The worst standard deviation that a normal matrix leaves, in mm, and in which direction.
pub(super) fn worst_of(normal: &DMatrix<f64>) -> (f64, DVector<f64>) {
    let Some((known, way)) = least_axis(normal) else { return (f64::INFINITY, DVector::zeros(normal.nrows())) };
    (if known > 0.0 { known.sqrt().recip() } else { f64::INFINITY }, way)
}
