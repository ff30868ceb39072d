//! A straight coolant line and what is put on it, for tests of what holds a pipe.

use nook_core::edit::SupportChange;
use nook_core::findings::{Finding, FindingKind};
use nook_core::join::{EngineFiring, SupportKind};
use nook_core::measure::{EndForm, KeepOutKind, KeepOutShape, MountKind, Mounts, Side};
use nook_core::route::{AlongAnchor, Centreline, LegEnd, Route, SupportDraft, SupportId};
use nook_core::stock::Duty;
use nook_core::workup::Workup;
use nook_core::{Edit, Job, JoinEdit, MeasureEdit, PartRef, RouteEdit, RunId, apply, workup};
use nook_geometry::Point;
use nook_geometry::units::{AlongLeg, EngineSpeed, Name, Roll, Shift};

use super::{draft, job_with, port, tube};

/// Its tube's outside diameter in mm.
pub const OD: f64 = 38.1;
/// How long it is from mouth to mouth, in mm.
pub const LONG: f64 = 900.0;

/// A straight coolant line along x, 900 mm from mouth to mouth, its ends on these sides.
pub fn straight(rides: [Side; 2]) -> (Job, RunId) {
    let mut run = draft(port([0.0; 3], [1.0, 0.0, 0.0], OD), port([LONG, 0.0, 0.0], [-1.0, 0.0, 0.0], OD));
    (run.a.form, run.b.form) = (EndForm::Beaded, EndForm::Beaded);
    (run.a.rides, run.b.rides) = (rides[0], rides[1]);
    (run.duty, run.tube) = (Duty::Coolant, tube(OD, 1.5));
    let (job, run) = job_with(run);
    let way = Route::along(Centreline::Straight);
    (apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way })).unwrap().job, run)
}

pub fn with(job: &Job, edits: &[Edit]) -> Job {
    edits.iter().fold(job.clone(), |job, edit| apply(&job, edit).unwrap().job)
}

pub fn at(job: &Job, run: RunId, leg: usize, mm: f64) -> AlongAnchor {
    let leg = job.run(run).unwrap().route.leg_id(leg);
    AlongAnchor { leg, from: LegEnd::Start, mm: AlongLeg::new(mm).unwrap() }
}

/// The pipe with one more support, and its number.
pub fn held(job: &Job, run: RunId, (leg, mm): (usize, f64), kind: SupportKind, to: Side) -> (Job, SupportId) {
    let support = SupportDraft { at: at(job, run, leg, mm), kind, to: Some(to) };
    let applied = apply(job, &Edit::Join(JoinEdit::AddSupport { run, support })).unwrap();
    let Some(PartRef::Support { support, .. }) = applied.made.first().copied() else { panic!("it names what it made") };
    (applied.job, support)
}

pub fn mounts(kind: MountKind) -> Mounts {
    let point = |x| Point::new(x, 0.0, -300.0).unwrap();
    let (roll, overrun) = (Roll::new(1.0).ok(), Roll::new(1.0).ok());
    Mounts { kind, from: point(0.0), to: point(1000.0), roll, overrun, crank: None, shift: Shift::new(0.0).ok() }
}

pub fn on(job: &Job, kind: MountKind) -> Job {
    with(job, &[Edit::Measure(MeasureEdit::SetMounts { mounts: Some(mounts(kind)) })])
}

pub fn told(job: &Job, run: RunId) -> Workup {
    workup(job, run).unwrap()
}

pub fn found(job: &Job, run: RunId, kind: FindingKind) -> Vec<Finding> {
    told(job, run).findings.into_iter().filter(|one| one.kind == kind).collect()
}

/// Each remedy of a finding leaves none like it.
#[track_caller]
pub fn mended(job: &Job, run: RunId, finding: &Finding) {
    assert!(!finding.remedies.is_empty());
    for remedy in &finding.remedies {
        let after = apply(job, &remedy.edit).unwrap().job;
        assert_eq!(found(&after, run, finding.kind), [], "{}", remedy.label.mm);
    }
}

pub fn block(centre: [f64; 3], size: [f64; 3], rides: Side) -> Edit {
    let centre = Point::try_from(centre).unwrap();
    let shape = KeepOutShape::Box { centre, size, heading: 0.0, pitch: 0.0, roll: 0.0 };
    let name = Name::new("frame rail").unwrap();
    Edit::Measure(MeasureEdit::AddKeepOut { name, kind: KeepOutKind::StillMetal, rides, shape, big: false })
}

pub fn change(run: RunId, support: SupportId, to: SupportChange) -> Edit {
    Edit::Join(JoinEdit::ChangeSupport { run, support, to })
}

/// A five-cylinder engine whose usual speeds are these, in rpm.
pub fn five(top: f64, least: Option<f64>) -> Edit {
    let speed = |rpm: f64| EngineSpeed::new(rpm).unwrap();
    let firing = EngineFiring { cylinders: 5, top: speed(top), least: least.map(speed) };
    Edit::Measure(MeasureEdit::SetFiring { firing: Some(firing) })
}

/// First frequency in Hz of pinned ends `length` mm apart, full of what weighs `fluid` kg/m3, from the definition.
pub fn ring(length: f64, fluid: f64) -> f64 {
    let (out, inner) = (OD / 1000.0, (OD - 3.0) / 1000.0);
    let pi = std::f64::consts::PI;
    let bends = 193e9 * pi / 64.0 * (out.powi(4) - inner.powi(4));
    let mass = 7930.0 * pi / 4.0 * (out * out - inner * inner) + fluid * pi / 4.0 * inner * inner;
    pi / 2.0 * (bends / mass).sqrt() / (length / 1000.0).powi(2)
}
