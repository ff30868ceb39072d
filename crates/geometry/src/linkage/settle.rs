//! Where a chain of rigid parts comes to rest: where the sum of squares of what its joints take, each as a share of what it
//! gives, is least. Source: handbook, "Joints, fittings, hoses and supports".

use nalgebra::{DMatrix, DVector, Isometry3, Point3, SymmetricEigen, Translation3, UnitQuaternion};
use thiserror::Error;

use super::errors::{Axis, JointSide, errors};
use super::{Compliance, JointErrors};
use crate::Vector;

/// A joint of a chain as it was fitted.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LinkageJoint {
    /// Its middle, in mm.
    pub at: Point3<f64>,
    /// Its axis, from the part before it to the part after; of length 1.
    pub along: Vector,
    /// What it takes.
    pub give: Compliance,
}

/// Rigid parts in a row between joints: one part fewer than joints, and a thing that is moved at either end. One joint has no
/// part between those two.
#[derive(Debug, Clone, PartialEq)]
pub struct Linkage {
    joints: Vec<LinkageJoint>,
    /// What each part is one with.
    parts: Vec<Body>,
    /// For each body that is free, the middle between the joints that it hangs in.
    middles: Vec<Point3<f64>>,
    /// Whether its first and its last joint are measured on the thing at that end of the chain.
    on_ends: [bool; 2],
}

/// What a part is one with.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Body {
    /// The thing at the start.
    Start,
    /// The thing at the end.
    End,
    /// Neither: the nth that is free.
    Free(usize),
}

/// A chain at rest.
#[derive(Debug, Clone, PartialEq)]
pub struct Settled {
    /// How each part has moved from where it was fitted.
    pub parts: Vec<Isometry3<f64>>,
    /// How far each joint is from how it was fitted.
    pub joints: Vec<JointErrors>,
    /// The sum, over joints that give, of the squares of angle, offset and axial shift, each as a share of what the joint
    /// gives.
    pub sum_of_squares: f64,
    free: Vec<Isometry3<f64>>,
}

/// Why a chain does not come to rest.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum NotSettled {
    /// What holds it at both ends gives nowhere that would do.
    #[error("it is held at both ends by joints that do not give the way it would have to move")]
    Tied,
    /// Its joints let it swing further than anything moves it: it hangs loose.
    #[error("its joints let it swing about")]
    Loose,
    /// The search for rest did not end.
    #[error("no place of rest was found")]
    NoRest,
}

/// What a turn is scaled by, in mm, so that turns and shifts are of one size.
const LEVER: f64 = 100.0;
/// Step in mm for the slope of the errors.
const STEP: f64 = 1e-4;
/// At rest once no part moves further than this, in mm.
const AT_REST: f64 = 1e-8;
/// What is held may be off by so much, in mm or by its lever.
const HELD: f64 = 1e-6;
/// Nor once a step makes the sum less by less than this share of it.
const LEAST_GAIN: f64 = 1e-12;
/// Below this share of the sum, rounding decides which of two is less.
const ROUNDING: f64 = 1e-13;
/// Where something is held, steps are of Gauss and Newton only, and the share is a hundred times that.
const LEAST_GAIN_HELD: f64 = 1e-10;
const MOST_STEPS: u32 = 1000;
/// A pipe takes about four steps of Gauss and Newton. A chain with a way it hardly resists would take hundreds, and after this
/// many the bend of the errors is counted too.
const QUICK: u32 = 8;
/// Step in mm for that bend.
const BEND_STEP: f64 = 1e-3;
/// How heavily what is held counts in judging a step.
const HEAVY: f64 = 1e4;
/// A way whose pivot is at least this share of the largest is resisted.
const RESISTED: f64 = 1e-3;
/// Eigenvalues below this share of the largest are none.
const NONE: f64 = 1e-9;

