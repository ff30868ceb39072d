//! A stub let into one pipe as the mouth of another: it goes where that goes, and neither hides what is wrong with the other.

#![allow(clippy::unwrap_used, clippy::panic, clippy::float_cmp, reason = "a test fails by panicking")]

use nalgebra::{Point3, Vector3};
use nook_core::edit::{BranchChange, EditError, SupportChange};
use nook_core::findings::{FindingKind, Severity};
use nook_core::job::Invalid;
use nook_core::join::{BranchKind, SupportKind};
use nook_core::measure::{End, MountKind, Side};
use nook_core::route::{BranchId, StubEnds, StubRef, Target};
use nook_core::stock::{Duty, HoseBuild, Material};
use nook_core::survey::Survey;
use nook_core::{Edit, Job, JobEdit, JoinEdit, MeasureEdit, PartRef, RouteEdit, RunId, SpecEdit, apply};
use nook_geometry::clearance::Rides;
use nook_geometry::units::{BranchAngle, BranchReach, Rotation, Straight};
use nook_geometry::{Direction, Point};

use crate::support::branched::{change_branch as change, let_in};
use crate::support::held::{found, held, on, straight, told, with};
use crate::support::{draft, port, tube};

type V3 = Vector3<f64>;

/// An intake pipe along x with a breather's stub on top, and the number of that.
fn host() -> (Job, RunId, BranchId) {
    let (job, run) = straight([Side::Body, Side::Body]);
    let job = with(&job, &[Edit::Spec(SpecEdit::SetDuty { run, duty: Duty::Intake })]);
    let (job, stub) = let_in(&job, run, (0, 400.0), BranchKind::Breather);
    (job, run, stub)
}

/// A pipe of tube from a place above and aside down to the stub.
fn joined() -> (Job, RunId, BranchId, RunId) {
    let (job, host, stub) = host();
    let mut run = draft(port([700.0, 300.0, 300.0], [-1.0, 0.0, 0.0], 19.05), port([0.0; 3], [0.0, 0.0, 1.0], 19.05));
    (run.duty, run.tube) = (Duty::Intake, tube(19.05, 1.2));
    run.stubs = StubEnds { a: None, b: Some(StubRef { run: host, branch: stub }) };
    let job = apply(&job, &Edit::Job(JobEdit::AddRun { run })).unwrap().job;
    let own = job.runs().last().unwrap().id;
    (job, host, stub, own)
}

fn mouth(job: &Job, run: RunId, end: End) -> (Point3<f64>, V3, f64) {
    let settled = Survey::new(job).settle(job.run(run).unwrap());
    let port = settled.port(end);
    (port.at.inner(), port.out.vector(), port.od.get())
}

#[test]
fn a_mouth_on_a_stub_goes_wherever_the_stub_goes() {
    let (job, host, stub, own) = joined();
    // The tube is 38.1 outside and its mouth 6 from where its axis begins; the stub stands 45 out of its skin.
    let (at, out, od) = mouth(&job, own, End::B);
    let x = at.x;
    assert!((at - Point3::new(x, 0.0, 19.05 + 45.0)).norm() < 1e-9 && (out - V3::z()).norm() < 1e-9 && od == 19.05);
    type Holds = fn(f64, Point3<f64>, V3) -> bool;
    let moves: [(BranchChange, Holds); 3] = [
        (BranchChange::Reach { reach: BranchReach::new(60.0).ok() }, |x, at, _| {
            (at - Point3::new(x, 0.0, 79.05)).norm() < 1e-9
        }),
        (BranchChange::Clock { clock: Rotation::new(90.0).ok() }, |_, at, out| {
            out.z.abs() < 1e-9 && (at.y.abs() - 64.05).abs() < 1e-9
        }),
        (BranchChange::Angle { angle: BranchAngle::new(45.0).ok() }, |_, _, out| {
            (out.x - out.z).abs() < 1e-9 && out.x > 0.7
        }),
    ];
    for (to, holds) in moves {
        let moved = with(&job, &[change(host, stub, to)]);
        let (at, out, _) = mouth(&moved, own, End::B);
        assert!(holds(x, at, out), "{at} {out}");
        // Its pipe lands there.
        let told = told(&moved, own);
        assert!((Point3::from(told.ends[1].tube_end) - (at + out * told.ends[1].gap.mm())).norm() < 1e-6);
    }
    // Let go, it stays where it stands and may be moved by hand; before that it may not.
    let aim =
        Edit::Measure(MeasureEdit::AimPort { run: own, end: End::B, out: Direction::new(1.0, 0.0, 1.0).unwrap() });
    assert_eq!(apply(&job, &aim), Err(EditError::StaysOnItsStub));
    let free = with(&job, &[Edit::Measure(MeasureEdit::JoinStub { run: own, end: End::B, stub: None })]);
    assert_eq!(mouth(&free, own, End::B), mouth(&job, own, End::B));
    assert!(apply(&free, &aim).is_ok());
}

