//! What is cut keeps what is written on it, and no two pieces of a pipe are called the same.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use std::collections::HashSet;

use nook_core::RunId;
use nook_core::cut::PieceId;
use nook_core::record::{Deed, Done, PieceCut, PieceSize, Progress};
use nook_core::route::{BendId, LegId};
use nook_geometry::units::Name;
use proptest::prelude::*;

const RUN: RunId = RunId(1);

fn piece(number: u32) -> PieceId {
    let leg = number.checked_sub(1).map_or(LegId::FROM_A, |bend| LegId::after(BendId(bend + 3)));
    PieceId::Tube { leg, after: None, spliced: 0 }
}

fn deed(index: usize, done: Done) -> Deed {
    let id = format!("deed-{index:08}").try_into().unwrap();
    Deed { id, by: Name::new("bench").unwrap(), done }
}

proptest! {
    /// Pieces are cut under the names they have at the time, spoilt, and put in and taken out between, in any order.
    #[test]
    fn names_stay_on_what_is_cut_and_are_never_given_twice(
        acts in prop::collection::vec((0..12_u32, any::<bool>(), 1..13_u32), 0..60),
    ) {
        let size = PieceSize { centre: 100.0, longest: 110.0, saws: [0.0, 5.0] };
        let mut deeds: Vec<Deed> = Vec::new();
        let mut written: Vec<(PieceId, String)> = Vec::new();
        for (which, cut, count) in acts {
            let there: Vec<PieceId> = (0..count).map(piece).collect();
            let names = Progress::after(&deeds).names(RUN, "HS", &there);
            prop_assert_eq!(names.iter().collect::<HashSet<_>>().len(), names.len(), "{:?}", names);
            for (piece, name) in there.iter().zip(&names) {
                if let Some((_, mark)) = written.iter().find(|(one, _)| one == piece) {
                    prop_assert_eq!(mark, name);
                }
            }
            let Some(name) = names.get(which as usize) else { continue };
            let piece = piece(which);
            written.retain(|(one, _)| *one != piece);
            let done = if cut {
                written.push((piece, name.clone()));
                Done::Cut { run: RUN, piece, as_cut: PieceCut { name: Name::new(name).unwrap(), size } }
            } else {
                Done::NotCut { run: RUN, piece }
            };
            deeds.push(deed(deeds.len(), done));
        }
        let progress = Progress::after(&deeds);
        prop_assert_eq!(progress.cut_of(RUN).count(), written.len());
        prop_assert_eq!(progress.cut_of(RunId(2)).count(), 0);
    }
}
