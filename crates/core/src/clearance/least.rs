//! The least distance between a moving place and a convex room, by branch and bound.

use nalgebra::Point3;
use smallvec::SmallVec;

use super::{Convex, Span, Turning};
use crate::geometry::Measured;
use crate::geometry::Vector;

/// How near to the truth a least distance is proven, in mm: half of the tenth that anybody is told.
pub const TOLERANCE: f64 = 0.05;

/// How near to the truth a distance must be proven. Where the centre line itself runs inside the room, how deep is told
/// roughly: the deepest places of a room are creases, and a pipe through the middle of a thing is wrong either way.
fn tolerance(distance: f64, care: f64) -> f64 {
    if distance < 0.0 { care.max(0.5 - 0.25 * distance) } else { care }
}

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

impl Ask {
    /// The least distance, if it is below `beyond`, to within [`TOLERANCE`].
    pub(super) const fn exactly(beyond: f64) -> Self {
        Self { beyond, floor: f64::NEG_INFINITY, care: TOLERANCE }
    }

    pub(super) const fn below(self, beyond: f64) -> Self {
        Self { beyond, ..self }
    }
}

/// Most cells looked at for one answer. A search that is not done by then gives what it has proven, which is never
/// more than the truth; the tests never come near it.
const MOST_CELLS: u32 = 20_000;

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
    /// How it bends away from that, per half square of each coordinate.
    bend: [Vector; 3],
    /// How the first turn turns the way along the span, per square of both coordinates.
    cross: Vector,
    /// What else the coordinates do together: no place is further than this from where all that puts it, in mm.
    rest: f64,
    /// No place of the cell is further than this from the middle's, in mm.
    reach: f64,
}

/// Where coordinates put the place.
fn place(span: &Span, turns: &[Turning], at: [f64; 3]) -> Point3<f64> {
    turns.iter().zip(&at[1..]).fold(span.at(at[0]).0, |place, (turn, angle)| turn.of(place, *angle))
}

fn probe(span: &Span, turns: &[Turning], cell: &Cell) -> Probe {
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
    Probe { at, slope, bend, cross, rest, reach }
}

/// What is known of the distances in a cell.
struct Bound {
    /// No distance in it is below this.
    low: f64,
    /// The distance in its middle.
    here: f64,
    /// What each coordinate takes off the bound.
    loss: [f64; 3],
    /// What they take off it together.
    together: f64,
    /// Which way along each coordinate the distance falls: 1 or -1.
    towards: [f64; 3],
    probe: Probe,
}

impl Bound {
    fn of(room: &Convex, span: &Span, turns: &[Turning], cell: &Cell) -> Self {
        let probe = probe(span, turns, cell);
        let (here, slope) = room.distance(&probe.at);
        let mut loss = [0.0; 3];
        for (i, loss) in loss.iter_mut().enumerate().take(1 + turns.len()) {
            let half = cell.half[i];
            let bent = (-slope.dot(&probe.bend[i])).max(0.0) * half * half / 2.0;
            *loss = slope.dot(&probe.slope[i]).abs() * half + bent;
        }
        let together = slope.dot(&probe.cross).abs() * cell.half[0] * cell.half[1] + probe.rest;
        // The tangent plane lies below the distance; so does a cone of slope 1.
        let low = here - (loss.iter().sum::<f64>() + together).min(probe.reach);
        // To first order the least of the cell is in this corner of it.
        let towards = [0, 1, 2].map(|i| -slope.dot(&probe.slope[i]).signum());
        Self { low, here, loss, together, towards, probe }
    }

    /// The coordinate that is worth halving.
    fn across(&self, cell: &Cell) -> usize {
        // What is left over grows with every coordinate, so its own length stands for a share of it.
        let share = if self.probe.reach > 0.0 { self.together / self.probe.reach } else { 0.0 };
        let weight = |i: usize| self.loss[i] + share * self.probe.slope[i].norm() * cell.half[i];
        [1, 2].into_iter().fold(0, |worst, i| if weight(i) > weight(worst) { i } else { worst })
    }
}

/// The least distance in `cell`, if it is below what is asked; `None` proves that it is not, to within the care asked.
pub(super) fn least(room: &Convex, span: &Span, turns: &[Turning], cell: Cell, ask: Ask) -> Option<Near> {
    let mut search = Search { room, span, turns, care: ask.care, ceiling: ask.beyond, best: None };
    let mut open: SmallVec<[Open; 24]> = SmallVec::new();
    let mut looked = 0;
    open.extend(search.look(cell));
    while let Some(Open { cell, low, across }) = open.pop() {
        if search.ceiling < ask.floor {
            break;
        }
        if low >= search.ceiling - tolerance(search.ceiling, ask.care) {
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
        let moved = search.turns.iter().zip(turns).rev();
        let away = moved.fold(room.distance(&at).1, |away, (turn, angle)| turn.way(away, -angle));
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
    care: f64,
    ceiling: f64,
    best: Option<(f64, [f64; 3])>,
}

impl Search<'_> {
    fn look(&mut self, cell: Cell) -> Option<Open> {
        let bound = Bound::of(self.room, self.span, self.turns, &cell);
        let low = bound.low;
        self.found(bound.here, cell.middle);
        let care = self.care;
        let open = |ceiling: f64| low < ceiling - tolerance(ceiling, care);
        if open(self.ceiling) {
            let corner = [0, 1, 2].map(|i| cell.middle[i] + bound.towards[i] * cell.half[i]);
            let at = place(self.span, self.turns, corner);
            self.found(self.room.distance(&at).0, corner);
        }
        open(self.ceiling).then(|| Open { cell, low, across: bound.across(&cell) })
    }

    fn found(&mut self, distance: f64, at: [f64; 3]) {
        if distance < self.ceiling {
            self.ceiling = distance;
            self.best = Some((distance, at));
        }
    }
}

/// A bound that no distance in `cell` is below, found in at most `looks` looks, or fewer where that is enough to tell
/// whether it is below `beyond`.
pub(super) fn at_least(room: &Convex, span: &Span, turns: &[Turning], cell: Cell, beyond: f64, looks: u32) -> f64 {
    let bound = Bound::of(room, span, turns, &cell);
    // What is within reach already cannot be ruled out by looking closer.
    if bound.low >= beyond || bound.here < beyond || looks < 3 {
        return bound.low;
    }
    let halves = cell.halves(bound.across(&cell));
    let mut least = f64::INFINITY;
    for half in halves {
        least = least.min(at_least(room, span, turns, half, beyond, (looks - 1) / 2));
        if least < beyond {
            return bound.low;
        }
    }
    least
}
