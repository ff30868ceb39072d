//! Clearance by brute force: a pipe as thousands of places, moved to many poses, each place's distance worked out from the
//! definition of every thing. Slow and plain. Where sections come to rest it asks the one solver, which is held against
//! reference numbers elsewhere; how they move in between, and how far, it finds by trying.

#![allow(dead_code, unreachable_pub, clippy::unwrap_used, reason = "each test target uses its own part of this module")]

use nalgebra::{Isometry3, Point3, Rotation3, Translation3, Unit, UnitQuaternion, Vector3};
use nook_core::join::SupportKind;
use nook_core::measure::{End, KeepOutShape, Side};
use nook_core::route::{LegEnd, ResolvedRun, build_path};
use nook_core::{Job, Run, RunId};
use nook_geometry::linkage::{Compliance, Linkage, LinkageJoint};

use crate::crowded::Solid;

type P3 = Point3<f64>;
type V3 = Vector3<f64>;

/// A place on a pipe's centre line.
#[derive(Debug, Clone, Copy)]
pub struct Place {
    pub station: f64,
    pub at: P3,
    pub along: V3,
}

/// A pipe as a plain line with the radius it has.
pub struct Line {
    pub places: Vec<Place>,
    pub length: f64,
    pub radius: f64,
    /// Hoses: from, to (stations), radius.
    pub hoses: Vec<[f64; 3]>,
    /// What each part rides on, from A: gap, tube, gap, and so on, with the station it ends at.
    pub rides: Vec<(f64, Ride)>,
    mouths: [(P3, V3, f64, Ride); 2],
    /// What of its supports is round it: from, to (stations), radius, and the things it may touch since it is bolted to them.
    pub bands: Vec<([f64; 3], Vec<String>)>,
    /// Its sections between joints that give; where anything of it moves against itself.
    chains: Option<Chains>,
}

/// A pipe parted where something holds it: for each stretch the section it begins with, its joints, and whether its two ends
/// ride on the engine.
struct Chains {
    each: Vec<(usize, Linkage, [bool; 2])>,
    /// For each section whether it is held on the engine, or on the body, or on nothing.
    held: Vec<Option<bool>>,
    /// Whether the ports ride on the engine.
    on_engine: [bool; 2],
}

/// What moves with what.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Ride {
    Body,
    Engine,
    /// Any share of the engine's movement.
    Between,
    /// A section between joints that give, from A.
    Section(usize),
    /// The hose before a section, or past the last.
    Hose(usize),
}

impl From<Side> for Ride {
    fn from(side: Side) -> Self {
        if side == Side::Body { Self::Body } else { Self::Engine }
    }
}

