//! A short length of pipe cut square at both ends, and its least distance to what is in the way.
//!
//! A centre line with a ball moved along it stands out by half a ball beyond each of its ends. Where the pipe goes on
//! that is no matter; at a mouth, a hose's end or a clamp it is, and there the solid itself is measured: a convex hull of
//! two discs, by the algorithm of E. G. Gilbert, D. W. Johnson and S. S. Keerthi ("A fast procedure for computing the
//! distance between complex objects in three-dimensional space", IEEE Journal of Robotics and Automation 4, 1988).

use nalgebra::{Isometry3, Point3};
use parry3d_f64::math::{Pose, Vector as Real3};
use parry3d_f64::query::epa::EPA;
use parry3d_f64::query::gjk::{self, CsoPoint, GJKResult, VoronoiSimplex};
use parry3d_f64::shape::SupportMap;
use smallvec::SmallVec;

use super::{Convex, Span, Turning};
use crate::Vector;

/// Most that a slice of a bend turns, in radians: its back then stands out of the hull by less than 0.04 mm at 130 mm from
/// the centre of the bend, which is taken off its gap.
const MOST_TURN: f64 = 0.0436;

/// A disc square to the pipe.
#[derive(Debug, Clone, Copy)]
struct Disc {
    centre: Point3<f64>,
    axis: Vector,
    radius: f64,
}

impl Disc {
    fn farthest(&self, way: Vector) -> (Point3<f64>, f64) {
        let aside = way - self.axis * self.axis.dot(&way);
        let norm = aside.norm();
        let at = if norm > 1e-12 { self.centre + aside * (self.radius / norm) } else { self.centre };
        (at, at.coords.dot(&way))
    }

    fn carried(&self, by: &Isometry3<f64>) -> Self {
        Self { centre: by * self.centre, axis: by * self.axis, radius: self.radius }
    }
}

/// The convex hull of two discs: a pipe's slice, exact where it is straight.
#[derive(Debug, Clone, Copy)]
pub(super) struct Slice {
    discs: [Disc; 2],
    /// How far its back stands out of the hull, in mm.
    bulge: f64,
    /// Where its middle is along its span, in mm.
    pub(super) s: f64,
}

impl Slice {
    /// The slices of `span` from `from` to `to` mm along it, `radius` mm thick.
    pub(super) fn of(span: &Span, [from, to]: [f64; 2], radius: f64) -> SmallVec<[Self; 4]> {
        let count = ((to - from) * span.curvature() / MOST_TURN).ceil().max(1.0);
        let disc = |s: f64| {
            let (centre, axis, _) = span.at(s);
            Disc { centre, axis, radius }
        };
        let turn = (to - from) * span.curvature() / count;
        let bulge = if turn > 0.0 { (1.0 / span.curvature() + radius) * (1.0 - (turn / 2.0).cos()) } else { 0.0 };
        let mut all = SmallVec::new();
        let mut k = 0.0;
        while k < count {
            let [start, end] = [k, k + 1.0].map(|k| from + (to - from) * k / count);
            all.push(Self { discs: [disc(start), disc(end)], bulge, s: f64::midpoint(start, end) });
            k += 1.0;
        }
        all
    }

    pub(super) fn carried(&self, by: &Isometry3<f64>) -> Self {
        Self { discs: self.discs.map(|disc| disc.carried(by)), ..*self }
    }

    /// A ball that holds it: its centre and radius in mm.
    pub(super) fn ball(&self) -> (Point3<f64>, f64) {
        let [one, other] = &self.discs;
        let middle = nalgebra::center(&one.centre, &other.centre);
        let radius = (one.centre - middle).norm().hypot(one.radius.max(other.radius));
        (middle, radius + self.bulge)
    }

