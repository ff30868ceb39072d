//! What a pipe has to keep from: every keep-out where its readings put it, the other pipes, and how the engine moves.

use std::collections::HashMap;
use std::sync::Arc;

use nalgebra::{Isometry3, Point3, Translation3, Unit, UnitQuaternion};
use parry3d_f64::shape::Triangle;
use serde::Serialize;
use utoipa::ToSchema;

use crate::job::Job;
use crate::measure::{
    End, KeepOut, KeepOutId, KeepOutKind, KeepOutShape, Mounts, Port, RunId, ScanId, ScanUnit, Side, Swing, box_turn,
    facets,
};
use crate::neighbours::{STANDS_ON, is_end_of, on_stubs, pipe_past, stub_ends};
use crate::route::ResolvedRun;
use crate::stock::Duty;
use crate::survey::Survey;
use nook_geometry::clearance::{
    Convex, Counted, Envelope, EnvelopePart, Movement, Obstacle, Part, Rides, Solid, Span, Turning, nearest,
};
use nook_geometry::units::Name;
use nook_geometry::{Direction, Mesh, Vector};

/// Scans that have been read, each in mm in its file's own axes.
#[derive(Debug, Clone, Default)]
pub struct Scans(HashMap<(ScanId, ScanUnit), Arc<Mesh>>);

impl Scans {
    /// Adds the mesh of a scan whose file is in `unit`.
    pub fn insert(&mut self, scan: ScanId, unit: ScanUnit, mesh: Arc<Mesh>) {
        self.0.insert((scan, unit), mesh);
    }

    /// How many there are.
    #[must_use]
    pub fn count(&self) -> usize {
        self.0.len()
    }

    /// The mesh of a scan.
    #[must_use]
    pub fn get(&self, scan: &ScanId, unit: ScanUnit) -> Option<&Arc<Mesh>> {
        self.0.get(&(scan.clone(), unit))
    }
}

/// What a pipe may come too near to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, ToSchema)]
#[serde(tag = "is", rename_all = "snake_case")]
pub enum Thing {
    /// A keep-out.
    KeepOut {
        /// Which.
        keep_out: KeepOutId,
    },
    /// Another pipe of the job.
    Run {
        /// Which.
        run: RunId,
    },
    /// The pipe itself, further along.
    Itself,
}

/// An obstacle's identity.
#[derive(Debug, Clone)]
pub struct Identity {
    /// What it is.
    pub thing: Thing,
    /// What it is called.
    pub name: Name,
    /// Whether it is a live terminal, which no tool may face.
    pub live: bool,
    /// Whether a support can be bolted to it: metal that stands still and is no component's body.
    pub holds: bool,
}

/// Everything around one run.
#[derive(Debug, Clone)]
pub struct Environment {
    /// What is in the way.
    pub obstacles: Vec<Obstacle>,
    /// Which each of them is, in the same order.
    pub identities: Vec<Identity>,
    /// How the engine moves; `None` where nobody said.
    pub movement: Option<Movement>,
    /// Keep-outs that could not be measured against, since their scan is not here or does not stand anywhere.
    pub unmeasured: Vec<KeepOutId>,
    /// Ends of stubs let into other pipes: which obstacle that is, the middle of its end, and the way out.
    stubs: Vec<(usize, Point3<f64>, Vector)>,
    /// Pipes that go on from stubs of the run itself: which obstacle each is, and the middle of the stub's end.
    going_on: Vec<(usize, Point3<f64>)>,
    /// What the mouths of A and B stand on.
    footing: [Footing; 2],
}

/// What one mouth stands on.
#[derive(Debug, Clone, Default)]
struct Footing {
    /// Obstacles that touch the mouth's disc, by their places.
    on: Vec<usize>,
    /// How far from the mouth, in mm, the pipe need not keep from them.
    reach: f64,
    /// How long the fitting on it is, in mm, which is before the first station.
    fitted: f64,
}

/// Distances below this, in mm, are none.
const TOUCH: f64 = 1e-6;
/// How deep in mm the far side of a one-sided sheet is kept out: no pipe goes round behind it.
const BEHIND: f64 = 600.0;
/// Gap in mm between two pipes: as still metal, and as of exhaust where one of them is. Source: handbook, "The sums",
/// Default gaps.
const OTHER_PIPE: f64 = 10.0;
const HOT_PIPE: f64 = 50.0;
/// Gap in mm a pipe keeps from itself: it does not move against itself, but is still metal that a torch and a hand go
/// round. Source: as above.
pub const FROM_ITSELF: f64 = 10.0;

