//! What comes out with a section as its joints are parted, and what keeps it from being parted at all.

#![allow(clippy::unwrap_used, clippy::panic, clippy::float_cmp, reason = "a test fails by panicking")]

use crate::support::by_place::kind;
use crate::support::{draft, job_with, port, tube};
use nook_core::join::JointKind;
use nook_core::measure::{End, EndForm, KeepOutKind, KeepOutShape, Side};
use nook_core::route::{AlongAnchor, Centreline, LegEnd, Route};
use nook_core::stock::Duty;
use nook_core::taken_out::{NotParted, taken_out};
use nook_core::{Edit, Job, JoinEdit, MeasureEdit, RouteEdit, RunId, Scans, apply, workup};
use nook_geometry::Point;
use nook_geometry::units::{AlongLeg, Name};

/// A straight pipe along x, from mouth to mouth so long, parted there by a joint of a kind.
fn parted(long: f64, middle: f64, joint: JointKind) -> (Job, RunId) {
    let mut run = draft(port([0.0; 3], [1.0, 0.0, 0.0], 63.5), port([long, 0.0, 0.0], [-1.0, 0.0, 0.0], 63.5));
    (run.a.form, run.b.form) = (EndForm::Beaded, EndForm::Beaded);
    (run.duty, run.tube) = (Duty::ChargeCold, tube(63.5, 2.0));
    let (job, run) = job_with(run);
    let way = Route::along(Centreline::Straight);
    let job = apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way })).unwrap().job;
    let leg = job.run(run).unwrap().route.leg_id(0);
    let at = AlongAnchor { leg, from: LegEnd::Start, mm: AlongLeg::new(middle).unwrap() };
    (apply(&job, &Edit::Join(JoinEdit::AddJoint { run, at, kind: joint })).unwrap().job, run)
}

#[test]
fn a_hose_is_slid_onto_whichever_tube_is_long_enough_or_it_stays() {
    let scans = Scans::default();
    let (job, run) = parted(700.0, 344.0, JointKind::Coupler);
    let told = workup(&job, run).unwrap();
    let hose = told.joints[0].hose.unwrap().mm();
    for section in 0..2 {
        let taken = taken_out(&job, run, section, &scans, &[]).unwrap();
        // Its tube, and two hoses of 5 mm that lie on it, the port's and the joint's.
        let hoses = taken.body.parts().iter().filter(|part| (part.radius - 63.5 / 2.0 - 5.0).abs() < 1e-9);
        let lengths: Vec<f64> = hoses.map(|part| part.span.length()).collect();
        assert_eq!(lengths.len(), 2);
        assert!(lengths.iter().any(|long| (long - hose).abs() < 1e-9), "{lengths:?} {hose}");
        assert!(taken.pull.norm() == 0.0 && taken.stays.len() == 1, "the other section stays");
    }
    // Two stubs hardly longer than their seats.
    let (job, run) = parted(150.0, 69.0, JointKind::Coupler);
    let Err(NotParted::HoseStays { need, have, .. }) = taken_out(&job, run, 0, &scans, &[]) else {
        panic!("it has no room")
    };
    assert!(have < need, "{have} {need}");
}

#[test]
fn flanges_go_with_the_tube_they_are_welded_to_and_are_pulled_apart_first() {
    let scans = Scans::default();
    let (job, run) = parted(700.0, 344.0, JointKind::VBand);
    let pulls = [0, 1].map(|section| taken_out(&job, run, section, &scans, &[]).unwrap().pull);
    assert!((pulls[0].x + 4.0).abs() < 1e-9 && (pulls[1].x - 4.0).abs() < 1e-9, "away from the band: {pulls:?}");
    for section in 0..2 {
        let taken = taken_out(&job, run, section, &scans, &[]).unwrap();
        let out = 63.5 / 2.0 + 11.0;
        let own = taken.body.parts().iter().filter(|part| (part.radius - out).abs() < 1e-9).count();
        assert_eq!(own, 1, "its half of the two");
        // Pulled so far, it keeps 2 mm from the half that stays.
        let home = taken.body.home();
        let pulled = nook_geometry::clearance::Held { at: home.at + taken.pull, ..home };
        assert!(taken.body.advance(&home, &pulled, &taken.stays, 2.0).stopped.is_none());
    }
}

#[test]
fn what_is_welded_on_and_what_is_not_there_is_told() {
    let scans = Scans::default();
    let (job, run) = parted(700.0, 344.0, JointKind::Coupler);
    let welded = apply(&job, &kind(&job, run, End::A, JointKind::Metal)).unwrap().job;
    assert!(matches!(taken_out(&welded, run, 0, &scans, &[]), Err(NotParted::Welded { .. })));
    assert!(taken_out(&welded, run, 1, &scans, &[]).is_ok(), "the other section is not");
    assert!(matches!(taken_out(&job, run, 2, &scans, &[]), Err(NotParted::NoSuchSection { section: 2, count: 2 })));
    assert!(matches!(taken_out(&job, RunId(99), 0, &scans, &[]), Err(NotParted::NoSuchRun(RunId(99)))));
}

#[test]
fn the_bonnet_is_open_and_everything_else_stays() {
    let (mut job, run) = parted(700.0, 344.0, JointKind::Coupler);
    let before = taken_out(&job, run, 0, &Scans::default(), &[]).unwrap().stays.len();
    let kinds = [
        (KeepOutKind::Bonnet, 0),
        (KeepOutKind::Sweep, 0),
        (KeepOutKind::Ground, 0),
        (KeepOutKind::StillMetal, 1),
        (KeepOutKind::HoseOrWire, 1),
        (KeepOutKind::Hot, 1),
    ];
    let mut more = 0;
    for (index, (kind, stays)) in kinds.into_iter().enumerate() {
        let centre = Point::new(300.0, 200.0, 50.0).unwrap();
        let shape = KeepOutShape::Sphere { centre, diameter: 40.0 };
        let name = Name::new(&format!("thing {index}")).unwrap();
        let edit = Edit::Measure(MeasureEdit::AddKeepOut { name, kind, rides: Side::Body, shape, big: false });
        job = apply(&job, &edit).unwrap().job;
        more += stays;
        assert_eq!(taken_out(&job, run, 0, &Scans::default(), &[]).unwrap().stays.len(), before + more, "{kind:?}");
    }
    let bounds = taken_out(&job, run, 0, &Scans::default(), &[]).unwrap().bounds;
    assert!(bounds[1].y >= 220.0 - 0.5 && bounds[1].z >= 70.0 - 0.5, "{bounds:?}");
}
