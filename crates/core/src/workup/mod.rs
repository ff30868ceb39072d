//! Everything that follows from a job for one run. Worked out in microseconds, never stored.

mod assemble;
mod bay;
mod bead;
mod bend;
mod branch;
mod card;
mod clearance;
mod clock_check;
mod closing;
mod component;
mod cutting;
mod end;
mod estimate;
mod fit;
mod fit_built;
mod fit_known;
mod fit_of;
mod fit_warnings;
mod fit_words;
mod flow;
mod gap;
mod glance;
mod help;
mod hose;
mod instruments;
mod jig;
mod joint;
mod joint_figures;
mod json;
mod landing;
mod neck;
mod once_sawn;
mod pipe;
mod placing;
mod plate;
mod prove;
mod prove_of;
mod section;
mod setting_out;
mod size;
mod stick_card;
mod stock_elbow;
mod support;
mod surroundings;
mod tab;
mod to_saw;
mod truing;
mod twins;
mod weld;
mod weld_of;
mod weld_words;

pub use assemble::{Given, workup, workup_among, workup_given, workup_of_drag};
pub use bay::{BayGiven, BayWorkup, DatumWorkup, KeepOutWorkup, MountsWorkup, PortWorkup, ScanWorkup, bay, bay_given};
pub use bead::BeadWorkup;
pub use bend::{BendWorkup, LraRow, PiesWorkup, RodSide};
pub use branch::{BoreExtremeWorkup, BranchMark, BranchMouth, BranchWorkup};
pub use card::{CardFigure, CardPicture, CardWorkup, DeckWorkup, deck};
pub use clearance::{ClearancePiece, ClearanceState, ClearanceThing, ClearanceWorkup, NearLine};
pub use clock_check::ClockCheck;
pub use closing::{ClosingCause, ClosingWorkup};
pub use component::{ComponentWorkup, FreedomWorkup};
pub use cutting::{CutRow, CuttingWorkup, LineWorkup, MeetingRow, PieceWorkup, SolidWorkup, Turn, TurnWay};
pub use end::EndWorkup;
pub use estimate::{CheckedBy, EstimateWorkup, EstimatedBy, ReadingWorkup};
pub use fit::{CorrectionWorkup, FitActWorkup, FitBend, FitOff, FitPiece, FitStepWorkup, FitWorkup, NextReading};
pub use fit_built::{BuiltNear, BuiltPiece, BuiltWorkup};
pub use fit_of::fit;
pub use flow::{Figure, FlowWorkup, SizeBeside};
pub use gap::{GapError, GapWorkup, gap_between};
pub use glance::{RunGlance, glances};
pub use help::HelpWorkup;
pub use hose::{FittingWorkup, HoseLengthWorkup, HosePieceWorkup, HoseWorkup, InsertsWorkup};
pub use instruments::InstrumentsWorkup;
pub use jig::{JigCheck, JigPost, JigWorkup, jig};
pub use joint::{ElbowWorkup, JointWorkup};
pub use joint_figures::{GiveTaken, JointFigures, KindOffer, ScrewWorkup};
pub use json::{ToJson, as_json};
pub use landing::{LandingCause, LandingRemedy, LandingWorkup, landing};
pub use neck::{MitreWorkup, NeckWorkup};
pub use once_sawn::{LEAST_ARC, LEAST_OFFCUT, OnceSawn};
pub use pipe::{PipeRides, PipeWorkup};
pub use placing::{
    BoltWorkup, BracketWorkup, CoreWorkup, FlatBendWorkup, GroundWorkup, HandWorkup, HoleWorkup, MountWorkup,
    PlacingWorkup, ShownWorkup, SwayWorkup,
};
pub use plate::PlateWorkup;
pub use prove::{CheckWorkup, ProveWorkup, SignWorkup, SoapWorkup, TestResult, TestWorkup, UnderTest};
pub use prove_of::{prove, under_test};
pub use section::{SectionTurn, SectionWorkup};
pub use setting_out::{READ, SetBy, SetKind, SetPoint, SetReading, SettingOut, setting_out};
pub use size::SizeWorkup;
pub use stick_card::{StickDeck, stick_deck};
pub use stock_elbow::{StockElbowWorkup, TrimWorkup};
pub use support::{FootWorkup, SpanWorkup, SupportWorkup};
pub use surroundings::{OpeningWorkup, PairLine, StanceWorkup};
pub use tab::TabWorkup;
pub use to_saw::{ChainJoin, ChainWorkup, ElbowToSaw, KitToUse, StickPlan, ToSaw, last_cut, to_saw};
pub use truing::{TrueWay, TruingOffer, TruingWorkup, truing};
pub use twins::{TwinCheck, twin_check};
pub use weld::{
    CounterPie, GasWorkup, PurgeWorkup, SeamWorkup, TurnerWorkup, WeldSectionWorkup, WeldWarning, WeldWarningKind,
    WeldWorkup,
};
pub use weld_of::weld;

use serde::Serialize;
use utoipa::ToSchema;

use crate::assembly::Over;
use crate::findings::Finding;
use crate::labour::StepMinutes;
use crate::measure::RunId;
use crate::route::{LegId, Lock, Run};
use crate::stock::Duty;
use nook_geometry::Triple;
use nook_geometry::units::{DualUnitText, Measure};

