//! Random bays from a seed, and a slow, plain way to lay pipes through them.

#![allow(dead_code, unreachable_pub, clippy::unwrap_used, reason = "each test target uses its own part of this module")]

use nalgebra::{Point3, Vector3};
use nook_core::measure::{KeepOutKind, KeepOutShape, Side};
use nook_core::route::{Centreline, Route, RunDraft};
use nook_core::{Edit, Job, MeasureEdit, RunId, apply};
use nook_geometry::Point;
use nook_geometry::units::{Lead, Name};
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};

use crate::support::{draft, job_with, port};

type P3 = Point3<f64>;
type V3 = Vector3<f64>;

/// A box or a ball of a bay, as plain numbers.
#[derive(Debug, Clone, Copy)]
pub enum Lump {
    Block { centre: [f64; 3], size: [f64; 3] },
    Ball { centre: [f64; 3], radius: f64 },
}

/// Air in mm that lumps of still metal ask for.
pub const AIR: f64 = 10.0;
/// Radius in mm of the tube of these bays.
pub const TUBE: f64 = 31.75;

impl Lump {
    /// Distance in mm from its surface, never negative.
    pub fn distance(&self, at: &P3) -> f64 {
        match self {
            Self::Block { centre, size } => {
                let over = [0, 1, 2].map(|i| ((at[i] - centre[i]).abs() - size[i] / 2.0).max(0.0));
                V3::from(over).norm()
            }
            Self::Ball { centre, radius } => ((at - P3::from(*centre)).norm() - radius).max(0.0),
        }
    }
}

/// A bay with one charge pipe and some lumps between its ports.
pub struct Bay {
    pub job: Job,
    pub run: RunId,
    pub lumps: Vec<Lump>,
}

/// The bay of a seed.
pub fn bay(seed: u64) -> Bay {
    let mut random = StdRng::seed_from_u64(seed);
    let mut any = |from: f64, to: f64| random.random_range(from..to);
    let far = any(550.0, 850.0);
    let heading = |any: &mut dyn FnMut(f64, f64) -> f64| {
        let (turn, pitch) = (any(-60.0, 60.0_f64).to_radians(), any(-40.0, 40.0_f64).to_radians());
        [pitch.cos() * turn.cos(), pitch.cos() * turn.sin(), pitch.sin()]
    };
    let out_a = heading(&mut any);
    let [x, y, z] = heading(&mut any);
    let b = [far, any(-200.0, 200.0), any(-150.0, 150.0)];
    let (mut job, run) = job_with(RunDraft { ..draft(port([0.0; 3], out_a, 63.5), port(b, [-x, y, z], 63.5)) });
    let mut lumps = Vec::new();
    let count = 3 + seed % 4;
    while lumps.len() < usize::try_from(count).unwrap() {
        let centre = [any(0.1, 0.9) * far, any(-220.0, 220.0), any(-180.0, 180.0)];
        let lump = if any(0.0, 1.0) < 0.6 {
            Lump::Block { centre, size: [any(60.0, 200.0), any(60.0, 260.0), any(60.0, 220.0)] }
        } else {
            Lump::Ball { centre, radius: any(40.0, 110.0) }
        };
        // The mouths stay free, with room for a hose and half a bend.
        let free = |mouth: [f64; 3], out: [f64; 3]| {
            (0..12).all(|k| lump.distance(&(P3::from(mouth) + V3::from(out) * (12.0 * f64::from(k)))) > TUBE + 18.0)
        };
        if free([0.0; 3], out_a) && free(b, [-x, y, z]) {
            lumps.push(lump);
        }
    }
    for (index, lump) in lumps.iter().enumerate() {
        let shape = match *lump {
            Lump::Block { centre, size } => KeepOutShape::Box {
                centre: Point::try_from(centre).unwrap(),
                size,
                heading: 0.0,
                pitch: 0.0,
                roll: 0.0,
            },
            Lump::Ball { centre, radius } => {
                KeepOutShape::Sphere { centre: Point::try_from(centre).unwrap(), diameter: 2.0 * radius }
            }
        };
        let name = Name::new(&format!("lump {index}")).unwrap();
        let edit = Edit::Measure(MeasureEdit::AddKeepOut {
            name,
            kind: KeepOutKind::StillMetal,
            rides: Side::Body,
            shape,
            big: false,
        });
        job = apply(&job, &edit).unwrap().job;
    }
    Bay { job, run, lumps }
}

