//! One decision, as data, and what it makes of a job.

mod apply;
mod by_hand;
mod change;
mod edit_error;
mod joints;
mod lookup;
mod measured;
mod merge;

pub use apply::apply;
pub use change::{JointChange, KeepOutChange};
pub use edit_error::EditError;
pub use merge::merge;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::flow::FlowGiven;
use crate::join::JointKind;
use crate::measure::{
    ComponentId, DatumId, End, InstallState, InstrumentChecks, KeepOutId, KeepOutKind, KeepOutShape, Measurand, Mounts,
    Port, PortRef, Reading, RunId, Side, TurnRange,
};
use crate::route::{JointAnchor, JointId, Lock, Mark, PieEnds, Route, RouteConstraints, RunDraft, Target};
use crate::stock::{Duty, Tube};
use nook_geometry::units::{BendRadius, Gap, Insulation, Kerf, Name, Pressure, SeamCount, Seat, Spread, TurnAngle};
use nook_geometry::{Direction, Point};

/// One decision.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
pub enum Edit {
    /// Several decisions as one, such as a table of readings: all of them or none.
    Together {
        /// One after the other.
        #[schema(no_recursion)]
        edits: Vec<Edit>,
    },
    /// Gives the job another name.
    RenameJob {
        /// The new name.
        name: Name,
    },
    /// Says how wide the saw cuts.
    SetKerf {
        /// Width in mm.
        kerf: Kerf,
    },
    /// Adds a pipe, which takes the best way there is.
    AddRun {
        /// What it is.
        run: RunDraft,
    },
    /// Takes a pipe out of the job.
    RemoveRun {
        /// Which one.
        run: RunId,
    },
    /// Gives a pipe another name.
    RenameRun {
        /// Which one.
        run: RunId,
        /// The new name.
        name: Name,
    },
    /// Says what a pipe's pieces are marked with.
    SetMark {
        /// Which pipe.
        run: RunId,
        /// The letters.
        mark: Mark,
    },
    /// Says what a pipe carries.
    SetDuty {
        /// Which pipe.
        run: RunId,
        /// What it carries.
        duty: Duty,
    },
    /// Chooses the tube.
    SetTube {
        /// Which pipe.
        run: RunId,
        /// What it is made of.
        tube: Tube,
    },
    /// Says the working pressure; nothing returns to the duty's usual one.
    SetPressure {
        /// Which pipe.
        run: RunId,
        /// In bar.
        pressure: Option<Pressure>,
    },
    /// Says how thick the wrapping round a pipe is; nothing where it is bare.
    SetInsulation {
        /// Which pipe.
        run: RunId,
        /// In mm.
        insulation: Option<Insulation>,
    },
    /// Says what flows through a pipe.
    SetFlow {
        /// Which pipe.
        run: RunId,
        /// How much, how hot.
        flow: FlowGiven,
    },
    /// Says what is asked of a pipe's way.
    SetWishes {
        /// Which pipe.
        run: RunId,
        /// What is asked.
        wishes: RouteConstraints,
    },
    /// Describes a port anew.
    SetPort {
        /// Which pipe.
        run: RunId,
        /// Which end.
        end: End,
        /// The port.
        port: Port,
    },
    /// Moves a port.
    MovePort {
        /// Which pipe.
        run: RunId,
        /// Which end.
        end: End,
        /// Where its mouth's centre is now.
        at: Point,
    },
    /// Points a port another way.
    AimPort {
        /// Which pipe.
        run: RunId,
        /// Which end.
        end: End,
        /// Direction out of the component.
        out: Direction,
    },
    /// Chooses how an end meets its port.
    SetJoint {
        /// Which pipe.
        run: RunId,
        /// Which end.
        end: End,
        /// The kind of joint.
        kind: JointKind,
    },
    /// Sets the gap in an end's coupler; nothing returns to the usual gap.
    SetGap {
        /// Which pipe.
        run: RunId,
        /// Which end.
        end: End,
        /// In mm.
        gap: Option<Gap>,
    },
    /// Sets the hose seat at an end; nothing returns to the usual seat.
    SetSeat {
        /// Which pipe.
        run: RunId,
        /// Which end.
        end: End,
        /// In mm.
        seat: Option<Seat>,
    },
    /// Puts a joint between the ends of a pipe.
    AddJoint {
        /// Which pipe.
        run: RunId,
        /// Where its middle is to be.
        at: JointAnchor,
        /// What it is.
        kind: JointKind,
    },
    /// Changes one thing about a joint between the ends.
    ChangeJoint {
        /// Which pipe.
        run: RunId,
        /// Which joint.
        joint: JointId,
        /// What is changed.
        to: JointChange,
    },
    /// Takes a joint between the ends out: the tubes beside it are one again.
    RemoveJoint {
        /// Which pipe.
        run: RunId,
        /// Which joint.
        joint: JointId,
    },
    /// Takes a way round. Joints of the way before that it does not have are seated on it where they stood.
    TakeWay {
        /// Which pipe.
        run: RunId,
        /// The way.
        way: Route,
    },
    /// Sets the radius of all bends that have none of their own.
    SetRadius {
        /// Which pipe.
        run: RunId,
        /// Centre-line radius in mm.
        radius: BendRadius,
    },
    /// Sets one bend's radius; nothing returns to the pipe's.
    SetBendRadius {
        /// Which pipe.
        run: RunId,
        /// Which bend, from 0 at A.
        bend: usize,
        /// Centre-line radius in mm.
        radius: Option<BendRadius>,
    },
    /// Gives one length or angle a value; the rest follows by the smallest change.
    Reshape {
        /// Which pipe.
        run: RunId,
        /// Which figure, and its value.
        target: Target,
    },
    /// Puts a bend in: a leg goes by a place.
    AddBend {
        /// Which pipe.
        run: RunId,
        /// Which leg, 0 being the one from A.
        leg: usize,
        /// The new bend's vertex.
        at: Point,
    },
    /// Takes a bend out: the legs beside it become one.
    RemoveBend {
        /// Which pipe.
        run: RunId,
        /// Which bend, from 0 at A.
        bend: usize,
    },
    /// Parts a bend into two of half its angle.
    SplitBend {
        /// Which pipe.
        run: RunId,
        /// Which bend, from 0 at A.
        bend: usize,
    },
    /// Makes a bend and the next one.
    MergeBends {
        /// Which pipe.
        run: RunId,
        /// The first of the two, from 0 at A.
        bend: usize,
    },
    /// Locks something of a way, or lets it go.
    SetLock {
        /// Which pipe.
        run: RunId,
        /// What, and at which value.
        lock: Lock,
        /// Whether it is held.
        on: bool,
    },
    /// Shapes the way so that its locks hold again.
    HoldLocks {
        /// Which pipe.
        run: RunId,
    },
    /// Keeps the way taken now beside it, under a name.
    KeepWay {
        /// Which pipe.
        run: RunId,
        /// What it is called.
        name: Name,
    },
    /// Takes a way that was kept; the one taken now is kept in its place.
    TakeKept {
        /// Which pipe.
        run: RunId,
        /// Which of those kept, from 0.
        index: usize,
    },
    /// Lets a way that was kept go.
    DropKept {
        /// Which pipe.
        run: RunId,
        /// Which of those kept, from 0.
        index: usize,
    },
    /// Makes two pipes mirrored twins, the second taking the image of the first's way; nothing unlinks them.
    SetTwin {
        /// Which pipe.
        run: RunId,
        /// Its twin.
        twin: Option<RunId>,
    },
    /// Sets how many seams a bend has; nothing returns to the usual count.
    SetSeams {
        /// Which pipe.
        run: RunId,
        /// Which bend, from 0 at A.
        bend: usize,
        /// How many.
        seams: Option<SeamCount>,
    },
    /// Chooses how a bend's pies meet the straights.
    SetPieEnds {
        /// Which pipe.
        run: RunId,
        /// Which bend, from 0 at A.
        bend: usize,
        /// Mitred or square.
        ends: PieEnds,
    },
    /// Adds a datum point.
    AddDatum {
        /// What it is.
        name: Name,
        /// Where it is assumed to be, or roughly is.
        at: Point,
        /// What it is part of.
        rides: Side,
    },
    /// Describes a datum point anew; its readings stay.
    SetDatum {
        /// Which one.
        datum: DatumId,
        /// What it is.
        name: Name,
        /// Where it is assumed to be, or roughly is.
        at: Point,
        /// What it is part of.
        rides: Side,
    },
    /// Takes a datum point away.
    RemoveDatum {
        /// Which one.
        datum: DatumId,
    },
    /// Adds a reading.
    AddReading {
        /// Of what.
        of: Measurand,
        /// What was read.
        reading: Reading,
    },
    /// Puts another reading in one's place, or sets it aside.
    SetReading {
        /// Of what.
        of: Measurand,
        /// Which one, from 0.
        index: usize,
        /// What was read.
        reading: Reading,
    },
    /// Takes a reading out for good.
    RemoveReading {
        /// Of what.
        of: Measurand,
        /// Which one, from 0.
        index: usize,
    },
    /// Says roughly where something is: which of two places that fit its readings is meant.
    PickPlace {
        /// What.
        of: Measurand,
        /// A place nearer to the one that is meant.
        near: Point,
        /// For a port, a direction nearer to the one that is meant.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        out: Option<Direction>,
    },
    /// Says how far a datum point may be from where it was typed.
    SetDatumSpread {
        /// Which one.
        datum: DatumId,
        /// One standard deviation each way in mm; nothing for the usual.
        spread: Option<Spread>,
    },
    /// Says what was checked of tape and level.
    SetInstruments {
        /// All of it.
        checks: InstrumentChecks,
    },
    /// Says whether something was there when it was measured.
    SetStanding {
        /// What.
        of: Measurand,
        /// In place, a mock-up or missing.
        standing: InstallState,
    },
    /// Adds a component that can be turned on its bolts.
    AddComponent {
        /// What it is.
        name: Name,
        /// A point on the axis it turns about.
        pivot: Point,
        /// The axis.
        axis: Direction,
        /// How far it turns.
        range: TurnRange,
        /// The ports on it.
        ports: Vec<PortRef>,
    },
    /// Describes a component anew, as it was measured: not turned.
    SetComponent {
        /// Which one.
        component: ComponentId,
        /// What it is.
        name: Name,
        /// A point on the axis it turns about.
        pivot: Point,
        /// The axis.
        axis: Direction,
        /// How far it turns.
        range: TurnRange,
        /// The ports on it.
        ports: Vec<PortRef>,
    },
    /// Turns a component on its bolts; its ports move with it.
    TurnComponent {
        /// Which one.
        component: ComponentId,
        /// Degrees from how it was measured, right-handed about its axis.
        turned: TurnAngle,
    },
    /// Takes a component away; its ports stay as measured.
    RemoveComponent {
        /// Which one.
        component: ComponentId,
    },
    /// Says how the engine moves on its mounts, or that it does not.
    SetMounts {
        /// The mounts.
        mounts: Option<Mounts>,
    },
    /// Adds something that is in the way.
    AddKeepOut {
        /// What it is.
        name: Name,
        /// What sort of thing.
        kind: KeepOutKind,
        /// What it rides on.
        rides: Side,
        /// The room it takes.
        shape: KeepOutShape,
    },
    /// Changes one thing about a keep-out.
    ChangeKeepOut {
        /// Which one.
        keep_out: KeepOutId,
        /// What is changed.
        to: KeepOutChange,
    },
    /// Moves a keep-out.
    MoveKeepOut {
        /// Which one.
        keep_out: KeepOutId,
        /// Where the point it is placed by is now.
        at: Point,
    },
    /// Takes a keep-out away.
    RemoveKeepOut {
        /// Which one.
        keep_out: KeepOutId,
    },
}
