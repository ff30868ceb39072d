//! What a pipe has to keep from: every keep-out where its readings put it, the other pipes, and how the engine moves.

use std::collections::HashMap;
use std::sync::Arc;

use nalgebra::{Isometry3, Translation3, Unit, UnitQuaternion};
use parry3d_f64::shape::Triangle;

use crate::clearance::{Convex, Movement, Obstacle, Part, Solid, Span, Stretch, Thing, Turning};
use crate::geometry::{Direction, Mesh, Vector};
use crate::job::Job;
use crate::measure::{End, KeepOut, KeepOutId, KeepOutShape, Mounts, ScanId, ScanUnit, Swing, box_turn, facets};
use crate::route::{Settled, lay};
use crate::survey::Survey;

/// Scans that have been read, each in mm in its file's own axes.
#[derive(Debug, Clone, Default)]
pub struct Scans(HashMap<(ScanId, ScanUnit), Arc<Mesh>>);

impl Scans {
    /// Adds the mesh of a scan whose file is in `unit`.
    pub fn insert(&mut self, scan: ScanId, unit: ScanUnit, mesh: Arc<Mesh>) {
        self.0.insert((scan, unit), mesh);
    }

    /// The mesh of a scan.
    #[must_use]
    pub fn get(&self, scan: &ScanId, unit: ScanUnit) -> Option<&Arc<Mesh>> {
        self.0.get(&(scan.clone(), unit))
    }
}

/// Everything around one run.
#[derive(Debug, Clone)]
pub struct Surroundings {
    /// What is in the way.
    pub obstacles: Vec<Obstacle>,
    /// How the engine moves; `None` where nobody said.
    pub movement: Option<Movement>,
    /// Keep-outs that could not be measured against, since their scan is not here or does not stand anywhere.
    pub unmeasured: Vec<KeepOutId>,
    /// Obstacles that the mouths of A and B stand on, by their places.
    stood_on: [Vec<usize>; 2],
}

/// How deep in mm the far side of a one-sided sheet is kept out: no pipe goes round behind it.
const BEHIND: f64 = 600.0;
/// A thing no further than this from a mouth's rim, in mm, is what the mouth stands on: what a tape is good to.
const STANDS_ON: f64 = 3.0;
/// How far in mm the chords that stand in for another pipe's bends stray from them.
const STRAY: f64 = 0.05;
/// Gap in mm asked for by another pipe. Source: handbook, "The sums", Default gaps: still metal.
const OTHER_PIPE: f64 = 10.0;

impl Surroundings {
    /// What is around `run` in `job`.
    #[must_use]
    pub fn of(job: &Job, survey: &Survey<'_>, run: &Settled, scans: &Scans) -> Self {
        let mut obstacles = Vec::new();
        let mut unmeasured = Vec::new();
        for keep_out in job.keep_outs() {
            match obstacle(survey, keep_out, scans) {
                Some(obstacle) => obstacles.push(obstacle),
                None => unmeasured.push(keep_out.id),
            }
        }
        let others = job.runs().iter().filter(|other| other.id != run.id);
        obstacles.extend(others.filter_map(|other| pipe(&survey.settle(other))));
        let mut all =
            Self { obstacles, movement: job.mounts().and_then(movement), unmeasured, stood_on: Default::default() };
        all.stood_on = [End::A, End::B].map(|end| all.under_the_mouth(run, end));
        all
    }

    /// Nothing around: for jobs without a bay, and tests.
    #[must_use]
    pub fn none() -> Self {
        Self { obstacles: Vec::new(), movement: None, unmeasured: Vec::new(), stood_on: Default::default() }
    }

    /// Whether a stretch need not keep from an obstacle: it is the straight out of a mouth that stands on it, which only
    /// gets further from it.
    #[must_use]
    pub fn excused(&self, stretch: &Stretch, obstacle: usize) -> bool {
        stretch.joint.or(stretch.lead).is_some_and(|end| self.stands_on(end, obstacle))
    }

    /// Whether the mouth at `end` stands on an obstacle.
    #[must_use]
    pub fn stands_on(&self, end: End, obstacle: usize) -> bool {
        let at = match end {
            End::A => 0,
            End::B => 1,
        };
        self.stood_on[at].contains(&obstacle)
    }

    fn under_the_mouth(&self, run: &Settled, end: End) -> Vec<usize> {
        let port = run.port(end);
        let mouth = Stretch {
            span: Span::between(port.at.inner(), port.at.inner()),
            radius: port.od.get() / 2.0,
            rides: port.rides,
            stations: [0.0, 0.0],
            joint: Some(end),
            lead: Some(end),
        };
        let touches = |obstacle: &Obstacle| obstacle.gap_to(&mouth, [0.0, 0.0], None, STANDS_ON).is_some();
        self.obstacles.iter().enumerate().filter(|(_, obstacle)| touches(obstacle)).map(|(i, _)| i).collect()
    }
}

fn movement(mounts: &Mounts) -> Option<Movement> {
    let axis = Direction::of(mounts.from.to(mounts.to)).ok()?;
    let roll = mounts.roll().to_radians();
    let roll = Turning { pivot: mounts.from.inner(), axis: axis.unit(), from: -roll, to: roll };
    Some(Movement { roll, shift: mounts.shift() })
}

fn turning(swing: &Swing) -> Turning {
    let (from, to) = (swing.from.get().to_radians(), swing.to.get().to_radians());
    // At rest it stands where it was measured, whatever its range says.
    Turning { pivot: swing.pivot.inner(), axis: swing.axis.unit(), from: from.min(to), to: from.max(to) }
}

