//! What an edit makes of a job.

use super::by_hand::{set_twin, shape_by_hand, twin_follows};
use super::joints::change_joints;
use super::lookup::{index_of, take_id};
use super::measured::measured;
use super::{Edit, EditError};
use crate::flow::FlowGiven;
use crate::job::Job;
use crate::join::EndJoint;
use crate::measure::estimate::{Basis, PoseEstimate};
use crate::measure::{Measurand, PortRef, RunId};
use crate::route::{BendSpec, Mark, RouteConstraints, Run, RunDraft, reshape, ways, with_joints_of};
use crate::survey::Survey;
use nook_geometry::units::BendRadius;

/// The job after one more decision; `job` itself is not touched.
///
/// # Errors
/// [`EditError`] when the edit names something that is not there, asks for what cannot be, or would break what
/// [`Job::check`] holds.
pub fn apply(job: &Job, edit: &Edit) -> Result<Job, EditError> {
    let mut next = job.clone();
    match edit {
        Edit::Together { edits } => {
            if edits.len() > MOST_TOGETHER {
                return Err(EditError::TooManyTogether { count: edits.len(), most: MOST_TOGETHER });
            }
            if let Some(index) = edits.iter().position(|edit| matches!(edit, Edit::Together { .. })) {
                return Err(EditError::TogetherTwice { index });
            }
            let mut checked = true;
            for edit in edits {
                // Whatever works something out does so only on a sound job; a table of readings is checked once.
                if !checked && !only_notes(edit) {
                    sound(&next)?;
                }
                change(&mut next, edit)?;
                checked = false;
            }
        }
        single => change(&mut next, single)?,
    }
    sound(&next)?;
    Ok(next)
}

fn sound(job: &Job) -> Result<(), EditError> {
    job.check().map_err(|problem| EditError::Invalid { problem })
}

/// Whether an edit only writes down what it is told, and works nothing out from what is there.
const fn only_notes(edit: &Edit) -> bool {
    matches!(
        edit,
        Edit::RenameJob { .. }
            | Edit::SetKerf { .. }
            | Edit::AddDatum { .. }
            | Edit::SetDatum { .. }
            | Edit::SetDatumSpread { .. }
            | Edit::AddReading { .. }
            | Edit::SetReading { .. }
            | Edit::RemoveReading { .. }
            | Edit::AddKeepOut { .. }
    )
}

/// Makes one change. What it leaves is checked by whoever asked for it, once for all of several.
fn change(next: &mut Job, edit: &Edit) -> Result<(), EditError> {
    match edit {
        Edit::Together { .. } => return Err(EditError::TogetherTwice { index: 0 }),
        Edit::RenameJob { name } => next.name = name.clone(),
        Edit::SetKerf { kerf } => next.kerf = *kerf,
        Edit::AddRun { run } => {
            let run = drafted(next, run)?;
            next.runs.push(run);
            sound(next)?;
            let last = next.runs.len() - 1;
            find_first_way(next, last);
        }
        Edit::RemoveRun { run } => {
            let index = index_of(next, *run)?;
            next.runs.remove(index);
            next.runs.iter_mut().filter(|other| other.twin == Some(*run)).for_each(|other| other.twin = None);
        }
        Edit::RenameRun { run, .. }
        | Edit::SetMark { run, .. }
        | Edit::SetDuty { run, .. }
        | Edit::SetTube { run, .. }
        | Edit::SetPressure { run, .. }
        | Edit::SetInsulation { run, .. }
        | Edit::SetFlow { run, .. }
        | Edit::SetWishes { run, .. }
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
            let index = index_of(next, *run)?;
            change_run(next, index, edit)?;
            twin_follows(next, index);
        }
        Edit::AddBend { run, .. }
        | Edit::RemoveBend { run, .. }
        | Edit::SplitBend { run, .. }
        | Edit::MergeBends { run, .. }
        | Edit::SetLock { run, .. }
        | Edit::HoldLocks { run }
        | Edit::KeepWay { run, .. }
        | Edit::TakeKept { run, .. }
        | Edit::DropKept { run, .. } => {
            let index = index_of(next, *run)?;
            shape_by_hand(next, index, edit)?;
            twin_follows(next, index);
        }
        Edit::AddJoint { run, .. } | Edit::ChangeJoint { run, .. } | Edit::RemoveJoint { run, .. } => {
            let index = index_of(next, *run)?;
            change_joints(next, index, edit)?;
            twin_follows(next, index);
        }
        Edit::SetTwin { run, twin } => set_twin(next, *run, *twin)?,
        other => measured(next, other)?,
    }
    Ok(())
}

/// Most edits that are made as one: a table of readings of a whole bay.
const MOST_TOGETHER: usize = 2000;

/// Bend radius of a new run, as diameters: what mandrel elbows are mostly sold in.
const USUAL_RADIUS: f64 = 1.5;