impl Environment {
    /// What is around `run` in `job`.
    #[must_use]
    pub fn of(job: &Job, survey: &Survey<'_>, run: &ResolvedRun, scans: &Scans) -> Self {
        let (mut obstacles, mut identities) = (Vec::new(), Vec::new());
        let (mut unmeasured, mut stubs) = (Vec::new(), Vec::new());
        for keep_out in job.keep_outs() {
            match obstacle(survey, keep_out, keep_out.gap_for(run.duty), scans) {
                Some(obstacle) => {
                    obstacles.push(obstacle);
                    let thing = Thing::KeepOut { keep_out: keep_out.id };
                    let live = keep_out.kind == KeepOutKind::LiveTerminal;
                    // A radiator or an air box hangs on something itself.
                    let of_box = job.components().iter().any(|one| one.body.contains(&keep_out.id));
                    let holds = keep_out.kind == KeepOutKind::StillMetal && keep_out.swing.is_none() && !of_box;
                    identities.push(Identity { thing, name: keep_out.name.clone(), live, holds });
                }
                None => unmeasured.push(keep_out.id),
            }
        }
        let (own_stubs, mut going_on) = (stub_ends(run), Vec::new());
        for other in job.runs().iter().filter(|other| other.id != run.id) {
            let hot = [run.duty, other.duty].contains(&Duty::Exhaust);
            let settled = survey.settle(other);
            let gap = if hot { HOT_PIPE } else { OTHER_PIPE };
            if let Some(obstacle) = pipe_past(&settled, gap, on_stubs(&settled, &own_stubs)) {
                let met = [End::A, End::B].into_iter().filter(|end| !settled.is_open(*end));
                let met = met.filter_map(|end| own_stubs.iter().find(|stub| is_end_of(settled.port(end), stub)));
                going_on.extend(met.map(|(tip, _)| (obstacles.len(), *tip)));
                let ends = stub_ends(&settled).into_iter();
                stubs.extend(ends.map(|(tip, out)| (obstacles.len(), tip, out)));
                obstacles.push(obstacle);
                let thing = Thing::Run { run: other.id };
                identities.push(Identity { thing, name: other.name.clone(), live: false, holds: false });
            }
        }
        let movement = job.mounts().and_then(Mounts::movement);
        Self { obstacles, identities, movement, unmeasured, stubs, going_on, footing: Default::default() }
            .around_mouths_of(run)
    }

    /// What a support can be bolted to that rides with something.
    pub fn holders(&self, rides: Rides) -> impl Iterator<Item = (&Obstacle, Thing)> {
        let each = self.obstacles.iter().zip(&self.identities);
        let with = each.filter(move |(obstacle, identity)| identity.holds && obstacle.rides_with(rides));
        with.map(|(obstacle, identity)| (obstacle, identity.thing))
    }

    /// What a thing is called.
    #[must_use]
    pub fn name_of(&self, thing: Thing) -> String {
        let known = self.identities.iter().find(|identity| identity.thing == thing);
        known.map_or_else(|| "pipe itself".to_owned(), |identity| identity.name.as_str().to_owned())
    }

    /// Nothing around: for jobs without a bay, and tests.
    #[must_use]
    pub fn none() -> Self {
        Self {
            obstacles: Vec::new(),
            identities: Vec::new(),
            movement: None,
            unmeasured: Vec::new(),
            stubs: Vec::new(),
            going_on: Vec::new(),
            footing: Default::default(),
        }
    }

    /// The same around a run whose mouths stand elsewhere.
    pub(crate) fn around_mouths_of(self, run: &ResolvedRun) -> Self {
        let footing = [End::A, End::B].map(|end| self.footing_of(run, end));
        Self { footing, ..self }
    }

    /// Whether the mouth at an end stands on an obstacle, by its place.
    #[must_use]
    pub fn stands_on(&self, end: End, obstacle: usize) -> bool {
        self.footing[usize::from(end == End::B)].on.contains(&obstacle)
    }

