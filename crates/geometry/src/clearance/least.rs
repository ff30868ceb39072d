//! The least distance between a moving place and a convex room, by branch and bound.

use nalgebra::Point3;
use smallvec::SmallVec;

use super::{Convex, Span, Turning};
use crate::Vector;

/// How near to the truth a least distance is proven, in mm: half of the tenth that anybody is told.
pub const TOLERANCE: f64 = 0.05;

/// What is asked of a search.
#[derive(Debug, Clone, Copy)]
pub(super) struct Ask {
    /// Distances from here on are of no interest, in mm.
    pub(super) beyond: f64,
    /// Nor is how far below this one is.
    pub(super) floor: f64,
    /// How near to the truth is near enough, in mm.
    pub(super) care: f64,
}

/// How deep is told only roughly where the centre line itself runs inside a room, to half a millimetre and this share:
/// the deepest places of a room are creases, and a pipe through the middle of a thing is wrong either way.
const DEEP: f64 = 0.25;

impl Ask {
    /// The least distance, if it is below `beyond`, to within [`TOLERANCE`].
    pub(super) const fn exactly(beyond: f64) -> Self {
        Self { beyond, floor: f64::NEG_INFINITY, care: TOLERANCE }
    }

    /// What a distance must be below to matter.
    pub(super) fn ceiling(&self) -> f64 {
        let rough = if self.beyond < 0.0 { 0.5 - DEEP * self.beyond } else { 0.0 };
        self.beyond - self.care.max(rough)
    }
}

/// Most cells looked at for one answer. A search that is not done by then gives what it has proven, which is never
/// more than the truth; the tests never come near it.
pub(super) const MOST_CELLS: u32 = 20_000;

/// The least distance found, and where.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Near {
    /// Signed distance in mm, at most [`TOLERANCE`] above the truth; below 0, half a millimetre and a quarter of it.
    pub distance: f64,
    /// How far along the span, in mm.
    pub s: f64,
    /// The turns it was found at, in radians; 0 where there are none.
    pub turns: [f64; 2],
    /// How the distance grows as the place at rest moves.
    pub away: Vector,
}

/// A part of the space searched: the middle and half the width of the place along the span and of each turn.
#[derive(Debug, Clone, Copy)]
pub(super) struct Cell {
    pub(super) middle: [f64; 3],
    pub(super) half: [f64; 3],
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

