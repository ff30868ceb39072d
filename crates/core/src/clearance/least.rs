//! The least distance between a moving place and a convex room, by branch and bound.

use nalgebra::Point3;
use smallvec::SmallVec;

use super::{Convex, Span, Turning};
use crate::geometry::Measured;
use crate::geometry::Vector;

/// How near to the truth a least distance is proven, in mm: five times finer than anybody is told.
pub const TOLERANCE: f64 = 0.02;

/// How near to the truth a distance must be proven. Where the centre line itself runs inside the room, how deep is told
/// roughly: the deepest places of a room are creases, and a pipe through the middle of a thing is wrong either way.
fn tolerance(distance: f64) -> f64 {
    if distance < 0.0 { 0.5 - 0.25 * distance } else { TOLERANCE }
}

/// Most cells looked at for one answer. A search that is not done by then gives what it has proven, which is never
/// more than the truth; the tests never come near it.
const MOST_CELLS: u32 = 20_000;

/// The least distance found, and where.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Near {
    /// Signed distance in mm, at most [`TOLERANCE`] above the truth; below 0, half a millimetre and a quarter of it.
    pub distance: f64,
    /// How far along the span, in mm.
    pub s: f64,
    /// The turns it was found at, in radians; 0 where there are none.
    pub turns: [f64; 2],
}

impl Measured for Near {
    fn distance(&self) -> f64 {
        self.distance
    }
}

/// A part of the space searched: the middle and half the width of the place along the span and of each turn.
#[derive(Debug, Clone, Copy)]
pub(super) struct Cell {
    middle: [f64; 3],
    half: [f64; 3],
}

impl Cell {
    /// From `from` to `to` mm along a span, over the whole of up to two turns.
    pub(super) fn whole(from: f64, to: f64, turns: &[Turning]) -> Self {
        let mut cell = Self { middle: [f64::midpoint(from, to), 0.0, 0.0], half: [(to - from) / 2.0, 0.0, 0.0] };
        for (i, turn) in turns.iter().take(2).enumerate() {
            cell.middle[i + 1] = f64::midpoint(turn.from, turn.to);
            cell.half[i + 1] = (turn.to - turn.from) / 2.0;
        }
        cell
    }

    fn halves(self, across: usize) -> [Self; 2] {
        let quarter = self.half[across] / 2.0;
        [-quarter, quarter].map(|by| {
            let mut part = self;
            part.middle[across] += by;
            part.half[across] = quarter;
            part
        })
    }
}

/// A place in a cell's middle, and how far it can get within the cell.
struct Probe {
    at: Point3<f64>,
    /// How it moves with each coordinate.
    slope: [Vector; 3],
    /// No place of the cell is further than this from where the slopes put it, in mm.
    bend: f64,
    /// No place of the cell is further than this from the middle's, in mm.
    reach: f64,
    /// What each coordinate does to `bend`, for choosing which to halve.
    bends: [f64; 3],
}

fn probe(span: &Span, turns: &[Turning], cell: &Cell) -> Probe {
    let [h, ..] = cell.half;
    let (mut at, tangent) = span.at(cell.middle[0]);
    let mut slope = [tangent, Vector::zeros(), Vector::zeros()];
    let mut bends = [span.curvature() * h * h / 2.0, 0.0, 0.0];
    let (mut bend, mut reach) = (bends[0], h);
    for (i, turn) in turns.iter().take(2).enumerate() {
        let axis = turn.axis.into_inner();
        let angle = cell.half[i + 1];
        let (sin, cos) = cell.middle[i + 1].sin_cos();
        let rotate = |v: Vector| v * cos + axis.cross(&v) * sin + axis * (axis.dot(&v) * (1.0 - cos));
        let arm = at - turn.pivot;
        // Nothing in the cell is further from the axis than its middle by more than it can have moved.
        let far = axis.cross(&arm).norm() + reach;
        for before in &mut slope[..=i] {
            *before = rotate(*before);
        }
        let turned = rotate(arm);
        at = turn.pivot + turned;
        slope[i + 1] = axis.cross(&turned);
        bends[i + 1] = far * angle * angle / 2.0;
        // Second order: this turn's own, and how it turns what moves already.
        bend += bends[i + 1] + reach * angle;
        reach += far * angle;
    }
    Probe { at, slope, bend, reach, bends }
}

