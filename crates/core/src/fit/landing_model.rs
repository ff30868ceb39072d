//! Whether a pipe lands: how its sections settle between its joints with every small error, to first order, and exactly.
//!
//! Every error is a twist of what is nearer B than it. The sections then settle where the sum of squares of use is least, as
//! they do while running; it lands where no joint is used up. Source: handbook, "Fit, weld, prove", The chance to land.

use nalgebra::{DMatrix, DVector, Isometry3};
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use rand_distr::StandardNormal;

use super::fit_joint::{FitJoint, PARTS, moved, off};
use super::{Belief, Body, ErrorAct, ErrorSource, Twist, chance_within, chance_within_roughly};
use crate::measure::End;
use nook_geometry::Vector;

/// A pipe of sections between joints, with all that may be off and what may be set to suit.
#[derive(Debug, Clone)]
pub struct LandingModel {
    joints: Vec<FitJoint>,
    sources: Vec<ErrorSource>,
    /// What is measured in place and made to suit.
    freedoms: Vec<Freedom>,
    /// What an error leaves as shares of what joints take: rows of joints, one column for each source, of one standard deviation.
    shares: DMatrix<f64>,
    /// The same with nothing off: a slide that is longer one way than the other draws a pipe to its middle.
    still: DVector<f64>,
    /// The projection from what joints are off by, over what they take, to what is left of that once all has settled.
    settle: DMatrix<f64>,
    /// How much each section moves in each of six ways, then how much of each freedom is taken, per what joints are off by over what they
    /// take.
    taken: DMatrix<f64>,
    /// What each row is divided by, and what is first taken off.
    scale: Vec<(f64, f64)>,
}

/// Something that is measured in place and made to suit.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Freedom {
    /// What it moves.
    pub act: ErrorAct,
    /// How far it is readily taken either way, in mm or radians.
    pub range: f64,
}

/// What is held is off by no more than this, in mm or radians.
const HELD: f64 = 1e-3;
/// A radian is to the sums what so many mm are.
const ARM: f64 = 100.0;
/// What is held weighs so much more than what gives.
const STIFF: f64 = 1e6;
/// Rounds in which what is made to suit is found.
const SUITED: usize = 3;
/// Below this share of the largest, a singular value is nothing.
const NOTHING: f64 = 1e-12;

impl LandingModel {
    /// Of a pipe with `joints` from A to B, whose nth section lies between its nth and the next.
    ///
    /// # Panics
    /// Never: bodies and joints that do not belong to each other are passed over.
    #[must_use]
    pub fn new(joints: Vec<FitJoint>, sources: Vec<ErrorSource>, freedoms: Vec<Freedom>) -> Self {
        let sections = joints.len().saturating_sub(1);
        let scale: Vec<(f64, f64)> = joints.iter().flat_map(FitJoint::scale).collect();
        let rows = scale.len();
        // What joints are off by, then what is taken of each freedom, so that as little is taken as serves.
        let weigh = |column: DVector<f64>| {
            let mut all = DVector::zeros(rows + freedoms.len());
            for (row, (by, _)) in scale.iter().enumerate() {
                all[row] = column[row] * weight(*by);
            }
            all
        };
        let mut columns: Vec<DVector<f64>> = Vec::new();
        for section in 0..sections {
            for twist in ways_of(&joints[section]) {
                columns.push(weigh(moved(&joints, section, &twist)));
            }
        }
        let (without, _) = projection(&columns, rows + freedoms.len());
        for (at, free) in freedoms.iter().enumerate() {
            let mut column = weigh(off(&joints, &free.act));
            column[rows + at] = 1.0 / free.range;
            columns.push(column);
        }
        let (settle, taken) = projection(&columns, rows + freedoms.len());
        let taken = -taken;
        let share = |settled: DVector<f64>| {
            DVector::from_iterator(
                rows,
                settled.iter().zip(&scale).map(|(figure, (by, _))| figure / weight(*by) / shared(*by)),
            )
        };
        let mut shares = DMatrix::zeros(scale.len(), sources.len());
        for (at, source) in sources.iter().enumerate() {
            let mut sum = DVector::zeros(scale.len());
            for act in &source.acts {
                sum += off(&joints, act);
            }
            let settled = if source.late { &without } else { &settle } * weigh(sum * source.spread);
            shares.set_column(at, &share(settled));
        }
        let middle = DVector::from_iterator(scale.len(), scale.iter().map(|(_, middle)| -middle));
        let still = share(&settle * weigh(middle));
        Self { joints, sources, freedoms, shares, still, settle, taken, scale }
    }

