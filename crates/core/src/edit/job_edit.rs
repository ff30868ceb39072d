//! Decisions about the job as a whole: its name and its runs.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::lookup::{find_first_way, index_of, sound, take_id};
use super::{EditError, Made};
use crate::flow::FlowGiven;
use crate::job::Job;
use crate::join::JointKind;
use crate::measure::{End, Port, RunId};
use crate::route::{Joint, JointAnchor, JointId, Making, Mark, Route, RouteConstraints, Run, RunDraft};
use crate::stock::{Duty, HoseBuild, Tube};
use nook_geometry::units::{BendRadius, Name};

/// A decision about the job as a whole.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
#[allow(clippy::large_enum_variant, reason = "edits are made one at a time, and a new run is as large as it is")]
pub enum JobEdit {
    /// Gives the job another name.
    RenameJob {
        /// The new name.
        name: Name,
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
    /// Puts a pipe elsewhere among the others, as they hang on the rack.
    PlaceRun {
        /// Which pipe.
        run: RunId,
        /// Its place then, from 0; beyond the last is the last.
        to: usize,
    },
}

impl JobEdit {
    pub(super) fn apply(&self, job: &mut Job, made: &mut Made) -> Result<(), EditError> {
        match self {
            Self::RenameJob { name } => job.name = name.clone(),
            Self::AddRun { run } => {
                let run = drafted(job, run)?;
                made.run(run.id);
                job.runs.push(run);
                sound(job)?;
                let last = job.runs.len() - 1;
                find_first_way(job, last)?;
                made.parts(&job.runs[last]);
            }
            Self::RemoveRun { run } => {
                let index = index_of(job, *run)?;
                job.runs.remove(index);
                for component in &mut job.components {
                    component.ports.retain(|port| port.run != *run);
                }
                job.runs.iter_mut().filter(|other| other.twin == Some(*run)).for_each(|other| other.twin = None);
            }
            Self::RenameRun { run, name } => {
                let index = index_of(job, *run)?;
                job.runs[index].name = name.clone();
            }
            Self::SetMark { run, mark } => {
                let index = index_of(job, *run)?;
                job.runs[index].mark = Some(mark.clone());
            }
            Self::PlaceRun { run, to } => {
                let index = index_of(job, *run)?;
                let run = job.runs.remove(index);
                job.runs.insert((*to).min(job.runs.len()), run);
            }
        }
        Ok(())
    }
}

/// Bend radius of a new run, as diameters: what mandrel elbows are mostly sold in.
const USUAL_RADIUS: f64 = 1.5;

/// Radius of bends where nobody said. Of the thinnest tube that would be less than any bend's.
pub(super) fn usual_radius(tube: Tube, hose: Option<HoseBuild>) -> BendRadius {
    BendRadius::nearest(hose.map_or(tube.od() * USUAL_RADIUS, |hose| hose.usual_radius(tube)))
}

/// The usual joint at an end: a hose's own, or what joins tube to such a port.
pub(super) fn end_joint(
    id: JointId,
    end: End,
    port: &Port,
    (duty, tube, hose): (Duty, Tube, Option<HoseBuild>),
) -> Joint {
    match hose {
        Some(_) => Joint::new(id, JointAnchor::End { end }, JointKind::HoseEnd),
        None => Joint::usual(id, end, duty, port, tube.od()),
    }
}

fn drafted(job: &mut Job, draft: &RunDraft) -> Result<Run, EditError> {
    let RunDraft { name, duty, tube, hose, radius, a, b, stubs } = draft.clone();
    let usual = usual_radius(tube, hose);
    let joint = |id: u32, end: End, port: &Port| end_joint(JointId(id), end, port, (duty, tube, hose));
    let mark = Some(Mark::proposed(name.as_str(), 2, &job.marks()));
    Ok(Run {
        longest: None,
        making: Making::default(),
        id: RunId(take_id(job)?),
        name,
        mark,
        duty,
        tube,
        hose,
        stubs,
        radius: radius.unwrap_or(usual),
        pressure: None,
        insulation: None,
        flow: FlowGiven::default(),
        wishes: RouteConstraints::default(),
        route: Route::undecided(vec![joint(1, End::A, &a), joint(2, End::B, &b)]),
        a,
        b,
        kept: Vec::new(),
        drains: None,
        twin: None,
        next_part: 3,
    })
}
