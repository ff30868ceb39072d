//! What cannot be, or is close: where, by how much, against which limit, and the edits that would mend it.

mod across;
mod branched;
mod cut_otherwise;
mod finding;
mod held;
mod hose;
mod hot;
mod judge;
mod lack;
mod locks;
mod measuring;
mod mend;
mod near;
mod pairs;
mod place_mend;
mod placing;
mod plate;
mod remedy;
mod sawing;
mod supported;
mod words;

pub use across::{Across, GiveWay, OverGive, across, stiff_all_along};
pub(crate) use branched::{branched, let_in_at, way_in};
pub(crate) use cut_otherwise::cut_otherwise;
pub use finding::{Finding, FindingKind, Remedy, Severity};
pub(crate) use held::held_and_reached;
pub use held::{holding, parting_force};
pub(crate) use hose::hose;
pub(crate) use hot::hot_hoses;
pub use judge::{Assessment, assess, refused_kind};
pub use lack::stops;
pub(crate) use locks::{LOCK_HOLDS, locks_let_go};
pub(crate) use measuring::{job_names, measuring, not_in_place};
pub(crate) use mend::mend;
pub(crate) use near::{TooNear, too_near, unmeasured};
pub(crate) use placing::placing;
pub(crate) use plate::plates;
pub(crate) use remedy::{with_remedies, without_remedies};
pub(crate) use sawing::sawing;
pub(crate) use supported::{Holds, clear_of_seams, moved_in, supported};
pub use words::sway_words;
pub use words::{held_words, lock_words, part_words, unmeasured_words};

