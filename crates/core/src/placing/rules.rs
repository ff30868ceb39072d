//! What a component's place is judged by, beside what it comes too near to.

use nalgebra::{Isometry3, Point2, Point3, UnitQuaternion};

use super::outline::{area, clipped};
use crate::environment::{Scans, keep_out_obstacle};
use crate::job::Job;
use crate::measure::{BoxFace, Component, ComponentId, KeepOutId, KeepOutShape, Opening, box_turn};
use crate::survey::Survey;
use nook_geometry::Vector;
use nook_geometry::clearance::{Convex, Obstacle, Part, Rides, Solid};

/// A face of a box where it stands, in mm, vehicle axes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Face {
    /// Its middle.
    pub middle: Point3<f64>,
    /// Out of the box, of length 1.
    pub out: Vector,
    /// Along its two sides, each half as long as they are.
    pub half: [Vector; 2],
}

impl Face {
    /// The face of a box; `None` where the shape is none.
    #[must_use]
    pub fn of(shape: &KeepOutShape, face: BoxFace) -> Option<Self> {
        let KeepOutShape::Box { centre, size, heading, pitch, roll } = shape else { return None };
        let turn = box_turn(*heading, *pitch, *roll);
        let own = face.normal().map(f64::from);
        let along = own.iter().position(|part| *part != 0.0)?;
        let axis = |index: usize| turn * Vector::ith(index, 1.0);
        let out = turn * Vector::from(own);
        let side = |index: usize| axis(index) * (size[index] / 2.0);
        let others: Vec<usize> = (0..3).filter(|index| *index != along).collect();
        Some(Self { middle: centre.inner() + out * (size[along] / 2.0), out, half: [side(others[0]), side(others[1])] })
    }

    /// Its corners in order round it.
    #[must_use]
    pub fn corners(&self) -> [Point3<f64>; 4] {
        [[-1.0, -1.0], [1.0, -1.0], [1.0, 1.0], [-1.0, 1.0]]
            .map(|[p, q]| self.middle + self.half[0] * p + self.half[1] * q)
    }
}

/// What of a breathing face the opening shows.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Shown {
    /// The share of the face, seen square to the opening, that lies within its outline; 0 where the face looks away from it.
    pub share: f64,
    /// How far the face's middle lies to the left of the opening's, in mm.
    pub aside: f64,
    /// How far it lies above it, in mm.
    pub above: f64,
}

/// The core ahead of a breathing face.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Core {
    /// Whose it is.
    pub component: ComponentId,
    /// From the face to the core's back, in mm, at the corner where they are furthest apart.
    pub gap: f64,
}

/// How a component stands over the ground.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Ground {
    /// From the flat ground up to its lowest place in mm, the wheels at full bump.
    pub flat: f64,
    /// From the ramp up to its lowest place in mm, square to it, the wheels as they stand; the ramp begins where the tyres
    /// touch, which is a little on the safe side of a tyre that rolls up to it.
    pub ramp: f64,
    /// The steepest ramp in degrees that it clears; 45 where it clears that.
    pub steepest: f64,
}

/// Room before a face.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hand {
    /// How deep in mm nothing stands before the face, up to what is asked.
    pub free: f64,
    /// What is asked.
    pub wanted: f64,
    /// What stands in the way.
    pub by: Option<KeepOutId>,
}

/// What a component's place is judged by.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Rules {
    /// What the opening shows of its breathing face.
    pub shown: Option<Shown>,
    /// How far its body hangs out of level from side to side, in degrees, left side up.
    pub level: Option<f64>,
    /// The core ahead of its breathing face.
    pub core: Option<Core>,
    /// How it stands over the ground.
    pub ground: Option<Ground>,
    /// Room for a hand.
    pub hand: Option<Hand>,
}

