//! What is let into pipes, for tests of it.

use nook_core::edit::BranchChange;
use nook_core::join::BranchKind;
use nook_core::measure::EndForm;
use nook_core::route::{BranchId, Centreline, Route};
use nook_core::stock::Duty;
use nook_core::workup::BranchWorkup;
use nook_core::{Edit, Job, JoinEdit, PartRef, RouteEdit, RunId, apply};
use nook_geometry::units::Lead;

use super::held::{OD, at, told, with};
use super::{draft, job_with, port, tube};

/// The pipe with something let in, and its number.
pub fn let_in(job: &Job, run: RunId, (leg, mm): (usize, f64), kind: BranchKind) -> (Job, BranchId) {
    let applied = apply(job, &Edit::Join(JoinEdit::AddBranch { run, at: at(job, run, leg, mm), kind })).unwrap();
    let Some(PartRef::Branch { branch, .. }) = applied.made.first().copied() else { panic!("it names what it made") };
    (applied.job, branch)
}

pub fn change_branch(run: RunId, branch: BranchId, to: BranchChange) -> Edit {
    Edit::Join(JoinEdit::ChangeBranch { run, branch, to })
}

/// The first thing that is let in.
pub fn one(job: &Job, run: RunId) -> BranchWorkup {
    told(job, run).branches[0].clone()
}

/// A coolant line over an arch: up, level, down; its highest straight so long and so high over its ends, in mm.
pub fn arch(level: f64, high: f64) -> (Job, RunId) {
    let mut run = draft(port([0.0; 3], [0.0, 0.0, 1.0], OD), port([level, 0.0, 0.0], [0.0, 0.0, 1.0], OD));
    (run.a.form, run.b.form) = (EndForm::Beaded, EndForm::Beaded);
    (run.duty, run.tube) = (Duty::Coolant, tube(OD, 1.5));
    let (job, run) = job_with(run);
    let (lead_a, lead_b) = (Lead::new(high).unwrap(), Lead::new(high).unwrap());
    let way = Route::along(Centreline::Vertices { lead_a, between: Vec::new(), lead_b });
    (with(&job, &[Edit::Route(RouteEdit::TakeWay { run, way })]), run)
}