impl Linkage {
    /// A chain of parts between `joints`, at least one of them.
    #[must_use]
    pub fn new(joints: Vec<LinkageJoint>) -> Self {
        let count = joints.len().saturating_sub(1);
        let (mut body, mut free) = (Body::Start, 0);
        let mut parts: Vec<Body> = Vec::with_capacity(count);
        for joint in joints.iter().take(count) {
            if !joint.give.is_none() {
                body = Body::Free(free);
                free += 1;
            }
            parts.push(body);
        }
        // What the last joint does not let move is one with the thing at the end.
        if joints.last().is_some_and(|joint| joint.give.is_none())
            && let Some(Body::Free(last)) = parts.last().copied()
        {
            parts.iter_mut().filter(|body| **body == Body::Free(last)).for_each(|body| *body = Body::End);
            free -= 1;
        }
        let middle = |body: usize| {
            let of = (0..count).filter(|part| parts[*part] == Body::Free(body));
            let ends = of.flat_map(|part| [joints[part].at.coords, joints[part + 1].at.coords]);
            let (sum, count) = ends.fold((Vector::zeros(), 0.0), |(sum, count), at| (sum + at, count + 1.0));
            Point3::from(sum / f64::max(count, 1.0))
        };
        let middles = (0..free).map(middle).collect();
        Self { joints, parts, middles, on_ends: [true; 2] }
    }

    /// The same where offset and axial shift of the first and the last joint are measured on the thing at that end, as is
    /// usual, or between both sides, as everywhere else.
    #[must_use]
    pub const fn measured_on_ends(mut self, on_ends: [bool; 2]) -> Self {
        self.on_ends = on_ends;
        self
    }

    /// Its joints.
    #[must_use]
    pub fn joints(&self) -> &[LinkageJoint] {
        &self.joints
    }

    /// How many parts there are.
    #[must_use]
    pub fn count(&self) -> usize {
        self.parts.len()
    }

    /// Whether nothing between the two ends gives at all.
    #[must_use]
    pub fn is_rigid(&self) -> bool {
        self.joints.iter().all(|joint| joint.give.is_none())
    }

    /// Whether a joint gives in one way and is held in another.
    fn holds(&self) -> bool {
        let held =
            |give: &Compliance| !give.is_none() && (give.angle <= 0.0 || give.offset <= 0.0 || give.axial <= 0.0);
        self.joints.iter().any(|joint| held(&joint.give))
    }

    /// Whether a part hangs between joints that give, and is one with neither end.
    #[must_use]
    pub fn floats(&self, part: usize) -> bool {
        matches!(self.parts.get(part), Some(Body::Free(_)))
    }

    /// Where it comes to rest as the things at its start and end move by `outer`, each part grown by a share `growth` of its
    /// length; from `near`, an earlier place of rest, where there is one.
    ///
    /// # Errors
    /// [`NotSettled::Tied`] where what gives in no way would have to; [`NotSettled::NoRest`] where the search does not end.
    pub fn settle(
        &self,
        outer: [Isometry3<f64>; 2],
        growth: f64,
        near: Option<&Settled>,
    ) -> Result<Settled, NotSettled> {
        let free = near.map_or_else(|| vec![Isometry3::identity(); self.middles.len()], |near| near.free.clone());
        let mut chain = Moved { linkage: self, outer, growth, free };
        if self.middles.is_empty() {
            return chain.settled();
        }
        let mut now = chain.merit();
        let mut damping = 0.0;
        let gain = if self.holds() { LEAST_GAIN_HELD } else { LEAST_GAIN };
        for count in 0..MOST_STEPS {
            let slope = if count < QUICK { chain.slope() } else { chain.curved() };
            loop {
                let step = slope.step(damping)?;
                let before = chain.free.clone();
                chain.move_by(&step);
                if slope.held.is_some() {
                    // A long step along what is held leaves it by its bend.
                    let back = chain.slope().restoring()?;
                    chain.move_by(&back);
                }
                let then = chain.merit();
                if then <= now + ROUNDING * (1.0 + now) {
                    let least = step.amax() < AT_REST || now - then < gain * (1.0 + now);
                    now = then;
                    if least {
                        return chain.settled();
                    }
                    damping = if damping > 1e-7 { damping / 10.0 } else { 0.0 };
                    break;
                }
                chain.free = before;
                damping = f64::max(damping * 10.0, 1e-6);
                if damping > 1e3 {
                    return chain.settled();
                }
            }
        }
        Err(NotSettled::NoRest)
    }
}

