//! The room round a run in cells: how much of it the tube has room in, which of it lies between the mouths, and whether a
//! ball as thick as the tube can get from one to the other at all.

use std::cmp::Reverse;
use std::collections::BinaryHeap;

use nalgebra::Point3;

use super::field::Field;
use super::worker_pool::WorkerPool;
use nook_core::measure::End;
use nook_core::route::RouteEnds;
use nook_geometry::Vector;

/// About so many cells: a tenth of a second to fill among a hundred things.
const CELLS: f64 = 300_000.0;
/// Cells no smaller than this, in mm.
const SMALLEST: f64 = 6.0;
/// Cells along each side of a block that is judged in one.
const BLOCK: usize = 8;
/// Margins beyond this, in mm, are not told apart.
pub(super) const CAP: f64 = 40.0;

/// A box of cells and the tube's margin in the middle of each.
pub(super) struct Grid {
    low: Point3<f64>,
    size: f64,
    count: [usize; 3],
    /// How much more than is asked a ball as thick as the tube has in the middle of each cell, in mm; at most [`CAP`].
    margin: Vec<f32>,
}

/// Lengths of the shortest ways of a ball through the cells, from each mouth; infinite where it cannot get.
pub(super) struct Reach {
    from_a: Vec<f32>,
    from_b: Vec<f32>,
    /// The shortest from mouth to mouth, in mm.
    pub(super) shortest: f64,
}

impl Grid {
    pub(super) fn new(field: &Field<'_>, route_ends: &RouteEnds, worker_pool: &WorkerPool<'_>) -> Self {
        let across = (route_ends.b - route_ends.a).norm();
        let around = Vector::repeat((0.45 * across + 2.5 * route_ends.radius(0)).max(200.0));
        let low = Point3::from(route_ends.a.coords.inf(&route_ends.b.coords) - around);
        let high = route_ends.a.coords.sup(&route_ends.b.coords) + around;
        let sides = high - low.coords;
        let size = (sides.product() / CELLS).cbrt().max(SMALLEST);
        let count = [0, 1, 2].map(|axis| whole(sides[axis] / size) + 1);
        let mut grid = Self { low, size, count, margin: vec![CAP_F32; count.iter().product()] };
        let blocks = count.map(|count| count.div_ceil(BLOCK));
        let filled = worker_pool.each(blocks.iter().product(), |block| {
            let at = [block / (blocks[1] * blocks[2]), block / blocks[2] % blocks[1], block % blocks[2]];
            grid.block(field, at.map(|i| i * BLOCK))
        });
        for (index, margin) in filled.into_iter().flatten() {
            grid.margin[index] = margin;
        }
        grid
    }

    /// The margins of one block's cells that are below the cap.
    fn block(&self, field: &Field<'_>, first: [usize; 3]) -> Vec<(usize, f32)> {
        let last = [0, 1, 2].map(|axis| (first[axis] + BLOCK).min(self.count[axis]));
        let (from, to) = (self.middle(first), self.middle(last.map(|i| i - 1)));
        let middle = nalgebra::center(&from, &to);
        let near = field.near(&middle, (to - from).norm() / 2.0 + CAP);
        let mut all = Vec::new();
        if near.is_empty() {
            return all;
        }
        for x in first[0]..last[0] {
            for y in first[1]..last[1] {
                for z in first[2]..last[2] {
                    let margin = field.margin(&near, &self.middle([x, y, z]), CAP);
                    if margin < CAP {
                        all.push((self.index([x, y, z]), single(margin)));
                    }
                }
            }
        }
        all
    }

    const fn index(&self, [x, y, z]: [usize; 3]) -> usize {
        (x * self.count[1] + y) * self.count[2] + z
    }

    const fn cell(&self, index: usize) -> [usize; 3] {
        [index / (self.count[1] * self.count[2]), index / self.count[2] % self.count[1], index % self.count[2]]
    }

    fn middle(&self, cell: [usize; 3]) -> Point3<f64> {
        self.low + Vector::from_fn(|axis, _| (float(cell[axis]) + 0.5) * self.size)
    }