    pub(super) fn halves(self, across: usize) -> [Self; 2] {
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
pub(super) struct Probe {
    pub(super) at: Point3<f64>,
    /// How it moves with each coordinate.
    slope: [Vector; 3],
    /// How it bends away from that, per half square of each coordinate.
    bend: [Vector; 3],
    /// How the first turn turns the way along the span, per square of both coordinates.
    cross: Vector,
    /// What else the coordinates do together: no place is further than this from where all that puts it, in mm.
    rest: f64,
    /// No place of the cell is further than this from the middle's, in mm.
    pub(super) reach: f64,
    /// How many turns there are.
    turns: usize,
    cell: Cell,
}

/// Where coordinates put the place.
pub(super) fn place(span: &Span, turns: &[Turning], at: [f64; 3]) -> Point3<f64> {
    turns.iter().zip(&at[1..]).fold(span.at(at[0]).0, |place, (turn, angle)| turn.of(place, *angle))
}

/// The way at rest that a way at some turns was.
pub(super) fn at_rest(turns: &[Turning], way: Vector, angles: [f64; 2]) -> Vector {
    turns.iter().zip(angles).rev().fold(way, |way, (turn, angle)| turn.way(way, -angle))
}

impl Probe {
    pub(super) fn of(span: &Span, turns: &[Turning], cell: &Cell) -> Self {
        let [h, ..] = cell.half;
        let (mut at, tangent, inward) = span.at(cell.middle[0]);
        let mut slope = [tangent, Vector::zeros(), Vector::zeros()];
        let mut bend = [inward * span.curvature(), Vector::zeros(), Vector::zeros()];
        let mut cross = Vector::zeros();
        let (mut rest, mut reach) = (0.0, h);
        for (i, turn) in turns.iter().take(2).enumerate() {
            let axis = turn.axis.into_inner();
            let angle = cell.half[i + 1];
            let (sin, cos) = cell.middle[i + 1].sin_cos();
            let rotate = |v: Vector| v * cos + axis.cross(&v) * sin + axis * (axis.dot(&v) * (1.0 - cos));
            for before in slope[..=i].iter_mut().chain(&mut bend[..=i]) {
                *before = rotate(*before);
            }
            let turned = rotate(at - turn.pivot);
            at = turn.pivot + turned;
            slope[i + 1] = axis.cross(&turned);
            bend[i + 1] = axis.cross(&slope[i + 1]);
            let arm = slope[i + 1].norm();
            // This turn turns what moves already: along a straight, to first order, the way; beyond that, all of it.
            if i == 0 {
                cross = axis.cross(&slope[0]);
                rest += h * angle * (angle + span.curvature() * h) / 2.0;
            } else {
                cross = rotate(cross);
                rest += reach * angle;
            }
            reach += (arm + reach) * angle;
        }
        Self { at, slope, bend, cross, rest, reach, turns: turns.len().min(2), cell: *cell }
    }

    /// What is known of the distances in the cell to a convex room whose distance in the middle is `here` and has the
    /// subgradient `slope` there.
    #[inline]
    pub(super) fn bound(&self, here: f64, slope: Vector) -> Bound {
        let half = self.cell.half;
        let mut loss = [0.0; 3];
        for (i, loss) in loss.iter_mut().enumerate().take(1 + self.turns) {
            let bent = (-slope.dot(&self.bend[i])).max(0.0) * half[i] * half[i] / 2.0;
            *loss = slope.dot(&self.slope[i]).abs() * half[i] + bent;
        }
        let together = if self.turns == 0 { 0.0 } else { slope.dot(&self.cross).abs() * half[0] * half[1] + self.rest };
        // The tangent plane lies below the distance; so does a cone of slope 1.
        let low = here - (loss.iter().sum::<f64>() + together).min(self.reach);
        Bound { low, loss, together }
    }

    /// The corner of the cell where, to first order, a distance with the subgradient `slope` is least.
    pub(super) fn corner(&self, slope: Vector) -> [f64; 3] {
        let Cell { middle, half } = self.cell;
        [0, 1, 2].map(|i| middle[i] - slope.dot(&self.slope[i]).signum() * half[i])
    }

    /// The coordinate that is worth halving, as a bound says.
    pub(super) fn across(&self, bound: &Bound) -> usize {
        // What is left over grows with every coordinate, so its own length stands for a share of it.
        let share = if self.reach > 0.0 { bound.together / self.reach } else { 0.0 };
        let weight = |i: usize| bound.loss[i] + share * self.slope[i].norm() * self.cell.half[i];
        [1, 2].into_iter().fold(0, |worst, i| if weight(i) > weight(worst) { i } else { worst })
    }
}

/// What is known of the distances in a cell.
pub(super) struct Bound {
    /// No distance in it is below this.
    pub(super) low: f64,
    /// What each coordinate takes off the bound.
    loss: [f64; 3],
    /// What they take off it together.
    together: f64,
}

/// The least distance in `cell`, if it is below what is asked; `None` proves that it is not, to within the care asked.
pub(super) fn least(room: &Convex, span: &Span, turns: &[Turning], cell: Cell, ask: Ask) -> Option<Near> {
    let mut search = Search { room, span, turns, ask, best: None };
    let mut open: SmallVec<[Open; 24]> = SmallVec::new();
    let mut looked = 0;
    open.extend(search.look(cell));
    while let Some(Open { cell, low, across }) = open.pop() {
        if search.ask.beyond < ask.floor {
            break;
        }
        if low >= search.ask.ceiling() {
            continue;
        }
        looked += 2;
        if looked > MOST_CELLS {
            search.found(low, cell.middle);
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
    search.best.map(|(distance, [s, turns @ ..])| {
        let at = place(span, search.turns, [s, turns[0], turns[1]]);
        let away = at_rest(search.turns, room.distance(&at).1, turns);
        Near { distance, s, turns, away }
    })
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
    ask: Ask,
    best: Option<(f64, [f64; 3])>,
}

impl Search<'_> {
    fn look(&mut self, cell: Cell) -> Option<Open> {
        let probe = Probe::of(self.span, self.turns, &cell);
        let (here, slope) = self.room.distance(&probe.at);
        let bound = probe.bound(here, slope);
        self.found(here, cell.middle);
        if bound.low < self.ask.ceiling() {
            let corner = probe.corner(slope);
            let at = place(self.span, self.turns, corner);
            self.found(self.room.distance(&at).0, corner);
        }
        (bound.low < self.ask.ceiling()).then(|| Open { cell, low: bound.low, across: probe.across(&bound) })
    }

    fn found(&mut self, distance: f64, at: [f64; 3]) {
        if distance < self.ask.beyond {
            self.ask.beyond = distance;
            self.best = Some((distance, at));
        }
    }
}

/// A bound that no distance in `cell` is below, found in at most `looks` looks, or fewer where that is enough to tell
/// whether it is below `beyond`.
pub(super) fn at_least(room: &Convex, span: &Span, turns: &[Turning], cell: Cell, beyond: f64, looks: u32) -> f64 {
    let probe = Probe::of(span, turns, &cell);
    let (here, slope) = room.distance(&probe.at);
    let bound = probe.bound(here, slope);
    // What is within reach already cannot be ruled out by looking closer.
    if bound.low >= beyond || here < beyond || looks < 3 {
        return bound.low;
    }
    let halves = cell.halves(probe.across(&bound));
    let mut least = f64::INFINITY;
    for half in halves {
        least = least.min(at_least(room, span, turns, half, beyond, (looks - 1) / 2));
        if least < beyond {
            return bound.low;
        }
    }
    least
}