/// A way by brute force.
#[derive(Debug, Clone)]
pub struct Plain {
    pub vertices: Vec<P3>,
    pub cost: f64,
}

/// What the exhaustive reference needs of a run, in mm.
pub struct RouteEnds {
    pub a: P3,
    pub out_a: V3,
    pub b: P3,
    pub out_b: V3,
    pub radius: f64,
    pub least: [f64; 3],
}

impl RouteEnds {
    pub fn of(bay: &Bay) -> Self {
        use nook_core::measure::End;
        use nook_core::route::least_between_bends;
        let run = bay.job.run(bay.run).unwrap();
        let end = |end| run.gap(end) + run.straight_needed(end);
        Self {
            a: run.a.at.to_array().into(),
            out_a: run.a.out.vector(),
            b: run.b.at.to_array().into(),
            out_b: run.b.out.vector(),
            radius: run.radius.get(),
            least: [end(End::A), least_between_bends(run), end(End::B)],
        }
    }

    /// What a way through vertices costs by the search's own prices, and whether it has room and air; by sampling.
    pub fn judge(&self, vertices: &[P3], lumps: &[Lump], air: f64) -> Option<f64> {
        let mut points = vec![self.a];
        points.extend_from_slice(vertices);
        points.push(self.b);
        let along: Vec<V3> = points.windows(2).map(|pair| (pair[1] - pair[0]).normalize()).collect();
        if (along[0] - self.out_a).norm() > 1e-6 || (along[along.len() - 1] + self.out_b).norm() > 1e-6 {
            return None;
        }
        let angles: Vec<f64> = along.windows(2).map(|pair| pair[0].angle(&pair[1])).collect();
        if angles.iter().any(|angle| !(0.052..2.618).contains(angle)) {
            return None;
        }
        let setback: Vec<f64> = angles.iter().map(|angle| self.radius * (angle / 2.0).tan()).collect();
        let (mut length, mut clear) = (0.0, true);
        let reach = TUBE + air;
        for (leg, pair) in points.windows(2).enumerate() {
            let before = if leg > 0 { setback[leg - 1] } else { 0.0 };
            let after = setback.get(leg).copied().unwrap_or(0.0);
            let straight = (pair[1] - pair[0]).norm() - before - after;
            let least = if leg == 0 {
                self.least[0]
            } else if leg == points.len() - 2 {
                self.least[2]
            } else {
                self.least[1]
            };
            if straight < least - 1e-9 {
                return None;
            }
            let (from, to) = (pair[0] + along[leg] * before, pair[1] - along[leg] * after);
            // The straights that hoses need are every way's own.
            let skip =
                [if leg == 0 { self.least[0] } else { 0.0 }, if leg == points.len() - 2 { self.least[2] } else { 0.0 }];
            let (from, to) = (from + along[leg] * skip[0], to - along[leg] * skip[1]);
            clear &= lumps.iter().all(|lump| segment_clear(lump, &from, &to, reach));
            length += straight;
            if let Some(angle) = angles.get(leg) {
                let inward = (along[leg + 1] - along[leg] * angle.cos()) / angle.sin();
                let start = pair[1] - along[leg] * after;
                let on_arc = |turn: f64| start + (along[leg] * turn.sin() + inward * (1.0 - turn.cos())) * self.radius;
                clear &= (0..=16).all(|k| {
                    let at = on_arc(angle * f64::from(k) / 16.0);
                    lumps.iter().all(|lump| lump.distance(&at) >= reach)
                });
                length += self.radius * angle;
            }
            if !clear {
                return None;
            }
        }
        let bends = f64::from(u32::try_from(angles.len()).unwrap());
        Some(length + 40.0 * bends + 20.0 * angles.iter().sum::<f64>().to_degrees() / 10.0)
    }

