//! A moulded elbow in place of a bend: the tube ends beside it, and everything that follows knows of it.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use nalgebra::{Point3, Vector3};
use nook_core::PartRef;
use nook_core::assembly::Assembly;
use nook_core::edit::JointChange;
use nook_core::findings::{FindingKind, Severity};
use nook_core::join::{JointKind, SupportKind};
use nook_core::measure::{KeepOutKind, KeepOutShape, MountKind, Mounts, Side};
use nook_core::route::{Centreline, ResolvedRun, Route, Target};
use nook_core::{CutEdit, Edit, Job, JoinEdit, MeasureEdit, RouteEdit, RunId, Workup, apply, workup};
use nook_geometry::Point;
use nook_geometry::units::{BendAngle, Name, Roll, Shift};
use proptest::prelude::*;

use crate::support::by_place::bend as bend_at;
use crate::support::held::{found, held, mended};
use crate::support::{draft, job_with, port};

const OD: f64 = 63.5;
/// Half of the diameter is less, so the seat is this; its legs are cut to 35, which reach 3 past it.
const SEAT: f64 = 32.0;
const PAST: f64 = 3.0;

/// A charge pipe of one bend of so many degrees, from the origin.
fn turning(degrees: f64) -> (Job, RunId) {
    let (sin, cos) = degrees.to_radians().sin_cos();
    let b = port([400.0 + 400.0 * cos, 400.0 * sin, 0.0], [-cos, -sin, 0.0], OD);
    let (job, run) = job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], OD), b));
    (with(&job, Edit::Route(RouteEdit::TakeWay { run, way: Route::along(Centreline::OneBend) })), run)
}

fn with(job: &Job, edit: impl Into<Edit>) -> Job {
    apply(job, &edit.into()).unwrap().job
}

fn with_elbow((job, run): (Job, RunId), bend: usize) -> (Job, RunId) {
    let bend = bend_at(&job, run, bend);
    (with(&job, Edit::Join(JoinEdit::AddElbow { run, bend })), run)
}

fn assembly(job: &Job, run: RunId) -> Assembly {
    Assembly::build(&ResolvedRun::as_typed(job.run(run).unwrap())).unwrap().unwrap()
}

fn kinds(workup: &Workup) -> Vec<FindingKind> {
    workup.findings.iter().map(|finding| finding.kind).collect()
}

#[test]
fn the_tubes_beside_it_are_sawn_square_where_its_seats_begin() {
    let (job, run) = with_elbow(turning(90.0), 0);
    let workup = workup(&job, run).unwrap();
    let joint = &workup.joints[0];
    let elbow = joint.elbow.as_ref().unwrap();
    assert_eq!((joint.kind, elbow.moulded, elbow.leg.mm(), joint.seat.mm()), (JointKind::Elbow, 90.0, 35.0, SEAT));
    assert!(elbow.pulled.abs() < 1e-9 && joint.name == "Moulded elbow at bend 1");
    assert_eq!(workup.bends[0].elbow, Some(joint.joint));
    // Two pieces of tube, square, without a weld; the first is as long as the axes' way to the corner less setback and leg.
    assert_eq!((workup.pieces.len(), workup.bends[0].welds, workup.totals.as_ref().unwrap().seams), (2, 0, 0));
    let radius = workup.bends[0].radius.mm();
    let gap = workup.ends[0].gap.mm();
    let long = 400.0 - radius - PAST - gap;
    for piece in &workup.pieces {
        assert!((piece.centre.mm() - long).abs() < 1e-9, "{} is {}, not {long}", piece.name, piece.centre.mm());
    }
    // Put together: the tube ends stand a setback and what is past the seats from the corner, square to each other.
    let ends = [workup.pieces[0].solids[0].solid.to, workup.pieces[1].solids[0].solid.from].map(Point3::from);
    let off = radius + PAST;
    assert!((ends[0] - Point3::new(400.0 - off, 0.0, 0.0)).norm() < 1e-9);
    assert!((ends[1] - Point3::new(400.0, off, 0.0)).norm() < 1e-9);
    // A bender gets two straight tubes, the buyer one elbow and its two clamps.
    assert_eq!(workup.lra.iter().map(|row| (row.tube, row.angle)).collect::<Vec<_>>(), [(0, None), (1, None)]);
    let rack = nook_core::rack::rack(
        &job,
        &nook_core::workup::bay(&job),
        std::slice::from_ref(&workup),
        &nook_core::rates::Rates::default(),
    );
    let line = rack.vehicle.buy.iter().find(|line| line.what.mm == "63.5 mm moulded elbow 90\u{b0}").unwrap();
    assert_eq!(line.count, Some(1));
}