/// A chain whose free parts are somewhere.
struct Moved<'a> {
    linkage: &'a Linkage,
    outer: [Isometry3<f64>; 2],
    growth: f64,
    free: Vec<Isometry3<f64>>,
}

/// A row of what is to be least, or of what is to be nought.
type Row = (f64, bool);

impl Moved<'_> {
    fn pose(&self, body: Body) -> &Isometry3<f64> {
        match body {
            Body::Start => &self.outer[0],
            Body::End => &self.outer[1],
            Body::Free(nth) => &self.free[nth],
        }
    }

    /// The bodies before and after a joint.
    fn sides(&self, joint: usize) -> [Body; 2] {
        let before = joint.checked_sub(1).map_or(Body::Start, |part| self.linkage.parts[part]);
        [before, self.linkage.parts.get(joint).copied().unwrap_or(Body::End)]
    }

    /// Where a body's end at a joint is, grown from what holds it: a free one about its middle. The thing at an end does not
    /// grow.
    fn end(&self, joint: usize, body: Body, outside: bool) -> Point3<f64> {
        let joints = &self.linkage.joints;
        let at = joints[joint].at;
        let fixed = match body {
            Body::Start => joints[0].at,
            Body::End => joints[joints.len() - 1].at,
            Body::Free(nth) => self.linkage.middles[nth],
        };
        if outside { at } else { at + (at - fixed) * self.growth }
    }

    fn errors_at(&self, joint: usize, poses: [&Isometry3<f64>; 2]) -> JointErrors {
        let bodies = self.sides(joint);
        let last = self.linkage.joints.len() - 1;
        let axis = match joint {
            0 if self.linkage.on_ends[0] => Axis::Before,
            _ if joint == last && self.linkage.on_ends[1] => Axis::After,
            _ => Axis::Middle,
        };
        let side = |which: usize, outside: bool| JointSide {
            pose: poses[which],
            end: self.end(joint, bodies[which], outside),
        };
        errors(&self.linkage.joints[joint].along, &side(0, joint == 0), &side(1, joint == last), axis)
    }

    fn rows(&self, joint: usize, poses: [&Isometry3<f64>; 2]) -> [Row; 7] {
        let give = &self.linkage.joints[joint].give;
        let found = self.errors_at(joint, poses);
        let row =
            |error: f64, give: f64, lever: f64| if give > 0.0 { (error / give, false) } else { (error * lever, true) };
        let angle = |i: usize| row(found.angle[i], give.angle, LEVER);
        let offset = |i: usize| row(found.offset[i], give.offset, 1.0);
        [angle(0), angle(1), angle(2), offset(0), offset(1), offset(2), row(found.axial, give.axial, 1.0)]
    }

    /// What is to be least, with what is to be nought counted heavily.
    fn merit(&self) -> f64 {
        let giving = (0..self.linkage.joints.len()).filter(|joint| !self.linkage.joints[*joint].give.is_none());
        let rows = giving.flat_map(|joint| self.rows(joint, self.sides(joint).map(|body| self.pose(body))));
        rows.map(|(row, held)| if held { HEAVY * row.abs() } else { row * row }).sum()
    }

    /// The normal equations of what is to be least, and of what is to be nought.
    fn slope(&self) -> Slope {
        let size = 6 * self.free.len();
        // Normal equations of what is to be least, and of what is to be nought.
        let (mut square, mut slope) = (DMatrix::<f64>::zeros(size, size), DVector::<f64>::zeros(size));
        let (mut held, mut wanted) = (DMatrix::<f64>::zeros(size, size), DVector::<f64>::zeros(size));
        let mut holds = false;
        for joint in 0..self.linkage.joints.len() {
            if self.linkage.joints[joint].give.is_none() {
                continue;
            }
            let bodies = self.sides(joint);
            let poses = bodies.map(|body| self.pose(body));
            let rows = self.rows(joint, poses);
            let mut slopes: Vec<(usize, [f64; 7])> = Vec::with_capacity(12);
            for (side, body) in bodies.into_iter().enumerate() {
                let Body::Free(nth) = body else { continue };
                for axis in 0..6 {
                    let at = |by: f64| {
                        let moved = nudged(poses[side], &self.linkage.middles[nth], axis, by);
                        let poses = if side == 0 { [&moved, poses[1]] } else { [poses[0], &moved] };
                        self.rows(joint, poses)
                    };
                    let (up, down) = (at(STEP), at(-STEP));
                    slopes.push((6 * nth + axis, std::array::from_fn(|row| (up[row].0 - down[row].0) / (2.0 * STEP))));
                }
            }
            for (row, (error, is_held)) in rows.into_iter().enumerate() {
                holds |= is_held;
                let (square, slope) = if is_held { (&mut held, &mut wanted) } else { (&mut square, &mut slope) };
                for (i, one) in &slopes {
                    slope[*i] -= one[row] * error;
                    for (j, other) in &slopes {
                        square[(*i, *j)] += one[row] * other[row];
                    }
                }
            }
        }
        Slope { square, slope, held: holds.then_some((held, wanted)) }
    }

    /// The same with how the errors bend counted in, as Newton's own method does; not where something is held.
    fn curved(&self) -> Slope {
        let mut here = self.slope();
        if here.held.is_some() {
            return here;
        }
        let size = here.slope.len();
        for i in 0..size {
            let at = |by: f64| {
                let mut step = DVector::<f64>::zeros(size);
                step[i] = by;
                let mut there = Moved { free: self.free.clone(), ..*self };
                there.move_by(&step);
                there.slope().slope
            };
            here.square.set_column(i, &((at(-BEND_STEP) - at(BEND_STEP)) / (2.0 * BEND_STEP)));
        }
        here.square = (&here.square + here.square.transpose()) / 2.0;
        here
    }

    fn move_by(&mut self, step: &DVector<f64>) {
        for (nth, pose) in self.free.iter_mut().enumerate() {
            let part = step.rows(6 * nth, 6);
            let by = Vector::new(part[0], part[1], part[2]);
            let turn = UnitQuaternion::from_scaled_axis(Vector::new(part[3], part[4], part[5]) / LEVER);
            *pose = moved(pose, &self.linkage.middles[nth], by, turn);
        }
    }

    fn settled(&self) -> Result<Settled, NotSettled> {
        let (mut joints, mut sum) = (Vec::with_capacity(self.linkage.joints.len()), 0.0);
        for joint in 0..self.linkage.joints.len() {
            let poses = self.sides(joint).map(|body| self.pose(body));
            let found = self.errors_at(joint, poses);
            if self.linkage.joints[joint].give.is_none() {
                // The two sides are one, unless both ends of the chain are; growth then has nowhere to go and is not counted.
                let grown = (poses[0].translation.vector - poses[1].translation.vector).norm()
                    + poses[0].rotation.angle_to(&poses[1].rotation) * LEVER;
                if grown > HELD {
                    return Err(NotSettled::Tied);
                }
                joints.push(JointErrors::default());
                continue;
            }
            for (row, held) in self.rows(joint, poses) {
                if held && row.abs() > HELD {
                    return Err(NotSettled::Tied);
                }
                sum += if held { 0.0 } else { row * row };
            }
            joints.push(found);
        }
        let parts = self.linkage.parts.iter().map(|body| *self.pose(*body)).collect();
        Ok(Settled { parts, joints, sum_of_squares: sum, free: self.free.clone() })
    }
}

