//! What is told of how a run's pipe fits.

use serde::Serialize;
use utoipa::ToSchema;

use super::fit_built::BuiltWorkup;
use crate::cut::PieceId;
use crate::edit::Edit;
use crate::measure::RunId;
use crate::record::{FitAct, FitReading};
use crate::route::BendId;
use nook_geometry::units::{DualUnitText, Measure};

/// How a run's pipe fits.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitWorkup {
    /// Which run.
    pub run: RunId,
    /// Why nothing is told; nothing where something is.
    pub none: Option<DualUnitText>,
    /// Its pieces from A: names, whether they are cut, and whether they are tacked to the next.
    pub pieces: Vec<FitPiece>,
    /// Its bends that have a gauge put to them.
    pub bends: Vec<FitBend>,
    /// What was measured and done, in order.
    pub steps: Vec<FitStepWorkup>,
    /// How its end at B lies beside the mouth, as far as is known, the pipe put on at A: up, aside and along; empty before anything was
    /// measured.
    pub off: Vec<FitOff>,
    /// The chance that it lands as it is, from 0 to 1.
    pub chance: f64,
    /// Whether that is likely enough to weld it, nothing that was read stands against the rest, and it meets nothing that its plan keeps
    /// from.
    pub likely: bool,
    /// The pipe as it was built, as far as is known; nothing before anything was measured or done.
    pub built: Option<BuiltWorkup>,
    /// Mistakes that would each explain what was read, the likeliest first; none where it is what a bench makes.
    pub suspects: Vec<DualUnitText>,
    /// What was read that makes a bad weld, or does not say what it is taken to.
    pub warnings: Vec<DualUnitText>,
    /// What would make it land, the cheapest first, then other ways in kind.
    pub corrections: Vec<CorrectionWorkup>,
    /// What is expected of every reading that is usually taken.
    #[schema(inline = false)]
    pub expected: Vec<FitReading>,
    /// What is best measured next; nothing where it would hardly help.
    pub next: Option<NextReading>,
}

/// A piece of the pipe.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitPiece {
    /// Which.
    pub piece: PieceId,
    /// What is written on it.
    pub name: String,
    /// Whether it is cut.
    pub cut: bool,
    /// Whether it is tacked to the next piece towards B.
    pub tacked: bool,
    /// Whether there is a seam after it at all.
    pub seam: bool,
}

/// A bend of the pipe.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitBend {
    /// Which.
    pub bend: BendId,
    /// Its place, from 1 at A.
    pub number: usize,
    /// The angle it should turn, in degrees.
    pub degrees: f64,
}

/// Something measured or done.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitStepWorkup {
    /// The deed that noted it.
    pub deed: String,
    /// What.
    pub words: DualUnitText,
    /// Whether it was done, not measured.
    pub done: bool,
    /// What was expected by all that was known before it, where it was measured.
    pub expected: Option<DualUnitText>,
    /// Whether it stands against what was known before it, and was not read again since and came out so: one of the two is wrong.
    pub disagrees: bool,
    /// Whether the pipe has no such place any more, so that it does not count.
    pub lost: bool,
}

/// How the end lies beside its mouth, one way.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitOff {
    /// How: low or high, left or right, long or short.
    pub how: &'static str,
    /// By how much; never less than nothing.
    pub by: Measure,
    /// One standard deviation of that.
    pub spread: Measure,
}

/// Acts that would make it land.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CorrectionWorkup {
    /// What sort of way it is.
    pub way: String,
    /// The edit that decides on another joint first, where it is one by that.
    pub edit: Option<Edit>,
    /// Its acts, in the order they are done.
    pub acts: Vec<FitActWorkup>,
    /// Minutes it takes.
    pub minutes: f64,
    /// Tacks that are broken.
    pub broken: u32,
    /// The chance that it lands then.
    pub chance: f64,
    /// The largest share that a joint takes then, as far as is known.
    pub share: f64,
}

/// One act.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FitActWorkup {
    /// As it is noted once it is done.
    #[schema(inline = false)]
    pub act: FitAct,
    /// As a mark on metal.
    pub words: DualUnitText,
}

/// The reading that would help most.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct NextReading {
    /// What to measure.
    pub words: DualUnitText,
    /// To how much of what it is now that brings what is not known, as a share.
    pub left: f64,
    /// The reading, its figure still to be read.
    #[schema(inline = false)]
    pub reading: FitReading,
}

impl FitWorkup {
    pub(super) fn none(run: RunId, why: &str) -> Self {
        Self {
            run,
            none: Some(DualUnitText::same(why.to_owned())),
            pieces: Vec::new(),
            bends: Vec::new(),
            steps: Vec::new(),
            off: Vec::new(),
            chance: 0.0,
            likely: false,
            built: None,
            suspects: Vec::new(),
            warnings: Vec::new(),
            corrections: Vec::new(),
            expected: Vec::new(),
            next: None,
        }
    }
}