    /// What may be off.
    #[must_use]
    pub fn sources(&self) -> &[ErrorSource] {
        &self.sources
    }

    /// Its joints, from A.
    #[must_use]
    pub fn joints(&self) -> &[FitJoint] {
        &self.joints
    }

    /// The same pipe with other things that may be off.
    #[must_use]
    pub fn with_sources(&self, sources: Vec<ErrorSource>) -> Self {
        Self::new(self.joints.clone(), sources, self.freedoms.clone())
    }

    /// What is measured in place and made to suit.
    #[must_use]
    pub fn freedoms(&self) -> &[Freedom] {
        &self.freedoms
    }

    /// The chance that it lands, with every error as it is before anything is measured.
    #[must_use]
    pub fn chance(&self) -> f64 {
        self.chance_with(&DVector::zeros(self.sources.len()), None)
    }

    /// The chance with errors of these means and this covariance, in standard deviations each; as before anything is measured
    /// where none is given.
    #[must_use]
    pub fn chance_with(&self, mean: &DVector<f64>, covariance: Option<&DMatrix<f64>>) -> f64 {
        let middle = &self.shares * mean + &self.still;
        let spread = match covariance {
            Some(covariance) => &self.shares * covariance * self.shares.transpose(),
            None => &self.shares * self.shares.transpose(),
        };
        chance_within(&middle, &spread, &self.groups())
    }

    /// Covariance of the shares of what joints take once all has settled: six rows a joint, along it, beside it twice, tilted twice and
    /// turned.
    #[must_use]
    pub fn covariance(&self) -> DMatrix<f64> {
        &self.shares * self.shares.transpose()
    }

    /// Mean and covariance of the shares of what joints take, as is believed of the errors; what is believed beyond them is left out.
    #[must_use]
    pub fn left(&self, belief: &Belief) -> (DVector<f64>, DMatrix<f64>) {
        let count = self.sources.len();
        let mean = &self.shares * belief.mean().rows(0, count) + &self.still;
        let covariance = &self.shares * belief.covariance().view((0, 0), (count, count)) * self.shares.transpose();
        (mean, covariance)
    }

    /// The chance with shares of this mean and covariance.
    #[must_use]
    pub fn chance_of(&self, mean: &DVector<f64>, covariance: &DMatrix<f64>) -> f64 {
        chance_within(mean, covariance, &self.groups())
    }

    /// The same to about two in a hundred, ten times as fast.
    #[must_use]
    pub fn chance_roughly(&self, mean: &DVector<f64>, covariance: &DMatrix<f64>) -> f64 {
        chance_within_roughly(mean, covariance, &self.groups())
    }

    /// What one unit of an act does to the shares of what joints take.
    #[must_use]
    pub fn share_of_act(&self, act: &ErrorAct) -> DVector<f64> {
        let off = off(&self.joints, act);
        let mut all = DVector::zeros(self.settle.nrows());
        for (row, (by, _)) in self.scale.iter().enumerate() {
            all[row] = off[row] * weight(*by);
        }
        let settled = &self.settle * all;
        DVector::from_fn(self.scale.len(), |row, _| {
            let by = self.scale[row].0;
            settled[row] / weight(by) / shared(by)
        })
    }

    /// The chance with some sources at rest.
    #[must_use]
    pub fn chance_without(&self, at_rest: impl Fn(&ErrorSource) -> bool) -> f64 {
        let counts = self.sources.iter().map(|source| if at_rest(source) { 0.0 } else { 1.0 });
        let covariance = DMatrix::from_diagonal(&DVector::from_iterator(self.sources.len(), counts));
        self.chance_with(&DVector::zeros(self.sources.len()), Some(&covariance))
    }

