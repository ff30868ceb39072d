//! How near a pipe comes to itself.
//!
//! Places that follow each other along a pipe are near each other and no matter. Where two places are nearest to each
//! other, the line between them is square to the pipe at both, so that the pipe and this line close a curve with two right
//! angles; a closed curve turns by a full turn at least (W. Fenchel, "Über Krümmung und Windung geschlossener
//! Raumkurven", Mathematische Annalen 101, 1929), and so the pipe between them turns by half a turn at least. Only
//! places with nearly that much bend between them are held against each other.

use nalgebra::Point3;
use parry3d_f64::math::Vector as Real3;
use parry3d_f64::query::details::closest_points_segment_segment_with_locations_nD;
use parry3d_f64::shape::SegmentPointLocation;

use super::slice::Slice;
use super::{Convex, Envelope, EnvelopePart, Span};
use crate::Vector;

/// Bend in radians between two places that are held against each other: half a turn, less what the mouths' ends, which are
/// not square to the line between, and the pieces' own length can take off. No single bend turns as far.
const BETWEEN: f64 = 2.617_993_878;
/// How far in mm chords stray from a bend.
const STRAY: f64 = 0.02;

/// Where a pipe comes nearest to itself.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SelfNear {
    /// The gap in mm, below 0 where it runs into itself.
    pub gap: f64,
    /// Stations of the two places from A's mouth in mm, the nearer to A first.
    pub stations: [f64; 2],
    /// The two places on the centre line.
    pub at: [Point3<f64>; 2],
    /// The direction from the second place to the first.
    pub away: Vector,
}

/// A piece of pipe as a straight.
#[derive(Debug, Clone, Copy)]
struct Piece {
    from: Point3<f64>,
    to: Point3<f64>,
    radius: f64,
    stations: [f64; 2],
    /// How far the pipe has turned from A's mouth to its middle, in radians.
    turned: f64,
    /// Whether it ends square.
    square: bool,
}

impl Piece {
    fn room(&self) -> Convex {
        let way = self.to - self.from;
        if self.square {
            let middle = nalgebra::center(&self.from, &self.to);
            let (half, radius) = (way.norm() / 2.0, self.radius);
            Convex::Drum { middle, axis: way.normalize(), half, radius }
        } else {
            Convex::Bar { from: self.from, way, radius: self.radius }
        }
    }

    /// The gap to a later piece if it is below `beyond` mm.
    fn against(&self, other: &Self, beyond: f64) -> Option<SelfNear> {
        let reach = |piece: &Self| (piece.to - piece.from).norm() / 2.0 + piece.radius;
        let between = nalgebra::center(&self.from, &self.to) - nalgebra::center(&other.from, &other.to);
        if between.norm() - reach(self) - reach(other) >= beyond {
            return None;
        }
        let real = |at: &Point3<f64>| Real3::new(at.x, at.y, at.z);
        let [p, q, r, u] = [&self.from, &self.to, &other.from, &other.to].map(real);
        let (mine, its) = closest_points_segment_segment_with_locations_nD((&p, &q), (&r, &u));
        let share = |at: SegmentPointLocation| at.barycentric_coordinates()[1];
        let (s, t) = (share(mine), share(its));
        let at = [self.from + (self.to - self.from) * s, other.from + (other.to - other.from) * t];
        let way = at[0] - at[1];
        let mut gap = way.norm() - self.radius - other.radius;
        if gap < beyond && (self.square || other.square) {
            gap = self.square_gap(other).unwrap_or(gap);
        }
        let station = |[from, to]: [f64; 2], share: f64| from + (to - from) * share;
        let away = way.try_normalize(1e-9).unwrap_or_else(Vector::zeros);
        let stations = [station(self.stations, s), station(other.stations, t)];
        (gap < beyond).then_some(SelfNear { gap, stations, at, away })
    }

