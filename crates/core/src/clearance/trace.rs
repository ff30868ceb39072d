//! The gap all along a pipe, and the worst place of it against one thing.

use nalgebra::Point3;

use super::least::Ask;
use super::obstacle::{Against, Parts};
use super::{Movement, Nearest, Obstacle, Stretch};

/// Gaps beyond this, in mm, are not told apart, unless more is asked for: a hand fits.
pub const OF_INTEREST: f64 = 60.0;

/// Longest piece of a trace in mm: about the width of a fingertip on the rod.
const PIECE: f64 = 10.0;

/// A short piece of the pipe and the worst gap on it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TracePiece {
    /// Stations of its start and end from A's mouth in mm.
    pub stations: [f64; 2],
    /// Its middle on the centre line.
    pub middle: Point3<f64>,
    /// What is nearest to being too near; `None` where nothing is within [`OF_INTEREST`].
    pub worst: Option<TraceGap>,
}

/// The worst gap on a piece: that of which least is left beyond what the thing asks for.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TraceGap {
    /// Which obstacle, by its place among those given.
    pub obstacle: usize,
    /// The gap in mm.
    pub gap: f64,
    /// What the obstacle asks for, in mm.
    pub limit: f64,
}

/// The worst gap of every piece of `pipe`. `excused` says which obstacles a stretch need not keep from.
#[must_use]
pub fn trace(
    pipe: &[Stretch],
    obstacles: &[Obstacle],
    movement: Option<&Movement>,
    excused: impl Fn(&Stretch, usize) -> bool,
) -> Vec<TracePiece> {
    let mut all = Vec::new();
    for stretch in pipe.iter().filter(|stretch| stretch.span.length() > 1e-9) {
        let mut pieces = pieces_of(stretch);
        for (index, obstacle) in obstacles.iter().enumerate() {
            if !excused(stretch, index) {
                visit(&Against::new(obstacle, stretch, movement), index, None, &mut pieces);
            }
        }
        all.extend(pieces.into_iter().map(|piece| piece.told));
    }
    all
}

/// The worst place of `pipe` against one obstacle, if its gap is below `beyond` mm.
#[must_use]
pub fn nearest<'a>(
    pipe: impl IntoIterator<Item = &'a Stretch>,
    obstacle: &Obstacle,
    movement: Option<&Movement>,
    beyond: f64,
) -> Option<Nearest> {
    let mut best: Option<Nearest> = None;
    for stretch in pipe {
        let ceiling = best.map_or(beyond, |best| best.gap);
        let found = obstacle.gap_to(stretch, [0.0, stretch.span.length()], movement, ceiling);
        best = found.filter(|found| found.gap < ceiling).or(best);
    }
    best
}

struct Piece {
    range: [f64; 2],
    told: TracePiece,
}

impl Piece {
    /// How much is left beyond what is asked for, in mm.
    fn margin(&self) -> f64 {
        self.told.worst.map_or(f64::INFINITY, |worst| worst.gap - worst.limit)
    }
}

fn pieces_of(stretch: &Stretch) -> Vec<Piece> {
    let length = stretch.span.length();
    let mut count = 1.0;
    while length / count > PIECE {
        count += 1.0;
    }
    let mut pieces = Vec::new();
    let mut k = 0.0;
    while k < count {
        let range = [length * k / count, length * (k + 1.0) / count];
        let middle = stretch.span.at(f64::midpoint(range[0], range[1])).0;
        pieces.push(Piece {
            range,
            told: TracePiece { stations: range.map(|s| stretch.station(s)), middle, worst: None },
        });
        k += 1.0;
    }
    pieces
}

/// Works the gap to one obstacle into the pieces, leaving out what is certainly beyond interest, quarter by quarter.
fn visit(against: &Against<'_>, index: usize, among: Option<&Parts>, pieces: &mut [Piece]) {
    let (Some(first), Some(last)) = (pieces.first(), pieces.last()) else { return };
    let range = [first.range[0], last.range[1]];
    let limit = against.obstacle.gap;
    let worst = pieces.iter().map(Piece::margin).fold(f64::NEG_INFINITY, f64::max);
    let beyond = OF_INTEREST.max(limit).min(worst + limit);
    let alone = among.filter(|among| pieces.len() == 1 && among.len() == 1);
    let near = alone.cloned().unwrap_or_else(|| against.within_reach(range, beyond, among));
    if near.is_empty() {
        return;
    }
    if let [piece] = pieces {
        if let Some(found) = against.gap(&near, range, Ask::exactly(beyond)) {
            piece.told.worst = Some(TraceGap { obstacle: index, gap: found.gap, limit });
        }
        return;
    }
    for part in pieces.chunks_mut(pieces.len().div_ceil(4)) {
        visit(against, index, Some(&near), part);
    }
}
