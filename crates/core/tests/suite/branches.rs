//! What is let into a tube: where it sits, the seam it is welded along, how it moves, and what goes on from it; against figures
//! worked out here from the definitions.

#![allow(clippy::unwrap_used, clippy::panic, clippy::float_cmp, reason = "a test fails by panicking")]

use crate::support::branched::{arch, change_branch as change, let_in, one};
use crate::support::by_place::kind;
use crate::support::held::{OD, block, found, on, straight, told, with};
use crate::support::{draft, port, tube};
use nalgebra::Vector3;
use nook_core::assembly::Assembly;
use nook_core::cut::{Saddle, SaddlePoint};
use nook_core::edit::BranchChange;
use nook_core::findings::{FindingKind, Severity};
use nook_core::join::{BranchKind, JointKind};
use nook_core::measure::{End, EndForm, MountKind, Side};
use nook_core::route::{Centreline, Route};
use nook_core::stock::Duty;
use nook_core::survey::Survey;
use nook_core::{Edit, Job, JobEdit, JoinEdit, RouteEdit, SpecEdit, apply};
use nook_geometry::units::{BranchAngle, BranchOffset, BranchReach, OutsideDiameter};
use proptest::prelude::*;

type V3 = Vector3<f64>;

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// The seam lies on both outsides: each place of the coped end, put where the branch sits, is on the tube's skin, and the
    /// hole unrolled from there is the same place.
    #[test]
    fn the_coped_end_fits_the_hole_it_is_let_into(
        main in 20.0..120.0_f64, share in 0.1..0.9_f64, off in -0.9..0.9_f64, angle in 25.0..155.0_f64,
    ) {
        let branch = main * share;
        let offset = off * (main - branch) / 2.0;
        let angle = angle.to_radians();
        let saddle = Saddle::new(branch, main, angle, offset).unwrap();
        let (radius, skin) = (branch / 2.0, main / 2.0);
        // The tube along x, the branch leaning up and forward, its left y.
        let (out, left) = (V3::new(angle.cos(), 0.0, angle.sin()), V3::y());
        let forward = left.cross(&out);
        let axis = |t: f64| V3::new(0.0, offset, 0.0) + out * t;
        let pierced = axis(saddle.pierced());
        prop_assert!((pierced.yz().norm() - skin).abs() < 1e-9);
        let outline = saddle.outline(36);
        let meets = |point: &SaddlePoint| {
            let turn = point.round / skin;
            V3::new(pierced.x + point.along, skin * turn.sin(), skin * turn.cos())
        };
        let along = |at: V3| (at - V3::new(0.0, offset, 0.0)).dot(&out);
        let shortest = outline.iter().find(|point| point.height == 0.0).unwrap();
        for point in &outline {
            let phi = point.girth / radius;
            let rim = forward * (radius * phi.cos()) + left * (radius * phi.sin());
            // From the branch's axis it is one radius, at that turn.
            let at = meets(point);
            let off_axis = at - V3::new(0.0, offset, 0.0) - out * along(at);
            prop_assert!((off_axis - rim).norm() < 1e-9, "{point:?}");
            // How much is left of the end is how far further out it meets the tube than the shortest place.
            prop_assert!((along(at) - along(meets(shortest)) - point.height).abs() < 1e-9, "{point:?}");
        }
        let [[from, to], _] = saddle.extent();
        prop_assert!(outline.iter().all(|point| (from - 1e-9..=to + 1e-9).contains(&point.along)));
    }
}

#[test]
fn a_branch_as_wide_as_its_tube_does_not_sit() {
    assert!(Saddle::new(38.1, 38.1, 1.5, 0.0).is_err() && Saddle::new(20.0, 38.1, 1.5, 9.1).is_err());
    let (job, run) = straight([Side::Body, Side::Body]);
    let (job, id) = let_in(&job, run, (0, 400.0), BranchKind::Bleed);
    assert_eq!(found(&job, run, FindingKind::BranchDoesNotSit), []);
    let wide = with(&job, &[change(run, id, BranchChange::Od { od: OutsideDiameter::new(38.1).ok() })]);
    assert_eq!(found(&wide, run, FindingKind::BranchDoesNotSit)[0].severity, Severity::Error);
    assert!(!one(&wide, run).sits);
}