    /// Whether an obstacle, by its place, is a pipe that goes on from the stub of the run whose end is there.
    #[must_use]
    pub(crate) fn goes_on_from(&self, tip: &Point3<f64>, obstacle: usize) -> bool {
        self.going_on.iter().any(|(of, end)| *of == obstacle && (end - tip).norm() < TOUCH)
    }

    /// The stations between which a pipe of `length` mm must keep from an obstacle, if its tube nowhere runs into it. Fittings at
    /// its ends lie before 0 and beyond its length.
    #[must_use]
    pub fn limits(&self, obstacle: usize, length: f64) -> Option<[f64; 2]> {
        let stands = |footing: &Footing| footing.on.contains(&obstacle);
        let from = |footing: &Footing| (if stands(footing) { footing.reach } else { 0.0 }) - footing.fitted;
        let [a, b] = &self.footing;
        (stands(a) || stands(b)).then(|| [from(a), length - from(b)])
    }

    /// What of a pipe must keep from each obstacle: all of it, but for the first diameter from a mouth where that stands
    /// on the obstacle and the tube does not run into it. `radius` is the tube's own, in mm.
    #[must_use]
    pub fn counted<'a>(&self, pipe: &'a Envelope, radius: f64) -> Counted<'a> {
        let mut counted = Counted::whole(pipe);
        for (index, obstacle) in self.obstacles.iter().enumerate() {
            let Some([a, b]) = self.limits(index, pipe.length()) else { continue };
            let [begin, end] = [-self.footing[0].fitted, pipe.length() + self.footing[1].fitted];
            let apart = |zone: [f64; 2]| {
                let beyond = |part: &&EnvelopePart| part.stations[0] < 0.0 || part.stations[1] > pipe.length();
                let core = pipe.tube().iter().chain(pipe.over().iter().filter(beyond)).filter_map(|stretch| {
                    let thin = EnvelopePart { radius: radius - STANDS_ON, ..*stretch };
                    Some(EnvelopePart { square: [true; 2], ..thin.between(zone)? })
                });
                let core: Vec<EnvelopePart> = core.collect();
                nearest(&core, obstacle, None, TOUCH).is_none_or(|near| near.gap >= 0.0)
            };
            // Where the tube is in the thing, nothing is excused.
            let from = if a > begin && apart([begin + STANDS_ON, a]) { a } else { begin };
            let to = if b < end && apart([b, end - STANDS_ON]) { b } else { end };
            if from > begin || to < end {
                counted.limit(index, [from, to]);
            }
        }
        counted
    }

    /// What of a pipe as it was built must keep from each obstacle: all but the first diameter from a mouth that stands on it. Where such
    /// a mouth is found to be elsewhere its component is too, and how the pipe enters that is judged as planned.
    #[must_use]
    pub fn counted_past_mouths<'a>(&self, pipe: &'a Envelope) -> Counted<'a> {
        let mut counted = Counted::whole(pipe);
        for index in 0..self.obstacles.len() {
            if let Some(zone) = self.limits(index, pipe.length()) {
                counted.limit(index, zone);
            }
        }
        counted
    }

    /// What the mouth at `end` stands on: keep-outs that touch its disc, and pipes whose skin its middle lies on, as long as
    /// they ride with it; and the stub whose end it is, which takes it along however it moves.
    fn footing_of(&self, run: &ResolvedRun, end: End) -> Footing {
        // A mouth in the air stands on nothing, however near something is.
        if run.is_open(end) {
            return Footing::default();
        }
        let port = run.port(end);
        let rides = run.mouth_rides(end);
        let at = port.at.inner();
        let disc = |radius: f64| EnvelopePart {
            span: Span::between(at, at + port.out.vector() * 1e-3),
            radius,
            rides,
            stations: [0.0, 1e-3],
            square: [true; 2],
        };
        let (mouth, middle) = (disc(port.od.get() / 2.0), disc(1e-3));
        let is_end = |index: usize| {
            let ends = self.stubs.iter().filter(|(of, ..)| *of == index);
            ends.into_iter().any(|(_, tip, out)| is_end_of(port, &(*tip, *out)))
        };
        let touches = |index: usize, obstacle: &Obstacle, identity: &Identity| {
            if is_end(index) {
                return true;
            }
            let disc = if matches!(identity.thing, Thing::Run { .. }) { &middle } else { &mouth };
            // What swings or moves past a mouth is not what it stands on.
            let moves = obstacle.swings() || (self.movement.is_some() && obstacle.moves_against(rides));
            !moves && nearest([disc], obstacle, None, STANDS_ON).is_some()
        };
        let each = self.obstacles.iter().zip(&self.identities).enumerate();
        let on = each.filter(|(index, (obstacle, identity))| touches(*index, obstacle, identity));
        let on = on.map(|(index, _)| index).collect();
        let fitted = run.fitted(end).map_or(0.0, |fitted| fitted.length());
        Footing { on, reach: port.od.get().max(run.tube.od()), fitted }
    }
}

