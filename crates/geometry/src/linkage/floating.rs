//! How a part that hangs between joints that give moves over all that the engine does: bounded, not sampled.

use nalgebra::{Isometry3, Matrix3, Point3, Translation3};

use super::NotSettled;
use super::settle::{Linkage, Settled};
use crate::Vector;
use crate::clearance::{Floating, Movement, NOT_QUITE, OF_INTEREST, Turning, best_turn};

/// What moves a chain: the engine, which one of its ends rides on or both, and the heat its parts grow by.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SweptBy {
    /// How the engine moves.
    pub engine: Movement,
    /// Whether the things at its start and at its end ride on the engine.
    pub on_engine: [bool; 2],
    /// By what share of its length each part grows as it gets hot.
    pub growth: f64,
    /// How far in mm the things at its start and at its end push their joints by then, for their own growth.
    pub ends_grow: [Vector; 2],
}

/// Steps that the engine's roll is taken in.
const STEPS: u32 = 8;
/// A part whose ends get this many times as far as the engine takes any of its joints hangs loose.
const LOOSE: f64 = 3.0;
/// Beyond that a part swings about that turns by so much more, in radians, than its joints are taken apart by: about the line
/// between them, say, which they hardly resist.
const SWINGS: f64 = 0.05;
/// What a settled place turns at most, per radian of roll squared, as a multiple of its distance from the roll's axis: the
/// engine's own is 1, and a part that hangs between takes some multiple of a joint's.
const CURVES: f64 = 4.0;

/// A chain at rest at every step of the engine's roll, and what shifts and heat add.
#[derive(Debug, Clone)]
pub struct Swept {
    by: SweptBy,
    /// The engine's roll in radians, and the chain at rest then, cold and with the engine not shifted.
    pub rolls: Vec<(f64, Settled)>,
    /// At the least roll, at none and at the most, the chain as the engine is shifted by its most along x, y and z, and against
    /// them.
    shifted: Vec<(usize, [[Settled; 2]; 3])>,
    /// The same three with the chain hot.
    hot: Vec<(usize, Settled)>,
}

impl SweptBy {
    /// Where the engine is, rolled by so much, in radians, and shifted, in mm.
    #[must_use]
    pub fn engine_at(&self, roll: f64, shift: Vector) -> Isometry3<f64> {
        let mut pose = self.engine.roll.at(roll);
        pose.translation.vector += shift;
        pose
    }

    /// How far in mm any joint is from the axis of the engine's roll, at most.
    fn arm(&self, linkage: &Linkage) -> f64 {
        let roll = &self.engine.roll;
        let arm = |joint: &super::LinkageJoint| roll.axis.cross(&(joint.at - roll.pivot)).norm();
        linkage.joints().iter().map(arm).fold(0.0, f64::max)
    }

    /// How the things at both ends have moved where the engine has, cold or hot.
    #[must_use]
    pub fn outer(&self, engine: Isometry3<f64>, hot: bool) -> [Isometry3<f64>; 2] {
        std::array::from_fn(|end| {
            let pose = if self.on_engine[end] { engine } else { Isometry3::identity() };
            if hot { pose * Translation3::from(self.ends_grow[end]) } else { pose }
        })
    }

    /// Whether heat does anything.
    #[must_use]
    pub fn grows(&self) -> bool {
        self.growth != 0.0 || self.ends_grow.iter().any(|by| by.norm() > 0.0)
    }
}

