//! A way out of a bay for a rigid section: a tree of places it can be carried to, each from the last by a way that is proven to
//! keep its gap, grown until one is outside. Source of the method: `LaValle` and Kuffner, Rapidly-exploring random trees; steps
//! are proven by the gap itself, as conservative advancement does (Mirtich, Impulse-based dynamic simulation).

use std::sync::atomic::{AtomicBool, AtomicU32, AtomicUsize, Ordering};

use nalgebra::{Point3, UnitQuaternion};
use nook_geometry::Vector;
use nook_geometry::clearance::{Advance, Carried, Held, Obstacle};
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};

use crate::worker_pool::WorkerPool;

/// What a section is carried out of.
#[derive(Debug)]
pub struct Out<'a> {
    /// The section with what goes with it.
    pub body: &'a Carried,
    /// Everything that stays.
    pub stays: &'a [Obstacle],
    /// The box round everything that stays, in mm.
    pub bounds: [Point3<f64>; 2],
    /// Ways it may leave by, of length 1 along the vehicle's axes.
    pub ways: &'a [Vector],
    /// The way to pull it first, in mm: as its joints want to be parted.
    pub pull: Vector,
    /// How many gaps of a stretch to a thing each tree may ask for; one that may ask for none goes straight or not.
    pub asks: u32,
}

/// A way out: places in turn, between which it is carried straight and turned evenly.
#[derive(Debug, Clone, PartialEq)]
pub struct Motion {
    /// The places, from where it sits.
    pub places: Vec<Held>,
    /// Which of the ways it leaves by.
    pub leaves: usize,
}

/// Why no way out was found.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NoWayOut {
    /// What stopped it, by their places among what stays, first what did so most often where it came furthest; empty where the
    /// search was called off at once.
    pub by: Vec<usize>,
}

/// Air in mm that is kept to everything on the way out. Source: handbook, "Joints, fittings, hoses and supports", Getting it
/// apart.
pub const AIR: f64 = 2.0;
/// How far outside the box round what stays it is out, in mm. Source: as above.
pub const OUTSIDE: f64 = 50.0;
/// Trees that are grown, each from a seed of its own.
const TREES: u8 = 8;
/// How many gaps each may ask for where somebody waits for one section: some seconds on two cores.
pub const ASKS: u32 = 900_000;
/// How far in mm a place is carried towards what was drawn at most.
const STRIDE: f64 = 180.0;
/// Along how many of its straights it is drawn out first.
const DRAWN: usize = 3;
/// A stride that gets less far than this, in mm, makes no new place.
const LEAST: f64 = 2.0;
/// A pull that ends so near in mm to what the joints want is as they want it.
const PULLED: f64 = 1e-6;
/// How often what is stopped is let slide along what stops it.
const SLIDES: usize = 4;

/// Looks for a way out; `tell` hears at every step what share of its asks it has spent.
///
/// # Errors
/// [`NoWayOut`] where none was found, with what stopped it.
pub fn withdraw(out: &Out<'_>, stop: &AtomicBool, tell: &(dyn Fn(f64) + Sync)) -> Result<Motion, NoWayOut> {
    let home = out.body.home();
    let pulled = Held { at: home.at + out.pull, ..home };
    // First as its joints want to be parted, straight and all the way.
    if let Some((by, _)) = out.body.advance(&home, &pulled, out.stays, AIR).stopped {
        return Err(NoWayOut { by: vec![by] });
    }
    let pool = WorkerPool::new(stop);
    let found = AtomicUsize::new(usize::MAX);
    let spent = AtomicU32::new(0);
    let trees = pool.each(if out.asks == 0 { 1 } else { usize::from(TREES) }, |seed| {
        let tree = Tree::grow(out, pulled, seed, |more| {
            let all = spent.fetch_add(more, Ordering::Relaxed) + more;
            tell((f64::from(all) / (f64::from(out.asks.max(1)) * f64::from(TREES))).min(1.0));
            pool.stopped() || found.load(Ordering::Relaxed) < seed
        });
        if tree.motion.is_some() {
            found.fetch_min(seed, Ordering::Relaxed);
        }
        tree
    });
    // The lowest seed that got out, whatever the number of cores.
    match trees.iter().find_map(|tree| tree.motion.clone()) {
        Some(motion) => {
            let mut motion = shortened(out, motion);
            if out.pull.norm() > 0.0 {
                motion.places.insert(0, home);
            }
            Ok(motion)
        }
        None => Err(NoWayOut { by: trees.first().map(|tree| tree.stopped_by(out)).unwrap_or_default() }),
    }
}

struct Node {
    held: Held,
    parent: usize,
}

struct Tree {
    nodes: Vec<Node>,
    /// What stopped strides, each with how far out the place was.
    stops: Vec<(usize, f64)>,
    motion: Option<Motion>,
    asked: u32,
}