#[test]
fn the_stub_and_what_goes_on_from_it_do_not_foul_each_other_and_hide_nothing_else() {
    let (job, host, _, own) = joined();
    for run in [host, own] {
        let near = found(&job, run, FindingKind::TooNear);
        assert!(near.is_empty(), "{run:?}: {:?}", near.iter().map(|one| &one.words.mm).collect::<Vec<_>>());
        assert_eq!(found(&job, run, FindingKind::NoWayIn), [], "what goes on from a stub is not in its way");
    }
    // A pipe that comes back along its host is told of, though it begins on it.
    let (x, ..) = (mouth(&job, own, End::B).0.x, ());
    let mut run = draft(port([x - 300.0, 0.0, 48.0], [1.0, 0.0, 0.0], 19.05), port([0.0; 3], [0.0, 0.0, 1.0], 19.05));
    (run.duty, run.tube) = (Duty::Intake, tube(19.05, 1.2));
    let (bare, host, stub) = self::host();
    run.stubs.b = Some(StubRef { run: host, branch: stub });
    let along = apply(&bare, &Edit::Job(JobEdit::AddRun { run })).unwrap().job;
    let own = along.runs().last().unwrap().id;
    assert!(!found(&along, own, FindingKind::TooNear).is_empty());
}

#[test]
fn a_mouth_on_a_stub_that_has_no_place_is_not_made_to() {
    let (job, host, _, own) = joined();
    assert!(found(&job, own, FindingKind::StubNotThere).is_empty());
    // Its host's other mouth is moved aside: a straight does not join the two any more, and the stub is nowhere.
    let aside = Point::new(900.0, 60.0, 0.0).unwrap();
    let apart = with(&job, &[Edit::Measure(MeasureEdit::MovePort { run: host, end: End::B, at: aside })]);
    assert!(told(&apart, host).totals.is_none());
    let lost = told(&apart, own);
    let missing: Vec<_> = lost.findings.iter().filter(|one| one.kind == FindingKind::StubNotThere).collect();
    assert_eq!(missing.len(), 1);
    assert_eq!((missing[0].part, missing[0].severity), (PartRef::End { run: own, end: End::B }, Severity::Error));
    assert!(
        lost.pieces.is_empty() && lost.totals.is_none(),
        "nothing is sawn for a mouth of which nobody knows the place"
    );
    // With its host mended it is there again, and as it was.
    let back = Point::new(900.0, 0.0, 0.0).unwrap();
    let mended = with(&apart, &[Edit::Measure(MeasureEdit::MovePort { run: host, end: End::B, at: back })]);
    assert_eq!(told(&mended, own).pieces, told(&job, own).pieces);
}

#[test]
fn it_moves_with_the_section_its_stub_is_on() {
    let (job, host, _, own) = joined();
    let job = on(&job, MountKind::Firm);
    let rides = |job: &Job| Survey::new(job).settle(job.run(own).unwrap()).port(End::B).rides;
    assert_eq!(rides(&job), Side::Body);
    // Held on the engine, its host goes with that.
    let ends = [End::A, End::B].map(|end| {
        let mut port = job.run(host).unwrap().port(end).clone();
        port.rides = Side::Engine;
        Edit::Measure(MeasureEdit::SetPort { run: host, end, port })
    });
    let engine = with(&job, &ends);
    assert_eq!(rides(&engine), Side::Engine);
    // Between the two it hangs on couplers: it is taken to move against the other end, whichever side that is on.
    let hanging = with(&job, &ends[..1]);
    for side in [Side::Engine, Side::Body] {
        let mut port = hanging.run(own).unwrap().a.clone();
        port.rides = side;
        let job = with(&hanging, &[Edit::Measure(MeasureEdit::SetPort { run: own, end: End::A, port })]);
        assert_eq!(rides(&job), side.other());
    }
    // A clamp to the body settles it.
    let (clamped, support) = held(&hanging, host, (0, 200.0), SupportKind::Clamps, Side::Body);
    assert_eq!(rides(&clamped), Side::Body);
    let to = SupportChange::To { to: Side::Engine };
    let clamped = with(&clamped, &[Edit::Join(JoinEdit::ChangeSupport { run: host, support, to })]);
    assert_eq!(rides(&clamped), Side::Engine);
}

#[test]
fn what_its_host_carries_along_does_not_move_against_its_host() {
    let (job, host, stub) = host();
    let job = on(&job, MountKind::Firm);
    let mut b = job.run(host).unwrap().b.clone();
    b.rides = Side::Engine;
    let job = with(&job, &[Edit::Measure(MeasureEdit::SetPort { run: host, end: End::B, port: b })]);
    let mut run = draft(port([400.0, 250.0, 500.0], [0.0, 0.0, -1.0], 19.05), port([0.0; 3], [0.0, 0.0, 1.0], 19.05));
    (run.duty, run.tube) = (Duty::Intake, tube(19.05, 1.2));
    run.stubs.b = Some(StubRef { run: host, branch: stub });
    let job = apply(&job, &Edit::Job(JobEdit::AddRun { run })).unwrap().job;
    let own = job.runs().last().unwrap().id;
    let hose = SpecEdit::SetHose {
        run: own,
        hose: HoseBuild::Corrugated,
        material: Some(Material::FluoroSilicone),
        bore: None,
    };
    let job = with(&job, &[hose.into()]);
    for run in [own, host] {
        let near: Vec<_> =
            found(&job, run, FindingKind::Fouls).into_iter().chain(found(&job, run, FindingKind::TooNear)).collect();
        assert!(near.is_empty(), "{run:?}: {:?}", near.iter().map(|one| &one.words.mm).collect::<Vec<_>>());
    }
    let settled = Survey::new(&job).settle(job.run(own).unwrap());
    assert!(!matches!(settled.mouth_rides(End::B), Rides::Engine | Rides::Body));
}