#[test]
fn what_is_beside_its_arc_is_told_by_the_hose_and_not_by_the_tube() {
    let (plain, run) = turning(90.0);
    let (job, _) = with_elbow((plain.clone(), run), 0);
    let radius = workup(&job, run).unwrap().bends[0].radius.mm();
    // A knob of 10 mm outside the middle of the arc, in the plane of the bend and square to it.
    let centre = Point3::new(400.0 - radius, radius, 0.0);
    let out = Vector3::new(1.0, -1.0, 0.0).normalize();
    for (at, far) in [(centre + out * (radius + 60.0), 60.0), (centre + out * radius + Vector3::z() * 55.0, 55.0)] {
        let gap = |job: &Job| {
            let shape = KeepOutShape::Sphere { centre: Point::new(at.x, at.y, at.z).unwrap(), diameter: 10.0 };
            let (name, kind) = (Name::new("knob").unwrap(), KeepOutKind::StillMetal);
            let knob = MeasureEdit::AddKeepOut { name, kind, rides: Side::Body, shape, big: false };
            let air = workup(&with(job, Edit::Measure(knob)), run).unwrap().air.unwrap();
            air.trace.iter().filter_map(|piece| piece.gap.as_ref()).map(|gap| gap.mm()).fold(f64::INFINITY, f64::min)
        };
        let drawn = apply(
            &plain,
            &CutEdit::SetMake { run, bend: bend_at(&plain, run, 0), make: Some(nook_core::route::BendMake::Drawn) }
                .into(),
        );
        assert!((gap(&job) - (far - 5.0 - OD / 2.0 - 5.0)).abs() < 0.11, "{}", gap(&job));
        assert!((gap(&drawn.unwrap().job) - (far - 5.0 - OD / 2.0)).abs() < 0.11);
    }
    // What is drawn is what is cleared: chords along the arc, as thick as the hose.
    let over = workup(&job, run).unwrap().over;
    let chords: Vec<_> = over.iter().filter(|one| one.what == nook_core::join::OverKind::Elbow).collect();
    assert!(chords.len() >= 8 && chords.iter().all(|chord| (chord.radius - 36.75).abs() < 1e-9));
    for chord in chords {
        let middle = nalgebra::center(&Point3::from(chord.from), &Point3::from(chord.to));
        assert!(((middle - centre).norm() - radius).abs() < 0.3);
    }
}

#[test]
fn it_gives_in_place_of_a_coupler() {
    let (job, run) = turning(90.0);
    let [from, to] = [-200.0, 200.0].map(|y| Point::new(0.0, y, 0.0).unwrap());
    let (roll, shift) = (Roll::new(1.0).ok(), Shift::new(1.0).ok());
    let mounts = Some(Mounts { kind: MountKind::Firm, from, to, roll, overrun: roll, crank: None, shift });
    let mut a = job.run(run).unwrap().a.clone();
    a.rides = Side::Engine;
    let mut job = with(&job, Edit::Measure(MeasureEdit::SetMounts { mounts }));
    job = with(&job, Edit::Measure(MeasureEdit::SetPort { run, end: nook_core::measure::End::A, port: a }));
    for end in [nook_core::measure::End::A, nook_core::measure::End::B] {
        job = with(&job, crate::support::by_place::kind(&job, run, end, JointKind::Metal));
    }
    let stiff = |job: &Job| workup(job, run).unwrap().findings.iter().any(|one| one.words.mm.contains("gives nowhere"));
    assert!(stiff(&job));
    let (job, run) = with_elbow((job, run), 0);
    assert!(!stiff(&job));
    let told = workup(&job, run).unwrap();
    let figures = &told.joints[0].figures;
    assert!((figures.give.angle - 4.0).abs() < 1e-9);
    assert_eq!((figures.give.offset, figures.give.axial), (4.0, 4.0));
    // It alone takes all of the roll: a degree between its two sides.
    assert!((figures.takes.as_ref().unwrap().angle - 1.0).abs() < 0.01);
    assert_eq!(told.sections.len(), 2);
}