impl Tree {
    /// `called_off` hears how often it has asked since it was last told.
    fn grow(out: &Out<'_>, root: Held, seed: usize, called_off: impl Fn(u32) -> bool) -> Self {
        let mut random = StdRng::seed_from_u64(seed as u64);
        let mut tree = Self { nodes: Vec::new(), stops: Vec::new(), motion: None, asked: 0 };
        tree.nodes.push(Node { held: root, parent: 0 });
        tree.leave(out, 0);
        if out.asks > 0 {
            tree.draw_out(out);
        }
        let mut told = 0;
        while tree.motion.is_none() && tree.asked < out.asks && !called_off(tree.asked - told) {
            told = tree.asked;
            let target = tree.drawn(out, &mut random);
            let from = tree.nearest(out, &target);
            let at = tree.nodes[from].held;
            let far = out.body.travel(&at, &target);
            let target = if far > STRIDE { at.towards(&target, STRIDE / far) } else { target };
            if let Some(new) = tree.stride(out, from, &target)
                && random.random_range(0..4_u32) == 0
            {
                tree.leave(out, new);
            }
        }
        tree
    }

    /// Draws it out the way it lies: along its longest straights, to and fro, as far as it goes.
    fn draw_out(&mut self, out: &Out<'_>) {
        let mut straights: Vec<_> =
            out.body.parts().iter().map(|part| part.span).filter(|span| span.curvature() == 0.0).collect();
        straights.sort_by(|p, q| q.length().total_cmp(&p.length()));
        for span in straights.into_iter().take(DRAWN) {
            let along = self.nodes[0].held.turn * span.at(0.0).1 * (2.0 * out.body.reach());
            for by in [along, -along] {
                let root = self.nodes[0].held;
                if self.motion.is_none()
                    && let Some(new) = self.stride(out, 0, &Held { at: root.at + by, ..root })
                {
                    self.leave(out, new);
                }
            }
        }
    }

    /// A place to grow towards: mostly a little out and turned from one that is there, else anywhere.
    fn drawn(&self, out: &Out<'_>, random: &mut StdRng) -> Held {
        let [low, high] = out.bounds;
        let reach = out.body.reach();
        let any = |random: &mut StdRng| {
            let side = |random: &mut StdRng, low: f64, high: f64| random.random_range(low - reach..high + reach);
            Point3::new(side(random, low.x, high.x), side(random, low.y, high.y), side(random, low.z, high.z))
        };
        let way = |random: &mut StdRng| {
            let v = Vector::from_fn(|_, _| random.random_range(-1.0..1.0));
            v.try_normalize(1e-6).unwrap_or_else(Vector::x)
        };
        let from = self.nodes[random.random_range(0..self.nodes.len())].held;
        match random.random_range(0..10_u32) {
            // Out of the bay, turned a little.
            0..4 => {
                let leave = out.ways[random.random_range(0..out.ways.len())];
                let turn = UnitQuaternion::from_scaled_axis(way(random) * random.random_range(0.0..0.6));
                Held { at: from.at + leave * random.random_range(50.0..600.0), turn: turn * from.turn }
            }
            // Turned on the spot, or shifted a little.
            4..7 => {
                let turn = UnitQuaternion::from_scaled_axis(way(random) * random.random_range(0.1..1.2));
                let by = way(random) * random.random_range(0.0..150.0);
                Held { at: from.at + by, turn: turn * from.turn }
            }
            // Along itself: pipes are drawn out the way they lie.
            7..9 => {
                let part = &out.body.parts()[random.random_range(0..out.body.parts().len())];
                let (_, along, _) = part.span.at(part.span.length() / 2.0);
                let by = from.turn * along * random.random_range(-400.0..400.0);
                Held { at: from.at + by, ..from }
            }
            _ => {
                let turn =
                    UnitQuaternion::from_scaled_axis(way(random) * random.random_range(0.0..std::f64::consts::PI));
                Held { at: any(random), turn }
            }
        }
    }

    fn nearest(&self, out: &Out<'_>, to: &Held) -> usize {
        let far =
            |node: &Node| (node.held.at - to.at).norm() + 0.5 * out.body.reach() * node.held.turn.angle_to(&to.turn);
        let each = self.nodes.iter().enumerate().map(|(index, node)| (index, far(node)));
        each.min_by(|p, q| p.1.total_cmp(&q.1)).map_or(0, |(index, _)| index)
    }