/// Everything that follows from a job for one run. Counts are from 0 at A, angles in degrees.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Workup {
    /// Which run.
    pub run: RunId,
    /// Its name.
    pub name: String,
    /// What it carries.
    pub duty: Duty,
    /// The letters its pieces are marked with.
    pub mark: String,
    /// The decisions all this follows from.
    #[schema(inline = false)]
    pub decisions: Run,
    /// Outside diameter of the tube.
    pub od: Measure,
    /// Its wall.
    pub wall: Measure,
    /// Radius of bends that have none of their own.
    pub radius: Measure,
    /// The longest stick of its tube that is to be had; nothing where there is one for every piece.
    pub longest: Option<Measure>,
    /// Stations along the tube's centre line of the welds where longer pieces are spliced, from A.
    pub splices: Vec<Measure>,
    /// Working pressure in bar.
    pub bar: f64,
    /// A and B.
    #[schema(min_items = 2, max_items = 2)]
    pub ends: [EndWorkup; 2],
    /// Straights of tube from A to B; empty where the way does not join the ports.
    pub straights: Vec<StraightWorkup>,
    /// Bends from A to B.
    pub bends: Vec<BendWorkup>,
    /// The length-rotation-angle table, for a bender.
    pub lra: Vec<LraRow>,
    /// The pieces of tube in order, where they stand and how they are cut; empty where the way does not join.
    pub pieces: Vec<PieceWorkup>,
    /// How to saw them from one stick; nothing where a piece cannot be cut.
    pub cutting: Option<CuttingWorkup>,
    /// The chance that it lands once it is made, from 0 to 1; nothing of a hose, where there is no sound pipe, and while it is dragged.
    pub chance: Option<f64>,
    /// How far it is made, beside its pieces.
    pub made: MadeSoFar,
    /// The hose it is, as it is cut and made up; nothing where it is tube, or the way does not join the ports.
    pub hose: Option<HoseWorkup>,
    /// The air round it; nothing where the way does not join the ports.
    pub air: Option<ClearanceWorkup>,
    /// What flows through it; nothing where the way does not join the ports, or what was said does not suit the duty.
    pub flow: Option<FlowWorkup>,
    /// What stands out over its tube; empty where the way does not join the ports.
    pub over: Vec<Over>,
    /// Joints between its ends, from A.
    pub joints: Vec<JointWorkup>,
    /// What holds it between its joints, from A.
    pub supports: Vec<SupportWorkup>,
    /// What is let into it, from A.
    pub branches: Vec<BranchWorkup>,
    /// Highs and lows of its bore, from A, where a liquid flows in it.
    pub bore_extremes: Vec<BoreExtremeWorkup>,
    /// Every stretch between two things that hold it, from A.
    pub spans: Vec<SpanWorkup>,
    /// Every kind of joint, and why it may not be on this pipe where it may not.
    pub kinds: Vec<KindOffer>,
    /// Rigid sections between its joints, from A; empty where the way does not join the ports.
    pub sections: Vec<SectionWorkup>,
    /// What is locked of its way, and by how much each is off.
    pub locks: Vec<LockWorkup>,
    /// Sums over the pipe; nothing where the way does not join the ports.
    pub totals: Option<Totals>,
    /// What is wrong, worst first.
    pub findings: Vec<Finding>,
}

/// How far a pipe is made, by what was noted.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MadeSoFar {
    /// Whether anything was tacked or tried on.
    pub fitting: bool,
    /// Welds it has, those on joints and round what is let in counted too.
    pub seams: usize,
    /// How many of them are welded.
    pub welded: usize,
    /// Whether anything was tested or checked.
    pub proving: bool,
    /// Whether it is signed off as it is now.
    pub signed: bool,
    /// Minutes that were worked on it.
    pub minutes: f64,
}

/// Something locked.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LockWorkup {
    /// What is locked.
    pub lock: Lock,
    /// Said in words.
    pub words: DualUnitText,
    /// Whether it holds.
    pub holds: bool,
}

/// One straight of tube.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StraightWorkup {
    /// On which leg.
    pub straight: LegId,
    /// From tangent point or tube end to tangent point or tube end; negative where bends overlap.
    pub length: Measure,
    /// Station of its start along the tube's centre line.
    pub from: Measure,
    /// Station of its end.
    pub to: Measure,
    /// Pitch above level in degrees, going from A to B.
    pub pitch: f64,
    /// Its direction, going from A to B.
    #[schema(value_type = Triple)]
    pub along: [f64; 3],
    /// How thick what is wrapped round it is.
    pub wrapped: Measure,
    /// Whether that is said of it alone; else it is as the run is.
    pub wrapped_chosen: bool,
    /// Where a bend put into it would go: its middle, a little aside of the plane it lies in or above it.
    #[schema(value_type = Triple)]
    pub new_bend: [f64; 3],
}

/// Sums over one pipe.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Totals {
    /// Length of tube along the centre line.
    pub developed: Measure,
    /// The same with the gaps in joints between its ends: from tube end to tube end.
    pub end_to_end: Measure,
    /// The same with all gaps: from mouth to mouth.
    pub mouth_to_mouth: Measure,
    /// Welded seams.
    pub seams: u32,
    /// Length of weld.
    pub weld: Measure,
    /// Mass of tube in kg.
    pub mass_kg: f64,
    /// Volume inside in litres.
    pub litres: f64,
    /// Hours to make it, by the handbook's rates.
    pub hours: f64,
    /// The same step by step.
    pub labour: Vec<StepMinutes>,
}
