//! A rigid body of round stretches that is carried about: a section of pipe on its way out of a bay.

use nalgebra::{Isometry3, Point3, Translation3, UnitQuaternion};
use smallvec::SmallVec;

use super::{EnvelopePart, Nearest, Obstacle, TOLERANCE, nearest};
use crate::Vector;

/// A rigid body of round stretches.
#[derive(Debug, Clone, PartialEq)]
pub struct Carried {
    parts: Vec<EnvelopePart>,
    pivot: Point3<f64>,
    reach: f64,
}

/// Where a body is: its pivot's place, and how it is turned about that from where it was.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Held {
    /// The place of its pivot, in mm.
    pub at: Point3<f64>,
    /// Its turn.
    pub turn: UnitQuaternion<f64>,
}

/// How far a body was carried on a straight way from one place to another, turning evenly.
#[derive(Debug, Clone, Copy)]
pub struct Advance {
    /// Where it came to; every place on the way there is proven to keep the gap.
    pub to: Held,
    /// The share of the way that is.
    pub share: f64,
    /// What stopped it: which obstacle, and where; `None` where it got all the way.
    pub stopped: Option<(usize, Nearest)>,
    /// How many gaps of a stretch to an obstacle that took.
    pub asked: u32,
}

/// Arcs are taken to be within so much of the points their extent is told from, in radians between two.
const ARC_STEP: f64 = 0.2;

impl Carried {
    /// A body of these stretches as they lie; about the middle of the box round them.
    #[must_use]
    pub fn new(parts: Vec<EnvelopePart>) -> Self {
        let mut low = Vector::repeat(f64::INFINITY);
        let mut high = -low;
        for part in &parts {
            for at in points(part) {
                low = low.inf(&at.coords);
                high = high.sup(&at.coords);
            }
        }
        let pivot = if parts.is_empty() { Point3::origin() } else { Point3::from((low + high) / 2.0) };
        let reach = parts.iter().flat_map(|part| points(part).into_iter().map(move |at| (at, part)));
        let reach = reach.map(|(at, part)| (at - pivot).norm() + beyond(part)).fold(0.0, f64::max);
        Self { parts, pivot, reach }
    }

    /// Where it is at first.
    #[must_use]
    pub fn home(&self) -> Held {
        Held { at: self.pivot, turn: UnitQuaternion::identity() }
    }

    /// No place of it is further from its pivot than this, in mm.
    #[must_use]
    pub const fn reach(&self) -> f64 {
        self.reach
    }

    /// How far two places of its centre line are apart at most, in mm, to within what an arc bulges between two points of it.
    #[must_use]
    pub fn size(&self) -> f64 {
        let all: Vec<Point3<f64>> = self.parts.iter().flat_map(points).collect();
        all.iter().flat_map(|p| all.iter().map(move |q| (p - q).norm())).fold(0.0, f64::max)
    }

    /// Its stretches as they lie at first.
    #[must_use]
    pub fn parts(&self) -> &[EnvelopePart] {
        &self.parts
    }

    /// The same body with every stretch so much thinner, in mm; none is thinner than nothing.
    #[must_use]
    pub fn thinner(&self, by: f64) -> Self {
        let parts = self.parts.iter().map(|part| EnvelopePart { radius: (part.radius - by).max(0.0), ..*part });
        Self { parts: parts.collect(), ..*self }
    }

    /// The movement that brings it from where it was to a place.
    #[must_use]
    pub fn pose(&self, held: &Held) -> Isometry3<f64> {
        Isometry3::from_parts(Translation3::from(held.at.coords - held.turn * self.pivot.coords), held.turn)
    }

    /// Its least and greatest place along a direction of length 1 where it is held, in mm; never less than the truth apart.
    #[must_use]
    pub fn extent(&self, held: &Held, way: &Vector) -> [f64; 2] {
        let pose = self.pose(held);
        let mut extent = [f64::INFINITY, f64::NEG_INFINITY];
        for part in &self.parts {
            for at in points(part) {
                let along = (pose * at).coords.dot(way);
                extent = [extent[0].min(along - beyond(part)), extent[1].max(along + beyond(part))];
            }
        }
        extent
    }