/// A pose after a further turn about where `middle` is now, and a shift.
fn moved(pose: &Isometry3<f64>, middle: &Point3<f64>, by: Vector, turn: UnitQuaternion<f64>) -> Isometry3<f64> {
    let now = pose * middle;
    let rotation = turn * pose.rotation;
    Isometry3::from_parts(Translation3::from(now.coords + by - rotation * middle.coords), rotation)
}

fn nudged(pose: &Isometry3<f64>, middle: &Point3<f64>, axis: usize, by: f64) -> Isometry3<f64> {
    let mut way = Vector::zeros();
    way[axis % 3] = by;
    if axis < 3 {
        moved(pose, middle, way, UnitQuaternion::identity())
    } else {
        moved(pose, middle, Vector::zeros(), UnitQuaternion::from_scaled_axis(way / LEVER))
    }
}

/// Normal equations at one place: of what is to be least, and of what is held.
struct Slope {
    square: DMatrix<f64>,
    slope: DVector<f64>,
    held: Option<(DMatrix<f64>, DVector<f64>)>,
}

impl Slope {
    /// The least step that brings to nought what is held.
    fn restoring(&self) -> Result<DVector<f64>, NotSettled> {
        match &self.held {
            Some((held, wanted)) => Ok(nearest(held, wanted)?.0),
            None => Ok(DVector::zeros(self.slope.len())),
        }
    }