/// A bound that no distance in the cell is below, the distance in its middle, and the coordinate that is worth halving.
fn bound(room: &Convex, span: &Span, turns: &[Turning], cell: &Cell) -> (f64, f64, usize) {
    let probe = probe(span, turns, cell);
    let (distance, slope) = room.distance(&probe.at);
    let run = [0, 1, 2].map(|i| slope.dot(&probe.slope[i]).abs() * cell.half[i]);
    // The tangent plane lies below the distance; so does a cone of slope 1.
    let least = distance - (run.iter().sum::<f64>() + probe.bend).min(probe.reach);
    let weight = [0, 1, 2].map(|i| run[i] + probe.bends[i] + if cell.half[i] > 0.0 { 1e-12 } else { 0.0 });
    let mut across = 0;
    for i in 1..3 {
        if weight[i] > weight[across] {
            across = i;
        }
    }
    (least, distance, across)
}

/// The least distance in `cell`, if it is below `beyond`; `None` proves that it is not, to within [`TOLERANCE`].
pub(super) fn least(room: &Convex, span: &Span, turns: &[Turning], cell: Cell, beyond: f64) -> Option<Near> {
    let mut search = Search { room, span, turns, ceiling: beyond, best: None };
    let mut open: SmallVec<[Open; 24]> = SmallVec::new();
    let mut looked = 0;
    open.extend(search.look(cell));
    while let Some(Open { cell, low, across }) = open.pop() {
        if low >= search.ceiling - tolerance(search.ceiling) {
            continue;
        }
        looked += 2;
        if looked > MOST_CELLS {
            let unproven = Near { distance: low, s: cell.middle[0], turns: [cell.middle[1], cell.middle[2]] };
            search.ceiling = low;
            search.best = Some(unproven);
            continue;
        }
        let mut halves = cell.halves(across).map(|half| search.look(half));
        // The half that may hold the least is looked into first, so that it rules the rest out.
        if let [Some(first), Some(last)] = &halves
            && first.low < last.low
        {
            halves.swap(0, 1);
        }
        open.extend(halves.into_iter().flatten());
    }
    search.best
}

/// A cell that may hold something nearer.
struct Open {
    cell: Cell,
    low: f64,
    across: usize,
}

struct Search<'a> {
    room: &'a Convex,
    span: &'a Span,
    turns: &'a [Turning],
    ceiling: f64,
    best: Option<Near>,
}

impl Search<'_> {
    fn look(&mut self, cell: Cell) -> Option<Open> {
        let (low, here, across) = bound(self.room, self.span, self.turns, &cell);
        if here < self.ceiling {
            self.ceiling = here;
            self.best = Some(Near { distance: here, s: cell.middle[0], turns: [cell.middle[1], cell.middle[2]] });
        }
        (low < self.ceiling - tolerance(self.ceiling)).then_some(Open { cell, low, across })
    }
}

/// Whether no place in `cell` comes within `beyond` of the room, as far as `looks` cells can tell: a bound that no
/// distance is below.
pub(super) fn at_least(room: &Convex, span: &Span, turns: &[Turning], cell: Cell, beyond: f64, looks: u32) -> f64 {
    let mut proven = f64::INFINITY;
    let mut open = [cell; 12];
    let (mut count, mut left) = (1, looks);
    while count > 0 {
        count -= 1;
        let cell = open[count];
        let (low, here, across) = bound(room, span, turns, &cell);
        left = left.saturating_sub(1);
        if low >= beyond || here < beyond || left == 0 || count + 2 > open.len() {
            proven = proven.min(low);
            // What is within reach already cannot be ruled out by looking closer.
            if here < beyond || left == 0 {
                return open[..count].iter().fold(proven, |least, cell| least.min(bound(room, span, turns, cell).0));
            }
        } else {
            for part in cell.halves(across) {
                open[count] = part;
                count += 1;
            }
        }
    }
    proven
}