    /// The same where ends are square; `None` where that cannot be told.
    fn square_gap(&self, other: &Self) -> Option<f64> {
        let (square, other) = if self.square { (self, other) } else { (other, self) };
        let span = Span::between(square.from, square.to);
        let slice = *Slice::of(&span, [0.0, span.length()], square.radius).first()?;
        let room = other.room();
        match slice.distance(&room)? {
            (distance, _) if distance > 0.0 => Some(distance),
            _ => slice.depth(&room).map(|depth| -depth),
        }
    }
}

/// The worst place where a pipe comes within `beyond` mm of itself.
#[must_use]
pub fn nearest_to_itself(pipe: &Envelope, beyond: f64) -> Option<SelfNear> {
    let mut best: Option<SelfNear> = None;
    each_pair(&pieces(pipe), |one, other| {
        let ceiling = best.map_or(beyond, |best| best.gap);
        best = one.against(other, ceiling).or(best);
    });
    best
}

/// All places where a pipe comes within `beyond` mm of itself, one for each two of its pieces.
pub(super) fn all_near_itself(pipe: &Envelope, beyond: f64) -> Vec<SelfNear> {
    let mut all = Vec::new();
    each_pair(&pieces(pipe), |one, other| all.extend(one.against(other, beyond)));
    all
}

fn each_pair(pieces: &[Piece], mut judge: impl FnMut(&Piece, &Piece)) {
    for (index, one) in pieces.iter().enumerate() {
        for other in pieces.iter().skip(index + 1) {
            if (other.turned - one.turned).abs() >= BETWEEN {
                let (first, later) = if one.turned <= other.turned { (one, other) } else { (other, one) };
                judge(first, later);
            }
        }
    }
}

/// The pipe in straight pieces.
fn pieces(pipe: &Envelope) -> Vec<Piece> {
    let mut all = Vec::new();
    let mut turned = 0.0;
    let mut turns: Vec<([f64; 2], [f64; 2])> = Vec::new();
    let mut before: Option<Vector> = None;
    for stretch in pipe.tube() {
        let span = &stretch.span;
        let tangent = span.at(0.0).1;
        turned += before.map_or(0.0, |before| before.angle(&tangent));
        let whole = span.length() * span.curvature();
        turns.push((stretch.stations, [turned, turned + whole]));
        cut(stretch, [turned, turned + whole], &mut all);
        turned += whole;
        before = Some(span.at(span.length()).1);
    }
    for stretch in pipe.over().iter().filter(|stretch| stretch.stations[1] > stretch.stations[0]) {
        let middle = f64::midpoint(stretch.stations[0], stretch.stations[1]);
        let here = turns.iter().find(|(stations, _)| middle <= stations[1]).or(turns.last());
        let turned = here.map_or([0.0; 2], |(_, turned)| *turned);
        cut(stretch, turned, &mut all);
    }
    all
}

/// A stretch in pieces that stray from it by no more than a hair.
fn cut(stretch: &EnvelopePart, [from, to]: [f64; 2], all: &mut Vec<Piece>) {
    let span = &stretch.span;
    let step = 2.0 * (1.0 - STRAY * span.curvature()).clamp(0.0, 1.0).acos() / span.curvature().max(f64::MIN_POSITIVE);
    let count = if span.curvature() > 0.0 { (span.length() / step).ceil().max(1.0) } else { 1.0 };
    let mut k = 0.0;
    while k < count && span.length() > 1e-9 {
        let [start, end] = [k, k + 1.0].map(|k| span.length() * k / count);
        let square = (stretch.square[0] && start < stretch.radius)
            || (stretch.square[1] && span.length() - end < stretch.radius);
        all.push(Piece {
            from: span.at(start).0,
            to: span.at(end).0,
            radius: stretch.radius,
            stations: [stretch.station(start), stretch.station(end)],
            turned: from + (to - from) * (k + 0.5) / count,
            square,
        });
        k += 1.0;
    }
}