    /// Carries a place towards another, sliding along what stops it; the new place, if it got anywhere.
    fn stride(&mut self, out: &Out<'_>, from: usize, target: &Held) -> Option<usize> {
        let mut at = from;
        let mut target = *target;
        let mut new = None;
        for _ in 0..=SLIDES {
            let held = self.nodes[at].held;
            let Advance { to, share, stopped, asked } = out.body.advance(&held, &target, out.stays, AIR);
            self.asked += asked;
            if out.body.travel(&held, &to) > LEAST {
                self.nodes.push(Node { held: to, parent: at });
                at = self.nodes.len() - 1;
                new = Some(at);
            }
            let Some((index, near)) = stopped else { break };
            self.stops.push((index, self.furthest_out(out, &to)));
            // What is left of the way, without what goes into the thing, and a hair away from it.
            let left = target.at - to.at;
            let into = left.dot(&near.away).min(0.0);
            let slid = left - near.away * into + near.away;
            if share >= 1.0 || slid.norm() < LEAST {
                break;
            }
            target = Held { at: to.at + slid, turn: target.turn };
        }
        new
    }

    /// How far out of the box a place is, along the way it is furthest out by, in mm: below 0 inside.
    fn furthest_out(&self, out: &Out<'_>, held: &Held) -> f64 {
        out.ways.iter().map(|way| spare(out, held, way)).fold(f64::NEG_INFINITY, f64::max)
    }

    /// Tries to leave straight from a place.
    fn leave(&mut self, out: &Out<'_>, from: usize) {
        for (which, way) in out.ways.iter().enumerate() {
            let held = self.nodes[from].held;
            let left = -spare(out, &held, way);
            let outside = Held { at: held.at + way * left.max(0.0), ..held };
            let Advance { to, stopped, asked, .. } = out.body.advance(&held, &outside, out.stays, AIR);
            self.asked += asked;
            match stopped {
                None => {
                    self.nodes.push(Node { held: to, parent: from });
                    self.motion = Some(Motion { places: self.path(self.nodes.len() - 1), leaves: which });
                    return;
                }
                Some((index, _)) => self.stops.push((index, self.furthest_out(out, &to))),
            }
        }
    }

    fn path(&self, mut at: usize) -> Vec<Held> {
        let mut all = vec![self.nodes[at].held];
        while at != 0 {
            at = self.nodes[at].parent;
            all.push(self.nodes[at].held);
        }
        all.reverse();
        all
    }

    /// What stopped it: the most frequent first among the quarter of the stops that were furthest out, then the others, the one
    /// that stopped it furthest out first.
    fn stopped_by(&self, out: &Out<'_>) -> Vec<usize> {
        let mut stops = self.stops.clone();
        stops.sort_by(|p, q| q.1.total_cmp(&p.1));
        let mut counts = vec![0_u32; out.stays.len()];
        for (index, _) in stops.iter().take(stops.len().div_ceil(4)) {
            if let Some(count) = counts.get_mut(*index) {
                *count += 1;
            }
        }
        let mut all: Vec<usize> = (0..counts.len()).filter(|index| counts[*index] > 0).collect();
        all.sort_by_key(|index| (std::cmp::Reverse(counts[*index]), *index));
        for (index, _) in stops {
            if !all.contains(&index) {
                all.push(index);
            }
        }
        all
    }
}

/// The same motion from where a body is now, if it is proven to be a way out still; it leaves as far as it now has to.
#[must_use]
pub fn followed(out: &Out<'_>, motion: &Motion) -> Option<Motion> {
    let home = out.body.home();
    let by = home.at - motion.places.first()?.at;
    let mut places: Vec<Held> = motion.places.iter().map(|held| Held { at: held.at + by, ..*held }).collect();
    let (last, way) = (*places.last()?, out.ways.get(motion.leaves)?);
    let left = -spare(out, &last, way);
    if left > 0.0 {
        places.push(Held { at: last.at + way * left, ..last });
    }
    let pulled = Held { at: home.at + out.pull, ..home };
    if out.pull.norm() > 0.0 && places.get(1).is_none_or(|first| out.body.travel(first, &pulled) > PULLED) {
        return None;
    }
    let free = |pair: &[Held]| out.body.advance(&pair[0], &pair[1], out.stays, AIR).stopped.is_none();
    places.windows(2).all(free).then_some(Motion { places, leaves: motion.leaves })
}

/// How far beyond the box round what stays, grown by [`OUTSIDE`], a body is along a way; below 0 it is not out that way yet.
fn spare(out: &Out<'_>, held: &Held, way: &Vector) -> f64 {
    let [low, high] = out.bounds;
    let edge = Vector::from_fn(|axis, _| if way[axis] > 0.0 { high[axis] } else { low[axis] }).dot(way);
    out.body.extent(held, way)[0] - (edge + OUTSIDE)
}

/// The same way with as few places as straight ways between them allow.
fn shortened(out: &Out<'_>, motion: Motion) -> Motion {
    let mut places = motion.places;
    let mut from = 0;
    while from + 2 < places.len() {
        let further = (from + 2..places.len())
            .rev()
            .find(|to| out.body.advance(&places[from], &places[*to], out.stays, AIR).stopped.is_none());
        if let Some(to) = further {
            places.drain(from + 1..to);
        }
        from += 1;
    }
    Motion { places, ..motion }
}