#[test]
fn it_stands_where_it_is_said_to() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let (job, id) = let_in(&job, run, (0, 400.0), BranchKind::TemperatureSensor);
    let begin = told(&job, run).ends[0].gap.mm();
    // Clock 90 for who travels forward, right-handed about travel, is to the right.
    let here = one(&job, run);
    let near = |p: [f64; 3], q: [f64; 3]| (V3::from(p) - V3::from(q)).norm() < 1e-9;
    assert!(near(here.pierces, [begin + 400.0, -OD / 2.0, 0.0]) && near(here.out, [0.0, -1.0, 0.0]), "{here:?}");
    assert!((here.round.mm() - OD / 2.0 * std::f64::consts::FRAC_PI_2).abs() < 1e-9);
    // Leaning back, and beside the middle: to the left with the branch upwards, which is up here.
    let lean = BranchChange::Angle { angle: BranchAngle::new(135.0).ok() };
    let aside = BranchChange::Offset { offset: BranchOffset::new(5.0).ok() };
    let leaning = with(&job, &[change(run, id, lean), change(run, id, aside)]);
    let there = one(&leaning, run);
    let over = ((OD / 2.0_f64).powi(2) - 25.0).sqrt();
    assert!(near(there.pierces, [begin + 400.0, -over, 5.0]), "{:?}", there.pierces);
    let half = std::f64::consts::FRAC_1_SQRT_2;
    assert!(near(there.out, [-half, -half, 0.0]));
    // The image has it on the other side.
    let way = leaning.run(run).unwrap().route.mirrored();
    let image = way.branch(id).unwrap();
    assert_eq!((image.clock(), image.offset(), image.angle()), (-90.0, -5.0, 135.0));
    // Out of the job when somebody takes it out.
    let gone = with(&leaning, &[Edit::Join(JoinEdit::RemoveBranch { run, branch: id })]);
    assert!(told(&gone, run).branches.is_empty());
    assert!(apply(&gone, &Edit::Join(JoinEdit::RemoveBranch { run, branch: id })).is_err());
}

/// A long stub on a section that floats goes further than its tube: held against poses the linkage settles in.
#[test]
fn what_stands_far_out_of_a_floating_section_is_followed() {
    let (job, run) = straight([Side::Engine, Side::Body]);
    let job = with(
        &on(&job, MountKind::Soft),
        &[kind(&job, run, End::A, JointKind::Hump), kind(&job, run, End::B, JointKind::Hump)],
    );
    let (job, id) = let_in(&job, run, (0, 400.0), BranchKind::Breather);
    let long = BranchChange::Reach { reach: BranchReach::new(280.0).ok() };
    let job = with(&job, &[change(run, id, long)]);
    let tip = V3::from(one(&job, run).pierces) + V3::z() * 280.0;
    for (x, y) in [(60.0, 0.0), (-60.0, 0.0), (0.0, 60.0), (0.0, -60.0)] {
        let (centre, half) = (tip + V3::new(x, y, 0.0), V3::new(20.0, 20.0, 30.0));
        let job = with(&job, &[block(centre.into(), (half * 2.0).into(), Side::Body)]);
        let gaps = told(&job, run).air.unwrap().trace.into_iter().filter_map(|part| Some(part.gap?.mm()));
        let said = gaps.fold(f64::INFINITY, f64::min);
        let settled = Survey::new(&job).settle(job.run(run).unwrap());
        let pipe = Assembly::build(&settled).unwrap().unwrap();
        let (branch, moves) = (pipe.branches[0].clone(), pipe.moves(&settled));
        let mut least = f64::INFINITY;
        for used in moves.uses(&pipe) {
            for turn in 0..24 {
                let (sin, cos) = (f64::from(turn) * std::f64::consts::PI / 12.0).sin_cos();
                let rim = branch.tip() + V3::new(cos, sin, 0.0) * (branch.od / 2.0);
                let over = ((used.sections[0] * rim).coords - centre).abs() - half;
                least = least.min(over.sup(&V3::zeros()).norm());
            }
        }
        assert!(said <= least + 0.05, "{said} told, {least} where it settles");
        assert!(60.0 - 20.0 - branch.od / 2.0 - said > 0.5, "it moves: {said}");
    }
}