    /// The step of Levenberg and Marquardt that brings to nought what is held as nearly as can be, and among those makes the
    /// rest least. `damping` is a share of the steepest way.
    fn step(&self, damping: f64) -> Result<DVector<f64>, NotSettled> {
        let Some((held, wanted)) = &self.held else { return solved(self.square.clone(), &self.slope, damping) };
        let (step, free) = nearest(held, wanted)?;
        if free.is_empty() {
            return Ok(step);
        }
        let basis = DMatrix::from_columns(&free);
        let left = basis.transpose() * (&self.slope - &self.square * &step);
        Ok(step + &basis * solved(basis.transpose() * &self.square * &basis, &left, damping)?)
    }
}

/// The least step that brings to nought what is held, and the ways that leave it held.
fn nearest(held: &DMatrix<f64>, wanted: &DVector<f64>) -> Result<(DVector<f64>, Vec<DVector<f64>>), NotSettled> {
    let eigen = SymmetricEigen::try_new(held.clone(), 1e-15, 10_000).ok_or(NotSettled::NoRest)?;
    let least = eigen.eigenvalues.amax() * NONE;
    let (mut step, mut free) = (DVector::<f64>::zeros(wanted.len()), Vec::new());
    for (value, way) in eigen.eigenvalues.iter().zip(eigen.eigenvectors.column_iter()) {
        if *value > least {
            step += way * (way.dot(wanted) / value);
        } else {
            free.push(way.into_owned());
        }
    }
    Ok((step, free))
}

/// The step that solves `square x = slope`; what turns a straight part about itself, say, is left alone.
fn solved(square: DMatrix<f64>, slope: &DVector<f64>, damping: f64) -> Result<DVector<f64>, NotSettled> {
    if damping <= 0.0
        && let Some(factors) = square.clone().cholesky()
    {
        // Where every way is resisted there is one answer, and this finds it sooner.
        let pivots = factors.l_dirty().diagonal();
        if pivots.amin() > pivots.amax() * RESISTED {
            return Ok(factors.solve(slope));
        }
    }
    let eigen = SymmetricEigen::try_new(square, 1e-15, 10_000).ok_or(NotSettled::NoRest)?;
    let most = eigen.eigenvalues.amax();
    let mut step = DVector::<f64>::zeros(slope.len());
    for (value, way) in eigen.eigenvalues.iter().zip(eigen.eigenvectors.column_iter()) {
        if value.abs() > most * NONE {
            step += way * (way.dot(slope) / (value.abs() + most * damping));
        }
    }
    Ok(step)
}
