//! What cannot be, or is close: where, by how much, against which limit, and the edits that would mend it.

mod across;
mod hot;
mod judge;
mod lack;
mod locks;
mod measuring;
mod mend;
mod near;
mod remedy;
mod words;

pub use across::{Across, across};
pub(crate) use hot::hot_hoses;
pub use judge::{Assessment, assess};
pub use locks::lock_words;
pub(crate) use locks::{LOCK_HOLDS, locks_let_go};
pub(crate) use measuring::{job_names, measuring, not_in_place};
pub(crate) use mend::mend;
pub use near::unmeasured_words;
pub(crate) use near::{TooNear, too_near, unmeasured};
pub(crate) use remedy::{with_remedies, without_remedies};

use serde::Serialize;
use utoipa::ToSchema;

use crate::edit::Edit;
use crate::join::JointKind;
use crate::measure::{DatumId, End, EndForm, KeepOutId};
use crate::route::{JointId, LayError, NoRoute};
use nook_geometry::units::DualUnitText;

/// How bad a finding is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Severity {
    /// It cannot be built like this.
    Error,
    /// It can be built, but a limit is passed.
    Warning,
    /// Worth knowing.
    Info,
}

/// What a finding is about. Counts are from 0 at A.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(tag = "part", rename_all = "snake_case")]
pub enum Place {
    /// The whole run.
    Run,
    /// One end.
    End {
        /// Which.
        end: End,
    },
    /// One straight.
    Straight {
        /// Which.
        straight: usize,
    },
    /// One bend.
    Bend {
        /// Which.
        bend: usize,
    },
    /// A joint between the ends.
    Joint {
        /// Which.
        joint: JointId,
    },
    /// A datum point.
    Datum {
        /// Which.
        datum: DatumId,
    },
    /// A keep-out.
    KeepOut {
        /// Which.
        keep_out: KeepOutId,
    },
}

/// What is wrong, as data. Lengths in mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Problem {
    /// No way joins the ports.
    NoRoute(NoRoute),
    /// There are ways round and none is taken.
    NoWayTaken,
    /// The way taken does not join them.
    DoesNotJoin(LayError),
    /// Two bends overlap, or a bend overlaps a tube end.
    NegativeStraight {
        /// Its length, below zero.
        length: f64,
    },
    /// Two bends are too close to weld.
    ShortStraight {
        /// Its length.
        length: f64,
        /// The limit.
        least: f64,
    },
    /// A hose has too little straight tube to sit on.
    ShortSeat {
        /// Straight tube there is.
        have: f64,
        /// Straight tube needed.
        need: f64,
    },
    /// A straight has too little room for the joints on it.
    ShortRoom {
        /// Its length.
        have: f64,
        /// What its ends and joints need.
        need: f64,
        /// Whether that leaves no tube between two of them.
        overlap: bool,
    },
    /// Pies too thin on the inside of a bend.
    ThinThroat {
        /// Throat of a pie.
        throat: f64,
        /// The limit.
        least: f64,
        /// Seams the bend has.
        seams: u8,
    },
    /// The saw would have to be set beyond what saws do.
    SawTooFar {
        /// Setting in degrees.
        degrees: f64,
        /// The limit in degrees.
        most: f64,
    },
    /// Port and tube do not match.
    SizesDiffer {
        /// Outside diameter of the port.
        port: f64,
        /// Outside diameter of the tube.
        tube: f64,
        /// How they are joined.
        joint: JointKind,
    },
    /// A reducer where both sizes match.
    NeedlessReducer,
    /// A hose on a flange or a thread.
    HoseOnMetal {
        /// How the port ends.
        form: EndForm,
    },
    /// A boosted hose bridges too wide a gap.
    WideGap {
        /// The gap.
        gap: f64,
        /// The limit: half the bore.
        most: f64,
    },
    /// The step where square pie ends meet round tube.
    EndStep {
        /// How far the centre line steps out.
        step: f64,
        /// The limit: half the wall.
        most: f64,
    },
}

impl Problem {
    /// How bad it is.
    #[must_use]
    pub fn severity(&self) -> Severity {
        match self {
            Self::NoRoute(_)
            | Self::NoWayTaken
            | Self::DoesNotJoin(_)
            | Self::NegativeStraight { .. }
            | Self::SawTooFar { .. }
            | Self::HoseOnMetal { .. } => Severity::Error,
            Self::ThinThroat { throat, .. } if *throat <= 0.0 => Severity::Error,
            Self::ShortRoom { overlap: true, .. } => Severity::Error,
            Self::SizesDiffer { port, tube, .. } if (port - tube).abs() > crate::join::SizeMatch::STRETCH => {
                Severity::Error
            }
            Self::ShortStraight { .. }
            | Self::ShortSeat { .. }
            | Self::ShortRoom { .. }
            | Self::ThinThroat { .. }
            | Self::SizesDiffer { .. }
            | Self::WideGap { .. } => Severity::Warning,
            Self::EndStep { .. } | Self::NeedlessReducer => Severity::Info,
        }
    }
}

/// An edit that mends a finding, tried before it is offered.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Remedy {
    /// What it does, as a button says it.
    pub label: DualUnitText,
    /// The edit.
    pub edit: Edit,
}

/// A problem in its place, said in words, with what would mend it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Finding {
    /// How bad.
    pub severity: Severity,
    /// Where.
    pub place: Place,
    /// What, by how much and against which limit.
    pub words: DualUnitText,
    /// Edits that mend it.
    pub remedies: Vec<Remedy>,
}
