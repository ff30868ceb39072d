//! A way as bare numbers, for what lays thousands of them: leads and vertices in, straights and angles out.

use nalgebra::Point3;
use smallvec::SmallVec;

use super::{Centreline, ResolvedRun, Route};
use crate::measure::End;
use nook_geometry::clearance::Span;
use nook_geometry::units::Lead;
use nook_geometry::{Direction, Path, Point, Travel, Vector};

/// The free numbers of a way of two bends or more, in mm: the lead at A, each vertex between, the lead at B.
pub type DesignVector = SmallVec<[f64; 12]>;
/// One thing per bend or leg.
pub type Each<T> = SmallVec<[T; 7]>;

/// What the ways of one run are hung on.
#[derive(Debug, Clone)]
pub struct RouteEnds {
    /// Where the mouth of A is.
    pub a: Point3<f64>,
    /// Where the mouth of B is.
    pub b: Point3<f64>,
    /// Out of A.
    pub out_a: Vector,
    /// Out of B.
    pub out_b: Vector,
    /// Centre-line radius in mm of each bend; the last holds for those beyond.
    pub radii: Each<f64>,
}

/// One way laid out.
#[derive(Debug, Clone)]
pub struct RouteGeometry {
    /// Where the legs meet, from A to B.
    pub vertices: Each<Point3<f64>>,
    /// Direction of each leg, from A to B.
    pub along: Each<Vector>,
    /// Bend angles in radians.
    pub angles: Each<f64>,
    /// Centre-line radius in mm of each bend.
    pub radii: Each<f64>,
    /// Straights from mouth to mouth in mm, gaps included; negative where bends overlap.
    pub straights: Each<f64>,
    start: Point3<f64>,
}

/// Turns below this many radians have no plane, and within this of a half turn no setback.
const LEAST_TURN: f64 = 1e-6;

impl RouteEnds {
    /// Between the mouths of `run`, with centre-line radii in mm; where there are none, the run's own.
    pub fn new(run: &ResolvedRun, radii: &[f64]) -> Self {
        let [a, b] = [End::A, End::B].map(|end| run.outlet(end));
        Self {
            a: a.at.inner(),
            b: b.at.inner(),
            out_a: a.out.vector(),
            out_b: b.out.vector(),
            radii: if radii.is_empty() {
                Each::from_elem(run.radius.get(), 1)
            } else {
                radii.iter().copied().collect()
            },
        }
    }

    /// What `way` of the run is hung on, with the radii its bends have.
    pub fn of_way(run: &ResolvedRun, way: &Route) -> Self {
        let radii = way.bends().iter().map(|bend| bend.radius.unwrap_or(run.radius).get());
        Self::new(run, &radii.collect::<Each<f64>>())
    }

    /// Centre-line radius in mm of a bend.
    pub fn radius(&self, bend: usize) -> f64 {
        self.radii.get(bend).or(self.radii.last()).copied().unwrap_or(f64::NAN)
    }

    /// Where the legs meet, mm, from A to B; none where `free` has no such form.
    pub fn vertices(&self, free: &[f64]) -> Each<Point3<f64>> {
        let mut all = Each::new();
        if let [lead_a, between @ .., lead_b] = free {
            all.push(self.a + self.out_a * *lead_a);
            all.extend(between.chunks_exact(3).map(|c| Point3::new(c[0], c[1], c[2])));
            all.push(self.b + self.out_b * *lead_b);
        }
        all
    }

    /// The free numbers of vertices of which the first and the last lie on the axes.
    pub fn free(&self, vertices: &[Point3<f64>]) -> DesignVector {
        let mut free = DesignVector::new();
        if let [first, between @ .., last] = vertices {
            free.push((first - self.a).dot(&self.out_a));
            free.extend(between.iter().flat_map(|v| [v.x, v.y, v.z]));
            free.push((last - self.b).dot(&self.out_b));
        }
        free
    }

    /// Lays a way out; `None` where two vertices coincide, or the way turns straight back or not at all.
    pub fn geometry(&self, free: &[f64]) -> Option<RouteGeometry> {
        let vertices = self.vertices(free);
        let mut along: Each<Vector> = SmallVec::new();
        let mut lengths: Each<f64> = SmallVec::new();
        along.push(self.out_a);
        lengths.push(*free.first()?);
        for pair in vertices.windows(2) {
            let leg: Vector = pair[1] - pair[0];
            let length = leg.norm();
            if !(length > 1e-9 && length.is_finite()) {
                return None;
            }
            along.push(leg / length);
            lengths.push(length);
        }
        along.push(-self.out_b);
        lengths.push(*free.last()?);
        let mut angles = Each::new();
        let mut radii = Each::new();
        for (bend, pair) in along.windows(2).enumerate() {
            let angle = pair[0].cross(&pair[1]).norm().atan2(pair[0].dot(&pair[1]));
            if !(LEAST_TURN..std::f64::consts::PI - LEAST_TURN).contains(&angle) {
                return None;
            }
            angles.push(angle);
            radii.push(self.radius(bend));
        }
        let mut straights = lengths;
        for (bend, angle) in angles.iter().enumerate() {
            let setback = radii[bend] * (angle / 2.0).tan();
            straights[bend] -= setback;
            straights[bend + 1] -= setback;
        }
        Some(RouteGeometry { vertices, along, angles, radii, straights, start: self.a })
    }
}