    /// How much of all that is off a source stands for, as a share of the sum of squares.
    #[must_use]
    pub fn share_of(&self, source: usize) -> f64 {
        let whole = self.shares.norm_squared();
        if whole > 0.0 { self.shares.column(source).norm_squared() / whole } else { 0.0 }
    }

    /// Shares of what each joint takes once all has settled, with these errors in standard deviations: of each joint the largest
    /// of axial, offset and angle.
    #[must_use]
    pub fn uses(&self, errors: &DVector<f64>) -> Vec<f64> {
        self.used(&(&self.shares * errors + &self.still))
    }

    /// Share of `count` pipes that land, each made with errors of its own and put together exactly; the same every time.
    #[must_use]
    pub fn sampled(&self, count: u32) -> f64 {
        let mut random = StdRng::seed_from_u64(2026);
        let mut landed = 0_u32;
        for _ in 0..count {
            let errors = DVector::from_fn(self.sources.len(), |_, _| random.sample(StandardNormal));
            landed += u32::from(self.used(&self.settled(&errors)).iter().all(|used| *used <= 1.0));
        }
        f64::from(landed) / f64::from(count.max(1))
    }

    /// Shares of what joints take once all has settled, of a pipe put together exactly with these errors in standard deviations.
    fn settled(&self, errors: &DVector<f64>) -> DVector<f64> {
        // What is made to suit is found from what was off by then; what comes later is to first order.
        let mut early = errors.clone();
        let mut late = DVector::zeros(self.scale.len());
        if !self.freedoms.is_empty() {
            for (at, _) in self.sources.iter().enumerate().filter(|(_, source)| source.late) {
                late += self.shares.column(at) * errors[at];
                early[at] = 0.0;
            }
        }
        let (raw, _) = self.suited(&early);
        let mut settled = (&self.settle * raw).rows(0, self.scale.len()).into_owned();
        for (row, (by, _)) in self.scale.iter().enumerate() {
            settled[row] /= weight(*by) * shared(*by);
        }
        settled + late
    }

    /// What is left of each joint with as much of every freedom taken as suits, over what they take, and how much of each that is.
    fn suited(&self, errors: &DVector<f64>) -> (DVector<f64>, DVector<f64>) {
        let weighed = |suited: &DVector<f64>| {
            let raw = self.apart_suited(errors, suited);
            let mut all = DVector::zeros(self.settle.nrows());
            for (row, (by, middle)) in self.scale.iter().enumerate() {
                all[row] = (raw[row] - middle) * weight(*by);
            }
            for (at, free) in self.freedoms.iter().enumerate() {
                all[raw.len() + at] = suited[at] / free.range;
            }
            all
        };
        // What is made to suit is measured on what is there, and so is more than to first order.
        let count = self.freedoms.len();
        let mut suited = DVector::zeros(count);
        let mut raw = weighed(&suited);
        if count > 0 {
            for _ in 0..SUITED {
                suited += self.taken.rows(self.taken.nrows() - count, count) * raw;
                raw = weighed(&suited);
            }
        }
        (raw, suited)
    }

    /// How each section moves as a whole from where it was begun once all has settled, with these errors in standard deviations, and how
    /// much of each freedom is taken for it.
    #[must_use]
    pub fn settled_motions(&self, errors: &DVector<f64>) -> (Vec<Isometry3<f64>>, Vec<f64>) {
        let (raw, suited) = self.suited(errors);
        let taken = &self.taken * raw;
        let sections = self.joints.len().saturating_sub(1);
        let each = (0..sections).map(|section| {
            let ways = ways_of(&self.joints[section]);
            let by = |way: usize| taken[section * ways.len() + way];
            let sum = |part: fn(&Twist) -> Vector| {
                ways.iter().enumerate().map(|(way, twist)| part(twist) * by(way)).sum::<Vector>()
            };
            Twist { at: self.joints[section].at, turn: sum(|twist| twist.turn), shift: sum(|twist| twist.shift) }
                .motion(1.0)
        });
        (each.collect(), suited.iter().copied().collect())
    }

    /// How far the two sides of each joint are apart with every section begun where it was planned, of a pipe made with these errors
    /// in standard deviations: in mm and radians.
    #[must_use]
    pub fn apart(&self, errors: &DVector<f64>) -> DVector<f64> {
        self.apart_suited(errors, &DVector::zeros(self.freedoms.len()))
    }