impl Line {
    /// A run's pipe along the way it takes; `None` where it takes none.
    pub fn of(run: &Run) -> Option<Self> {
        let settled = ResolvedRun::as_typed(run);
        let path = build_path(&settled, settled.way()?).ok()?;
        // Walked anew from vertices and radii, with sines and cosines of its own.
        let vertices = path.vertices();
        let mut at = P3::from(run.a.at.to_array());
        let mut along = run.a.out.vector();
        let end = P3::from(run.b.at.to_array());
        let mut places = vec![Place { station: 0.0, at, along }];
        let mut station = 0.0;
        let mut straights: Vec<[f64; 2]> = Vec::new();
        let mut arcs: Vec<([f64; 2], f64)> = Vec::new();
        let step = 2.0;
        let go = |from: P3, along: V3, length: f64, station: &mut f64, places: &mut Vec<Place>| {
            let count = (length / step).ceil().max(1.0);
            let mut k = 1.0;
            while k <= count {
                let s = length * k / count;
                places.push(Place { station: *station + s, at: from + along * s, along });
                k += 1.0;
            }
            *station += length;
        };
        for (index, vertex) in vertices.iter().enumerate() {
            let next = vertices.get(index + 1).copied().unwrap_or(end);
            let after = (next - vertex).normalize();
            let radius = path.legs()[index].bend.radius;
            let angle = along.cross(&after).norm().atan2(along.dot(&after));
            let setback = radius * (angle / 2.0).tan();
            let tangent = vertex - along * setback;
            straights.push([station, station + (tangent - at).norm()]);
            go(at, along, (tangent - at).norm(), &mut station, &mut places);
            let inward = (after - along * angle.cos()) / angle.sin();
            let count = (radius * angle / step).ceil().max(1.0);
            let mut k = 1.0;
            while k <= count {
                let t = angle * k / count;
                places.push(Place {
                    station: station + radius * t,
                    at: tangent + along * (radius * t.sin()) + inward * (radius * (1.0 - t.cos())),
                    along: along * t.cos() + inward * t.sin(),
                });
                k += 1.0;
            }
            arcs.push(([station, station + radius * angle], angle.to_degrees()));
            station += radius * angle;
            (at, along) = (vertex + after * setback, after);
        }
        straights.push([station, station + (end - at).norm()]);
        go(at, along, (end - at).norm(), &mut station, &mut places);
        let length = station;
        // A place on a first or last straight is told from the tube's end, inside its hose.
        straights[0][0] += run.gap(End::A);
        straights.last_mut().unwrap()[1] -= run.gap(End::B);
        let radius = run.tube.od() / 2.0;
        let mut hoses = Vec::new();
        for end in [End::A, End::B] {
            if run.joint(end).kind.has_hose() {
                let long = run.gap(end) + run.straight_needed(end);
                let thick = run.tube.od().max(run.port(end).od.get()) / 2.0 + 5.0;
                // The clamp sits behind the bead: 14 mm of band from 8 mm of the tube's end.
                let clamp = [run.gap(end) + 8.0, run.gap(end) + 22.0, run.tube.od() / 2.0 + 12.0];
                for [from, to, thick] in [[0.0, long, thick], clamp] {
                    hoses.push(if end == End::A { [from, to, thick] } else { [length - to, length - from, thick] });
                }
            }
        }
        // Couplers along it, where they are meant to be: the tests leave them room.
        let mut parted: Vec<([f64; 2], Compliance)> = Vec::new();
        let mut elbows: Vec<([f64; 3], Vec<String>)> = Vec::new();
        let way = settled.way()?;
        for joint in way.joints() {
            let sits = (run.tube.od() / 2.0).max(32.0);
            if let Some(bend) = joint.bend() {
                let ([from, to], degrees) = arcs[way.bend_index(bend)?];
                // Legs of 35 at least, of which the seat takes what it takes.
                let past = (35.0 - sits).max(0.0);
                let gap = [from - past, to + past];
                elbows.push(([from, to, run.tube.od() / 2.0 + 5.0], Vec::new()));
                for [near, far] in [[gap[0] - sits - 6.0, from], [to, gap[1] + sits + 6.0]] {
                    hoses.push([near, far, run.tube.od() / 2.0 + 5.0]);
                }
                for [near, far] in [[gap[0] - 22.0, gap[0] - 8.0], [gap[1] + 8.0, gap[1] + 22.0]] {
                    hoses.push([near, far, run.tube.od() / 2.0 + 12.0]);
                }
                let off = [45.0_f64, 90.0, 135.0].map(|sold| (sold - degrees).abs()).into_iter().fold(90.0, f64::min);
                let angle = (4.0 - off).max(0.0).to_radians();
                parted.push((gap, Compliance { angle, offset: 4.0, axial: 4.0 }));
                continue;
            }
            let Some(at) = joint.along() else { continue };
            let [from, to] = straights[way.leg_index(at.leg)?];
            let middle = match at.from {
                LegEnd::Start => from + at.mm.get(),
                LegEnd::End => to - at.mm.get(),
            };
            // Half of the tube and at least 32 to sit on, and 6 for the bead.
            let (half, sits) = (joint.gap.unwrap().get() / 2.0, sits + 6.0);
            hoses.push([middle - half - sits, middle + half + sits, run.tube.od() / 2.0 + 5.0]);
            for [near, far] in
                [[middle - half - 22.0, middle - half - 8.0], [middle + half + 8.0, middle + half + 22.0]]
            {
                hoses.push([near, far, run.tube.od() / 2.0 + 12.0]);
            }
            parted.push(([middle - half, middle + half], coupler(true)));
        }
        parted.sort_by(|p, q| p.0[0].total_cmp(&q.0[0]));
        let side = |end: End| Ride::from(run.port(end).rides);
        let soft = |end: End| run.joint(end).kind.has_hose();
        let mut held: Vec<Option<bool>> = vec![None; parted.len() + 1];
        let mut bands = Vec::new();
        for support in way.supports() {
            let [from, to] = straights[way.leg_index(support.at.leg)?];
            let station = match support.at.from {
                LegEnd::Start => from + support.at.mm.get(),
                LegEnd::End => to - support.at.mm.get(),
            };
            let section = parted.iter().filter(|(gap, _)| gap[1] < station).count();
            assert_eq!(support.kind, SupportKind::Clamps, "the tests hold it by clamps");
            held[section] = Some(support.to == Side::Engine);
            bands.push(([station - 15.0, station + 15.0, run.tube.od() / 2.0 + 5.0], Vec::new()));
        }
        bands.extend(elbows);
        let any_held = held.iter().any(Option::is_some);
        let tube = |first: bool, last: bool| {
            if any_held {
                return Ride::Between;
            }
            let (at_a, at_b) = (first && !soft(End::A), last && !soft(End::B));
            match (side(End::A) == side(End::B), at_a, at_b) {
                (true, ..) => side(End::A),
                (_, true, false) => side(End::A),
                (_, false, true) => side(End::B),
                _ => Ride::Between,
            }
        };
        let chains = chains_of(run, &parted, &places, length, held);
        let hose = |one: Ride, other: Ride, index: usize| match (one == other, chains.is_some()) {
            (true, _) => one,
            (false, true) => Ride::Hose(index),
            (false, false) => Ride::Between,
        };
        let mut rides: Vec<(f64, Ride)> = Vec::new();
        let (mut before, mut from) = (side(End::A), run.gap(End::A));
        for index in 0..=parted.len() {
            let here = match tube(index == 0, index == parted.len()) {
                Ride::Between if chains.is_some() => Ride::Section(index),
                known => known,
            };
            rides.push((from, hose(before, here, index)));
            rides.push((parted.get(index).map_or(length - run.gap(End::B), |(gap, _)| gap[0]), here));
            from = parted.get(index).map_or(length, |(gap, _)| gap[1]);
            before = here;
        }
        rides.push((f64::INFINITY, hose(before, side(End::B), parted.len() + 1)));
        let mouth = |end: End| {
            let port = run.port(end);
            (P3::from(port.at.to_array()), port.out.vector(), port.od.get() / 2.0, side(end))
        };
        Some(Self { places, length, radius, hoses, rides, mouths: [mouth(End::A), mouth(End::B)], bands, chains })
    }