    /// The obstacle it is nearest to where it is held, if it comes within `beyond` mm of any, and how many gaps of a stretch to
    /// an obstacle that took.
    #[must_use]
    pub fn nearest(&self, held: &Held, among: &[Obstacle], beyond: f64) -> (Option<(usize, Nearest)>, u32) {
        let pose = self.pose(held);
        let (mut best, mut asked): (Option<(usize, Nearest)>, u32) = (None, 0);
        let near = |at: &Point3<f64>, reach: f64, index: &usize| {
            let (middle, radius) = among[*index].ball();
            (middle - at).norm_squared() < (reach + radius + beyond).powi(2)
        };
        let around: SmallVec<[usize; 32]> =
            (0..among.len()).filter(|index| near(&held.at, self.reach, index)).collect();
        for part in &self.parts {
            let there = EnvelopePart { span: part.span.carried(&pose), ..*part };
            let half = there.span.length() / 2.0;
            let middle = there.span.at(half).0;
            for index in around.iter().copied().filter(|index| near(&middle, half + part.radius, index)) {
                asked += 1;
                let ceiling = best.map_or(beyond, |best| best.1.gap);
                if let Some(near) = nearest([&there], &among[index], None, ceiling) {
                    best = Some((index, near));
                }
            }
        }
        (best, asked)
    }

    /// How far a place of it moves at most between two places it is held at.
    #[must_use]
    pub fn travel(&self, from: &Held, to: &Held) -> f64 {
        (to.at - from.at).norm() + self.reach * from.turn.angle_to(&to.turn)
    }

    /// Carries it from one place towards another as far as it keeps `gap` mm from everything, at the longest steps that are
    /// proven: where its gap is so much more, nothing of it can come too near before it has moved by as much.
    #[must_use]
    pub fn advance(&self, from: &Held, to: &Held, among: &[Obstacle], gap: f64) -> Advance {
        let travel = self.travel(from, to);
        let mut advance = Advance { to: *from, share: 0.0, stopped: None, asked: 0 };
        while advance.share < 1.0 {
            let (near, asked) = self.nearest(&advance.to, among, gap + FAR);
            advance.asked += asked.max(1);
            // A gap that is told is at most so much above the truth.
            let spare = near.map_or(FAR, |(_, near)| near.gap - TOLERANCE - gap);
            if spare < LEAST_STEP && spare < travel * (1.0 - advance.share) {
                advance.stopped = near;
                return advance;
            }
            let step = if travel > 0.0 { spare / travel } else { 1.0 };
            advance.share = (advance.share + step).min(1.0);
            advance.to = from.towards(to, advance.share);
        }
        advance
    }
}

/// Gaps beyond this, in mm, are not told apart: one step goes as far.
const FAR: f64 = 40.0;
/// Steps below this, in mm, are none.
const LEAST_STEP: f64 = 0.3;

impl Held {
    /// The place a share of the way to another, turning evenly the short way round.
    #[must_use]
    pub fn towards(&self, other: &Self, share: f64) -> Self {
        let turn = self.turn.try_slerp(&other.turn, share, 1e-9).unwrap_or(self.turn);
        Self { at: self.at + (other.at - self.at) * share, turn }
    }
}

/// Points of a stretch's centre line that tell its extent.
fn points(part: &EnvelopePart) -> Vec<Point3<f64>> {
    let length = part.span.length();
    let steps = (length * part.span.curvature().abs() / ARC_STEP).ceil().max(1.0);
    let mut all = Vec::new();
    let mut step = 0.0;
    while step <= steps {
        all.push(part.span.at(length * step / steps).0);
        step += 1.0;
    }
    all
}

/// How far anything of a stretch is from the nearest of those points at most, beyond what lies between them.
fn beyond(part: &EnvelopePart) -> f64 {
    let curvature = part.span.curvature().abs();
    let bulge = if curvature > 0.0 { (1.0 - (ARC_STEP / 2.0).cos()) / curvature } else { 0.0 };
    part.radius + bulge
}