    /// The same with so much of each freedom taken.
    fn apart_suited(&self, errors: &DVector<f64>, suited: &DVector<f64>) -> DVector<f64> {
        let sections = self.joints.len().saturating_sub(1);
        let mut ports = [Isometry3::identity(); 2];
        let mut ends = vec![Isometry3::identity(); sections];
        let mut acts: Vec<(&ErrorAct, f64)> = self
            .sources
            .iter()
            .zip(errors.iter())
            .flat_map(|(source, error)| source.acts.iter().map(move |act| (act, source.spread * error)))
            .chain(self.freedoms.iter().map(|free| &free.act).zip(suited.iter().copied()))
            .collect();
        acts.sort_by(|p, q| p.0.station.total_cmp(&q.0.station));
        for (act, amount) in acts {
            let pose = match act.on {
                Body::Port(End::A) => &mut ports[0],
                Body::Port(End::B) => &mut ports[1],
                Body::Section(section) => match ends.get_mut(section) {
                    Some(pose) => pose,
                    None => continue,
                },
            };
            *pose *= act.twist.motion(amount);
        }
        let mut rows = DVector::zeros(self.scale.len());
        for (at, joint) in self.joints.iter().enumerate() {
            let before = if at == 0 { ports[0] } else { ends[at - 1] };
            let after = if at == sections { ports[1] } else { Isometry3::identity() };
            let shift = after * joint.at - before * joint.at;
            let [first, second] = [before, after].map(|pose| pose.rotation * joint.along);
            let tilt = first.cross(&second);
            let turn = (after.rotation * before.rotation.inverse()).scaled_axis().dot(&joint.along);
            rows.fixed_rows_mut::<PARTS>(at * PARTS).copy_from(&joint.figures(shift, tilt + joint.along * turn));
        }
        rows
    }

    /// The largest share of each joint.
    #[must_use]
    pub fn used(&self, shares: &DVector<f64>) -> Vec<f64> {
        let each = (0..self.joints.len()).map(|joint| {
            let groups = FitJoint::groups(joint);
            groups
                .iter()
                .map(|rows| rows.iter().map(|row| shares[*row] * shares[*row]).sum::<f64>().sqrt())
                .fold(0.0, f64::max)
        });
        each.collect()
    }

    fn groups(&self) -> Vec<Vec<usize>> {
        (0..self.joints.len()).flat_map(FitJoint::groups).collect()
    }
}

/// The six ways in which a section moves that begins at a joint.
fn ways_of(joint: &FitJoint) -> [Twist; 6] {
    let [x, y, z] = [Vector::x(), Vector::y(), Vector::z()];
    let turn = |axis: Vector| Twist::turn(joint.at, axis / ARM);
    [Twist::shift(x), turn(x), Twist::shift(y), turn(y), Twist::shift(z), turn(z)]
}

/// What a figure weighs that takes `by`.
fn weight(by: f64) -> f64 {
    if by.is_infinite() {
        // Nothing judges it; it still has to have a weight that its share is told from.
        f64::MIN_POSITIVE.sqrt()
    } else if by > HELD {
        1.0 / by
    } else {
        STIFF
    }
}

/// What a figure is told as a share of.
const fn shared(by: f64) -> f64 {
    if by > HELD { by } else { HELD }
}

/// What is left of anything once as much of it is taken as these columns are able to, and how much of each column that takes.
fn projection(columns: &[DVector<f64>], rows: usize) -> (DMatrix<f64>, DMatrix<f64>) {
    let mut left = DMatrix::identity(rows, rows);
    let mut taken = DMatrix::zeros(columns.len(), rows);
    if columns.is_empty() || rows == 0 {
        return (left, taken);
    }
    let svd = DMatrix::from_columns(columns).svd(true, true);
    let largest = svd.singular_values.amax();
    if let (Some(u), Some(v)) = (svd.u, svd.v_t) {
        for (at, value) in svd.singular_values.iter().enumerate() {
            if *value > NOTHING * largest {
                let column = u.column(at);
                left -= column * column.transpose();
                taken += v.row(at).transpose() * column.transpose() / *value;
            }
        }
    }
    (left, taken)
}