fn obstacle(survey: &Survey<'_>, keep_out: &KeepOut, scans: &Scans) -> Option<Obstacle> {
    let shape = survey.placed(keep_out);
    let swing = keep_out.swing.as_ref().map(turning);
    let solids: Vec<Solid> = match &shape {
        KeepOutShape::Scan(scan) => {
            let mesh = scans.get(&scan.scan, scan.unit)?;
            let pose = survey.scan(scan).ok()?.pose;
            vec![Solid::Mesh(Arc::clone(mesh), pose)]
        }
        KeepOutShape::Plane { centre, normal, size } if swing.is_none() => {
            vec![Solid::Convex(behind(centre.inner(), *normal, *size))]
        }
        shape => rooms(shape).into_iter().map(Solid::Convex).collect(),
    };
    let parts = solids.into_iter().map(|solid| Part::new(solid, swing)).collect();
    let thing = Thing::KeepOut { keep_out: keep_out.id };
    Some(Obstacle::new(thing, keep_out.name.clone(), keep_out.gap(), Some(keep_out.rides), parts))
}

/// The convex rooms of a shape that is no scan.
fn rooms(shape: &KeepOutShape) -> Vec<Convex> {
    match shape {
        KeepOutShape::Box { centre, size, heading, pitch } => {
            let turn = UnitQuaternion::from_rotation_matrix(&box_turn(*heading, *pitch));
            let pose = Isometry3::from_parts(Translation3::from(centre.inner().coords), turn);
            vec![Convex::Block { inward: pose.inverse(), half: Vector::from(*size) / 2.0 }]
        }
        KeepOutShape::Cylinder { from, to, diameter } => {
            let way = from.to(*to);
            vec![Convex::Drum {
                middle: nalgebra::center(&from.inner(), &to.inner()),
                axis: way.normalize(),
                half: way.norm() / 2.0,
                radius: diameter.get() / 2.0,
            }]
        }
        KeepOutShape::Sphere { centre, diameter } => {
            vec![Convex::Ball { centre: centre.inner(), radius: diameter / 2.0 }]
        }
        KeepOutShape::Line { points, diameter } => {
            let bar = |pair: &[crate::geometry::Point]| Convex::Bar {
                from: pair[0].inner(),
                way: pair[0].to(pair[1]),
                radius: diameter / 2.0,
            };
            points.windows(2).map(bar).collect()
        }
        KeepOutShape::Plane { .. } | KeepOutShape::Sheet { .. } | KeepOutShape::Scan(_) => {
            let flat = facets(shape);
            let corner = |index: u32| flat.vertices[index as usize].into();
            flat.triangles.iter().map(|t| Convex::Facet(Triangle::from(t.map(corner)))).collect()
        }
    }
}

/// A one-sided sheet with the room behind it.
fn behind(centre: nalgebra::Point3<f64>, normal: Direction, size: [f64; 2]) -> Convex {
    let flat = facets(&KeepOutShape::Plane { centre: crate::geometry::Point::default(), normal, size });
    // The sheet's own sides, as it is drawn.
    let side = |from: usize, to: usize| {
        let along = Vector::from(flat.vertices[to]) - Vector::from(flat.vertices[from]);
        Unit::new_normalize(along)
    };
    let (x, z) = (side(0, 1), normal.unit());
    let y = Unit::new_normalize(z.cross(&x));
    let turn = nalgebra::Rotation3::from_matrix_unchecked(nalgebra::Matrix3::from_columns(&[
        x.into_inner(),
        y.into_inner(),
        z.into_inner(),
    ]));
    let middle = centre - normal.vector() * (BEHIND / 2.0);
    let pose = Isometry3::from_parts(Translation3::from(middle.coords), UnitQuaternion::from_rotation_matrix(&turn));
    Convex::Block { inward: pose.inverse(), half: Vector::new(size[0] / 2.0, size[1] / 2.0, BEHIND / 2.0) }
}

/// Another pipe, where it joins its ports.
fn pipe(other: &Settled) -> Option<Obstacle> {
    let whole = lay(other, other.way.as_ref()?).ok()?;
    let radius = other.tube.od() / 2.0 + other.insulation();
    let bar = |from: nalgebra::Point3<f64>, to: nalgebra::Point3<f64>| Convex::Bar { from, way: to - from, radius };
    let mut travel = whole.setting_out();
    let mut rooms = Vec::new();
    for leg in whole.legs() {
        let next = travel.straight(leg.straight);
        rooms.push(bar(travel.at, next.at));
        let bend = next.clocked(leg.bend.rotation);
        let step = 2.0 * (1.0 - 2.0 * STRAY / leg.bend.radius).clamp(0.0, 1.0).acos();
        let count = (leg.bend.angle / step).ceil().max(1.0);
        let mut k = 0.0;
        while k < count {
            let [from, to] = [k, k + 1.0].map(|k| bend.bend(leg.bend.radius, leg.bend.angle * k / count).at);
            rooms.push(bar(from, to));
            k += 1.0;
        }
        travel = bend.bend(leg.bend.radius, leg.bend.angle);
    }
    rooms.push(bar(travel.at, travel.straight(whole.last()).at));
    let parts = rooms.into_iter().map(|room| Part::new(Solid::Convex(room), None)).collect();
    // Pipes between the same two sides move alike; until joints say better they are measured as they stand.
    Some(Obstacle::new(Thing::Run { run: other.id }, other.name.clone(), OTHER_PIPE, None, parts))
}