impl Swept {
    /// Lets a chain come to rest all over the engine's movement.
    ///
    /// # Errors
    /// [`NotSettled`] where it does not.
    pub fn new(linkage: &Linkage, by: SweptBy) -> Result<Self, NotSettled> {
        let at = |roll: f64, shift: Vector, hot: bool, near: Option<&Settled>| {
            linkage.settle(by.outer(by.engine_at(roll, shift), hot), if hot { by.growth } else { 0.0 }, near)
        };
        let Turning { from, to, .. } = by.engine.roll;
        let mut rolls: Vec<(f64, Settled)> = Vec::new();
        let mut places: Vec<f64> = (0..=STEPS).map(|k| from + (to - from) * f64::from(k) / f64::from(STEPS)).collect();
        places.push(0.0);
        places.sort_by(f64::total_cmp);
        places.dedup_by(|p, q| (*p - *q).abs() < 1e-12);
        // From rest either way, each from the last: a chain that could fold otherwise is followed as it moves.
        let arm = by.arm(linkage);
        let still = at(0.0, Vector::zeros(), false, None)?;
        let (back, forth): (Vec<f64>, Vec<f64>) =
            places.into_iter().filter(|roll| *roll != 0.0).partition(|roll| *roll < 0.0);
        for way in [back.into_iter().rev().collect::<Vec<_>>(), forth] {
            let mut last = (0.0, still.clone());
            for roll in way {
                let near = at(roll, Vector::zeros(), false, Some(&last.1))?;
                if swings(linkage, &last.1, &near, arm * (roll - last.0).abs(), SWINGS / f64::from(STEPS)) {
                    return Err(NotSettled::Loose);
                }
                last = (roll, near);
                rolls.push(last.clone());
            }
        }
        rolls.push((0.0, still));
        rolls.sort_by(|p, q| p.0.total_cmp(&q.0));
        let moved = arm * by.engine.roll.from.abs().max(by.engine.roll.to.abs());
        let far = |settled: &Settled| {
            let each = settled.parts.iter().enumerate().flat_map(|(part, pose)| {
                linkage.joints()[part..=part + 1].iter().map(move |joint| (pose * joint.at - joint.at).norm())
            });
            each.fold(0.0, f64::max)
        };
        if rolls.iter().any(|(_, settled)| far(settled) > LOOSE * moved + 1.0) {
            return Err(NotSettled::Loose);
        }
        let rest = rolls.iter().position(|(roll, _)| *roll == 0.0).unwrap_or(0);
        let mut marks = vec![0, rest, rolls.len() - 1];
        marks.dedup();
        let (mut shifted, mut hot) = (Vec::new(), Vec::new());
        for mark in marks {
            let (roll, settled) = &rolls[mark];
            if by.engine.shift > 0.0 {
                let along = |axis: usize| {
                    let shift = Vector::ith(axis, by.engine.shift);
                    let [there, back] = [shift, -shift].map(|shift| at(*roll, shift, false, Some(settled)));
                    there.and_then(|there| Ok([there, back?]))
                };
                let each = [along(0)?, along(1)?, along(2)?];
                if each.iter().flatten().any(|there| swings(linkage, settled, there, by.engine.shift, SWINGS)) {
                    return Err(NotSettled::Loose);
                }
                shifted.push((mark, each));
            }
            if by.grows() {
                hot.push((mark, at(*roll, Vector::zeros(), true, Some(settled))?));
            }
        }
        Ok(Self { by, rolls, shifted, hot })
    }

    /// What it was swept by.
    #[must_use]
    pub const fn by(&self) -> &SweptBy {
        &self.by
    }

    /// The engine's roll and shift at which a joint takes the largest share of what it gives, as far as its errors are in
    /// proportion to the shift.
    #[must_use]
    pub fn worst_of(&self, joint: usize, linkage: &Linkage) -> [Option<(f64, Vector)>; 3] {
        let most = self.by.engine.shift;
        let give = linkage.joints()[joint].give;
        let mut worst: [Option<(f64, f64, Vector)>; 3] = [None; 3];
        for (at, (roll, settled)) in self.rolls.iter().enumerate() {
            let now = settled.joints[joint];
            let near = self.shifted.iter().min_by_key(|(mark, _)| mark.abs_diff(at));
            let slope = |of: &dyn Fn(&Settled) -> Vector| match near {
                Some((_, each)) => {
                    Matrix3::from_columns(&each.each_ref().map(|[there, back]| (of(there) - of(back)) / (2.0 * most)))
                }
                None => Matrix3::zeros(),
            };
            let angle = farthest(now.angle, slope(&|s| s.joints[joint].angle), most);
            let offset = farthest(now.offset, slope(&|s| s.joints[joint].offset), most);
            let along = |axial: f64| Vector::new(axial, 0.0, 0.0);
            let axial = farthest(along(now.axial), slope(&|s| along(s.joints[joint].axial)), most);
            let shares = [(angle, give.angle), (offset, give.offset), (axial, give.axial)];
            for (worst, ((size, shift), give)) in worst.iter_mut().zip(shares) {
                let share = if give > 0.0 { size / give } else { 0.0 };
                if worst.is_none_or(|(most, ..)| share > most) {
                    *worst = Some((share, *roll, shift));
                }
            }
        }
        worst.map(|found| found.map(|(_, roll, shift)| (roll, shift)))
    }
}