#[test]
fn what_others_go_on_from_is_not_taken_away_under_them() {
    let (job, host, stub, own) = joined();
    let refused = |job: &Job, edit: Edit| match apply(job, &edit) {
        Err(EditError::Invalid { problem }) => problem,
        other => panic!("{other:?}"),
    };
    let gone = Invalid::NoSuchStub { run: "Hot side".to_owned(), end: 'B' };
    let hose =
        SpecEdit::SetHose { run: host, hose: HoseBuild::Corrugated, material: Some(Material::Silicone), bore: None };
    for edit in [
        Edit::Join(JoinEdit::RemoveBranch { run: host, branch: stub }),
        change(host, stub, BranchChange::Kind { kind: BranchKind::PressureSensor }),
        Edit::Job(JobEdit::RemoveRun { run: host }),
        hose.into(),
    ] {
        assert_eq!(refused(&job, edit), gone);
    }
    // Nor is it placed twice over, nor taken by two, nor does anything hang on itself.
    let to = |run: RunId, end: End, on: RunId, branch: BranchId| {
        Edit::Measure(MeasureEdit::JoinStub { run, end, stub: Some(StubRef { run: on, branch }) })
    };
    let twice = refused(&job, to(own, End::A, host, stub));
    assert_eq!(twice, Invalid::StubTwice { run: "Hot side".to_owned() });
    let (more, second) = let_in(&job, own, (0, 60.0), BranchKind::Breather);
    assert_eq!(refused(&more, to(host, End::A, own, second)), Invalid::StubCircle { run: "Hot side".to_owned() });
    assert_eq!(refused(&more, to(own, End::A, own, second)), Invalid::StubCircle { run: "Hot side".to_owned() });
    // Its own pipe may go at any time, and then the stub may.
    let bare = with(
        &job,
        &[Edit::Job(JobEdit::RemoveRun { run: own }), Edit::Join(JoinEdit::RemoveBranch { run: host, branch: stub })],
    );
    assert_eq!(bare.runs().len(), 1);
}

#[test]
fn reshaping_its_host_takes_it_along_and_keeps_it_lawful() {
    let (job, host) = crate::support::branched::arch(700.0, 300.0);
    let job = with(&job, &[Edit::Spec(SpecEdit::SetDuty { run: host, duty: Duty::Intake })]);
    let (job, stub) = let_in(&job, host, (1, 300.0), BranchKind::Breather);
    let mut run = draft(port([700.0, 300.0, 600.0], [-1.0, 0.0, 0.0], 19.05), port([0.0; 3], [0.0, 0.0, 1.0], 19.05));
    (run.duty, run.tube) = (Duty::Intake, tube(19.05, 1.2));
    run.stubs.b = Some(StubRef { run: host, branch: stub });
    let job = apply(&job, &Edit::Job(JobEdit::AddRun { run })).unwrap().job;
    let own = job.runs().last().unwrap().id;
    let before = mouth(&job, own, End::B).0;
    let leg = job.run(host).unwrap().route.leg_id(0);
    let longer = Target::Straight { straight: leg, length: Straight::new(290.0).unwrap() };
    let higher = with(&job, &[RouteEdit::shaped(host, longer).into()]);
    let after = mouth(&higher, own, End::B).0;
    assert!((after - before).norm() > 1.0 && higher.check().is_ok(), "{before} {after}");
    assert!(told(&higher, own).totals.is_some(), "its pipe still lands");
}

#[test]
fn a_sensor_in_the_wake_of_a_bend_is_told_of() {
    let (bent, run) = crate::support::branched::arch(500.0, 260.0);
    let bent = with(&bent, &[Edit::Spec(SpecEdit::SetDuty { run, duty: Duty::ChargeCold })]);
    // Over the arch the inside of its first bend is below.
    for (mm, clock, told) in [(45.0, 180.0, true), (45.0, 0.0, false), (45.0, 90.0, false), (90.0, 180.0, false)] {
        let (job, sensor) = let_in(&bent, run, (1, mm), BranchKind::TemperatureSensor);
        let clock = BranchChange::Clock { clock: Rotation::new(clock).ok() };
        let job = with(&job, &[change(run, sensor, clock)]);
        let findings = found(&job, run, FindingKind::SensorInShadow);
        assert_eq!(!findings.is_empty(), told, "{mm}");
        findings.iter().for_each(|finding| crate::support::held::mended(&job, run, finding));
    }
}
