//! A finding as data: what kind, how bad, about what, how much against which limit, and what would mend it.

use serde::Serialize;
use utoipa::ToSchema;

use crate::edit::Edit;
use crate::environment::Thing;
use crate::part_ref::PartRef;
use crate::work_step::WorkStep;
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

/// What sort of finding it is. What decides by findings goes by this, never by their words.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum FindingKind {
    /// No way joins the ports.
    NoRoute,
    /// There are ways round and none is taken.
    NoWayTaken,
    /// The way taken does not join the ports.
    DoesNotJoin,
    /// Bends overlap.
    NegativeStraight,
    /// Two bends are too close to weld, or for a bender to hold what is between.
    ShortStraight,
    /// A hose has too little straight tube at an end.
    ShortSeat,
    /// A straight has too little room for the joints on it.
    ShortRoom,
    /// Pies too thin on the inside of a bend.
    ThinThroat,
    /// A bend too tight to be drawn.
    TightBend,
    /// Too little of a component's neck is left for what sits on it.
    ShortNeck,
    /// A neck is sawn into what must stay of it.
    NeckCutAway,
    /// A bend is laid at another radius than the elbow it is made of has.
    ElbowRadius,
    /// A bend turns more than the elbow it is made of.
    ElbowTooSmall,
    /// A bend turns less than one of the bought pies it is made of.
    PieTooWide,
    /// A sawn end is no longer round.
    OutOfRound,
    /// Cuts at an angle, and the job's saw is a wheel cutter.
    CutterCannotMitre,
    /// Tube so thin that a wheel cutter pinches it.
    CutterPinches,
    /// The saw's scale has no setting near enough.
    SettingBetween,
    /// Beads that no roller reaches once their pieces are welded or bent.
    BeadFirst,
    /// A bead that no tool has room for.
    NoRoomForBead,
    /// A piece is longer than the longest stick, and there is no place to splice it.
    NoPlaceForSplice,
    /// A neck cannot be sawn as it is meant to be.
    NeckImpossible,
    /// A mouth is the stub of another pipe, and that has no place.
    StubNotThere,
    /// The saw would have to be set beyond what saws do.
    SawTooFar,
    /// Port and tube do not match.
    SizesDiffer,
    /// A reducer where both sizes match.
    NeedlessReducer,
    /// A hose on a flange or a thread.
    HoseOnMetal,
    /// A boosted hose bridges too wide a gap.
    WideGap,
    /// The step where square pie ends meet round tube.
    EndStep,
    /// The pipe runs into something, or into itself.
    Fouls,
    /// It has less air than was asked.
    TooNear,
    /// The gap to something is not known.
    GapUnknown,
    /// A hose is too near to something hot.
    HoseNearHeat,
    /// It gives nowhere between engine and body.
    Stiff,
    /// A joint takes more than it gives.
    OverGive,
    /// A support ties a section to the other side than it rides on.
    Bracketed,
    /// The supports of one section are on both sides.
    HeldOnBothSides,
    /// A support lies over a seam, a bead or a hose, or too near to one.
    SupportOnSeam,
    /// A hole for a branch lies over a seam, a seat or a bend, or too near to one.
    BranchOnSeam,
    /// A branch is too wide for its tube where it is.
    BranchDoesNotSit,
    /// A branch in a pipe in which it does not do what it is for.
    BranchElsewhere,
    /// A temperature sensor in the wake of a bend, where the air stands.
    SensorInShadow,
    /// What goes into a branch has no room along its axis.
    NoWayIn,
    /// Air stays at a high of a coolant line.
    AirTrapped,
    /// A hose of stuff that what it carries spoils.
    HoseUnfit,
    /// A hose gets hotter than it bears.
    HoseTooHot,
    /// A hose is bent tighter than it bends, or than elbows are moulded.
    HoseBend,
    /// A bend has an angle that no moulded elbow has.
    ElbowAngle,
    /// A moulded elbow would be cut on its curve.
    CutOnCurve,
    /// Pieces of hose meet without an insert.
    NoInsert,
    /// A clock was set of a fitting that swivels.
    ClockNeedless,
    /// Corrugated hose costs more flow than it is worth.
    ChokesFlow,
    /// A drain by gravity does not fall all the way.
    DoesNotDrain,
    /// A drain by gravity is narrower than what it drains.
    DrainNarrow,
    /// A port and a tube that are to be welded and do not fuse.
    TwoMetals,
    /// What was measured of a bolt pattern makes no plate.
    NoPlate,
    /// A distance that was measured to check a bolt pattern does not agree with the rest.
    PlateCheck,
    /// A plate's bolt hole is too near to the tube that is welded into it.
    HoleInWeld,
    /// A mouth is only taken to be where its mirror image is.
    TakenAsTwin,
    /// A support stands too low for what is round the pipe.
    StandOffLow,
    /// Nothing is there to bolt a support to.
    NothingToHoldOn,
    /// What a support gives is less than how far the tube moves in it.
    SupportOverGive,
    /// A stretch between two holds rings.
    SpanRings,
    /// A tip or a mouth in the air: where and which way it is to look.
    OpenEnd,
    /// Whether spans ring cannot be told: nobody said how fast the engine turns, or what flows.
    SpanUnknown,
    /// A tube grows between two supports that do not let it.
    NoRoomToGrow,
    /// A section held from one direction only.
    HeldOneWay,
    /// Its sections swing about between their joints.
    HangsLoose,
    /// A joint gets hotter than it bears.
    JointTooHot,
    /// A joint is under more pressure than it bears.
    JointPressure,
    /// A joint that is not for what the pipe carries.
    NotForThis,
    /// A joint's part is for another size of tube.
    PartSize,
    /// A gap is too short for what goes into it.
    NarrowGap,
    /// No hand or tool gets to a joint's screw.
    NotReached,
    /// Pressure pushes a joint apart harder than it holds.
    PushedApart,
    /// A lock no longer holds.
    LockLetGo,
    /// Readings do not fix where something is or which way it points.
    NotFixed,
    /// Two answers fit the readings.
    TwoAnswers,
    /// Readings do not agree.
    ReadingsDisagree,
    /// A diameter that is easily taken for another.
    SizeMistaken,
    /// Something was not there when it was measured.
    NotInPlace,
    /// A piece was cut that is not as the pipe now wants it.
    CutOtherwise,
    /// Two things that should not meet do.
    ThingsFoul,
    /// Two things have less air between them than was asked.
    ThingsTooNear,
    /// Things that stand still to each other were measured nearer than is asked.
    ThingsAsMeasured,
    /// An opening shows less of a breathing face than is wished.
    FaceHidden,
    /// A breathing face lies beside the middle of its opening.
    OffCentre,
    /// A component hangs out of level.
    NotLevel,
    /// Air goes round between two cores.
    AirGoesRound,
    /// A hand has too little room.
    NoHandRoom,
    /// Something scrapes the ground.
    Scrapes,
    /// The mounts lift a component until it or its pipes come too near to something.
    LiftedByMounts,
    /// A component sways on its mounts.
    Sways,
    /// It is not known how a component is held.
    HoldUnknown,
    /// A bracket cannot be made, or meets something.
    BracketFouls,
    /// No bolt fits a blind boss.
    BoltInBoss,
}