/// Whether any part turns further between two places of rest, by `more` radians, than moving something by `moved` mm accounts
/// for.
fn swings(linkage: &Linkage, one: &Settled, other: &Settled, moved: f64, more: f64) -> bool {
    let mut parts = one.parts.iter().zip(&other.parts).enumerate();
    parts.any(|(part, (here, there))| {
        let long = (linkage.joints()[part + 1].at - linkage.joints()[part].at).norm().max(moved);
        here.rotation.angle_to(&there.rotation) > LOOSE * moved / long.max(1.0) + more
    })
}

/// The `s` of length `most` at which `now + slope s` is longest, and how long it is then: the greatest of a convex function on
/// a ball lies on its skin, and going uphill from both ends of each axis finds it.
fn farthest(now: Vector, slope: Matrix3<f64>, most: f64) -> (f64, Vector) {
    let mut best = (now.norm(), Vector::zeros());
    if most <= 0.0 || slope.norm() <= 0.0 {
        return best;
    }
    let starts = [slope.transpose() * now, Vector::x(), Vector::y(), Vector::z()];
    for start in starts.into_iter().flat_map(|start| [start, -start]).filter(|start| start.norm() > 1e-12) {
        let mut shift = start.normalize() * most;
        for _ in 0..40 {
            let uphill = slope.transpose() * (now + slope * shift);
            if uphill.norm() <= 1e-15 {
                break;
            }
            let next = uphill.normalize() * most;
            let there = (next - shift).norm() <= 1e-9 * most;
            shift = next;
            if there {
                break;
            }
        }
        let size = (now + slope * shift).norm();
        if size > best.0 {
            best = (size, shift);
        }
    }
    best
}