    fn holding(&self, at: &Point3<f64>) -> usize {
        let cell = [0, 1, 2].map(|axis| whole((at[axis] - self.low[axis]) / self.size).min(self.count[axis] - 1));
        self.index(cell)
    }

    /// The margin at a place in mm; no more than [`CAP`].
    pub(super) fn margin_at(&self, at: &Point3<f64>) -> f64 {
        f64::from(self.margin[self.holding(at)])
    }

    fn neighbours(&self, index: usize) -> impl Iterator<Item = (usize, f64)> {
        let cell = self.cell(index);
        (0..27_usize).filter(|k| *k != 13).filter_map(move |k| {
            let by = [k / 9, k / 3 % 3, k % 3];
            let mut next = [0; 3];
            for axis in 0..3 {
                next[axis] = (cell[axis] + by[axis]).checked_sub(1).filter(|i| *i < self.count[axis])?;
            }
            let steps = by.iter().filter(|by| **by != 1).count();
            Some((self.index(next), self.size * [0.0, 1.0, std::f64::consts::SQRT_2, 1.732_050_808][steps]))
        })
    }

    /// How far a ball is from a mouth in every cell it gets to.
    fn spread(&self, route_ends: &RouteEnds, end: End, least: f64, lax: f64) -> Vec<f32> {
        let (mouth, out) = match end {
            End::A => (route_ends.a, route_ends.out_a),
            End::B => (route_ends.b, route_ends.out_b),
        };
        let mut far = vec![f32::INFINITY; self.margin.len()];
        let mut open = BinaryHeap::new();
        let mut lead = least;
        // What the joint and the first of the lead have is not asked: no way can help that.
        while lead <= least + 3.0 * route_ends.radius(0) {
            let index = self.holding(&(mouth + out * lead));
            let free = f64::from(self.margin[index]) >= -lax * self.size;
            if lead > least + 1.5 * self.size && !free {
                break;
            }
            far[index] = far[index].min(single(lead));
            open.push(Reverse((whole(lead * 64.0), index)));
            lead += self.size;
        }
        while let Some(Reverse((key, index))) = open.pop() {
            let here = float(key) / 64.0;
            if here > f64::from(far[index]) + 0.1 {
                continue;
            }
            for (next, step) in self.neighbours(index) {
                let there = here + step;
                if f64::from(self.margin[next]) >= -lax * self.size && there < f64::from(far[next]) - 0.05 {
                    far[next] = single(there);
                    open.push(Reverse((whole(there * 64.0), next)));
                }
            }
        }
        far
    }

    /// The shortest ways of a ball through the cells from both mouths; `least` are what the joints take of the leads.
    pub(super) fn reach(&self, route_ends: &RouteEnds, least: [f64; 2], worker_pool: &WorkerPool<'_>) -> Reach {
        let ends = [End::A, End::B];
        let reached = |lax: f64| {
            let mut both = worker_pool.each(2, |i| self.spread(route_ends, ends[i], least[i], lax)).into_iter();
            let (from_a, from_b) = (both.next().unwrap_or_default(), both.next().unwrap_or_default());
            let shortest = from_a.iter().zip(&from_b).map(|(a, b)| a + b).fold(f32::INFINITY, f32::min);
            Reach { from_a, from_b, shortest: f64::from(shortest) }
        };
        let sure = reached(LAX);
        if sure.shortest.is_finite() { sure } else { reached(LAXER) }
    }