    /// Where each section is with the engine moved like this; none where that is not worked out.
    fn sections(&self, engine: &Isometry3<f64>) -> Vec<Isometry3<f64>> {
        let Some(Chains { each, held, .. }) = &self.chains else { return Vec::new() };
        let side = |on: bool| if on { *engine } else { Isometry3::identity() };
        let mut all: Vec<Isometry3<f64>> = held.iter().map(|on| side(on.unwrap_or(false))).collect();
        for (first, chain, on_engine) in each {
            let Ok(settled) = chain.settle(on_engine.map(side), 0.0, None) else { return Vec::new() };
            for (pose, part) in all.iter_mut().skip(*first).zip(settled.parts) {
                *pose = part;
            }
        }
        all
    }

    /// Where a place goes as the engine moves, if what it rides on is one thing.
    fn moved(&self, at: &P3, ride: Ride, engine: &Isometry3<f64>, sections: &[Isometry3<f64>]) -> Option<P3> {
        match ride {
            Ride::Body => Some(*at),
            Ride::Engine => Some(engine * at),
            Ride::Between => None,
            Ride::Section(index) => Some(sections.get(index)? * at),
            Ride::Hose(index) => {
                let outer = |on: bool| if on { *engine } else { Isometry3::identity() };
                let on_engine = self.chains.as_ref()?.on_engine;
                let before =
                    index.checked_sub(1).map_or(Some(outer(on_engine[0])), |index| sections.get(index).copied())?;
                let after = sections.get(index).copied().unwrap_or_else(|| outer(on_engine[1]));
                // A hose bends from the one to the other.
                Some(nalgebra::center(&(before * at), &(after * at)))
            }
        }
    }

    fn ride(&self, station: f64) -> Ride {
        self.rides.iter().find(|(to, _)| station <= *to).unwrap().1
    }