fn drafted(job: &mut Job, draft: &RunDraft) -> Result<Run, EditError> {
    let RunDraft { name, duty, tube, radius, a, b } = draft.clone();
    // Of the thinnest tube that would be less than any bend's.
    let usual = BendRadius::nearest(tube.od() * USUAL_RADIUS);
    let mark = Some(Mark::proposed(name.as_str(), 2, &job.marks()));
    Ok(Run {
        id: RunId(take_id(job)?),
        name,
        mark,
        duty,
        tube,
        radius: radius.unwrap_or(usual),
        pressure: None,
        insulation: None,
        flow: FlowGiven::default(),
        wishes: RouteConstraints::default(),
        joint_a: EndJoint::usual(duty, &a, tube.od()),
        joint_b: EndJoint::usual(duty, &b, tube.od()),
        a,
        b,
        way: None,
        kept: Vec::new(),
        twin: None,
    })
}

/// A run without a way takes the best there is, so that a pipe is there at once.
fn find_first_way(job: &mut Job, index: usize) {
    if job.runs[index].way.is_none() {
        let settled = Survey::new(job).settle(&job.runs[index]);
        if settled.a.at.distance(settled.b.at) >= Job::LEAST_APART {
            job.runs[index].way = ways(&settled).ways.into_iter().next().map(|best| best.way);
        }
    }
}

fn change_run(job: &mut Job, index: usize, edit: &Edit) -> Result<(), EditError> {
    // What leans on where the ports stand is worked out before the run is touched.
    let reshaped = match edit {
        Edit::Reshape { target, .. } => {
            let run = Survey::new(job).settle(&job.runs[index]);
            let way = run.way.as_ref().ok_or(EditError::NoWayYet)?;
            Some(reshape(&run, way, *target).map_err(|problem| EditError::Reshape { problem })?)
        }
        Edit::TakeWay { way, .. } => Some(with_joints_of(&Survey::new(job).settle(&job.runs[index]), way)),
        Edit::MovePort { run, end, .. } => {
            not_held(job, PortRef { run: *run, end: *end }, |estimate| estimate.place)?;
            None
        }
        Edit::AimPort { run, end, .. } => {
            not_held(job, PortRef { run: *run, end: *end }, |estimate| estimate.aim)?;
            None
        }
        _ => None,
    };
    let run = &mut job.runs[index];
    match edit {
        Edit::RenameRun { name, .. } => run.name = name.clone(),
        Edit::SetMark { mark, .. } => run.mark = Some(mark.clone()),
        Edit::SetDuty { duty, .. } => run.duty = *duty,
        Edit::SetTube { tube, .. } => run.tube = *tube,
        Edit::SetPressure { pressure, .. } => run.pressure = *pressure,
        Edit::SetInsulation { insulation, .. } => run.insulation = *insulation,
        Edit::SetFlow { flow, .. } => run.flow = *flow,
        Edit::SetWishes { wishes, .. } => run.wishes = wishes.clone(),
        Edit::SetPort { end, port, .. } => *run.port_mut(*end) = port.clone(),
        Edit::MovePort { end, at, .. } => run.port_mut(*end).at = *at,
        Edit::AimPort { end, out, .. } => run.port_mut(*end).out = *out,
        Edit::SetJoint { end, kind, .. } => run.joint_mut(*end).kind = *kind,
        Edit::SetGap { end, gap, .. } => run.joint_mut(*end).gap = *gap,
        Edit::SetSeat { end, seat, .. } => run.joint_mut(*end).seat = *seat,
        Edit::SetRadius { radius, .. } => run.radius = *radius,
        Edit::SetBendRadius { bend, radius, .. } => bend_of(run, *bend)?.radius = *radius,
        Edit::SetSeams { bend, seams, .. } => bend_of(run, *bend)?.seams = *seams,
        Edit::SetPieEnds { bend, ends, .. } => bend_of(run, *bend)?.ends = *ends,
        Edit::Reshape { .. } | Edit::TakeWay { .. } => run.way = reshaped,
        _ => unreachable!("not an edit of one run"),
    }
    sound(job)?;
    find_first_way(job, index);
    Ok(())
}

/// A port whose place or direction follows from readings is not moved by hand.
fn not_held(job: &Job, port: PortRef, basis: fn(&PoseEstimate) -> Basis) -> Result<(), EditError> {
    let survey = Survey::new(job);
    let name = || job.port(port).map_or_else(String::new, |port| port.name.clone());
    if let Some(component) = survey.component(port).filter(|component| component.turned.get() != 0.0) {
        return Err(EditError::OnTurned { name: name(), component: component.name.as_str().to_owned() });
    }
    match survey.alone(Measurand::Port { port }) {
        Some(estimate) if basis(&estimate) == Basis::Fixed => Err(EditError::HeldByReadings { name: name() }),
        _ => Ok(()),
    }
}

fn bend_of(run: &mut Run, bend: usize) -> Result<&mut BendSpec, EditError> {
    let way = run.way.as_mut().ok_or(EditError::NoWayYet)?;
    let bends = way.bends().len();
    way.bend_mut(bend).ok_or(EditError::NoSuchBend { bend, bends })
}
