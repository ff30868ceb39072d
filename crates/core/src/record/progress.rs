//! How far the work is, from the deeds so far.

use super::{Deed, Done, PieceCut};
use crate::cut::PieceId;
use crate::measure::RunId;

/// A piece that is cut.
#[derive(Debug, Clone, PartialEq)]
pub struct CutPiece {
    /// Of which run.
    pub run: RunId,
    /// Which.
    pub piece: PieceId,
    /// What it came to.
    pub as_cut: PieceCut,
}

/// How far the work is.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Progress {
    cut: Vec<CutPiece>,
}

impl Progress {
    /// After these deeds, in their order.
    pub fn after<'a>(deeds: impl IntoIterator<Item = &'a Deed>) -> Self {
        let mut cut: Vec<CutPiece> = Vec::new();
        for deed in deeds {
            match &deed.done {
                Done::Cut { run, piece, as_cut } => {
                    cut.retain(|one| (one.run, one.piece) != (*run, *piece));
                    cut.push(CutPiece { run: *run, piece: *piece, as_cut: as_cut.clone() });
                }
                Done::NotCut { run, piece } => cut.retain(|one| (one.run, one.piece) != (*run, *piece)),
            }
        }
        Self { cut }
    }

    /// Pieces of a run that are cut.
    pub fn cut_of(&self, run: RunId) -> impl Iterator<Item = &CutPiece> {
        self.cut.iter().filter(move |one| one.run == run)
    }

    /// Names of a run's pieces in their order: what is cut keeps what is written on it, and the others are numbered from A
    /// after `mark` with what no cut piece has.
    #[must_use]
    pub fn names(&self, run: RunId, mark: &str, pieces: &[PieceId]) -> Vec<String> {
        let taken: Vec<&str> = self.cut_of(run).map(|one| one.as_cut.name.as_str()).collect();
        let mut free = (1_u32..).map(|number| format!("{mark}{number}")).filter(|name| !taken.contains(&name.as_str()));
        let each = pieces.iter().map(|piece| {
            let cut = self.cut_of(run).find(|one| one.piece == *piece);
            cut.map_or_else(|| free.next().unwrap_or_default(), |one| one.as_cut.name.as_str().to_owned())
        });
        each.collect()
    }
}
