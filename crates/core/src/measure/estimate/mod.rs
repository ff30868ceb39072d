//! From readings to a place and a direction: least squares over everything known of one thing at once, how good the
//! answer is, which readings look wrong, and which further one would help; then one adjustment of all things together.

mod good;
mod help;
mod instruments;
mod network;
mod observation;
mod outlier_test;
mod row;
mod solve;
mod starts;

use std::cell::OnceCell;

use nalgebra::{Matrix2, Matrix3, Unit};

pub use good::within_95;
pub use help::Gain;
pub use instruments::Instruments;
pub use network::{Adjusted, Member, Network, Observations, Poses};
pub(crate) use observation::square_to;
pub use observation::{Kind, Leans, LeverArm, Observation, Pose, Rim, face_way};
pub use outlier_test::{Outlier, OutlierTest, Without};
pub use starts::AnchorShape;

use nook_geometry::{Vector, spread_axes};
use solve::{STICK, Solved, Unknowns, knowledge, worst_of};
use starts::{AS_GOOD, anchor_shape, answers, turn_between};

/// How a part of the answer came about.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Basis {
    /// No reading bears on it: what was typed holds.
    Typed,
    /// Readings bear on it but leave it open: what was typed holds.
    Open,
    /// Readings fix it.
    Fixed,
}

/// One reading beside the answer.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ReadingResidual {
    /// Its place among the thing's readings.
    pub index: usize,
    /// What the answer gives less what was read, in mm, or in radians for an angle; for a reading of several
    /// figures, how far off they are together. What it shares with other readings (the tape's zero, the vehicle's
    /// tilt, its anchor) is taken off where it counts.
    pub off: f64,
    /// Whether `off` is an angle.
    pub angle: bool,
    /// `off` in standard deviations of itself; `None` where no other reading checks this one, or it does not count.
    pub normalised: Option<f64>,
    /// How much the others check it, its redundancy number: 0 not at all, 1 fully.
    pub checked: f64,
    /// The least error in it that would be told, in mm or radians; `None` where nothing checks it.
    pub least_told: Option<f64>,
}

/// Where a thing is, and how well that is known.
#[derive(Debug, Clone)]
pub struct PoseEstimate {
    /// The answer.
    pub pose: Pose,
    /// How its place came about.
    pub place: Basis,
    /// How its direction came about.
    pub aim: Basis,
    /// The place's covariance in mm2; zero where it was typed.
    pub spread: Matrix3<f64>,
    /// The direction's covariance in rad2, along two directions square to it; zero where it was typed.
    pub aim_spread: Matrix2<f64>,
    /// Every reading beside the answer, in order.
    pub readings: Vec<ReadingResidual>,
    /// The other answers that fit as well, the one nearest to what was typed first.
    pub others: Vec<Pose>,
    /// How the tapes' ends lie.
    pub anchors: AnchorShape,
    /// Where readings leave the place open: the direction it can still go.
    pub loose: Option<Unit<Vector>>,
    /// What the counting readings bear on, whether they fix it or not.
    wanted: Unknowns,
    sights: Vec<Observation>,
    instruments: Instruments,
    rough: Pose,
    /// What the doubt is worked out from, when somebody asks.
    evidence: Option<Solved>,
    doubt: OnceCell<OutlierTest>,
    /// The radii now, for telling what a further reading would do.
    now: OnceCell<Option<(f64, f64)>>,
}

/// As [`fix_with`], with instruments that have no error of their own.
#[must_use]
pub fn estimate_pose(rough: Pose, sights: &[Observation]) -> PoseEstimate {
    estimate_pose_with(Instruments::EXACT, rough, sights)
}

/// Works out where a thing is from its `sights`. `rough` is what was typed: where the sum starts, which of two
/// answers is meant, and what holds where readings leave something open.
#[must_use]
pub fn estimate_pose_with(instruments: Instruments, rough: Pose, sights: &[Observation]) -> PoseEstimate {
    let bears = bearing(&rough, &instruments, sights);
    let wanted = Unknowns { place: bears.0, aim: bears.1 && rough.out.is_some() };
    let options = [wanted, Unknowns::PLACE, Unknowns::AIM].into_iter().filter(|free| free.count() > 0);
    let mut found = options
        .filter(|free| *free == wanted || wanted == Unknowns::BOTH)
        .map(|free| answers(sights, &instruments, rough, free, true))
        .find(|answers| !answers.is_empty())
        .unwrap_or_default();
    let others = which_is_meant(&mut found, &rough);
    let found = found.into_iter().next();
    let basis = |bears: bool, free: bool| match (bears, free) {
        (_, true) => Basis::Fixed,
        (true, false) => Basis::Open,
        (false, false) => Basis::Typed,
    };
    let free = found.as_ref().map_or(Unknowns { place: false, aim: false }, |solved| solved.free);
    let pose = found.as_ref().map_or(rough, |solved| solved.pose);
    let place = basis(bears.0, free.place);
    let loose = (place == Basis::Open && wanted.place)
        .then(|| worst_of(&knowledge(sights, &instruments, &pose, wanted)).1)
        .and_then(|way| Unit::try_new(Vector::new(way[0], way[1], way[2]), 1e-6));
    let (spread, aim_spread) = found.as_ref().map_or((Matrix3::zeros(), Matrix2::zeros()), Solved::spreads);
    PoseEstimate {
        pose,
        place,
        aim: basis(wanted.aim, free.aim),
        spread,
        aim_spread,
        readings: beside(&pose, found.as_ref(), sights, &instruments),
        others,
        anchors: anchor_shape(sights),
        loose,
        wanted,
        sights: sights.to_vec(),
        instruments,
        rough,
        evidence: found,
        doubt: OnceCell::new(),
        now: OnceCell::new(),
    }
}

