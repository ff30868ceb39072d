//! How a rigid part between joints that give moves against other things, and against another such part.

use std::cell::RefCell;

use nalgebra::{Isometry3, Matrix3, Point3, Unit};

use super::{Movement, Turning};
use crate::Vector;

/// How a rigid part between joints that give moves, as the engine does.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Floating {
    /// As seen from the body.
    pub from_body: Movement,
    /// As seen from the engine.
    pub from_engine: Movement,
    /// How far in mm any place of it gets from where it is at rest, at most: seen from the body, and from the engine.
    pub reach: [f64; 2],
    /// A ball that holds all of it.
    pub ball: (Point3<f64>, f64),
    /// Where the middle of that ball goes as the engine is shifted by its most along x, y and z, in mm, as columns.
    pub answer: Matrix3<f64>,
    /// By how much in mm any other place of it answers otherwise, at most.
    pub spread: f64,
    /// How far in mm it may lie beside its turn, the engine's shift aside.
    pub beside: f64,
    /// How much at most its way bends, in mm per radian of the engine's roll squared.
    pub bend: f64,
}

/// Steps that the roll is taken in where two parts that float are held against each other.
const STEPS: u32 = 4;
/// What is left for how a shift's effect is not quite in proportion to it: parts turn by at most some degrees.
pub(crate) const NOT_QUITE: f64 = 1.05;

thread_local! {
    /// What was worked out last of pairs, on this thread.
    static HELD: RefCell<Vec<(Floating, Floating, Movement)>> = const { RefCell::new(Vec::new()) };
}
/// So many pairs are kept.
const MOST_HELD: usize = 48;

impl Floating {
    /// As seen from another that floats: both go with the one engine, so that what parts them is again a turn and little beside
    /// it.
    pub(super) fn against(&self, other: &Self) -> Movement {
        // The same few pairs are asked for thousands of times by whoever looks for a way.
        HELD.with_borrow_mut(|held| {
            // Their balls tell most of them apart at a glance.
            let alike = |one: &Self, two: &Self| one.ball == two.ball && one == two;
            if let Some((.., known)) = held.iter().find(|(one, two, _)| alike(two, other) && alike(one, self)) {
                return *known;
            }
            let found = self.worked_out_against(other);
            if held.len() >= MOST_HELD {
                held.clear();
            }
            held.push((*self, *other, found));
            found
        })
    }

    fn worked_out_against(&self, other: &Self) -> Movement {
        let own = &self.from_body;
        let [from, to] = [own.roll.from, own.roll.to].map(|turn| turn * own.roll_per_turn);
        let [from, to] = if own.roll_per_turn == 0.0 { other.rolls() } else { [from.min(to), from.max(to)] };
        let at = |floats: &Self, roll: f64| {
            let per_turn = floats.from_body.roll_per_turn;
            floats.from_body.roll.at(if per_turn == 0.0 { 0.0 } else { roll / per_turn })
        };
        let step = (to - from) / f64::from(STEPS);
        let poses: [(f64, Isometry3<f64>); STEPS as usize + 1] = std::array::from_fn(|k| {
            let roll = from + step * f64::from(u32::try_from(k).unwrap_or(0));
            (roll, at(other, roll).inverse() * at(self, roll))
        });
        let (turn, per_roll) = best_turn(&poses);
        let (middle, radius) = self.ball;
        let stray = poses.iter().map(|(roll, pose)| {
            let turned = turn.at(per_roll * roll);
            (pose * middle - turned * middle).norm() + pose.rotation.angle_to(&turned.rotation) * radius
        });
        let stray = stray.fold(0.0, f64::max) + (self.bend + other.bend) * step * step / 8.0;
        let shifted = (self.answer - other.answer).singular_values().amax() + self.spread + other.spread;
        let shift = stray + self.beside + other.beside + shifted * NOT_QUITE;
        let [one, two] = [from * per_roll, to * per_roll];
        let roll = Turning { from: one.min(two), to: one.max(two), ..turn };
        Movement { roll, shift, roll_per_turn: if per_roll.abs() > 1e-12 { 1.0 / per_roll } else { 0.0 } }
    }

    /// The least and the most roll of the engine, in radians.
    fn rolls(&self) -> [f64; 2] {
        let own = &self.from_body;
        let [one, two] = [own.roll.from, own.roll.to].map(|turn| turn * own.roll_per_turn);
        [one.min(two), one.max(two)]
    }
}

/// The turn about one axis that is the pose at the farthest roll but for a slide along that axis, and how many radians it
/// turns for each radian of roll.
pub(crate) fn best_turn(poses: &[(f64, Isometry3<f64>)]) -> (Turning, f64) {
    let none = Turning { pivot: Point3::origin(), axis: Vector::x_axis(), from: 0.0, to: 0.0 };
    let Some((roll, pose)) = poses.iter().max_by(|p, q| p.0.abs().total_cmp(&q.0.abs())) else { return (none, 0.0) };
    let turned = pose.rotation.scaled_axis();
    let angle = turned.norm();
    if angle < 1e-7 || roll.abs() < 1e-9 {
        return (none, 0.0);
    }
    let axis = Unit::new_normalize(turned);
    let shift = pose.translation.vector;
    let across = shift - axis.into_inner() * shift.dot(&axis);
    let pivot = (across + axis.cross(&across) / (angle / 2.0).tan()) / 2.0;
    (Turning { pivot: Point3::from(pivot), axis, from: 0.0, to: 0.0 }, angle / roll)
}
