//! The gap all along a pipe, and the worst place of it against one thing.

use nalgebra::Point3;

use super::itself::all_near_itself;
use super::least::Ask;
use super::obstacle::{Against, Parts};
use super::{Counted, EnvelopePart, Movement, Nearest, Obstacle};

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
    /// Which obstacle, by its place among those given; `None` where it is the pipe itself.
    pub obstacle: Option<usize>,
    /// The gap in mm.
    pub gap: f64,
    /// What is asked for, in mm.
    pub limit: f64,
}

impl TraceGap {
    /// How much is left beyond what is asked for, in mm.
    fn margin(&self) -> f64 {
        self.gap - self.limit
    }
}

/// The worst gap of every piece of a pipe, what stands out over it included. `itself` is the gap in mm it keeps from
/// itself.
#[must_use]
pub fn trace(pipe: &Counted<'_>, obstacles: &[Obstacle], movement: Option<&Movement>, itself: f64) -> Vec<TracePiece> {
    let envelope = pipe.envelope();
    let mut all = along(envelope.tube(), pipe, obstacles, movement);
    for piece in along(envelope.over(), pipe, obstacles, movement) {
        let Some(worst) = piece.worst else { continue };
        merge(&mut all, piece.stations, worst);
    }
    for near in all_near_itself(envelope, OF_INTEREST.max(itself)) {
        let worst = TraceGap { obstacle: None, gap: near.gap, limit: itself };
        near.stations.into_iter().for_each(|station| merge(&mut all, [station; 2], worst));
    }
    all
}

/// Works a gap into the pieces that lie at some stations.
fn merge(pieces: &mut [TracePiece], [from, to]: [f64; 2], worst: TraceGap) {
    for piece in pieces.iter_mut().filter(|piece| piece.stations[0] <= to && piece.stations[1] >= from) {
        if piece.worst.is_none_or(|now| worst.margin() < now.margin()) {
            piece.worst = Some(worst);
        }
    }
}

fn along(
    stretches: &[EnvelopePart],
    pipe: &Counted<'_>,
    obstacles: &[Obstacle],
    movement: Option<&Movement>,
) -> Vec<TracePiece> {
    let mut all = Vec::new();
    for stretch in stretches.iter().filter(|stretch| stretch.span.length() > 1e-9) {
        let mut pieces = pieces_of(stretch);
        for (index, obstacle) in obstacles.iter().enumerate() {
            // What is bolted to it may be as near as it likes, but not in it.
            if pipe.is_bolted(index, stretch) && nearest([stretch], obstacle, movement, 0.0).is_none() {
                continue;
            }
            let Some(limits) = pipe.limits(index) else {
                visit(&Against::new(obstacle, stretch, movement), index, None, &mut pieces, 0.0);
                continue;
            };
            let Some(part) = stretch.between(limits) else { continue };
            let whole = stretch.stations[1] - stretch.stations[0];
            let before = if whole > 0.0 { (part.stations[0] - stretch.stations[0]) / whole } else { 0.0 };
            let against = Against::new(obstacle, &part, movement);
            visit(&against, index, None, &mut pieces, before * stretch.span.length());
        }
        all.extend(pieces.into_iter().map(|piece| piece.told));
    }
    all
}

/// The worst place of `pipe` against one obstacle, if its gap is below `beyond` mm.
#[must_use]
pub fn nearest<'a>(
    pipe: impl IntoIterator<Item = &'a EnvelopePart>,
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
        self.told.worst.map_or(f64::INFINITY, |worst| worst.margin())
    }
}

fn pieces_of(stretch: &EnvelopePart) -> Vec<Piece> {
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

/// Works the gap to one obstacle into the pieces, leaving out what is certainly beyond interest, quarter by quarter. The
/// stretch held against it begins `before` mm along that of the pieces.
fn visit(against: &Against<'_>, index: usize, among: Option<&Parts>, pieces: &mut [Piece], before: f64) {
    let (Some(first), Some(last)) = (pieces.first(), pieces.last()) else { return };
    let range = [(first.range[0] - before).max(0.0), (last.range[1] - before).min(against.stretch.span.length())];
    if range[1] <= range[0] {
        return;
    }
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
            piece.told.worst = Some(TraceGap { obstacle: Some(index), gap: found.gap, limit });
        }
        return;
    }
    for part in pieces.chunks_mut(pieces.len().div_ceil(4)) {
        visit(against, index, Some(&near), part, before);
    }
}