/// Judges where a component stands. What cannot be told is `None`: a face it does not breathe by, an opening nobody named.
#[must_use]
pub fn rules(job: &Job, survey: &Survey<'_>, component: &Component, scans: &Scans) -> Rules {
    let face = |body: KeepOutId, face: BoxFace| Face::of(&survey.placed(job.keep_out(body)?), face);
    let breathes = component.breathing.and_then(|breathing| face(breathing.body, breathing.face));
    let opening = component.breathing.and_then(|breathing| job.opening(breathing.through?));
    let first = component.body.first().and_then(|body| job.keep_out(*body)).map(|body| survey.placed(body));
    Rules {
        shown: breathes.zip(opening).and_then(|(face, opening)| shown(&face, opening)),
        level: first.as_ref().and_then(level),
        core: breathes.and_then(|face| core_ahead(job, survey, component, &face)),
        ground: over_ground(job, survey, &component.body, scans),
        hand: component.wishes.hand.and_then(|hand| {
            Some(room_before(job, survey, component, &face(hand.body, hand.face)?, hand.depth(), scans))
        }),
    }
}

/// What of a face an opening shows; `None` where its outline spans no plane.
fn shown(face: &Face, opening: &Opening) -> Option<Shown> {
    let (middle, through) = opening.plane()?;
    let (origin, through) = (middle.inner(), through.vector());
    // Across and up in the opening, as the car stands.
    let across = through.cross(&Vector::z()).try_normalize(1e-6).unwrap_or_else(Vector::y);
    let up = across.cross(&through);
    let flat = |at: &Point3<f64>| Point2::new((at - origin).dot(&across), (at - origin).dot(&up));
    let anticlockwise = |mut outline: Vec<Point2<f64>>| {
        if area(&outline).0 < 0.0 {
            outline.reverse();
        }
        outline
    };
    let outline = anticlockwise(opening.outline.iter().map(|point| flat(&point.inner())).collect());
    let window = anticlockwise(face.corners().iter().map(flat).collect());
    let (whole, _) = area(&window);
    let centre = area(&outline).1?;
    let centre = origin + across * centre.x + up * centre.y;
    let off = face.middle - centre;
    // It breathes what comes at it: an opening behind it, or beside a face on edge, shows nothing.
    let towards = through * (origin - face.middle).dot(&through).signum();
    let looks_at_it = face.out.dot(&towards) > 0.0;
    let share = if looks_at_it && whole > EDGE_ON { area(&clipped(&outline, &window)).0.abs() / whole } else { 0.0 };
    Some(Shown { share: share.clamp(0.0, 1.0), aside: off.y, above: off.z })
}

/// A face seen so narrow, in mm2, is on edge.
const EDGE_ON: f64 = 1.0;

fn level(shape: &KeepOutShape) -> Option<f64> {
    let KeepOutShape::Box { heading, pitch, roll, .. } = shape else { return None };
    Some((box_turn(*heading, *pitch, *roll) * Vector::y()).z.clamp(-1.0, 1.0).asin().to_degrees())
}

/// Cores overlap where more than this share of the smaller face lies behind the other.
const BEHIND: f64 = 0.1;

/// The nearest core ahead of a face, by what else of the job breathes.
fn core_ahead(job: &Job, survey: &Survey<'_>, component: &Component, face: &Face) -> Option<Core> {
    let others = job.components().iter().filter(|other| other.id != component.id);
    let cores = others.filter_map(|other| {
        let breathing = other.breathing?;
        let back = Face::of(&survey.placed(job.keep_out(breathing.body)?), breathing.face.opposite())?;
        let ahead = (back.middle - face.middle).dot(&face.out);
        if ahead < 0.0 || back.out.dot(&face.out) >= 0.0 || !overlap(face, &back) {
            return None;
        }
        let corners = back.corners();
        let gap = corners.iter().map(|corner| (corner - face.middle).dot(&face.out)).fold(f64::NEG_INFINITY, f64::max);
        Some((ahead, Core { component: other.id, gap }))
    });
    cores.min_by(|p, q| p.0.total_cmp(&q.0)).map(|(_, core)| core)
}

/// Whether two faces lie before each other, seen along the first.
fn overlap(face: &Face, other: &Face) -> bool {
    let axes = face.half.map(|half| half.normalize());
    let flat = |at: &Point3<f64>| Point2::new((at - face.middle).dot(&axes[0]), (at - face.middle).dot(&axes[1]));
    let window: Vec<_> = face.corners().iter().map(flat).collect();
    let back: Vec<_> = other.corners().iter().map(flat).collect();
    let (own, its) = (area(&window).0.abs(), area(&back).0.abs());
    area(&clipped(&back, &window)).0.abs() > BEHIND * own.min(its)
}