impl RouteGeometry {
    /// The bones of a path from mouth to mouth.
    pub fn of(path: &Path) -> Self {
        let mut travel = path.setting_out();
        let mut along: Each<Vector> = SmallVec::new();
        along.push(travel.along.vector());
        for leg in path.legs() {
            travel = travel.clocked(leg.bend.rotation).turned(leg.bend.angle);
            along.push(travel.along.vector());
        }
        Self {
            vertices: path.vertices().into_iter().collect(),
            along,
            angles: path.legs().iter().map(|leg| leg.bend.angle).collect(),
            radii: path.legs().iter().map(|leg| leg.bend.radius).collect(),
            straights: path.straights().collect(),
            start: path.setting_out().at,
        }
    }

    /// Length along the centre line in mm, mouth to mouth.
    pub fn length(&self) -> f64 {
        let arcs = self.angles.iter().zip(&self.radii).map(|(angle, radius)| angle * radius);
        self.straights.iter().sum::<f64>() + arcs.sum::<f64>()
    }

    /// Turn of all bends in radians.
    pub fn turning(&self) -> f64 {
        self.angles.iter().sum()
    }

    /// Straights and arcs in turn, from A to B. A negative straight is walked backwards.
    pub fn spans(&self) -> SmallVec<[Span; 13]> {
        let mut at = self.start;
        let mut spans = SmallVec::new();
        for (leg, straight) in self.straights.iter().enumerate() {
            let (along, to) = (self.along[leg], at + self.along[leg] * *straight);
            spans.push(Span::between(at, to));
            at = to;
            if let (Some(angle), Some(radius)) = (self.angles.get(leg), self.radii.get(leg)) {
                let next = self.along[leg + 1];
                let (sin, cos) = angle.sin_cos();
                let inward = (next - along * cos) / sin;
                let arc = Span::bent(at, along, inward, *radius, *angle);
                at = arc.at(arc.length()).0;
                spans.push(arc);
            }
        }
        spans
    }

    /// Turn of a bend's plane from the one before, in radians, the first counted from up; 0 where there is no such bend.
    pub fn rotation(&self, bend: usize) -> f64 {
        if bend >= self.angles.len() {
            return 0.0;
        }
        let along = self.along[bend];
        if bend == 0 {
            let leaving = Direction::of(along).ok().zip(Point::new(self.start.x, self.start.y, self.start.z).ok());
            let rotation = leaving.and_then(|(out, at)| Travel::start(at, out).rotation_towards(self.along[1]));
            return rotation.unwrap_or(0.0);
        }
        let plane = |bend: usize| self.along[bend].cross(&self.along[bend + 1]);
        let (before, here) = (plane(bend - 1), plane(bend));
        along.dot(&before.cross(&here)).atan2(before.dot(&here))
    }
}

/// The course that free numbers say; `None` where one is beyond what a job takes.
pub fn course_of(free: &[f64]) -> Option<Centreline> {
    let [lead_a, between @ .., lead_b] = free else { return None };
    let points: Result<Vec<Point>, _> = between.chunks_exact(3).map(|c| Point::new(c[0], c[1], c[2])).collect();
    Some(Centreline::Vertices {
        lead_a: Lead::new(*lead_a).ok()?,
        between: points.ok()?,
        lead_b: Lead::new(*lead_b).ok()?,
    })
}

/// The free numbers of a way; `None` where it has fewer than two bends and so none.
pub(super) fn free_of(way: &Route) -> Option<DesignVector> {
    let Centreline::Vertices { lead_a, between, lead_b } = way.course() else { return None };
    let points = between.iter().flat_map(|point| point.to_array());
    Some([lead_a.get()].into_iter().chain(points).chain([lead_b.get()]).collect())
}

/// Least straights in mm from mouth to mouth of a way with `bends` bends: seats and gaps at the ends, and room for two
/// welds between bends.
pub fn least_straights(run: &ResolvedRun, bends: usize) -> Each<f64> {
    let end = |end: End| run.gap(end) + run.straight_needed(end);
    let mut least = Each::from_elem(super::least_between_bends(run), bends + 1);
    if let (Some(first), true) = (least.first_mut(), bends > 0) {
        *first = end(End::A);
    }
    if let Some(last) = least.last_mut() {
        *last = if bends > 0 { end(End::B) } else { end(End::A) + end(End::B) };
    }
    least
}

/// The same of a way of the run, with room for the joints along it.
pub fn least_straights_of(run: &ResolvedRun, way: &Route) -> Each<f64> {
    let bends = way.course().corners();
    let mut least = least_straights(run, bends);
    for (leg, least) in least.iter_mut().enumerate() {
        let joints: f64 = way.joints_on(leg, 0.0).map(|(_, joint)| 2.0 * super::joint_needs(run, joint).half()).sum();
        let joints = joints + elbows_of_leg(run, way, leg).iter().sum::<f64>();
        // Between bends a joint brings its own room for a weld.
        let inner = leg > 0 && leg < bends;
        *least = if inner { least.max(joints) } else { *least + joints };
    }
    least
}

/// What moulded elbows in place of the bends before and after a leg take of it, in mm.
fn elbows_of_leg(run: &ResolvedRun, way: &Route, leg: usize) -> [f64; 2] {
    let elbow = |bend: Option<usize>| {
        let joint = way.joint_at_bend(way.bends().get(bend?)?.id)?;
        Some(super::joint_needs(run, joint).half())
    };
    [elbow(leg.checked_sub(1)).unwrap_or(0.0), elbow(Some(leg)).unwrap_or(0.0)]
}

/// How much in mm of the tube's straight `leg` is taken at its start and at its end by what is joined there: the joints of the
/// run's ends, and moulded elbows beside it.
pub fn taken_of_leg(run: &ResolvedRun, way: &Route, leg: usize) -> [f64; 2] {
    let [mut before, mut after] = elbows_of_leg(run, way, leg);
    if leg == 0 {
        before = run.straight_needed(End::A);
    }
    if leg == way.course().corners() {
        after = run.straight_needed(End::B);
    }
    [before, after]
}