impl PoseEstimate {
    /// A place and a direction as typed, with what they are taken to be known to: mm and radians, one standard
    /// deviation each way.
    #[must_use]
    pub fn typed(pose: Pose, mm: f64, radians: f64) -> Self {
        let bare = estimate_pose(pose, &[]);
        Self { spread: Matrix3::identity() * (mm * mm), aim_spread: Matrix2::identity() * (radians * radians), ..bare }
    }

    /// What does not agree. Worked out when it is first asked for: it takes several fits, and a drag needs only one.
    #[must_use]
    pub fn outlier_test(&self) -> &OutlierTest {
        self.doubt.get_or_init(|| {
            let solved = self.evidence.as_ref();
            solved.map_or(OutlierTest::Nothing, |solved| {
                outlier_test::doubt(solved, &self.sights, &self.instruments, self.rough)
            })
        })
    }

    /// Worst standard deviation of the place in mm; 0 where it was typed exactly.
    #[must_use]
    pub fn worst(&self) -> f64 {
        spread_axes(self.spread).map_or(f64::INFINITY, |[_, _, worst]| worst.0.max(0.0).sqrt())
    }

    /// Worst standard deviation of the direction in radians.
    #[must_use]
    pub fn worst_aim(&self) -> f64 {
        // The larger eigenvalue of two by two, in closed form.
        let (middle, off) = (self.aim_spread.trace() / 2.0, self.aim_spread.determinant());
        (middle + (middle * middle - off).max(0.0).sqrt()).max(0.0).sqrt()
    }

    /// The half axes of the place's error ellipsoid, each one standard deviation long, in mm; the longest first.
    #[must_use]
    pub fn axes(&self) -> [Vector; 3] {
        let Some([least, middle, most]) = spread_axes(self.spread) else { return [Vector::zeros(); 3] };
        [most, middle, least].map(|(variance, way)| way * variance.max(0.0).sqrt())
    }

    /// The answer after everything was adjusted together; what the readings are beside it follows.
    #[must_use]
    pub fn adjusted(mut self, to: &Adjusted, instruments: Instruments, sights: &[Observation]) -> Self {
        self.pose = to.pose;
        (self.spread, self.aim_spread) = (to.spread, to.aim_spread);
        for (fit, sight) in self.readings.iter_mut().zip(sights) {
            fit.off = off(sight, &to.pose, &instruments).0;
        }
        self
    }
}

/// Which of place and direction the counting readings bear on.
fn bearing(pose: &Pose, instruments: &Instruments, sights: &[Observation]) -> (bool, bool) {
    let mut rows = Vec::new();
    sights.iter().filter(|sight| sight.counts).for_each(|sight| sight.rows(pose, instruments, &mut rows));
    (rows.iter().any(row::Row::uses_place), rows.iter().any(row::Row::uses_aim))
}

/// Puts the answer that is meant first: the one that fits clearly better, else the one nearest to what was typed. Says
/// which others fit as well.
fn which_is_meant(found: &mut [Solved], rough: &Pose) -> Vec<Pose> {
    let Some(best) = found.first().map(|best| best.squares) else { return Vec::new() };
    let as_good = found.iter().take_while(|solved| solved.squares < best + AS_GOOD).count();
    let far = |solved: &Solved| (solved.pose.at - rough.at).norm() + turn_between(&solved.pose, rough) * STICK;
    found[..as_good].sort_by(|p, q| far(p).total_cmp(&far(q)));
    found[1..as_good].iter().map(|other| other.pose).collect()
}

/// How far a reading is off at a pose, and whether that is an angle.
fn off(sight: &Observation, pose: &Pose, instruments: &Instruments) -> (f64, bool) {
    let mut rows = Vec::new();
    sight.rows(pose, instruments, &mut rows);
    let angle = rows.iter().all(|row| row.angle);
    // A mirror image is off by its place; its direction is judged in the sum.
    let off = match rows.as_slice() {
        [row] => row.residual,
        rows => rows.iter().filter(|row| row.angle == angle).map(|row| row.residual.powi(2)).sum::<f64>().sqrt(),
    };
    (off, angle)
}

fn beside(
    pose: &Pose,
    solved: Option<&Solved>,
    sights: &[Observation],
    instruments: &Instruments,
) -> Vec<ReadingResidual> {
    let checks = solved.map(Solved::checks).unwrap_or_default();
    let one = |sight: &Observation| {
        let (off, angle) = off(sight, pose, instruments);
        let bare = ReadingResidual { index: sight.index, off, angle, normalised: None, checked: 0.0, least_told: None };
        let own: Vec<_> = checks.iter().filter(|check| check.index == sight.index && sight.counts).collect();
        // Of a reading with several rows, the row that is checked least well tells how far it can be trusted.
        let least_told = own.iter().map(|check| check.least_told()).collect::<Option<Vec<f64>>>();
        let worst = own.iter().map(|check| check.normalised()).max_by(|p, q| p.abs().total_cmp(&q.abs()));
        ReadingResidual {
            off: if let [only] = own.as_slice() { only.own_error() } else { off },
            normalised: worst.filter(|_| least_told.is_some() && !own.is_empty()),
            checked: own.iter().map(|check| check.share()).reduce(f64::min).unwrap_or(0.0).clamp(0.0, 1.0),
            least_told: least_told.and_then(|all| all.into_iter().reduce(f64::max)),
            ..bare
        }
    };
    sights.iter().map(one).collect()
}