/// Steps of halving the angle between a ramp that is cleared and one that is not: 45 degrees to a thousandth.
const HALVINGS: u32 = 16;
/// The steepest ramp in degrees that is asked for.
const STEEPEST: f64 = 45.0;

/// How things stand over the ground; `None` where nobody said how the car stands, or they take no room.
#[must_use]
pub fn over_ground(job: &Job, survey: &Survey<'_>, things: &[KeepOutId], scans: &Scans) -> Option<Ground> {
    let stance = job.stance()?;
    let rooms: Vec<Obstacle> = things
        .iter()
        .filter_map(|body| job.keep_out(*body))
        .filter_map(|body| keep_out_obstacle(survey, body, scans))
        .collect();
    if rooms.is_empty() {
        return None;
    }
    let (front, rear) = (stance.front.inner(), stance.rear.inner());
    let ahead = (front - rear).normalize();
    // The stance's check keeps it from standing upright.
    let up = Vector::y().cross(&ahead).try_normalize(1e-9)?;
    let up = if up.z < 0.0 { -up } else { up };
    let over = |normal: Vector, from: &Point3<f64>| {
        let lowest = |room: &Obstacle| -room.support(&-normal);
        rooms.iter().map(lowest).fold(f64::INFINITY, f64::min) - normal.dot(&from.coords)
    };
    let ramp = |degrees: f64| {
        let (sin, cos) = degrees.to_radians().sin_cos();
        over(up * cos - ahead * sin, &front).min(over(up * cos + ahead * sin, &rear))
    };
    let (mut clears, mut scrapes) = (0.0, STEEPEST);
    if ramp(STEEPEST) >= 0.0 {
        clears = STEEPEST;
    } else {
        for _ in 0..HALVINGS {
            let middle = f64::midpoint(clears, scrapes);
            if ramp(middle) >= 0.0 { clears = middle } else { scrapes = middle }
        }
    }
    Some(Ground { flat: over(up, &front) - stance.travel(), ramp: ramp(stance.ramp()), steepest: clears })
}

/// What is flush with a face to this many mm does not stand before it.
const FLUSH: f64 = 0.5;

/// How deep nothing stands before a face. Pipes are left out: what a hand wants to reach is reached with them off.
fn room_before(job: &Job, survey: &Survey<'_>, component: &Component, face: &Face, wanted: f64, scans: &Scans) -> Hand {
    let own = |id: &KeepOutId| component.body.contains(id);
    let others = job.keep_outs().iter().filter(|one| !own(&one.id));
    // As it stands: no hand goes in while the engine runs or a lid swings.
    let mut hand = Hand { free: wanted, wanted, by: None };
    for other in others {
        let Some(room) = keep_out_obstacle(survey, other, scans) else { continue };
        let meets = |depth: f64| slab(face, depth).closest(&room).is_some_and(|near| near.gap <= 0.0);
        if hand.free <= 2.0 * FLUSH || !meets(hand.free) {
            continue;
        }
        let (mut free, mut taken) = (0.0, hand.free);
        for _ in 0..HALVINGS {
            let middle = f64::midpoint(free, taken);
            if middle <= 2.0 * FLUSH || !meets(middle) { free = middle } else { taken = middle }
        }
        hand = Hand { free, by: Some(other.id), ..hand };
    }
    hand
}

/// The room before a face, from just off it to `depth` mm.
fn slab(face: &Face, depth: f64) -> Obstacle {
    let [p, q] = face.half;
    let thick = (depth - FLUSH) / 2.0;
    let axes = nalgebra::Matrix3::from_columns(&[p.normalize(), q.normalize(), p.normalize().cross(&q.normalize())]);
    let turn = UnitQuaternion::from_matrix(&axes);
    let middle = face.middle + face.out * (FLUSH + thick);
    let inward = Isometry3::from_parts(middle.coords.into(), turn).inverse();
    let half = Vector::new(p.norm(), q.norm(), thick);
    Obstacle::new(0.0, vec![Part::new(Solid::Convex(Convex::Block { inward, half }), None, Rides::Body)])
}