impl FindingKind {
    /// The step at which it is told. Source: handbook, "Mistakes the product must foresee".
    #[must_use]
    pub const fn step(self) -> WorkStep {
        match self {
            Self::GapUnknown
            | Self::NotFixed
            | Self::TwoAnswers
            | Self::ReadingsDisagree
            | Self::SizeMistaken
            | Self::TakenAsTwin
            | Self::NotInPlace
            | Self::ThingsFoul
            | Self::ThingsTooNear
            | Self::ThingsAsMeasured
            | Self::FaceHidden
            | Self::OffCentre
            | Self::NotLevel
            | Self::AirGoesRound
            | Self::NoHandRoom
            | Self::Scrapes
            | Self::LiftedByMounts
            | Self::Sways
            | Self::HoldUnknown
            | Self::BracketFouls
            | Self::BoltInBoss
            | Self::StubNotThere => WorkStep::Measure,
            Self::NoRoute
            | Self::NoWayTaken
            | Self::DoesNotJoin
            | Self::NegativeStraight
            | Self::ShortStraight
            | Self::TightBend
            | Self::HoseBend
            | Self::ElbowAngle
            | Self::DoesNotDrain
            | Self::Fouls
            | Self::TooNear
            | Self::LockLetGo => WorkStep::Route,
            Self::ShortSeat
            | Self::ShortRoom
            | Self::SizesDiffer
            | Self::NeedlessReducer
            | Self::HoseOnMetal
            | Self::WideGap
            | Self::HoseNearHeat
            | Self::Stiff
            | Self::OverGive
            | Self::Bracketed
            | Self::HeldOnBothSides
            | Self::SupportOnSeam
            | Self::BranchOnSeam
            | Self::BranchDoesNotSit
            | Self::BranchElsewhere
            | Self::SensorInShadow
            | Self::NoWayIn
            | Self::AirTrapped
            | Self::TwoMetals
            | Self::NoPlate
            | Self::PlateCheck
            | Self::HoleInWeld
            | Self::HoseUnfit
            | Self::HoseTooHot
            | Self::CutOnCurve
            | Self::NoInsert
            | Self::ClockNeedless
            | Self::ChokesFlow
            | Self::DrainNarrow
            | Self::StandOffLow
            | Self::NothingToHoldOn
            | Self::SupportOverGive
            | Self::SpanRings
            | Self::OpenEnd
            | Self::SpanUnknown
            | Self::NoRoomToGrow
            | Self::HeldOneWay
            | Self::HangsLoose
            | Self::ShortNeck
            | Self::NeckCutAway
            | Self::NeckImpossible
            | Self::JointTooHot
            | Self::JointPressure
            | Self::NotForThis
            | Self::PartSize
            | Self::NarrowGap
            | Self::NotReached
            | Self::PushedApart => WorkStep::Join,
            Self::ThinThroat
            | Self::SawTooFar
            | Self::EndStep
            | Self::CutOtherwise
            | Self::ElbowRadius
            | Self::ElbowTooSmall
            | Self::PieTooWide
            | Self::NoPlaceForSplice
            | Self::BeadFirst
            | Self::CutterCannotMitre
            | Self::CutterPinches
            | Self::SettingBetween
            | Self::NoRoomForBead
            | Self::OutOfRound => WorkStep::Cut,
        }
    }
}

