//! Pieces that are cut already and are not as the pipe now wants them.

use super::words::{cut_gone, cut_longer, cut_slanted};
use super::{Finding, FindingKind, Severity};
use crate::cut::PieceId;
use crate::measure::RunId;
use crate::part_ref::PartRef;
use crate::record::{PieceCut, PieceSize, Progress};

/// Lengths that differ by less, in mm, are one: what a saw and a file leave.
const SAME_LENGTH: f64 = 0.5;
/// Saw settings that differ by less, in degrees, are one.
const SAME_SAW: f64 = 0.1;

/// A finding for every cut piece of a run that has no use as it is, its pieces now being `pieces`. Where the pipe cannot be sawn at all
/// nothing is told: that is told already.
pub(crate) fn cut_otherwise(run: RunId, pieces: &[(PieceId, PieceSize)], progress: &Progress) -> Vec<Finding> {
    if pieces.is_empty() {
        return Vec::new();
    }
    progress.cut_of(run).filter_map(|(piece, cut)| differs(run, piece, cut, pieces)).collect()
}

fn differs(run: RunId, piece: PieceId, cut: &PieceCut, pieces: &[(PieceId, PieceSize)]) -> Option<Finding> {
    let (was, name) = (&cut.size, cut.name.as_str());
    let part = PartRef::Piece { run, piece };
    let finding = |words| Finding::new(FindingKind::CutOtherwise, Severity::Warning, part, words);
    let Some((_, now)) = pieces.iter().find(|(one, _)| *one == piece) else {
        return Some(finding(cut_gone(name)));
    };
    if (now.centre - was.centre).abs() > SAME_LENGTH || (now.longest - was.longest).abs() > SAME_LENGTH {
        let words = cut_longer(name, was.centre, now.centre);
        return Some(finding(words).measured(was.centre, now.centre));
    }
    let off = was.saws.iter().zip(now.saws).find(|(cut, wanted)| (*cut - wanted).abs() > SAME_SAW);
    off.map(|(cut, wanted)| finding(cut_slanted(name, *cut, wanted)).measured(*cut, wanted))
}