#[test]
fn it_is_of_an_angle_and_a_radius_that_is_sold() {
    let told = |degrees: f64| {
        let (job, run) = with_elbow(turning(degrees), 0);
        (workup(&job, run).unwrap(), job, run)
    };
    // Pulled by three degrees it has one left to give.
    let (pulled, ..) = told(48.0);
    assert!(!kinds(&pulled).contains(&FindingKind::ElbowAngle));
    assert!((pulled.joints[0].figures.give.angle - 1.0).abs() < 1e-6);
    let (odd, job, run) = told(60.0);
    let finding = odd.findings.iter().find(|one| one.kind == FindingKind::ElbowAngle).unwrap();
    assert!((finding.value.unwrap() - 15.0).abs() < 1e-6 && !finding.remedies.is_empty());
    for remedy in &finding.remedies {
        let after = workup(&with(&job, remedy.edit.clone()), run).unwrap();
        assert!(!kinds(&after).contains(&FindingKind::ElbowAngle), "{}", remedy.label.mm);
    }
    let (fits, job, run) = told(90.0);
    assert!(!kinds(&fits).contains(&FindingKind::TightBend));
    let bend = bend_at(&job, run, 0);
    let tight = RouteEdit::SetBendRadius { run, bend, radius: nook_geometry::units::BendRadius::new(60.0).ok() };
    assert!(kinds(&workup(&with(&job, Edit::Route(tight)), run).unwrap()).contains(&FindingKind::TightBend));
}

#[test]
fn a_straight_too_short_for_its_seat_is_told() {
    // A step aside of two right angles.
    let bends = |aside: f64| {
        let a = port([0.0; 3], [1.0, 0.0, 0.0], OD);
        let b = port([600.0, aside, 0.0], [-1.0, 0.0, 0.0], OD);
        let (job, run) = job_with(draft(a, b));
        let lead = |mm: f64| nook_geometry::units::Lead::new(mm).unwrap();
        let course = Centreline::Vertices { lead_a: lead(300.0), between: Vec::new(), lead_b: lead(300.0) };
        let job = with(&job, Edit::Route(RouteEdit::TakeWay { run, way: Route::along(course) }));
        with_elbow((job, run), 0)
    };
    let short = |(job, run): (Job, RunId)| {
        let told = workup(&job, run).unwrap();
        let of_elbow = PartRef::Joint { run, joint: told.joints[0].joint };
        let seat = |one: &nook_core::findings::Finding| one.kind == FindingKind::ShortSeat && one.part == of_elbow;
        (told.straights[1].length.mm(), told.findings.iter().any(seat))
    };
    let mut seen = [false; 2];
    for aside in [210.0, 220.0, 230.0, 240.0, 250.0, 300.0] {
        let (straight, told) = short(bends(aside));
        // Past the seat, the seat, and 6 to the bead.
        assert_eq!(told, straight < PAST + SEAT + 6.0, "{straight}");
        seen[usize::from(told)] = true;
    }
    assert_eq!(seen, [true; 2], "both outcomes were built");
}

