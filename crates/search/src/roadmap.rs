//! Rough ways through the bay: places strewn through it, the legs between them that are clear, and the cheapest chains
//! of legs from A's axis to B's.

use nalgebra::Point3;

use super::field::Field;
use super::refine::Price;
use super::sampling::{ROUNDS, Sampling};
use super::worker_pool::WorkerPool;
use nook_core::measure::End;
use nook_core::route::{DesignVector, Each, RouteEnds, least_straights};
use nook_geometry::Vector;

/// What a mm that a rough leg comes too near is worth in mm of pipe.
const SHORT_COSTS: f64 = 4.0;
/// Sharpest turn of a rough way in radians, and the least that needs a bend at all.
const TURNS: std::ops::RangeInclusive<f64> = 0.06..=2.55;

/// A rough way and what it is worth.
#[derive(Debug, Clone)]
pub(super) struct Rough {
    pub(super) free: DesignVector,
    pub(super) cost: f64,
}

pub(super) struct Roadmap<'a> {
    field: &'a Field<'a>,
    route_ends: &'a RouteEnds,
    price: Price,
    bend_costs: f64,
    sampling: Sampling<'a>,
    least: [f64; 3],
    places: Vec<Point3<f64>>,
    /// What a bend at each place takes off its legs, in mm, at least.
    trims: Vec<f64>,
    on_a: Vec<(f64, Point3<f64>)>,
    on_b: Vec<(f64, Point3<f64>)>,
}

/// The cheapest chain that ends with a leg.
#[derive(Debug, Clone, Copy)]
struct Label {
    cost: f64,
    /// What the bend before the leg takes off it, in mm.
    taken: f64,
    /// Where the chain comes from: a lead at A, or a place.
    before: u32,
}

/// Extra cost of every leg between two places; infinite where it is blocked.
pub(super) struct Legs {
    between: Vec<f64>,
    from_a: Vec<f64>,
    to_b: Vec<f64>,
    across: Vec<f64>,
}

impl<'a> Roadmap<'a> {
    pub(super) fn new(
        field: &'a Field<'a>,
        route_ends: &'a RouteEnds,
        price: Price,
        bend_costs: f64,
        pins: &[Point3<f64>],
        sampling: Sampling<'a>,
    ) -> Self {
        let least = least_straights(field.run, 2);
        let mut map = Self {
            field,
            route_ends,
            price,
            bend_costs,
            sampling,
            least: [least[0], least[1], least[2]],
            places: Vec::new(),
            trims: Vec::new(),
            on_a: Vec::new(),
            on_b: Vec::new(),
        };
        map.on_a = map.along_the_axis(End::A, route_ends.a, route_ends.out_a, map.least[0]);
        map.on_b = map.along_the_axis(End::B, route_ends.b, route_ends.out_b, map.least[2]);
        map.places = match sampling {
            Sampling::Even => map.strewn(pins, 150),
            Sampling::Through => map.strewn(pins, 50),
            Sampling::Guided { grid, reach, round } => {
                let (most, longer) = ROUNDS[round % ROUNDS.len()];
                [pins, &grid.places(reach, route_ends.radius(0), longer, most, round)].concat()
            }
        };
        map.trims = map.places.iter().map(|place| map.trim(place)).collect();
        map
    }

    /// What a bend whose vertex is at a place takes off its legs, in mm, at least: where the vertex lies in something, its
    /// bend turns enough to pass beside.
    fn trim(&self, vertex: &Point3<f64>) -> f64 {
        let radius = self.route_ends.radius(0);
        let deep = match self.sampling {
            Sampling::Guided { grid, .. } => (-grid.margin_at(vertex)).max(0.0),
            Sampling::Even | Sampling::Through => 0.0,
        };
        (0.4 * radius).max(radius * ((1.0 + deep / radius).powi(2) - 1.0).sqrt())
    }

    fn along_the_axis(&self, end: End, mouth: Point3<f64>, out: Vector, least: f64) -> Vec<(f64, Point3<f64>)> {
        let mouths = |lead: f64| match end {
            End::A => [Some(lead), None],
            End::B => [None, Some(lead)],
        };
        let mut leads = Vec::new();
        let lax = self.sampling.lax();
        for share in self.sampling.leads() {
            let lead = least + share * self.route_ends.radius(0);
            let at = mouth + out * lead;
            let trims = [0.0, self.trim(&at).max(0.3 * self.route_ends.radius(0))];
            let from = least.min(lead - 1.0);
            if self.field.leg_shortfall(mouth + out * from, at, trims, lax, mouths(from)) > lax {
                break;
            }
            leads.push((lead, at));
        }
        leads
    }

