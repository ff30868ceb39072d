//! One decision, as data, and what it makes of a job.

use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::ToSchema;

use crate::geometry::{Direction, Point};
use crate::job::{Invalid, Job};
use crate::join::{EndJoint, JointKind};
use crate::measure::End;
use crate::measure::{KeepOut, KeepOutId, KeepOutKind, KeepOutShape, Port, Side};
use crate::route::PieEnds;
use crate::route::{ReshapeError, Target, Way, reshape, ways};
use crate::route::{Run, RunDraft, RunId};
use crate::stock::Duty;
use crate::stock::Tube;
use crate::units::Name;
use crate::units::{BendRadius, Gap, Kerf, Pressure, SeamCount, Seat};

/// One decision.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
pub enum Edit {
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
    /// Takes a way round.
    TakeWay {
        /// Which pipe.
        run: RunId,
        /// The way.
        way: Way,
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
    /// Adds something that is in the way.
    AddKeepOut {
        /// What it is.
        name: String,
        /// What sort of thing.
        kind: KeepOutKind,
        /// What it rides on.
        rides: Side,
        /// The room it takes.
        shape: KeepOutShape,
    },
    /// Takes a keep-out away.
    RemoveKeepOut {
        /// Which one.
        keep_out: KeepOutId,
    },
}

/// Why an edit was not made. The job stays as it was.
#[derive(Debug, Clone, PartialEq, Error, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Refusal {
    /// The job has no such run.
    #[error("this job has no run {}; it may have been removed", run.0)]
    NoSuchRun {
        /// The number asked for.
        run: RunId,
    },
    /// The run's way has no such bend.
    #[error("this way has {bends} bends; there is no bend {}", bend + 1)]
    NoSuchBend {
        /// The bend asked for, from 0.
        bend: usize,
        /// How many there are.
        bends: usize,
    },
    /// The job has no such keep-out.
    #[error("this job has no keep-out {}; it may have been removed", keep_out.0)]
    NoSuchKeepOut {
        /// The number asked for.
        keep_out: KeepOutId,
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
    /// The job would no longer be valid.
    #[error("{problem}")]
    Invalid {
        /// Why.
        problem: Invalid,
    },
}

/// The job after one more decision; `job` itself is not touched.
///
/// # Errors
/// [`Refusal`] when the edit names something that is not there, asks for what cannot be, or would break what
/// [`Job::check`] holds.
pub fn apply(job: &Job, edit: &Edit) -> Result<Job, Refusal> {
    let mut next = job.clone();
    match edit {
        Edit::RenameJob { name } => next.name = name.clone(),
        Edit::SetKerf { kerf } => next.kerf = *kerf,
        Edit::AddRun { run } => {
            let run = drafted(&mut next, run);
            next.runs.push(run);
        }
        Edit::RemoveRun { run } => {
            let index = index_of(&next, *run)?;
            next.runs.remove(index);
        }
        Edit::AddKeepOut { name, kind, rides, shape } => {
            let id = KeepOutId(take_id(&mut next));
            let (name, shape) = (name.trim().to_owned(), shape.clone());
            next.keep_outs.push(KeepOut { id, name, kind: *kind, rides: *rides, shape });
        }
        Edit::RemoveKeepOut { keep_out } => {
            let index = next.keep_outs.iter().position(|one| one.id == *keep_out);
            next.keep_outs.remove(index.ok_or(Refusal::NoSuchKeepOut { keep_out: *keep_out })?);
        }
        Edit::RenameRun { run, .. }
        | Edit::SetDuty { run, .. }
        | Edit::SetTube { run, .. }
        | Edit::SetPressure { run, .. }
        | Edit::SetPort { run, .. }
        | Edit::MovePort { run, .. }
        | Edit::AimPort { run, .. }
        | Edit::SetJoint { run, .. }
        | Edit::SetGap { run, .. }
        | Edit::SetSeat { run, .. }
        | Edit::TakeWay { run, .. }
        | Edit::SetRadius { run, .. }
        | Edit::SetBendRadius { run, .. }
        | Edit::Reshape { run, .. }
        | Edit::SetSeams { run, .. }
        | Edit::SetPieEnds { run, .. } => {
            let index = index_of(&next, *run)?;
            change_run(&mut next.runs[index], edit)?;
        }
    }
    next.check().map_err(|problem| Refusal::Invalid { problem })?;
    Ok(next)
}

fn take_id(job: &mut Job) -> u32 {
    let id = job.next_id;
    job.next_id += 1;
    id
}

fn index_of(job: &Job, run: RunId) -> Result<usize, Refusal> {
    job.runs.iter().position(|one| one.id == run).ok_or(Refusal::NoSuchRun { run })
}

/// Bend radius of a new run, as diameters: what mandrel elbows are mostly sold in.
const USUAL_RADIUS: f64 = 1.5;

fn drafted(job: &mut Job, draft: &RunDraft) -> Run {
    let RunDraft { name, duty, tube, radius, a, b } = draft.clone();
    let usual =
        BendRadius::new(tube.od() * USUAL_RADIUS).unwrap_or_else(|_| unreachable!("1.5 times any tube is a radius"));
    let mut run = Run {
        id: RunId(take_id(job)),
        name,
        duty,
        tube,
        radius: radius.unwrap_or(usual),
        pressure: None,
        joint_a: EndJoint::usual(duty, &a, tube.od()),
        joint_b: EndJoint::usual(duty, &b, tube.od()),
        a,
        b,
        way: None,
    };
    find_first_way(&mut run);
    run
}

/// A run without a way takes the best there is, so that a pipe is there at once.
fn find_first_way(run: &mut Run) {
    if run.way.is_none() && run.a.at.distance(run.b.at) >= Job::LEAST_APART {
        run.way = ways(run).ways.into_iter().next().map(|best| best.way);
    }
}

fn change_run(run: &mut Run, edit: &Edit) -> Result<(), Refusal> {
    match edit {
        Edit::RenameRun { name, .. } => run.name = name.clone(),
        Edit::SetDuty { duty, .. } => run.duty = *duty,
        Edit::SetTube { tube, .. } => run.tube = *tube,
        Edit::SetPressure { pressure, .. } => run.pressure = *pressure,
        Edit::SetPort { end, port, .. } => *run.port_mut(*end) = port.clone(),
        Edit::MovePort { end, at, .. } => run.port_mut(*end).at = *at,
        Edit::AimPort { end, out, .. } => run.port_mut(*end).out = *out,
        Edit::SetJoint { end, kind, .. } => run.joint_mut(*end).kind = *kind,
        Edit::SetGap { end, gap, .. } => run.joint_mut(*end).gap = *gap,
        Edit::SetSeat { end, seat, .. } => run.joint_mut(*end).seat = *seat,
        Edit::TakeWay { way, .. } => run.way = Some(way.clone()),
        Edit::SetRadius { radius, .. } => run.radius = *radius,
        Edit::SetBendRadius { bend, radius, .. } => bend_of(run, *bend)?.radius = *radius,
        Edit::SetSeams { bend, seams, .. } => bend_of(run, *bend)?.seams = *seams,
        Edit::SetPieEnds { bend, ends, .. } => bend_of(run, *bend)?.ends = *ends,
        Edit::Reshape { target, .. } => {
            let way = run.way.as_ref().ok_or(Refusal::NoWayYet)?;
            run.way = Some(reshape(run, way, *target).map_err(|problem| Refusal::Reshape { problem })?);
        }
        Edit::RenameJob { .. }
        | Edit::SetKerf { .. }
        | Edit::AddRun { .. }
        | Edit::RemoveRun { .. }
        | Edit::AddKeepOut { .. }
        | Edit::RemoveKeepOut { .. } => unreachable!("not an edit of one run"),
    }
    find_first_way(run);
    Ok(())
}

fn bend_of(run: &mut Run, bend: usize) -> Result<&mut crate::route::BendSpec, Refusal> {
    let way = run.way.as_mut().ok_or(Refusal::NoWayYet)?;
    let bends = way.bends().len();
    way.bend_mut(bend).ok_or(Refusal::NoSuchBend { bend, bends })
}
