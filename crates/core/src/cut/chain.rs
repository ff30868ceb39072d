//! Pieces of one run that are sawn one after the other from one stick.

use std::ops::Range;

use super::{Piece, cut_plan};

/// Pieces of a run that are sawn one after the other from one stick, neighbours sharing their cuts.
#[derive(Debug, Clone, PartialEq)]
pub struct Chain {
    /// Places of its pieces among the run's.
    pub pieces: Range<usize>,
    /// Length of stick it takes in mm, wedges and the cuts within it counted in; one more cut parts it from what follows.
    pub takes: f64,
}

impl Chain {
    /// The chain of some of a run's pieces, of tube of `od` mm, sawn with a kerf of so many mm; `None` where one cannot be cut at all.
    #[must_use]
    pub fn of(all: &[Piece], pieces: Range<usize>, od: f64, kerf: f64) -> Option<Self> {
        let plan = cut_plan(all.get(pieces.clone())?, od, kerf)?;
        Some(Self { takes: plan.stock_used - kerf, pieces })
    }

    /// Some of a run's pieces in chains, parted wherever two square faces meet: there it costs nothing. `None` as above.
    #[must_use]
    pub fn all(all: &[Piece], pieces: Range<usize>, od: f64, kerf: f64) -> Option<Vec<Self>> {
        let mut chains = Vec::new();
        let mut begin = pieces.start;
        for at in pieces.clone() {
            let parts = at + 1 == pieces.end || (all[at].to.saw <= 0.0 && all[at + 1].from.saw <= 0.0);
            if parts {
                chains.push(Self::of(all, begin..at + 1, od, kerf)?);
                begin = at + 1;
            }
        }
        Some(chains)
    }

    /// The two it becomes where it is parted before the run's piece `at`, which must lie within it; `None` as above.
    #[must_use]
    pub fn parted(&self, all: &[Piece], at: usize, od: f64, kerf: f64) -> Option<[Self; 2]> {
        let Range { start, end } = self.pieces.clone();
        (start < at && at < end).then_some(())?;
        Some([Self::of(all, start..at, od, kerf)?, Self::of(all, at..end, od, kerf)?])
    }
}