/// An edit that mends a finding, tried before it is offered.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Remedy {
    /// What it does, as a button says it.
    pub label: DualUnitText,
    /// The edit.
    #[schema(inline = false)]
    pub edit: Edit,
}

/// Something wrong in its place, said in words, with what would mend it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Finding {
    /// What sort.
    pub kind: FindingKind,
    /// The step it belongs to.
    pub step: WorkStep,
    /// How bad.
    pub severity: Severity,
    /// About what.
    pub part: PartRef,
    /// What that is too near to; nothing where it is not a matter of two things.
    pub against: Option<Thing>,
    /// What was found, in mm, degrees, Hz or as a share; nothing where it is not a matter of more or less.
    pub value: Option<f64>,
    /// The limit that passes, likewise.
    pub limit: Option<f64>,
    /// What, by how much and against which limit.
    pub words: DualUnitText,
    /// Edits that mend it.
    pub remedies: Vec<Remedy>,
}

impl Finding {
    /// Without a figure and with nothing that mends it.
    #[must_use]
    pub const fn new(kind: FindingKind, severity: Severity, part: PartRef, words: DualUnitText) -> Self {
        Self {
            kind,
            step: kind.step(),
            severity,
            part,
            against: None,
            value: None,
            limit: None,
            words,
            remedies: Vec::new(),
        }
    }

    /// With what was found and the limit it passes.
    #[must_use]
    pub const fn measured(mut self, value: f64, limit: f64) -> Self {
        (self.value, self.limit) = (Some(value), Some(limit));
        self
    }

    /// With what it is too near to.
    #[must_use]
    pub const fn against(mut self, thing: Thing) -> Self {
        self.against = Some(thing);
        self
    }

    /// With what mends it.
    #[must_use]
    pub fn mended_by(mut self, remedies: Vec<Remedy>) -> Self {
        self.remedies = remedies;
        self
    }
}