    /// Places in a box round the ports, by a low-discrepancy sequence (M. Roberts, "The unreasonable effectiveness of
    /// quasirandom sequences"), in axes that turn with the ports, so that a bay turned about plumb gives the same ways.
    fn strewn(&self, pins: &[Point3<f64>], enough: usize) -> Vec<Point3<f64>> {
        const RATIO: f64 = 1.220_744_084_605_759_5;
        let across = self.route_ends.b - self.route_ends.a;
        let level = |v: Vector| Vector::new(v.x, v.y, 0.0).try_normalize(1e-6);
        let onward = level(across).or_else(|| level(self.route_ends.out_a)).or_else(|| level(self.route_ends.out_b));
        let onward = onward.unwrap_or_else(Vector::x);
        let aside = Vector::z().cross(&onward);
        let middle = nalgebra::center(&self.route_ends.a, &self.route_ends.b);
        let radius = self.route_ends.radius(0);
        let room = 0.35 * across.norm() + 2.5 * radius;
        let reach = [across.dot(&onward) / 2.0 + room, 0.4 * across.norm() + room, across.z.abs() / 2.0 + room];
        let mut places: Vec<Point3<f64>> = pins.to_vec();
        let lax = self.sampling.lax();
        let mut k = 1.0;
        while places.len() < enough && k < 450.0 {
            let turn = k;
            k += 1.0;
            let part = |power: i32| (0.5 + turn * RATIO.powi(-power)).fract();
            let along =
                middle + onward * ((2.0 * part(1) - 1.0) * reach[0]) + Vector::z() * ((2.0 * part(3) - 1.0) * reach[2]);
            for side in [-1.0, 1.0] {
                let at = along + aside * (side * part(2) * reach[1]);
                if self.field.leg_shortfall(at, at + Vector::z() * 2.0, [0.0, 0.0], lax, [None; 2]) <= lax {
                    places.push(at);
                }
            }
        }
        places
    }

    /// Rough ways with two bends or three, each number with the cheapest first and no two alike.
    pub(super) fn few_bends(&self, most: usize, legs: &Legs, worker_pool: &WorkerPool<'_>) -> Vec<Rough> {
        if worker_pool.stopped() {
            return Vec::new();
        }
        let mut found = self.two_bends(legs);
        if most > 2 && !self.places.is_empty() {
            found.extend(self.three_bends(&self.first_legs(legs), legs));
        }
        found
    }

    /// Rough ways with four bends up to `most`, in the same order.
    pub(super) fn many_bends(&self, most: usize, legs: &Legs, worker_pool: &WorkerPool<'_>) -> Vec<Rough> {
        let mut found = Vec::new();
        if worker_pool.stopped() || self.places.is_empty() {
            return found;
        }
        let mut chains: Vec<Vec<Option<Label>>> = Vec::new();
        let from_a = self.first_legs(legs);
        for bends in 4..=most {
            let before = chains.last();
            let next = worker_pool.each(self.places.len(), |v| self.onward(v, &from_a, before, legs));
            if worker_pool.stopped() {
                break;
            }
            // Chains ending with the leg from `v` to `w` are at `v * count + w`.
            chains.push(next.into_iter().flatten().collect());
            found.extend(self.ended(bends, &from_a, &chains, legs));
        }
        found
    }

    /// What the legs between all places cost; of no use once the work has been called off.
    pub(super) fn legs(&self, worker_pool: &WorkerPool<'_>) -> Legs {
        let (count, lax) = (self.places.len(), self.sampling.lax());
        let price = |from: &Point3<f64>, to: &Point3<f64>, trims: [f64; 2], mouths: [Option<f64>; 2]| {
            let short = self.field.leg_shortfall(*from, *to, trims, lax, mouths);
            if short > lax { f64::INFINITY } else { short * SHORT_COSTS * self.price.length }
        };
        let half = worker_pool.each(count, |u| {
            let others = self.places.iter().zip(&self.trims).skip(u + 1);
            others.map(|(w, trim)| price(&self.places[u], w, [self.trims[u], *trim], [None; 2])).collect::<Vec<_>>()
        });
        let mut between = vec![f64::INFINITY; count * count];
        for (u, row) in half.iter().enumerate() {
            for (k, cost) in row.iter().enumerate() {
                between[u * count + u + 1 + k] = *cost;
                between[(u + 1 + k) * count + u] = *cost;
            }
        }
        let from_a = worker_pool.each(self.on_a.len(), |i| {
            let (lead, at) = &self.on_a[i];
            let places = self.places.iter().zip(&self.trims);
            places.map(|(w, trim)| price(at, w, [self.trim(at), *trim], [Some(*lead), None])).collect::<Vec<_>>()
        });
        let to_b = worker_pool.each(self.on_b.len(), |i| {
            let (lead, at) = &self.on_b[i];
            let places = self.places.iter().zip(&self.trims);
            places.map(|(w, trim)| price(w, at, [*trim, self.trim(at)], [None, Some(*lead)])).collect::<Vec<_>>()
        });
        let across = worker_pool.each(self.on_a.len(), |i| {
            let (lead, at) = &self.on_a[i];
            let others = self.on_b.iter();
            let trims = |b: &Point3<f64>| [self.trim(at), self.trim(b)];
            others.map(|(other, b)| price(at, b, trims(b), [Some(*lead), Some(*other)])).collect::<Vec<_>>()
        });
        let (from_a, to_b) = (from_a.concat(), to_b.concat());
        Legs { between, from_a, to_b, across: across.concat() }
    }

