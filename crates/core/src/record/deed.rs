//! Deeds.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use super::{BenchAct, CheckDone, FitStep, PictureId, Signature, TestDone, Worked};
use crate::cut::PieceId;
use crate::measure::RunId;
use crate::prove::CheckId;
use crate::work_step::WorkStep;
use nook_geometry::units::Name;

/// Which deed: made by whoever did it, so that the same one may be sent twice without harm.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "String", into = "String")]
#[schema(value_type = String, min_length = 8, max_length = 64, pattern = "^[A-Za-z0-9-]{8,64}$")]
pub struct DeedId(String);

/// The text names no deed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
#[error("a deed is named by 8 to 64 letters, digits and hyphens")]
pub struct DeedIdError;

impl DeedId {
    /// The text.
    #[must_use]
    pub fn as_str(&self) -> &str {
        &self.0
    }
}

impl TryFrom<String> for DeedId {
    type Error = DeedIdError;
    fn try_from(text: String) -> Result<Self, DeedIdError> {
        let plain = text.bytes().all(|byte| byte.is_ascii_alphanumeric() || byte == b'-');
        if plain && (8..=64).contains(&text.len()) { Ok(Self(text)) } else { Err(DeedIdError) }
    }
}

impl From<DeedId> for String {
    fn from(id: DeedId) -> Self {
        id.0
    }
}

/// Something that was done, and by whom.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Deed {
    /// Which.
    pub id: DeedId,
    /// Who did it, as that device is named.
    pub by: Name,
    /// What.
    pub done: Done,
}

/// What was done.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "deed", rename_all = "snake_case", deny_unknown_fields)]
pub enum Done {
    /// A piece was cut and marked.
    Cut {
        /// Of which run.
        run: RunId,
        /// Which piece.
        piece: PieceId,
        /// What it came to.
        as_cut: PieceCut,
    },
    /// A piece is not cut after all: it was ticked by mistake, or spoilt.
    NotCut {
        /// Of which run.
        run: RunId,
        /// Which piece.
        piece: PieceId,
    },
    /// A piece was spoilt in cutting: it is still to be cut, and what was sawn is scrap.
    Spoilt {
        /// Of which run.
        run: RunId,
        /// Which piece.
        piece: PieceId,
    },
    /// Something else is done at the bench.
    Did {
        /// On which run.
        run: RunId,
        /// What.
        what: BenchAct,
    },
    /// It is not done after all.
    DidNot {
        /// On which run.
        run: RunId,
        /// What.
        what: BenchAct,
    },
    /// Something was measured of a run's pipe as it is built, or done to mend it.
    Fit {
        /// Of which run.
        run: RunId,
        /// What.
        step: FitStep,
    },
    /// The gas bottle was read.
    Bottle {
        /// While which run was welded.
        run: RunId,
        /// What its gauge showed, in bar.
        bar: f64,
    },
    /// A pipe was tested.
    Tested {
        /// Of which run.
        run: RunId,
        /// How, and what its gauge showed.
        test: TestDone,
    },
    /// Something was checked.
    Checked {
        /// Of which run.
        run: RunId,
        /// What, and how it is.
        answer: CheckDone,
    },
    /// It was not checked after all.
    NotChecked {
        /// Of which run.
        run: RunId,
        /// What.
        item: CheckId,
    },
    /// A run is signed off.
    Signed {
        /// Which.
        run: RunId,
        /// As what.
        signature: Signature,
    },
    /// A picture was taken.
    Pictured {
        /// Of which run.
        run: RunId,
        /// At which step.
        step: WorkStep,
        /// Which.
        picture: PictureId,
        /// What it shows.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        note: Option<Name>,
    },
    /// Somebody worked on a run.
    Worked {
        /// Which.
        run: RunId,
        /// On what, and how long.
        worked: Worked,
    },
    /// The last time that was noted of a step was not so.
    NotWorked {
        /// Of which run.
        run: RunId,
        /// Of which step.
        step: WorkStep,
    },
    /// That was not so.
    NotFit {
        /// Of which run.
        run: RunId,
        /// The deed that noted it.
        was: DeedId,
    },
}

/// A piece as it was cut: what is written on it, and what its list said.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PieceCut {
    /// What is written on it.
    pub name: Name,
    /// How it was cut.
    pub size: PieceSize,
}

/// How a piece is cut: lengths in mm, angles in degrees.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PieceSize {
    /// Length on the centre line.
    pub centre: f64,
    /// Length along its longest line.
    pub longest: f64,
    /// Saw setting of its two faces, the one towards A first.
    #[schema(min_items = 2, max_items = 2)]
    pub saws: [f64; 2],
}

impl Deed {
    /// Version of the document. Version 1 had only pieces cut or not, version 2 nothing of how a pipe fits, version 3
    /// nothing of welds, tests and signatures.
    pub const VERSION: u32 = 4;

    /// Whether every figure is a number a pipe can have.
    #[must_use]
    pub fn is_sound(&self) -> bool {
        match &self.done {
            Done::Cut { as_cut: PieceCut { size: PieceSize { centre, longest, saws }, .. }, .. } => {
                [centre, longest].iter().all(|mm| (0.0..=50_000.0).contains(*mm))
                    && saws.iter().all(|saw| (0.0..90.0).contains(saw))
            }
            Done::Fit { step, .. } => step.is_sound(),
            Done::Bottle { bar, .. } => (0.0..=400.0).contains(bar),
            Done::Tested { test, .. } => test.is_sound(),
            Done::Worked { worked, .. } => worked.is_sound(),
            Done::Checked { answer, .. } => answer.reading.is_none_or(|read| (0.0..=10_000.0).contains(&read)),
            Done::NotCut { .. }
            | Done::Spoilt { .. }
            | Done::Did { .. }
            | Done::DidNot { .. }
            | Done::NotChecked { .. }
            | Done::NotWorked { .. }
            | Done::Pictured { .. }
            | Done::Signed { .. }
            | Done::NotFit { .. } => true,
        }
    }
}
