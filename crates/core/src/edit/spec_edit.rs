//! Decisions about what a pipe is: what it carries, its tube, its pressure, what flows.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::EditError;
use super::job_edit::{end_joint, usual_radius};
use super::lookup::{find_first_way, find_way_anew, index_of, sound};
use crate::flow::FlowGiven;
use crate::job::Job;
use crate::join::SupportKind;
use crate::measure::End;
use crate::measure::RunId;
use crate::route::Stretch;
use crate::route::{Joint, JointId, Route, Run, Support};
use crate::stock::{Duty, HoseBuild, Material, Tube, usual_hose};
use nook_geometry::units::{Insulation, OutsideDiameter, Pressure};

/// A decision about what a pipe is.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
pub enum SpecEdit {
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
    /// Builds a pipe of hose, with bends, ends and tube as that has them; what was welded to it or joined in it goes.
    SetHose {
        /// Which pipe.
        run: RunId,
        /// How the hose is built.
        hose: HoseBuild,
        /// What of; by default what it is of, or what is usual for what it carries.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        material: Option<Material>,
        /// Inside diameter in mm of one that is pushed over the mouths; by default as it is, or as wide as A's mouth.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        bore: Option<OutsideDiameter>,
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
    /// Says how thick the wrapping round one stretch of a pipe is, 0 where that is bare; nothing makes it as the run is.
    WrapStretch {
        /// Which pipe.
        run: RunId,
        /// Which straight or bend of it.
        stretch: Stretch,
        /// In mm.
        insulation: Option<Insulation>,
    },
    /// Says that a pipe drains by gravity alone, and towards which end; nothing takes that back.
    SetDrains {
        /// Which pipe.
        run: RunId,
        /// Towards which end.
        to: Option<End>,
    },
    /// Says what flows through a pipe.
    SetFlow {
        /// Which pipe.
        run: RunId,
        /// How much, how hot.
        flow: FlowGiven,
    },
}

impl SpecEdit {
    pub(super) fn apply(&self, job: &mut Job) -> Result<(), EditError> {
        let index = index_of(job, self.run())?;
        let run = &mut job.runs[index];
        match self {
            Self::SetDuty { duty, .. } => run.duty = *duty,
            Self::SetTube { tube, .. } => {
                run.tube = *tube;
                if !tube.material().is_hose() && run.hose.is_some() {
                    built_of_tube(run);
                }
            }
            Self::SetHose { hose, material, bore, .. } => {
                built_of_hose(run, *hose, *material, *bore)?;
            }
            Self::SetPressure { pressure, .. } => run.pressure = *pressure,
            Self::SetInsulation { insulation, .. } => run.insulation = *insulation,
            Self::WrapStretch { stretch, insulation, .. } => {
                if !run.route.wrap(*stretch, *insulation) {
                    return Err(EditError::NoSuchStretch);
                }
            }
            Self::SetDrains { to, .. } => run.drains = *to,
            Self::SetFlow { flow, .. } => run.flow = *flow,
        }
        sound(job)?;
        if matches!(self, Self::SetHose { .. }) {
            find_way_anew(job, index)?;
        }
        find_first_way(job, index)?;
        super::twins::twin_follows(job, index);
        Ok(())
    }

    const fn run(&self) -> RunId {
        match self {
            Self::SetDuty { run, .. }
            | Self::SetTube { run, .. }
            | Self::SetHose { run, .. }
            | Self::SetPressure { run, .. }
            | Self::SetInsulation { run, .. }
            | Self::WrapStretch { run, .. }
            | Self::SetDrains { run, .. }
            | Self::SetFlow { run, .. } => *run,
        }
    }
}

/// The pipe as a hose. Its bends lose what they were as tube.
fn built_of_hose(
    run: &mut Run,
    hose: HoseBuild,
    material: Option<Material>,
    bore: Option<OutsideDiameter>,
) -> Result<(), EditError> {
    let was = run.hose;
    let own = was.is_some().then(|| run.tube.material());
    let material = material.or(own).unwrap_or_else(|| usual_hose(run.duty));
    let same_build = was.is_some_and(|was| std::mem::discriminant(&was) == std::mem::discriminant(&hose));
    let as_it_is = same_build.then(|| run.tube.bore());
    let bore = bore.map(OutsideDiameter::get).or(as_it_is).unwrap_or_else(|| run.a.od.get());
    let tube = hose.tube(material, bore).map_err(|_| EditError::NoSuchHose { bore })?;
    if !same_build || hose.least_radius(tube) > run.radius.get() {
        run.radius = usual_radius(tube, Some(hose));
    }
    (run.tube, run.hose) = (tube, Some(hose));
    if was.is_none() {
        rebuilt(run);
    }
    Ok(())
}

/// The pipe as tube again.
fn built_of_tube(run: &mut Run) {
    run.hose = None;
    run.radius = usual_radius(run.tube, None);
    rebuilt(run);
}

/// The usual joints at the ends, and nothing between them, on the way taken and on those kept: neither what was joined in it
/// nor what was let into it goes over from tube to hose or back.
fn rebuilt(run: &mut Run) {
    let of = (run.duty, run.tube, run.hose);
    let ends: Vec<Joint> = [End::A, End::B].map(|end| end_joint(run.joint(end).id, end, run.port(end), of)).into();
    let bare = |way: &Route| {
        let joints = way.joints().iter().filter_map(|joint| {
            let of_end = joint.end().and_then(|end| ends.get(usize::from(end == End::B)))?;
            Some(Joint { id: JointId(joint.id.0), ..of_end.clone() })
        });
        let welded = |support: &&Support| support.kind == SupportKind::Tab;
        let supports = way.supports().iter().filter(|one| !welded(one)).cloned().collect();
        let mut way = way.clone().with_joints(joints.collect()).with_branches(Vec::new()).with_supports(supports);
        for bend in 0..way.bends().len() {
            if let Some(bend) = way.bend_mut(bend) {
                (bend.radius, bend.make) = (None, None);
            }
        }
        way
    };
    run.route = bare(&run.route);
    for kept in &mut run.kept {
        kept.way = bare(&kept.way);
    }
}