    /// The turn at a corner: its setback, and its cost beyond that of the two legs.
    fn corner(&self, bend: usize, before: &Vector, after: &Vector) -> Option<(f64, f64)> {
        let cosine = (before.dot(after) / (before.norm() * after.norm())).clamp(-1.0, 1.0);
        let angle = cosine.acos();
        if !TURNS.contains(&angle) {
            return None;
        }
        let radius = self.route_ends.radius(bend);
        let setback = radius * (angle / 2.0).tan();
        let cost = self.price.length * (radius * angle - 2.0 * setback) + self.price.turn * angle + self.bend_costs;
        Some((setback, cost))
    }

    fn start(&self, lead: usize, to: &Point3<f64>) -> Option<(f64, f64)> {
        let (length, at) = &self.on_a[lead];
        let (setback, cost) = self.corner(0, &self.route_ends.out_a, &(to - at))?;
        (length - setback >= self.least[0]).then_some((setback, cost + self.price.length * length))
    }

    fn finish(&self, bend: usize, from: &Point3<f64>, taken: f64, lead: usize) -> Option<f64> {
        let (length, at) = &self.on_b[lead];
        let leg = at - from;
        let (setback, cost) = self.corner(bend, &leg, &-self.route_ends.out_b)?;
        let room = leg.norm() - taken - setback >= self.least[1] && length - setback >= self.least[2];
        room.then_some(cost + self.price.length * (length + leg.norm()))
    }

    fn two_bends(&self, legs: &Legs) -> Vec<Rough> {
        let mut all = Vec::new();
        for a in 0..self.on_a.len() {
            for b in 0..self.on_b.len() {
                let blocked = legs.across[a * self.on_b.len() + b];
                let Some((taken, cost)) = self.start(a, &self.on_b[b].1) else { continue };
                let Some(end) = self.finish(1, &self.on_a[a].1, taken, b) else { continue };
                let cost = cost + end + blocked;
                if cost.is_finite() {
                    all.push(self.rough(&[self.on_a[a].1, self.on_b[b].1], cost));
                }
            }
        }
        self.unlike(all, 2)
    }

    fn first_legs(&self, legs: &Legs) -> Vec<Option<Label>> {
        let count = self.places.len();
        let mut labels = vec![None; self.on_a.len() * count];
        for a in 0..self.on_a.len() {
            for (w, place) in self.places.iter().enumerate() {
                let blocked = legs.from_a[a * count + w];
                if let Some((taken, cost)) = self.start(a, place).filter(|_| blocked.is_finite()) {
                    let leg = (place - self.on_a[a].1).norm() * self.price.length;
                    labels[a * count + w] = Some(Label { cost: cost + leg + blocked, taken, before: 0 });
                }
            }
        }
        labels
    }

    fn three_bends(&self, from_a: &[Option<Label>], legs: &Legs) -> Vec<Rough> {
        let count = self.places.len();
        let mut all = Vec::new();
        for a in 0..self.on_a.len() {
            for (v, place) in self.places.iter().enumerate() {
                let Some(label) = from_a[a * count + v] else { continue };
                let before = place - self.on_a[a].1;
                for b in 0..self.on_b.len() {
                    let (blocked, after) = (legs.to_b[b * count + v], self.on_b[b].1 - place);
                    let Some((setback, cost)) = self.corner(1, &before, &after).filter(|_| blocked.is_finite()) else {
                        continue;
                    };
                    if before.norm() - label.taken - setback < self.least[1] {
                        continue;
                    }
                    if let Some(end) = self.finish(2, place, setback, b) {
                        all.push((label.cost + cost + end + blocked, a, v, b));
                    }
                }
            }
        }
        all.sort_by(|p, q| p.0.total_cmp(&q.0));
        let ways = all
            .into_iter()
            .take(2000)
            .map(|(cost, a, v, b)| self.rough(&[self.on_a[a].1, self.places[v], self.on_b[b].1], cost));
        self.unlike(ways.collect(), 3)
    }