    /// Its ends and hoses, which lie on straights, as the cylinders they are.
    fn ends(&self) -> Vec<Solid> {
        let at = |station: f64| {
            let after = self.places.iter().find(|place| place.station >= station - 1e-9).unwrap();
            after.at - after.along * (after.station - station)
        };
        let tube = self.radius.min(self.length / 2.0);
        let ends = [[0.0, tube, self.radius], [self.length - tube, self.length, self.radius]];
        let all = ends.iter().chain(&self.hoses);
        all.map(|[from, to, radius]| Solid::Drum { from: at(*from), to: at(*to), radius: *radius }).collect()
    }

    /// Half its thickness at a station towards a thing, hoses and supports included.
    fn thick(&self, station: f64, thing: &str) -> f64 {
        let bands = self.bands.iter().filter(|(_, on)| !on.iter().any(|name| name == thing)).map(|(band, _)| band);
        let over = self.hoses.iter().chain(bands).filter(|[from, to, _]| (*from..=*to).contains(&station));
        over.map(|over| over[2]).fold(self.radius, f64::max)
    }

    /// Places on its outside with how far inside the skin they are: 0 on the skin itself, the radius on the centre line
    /// where a ball of that size is all metal.
    fn solid(&self, exempt: [f64; 2], thing: &str) -> Vec<(Place, f64, Ride)> {
        let mut all = Vec::new();
        for place in &self.places {
            let ride = self.ride(place.station);
            let from_end = (place.station - exempt[0]).min(self.length - exempt[1] - place.station);
            if from_end < 0.0 {
                continue;
            }
            if from_end >= self.radius {
                all.push((*place, self.radius, ride));
            }
            let hose = self.thick(place.station, thing);
            if from_end < self.radius || hose > self.radius {
                let aside = V3::ith(place.along.iamin(), 1.0).cross(&place.along).normalize();
                let other = place.along.cross(&aside);
                let radii: &[f64] = if from_end < 2.1 { &[1.0, 0.75, 0.5, 0.25, 0.0] } else { &[1.0] };
                for part in radii {
                    for k in 0..32 {
                        let phi = std::f64::consts::TAU * f64::from(k) / 32.0;
                        let at = place.at + (aside * phi.cos() + other * phi.sin()) * (hose * part);
                        all.push((Place { at, ..*place }, 0.0, ride));
                    }
                }
            }
        }
        all
    }
}

/// A coupler: two degrees, two aside, three along. Metal: nothing.
fn coupler(soft: bool) -> Compliance {
    match soft {
        true => Compliance { angle: 2.0_f64.to_radians(), offset: 2.0, axial: 3.0 },
        false => Compliance { angle: 0.0, offset: 0.0, axial: 0.0 },
    }
}

/// The sections of a pipe between its joints and what holds it; `None` where metal ties it at both ends, or where all of it
/// stays on one side.
fn chains_of(
    run: &Run,
    parted: &[([f64; 2], Compliance)],
    places: &[Place],
    length: f64,
    held: Vec<Option<bool>>,
) -> Option<Chains> {
    let on_engine = [End::A, End::B].map(|end| run.port(end).rides == Side::Engine);
    let any_held = held.iter().any(Option::is_some);
    if on_engine[0] == on_engine[1] && !any_held {
        return None;
    }
    let soft = |end: End| run.joint(end).kind.has_hose();
    if parted.is_empty() && !any_held && !soft(End::A) && !soft(End::B) {
        return None;
    }
    let joint = |station: f64, give: Compliance| {
        let after = places.iter().find(|place| place.station >= station - 1e-9).unwrap();
        LinkageJoint { at: after.at - after.along * (after.station - station), along: after.along, give }
    };
    let mut joints = vec![joint(run.gap(End::A) / 2.0, coupler(soft(End::A)))];
    joints.extend(parted.iter().map(|([from, to], give)| joint(f64::midpoint(*from, *to), *give)));
    joints.push(joint(length - run.gap(End::B) / 2.0, coupler(soft(End::B))));
    let mut each = Vec::new();
    let (mut first, mut start) = (0, on_engine[0]);
    for section in 0..=held.len() {
        let (end, port) = match held.get(section) {
            None => (on_engine[1], true),
            Some(None) => continue,
            Some(Some(on)) => (*on, false),
        };
        let chain = Linkage::new(joints[first..=section].to_vec()).measured_on_ends([first == 0, port]);
        each.push((first, chain, [start, end]));
        (first, start) = (section + 1, end);
    }
    Some(Chains { each, held, on_engine })
}

