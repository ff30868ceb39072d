//! The piece of a run that may be cut last, measured in place.

use super::{Piece, PieceKind};
use crate::measure::End;

/// A piece that may be cut last.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ClosingPiece {
    /// Its place, from A.
    pub at: usize,
    /// The end of it that is sawn square at a joint and trimmed; `None` where both are welded.
    pub trim: Option<End>,
}

/// The straight piece that is best cut last among those that `may` be, by their places; `None` where there is none.
#[must_use]
pub fn closing_piece(pieces: &[Piece], may: impl Fn(usize) -> bool) -> Option<ClosingPiece> {
    let candidates =
        (0..pieces.len()).filter(|at| may(*at)).filter_map(|at| Some((candidate(pieces, at)?, pieces[at].centre)));
    // One with a free end is trimmed square, whatever its other end is; else the longest has most room.
    let best = candidates
        .max_by(|(p, long), (q, longer)| p.trim.is_some().cmp(&q.trim.is_some()).then(long.total_cmp(longer)));
    best.map(|(piece, _)| piece)
}

fn candidate(pieces: &[Piece], at: usize) -> Option<ClosingPiece> {
    let section = |at: usize| match pieces.get(at)?.kind {
        PieceKind::Tube { section, .. } | PieceKind::Elbow { section, .. } => Some(section),
        PieceKind::Pie { .. } => None,
    };
    let PieceKind::Tube { section: here, drawn: 0, .. } = pieces[at].kind else { return None };
    // At the pipe's ends, and where the next tube is of another section, nothing is welded to it.
    let free = |beside: Option<usize>| match beside.filter(|beside| *beside < pieces.len()) {
        None => true,
        Some(beside) => section(beside).is_some_and(|other| other != here),
    };
    let (at_a, at_b) = (free(at.checked_sub(1)), free(Some(at + 1)));
    let trim = if at_b { Some(End::B) } else { at_a.then_some(End::A) };
    Some(ClosingPiece { at, trim })
}