    /// Distance in mm to a room, 0 where they overlap, and the direction from the room to the slice; `None` where the sum
    /// does not come to an end.
    pub(super) fn distance(&self, room: &Convex) -> Option<(f64, Vector)> {
        let core = Core(room);
        let mut simplex = VoronoiSimplex::new();
        let apart = self.ball().0 - room.ball().0;
        let towards = Real3::new(-apart.x, -apart.y, -apart.z);
        let first = if towards.length() > 1e-9 { towards.normalize() } else { Real3::X };
        simplex.reset(CsoPoint::from_shapes(&Pose::IDENTITY, self, &core, first));
        match gjk::closest_points(&Pose::IDENTITY, self, &core, f64::MAX, true, &mut simplex) {
            GJKResult::Intersection => Some((0.0, Vector::zeros())),
            GJKResult::ClosestPoints(mine, its, _) => {
                let way = Vector::new(mine.x - its.x, mine.y - its.y, mine.z - its.z);
                let far = way.norm();
                let away = if far > 0.0 { way / far } else { Vector::zeros() };
                Some(((far - core.radius() - self.bulge).max(0.0), away))
            }
            GJKResult::Proximity(_) | GJKResult::NoIntersection(_) => None,
        }
    }

    /// How far in mm it must be moved, at least, to be clear of a room it overlaps; `None` where that cannot be told.
    pub(super) fn depth(&self, room: &Convex) -> Option<f64> {
        let core = Core(room);
        let mut simplex = VoronoiSimplex::new();
        simplex.reset(CsoPoint::from_shapes(&Pose::IDENTITY, self, &core, Real3::X));
        match gjk::closest_points(&Pose::IDENTITY, self, &core, f64::MAX, true, &mut simplex) {
            GJKResult::Intersection => {
                let (mine, its, _) = EPA::new().closest_points(&Pose::IDENTITY, self, &core, &simplex)?;
                Some((mine - its).length() + core.radius())
            }
            GJKResult::ClosestPoints(mine, its, _) => Some(core.radius() - (mine - its).length()),
            GJKResult::Proximity(_) | GJKResult::NoIntersection(_) => None,
        }
    }
}

impl SupportMap for Slice {
    fn local_support_point(&self, way: Real3) -> Real3 {
        let way = Vector::new(way.x, way.y, way.z);
        let [one, other] = self.discs.map(|disc| disc.farthest(way));
        real(if one.1 >= other.1 { one.0 } else { other.0 })
    }
}

/// What a convex room has under its round skin.
struct Core<'a>(&'a Convex);

impl Core<'_> {
    /// How thick the skin is, in mm.
    fn radius(&self) -> f64 {
        match self.0 {
            Convex::Ball { radius, .. } | Convex::Bar { radius, .. } => *radius,
            Convex::Drum { .. } | Convex::Block { .. } | Convex::Facet(_) => 0.0,
        }
    }
}

impl SupportMap for Core<'_> {
    fn local_support_point(&self, towards: Real3) -> Real3 {
        let way = Vector::new(towards.x, towards.y, towards.z);
        match self.0 {
            Convex::Ball { centre, .. } => real(*centre),
            Convex::Bar { from, way: core, .. } => real(if core.dot(&way) > 0.0 { from + core } else { *from }),
            Convex::Drum { middle, axis, half, radius } => {
                let centre = middle + axis * half.copysign(axis.dot(&way));
                real(Disc { centre, axis: *axis, radius: *radius }.farthest(way).0)
            }
            Convex::Block { inward, half } => {
                let own = inward * way;
                let corner = Vector::from_fn(|i, _| half[i].copysign(own[i]));
                real(inward.inverse() * Point3::from(corner))
            }
            Convex::Facet(triangle) => {
                let corners = [triangle.a, triangle.b, triangle.c];
                corners.into_iter().max_by(|p, q| p.dot(towards).total_cmp(&q.dot(towards))).unwrap_or(triangle.a)
            }
        }
    }
}

fn real(at: Point3<f64>) -> Real3 {
    Real3::new(at.x, at.y, at.z)
}

/// The least distance found between slices and a room as they turn, and at which turns.
#[derive(Debug, Clone, Copy)]
pub(super) struct SliceNear {
    /// In mm, at most `care` above the truth and never below 0.
    pub(super) distance: f64,
    pub(super) turns: [f64; 2],
    pub(super) s: f64,
    /// From the room to the slice, as they stand at those turns.
    pub(super) away: Vector,
}

/// Most poses looked at for one answer; a search that is not done by then gives what it has proven.
const MOST_POSES: u32 = 4_000;