/// How a part whose places all lie within `skin` mm of the hull of `hull` moves over all that a chain was swept by, as a
/// turn about one axis and a shift that holds whatever that leaves; `None` where the part is one with an end of the chain.
///
/// Between the steps of the roll a place strays from a straight way by at most its curve times the step squared over 8; the
/// turn it is held against is as exact there.
#[must_use]
pub fn floating(swept: &Swept, linkage: &Linkage, part: usize, hull: &[Point3<f64>], skin: f64) -> Option<Floating> {
    if !linkage.floats(part) || hull.is_empty() {
        return None;
    }
    let own = |settled: &Settled| settled.parts[part];
    let engine = |roll: f64, shift: Vector| swept.by.engine_at(roll, shift);
    let axis = &swept.by.engine.roll;
    let arm = hull.iter().map(|at| axis.axis.cross(&(at - axis.pivot)).norm()).fold(0.0, f64::max) + skin;
    let step = swept.rolls.windows(2).map(|pair| pair[1].0 - pair[0].0).fold(0.0, f64::max);
    let between = CURVES * arm * step * step / 8.0;
    let ball = (middle_of(hull), span(hull) / 2.0 + skin);
    let seen = |from_engine: bool| {
        let see = |roll: f64, shift: Vector, settled: &Settled| {
            if from_engine { engine(roll, shift).inverse() * own(settled) } else { own(settled) }
        };
        let still: Vec<(f64, Isometry3<f64>)> =
            swept.rolls.iter().map(|(roll, settled)| (*roll, see(*roll, Vector::zeros(), settled))).collect();
        let (turn, per_roll) = best_turn(&still);
        let stray = still.iter().map(|(roll, pose)| apart(pose, &turn.at(per_roll * roll), hull, skin));
        let stray = stray.fold(0.0, f64::max) + between;
        // Another pipe's places beside this part, as far as gaps are told, go with it as its own do.
        let stray_beside =
            still.iter().map(|(roll, pose)| apart(pose, &turn.at(per_roll * roll), hull, skin + OF_INTEREST));
        let stray_beside = stray_beside.fold(0.0, f64::max) + between;
        // What the engine's shift adds: at the places of the hull, at the ball's middle, and how much the two differ.
        let (mut by_shift, mut answer, mut spread): (f64, Matrix3<f64>, f64) = (0.0, Matrix3::zeros(), 0.0);
        let rest = swept.rolls.iter().position(|(roll, _)| *roll == 0.0).unwrap_or(0);
        let shifted = swept.shifted.iter().map(|(mark, each)| {
            let (roll, pose) = &still[*mark];
            let poses: [[Isometry3<f64>; 2]; 3] = std::array::from_fn(|axis| {
                let shift = Vector::ith(axis, swept.by.engine.shift);
                [see(*roll, shift, &each[axis][0]), see(*roll, -shift, &each[axis][1])]
            });
            let turned = |[there, back]: &[Isometry3<f64>; 2]| {
                there.rotation.angle_to(&pose.rotation).max(back.rotation.angle_to(&pose.rotation))
            };
            let turned: f64 = poses.iter().map(turned).sum();
            (*mark, *pose, poses, turned)
        });
        let shifted: Vec<_> = shifted.collect();
        let at = |poses: &[[Isometry3<f64>; 2]; 3], place: &Point3<f64>| {
            Matrix3::from_columns(&poses.map(|[there, back]| (there * place - back * place) / 2.0))
        };
        // How far the answer to a shift is from being in proportion to it; twice, for what lies between the axes.
        let bent = |pose: &Isometry3<f64>, poses: &[[Isometry3<f64>; 2]; 3], place: &Point3<f64>| -> f64 {
            let here = (pose * place).coords;
            let bend = |[there, back]: &[Isometry3<f64>; 2]| {
                (((there * place).coords + (back * place).coords) / 2.0 - here).norm()
            };
            2.0 * poses.iter().map(bend).sum::<f64>()
        };
        if let Some((_, _, poses, _)) = shifted.iter().find(|(mark, ..)| *mark == rest) {
            answer = at(poses, &ball.0);
        }
        for (_, pose, poses, turned) in &shifted {
            for place in hull {
                let (here, bent) = (at(poses, place), bent(pose, poses, place));
                by_shift = by_shift.max(here.singular_values().amax() + bent + turned * skin);
                spread = spread.max((here - answer).singular_values().amax() + bent + turned * (skin + OF_INTEREST));
            }
        }
        let by_heat = swept.hot.iter().map(|(mark, settled)| {
            let (roll, pose) = &still[*mark];
            let hot = see(*roll, Vector::zeros(), settled);
            // Its own growth, from its middle, beside how it is moved by it.
            apart(&hot, pose, hull, skin) + span(hull) / 2.0 * swept.by.growth.abs()
        });
        let by_heat = by_heat.fold(0.0, f64::max) * NOT_QUITE;
        let far = |pose: &Isometry3<f64>| apart(pose, &Isometry3::identity(), hull, skin);
        let reach = still.iter().map(|(_, pose)| far(pose)).fold(0.0, f64::max) + between;
        let Turning { from, to, .. } = swept.by.engine.roll;
        let [one, other] = [from * per_roll, to * per_roll];
        let roll = Turning { from: one.min(other), to: one.max(other), ..turn };
        let per_turn = if per_roll.abs() > 1e-12 { 1.0 / per_roll } else { 0.0 };
        let by_shift = by_shift * NOT_QUITE;
        Seen {
            movement: Movement { roll, shift: stray + by_shift + by_heat, roll_per_turn: per_turn },
            reach: reach + by_shift + by_heat,
            answer,
            spread,
            beside: stray_beside + by_heat,
        }
    };
    let (body, engine) = (seen(false), seen(true));
    Some(Floating {
        from_body: body.movement,
        from_engine: engine.movement,
        reach: [body.reach, engine.reach],
        ball,
        answer: body.answer,
        spread: body.spread,
        beside: body.beside,
        bend: CURVES * arm,
    })
}

/// How a part moves as seen from one side.
struct Seen {
    movement: Movement,
    reach: f64,
    answer: Matrix3<f64>,
    spread: f64,
    beside: f64,
}

fn middle_of(hull: &[Point3<f64>]) -> Point3<f64> {
    let count = hull.iter().fold(0.0, |count, _| count + 1.0);
    Point3::from(hull.iter().map(|at| at.coords).sum::<Vector>() / count)
}

/// How far apart two poses bring a place within `skin` mm of a hull, at most.
fn apart(one: &Isometry3<f64>, other: &Isometry3<f64>, hull: &[Point3<f64>], skin: f64) -> f64 {
    let far = hull.iter().map(|at| (one * at - other * at).norm()).fold(0.0, f64::max);
    far + one.rotation.angle_to(&other.rotation) * skin
}

/// Twice the distance from a hull's middle to its farthest corner, in mm.
fn span(hull: &[Point3<f64>]) -> f64 {
    let middle = middle_of(hull);
    2.0 * hull.iter().map(|at| (at - middle).norm()).fold(0.0, f64::max)
}