/// Another pipe begins where a stub ends, and goes on from it.
#[test]
fn a_stub_is_a_mouth_for_another_pipe() {
    let (job, run) = straight([Side::Engine, Side::Engine]);
    let (job, id) = let_in(&job, run, (0, 400.0), BranchKind::Breather);
    let (job, _) = let_in(&job, run, (0, 600.0), BranchKind::PressureSensor);
    let stubs = nook_core::workup::bay(&job).stubs;
    assert_eq!(stubs.len(), 1, "a bung is none");
    let (mouth, here) = (&stubs[0], one(&job, run));
    assert_eq!((mouth.run, mouth.branch, mouth.port.rides), (run, id, Side::Engine));
    let tip = V3::from(here.pierces) + V3::from(here.out) * here.reach.mm();
    assert!((V3::from(mouth.port.at.to_array()) - tip).norm() < 1e-9);
    assert!((mouth.port.out.vector() - V3::from(here.out)).norm() < 1e-9 && mouth.port.od.get() == here.od.mm());

    // A pipe on from there stands on it, however the one it is let into moves; a mouth beside it stands on nothing.
    let rolls = on(&job, MountKind::Soft);
    let fouls = |job: &Job, by: f64, rides: Side| {
        let mut b = port([tip.x + by, tip.y, tip.z + 500.0], [0.0, 0.0, -1.0], 19.05);
        (b.form, b.rides) = (EndForm::Beaded, Side::Body);
        let mut a = mouth.port.clone();
        a.at = nook_geometry::Point::new(tip.x + by, tip.y, tip.z).unwrap();
        a.rides = rides;
        let mut next = draft(a, b);
        (next.tube, next.duty) = (tube(19.05, 1.5), Duty::Coolant);
        let applied = apply(job, &Edit::Job(JobEdit::AddRun { run: next })).unwrap();
        let next = applied.job.runs().last().unwrap().id;
        let way = RouteEdit::TakeWay { run: next, way: Route::along(Centreline::Straight) };
        let job = apply(&applied.job, &Edit::Route(way)).map_or(applied.job, |applied| applied.job);
        let all = told(&job, next).findings.into_iter();
        all.filter(|one| matches!(one.kind, FindingKind::Fouls | FindingKind::TooNear)).count()
    };
    assert_eq!(fouls(&rolls, 0.0, Side::Engine), 0);
    assert_eq!(fouls(&rolls, 0.0, Side::Body), 0, "it goes with the stub, whatever the form says");
    assert!(fouls(&rolls, 8.0, Side::Body) > 0);
}

#[test]
fn it_goes_into_the_pipe_where_it_does_what_it_is_for() {
    let (job, run) = straight([Side::Body, Side::Body]);
    for (kind, duty, right) in [
        (BranchKind::TemperatureSensor, Duty::ChargeHot, false),
        (BranchKind::TemperatureSensor, Duty::ChargeCold, true),
        (BranchKind::Recirculation, Duty::ChargeCold, false),
        (BranchKind::Recirculation, Duty::Intake, true),
        (BranchKind::BlowOff, Duty::Intake, false),
        (BranchKind::BlowOff, Duty::ChargeHot, true),
        (BranchKind::Bleed, Duty::Oil, false),
        (BranchKind::Drain, Duty::Oil, true),
    ] {
        let (job, _) = let_in(&job, run, (0, 400.0), kind);
        let job = with(&job, &[Edit::Spec(SpecEdit::SetDuty { run, duty })]);
        assert_eq!(found(&job, run, FindingKind::BranchElsewhere).is_empty(), right, "{kind:?} {duty:?}");
    }
}

#[test]
fn the_rack_shows_its_hole_and_lists_it_to_buy() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let (job, _) = let_in(&job, run, (0, 300.0), BranchKind::Bleed);
    let (job, _) = let_in(&job, run, (0, 500.0), BranchKind::Bleed);
    let all = told(&job, run);
    let rack = nook_core::rack::rack(
        &job,
        &nook_core::workup::bay(&job),
        std::slice::from_ref(&all),
        &nook_core::rates::Rates::default(),
    );
    let holes = &rack.runs[0].rod.as_ref().unwrap().holes;
    let middles: Vec<f64> = holes.iter().map(|[from, to]| f64::midpoint(*from, *to)).collect();
    assert!((middles[0] - 300.0).abs() < 1e-9 && (middles[1] - 500.0).abs() < 1e-9, "{middles:?}");
    let line = rack.vehicle.buy.iter().find(|line| line.what.mm == "14.0 mm bleed bung").unwrap();
    assert_eq!(line.count, Some(2));
}

/// Its image on the mirrored pipe sits in the mirrored place.
#[test]
fn a_mirrored_pipe_has_what_is_let_in_mirrored() {
    let (job, run) = arch(400.0, 260.0);
    let (job, id) = let_in(&job, run, (1, 150.0), BranchKind::TemperatureSensor);
    let lean = BranchChange::Angle { angle: BranchAngle::new(60.0).ok() };
    let aside = BranchChange::Offset { offset: BranchOffset::new(4.0).ok() };
    let job = with(&job, &[change(run, id, lean), change(run, id, aside)]);
    let settled = Survey::new(&job).settle(job.run(run).unwrap());
    // The arch lies in the vehicle's middle plane: its ports are their own images.
    let ways = [settled.route.clone(), settled.route.mirrored()];
    let [here, there] = ways.map(|way| Assembly::along(&settled, &way).unwrap().branches[0].clone());
    let mirrored = |v: V3| V3::new(v.x, -v.y, v.z);
    assert!((mirrored(here.at.coords) - there.at.coords).norm() < 1e-9, "{} {}", here.at, there.at);
    assert!((mirrored(here.out) - there.out).norm() < 1e-9 && here.out.y.abs() > 0.1);
    assert_eq!(here.hole(), there.hole());
}