impl From<Side> for Rides {
    fn from(side: Side) -> Self {
        match side {
            Side::Body => Self::Body,
            Side::Engine => Self::Engine,
        }
    }
}

fn turning(swing: &Swing) -> Turning {
    let (from, to) = (swing.from.get().to_radians(), swing.to.get().to_radians());
    // At rest it stands where it was measured, whatever its range says.
    Turning { pivot: swing.pivot.inner(), axis: swing.axis.unit(), from: from.min(to), to: from.max(to) }
}

/// Half the thickness in mm of the disc that stands for a mouth.
const THIN: f64 = 1e-3;

/// The disc of a mouth as something to measure to.
pub(crate) fn mouth_obstacle(port: &Port) -> Obstacle {
    let (middle, axis, radius) = (port.at.inner(), port.out.vector(), port.od.get() / 2.0);
    let disc = Solid::Convex(Convex::Drum { middle, axis, half: THIN, radius });
    Obstacle::new(0.0, vec![Part::new(disc, None, port.rides.into())])
}

/// How far behind a mouth, in mm, its neck is looked for in the box it belongs to.
const NECK: f64 = 60.0;

/// The neck behind a mouth as something to measure to.
pub(crate) fn neck_obstacle(port: &Port) -> Obstacle {
    let (axis, radius) = (port.out.vector(), port.od.get() / 2.0);
    let neck = Convex::Drum { middle: port.at.inner() - axis * (NECK / 2.0), axis, half: NECK / 2.0, radius };
    Obstacle::new(0.0, vec![Part::new(Solid::Convex(neck), None, port.rides.into())])
}

/// A keep-out as something to measure to; `None` where its scan is not here or does not stand anywhere.
pub(crate) fn keep_out_obstacle(survey: &Survey<'_>, keep_out: &KeepOut, scans: &Scans) -> Option<Obstacle> {
    obstacle(survey, keep_out, keep_out.gap(), scans)
}

fn obstacle(survey: &Survey<'_>, keep_out: &KeepOut, gap: f64, scans: &Scans) -> Option<Obstacle> {
    let shape = survey.placed(keep_out);
    let swing = survey.swing(keep_out).as_ref().map(turning);
    let solids: Vec<Solid> = match &shape {
        KeepOutShape::Scan(scan) => {
            let mesh = scans.get(&scan.scan, scan.unit)?;
            let pose = survey.scan(keep_out.id, scan).ok()?.pose;
            vec![Solid::Mesh(Arc::clone(mesh), pose)]
        }
        KeepOutShape::Plane { centre, normal, size } if swing.is_none() => {
            vec![Solid::Convex(behind(centre.inner(), *normal, *size))]
        }
        shape => rooms(shape).into_iter().map(Solid::Convex).collect(),
    };
    let parts = solids.into_iter().map(|solid| Part::new(solid, swing, keep_out.rides.into())).collect();
    Some(Obstacle::new(gap, parts))
}

/// What a shape takes as something to measure to, as it stands; nothing for a scan.
pub(crate) fn shape_obstacle(shape: &KeepOutShape) -> Obstacle {
    let rooms = rooms(shape).into_iter();
    Obstacle::new(0.0, rooms.map(|room| Part::new(Solid::Convex(room), None, Rides::Body)).collect())
}

/// The convex rooms of a shape that is no scan.
fn rooms(shape: &KeepOutShape) -> Vec<Convex> {
    match shape {
        KeepOutShape::Box { centre, size, heading, pitch, roll } => {
            let turn = UnitQuaternion::from_rotation_matrix(&box_turn(*heading, *pitch, *roll));
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
            let bar = |pair: &[nook_geometry::Point]| Convex::Bar {
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
    let flat = facets(&KeepOutShape::Plane { centre: nook_geometry::Point::default(), normal, size });
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