    /// The cheapest way of two or three bends on a grid, brought to its best by ever smaller steps. Slow and plain.
    pub fn exhaustive(&self, lumps: &[Lump], air: f64) -> Option<Plain> {
        let leads = [0.15, 0.5, 1.0, 1.7, 2.6, 3.8].map(|share| share * self.radius);
        let mut top: Vec<Plain> = Vec::new();
        let mut keep = |vertices: Vec<P3>| {
            if let Some(cost) = self.judge(&vertices, lumps, air) {
                top.push(Plain { vertices, cost });
                if top.len() > 60 {
                    top.sort_by(|p, q| p.cost.total_cmp(&q.cost));
                    top.truncate(12);
                }
            }
        };
        for a in leads {
            for b in leads {
                let first = self.a + self.out_a * (self.least[0] + a);
                let last = self.b + self.out_b * (self.least[2] + b);
                keep(vec![first, last]);
                let (low, high) = (self.a.inf(&self.b) - V3::repeat(260.0), self.a.sup(&self.b) + V3::repeat(260.0));
                for i in 0..8 {
                    for j in 0..8 {
                        for k in 0..8 {
                            let at = |low: f64, high: f64, n: i32| low + (high - low) * (f64::from(n) + 0.5) / 8.0;
                            keep(vec![
                                first,
                                P3::new(at(low.x, high.x, i), at(low.y, high.y, j), at(low.z, high.z, k)),
                                last,
                            ]);
                        }
                    }
                }
            }
        }
        top.sort_by(|p, q| p.cost.total_cmp(&q.cost));
        top.truncate(6);
        let refined = top.into_iter().map(|way| self.walked_down(way, lumps, air));
        refined.min_by(|p, q| p.cost.total_cmp(&q.cost))
    }

    fn walked_down(&self, mut best: Plain, lumps: &[Lump], air: f64) -> Plain {
        let mut step = 40.0;
        while step > 0.5 {
            let last = best.vertices.len() - 1;
            let mut better = false;
            for index in 0..=last {
                let ways: Vec<V3> = if index == 0 {
                    vec![self.out_a, -self.out_a]
                } else if index == last {
                    vec![self.out_b, -self.out_b]
                } else {
                    vec![V3::x(), -V3::x(), V3::y(), -V3::y(), V3::z(), -V3::z()]
                };
                for way in ways {
                    let mut tried = best.vertices.clone();
                    tried[index] += way * step;
                    if let Some(cost) = self.judge(&tried, lumps, air).filter(|cost| *cost < best.cost - 1e-6) {
                        best = Plain { vertices: tried, cost };
                        better = true;
                    }
                }
            }
            if !better {
                step *= 0.5;
            }
        }
        best
    }
}

fn segment_clear(lump: &Lump, from: &P3, to: &P3, reach: f64) -> bool {
    // Distance to a convex lump is convex along a straight: sampled and halved down to its least.
    let (mut low, mut high) = (0.0, 1.0);
    let at = |t: f64| lump.distance(&(from + (to - from) * t));
    for _ in 0..24 {
        let (p, q) = (low + (high - low) / 3.0, high - (high - low) / 3.0);
        if at(p) < at(q) {
            high = q;
        } else {
            low = p;
        }
    }
    at(f64::midpoint(low, high)) >= reach
}

/// The way through vertices, for the core.
pub fn way_of(route_ends: &RouteEnds, vertices: &[P3]) -> Route {
    let lead = |from: &P3, to: &P3| Lead::new((to - from).norm()).unwrap();
    let between = vertices[1..vertices.len() - 1].iter().map(|v| Point::new(v.x, v.y, v.z).unwrap());
    Route::along(Centreline::Vertices {
        lead_a: lead(&route_ends.a, &vertices[0]),
        between: between.collect(),
        lead_b: lead(&route_ends.b, &vertices[vertices.len() - 1]),
    })
}