use crate::join::JointKind;
use crate::measure::{EndForm, NeckProblem};
use crate::route::{LayError, NoRoute};
use crate::stock::Material;

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
    /// Two bends are too close to weld, or for a bender to hold what is between.
    ShortStraight {
        /// Its length.
        length: f64,
        /// The limit.
        least: f64,
        /// Whether both are drawn, so that nothing is welded between.
        drawn: bool,
    },
    /// A hose has too little straight tube to sit on.
    ShortSeat {
        /// Straight tube there is.
        have: f64,
        /// Straight tube needed.
        need: f64,
        /// The joint at the end that is told of it.
        joint: JointKind,
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
    /// A bend too tight to be drawn: the tube kinks or its outside tears.
    TightBend {
        /// Its centre-line radius.
        radius: f64,
        /// The limit.
        least: f64,
        /// The radius below which the inside of the bend is none.
        none: f64,
        /// Whether it is a moulded elbow's; else drawn.
        moulded: bool,
    },
    /// The saw would have to be set beyond what saws do.
    SawTooFar {
        /// Setting in degrees.
        degrees: f64,
        /// The limit in degrees.
        most: f64,
    },
    /// A moulded elbow is pulled further from its angle than it gives.
    ElbowAngle {
        /// What the bend turns, in degrees.
        degrees: f64,
        /// The nearest that is sold.
        nearest: f64,
        /// How far it may be pulled, in degrees.
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
    /// A hose on a flange or a thread, or something to be welded onto what is no plain tube.
    HoseOnMetal {
        /// How the port ends.
        form: EndForm,
        /// How they are joined.
        joint: JointKind,
    },
    /// A port and a tube that are to be welded and do not fuse.
    TwoMetals {
        /// What the port is of.
        port: Material,
        /// What the tube is of.
        tube: Material,
    },
    /// What is left of a component's neck is too short for what sits on it.
    ShortNeck {
        /// What is left in mm.
        have: f64,
        /// What is needed in mm.
        need: f64,
        /// How they are joined.
        joint: JointKind,
    },
    /// More of a neck is sawn off than may be.
    NeckCutAway {
        /// What is left in mm.
        left: f64,
        /// What must stay in mm.
        must_stay: f64,
    },
    /// A bend is laid at another radius than the bought elbow it is made of has.
    ElbowRadius {
        /// The bend's in mm.
        radius: f64,
        /// The elbow's.
        elbow: f64,
    },
    /// A bend turns more than the bought elbow it is made of.
    ElbowTooSmall {
        /// The bend's angle in degrees.
        degrees: f64,
        /// The elbow's.
        elbow: f64,
    },
    /// A bend turns less than one of the bought pies it is made of.
    PieTooWide {
        /// The bend's angle in degrees.
        degrees: f64,
        /// The pie's.
        pie: f64,
    },
    /// An elbow is sawn in its arc, or thin tube is sawn: the end is no longer round.
    OutOfRound {
        /// Whether it is an elbow; else the tube is thin.
        elbow: bool,
    },
    /// Beads that no roller reaches once their pieces are welded or bent.
    BeadFirst {
        /// How many.
        count: usize,
        /// The least straight tube in mm that a roller would have then.
        straight: f64,
    },
    /// A bead on the leg of a bought elbow that no tool has room for.
    NoRoomForBead {
        /// The leg, in mm.
        straight: f64,
    },
    /// A piece is longer than the longest stick, and there is no place to splice it.
    NoPlaceForSplice {
        /// Length of stick it takes, in mm.
        takes: f64,
        /// How long the longest is, in mm.
        longest: f64,
    },
    /// A neck cannot be sawn as it is meant to be, where it was found to stand.
    NeckImpossible(NeckProblem),
    /// A mouth is the stub of another pipe, and that has no place.
    StubNotThere,
    /// A hose of silicone on what it must not carry, and why.
    UnfitHose {
        /// What it is.
        joint: JointKind,
        /// Why it must not.
        why: &'static str,
    },
    /// A joint is hotter than it bears.
    TooHot {
        /// What it is.
        joint: JointKind,
        /// How hot it gets, in degrees Celsius.
        celsius: f64,
        /// The limit.
        most: f64,
    },
    /// A joint is under more pressure than it bears.
    TooMuchPressure {
        /// What it is.
        joint: JointKind,
        /// Working pressure in bar.
        bar: f64,
        /// The limit.
        most: f64,
    },
    /// A joint that is made for exhausts on a pipe that is none.
    NotForThis {
        /// What it is.
        joint: JointKind,
    },
    /// A joint's part is made for tube of another size.
    PartSize {
        /// Its size.
        part: f64,
        /// The tube's.
        tube: f64,
    },
    /// A gap is shorter than what is to go into it.
    NarrowGap {
        /// The gap.
        gap: f64,
        /// The limit.
        least: f64,
    },
    /// A boosted hose bridges too wide a gap, or a bellows is longer than they are sold.
    WideGap {
        /// The gap.
        gap: f64,
        /// The limit.
        most: f64,
        /// What bridges it.
        joint: JointKind,
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
    /// What sort of finding it makes.
    #[must_use]
    pub const fn kind(&self) -> FindingKind {
        match self {
            Self::NoRoute(_) => FindingKind::NoRoute,
            Self::NoWayTaken => FindingKind::NoWayTaken,
            Self::DoesNotJoin(_) => FindingKind::DoesNotJoin,
            Self::NegativeStraight { .. } => FindingKind::NegativeStraight,
            Self::ShortStraight { .. } => FindingKind::ShortStraight,
            Self::ShortSeat { .. } => FindingKind::ShortSeat,
            Self::ShortRoom { .. } => FindingKind::ShortRoom,
            Self::ThinThroat { .. } => FindingKind::ThinThroat,
            Self::TightBend { .. } => FindingKind::TightBend,
            Self::SawTooFar { .. } => FindingKind::SawTooFar,
            Self::ElbowAngle { .. } => FindingKind::ElbowAngle,
            Self::SizesDiffer { .. } => FindingKind::SizesDiffer,
            Self::NeedlessReducer => FindingKind::NeedlessReducer,
            Self::HoseOnMetal { .. } => FindingKind::HoseOnMetal,
            Self::TwoMetals { .. } => FindingKind::TwoMetals,
            Self::ShortNeck { .. } => FindingKind::ShortNeck,
            Self::NeckCutAway { .. } => FindingKind::NeckCutAway,
            Self::ElbowRadius { .. } => FindingKind::ElbowRadius,
            Self::ElbowTooSmall { .. } => FindingKind::ElbowTooSmall,
            Self::PieTooWide { .. } => FindingKind::PieTooWide,
            Self::OutOfRound { .. } => FindingKind::OutOfRound,
            Self::NoPlaceForSplice { .. } => FindingKind::NoPlaceForSplice,
            Self::BeadFirst { .. } => FindingKind::BeadFirst,
            Self::NoRoomForBead { .. } => FindingKind::NoRoomForBead,
            Self::NeckImpossible(_) => FindingKind::NeckImpossible,
            Self::StubNotThere => FindingKind::StubNotThere,
            Self::UnfitHose { .. } => FindingKind::HoseUnfit,
            Self::TooHot { .. } => FindingKind::JointTooHot,
            Self::TooMuchPressure { .. } => FindingKind::JointPressure,
            Self::NotForThis { .. } => FindingKind::NotForThis,
            Self::PartSize { .. } => FindingKind::PartSize,
            Self::NarrowGap { .. } => FindingKind::NarrowGap,
            Self::WideGap { .. } => FindingKind::WideGap,
            Self::EndStep { .. } => FindingKind::EndStep,
        }
    }

    /// What was found and the limit it passes, in mm or degrees; `None` where it is not a matter of more or less.
    #[must_use]
    pub fn measured(&self) -> Option<[f64; 2]> {
        match *self {
            Self::NegativeStraight { length } => Some([length, 0.0]),
            Self::ShortStraight { length, least, .. } => Some([length, least]),
            Self::ShortSeat { have, need, .. } | Self::ShortRoom { have, need, .. } => Some([have, need]),
            Self::ThinThroat { throat, least, .. } => Some([throat, least]),
            Self::TightBend { radius, least, .. } => Some([radius, least]),
            Self::SawTooFar { degrees, most } => Some([degrees, most]),
            Self::ElbowRadius { radius, elbow } => Some([radius, elbow]),
            Self::ElbowTooSmall { degrees, elbow } => Some([degrees, elbow]),
            Self::PieTooWide { degrees, pie } => Some([degrees, pie]),
            Self::ElbowAngle { degrees, nearest, most } => Some([(degrees - nearest).abs(), most]),
            Self::SizesDiffer { port, tube, .. } => Some([(port - tube).abs(), crate::join::SizeMatch::GOOD]),
            Self::WideGap { gap, most, .. } => Some([gap, most]),
            Self::NarrowGap { gap, least } => Some([gap, least]),
            Self::NoPlaceForSplice { takes, longest } => Some([takes, longest]),
            Self::BeadFirst { straight, .. } => Some([straight, crate::assembly::ROLLER]),
            Self::NoRoomForBead { straight } => Some([straight, crate::assembly::CRIMPER]),
            Self::ShortNeck { have, need, .. } => Some([have, need]),
            Self::NeckCutAway { left, must_stay } => Some([left, must_stay]),
            Self::TooHot { celsius, most, .. } => Some([celsius, most]),
            Self::TooMuchPressure { bar, most, .. } => Some([bar, most]),
            Self::PartSize { part, tube } => Some([(part - tube).abs(), crate::join::SizeMatch::GOOD]),
            Self::EndStep { step, most } => Some([step, most]),
            Self::NoRoute(_)
            | Self::NoWayTaken
            | Self::DoesNotJoin(_)
            | Self::NeedlessReducer
            | Self::NotForThis { .. }
            | Self::UnfitHose { .. }
            | Self::NeckImpossible(_)
            | Self::StubNotThere
            | Self::OutOfRound { .. }
            | Self::TwoMetals { .. }
            | Self::HoseOnMetal { .. } => None,
        }
    }

    /// How bad it is.
    #[must_use]
    pub fn severity(&self) -> Severity {
        match self {
            Self::NoRoute(_)
            | Self::NoWayTaken
            | Self::DoesNotJoin(_)
            | Self::NegativeStraight { .. }
            | Self::SawTooFar { .. }
            | Self::ElbowAngle { .. }
            | Self::ElbowRadius { .. }
            | Self::ElbowTooSmall { .. }
            | Self::PieTooWide { .. }
            | Self::NeckCutAway { .. }
            | Self::NeckImpossible(_)
            | Self::StubNotThere
            | Self::TwoMetals { .. }
            | Self::TooHot { .. }
            | Self::TooMuchPressure { .. }
            | Self::NotForThis { .. }
            | Self::NarrowGap { .. }
            | Self::HoseOnMetal { .. } => Severity::Error,
            Self::ThinThroat { throat, .. } if *throat <= 0.0 => Severity::Error,
            Self::TightBend { radius, none, .. } if radius <= none => Severity::Error,
            Self::ShortRoom { overlap: true, .. } => Severity::Error,
            Self::SizesDiffer { port: one, tube, .. } | Self::PartSize { part: one, tube }
                if (one - tube).abs() > crate::join::SizeMatch::STRETCH =>
            {
                Severity::Error
            }
            Self::ShortStraight { .. }
            | Self::ShortSeat { .. }
            | Self::ShortNeck { .. }
            | Self::ShortRoom { .. }
            | Self::ThinThroat { .. }
            | Self::TightBend { .. }
            | Self::SizesDiffer { .. }
            | Self::PartSize { .. }
            | Self::UnfitHose { .. }
            | Self::NoPlaceForSplice { .. }
            | Self::NoRoomForBead { .. }
            | Self::WideGap { .. } => Severity::Warning,
            Self::BeadFirst { .. } | Self::EndStep { .. } | Self::NeedlessReducer | Self::OutOfRound { .. } => {
                Severity::Info
            }
        }
    }
}
