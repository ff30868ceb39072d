//! Beads to roll, beside the cut list.

use serde::Serialize;
use utoipa::ToSchema;

use super::cutting::PieceWorkup;
use crate::assembly::{Assembly, BeadWhen, bead_height};
use crate::join::BEAD_FROM_END;
use crate::measure::End;
use crate::route::ResolvedRun;
use nook_geometry::units::{DualUnitText, Measure};

/// A bead that a hose wants on a piece.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BeadWorkup {
    /// What is written on the piece.
    pub piece: String,
    /// At its end towards which end of the pipe.
    pub end: End,
    /// Its middle, from the tube's end.
    pub from_end: Measure,
    /// How high it stands.
    pub height: Measure,
    /// Whether it must be rolled before the piece is welded or bent, or no roller fits at all.
    pub first: bool,
    /// When it is rolled, and why then.
    pub words: DualUnitText,
}

impl BeadWorkup {
    /// The beads of a pipe made of these pieces, from A.
    pub(super) fn all(run: &ResolvedRun, pipe: &Assembly, pieces: &[PieceWorkup]) -> Vec<Self> {
        if run.hose.is_some() {
            return Vec::new();
        }
        let sections = pipe.sections();
        let each = pipe.beads().into_iter().filter_map(|bead| {
            let [from, to] = sections[bead.section].map(|station| station - pipe.begin());
            let inside = |piece: &&PieceWorkup| piece.from.mm() >= from - 1e-6 && piece.to.mm() <= to + 1e-6;
            let mut mine = pieces.iter().filter(inside);
            let piece = if bead.end == End::A { mine.next() } else { mine.next_back() }?;
            Some(Self {
                piece: piece.name.clone(),
                end: bead.end,
                from_end: Measure(BEAD_FROM_END),
                height: Measure(bead_height(run.tube.od())),
                first: bead.when != BeadWhen::Whenever,
                words: words(bead.when, bead.straight),
            })
        });
        each.collect()
    }
}

fn words(when: BeadWhen, straight: Option<f64>) -> DualUnitText {
    let straight = straight.unwrap_or(0.0);
    DualUnitText::new(|unit| {
        let straight = unit.text(straight);
        match when {
            BeadWhen::Whenever => "Before or after it is welded: the roller has room.".to_owned(),
            BeadWhen::BeforeWelding => {
                format!("Before it is welded: then {straight} of straight is left, and the roller does not fit.")
            }
            BeadWhen::BeforeBending => {
                format!("Before it is bent: then {straight} of straight is left, and the roller does not fit.")
            }
            BeadWhen::Crimped => {
                format!("With a hand crimper: the elbow's leg is {straight}, too short for the roller.")
            }
            BeadWhen::NoRoom => format!("No tool fits: the elbow's leg is {straight}. Take one with a longer leg."),
        }
    })
}