    /// Whether it is proven that a ball as thick as the tube cannot get from mouth to mouth. A cell is closed only where
    /// every place in it is too near to something, and all that lies outside the cells is taken to be open.
    pub(super) fn proves_closed(&self, route_ends: &RouteEnds, least: [f64; 2]) -> bool {
        let half = self.size * 3.0_f64.sqrt() / 2.0;
        let open = |index: usize| f64::from(self.margin[index]) >= -half - 0.1;
        let mut seen = vec![false; self.margin.len()];
        let mut stack = Vec::new();
        let first = |mouth: Point3<f64>, out: Vector, least: f64| {
            // Any place that a pipe's tip may be in within two cells of the end of its joint.
            let tip = mouth + out * least;
            (0..self.margin.len()).filter(move |i| (self.middle(self.cell(*i)) - tip).norm() < 2.5 * self.size)
        };
        for index in first(route_ends.a, route_ends.out_a, least[0]) {
            seen[index] = true;
            stack.push(index);
        }
        let goal: Vec<usize> = first(route_ends.b, route_ends.out_b, least[1]).collect();
        let edge = |index: usize| {
            let cell = self.cell(index);
            (0..3).any(|axis| cell[axis] == 0 || cell[axis] + 1 == self.count[axis])
        };
        let mut outside = false;
        while let Some(index) = stack.pop() {
            if !outside && edge(index) {
                outside = true;
                for other in (0..self.margin.len()).filter(|i| edge(*i)) {
                    if !seen[other] && open(other) {
                        seen[other] = true;
                        stack.push(other);
                    }
                }
            }
            for (next, _) in self.neighbours(index) {
                if !seen[next] && open(next) {
                    seen[next] = true;
                    stack.push(next);
                }
            }
        }
        goal.iter().all(|index| !seen[*index])
    }

    /// At most `most` places spread evenly through what lies between the mouths: on ways up to `longer` times the
    /// shortest, and beside them as far as the vertex of a bend stands out of it. `turn` gives other places each time.
    pub(super) fn places(&self, reach: &Reach, radius: f64, longer: f64, most: usize, turn: usize) -> Vec<Point3<f64>> {
        let limit = reach.shortest * longer;
        let sum = |index: usize| f64::from(reach.from_a[index] + reach.from_b[index]);
        let mut between: Vec<bool> = (0..self.margin.len()).map(|index| sum(index) <= limit).collect();
        let mut edge: Vec<usize> = (0..between.len()).filter(|index| between[*index]).collect();
        // Vertices stand out of their bends.
        let deep = 0.4 * radius;
        let mut layers = 0.0;
        while layers * self.size < deep {
            layers += 1.0;
            let mut next = Vec::new();
            for index in edge {
                for (beside, _) in self.neighbours(index) {
                    if !between[beside] && f64::from(self.margin[beside]) >= -deep {
                        between[beside] = true;
                        next.push(beside);
                    }
                }
            }
            edge = next;
        }
        let all: Vec<usize> = (0..between.len()).filter(|index| between[*index]).collect();
        if all.is_empty() {
            return Vec::new();
        }
        let mut apart = (float(all.len()) * self.size.powi(3) / float(most)).cbrt() * 1.05;
        // Steps of the golden ratio visit the cells in an order that looks like none.
        let stride = whole(float(all.len()) * 0.618_033_988_749_895).max(1) | 1;
        let stride = (stride..).find(|s| gcd(*s, all.len()) == 1).unwrap_or(1);
        let mut kept: Vec<Point3<f64>> = Vec::new();
        for _ in 0..3 {
            for k in 0..all.len() {
                let index = all[(turn * 7_919 + k * stride) % all.len()];
                let at = self.middle(self.cell(index));
                if kept.len() < most && kept.iter().all(|other| (other - at).norm_squared() >= apart * apart) {
                    kept.push(at);
                }
            }
            apart *= 0.75;
        }
        kept
    }
}

/// A ball is taken to get through cells whose middle lacks no more than this share of a cell.
const LAX: f64 = 0.5;
/// The same where it gets through none of those: half a cell's diagonal, beyond which none of it is open.
const LAXER: f64 = 0.87;

#[allow(clippy::cast_possible_truncation, reason = "margins and lengths are told to a hundredth of a millimetre")]
const fn single(value: f64) -> f32 {
    value as f32
}

const CAP_F32: f32 = single(CAP);

#[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped to what a grid has")]
fn whole(value: f64) -> usize {
    value.clamp(0.0, 4e9) as usize
}

#[allow(clippy::cast_precision_loss, reason = "a grid has far fewer cells than numbers are exact to")]
const fn float(value: usize) -> f64 {
    value as f64
}

const fn gcd(mut a: usize, mut b: usize) -> usize {
    while b > 0 {
        (a, b) = (b, a % b);
    }
    a
}