    /// The cheapest chains that end with a leg from place `v` to each other place, one bend longer than those in
    /// `before`, or of one place after A's axis where there are none.
    fn onward(
        &self,
        v: usize,
        from_a: &[Option<Label>],
        before: Option<&Vec<Option<Label>>>,
        legs: &Legs,
    ) -> Vec<Option<Label>> {
        let count = self.places.len();
        let place = self.places[v];
        let bend = if before.is_none() { 1 } else { 2 };
        // Chains that arrive at `v`, with the leg they arrive by.
        let arriving: Vec<(Label, Vector, u32)> = match before {
            None => (0..self.on_a.len())
                .filter_map(|a| Some((from_a[a * count + v]?, place - self.on_a[a].1, u32::try_from(a).ok()?)))
                .collect(),
            Some(chains) => (0..count)
                .filter_map(|u| Some((chains[u * count + v]?, place - self.places[u], u32::try_from(u).ok()?)))
                .collect(),
        };
        let arriving: Vec<_> = arriving.into_iter().map(|(label, leg, from)| (label, leg, leg.norm(), from)).collect();
        (0..count)
            .map(|w| {
                let blocked = legs.between[v * count + w];
                if !blocked.is_finite() {
                    return None;
                }
                let after = self.places[w] - place;
                let onward = after.norm() * self.price.length + blocked;
                let mut best: Option<Label> = None;
                for (label, leg, length, from) in &arriving {
                    if best.is_some_and(|best| label.cost + onward >= best.cost) {
                        continue;
                    }
                    let Some((setback, cost)) = self.corner(bend, leg, &after) else { continue };
                    let cost = label.cost + cost + onward;
                    let room = length - label.taken - setback >= self.least[1];
                    if room && best.is_none_or(|best| cost < best.cost) {
                        best = Some(Label { cost, taken: setback, before: *from });
                    }
                }
                best
            })
            .collect()
    }

    /// Chains brought to B: of `bends` bends in all.
    fn ended(&self, bends: usize, from_a: &[Option<Label>], chains: &[Vec<Option<Label>>], legs: &Legs) -> Vec<Rough> {
        let count = self.places.len();
        let Some(last) = chains.last() else { return Vec::new() };
        let mut all = Vec::new();
        for v in 0..count {
            for w in 0..count {
                let Some(label) = last[v * count + w] else { continue };
                let place = self.places[w];
                let leg = place - self.places[v];
                let mut best: Option<(f64, usize)> = None;
                for b in 0..self.on_b.len() {
                    let blocked = legs.to_b[b * count + w];
                    let after = self.on_b[b].1 - place;
                    let Some((setback, cost)) = self.corner(bends - 2, &leg, &after) else { continue };
                    if !blocked.is_finite() || leg.norm() - label.taken - setback < self.least[1] {
                        continue;
                    }
                    let Some(end) = self.finish(bends - 1, &place, setback, b) else { continue };
                    let cost = label.cost + cost + end + blocked;
                    if best.is_none_or(|best| cost < best.0) {
                        best = Some((cost, b));
                    }
                }
                if let Some((cost, b)) = best {
                    all.push((cost, v, w, b));
                }
            }
        }
        all.sort_by(|p, q| p.0.total_cmp(&q.0));
        let ways = all.into_iter().take(1200).filter_map(|(cost, v, w, b)| {
            let mut places = vec![self.on_b[b].1, self.places[w], self.places[v]];
            let (mut u, mut level, mut to) = (v, chains.len() - 1, w);
            // Back along the chain, place by place, to the lead at A.
            while level > 0 {
                let label = chains[level][u * count + to]?;
                (to, u, level) = (u, label.before as usize, level - 1);
                places.push(self.places[u]);
            }
            let label = chains[0][u * count + to]?;
            debug_assert!(from_a[label.before as usize * count + u].is_some(), "a chain begins at A");
            places.push(self.on_a[label.before as usize].1);
            places.reverse();
            Some(self.rough(&places, cost))
        });
        self.unlike(ways.collect(), bends)
    }

    /// The cheapest ways of so many bends of which no two are alike.
    fn unlike(&self, all: Vec<Rough>, bends: usize) -> Vec<Rough> {
        unlike(all, self.sampling.kept()[bends.clamp(2, 5) - 2], self.sampling.alike())
    }

    fn rough(&self, vertices: &[Point3<f64>], cost: f64) -> Rough {
        Rough { free: self.route_ends.free(vertices), cost }
    }
}

/// The cheapest `most` of which no two are alike.
fn unlike(mut all: Vec<Rough>, most: usize, alike: f64) -> Vec<Rough> {
    all.sort_by(|p, q| p.cost.total_cmp(&q.cost));
    let mut kept: Vec<Rough> = Vec::new();
    for way in all {
        let near = |other: &Rough| {
            let apart: Each<f64> = way.free.iter().zip(&other.free).map(|(p, q)| (p - q).abs()).collect();
            apart.iter().all(|d| *d < alike)
        };
        if !kept.iter().any(near) {
            kept.push(way);
            if kept.len() == most {
                break;
            }
        }
    }
    kept
}
