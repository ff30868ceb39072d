//! What a job must never be.

use serde::Serialize;
use thiserror::Error;

use crate::join::NoPlate;
use crate::measure::NeckProblem;
use nook_geometry::units::{NameError, OutOfRange};

/// What a job must never be.
#[derive(Debug, Clone, PartialEq, Error, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum Invalid {
    /// Two of a kind share a number, or one is numbered beyond the next to be given.
    #[error("two {what} are numbered {id}, or the number is beyond the last one given")]
    Numbering {
        /// `runs`, `keep-outs`, `datum points` or `components`.
        what: &'static str,
        /// The number.
        id: u32,
    },
    /// A run's two ports lie in one place.
    #[error("the two ports of \u{201c}{run}\u{201d} are {apart:.2} mm apart: they must be at least {least} mm apart")]
    PortsInOnePlace {
        /// The run's name.
        run: String,
        /// Their distance in mm.
        apart: f64,
        /// The least distance in mm.
        least: f64,
    },
    /// A way's bends do not fit its course.
    #[error("the way of \u{201c}{run}\u{201d} has {bends} bends where its course has {corners}")]
    BendsDoNotMatch {
        /// The run's name.
        run: String,
        /// Bends described.
        bends: usize,
        /// Corners in the course.
        corners: usize,
    },
    /// More than there is room for.
    #[error("a job holds at most {most} {what}; this one has {count}")]
    TooMany {
        /// `runs`, `keep-outs`, `datum points`, `components`, `readings of one thing` or `bends in one run`.
        what: &'static str,
        /// How many.
        count: usize,
        /// The limit.
        most: usize,
    },
    /// A keep-out without a size.
    #[error("keep-out \u{201c}{name}\u{201d}: {problem}")]
    KeepOut {
        /// Its name.
        name: String,
        /// What is out of range.
        problem: OutOfRange,
    },
    /// A component that cannot turn as it says.
    #[error("component \u{201c}{name}\u{201d}: {problem}")]
    Component {
        /// Its name.
        name: String,
        /// What is out of range.
        problem: OutOfRange,
    },
    /// A component turned to where it has no bolt hole.
    #[error(
        "component \u{201c}{name}\u{201d} turns in steps; {turned} degrees is none of them, {nearest} is the nearest"
    )]
    NotAStep {
        /// Its name.
        name: String,
        /// The turn asked for, in degrees.
        turned: f64,
        /// The nearest it can have.
        nearest: f64,
    },
    /// A component with a port that is not there, or is on another one too.
    #[error("component \u{201c}{name}\u{201d} has a port that is not there or is on another component too")]
    ComponentPort {
        /// Its name.
        name: String,
    },
    /// A component whose body is not there, is of another one too, or is a one-sided sheet.
    #[error(
        "component \u{201c}{name}\u{201d} has a body that is not there, is part of another component too, or is a sheet \
         with one side"
    )]
    ComponentBody {
        /// Its name.
        name: String,
    },
    /// A component that breathes by a face, or wants a hand before one, that is not one of its boxes'.
    #[error("component \u{201c}{name}\u{201d} names a face of a box that is not part of its body")]
    NoSuchFace {
        /// Its name.
        name: String,
    },
    /// A component that breathes through an opening that is not there.
    #[error("component \u{201c}{name}\u{201d} breathes through an opening that is not there")]
    NoSuchOpening {
        /// Its name.
        name: String,
    },
    /// A bracket that is bolted to a datum point that is not there.
    #[error(
        "the bracket at \u{201c}{mount}\u{201d} of \u{201c}{name}\u{201d} is bolted to a datum point that is not there"
    )]
    NoSuchFoot {
        /// The component's name.
        name: String,
        /// The mounting point's.
        mount: String,
    },
    /// Two things that belong together of which one is not there, or that are named twice or in the wrong order.
    #[error("keep-outs {one} and {other} are said to belong together, but one is not there or the pair is no pair")]
    Together {
        /// One.
        one: u32,
        /// The other.
        other: u32,
    },
    /// An opening without a flat outline.
    #[error("opening \u{201c}{name}\u{201d}: {problem}")]
    Opening {
        /// Its name.
        name: String,
        /// What is out of range.
        problem: OutOfRange,
    },
    /// The car cannot stand so.
    #[error("how the car stands: {problem}")]
    Stance {
        /// What is out of range.
        problem: OutOfRange,
    },
    /// A run that mirrors itself.
    #[error("\u{201c}{run}\u{201d} is its own twin")]
    OwnTwin {
        /// The run's name.
        run: String,
    },
    /// Something asked of a run's way that is out of range.
    #[error("what is asked of \u{201c}{run}\u{201d}: {problem}")]
    Wish {
        /// The run's name.
        run: String,
        /// What is out of range.
        problem: OutOfRange,
    },
    /// A lock on a straight or a bend that the way does not have, or on no sound figure.
    #[error("\u{201c}{run}\u{201d} has {corners} bends; a lock is on something it does not have")]
    LockOnNothing {
        /// The run's name.
        run: String,
        /// How many bends its way has.
        corners: usize,
    },
    /// Two runs whose pieces would be marked alike.
    #[error("two runs are marked {mark}; their pieces could not be told apart")]
    MarkTwice {
        /// The mark.
        mark: String,
    },
    /// A support on a leg that the way does not have.
    #[error("\u{201c}{run}\u{201d} has {corners} bends; a support is on a leg it does not have")]
    SupportOnNothing {
        /// The run's name.
        run: String,
        /// How many bends its way has.
        corners: usize,
    },
    /// A pipe of a hose's stuff of which nobody said how it is built.
    #[error("\u{201c}{run}\u{201d} is of {material}, which is hose: say how it is built, or choose a metal")]
    HoseNotBuilt {
        /// The run's name.
        run: String,
        /// What of.
        material: &'static str,
    },
    /// A hose whose tube is none of its kind.
    #[error("\u{201c}{run}\u{201d} is a {hose}; {od:.1} mm with a wall of {wall:.2} mm of {material} is none")]
    NotThatHose {
        /// The run's name.
        run: String,
        /// How it is built.
        hose: &'static str,
        /// What of.
        material: &'static str,
        /// Outside diameter in mm.
        od: f64,
        /// Wall in mm.
        wall: f64,
    },
    /// A hose's own end on a pipe of tube.
    #[error(
        "\u{201c}{run}\u{201d} is rigid tube and has no hose ends of its own: join it by a coupler, or build it of hose"
    )]
    HoseEndOnTube {
        /// The run's name.
        run: String,
    },
    /// A joint or a branch in a hose.
    #[error(
        "\u{201c}{run}\u{201d} is a hose: it is joined by its own ends, and no {what} goes on it. Build it of tube first"
    )]
    JointInHose {
        /// The run's name.
        run: String,
        /// What of.
        what: &'static str,
    },
    /// A flange plate of too few or too many distances.
    #[error("a flange plate of \u{201c}{run}\u{201d}: {problem}")]
    Plate {
        /// The run's name.
        run: String,
        /// Why it is none.
        problem: NoPlate,
    },
    /// A branch on a leg that the way does not have.
    #[error("\u{201c}{run}\u{201d} has {corners} bends; a branch is on a leg it does not have")]
    BranchOnNothing {
        /// The run's name.
        run: String,
        /// How many bends its way has.
        corners: usize,
    },
    /// A joint on a leg that the way does not have.
    #[error("\u{201c}{run}\u{201d} has {corners} bends; a joint is on a leg it does not have")]
    JointOnNothing {
        /// The run's name.
        run: String,
        /// How many bends its way has.
        corners: usize,
    },
    /// A joint where its kind cannot stand.
    #[error(
        "\u{201c}{run}\u{201d}: a {kind} cannot stand there: on a straight a straight coupler can, in place of a bend only a \
         moulded elbow"
    )]
    JointCannotStand {
        /// The run's name.
        run: String,
        /// What sort of joint.
        kind: &'static str,
    },
    /// What is to be done to a neck cannot be.
    #[error("\u{201c}{run}\u{201d}, end {end}: {problem}")]
    Neck {
        /// The run's name.
        run: String,
        /// Which end.
        end: char,
        /// What is wrong.
        problem: NeckProblem,
    },
    /// A mouth on a stub that is not there.
    #[error(
        "\u{201c}{run}\u{201d} goes on from a stub at {end}, and that would be gone, or be nothing that a pipe goes on from; let \
         the mouth go first"
    )]
    NoSuchStub {
        /// The run's name.
        run: String,
        /// Which end.
        end: char,
    },
    /// A mouth on a stub that is placed by something else too.
    #[error(
        "\u{201c}{run}\u{201d}: at {end} it goes on from a stub, wherever that goes; nothing is read of it or from it, and no \
         component carries it"
    )]
    StubPlaced {
        /// The run's name.
        run: String,
        /// Which end.
        end: char,
    },
    /// Two mouths on one stub.
    #[error("\u{201c}{run}\u{201d}: something goes on from that stub already; one pipe does")]
    StubTwice {
        /// The run's name.
        run: String,
    },
    /// A pipe that hangs on itself.
    #[error("\u{201c}{run}\u{201d} would go on from a pipe that goes on from it, so neither had a place")]
    StubCircle {
        /// The run's name.
        run: String,
    },
    /// Two moulded elbows in place of one bend.
    #[error("\u{201c}{run}\u{201d}: two moulded elbows take the place of one bend; one does")]
    TwoElbows {
        /// The run's name.
        run: String,
    },
    /// Two bends or joints of one number, or one beyond the last that was given.
    #[error("\u{201c}{run}\u{201d}: two bends or joints are numbered {id}, or the number is none that was given")]
    PartNumber {
        /// The run's name.
        run: String,
        /// The number.
        id: u32,
    },
    /// Not one joint at an end.
    #[error("\u{201c}{run}\u{201d} has {count} joints at {end}; it has one at each end")]
    JointsAtEnd {
        /// The run's name.
        run: String,
        /// Which end.
        end: char,
        /// How many.
        count: usize,
    },
    /// A way kept that goes nowhere.
    #[error("\u{201c}{run}\u{201d} keeps a way that goes nowhere")]
    NoWayKept {
        /// The run's name.
        run: String,
    },
    /// The engine's usual speeds are in no order.
    #[error("the engine: {problem}")]
    Firing {
        /// What is wrong.
        problem: OutOfRange,
    },
    /// The engine's mounts say no axis.
    #[error("the engine's mounts: {problem}")]
    Mounts {
        /// What is out of range.
        problem: OutOfRange,
    },
    /// A reading that the thing cannot have, such as a pitch of a point.
    #[error("reading {} of \u{201c}{name}\u{201d} does not fit it: {why}", index + 1)]
    ReadingDoesNotFit {
        /// The thing's name.
        name: String,
        /// Which reading, from 0.
        index: usize,
        /// Why not.
        why: &'static str,
    },
    /// A reading that leans on something that is not in the job.
    #[error("reading {} of \u{201c}{name}\u{201d} leans on a {what} that is not there; take the reading out first", index + 1)]
    LeansOnNothing {
        /// The thing's name.
        name: String,
        /// Which reading, from 0.
        index: usize,
        /// `datum point` or `port`.
        what: &'static str,
    },
    /// Readings that lean on each other in a circle.
    #[error(
        "the readings of \u{201c}{name}\u{201d} lean on it again by way of others, so none of them can be worked out"
    )]
    Circle {
        /// One of them.
        name: String,
    },
    /// A port or keep-out without a proper name.
    #[error("{what}: {problem}")]
    Unnamed {
        /// Which thing.
        what: &'static str,
        /// What is wrong.
        problem: NameError,
    },
}