/// The least distance between `slice` and `room` over all `turns`, if it is below `beyond` mm, to within `care` mm. No
/// turn can bring the two nearer than it moves the slice.
pub(super) fn slice_least(
    slice: &Slice,
    room: &Convex,
    turns: &[Turning],
    beyond: f64,
    care: f64,
) -> Option<SliceNear> {
    let mut search = Search { slice, room, turns, beyond, care, best: None };
    let whole =
        [0, 1].map(|i| turns.get(i).map_or((0.0, 0.0), |t| (f64::midpoint(t.from, t.to), (t.to - t.from) / 2.0)));
    search.look(whole.map(|w| w.0), whole.map(|w| w.1), MOST_POSES);
    search.best
}

struct Search<'a> {
    slice: &'a Slice,
    room: &'a Convex,
    turns: &'a [Turning],
    beyond: f64,
    care: f64,
    best: Option<SliceNear>,
}

impl Search<'_> {
    /// Looks at turns within `half` of `middle`, at most at `budget` poses, and tells at how many. One half of the turns
    /// never uses up what the other needs: a wide range that is not looked into proves next to nothing.
    fn look(&mut self, middle: [f64; 2], half: [f64; 2], budget: u32) -> u32 {
        let mut moved = *self.slice;
        let mut axes: SmallVec<[(Vector, Point3<f64>); 2]> = SmallVec::new();
        let mut reach = [0.0; 2];
        for (i, turn) in self.turns.iter().take(2).enumerate() {
            let by = turn.at(middle[i]);
            moved = moved.carried(&by);
            for (axis, pivot) in &mut axes {
                (*axis, *pivot) = (by * *axis, by * *pivot);
            }
            axes.push((turn.axis.into_inner(), turn.pivot));
            let (centre, radius) = moved.ball();
            let arm = turn.axis.cross(&(centre - turn.pivot)).norm() + radius + reach[0];
            reach[i] = arm * half[i];
        }
        let reached = reach[0] + reach[1];
        // The ball that holds it is quick to judge and rules most poses out.
        let (centre, radius) = moved.ball();
        let (far, slope) = self.room.distance(&centre);
        if far - radius - reached >= self.beyond {
            return 1;
        }
        let (distance, away) = moved.distance(self.room).unwrap_or(((far - radius).max(0.0), slope));
        if distance < self.beyond {
            self.beyond = distance;
            self.best = Some(SliceNear { distance, turns: middle, s: moved.s, away });
        }
        // What turns do beyond their first order: the slice's own way round, and the one turning what the other moved.
        let second = (reach[0] * half[0] + reach[1] * half[1]) / 2.0 + reach[0] * half[1];
        let low = (distance - reached).max(self.behind_plane(&moved, &axes, half, away) - second).max(0.0);
        if reached <= 0.0 || low >= self.beyond - self.care {
            return 1;
        }
        if budget < 3 {
            self.beyond = low;
            self.best = Some(SliceNear { distance: low, turns: middle, s: moved.s, away });
            return 1;
        }
        let across = usize::from(reach[1] > reach[0]);
        let quarter = half[across] / 2.0;
        let mut part = |by: f64, budget: u32| {
            let (mut there, mut less) = (middle, half);
            there[across] += by;
            less[across] = quarter;
            self.look(there, less, budget)
        };
        let first = part(-quarter, (budget - 1) / 2);
        1 + first + part(quarter, budget - 1 - first)
    }

    /// How far the slice stays in front of the plane square to `away` that the room lies behind, to the first order of
    /// both turns. The least over a slice of what is linear in the turns is concave in them, so it is least in a corner.
    fn behind_plane(&self, slice: &Slice, axes: &[(Vector, Point3<f64>)], half: [f64; 2], away: Vector) -> f64 {
        if away.norm_squared() < 0.5 {
            return f64::NEG_INFINITY;
        }
        let core = Core(self.room);
        let towards = Real3::new(away.x, away.y, away.z);
        let top = core.local_support_point(towards).dot(towards) + core.radius() + slice.bulge;
        let mut least = f64::INFINITY;
        for corner in [[-1.0, -1.0], [-1.0, 1.0], [1.0, -1.0], [1.0, 1.0]] {
            let (mut way, mut shift) = (away, 0.0);
            for (i, (axis, pivot)) in axes.iter().enumerate() {
                let turned = away.cross(axis) * (corner[i] * half[i]);
                way += turned;
                shift -= turned.dot(&pivot.coords);
            }
            let [one, other] = slice.discs.map(|disc| -disc.farthest(-way).1);
            least = least.min(one.min(other) + shift);
        }
        least - top
    }
}