/// A thing with how it moves.
pub struct Thing {
    pub name: String,
    pub gap: f64,
    pub ride: Ride,
    pub body: Body,
    pub swing: Option<(P3, Unit<V3>, f64, f64)>,
}

/// What a thing is made of.
#[expect(clippy::large_enum_variant, reason = "a test has a few dozen")]
pub enum Body {
    Solid(Solid),
    Triangles(Vec<[P3; 3]>),
    Pipe(Line),
}

impl Body {
    fn distance(&self, at: &P3) -> f64 {
        match self {
            Self::Solid(solid) => solid.distance(at),
            Self::Triangles(all) => all.iter().map(|t| to_triangle(at, t)).fold(f64::INFINITY, f64::min),
            Self::Pipe(line) => {
                let inner = |place: &&Place| place.station.min(line.length - place.station) >= line.radius;
                let far = |place: &Place| (place.at - at).norm() - line.radius;
                let balls = line.places.iter().filter(inner).map(far).fold(f64::INFINITY, f64::min);
                line.ends().iter().map(|end| end.distance(at)).fold(balls, f64::min)
            }
        }
    }
}

/// Distance from a place to a triangle: to its inside where the place is above it, else to its nearest edge.
fn to_triangle(at: &P3, [a, b, c]: &[P3; 3]) -> f64 {
    let edge = |p: &P3, q: &P3| {
        let way = q - p;
        let t = ((at - p).dot(&way) / way.norm_squared()).clamp(0.0, 1.0);
        (at - p - way * t).norm()
    };
    let normal = (b - a).cross(&(c - a));
    let above = |p: &P3, q: &P3| (q - p).cross(&(at - p)).dot(&normal) >= 0.0;
    if above(a, b) && above(b, c) && above(c, a) {
        return ((at - a).dot(&normal) / normal.norm()).abs();
    }
    edge(a, b).min(edge(b, c)).min(edge(c, a))
}

/// How the engine moves: pivot, axis, least and most roll in radians, shift in mm.
#[derive(Debug, Clone, Copy)]
pub struct Moves {
    pub pivot: P3,
    pub axis: Unit<V3>,
    pub rolls: [f64; 2],
    pub shift: f64,
}

impl Moves {
    pub fn of(job: &Job) -> Option<Self> {
        let mounts = job.mounts()?;
        let (from, to) = (P3::from(mounts.from.to_array()), P3::from(mounts.to.to_array()));
        let axis = Unit::new_normalize(to - from);
        Some(Self { pivot: from, axis, rolls: mounts.rolls().map(f64::to_radians), shift: mounts.shift() })
    }

    fn rolled(&self, angle: f64) -> Isometry3<f64> {
        about(self.pivot, self.axis, angle)
    }
}

fn about(pivot: P3, axis: Unit<V3>, angle: f64) -> Isometry3<f64> {
    let turn = UnitQuaternion::from_rotation_matrix(&Rotation3::from_axis_angle(&axis, angle));
    Isometry3::from_parts(Translation3::from(pivot - turn * pivot), turn)
}

/// The things of a job around one of its runs. `scan` gives a scan's triangles as they stand in the vehicle.
pub fn things(job: &Job, run: RunId, scan: &[[P3; 3]]) -> Vec<Thing> {
    let keep_outs = job.keep_outs().iter().filter_map(|keep_out| {
        let point = |p: &nook_geometry::Point| P3::from(p.to_array());
        let body = match &keep_out.shape {
            KeepOutShape::Box { centre, size, heading, pitch, roll } => Body::Solid(Solid::Block {
                centre: point(centre),
                half: V3::from(*size) / 2.0,
                heading: *heading,
                pitch: *pitch,
                roll: *roll,
            }),
            KeepOutShape::Cylinder { from, to, diameter } => {
                Body::Solid(Solid::Drum { from: point(from), to: point(to), radius: diameter.get() / 2.0 })
            }
            KeepOutShape::Sphere { centre, diameter } => {
                Body::Solid(Solid::Ball { centre: point(centre), radius: diameter / 2.0 })
            }
            KeepOutShape::Scan(_) => Body::Triangles(scan.to_vec()),
            _ => return None,
        };
        let swing = keep_out.swing.as_ref().map(|swing| {
            let axis = Unit::new_normalize(swing.axis.vector());
            (point(&swing.pivot), axis, swing.from.get().to_radians(), swing.to.get().to_radians())
        });
        Some(Thing {
            name: keep_out.name.as_str().to_owned(),
            gap: keep_out.gap(),
            ride: keep_out.rides.into(),
            body,
            swing,
        })
    });
    let others = job.runs().iter().filter(|other| other.id != run).filter_map(|other| {
        let line = Line::of(other)?;
        let name = other.name.as_str().to_owned();
        Some(Thing { name, gap: 10.0, ride: line.rides[1].1, body: Body::Pipe(line), swing: None })
    });
    keep_outs.chain(others).collect()
}