#[test]
fn it_goes_with_its_bend_and_is_one_of_a_kind() {
    let (job, run) = with_elbow(turning(90.0), 0);
    let bend = bend_at(&job, run, 0);
    let again = with(&job, Edit::Join(JoinEdit::AddElbow { run, bend }));
    assert_eq!(again.run(run).unwrap().route.joints().len(), 3);
    let elbow = again.run(run).unwrap().route.joint_at_bend(bend).unwrap().id;
    // What does not turn cannot stand there, and it stands nowhere else.
    let kind = JointChange::Kind { kind: JointKind::Coupler };
    let change = |joint, to| Edit::Join(JoinEdit::ChangeJoint { run, joint, to });
    assert!(apply(&job, &change(elbow, kind)).is_err());
    let end = job.run(run).unwrap().route.joints().iter().find(|joint| joint.end().is_some()).unwrap().id;
    assert!(apply(&job, &change(end, JointChange::Kind { kind: JointKind::Elbow })).is_err());
    for edit in [
        Edit::Join(JoinEdit::RemoveJoint { run, joint: elbow }),
        CutEdit::SetMake { run, bend, make: None }.into(),
        Edit::Route(RouteEdit::TakeWay { run, way: Route::along(Centreline::OneBend) }),
    ] {
        let after = with(&job, edit);
        let told = workup(&after, run).unwrap();
        assert!(told.joints.is_empty() && told.bends[0].pies.is_some());
    }
}

#[test]
fn what_holds_the_pipe_stands_clear_of_both_of_its_seats() {
    let (job, run) = with_elbow(turning(90.0), 0);
    let straights = workup(&job, run).unwrap().straights;
    // Beside the end of the first straight and beside the start of the second sits the hose.
    let places = [(0, straights[0].length.mm() - 30.0), (1, 30.0)];
    for at in places {
        let (clamped, _) = held(&job, run, at, SupportKind::Clamps, Side::Body);
        let seams = found(&clamped, run, FindingKind::SupportOnSeam);
        assert_eq!(seams.len(), 1, "{at:?}");
        assert_eq!(seams[0].severity, Severity::Error);
        mended(&clamped, run, &seams[0]);
    }
    for (leg, mm) in places {
        let away = if leg == 0 { mm - 80.0 } else { mm + 80.0 };
        let (clamped, _) = held(&job, run, (leg, away), SupportKind::Clamps, Side::Body);
        assert_eq!(found(&clamped, run, FindingKind::SupportOnSeam), [], "{leg}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    /// Whatever the bend, the tubes end on its two axes where the elbow's legs have their seats, and nothing of the pipe is
    /// lost: tube and gaps are the whole of it.
    #[test]
    fn tube_and_hose_together_are_the_pipe(x in 250.0..600.0_f64, y in -400.0..400.0_f64, z in 200.0..500.0_f64, bend in 0..2_usize) {
        let (job, run) = job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], OD), port([x, y, z], [0.0, 0.1, -1.0], OD)));
        let plain = workup(&job, run).unwrap();
        prop_assume!(plain.bends.len() == 2 && plain.totals.is_some());
        let (job, run) = with_elbow((job, run), bend);
        let told = workup(&job, run).unwrap();
        let pipe = assembly(&job, run);
        let elbow = &pipe.between()[0];
        let totals = told.totals.as_ref().unwrap();
        let gaps: f64 = pipe.joints.iter().map(|joint| joint.needs.gap).sum();
        prop_assert!((totals.developed.mm() + gaps - totals.mouth_to_mouth.mm()).abs() < 1e-6);
        let arc = pipe.whole.legs()[bend].bend;
        prop_assert!((elbow.needs.gap - arc.length() - 2.0 * PAST).abs() < 1e-9);
        // By the whole path itself.
        for (side, station) in elbow.gap().into_iter().enumerate() {
            let at = pipe.whole.between([0.0, station]).unwrap().arrival().at;
            prop_assert!((at - elbow.sides[side].0).norm() < 1e-6);
        }
        let mirrored = Target::Angle { bend: bend_at(&job, run, bend), angle: BendAngle::new(90.0).unwrap() };
        if let Ok(applied) = apply(&job, &RouteEdit::shaped(run, mirrored).into()) {
            prop_assert_eq!(applied.job.run(run).unwrap().route.joints().len(), 3, "reshaping keeps it");
        }
    }
}
