//! The least-squares sum itself.

use levenberg_marquardt::{LeastSquaresProblem, LevenbergMarquardt};
use nalgebra::{DMatrix, DVector, Dyn, Matrix3, Owned, Unit};

use super::sight::{Pose, Row, Sight, square_to};
use crate::geometry::{Vector, least_axis};

/// A turn of one radian moves the far end of a 100 mm stick by 100 mm: that makes place and direction comparable.
pub(super) const STICK: f64 = 100.0;
/// What a fit leaves uncertain by more than this, in mm (one standard deviation, at the end of a 100 mm stick for
/// directions), it has not fixed: it could be anywhere in the bay.
const LOOSE: f64 = 150.0;

/// What is to be found.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Free {
    pub(super) place: bool,
    pub(super) aim: bool,
}

impl Free {
    pub(super) const PLACE: Self = Self { place: true, aim: false };
    pub(super) const AIM: Self = Self { place: false, aim: true };
    pub(super) const BOTH: Self = Self { place: true, aim: true };

    /// Whether a row says something about what is to be found and leans on nothing else.
    fn takes(self, row: &Row) -> bool {
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
    pub(super) free: Free,
    /// The rows that counted, at the solution.
    pub(super) rows: Vec<Row>,
    /// Weighted sum of squares.
    pub(super) squares: f64,
    /// Normal matrix of the scaled unknowns: mm, and mm at the end of the stick.
    pub(super) normal: DMatrix<f64>,
}

struct Problem<'a> {
    sights: &'a [Sight],
    free: Free,
    base: Pose,
    sides: [Vector; 2],
    by: DVector<f64>,
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
        counting(self.sights, &self.pose(), self.free)
    }

    /// A row's slopes against the scaled unknowns.
    fn slopes(&self, row: &Row) -> Vec<f64> {
        let mut slopes = Vec::with_capacity(5);
        if self.free.place {
            slopes.extend(row.by_place.iter());
        }
        if let (true, Some(out)) = (self.free.aim, self.base.out) {
            let swung = self.swung(out);
            let (length, now) = (swung.norm(), swung.normalize());
            let side = |side: &Vector| (side - now * now.dot(side)).dot(&row.by_aim) / length / STICK;
            slopes.extend(self.sides.iter().map(side));
        }
        slopes
    }
}

fn counting(sights: &[Sight], pose: &Pose, free: Free) -> Vec<Row> {
    let mut rows = Vec::with_capacity(sights.len() + 4);
    for sight in sights.iter().filter(|sight| sight.counts) {
        sight.rows(pose, &mut rows);
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
        let weighed = rows.iter().zip(&self.sigmas).map(|(row, sigma)| row.residual / sigma);
        Some(DVector::from_iterator(rows.len(), weighed))
    }

    fn jacobian(&self) -> Option<DMatrix<f64>> {
        let rows = self.rows();
        let slopes = rows.iter().zip(&self.sigmas);
        let all: Vec<f64> =
            slopes.flat_map(|(row, sigma)| self.slopes(row).into_iter().map(move |slope| slope / sigma)).collect();
        Some(DMatrix::from_row_slice(rows.len(), self.free.count(), &all))
    }
}

/// Fits what is `free`, starting at `from`. `None` where too few rows count, or the sum does not converge.
pub(super) fn solve(sights: &[Sight], from: Pose, free: Free) -> Option<Solved> {
    let mut pose = from;
    // What an anchor's own uncertainty adds depends on the direction it is seen in, so it is weighed anew once.
    let passes = if sights.iter().any(Sight::leans_on_the_uncertain) { 2 } else { 1 };
    for _ in 0..passes {
        let rows = counting(sights, &pose, free);
        if rows.len() < free.count() || (free.aim && pose.out.is_none()) {
            return None;
        }
        let sigmas: Vec<f64> = rows.iter().map(|row| row.sigma).collect();
        let sides = pose.out.map_or([Vector::zeros(); 2], square_to);
        let by = DVector::zeros(free.count());
        let problem = Problem { sights, free, base: pose, sides, by, sigmas };
        let (done, report) = LevenbergMarquardt::new().with_patience(60).minimize(problem);
        if !report.termination.was_successful() && !report.objective_function.is_finite() {
            return None;
        }
        pose = done.pose();
    }
    let rows = counting(sights, &pose, free);
    let squares = rows.iter().map(|row| (row.residual / row.sigma).powi(2)).sum();
    if !f64::is_finite(squares) {
        return None;
    }
    Some(Solved { pose, free, rows, squares, normal: knowledge(sights, &pose, free) })
}

/// How much the counting readings tell of what is `free` at `pose`: the normal matrix of the scaled unknowns.
pub(super) fn knowledge(sights: &[Sight], pose: &Pose, free: Free) -> DMatrix<f64> {
    let mut normal = DMatrix::zeros(free.count(), free.count());
    for row in counting(sights, pose, free) {
        let slopes = slopes_at(pose, free, &row);
        normal += &slopes * slopes.transpose() / row.sigma.powi(2);
    }
    normal
}

/// A row's slopes against the scaled unknowns at `pose`.
pub(super) fn slopes_at(pose: &Pose, free: Free, row: &Row) -> DVector<f64> {
    let place = row.by_place.iter().copied().filter(|_| free.place);
    let sides = pose.out.map_or([Vector::zeros(); 2], square_to);
    let aim = sides.into_iter().map(|side| side.dot(&row.by_aim) / STICK).filter(|_| free.aim);
    DVector::from_iterator(free.count(), place.chain(aim))
}

impl Solved {
    /// A row's slopes against the scaled unknowns at the solution.
    pub(super) fn slopes(&self, row: &Row) -> DVector<f64> {
        slopes_at(&self.pose, self.free, row)
    }

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

    /// The place's covariance in mm2; zero where the place was not free.
    pub(super) fn place_covariance(&self) -> Matrix3<f64> {
        let whole = self.covariance().filter(|_| self.free.place);
        whole.map_or_else(Matrix3::zeros, |whole| whole.fixed_view::<3, 3>(0, 0).into_owned())
    }

    /// Worst standard deviation of the direction in radians; 0 where it was not free.
    pub(super) fn aim_spread(&self) -> f64 {
        let whole = self.covariance().filter(|_| self.free.aim);
        whole.map_or(0.0, |whole| {
            let first = if self.free.place { 3 } else { 0 };
            let aim = whole.fixed_view::<2, 2>(first, first).into_owned();
            // The larger eigenvalue of two by two, in closed form.
            let (middle, off) = (aim.trace() / 2.0, aim.determinant());
            (middle + (middle * middle - off).max(0.0).sqrt()).max(0.0).sqrt() / STICK
        })
    }

    /// Equations beyond those needed.
    pub(super) fn spare(&self) -> usize {
        self.rows.len() - self.free.count()
    }
}

/// The worst standard deviation that a normal matrix leaves, in mm, and in which direction.
pub(super) fn worst_of(normal: &DMatrix<f64>) -> (f64, DVector<f64>) {
    let Some((known, way)) = least_axis(normal) else { return (f64::INFINITY, DVector::zeros(normal.nrows())) };
    (if known > 0.0 { known.sqrt().recip() } else { f64::INFINITY }, way)
}