/// The least gap found between a pipe and a thing, over a grid of their movement.
#[derive(Debug, Clone)]
pub struct Sampled {
    pub gap: f64,
    pub station: f64,
}

/// Shares of the movement that something takes.
fn shares(ride: Ride) -> &'static [f64] {
    match ride {
        Ride::Body => &[0.0],
        Ride::Engine => &[1.0],
        Ride::Between | Ride::Section(_) | Ride::Hose(_) => &[0.0, 0.35, 0.7, 1.0],
    }
}

/// The least gap of a pipe to a thing. Where a mouth touches a keep-out that rides with it, the first diameter is left
/// out, unless the tube runs more than 3 mm into it there.
pub fn sample(line: &Line, thing: &Thing, moves: Option<&Moves>) -> Sampled {
    let mut best = Sampled { gap: f64::INFINITY, station: 0.0 };
    let exempt = exempt(line, thing, moves);
    let solid = line.solid(exempt, &thing.name);
    // What is further off at rest than everything moves together cannot matter.
    let far = moves.map_or(0.0, |m| 2.0 * ((m.rolls[1] - m.rolls[0]) * 1200.0 + m.shift)) + thing.gap + 20.0;
    let near = |(place, inside, _): &&(Place, f64, Ride)| {
        thing.swing.is_some() || thing.body.distance(&place.at) - inside < far
    };
    let counted: Vec<_> = solid.iter().filter(near).collect();
    let rolls: Vec<f64> = moves.map_or(vec![0.0], |m| {
        let [from, to] = m.rolls;
        (0..=4).map(|k| from + (to - from) * f64::from(k) / 4.0).chain([0.0]).collect()
    });
    let (from, to) = thing.swing.map_or((0.0, 0.0), |(_, _, from, to)| (from, to));
    let swings = |from: f64, to: f64, count: u32| -> Vec<f64> {
        if thing.swing.is_none() {
            return vec![0.0];
        }
        (0..=count).map(|k| from + (to - from) * f64::from(k) / f64::from(count)).collect()
    };
    let mut at_swing = 0.0;
    // A lid's whole swing, then finer where it came nearest.
    let mut angles = swings(from, to, 12);
    // The engine's shift each way along each axis, and none.
    let shifts: Vec<V3> = moves.map_or(vec![V3::zeros()], |m| {
        let each = (0..3).flat_map(|axis| [1.0, -1.0].map(|sign| V3::ith(axis, sign * m.shift)));
        if m.shift > 0.0 { each.chain([V3::zeros()]).collect() } else { vec![V3::zeros()] }
    });
    for _ in 0..2 {
        for (roll, shift) in rolls.iter().flat_map(|roll| shifts.iter().map(move |shift| (roll, shift))) {
            let engine = moves.map_or_else(Isometry3::identity, |m| {
                let mut pose = m.rolled(*roll);
                pose.translation.vector += shift;
                pose
            });
            let sections = line.sections(&engine);
            let homes: Vec<Isometry3<f64>> = match (&thing.body, thing.ride) {
                (Body::Pipe(other), Ride::Section(index)) => {
                    other.sections(&engine).get(index).map(Isometry3::inverse).into_iter().collect()
                }
                (_, Ride::Between) => {
                    let share =
                        |share: &f64| moves.map_or_else(Isometry3::identity, |m| m.rolled(share * roll)).inverse();
                    shares(thing.ride).iter().map(share).collect()
                }
                (_, Ride::Engine) => vec![engine.inverse()],
                _ => vec![Isometry3::identity()],
            };
            for home in &homes {
                for angle in &angles {
                    let swing =
                        thing.swing.map_or_else(Isometry3::identity, |(pivot, axis, ..)| about(pivot, axis, -angle));
                    let mut hold = |place: &Place, inside: &f64, at: P3| {
                        let gap = thing.body.distance(&(swing * (home * at))) - inside;
                        if gap < best.gap {
                            best = Sampled { gap, station: place.station };
                            at_swing = *angle;
                        }
                    };
                    for (place, inside, ride) in &counted {
                        match line.moved(&place.at, *ride, &engine, &sections) {
                            Some(at) => hold(place, inside, at),
                            None => {
                                for mine in shares(*ride) {
                                    let pose = moves.map_or_else(Isometry3::identity, |m| m.rolled(mine * roll));
                                    hold(place, inside, pose * place.at + shift * *mine);
                                }
                            }
                        }
                    }
                }
            }
        }
        if thing.swing.is_none() {
            break;
        }
        let step = (to - from) / 12.0;
        angles = swings((at_swing - step).max(from), (at_swing + step).min(to), 24);
    }
    best
}

