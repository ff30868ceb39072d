//! Why an edit is refused.

use nook_geometry::units::OutOfRange;
use serde::Serialize;
use thiserror::Error;

use crate::job::Invalid;
use crate::measure::{ComponentId, DatumId, End, KeepOutId, MountId, OpeningId, RunId};
use crate::route::{BendId, BendsError, BranchId, JointId, ReshapeError, SupportId};

/// Why an edit was not made. The job stays as it was.
#[derive(Debug, Clone, PartialEq, Error, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum EditError {
    /// The job has no such run.
    #[error("this job has no run {}; it may have been removed", run.0)]
    NoSuchRun {
        /// The number asked for.
        run: RunId,
    },
    /// The run's way has no such bend.
    #[error("this way has no bend of number {}; it may have been taken out", bend.0)]
    NoSuchBend {
        /// The number asked for.
        bend: BendId,
    },
    /// The run's way has no such straight or bend.
    #[error("this way has no such straight or bend; it may have been taken out")]
    NoSuchStretch,
    /// The run's way has no such joint.
    #[error("this way has no joint {}; it may have been taken out", joint.0)]
    NoSuchJoint {
        /// The number asked for.
        joint: JointId,
    },
    /// The run's way has no such support.
    #[error("this way has no support {}; it may have been taken off", support.0)]
    NoSuchSupport {
        /// The number asked for.
        support: SupportId,
    },
    /// The run's way has no such branch.
    #[error("this way has no branch {}; it may have been taken out", branch.0)]
    NoSuchBranch {
        /// The number asked for.
        branch: BranchId,
    },
    /// A joint at an end is neither moved nor taken out.
    #[error("the joint at {} stays there: a pipe meets its port somehow; choose what kind of joint it is", end.letter())]
    StaysAtItsEnd {
        /// Which end.
        end: End,
    },
    /// A mouth on a stub is where the stub is.
    #[error("this mouth is the end of a stub and goes where that goes; move the stub, or let the mouth go")]
    StaysOnItsStub,
    /// A component's port is no stub of a pipe.
    #[error("this mouth is part of a component, which places it; take it out of the component first")]
    PartOfAComponent,
    /// A moulded elbow stays in place of its bend.
    #[error("a moulded elbow stays in place of its bend; move the bend, or take the elbow out")]
    StaysAtItsBend,
    /// The job has no such keep-out.
    #[error("this job has no keep-out {}; it may have been removed", keep_out.0)]
    NoSuchKeepOut {
        /// The number asked for.
        keep_out: KeepOutId,
    },
    /// The job has no such datum point.
    #[error("this job has no datum point {}; it may have been removed", datum.0)]
    NoSuchDatum {
        /// The number asked for.
        datum: DatumId,
    },
    /// The job has no such component.
    #[error("this job has no component {}; it may have been removed", component.0)]
    NoSuchComponent {
        /// The number asked for.
        component: ComponentId,
    },
    /// The component has no such freedom.
    #[error("{name} may be moved in {freedoms} ways; there is no number {}", index + 1)]
    NoSuchFreedom {
        /// The component's name.
        name: String,
        /// How many it has.
        freedoms: usize,
        /// The one asked for, from 0.
        index: usize,
    },
    /// Nothing says what a component may be slid by, or it has no body or port to be moved by.
    #[error("nothing says that {name} may be slid; say along what and how far first")]
    NothingMovesIt {
        /// The component's name.
        name: String,
    },
    /// No component has such a mounting point.
    #[error("this component has no mounting point {}; it may have been removed", mount.0)]
    NoSuchMount {
        /// The number asked for.
        mount: MountId,
    },
    /// The job has no such opening.
    #[error("this job has no opening {}; it may have been removed", opening.0)]
    NoSuchOpening {
        /// The number asked for.
        opening: OpeningId,
    },
    /// A scan is neither copied nor mirrored: its file is one thing.
    #[error("{name} is a scan, which cannot be copied or mirrored; put a box or a cylinder in its place first")]
    ScanNotCopied {
        /// The scan's name.
        name: String,
    },
    /// Only a component with a box for a body is swapped for another.
    #[error("{name} has no box for a body, so nothing can be put in its place")]
    NoBoxToSwap {
        /// The component's name.
        name: String,
    },
    /// The other component has more or fewer mouths.
    #[error("{name} has {has} mouths that runs end on, the other has {other}; take ports off it or choose another")]
    OtherMouths {
        /// The component's name.
        name: String,
        /// How many it has.
        has: usize,
        /// How many the other has.
        other: usize,
    },
    /// Every number there is has been given to something once.
    #[error("this job has no number left to give to anything new; begin a new job for it")]
    NumbersUsedUp,
    /// A change cannot be taken back, or made again, since its subject has been changed by somebody else.
    #[error("{what} has been changed again by somebody else since; that has to be taken back first")]
    ChangedSince {
        /// The thing's name in quotes, or `the name of the job`, `the saw it is made with` or `the engine's mounts`.
        what: String,
    },
    /// The thing has no such reading.
    #[error("{} has {readings} readings; there is no number {}", name, index + 1)]
    NoSuchReading {
        /// The thing's name.
        name: String,
        /// How many it has.
        readings: usize,
        /// The one asked for, from 0.
        index: usize,
    },
    /// Readings say where it is, so it cannot be put elsewhere by hand.
    #[error("{name} is held by its readings; set them aside to place it by hand")]
    HeldByReadings {
        /// The thing's name.
        name: String,
    },
    /// It is on a component that is moved, so where it stands is not where it was measured.
    #[error(
        "{name} is on {component}, which is moved from where it was measured; set that back to 0 to place it by hand"
    )]
    OnMoved {
        /// The port's or keep-out's name.
        name: String,
        /// The component's.
        component: String,
    },
    /// A datum point has no such thing.
    #[error("a datum point is part of the vehicle, so it is always in place")]
    AlwaysInPlace,
    /// Too many edits as one.
    #[error("{count} edits at once; {most} is the most")]
    TooManyTogether {
        /// How many.
        count: usize,
        /// The limit.
        most: usize,
    },
    /// Edits made as one within edits made as one.
    #[error("edit {} of those made together is itself several", index + 1)]
    TogetherTwice {
        /// Which, from 0.
        index: usize,
    },
    /// The run has no way yet, so nothing of it can be changed.
    #[error("this run has no way yet; take one of the ways round first")]
    NoWayYet,
    /// A length or angle cannot have that value.
    #[error("{problem}")]
    Reshape {
        /// Why.
        problem: ReshapeError,
    },
    /// A length or angle that is out of range.
    #[error("{problem}")]
    OutOfRange {
        /// Which, and the limits.
        #[from]
        problem: OutOfRange,
    },
    /// A bend cannot be added or taken away there.
    #[error("{problem}")]
    Bends {
        /// Why.
        problem: BendsError,
    },
    /// No way is kept under that number.
    #[error("{kept} ways are kept beside; there is no number {}", index + 1)]
    NoSuchKept {
        /// How many there are.
        kept: usize,
        /// The one asked for, from 0.
        index: usize,
    },
    /// Enough ways are kept.
    #[error("{most} ways are kept beside this one already; let one go first")]
    EnoughKept {
        /// The limit.
        most: usize,
    },
    /// Two datum points of one name could not be told apart, on the car or in a table.
    #[error("there is a datum point \u{201c}{name}\u{201d} already; give this one another name")]
    DatumNameTaken {
        /// The name.
        name: String,
    },
    /// A pipe cannot be its own twin.
    #[error("a pipe is not its own twin")]
    OwnTwin,
    /// No hose is so wide.
    #[error("a hose of {bore:.1} mm bore is none that can be bought")]
    NoSuchHose {
        /// Its inside diameter in mm.
        bore: f64,
    },
    /// The job would no longer be valid.
    #[error("{problem}")]
    Invalid {
        /// Why.
        problem: Invalid,
    },
}