/// How far from each mouth a pipe need not keep from a thing, in mm.
fn exempt(line: &Line, thing: &Thing, moves: Option<&Moves>) -> [f64; 2] {
    [0, 1].map(|end: usize| {
        let (mouth, out, radius, ride) = line.mouths[end];
        if moves.is_some() && thing.ride != ride {
            return 0.0;
        }
        let aside = V3::ith(out.iamin(), 1.0).cross(&out).normalize();
        let other = out.cross(&aside);
        let disc = (0..=12).flat_map(|r| (0..72).map(move |k| (f64::from(r) / 12.0, f64::from(k) * 0.0873)));
        let disc = disc.map(|(part, phi)| mouth + (aside * phi.cos() + other * phi.sin()) * (radius * part));
        let touches = if matches!(thing.body, Body::Pipe(_)) {
            thing.body.distance(&mouth) <= 3.2
        } else {
            disc.map(|at| thing.body.distance(&at)).fold(f64::INFINITY, f64::min) <= 3.2
        };
        if !touches {
            return 0.0;
        }
        let reach = 2.0 * radius.max(line.radius);
        // Tube, shrunk by 3 mm, that lies in the thing is in it.
        let core = line.places.iter().filter(|place| {
            let from_mouth = if end == 0 { place.station } else { line.length - place.station };
            (3.0..=reach).contains(&from_mouth)
        });
        let mut deepest = f64::INFINITY;
        if let Body::Triangles(all) = &thing.body {
            // Triangles have no inside, so it is their own places that are looked for in the tube's discs.
            let core: Vec<_> = core.collect();
            for [a, b, c] in all {
                for (i, j) in
                    (0..=60).flat_map(|i| (0..=60 - i).map(move |j| (f64::from(i) / 60.0, f64::from(j) / 60.0)))
                {
                    let at = a + (b - a) * i + (c - a) * j;
                    for place in &core {
                        let off = at - place.at;
                        let along = off.dot(&place.along);
                        if along.abs() <= 1.5 {
                            deepest = deepest.min((off - place.along * along).norm() - (line.radius - 3.0));
                        }
                    }
                }
            }
            return if deepest < -0.5 { 0.0 } else { reach };
        }
        for place in core {
            let aside = V3::ith(place.along.iamin(), 1.0).cross(&place.along).normalize();
            let other = place.along.cross(&aside);
            for k in 0..32 {
                let phi = f64::from(k) * 0.196_35;
                let at = place.at + (aside * phi.cos() + other * phi.sin()) * (line.radius - 3.0);
                deepest = deepest.min(thing.body.distance(&at));
            }
        }
        if deepest < -0.05 { 0.0 } else { reach }
    })
}

/// The least gap of a pipe to itself between places with more than 160 degrees of bend between them.
pub fn sample_itself(line: &Line) -> f64 {
    let mut turned = vec![0.0];
    for pair in line.places.windows(2) {
        turned.push(turned.last().unwrap() + pair[0].along.angle(&pair[1].along));
    }
    let inner = |place: &Place| place.station >= line.radius && place.station <= line.length - line.radius;
    let mut least = f64::INFINITY;
    for (i, p) in line.places.iter().enumerate().filter(|(_, p)| inner(p)).step_by(2) {
        for (j, q) in line.places.iter().enumerate().skip(i).filter(|(_, q)| inner(q)).step_by(2) {
            if turned[j] - turned[i] > 2.8 {
                least = least.min((p.at - q.at).norm() - 2.0 * line.radius);
            }
        }
    }
    least
}
